"""One round of planing: the passes over a board as it now is, until it is to be read again.

It is what the window shows and what ``nullah true`` carries on with: one code.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import pairwise

from nullah.core.surface.certainty import Grid, on_grid, to_nodes
from nullah.core.surface.heights import COLUMNS, Heights, node_rows
from nullah.core.surface.pace import minutes_of
from nullah.core.surface.passes import LEFT, RIGHT, TURNED, BenchPlane, Finish, Pass, highest, planned
from nullah.core.surface.readings import BACK, FACE
from nullah.core.surface.slab import thickest_slab, touching
from nullah.core.surface.zones import Workpiece
from nullah.core.values.frozen import frozen

_AT_LAST = 0.3
NEAR = 0.2  # mm, minimum zone: flat enough (common practice: sticks agree within about so much)
MUCH = 1.0  # mm over flat: with more than that to come off it is read again half way
FIRST = 0.5  # mm over flat: so far down it is read again, before there is harm in what the first readings did not tell
GOAL = 0.08  # mm over flat: so far down planes take it by places
DOUBTFUL = 0.075  # mm, as unsure as a face may be that is called flat after one round
UNSEEN = 1.0  # times as unsure as a face is: so much may stand up unseen
SPARED = 0.06  # mm: what clearing the whole face takes once more
CAUTION = (
    0.3  # mm: what is left to the next round while much comes off, since other hands take more here and less there
)
CLEAR = 3  # times over all of the face, to end with
CELL = (6.0, 5.0)  # mm between the points a plane is followed on
_FEWEST, _MOST = (25, 13), (240, 60)


@frozen
class Stage:
    """One pass, and what it is reckoned to take."""

    what: Pass
    strokes: int
    minutes: float


@frozen
class Round:
    """Passes over ``side``, and after each the heights that are foreseen at the nodes (mm, in the frame of the board). No passes: the
    board is flat and to thickness."""

    side: str
    stages: tuple[Stage, ...]
    after: tuple[tuple[float, ...], ...]
    whole: bool = True  # all of it; else as far as it is planned by now

    def minutes(self, done: int) -> float:
        """Of the first so many stages."""
        return sum(s.minutes for s in self.stages[:done])


@frozen
class Ways:
    """Which ways a maker planes: ``directions`` of taking rough wood down, degrees from the length; towards which end the grain
    ``rises`` to the face ("": not looked at); whether the ``working_face`` alone is made flat."""

    directions: tuple[float, ...] = TURNED
    rises: str = ""
    working_face: bool = False

    @property
    def share(self) -> float:
        """How much of planing both faces is done."""
        return 0.5 if self.working_face else 1.0

    def along(self, side: str) -> float:
        """Which way a side is planed along: with the rising grain."""
        return LEFT if self.rises == ("left" if side == FACE else "right") else RIGHT


@frozen
class Wanted:
    """What a round is planned from: the board as it now is, the planes at hand, the thickness wanted (None: as much as there is), which
    sides were planed before and which comes first; whether what is low on the other may stay (``hollow``), and whether marks of planing
    across may on the back; which ``ways`` planing goes; how ``unsure`` face and back are, mm."""

    length: float
    width: float
    face: Heights
    back: Heights
    planes: tuple[BenchPlane, ...]
    thickness: float | None = None
    begun: tuple[str, ...] = ()
    first: str = FACE
    hollow: bool = False
    marks: bool = False
    ways: Ways = Ways()
    unsure: tuple[float, float] = (0.0, 0.0)

    def near(self, side: str) -> float:
        """How flat a side is to be, mm: after some rounds another only costs wood."""
        return min(NEAR + 0.05 * max(self.begun.count(side) - 1, 0), _AT_LAST)

    def doubtful(self, side: str) -> bool:
        """Whether a side that was planed once is flat by too little that was read: a long sole goes over it yet."""
        return self.begun.count(side) == 1 and self.unsure[side == BACK] > DOUBTFUL


def workpiece(length: float, width: float) -> Workpiece:
    """A board on the grid that a plane is followed on."""
    counts = [
        int(min(max(size / cell, low), high))
        for size, cell, low, high in zip((length, width), CELL, _FEWEST, _MOST, strict=True)
    ]
    return Workpiece(length, width, *counts)


def plan_round(w: Wanted, told: Callable[[Round], object] = lambda found: None) -> Round:
    """The next round: the first side until it is flat, then the other until it is flat and the board to thickness.

    Args:
        told: hears of it as soon as there is a pass, and as it grows.
    """
    piece = workpiece(w.length, w.width)
    grid = Grid(piece.rows, piece.columns)
    u, v = piece.places()
    lying = {FACE: on_grid(w.face, grid), BACK: -on_grid(w.back, grid)}  # each as it lies up
    second = BACK if w.first == FACE else FACE
    flat = touching(u, v, lying[w.first])
    if highest(lying[w.first] - flat) > w.near(w.first) or w.doubtful(w.first):
        side, mine = w.first, lying[w.first]
        target = (
            flat if side in w.begun or w.ways.working_face else thickest_slab(u, v, mine, -lying[second]).upper(u, v)
        )
    elif w.ways.working_face:
        return Round(w.first, (), ())
    else:
        side, mine = second, lying[second]
        left = float((flat + mine).min())
        wanted = left if w.thickness is None else w.thickness if w.hollow else min(left, w.thickness)
        enough = w.thickness is None or left - w.thickness <= NEAR
        under = mine if w.hollow else touching(u, v, mine)
        target = wanted - flat if side not in w.begun or not enough or w.hollow else under
        if highest(mine - (target if w.hollow else under)) <= w.near(side) and enough and not w.doubtful(side):
            return Round(side, (), ())
    much = float((mine - target).max()) > MUCH
    clear = 0 if much or (w.marks and side == BACK) else CLEAR
    sign, stages, after = (1.0 if side == FACE else -1.0), list[Stage](), list[tuple[float, ...]]()
    nodes = node_rows(w.length), COLUMNS
    goal = FIRST - CAUTION if much else GOAL
    for p, now in planned(
        piece,
        mine,
        target + SPARED,
        w.planes,
        w.ways.directions,
        Finish(goal, clear, UNSEEN * w.unsure[side == BACK], w.ways.along(side)),
    ):
        strokes, run = p.reckoned()
        stages.append(Stage(p, strokes, minutes_of(strokes, run)))
        after.append(tuple((sign * to_nodes(now, grid, *nodes)).ravel().tolist()))
        told(Round(side, tuple(stages), tuple(after), False))
    return Round(side, tuple(stages), tuple(after))


def minutes_between(stages: Sequence[Stage], change: float) -> float:
    """Of stages one after the other, with what it takes to change planes."""
    changes = sum(a.what.plane != b.what.plane for a, b in pairwise(stages))
    return sum(s.minutes for s in stages) + changes * change
