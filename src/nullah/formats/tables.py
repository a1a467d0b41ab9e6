"""Boards, parts and faults as CSV tables, read into what the planner takes.

Header names in any order and case, columns beyond those known are passed over. Lengths are in mm unless written with a
unit. Whatever is wrong is told in one sentence with file, line and reason, and nothing is taken.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from nullah.core.document.project import DEFECT_KINDS, Defect
from nullah.core.layout.model import Blank, Stock
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import BadLength, parse_length
from nullah.core.values.plain_text import one_line
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

LARGEST = 4 * 2**20  # bytes of a table
MOST_BOARDS, MOST_PARTS, MOST_FAULTS = 2_000, 10_000, 20_000
LONGEST = 20_000.0  # mm
OTHER_FAULT = "fault"  # a kind that is not known by name is cut round by whoever forgives no fault
SPELT = {"knot": "loose knot", "runout": "run-out", "tear": "split"}


@frozen
class Orders:
    """Boards and blanks; ``copies`` tells of each blank's id which part and which copy it is."""

    stock: tuple[Stock, ...]
    blanks: tuple[Blank, ...]
    copies: dict[str, tuple[str, int]]


def read(boards: Path, parts: Path, defects: Path | None = None, allowance: float = 0.0) -> Orders:
    """The tables as boards and blanks; ``allowance`` mm is left on each part's length and width.

    Raises:
        FileTrouble: a table cannot be read, or a line of it does not serve.
    """
    rows = list(_rows(boards, ("id", "species", "length", "width", "thickness", "qty"), ("qty",)))
    stock = _boards(rows, boards.name)
    wanted = list(_rows(parts, ("id", "qty", "length", "width", "thickness", "species", "defects"), ("qty", "defects")))
    blanks, copies = _parts(wanted, parts.name, allowance)
    if defects is not None:
        found = list(_rows(defects, ("board", "kind", "face", "x", "y", "length", "width"), ("face",)))
        stock = _with_faults(stock, found, defects.name)
    return Orders(stock, blanks, copies)


@frozen
class Row:
    """One line of a table, with its number in the file."""

    file: str
    line: int
    cells: dict[str, str]

    def refuse(self, why: str) -> FileTrouble:
        """The trouble with this line."""
        return FileTrouble(f"{self.file}, line {self.line}: {why}")

    def word(self, name: str) -> str:
        """A cell that must hold something."""
        text = one_line(self.cells.get(name, "")).strip()
        if not text:
            raise self.refuse(f"{name} is empty.")
        if len(text) > 80:
            raise self.refuse(f"{name} is longer than 80 letters.")
        return text

    def length(self, name: str, least: float = 0.1) -> float:
        """A length of at least ``least`` mm."""
        text = self.word(name)
        try:
            mm = parse_length(text, "mm")
        except BadLength as error:
            raise self.refuse(f"{name}: {error}") from None
        if not least <= mm <= LONGEST:
            raise self.refuse(f'{name} is "{text[:30]}"; it must lie between {least:g} and {LONGEST:g} mm.')
        return mm

    def count(self, name: str) -> int:
        """A whole number of one or more; 1 where the cell is empty."""
        text = self.cells.get(name, "").strip() or "1"
        if not re.fullmatch(r"[0-9]{1,5}", text) or int(text) < 1:
            raise self.refuse(f'{name} is "{text[:30]}"; it must be a whole number of 1 or more.')
        return int(text)


def _rows(path: Path, known: Sequence[str], optional: Sequence[str]) -> Iterator[Row]:
    """The lines of a table by their header."""
    text = _text(path)
    lines = csv.reader(io.StringIO(text, newline=""), strict=True)
    header: list[str] | None = None
    try:
        for cells in lines:
            if not any(c.strip() for c in cells):
                continue
            if header is None:
                header = [c.strip().lower() for c in cells]
                missing = [n for n in known if n not in header and n not in optional]
                if missing:
                    raise FileTrouble(f"{path.name}, line {lines.line_num}: the header lacks {', '.join(missing)}.")
                twice = next((n for n in known if header.count(n) > 1), "")
                if twice:
                    raise FileTrouble(f"{path.name}, line {lines.line_num}: the header names {twice} twice.")
                continue
            if len(cells) > len(header):
                raise FileTrouble(
                    f"{path.name}, line {lines.line_num}: {len(cells)} cells under a header of {len(header)}."
                )
            yield Row(path.name, lines.line_num, dict(zip(header, cells, strict=False)))
    except csv.Error as error:
        raise FileTrouble(f"{path.name}, line {lines.line_num}: this is no CSV ({error}).") from None
    if header is None:
        raise FileTrouble(f"{path.name}, line 1: the table is empty; its header is {','.join(known)}.")


