"""A board trued from its readings: face first, then the back to thickness, read again where the plan says so.

The plan lives on the board as it is foreseen: what the readings told, less what the planes took. Where it is read again, what the
readings differ by from what was foreseen corrects it (a Kalman filter), and the plan goes on from there. So it is one plan, whether
nobody carries it out, a maker does, or a simulation of wood whose true heights are known.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from nullah.core.arrays import Floats, np
from nullah.core.frozen import frozen
from nullah.core.surface.certainty import ADVISED, OF_A_FACE, Grid, Knowledge, heights, levels
from nullah.core.surface.gaussian_process import Board, Prior, seen
from nullah.core.surface.pace import PLANE, READING, minutes_of
from nullah.core.surface.passes import PLANES, TURNED, BenchPlane, Pass, Workpiece, planned, take
from nullah.core.surface.sights import SIGHTS, ReadingLike
from nullah.core.surface.slab import minimum_zone, thickest_slab, touching

FIRST = 0.5  # mm over flat: so far down it is read again, before there is harm in what the first readings did not tell
GOAL = 0.06  # mm over flat: so far down planes take it by zones
SPARED = 0.04  # mm: what clearing the whole face takes once more
# mm, minimum zone as foreseen: a face is likely done; it is, read once more. The second of each once more planing would cost too much
# of the thickness
FLAT, SURE = (0.1, 0.13), (0.12, 0.15)
STALE, GAIN = 0.16, 0.02  # mm: so nearly flat, and a round made it no flatter by so much: another would only cost wood
WORN = 0.975  # of the thickness there was: less is left
TO_SPARE = 0.3  # mm over the thickness wanted: so much is kept until the back is flat
CLEAR = 3  # times over all of the face, to end with
AGAIN = 24  # readings before the plan goes on
ROUNDS = 7
FACE, BACK = "face", "back"
# what planing adds to what is not known; what is not known of the back once the face is true; both one standard deviation, mm
_WORKED = Prior((0.02,) * 6, 0.03, (0.02,) * 4)
_TAKEN = Prior((0.03,) * 6, 0.06, (0.2, 0.05, 0.05, 0.02))  # after the first go, in which most comes off
_BEHIND = Prior((0.05,) * 6, 0.06, (0.15, 0.1, 0.1, 0.0))


class Bench(Protocol):
    """Where a plan is carried out."""

    def take(self, side: str, p: Pass) -> None:
        """Carry a pass out on ``FACE`` or ``BACK``."""
        ...

    def read(self, side: str, readings: Sequence[ReadingLike]) -> list[float]:
        """What each reading says, mm; those of the back as it lies turned over, but with places as seen from the face."""
        ...


@frozen
class Step:
    """A pass on one of the faces, and the strokes and minutes it is reckoned to take."""

    side: str
    what: Pass
    strokes: int
    minutes: float


@frozen
class Trued:
    """A plan as it went: its steps in order, how often and with how many readings in all it was read again."""

    steps: tuple[Step, ...]
    checks: int
    readings: int

    @property
    def strokes(self) -> int:
        """Of all passes."""
        return sum(s.strokes for s in self.steps)

    @property
    def minutes(self) -> float:
        """Of all passes, readings and changes of plane."""
        changes = sum(a.what.plane != b.what.plane for a, b in zip(self.steps, self.steps[1:], strict=False))
        return sum(s.minutes for s in self.steps) + self.readings * READING + changes * PLANE


def true_up(
    workpiece: Workpiece,
    face: Floats,
    back: Floats,
    knows: Knowledge,
    wanted: float | None = None,
    planes: Sequence[BenchPlane] = PLANES,
    directions: Sequence[float] = TURNED,
    bench: Bench | None = None,
) -> Trued:
    """Plan both faces, and carry the plan out on ``bench`` where there is one.

    Args:
        face, back: heights as read, on the grid of ``workpiece``, mm upward in one frame.
        knows: how sure they are.
        wanted: thickness, mm; None, or more than there is: as much as is left.
    """
    course = _Course(workpiece, face, back, planes, directions, bench)
    course.flatten(FACE, knows, wanted)
    course.flatten(BACK, course.corrected(BACK, knows.turned_over(_BEHIND)), wanted)
    return Trued(tuple(course.steps), course.checks, course.readings)


class _Course:
    """A plan while it is made. ``under`` is the back as it lies turned over: its heights upward."""

    def __init__(
        self,
        workpiece: Workpiece,
        face: Floats,
        back: Floats,
        planes: Sequence[BenchPlane],
        directions: Sequence[float],
        bench: Bench | None,
    ):
        self.workpiece, self.planes, self.directions, self.bench = workpiece, planes, directions, bench
        self.face, self.under = face, -back
        self.places = workpiece.places()
        self.grid = Grid(workpiece.rows, workpiece.columns)
        self.began = self._thickest()
        self.steps: list[Step] = []
        self.checks = self.readings = 0

    def flatten(self, side: str, knows: Knowledge, wanted: float | None) -> None:
        """Plan one face until it is flat as foreseen, reading it again in between."""
        before = np.inf
        for turn in range(ROUNDS):
            now = self._over(side)
            gained, before = before - now, now
            if turn > 1 and now < STALE and gained < GAIN and self._thick_enough(side, wanted, STALE):
                return  # planing gets no further
            if turn > 1 and self._done(side, wanted, FLAT):
                knows = self.corrected(side, knows)  # once more before it is called flat: that costs no wood
                if self._done(side, wanted, SURE):
                    return
            mine = self.face if side == FACE else self.under
            target = touching(*self.places, mine) if turn > 1 else self._target(side, wanted)
            if turn > 1 and side == BACK and wanted is not None and self._done(side, None, FLAT):
                target = self._to_thickness(wanted)
            goal, clear = (FIRST, 0) if turn == 0 else (GOAL, CLEAR)
            passes, foreseen = planned(self.workpiece, mine, target + SPARED, self.planes, self.directions, goal, clear)
            for p in passes:
                self._carry(side, p)
            if passes:
                self._keep(side, foreseen)
                knows = self.corrected(side, knows.worked(_WORKED if goal < FIRST else _TAKEN))

    def _done(self, side: str, wanted: float | None, bars: tuple[float, float]) -> bool:
        """Whether a face is flat within a bar as foreseen, and the back so near to the thickness wanted."""
        within = bars[wanted is None and self._thickest() < WORN * self.began]
        return self._thick_enough(side, wanted, within) and self._over(side) < within

    def _thick_enough(self, side: str, wanted: float | None, within: float) -> bool:
        """Whether the back is as near to the thickness wanted as that, mm."""
        return side == FACE or wanted is None or self._left() - wanted <= within

    def _over(self, side: str) -> float:
        """What a face stands over flat at the most, as foreseen, mm."""
        mine = self.face if side == FACE else self.under
        return float((mine - touching(*self.places, mine)).max())

    def _thickest(self) -> float:
        return thickest_slab(*self.places, self.face, -self.under).thickness

    def _left(self) -> float:
        """The least thickness over the face's plane, mm."""
        return float((touching(*self.places, self.face) + self.under).min())

    def corrected(self, side: str, knows: Knowledge) -> Knowledge:
        """Read a face again, the back with calipers too, and keep what it then is likeliest to be."""
        self.checks += 1
        self.readings += AGAIN
        if self.bench is None:
            return knows
        readings = knows.advised(AGAIN, OF_A_FACE if side == FACE else ADVISED)
        foreseen = [read_on(self.workpiece, knows.board, r, side, self.face, -self.under) for r in readings]
        said = self.bench.read(side, readings)
        knows, state = knows.told(readings, [a - b for a, b in zip(said, foreseen, strict=True)])
        if side == FACE:
            self.face = self.face + heights(state, self.grid)
        else:
            level, along, across, _ = levels(state)
            u, v = self.places
            self.under = self.under + heights(state, self.grid) + level + along * u + across * v
        return knows

    def _keep(self, side: str, mine: Floats) -> None:
        if side == FACE:
            self.face = mine
        else:
            self.under = mine

    def _target(self, side: str, wanted: float | None) -> Floats:
        """Down to where a face is planed: that of the thickest flat board, or the back to thickness over the face."""
        u, v = self.places
        if side == FACE:
            return thickest_slab(u, v, self.face, -self.under).upper(u, v)
        return self._to_thickness(self._left() if wanted is None else wanted + TO_SPARE)

    def _to_thickness(self, wanted: float) -> Floats:
        """The back at a thickness over the face's plane, or at what is left."""
        return min(self._left(), wanted) - touching(*self.places, self.face)

    def _carry(self, side: str, p: Pass) -> None:
        strokes, run = p.reckoned(self.workpiece)
        self.steps.append(Step(side, p, strokes, minutes_of(strokes, run)))
        if self.bench is not None:
            self.bench.take(side, p)


