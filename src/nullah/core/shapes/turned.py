"""Parts that stand in a turned frame, seen from outside it, and the other way round."""

from __future__ import annotations

import math
from collections.abc import Sequence

from nullah.core.shapes.cut import Placed, Point3

AXES = {"x": 0, "y": 1, "z": 2}


def out_of(placed: Placed, at: Sequence[float], axis: str, degrees: float) -> Placed:
    """A part of a frame that is turned by ``degrees`` about an axis through ``at``, as it stands outside.

    The turn is right-handed: about x it takes y towards z. Lengths in mm.
    """
    x, y, z = turned(placed.origin, axis, degrees)
    return Placed(placed.id, placed.size, (x + at[0], y + at[1], z + at[2]), _ways(placed, axis, degrees))


def into(placed: Placed, at: Sequence[float], axis: str, degrees: float) -> Placed:
    """A part that stands outside, as it stands in the frame: the other way round."""
    x, y, z = (o - a for o, a in zip(placed.origin, at, strict=True))
    return Placed(placed.id, placed.size, turned((x, y, z), axis, -degrees), _ways(placed, axis, -degrees))


def turned(point: Point3, axis: str, degrees: float) -> Point3:
    """A point or a way turned about an axis through the origin."""
    if not degrees:
        return point
    angle = math.radians(degrees)
    k = AXES[axis]
    i, j = (k + 1) % 3, (k + 2) % 3
    out = list(point)
    out[i] = point[i] * math.cos(angle) - point[j] * math.sin(angle)
    out[j] = point[i] * math.sin(angle) + point[j] * math.cos(angle)
    return (out[0], out[1], out[2])


def _ways(placed: Placed, axis: str, degrees: float) -> tuple[Point3, Point3, Point3]:
    a, b, c = (turned(way, axis, degrees) for way in placed.axes)
    return (a, b, c)
