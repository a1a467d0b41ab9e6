"""A butt joint with screws: one part against another, screwed through, slotted where the wood moves across."""

from __future__ import annotations

import math

from nullah.core.ask import Ask
from nullah.core.frozen import frozen
from nullah.core.joints.family import (
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    marked_faces,
    own_axis,
    own_point,
    side_of,
)
from nullah.core.joints.plan import Check, JointPlan, Setting
from nullah.core.measure import at_least, marked
from nullah.core.shapes.cut import SIDES, Cut, Placed

FROM_END = 25.0  # mm of the first and the last screw from the ends (1", common practice)
APART = 150.0  # mm between screws at the most (common practice)
PILOT = 0.7  # of the screw: its pilot hole (common practice)
BITES = 12.0  # mm of thread in the second part at the least (common practice)
ROUND = 12  # corners a hole is drawn with


@frozen
class Screws:
    """The family: ``first`` lies against ``second``, and the screws go through the first."""

    name: str = "butt_screws"
    about: str = "One part against another, held by screws."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "screwed"
    joins: Joins = Joins(
        "As good as the bite of its screws: poor in end grain, good enough where it can be done again.",
        "In slots it lets a wide part move; screwed fast across the grain it splits one in time.",
    )
    after: tuple[str, ...] = ("mortise_and_tenon", "taper")
    asks: tuple[Ask, ...] = (
        Ask("screw", "diameter of the screws", "length", 4.0, 2.0, 10.0),
        Ask("long", "length of the screws", "length", 40.0, 10.0, 200.0),
        Ask("slotted", "holes slotted, so that the wood can move", "yesno", False),
        Ask("slot", "length of a slot", "length", 12.0, 4.0, 40.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """screw, long, count, apart, pilot; mm, and a count."""
        if name in ("screw", "long"):
            return float(look.asked(name))
        if name == "pilot":
            return round(PILOT * look.figure("screw"), 1)
        if name in ("count", "apart"):
            low, high = _run(look)
            return in_a_row(high - low)[0 if name == "count" else 1]
        raise NoJoint(f"A screwed joint has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out: holes through the first, pilots in the second."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        screw, long, pilot = look.figure("screw"), look.figure("long"), look.figure("pilot")
        deep = look.across(joint.first, joint.way)
        axis, _ = axis_of(joint.way)
        mate = look.body(joint.second)[axis]
        bite = long - deep
        if bite <= 0:
            raise NoJoint(f"Screws of {marked(long)} do not come through {a}, which is {marked(deep)} thick there.")
        pilot_deep = min(bite, (mate[1] - mate[0]) - 0.5)
        slotted = bool(look.asked("slotted"))
        cuts = []
        for at in _spots(look):
            cuts.append(
                _hole(
                    first,
                    at,
                    OPPOSITE[joint.way],
                    screw / 2 + 0.25,
                    deep,
                    float(look.asked("slot")) if slotted else 0.0,
                    joint.way,
                )
            )
            cuts.append(_hole(second, at, OPPOSITE[joint.way], pilot / 2, pilot_deep, 0.0, joint.way))
        count = len(cuts) // 2
        return JointPlan(
            joint.id,
            self.name,
            f"{a} screwed to {b}",
            (joint.first, joint.second),
            (
                Setting("drill", screw + 0.5, "", (joint.first,), f"{'slots' if slotted else 'holes'} through {a}"),
                Setting("drill", pilot, "", (joint.second,), f"pilots in {b}, {marked(pilot_deep)} deep"),
                Setting("rule", FROM_END, "", (joint.first,), f"first and last screw of {a}, from its ends"),
            ),
            (
                f"Set out {count} screws along {a}: the first and last {marked(FROM_END)} from the ends, the rest evenly between."
                if count > 1
                else f"Set out one screw in the middle of {a}.",
                f"Bore {'slots across the grain of what moves' if slotted else 'clearance holes'} through {a}; "
                f"try the pilot in scrap, then bore {b}.",
                "Drive them without glue where the wood must move, the middle one tight and the rest free in their slots."
                if slotted
                else "Glue where the grain runs alike, and drive the screws home.",
            ),
            (
                Check(
                    at_least(pilot_deep, BITES),
                    f"the screws bite {marked(pilot_deep)} into {b}; at least {marked(BITES)}",
                ),
                Check(
                    pilot_deep >= bite - 1e-9,
                    f"screws of {marked(long)} {'stay inside' if pilot_deep >= bite - 1e-9 else 'come out of'} {b}",
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures={"screw": screw, "long": long, "count": count, "apart": look.figure("apart"), "pilot": pilot},
            cuts=tuple(cuts),
        )


def in_a_row(run: float) -> tuple[float, float]:
    """How many screws or nails stand in a row so long, and how far apart, mm; one in the middle where there is no room for two."""
    count = max(2 if run > 2 * FROM_END else 1, math.ceil((run - 2 * FROM_END) / APART) + 1)
    return float(count), (run - 2 * FROM_END) / (count - 1) if count > 1 else 0.0


def _run(look: Look) -> tuple[float, float]:
    """The stretch that both share, along the longer of the two ways across the screws."""
    return _shared(look)[_line(look)]


def _shared(look: Look) -> list[tuple[float, float]]:
    one, two = look.bare(look.joint.first), look.bare(look.joint.second)
    return [(max(a[0], b[0]), min(a[1], b[1])) for a, b in zip(one, two, strict=True)]


def _line(look: Look) -> int:
    """The axis the screws stand in a row along."""
    axis, _ = axis_of(look.joint.way)
    shared = _shared(look)
    return max((k for k in range(3) if k != axis), key=lambda k: shared[k][1] - shared[k][0])


def _spots(look: Look) -> list[tuple[float, float, float]]:
    """Where the screws go in: on the face where both meet."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    shared, line = _shared(look), _line(look)
    other = 3 - axis - line
    low, high = shared[line]
    if high - low <= 0 or shared[other][1] - shared[other][0] <= 0:
        raise NoJoint(f"{look.label(joint.first)} does not lie against {look.label(joint.second)}.")
    body = look.body(joint.first)[axis]
    count = int(look.figure("count"))
    spots = []
    for n in range(count):
        along = (low + high) / 2 if count == 1 else low + FROM_END + n * look.figure("apart")
        point = [0.0, 0.0, 0.0]
        point[axis] = body[1] if sign > 0 else body[0]
        point[line] = along
        point[other] = sum(shared[other]) / 2
        spots.append((point[0], point[1], point[2]))
    return spots


def _hole(
    part: Placed, at: tuple[float, float, float], enters: str, radius: float, deep: float, slot: float, way: str
) -> Cut:
    """A hole, or a slot across the part, into the side that looks ``enters``; of the second part that is where the two meet."""
    side = side_of(part, enters)
    drop = own_axis(part, way)[0]
    own = own_point(part, at)
    i, j = (k for k in range(3) if k != SIDES[side][0])
    half = max(0.0, slot / 2 - radius)
    wide = 1 if {i, j} == {0, 1} else (0 if i else 1)  # the slot lies across the part's length where it can
    points = []
    for n in range(ROUND):
        turn = 2 * math.pi * (n + 0.5) / ROUND
        off = [radius * math.cos(turn), radius * math.sin(turn)]
        off[wide] += half if off[wide] > 0 else -half
        points.append((own[i] + off[0], own[j] + off[1]))
    return Cut(part.id, side, tuple(points), min(deep, part.size[drop]))


SCREWS = Screws()
