"""What comes off where, in mm and in shavings of a chosen plane."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from nullah.core.surface.readings import Surface
from nullah.core.surface.slab import Floats, Slab


@dataclass(frozen=True)
class Planing:
    """What to take off a board or part to leave it flat, and then to thickness.

    Arrays are ALONG x ACROSS, mm. ``face`` comes off the face side, ``back`` off the other to the thickest flat board;
    ``spare`` mm more, everywhere, bring it to the thickness wanted (negative: it falls short).
    """

    x: Floats
    y: Floats
    face: Floats
    back: Floats
    thickest: float
    wanted: float

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
        return math.ceil(float(self.face.max()) / shaving - 1e-9)

    def highest(self) -> tuple[float, float, float]:
        """(x, y, mm) of the most that comes off the face side."""
        i = np.unravel_index(int(np.argmax(self.face)), self.face.shape)
        return float(self.x[i]), float(self.y[i]), float(self.face[i])


def planing(surface: Surface, wanted: float, x: float, y: float, length: float, width: float) -> Planing:
    """What comes off a rectangle of a surface; ``wanted`` is the finished thickness, mm."""
    xs, ys, top, bottom = surface.section(x, y, length, width)
    slab: Slab = surface.slab(x, y, length, width)
    upper = slab.upper(xs, ys)
    face = np.maximum(top - upper, 0.0)
    back = np.maximum(upper - slab.thickness - bottom, 0.0)
    return Planing(xs, ys, face, back, slab.thickness, wanted)


def hollow_left(sole: float, iron: float, shaving: float, length: float) -> float:
    """Hollow left over ``length`` mm by a plane set to ``shaving``: curvature stops at R = a b / (2 d), l^2 / (8 R) is left."""
    radius = iron * (sole - iron) / (2 * shaving)
    return length**2 / (8 * radius)
