"""The mitre as a family: two ends cut along one line from the inner to the outer corner, with keys of wood across it."""

from __future__ import annotations

import math

from nullah.core.joints.tenon import along_of
from nullah.core.marking.family import (
    OPPOSITE,
    Joins,
    Look,
    Meeting,
    NoJoint,
    School,
    axis_of,
    on_side,
    side_of,
    way_of,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Setting, counted, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import OTHER, SIDES, Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

SLIVER = 0.01  # mm: what a key's slot keeps at its deepest, where it runs out at the corner
SHORTEST_LEG = 4.0  # mm a key runs along each side (common practice, no source)
OFFSET = 1.0  # mm that the parts may lie out of level


def _at_both_ends(meeting: Meeting) -> str:
    return "" if not meeting.at_an_end else f"It meets the end of {meeting.called}: mitred ends meet at a corner."


@frozen
class Mitre:
    """The family: ``first`` and ``second`` meet at their ends; the keys are sawn in across the outer corner when it is glued."""

    name: str = "mitre"
    about: str = "A corner mitred from the inside out, with keys across it."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn", "sawn", lambda joint: {"make": 0.5 * joint.figures.get("keys", 0.0)})
    joins: Joins = Joins(
        "Shows no end grain and is weak by itself: glue on end grain, held by its keys.",
        "Wide mitres open on the inside as wood dries, on the outside as it swells: for narrow parts.",
        _at_both_ends,
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("keys", "how many keys; 0: none", "whole", 1, 0, 12),
        Ask("key", "how thick a key is: a saw's kerf, or a veneer's", "length", 3.0, 0.5, 20.0),
        Ask("leg", "how far a key runs along each side; 0: two thirds of the mitre", "length", 0.0, 0.0, 200.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """reach, how broad the second is there; over, how broad the first is; line (the length of the mitre), key, leg, keys; mm; angle
        of the line to the first's length, degrees."""
        joint = look.joint
        if name in ("key", "keys"):
            return float(look.asked(name))
        if name == "reach":
            return look.across(joint.second, joint.way)
        if name == "over":
            return look.across(joint.first, _turn(look))
        over, along = look.figure("over"), look.figure("reach")
        if name == "line":
            return math.hypot(over, along)
        if name == "angle":
            return math.degrees(math.atan2(over, along))
        if name == "leg":
            return float(look.asked("leg")) or round(2 / 3 * min(over, along), 1)
        raise NoJoint(f"A mitre has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        _held(look)
        angle, line, key, leg, keys = (look.figure(n) for n in ("angle", "line", "key", "leg", "keys"))
        over, along = look.figure("over"), look.figure("reach")
        flat = _flat(look)
        low, high = look.body(joint.first)[flat]
        count = int(keys)
        if count and leg < SHORTEST_LEG:
            raise NoJoint(
                f"Keys {marked(leg)} along each side hold nothing; they run {marked(SHORTEST_LEG)} at the least."
            )
        if count and leg >= 2 * min(over, along):
            raise NoJoint(f"Keys {marked(leg)} along each side come through to the inside: make them shorter.")
        if count * key * 2 > high - low:
            raise NoJoint(
                f"{counted(count, 'key')} of {marked(key)} leave too little of {a}, {marked(high - low)} there."
            )
        cuts = (*_slanted(look, first, second), *(_keys(look, first, second) if count else ()))
        deep = leg / math.sqrt(2) if count else 0.0
        both = (joint.first, joint.second)
        ends = (side_of(first, joint.way), side_of(second, OPPOSITE[_turn(look)]))
        lines = [
            p.size[0] - off_side(c, p.size, OTHER[e]) for p, c, e in zip((first, second), cuts, ends, strict=False)
        ]
        settings = [
            Setting("knife and square", mm, "", (p.id,), f"inside of the mitre on {look.label(p.id)}", SIDE_WORDS[end])
            for mm, p, end in zip(lines, (first, second), ends, strict=True)
        ]
        settings += [
            Setting("bevel", None, f"{angle:.1f}\N{DEGREE SIGN}", (joint.first,), f"mitre of {a}, to its length"),
            Setting("bevel", None, f"{90 - angle:.1f}\N{DEGREE SIGN}", (joint.second,), f"mitre of {b}, to its length"),
        ]
        steps = [
            f"Knife the mitre from the outer corner to the line at {marked(lines[0])} on {a} and at {marked(lines[1])} on {b}, squared "
            "down both edges.",
            "Saw beside the line; shoot both to it on a board that holds them at their angles, a shaving at a time, heel first.",
            "Try the corner against a square; glue it, sized once, pulled up by blocks or cord, and let it dry whole.",
        ]
        checks = [
            Check(
                abs(angle - 45) < 0.05, f"the mitre lies at {angle:.1f} degrees; 45 where both parts are alike broad"
            ),
            Check(
                at_least(100.0, line),
                f"a mitre {marked(line)} long opens with the seasons; no longer than {marked(100.0)}",
            ),
        ]
        if count:
            settings.append(
                Setting("marking gauge", leg, "", both, f"keys of {a} and {b}, from the outer corner along each side")
            )
            settings.append(Setting("saw, or a plough iron", key, "", both, f"slots for keys of {a} and {b}"))
            steps.append(
                f"Saw {counted(count, 'slot')} across the dry corner, {marked(key)} wide, to the line at {marked(leg)} on each side."
            )
            steps.append(
                "Plane keys to slide in by hand, their grain across the mitre; glue, and pare them level when dry."
            )
            inside = over * along / line - deep
            checks.append(
                Check(at_least(inside, 3.0), f"{marked(inside)} of mitre inside the keys; at least {marked(3.0)}")
            )
        return JointPlan(
            joint.id,
            self.name,
            f"Mitre of {a} and {b}",
            both,
            tuple(settings),
            tuple(steps),
            tuple(checks),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures={"angle": angle, "line": line, "keys": keys, "key": key, "leg": leg},
            cuts=cuts,
        )


def _turn(look: Look) -> str:
    """The way the second goes on from the corner.

    Raises:
        NoJoint: the two do not make a corner.
    """
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    along = along_of(look, joint.second)
    if along_of(look, joint.first) != axis_of(joint.way)[0] or along == axis_of(joint.way)[0]:
        raise NoJoint(f"{a} and {b} make no corner end to end: a mitre is of two that do.")
    one, other = look.bare(joint.first)[along], look.bare(joint.second)[along]
    return way_of(along, 1 if sum(other) > sum(one) else -1)


def _flat(look: Look) -> int:
    """The axis square to the corner, along which the mitre is cut right down."""
    return 3 - axis_of(look.joint.way)[0] - axis_of(_turn(look))[0]


def _held(look: Look) -> None:
    """Raises NoJoint where the parts are not level, or the second does not end at the first's side."""
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    flat = _flat(look)
    one, other = look.body(joint.first)[flat], look.body(joint.second)[flat]
    if max(abs(one[0] - other[0]), abs(one[1] - other[1])) > OFFSET:
        raise NoJoint(f"{a} and {b} are not level: a mitre is of two that are alike thick there.")
    axis, sign = axis_of(joint.way)
    ends, begins = look.bare(joint.first)[axis], look.body(joint.second)[axis]
    if abs(ends[1] - begins[0] if sign > 0 else begins[1] - ends[0]) > OFFSET:
        raise NoJoint(f"{a} does not end where {b} begins: the mitre goes on from there.")
    axis, sign = axis_of(_turn(look))
    mine, theirs = look.body(joint.first)[axis], look.body(joint.second)[axis]
    off = mine[0] - theirs[0] if sign > 0 else theirs[1] - mine[1]
    if abs(off) > OFFSET:
        raise NoJoint(f"{b} does not end at the outer side of {a}: a mitre is of two that meet at a corner.")


def _corners(look: Look) -> tuple[tuple[float, float], tuple[float, float], int, int]:
    """The outer and the inner corner, along the first's way and the second's, and both axes."""
    joint = look.joint
    way, sign = axis_of(joint.way)
    turn, back = axis_of(_turn(look))
    body, mate = look.body(joint.first), look.body(joint.second)
    tip = body[way][1 if sign > 0 else 0]
    near = mate[way][0 if sign > 0 else 1]
    outer, inner = (body[turn][0], body[turn][1]) if back > 0 else (body[turn][1], body[turn][0])
    return (tip, outer), (near, inner), way, turn


def _slanted(look: Look, first: Placed, second: Placed) -> tuple[Cut, Cut]:
    """The wood beyond the mitre's line of both."""
    (tip, outer), (near, inner), way, turn = _corners(look)
    up = way_of(_flat(look), 1)
    found = []
    for placed, corner in ((first, (tip, inner)), (second, (near, outer))):
        side = side_of(placed, up)
        points = [(tip, outer), (near, inner), corner]
        found.append(Cut(placed.id, side, on_side(placed, side, (way, turn), points), placed.size[SIDES[side][0]]))
    return found[0], found[1]


def _keys(look: Look, first: Placed, second: Placed) -> list[Cut]:
    """The slots for keys, in each part from its own outer side: as deep as the leg at the corner, to nothing at the leg's end."""
    (tip, outer), _, way, turn = _corners(look)
    flat = _flat(look)
    sign, back = axis_of(look.joint.way)[1], axis_of(_turn(look))[1]
    leg, key, count = look.figure("leg"), look.figure("key"), int(look.figure("keys"))
    low, high = look.body(look.joint.first)[flat]
    corner = ((first, way, tip, sign, OPPOSITE[_turn(look)]), (second, turn, outer, -back, look.joint.way))
    found = []
    for n in range(count):
        at = low + (high - low) * (n + 1) / (count + 1)
        for placed, axis, end, on, looks in corner:
            side = side_of(placed, looks)
            deep = min(leg, placed.size[SIDES[side][0]])
            mouth, floor = (
                on_side(
                    placed,
                    side,
                    (axis, flat),
                    _slot(end, on * long, at, key),
                )
                for long in (leg, max(SLIVER, leg - deep))
            )
            found.append(Cut(placed.id, side, mouth, deep, floor))
    return found


def _slot(end: float, long: float, at: float, key: float) -> list[tuple[float, float]]:
    low, high = at - key / 2, at + key / 2
    return [(end - long, low), (end, low), (end, high), (end - long, high)]


MITRE = Mitre()
