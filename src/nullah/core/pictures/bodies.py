"""The pieces as solids: each part where it stands, less what its joints take away."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator
from functools import cached_property
from typing import TypeVar

from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import JointPlan
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import Cut, Placed, Point3, on_grid
from nullah.core.shapes.opened import opened
from nullah.core.shapes.solid import Flat, Solid, solid
from nullah.core.stations.made import Made
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen, replace

MOST_CUTS = 1_000  # under half a second's work
MOST_DRAWN = 110  # cuts that are drawn: with more of them a picture shows parts without their joints
BETWEEN = 200.0  # mm from one piece to the next
KEPT = 600  # solids and bodies that are remembered
T = TypeVar("T")


@frozen
class Body:
    """A part's closed solid in its piece: corners in mm, triangles of corner numbers anticlockwise from outside, and its flat faces."""

    part: str
    corners: tuple[Point3, ...]
    triangles: tuple[tuple[int, int, int], ...]
    flats: tuple[Flat, ...]
    placed: Placed

    @cached_property
    def points(self) -> Floats:
        """Its corners (n, 3), mm."""
        return np.array(self.corners)

    @cached_property
    def box(self) -> tuple[Point3, Point3]:
        """Its low and its high corner, mm."""
        x, y, z = zip(*self.corners, strict=True)
        return (min(x), min(y), min(z)), (max(x), max(y), max(z))


_solids: OrderedDict[tuple[object, ...], Solid] = OrderedDict()
_bodies: OrderedDict[tuple[object, ...], Body] = OrderedDict()


def of_piece(made: Made, joints: tuple[JointPlan, ...], drawn: bool = False, plain: bool = False) -> tuple[Body, ...]:
    """The bodies of one piece, closed as it stands; none where there are more than ``MOST_CUTS``, which nobody could make and the solid
    engine takes minutes for.

    Args:
        joints: of that piece, as they are laid out. drawn: for a picture, in which holes of screws are left out, and all cuts where
            there are more than ``MOST_DRAWN``. plain: without any cuts.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    return tuple(each_of_piece(made, joints, drawn, plain))


def each_of_piece(
    made: Made, joints: tuple[JointPlan, ...], drawn: bool = False, plain: bool = False
) -> Iterator[Body]:
    """As ``of_piece``, one after the other.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    cutting = [j for j in joints if not (drawn and FAMILIES[j.family].home == "screwed")]
    count = sum(len(j.cuts) for j in cutting)
    if count > MOST_CUTS and not drawn:
        return
    if plain or (drawn and count > MOST_DRAWN):
        cutting = []
    mine: dict[str, list[Cut]] = {}
    for joint in cutting:
        for cut in joint.cuts:
            mine.setdefault(cut.part, []).append(cut)
    for p in made.stands(joints):
        yield _body(f"{made.prefix}{p.id}", p, mine.get(f"{made.prefix}{p.id}", []))


def of_joint(made: Made, joints: tuple[JointPlan, ...], joint: JointPlan) -> tuple[Body, ...]:
    """The bodies of a joint's parts with all that is cut in them, or where that is more than is drawn, with its own cuts alone; none
    where those are more.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    cuts = [
        c for j in joints if j is joint or FAMILIES[j.family].home != "screwed" for c in j.cuts if c.part in joint.parts
    ]
    if len(cuts) > MOST_DRAWN:
        cuts = list(joint.cuts)
    if len(cuts) > MOST_DRAWN:
        return ()
    stand = {f"{made.prefix}{p.id}": p for p in made.stands(joints)}
    return tuple(_body(name, stand[name], [c for c in cuts if c.part == name]) for name in joint.parts if name in stand)


def kept_beyond(body: Body, axis: int, side: float, at: float) -> Body | None:
    """What stays of a body on one side of a plane across an axis, as ``opened`` says; None where nothing does."""
    left = opened(body.corners, body.triangles, body.flats, axis, side, at)
    return replace(body, corners=left[0], triangles=left[1], flats=left[2]) if left is not None else None


def _body(name: str, part: Placed, cuts: list[Cut]) -> Body:
    """A part's body; parts of one size with the same cuts share a solid, and what an edit leaves alone is not made again."""
    shape = (part.size, tuple((c.side, c.outline, c.depth, c.far) for c in cuts))
    body = _bodies.get((name, part, shape))
    if body is None:
        made_solid = _solids.get(shape)
        if made_solid is None:
            made_solid = _kept(_solids, shape, solid(name, part.size, cuts))
        corners = part.all(made_solid.corners)
        body = _kept(_bodies, (name, part, shape), Body(name, corners, made_solid.triangles, made_solid.flats, part))
    return body


def _kept(where: OrderedDict[tuple[object, ...], T], key: tuple[object, ...], value: T) -> T:
    where[key] = value
    while len(where) > KEPT:
        where.popitem(last=False)
    return value


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
