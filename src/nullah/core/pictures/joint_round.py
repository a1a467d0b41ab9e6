"""A joint in the round, from near by: apart, half home, closed, and cut open through its middle."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from nullah.core.drawing.display_list import Drawing, Primitive, Text, moved
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.family import Family, own_axis
from nullah.core.marking.plan import JointPlan
from nullah.core.pictures.bodies import Body, kept_beyond, of_joint
from nullah.core.pictures.in_hand import Kept, box_round, middle
from nullah.core.pictures.patches import Shown, drawn
from nullah.core.pictures.standing import PLAIN, Sight
from nullah.core.pictures.wood import woods
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import SIDES, Cut, Placed, Point3
from nullah.core.shapes.seen import looking
from nullah.core.shapes.solid import BadSolid
from nullah.core.stations.made import Made
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import replace

NEAR = 0.6  # of the joint's middle extent: how much wood is shown round it
LEAST_ROUND, MOST_ROUND = 20.0, 90.0  # mm of wood round a joint
LONG = 4.5  # times its middle extent: a longer joint is shown at one end
CLEAR = 12.0  # mm between the parts as they stand apart
ASIDE = 0.013  # mm off the middle that a joint is cut open: where its cuts end on the middle, the saw's plane is none of their faces
SLIGHT = 0.1  # mm
_remembered = Kept()
STATES = (("apart", 1.0), ("half home", 0.5), ("closed", 0.0))
BETWEEN = 0.16  # of the widest state: from one to the next


def seen(plan: Plan, joint: JointPlan, turned: tuple[float, float] = (0.0, 0.0)) -> Drawing:
    """A joint of the piece in hand: its parts broken off round it, each state beside the other; empty where it cannot be drawn.

    Args:
        turned: degrees one looks at it from further to the right and further up than where its parts come from each other to be seen.
    """
    return _remembered.get(plan, lambda: _drawn(plan, joint, turned), (joint.id, turned))


def _drawn(plan: Plan, joint: JointPlan, turned: tuple[float, float]) -> Drawing:
    made = plan.piece.in_hand
    try:
        whole = of_joint(made, plan.joints.of_piece[made.id], joint)
    except BadSolid:
        return Drawing()
    if not whole:
        words = "Nothing of it is drawn in the round: it has too many cuts for that." if joint.cuts else ""
        return Drawing((Text((0.0, 0.0), words, ink="quiet", size=13),) if words else ())
    low, high = _region(joint, whole)
    off = apart(made, joint, whole)
    if len(off) == 1:
        low, high, off = _one_end(low, high, off)
    near = [one for body in whole if (one := _cropped(body, low, high)) is not None]
    parts = [p for p in made.parts if p.id in joint.parts]
    shown = Shown(
        tuple(near),
        {p.id: made.label(p) for p in parts},
        {p.id: p.name for p in parts},
        {p.id: f"part:{p.id}" for p in parts},
        woods(parts, plan.breakdown, plan.project.boards),
        {},
    )
    sight = _sight(off).turned(*turned)
    view = looking(sight.turn, sight.tilt)
    states = [(words, shown, share) for words, share in (STATES if off else STATES[-1:])]
    axis = _across(low, high, off, FAMILIES[joint.family])
    at = (low[axis] + high[axis]) / 2 + ASIDE
    away = -1.0 if view.eye[axis] > 0 else 1.0  # what stands before the plane is taken off
    left = [one for body in near if (one := kept_beyond(body, axis, away, at)) is not None]
    states.append(("cut open", replace(shown, bodies=tuple(left)), 0.0))
    found = []
    for words, bodies, share in states:
        stands = {part: _times(way, share) for part, way in off.items()} if share else {}
        drawing = Drawing(tuple(drawn(replace(bodies, off=stands), view, shaded=True)))
        if not drawing.items:
            continue
        found.append((words, drawing, drawing.extent()))
    return _in_a_row(found)


def _in_a_row(states: Sequence[tuple[str, Drawing, tuple[float, float, float, float]]]) -> Drawing:
    """States left to right on one ground, each with its words below."""
    wide = max((x1 - x0 for _, _, (x0, _, x1, _) in states), default=0.0)
    items: list[Primitive] = []
    at = 0.0
    for words, drawing, (x0, y0, x1, _) in states:
        items += moved(drawing.items, at - x0, -y0)
        items.append(Text((at + (x1 - x0) / 2, -0.1 * wide), words, size=13))
        at += x1 - x0 + BETWEEN * wide
    return Drawing(tuple(items))


def _sight(off: Mapping[str, Point3]) -> Sight:
    """From where one looks into what the first comes off."""
    x, y, z = next(iter(off.values())) if len(off) == 1 else (0.0, 0.0, 0.0)
    turn = PLAIN.turn if x >= -SLIGHT else -PLAIN.turn
    return Sight(180.0 - turn if y > SLIGHT else turn % 360.0, -PLAIN.tilt if z < -SLIGHT else PLAIN.tilt)


def _region(joint: JointPlan, bodies: Sequence[Body]) -> tuple[Point3, Point3]:
    """The low and the high corner of what the joint takes up, mm in the piece; of one without cuts, of where its parts meet."""
    at = {b.part: b.placed for b in bodies}
    points = [p for cut in joint.cuts if cut.part in at for p in _corners(cut, at[cut.part])]
    if points:
        xs, ys, zs = zip(*points, strict=True)
        return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs))
    boxes = [b.box for b in bodies]
    lows = [max(low[k] for low, _ in boxes) for k in range(3)]
    highs = [min(high[k] for _, high in boxes) for k in range(3)]
    low, high = ([f(a, b) for a, b in zip(lows, highs, strict=True)] for f in (min, max))
    return (low[0], low[1], low[2]), (high[0], high[1], high[2])


def _one_end(low: Point3, high: Point3, off: Mapping[str, Point3]) -> tuple[Point3, Point3, Mapping[str, Point3]]:
    """Of a long joint no more than an end of it, the one its first part comes off at, and how far that then stands off, mm."""
    ((part, way),) = off.items()
    sizes = [b - a for a, b in zip(low, high, strict=True)]
    axis = max(range(3), key=lambda k: sizes[k])
    less = sizes[axis] - LONG * max(LEAST_ROUND, sorted(sizes)[1])
    if less <= 0:
        return low, high, off
    lows, highs, ways = list(low), list(high), list(way)
    if way[axis] > SLIGHT:
        lows[axis] += less
    else:
        highs[axis] -= less
    if abs(way[axis]) > SLIGHT:
        ways[axis] -= math.copysign(less, way[axis])
    return (lows[0], lows[1], lows[2]), (highs[0], highs[1], highs[2]), {part: (ways[0], ways[1], ways[2])}


def _corners(cut: Cut, placed: Placed) -> list[Point3]:
    """The corners of a cut, mm in the piece."""
    axis, far = SIDES[cut.side]
    found = []
    for points, deep in ((cut.outline, 0.0), (cut.far or cut.outline, cut.depth)):
        for u, v in points:
            own = [u, v]
            own.insert(axis, placed.size[axis] - deep if far else deep)
            found.append(placed.at((own[0], own[1], own[2])))
    return found


def apart(made: Made, joint: JointPlan, bodies: Sequence[Body]) -> Mapping[str, Point3]:
    """How far each part stands off from the others where a joint is apart, mm, and goes home from; nothing where there is but one.

    Args:
        bodies: of the joint's parts where they stand.
    """
    family = FAMILIES[joint.family]
    if family.joins is None or len(bodies) < 2:
        return {}
    by = {b.part: b for b in bodies}
    design = made.joint_design(joint.id)
    first, second = (
        (f"{made.prefix}{design.first}", f"{made.prefix}{design.second}")
        if design
        else (joint.parts[0], joint.parts[-1])
    )
    if len(bodies) == 2 and (design or family.joins.goes == "face"):
        way = _way(made, joint, design, by[first], by[second], family.joins.goes)
        reach = sum(abs(w) * (b - a) for w, a, b in zip(way, *_region(joint, bodies), strict=True))
        return {first: _times(way, reach + CLEAR)}
    whole = middle(*box_round(tuple(bodies)))
    return {b.part: made.away(b.placed.id, middle(*b.box), whole) for b in bodies}


def _way(made: Made, joint: JointPlan, design: JointDesign | None, first: Body, second: Body, goes: str) -> Point3:
    """The way the first comes off the second, a unit of length in the piece."""
    axis = 0
    if design is not None and made.worked is not None:
        axis, sign = own_axis(made.worked.sizes.stands(design.first), design.way)
        if goes == "way":
            return _times(first.placed.axes[axis], -sign)
    along = first.placed.axes[2 if goes == "face" else 0 if axis == 1 else 1]
    if goes == "face":
        from_there = _between(middle(*second.box), middle(*first.box))
    else:  # it comes out where its housing is open
        points = [p for cut in joint.cuts if cut.part == second.part for p in _corners(cut, second.placed)]
        ends = [sum(a * b for a, b in zip(p, along, strict=True)) for p in points]
        host = [sum(a * b for a, b in zip(p, along, strict=True)) for p in second.corners]
        open_by = (sum((min(ends), max(ends))) - sum((min(host), max(host)))) / 2 if ends else 0.0
        from_there = _times(along, open_by) if abs(open_by) > 0.1 else (0.0, -1.0, 0.0)
    return _times(along, 1.0 if sum(a * b for a, b in zip(from_there, along, strict=True)) >= 0 else -1.0)


def _times(way: Point3, by: float) -> Point3:
    return (way[0] * by, way[1] * by, way[2] * by)


def _between(a: Point3, b: Point3) -> Point3:
    return (b[0] - a[0], b[1] - a[1], b[2] - a[2])


def _cropped(body: Body, low: Point3, high: Point3) -> Body | None:
    """What lies near the joint of a body; None where nothing does."""
    room = min(MOST_ROUND, max(LEAST_ROUND, NEAR * sorted(b - a for a, b in zip(low, high, strict=True))[1]))
    found: Body | None = body
    for axis in range(3):
        for side, at in ((1.0, low[axis] - room), (-1.0, high[axis] + room)):
            found = kept_beyond(found, axis, side, at) if found is not None else None
    return found


def _across(low: Point3, high: Point3, off: Mapping[str, Point3], family: Family) -> int:
    """The axis a joint is cut open across: what slides home across that, else the one it is longest along of those its parts do not
    move along."""
    moves = max(range(3), key=lambda k: max((abs(v[k]) for v in off.values()), default=0.0)) if len(off) == 1 else -1
    if moves >= 0 and family.joins is not None and family.joins.goes == "along":
        return moves
    return max((k for k in range(3) if k != moves), key=lambda k: high[k] - low[k])
