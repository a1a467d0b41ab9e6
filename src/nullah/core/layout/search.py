"""A sound constructive search: blanks placed one by one into rectangles that full cuts free.

Every placing frees its rectangle by cuts that go right across the piece in hand, so whatever comes out is a tree of full
cuts by construction. Several orders of placing are tried; the best by parts placed, sequence kept, stock left whole.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from nullah.core.document.project import BoardLayout, Defect
from nullah.core.layout.cell import Cell, as_cell, as_node, carve, trimmed, walk, within
from nullah.core.layout.model import EPS, Blank, Layout, Options, Stock, blocks, leaves, overlaps
from nullah.core.values.frozen import replace
from nullah.core.values.measure import marked


def search(
    stock: Sequence[Stock], blanks: Sequence[Blank], options: Options, begun: Sequence[BoardLayout] = ()
) -> tuple[Layout, ...]:
    """Layouts of the blanks on the boards, best first; one for each kind of cut that may come first, where they differ.

    Args:
        stock: the boards; blanks: the parts in the rough, any order; options: kerfs and preference (``first`` decides which
            of two equally good layouts leads).
        begun: boards with parts that stay where they are.

    Returns:
        One or two layouts; empty boards are left out. What finds no place is named with why.
    """
    stock = [_with_edges(s) for s in stock]
    found = []
    for first in (options.first, "rip" if options.first == "crosscut" else "crosscut"):
        tried = [_construct(stock, order, replace(options, first=first), begun) for order in _orders(blanks)]
        found.append(min(tried, key=lambda one: _badness(one, stock)))
    if found[0].boards == found[1].boards:
        return (found[0],)
    return tuple(sorted(found, key=lambda one: _badness(one, stock)[:2]))


def _with_edges(s: Stock) -> Stock:
    """The board with what lies past its edges as faults that nothing forgives."""
    if not s.edges:
        return s
    past = (
        Defect(id=f"edge {i}", kind="fault", x=a, y=b, length=c - a, width=d - b)
        for i, (a, b, c, d) in enumerate(s.edges)
    )
    return replace(s, defects=(*s.defects, *past))


def _orders(blanks: Sequence[Blank]) -> list[list[list[Blank]]]:
    """Orders to place in: each a list of groups (blanks in sequence) and single blanks."""
    groups: dict[str, list[Blank]] = {}
    for i, b in enumerate(blanks):
        groups.setdefault(b.group if b.in_order else f"#{i}", []).append(b)
    units = list(groups.values())

    def area(unit: list[Blank]) -> float:
        return sum(b.length * b.width for b in unit)

    def longest(unit: list[Blank]) -> float:
        return sum(b.length for b in unit)

    def widest(unit: list[Blank]) -> float:
        return max(b.width for b in unit)

    return [
        sorted(units, key=area, reverse=True),
        sorted(units, key=longest, reverse=True),
        sorted(units, key=lambda u: (-widest(u), -longest(u))),
        sorted(units, key=lambda u: (-u[0].thickness, -area(u))),
    ]


def _badness(layout: Layout, stock: Sequence[Stock]) -> tuple[float, ...]:
    """Parts without place, groups split, boards touched; then less of the longest offcut is worse."""
    offcuts = [n.length * n.width for b in layout.boards for n in leaves(b.root) if n.use == "offcut"]
    return (len(layout.unplaced), len(layout.split_groups), len(layout.boards), -max(offcuts, default=0.0))


def _construct(
    stock: Sequence[Stock], order: Sequence[Sequence[Blank]], options: Options, begun: Sequence[BoardLayout]
) -> Layout:
    stock = [s for s in stock if s.id not in options.kept or any(b.board == s.id for b in begun)]
    roots = {s.id: trimmed(s, options) for s in stock}
    roots |= {b.board: as_cell(b.root) for b in begun if b.board in roots}
    for s in stock:
        for cell in roots[s.id].free():
            cell.use = "free" if within(cell, s) else "waste"
    unplaced: list[tuple[str, str]] = []
    split: list[str] = []
    for unit in order:
        if len(unit) > 1:
            if options.keep_groups and _place_sequence(stock, roots, unit, options):
                continue
            split.append(unit[0].group)
        for blank in unit:
            if not _place_one(stock, roots, blank, options):
                unplaced.append((blank.id, why_not(stock, blank)))
    boards = tuple(
        BoardLayout(board=s.id, root=as_node(roots[s.id], options))
        for s in stock
        if any(c.use == "part" for c in walk(roots[s.id]))
    )
    name = f"{options.first} first"
    return Layout(name, boards, tuple(unplaced), tuple(split))


def _starts(low: float, kerf: float, ends: Iterable[float]) -> list[float]:
    """Places where a rectangle may begin: at the cell's own edge, or past a fault with room for the kerf before it."""
    return sorted({low, *(max(e, low + kerf) for e in ends if e > low + EPS)})


