"""What is added to a tenon: steps, a second beside it, a haunch; wedges from the far side; pegs that draw its shoulder home."""

from __future__ import annotations

import math

from nullah.core.joints.screws import hole
from nullah.core.joints.tenon import KERF, across_of, kerf_deep
from nullah.core.marking.family import OPPOSITE, Block, Look, axis_of, bit_check, side_of
from nullah.core.marking.plan import MADE, ROOM, SIDE_WORDS, Check, Said, Setting, counted
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

BEHIND = 1.5  # diameters of wood from a peg's hole to the end of the tenon, at the least (common practice)
MOST_FLARE = 4.0  # mm: what a tenon bends without breaking (common practice)
TRIED_FRICTION = 0.25  # of wood on wood, the least (common practice, no source)
INTO_FAR_CHEEK = 2 / 3  # of it: how deep a peg goes beyond the tenon (common practice, no source)
LAST = 1_000  # after every other step


@frozen
class Told:
    """What one feature adds to the joint; its steps go in before the step ``at``, counted from the end where negative."""

    figures: dict[str, float]
    settings: tuple[Setting, ...] = ()
    steps: tuple[str, ...] = ()
    checks: tuple[Check, ...] = ()
    at: int = -1


NONE = Told({})


def formed(look: Look, a: str, b: str, say: Said) -> Told:
    """What is said of steps, of two tenons side by side, of a haunch."""
    tip = tip_of(look)
    figures: dict[str, float] = {}
    settings: list[Setting] = []
    steps: list[str] = []
    checks: list[Check] = []
    first, second = (look.joint.first,), (look.joint.second,)
    width = look.figure("width")
    if step := look.figure("step"):
        inner = look.figure("first stage")
        figures |= {"step": step, "first stage": inner}
        settings.append(Setting("depth mark on the chisel", inner, "", second, f"first stage of the mortise for {a}"))
        settings.append(
            Setting("knife and square", look.figure("length") - inner, "", first, f"step of the tenon of {a}", tip)
        )
        for which in ("upper", "lower"):
            beside = look.figure(f"{which} shoulder") + step
            settings.append(Setting("marking gauge", beside, "", first, f"step of the tenon of {a}", f"{which} edge"))
        near, far = say(width, *second, "", "mortise, near"), say(width - 2 * step, *second, "", "mortise, far")
        steps.append(
            f"Mark both outlines of the mortise on {b}, {near} long on the near side and {far} on the far; "
            f"chop {marked(inner)} down, bore the rest, meet it from the other side."
        )
        checks.append(
            Check(
                at_least(width - 2 * step, width / 2),
                f"{marked(width - 2 * step)} of {marked(width)} goes right through; at least half",
            )
        )
    if look.figure("count") == 2:
        between = look.figure("between")
        each = (width - between) / 2
        figures |= {"count": 2.0, "between": between}
        for mm, which in ((each, "upper"), (each + between, "lower")):
            beside = look.figure("upper shoulder") + mm
            settings.append(Setting("marking gauge", beside, "", first, f"{which} of two tenons of {a}", "upper edge"))
        steps.append(f"Saw down between the two tenons of {a}, and chop the waste to the shoulder from both faces.")
        thick = look.figure("thickness")
        checks.append(
            Check(
                at_least(each, thick),
                f"each of two tenons is {marked(each)} wide; at least as wide as thick, {marked(thick)}",
            )
        )
    if haunch := look.figure("haunch"):
        figures["haunch"] = haunch
        settings.append(Setting("knife and square", look.figure("length") - haunch, "", first, f"haunch of {a}", tip))
        told = say(haunch, *first, "shoulder", "haunch")
        steps.append(f"Saw the haunch of {a} to {told}; chop its groove in {b} last, when the end can no longer split.")
    return Told(figures, tuple(settings), tuple(steps), tuple(checks)) if figures else NONE


def tip_of(look: Look) -> str:
    """The end of the first part that its tenon is at, in words."""
    first = look.stands(look.joint.first)
    return SIDE_WORDS[side_of(first, look.joint.way)]


def wedged(look: Look, a: str, b: str, flare: float, say: Said) -> Told:
    """What is said of wedges driven from the far side."""
    if not flare:
        return NONE
    deep, wedge = kerf_deep(look), flare + KERF
    mate = look.across(look.joint.second, look.joint.way)
    turn = math.degrees(math.atan2(flare, mate))
    kerf, head = say(KERF, look.joint.first, "", "kerf"), say(wedge, look.joint.first, MADE, "head of a wedge")
    limit = math.degrees(math.atan(TRIED_FRICTION))
    return Told(
        {"flare": flare, "wedge": wedge, "kerf": deep},
        (
            Setting(
                "marking gauge",
                flare,
                "",
                (look.joint.second,),
                f"far side of the mortise for {a}, beyond both its ends",
            ),
            Setting("knife and square", deep, "", (look.joint.first,), f"wedge kerfs of {a}", tip_of(look)),
        ),
        (
            f"Pare both ends of the mortise back by {marked(flare)} on the far side, to nothing at the near one.",
            f"Saw {marked(deep)} down the tenon of {a}, square to the grain of {b}, {kerf} wide, near either edge; "
            "a small hole at the foot of each keeps it from running on.",
            f"Split wedges {marked(deep)} long from straight stock, {head} thick at the head, as wide as the tenon is thick.",
            "Glue, close the shoulder, then drive both wedges by turns; saw them off when the glue is dry.",
        ),
        (
            Check(
                at_least(MOST_FLARE, flare),
                f"the tenon spreads {marked(flare)} at either edge; it breaks beyond {marked(MOST_FLARE)}",
            ),
            Check(
                turn <= limit + 1e-9, f"the mortise opens at {turn:.1f} degrees; a wedge slips out beyond {limit:.0f}"
            ),
        ),
        LAST,
    )


