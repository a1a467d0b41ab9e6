"""The breadboard end as a family: a board across the end of a wide panel, on a tenon for each stave, that lets the panel move."""

from __future__ import annotations

import math
from collections.abc import Callable

from nullah.core.joints.grooves import stop_checks
from nullah.core.joints.screws import hole
from nullah.core.joints.tenon import SPARE, THINNEST, across_of, along_of, by_the_chisel, shoulders
from nullah.core.marking.family import (
    OPPOSITE,
    Block,
    Joins,
    Look,
    Meeting,
    NoJoint,
    School,
    Span,
    axis_of,
    block_cut,
    side_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import ROOM, SIDE_WORDS, Check, JointPlan, Said, Setting, gathered, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import OTHER, Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, at_least, marked

DEEP = 2 / 3  # of the breadboard's width: a tenon (common practice)
TONGUE = 1 / 3  # of a tenon's length: the haunch between tenons (common practice)
SHARE = 0.6  # of a stave: its tenon (common practice, no source)
STAVE = 110.0  # mm of width for a tenon, where the staves are not told (common practice, no source)
GLUED = "the middle hand's breadth alone"  # of its width (common practice)
EDGE = 10.0  # mm the tongue stays short of the panel's edges, so that the breadboard's ends are whole (common practice)
CHEEK = 4.0  # mm beside the groove, on either side (common practice)
WALL = 5.0  # mm of wood beside and behind a mortise (common practice)


def _across_an_end(meeting: Meeting) -> str:
    return (
        "" if not meeting.at_an_end else f"It would lie against the end of {meeting.called}: its edge takes the tenons."
    )


@frozen
class Breadboard:
    """The family: ``first`` is the panel, whose end has the tenons; ``second`` the board across it."""

    name: str = "breadboard_end"
    about: str = "A board across the end of a wide panel, to keep it flat and let it move."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = (
        School(
            "pegs",
            "How are the outer tenons of a breadboard held?",
            "pegs hold it up for good, and can be driven out again",
            "Pegged it stays tight against the panel; glued in the middle only, it may lift a little at its ends in time.",
        ),
    )
    home: str = "glued"
    making: Making = Making("tongued", "mortised", lambda joint: {"make": 0.5 * joint.figures.get("pegs", 0.0)})
    joins: Joins = Joins(
        "It keeps a wide panel flat and covers its end grain.",
        "The panel moves past it in slots; only the middle is glued. Most of the year its ends stand a little proud or shy.",
        _across_an_end,
        ("plough",),
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("staves", "tenons, one a stave; 0: as many as suit", "whole", 0, 0, 24),
        Ask("length", "length of the tenons; 0: two thirds of the breadboard", "length", 0.0, 0.0, 200.0),
        Ask("thickness", "thickness of the tenons; 0: the chisel nearest to a third", "length", 0.0, 0.0, 60.0),
        Ask("clearance", "working room in each slot, at either side", "length", 1.0, 0.0, 10.0),
        Ask("pegs", "whether each tenon is pegged", "choice", "pegged", options=("pegged", "glued in the middle only")),
        Ask("peg", "diameter of the pegs", "length", 8.0, 3.0, 20.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """count, pitch, thickness, length and reach, haunch, tenon (its width), peg, clearance; ``slot out N`` and ``slot in N`` of the
        tenon N from the lower edge, and the same of ``edge``, the tongue's end; mm, and a count; ``asks pegs`` is 1."""
        if name == "asks pegs":
            return 1.0
        if name in ("peg", "clearance"):
            return float(look.asked(name))
        if name.startswith("slot "):
            _, way, which = name.split()
            return _slot(look, way == "out", which)
        found: Callable[[Look], float] | None = {
            "count": _count,
            "pitch": lambda at: _wide(at) / at.figure("count"),
            "thickness": _thickness,
            "length": _length,
            "reach": lambda at: at.figure("length"),
            "haunch": lambda at: round(at.figure("length") * TONGUE, 1),
            "tenon": lambda at: math.floor(SHARE * at.figure("pitch") * 10 + 1e-9) / 10,
        }.get(name)
        if found is None:
            raise NoJoint(f"A breadboard end has no {name}.")
        return float(found(look))

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        across, _ = across_of(look)
        if along_of(look, joint.first) != axis_of(joint.way)[0] or along_of(look, joint.second) != across:
            raise NoJoint(f"A breadboard lies across the end of its panel; {b} does not lie so at {a}.")
        tongue, tenons = _tongue(look), _tenons(look)
        count, middle = len(tenons), (len(tenons) + 1) / 2
        pegged = look.asked("pegs") == "pegged"
        cuts = [*shoulders(look, first, (tongue, *tenons)), *_grooved(look, second, tongue, tenons)]
        redrawn = list(range(len(cuts) - count, len(cuts)))  # the mortises, in the groove, from the tenons
        pegs = _pegs(look, first, second, tenons) if pegged else []
        redrawn += [len(cuts) + n for n, cut in enumerate(pegs) if cut.part == first.id]  # through the breadboard's
        cuts += pegs
        thick, long, haunch, wide = (look.figure(n) for n in ("thickness", "length", "haunch", "tenon"))
        out, into = look.figure(f"slot out {count}"), look.figure(f"slot in {count}")
        peg = look.figure("peg")
        mate = look.body(joint.second)
        end = min(tenons[0][across][0] - out - mate[across][0], mate[across][1] - tenons[-1][across][1] - out)
        axis = axis_of(joint.way)[0]
        cheek = (mate[3 - axis - across][1] - mate[3 - axis - across][0] - thick) / 2
        behind = mate[axis][1] - mate[axis][0] - long - SPARE
        shoulder = (look.thickness(joint.first) - thick) / 2
        figures = {"count": float(count), "thickness": thick, "length": long, "haunch": haunch, "tenon": wide}
        figures |= {n: look.figure(n) for k in range(1, count + 1) for n in (f"slot out {k}", f"slot in {k}")}
        centre = f"the middle one of {count} tight" if count % 2 else f"none of {count} in the middle"
        pins = Setting("mortise gauge", thick, "", (joint.first, joint.second), f"tongue of {a}, groove of {b}")
        grooved = next(c for c in cuts if c.part == second.id)
        side = side_of(second, look.face(joint.first))
        wall = off_side(grooved, second.size, side)
        if min(wall, off_side(grooved, second.size, OTHER[side])) < SAME:
            raise NoJoint(f"A tongue of {marked(thick)} does not lie within {b} there: make it thinner.")
        mortise = max(c.depth for c in cuts if c.part == second.id)
        haunched = (
            tongue[across][1] - tongue[across][0] > count * wide + SAME
        )  # else the one tenon is as wide as the tongue
        say, mine, mates = Said(), (joint.first,), (joint.second,)
        tenon_told, tip = say(wide, joint.first, "", "width of a tenon"), SIDE_WORDS[side_of(first, joint.way)]
        settings = [
            pins,
            Setting("mortise gauge, nearer pin", shoulder, "", mine, f"tongue of {a}", "face"),
            Setting("mortise gauge, nearer pin", wall, "", mates, f"groove of {b}", SIDE_WORDS[side]),
            Setting("knife and square", long, "", mine, f"shoulder of {a}, both faces", tip),
            *(
                [Setting("marking gauge", haunch, "", mine, f"haunch between the tenons of {a}", "shoulder")]
                if haunched
                else []
            ),
            Setting("depth line", grooved.depth, "", mates, f"groove of {b} for {a}"),
            Setting("depth mark on the chisel", mortise, "", mates, f"mortises of {b} for {a}"),
            *(
                Setting("rule", mm, "", mates, f"mortise of tenon {n} of {a}: longer {words} than the tenon", ROOM)
                for n in range(1, count + 1)
                if n > middle
                for mm, words in ((look.figure(f"slot out {n}"), "outward"), (look.figure(f"slot in {n}"), "inward"))
            ),
        ]
        steps = [
            f"Leave {b} over long; it is trimmed when all is together.",
            f"Knife the shoulders of {a} on both faces, {marked(long)} from its end; plane the cheeks to a tongue of {marked(thick)}.",
            f"Mark a tenon {tenon_told} wide on each of {count} staves, {centre}; saw between them to the haunch at "
            f"{marked(haunch)}."
            if haunched
            else f"Mark the tenon {tenon_told} wide; saw off what is beside it to the shoulder.",
            f"Plough {b}, stopped at both ends; mark its mortises from the tenons as they are, and lengthen each by the settings, "
            "more the further it lies from the middle.",
            f"Slide it on dry: shoulders tight all along, the tenons free sideways. A shade hollow along the edge of {b} keeps "
            "its ends tight.",
        ]
        if pegged:
            settings.append(Setting("bit", peg, "", (joint.second, joint.first), f"pegs of {b}"))
            steps.append(
                f"Bore {b} for a peg at each tenon with {a} in place; take it apart and draw the outer holes of {a} out to "
                "slots, across its grain."
            )
            steps.append(f"Glue {GLUED}. Drive the pegs, glued in the breadboard and not in the tenon.")
        else:
            steps.append(f"Glue {GLUED}, and clamp until it is dry.")
        return JointPlan(
            joint.id,
            self.name,
            f"Breadboard end {b} on {a}",
            (joint.first, joint.second),
            gathered(settings),
            (*steps, f"Trim the ends of {b} to {a} as it is that day."),
            (
                Check(
                    at_least(end, 2 * WALL),
                    f"{marked(end)} from the outermost slot to the end of {b}; at least {marked(2 * WALL)}",
                ),
                *stop_checks(grooved.depth, look.shop.plough, look.shop.plough_deepest),
                Check(
                    at_least(behind, WALL), f"{marked(behind)} of {b} stays behind the tenons; at least {marked(WALL)}"
                ),
                Check(
                    at_least(cheek, CHEEK), f"{marked(cheek)} of {b} stays beside the groove; at least {marked(CHEEK)}"
                ),
                Check(
                    at_least(look.figure("pitch"), wide + out + into + WALL),
                    f"the slots of two tenons are {marked(look.figure('pitch') - wide - out - into)} apart; at least {marked(WALL)}",
                ),
                Check(
                    bool(count % 2),
                    f"{count} tenons: "
                    f"{'the middle one is tight and glued' if count % 2 else 'none in the middle, to be glued: ask for an odd number'}",
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            glue=GLUED,
            figures=figures,
            cuts=tuple(cuts),
            redrawn=tuple(redrawn),
        )


def _wide(look: Look) -> float:
    across, _ = across_of(look)
    low, high = look.bare(look.joint.first)[across]
    return high - low


def _count(look: Look) -> float:
    asked = float(look.asked("staves"))
    if asked:
        return asked
    found = max(1, round(_wide(look) / STAVE))
    return float(found if found % 2 or found == 2 else found + 1)  # a middle one, which is glued


def _thickness(look: Look) -> float:
    own = look.thickness(look.joint.first)
    thick = float(look.asked("thickness")) or by_the_chisel(look, own)
    if thick >= own - 2:
        raise NoJoint(
            f"A tongue of {marked(thick)} leaves no shoulders on {look.label(look.joint.first)}, {marked(own)}."
        )
    return thick


def _length(look: Look) -> float:
    deep = look.across(look.joint.second, look.joint.way)
    asked = float(look.asked("length")) or round(DEEP * deep, 1)
    if asked > deep - SPARE - THINNEST:
        raise NoJoint(
            f"Tenons of {marked(asked)} go through {look.label(look.joint.second)}, {marked(deep)} wide; make them shorter."
        )
    return asked


def _edge(look: Look) -> float:
    """How far the tongue stays short of the panel's edges: less where the staves are narrow."""
    return min(EDGE, (1 - SHARE) / 2 * look.figure("pitch"))


def _slot(look: Look, outward: bool, which: str) -> float:
    """How much longer than its tenon a mortise is, away from the middle or towards it: as far as the panel moves there, and the working
    room; nothing in the middle."""
    count, wide = look.figure("count"), _wide(look)
    off = wide / 2 - _edge(look) if which == "edge" else abs(int(which) - (count + 1) / 2) * wide / count
    if off <= 1e-9:
        return 0.0
    dry, wet = look.grows(look.joint.first, off)
    return round(max(0.0, wet if outward else -dry) + look.figure("clearance"), 2)


def _tongue(look: Look) -> Block:
    """The haunch, along the whole end but for its edges."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    bare, haunch, thick = look.bare(joint.first), look.figure("haunch"), look.figure("thickness")
    low, high = bare[across]
    if high - low < 4 * EDGE:
        raise NoJoint(f"{look.label(joint.first)} is {marked(high - low)} wide: too narrow for a breadboard end.")
    edge = _edge(look)
    root = bare[axis][1 if sign > 0 else 0]
    through = 3 - axis - across
    middle = sum(bare[through]) / 2
    block = with_span(with_span(bare, axis, _from(root, sign, haunch)), across, (low + edge, high - edge))
    return with_span(block, through, (middle - thick / 2, middle + thick / 2))


def _from(root: float, sign: int, reach: float) -> Span:
    return (root, root + reach) if sign > 0 else (root - reach, root)


def _tenons(look: Look) -> tuple[Block, ...]:
    """The tenons from the low edge of the frame up, in the middle of each stave."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    bare, tongue = look.bare(joint.first), _tongue(look)
    root = bare[axis][1 if sign > 0 else 0]
    count, pitch, wide = int(look.figure("count")), look.figure("pitch"), look.figure("tenon")
    low = bare[across][0]
    out = with_span(tongue, axis, _from(root, sign, look.figure("length")))
    found = []
    for n in range(count):
        at = low + (n + 0.5) * pitch
        if at - wide / 2 < tongue[across][0] - 1e-9 or wide < THINNEST:
            raise NoJoint(f"{count} tenons do not stand on {look.label(joint.first)}: ask for others.")
        found.append(with_span(out, across, (at - wide / 2, at + wide / 2)))
    return tuple(found)


def _moves(look: Look, n: int, count: int) -> Span:
    """How much longer the mortise of the tenon ``n`` from the low edge is, below and above."""
    out, into = look.figure(f"slot out {n}"), look.figure(f"slot in {n}")
    return (out, into) if n < (count + 1) / 2 else (into, out)


def _grooved(look: Look, second: Placed, tongue: Block, tenons: tuple[Block, ...]) -> list[Cut]:
    """The groove for the tongue, and the mortises."""
    axis, sign = axis_of(look.joint.way)
    across, _ = across_of(look)
    out = look.figure("slot out edge")
    root = tongue[axis][0 if sign > 0 else 1]

    def sunk(block: Block, deep: float, below: float, above: float) -> Cut:
        low, high = block[across]
        wide = with_span(block, across, (low - below, high + above))
        return block_cut(second, with_span(wide, axis, _from(root, sign, deep + SPARE)), OPPOSITE[look.joint.way])

    cuts = [sunk(tongue, look.figure("haunch"), out, out)]
    for n, block in enumerate(tenons, 1):
        cuts.append(sunk(block, look.figure("length"), *_moves(look, n, len(tenons))))
    return cuts


def _pegs(look: Look, first: Placed, second: Placed, tenons: tuple[Block, ...]) -> list[Cut]:
    """A hole through the breadboard at each tenon, and through the tenon: round in the middle, else a slot in which the peg that stands
    still is passed by the tenon."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    face = look.face(joint.first)
    through, far = axis_of(face)
    mate, radius = look.body(joint.second), look.figure("peg") / 2
    near = mate[through][1 if far > 0 else 0]
    cuts = []
    for n, block in enumerate(tenons, 1):
        at = [0.0, 0.0, 0.0]
        at[through], at[across] = near, sum(block[across]) / 2
        at[axis] = block[axis][0 if sign > 0 else 1] + sign * look.figure("length") / 2
        cuts.append(hole(second, (at[0], at[1], at[2]), OPPOSITE[face], radius, mate[through][1] - mate[through][0]))
        below, above = _moves(look, n, len(tenons))
        at[across] += (below - above) / 2  # as the tenon goes up, the peg lies lower in it
        slot = 2 * radius + below + above
        cuts.append(hole(first, (at[0], at[1], at[2]), OPPOSITE[face], radius, first.size[2], slot, across))
    return cuts


BREADBOARD = Breadboard()
