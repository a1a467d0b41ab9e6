"""Readings of a board from CSV: a header, then a line each; lengths in mm, x from the left end, y from the lower edge.

The columns are kind, at, across, value, stick, to, in any order; those a kind does not use stay empty.
"""

from __future__ import annotations

import csv
import math
from pathlib import Path

from nullah.core.surface.reading_kinds import READING_KINDS, Taken, onto_the_board, wrong
from nullah.core.values.frozen import replace
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

COLUMNS = ("kind", "at", "across", "value", "stick", "to")
LARGEST = 1024 * 1024  # bytes
MOST = 200  # readings


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
    sight = READING_KINDS.get(kind)
    if sight is None or not sight.surface:
        kinds = ", ".join(name for name, one in READING_KINDS.items() if one.surface)
        raise ValueError(f'"{kind[:30]}" is no kind of reading: there are {kinds}')
    figures: dict[str, float] = {}
    for name in ("value", *sight.used):
        text = cells.get(name, "")
        if text:
            figures[name] = _figure(name, text)
        elif name not in sight.may:
            raise ValueError(f"{kind} has no {name}")
    if not 0 < figures.get("stick", 1.0) <= 5000:
        raise ValueError("a stick is between 0 and 5000 mm long")
    found = replace(Taken(kind), **figures)
    trouble = wrong(found, length, width)
    if trouble:
        raise ValueError(trouble)
    return onto_the_board(found, length, width)


def _figure(name: str, text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or "_" in text:
        raise ValueError(f'{name} is not a number: "{text[:30]}"')
    return value
