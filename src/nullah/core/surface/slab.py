"""The thickest flat board inside a rough one, as an exact linear programme.

Maximise t over planes p = a + b x + c y with p <= top and p - t >= bottom at every point. Its dual has four equality
rows, so the simplex keeps a basis of four points, and pricing a column is asking which point is most violated.
Minimum zone: ISO 12781 (flatness), taken vertically here.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import inf, isfinite
from operator import sub
from typing import Any, Protocol, overload

from nullah.core.surface.linear import solved
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

_PATIENCE = 60  # steps without gain before Bland's rule takes over, which cannot cycle
_WANTED = (0.0, 0.0, 0.0, 1.0)


class NotASurface(ValueError):
    """Heights that span no surface, or are not numbers."""


@frozen
class Slab:
    """The upper plane ``a + b x + c y`` of the thickest flat board, and its thickness in mm (negative: there is none)."""

    a: float
    b: float
    c: float
    thickness: float

    @overload
    def upper(self, x: float, y: float) -> float: ...
    @overload
    def upper(self, x: Floats, y: Floats) -> Floats: ...
    def upper(self, x: Any, y: Any) -> Any:
        """Height of the upper plane at a place, mm (of arrays: at each)."""
        return self.a + self.b * x + self.c * y


class _Points(Protocol):
    """Places, scaled to -1 to 1 along and across, and the heights read there: the top of point i, its bottom as n + i."""

    def __len__(self) -> int: ...

    @property
    def places(self) -> list[tuple[float, float]]:
        """Middle and half of what they span, along and across, mm."""
        ...

    @property
    def largest(self) -> float:
        """The largest height, whatever its sign."""
        ...

    def corners(self) -> tuple[int, int, int]:
        """Three points far from one line: the start of the basis."""
        ...

    def at(self, i: int) -> tuple[float, float, float, float]:
        """Place and heights of a point: along, across, top, bottom."""
        ...

    def slack(self, plane: Sequence[float]) -> Any:
        """By how much each height leaves room (negative: is in the way) to a plane a + b u + c v and a thickness."""
        ...

    def least(self, slack: Any) -> int:
        """Which of them leaves least."""
        ...


class _Few:
    """Points in plain lists: a board's readings give a few hundred."""

    def __init__(self, *told: Sequence[float]):
        if not all(all(map(isfinite, column)) for column in told):
            raise NotASurface("A height here is not a finite number.")
        self.places = [_span(min(one), max(one)) for one in told[:2]]
        self._u, self._v = (
            [(one - middle) / half for one in column] for column, (middle, half) in zip(told, self.places, strict=False)
        )
        self._up, self._low = told[2:]
        self.largest = max(max(self._up), -min(self._up), max(self._low), -min(self._low))

    def __len__(self) -> int:
        return len(self._u)

    def corners(self) -> tuple[int, int, int]:
        us, vs = self._u, self._v
        sums = [x + y for x, y in zip(us, vs, strict=True)]
        first = sums.index(min(sums))
        u, v = us[first], vs[first]
        far = [(x - u) ** 2 + (y - v) ** 2 for x, y in zip(us, vs, strict=True)]
        second = far.index(max(far))
        p, q = us[second] - u, vs[second] - v
        off = [abs((x - u) * q - (y - v) * p) for x, y in zip(us, vs, strict=True)]
        return first, second, off.index(max(off))

    def at(self, i: int) -> tuple[float, float, float, float]:
        return self._u[i], self._v[i], self._up[i], self._low[i]

    def slack(self, plane: Sequence[float]) -> list[float]:
        a, b, c, t = plane
        heights = [a + b * x + c * y for x, y in zip(self._u, self._v, strict=True)]
        above = list(map(sub, self._up, heights))
        return above + [room - t for room in map(sub, heights, self._low)]

    def least(self, slack: list[float]) -> int:
        return slack.index(min(slack))


class _Many:
    """The same of arrays: a surface that was scanned has millions."""

    def __init__(self, *told: Floats):
        columns = [np.asarray(one, dtype=np.float64).ravel() for one in told]
        if not all(np.isfinite(one).all() for one in columns):
            raise NotASurface("A height here is not a finite number.")
        self.places = [_span(float(one.min()), float(one.max())) for one in columns[:2]]
        self._u, self._v = ((one - middle) / half for one, (middle, half) in zip(columns, self.places, strict=False))
        self._up, self._low = columns[2:]
        self.largest = float(max(abs(self._up).max(), abs(self._low).max()))

    def __len__(self) -> int:
        return int(self._u.size)

    def corners(self) -> tuple[int, int, int]:
        first = int((self._u + self._v).argmin())
        u, v = self._u - self._u[first], self._v - self._v[first]
        second = int((u * u + v * v).argmax())
        return first, second, int(abs(u * v[second] - v * u[second]).argmax())

    def at(self, i: int) -> tuple[float, float, float, float]:
        return float(self._u[i]), float(self._v[i]), float(self._up[i]), float(self._low[i])

    def slack(self, plane: Sequence[float]) -> Floats:
        a, b, c, t = plane
        heights = a + b * self._u + c * self._v
        return np.concatenate([self._up - heights, heights - t - self._low])

    def least(self, slack: Floats) -> int:
        return int(slack.argmin())