def read_on(workpiece: Workpiece, board: Board, r: ReadingLike, side: str, face: Floats, back: Floats) -> float:
    """What a reading says of heights on a grid, without error, mm."""
    heights = face - back if r.kind == "thickness" else face if side == FACE else -back
    return sum(w * _height(workpiece, heights, u, v) for w, u, v in seen(board, r).points)


def _height(workpiece: Workpiece, heights: Floats, u: float, v: float) -> float:
    """Between the points of the grid."""
    i = min(max((u + 1) / 2 * (workpiece.rows - 1), 0.0), workpiece.rows - 1.0)
    j = min(max((v + 1) / 2 * (workpiece.columns - 1), 0.0), workpiece.columns - 1.0)
    a, b = min(int(i), workpiece.rows - 2), min(int(j), workpiece.columns - 2)
    p, q = i - a, j - b
    near = heights[a : a + 2, b : b + 2]
    return float((1 - p) * ((1 - q) * near[0, 0] + q * near[0, 1]) + p * ((1 - q) * near[1, 0] + q * near[1, 1]))


class Simulated:
    """Wood whose true heights are known, planed by ``passes.take`` and read with the errors of sticks, straightedge and caliper."""

    def __init__(self, workpiece: Workpiece, board: Board, face: Floats, back: Floats, seed: int = 1):
        self.workpiece, self.board = workpiece, board
        self.face, self.under = face.copy(), -back
        self._chance = np.random.default_rng(seed)

    def take(self, side: str, p: Pass) -> None:
        """A pass, off the true heights."""
        take(self.workpiece, self.face if side == FACE else self.under, p)

    def read(self, side: str, readings: Sequence[ReadingLike]) -> list[float]:
        """Readings of the board as it now is."""
        true = (read_on(self.workpiece, self.board, r, side, self.face, -self.under) for r in readings)
        return [
            one + float(self._chance.normal(0.0, SIGHTS[r.kind].error)) for one, r in zip(true, readings, strict=True)
        ]

    def left(self) -> tuple[float, float]:
        """The thickest flat board inside what is left, and the minimum zone of the worse face, mm."""
        u, v = self.workpiece.places()
        zones = [minimum_zone(u, v, z) for z in (self.face, self.under)]
        return thickest_slab(u, v, self.face, -self.under).thickness, max(zones)
