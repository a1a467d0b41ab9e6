"""How the staves of a panel lie side by side: the best order and the best way up of each, searched, and said why.

Two schools: one turns the rings about from neighbour to neighbour, so that their cups cancel; the other keeps them alike and holds the
single curve down. Both put mates from one board together, for their colour, and what mars a face below (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise, permutations

from nullah.core.document.calls import Call, Option, some, taken
from nullah.core.document.names import call_of
from nullah.core.document.project import Board, Choice, Defect, Node
from nullah.core.layout.model import overlaps
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import AsMade, wood_of
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.rough import FLAT
from nullah.core.stations.timber_calls import MARRED
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked
from nullah.core.wood.warp import end_changes

FEW = 5  # staves whose every order is tried; of more the order they are sawn in is kept
# what counts how much: neighbours whose rings lie against the school, a mark that lies up, neighbours from two boards
AGAINST, MARK, STRANGERS = 8.0, 3.0, 2.0


@frozen
class Stave:
    """A stave as it is laid on its board: whether its heart side is the board's face, whether its rings lie flat, and what mars it on
    the face and on the back."""

    name: str
    board: str
    heart_on_face: bool
    flat: bool
    marks: tuple[str, ...] = ()
    marks_behind: tuple[str, ...] = ()


@frozen
class Arranged:
    """Staves in the order they are glued in, each with whether its board's face lies up."""

    staves: tuple[tuple[Stave, bool], ...]
    cost: float

    @property
    def said(self) -> str:
        """The order and the side that lies up, in words."""
        flat = any(s.flat for s, _ in self.staves)
        sides = [
            f"{s.name} {'heart' if s.heart_on_face == up else 'bark'} side up" if flat else s.name
            for s, up in self.staves
        ]
        back = [s.name for s, up in self.staves if not up]
        turn = f" (turn {' and '.join(back)} back side up)" if back else ""
        return f"{', '.join(sides)}{turn}"

    @property
    def why(self) -> tuple[str, ...]:
        """What the arrangement does: what lies below, and mates side by side."""
        below = [k for s, up in self.staves for k in (s.marks_behind if up else s.marks)]
        shown = [k for s, up in self.staves for k in (s.marks if up else s.marks_behind)]
        mates = sum(a[0].board == b[0].board for a, b in pairwise(self.staves))
        out = []
        if below:
            out.append(f"{some(below)} below")
        if shown:
            out.append(f"{some(shown)} up all the same")
        if mates:
            out.append(f"{mates} pair{'s' if mates > 1 else ''} of neighbours from one board, alike in colour")
        return tuple(out)


@frozen
class ArrangedResult:
    """Words for each panel's gluing up by the part's id, and the calls."""

    words: dict[str, str]
    calls: tuple[Call, ...]


def best(staves: Sequence[Stave], reverse: bool) -> Arranged:
    """The arrangement of least cost, every order of few staves and every way up tried.

    Args:
        reverse: whether the rings of neighbours are turned about, or kept alike.
    """
    orders = permutations(staves) if len(staves) <= FEW else [tuple(staves)]
    found: Arranged | None = None
    for order in orders:
        between = sum(STRANGERS for a, b in pairwise(order) if a.board != b.board)
        if found is not None and between >= found.cost:
            continue
        one = _turned_best(order, reverse, between)
        if found is None or one.cost < found.cost - 1e-9:
            found = one
    assert found is not None
    return found


def _turned_best(order: tuple[Stave, ...], reverse: bool, cost: float) -> Arranged:
    """The best ways up of staves in an order: from left to right, the best for either way up of the last (dynamic programming)."""

    def alone(s: Stave, up: bool) -> float:
        return MARK * len(s.marks if up else s.marks_behind)

    def against(a: Stave, a_up: bool, b: Stave, b_up: bool) -> float:
        if not (a.flat and b.flat):
            return 0.0
        same = (a.heart_on_face == a_up) == (b.heart_on_face == b_up)
        return AGAINST if same is reverse else 0.0

    def as_liked(way: tuple[float, tuple[bool, ...]]) -> tuple[float, bool, list[bool]]:
        """The least cost; of those alike the one that begins with a bark side up, then the one that lies as on the boards."""
        return round(way[0], 6), order[0].flat and order[0].heart_on_face == way[1][0], [not up for up in way[1]]

    ways: dict[bool, tuple[float, tuple[bool, ...]]] = {up: (alone(order[0], up), (up,)) for up in (True, False)}
    for before, s in pairwise(order):
        ways = {
            up: min(
                ((c + alone(s, up) + against(before, was[-1], s, up), (*was, up)) for c, was in ways.values()),
                key=as_liked,
            )
            for up in (True, False)
        }
    least, ups = min(ways.values(), key=as_liked)
    return Arranged(tuple(zip(order, ups, strict=True)), cost + least)


