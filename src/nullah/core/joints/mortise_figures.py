"""The figures of a tenon, each asked for by itself: how thick and wide, its shoulders, how long where it meets others, its haunch and
pegs."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.joints.tenon import (
    THINNEST,
    THROUGH,
    across_of,
    alike,
    along_of,
    by_the_chisel,
    given_up,
    kept_from_others,
    met,
)
from nullah.core.joints.tenon_features import MOST_FLARE
from nullah.core.marking.family import Look, NoJoint, axis_of
from nullah.core.values.measure import SAME, at_least, marked

EDGE_SHOULDER = 5.0  # mm at the edges of a tenon (common practice: 3 to 5)
END_SHOULDER = 12.0  # mm beside the mate's end, so that the mortise does not break out there (common practice)
NEAR_END = 20.0  # mm: nearer than this to its mate's end a tenon takes the larger shoulder
DEEP = 2 / 3  # of the mate: a blind tenon (common practice)
STUB = 1 / 3  # of the mate: a stub tenon
HAUNCH = 1 / 3  # of the tenon's length (common practice)
CHOPPED = 19.0  # mm a stepped mortise is chopped before it is bored (3/4", common practice)
DRAW = {
    "soft": 1.5,
    "middling": 1.5,
    "hard": 1.0,
}  # mm the hole in the tenon lies nearer its shoulder (common practice)
FROM_FACE = 1.5  # diameters of a peg from the face of the mate to its middle, at the least (common practice)
TWO_PEGS = 60.0  # mm of tenon from which two pegs are wanted (common practice)
FLARE = 1 / 8  # of the mate's depth: how far a wedged mortise opens at either end


def _thickness(look: Look) -> float:
    asked = float(look.asked("thickness"))
    own = look.thickness(look.joint.first)
    if asked:
        if not at_least(own, asked):
            raise NoJoint(f"A tenon of {marked(asked)} is thicker than {look.label(look.joint.first)}, {marked(own)}.")
        return asked
    return by_the_chisel(look, own)


def _shoulder(look: Look) -> float:
    own, thick = look.thickness(look.joint.first), look.figure("thickness")
    return own - thick if look.asked("shoulders") == "seen sides" else (own - thick) / 2


def _edge(look: Look, upper: bool) -> float:
    asked = float(look.asked("upper_shoulder" if upper else "lower_shoulder"))
    if asked:
        return asked
    if not upper and look.asked("shoulders") == "seen sides":
        return 0.0
    first = look.bare(look.joint.first)
    across, up = across_of(look)
    mate = look.bare(look.joint.second)[across]
    own = first[across]
    high = (own[1] if up else own[0]) if upper else (own[0] if up else own[1])
    beside = min(abs(high - mate[0]), abs(high - mate[1]))
    mates_length = along_of(look, look.joint.second) == across
    least = END_SHOULDER if mates_length and beside < NEAR_END else EDGE_SHOULDER
    return min(least, (own[1] - own[0]) / 4)


def breadth(look: Look) -> float:
    """How broad the first part is across the tenon's width, mm."""
    low, high = look.bare(look.joint.first)[across_of(look)[0]]
    return high - low


def _width(look: Look, which: str = "") -> float:
    width = breadth(look) - look.figure(f"{which}upper shoulder") - look.figure(f"{which}lower shoulder")
    if width < THINNEST:
        raise NoJoint(f"{look.label(look.joint.first)} is too narrow for a tenon: {marked(width)} is left of it.")
    return width


def _meets_alike(look: Look) -> float:
    """1 where it meets another that lies as it does and neither goes right through, else 0."""
    others = [o for o in met(look) if alike(look, o)]
    styles = [look.asked("style"), *(o.asked.get("style", "blind") for o in others)]
    return float(bool(others) and not any(s in THROUGH for s in styles))


def _natural(look: Look) -> float:
    """How long the tenon would be if it met no other."""
    joint = look.joint
    if along_of(look, joint.first) != axis_of(joint.way)[0]:
        raise NoJoint(f"The tenon of {look.label(joint.first)} is at its end: it cannot go {joint.way}.")
    deep = look.across(joint.second, joint.way)
    style = look.asked("style")
    if style in ("through", "stepped"):
        return deep
    asked = float(look.asked("length"))
    if asked and asked > deep - THINNEST:
        raise NoJoint(
            f"A tenon of {marked(asked)} goes through {look.label(joint.second)}, {marked(deep)}; make it shorter or a through one."
        )
    return asked or deep * (STUB if style == "stub" else DEEP)


def _step(look: Look) -> float:
    """What a stepped tenon loses at either edge on its way through, mm; 0 of another."""
    return round(look.figure("width") / 6, 1) if look.asked("style") == "stepped" else 0.0


def _between(look: Look) -> float:
    """What lies between two tenons: a third of what both take up, mm."""
    return look.figure("width") / 3 if look.figure("count") == 2 else 0.0


def no_room_for_a_haunch(look: Look) -> bool:
    """Whether nothing of the part lies beside the tenon's upper edge, or another tenon does."""
    return bool(look.asked("haunched")) and (look.figure("upper shoulder") <= SAME or given_up(look)[0] > 0)


def _haunch(look: Look) -> float:
    return look.figure("length") * HAUNCH if look.asked("haunched") and not no_room_for_a_haunch(look) else 0.0


def _pegs(look: Look) -> float:
    """How many pegs: one, two in a wide tenon, one in each of two; 0 where it has none."""
    if "drawbored" not in str(look.asked("hold")):
        return 0.0
    return 2.0 if look.figure("count") == 2 or look.figure("width") >= TWO_PEGS else 1.0


def _peg_in(look: Look) -> float:
    """How far the pegs lie from the face that the shoulder meets, mm: a third of the tenon's length, or as near as the wood allows."""
    return max(look.figure("length") / 3, FROM_FACE * look.figure("peg"))


def _draw(look: Look) -> float:
    woods = {look.ease(p) for p in (look.joint.first, look.joint.second)}
    return float(look.asked("draw")) or min(DRAW[w] for w in woods)


def _flare(look: Look) -> float:
    if look.asked("hold") != "wedged":
        return 0.0
    return round(min(MOST_FLARE, FLARE * look.across(look.joint.second, look.joint.way)), 1)


FIGURES: dict[str, Callable[[Look], float]] = {
    "thickness": _thickness,
    "shoulder": _shoulder,
    "length": lambda look: kept_from_others(look, look.figure("natural")),
    "natural": _natural,
    "own upper shoulder": lambda look: _edge(look, True),
    "own lower shoulder": lambda look: _edge(look, False),
    "own width": lambda look: _width(look, "own "),
    "upper shoulder": lambda look: look.figure("own upper shoulder") + given_up(look)[0],
    "lower shoulder": lambda look: look.figure("own lower shoulder") + given_up(look)[1],
    "width": _width,
    "asks meeting": _meets_alike,
    "count": lambda look: 1.0 if look.asked("style") == "stepped" else float(look.asked("tenons")),
    "between": _between,
    "step": _step,
    "first stage": lambda look: min(CHOPPED, look.figure("length") / 2),
    "haunch": _haunch,
    "peg": lambda look: float(look.asked("peg")),
    "pegs": _pegs,
    "peg in": _peg_in,
    "draw": _draw,
    "flare": _flare,
}
