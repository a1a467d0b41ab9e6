"""Readings of a board from CSV: a header, then a line each; lengths in mm, x from the left end, y from the lower edge.

The columns are kind, at, across, value, stick, to, in any order; those a kind does not use stay empty.
"""

from __future__ import annotations

import csv
import math
from pathlib import Path

from nullah.core.surface.gaussian_process import ERRORS, Taken
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

COLUMNS = ("kind", "at", "across", "value", "stick", "to")
LARGEST = 1024 * 1024  # bytes
MOST = 200  # readings
_USED = {  # by kind: the columns that must be filled, and those that may be
    "winding sticks": (("at",), ("stick", "to")),
    "cup": (("at",), ()),
    "bow": (("across",), ("at", "to")),
    "corner": (("to",), ()),
    "thickness": (("at", "across"), ()),
}


def read(path: Path, length: float, width: float) -> tuple[Taken, ...]:
    """The readings, in the order of the file; none of an empty file or a header alone.

    Args:
        length, width: of the board, mm.

    Raises:
        FileTrouble: it cannot be read, a line does not serve or lies off the board; one sentence that names the line, the header
            being 1.
    """
    try:
        text = read_bounded(path, LARGEST).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FileTrouble(f"{path.name} is not text.") from None
    rows = csv.reader(text.splitlines(), strict=True)
    out: list[Taken] = []
    header: list[str] | None = None
    try:
        for cells in rows:
            if not any(cell.strip() for cell in cells):
                continue
            if header is None:
                header = _header(cells)
                continue
            if len(cells) != len(header):
                raise ValueError(f"it has {len(cells)} cells, where the header has {len(header)}")
            if len(out) == MOST:
                raise ValueError(f"there are more than {MOST} readings")
            out.append(_reading({n: c.strip() for n, c in zip(header, cells, strict=True)}, length, width))
    except csv.Error:
        raise FileTrouble(f"{path.name}, line {max(rows.line_num, 1)}: its quotes do not match.") from None
    except ValueError as error:
        raise FileTrouble(f"{path.name}, line {rows.line_num}: {error}.") from None
    return tuple(out)


def _header(cells: list[str]) -> list[str]:
    names = [cell.strip().lower() for cell in cells]
    if len(set(names)) < len(names) or not {"kind", "value"} <= set(names) <= set(COLUMNS):
        raise ValueError(f"the header is {','.join(COLUMNS)}")
    return names


def _reading(cells: dict[str, str], length: float, width: float) -> Taken:
    kind = cells["kind"].lower()
    if kind not in ERRORS:
        raise ValueError(f'"{kind[:30]}" is no kind of reading: there are {", ".join(ERRORS)}')
    needed, may = _USED[kind]
    figures: dict[str, float] = {}
    for name in ("value", *needed, *may):
        text = cells.get(name, "")
        if text:
            figures[name] = _figure(name, text)
        elif name not in may:
            raise ValueError(f"{kind} has no {name}")
    _on_the_board(kind, figures, length, width)
    return Taken(kind, **figures)


def _figure(name: str, text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or "_" in text:
        raise ValueError(f'{name} is not a number: "{text[:30]}"')
    return value


_NEAR = 1e-6  # mm: a place so far off an edge lies on it


def _on_the_board(kind: str, figures: dict[str, float], length: float, width: float) -> None:
    """Refuse what lies off the board or says nothing; places are moved onto an edge they all but lie on."""
    limits = {"at": length, "across": width, "to": 2.0 if kind == "corner" else length}
    for name, most in limits.items():
        if name in figures:
            if not -_NEAR <= figures[name] <= most + _NEAR:
                raise ValueError(f"{name} {figures[name]:g} lies off the board" if kind != "corner" else _CORNERS)
            figures[name] = min(max(figures[name], 0.0), most)
    refused: tuple[tuple[bool, str], ...] = (
        (kind == "corner" and figures["to"] not in (1.0, 2.0), _CORNERS),
        (abs(figures["value"]) > 500, "a reading is no more than 500 mm"),
        (kind == "thickness" and figures["value"] <= 0, "a thickness is more than zero"),
        ("stick" in figures and not 0 < figures["stick"] <= 5000, "a stick is between 0 and 5000 mm long"),
        (kind == "winding sticks" and figures["at"] == figures.get("to", 0.0), "the sticks lie at one place"),
        (
            kind == "bow" and figures.get("to", length) <= figures.get("at", 0.0),
            "a bow is read from at to a place beyond it",
        ),
    )
    for wrong, words in refused:
        if wrong:
            raise ValueError(words)


_CORNERS = "of a corner reading to is 1, from the lower left, or 2, from the upper left"
