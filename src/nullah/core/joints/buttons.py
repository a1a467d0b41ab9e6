"""Buttons as a family: a wide top held down on a rail by small blocks with a tongue, which let it move either way."""

from __future__ import annotations

from itertools import pairwise

from nullah.core.joints.screws import PILOT, grain_axis, hole, row_axis, shared
from nullah.core.joints.spacing import spaced
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
    side_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import (
    MADE,
    ROOM,
    SIDE_WORDS,
    Check,
    JointPlan,
    Said,
    Setting,
    counted,
    gathered,
    off_side,
)
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

HOLDS = 6.0  # mm of tongue in its mortise in the driest month (common practice, no source)
DRAWS = 1.0  # mm the mortise lies lower than the tongue, so that the screw draws the top down (common practice)
WALL = 5.0  # mm of rail above and behind a mortise (common practice)
LONG = 40.0  # mm of a button behind its tongue (common practice, no source)
SCREW = 4.0  # mm
BITES = 0.6  # of the top's thickness: how deep its screws go (common practice, no source)


@frozen
class Buttons:
    """The family: ``first`` is the rail, ``second`` the top on its edge; the buttons are on the rail's hidden face."""

    name: str = "buttons"
    about: str = "A wide top on its rails, held down by buttons that let it move."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "screwed"
    making: Making = Making(
        "mortised", "bored", lambda joint: {"make": joint.figures["count"], "screw": joint.figures["count"]}, fits=False
    )
    joins: Joins = Joins(
        "Holds a top down flat; it can be taken off again.",
        "Along the rail or across it the top is free to move; nothing is glued.",
    )
    after: tuple[str, ...] = ("mortise_and_tenon", "taper")
    asks: tuple[Ask, ...] = (
        Ask("tongue", "how thick the tongue is", "length", 10.0, 4.0, 30.0),
        Ask("wide", "how wide a button is", "length", 30.0, 10.0, 100.0),
        Ask("pitch", "how far they are apart at the most", "length", 250.0, 40.0, 1000.0),
        Ask("end", "first and last from the ends", "length", 60.0, 10.0, 500.0),
        Ask("clearance", "working room", "length", 1.0, 0.0, 10.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """tongue, wide, clearance, count, apart; gap between button and rail, long (the tongue), depth of a mortise, below (its upper
        wall from the rail's edge); ``slot N`` how much longer the mortise N is than its button, at either end; mm, and a count."""
        if name in ("tongue", "wide", "clearance"):
            return float(look.asked(name))
        if name in ("count", "apart"):
            low, high = shared(look)[row_axis(look)]
            try:
                return spaced(high - low, float(look.asked("pitch")), float(look.asked("end")))[
                    0 if name == "count" else 1
                ]
            except ValueError as error:
                raise NoJoint(f"Buttons along {marked(high - low)}: {error}") from None
        if name.startswith("slot "):
            return _slot(look, int(name.removeprefix("slot ")))
        if name == "below":
            return WALL + float(look.asked("tongue")) / 2
        dry, wet = _off_and_on(look)
        if name == "gap":
            return round(wet + look.figure("clearance"), 2)
        if name == "long":
            return round(look.figure("gap") + HOLDS + dry, 1)
        if name == "depth":
            return round(HOLDS + dry + wet + look.figure("clearance"), 1)
        raise NoJoint(f"Buttons have no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The mortises in the rail, and the pilots in the top."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        tongue, wide, gap, long, depth = (look.figure(n) for n in ("tongue", "wide", "gap", "long", "depth"))
        count, below = int(look.figure("count")), look.figure("below")
        slots = [look.figure(f"slot {n}") for n in range(1, count + 1)]
        axis = axis_of(joint.way)[0]
        low, high = look.body(joint.second)[axis]
        cuts = _cuts(look, first, second, slots)
        behind, high_rail = look.thickness(joint.first) - depth, look.body(joint.first)[axis]
        apart = look.figure("apart") - wide - max(x + y for x, y in pairwise(slots)) if count > 1 else WALL
        beyond = float(look.asked("end")) - wide / 2 - max(slots[0], slots[-1])
        if apart < 0 or beyond < 0:
            raise NoJoint(
                f"Mortises for buttons {marked(wide)} wide run into each other, or out of the end of {a}: narrower, or further apart."
            )
        along = sorted(set(slots))
        figures = {
            "tongue": tongue,
            "wide": wide,
            "gap": gap,
            "long": long,
            "depth": depth,
            "below": below,
            "count": float(count),
        }
        figures |= {f"slot {n}": mm for n, mm in enumerate(slots, 1)}
        say, edge = Said(), side_of(first, joint.way)
        drilled = next(c.depth for c in cuts if c.part == second.id)
        walls = off_side(next(c for c in cuts if c.part == first.id), first.size, edge)
        tongue_told = say(long, joint.first, MADE, "tongue of a button")
        wide_told = say(wide, joint.first, MADE, "width of a button")
        return JointPlan(
            joint.id,
            self.name,
            f"Buttons of {b} on {a}",
            (joint.first, joint.second),
            gathered(
                [
                    Setting(
                        "marking gauge",
                        walls,
                        "",
                        (joint.first,),
                        f"upper wall of the mortises in {a}",
                        SIDE_WORDS[edge],
                    ),
                    Setting("mortise gauge", tongue, "", (joint.first,), f"mortises for buttons in {a}"),
                    Setting("depth mark on the chisel", depth, "", (joint.first,), f"mortises for buttons in {a}"),
                    *(
                        Setting("rule", wide + 2 * mm, "", (joint.first,), f"length of a mortise for a button in {a}")
                        for mm in along
                    ),
                    Setting(
                        "marking gauge",
                        below - DRAWS,
                        "",
                        (joint.first,),
                        f"tongue of the buttons on {a}, from their upper side",
                        MADE,
                    ),
                    Setting("rule", gap, "", (joint.second,), f"buttons clear of {a} as they are screwed on", ROOM),
                    Setting("drill", round(PILOT * SCREW, 1), "", (joint.second,), f"pilots in {b} for its buttons"),
                    Setting(
                        "depth mark on the bit",
                        drilled,
                        "",
                        (joint.second,),
                        f"pilots in {b} for its buttons",
                    ),
                ]
            ),
            (
                f"Chop {counted(count, 'mortise')} on the hidden face of {a} before the frame is glued: {marked(tongue)} high, "
                f"{marked(depth)} deep.",
                "Make the buttons of one length of stock, its grain along the tongue: a rabbet that leaves a tongue "
                f"{marked(tongue)} thick and "
                f"{tongue_told} long; saw them off {wide_told} wide.",
                f"Lay {b} on the frame; screw each button up with {marked(gap)} between it and {a}, in the middle of its mortise.",
                "No glue. Each screw is snug: the tongue draws down and still slides by a tap.",
            ),
            (
                Check(
                    at_least(behind, WALL),
                    f"{marked(behind)} of {a} stays behind the mortises; at least {marked(WALL)}",
                ),
                Check(at_least(apart, WALL), f"{marked(apart)} between two mortises; at least {marked(WALL)}"),
                Check(
                    at_least(beyond, WALL),
                    f"{marked(beyond)} of {a} beyond its first or last mortise; at least {marked(WALL)}",
                ),
                Check(
                    at_least(high_rail[1] - high_rail[0], below + tongue + WALL),
                    f"{a} is {marked(high_rail[1] - high_rail[0])} high; mortises for buttons want {marked(below + tongue + WALL)}",
                ),
                Check(
                    at_least((1 - BITES) * (high - low), 3.0),
                    f"screws stop {marked((1 - BITES) * (high - low))} below the face of {b}; at least {marked(3.0)}",
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            figures=figures,
            cuts=tuple(cuts),
        )


def _across_row(look: Look) -> bool:
    """Whether the top moves along the row of buttons: its grain crosses the rail."""
    return grain_axis(look, look.joint.second) != row_axis(look)


def _moves(look: Look, off: float) -> Span:
    """How far a point of the top ``off`` mm from its middle comes in and goes out in a year, mm."""
    dry, wet = look.grows(look.joint.second, abs(off))
    return max(0.0, -dry), max(0.0, wet)


def _middle(look: Look, axis: int) -> float:
    return sum(look.body(look.joint.second)[axis]) / 2


def _off_and_on(look: Look) -> Span:
    """How far the top draws the tongue out of its mortise and presses it in, mm; nothing where it moves along the rail."""
    if _across_row(look):
        return 0.0, 0.0
    other = 3 - axis_of(look.joint.way)[0] - row_axis(look)
    hidden = _hidden(look)
    return _moves(look, hidden - _middle(look, other))


def _hidden(look: Look) -> float:
    """Where the rail's hidden face lies across the row."""
    way = OPPOSITE[look.face(look.joint.first)]
    axis, sign = axis_of(way)
    if axis != 3 - axis_of(look.joint.way)[0] - row_axis(look):
        a, b = look.label(look.joint.first), look.label(look.joint.second)
        raise NoJoint(f"{a} lies flat under {b}: buttons go on the hidden face of a rail that stands on edge.")
    return look.body(look.joint.first)[axis][1 if sign > 0 else 0]


def _places(look: Look) -> list[float]:
    """The middle of each button along the row."""
    low, high = shared(look)[row_axis(look)]
    if high <= low:
        raise NoJoint(f"{look.label(look.joint.first)} does not lie against {look.label(look.joint.second)}.")
    return [low + float(look.asked("end")) + n * look.figure("apart") for n in range(int(look.figure("count")))]


def _slot(look: Look, n: int) -> float:
    """How much longer than its button a mortise is at either end."""
    clear = look.figure("clearance") / 2
    if not _across_row(look):
        return clear
    return round(max(_moves(look, _places(look)[n - 1] - _middle(look, row_axis(look)))) + clear, 2)


def _cuts(look: Look, first: Placed, second: Placed, slots: list[float]) -> list[Cut]:
    """Mortises in the hidden face of the rail, and a pilot in the top for each button."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    line = row_axis(look)
    hidden, way = _hidden(look), OPPOSITE[look.face(joint.first)]
    other, out = axis_of(way)
    edge = look.body(joint.first)[axis][1 if sign > 0 else 0]
    below, tongue, depth, wide = (look.figure(n) for n in ("below", "tongue", "depth", "wide"))
    gap, long = look.figure("gap"), look.figure("long")
    if depth >= first.size[2]:
        raise NoJoint(f"Mortises {marked(depth)} deep go through {look.label(joint.first)}.")
    found = []
    for at, slot in zip(_places(look), slots, strict=True):
        block: Block = look.body(joint.first)
        block = with_span(block, line, (at - wide / 2 - slot, at + wide / 2 + slot))
        block = with_span(
            block, axis, (edge - below - tongue, edge - below) if sign > 0 else (edge + below, edge + below + tongue)
        )
        block = with_span(block, other, (hidden - depth, hidden) if out > 0 else (hidden, hidden + depth))
        found.append(block_cut(first, block, way))
        point = [0.0, 0.0, 0.0]
        point[axis], point[line], point[other] = edge, at, hidden + out * (gap + max(LONG / 2, long))
        found.append(
            hole(second, (point[0], point[1], point[2]), joint.way, round(PILOT * SCREW, 1) / 2, BITES * second.size[2])
        )
    return found


BUTTONS = Buttons()
