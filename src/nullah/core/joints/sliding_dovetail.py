"""The sliding dovetail as a family: an end or an edge, dovetailed over its whole width, slid into a socket across another part."""

from __future__ import annotations

from nullah.core.drawing.display_list import Point
from nullah.core.joints.dovetail import slope_check
from nullah.core.joints.grooves import check_depth, depth_in
from nullah.core.joints.housing import FROM_SHOW_EDGE, STOPS, short_of, stopped_short, taken_off
from nullah.core.joints.housing_suits import into_end_grain
from nullah.core.joints.screws import grain_axis
from nullah.core.marking.family import (
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    block_cut,
    depth_of_the_set,
    own_axis,
    side_of,
    way_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Said, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import SAME, at_least, marked

MOST_TAPER = 1 / 50  # of the length (common practice, no source)
RUNS_OUT = 0.5  # mm of wood beside a socket: with less it has no wall
STOUT = 0.5  # of the thickness: what is left of a tail at its neck at the least (common practice, no source)


@frozen
class SlidingDovetail:
    """The family: ``first`` has the tail, over all its thickness at the end; ``second`` the socket, across its grain or along."""

    name: str = "sliding_dovetail"
    about: str = "A tail over a whole end or edge, slid into a socket from the side."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn", "housed")
    joins: Joins = Joins(
        "It cannot be pulled out, glue or none, and keeps both parts flat.",
        "Across each other they slide: only a hand's breadth at the front is glued.",
        into_end_grain,
        ("router_plane",),
        goes="along",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("depth", "how deep the socket is; 0: a third of the thickness", "length", 0.0, 0.0, 200.0),
        Ask("slope", "slope of the tail, 1 to so many", "number", 7.0, 3.0, 12.0),
        Ask("taper", "how much narrower tail and socket are where they end, to draw tight", "length", 0.0, 0.0, 10.0),
        *STOPS[:2],
    )

    def figure(self, name: str, look: Look) -> float:
        """depth and reach (the same in all of its set), width of the tail at its end, neck at the second's face, slope, stop,
        taper; mm."""
        if name in ("depth", "reach"):
            return depth_of_the_set(look, depth_in)
        if name == "width":
            return look.thickness(look.joint.first)
        if name in ("slope", "stop", "taper"):
            return float(look.asked(name))
        if name == "neck":
            wide, depth, run = (look.figure(n) for n in ("width", "depth", "slope"))
            neck = wide - 2 * depth / run
            if neck - look.figure("taper") <= 0:
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
        taper = look.figure("taper")
        socket = _socket(look, host, wide - neck, taper)
        if abs(socket.depth - depth) > SAME:
            raise NoJoint(f"{a} does not lie against {b}.")
        tail = (*_slopes(look, mate, taper), *taken_off(look, stop, 0.0))
        bevel = Setting(
            "bevel", None, f"1 : {run:g}", (joint.second, joint.first), f"walls of the socket, slopes of {a}"
        )
        crossing = len({grain_axis(look, p) == _runs(look)[0] for p in (joint.first, joint.second)}) == 2
        glued = "a hand's breadth where it goes in last" if crossing else ""
        say, tip = Said(), SIDE_WORDS[side_of(mate, joint.way)]
        in_told = say((wide - neck) / 2, joint.first, "", "shoulder")
        steps = [
            f"Knife the mouth of the socket over {b}, {marked(neck)} wide, squared from its edge; gauge {marked(depth)} at its ends.",
            f"Saw both walls to {marked(depth)} along a block that leans 1 : {run:g}; chisel out the waste, floor it to depth.",
            f"Gauge {marked(depth)} round the end of {a}; saw the shoulders in {in_told} on either face.",
            f"Pare or plane the slopes of {a} along the leaning block, from the shoulder out, until it starts in the socket.",
            f"Slide {a} in dry: it goes by hand for three quarters, then by light taps. Ease only what shines.",
            f"Glue {glued or 'all of it'}; drive it home at once.",
        ]
        checks = [
            check_depth(depth, look.across(joint.second, joint.way), b),
            Check(
                at_least(neck - taper, STOUT * wide),
                f"neck {marked(neck - taper)} of {marked(wide)}; at least half of it",
            ),
            slope_check(run),
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
            Setting("marking gauge", depth, "", (joint.first,), f"shoulders of {a}", tip),
        ]
        if taper:
            slim = f"{a} on its face side, and of the socket's wall there, from the {look.asked('edge')} end"
            runs = 3 - SIDES[socket.side][0] - own_axis(host, look.face(joint.first))[0]
            n = [k for k in range(3) if k != SIDES[socket.side][0]].index(runs)
            along = [p[n] for p in socket.outline]
            drawn = taper * (max(along) - min(along)) / _run(look)
            settings.append(Setting("rule", taper, "", (joint.first,), f"taper of {slim}"))
            settings.append(Setting("rule", drawn, "", (joint.second,), f"taper of {slim}"))
            steps.insert(
                4,
                f"Lean that wall and that slope alike, the slope {marked(taper)} over all of {a}, the wall {marked(drawn)} over the "
                "socket: it goes in loose and draws tight at the end.",
            )
            most = MOST_TAPER * _run(look)
            checks.append(
                Check(
                    at_least(most, taper),
                    f"taper {marked(taper)}; no more than {marked(most)}, or it tightens at one end only",
                )
            )
        if stop:
            edge = str(look.asked("edge"))
            from_edge = short_of(look, stop, edge)
            settings.append(
                Setting(
                    "marking gauge",
                    stop,
                    "",
                    (joint.first,),
                    f"notch in the {edge} corner of {a}",
                    SIDE_WORDS[side_of(mate, edge)],
                )
            )
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
            lengths=say.lengths,
            glue=glued,
            figures={
                "depth": depth,
                "width": wide,
                "neck": neck,
                "slope": run,
                **({"taper": taper} if taper else {}),
                **({"stop": stop} if stop else {}),
            },
            cuts=(socket, *tail),
        )


