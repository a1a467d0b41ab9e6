"""Boards and blanks as the arrays the compiled search works on, and its records read back as trees of full cuts."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from nullah.core.document.project import BoardLayout
from nullah.core.layout.cell import Cell, as_cell, as_node, carve, trimmed, walk, within
from nullah.core.layout.clear import Box, clear_for, union_area
from nullah.core.layout.merit import efforts, long_share
from nullah.core.layout.model import EPS, Blank, Options, Stock, forgiven
from nullah.core.values.frozen import frozen, replace

Class = tuple[
    frozenset[str], float, frozenset[str]
]  # forgiven, zone at the ends where no knot is, forgiven on one face

BLOCK, CUT, WASTE = -1, -2, -3  # kinds of record that are no part
SUMS, COLUMNS = 10, 16  # a record: kind, x, y, length, width, the piece's four sides, order; then its six sums


class Case(NamedTuple):
    """What does not change while searching; arrays as the compiled loop reads them. B boards, T kinds of part, G classes.

    ``opens``: free pieces of each board at the start (x0, y0, x1, y1), those of board b from ``open_start[b]`` on;
    likewise ``faults`` by board, ``clears`` and ``knots`` (forgiven but at the ends) by board and class b * G + g.
    ``spoils`` by board: whatever some part may have to keep clear of. ``sizes`` T x 3: length, width, area of the parts in it.
    ``allow`` B x T: 0 not on this board, 1 where it begins within ``limits``, 2 anywhere. ``whole``: worth of a board left whole.
    """

    boards: int
    kerfs: NDArray[np.float64]
    keep: float
    mean_area: float
    crumb: float
    size: NDArray[np.float64]
    capacity: NDArray[np.float64]
    whole: NDArray[np.float64]
    effort: NDArray[np.float64]
    opens: NDArray[np.float64]
    open_start: NDArray[np.int64]
    faults: NDArray[np.float64]
    fault_start: NDArray[np.int64]
    clears: NDArray[np.float64]
    clear_start: NDArray[np.int64]
    knots: NDArray[np.float64]
    knot_start: NDArray[np.int64]
    zones: NDArray[np.float64]
    sizes: NDArray[np.float64]
    kind_class: NDArray[np.int64]
    allow: NDArray[np.int8]
    limits: NDArray[np.float64]
    spoils: NDArray[np.float64]
    spoil_start: NDArray[np.int64]


@frozen
class Kind:
    """Blanks that are alike to the search: each entry of ``blanks`` is one to lay, of one blank or of several in a row."""

    length: float
    width: float
    thickness: float
    species: str
    of_class: Class
    boards: frozenset[str]
    blanks: tuple[tuple[Blank, ...], ...]

    @property
    def area(self) -> float:
        """Area of the parts in one entry, mm2."""
        return sum(b.length * b.width for b in self.blanks[0])


@frozen
class Encoded:
    """A case, what its kinds stand for, and the trees it starts from by board."""

    case: Case
    kinds: tuple[Kind, ...]
    counts: NDArray[np.int64]
    stock: tuple[Stock, ...]
    options: Options
    begun: Mapping[str, BoardLayout]

    @property
    def demand(self) -> float:
        """Area of all that is to be laid, mm2."""
        return float((self.counts * self.case.sizes[:, 2]).sum())


def kinds_of(blanks: Sequence[Blank], options: Options) -> tuple[Kind, ...]:
    """Blanks gathered by what the search can tell apart, largest first; groups in order become one each."""
    rows: dict[str, list[Blank]] = {}
    for i, b in enumerate(blanks):
        rows.setdefault(b.group if b.in_order and options.keep_groups else f"#{i}", []).append(b)
    alike: dict[tuple[Any, ...], list[tuple[Blank, ...]]] = {}
    for row in rows.values():
        length = sum(b.length for b in row) + options.crosscut_kerf * (len(row) - 1)
        strict = frozenset.intersection(*(b.forgives for b in row))
        hides = frozenset.intersection(*(b.hides for b in row))
        zone = max(b.end_zone for b in row)
        of_class = (strict, zone, hides) if len(row) == 1 else (strict - KNOTS, 0.0, hides - KNOTS)
        thick = max(b.thickness for b in row)
        boards = row[0].boards
        key = (length, max(b.width for b in row), thick, row[0].species, of_class, boards, len(row))
        alike.setdefault(key, []).append(tuple(row))
    found = [Kind(key[0], key[1], key[2], key[3], key[4], key[5], tuple(rows)) for key, rows in alike.items()]
    return tuple(sorted(found, key=lambda k: (-k.area, k.length)))


KNOTS = frozenset({"sound knot", "loose knot", "knot"})


def encode(
    stock: Sequence[Stock], blanks: Sequence[Blank], options: Options, begun: Sequence[BoardLayout] = ()
) -> Encoded:
    """The arrays of a search.

    Args:
        begun: boards with parts that stay where they are; only the free pieces of their trees are laid out.
    """
    kinds = kinds_of(blanks, options)
    classes = sorted({k.of_class for k in kinds}, key=lambda c: (sorted(c[0]), c[1], sorted(c[2])))
    classes = classes or [(frozenset(), 0.0, frozenset())]
    trees = {b.board: b for b in begun}
    used = tuple(s for s in stock if s.id not in options.kept or s.id in trees)
    opens = [_open(s, trees.get(s.id), options) for s in used]
    faults = [
        [*(_box(d) for d in s.defects if not any(forgiven(d, c[0], c[2]) for c in classes)), *s.edges] for s in used
    ]
    clears = [_clears(s, c) for s in used for c in classes]
    knots = [
        [_box(d) for d in s.defects if c[1] > 0 and d.kind in KNOTS and forgiven(d, c[0], c[2])]
        for s in used
        for c in classes
    ]
    sizes = _floats([[k.length, k.width, k.area] for k in kinds], 3)
    counts = np.array([len(k.blanks) for k in kinds], dtype=np.int64)
    areas = _floats([sum((b[2] - b[0]) * (b[3] - b[1]) for b in boxes) for boxes in opens])
    allow, limits = _allowed(used, kinds, options.thin)
    demand = float((counts * sizes[:, 2]).sum())
    longest = [max((b[2] - b[0] for b in boxes), default=0.0) for boxes in opens]
    worth = areas * _floats([long_share(x) for x in longest])
    case = Case(
        len(used),
        _floats([options.crosscut_kerf, options.rip_kerf]),
        float(options.keep_offcut),
        demand / max(1, int(counts.sum())),
        demand * 2e-6,
        _floats([[s.x1 - s.x0, s.y1 - s.y0] for s in used], 2),
        _floats([_clear_area(boxes, f) for boxes, f in zip(opens, faults, strict=True)]),
        worth + options.opening * areas,
        _floats([efforts(s, options) for s in used], 2),
        *_rows(opens),
        *_rows(faults),
        *_rows(clears),
        *_rows(knots),
        _floats([c[1] for c in classes]),
        sizes,
        np.array([classes.index(k.of_class) for k in kinds], dtype=np.int64),
        allow,
        limits,
        *_rows([[*(_box(d) for d in s.defects), *s.edges] for s in used]),
    )
    return Encoded(case, kinds, counts, used, options, trees)


def alone(case: Case, board: int, prices: NDArray[np.float64]) -> Case:
    """The same case with one of its boards only; a part of each kind counts for so much as its ``prices`` say (mm2)."""
    classes = case.zones.size
    by_board = ("size", "capacity", "whole", "effort", "allow", "limits")
    mine: dict[str, Any] = {name: getattr(case, name)[board : board + 1] for name in by_board}
    for one, lists in (("open", 1), ("fault", 1), ("spoil", 1), ("clear", classes), ("knot", classes)):
        ends = getattr(case, f"{one}_start")[board * lists : (board + 1) * lists + 1]
        mine |= {f"{one}s": getattr(case, f"{one}s")[ends[0] : ends[-1]], f"{one}_start": ends - ends[0]}
    return case._replace(boards=1, sizes=np.column_stack((case.sizes[:, :2], prices)), **mine)


def no_records(case: Case, rows: int, counts: NDArray[np.int64]) -> tuple[Any, ...]:
    """Records of boards with nothing on them: rows by board, how many are in use, figures by board, and what is left to lay."""
    figures = np.zeros((case.boards, 6))
    figures[:, 1] = case.capacity
    return np.zeros((case.boards, rows, COLUMNS)), np.zeros(case.boards, np.int64), figures, counts.copy()


def _floats(values: Sequence[Any], columns: int = 0) -> NDArray[np.float64]:
    """An array of one kind of number, whatever it is made from, so that the loop is compiled once for all."""
    made = np.array(values, dtype=np.float64)
    return made.reshape(-1, columns) if columns else made


def _box(d: Any) -> Box:
    return (d.x, d.y, d.x + d.length, d.y + d.width)


def _rows(lists: Sequence[Sequence[Box]]) -> tuple[NDArray[np.float64], NDArray[np.int64]]:
    """Boxes one after the other, and where those of each list begin."""
    start = np.cumsum([0, *(len(one) for one in lists)]).astype(np.int64)
    return np.array([b for one in lists for b in one], dtype=np.float64).reshape(-1, 4), start


def _clears(s: Stock, of_class: Class) -> list[Box]:
    """Clear rectangles for a class: with every fault it does not forgive, and again with knots it forgives kept clear of."""
    inside = (s.x0, s.y0, s.x1, s.y1)
    forgives, zone, hides = of_class
    found = clear_for(inside, s, forgives, hides)
    if zone > 0 and any(d.kind in KNOTS and forgiven(d, forgives, hides) for d in s.defects):
        found += clear_for(inside, s, forgives - KNOTS, hides - KNOTS)
    return found


def _clear_area(boxes: Sequence[Box], faults: Sequence[Box]) -> float:
    """The most of the free pieces that can be covered: their area less that of the faults in them, mm2."""
    area = 0.0
    for a, b, c, d in boxes:
        within = [(max(a, f[0]), max(b, f[1]), min(c, f[2]), min(d, f[3])) for f in faults]
        area += (c - a) * (d - b) - union_area([w for w in within if w[0] < w[2] and w[1] < w[3]])
    return area


def _allowed(
    stock: Sequence[Stock], kinds: Sequence[Kind], thin: float
) -> tuple[NDArray[np.int8], NDArray[np.float64]]:
    """On which boards each kind may lie, and where along them it may begin for its thickness.

    The thickest flat board inside a rectangle is concave in where it lies, so that what holds at the ends of a stretch
    holds between them.
    """
    allow = np.zeros((len(stock), len(kinds)), dtype=np.int8)
    limits = np.zeros((len(stock), len(kinds), 2))
    for b, s in enumerate(stock):
        flat = s.thickness_in(s.x0, s.y0, max(s.x1 - s.x0, 1.0), max(s.y1 - s.y0, 1.0))
        for t, k in enumerate(kinds):
            least = k.thickness - thin
            if (
                s.species != k.species
                or (k.boards and s.id not in k.boards)
                or k.length > s.x1 - s.x0 + EPS
                or k.width > s.y1 - s.y0 + EPS
                or s.thickness < least
            ):
                continue
            if flat >= least:
                allow[b, t] = 2
                continue
            low, high = _reach(s, k, least)
            limits[b, t] = low, high
            if high >= low:
                allow[b, t] = 2 if low <= s.x0 + EPS and high >= s.x1 - k.length - EPS else 1
    return allow, limits


def _reach(s: Stock, k: Kind, least: float) -> tuple[float, float]:
    """From where to where a kind may begin along a board and be thick enough at any height; (1, 0) where nowhere."""
    ends = (s.x0, s.x1 - k.length)
    ys = {s.y0, s.y1 - k.width}

    def enough(x: float) -> bool:
        return all(s.thickness_in(x, y, k.length, k.width) >= least for y in ys)

    good = [enough(x) for x in ends]
    if all(good):
        return ends
    inside = next(
        (x for x in (sum(ends) / 2, *(ends[0] + (ends[1] - ends[0]) * q for q in (0.25, 0.75))) if enough(x)), None
    )
    if inside is None and not any(good):
        return (1.0, 0.0)
    reach = []
    for end, fine in zip(ends, good, strict=True):
        low, high = end, inside if inside is not None else ends[1 - ends.index(end)]
        if fine:
            reach.append(end)
            continue
        for _ in range(6):  # to a sixtieth of the stretch, on the safe side
            middle = (low + high) / 2
            low, high = (low, middle) if enough(middle) else (middle, high)
        reach.append(high)
    return (reach[0], reach[1])


def _open(s: Stock, begun: BoardLayout | None, options: Options) -> list[Box]:
    """Free pieces of a board: all that is left when trimmed, or what a begun tree leaves free."""
    root = trimmed(s, options) if begun is None else as_cell(begun.root)
    return [_sides(c) for c in root.free() if c.length > EPS and c.width > EPS and within(c, s)]


def _sides(c: Cell) -> Box:
    return (c.x, c.y, c.x + c.length, c.y + c.width)


def _near(box: Sequence[float]) -> tuple[int, ...]:
    return tuple(round(v * 1000) for v in box)


class Hands:
    """Deals the blanks of each kind out, one after the other, as records name their kinds."""

    def __init__(self, kinds: Sequence[Kind]) -> None:
        self.waiting = [list(k.blanks) for k in kinds]

    def next(self, kind: int) -> tuple[Blank, ...]:
        return self.waiting[kind].pop(0)

    @property
    def left(self) -> Iterator[tuple[Blank, ...]]:
        for row in self.waiting:
            yield from row


def decode(
    encoded: Encoded, records: NDArray[np.float64], rows: NDArray[np.int64]
) -> tuple[tuple[BoardLayout, ...], list[Blank]]:
    """The trees that records stand for, of boards that have a part, and the blanks without a place."""
    hands = Hands(encoded.kinds)
    boards = []
    for b, s in enumerate(encoded.stock):
        begun = encoded.begun.get(s.id)
        root = trimmed(s, encoded.options) if begun is None else as_cell(begun.root)
        _replay(root, records[b, : rows[b]], hands, encoded.options)
        if any(c.use == "part" for c in walk(root)):
            boards.append(BoardLayout(board=s.id, root=as_node(root, encoded.options)))
    return tuple(boards), [b for row in hands.left for b in row]


def _replay(root: Cell, record: NDArray[np.float64], hands: Hands, options: Options) -> None:
    """Make the cuts a record tells of."""
    free = {_near(_sides(c)): c for c in root.free()}
    for row in record:
        kind, x, y, length, width, order = int(row[0]), row[1], row[2], row[3], row[4], int(row[9])
        if kind == WASTE:
            continue
        cell = free.pop(_near(row[5:9]))
        if kind == CUT:
            cell.cut(
                "across" if order == 0 else "along", float(x), options.crosscut_kerf if order == 0 else options.rip_kerf
            )
        else:
            first = replace(options, first="crosscut" if order == 0 else "rip")
            spot = carve(cell, float(x), float(y), float(length), float(width), first)
            if kind != BLOCK:
                _row(spot, hands.next(kind), options)
        free |= {_near(_sides(c)): c for c in cell.free()}


def _row(cell: Cell, blanks: Sequence[Blank], options: Options) -> None:
    """Give a rectangle to a blank, or to several in order along it."""
    for i, blank in enumerate(blanks):
        mine = cell
        if i < len(blanks) - 1:
            mine, cell = cell.cut("across", cell.x + blank.length, options.crosscut_kerf)
        mine.use, mine.part = "part", blank.id
