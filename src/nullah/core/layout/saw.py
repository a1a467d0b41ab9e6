"""The saw plan: every cut of a layout in order, in words one can saw by, and what the sawing comes to.

Each cut goes right across the piece in hand and is measured on that piece, from its left end or its lower edge, so that one
setting serves every piece that is cut alike.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from nullah.core.document import BoardLayout, Node
from nullah.core.layout.model import cuts, leaves
from nullah.core.measure import marked

HARDNESS = {"soft": 1.0, "middling": 1.4, "hard": 1.9}  # sawing effort, softwood 1 (common practice)
# minutes a square metre of saw cut in soft wood, by hand with a sharp saw (common practice, no source): a rip has more wood to
# cut to a mm of depth but longer strokes; a crosscut severs fibres and is finished with care
RIP_MINUTES, CROSSCUT_MINUTES = 240.0, 300.0
ALIKE = 0.05  # mm: distances nearer than this are one setting


@dataclass(frozen=True)
class SawBoard:
    """What the saw plan asks of a board: its thickness in mm, and the effort of sawing it (soft wood 1)."""

    thickness: float
    hardness: float = 1.0


@dataclass(frozen=True)
class SawCut:
    """One cut: its place in the order, which of its board's it is (from 1), what to measure on the piece in hand, and what comes of it.

    ``at`` mm from ``edge`` of the piece in hand (whose rectangle on the board is ``node``'s), over ``over`` mm; ``side``: on
    which side of the line the saw runs; ``frees``: parts that are free then.
    """

    number: int
    board: str
    nth: int
    node: Node
    kind: str
    at: float
    edge: str
    over: float
    side: str
    frees: tuple[str, ...]
    hold: str
    words: str
    area: float
    minutes: float

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


@dataclass(frozen=True)
class SawRates:
    """Minutes as they were for each common minute, crosscuts and rips; and how many timed cuts say so."""

    across: float = 1.0
    along: float = 1.0
    timed: tuple[int, int] = (0, 0)

    def minutes(self, cuts: Iterable[SawCut]) -> float:
        """Minutes of cuts at these rates."""
        return sum(c.minutes * (self.along if c.kind == "rip" else self.across) for c in cuts)


def saw_plan(layouts: Iterable[BoardLayout], boards: Mapping[str, SawBoard]) -> tuple[SawCut, ...]:
    """The cuts in order, board by board."""
    out: list[SawCut] = []
    for layout in layouts:
        board = boards[layout.board]
        for nth, node in enumerate(cuts(layout.root), 1):
            out.append(_cut(len(out) + 1, nth, layout.board, board, node))
    return tuple(out)


def _cut(number: int, nth: int, board_id: str, board: SawBoard, node: Node) -> SawCut:
    low, high = node.children
    rip = node.axis == "along"
    kind, edge = ("rip", "lower edge") if rip else ("crosscut", "left end")
    at, over = (node.at - node.y, node.length) if rip else (node.at - node.x, node.width)
    far = (node.width if rip else node.length) - at - node.kerf
    if low.use in ("waste", "offcut") and high.use == "part" and far > 0:
        # the part lies beyond: its size is measured from the far side, the saw in the waste
        at, edge = far, "upper edge" if rip else "right end"
    frees = tuple(n.part for side in (low, high) if side.use == "part" for n in leaves(side))
    falls = _falls(low, high, rip)
    side = _side(low, high)
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
    words = f"{kind} at {marked(at)} from the {edge}, over {marked(over, 0)}"
    if frees:
        words += f": frees {' and '.join(frees)}"
    elif falls:
        words += f": {falls}"
    return SawCut(number, board_id, nth, node, kind, at, edge, over, side, frees, hold, words, area, minutes)


def _falls(low: Node, high: Node, rip: bool) -> str:
    names = ("lower", "upper") if rip else ("left", "right")
    both = zip(names, (low, high), strict=True)
    spare = [(name, s) for name, s in both if s.use in ("waste", "offcut") and s.length > 0 and s.width > 0]
    return " and ".join(f"the {name} piece is {s.use}" for name, s in spare)


def _side(low: Node, high: Node) -> str:
    """On which side of the line the kerf lies."""
    spare = [s.use in ("waste", "offcut") for s in (low, high)]
    if spare[0] and not spare[1]:
        return "saw on the near side of the line, in the waste"
    if spare[1] and not spare[0]:
        return "saw on the far side of the line, in the waste"
    if low.use == high.use == "part" and abs(low.length - high.length) < ALIKE and abs(low.width - high.width) < ALIKE:
        return "two equal pieces: mark both edges of the kerf, or split one line and each loses half of it"
    return "both sides are wanted: saw beyond the line, the kerf is allowed for"


@dataclass(frozen=True)
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
    """The sums of a saw plan."""
    across = [c for c in plan if c.kind == "crosscut"]
    along = [c for c in plan if c.kind == "rip"]
    return Totals(
        len(plan),
        sum(c.over for c in across) / 1000,
        sum(c.over for c in along) / 1000,
        sum(c.area for c in across),
        sum(c.area for c in along),
        sum(c.minutes for c in plan),
        len({c.setting for c in plan}),
    )
