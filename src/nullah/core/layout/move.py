"""A part moved by hand from where it is laid to another place: its old place is free again, its new one cut free."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from types import MappingProxyType

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.cell import Cell, as_cell, as_node, carve, sound, trimmed
from nullah.core.layout.check import problems
from nullah.core.layout.clear import clear_for
from nullah.core.layout.model import EPS, Blank, Options, Stock, leaves
from nullah.core.layout.progress import Progress, cut_name
from nullah.core.values.measure import marked

SNAP = 12.0  # mm: a place nearer than this to an edge of the free piece is meant to lie at it
REACH = 60.0  # mm: a place no further than this from clear wood is meant to lie in it


class NoPlace(ValueError):
    """A part cannot lie there; the message is one sentence that says why."""


def moved(
    boards: Sequence[BoardLayout],
    blank: Blank,
    board: str,
    place: tuple[float, float],
    stock: Sequence[Stock],
    options: Options,
    others: Mapping[str, Blank],
    sawn: Mapping[str, Progress] = MappingProxyType({}),
) -> tuple[BoardLayout, ...]:
    """The layout with a part's lower-left corner at ``place`` (mm, the board's axes), as near as the saw and wood allow.

    Dropped on another part, the two change places where each fits. What was free and adjoins becomes one piece again.

    Args:
        blank: the part in the rough. others: all parts that may be changed about, by id. sawn: how far boards are sawn: what is
            parted stays so.

    Raises:
        NoPlace: the board is of another species, there is no room there, or what lies there does not serve.
    """
    by_id = {s.id: s for s in stock}
    target = by_id.get(board)
    if target is None:
        raise NoPlace("There is no board there.")
    if target.species != blank.species:
        raise NoPlace(f"{blank.id} is to be {blank.species}; {target.name} is {target.species}.")
    if target.id in options.kept and not any(b.board == board for b in boards):
        raise NoPlace(f"{target.name} is kept whole; let it be sawn first.")
    source = next((b.board for b in boards for n in leaves(b.root) if n.part == blank.id), board)
    roots = {b.board: as_cell(b.root) for b in boards if b.board in (source, board)}
    roots.setdefault(board, trimmed(target, options))
    for board_id, root in roots.items():
        made = sawn[board_id].made if board_id in sawn else frozenset[str]()
        _lift(root, blank.id, by_id.get(board_id), board_id, made)
    x, y = place
    middle = (x + blank.length / 2, y + blank.width / 2)
    spot = next((c for c in _ends(roots[board]) if _holds(c, middle)), None)
    if spot is not None and board in sawn and any(_same(spot, n) for n in sawn[board].free("offcut")):
        raise NoPlace("That piece is sawn off already; it stands among the boards.")
    if spot is None or spot.use == "waste":
        raise NoPlace(f"{blank.id} would lie on what is trimmed off {target.name}.")
    other = None
    if spot.use == "part":
        other = others.get(spot.part)
        if other is None:
            raise NoPlace(f"{spot.part} is cut already; it stays where it was sawn.")
        spot.use, spot.part = "free", ""
        _put(spot, blank, spot.x, spot.y, options)
        _put_back(roots, other, boards, blank.id, options)
    else:
        _put(spot, blank, *_clear_of_faults(spot, blank, x, y, target), options)
    touched_boards = {
        board_id: BoardLayout(board=board_id, root=as_node(root, options))
        for board_id, root in roots.items()
        if any(c.use == "part" for c in _ends(root))
    }
    touched = [blank] if other is None else [blank, other]
    wrong = problems(_only(tuple(touched_boards.values()), touched), stock, touched)
    if wrong:
        raise NoPlace(wrong[0])
    kept = [touched_boards.pop(b.board, None) if b.board in roots else b for b in boards]
    return (*(b for b in kept if b is not None), *touched_boards.values())


def _ends(cell: Cell) -> list[Cell]:
    return [c for child in cell.children for c in _ends(child)] if cell.use == "cut" else [cell]


def _holds(cell: Cell, at: tuple[float, float]) -> bool:
    return cell.x <= at[0] <= cell.x + cell.length and cell.y <= at[1] <= cell.y + cell.width


def _same(cell: Cell, node: Node) -> bool:
    return all(abs(getattr(cell, k) - getattr(node, k)) < EPS for k in ("x", "y", "length", "width"))


def _lift(cell: Cell, part: str, stock: Stock | None, board: str, made: frozenset[str]) -> None:
    """Free a part's place, and what is free on both sides of a cut that is then needless and not made yet."""
    for child in cell.children:
        _lift(child, part, stock, board, made)
    if cell.use == "part" and cell.part == part:
        cell.use, cell.part = "free", ""
    if (
        cell.use == "cut"
        and cut_name(board, cell) not in made
        and all(c.use == "free" or sound(c, stock) for c in cell.children)
    ):
        cell.use, cell.axis, cell.children = "free", "", []


