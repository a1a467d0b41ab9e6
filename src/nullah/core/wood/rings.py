"""Year rings of a board: cylinders about a pith line that leans a little, so that face figure and end grain agree.

The cross-section has y from the lower edge (0) to the upper (width) and z from the back (0) to the face (thickness). Where
the rings meet a face they draw its figure; where they meet an end they draw arcs; a line of the figure runs into the arc of
the same ring. How far off the pith lies, which side, and how wide the rings are is not known of a board until it is looked
at: they are taken from a seed, so that each board has a figure of its own and keeps it. Geometry of the circle.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Iterable, Sequence
from functools import lru_cache

from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

Point = tuple[float, float]
Run = tuple[Point, ...]
STEPS = 28  # points along a face
MOST = 240  # rings of a board
LEAST_AWAY = 1.0  # mm: no pith is told nearer to the middle of an end, so that there is always a way to it


@frozen
class Wood:
    """What of a piece of wood shows in a drawing. ``ring_angle`` of the rings to the face in degrees: 0 flat, 90 quarter. ``pith``: the
    edge it lies towards, "" where nobody looked; ``away``: mm from the middle of the end, 0 where nobody looked; ``rises``: the end
    towards which the grain comes up to the face, "" where nobody looked."""

    species: str
    ring_angle: float = 0.0
    heart_at_back: bool = True
    seed: str = ""
    pith: str = ""
    away: float = 0.0
    rises: str = ""


@frozen
class Rings:
    """Pith at the left end (``y``, ``z`` mm), how it leans a mm of length, and ring radii in growing order, mm."""

    y: float
    z: float
    lean_y: float
    lean_z: float
    radii: tuple[float, ...]
    sway: float

    def pith(self, x: float) -> tuple[float, float]:
        """Where the pith lies at x from the left end: it leans, and sways a little on the way."""
        return (self.y + self.lean_y * x + self.sway * math.sin(x / 190.0), self.z + self.lean_z * x)


def _chances(seed: str) -> list[float]:
    return [b / 255 for b in hashlib.sha256(seed.encode()).digest()]


@lru_cache(maxsize=512)
def rings(wood: Wood, length: float, width: float, thickness: float) -> Rings:
    """The rings of a board of that size, mm."""
    c = _chances(wood.seed)
    away = 70.0 + 90.0 * c[0]
    angle = math.radians(wood.ring_angle)
    side = 1 if (wood.pith == "upper" if wood.pith else c[1] < 0.5) else -1
    if wood.away > 0:
        away = max(LEAST_AWAY, wood.away)
    elif wood.ring_angle > 45:  # the pith lies beyond an edge
        away += width / 2 * math.sin(angle)
    y = width / 2 + side * away * math.sin(angle)
    z = thickness / 2 + (-1 if wood.heart_at_back else 1) * away * math.cos(angle)
    lean = (
        (c[2] - 0.5) * 0.02,
        (0.012 + 0.03 * c[3]) * (1 if (wood.rises == "right" if wood.rises else c[4] < 0.5) else -1),
    )
    spacing = 3.2 + 2.4 * c[5]
    nearest = _nearest(y, z, width, thickness)
    farthest = max(math.hypot(py - y, pz - z) for py in (0.0, width) for pz in (0.0, thickness))
    reach = abs(lean[1]) * length + abs(lean[0]) * length
    radii: list[float] = []
    if farthest - nearest + 2 * reach > MOST * spacing:  # a board so wide is seen from so far that fewer tell as much
        spacing = 2 * (farthest - nearest + 2 * reach) / MOST
    radius, i = max(spacing, nearest - reach), 0
    while radius < farthest + reach and len(radii) < MOST:
        radii.append(radius)
        radius += spacing * (0.65 + 0.7 * c[6 + i % 20])
        i += 1
    return Rings(y, z, lean[0], lean[1], tuple(radii), 1.5 + 3.5 * c[26])


def _nearest(y: float, z: float, width: float, thickness: float) -> float:
    return math.hypot(max(0.0, -y, y - width), max(0.0, -z, z - thickness))


@lru_cache(maxsize=512)
def on_face(wood: Wood, length: float, width: float, thickness: float, face: bool = True) -> tuple[Run, ...]:
    """Lines of figure as runs of (x, y) on the face (or back) of a board, mm, within it."""
    r = rings(wood, length, width, thickness)
    level = thickness if face else 0.0
    places = [length * k / STEPS for k in range(STEPS + 1)]
    py, pz = np.array([r.pith(x) for x in places]).T
    return _lines(r.radii, places, py, level - pz, width)


@lru_cache(maxsize=512)
def on_edge(wood: Wood, length: float, width: float, thickness: float, upper: bool = True) -> tuple[Run, ...]:
    """Lines of figure as runs of (x, z) on the upper (or lower) edge of a board, mm, within it; z from the back."""
    r = rings(wood, length, width, thickness)
    places = [length * k / STEPS for k in range(STEPS + 1)]
    py, pz = np.array([r.pith(x) for x in places]).T
    return _lines(r.radii, places, pz, (width if upper else 0.0) - py, thickness)


@lru_cache(maxsize=512)
def on_end(wood: Wood, length: float, width: float, thickness: float, left: bool = True) -> tuple[Run, ...]:
    """Arcs as runs of (y, z) on the left (or right) end, mm, within it."""
    r = rings(wood, length, width, thickness)
    py, pz = r.pith(0.0 if left else length)
    steep = wood.ring_angle > 45  # rings that stand are followed up the thickness, rings that lie along the width
    a0, b0, a_reach, b_reach = (pz, py, thickness, width) if steep else (py, pz, width, thickness)
    places = [a_reach * k / (3 * STEPS) for k in range(3 * STEPS + 1)]
    runs = _lines(r.radii, places, np.array(b0), np.array(places) - a0, b_reach)
    return tuple(tuple((b, a) for a, b in run) for run in runs) if steep else runs


def _lines(
    radii: Sequence[float], places: Sequence[float], middle: Floats, off: Floats, reach: float
) -> tuple[Run, ...]:
    """Where rings come out at each place, as runs of (place, so far across), from 0 to ``reach`` across: on both sides of the
    ``middle``, that lies ``off`` behind what is looked at."""
    inside = np.array(radii)[:, None] ** 2 - off**2
    root = np.sqrt(np.maximum(inside, 0.0))
    across = np.stack([middle + root, middle - root], axis=1)  # ring, side, place
    there = (inside >= 0)[:, None, :] & (across >= 0) & (across <= reach)
    out: list[Run] = []
    for ring, side in zip(*np.nonzero(there.any(axis=2)), strict=True):
        along = zip(places, across[ring, side].tolist(), there[ring, side].tolist(), strict=True)
        out += unbroken((x, y) if seen else None for x, y, seen in along)
    return tuple(out)


def unbroken(points: Iterable[Point | None]) -> list[Run]:
    """The runs of two points or more between places where there is none."""
    out: list[Run] = []
    run: list[Point] = []
    for point in (*points, None):
        if point is not None:
            run.append(point)
            continue
        if len(run) > 1:
            out.append(tuple(run))
        run = []
    return out
