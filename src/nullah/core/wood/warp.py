"""What drying does to the shape of a board's end: each ring grows shorter along itself than across.

With the same change everywhere, wood of rings about a pith takes a shape free of stress: what lies at radius r goes to r times one plus
the radial change, and the angle about the pith grows by the ratio of the tangential to the radial; so a ring's length and the distance
between rings change by just what the species says (geometry; polar coordinates). A flatsawn board is hollow on the bark side when it
dries.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from nullah.core.wood.moisture import change
from nullah.core.wood.rings import Wood, rings
from nullah.core.wood.species import species

Point = tuple[float, float]
STEPS = 24  # points along a side of the end


def warped(points: Iterable[Point], pith: Point, radial: float, tangential: float) -> list[Point]:
    """Points of a cross-section after a change, about its pith, in any one unit.

    Args:
        pith: where the rings' middle lies; none of the points lies there.
        radial, tangential: the change of a dimension across and along the rings, as a share of it, more than -1.
    """
    points = list(points)
    across = 1 + radial
    turn = (1 + tangential) / across
    middle = (sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points))
    start = math.atan2(middle[1] - pith[1], middle[0] - pith[0])
    out = []
    for y, z in points:
        angle = math.atan2(z - pith[1], y - pith[0]) - start
        angle = (angle + math.pi) % (2 * math.pi) - math.pi
        r = math.hypot(y - pith[0], z - pith[1]) * across
        out.append((pith[0] + r * math.cos(start + angle * turn), pith[1] + r * math.sin(start + angle * turn)))
    return out


def end_changes(
    wood: Wood, size: tuple[float, float, float], start: float, end: float, times: float = 1.0
) -> tuple[list[Point], float]:
    """The outline of a board's left end after its moisture changes, and how far it cups.

    Args:
        size: length, width, thickness, mm. start, end: percent. times: how many times larger than life the change is drawn.

    Returns:
        The outline as points (y, z) from the lower edge and the back, anticlockwise, level in the middle of its back; and the hollow
        across the face, mm, more than 0 where the middle of the face lies low; that as it is, whatever ``times``.
    """
    length, width, thickness = size
    pith = rings(wood, length, width, thickness).pith(0.0)
    kind = species(wood.species)
    strain = {a: change(kind, 1.0, start, end, a) for a in (0.0, 90.0)}

    def shape(much: float) -> list[Point]:
        ring = _outline(width, thickness)
        return _level(warped(ring, pith, strain[90.0] * much, strain[0.0] * much), width)

    true = shape(1.0)
    low, middle, high = (true[2 * STEPS + k] for k in (0, STEPS // 2, STEPS))  # along the face, from the upper edge
    return shape(times), _sagitta(low, middle, high)


def _outline(width: float, thickness: float) -> list[Point]:
    """Round an end: along the back, up the upper edge, back along the face, down the lower edge; each side in ``STEPS``."""
    shares = [k / STEPS for k in range(STEPS)]
    return [
        *((width * s, 0.0) for s in shares),
        *((width, thickness * s) for s in shares),
        *((width * (1 - s), thickness) for s in shares),
        *((0.0, thickness * (1 - s)) for s in shares),
    ]


def _level(ring: list[Point], width: float) -> list[Point]:
    """Turned and shifted so that the ends of the back lie level, its middle on the line where it was."""
    (ya, za), (yb, zb) = ring[0], ring[STEPS]
    angle = math.atan2(zb - za, yb - ya)
    cos, sin = math.cos(-angle), math.sin(-angle)
    turned = [((y - ya) * cos - (z - za) * sin, (y - ya) * sin + (z - za) * cos) for y, z in ring]
    off = (width - turned[STEPS][0]) / 2
    down = turned[STEPS // 2][1]
    return [(y + off, z - down) for y, z in turned]


def _sagitta(low: Point, middle: Point, high: Point) -> float:
    """How far the middle lies below the line between the two others; both lie on a face that runs from high to low y."""
    share = (middle[0] - low[0]) / (high[0] - low[0])
    return low[1] + (high[1] - low[1]) * share - middle[1]
