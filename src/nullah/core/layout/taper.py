"""Boards that taper or are wany: where there is wood, and how much of a rectangle is. All mm.

An edge is given by points (x, y) from the left end to the right, straight between them and level beyond the first and the last;
without points the upper edge lies at the board's width and the lower along y = 0.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from nullah.core.layout.model import EPS, LEAST_WIDTH
from nullah.core.values.frozen import frozen

Points = tuple[tuple[float, float], ...]
JOINED = 1e-3  # mm: stretches of wood nearer together are one


@frozen
class Outline:
    """A board's outline in the rectangle round it, whose lower edge lies along y = 0."""

    length: float
    width: float
    upper: Points = ()
    lower: Points = ()

    @property
    def straight(self) -> bool:
        """Whether both edges are straight all along."""
        return not self.upper and not self.lower

    def top(self, x: float) -> float:
        """How high the upper edge lies at ``x`` from the left end; where it steps, its lowest there."""
        return min(height_at(self.upper, x - EPS), height_at(self.upper, x + EPS)) if self.upper else self.width

    def foot(self, x: float) -> float:
        """How high the lower edge lies at ``x`` from the left end; where it steps, its highest there."""
        return max(height_at(self.lower, x - EPS), height_at(self.lower, x + EPS)) if self.lower else 0.0

    def wood_at(self, x: float, y: float, width: float) -> float:
        """How much wood there is across at ``x``, from ``y`` on over ``width``; less than 0 where the edges pass each other there."""
        return min(y + width, self.top(x)) - max(y, self.foot(x))

    def bends(self, x0: float, x1: float) -> list[float]:
        """Where an edge bends between two places, both counted."""
        between = {x for x, _ in (*self.upper, *self.lower) if x0 + EPS < x < x1 - EPS}
        return [x0, *sorted(between), x1]

    def stretches(self, x0: float, x1: float, y: float) -> list[tuple[float, float]]:
        """Where between ``x0`` and ``x1`` there is wood at the height ``y`` (edges count), from the left."""
        found: list[tuple[float, float]] = []
        for a, b in pairwise(self.bends(x0, x1)):
            start, end = a, b
            for edge, sign in ((self.upper, 1.0), (self.lower, -1.0)):
                if not edge:
                    if sign * ((self.width if sign > 0 else 0.0) - y) < -EPS:
                        end = start
                    continue
                over_a, over_b = (sign * (height_at(edge, x) - y) for x in (a + EPS, b - EPS))
                if over_a < -EPS and over_b < -EPS:
                    end = start
                elif over_a < -EPS:
                    start = max(start, a + (b - a) * -over_a / (over_b - over_a))
                elif over_b < -EPS:
                    end = min(end, a + (b - a) * over_a / (over_a - over_b))
            if end - start <= EPS:
                continue
            if found and start - found[-1][1] < JOINED:
                found[-1] = (found[-1][0], end)
            else:
                found.append((start, end))
        return found

    def longest(self, x0: float, x1: float, y: float) -> tuple[float, float]:
        """The longest stretch between ``x0`` and ``x1`` that has wood at the height ``y``; of no length where there is none."""
        return max(self.stretches(x0, x1, y), key=lambda s: s[1] - s[0], default=(x0, x0))

    def of_rectangle(self, x: float, y: float, length: float, width: float) -> tuple[float, float, float, float] | None:
        """What of a rectangle is a piece of wood: as (x, y, length, width) of the box round it; None where no more than a sliver
        is."""
        margin = min(LEAST_WIDTH, width)
        heights = (y + margin,) if not self.lower else (y + margin, y + width / 2, y + width - margin)
        start, end = max((self.longest(x, x + length, h) for h in heights), key=lambda s: s[1] - s[0])
        if end - start <= LEAST_WIDTH:
            return None
        low, high = self._reach(start, end)
        low, high = max(y, low), min(y + width, high)
        return None if high - low <= EPS else (start, low, end - start, high - low)

    def _reach(self, x0: float, x1: float) -> tuple[float, float]:
        """The lowest point of the lower edge and the highest of the upper between two places."""
        lows, highs = [], []
        for a, b in pairwise(self.bends(x0, x1)):
            for x in (a + EPS, b - EPS):
                lows.append(height_at(self.lower, x) if self.lower else 0.0)
                highs.append(height_at(self.upper, x) if self.upper else self.width)
        return min(lows), max(highs)

    def takes(self, box: Sequence[float], length: float, width: float) -> bool:
        """Whether a part of that length and width can be cut from the wood in the box (x, y, length, width)."""
        x, y, long, wide = box
        if width > wide + EPS:
            return False
        feet = [y] if not self.lower else sorted({y, *(min(max(y, h), y + wide - width) for _, h in self.lower)})
        for foot in feet:
            for a, b in self.stretches(x, x + long, foot):
                start, end = self.longest(a, b, foot + width)
                if end - start >= length - EPS:
                    return True
        return False

    def boxes(self, step: float) -> Iterator[tuple[float, float, float, float]]:
        """Boxes (x0, y0, x1, y1) past the edges, in steps of ``step`` up or down, eight for each straight piece at the most: all
        outside of them is wood."""
        for edge, past in ((self.upper, self.width), (self.lower, 0.0)):
            sign = 1.0 if past else -1.0
            for a, b in pairwise(clipped(edge, 0.0, self.length)):
                rise = b[1] - a[1]
                many = max(1, min(8, -int(-abs(rise) // step)))
                for k in range(many):
                    ends = a[1] + rise * k / many, a[1] + rise * (k + 1) / many
                    x0, x1 = a[0] + (b[0] - a[0]) * k / many, a[0] + (b[0] - a[0]) * (k + 1) / many
                    inner = min(ends) if sign > 0 else max(ends)
                    if x1 - x0 > EPS and sign * (past - inner) > EPS:
                        yield (x0, inner, x1, past) if sign > 0 else (x0, past, x1, inner)

    def within(self, x: float, y: float, length: float, width: float) -> tuple[Points, Points]:
        """The upper and the lower edge of a rectangle cut out of the board, from its own lower left; none where it is straight
        there."""
        out = []
        for edge, past in ((self.upper, width), (self.lower, 0.0)):
            run = _crossed(clipped(edge, x, x + length), (y, y + width))
            points = [(px - x, min(max(h - y, 0.0), width)) for px, h in run]
            out.append(() if all(abs(h - past) < JOINED for _, h in points) else tuple(points))
        return out[0], out[1]


def height_at(points: Sequence[tuple[float, float]], x: float) -> float:
    """How high an edge lies at ``x``: straight between its points, level beyond the first and the last."""
    if x <= points[0][0]:
        return points[0][1]
    for (xa, ya), (xb, yb) in pairwise(points):
        if x < xb:
            return ya + (yb - ya) * (x - xa) / (xb - xa)
    return points[-1][1]


def clipped(points: Points, x0: float, x1: float) -> Points:
    """An edge between two places along it, mm, with points there; nothing where it has none."""
    if not points:
        return ()
    first, last = (x0, height_at(points, x0 + EPS)), (x1, height_at(points, x1 - EPS))
    return (first, *(p for p in points if x0 + EPS < p[0] < x1 - EPS), last)


def _crossed(points: Points, levels: Sequence[float]) -> Points:
    """An edge with points where it crosses some levels."""
    out = list(points[:1])
    for a, b in pairwise(points):
        shares = sorted((level - a[1]) / (b[1] - a[1]) for level in levels if min(a[1], b[1]) < level < max(a[1], b[1]))
        out += [(a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s) for s in shares]
        out.append(b)
    return tuple(out)
