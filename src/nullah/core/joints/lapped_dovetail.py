"""The lapped dovetail as a family: one tail at the end of a rail, let down into the end of a leg or a post, so that it ties both."""

from __future__ import annotations

from nullah.core.drawing.display_list import Point
from nullah.core.joints.dovetail import slope_check
from nullah.core.joints.tenon import along_of
from nullah.core.marking.family import (
    Block,
    Joins,
    Look,
    Meeting,
    NoJoint,
    School,
    axis_of,
    block_cut,
    on_side,
    own_axis,
    side_of,
    way_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Said, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

INTO = 2 / 3  # of the leg: the tail's length (common practice)
NECK = 0.7  # of the rail's breadth: the tail at its neck (common practice, no source)
LEFT = 5.0  # mm of leg beyond and beside the tail (common practice)
FLUSH = 1.0  # mm that the rail's top may differ from the leg's end


def _at_a_side(meeting: Meeting) -> str:
    return (
        ""
        if not meeting.at_an_end
        else f"It lies against the end of {meeting.called}: it is let in from its side, flush with the end."
    )


@frozen
class LappedDovetail:
    """The family: ``first`` is the rail with the tail, ``second`` the leg, in whose end it lies flush."""

    name: str = "lapped_dovetail"
    about: str = "One tail at the end of a rail, let down into the end of a leg, to tie two legs."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn", "chopped blind")
    joins: Joins = Joins(
        "It ties two legs together at the top: the rail cannot be pulled out.",
        "Small, and the rail hardly moves along its grain: sound in any season.",
        _at_a_side,
        goes="face",
    )
    after: tuple[str, ...] = ("mortise_and_tenon",)
    asks: tuple[Ask, ...] = (
        Ask("length", "length of the tail; 0: two thirds of the leg", "length", 0.0, 0.0, 200.0),
        Ask("neck", "how broad the tail is at its shoulder; 0: 0.7 of the rail", "length", 0.0, 0.0, 300.0),
        Ask("slope", "slope of the tail, 1 to so many", "number", 7.0, 3.0, 12.0),
        Ask("deep", "how deep it is let down; 0: the rail's thickness", "length", 0.0, 0.0, 100.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """length and reach, neck (the tail at its shoulder), width (at its end), slope, deep; mm."""
        if name == "slope":
            return float(look.asked("slope"))
        if name == "reach":
            return look.figure("length")
        if name == "length":
            whole = look.across(look.joint.second, look.joint.way)
            long = float(look.asked("length")) or round(INTO * whole, 1)
            if long >= whole:
                raise NoJoint(
                    f"A tail of {marked(long)} goes through {look.label(look.joint.second)}, {marked(whole)}; make it shorter."
                )
            return long
        if name in ("neck", "width", "deep"):
            return {"neck": _neck, "width": _width, "deep": _deep}[name](look)
        raise NoJoint(f"A lapped dovetail has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        long, neck, width, deep = (look.figure(n) for n in ("length", "neck", "width", "deep"))
        end, across = _end(look), _across(look)
        low, high = look.body(joint.first)[across]
        mate = look.body(joint.second)
        axis = axis_of(joint.way)[0]
        cuts = (*_cheeks(look, first, end, across), _socket(look, second, end, across))
        middle = (low + high) / 2
        beside = min(middle - width / 2 - mate[across][0], mate[across][1] - middle - width / 2)
        if beside <= 0:
            raise NoJoint(f"A tail {marked(width)} broad does not lie within {b} there: make it narrower.")
        beyond = mate[axis][1] - mate[axis][0] - long
        run, shoulder = look.figure("slope"), (high - low - neck) / 2
        mine, say = (joint.first,), Said()
        tip, top = SIDE_WORDS[side_of(first, joint.way)], SIDE_WORDS[side_of(second, end)]
        neck_told = say(neck, joint.first, "", "neck of the tail")
        side_told = say(shoulder, joint.first, "", "shoulder beside the neck")
        floor = cuts[-1].depth
        return JointPlan(
            joint.id,
            self.name,
            f"Lapped dovetail of {a} in {b}",
            (joint.first, joint.second),
            (
                Setting("marking gauge", long, "", mine, f"shoulder of {a}", tip),
                Setting("bevel", None, f"1 : {run:g}", (joint.first, joint.second), f"tail of {a}"),
                Setting("rule", width, "", mine, f"tail of {a} at its end, about the middle"),
                Setting("marking gauge", floor, "", (joint.second,), f"floor of the socket for {a}", top),
            ),
            (
                f"Knife the shoulder of {a} {marked(long)} from its end; mark the tail {marked(width)} broad at the end, "
                f"{neck_told} at the shoulder.",
                f"Saw the slopes on the waste side, then the shoulders, {side_told} on either side.",
                f"Stand {a} in its place on the end of {b}, shoulder tight, and knife round the tail: the socket is traced, not "
                "measured.",
                f"Saw inside both lines as far as the corner lets the saw go, down to {marked(floor)}; chop the rest in thin "
                "slices, floor it flat.",
                f"Press {a} down by hand; ease only what shines. Its top is planed level with {b} once it is glued.",
            ),
            (
                slope_check(run),
                Check(
                    at_least(beside, LEFT), f"{marked(beside)} of {b} stays beside the tail; at least {marked(LEFT)}"
                ),
                Check(
                    at_least(beyond, LEFT), f"{marked(beyond)} of {b} stays beyond the tail; at least {marked(LEFT)}"
                ),
                Check(
                    at_least(neck, (high - low) / 2),
                    f"neck {marked(neck)} of {marked(high - low)}; at least half of it",
                ),
                Check(at_least(shoulder, 2.0), f"shoulders of {marked(shoulder)} at the neck; at least {marked(2.0)}"),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            figures={"length": long, "neck": neck, "width": width, "slope": run, "deep": deep},
            cuts=cuts,
        )


def _end(look: Look) -> str:
    """The way that the leg's end looks in which the rail lies flush.

    Raises:
        NoJoint: it lies flush with none, or the two do not stand so.
    """
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    if along_of(look, joint.first) != axis_of(joint.way)[0]:
        raise NoJoint(f"The tail of {a} is at its end: it cannot go {joint.way}.")
    axis = along_of(look, joint.second)
    if axis == axis_of(joint.way)[0]:
        raise NoJoint(f"{a} and {b} run one way: a tail is let into the end of what stands across.")
    rail, leg = look.body(joint.first)[axis], look.body(joint.second)[axis]
    for k, sign in ((1, 1), (0, -1)):
        if abs(rail[k] - leg[k]) <= FLUSH:
            return way_of(axis, sign)
    raise NoJoint(f"{a} is not flush with an end of {b}: it is let down into that end.")


def _across(look: Look) -> int:
    """The axis that the tail is broad along."""
    return 3 - axis_of(look.joint.way)[0] - axis_of(_end(look))[0]


def _broad(look: Look) -> float:
    low, high = look.body(look.joint.first)[_across(look)]
    return high - low


def _width(look: Look) -> float:
    """The tail at its end: no broader than the rail."""
    wide = look.figure("neck") + 2 * look.figure("length") / look.figure("slope")
    if wide > _broad(look) + 1e-6:
        raise NoJoint(
            f"The tail of {look.label(look.joint.first)} is {marked(wide)} broad at its end, and the rail {marked(_broad(look))}: "
            "make it shorter, or narrower at its neck."
        )
    return wide


def _neck(look: Look) -> float:
    """As broad as is common, or as lets the tail's end be no broader than the rail."""
    asked = float(look.asked("neck"))
    low, high = look.body(look.joint.second)[_across(look)]
    most = min(_broad(look), high - low - 2 * LEFT) - 2 * look.figure("length") / look.figure("slope")
    neck = asked or round(min(NECK * _broad(look), most), 1)
    if neck < 2.0:
        a, b = look.label(look.joint.first), look.label(look.joint.second)
        raise NoJoint(f"{a} and {b} are too narrow for a tail {marked(look.figure('length'))} long: make it shorter.")
    return neck


def _deep(look: Look) -> float:
    """How deep the tail is let down: all the rail's thickness there, or less, and then the rail's end is notched below."""
    low, high = look.body(look.joint.first)[axis_of(_end(look))[0]]
    asked = float(look.asked("deep"))
    if asked > high - low + 1e-9:
        raise NoJoint(f"{look.label(look.joint.first)} is {marked(high - low)} there: it is let down no deeper.")
    return asked or high - low


def _tail(look: Look, end: str, across: int) -> Block:
    """The tail's own block, as broad as the rail: from its shoulder to its end, and from the leg's end as deep as it is let down."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    up, out = axis_of(end)
    body = look.body(joint.first)
    low, high = body[axis]
    long, deep = look.figure("length"), look.figure("deep")
    block = with_span(body, axis, (high - long, high) if sign > 0 else (low, low + long))
    low, high = body[up]
    return with_span(block, up, (high - deep, high) if out > 0 else (low, low + deep))


def _outline(look: Look, placed: Placed, end: str, points: list[Point]) -> tuple[Point, ...]:
    """Points along the joint's way and across it as an outline on the side of a part that looks ``end``."""
    return on_side(placed, side_of(placed, end), (axis_of(look.joint.way)[0], _across(look)), points)


def _corners(look: Look, across: int) -> tuple[float, float, float, float, float]:
    """Where the shoulder and the end lie along the way, the middle across it, and half the neck and the width."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    body = look.body(joint.first)
    tip = body[axis][1 if sign > 0 else 0]
    return (
        tip - sign * look.figure("length"),
        tip,
        sum(body[across]) / 2,
        look.figure("neck") / 2,
        look.figure("width") / 2,
    )


def _cheeks(look: Look, first: Placed, end: str, across: int) -> list[Cut]:
    """What is sawn off beside the tail, through the rail's thickness; and below it, where it is let down less than that."""
    root, tip, middle, neck, width = _corners(look, across)
    low, high = look.body(look.joint.first)[across]
    side = side_of(first, end)
    whole = first.size[own_axis(first, end)[0]]
    found = []
    for edge, sign in ((low, -1), (high, 1)):
        points = [(root, edge), (root, middle + sign * neck), (tip, middle + sign * width)]
        if abs(edge - middle) - width > 1e-6:
            points.append((tip, edge))
        found.append(Cut(first.id, side, _outline(look, first, end, points), whole))
    up, out = axis_of(end)
    body = look.body(look.joint.first)
    deep = look.figure("deep")
    if body[up][1] - body[up][0] - deep > 1e-6:
        tail = _tail(look, end, across)
        under = (body[up][0], body[up][1] - deep) if out > 0 else (body[up][0] + deep, body[up][1])
        found.append(block_cut(first, with_span(tail, up, under), way_of(up, -out)))
    return found


def _socket(look: Look, second: Placed, end: str, across: int) -> Cut:
    """The tail's own shape, sunk into the leg's end."""
    root, tip, middle, neck, width = _corners(look, across)
    points = [(root, middle - neck), (root, middle + neck), (tip, middle + width), (tip, middle - width)]
    up, out = axis_of(end)
    rail, leg = look.body(look.joint.first)[up], look.body(look.joint.second)[up]
    floor = rail[1] - look.figure("deep") if out > 0 else rail[0] + look.figure("deep")
    return Cut(
        second.id,
        side_of(second, end),
        _outline(look, second, end, points),
        leg[1] - floor if out > 0 else floor - leg[0],
    )


LAPPED_DOVETAIL = LappedDovetail()
