"""What is taken away from a part, and where a part stands.

A part's own axes: x along its length from the left end, y along its width from the lower edge, z through its thickness from the back,
mm, as one looks at its face with the upper edge up.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import product

from nullah.core.drawing.display_list import Point
from nullah.core.values.arrays import np
from nullah.core.values.frozen import frozen

Point3 = tuple[float, float, float]
GRID = 4  # decimals: sizes and outlines lie on a grid of 0.0001 mm, so that what is to meet meets exactly
SIDES = {  # a part's side: the axis it stands across, and whether it is the far end of that axis
    "left": (0, False),
    "right": (0, True),
    "lower": (1, False),
    "upper": (1, True),
    "back": (2, False),
    "face": (2, True),
}

OTHER = {"left": "right", "right": "left", "lower": "upper", "upper": "lower", "back": "face", "face": "back"}


def on_grid(mm: float) -> float:
    """A length on the grid of 0.0001 mm."""
    return round(mm, GRID) + 0.0


@frozen
class Cut:
    """Wood taken away: ``outline`` on a side of a part, sunk ``depth`` mm into it.

    The outline is in the other two axes of the part, in rising order (x and y on the face). With ``far`` it is that outline at the
    depth, and the cut is the hull of the two; both are convex then.
    """

    part: str
    side: str
    outline: tuple[Point, ...]
    depth: float
    far: tuple[Point, ...] = ()


def circle(x: float, y: float, radius: float, corners: int, begun: float = 0.5) -> tuple[Point, ...]:
    """A circle as so many straight bits, mm.

    Args:
        begun: how far round its first corner stands, as a share of the turn from one to the next.
    """
    turns = [2 * math.pi * (n + begun) / corners for n in range(corners)]
    return tuple((x + radius * math.cos(t), y + radius * math.sin(t)) for t in turns)


def shifted(cut: Cut, by: Point3) -> Cut:
    """A cut moved along its part's length, width and thickness, mm; into the side it is sunk from it does not go."""
    i, j = (k for k in range(3) if k != SIDES[cut.side][0])
    outline, far = (tuple((x + by[i], y + by[j]) for x, y in points) for points in (cut.outline, cut.far))
    return Cut(cut.part, cut.side, outline, cut.depth, far)


@frozen
class Placed:
    """A part where it stands: length, width and thickness, its left lower back corner, and the ways its three axes run.

    Piece: x left to right, y front to back, z up, mm. The axes are unit vectors that make a right-handed frame, so that nothing is
    mirrored: length follows from how the face and the upper edge look.
    """

    id: str
    size: Point3
    origin: Point3
    axes: tuple[Point3, Point3, Point3]

    def at(self, point: Point3) -> Point3:
        """A point of the part in the piece."""
        x, y, z = (
            on_grid(self.origin[i] + sum(along * axis[i] for along, axis in zip(point, self.axes, strict=True)))
            for i in range(3)
        )
        return (x, y, z)

    @property
    def box(self) -> tuple[Point3, Point3]:
        """The low and the high corner of what it takes up in the piece, mm."""
        long, wide, thick = self.size
        corners = product((0.0, long), (0.0, wide), (0.0, thick))
        x, y, z = zip(*map(self.at, corners), strict=True)
        return (min(x), min(y), min(z)), (max(x), max(y), max(z))

    def all(self, points: Sequence[Point3]) -> tuple[Point3, ...]:
        """Points of the part in the piece."""
        at = np.array(points) @ np.array(self.axes) + np.array(self.origin)
        return tuple((x, y, z) for x, y, z in (np.round(at, GRID) + 0.0).tolist())


WAYS = {
    "right": (1.0, 0.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "back": (0.0, 1.0, 0.0),
    "front": (0.0, -1.0, 0.0),
    "up": (0.0, 0.0, 1.0),
    "down": (0.0, 0.0, -1.0),
}


def stand(part: str, size: Point3, face: str, upper: str, low: Point3) -> Placed:
    """A part whose face and upper edge look these ways of the piece, with ``low`` the corner of its body that is least in x, y and z.

    Args:
        size: length, width, thickness, mm; face, upper: names of ``WAYS``, at right angles.
    """
    width, thick = WAYS[upper], WAYS[face]
    along = (
        width[1] * thick[2] - width[2] * thick[1],
        width[2] * thick[0] - width[0] * thick[2],
        width[0] * thick[1] - width[1] * thick[0],
    )
    axes = (along, width, thick)
    length, wide, deep = (on_grid(mm) for mm in size)
    sizes = (length, wide, deep)
    x, y, z = (
        on_grid(low[i]) - sum(min(0.0, axis[i]) * mm for axis, mm in zip(axes, sizes, strict=True)) for i in range(3)
    )
    return Placed(part, sizes, (x, y, z), axes)
