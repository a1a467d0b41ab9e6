"""Perspective taken out of a photograph: the plane map that takes a rectangle to four points on a picture.

The projective map of a plane has eight unknowns, which four points fix (any textbook on projective geometry): two linear equations a
point. A picture squared is then sampled between its pixels by bilinear weights.
"""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.values.arrays import Floats, np

Point = tuple[float, float]


def convex(corners: Sequence[Point]) -> bool:
    """Whether four points go round a figure without a dent, none on the line of its neighbours, all turning the same way: clockwise as
    a picture is seen (its second coordinate runs down)."""
    turns = []
    for k in range(len(corners)):
        a, b, c = corners[k - 2], corners[k - 1], corners[k]
        turns.append((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]))
    return len(corners) == 4 and all(t > 1.0 for t in turns)


def plane_map(rectangle: Sequence[Point], picture: Sequence[Point]) -> Floats:
    """The 3 x 3 matrix that takes points (x, y, 1) of a rectangle to a picture, up to their third coordinate.

    Args:
        rectangle, picture: four points each, in the same order; no three of either on a line.

    Raises:
        ValueError: three of them lie on a line.
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(rectangle, picture, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    try:
        eight = np.linalg.solve(np.array(rows, dtype=float), np.array(right, dtype=float))
    except np.linalg.LinAlgError:
        raise ValueError("three of the corners lie on a line") from None
    return np.append(eight, 1.0).reshape(3, 3)


def through(matrix: Floats, points: Sequence[Point]) -> list[Point]:
    """Points taken through a plane map."""
    flat = np.column_stack([np.array(points, dtype=float), np.ones(len(points))]) @ matrix.T
    return [(float(u / w), float(v / w)) for u, v, w in flat]


def squared(picture: Floats, corners: Sequence[Point], wide: int, tall: int) -> Floats:
    """A picture's part between four corners as an upright one.

    Args:
        picture: H x W x 3, 0 to 255. corners: upper left, upper right, lower right, lower left, in its pixels, (0, 0) the corner of the
            first. wide, tall: pixels of what is given.

    Returns:
        tall x wide x 3, 0 to 255.
    """
    matrix = plane_map([(0, 0), (wide, 0), (wide, tall), (0, tall)], corners)
    x, y = np.meshgrid(np.arange(wide) + 0.5, np.arange(tall) + 0.5)
    flat = np.stack([x.ravel(), y.ravel(), np.ones(x.size)])
    u, v, w = matrix @ flat
    return sampled(picture, np.stack([u / w, v / w], axis=1), wide, tall)


def sampled(picture: Floats, places: Floats, wide: int, tall: int) -> Floats:
    """A picture looked at in so many places, between its pixels by bilinear weights.

    Args:
        picture: H x W x 3, 0 to 255. places: tall * wide x 2, its pixels, row by row; beyond it its rim is taken.

    Returns:
        tall x wide x 3, 0 to 255.
    """
    high, across = picture.shape[:2]
    u, v = np.clip(places[:, 0] - 0.5, 0, across - 1), np.clip(places[:, 1] - 0.5, 0, high - 1)
    left, top = np.floor(u).astype(int), np.floor(v).astype(int)
    right, low = np.minimum(left + 1, across - 1), np.minimum(top + 1, high - 1)
    a, b = (u - left)[:, None], (v - top)[:, None]
    upper = picture[top, left] * (1 - a) + picture[top, right] * a
    lower = picture[low, left] * (1 - a) + picture[low, right] * a
    out: Floats = (upper * (1 - b) + lower * b).reshape(tall, wide, 3)
    return out


def by_lengths(corner: Point, along: Point, across: Point, shares: Point) -> list[Point]:
    """The four corners of a rectangle seen square on, from its upper left one and two points of its sides.

    Args:
        corner: upper left, pixels.
        along, across: a point on the upper side and one on the left side, pixels.
        shares: the whole side over what lies between the corner and that point, of each.

    Returns:
        Upper left, upper right, lower right, lower left, pixels.
    """
    u, v = ((p[0] - corner[0]) * share for p, share in ((along, shares[0]), (across, shares[1])))
    w, x = ((p[1] - corner[1]) * share for p, share in ((along, shares[0]), (across, shares[1])))
    right, low = (corner[0] + u, corner[1] + w), (corner[0] + v, corner[1] + x)
    return [corner, right, (right[0] + v, right[1] + x), low]
