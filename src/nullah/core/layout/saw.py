"""The saw plan: every cut of a layout in order, in words one can saw by, and what the sawing comes to.

Each line is marked at the edge of what is wanted, the kerf in what is not. Each cut goes right across the piece in hand and is
measured on that piece, from its left end or its lower edge, so that one setting serves every piece that is cut alike.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from functools import cached_property

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.model import cuts, leaves
from nullah.core.layout.progress import cut_name
from nullah.core.layout.taper import Outline
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked

HARDNESS = {"soft": 1.0, "middling": 1.4, "hard": 1.9}  # sawing effort, softwood 1 (common practice)
# minutes a square metre of saw cut in soft wood, by hand with a sharp saw (common practice, no source): a rip has more wood to
# cut to a mm of depth but longer strokes; a crosscut severs fibres and is finished with care
RIP_MINUTES, CROSSCUT_MINUTES = 240.0, 300.0
LEAST_OVER = 0.5  # mm: a cut through less wood is none
ALIKE = 0.05  # mm: distances nearer than this are one setting


PLANED = 12.0  # mm: a strip narrower than this is planed off, not ripped: it breaks off in the saw (common practice, no source)
PLANE_MINUTES = 60.0  # a square metre of edge and mm of depth, in soft wood (common practice, no source)


@frozen
class SawBoard:
    """What the saw plan asks of a board: its thickness in mm, the effort of sawing it (soft wood 1), and where it is wood
    (None: all of every piece); ``planes``: whether strips that a plane takes off are planed."""

    thickness: float
    hardness: float = 1.0
    outline: Outline | None = None
    planes: bool = False

    def over(self, node: Node) -> float:
        """How much wood a cut goes through, mm: not where a tapering board is no more."""
        middle = node.at + node.kerf / 2
        if node.axis == "across":
            wide = node.width if self.outline is None else self.outline.wood_at(middle, node.y, node.width)
            return max(0.0, min(node.width, wide))
        if self.outline is None:
            return node.length
        return sum(b - a for a, b in self.outline.stretches(node.x, node.x + node.length, middle))


@frozen
class SawCut:
    """One cut: its place in the order, which of its board's it is (from 1), what to measure on the piece in hand, and what comes of it.

    The line lies ``at`` mm from ``edge`` of the piece in hand (whose rectangle on the board is ``node``'s), over ``over`` mm of
    wood; ``side``: on which side of the line the saw runs, ``beyond`` it as seen from the edge or before it; ``frees``: parts
    that are free then. ``kind``: crosscut, rip, or plane, where a strip is so narrow that it is planed off.
    """

    number: int
    board: str
    nth: int
    node: Node
    kind: str
    at: float
    edge: str
    over: float
    beyond: bool
    side: str
    frees: tuple[str, ...]
    hold: str
    words: str
    area: float
    minutes: float

    @cached_property
    def name(self) -> str:
        """What the cut is called, and its step in the bench book: it stays while other wood is laid out anew."""
        return cut_name(self.board, self.node)

    @property
    def line(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """The middle of the kerf from end to end, in the board's own axes, mm."""
        n, at = self.node, self.node.at + self.node.kerf / 2
        if n.axis == "across":
            return (at, n.y), (at, n.y + n.width)
        return (n.x, at), (n.x + n.length, at)

    @property
    def setting(self) -> tuple[str, float]:
        """Cuts of one setting are marked with one gauge or stop."""
        return (self.kind, round(self.at / ALIKE) * ALIKE)


@frozen
class SawRates:
    """Minutes as they were for each common minute, crosscuts and rips; and how many timed cuts say so."""

    across: float = 1.0
    along: float = 1.0
    timed: tuple[int, int] = (0, 0)

    def minutes(self, cuts: Iterable[SawCut]) -> float:
        """Minutes of cuts at these rates."""
        return sum(c.minutes * (self.along if c.kind == "rip" else self.across) for c in cuts)


def saw_plan(layouts: Iterable[BoardLayout], boards: Mapping[str, SawBoard]) -> tuple[SawCut, ...]:
    """The cuts in order, board by board; none where there is no wood to cut."""
    out: list[SawCut] = []
    for layout in layouts:
        board = boards[layout.board]
        for nth, node in enumerate(cuts(layout.root), 1):
            if board.over(node) > LEAST_OVER:
                out.append(_cut(len(out) + 1, nth, layout.board, board, node))
    return tuple(out)


def _cut(number: int, nth: int, board_id: str, board: SawBoard, node: Node) -> SawCut:
    low, high = node.children
    rip = node.axis == "along"
    spare = [s.use in ("waste", "offcut") for s in (low, high)]
    at, far = _from_either_edge(node, rip)
    edge, beyond = "lower edge" if rip else "left end", True
    if spare[0] and not spare[1]:
        # what is wanted lies beyond: the line is its edge, the saw runs before it; a part is measured from its own far side
        if high.use == "part" and far > 0:
            at, edge = far, "upper edge" if rip else "right end"
        else:
            at, beyond = at + node.kerf, False
    kind, over = "rip" if rip else "crosscut", board.over(node)
    frees = tuple(n.part for side in (low, high) if side.use == "part" for n in leaves(side))
    if rip and board.planes and (strip := _strip(low, high, node.kerf)):
        return _planed(number, nth, board_id, board, node, frees, over, strip, spare[0])
    area = over * board.thickness / 1e6
    minutes = area * (RIP_MINUTES if rip else CROSSCUT_MINUTES) * board.hardness
    if rip:
        hold = "the long side, near the line"
    else:
        hold = (
            "the far piece, so that it cannot tear off"
            if min(at, far) > 300
            else "the short piece at the end of the cut"
        )
    words = f"{kind} at {marked(at)} from the {edge}, over {marked(over)}"
    falls = _falls(low, high, rip)
    if frees:
        words += f": frees {' and '.join(frees)}"
    elif falls:
        words += f": {falls}"
    side = _side(low, high, edge, beyond)
    return SawCut(number, board_id, nth, node, kind, at, edge, over, beyond, side, frees, hold, words, area, minutes)


def _from_either_edge(node: Node, rip: bool) -> tuple[float, float]:
    """From the lower or left edge of the piece to the kerf, and from the upper or right one, mm."""
    if rip:
        return node.at - node.y, node.y + node.width - node.at - node.kerf
    return node.at - node.x, node.x + node.length - node.at - node.kerf


def _strip(low: Node, high: Node, kerf: float) -> float:
    """How much a plane takes off in place of a rip, mm; 0 where there is more to take off, or it is wanted."""
    strips = [s.width for s in (low, high) if s.use == "waste"]
    return strips[0] + kerf if len(strips) == 1 and strips[0] < PLANED else 0.0


def _planed(
    number: int,
    nth: int,
    board_id: str,
    board: SawBoard,
    node: Node,
    frees: tuple[str, ...],
    over: float,
    strip: float,
    lower: bool,
) -> SawCut:
    """A strip at an edge planed off down to the line that the piece is measured from afterwards."""
    edge = "lower edge" if lower else "upper edge"
    words = f"plane {marked(strip)} off the {edge}, straight and square, over {marked(over)}"
    if frees:
        words += f": frees {' and '.join(frees)}"
    minutes = over * board.thickness / 1e6 * strip * PLANE_MINUTES * board.hardness
    side = "down to the line, in the waste"
    hold = "the board on its edge in the vice"
    return SawCut(
        number, board_id, nth, node, "plane", strip, edge, over, False, side, frees, hold, words, 0.0, minutes
    )


def _falls(low: Node, high: Node, rip: bool) -> str:
    names = ("lower", "upper") if rip else ("left", "right")
    both = zip(names, (low, high), strict=True)
    spare = [(name, s) for name, s in both if s.use in ("waste", "offcut") and s.length > 0 and s.width > 0]
    return " and ".join(f"the {name} piece is {s.use}" for name, s in spare)


_OTHER_WAY = {"left end": ("left", "right"), "right end": ("right", "left")}
_OTHER_WAY |= {"lower edge": ("below", "above"), "upper edge": ("above", "below")}


def _side(low: Node, high: Node, edge: str, beyond: bool) -> str:
    """On which side of the line the kerf lies: near or far as measured from the edge, and which way that is on the board."""
    near, far = _OTHER_WAY[edge]
    way = far if beyond else near
    words = f"saw on the {'far' if beyond else 'near'} side of the line"
    words += f", {way} it" if way in ("above", "below") else f", to its {way}"
    if any(s.use in ("waste", "offcut") for s in (low, high)):
        both = all(s.use in ("waste", "offcut") for s in (low, high))
        return words if both else f"{words}, in the waste"
    alike = low.use == high.use == "part" and abs(low.length - high.length) < ALIKE
    if alike and abs(low.width - high.width) < ALIKE:
        return f"{words}; two equal pieces: or split the line, and each loses half a kerf"
    return f"{words}: both sides are wanted, the kerf is allowed for"


@frozen
class Totals:
    """What a saw plan comes to: cuts, metres and square metres across and along, minutes, and settings to mark."""

    cuts: int
    across_m: float
    along_m: float
    across: float
    along: float
    minutes: float
    settings: int


def totals(plan: Sequence[SawCut]) -> Totals:
    """The sums of a saw plan; edges that are planed count for nothing but their minutes."""
    minutes = sum(c.minutes for c in plan)
    plan = [c for c in plan if c.kind != "plane"]
    across = [c for c in plan if c.kind == "crosscut"]
    along = [c for c in plan if c.kind == "rip"]
    return Totals(
        len(plan),
        sum(c.over for c in across) / 1000,
        sum(c.over for c in along) / 1000,
        sum(c.area for c in across),
        sum(c.area for c in along),
        minutes,
        len({c.setting for c in plan}),
    )
