"""The splined edge as a family: two edges grooved alike, a loose tongue between them."""

from __future__ import annotations

from nullah.core.joints.edge import edges_meet
from nullah.core.joints.grooves import stop_checks
from nullah.core.joints.screws import outward, row_axis, shared
from nullah.core.marking.family import (
    AT_EDGE,
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    block_cut,
    side_of,
    way_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import MADE, ROOM, SIDE_WORDS, Check, JointPlan, Said, Setting, gathered, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

SPACE = (
    1.0  # mm that both grooves together are deeper than the tongue is wide, for the glue (common practice, no source)
)
WALL = 4.0  # mm of wood beside a groove at the least (common practice, no source)


@frozen
class Spline:
    """The family: ``first`` lies against ``second``, edge to edge."""

    name: str = "splined_edge"
    about: str = "Edges grooved alike, with a loose tongue between them."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("ploughed", "ploughed", lambda joint: {"make": 1.0})
    joins: Joins = Joins(
        "The tongue lines the faces up and adds glue; the edges themselves hold.",
        "Both move as one board where it is glued; dry, each moves by itself and no gap shows through.",
        edges_meet,
        ("plough",),
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("tongue", "how thick the tongue is; 0: a third of the edge", "length", 0.0, 0.0, 60.0),
        Ask("depth", "how deep either groove is; 0: two thirds of the edge", "length", 0.0, 0.0, 60.0),
        Ask("stop", "how far the grooves stop short of both ends", "length", 0.0, 0.0, 500.0),
        Ask("fixed", "how it is held", "choice", "glued", options=("glued", "dry")),
    )

    def figure(self, name: str, look: Look) -> float:
        """tongue (its thickness), wide (its width), depth (of either groove), stop, wall (what is left beside them), mm."""
        if name == "stop":
            return float(look.asked("stop"))
        thick = min(look.thickness(p) for p in (look.joint.first, look.joint.second))
        if name == "tongue":
            return float(look.asked("tongue")) or round(thick / 3, 1)
        if name == "depth":
            return float(look.asked("depth")) or round(2 * thick / 3, 1)
        if name == "wide":
            return 2 * look.figure("depth") - SPACE
        if name == "wall":
            return (thick - look.figure("tongue")) / 2
        raise NoJoint(f"A splined edge has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """Both edges laid out."""
        joint = look.joint
        a, b = look.label(joint.first), look.label(joint.second)
        tongue, depth, wide, wall, stop = (look.figure(n) for n in ("tongue", "depth", "wide", "wall", "stop"))
        room = min(look.across(p, joint.way) for p in (joint.first, joint.second))
        if wall <= 0 or wide <= 0 or depth >= room:
            raise NoJoint(
                f"A tongue of {marked(tongue)} by {marked(wide)} does not lie within the edges of {a} and {b}."
            )
        cuts = _grooves(look, tongue, depth, stop)
        low, high = shared(look)[row_axis(look)]
        long = high - low - 2 * stop
        both = (joint.first, joint.second)
        say, across = Said(), 3 - axis_of(joint.way)[0] - row_axis(look)
        face = outward(look, across)
        settings = [
            Setting(
                "plough" if look.shop.plough else "mortise gauge",
                tongue,
                "",
                both,
                f"grooves in the edges of {a} and {b}",
            ),
            Setting("depth stop", depth, "", both, f"depth of the grooves in {a} and {b}"),
        ]
        walls, stops = [], []
        for cut in cuts:
            placed, called = look.stands(cut.part), look.label(cut.part)
            side = side_of(placed, face)
            beside = off_side(cut, placed.size, side)
            settings.append(Setting("marking gauge", beside, "", (cut.part,), f"groove of {called}", SIDE_WORDS[side]))
            walls.append(f"{marked(beside)} from the {SIDE_WORDS[side]} of {called}")
            for end in (side_of(placed, way_of(row_axis(look), s)) for s in (-1, 1)):
                at = say(off_side(cut, placed.size, end), cut.part, SIDE_WORDS[end], "end of the groove")
                stops.append(f"{at} from the {SIDE_WORDS[end]} of {called}")
        how = "Plough" if look.shop.plough else "Knife both lines and chop"
        ends = f", stopping {', '.join(stops)}" if stop else ""
        long_told = say(long, joint.first, "", "length of the grooves")
        wide_told = say(wide, joint.first, MADE, "width of the tongue")
        space = say(SPACE, joint.first, ROOM, "for the glue")
        dry = look.asked("fixed") == "dry"
        return JointPlan(
            joint.id,
            self.name,
            f"{a} splined to {b}",
            both,
            gathered(settings),
            (
                "Shoot both edges; mark the sides that the fence bears on.",
                f"{how} {a} and {b} to {marked(depth)}, {walls[0]} and {walls[1]}{ends}.",
                f"Plane a tongue {marked(tongue)} thick, {wide_told} wide and {long_told} long in all, its grain across the joint.",
                f"Try it dry: the edges close, the tongue {space} short of the floors, the faces flush.",
                "Set it dry in both, so that either board moves."
                if dry
                else "Glue edges and tongue at once; clamp from the middle outward.",
            ),
            (
                Check(at_least(wall, WALL), f"{marked(wall)} of wood beside the grooves; at least {marked(WALL)}"),
                *(stop_checks(depth, look.shop.plough, look.shop.plough_deepest)),
                Check(at_least(tongue, 3.0), f"a tongue {marked(tongue)} thick; an iron goes from {marked(3.0)}"),
            ),
            marked_faces(cuts, {p: look.stands(p) for p in both}, look.label),
            lengths=say.lengths,
            figures={"tongue": tongue, "wide": wide, "depth": depth, "wall": wall, **({"stop": stop} if stop else {})},
            cuts=cuts,
        )


def _grooves(look: Look, tongue: float, depth: float, stop: float) -> tuple[Cut, Cut]:
    """The groove of either edge, over what both share."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    spans, line = shared(look), row_axis(look)
    other = 3 - axis - line
    middle, (low, high) = sum(spans[other]) / 2, spans[line]
    if high - low <= 2 * stop or spans[other][1] - spans[other][0] <= tongue:
        raise NoJoint(
            f"{look.label(joint.first)} and {look.label(joint.second)} share too little of their edges for a tongue."
        )
    at = look.body(joint.first)[axis][1 if sign > 0 else 0]
    if abs(at - look.body(joint.second)[axis][0 if sign > 0 else 1]) > AT_EDGE:
        raise NoJoint(f"{look.label(joint.first)} does not lie against {look.label(joint.second)}.")
    cuts = []
    for part, way, inward in ((joint.first, joint.way, -sign), (joint.second, OPPOSITE[joint.way], sign)):
        block = with_span(look.body(part), line, (low + stop, high - stop))
        block = with_span(block, other, (middle - tongue / 2, middle + tongue / 2))
        block = with_span(block, axis, (min(at, at + inward * depth), max(at, at + inward * depth)))
        cuts.append(block_cut(look.stands(part), block, way))
    return cuts[0], cuts[1]


SPLINE = Spline()
