"""The tusk tenon as a family: a tenon right through, drawn up by a wedge in a mortise of its own; it can be taken apart again."""

from __future__ import annotations

import math

from nullah.core.drawing.display_list import rectangle
from nullah.core.joints.tenon import THINNEST, across_of, along_of, shoulders
from nullah.core.marking.family import (
    OPPOSITE,
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
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import FAR_SIDE, SIDE_WORDS, Check, JointPlan, Mend, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

BEYOND = (
    2.0  # thicknesses of the tenoned board that the tenon's wood goes on beyond the wedge (common practice, no source)
)
INSIDE = 2.0  # mm that the wedge's mortise begins inside the mate's face, so that the wedge draws (common practice)
FRICTION = 0.25  # of wood on wood, the least (common practice, no source)
SHALLOWEST, STEEPEST = 18.0, 6.0  # run of the wedge for a rise of one (1:18 to 1:6, common practice)
EDGE = 5.0  # mm of shoulder at each edge
WALL = 8.0  # mm of tenon beside the wedge's mortise (common practice)


def _not_into_an_end(meeting: Meeting) -> str:
    return f"It would go into the end of {meeting.called}." if meeting.at_an_end else ""


@frozen
class Tusk:
    """The family: ``first`` has the tenon, ``second`` the mortise it goes through."""

    name: str = "tusk_tenon"
    about: str = "A tenon right through, drawn up by a loose wedge: it can be taken apart."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "wedged"
    making: Making = Making("sawn", "mortised", lambda joint: {"make": 4.0})
    joins: Joins = Joins(
        "Holds as long as its wedge does, and is drawn up again by a tap; it comes apart without a tool.",
        "No glue: both parts move as they like, and the wedge is tapped home in the dry months.",
        _not_into_an_end,
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask(
            "thickness",
            "thickness of the tenon; 0: its part, with no shoulders on the faces",
            "length",
            0.0,
            0.0,
            100.0,
        ),
        Ask("edge", "shoulder at both edges; 0: none", "length", EDGE, 0.0, 200.0),
        Ask(
            "wedge", "how thick the wedge is; 0: the widest chisel up to a third of the tenon", "length", 0.0, 0.0, 40.0
        ),
        Ask("small", "how broad the wedge is where it comes out", "length", 15.0, 3.0, 100.0),
        Ask("slope", "slope of the wedge, 1 to so many", "number", 8.0, 3.0, 30.0),
        Ask("beyond", "wood of the tenon beyond the wedge; 0: twice its thickness", "length", 0.0, 0.0, 300.0),
        Ask("inside", "how far the wedge's mortise begins inside the mate's face", "length", INSIDE, 0.0, 20.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """thickness, shoulder, wedge, small and big (the wedge where it comes out and goes in), beyond, projects, reach, inside; mm;
        angle, degrees."""
        if name in ("small", "inside"):
            return float(look.asked(name))
        own = look.thickness(look.joint.first)
        if name == "thickness":
            thick = float(look.asked("thickness")) or own
            if thick > own + 1e-9:
                raise NoJoint(
                    f"A tenon of {marked(thick)} is thicker than {look.label(look.joint.first)}, {marked(own)}."
                )
            return thick
        found = {
            "shoulder": lambda: (own - look.figure("thickness")) / 2,
            "wedge": lambda: _wedge(look),
            "big": lambda: look.figure("small") + look.figure("thickness") / float(look.asked("slope")),
            "beyond": lambda: float(look.asked("beyond")) or BEYOND * look.figure("thickness"),
            "projects": lambda: look.figure("big") + look.figure("beyond"),
            "reach": lambda: look.across(look.joint.second, look.joint.way) + look.figure("projects"),
            "angle": lambda: math.degrees(math.atan(1 / float(look.asked("slope")))),
        }.get(name)
        if found is None:
            raise NoJoint(f"A tusk tenon has no {name}.")
        return float(found())

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        tenon = _tenon(look)
        across, _ = across_of(look)
        wide = tenon[across][1] - tenon[across][0]
        thick, wedge, small, big = (look.figure(n) for n in ("thickness", "wedge", "small", "big"))
        beyond, projects, inside, angle = (look.figure(n) for n in ("beyond", "projects", "inside", "angle"))
        if wide - wedge < 2 * THINNEST:
            raise NoJoint(f"A wedge of {marked(wedge)} leaves nothing of the tenon of {a}, {marked(wide)} wide.")
        slot = _slot(look, first, tenon)
        mortise = block_cut(
            second,
            with_span(tenon, axis_of(joint.way)[0], look.body(joint.second)[axis_of(joint.way)[0]]),
            OPPOSITE[joint.way],
        )
        cuts = (*shoulders(look, first, (tenon,)), slot, mortise)
        mate = look.body(joint.second)
        beside = min(
            min(tenon[k][0] - mate[k][0], mate[k][1] - tenon[k][1]) for k in range(3) if k != axis_of(joint.way)[0]
        )
        if beside < 0:
            raise NoJoint(f"The tenon of {a} does not lie within {b} there: make it narrower, or thinner.")
        run, limit = float(look.asked("slope")), math.degrees(math.atan(FRICTION))
        mine, tip = (joint.first,), SIDE_WORDS[side_of(first, joint.way)]
        shouldered = bool(look.figure("shoulder") or look.asked("edge"))
        begin = (
            f"Knife the shoulder of {a} {marked(look.figure('reach'))} from its end, saw it, and fit"
            if shouldered
            else f"{a} has no shoulder: mark on it where {b} is to stand, and fit"
        )
        return JointPlan(
            joint.id,
            self.name,
            f"Tusk tenon of {a} through {b}",
            (joint.first, joint.second),
            (
                *(
                    (Setting("knife and square", look.figure("reach"), "", mine, f"shoulder of {a}", tip),)
                    if shouldered
                    else ()
                ),
                *(
                    (Setting("marking gauge", look.figure("shoulder"), "", mine, f"faces of the tenon of {a}", "face"),)
                    if look.figure("shoulder")
                    else ()
                ),
                *(
                    (
                        Setting(
                            "marking gauge",
                            float(look.asked("edge")),
                            "",
                            mine,
                            f"edges of the tenon of {a}",
                            "upper edge",
                        ),
                    )
                    if look.asked("edge")
                    else ()
                ),
                Setting("knife, from the tenon", wide, "", (joint.second,), f"mortise of {b} for {a}"),
                Setting("chisel", wedge, "", mine, f"mortise for the wedge in {a}, and the wedge's thickness"),
                Setting("rule", inside, "", mine, f"wedge's mortise in {a}, inward", FAR_SIDE),
                Setting("rule", big, "", mine, f"wedge of {a} where it goes in", FAR_SIDE),
                Setting("rule", small, "", mine, f"wedge of {a} where it comes out", FAR_SIDE),
            ),
            (
                f"{begin} the tenon through {b}: from both faces to the middle.",
                f"Draw the far face of {b} on the tenon as it stands. The mortise begins {marked(inside)} inside that line, so "
                "that the wedge "
                f"bears on {b} and not on the tenon.",
                f"Mark {marked(big)} from the line on the face where the wedge goes in, {marked(small)} where it comes out; "
                "chop between, "
                f"{marked(wedge)} wide, the near wall square, the far one along both marks.",
                f"Plane the wedge {marked(wedge)} thick, its slope two offsets joined by a line: 1 in {run:g}. Leave it long at "
                "both ends.",
                "Drive it until the shoulder closes; mark, take it out, trim both ends alike. Never glue it.",
            ),
            (
                Check(
                    STEEPEST - 1e-9 <= run <= SHALLOWEST + 1e-9,
                    f"wedge 1 : {run:g}; between 1 : 6 and 1 : 18",
                    Mend("slope", 8.0, "slope 1 : 8"),
                ),
                Check(
                    angle <= limit,
                    f"the wedge's {angle:.1f} degrees; below {limit:.0f}, the angle of friction, it does not shake loose",
                ),
                Check(
                    at_least(beyond, thick),
                    f"{marked(beyond)} of the tenon goes on beyond the wedge; short grain, at least {marked(thick)}",
                    Mend("beyond", BEYOND * thick, f"{marked(BEYOND * thick)} beyond it"),
                ),
                Check(
                    at_least((wide - wedge) / 2, WALL),
                    f"{marked((wide - wedge) / 2)} of tenon on either side of the wedge; at least {marked(WALL)}",
                ),
                Check(
                    any(abs(c - wedge) < 0.05 for c in look.shop.chisels),
                    f"wedge {marked(wedge)} thick: as wide as a chisel at hand",
                ),
                Check(
                    at_least(inside, 1.0),
                    f"the mortise begins {marked(inside)} inside the face; at least {marked(1.0)}, so that it draws",
                    Mend("inside", INSIDE, f"{marked(INSIDE)} inside the face"),
                ),
                Check(
                    at_least(beside, EDGE), f"{marked(beside)} of {b} stays beside the mortise; at least {marked(EDGE)}"
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures={
                "thickness": thick,
                "wedge": wedge,
                "small": small,
                "big": big,
                "projects": projects,
                "beyond": beyond,
                "inside": inside,
                "length": look.figure("reach"),
                "width": wide,
            },
            cuts=cuts,
            redrawn=(cuts.index(slot),),
        )


def _wedge(look: Look) -> float:
    """As thick as the widest chisel that takes no more than a third of the tenon's width."""
    if asked := float(look.asked("wedge")):
        return asked
    low, high = look.bare(look.joint.first)[across_of(look)[0]]
    third = (high - low - 2 * float(look.asked("edge"))) / 3
    return max((c for c in look.shop.chisels if c <= third), default=third)


def _tenon(look: Look) -> Block:
    """The tenon from its shoulder to its end."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    if along_of(look, joint.first) != axis:
        raise NoJoint(f"The tenon of {look.label(joint.first)} is at its end: it cannot go {joint.way}.")
    across, _ = across_of(look)
    bare, edge, reach = look.bare(joint.first), float(look.asked("edge")), look.figure("reach")
    low, high = bare[across]
    if high - low - 2 * edge < THINNEST:
        raise NoJoint(
            f"Shoulders of {marked(edge)} leave no tenon on {look.label(joint.first)}, {marked(high - low)} wide."
        )
    root = bare[axis][1 if sign > 0 else 0]
    shoulder = look.figure("shoulder")
    block = with_span(bare, axis, (root, root + reach) if sign > 0 else (root - reach, root))
    block = with_span(block, across, (low + edge, high - edge))
    through = 3 - axis - across
    return with_span(block, through, (bare[through][0] + shoulder, bare[through][1] - shoulder))


def _slot(look: Look, first: Placed, tenon: Block) -> Cut:
    """The wedge's mortise, through the tenon's thickness: its near wall square, its far wall along the wedge; the wedge goes in at the
    face of the part."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    face = look.face(joint.first)
    mate = look.body(joint.second)[axis][1 if sign > 0 else 0]
    middle, half = sum(tenon[across]) / 2, look.figure("wedge") / 2

    def outline(far: float) -> tuple[tuple[float, float], ...]:
        near = mate - sign * look.figure("inside")
        ends = [(near, middle - half), (mate + sign * far, middle + half)]
        (x0, y0), (x1, y1) = on_side(first, side_of(first, face), (axis, across), ends)
        return rectangle(min(x0, x1), min(y0, y1), abs(x1 - x0), abs(y1 - y0))

    rise = 1 / float(look.asked("slope"))
    shoulder, whole = look.figure("shoulder"), first.size[own_axis(first, face)[0]]
    # the slope runs on through what the shoulders took off, so that the tenon's own faces have the two offsets
    top = look.figure("big") + shoulder * rise
    return Cut(first.id, side_of(first, face), outline(top), whole, outline(top - whole * rise))


TUSK = Tusk()