def _span(least: float, most: float) -> tuple[float, float]:
    """Middle and half."""
    if most <= least:
        raise NotASurface(_ON_A_LINE)
    return (most + least) / 2, (most - least) / 2


_ON_A_LINE = "These points lie on one line; a surface needs points along and across."


def thickest_slab(x: Any, y: Any, top: Any, bottom: Any) -> Slab:
    """The thickest flat board with top and bottom parallel between two surfaces read at the same points.

    Args:
        x, y, top, bottom: positions and heights of upper and lower face, mm; lists of one length, or arrays of one shape.

    Returns:
        The slab; where several are equally thick, one of them.

    Raises:
        NotASurface: fewer than three points, points on one line, or values that are not finite.
    """
    if (len(x) if isinstance(x, list) else x.size) < 3:
        raise NotASurface("A surface needs three points or more.")
    points: _Points = (_Few if isinstance(x, list) else _Many)(x, y, top, bottom)
    (mx, hx), (my, hy) = points.places
    a, b, c, t = _simplex(points)
    return Slab(a - b * mx / hx - c * my / hy, b / hx, c / hy, t)


def _simplex(points: _Points) -> Sequence[float]:
    """Revised simplex on the dual; ends at optimality: the plane and the thickness.

    Constraint i < n is top point i, n + i bottom point i; the dual's column is the constraint's row.
    """
    n = len(points)

    def column(i: int) -> tuple[tuple[float, float, float, float], float]:
        u, v, up, low = points.at(i % n)
        return ((1.0, u, v, 0.0), up) if i < n else ((-1.0, -u, -v, 1.0), -low)

    first, second, third = points.corners()
    (u0, v0), (u1, v1), (u2, v2) = (points.at(i)[:2] for i in (first, second, third))
    if abs((u2 - u0) * (v1 - v0) - (v2 - v0) * (u1 - u0)) < 1e-12:
        raise NotASurface(_ON_A_LINE)
    basis = [first, second, third, n + first]
    tolerance = 1e-10 * max(1.0, points.largest)
    stalled, best = 0, inf
    while True:
        columns, costs = zip(*map(column, basis), strict=True)
        plane = solved(columns, costs)
        matrix = list(zip(*columns, strict=True))
        share = [max(one, 0.0) for one in solved(matrix, _WANTED)]
        value = sum(cost * part for cost, part in zip(costs, share, strict=True))
        stalled = 0 if value < best - tolerance else stalled + 1
        best = min(best, value)
        slack = points.slack(plane)
        for i in basis:
            slack[i] = 0.0
        entering = points.least(slack)
        if slack[entering] >= -tolerance:
            return plane
        if stalled > _PATIENCE:
            entering = next(i for i, one in enumerate(slack) if one < -tolerance)
        direction = solved(matrix, column(entering)[0])
        ratios = [part / way if way > 1e-12 else inf for part, way in zip(share, direction, strict=True)]
        least = min(ratios) + 1e-14
        leaving = min((at, place) for place, at in enumerate(basis) if ratios[place] <= least)[1]
        basis[leaving] = entering


def minimum_zone(x: Floats, y: Floats, heights: Floats) -> float:
    """Flatness as found: the least vertical distance between two parallel planes that hold all heights, mm.

    Arguments and errors as for ``thickest_slab``.
    """
    return max(0.0, -thickest_slab(x, y, heights, heights).thickness)


def touching(x: Floats, y: Floats, heights: Floats) -> Floats:
    """The plane of the minimum zone that touches a face from below, at each of its places, mm: least is over it.

    Arguments and errors as for ``thickest_slab``.
    """
    upper = thickest_slab(x, y, heights, heights).upper(x, y)
    return upper + float((heights - upper).min())


def grid(heights: Floats) -> tuple[Floats, Floats]:
    """Positions for evenly spaced heights, rows along the length: x and y in steps, each shaped as ``heights``.

    Raises:
        NotASurface: it is not a table of at least two rows and two columns.
    """
    if heights.ndim != 2 or min(heights.shape) < 2:
        raise NotASurface("Heights are a table of at least two rows and two columns.")
    x, y = np.meshgrid(np.arange(heights.shape[0]), np.arange(heights.shape[1]), indexing="ij")
    return x.astype(np.float64), y.astype(np.float64)
