"""The piece as solids: each part where it stands, less what its joints take away."""

from __future__ import annotations

from nullah.core.frozen import frozen
from nullah.core.pieces.box_places import placed
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.solid import solid

MOST_CUTS = 2_500  # about a second's work


@frozen
class Body:
    """A part's closed solid in the piece: corners in mm, triangles of corner numbers anticlockwise from outside."""

    part: str
    corners: tuple[Point3, ...]
    triangles: tuple[tuple[int, int, int], ...]


def bodies(plan: Plan) -> tuple[Body, ...]:
    """Every part's body, the piece closed as it stands; none where there are no parts, a joint cannot be laid out, or there are more
    than ``MOST_CUTS``, which nobody could make and the solid engine takes minutes for.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    box, joints = plan.piece.box, plan.joints.joints
    if box is None or plan.joints.problem or sum(len(j.cuts) for j in joints) > MOST_CUTS:
        return ()
    out = []
    for part in placed(box, joints):
        cuts = [c for joint in joints for c in joint.cuts if c.part == part.id]
        made = solid(part.id, part.size, cuts)
        out.append(Body(part.id, tuple(part.at(c) for c in made.corners), made.triangles))
    return tuple(out)
