"""One round of planing: the passes over a board as it now is, until it is to be read again."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from nullah.core.arrays import Floats, np
from nullah.core.frozen import frozen
from nullah.core.surface.certainty import Grid, on_grid, to_nodes
from nullah.core.surface.pace import minutes_of
from nullah.core.surface.passes import TURNED, BenchPlane, Pass, Workpiece, planned, take
from nullah.core.surface.readings import BACK, FACE, Heights
from nullah.core.surface.slab import thickest_slab, touching
from nullah.core.surface.truing import CLEAR, FIRST, GOAL, SPARED

NEAR = 0.2  # mm, minimum zone: flat enough (common practice: sticks agree within about so much)
MUCH = 1.0  # mm over flat: with more than that to come off it is read again half way
CELL = (6.0, 5.0)  # mm between the points a plane is followed on
_FEWEST, _MOST = (25, 13), (300, 60)


@frozen
class Stage:
    """Passes of one plane at one set, one after the other: ``first`` to ``last`` of the round, from 0.

    ``turned`` says whether the direction turns each time over, ``zone`` holds all they plane, ``share`` is how much of the face the
    first of them goes over, ``high`` where most stands before it: x, y, mm.
    """

    plane: BenchPlane
    first: int
    last: int
    turned: bool
    zone: tuple[float, float, float, float]
    share: float
    high: tuple[float, float, float]
    strokes: int
    minutes: float


@frozen
class Round:
    """Passes over ``side``, in stages, and after each stage the heights that are foreseen at the nodes (mm, in the frame of the board).
    No passes: the board is flat and to thickness."""

    side: str
    passes: tuple[Pass, ...]
    stages: tuple[Stage, ...]
    after: tuple[tuple[float, ...], ...]

    def minutes(self, done: int) -> float:
        """Of the first so many stages."""
        return sum(s.minutes for s in self.stages[:done])


@frozen
class Wanted:
    """What a round is planned from: the board as it now is, the planes at hand, the thickness wanted (None: as much as there is), which
    sides were planed before and which comes first; whether what is low on the other may stay (``hollow``), and whether marks of planing
    across may on the back."""

    length: float
    width: float
    face: Heights
    back: Heights
    planes: tuple[BenchPlane, ...]
    thickness: float | None = None
    begun: frozenset[str] = frozenset()
    first: str = FACE
    hollow: bool = False
    marks: bool = False


def plan_round(w: Wanted) -> Round:
    """The next round: the first side until it is flat, then the other until it is flat and the board to thickness."""
    counts = [
        int(min(max(size / cell, low), high))
        for size, cell, low, high in zip((w.length, w.width), CELL, _FEWEST, _MOST, strict=True)
    ]
    piece, grid = Workpiece(w.length, w.width, *counts), Grid(*counts)
    u, v = piece.places()
    lying = {FACE: on_grid(w.face, grid), BACK: -on_grid(w.back, grid)}  # each as it lies up
    second = BACK if w.first == FACE else FACE
    flat = touching(u, v, lying[w.first])
    if float((lying[w.first] - flat).max()) > NEAR:
        side, mine = w.first, lying[w.first]
        target = flat if side in w.begun else thickest_slab(u, v, mine, -lying[second]).upper(u, v)
    else:
        side, mine = second, lying[second]
        left = float((flat + mine).min())
        wanted = left if w.thickness is None else w.thickness if w.hollow else min(left, w.thickness)
        enough = w.thickness is None or left - w.thickness <= NEAR
        under = mine if w.hollow else touching(u, v, mine)
        target = wanted - flat if side not in w.begun or not enough or w.hollow else under
        if float((mine - (target if w.hollow else under)).max()) <= NEAR and enough:
            return Round(side, (), (), ())
    off = np.maximum(mine - target, 0.0)
    much = float(off.max()) > MUCH
    clear = 0 if much or (w.marks and side == BACK) else CLEAR
    passes, _ = planned(piece, mine, target + SPARED, w.planes, TURNED, FIRST if much else GOAL, clear)
    stages = _stages(piece, passes, off)
    after, now = [], mine.copy()
    for stage in stages:
        for p in passes[stage.first : stage.last + 1]:
            take(piece, now, p)
        after.append(tuple(((1.0 if side == FACE else -1.0) * to_nodes(now, grid)).ravel().tolist()))
    return Round(side, tuple(passes), stages, tuple(after))


def _stages(piece: Workpiece, passes: Sequence[Pass], off: Floats) -> tuple[Stage, ...]:
    starts = [0] if passes else []
    starts += [i for i, (a, b) in enumerate(pairwise(passes), 1) if a.plane != b.plane]
    out = []
    for first, end in zip(starts, [*starts[1:], len(passes)], strict=True):
        some = passes[first:end]
        boxes = np.array([p.zone for p in some])
        zone = (*boxes[:, :2].min(axis=0), *boxes[:, 2:].max(axis=0))
        high = np.where(some[0].mask, off, -1.0)
        i, j = np.unravel_index(int(high.argmax()), high.shape)
        place = float(i * piece.steps[0]), float(j * piece.steps[1]), some[0].most
        reckoned = [p.reckoned(piece) for p in some]
        strokes = sum(n for n, _ in reckoned)
        time = minutes_of(strokes, sum(run for _, run in reckoned))
        share = float(some[0].mask.mean())
        turned = len({p.direction for p in some}) > 1
        x0, y0, x1, y1 = map(float, zone)
        out.append(Stage(some[0].plane, first, end - 1, turned, (x0, y0, x1, y1), share, place, strokes, time))
    return tuple(out)