def pegged(look: Look, a: str, b: str, say: Said) -> Told:
    """What is said of pegs that draw the shoulder home."""
    pegs = int(look.figure("pegs"))
    if not pegs:
        return NONE
    peg, draw, inside = look.figure("peg"), look.figure("draw"), look.figure("peg in")
    left = look.figure("length") - inside - peg / 2 + draw
    glued = look.asked("hold") == "drawbored and glued"
    return Told(
        {"peg": peg, "pegs": float(pegs), "draw": draw, "peg in": inside},
        (
            Setting("bit", peg, "", (look.joint.second, look.joint.first), f"{counted(pegs, 'peg')} of {a}"),
            Setting("marking gauge", inside, "", (look.joint.second,), f"pegs of {a}", _met_side(look)),
            Setting("rule", inside - draw, "", (look.joint.first,), f"hole in the tenon of {a}", "shoulder"),
        ),
        (
            f"Bore {b} for {counted(pegs, 'peg')} of {marked(peg)}, {marked(inside)} from its {_met_side(look)}, square, before the "
            "tenon goes in; a bit bores a shade over its name: try the peg in a trial hole.",
            f"Prick the tenon in its place through the hole; take it out and bore it "
            f"{say(draw, look.joint.first, ROOM, 'draw')} nearer the shoulder, {marked(inside - draw)} from it.",
            f"Taper each peg over its first third. {'Glue the cheeks, ' if glued else 'Dry, '}close the joint, drive the pegs; "
            "they pull the shoulder home and need no clamp.",
        ),
        (
            bit_check(look.shop, peg, "pegs", "peg"),
            Check(
                at_least(left, BEHIND * peg),
                f"{marked(left)} of the tenon stays beyond its peg hole; at least {marked(BEHIND * peg)}",
            ),
            Check(
                at_least(peg / 3, draw), f"the peg is bent by {marked(draw)}; no more than a third of its {marked(peg)}"
            ),
            Check(
                at_least(look.figure("width") / pegs, 3 * peg),
                f"{counted(pegs, 'peg')} of {marked(peg)} in a tenon {marked(look.figure('width'))} wide; a third of it at the most",
            ),
        ),
        LAST,
    )


def _met_side(look: Look) -> str:
    """The side of the second part that the shoulder meets, in words."""
    return SIDE_WORDS[side_of(look.stands(look.joint.second), OPPOSITE[look.joint.way])]


def _peg_middles(look: Look, made: tuple[Block, ...], pegs: int) -> list[float]:
    """Where pegs lie across the tenon: in the middle of each of two tenons, else evenly in the one."""
    across, _ = across_of(look)
    if look.figure("count") == 2:
        return [sum(block[across]) / 2 for block in made[:2]]
    low, high = made[0][across]
    return [low + (high - low) * (2 * n + 1) / (2 * pegs) for n in range(pegs)]


def peg_holes(look: Look, first: Placed, second: Placed, tenon: Block, made: tuple[Block, ...]) -> list[Cut]:
    """The holes for pegs: through the near cheek and into the far one; in the tenon nearer its shoulder."""
    pegs = int(look.figure("pegs"))
    if not pegs:
        return []
    axis, sign = axis_of(look.joint.way)
    across, _ = across_of(look)
    thick = 3 - axis - across
    face = look.face(look.joint.first)
    _, out = axis_of(face)
    mate = look.body(look.joint.second)[thick]
    near, far = (mate[1], tenon[thick][0] - mate[0]) if out > 0 else (mate[0], mate[1] - tenon[thick][1])
    deep = (near - tenon[thick][0] if out > 0 else tenon[thick][1] - near) + far * INTO_FAR_CHEEK
    inside, draw, radius = look.figure("peg in"), look.figure("draw"), look.figure("peg") / 2
    root = tenon[axis][0 if sign > 0 else 1]
    found = []
    for middle in _peg_middles(look, made, pegs):
        at = [0.0, 0.0, 0.0]
        at[across], at[thick] = middle, near
        at[axis] = root + sign * inside
        found.append(hole(second, (at[0], at[1], at[2]), OPPOSITE[face], radius, deep))
        at[axis] -= sign * draw
        found.append(hole(first, (at[0], at[1], at[2]), OPPOSITE[face], radius, first.size[2]))
    return found
