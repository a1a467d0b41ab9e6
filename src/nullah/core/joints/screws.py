"""Screws through one part into another: a butt joint, slotted where the wood moves, and a batten in slots across a wide part."""

from __future__ import annotations

import math
from collections.abc import Sequence

from nullah.core.marking.family import (
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    own_axis,
    own_point,
    side_of,
    way_of,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Mend, Setting, gathered, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, Cut, Placed, circle
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

FROM_END = 25.0  # mm of the first and the last screw from the ends (1", common practice)
APART = 150.0  # mm between screws at the most (common practice)
PILOT = 0.7  # of the screw: its pilot hole (common practice)
ACROSS = 100.0  # mm of a part's width that may be held fast across its grain (75 to 100, common practice)
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
    making: Making = Making("bored", "bored", lambda joint: {"screw": joint.figures["count"]}, fits=False)
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

    def slotted(self, look: Look) -> bool:
        """Whether the wood can move past the screws."""
        return bool(look.asked("slotted"))

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out: holes through the first, pilots in the second. Slots lie the way the one moves past the other; the screw
        in the middle, where there is one, has a round hole."""
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
        behind = next((o for o in look.others() if o.first == joint.second and o.way == joint.way and o.second), None)
        backed = look.across(behind.second, joint.way) if behind else 0.0
        inside = bite <= (mate[1] - mate[0]) + backed - 0.5 + 1e-9
        if bite <= mate[1] - mate[0] - 0.5 + 1e-9:
            goes = f"stay inside {b}"
        elif inside and behind is not None:
            goes = f"go on through {b} into {look.label(behind.second)}"
        else:
            goes = f"come out of {b}"
        pilot_deep = min(bite, (mate[1] - mate[0]) - 0.5)
        spots, cuts = _spots(look), []
        count = len(spots)
        slotted = self.slotted(look)
        slot, slides = (float(look.asked("slot")), _slides(look)) if slotted else (0.0, 0)
        for n, at in enumerate(spots):
            free = 0.0 if 2 * n + 1 == count else slot
            cuts.append(hole(first, at, joint.way, screw / 2 + 0.25, deep, free, slides))
            cuts.append(hole(second, at, joint.way, pilot / 2, pilot_deep))
        line = row_axis(look)
        settings = [
            Setting("drill", screw + 0.5, "", (joint.first,), f"{'slots' if slotted else 'holes'} through {a}"),
            Setting("drill", pilot, "", (joint.second,), f"pilots in {b}"),
            Setting("depth mark on the bit", pilot_deep, "", (joint.second,), f"pilots in {b}"),
        ]
        told: list[str] = []
        for way, hole_cut in ((way_of(line, -1), cuts[0]), (way_of(line, 1), cuts[-2])):
            side = side_of(first, way)
            at_end = off_side(hole_cut, first.size, side, True)
            settings.append(
                Setting(
                    "rule",
                    at_end,
                    "",
                    (joint.first,),
                    f"{'first' if not told else 'last'} screw of {a}",
                    SIDE_WORDS[side],
                )
            )
            told.append(f"{marked(at_end)} from the {SIDE_WORDS[side]}")
        return JointPlan(
            joint.id,
            self.name,
            f"{a} screwed to {b}",
            (joint.first, joint.second),
            gathered(settings if count > 1 else settings[:-1]),
            (
                f"Set out {count} screws along {a}: the first {told[0]}, the last {told[1]}, the rest evenly between."
                if count > 1
                else f"Set out one screw in the middle of {a}, {told[0]}.",
                f"Bore {_bored(look, count) if slotted else 'clearance holes'} through {a}; try the pilot in scrap, then bore {b}.",
                _driven(count)
                if slotted
                else "Drive the screws home, without glue: they hold by their bite, and it comes apart again.",
            ),
            (
                Check(
                    at_least(pilot_deep, BITES),
                    f"the screws bite {marked(pilot_deep)} into {b}; at least {marked(BITES)}",
                    Mend("long", deep + BITES, f"screws of {marked(deep + BITES)}"),
                ),
                Check(
                    inside,
                    f"screws of {marked(long)} {goes}",
                    Mend("long", deep + pilot_deep, f"screws of {marked(deep + pilot_deep)}"),
                ),
                *(() if slotted else _held_fast(look)),
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
    return shared(look)[row_axis(look)]


def shared(look: Look) -> list[tuple[float, float]]:
    """The stretches that both parts take up, along the frame's axes, mm."""
    one, two = look.bare(look.joint.first), look.bare(look.joint.second)
    return [(max(a[0], b[0]), min(a[1], b[1])) for a, b in zip(one, two, strict=True)]


def row_axis(look: Look) -> int:
    """The axis the screws stand in a row along."""
    axis, _ = axis_of(look.joint.way)
    both = shared(look)
    return max((k for k in range(3) if k != axis), key=lambda k: both[k][1] - both[k][0])


def outward(look: Look, axis: int) -> str:
    """The way along an axis of the frame that the first part's marked side looks: its face or its upper edge, else up the axis."""
    marked_sides = (look.face(look.joint.first), look.up(look.joint.first))
    return next((w for w in marked_sides if axis_of(w)[0] == axis), way_of(axis, 1))


def _spots(look: Look) -> list[tuple[float, float, float]]:
    """Where the screws go in: on the face where both meet."""
    low, high = _run(look)
    count, apart = int(look.figure("count")), look.figure("apart")
    along = [(low + high) / 2] if count == 1 else [low + FROM_END + n * apart for n in range(count)]
    return in_the_middle(look, along)


def in_the_middle(look: Look, along: Sequence[float]) -> list[tuple[float, float, float]]:
    """Places on the face where both parts meet, in a row along the middle of what they share, mm in the frame.

    Raises:
        NoJoint: they do not meet.
    """
    joint = look.joint
    axis, sign = axis_of(joint.way)
    both, line = shared(look), row_axis(look)
    other = 3 - axis - line
    if both[line][1] - both[line][0] <= 0 or both[other][1] - both[other][0] <= 0:
        raise NoJoint(f"{look.label(joint.first)} does not lie against {look.label(joint.second)}.")
    body = look.body(joint.first)[axis]
    spots = []
    for at in along:
        point = [0.0, 0.0, 0.0]
        point[axis] = body[1] if sign > 0 else body[0]
        point[line] = at
        point[other] = sum(both[other]) / 2
        spots.append((point[0], point[1], point[2]))
    return spots


def grain_axis(look: Look, part: str) -> int:
    """The axis of the frame that a part's grain runs along."""
    way = look.stands(part).axes[0]
    return max(range(3), key=lambda k: abs(way[k]))


def _slides(look: Look) -> int:
    """The axis one part moves along past the other: along the row of screws where the grain of either crosses it, else across."""
    line = row_axis(look)
    if {grain_axis(look, look.joint.first), grain_axis(look, look.joint.second)} == {line}:
        return 3 - axis_of(look.joint.way)[0] - line
    return line


def _held_fast(look: Look) -> tuple[Check, ...]:
    """Whether screws without slots hold a part fast across more of its grain than it bears; nothing where both move alike."""
    line, (low, high) = row_axis(look), _run(look)
    crossing = [part for part in (look.joint.first, look.joint.second) if grain_axis(look, part) != line]
    if len(crossing) != 1:
        return ()
    words = f"held fast across {marked(high - low)} of the grain of {look.label(crossing[0])}; over {marked(ACROSS)} it wants slots"
    return (Check(at_least(ACROSS, high - low), words, Mend("slotted", True, "holes slotted")),)


def _bored(look: Look, count: int) -> str:
    """What is bored for so many screws in slots."""
    if count == 1:
        return "a round hole"
    words = f"slots that lie {'along' if _slides(look) == row_axis(look) else 'across'} the row"
    return f"a round hole in the middle and {words}" if count % 2 else words


def _driven(count: int) -> str:
    """How so many screws in slots are driven."""
    if count == 1:
        return "Drive it without glue: the wood moves to both sides of it."
    if count % 2:
        return "Drive them without glue, the middle one tight and the rest free in their slots."
    return "Drive them without glue, each in the middle of its slot, snug and no more."


def hole(
    part: Placed,
    at: tuple[float, float, float],
    way: str,
    radius: float,
    deep: float,
    slot: float = 0.0,
    slides: int = 0,
) -> Cut:
    """A hole into the side a screw comes in at, which looks against ``way``; of the second part that is where the two meet. ``slot`` mm
    long along the frame's axis ``slides``, where it is longer than round."""
    side = side_of(part, OPPOSITE[way])
    own = own_point(part, at)
    i, j = (k for k in range(3) if k != SIDES[side][0])
    half = max(0.0, slot / 2 - radius)
    long = j == max(range(3), key=lambda k: abs(part.axes[k][slides]))
    points = []
    for corner in circle(0.0, 0.0, radius, ROUND):
        off = [*corner]
        off[long] += half if off[long] > 0 else -half
        points.append((own[i] + off[0], own[j] + off[1]))
    return Cut(part.id, side, tuple(points), min(deep, part.size[own_axis(part, way)[0]]))


@frozen
class Batten(Screws):
    """A batten that holds a wide part flat and lets it move."""

    def slotted(self, look: Look) -> bool:
        """Always: screwed fast it would split what it holds."""
        return True

    def plan(self, look: Look) -> JointPlan:
        """As screws in slots are, where it crosses the grain of what it holds."""
        a, b = look.joint.first, look.joint.second
        if grain_axis(look, a) == grain_axis(look, b) or grain_axis(look, a) != row_axis(look):
            raise NoJoint(
                f"A batten lies across the grain of what it holds flat; {look.label(a)} does not lie so on {look.label(b)}."
            )
        return super().plan(look)


SCREWS = Screws()
BATTEN = Batten(
    name="batten_in_slots",
    about="A batten across a wide part, to hold it flat, screwed through slots.",
    joins=Joins(
        "Holds a wide part flat; a lid or a door of boards hangs on it.",
        "The wide part moves past it, in slots as long as the movement; glue would split it.",
    ),
    asks=tuple(ask for ask in SCREWS.asks if ask.name != "slotted"),
)
