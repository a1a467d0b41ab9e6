"""Places of a face that are planed: outlines of a few corners, as a hand can hold to, round what stands high; and strokes in them."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, cos, hypot, radians, sin

from nullah.core.arrays import Bools, Floats, np
from nullah.core.frozen import frozen

Run = tuple[int, int, int]  # of points of a grid: the row, the first of them, and that after the last
Place = tuple[float, float]  # x from the left end, y from the lower edge, both as seen through the face, mm

CORNERS = 6  # of an outline, at the most
AT_ONCE = 2  # places that are planed in one go
SMALLEST = 60.0  # mm: a place is as long and wide, or as wide as the board
_STEP = 10.0  # mm: a pencil holds to no less
_TO_THE_RIM = 20.0  # mm: so near the rim a place goes up to it
_SLIVER = 0.1  # of the largest place: others are planed with it only where they are so large


@frozen
class Zone:
    """One place, planed ``times`` over with strokes that go ``direction`` degrees from the length; ``outline`` is convex, and goes
    round counter-clockwise."""

    outline: tuple[Place, ...]
    times: int
    direction: float


@frozen
class Workpiece:
    """What is planed, without its heights: length and width, mm, and the grid they are kept on."""

    length: float
    width: float
    rows: int
    columns: int

    @property
    def steps(self) -> tuple[float, float]:
        """Along and across, between points of the grid, mm."""
        return self.length / (self.rows - 1), self.width / (self.columns - 1)

    def places(self) -> tuple[Floats, Floats]:
        """Along and across from -1 to 1, each (rows, columns)."""
        u, v = np.linspace(-1.0, 1.0, self.rows), np.linspace(-1.0, 1.0, self.columns)
        along, across = np.meshgrid(u, v, indexing="ij")
        return along, across

    def all_over(self) -> tuple[Place, ...]:
        """The outline of the whole face."""
        return (0.0, 0.0), (self.length, 0.0), (self.length, self.width), (0.0, self.width)

    def inside(self, outline: Sequence[Place]) -> Bools:
        """Which points of the grid lie in a convex outline or on its rim."""
        x = np.linspace(0.0, self.length, self.rows)[:, None]
        y = np.linspace(0.0, self.width, self.columns)[None, :]
        out = np.ones((self.rows, self.columns), dtype=bool)
        for (ax, ay), (bx, by) in zip(outline, (*outline[1:], outline[0]), strict=True):
            out &= (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= -1e-6 * hypot(bx - ax, by - ay)
        return out


def outlines(workpiece: Workpiece, over: Floats, level: float) -> list[tuple[Place, ...]]:
    """Outlines round what stands over a level, the highest place first; all of the face is one where that is most of it."""
    apart = _apart(over > level)
    if not apart:
        return []
    sizes = [sum(end - first for _, first, end in runs) for runs in apart]
    peaks = [
        (max(float(over[row, first:end].max()) for row, first, end in runs), runs)
        for runs, size in zip(apart, sizes, strict=True)
        if size >= _SLIVER * max(sizes)
    ]
    peaks.sort(key=lambda one: -one[0])
    found = [_round(workpiece, runs) for _, runs in peaks[:AT_ONCE]]
    if any(workpiece.inside(one).mean() > _MOST_OF_IT for one in found):
        return [workpiece.all_over()]
    return list(dict.fromkeys(found))


_MOST_OF_IT = 0.85


def _apart(high: Bools) -> list[list[Run]]:
    """Places that do not touch each other, as the runs of points in each row. A run belongs to those it touches in the row before.
    (A library that labels them takes half a second to load, as long as a plan.)"""
    edges = np.diff(np.pad(high, ((0, 0), (1, 1))).astype(np.int8), axis=1)
    rows, firsts = (one.tolist() for one in np.nonzero(edges > 0))
    ends = np.nonzero(edges < 0)[1].tolist()
    runs, whose = list[tuple[int, int, int, int]](), list[int]()
    before, here, last = list[tuple[int, int, int]](), list[tuple[int, int, int]](), -1

    def root(n: int) -> int:
        while whose[n] != n:
            n = whose[n]
        return n

    for row, first, end in zip(rows, firsts, ends, strict=True):
        if row != last:
            before, here, last = here if row == last + 1 else [], [], row
        touching = {root(n) for a, b, n in before if a < end and b > first}
        mine = min(touching, default=len(whose))
        if not touching:
            whose.append(mine)
        for n in touching:
            whose[n] = mine
        here.append((first, end, mine))
        runs.append((row, first, end, mine))
    places: dict[int, list[Run]] = {}
    for row, first, end, n in runs:
        places.setdefault(root(n), []).append((row, first, end))
    return list(places.values())


def _round(workpiece: Workpiece, runs: Sequence[Run]) -> tuple[Place, ...]:
    """The outline of one place."""
    along, across = workpiece.steps
    reach: dict[int, tuple[int, int]] = {}
    for row, first, end in runs:
        low, high = reach.get(row, (first, end))
        reach[row] = min(low, first), max(high, end)
    rows = np.array(list(reach), dtype=np.float64)
    firsts, ends = (np.array(column, dtype=np.float64) for column in zip(*reach.values(), strict=True))
    # half way to the points beside them
    xs = _widened(np.concatenate([rows - 0.5, rows + 0.5, rows - 0.5, rows + 0.5]) * along, workpiece.length)
    ys = _widened(np.concatenate([firsts - 0.5, firsts - 0.5, ends - 0.5, ends - 0.5]) * across, workpiece.width)
    hull = _hull(list(zip(xs.tolist(), ys.tolist(), strict=True)))
    while len(hull) > CORNERS:
        least = min(range(len(hull)), key=lambda k: _area((hull[k - 1], hull[k], hull[(k + 1) % len(hull)])))
        del hull[least]
    return tuple(_hull([_marked(p, workpiece) for p in hull]))


def _widened(at: Floats, whole: float) -> Floats:
    """Places spread from their middle until they reach ``SMALLEST`` or all of the board, and kept on it."""
    low, high = float(at.min()), float(at.max())
    least = min(SMALLEST, whole)
    if high - low < least:
        at = (at - (low + high) / 2) * (least / max(high - low, 1e-9)) + (low + high) / 2
        at = at - min(float(at.min()), 0.0) - max(float(at.max()) - whole, 0.0)
    return np.clip(at, 0.0, whole)


def _marked(p: Place, workpiece: Workpiece) -> Place:
    """A corner as a pencil marks it: at the rim where it is near, else to a centimetre."""

    def to(at: float, whole: float) -> float:
        near = min(_TO_THE_RIM, whole / 6)
        return 0.0 if at < near else whole if at > whole - near else min(round(at / _STEP) * _STEP, whole)

    return to(p[0], workpiece.length), to(p[1], workpiece.width)


def _hull(points: Sequence[Place]) -> list[Place]:
    """The convex hull, counter-clockwise (Andrew 1979, from memory)."""
    points = sorted(set(points))

    def half(those: Sequence[Place]) -> list[Place]:
        out: list[Place] = []
        for p in those:
            while len(out) > 1 and _area((out[-2], out[-1], p)) <= 1e-9:
                out.pop()
            out.append(p)
        return out[:-1]

    return half(points) + half(points[::-1])


def _area(corners: tuple[Place, Place, Place]) -> float:
    """Of a triangle, positive where it goes counter-clockwise, mm2."""
    (ax, ay), (bx, by), (cx, cy) = corners
    return ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2


def strokes_in(zone: Zone, width: float, overlap: float) -> Floats:
    """Where the middle of an iron so wide begins and ends in each stroke of going over a zone once: (strokes, 4), mm, side by side.

    A stroke begins and ends half an iron's width outside the outline, so that slanting ones take its corners too; ``overlap`` is how
    far apart they lie, as a share of the width.
    """
    angle, beyond = radians(zone.direction), width / 2
    e, n = (cos(angle), sin(angle)), (-sin(angle), cos(angle))
    corners = [(x * n[0] + y * n[1], x * e[0] + y * e[1]) for x, y in zone.outline]  # aside, along
    low, high = min(c[0] for c in corners), max(c[0] for c in corners)
    count = max(ceil((high - low) / (width * overlap)), 1)
    out = []
    for i in range(count):
        aside = low + (high - low) * (i + 0.5) / count
        reach = [t for off in (0.0, -beyond, beyond) for t in _crossed(corners, aside + off)]
        if reach:
            start, end = min(reach) - beyond, max(reach) + beyond
            x, y = aside * n[0], aside * n[1]
            out.append((x + start * e[0], y + start * e[1], x + end * e[0], y + end * e[1]))
    return np.array(out, dtype=np.float64).reshape(-1, 4)


def _crossed(corners: Sequence[Place], aside: float) -> list[float]:
    """How far along a line crosses the rim of an outline."""
    out = []
    for (a, s), (b, t) in zip(corners, (*corners[1:], corners[0]), strict=True):
        if (a - aside) * (b - aside) <= 0 and a != b:
            out.append(s + (t - s) * (aside - a) / (b - a))
    return out
