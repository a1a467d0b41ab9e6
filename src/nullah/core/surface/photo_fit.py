"""A board found on a photograph: from its corners, points on its edges and lengths told on it, the plane's perspective and one term of
the lens, by least squares, and how far off a place that is read from the picture is likely to be.

Perspective is the plane map of ``perspective``; the lens moves each place along its ray from the picture's middle by a share that grows
with the square of its distance (the first radial term of lens distortion, any textbook of photogrammetry).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from nullah.core.surface.perspective import Point, convex, plane_map, sampled
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

CORNER, POINTED = 1.2, 0.8  # pixels a corner and a place on an edge are pointed at within, one standard deviation
STRAIGHT = 0.6  # mm an edge of a board is from straight, one standard deviation
TAPE = 0.5  # mm a length is read within
LENS = 0.02  # share that a lens moves the corners of its picture by, one standard deviation (of phones and small cameras, no source)
_ROUNDS, _STEP, _SETTLED = 12, 1e-3, 1e-5
Known = tuple[Point, Point, float]  # two places on the picture and the length between them, mm


@frozen
class PhotoFit:
    """``corners``: of the board on a picture whose lens bends nothing, pixels; ``lens``: the share by which the picture's own corners
    are moved; ``likely``: mm that a place read from it is within, 19 times in 20."""

    size: tuple[float, float]
    picture: tuple[int, int]
    corners: tuple[Point, ...]
    lens: float
    likely: float

    def pixels(self, places: Floats) -> Floats:
        """Where places of the board (N x 2, mm from its upper left corner, right and down) are on the picture, N x 2."""
        return _bent(_through(plane_map(_rectangle(self.size), self.corners), places), self.lens, self.picture)

    def places(self, pixels: Floats) -> Floats:
        """The places of the board, mm from its upper left corner, right and down, that pixels (N x 2) show."""
        back = _inverse(plane_map(_rectangle(self.size), self.corners))
        return _through(back, _unbent(pixels, self.lens, self.picture))

    def length_between(self, one: Point, other: Point) -> float:
        """How far apart what two pixels show is on the board, mm."""
        a, b = self.places(np.array([one, other], dtype=float))
        return float(math.dist(a, b))

    def upright(self, picture: Floats, wide: int, tall: int) -> Floats:
        """The board as it would be seen square on, so many pixels wide and tall; H x W x 3, 0 to 255, as is ``picture``."""
        x, y = np.meshgrid((np.arange(wide) + 0.5) * self.size[0] / wide, (np.arange(tall) + 0.5) * self.size[1] / tall)
        return sampled(picture, self.pixels(np.column_stack([x.ravel(), y.ravel()])), wide, tall)


def fit(
    size: tuple[float, float],
    corners: Sequence[Point],
    picture: tuple[int, int],
    edges: Sequence[Point] = (),
    known: Sequence[Known] = (),
) -> PhotoFit:
    """The board as it lies on a picture.

    Args:
        size: length and width of the board, mm. corners: upper left, upper right, lower right, lower left, pixels, convex.
        picture: pixels wide and tall. edges: points on the board's edges. known: lengths told between two points on its face.

    Raises:
        ValueError: the corners lie on a line, or what is told does not go together.
    """
    given, rim = np.array(corners, dtype=float), np.array(edges, dtype=float).reshape(-1, 2)
    sides = [_nearest(p, given) for p in rim]
    mm = math.sqrt(size[0] * size[1] / max(1.0, abs(_area(given))))  # a pixel of the board, about
    off = math.hypot(POINTED, STRAIGHT / mm)
    tape = math.hypot(TAPE, POINTED * math.sqrt(2) * mm)
    ends = np.array([p for a, b, _ in known for p in (a, b)], dtype=float).reshape(-1, 2)
    told = np.array([length for _, _, length in known])

    def misses(unknown: Floats) -> Floats:
        flat, lens = unknown[:8].reshape(4, 2), float(unknown[8])
        out = [((_bent(flat, lens, picture) - given) / CORNER).ravel(), [lens / LENS]]
        if len(rim):
            out.append(_aside(_unbent(rim, lens, picture), flat, sides) / off)
        if len(told):
            back = _inverse(plane_map(_rectangle(size), [(float(x), float(y)) for x, y in flat]))
            at = _through(back, _unbent(ends, lens, picture))
            out.append((np.hypot(*(at[1::2] - at[::2]).T) - told) / tape)
        return np.concatenate(out)

    unknown = np.append(given.ravel(), 0.0)
    for _ in range(_ROUNDS):
        slopes, now = _slopes(misses, unknown), misses(unknown)
        step = np.linalg.lstsq(slopes, now, rcond=None)[0]
        unknown = unknown - step
        unknown[8] = min(max(unknown[8], -0.2), 0.2)
        if not convex([(float(x), float(y)) for x, y in unknown[:8].reshape(4, 2)]):
            raise ValueError("what is told of the picture does not go together")
        if np.abs(step).max() < _SETTLED:
            break
    left, slopes = misses(unknown), _slopes(misses, unknown)
    spare = len(rim) + len(told)
    worse = max(1.0, float(left @ left) / spare) if spare else 1.0
    spread = worse * _inverse(slopes.T @ slopes)
    found = PhotoFit(size, picture, tuple((float(x), float(y)) for x, y in unknown[:8].reshape(4, 2)), unknown[8], 0.0)
    return PhotoFit(size, picture, found.corners, float(unknown[8]), _likely(found, unknown, spread))


def _likely(found: PhotoFit, unknown: Floats, spread: Floats) -> float:
    """Twice the root of the mean square by which places all over the board are missed, mm."""
    x, y = np.meshgrid(np.linspace(0.05, 0.95, 9) * found.size[0], np.linspace(0.1, 0.9, 4) * found.size[1])
    seen = found.pixels(np.column_stack([x.ravel(), y.ravel()]))

    def places(values: Floats) -> Floats:
        flat = tuple((float(a), float(b)) for a, b in values[:8].reshape(4, 2))
        return PhotoFit(found.size, found.picture, flat, float(values[8]), 0.0).places(seen).ravel()

    moved = _slopes(places, unknown)
    return 2 * math.sqrt(float(np.einsum("ij,jk,ik->", moved, spread, moved)) / len(seen))


def _slopes(of: Callable[[Floats], Floats], at: Floats) -> Floats:
    """How a vector changes with each of its unknowns, by differences to either side."""
    columns = []
    for k in range(len(at)):
        step = np.zeros(len(at))
        step[k] = _STEP if k < 8 else _STEP / 100
        columns.append((of(at + step) - of(at - step)) / (2 * step[k]))
    out: Floats = np.column_stack(columns)
    return out


def _inverse(matrix: Floats) -> Floats:
    out: Floats = np.linalg.inv(matrix).astype(float)
    return out


def _rectangle(size: tuple[float, float]) -> list[Point]:
    return [(0.0, 0.0), (size[0], 0.0), (size[0], size[1]), (0.0, size[1])]


def _through(matrix: Floats, points: Floats) -> Floats:
    flat = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    out: Floats = flat[:, :2] / flat[:, 2:]
    return out


def _middle(picture: tuple[int, int]) -> tuple[Floats, float]:
    """The middle of a picture and the square of how far its corners are from it."""
    return np.array([picture[0] / 2, picture[1] / 2]), (picture[0] ** 2 + picture[1] ** 2) / 4


def _bent(points: Floats, lens: float, picture: tuple[int, int]) -> Floats:
    """Where a lens shows what would be at these pixels without it."""
    middle, far = _middle(picture)
    ray = points - middle
    out: Floats = middle + ray * (1 + lens * (ray**2).sum(axis=1, keepdims=True) / far)
    return out


def _unbent(points: Floats, lens: float, picture: tuple[int, int]) -> Floats:
    """The pixels that would show the same without the lens."""
    middle, far = _middle(picture)
    ray = points - middle
    flat = ray
    for _ in range(12):
        flat = ray / (1 + lens * (flat**2).sum(axis=1, keepdims=True) / far)
    out: Floats = middle + flat
    return out


def _nearest(point: Floats, corners: Floats) -> int:
    """Which side of the board, by its first corner, a point is nearest to."""
    return int(np.argmin([abs(_aside(point[None, :], corners, [k])[0]) for k in range(4)]))


def _aside(points: Floats, corners: Floats, sides: Sequence[int]) -> Floats:
    """How far each point is from the line of its side, pixels."""
    a, b = corners[list(sides)], corners[[(k + 1) % 4 for k in sides]]
    way = (b - a) / np.hypot(*(b - a).T)[:, None]
    out: Floats = (points - a)[:, 0] * way[:, 1] - (points - a)[:, 1] * way[:, 0]
    return out


def _area(corners: Floats) -> float:
    x, y = corners.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2