def _clear_of_faults(spot: Cell, blank: Blank, x: float, y: float, s: Stock) -> tuple[float, float]:
    """The nearest place in the free piece where no fault spoils the part, if it is near; else the one asked for."""
    inside = (spot.x, spot.y, spot.x + spot.length, spot.y + spot.width)
    places = [
        (min(max(x, a), c - blank.length), min(max(y, b), d - blank.width))
        for a, b, c, d in clear_for(inside, s, blank.forgives, blank.hides)
        if c - a >= blank.length - EPS and d - b >= blank.width - EPS
    ]
    best = min(places, key=lambda p: (p[0] - x) ** 2 + (p[1] - y) ** 2, default=(x, y))
    return best if abs(best[0] - x) <= REACH and abs(best[1] - y) <= REACH else (x, y)


def _put(spot: Cell, blank: Blank, x: float, y: float, options: Options) -> None:
    """Cut a part free in a free piece, at its edge where that is near."""
    if blank.length > spot.length + EPS or blank.width > spot.width + EPS:
        raise NoPlace(
            f"{blank.id} needs {marked(blank.length)} x {marked(blank.width)}; "
            f"the piece there is {marked(spot.length)} x {marked(spot.width)}."
        )
    x = _at_edge(x, spot.x, spot.x + spot.length - blank.length, options.crosscut_kerf)
    y = _at_edge(y, spot.y, spot.y + spot.width - blank.width, options.rip_kerf)
    mine = carve(spot, x, y, blank.length, blank.width, options)
    mine.use, mine.part = "part", blank.id


def _at_edge(at: float, low: float, high: float, kerf: float) -> float:
    """A place held between two ends, and at either where it is nearer than the saw or the eye tells apart."""
    near = max(SNAP, kerf)
    if at - low < near:
        return low
    return high if high - at < near else round(at, 1)


def _put_back(
    roots: Mapping[str, Cell], other: Blank, boards: Sequence[BoardLayout], left: str, options: Options
) -> None:
    """Put a part that was displaced where the one that displaced it lay."""
    board, old = next((b.board, n) for b in boards for n in leaves(b.root) if n.part == left)
    middle = (old.x + old.length / 2, old.y + old.width / 2)
    home = next((c for c in _ends(roots[board]) if c.use == "free" and _holds(c, middle)), None)
    if home is None:
        raise NoPlace(f"{other.id} would have no place then.")
    _put(home, other, old.x, old.y, options)


def _only(boards: Sequence[BoardLayout], blanks: Sequence[Blank]) -> tuple[BoardLayout, ...]:
    """The layout with other parts turned to waste, so that only these are held to account."""
    names = {b.id for b in blanks}

    def strip(node: Node) -> Node:
        if node.use == "cut":
            return node.model_copy(update={"children": tuple(strip(c) for c in node.children)})
        return node if node.part in names else node.model_copy(update={"use": "waste", "part": ""})

    return tuple(BoardLayout(board=b.board, root=strip(b.root)) for b in boards)
