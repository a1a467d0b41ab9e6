"""The bridle joint as a family: a tenon as wide as its part, in a slot that is open at the other's end; at a corner of a frame."""

from __future__ import annotations

from nullah.core.marking.family import (
    AT_EDGE,
    OPPOSITE,
    Block,
    Joins,
    Look,
    Meeting,
    NoJoint,
    School,
    axis_of,
    block_cut,
    own_axis,
    own_block,
    side_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Mend, Setting, gathered, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

THINNEST = 4.0  # mm of a cheek beside the slot (common practice, no source)
FLUSH = 1.0  # mm that the faces of both may differ


def _at_an_end(meeting: Meeting) -> str:
    if meeting.at_an_end:
        return f"It meets the end of {meeting.called}: the slot is cut from its edge."
    return ""


@frozen
class Bridle:
    """The family: ``first`` has the tenon, ``second`` the slot at its end."""

    name: str = "bridle"
    about: str = "A corner of a frame: a tenon as wide as its part, in a slot open at the end."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn", "sawn and chopped")
    joins: Joins = Joins(
        "As much glued cheek as there can be; nothing but glue and shoulders keeps it from opening.",
        "Grain crosses on the cheeks: sound up to some 75 wide.",
        _at_an_end,
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (Ask("tenon", "how thick the tenon is; 0: a third of its part", "length", 0.0, 0.0, 100.0),)

    def figure(self, name: str, look: Look) -> float:
        """tenon, its thickness; cheek, what is left on either side of the slot; shoulder, what the first loses on a face; reach, how
        far it goes through the second; mm."""
        thick = look.thickness(look.joint.first)
        if name == "tenon":
            return float(look.asked("tenon")) or round(thick / 3, 1)
        if name == "reach":
            return look.across(look.joint.second, look.joint.way)
        if name == "shoulder":
            return (thick - look.figure("tenon")) / 2
        if name == "cheek":
            return (look.thickness(look.joint.second) - look.figure("tenon")) / 2
        raise NoJoint(f"A bridle joint has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The corner laid out."""
        joint = look.joint
        mate, host = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        tenon, cheek, shoulder, reach = (look.figure(n) for n in ("tenon", "cheek", "shoulder", "reach"))
        if shoulder <= 0 or cheek <= 0:
            raise NoJoint(
                f"A tenon of {marked(tenon)} leaves no shoulders on {a} or no cheeks on {b}: make it thinner."
            )
        slot, cheeks = _cut(look, mate, host)
        both = (joint.first, joint.second)
        side = side_of(host, look.face(joint.first))
        tip, end = side_of(mate, joint.way), _end_of(slot, host)
        wide, reach = _along(slot), _along(cheeks[0])
        beside = off_side(slot, host.size, side)
        settings = gathered(
            [
                Setting("mortise gauge", tenon, "", both, "slot and tenon"),
                Setting("mortise gauge, nearer pin", shoulder, "", (joint.first,), f"tenon of {a}", "face"),
                Setting("mortise gauge, nearer pin", beside, "", (joint.second,), f"slot of {b}", SIDE_WORDS[side]),
                Setting("knife, square", reach, "", (joint.first,), f"shoulder line of {a}", SIDE_WORDS[tip]),
                Setting("knife, square", wide, "", (joint.second,), f"floor of the slot in {b}", SIDE_WORDS[end]),
            ]
        )
        return JointPlan(
            joint.id,
            "bridle",
            f"Bridle joint of {a} and {b}",
            both,
            settings,
            (
                f"Mark face and edge; the tenon is gauged from the face of {a}, the slot from the {SIDE_WORDS[side]} of {b}.",
                f"Knife the shoulders of {a} all round at {marked(reach)}, and the floor of the slot in {b} at {marked(wide)}.",
                f"Gauge slot and tenon {marked(tenon)} wide on the ends and both edges, the tenon {marked(shoulder)} from the face, "
                f"the slot {marked(beside)} from the {SIDE_WORDS[side]}.",
                f"Saw the slot of {b} inside its lines to the floor; coping saw or bore out the waste, chop the floor from both edges.",
                f"Saw the cheeks of {a} outside its lines, then the shoulders; pare the cheeks until it slides in by hand.",
                "Glue the cheeks, clamp across them over pads, and along both parts until the shoulders close.",
            ),
            (
                Check(
                    at_least(cheek, THINNEST), f"cheeks {marked(cheek)} beside the slot; at least {marked(THINNEST)}"
                ),
                Check(
                    at_least(tenon, look.thickness(joint.first) / 4),
                    f"tenon {marked(tenon)} of {marked(look.thickness(joint.first))}; about a third",
                    Mend("tenon", round(look.thickness(joint.first) / 3, 1), "a third"),
                ),
                Check(at_least(75.0, wide), f"{marked(wide)} glued across the grain; no more than {marked(75.0)}"),
            ),
            marked_faces((slot, *cheeks), {mate.id: mate, host.id: host}, look.label),
            figures={"tenon": tenon, "cheek": cheek, "shoulder": shoulder},
            cuts=(slot, *cheeks),
        )


def _cut(look: Look, mate: Placed, host: Placed) -> tuple[Cut, tuple[Cut, Cut]]:
    """The slot, and what is taken off both faces of the first."""
    joint = look.joint
    way, face = axis_of(joint.way)[0], look.face(joint.first)
    body, other = look.body(joint.first), look.body(joint.second)
    thick = axis_of(face)[0]
    if own_axis(host, face)[0] != 2 or own_axis(mate, joint.way)[0] != 0 or own_axis(host, joint.way)[0] != 1:
        raise NoJoint(
            "A bridle joint is of two parts whose faces look one way, the end of one at the edge of the other."
        )
    if abs(sum(body[thick]) - sum(other[thick])) / 2 > FLUSH:
        raise NoJoint(f"The faces of {look.label(joint.first)} and {look.label(joint.second)} are not flush.")
    low, high = body[thick]
    shoulder = look.figure("shoulder")
    end = with_span(body, way, other[way])
    tenon = with_span(end, thick, (low + shoulder, high - shoulder))
    slot = block_cut(host, tenon, OPPOSITE[joint.way])
    at, to = (corner[0] for corner in own_block(host, tenon))
    if at > AT_EDGE and to < host.size[0] - AT_EDGE:
        raise NoJoint(f"It lies away from the ends of {look.label(joint.second)}: there it is a mortise.")

    def off(span: tuple[float, float], side: str) -> Cut:
        taken: Block = with_span(end, thick, span)
        return block_cut(mate, taken, side)

    above, below = (high - shoulder, high), (low, low + shoulder)
    if axis_of(face)[1] < 0:
        above, below = below, above
    return slot, (off(above, face), off(below, OPPOSITE[face]))


def _along(cut: Cut) -> float:
    """How far a cut into a face or an edge goes along its part, mm."""
    return max(p[0] for p in cut.outline) - min(p[0] for p in cut.outline)


def _end_of(slot: Cut, host: Placed) -> str:
    """The end of the part that a slot lies at."""
    return "left" if off_side(slot, host.size, "left") <= off_side(slot, host.size, "right") else "right"


BRIDLE = Bridle()