def _spots(cell: Cell, s: Stock, blank: Blank, options: Options) -> Iterator[tuple[float, float]]:
    """Lower-left corners where the blank lies in the cell clear of what spoils it, leftmost first."""
    if blank.length > cell.length + EPS or blank.width > cell.width + EPS:
        return
    near = [d for d in s.defects if overlaps(cell.x, cell.y, cell.length, cell.width, d.x, d.y, d.length, d.width)]
    ends = [d.x + d.length for d in near] + [d.x + d.length - blank.end_zone for d in near]
    for x in _starts(cell.x, options.crosscut_kerf, ends):
        if x + blank.length > cell.x + cell.length + EPS:
            continue
        for y in _starts(cell.y, options.rip_kerf, (d.y + d.width for d in near)):
            if y + blank.width > cell.y + cell.width + EPS:
                continue
            if any(blocks(d, blank, x, y, blank.length, blank.width) for d in near):
                continue
            yield x, y


def _place_one(stock: Sequence[Stock], roots: dict[str, Cell], blank: Blank, options: Options) -> bool:
    best: tuple[float, ...] | None = None
    chosen: tuple[Cell, float, float] | None = None
    for s in stock:
        if s.species != blank.species:
            continue
        for cell in roots[s.id].free():
            for x, y in _spots(cell, s, blank, options):
                if s.thickness_in(x, y, blank.length, blank.width) < blank.thickness - 0.05:
                    continue
                opened = 0.0 if any(c.use == "part" for c in walk(roots[s.id])) else 1.0
                spare = min(cell.length - blank.length, cell.width - blank.width)
                score = (opened, s.thickness - blank.thickness, spare, x - cell.x)
                if best is None or score < best:
                    best, chosen = score, (cell, x, y)
                break  # the leftmost spot of a cell serves
    if chosen is None:
        return False
    cell, x, y = chosen
    carve(cell, x, y, blank.length, blank.width, options).use = "part"
    _last_part(cell, x, y).part = blank.id
    return True


def _last_part(cell: Cell, x: float, y: float) -> Cell:
    return next(c for c in walk(cell) if c.use == "part" and abs(c.x - x) < EPS and abs(c.y - y) < EPS)


def _place_sequence(stock: Sequence[Stock], roots: dict[str, Cell], unit: Sequence[Blank], options: Options) -> bool:
    """Place a group in order along one strip of one board, skipping faults between its members."""
    wide = max(b.width for b in unit)
    best: tuple[float, ...] | None = None
    chosen: tuple[Cell, float, list[float]] | None = None
    for s in stock:
        if s.species != unit[0].species:
            continue
        for cell in roots[s.id].free():
            for y in _starts(cell.y, options.rip_kerf, (d.y + d.width for d in s.defects)):
                if y + wide > cell.y + cell.width + EPS:
                    continue
                xs = _sequence(cell, s, unit, y, wide, options)
                if xs is None:
                    continue
                score = (s.thickness - unit[0].thickness, xs[-1] + unit[-1].length - xs[0], cell.length)
                if best is None or score < best:
                    best, chosen = score, (cell, y, xs)
    if chosen is None:
        return False
    cell, y, xs = chosen
    strip = carve(cell, xs[0], y, xs[-1] + unit[-1].length - xs[0], wide, options)
    for blank, x in zip(unit, xs, strict=True):
        if x > strip.x + EPS:
            _, strip = strip.cut("across", x - options.crosscut_kerf, options.crosscut_kerf)
        if strip.x + strip.length > x + blank.length + EPS:
            mine, strip = strip.cut("across", x + blank.length, options.crosscut_kerf)
        else:
            mine = strip
        mine.use, mine.part = "part", blank.id
    return True


def _sequence(
    cell: Cell, s: Stock, unit: Sequence[Blank], y: float, wide: float, options: Options
) -> list[float] | None:
    """Where each member begins along the strip at y, or None when they do not all fit."""
    xs: list[float] = []
    at = cell.x
    for blank in unit:
        tall = replace(blank, width=wide)
        begin = at
        strip = Cell(begin, y, cell.x + cell.length - begin, wide)
        for x, _ in _spots(strip, s, tall, options):
            if s.thickness_in(x, y, blank.length, wide) >= blank.thickness - 0.05:
                if xs and EPS < x - begin < options.crosscut_kerf:
                    x = begin + options.crosscut_kerf
                xs.append(x)
                break
        else:
            return None
        at = xs[-1] + blank.length + options.crosscut_kerf
    return xs


def why_not(stock: Sequence[Stock], blank: Blank) -> str:
    """In one clause, why a blank has no place."""
    same = [s for s in stock if s.species == blank.species]
    if not same:
        return f"no board of {blank.species}"
    thick = [s for s in same if s.thickness >= blank.thickness]
    if not thick:
        most = max(s.thickness for s in same)
        return f"needs {marked(blank.thickness)} thick; the thickest {blank.species} is {marked(most)}"
    if all(s.x1 - s.x0 < blank.length for s in thick):
        return f"needs {marked(blank.length)} of length; the longest thick enough has {marked(max(s.x1 - s.x0 for s in thick))}"
    if all(s.y1 - s.y0 < blank.width for s in thick):
        return f"needs {marked(blank.width)} of width; the widest thick enough has {marked(max(s.y1 - s.y0 for s in thick))}"
    size = f"{marked(blank.length)} x {marked(blank.width)}"
    return f"no clear {size} is left round the faults, at {marked(blank.thickness)} thick when planed"
