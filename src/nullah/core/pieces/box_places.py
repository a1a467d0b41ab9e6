"""Where the parts of the box stand when it is closed.

The outside corner of D and A is at (0, 0, 0); sides lie against the shoulders of their mates, so that ends gauged under the mate's
thickness stand back and ends gauged over it leave the gap that they leave on the bench.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.box import SIDES, Box
from nullah.core.pieces.part import Part
from nullah.core.shapes.cut import Placed, stand

OUTSIDE = {"A": "front", "B": "right", "C": "back", "D": "left"}


def placed(box: Box, joints: Sequence[JointPlan]) -> tuple[Placed, ...]:
    """Every part of the box where it stands, in the order of its parts.

    Args:
        joints: as they are laid out; the corners tell how far each side lies in.
    """
    deep = _shoulders(box, joints)
    return tuple(_stand(box, p, deep) for p in box.parts)


def _shoulders(box: Box, joints: Sequence[JointPlan]) -> Mapping[str, float]:
    """How far from the outside each side's inside face lies, mm: no further than the baseline on its mates lets it."""
    deep = dict(box.thickness)
    for joint in joints:
        if not joint.id.startswith("corner "):
            continue
        tail, pin = joint.parts
        deep[pin] = min(deep[pin], joint.figures[f"baseline on {tail}"])
        deep[tail] = min(deep[tail], joint.figures[f"baseline on {pin}"])
    return deep


def _stand(box: Box, part: Part, deep: Mapping[str, float]) -> Placed:
    length, width, height = box.outside
    inside = (length - deep["B"], width - deep["C"])  # of the right end and the back
    if part.id in SIDES:
        low = {
            "A": (0.0, deep["A"] - part.thickness, 0.0),
            "B": (inside[0], 0.0, 0.0),
            "C": (0.0, inside[1], 0.0),
            "D": (deep["D"] - part.thickness, 0.0, 0.0),
        }[part.id]
        return stand(part.id, part.sizes, OUTSIDE[part.id], "up", low)
    middle = ((deep["D"] + inside[0]) / 2, (deep["A"] + inside[1]) / 2)
    if part.group == "dividers":
        low_x = box.dado_centres[int(part.id) - 1] - part.thickness / 2
        floor = box.groove_from_edge + box.bottom_thickness
        return stand(part.id, part.sizes, "right", "up", (low_x, middle[1] - part.length / 2, floor))
    if part.id == "bottom":
        low = (middle[0] - part.length / 2, middle[1] - part.width / 2, box.groove_from_edge)
    elif box.lid_slides:
        low = (length - part.length, middle[1] - part.width / 2, height - box.lid_from_edge - part.thickness)
    else:
        low = ((length - part.length) / 2, (width - part.width) / 2, height - part.thickness / 2)
    return stand(part.id, part.sizes, "up", "back", low)
