"""The pieces as solids: each part where it stands, less what its joints take away."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import replace

from nullah.core.frozen import frozen
from nullah.core.joints.families import FAMILIES
from nullah.core.joints.plan import JointPlan
from nullah.core.pieces.box_places import placed
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Cut, Placed, Point3, on_grid
from nullah.core.shapes.solid import Flat, Solid, solid
from nullah.core.stations.made import Made

MOST_CUTS = 1_000  # under half a second's work
BETWEEN = 200.0  # mm from one piece to the next
KEPT = 600  # solids that are remembered, so that what an edit leaves alone is not made again


@frozen
class Body:
    """A part's closed solid in its piece: corners in mm, triangles of corner numbers anticlockwise from outside, and its flat faces."""

    part: str
    corners: tuple[Point3, ...]
    triangles: tuple[tuple[int, int, int], ...]
    flats: tuple[Flat, ...]
    placed: Placed


_solids: OrderedDict[tuple[object, ...], Solid] = OrderedDict()


def of_piece(made: Made, joints: tuple[JointPlan, ...], drawn: bool = False) -> tuple[Body, ...]:
    """The bodies of one piece, closed as it stands; none where there are more than ``MOST_CUTS``, which nobody could make and the solid
    engine takes minutes for.

    Args:
        joints: of that piece, as they are laid out. drawn: for a picture, in which holes of screws are left out.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    if sum(len(j.cuts) for j in joints) > MOST_CUTS:
        return ()
    stand: tuple[Placed, ...]
    if made.box is not None:
        own = tuple(_own(j, made.prefix) for j in joints) if made.prefix else joints
        stand = placed(made.box, own)
    elif made.worked is not None:
        stand = made.worked.placed()
    else:
        return ()
    out = []
    cutting = [j for j in joints if not (drawn and FAMILIES[j.family].home == "screwed")]
    for part in stand:
        name = f"{made.prefix}{part.id}"
        made_solid = _solid(name, part.size, tuple(c for joint in cutting for c in joint.cuts if c.part == name))
        corners = tuple(part.at(c) for c in made_solid.corners)
        out.append(Body(name, corners, made_solid.triangles, made_solid.flats, part))
    return tuple(out)


def _own(joint: JointPlan, prefix: str) -> JointPlan:
    """A joint with the piece's own names, as far as its places ask for them."""
    return replace(joint, id=joint.id.removeprefix(prefix), parts=tuple(p.removeprefix(prefix) for p in joint.parts))


def _solid(part: str, size: Point3, cuts: tuple[Cut, ...]) -> Solid:
    """A part's solid, remembered by its size and cuts."""
    key = (size, tuple((c.side, c.outline, c.depth, c.far) for c in cuts))
    found = _solids.get(key)
    if found is None:
        found = _solids[key] = solid(part, size, cuts)
        while len(_solids) > KEPT:
            _solids.popitem(last=False)
    return found


def bodies(plan: Plan) -> tuple[Body, ...]:
    """Every part's body, each piece closed as it stands, pieces apart from left to right; none of a piece where there are no parts or a
    joint cannot be laid out.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    out: list[Body] = []
    at = 0.0
    for made in plan.piece.made:
        if plan.joints.troubles[made.id]:
            continue
        mine = of_piece(made, plan.joints.of_piece[made.id])
        if not mine:
            continue
        low = min(c[0] for b in mine for c in b.corners)
        high = max(c[0] for b in mine for c in b.corners)
        by = on_grid(at - low) if out else 0.0
        out += [replace(b, corners=tuple((on_grid(x + by), y, z) for x, y, z in b.corners)) for b in mine]
        at = high + by + BETWEEN
    return tuple(out)
