"""Places of a face that are planed: outlines of a few corners, as a hand can hold to, round what stands high; and strokes in them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import ceil, cos, hypot, radians, sin

from nullah.core.values.arrays import Bools, Floats, Ints, np
from nullah.core.values.frozen import frozen

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
        """Which points of the grid lie in a convex outline or on its rim; not to be written to."""
        return _inside(self, tuple(outline))


@lru_cache(maxsize=8)  # a place is planed over and over
def _inside(workpiece: Workpiece, outline: tuple[Place, ...]) -> Bools:
    x = np.linspace(0.0, workpiece.length, workpiece.rows)[:, None]
    y = np.linspace(0.0, workpiece.width, workpiece.columns)[None, :]
    out = np.ones((workpiece.rows, workpiece.columns), dtype=bool)
    for (ax, ay), (bx, by) in zip(outline, (*outline[1:], outline[0]), strict=True):
        out &= (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= -1e-6 * hypot(bx - ax, by - ay)
    out.flags.writeable = False
    return out


def outlines(workpiece: Workpiece, over: Floats, level: float) -> list[tuple[Place, ...]]:
    """Outlines round what stands over a level, the highest place first; all of the face is one where that is most of it."""
    runs, places = _apart(over > level)
    if not places.size:
        return []
    sizes = np.bincount(places, runs.ends - runs.firsts)
    peaks = np.full(sizes.size, -np.inf)
    np.maximum.at(peaks, places, runs.highest(over))
    large = np.flatnonzero(sizes >= _SLIVER * sizes.max())
    highest_first = large[np.argsort(-peaks[large], kind="stable")]
    found = [_round(workpiece, runs.where(places == one)) for one in highest_first[:AT_ONCE]]
    if any(workpiece.inside(one).mean() > _MOST_OF_IT for one in found):
        return [workpiece.all_over()]
    return list(dict.fromkeys(found))


_MOST_OF_IT = 0.85


@frozen
class _Runs:
    """Runs of points of a grid in order: of each its row, the first of its points, and that after the last."""

    rows: Ints
    firsts: Ints
    ends: Ints

    def where(self, which: Bools) -> _Runs:
        """Some of them."""
        return _Runs(self.rows[which], self.firsts[which], self.ends[which])

    def highest(self, heights: Floats) -> Floats:
        """The highest of each, mm."""
        starts, ends = (self.rows * heights.shape[1] + at for at in (self.firsts, self.ends))
        flat = np.append(heights.ravel(), -np.inf)
        return np.maximum.reduceat(flat, np.stack([starts, ends], axis=1).ravel())[::2]


def _apart(high: Bools) -> tuple[_Runs, Ints]:
    """The runs of points in each row, and by run the number of the place it belongs to. Places do not touch each other; a run belongs
    to those it touches in the next row. (A library that labels them takes half a second to load, as long as a plan.)"""
    edges = np.diff(np.pad(high, ((0, 0), (1, 1))).astype(np.int8), axis=1)
    rows, firsts = np.nonzero(edges > 0)
    runs = _Runs(rows, firsts, np.nonzero(edges < 0)[1])
    wide = edges.shape[1] + 1  # in one line, row after row
    low = np.searchsorted(rows * wide + runs.ends, (rows + 1) * wide + firsts, "right")
    many = np.maximum(np.searchsorted(rows * wide + firsts, (rows + 1) * wide + runs.ends, "left") - low, 0)
    here = np.repeat(np.arange(rows.size), many)
    there = np.arange(many.sum()) - np.repeat(np.cumsum(many) - many, many) + np.repeat(low, many)
    places = np.arange(rows.size)
    while True:  # each takes the lowest number it touches, until none changes
        lowest, now = np.minimum(places[here], places[there]), places.copy()
        np.minimum.at(now, here, lowest)
        np.minimum.at(now, there, lowest)
        now = now[now]
        if np.array_equal(now, places):
            return runs, np.unique(places, return_inverse=True)[1]
        places = now


def _round(workpiece: Workpiece, runs: _Runs) -> tuple[Place, ...]:
    """The outline of one place."""
    along, across = workpiece.steps
    of_rows, which = np.unique(runs.rows, return_inverse=True)
    low, high = np.full(of_rows.size, workpiece.columns), np.zeros(of_rows.size, dtype=np.int64)
    np.minimum.at(low, which, runs.firsts)
    np.maximum.at(high, which, runs.ends)
    rows, firsts, ends = (one.astype(np.float64) for one in (of_rows, low, high))
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
    reach: dict[float, tuple[float, float]] = {}  # of each x the lowest and the highest: what lies between is inside
    for x, y in points:
        low, high = reach.get(x, (y, y))
        reach[x] = min(low, y), max(high, y)
    xs = sorted(reach)
    below, above = ([(x, reach[x][n]) for x in xs] for n in (0, 1))

    def half(those: Sequence[Place]) -> list[Place]:
        out: list[Place] = []
        for p in those:
            while len(out) > 1 and _area((out[-2], out[-1], p)) <= 1e-9:
                out.pop()
            out.append(p)
        return out[:-1]

    return half([*below, above[-1]]) + half([*above[::-1], below[0]])


def _area(corners: tuple[Place, Place, Place]) -> float:
    """Of a triangle, positive where it goes counter-clockwise, mm2."""
    (ax, ay), (bx, by), (cx, cy) = corners
    return ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2


def strokes_in(zone: Zone, width: float, overlap: float) -> Floats:
    """Where the middle of an iron so wide begins and ends in each stroke of going over a zone once: (strokes, 4), mm, side by side.

    A stroke begins and ends half an iron's width outside the outline, so that slanting ones take its corners too; ``overlap`` is how
    far apart they lie, as a share of the width. Not to be written to.
    """
    return _strokes(zone.outline, zone.direction, width, overlap)


@lru_cache(maxsize=8)  # a place is planed over and over
def _strokes(outline: tuple[Place, ...], direction: float, width: float, overlap: float) -> Floats:
    angle, beyond = radians(direction), width / 2
    e, n = (cos(angle), sin(angle)), (-sin(angle), cos(angle))
    corners = [(x * n[0] + y * n[1], x * e[0] + y * e[1]) for x, y in outline]  # aside, along
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
    lines = np.array(out, dtype=np.float64).reshape(-1, 4)
    lines.flags.writeable = False
    return lines


def _crossed(corners: Sequence[Place], aside: float) -> list[float]:
    """How far along a line crosses the rim of an outline."""
    out = []
    for (a, s), (b, t) in zip(corners, (*corners[1:], corners[0]), strict=True):
        if (a - aside) * (b - aside) <= 0 and a != b:
            out.append(s + (t - s) * (aside - a) / (b - a))
    return out