def _run(look: Look) -> float:
    """How long tail and socket are, mm."""
    axis, _ = _runs(look)
    low, high = look.body(look.joint.first)[axis]
    return high - low


def _runs(look: Look) -> tuple[int, int]:
    """The axis of the frame that the tail slides along, and whether it ends at its high end (1) or its low one (-1)."""
    axis = 3 - axis_of(look.joint.way)[0] - axis_of(look.face(look.joint.first))[0]
    return axis, axis_of(str(look.asked("edge")))[1]


def _socket(look: Look, host: Placed, lost: float, taper: float) -> Cut:
    """What is taken out of the second: as wide as the tail at its floor, narrower by ``lost`` at its mouth; at its end narrower by
    ``taper`` on the side of the tail's face."""
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
    across, outward = own_axis(host, look.face(joint.first))
    if across == SIDES[whole.side][0]:
        raise NoJoint(
            f"{look.label(joint.first)} lies flat on {look.label(joint.second)}: an end or an edge of it is dovetailed."
        )
    which = [k for k in range(3) if k != SIDES[whole.side][0]].index(across)
    spans = [(min(p[k] for p in whole.outline), max(p[k] for p in whole.outline)) for k in (0, 1)]
    if spans[which][0] < RUNS_OUT or spans[which][1] > host.size[across] - RUNS_OUT:
        a, b = look.label(joint.first), look.label(joint.second)
        raise NoJoint(f"The socket for {a} runs out at a side of {b}: wood is left on both sides of it.")
    middle = sum(spans[which]) / 2
    runs, ends_high = _runs(look)
    _, along = own_axis(host, way_of(runs, ends_high))
    near, far = spans[1 - which] if along > 0 else spans[1 - which][::-1]
    share = abs(far - near) / _run(look)  # of the taper, where it stops short

    def narrowed(p: Point, by: float) -> Point:
        at = [*p]
        high_wall = at[which] > middle
        at[which] += -by if high_wall else by
        if taper and high_wall == (outward > 0):
            at[which] -= outward * taper * share * (p[1 - which] - near) / (far - near)
        return at[0], at[1]

    mouth, floor = (tuple(narrowed(p, by) for p in whole.outline) for by in (lost / 2, 0.0))
    return replace(whole, outline=mouth, far=floor)


def _slopes(look: Look, mate: Placed, taper: float) -> tuple[Cut, Cut]:
    """What is taken off both faces of the first at its end or edge, over its whole width."""
    axis, sign = own_axis(mate, look.joint.way)
    if axis == 2:
        raise NoJoint(f"{look.label(mate.id)} lies flat on its mate: an end or an edge of it is dovetailed.")
    depth, deep, thick = look.figure("depth"), look.figure("depth") / look.figure("slope"), mate.size[2]
    end = mate.size[axis] if sign > 0 else 0.0
    shoulder = end - sign * depth
    runs, ends_high = _runs(look)
    begins = side_of(mate, OPPOSITE[way_of(runs, ends_high)])
    whole = mate.size[1 - axis]

    def on_face(by: float) -> tuple[Point, ...]:
        return (shoulder, thick), (end, thick), (end, thick - by), (shoulder, thick - deep - by)

    back = ((shoulder, 0.0), (end, 0.0), (shoulder, deep))
    face: tuple[Point, ...] = ((shoulder, thick), (end, thick), (shoulder, thick - deep))
    if taper:
        return Cut(mate.id, begins, on_face(0.0), whole, on_face(taper)), Cut(mate.id, begins, back, whole)
    beside = "lower" if axis == 0 else "left"
    return Cut(mate.id, beside, face, whole), Cut(mate.id, beside, back, whole)


SLIDING_DOVETAIL = SlidingDovetail()
