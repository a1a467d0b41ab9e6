"""The sliding dovetail as a family: an end or an edge, dovetailed over its whole width, slid into a socket across another part."""

from __future__ import annotations

from nullah.core.ask import Ask
from nullah.core.drawing import Point
from nullah.core.frozen import frozen, replace
from nullah.core.joints.dovetail import SHALLOWEST, STEEPEST
from nullah.core.joints.family import (
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    block_cut,
    depth_of_the_set,
    marked_faces,
    own_axis,
    with_span,
)
from nullah.core.joints.grooves import check_depth, depth_in
from nullah.core.joints.housing import FROM_SHOW_EDGE, STOPS, into_end_grain, short_of, stopped_short, taken_off
from nullah.core.joints.plan import Check, JointPlan, Setting
from nullah.core.measure import at_least, marked
from nullah.core.shapes.cut import SIDES, Cut, Placed

STOUT = 0.5  # of the thickness: what is left of a tail at its neck at the least (common practice, no source)


@frozen
class SlidingDovetail:
    """The family: ``first`` has the tail, over all its thickness at the end; ``second`` the socket, across its grain or along."""

    name: str = "sliding_dovetail"
    about: str = "A tail over a whole end or edge, slid into a socket from the side."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "glued"
    joins: Joins = Joins(
        "It cannot be pulled out, glue or none, and keeps both parts flat.",
        "Across each other they slide: only a hand's breadth at the front is glued.",
        into_end_grain,
        ("router_plane",),
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("depth", "how deep the socket is; 0: a third of the thickness", "length", 0.0, 0.0, 200.0),
        Ask("slope", "slope of the tail, 1 to so many", "number", 7.0, 3.0, 12.0),
        *STOPS[:2],
    )

    def figure(self, name: str, look: Look) -> float:
        """depth and reach (the same in all of its set), width of the tail at its end, neck at the second's face, slope, stop; mm."""
        if name in ("depth", "reach"):
            return depth_of_the_set(look, depth_in)
        if name == "width":
            return look.thickness(look.joint.first)
        if name in ("slope", "stop"):
            return float(look.asked(name))
        if name == "neck":
            wide, depth, run = (look.figure(n) for n in ("width", "depth", "slope"))
            neck = wide - 2 * depth / run
            if neck <= 0:
                tail = look.label(look.joint.first)
                raise NoJoint(f"Nothing is left of the tail of {tail} at its neck: less deep, or less steep, it holds.")
            return neck
        raise NoJoint(f"A sliding dovetail has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        host, mate = look.stands(joint.second), look.stands(joint.first)
        a, b = look.label(joint.first), look.label(joint.second)
        depth, wide, neck, run, stop = (look.figure(n) for n in ("depth", "width", "neck", "slope", "stop"))
        socket = _socket(look, host, wide - neck)
        tail = (*_slopes(look, mate), *taken_off(look, stop, 0.0))
        bevel = Setting(
            "bevel", None, f"1 : {run:g}", (joint.second, joint.first), f"walls of the socket, slopes of {a}"
        )
        steps = [
            f"Knife the mouth of the socket over {b}, {marked(neck)} wide, squared from its edge; gauge {marked(depth)} at its ends.",
            f"Saw both walls to {marked(depth)} along a block that leans 1 : {run:g}; chisel out the waste, floor it to depth.",
            f"Gauge {marked(depth)} round the end of {a}; saw the shoulders in {marked((wide - neck) / 2)} on either face.",
            f"Pare or plane the slopes of {a} along the leaning block, from the shoulder out, until it starts in the socket.",
            f"Slide {a} in dry: it goes by hand for three quarters, then by light taps. Ease only what shines.",
            "Glue a hand's breadth where it goes in last, and where both grains lie alike all of it; drive it home at once.",
        ]
        checks = [
            check_depth(depth, look.across(joint.second, joint.way), b),
            Check(at_least(neck, STOUT * wide), f"neck {marked(neck)} of {marked(wide)}; at least half of it"),
            Check(STEEPEST - 1e-9 <= run <= SHALLOWEST + 1e-9, f"slope 1 : {run:g}; between 1 : 5 and 1 : 10"),
        ]
        settings = [
            Setting("knife, square", neck, "", (joint.second,), f"mouth of the socket for {a}"),
            Setting(
                "router plane" if look.shop.router_plane else "depth line",
                depth,
                "",
                (joint.second,),
                f"depth of the socket for {a}",
            ),
            bevel,
            Setting("marking gauge", depth, "", (joint.first,), f"shoulders of {a}"),
        ]
        if stop:
            edge = str(look.asked("edge"))
            from_edge = short_of(look, stop, edge)
            settings.append(Setting("marking gauge", stop, "", (joint.first,), f"notch in the {edge} corner of {a}"))
            said = (
                f"the socket stops {marked(from_edge)} from the {edge} edge of {b}; at least {marked(FROM_SHOW_EDGE)}"
            )
            checks.append(Check(at_least(from_edge, FROM_SHOW_EDGE), said))
            steps.insert(1, f"Chop a pocket to {marked(depth)} where it stops, so that the saw has room.")
            steps.insert(-2, f"Notch the {edge} corner of {a}: {marked(stop)} by {marked(depth)}.")
        return JointPlan(
            joint.id,
            self.name,
            f"Sliding dovetail of {a} in {b}",
            (joint.second, joint.first),
            tuple(settings),
            tuple(steps),
            tuple(checks),
            marked_faces((socket, *tail), {host.id: host, mate.id: mate}, look.label),
            figures={"depth": depth, "width": wide, "neck": neck, "slope": run, **({"stop": stop} if stop else {})},
            cuts=(socket, *tail),
        )


def _socket(look: Look, host: Placed, lost: float) -> Cut:
    """What is taken out of the second: as wide as the tail at its floor, narrower by ``lost`` at its mouth."""
    joint = look.joint
    body = look.body(joint.first)
    if stop := look.figure("stop"):
        body = stopped_short(body, str(look.asked("edge")), stop)
    axis, sign = axis_of(joint.way)
    low, high = body[axis]
    reach = look.figure("depth")
    whole = block_cut(
        host, with_span(body, axis, (high - reach, high) if sign > 0 else (low, low + reach)), OPPOSITE[joint.way]
    )
    across, _ = own_axis(host, look.face(joint.first))
    if across == SIDES[whole.side][0]:
        raise NoJoint(
            f"{look.label(joint.first)} lies flat on {look.label(joint.second)}: an end or an edge of it is dovetailed."
        )
    which = [k for k in range(3) if k != SIDES[whole.side][0]].index(across)
    middle = (min(p[which] for p in whole.outline) + max(p[which] for p in whole.outline)) / 2

    def narrowed(p: Point) -> Point:
        at = [*p]
        at[which] -= lost / 2 if at[which] > middle else -lost / 2
        return at[0], at[1]

    return replace(whole, outline=tuple(map(narrowed, whole.outline)), far=whole.outline)


def _slopes(look: Look, mate: Placed) -> tuple[Cut, Cut]:
    """What is taken off both faces of the first at its end or edge, over its whole width."""
    axis, sign = own_axis(mate, look.joint.way)
    if axis == 2:
        raise NoJoint(f"{look.label(mate.id)} lies flat on its mate: an end or an edge of it is dovetailed.")
    depth, deep, thick = look.figure("depth"), look.figure("depth") / look.figure("slope"), mate.size[2]
    end = mate.size[axis] if sign > 0 else 0.0
    shoulder = end - sign * depth
    beside = "lower" if axis == 0 else "left"
    whole = mate.size[1 - axis]
    return (
        Cut(mate.id, beside, ((shoulder, thick), (end, thick), (shoulder, thick - deep)), whole),
        Cut(mate.id, beside, ((shoulder, 0.0), (end, 0.0), (shoulder, deep)), whole),
    )


SLIDING_DOVETAIL = SlidingDovetail()
