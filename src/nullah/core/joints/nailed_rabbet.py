"""A rabbet at the end of one part over the edge of another, which is notched for the rest; nailed or screwed, without glue."""

from __future__ import annotations

from nullah.core.joints.screws import FROM_END, PILOT, in_a_row
from nullah.core.marking.family import (
    OPPOSITE,
    Block,
    Joins,
    Look,
    NoJoint,
    School,
    Span,
    axis_of,
    block_cut,
    depth_of_the_set,
    over_an_edge,
    side_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import MADE, ROOM, SIDE_WORDS, Check, JointPlan, Setting, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import OTHER, SIDES
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

SHARE = 1 / 3  # of the thickness: how deep a rabbet is (a quarter to two thirds, common practice)
LEAST_SHARE, MOST_SHARE = 0.25, 2 / 3
BITES = 20.0  # mm of a nail in the part it holds, at the least (common practice, no source)


@frozen
class NailedRabbet:
    """The family: the edge of ``first`` goes into a rabbet of ``second``, which is nailed on."""

    name: str = "nailed_rabbet"
    about: str = (
        "The end of one part rabbeted over the edge of another, nailed or screwed: it may move, and holds for life."
    )
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = (
        School(
            "held",
            "Boards that lie across each other's grain: are they held by nails, or by screws?",
            "nails bend with the wood where glue would crack it, and hold for life",
            "Screws hold harder and come out again; over a wide board they want slots. Glue across the grain splits it in a dry year.",
        ),
    )
    home: str = "nailed"
    making: Making = Making(
        "rabbeted", "rabbeted", lambda joint: {"nail": joint.figures["count"], "bore": joint.figures["count"]}
    )
    joins: Joins = Joins(
        "Nails bend a little where glue would crack: it holds for life, and can be taken apart.",
        "Without glue boards may lie across each other's grain; they move about the nails.",
        over_an_edge,
        ("rabbet_plane",),
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("depth", "how deep the rabbet is; 0: a third of the thickness", "length", 0.0, 0.0, 100.0),
        Ask("held", "what holds it", "choice", "nails", options=("nails", "screws")),
        Ask("nail", "thickness of the nails", "length", 3.0, 1.0, 8.0),
        Ask("long", "length of the nails", "length", 50.0, 15.0, 150.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """depth, width, notch, nail, long, pilot, apart, mm; count."""
        joint = look.joint
        if name == "asks held":
            return 1.0
        if name in ("nail", "long"):
            return float(look.asked(name))
        if name == "pilot":
            return round(PILOT * look.figure("nail"), 1)
        if name == "depth":
            return depth_of_the_set(look, lambda thick: round(SHARE * thick, 1))
        if name == "width":
            return look.thickness(joint.first)
        if name == "notch":
            return look.thickness(joint.second) - look.figure("depth")
        if name in ("count", "apart"):
            low, high = _along(look)
            return in_a_row(high - low)[0 if name == "count" else 1]
        raise NoJoint(f"A nailed rabbet has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The rabbet in the second, the notch in the first, and where the nails go."""
        joint = look.joint
        a, b = look.label(joint.first), look.label(joint.second)
        first, second = look.stands(joint.first), look.stands(joint.second)
        thick = look.thickness(joint.second)
        depth, notch = look.figure("depth"), look.figure("notch")
        if not 0 < depth < thick:
            raise NoJoint(f"A rabbet of {marked(depth)} in {b}, {marked(thick)} thick, leaves no wood or takes none.")
        rabbet, off = _meet(look, depth)
        cuts = (block_cut(second, rabbet, OPPOSITE[joint.way]), block_cut(first, off, look.face(joint.first)))
        count, apart, long = int(look.figure("count")), look.figure("apart"), look.figure("long")
        held = str(look.asked("held"))
        wide_way = ", the wide way of each along the grain" if held == "nails" else ""
        bite = long - notch
        away = side_of(first, joint.way)
        floor, edge = SIDE_WORDS[cuts[0].side], SIDE_WORDS[away]
        taken = first.size[SIDES[away][0]] - off_side(cuts[1], first.size, OTHER[away])
        settings = [
            Setting("marking gauge", cuts[0].depth, "", (joint.second,), f"depth of the rabbet in {b}", floor),
            Setting(f"knife, from {a}", look.figure("width"), "", (joint.second,), f"width of the rabbet for {a}"),
            Setting("marking gauge", taken, "", (joint.first,), f"notch in {a}", edge),
            Setting("drill", look.figure("pilot"), "", (joint.second,), f"pilots for the {held}, through {b}", MADE),
        ]
        if count > 1:
            settings.append(
                Setting(
                    "rule", FROM_END, "", (joint.second,), f"first and last of the {held}, from the ends of {a}", ROOM
                )
            )
        row = (
            f"{count} {held}, the first and last {marked(FROM_END)} from the ends of {a}, the rest evenly between"
            if count > 1
            else f"one of the {held} in the middle"
        )
        return JointPlan(
            joint.id,
            self.name,
            f"{b} over {a}, in a rabbet with {held}",
            (joint.second, joint.first),
            tuple(settings),
            (
                f"Cut the rabbet of {b} first: knife the shoulder from {a}, saw it, split and floor it to {marked(depth)} "
                f"from its {floor}; "
                "leave the end over-long, which resists splitting, until it is held.",
                f"Notch {a} by what is left of {b}, {marked(taken)} from its {edge}: gang both ends of the piece and saw them as one.",
                f"Try it: {b} lies flush on {a} and its shoulder bears all along.",
                f"Set out {row}; try the pilot in scrap{wide_way}. No glue across the grain.",
            ),
            (
                Check(
                    at_least(depth, LEAST_SHARE * thick) and at_least(MOST_SHARE * thick, depth),
                    f"the rabbet is {marked(depth)} deep in {marked(thick)}; a quarter to two thirds",
                ),
                Check(at_least(bite, BITES), f"the {held} hold {marked(bite)} in {a}; at least {marked(BITES)}"),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures={
                "depth": depth,
                "width": look.figure("width"),
                "notch": notch,
                "count": count,
                "apart": apart,
                "nail": look.figure("nail"),
                "long": long,
                "pilot": look.figure("pilot"),
            },
            cuts=cuts,
        )


def _axes(look: Look) -> tuple[int, int]:
    """The axis the second lies across, and the one along which both meet."""
    across, thick = axis_of(look.joint.way)[0], axis_of(look.face(look.joint.first))[0]
    if across == thick:
        first, second = look.label(look.joint.first), look.label(look.joint.second)
        raise NoJoint(f"{second} lies on the face of {first}: a rabbet goes over its edge.")
    return across, 3 - across - thick


def _along(look: Look) -> Span:
    """The stretch along which both meet."""
    _, along = _axes(look)
    one, other = look.bare(look.joint.first)[along], look.bare(look.joint.second)[along]
    low, high = max(one[0], other[0]), min(one[1], other[1])
    if high - low <= 0:
        raise NoJoint(f"{look.label(look.joint.first)} and {look.label(look.joint.second)} do not meet.")
    return low, high


def _meet(look: Look, depth: float) -> tuple[Block, Block]:
    """What the rabbet takes out of the second, and the notch out of the first, as blocks of the frame."""
    across, along = _axes(look)
    first, second = look.body(look.joint.first), look.body(look.joint.second)
    both = with_span(first, along, _along(look))
    low, high = second[across]
    if axis_of(look.joint.way)[1] < 0:  # the second lies before the first
        return with_span(both, across, (high - depth, high)), with_span(both, across, (low, high - depth))
    return with_span(both, across, (low, low + depth)), with_span(both, across, (low + depth, high))


NAILED_RABBET = NailedRabbet()
