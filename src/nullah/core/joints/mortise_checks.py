"""What is checked before a mortise and tenon are cut: walls, the chisel, and ways that exclude each other."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.joints.mortise_figures import breadth, no_room_for_a_haunch
from nullah.core.joints.tenon import alike, goes_through, meeting, met
from nullah.core.marking.family import Block, Look, axis_of
from nullah.core.marking.plan import Check, Mend
from nullah.core.values.measure import SAME, at_least, marked

WALL = 5.0  # mm of wood beside a mortise (common practice, as beside a groove)


def checked(look: Look, tenon: Block) -> tuple[Check, ...]:
    """All that is checked of one, those that hold and those that do not."""
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    thick = look.figure("thickness")
    owned = [c for c in look.shop.chisels if abs(c - thick) < 0.05]
    axis, _ = axis_of(joint.way)
    mate, least = look.body(joint.second), beside(look, tenon)
    found = [
        Check(
            bool(owned),
            f"mortise {marked(thick)} wide: {'a chisel at hand is' if owned else 'no chisel at hand is'} as wide",
            Mend("thickness", 0.0, "as thick as the chisel nearest to a third") if look.shop.chisels else None,
        ),
        Check(at_least(least, WALL), f"{marked(least)} of {b} stays beside the mortise; at least {marked(WALL)}"),
        Check(
            at_least(look.figure("length"), thick),
            f"the tenon of {a} is {marked(look.figure('length'))} long; at least its thickness, {marked(thick)}",
        ),
    ]
    if not goes_through(look):
        sign = axis_of(joint.way)[1]
        behind = mate[axis][1] - tenon[axis][1] if sign > 0 else tenon[axis][0] - mate[axis][0]
        found.append(
            Check(at_least(behind, WALL), f"{marked(behind)} of {b} stays behind the mortise; at least {marked(WALL)}")
        )
    taken = look.figure("upper shoulder") + look.figure("width") + look.figure("lower shoulder")
    whole_width = breadth(look)
    found.append(
        Check(
            abs(taken - whole_width) <= SAME,
            f"tenon and shoulders take up {marked(taken)} of {a}, which is {marked(whole_width)} broad",
        )
    )
    found += [Check(False, words, mend) for asked, words, mend in NOT_TOGETHER if asked(look)]
    for other in met(look):
        way = meeting(look) if alike(look, other) else "one stops short of the other"
        found.append(
            Check(
                True,
                f"meets the tenon of {look.label(other.first)} in {b}: {way}, so that they do not run into each other",
            )
        )
    return tuple(found)


def beside(look: Look, tenon: Block) -> float:
    """The least wood of the second part that stays beside the mortise, mm; less than none where it runs out of it."""
    axis, mate = axis_of(look.joint.way)[0], look.body(look.joint.second)
    return min(min(tenon[k][0] - mate[k][0], mate[k][1] - tenon[k][1]) for k in range(3) if k != axis)


# ways that exclude each other: when, what is laid out instead in words, and which is given up
NOT_TOGETHER: tuple[tuple[Callable[[Look], bool], str, Mend], ...] = (
    (
        lambda look: look.asked("style") == "stepped" and look.asked("tenons") == 2,
        "two tenons are asked of a stepped one: it is laid out as one",
        Mend("tenons", 1.0, "one tenon, stepped"),
    ),
    (
        no_room_for_a_haunch,
        "a haunch is asked, and no wood is free above the tenon: none is laid out",
        Mend("haunched", False, "no haunch"),
    ),
    (
        lambda look: look.asked("style") == "stub" and "drawbored" in str(look.asked("hold")),
        "a peg is asked of a stub tenon, which is too short for one",
        Mend("hold", "glued", "glued"),
    ),
)
