"""The thickest flat board inside a rough one, as an exact linear programme.

Maximise t over planes p = a + b x + c y with p <= top and p - t >= bottom at every point. Its dual has four equality
rows, so the simplex keeps a basis of four points, and pricing a column is asking which point is most violated.
Minimum zone: ISO 12781 (flatness), taken vertically here.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from nullah.core.frozen import frozen

Floats = NDArray[np.float64]

_PATIENCE = 60  # steps without gain before Bland's rule takes over, which cannot cycle


class NotASurface(ValueError):
    """Heights that span no surface, or are not numbers."""


@frozen
class Slab:
    """The upper plane ``a + b x + c y`` of the thickest flat board, and its thickness in mm (negative: there is none)."""

    a: float
    b: float
    c: float
    thickness: float

    def upper(self, x: Floats, y: Floats) -> Floats:
        """Height of the upper plane, mm, shaped as x and y."""
        return self.a + self.b * x + self.c * y


def _scaled(v: Floats) -> tuple[Floats, float, float]:
    middle, half = (v.max() + v.min()) / 2, (v.max() - v.min()) / 2
    if half <= 0:
        raise NotASurface("These points lie on one line; a surface needs points along and across.")
    return (v - middle) / half, float(middle), float(half)


def thickest_slab(x: Floats, y: Floats, top: Floats, bottom: Floats) -> Slab:
    """The thickest flat board with top and bottom parallel between two surfaces read at the same points.

    Args:
        x, y, top, bottom: arrays of one common shape, mm; positions and heights of upper and lower face.

    Returns:
        The slab; where several are equally thick, one of them.

    Raises:
        NotASurface: fewer than three points, points on one line, or values that are not finite.
    """
    xs, ys, up, low = (np.asarray(v, dtype=np.float64).ravel() for v in (x, y, top, bottom))
    if xs.size < 3:
        raise NotASurface("A surface needs three points or more.")
    if not all(np.isfinite(v).all() for v in (xs, ys, up, low)):
        raise NotASurface("A height here is not a finite number.")
    (u, mx, hx), (v, my, hy) = _scaled(xs), _scaled(ys)
    a, b, c, t = _simplex(u, v, up, low)
    return Slab(a - b * mx / hx - c * my / hy, b / hx, c / hy, t)


def _corners(u: Floats, v: Floats) -> tuple[int, int, int]:
    """Three points far from one line: the start of the basis."""
    first = int(np.argmin(u + v))
    second = int(np.argmax((u - u[first]) ** 2 + (v - v[first]) ** 2))
    spread = np.abs((u - u[first]) * (v[second] - v[first]) - (v - v[first]) * (u[second] - u[first]))
    third = int(np.argmax(spread))
    if spread[third] < 1e-12:
        raise NotASurface("These points lie on one line; a surface needs points along and across.")
    return first, second, third


def _simplex(u: Floats, v: Floats, up: Floats, low: Floats) -> tuple[float, float, float, float]:
    """Revised simplex on the dual; ends at optimality. Column i < n is top point i, column n + i bottom point i."""
    n = u.size
    ones = np.ones(n)
    columns = np.hstack([np.stack([ones, u, v, 0 * ones]), np.stack([-ones, -u, -v, ones])])
    cost = np.concatenate([up, -low])
    wanted = np.array([0.0, 0.0, 0.0, 1.0])
    first, second, third = _corners(u, v)
    basis = np.array([first, second, third, n + first])
    tolerance = 1e-10 * max(1.0, float(np.abs(cost).max()))
    stalled, best = 0, np.inf
    while True:
        matrix = columns[:, basis]
        plane = np.linalg.solve(matrix.T, cost[basis])
        share = np.maximum(np.linalg.solve(matrix, wanted), 0.0)
        value = float(cost[basis] @ share)
        stalled = 0 if value < best - tolerance else stalled + 1
        best = min(best, value)
        reduced = cost - plane @ columns
        reduced[basis] = 0.0
        if stalled > _PATIENCE:
            broken = np.nonzero(reduced < -tolerance)[0]
            entering = int(broken[0]) if broken.size else -1
        else:
            entering = int(np.argmin(reduced))
        if entering < 0 or reduced[entering] >= -tolerance:
            return float(plane[0]), float(plane[1]), float(plane[2]), float(plane[3])
        direction = np.linalg.solve(matrix, columns[:, entering])
        rising = direction > 1e-12
        ratio = np.where(rising, share / np.where(rising, direction, 1.0), np.inf)
        tied = np.nonzero(ratio <= ratio.min() + 1e-14)[0]
        leaving = tied[int(np.argmin(basis[tied]))]
        basis[leaving] = entering


def minimum_zone(x: Floats, y: Floats, heights: Floats) -> float:
    """Flatness as found: the least vertical distance between two parallel planes that hold all heights, mm.

    Arguments and errors as for ``thickest_slab``.
    """
    return max(0.0, -thickest_slab(x, y, heights, heights).thickness)


def grid(heights: Floats) -> tuple[Floats, Floats]:
    """Positions for evenly spaced heights, rows along the length: x and y in steps, each shaped as ``heights``.

    Raises:
        NotASurface: it is not a table of at least two rows and two columns.
    """
    if heights.ndim != 2 or min(heights.shape) < 2:
        raise NotASurface("Heights are a table of at least two rows and two columns.")
    x, y = np.meshgrid(np.arange(heights.shape[0]), np.arange(heights.shape[1]), indexing="ij")
    return x.astype(np.float64), y.astype(np.float64)