def _text(path: Path) -> str:
    data = read_bounded(path, LARGEST)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise FileTrouble(f"{path.name}, line {line}: this is not UTF-8 text.") from None


def _flat(thickness: float) -> Callable[[float, float, float, float], float]:
    return lambda x, y, length, width: thickness


def _boards(rows: Sequence[Row], name: str) -> tuple[Stock, ...]:
    out: list[Stock] = []
    seen: set[str] = set()
    for row in rows:
        board, many = row.word("id"), row.count("qty")
        names = [board] if many == 1 else [f"{board}#{i + 1}" for i in range(many)]
        for one in names:
            if one in seen:
                raise row.refuse(f"the board {one} is there twice.")
            seen.add(one)
        length, width, thick = row.length("length"), row.length("width"), row.length("thickness")
        species = row.word("species")
        if len(out) + many > MOST_BOARDS:
            raise row.refuse(f"these are more than {MOST_BOARDS} boards.")
        out += [Stock(n, n, species, length, width, 0.0, length, 0.0, width, thick, (), _flat(thick)) for n in names]
    if not out:
        raise FileTrouble(f"{name}, line 2: there is no board in the table.")
    return tuple(out)


def _parts(rows: Sequence[Row], name: str, allowance: float) -> tuple[tuple[Blank, ...], dict[str, tuple[str, int]]]:
    out: list[Blank] = []
    copies: dict[str, tuple[str, int]] = {}
    seen: set[str] = set()
    for row in rows:
        part, many = row.word("id"), row.count("qty")
        if part in seen:
            raise row.refuse(f"the part {part} is there twice; write its qty instead.")
        seen.add(part)
        length, width, thick = row.length("length"), row.length("width"), row.length("thickness")
        bears = row.cells.get("defects", "").strip().lower() or "none"
        if bears not in ("none", "any"):
            raise row.refuse(f'defects is "{bears[:30]}"; it must be none or any.')
        forgives = frozenset(DEFECT_KINDS) if bears == "any" else frozenset[str]()
        species = row.word("species")
        if len(out) + many > MOST_PARTS:
            raise row.refuse(f"these are more than {MOST_PARTS} parts.")
        for copy in range(1, many + 1):
            key = f"{part}\u2003{copy}"
            copies[key] = (part, copy)
            size = (length + allowance, width + allowance)
            out.append(Blank(key, *size, thick, species, (length, width), forgives))
    if not out:
        raise FileTrouble(f"{name}, line 2: there is no part in the table.")
    return tuple(out), copies


def _with_faults(stock: Sequence[Stock], rows: Sequence[Row], name: str) -> tuple[Stock, ...]:
    by_id: dict[str, list[Any]] = {s.id: [] for s in stock}
    size = {s.id: (s.length, s.width) for s in stock}
    if len(rows) > MOST_FAULTS:
        raise rows[-1].refuse(f"these are more than {MOST_FAULTS} faults.")
    for row in rows:
        board = row.word("board")
        mine = [i for i in by_id if i == board or i.partition("#")[0] == board]
        if not mine:
            raise row.refuse(f"there is no board {board}.")
        face = (row.cells.get("face", "") or "both").strip().lower() or "both"
        if face not in ("both", "a", "b"):
            raise row.refuse(f'face is "{face[:20]}"; it must be both, A or B.')
        x, y = row.length("x", 0.0), row.length("y", 0.0)
        length, width = row.length("length"), row.length("width")
        for one in mine:
            if x >= size[one][0] or y >= size[one][1]:
                raise row.refuse(f"the fault lies off board {one}, which is {size[one][0]:g} x {size[one][1]:g}.")
        kind = row.word("kind").lower()
        kind = SPELT.get(kind, kind)
        if kind not in DEFECT_KINDS:
            kind = OTHER_FAULT
        on = {"both": "both", "a": "face", "b": "back"}[face]
        try:
            fault = Defect(id=f"{row.line}", kind=kind, x=x, y=y, length=length, width=width, face=on)
        except ValidationError as error:  # pragma: no cover - the checks above leave nothing to refuse
            raise row.refuse(str(error.errors()[0]["msg"])) from None
        for one in mine:
            by_id[one].append(fault)
    return tuple(_replaced(s, tuple(by_id[s.id])) for s in stock)


def _replaced(s: Stock, faults: tuple[Defect, ...]) -> Stock:
    return replace(s, defects=faults)
