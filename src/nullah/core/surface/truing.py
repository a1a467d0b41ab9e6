"""A board trued from its readings: face first, then the back to thickness, read again where the next decision hangs on it.

It is the window's own way, carried on by itself: the surface that the readings tell of, a round of passes, a few readings of what they
left, the next round. So it is one plan, whether nobody carries it out, a maker does, or a simulation of wood whose true heights are
known.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from nullah.core.surface.certainty import ADVISED, OF_A_FACE, known
from nullah.core.surface.first_face import first_of
from nullah.core.surface.gaussian_process import Board
from nullah.core.surface.pace import PLANE, READING
from nullah.core.surface.passes import PLANES, BenchPlane, Pass, take
from nullah.core.surface.reading_kinds import READING_KINDS, ReadingLike
from nullah.core.surface.readings import FACE, Surface, counts_from, fit
from nullah.core.surface.rounds import Stage, Wanted, Ways, minutes_between, plan_round
from nullah.core.surface.slab import minimum_zone, thickest_slab
from nullah.core.surface.zones import Workpiece
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

AGAIN = 6  # readings before the plan goes on
ONCE_MORE = 2  # of them are read again, at the most
ROUNDS = 12  # of both faces together


class Bench(Protocol):
    """Where a plan is carried out."""

    def take(self, side: str, p: Pass) -> None:
        """Carry a pass out on ``FACE`` or ``BACK``."""
        ...

    def read(self, side: str, readings: Sequence[ReadingLike]) -> list[float]:
        """What each reading says, mm; those of the back as it lies turned over, but with places as seen from the face."""
        ...


@frozen
class Step(Stage):
    """A pass on one of the faces; ``check``: the face is read again after it."""

    side: str = FACE
    check: bool = False


@frozen
class Trued:
    """A plan as it went: its steps in order, how often and with how many readings it was read again, and the minutes it takes."""

    steps: tuple[Step, ...]
    checks: int
    readings: int
    minutes: float

    @property
    def strokes(self) -> int:
        """Of all passes."""
        return sum(s.strokes for s in self.steps)


@frozen
class _OfASide:
    """A reading of a side after so many rounds of planing."""

    kind: str
    at: float
    across: float
    value: float
    stick: float
    to: float
    stood: str
    side: str
    after: int


@frozen
class _Planed:
    side: str
    heights: tuple[float, ...]


def true_up(
    board: Board,
    thickness: float,
    readings: Sequence[ReadingLike],
    wanted: float | None = None,
    planes: Sequence[BenchPlane] = PLANES,
    ways: Ways = Ways(),  # noqa: B008  a frozen value
    bench: Bench | None = None,
) -> Trued:
    """Plan both faces, and carry the plan out on ``bench`` where there is one.

    Args:
        thickness: as it was typed, mm.
        readings: of the face as it comes, and calipered.
        wanted: thickness, mm; None, or more than there is: as much as is left.
    """
    course = _Course(board, thickness, readings, wanted, planes, ways, bench)
    while course.round():
        pass
    time = minutes_between(course.steps, PLANE) + course.asked * READING
    return Trued(tuple(course.steps), course.checks, course.asked, time)


class _Course:
    """A plan while it is made."""

    def __init__(
        self,
        board: Board,
        thickness: float,
        readings: Sequence[ReadingLike],
        wanted: float | None,
        planes: Sequence[BenchPlane],
        ways: Ways,
        bench: Bench | None,
    ):
        self.board, self.thickness, self.wanted, self.bench = board, thickness, wanted, bench
        self.planes, self.ways = tuple(planes), ways
        self.readings = [_of(r, r.value, FACE, 0) for r in readings]
        self.planed = list[_Planed]()
        self.steps = list[Step]()
        self.checks = self.asked = self.rounds = 0
        self.first = FACE if ways.working_face else first_of(self._surface()).side

    def round(self) -> bool:
        """One round and what is read after it; whether there is more to do."""
        surface = self._surface()
        found = plan_round(self._wanted(surface))
        since = counts_from(self.planed, found.side)
        if self.bench is not None and not any(r.side == found.side and r.after >= since for r in self.readings):
            self._read(surface, found.side)  # as it lies now
            found = plan_round(self._wanted(self._surface()))
        self.rounds += 1
        if not found.stages or self.rounds > ROUNDS:
            return False
        for stage in found.stages:
            last = stage is found.stages[-1]
            self.steps.append(Step(stage.what, stage.strokes, stage.minutes, found.side, last))
            if self.bench is not None:
                self.bench.take(found.side, stage.what)
        self.planed.append(_Planed(found.side, found.after[-1]))
        self._read(self._surface(), found.side)
        return True

    def _surface(self) -> Surface:
        return fit(self.board.length, self.board.width, self.thickness, self.readings, self.planed)

    def _wanted(self, s: Surface) -> Wanted:
        begun, unsure = tuple(p.side for p in self.planed), s.unsure()
        return Wanted(
            s.length,
            s.width,
            s.face,
            s.back,
            self.planes,
            self.wanted,
            begun,
            self.first,
            ways=self.ways,
            unsure=unsure,
        )

    def _read(self, surface: Surface, side: str) -> None:
        """Read a side again: a few readings, those that tell most; and once more what the others do not bear out."""
        self.checks += 1
        self.asked += AGAIN
        if self.bench is None:
            return
        told = surface.told[side]
        kinds = OF_A_FACE if side == FACE else ADVISED
        self._take(self.bench, side, known(told.found, told.readings).advised(AGAIN, kinds))
        for _ in range(ONCE_MORE):
            told = self._surface().told[side]
            again = [told.readings[i] for i in told.found.again[:1]]
            if not again:
                break
            self.asked += 1
            self._take(self.bench, side, again)

    def _take(self, bench: Bench, side: str, asked: Sequence[ReadingLike]) -> None:
        for r, value in zip(asked, bench.read(side, asked), strict=True):
            self.readings.append(_of(r, value, side, len(self.planed)))


def _of(r: ReadingLike, value: float, side: str, after: int) -> _OfASide:
    return _OfASide(r.kind, r.at, r.across, value, r.stick, r.to, r.stood, side, after)


def read_on(workpiece: Workpiece, board: Board, r: ReadingLike, side: str, face: Floats, back: Floats) -> float:
    """What a reading says of heights on a grid, without error, mm."""
    heights = face - back if r.kind == "thickness" else face if side == FACE else -back
    return sum(
        w * _height(workpiece, heights, u, v) for w, u, v in READING_KINDS[r.kind].points(r, board.length, board.width)
    )


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
            one + float(self._chance.normal(0.0, READING_KINDS[r.kind].error))
            for one, r in zip(true, readings, strict=True)
        ]

    def left(self) -> tuple[float, float]:
        """The thickest flat board inside what is left, and the minimum zone of the worse face, mm."""
        u, v = self.workpiece.places()
        zones = [minimum_zone(u, v, z) for z in (self.face, self.under)]
        return thickest_slab(u, v, self.face, -self.under).thickness, max(zones)