def work(
    boards: tuple[Board, ...],
    choices: tuple[Choice, ...],
    piece: PieceResult,
    breakdown: BreakdownResult,
    as_made: AsMade,
) -> ArrangedResult:
    """The station: each panel of staves that all have a place and are not leaves of one piece."""
    by_id = {b.id: b for b in boards}
    words: dict[str, str] = {}
    calls: list[Call] = []
    for part in piece.parts:
        mine = breakdown.rough.of(part.id)
        if part.id not in breakdown.rough.staves or len(mine) < 2 or any(b in breakdown.rough.leaves for b in mine):
            continue
        places = [breakdown.place(b) for b in mine]
        laid = [(p[0], p[1]) for p in places if p is not None and p[0] in by_id]
        if len(laid) < len(mine):
            words[part.id] = "lay the rings of neighbours opposite ways where they lie flat."
            continue
        staves = [_stave(name, by_id[board], leaf) for name, (board, leaf) in zip(mine, laid, strict=True)]
        if not any(s.flat for s in staves):
            found = best(staves, True)
            plain = all(up for _, up in found.staves) and [s for s, _ in found.staves] == staves
            words[part.id] = (
                "the rings stand: any face may lie up, choose the figure."
                if plain
                else f"{found.said}; the rings stand, choose the figure."
            )
            continue
        call = _call(part, staves, [by_id[b] for b, _ in laid], as_made, choices)
        if not part.cut:
            calls.append(call)
        reverse = call.in_force == "reverse"
        why = "so that cups cancel" if reverse else "in one curve, to be held down"
        words[part.id] = f"{best(staves, reverse).said}, {why}."
    return ArrangedResult(words, tuple(calls))


def _stave(name: str, board: Board, leaf: Node) -> Stave:
    def marks(side: str) -> tuple[str, ...]:
        return tuple(d.kind for d in board.defects if d.face == side and _mars(d, leaf))

    return Stave(name, board.id, board.heart_side == "face", board.ring_angle < FLAT, marks("face"), marks("back"))


def _mars(d: Defect, leaf: Node) -> bool:
    """Whether a fault mars a face of what is sawn from a rectangle of its board."""
    box = (leaf.x, leaf.y, leaf.length, leaf.width)
    return d.kind in MARRED and d.depth == 0 and overlaps(*box, d.x, d.y, d.length, d.width)


def _call(part: Part, staves: list[Stave], boards: list[Board], as_made: AsMade, choices: tuple[Choice, ...]) -> Call:
    wide = part.width / len(staves)
    cups = [_cup(b, wide, part, as_made) for b in boards if b.ring_angle < FLAT]
    most = max(cups)
    whole = sum(cups) / len(staves) * len(staves) ** 2  # a curve of the same bend over the whole width
    ways = {name: best(staves, name == "reverse") for name in ("reverse", "alike")}
    options = (
        Option(
            "reverse",
            "turn the rings about from neighbour to neighbour",
            (ways["reverse"].said, f"each may cup {marked(most)}, the panel stays level", *ways["reverse"].why),
        ),
        Option(
            "alike",
            "keep the rings alike",
            (ways["alike"].said, f"one curve of {marked(whole)} over the width, to be held down", *ways["alike"].why),
        ),
    )
    call_id = call_of("arcs", part.id, part.piece)
    asked = "; ".join(f"{s.name} of {s.board}, {'flat' if s.flat else 'standing'}" for s in staves)
    return Call(
        call_id,
        "together",
        f"{part.name} is glued up of {len(staves)} staves. How do their rings lie?",
        options,
        "reverse",
        "what cups one way is next to what cups the other",
        asked,
        differ="Some keep them alike: a single curve is easier to hold down than a washboard.",
        parts=(part.id,),
        taken=taken(call_id, options, asked, choices),
        piece=part.piece,
    )


def _cup(board: Board, wide: float, part: Part, as_made: AsMade) -> float:
    """How far one stave of a panel may cup from how it is made to the driest or the wettest of the year, mm."""
    size = (part.length, wide, part.thickness)
    year = as_made.wood
    now = next((s.moisture for s in year.strips(part.id, part.species)), year.dry)
    return max(abs(end_changes(wood_of(board), size, now, end)[1]) for end in (year.dry, year.wet))
