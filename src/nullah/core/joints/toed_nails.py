"""Nails toed in: driven aslant through the sides of one part into another that its end stands against."""

from __future__ import annotations

import math

from nullah.core.drawing.display_list import Point
from nullah.core.joints.screws import PILOT, shared
from nullah.core.joints.tenon import across_of, along_of
from nullah.core.marking.family import Joins, Look, NoJoint, School, axis_of, own_axis, own_point, side_of, way_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Setting, counted
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, Cut, Placed, circle
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

LEAN = 30.0  # degrees to the part's length (NDS 12.1.5, from memory)
UP = 1 / 3  # of the nail's length from the end, where it starts (NDS 12.1.5, from memory)
EVERY = 40.0  # mm of width for a nail (common practice, no source)
BITES = 12.0  # mm into the second part at the least (common practice)
ROUND = 12  # corners a hole is drawn with


@frozen
class ToedNails:
    """The family: the end of ``first`` stands against ``second``; the nails go in from both faces of the first by turns."""

    name: str = "toed_nails"
    about: str = "An end held by nails driven aslant through its sides."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "nailed"
    making: Making = Making("bored", "bored", lambda joint: {"nail": joint.figures.get("count", 2.0)}, fits=False)
    joins: Joins = Joins(
        "Quick and rough: it keeps an end where it is, and bears little; hidden work only.",
        "Nails bend with the wood; there is no glue to crack.",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("nail", "thickness of the nails", "length", 2.5, 1.0, 8.0),
        Ask("long", "length of the nails", "length", 50.0, 15.0, 150.0),
        Ask("lean", "how far they lean from the length of the part, degrees", "number", LEAN, 15.0, 45.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """nail, long, up (where they start, from the end), into (how deep they go into the second), over (where they come out at the
        end, from the face), pilot, count; mm, lean in degrees."""
        if name in ("nail", "long", "lean"):
            return float(look.asked(name))
        lean = math.radians(float(look.asked("lean")))
        found = {
            "up": lambda: round(UP * look.figure("long"), 1),
            "into": lambda: look.figure("long") * math.cos(lean) - look.figure("up"),
            "over": lambda: look.figure("up") * math.tan(lean),
            "pilot": lambda: round(PILOT * look.figure("nail"), 1),
            "count": lambda: float(max(2, math.ceil(_wide(look) / EVERY))),
        }.get(name)
        if found is None:
            raise NoJoint(f"Nails toed in have no {name}.")
        return found()

    def plan(self, look: Look) -> JointPlan:
        """The pilots through the first, from its faces to its end, and on into the second."""
        joint = look.joint
        if along_of(look, joint.first) != axis_of(joint.way)[0]:
            raise NoJoint(f"{look.label(joint.first)} is toed in at its end: it cannot go {joint.way}.")
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        up, into, over, long = (look.figure(n) for n in ("up", "into", "over", "long"))
        thick = look.thickness(joint.first)
        mate = look.body(joint.second)[axis_of(joint.way)[0]]
        if over >= thick:
            raise NoJoint(f"Nails of {marked(long)} toed in come out of the other face of {a}: take shorter ones.")
        if into <= 0:
            raise NoJoint(f"Nails of {marked(long)} do not reach {b}.")
        count = int(look.figure("count"))
        cuts = [c for n in range(count) for c in _pilots(look, first, second, n, count)]
        mine = (joint.first,)
        return JointPlan(
            joint.id,
            self.name,
            f"{a} toed to {b} by {counted(count, 'nail')}",
            (joint.first, joint.second),
            (
                Setting("drill", look.figure("pilot"), "", mine, f"pilots of nails toed into {b}"),
                Setting("rule", up, "", mine, f"nails of {a}", SIDE_WORDS[side_of(first, joint.way)]),
                Setting("bevel", None, f"{look.figure('lean'):g}\N{DEGREE SIGN}", mine, f"nails of {a}, to its length"),
            ),
            (
                f"Hold {a} by a block behind it, so that the first nail does not push it off its mark.",
                f"Start {counted(count, 'nail')} {marked(up)} up from the end of {a}, by turns from either face; bore pilots on "
                "the slant.",
                "Drive them by turns to the last blow with a set; a rectangular nail lies with its wide way along the grain.",
            ),
            (
                Check(at_least(into, BITES), f"the nails go {marked(into)} into {b}; at least {marked(BITES)}"),
                Check(at_least(mate[1] - mate[0], into), f"nails {marked(into)} deep stay inside {b}"),
                Check(
                    at_least(thick - over, 3.0),
                    f"they come out at the end of {a} {marked(thick - over)} from its other face; at least {marked(3.0)}",
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures={
                "long": long,
                "up": up,
                "into": into,
                "over": over,
                "count": float(count),
                "nail": look.figure("nail"),
            },
            cuts=tuple(cuts),
        )


def _wide(look: Look) -> float:
    low, high = shared(look)[across_of(look)[0]]
    if high <= low:
        raise NoJoint(
            f"The end of {look.label(look.joint.first)} does not stand against {look.label(look.joint.second)}."
        )
    return high - low


def _pilots(look: Look, first: Placed, second: Placed, n: int, count: int) -> tuple[Cut, Cut]:
    """The pilot of one nail in both parts: each the hull of two circles."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    through, out = axis_of(look.face(joint.first))
    if n % 2:
        out = -out  # by turns from the back
    face = look.body(joint.first)[through][1 if out > 0 else 0]
    tip = look.body(joint.first)[axis][1 if sign > 0 else 0]
    low, high = shared(look)[across]
    at = low + (high - low) * (n + 0.5) / count
    up, over, into = look.figure("up"), look.figure("over"), look.figure("into")
    on = into * over / up  # how far it goes on sideways in the second
    radius = look.figure("pilot") / 2

    def hole(placed: Placed, side: str, along: float, deep: float) -> tuple[Point, ...]:
        point = [0.0, 0.0, 0.0]
        point[axis], point[across], point[through] = along, at, deep
        own = own_point(placed, (point[0], point[1], point[2]))
        i, j = (k for k in range(3) if k != SIDES[side][0])
        return circle(own[i], own[j], radius, ROUND)

    way = way_of(through, out)
    one, other = side_of(first, way), side_of(second, way_of(axis, -sign))
    deep = min(into, second.size[own_axis(second, joint.way)[0]])
    return (
        Cut(first.id, one, hole(first, one, tip - sign * up, face), over, hole(first, one, tip, face - out * over)),
        Cut(
            second.id,
            other,
            hole(second, other, tip, face - out * over),
            deep,
            hole(second, other, tip, face - out * (over + on * deep / into)),
        ),
    )


TOED_NAILS = ToedNails()
