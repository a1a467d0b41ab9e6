"""What comes off where, in mm and in shavings of a chosen plane."""

from __future__ import annotations

import math

from nullah.core.surface.heights import Rows
from nullah.core.surface.pace import minutes_of
from nullah.core.surface.readings import Flat, Surface
from nullah.core.values.frozen import frozen


@frozen
class Planing:
    """What to take off a board or part to leave it flat (``flat``), and then to thickness.

    ``spare`` mm more, everywhere, bring it to the thickness ``wanted`` (negative: it falls short).
    """

    flat: Flat
    thickest: float
    wanted: float

    @property
    def x(self) -> tuple[float, ...]:
        """mm from the left end."""
        return self.flat.x

    @property
    def y(self) -> tuple[float, ...]:
        """mm from the lower edge."""
        return self.flat.y

    @property
    def face(self) -> Rows:
        """mm off the face side."""
        return self.flat.face

    @property
    def back(self) -> Rows:
        """mm off the other side."""
        return self.flat.back

    @property
    def spare(self) -> float:
        """mm left over the thickness wanted."""
        return self.thickest - self.wanted

    @property
    def enough(self) -> bool:
        """Whether the thickness wanted is in it, to 0.05 mm (closer than a gauge line)."""
        return self.spare >= -0.05

    def shavings(self, shaving: float) -> int:
        """Shavings of that thickness at the highest spot of the face side, until the whole face is flat."""
        return math.ceil(self.flat.most[2] / shaving - 1e-9)

    def highest(self) -> tuple[float, float, float]:
        """(x, y, mm) of the most that comes off the face side."""
        return self.flat.most


def planing(surface: Surface, wanted: float, x: float, y: float, length: float, width: float) -> Planing:
    """What comes off a rectangle of a surface; ``wanted`` is the finished thickness, mm. What is promised errs on the careful side."""
    flat = surface.to_flat(x, y, length, width)
    return Planing(flat, flat.thickest - surface.careful, wanted)


def hollow_left(sole: float, iron: float, shaving: float, length: float) -> float:
    """Hollow left over ``length`` mm by a plane set to ``shaving``: curvature stops at R = a b / (2 d), l^2 / (8 R) is left."""
    radius = iron * (sole - iron) / (2 * shaving)
    return length**2 / (8 * radius)


# passes over the whole of both faces that clear them and that a mm off both, in the mean, takes with a plane set to 1 mm: what the
# plane's own strokes come to (surface.rounds), within two fifths on boards of all shapes and sizes
_CLEARING, _BY_MM = 6.0, 8.5


def minutes(mean: float, length: float, width: float, iron: float, shaving: float) -> float:
    """Minutes to plane both faces of a board flat, without reading it.

    Args:
        mean: what comes off both faces together, mm, mean over the board.
        length, width: of the board, mm.
        iron, shaving: of the coarsest plane at hand: how wide, and how deep it is set, mm.
    """
    passes = _CLEARING + _BY_MM * mean / shaving
    strokes = (length + width) / math.sqrt(2.0) / iron
    return passes * minutes_of(strokes, length * width / iron)
