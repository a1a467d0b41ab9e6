"""Mortise and tenon: blind, through, stub or stepped; single or double, haunched, wedged or drawn up by a peg; shoulders all round or
on the seen sides only; two that meet in a leg.

The mortise is as wide as the chisel nearest to a third of the tenoned part (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.ask import Ask
from nullah.core.frozen import frozen
from nullah.core.joints.family import Block, Joins, Look, NoJoint, School, axis_of, side_of
from nullah.core.joints.marked_faces import marked_faces
from nullah.core.joints.plan import SIDE_WORDS, Check, JointPlan, Mend, Said, Setting, gathered
from nullah.core.joints.tenon import (
    THINNEST,
    THROUGH,
    across_of,
    alike,
    along_of,
    blocks,
    by_the_chisel,
    cheeks,
    coming_through,
    given_up,
    kept_from_others,
    kerfs,
    meeting,
    met,
    mitre,
    shoulders,
    sockets,
    whole,
)
from nullah.core.joints.tenon_features import MOST_FLARE, formed, peg_holes, pegged, tip_of, wedged
from nullah.core.measure import SAME, at_least, marked
from nullah.core.shapes.cut import Placed, on_grid

EDGE_SHOULDER = 5.0  # mm at the edges of a tenon (common practice: 3 to 5)
END_SHOULDER = 12.0  # mm beside the mate's end, so that the mortise does not break out there (common practice)
NEAR_END = 20.0  # mm: nearer than this to its mate's end a tenon takes the larger shoulder
DEEP = 2 / 3  # of the mate: a blind tenon (common practice)
STUB = 1 / 3  # of the mate: a stub tenon
WALL = 5.0  # mm of wood beside a mortise (common practice, as beside a groove)
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
PEGGED = ("glued", "drawbored", "drawbored and glued")  # ways that serve any tenon long enough for a peg
HELD = (*PEGGED, "wedged")


@frozen
class MortiseAndTenon:
    """The family. ``first`` has the tenon, ``second`` the mortise."""

    name: str = "mortise_and_tenon"
    about: str = "A tenon at the end of one part in a mortise of another: blind, through or stub."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = (
        School(
            "meeting",
            "Tenons meet in a leg: are they mitred, or do they pass each other?",
            "the longer tenon of the two",
            "Both hold; keep to the one your hands know.",
        ),
        School(
            "order",
            "Are the mortises cut first, or the tenons?",
            "a tenon is thinned to fit more easily than a mortise is made wider",
            "The second is traced from the first either way, so that both fit.",
        ),
        School(
            "hold",
            "How are the tenons held: by glue, drawn up by a peg, or by both?",
            "glue holds a tenon that fits, and nothing shows",
            "A peg draws the shoulders up without a clamp, holds when glue has given way, and can be driven out; it shows.",
            PEGGED,
        ),
    )
    home: str = "glued"
    joins: Joins = Joins(
        "The joint of rails and legs: it holds against racking as no other does.",
        "The rail moves across the leg's grain: a wide one is divided into two tenons, or left some room.",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("style", "how deep the tenon goes", "choice", "blind", options=("blind", "through", "stub", "stepped")),
        Ask("shoulders", "where the tenon has shoulders", "choice", "all round", options=("all round", "seen sides")),
        Ask("meeting", "where two tenons meet", "choice", "mitred", options=("mitred", "staggered")),
        Ask("order", "which half is cut first", "choice", "mortises", options=("mortises", "tenons")),
        Ask("hold", "how it is held", "choice", "glued", options=HELD),
        Ask("tenons", "how many stand side by side in its width", "whole", 1, 1, 2),
        Ask("haunched", "a haunch at the upper shoulder, against twist", "yesno", False),
        Ask("peg", "diameter of a peg", "length", 8.0, 3.0, 20.0),
        Ask("draw", "how much nearer the shoulder the tenon's hole lies; 0: by the wood", "length", 0.0, 0.0, 4.0),
        Ask("length", "length of the tenon; 0: as its depth says", "length", 0.0, 0.0, 500.0),
        Ask("thickness", "thickness of the tenon; 0: the chisel nearest to a third", "length", 0.0, 0.0, 100.0),
        Ask("upper_shoulder", "shoulder at the upper edge; 0: as suits", "length", 0.0, 0.0, 500.0),
        Ask("lower_shoulder", "shoulder at the lower edge; 0: as suits", "length", 0.0, 0.0, 500.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """thickness, shoulder (on the face), length, natural (met by none), reach, upper and lower shoulder, width, count, between (two
        tenons), step, first stage, haunch, peg, pegs, peg in, draw, flare; mm, and counts; ``asks meeting`` is 1 where it meets
        another, ``asks order`` always, ``asks hold`` where a peg may."""
        if name == "reach":
            return look.figure("length")
        if name == "asks order":
            return 1.0
        if name == "asks hold":  # a stub is too short for a peg; what is wedged was chosen
            return float(look.asked("style") in ("blind", "through") and look.asked("hold") in PEGGED)
        found = _FIGURES.get(name)
        if found is None:
            raise NoJoint(f"A tenon has no {name}.")
        return found(look)

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        tenon, made = whole(look), blocks(look)
        a, b = look.label(joint.first), look.label(joint.second)
        if look.asked("hold") == "wedged" and not _goes_through(look):
            raise NoJoint(f"The tenon of {a} ends inside {b}: wedges are driven where it comes through.")
        if _beside(look, tenon) < -SAME:
            raise NoJoint(f"The tenon of {a} does not lie within {b} there: make it narrower, or thinner.")
        flare = look.figure("flare")
        holes = sockets(look, second, made, flare)
        cuts = shoulders(look, first, made)
        mitred = mitre(look, first, tenon)
        redrawn = [len(cuts) + n for n in range(len(mitred))]  # on the tenon as it is sawn
        cuts += [*mitred, *holes]
        thick, long, width = (look.figure(n) for n in ("thickness", "length", "width"))
        shoulder, upper, lower = (look.figure(n) for n in ("shoulder", "upper shoulder", "lower shoulder"))
        wall, side = _near_wall(look, second)
        figures = {
            "thickness": thick,
            "length": long,
            "width": width,
            "shoulder": shoulder,
            "upper shoulder": upper,
            "lower shoulder": lower,
            "mortise depth": max(c.depth for c in holes),
        }
        mine, mates, say = (joint.first,), (joint.second,), Said()
        settings = [
            Setting("mortise gauge", thick, "", (joint.first, joint.second), f"tenon and mortise of {a}"),
            Setting("mortise gauge, nearer pin", shoulder, "", mine, f"tenon of {a}", "face"),
            Setting("mortise gauge, nearer pin", wall, "", mates, f"mortise for {a}", side),
            Setting("knife and square", long, "", mine, f"shoulder of {a}", tip_of(look)),
            *(
                Setting("marking gauge", mm, "", mine, f"{which} shoulder of {a}", f"{which} edge")
                for which, mm in (("upper", upper), ("lower", lower))
                if mm > 1e-9
            ),
        ]
        if not _goes_through(look):
            settings.append(Setting("depth mark on the chisel", on_grid(holes[0].depth), "", mates, f"mortise for {a}"))
        steps = _in_order(look, a, b, f"{marked(wall)} from its {side}")
        checks = list(_checks(look, second, tenon))
        for told in (formed(look, a, b, say), wedged(look, a, b, flare, say), pegged(look, a, b, say)):
            figures |= told.figures
            settings += told.settings
            steps[told.at : told.at] = told.steps
            checks += told.checks
        if flare:
            cuts += kerfs(look, first, coming_through(look, made))
        pegs = peg_holes(look, first, second, tenon, made)
        redrawn += [len(cuts) + n for n, cut in enumerate(pegs) if cut.part == first.id]  # pricked through the mate's
        cuts += pegs
        return JointPlan(
            joint.id,
            self.name,
            f"Tenon of {a} in {b}",
            (joint.first, joint.second),
            gathered(settings),
            tuple(steps),
            tuple(checks),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            figures=figures,
            cuts=tuple(cuts),
            redrawn=tuple(redrawn),
        )


def _goes_through(look: Look) -> bool:
    return look.asked("style") in THROUGH


def _near_wall(look: Look, second: Placed) -> tuple[float, str]:
    """How far the mortise's near wall lies from the side of the second part that looks the way of the first's face, mm, and that side
    in words."""
    face = look.face(look.joint.first)
    axis, sign = axis_of(face)
    low, high = cheeks(look, look.joint)
    mate = look.body(look.joint.second)[axis]
    return on_grid(mate[1] - high if sign > 0 else low - mate[0]), SIDE_WORDS[side_of(second, face)]


def _shouldered(look: Look) -> tuple[list[str], list[str]]:
    """The sides of the tenon that have a shoulder, and those that are level with the part, in words."""
    own, thick, shoulder = look.thickness(look.joint.first), look.figure("thickness"), look.figure("shoulder")
    beside = {
        "face": shoulder,
        "back": own - thick - shoulder,
        "upper edge": look.figure("upper shoulder"),
        "lower edge": look.figure("lower shoulder"),
    }
    return [k for k, mm in beside.items() if mm > SAME], [k for k, mm in beside.items() if mm <= SAME]


def _in_order(look: Look, a: str, b: str, wall: str) -> list[str]:
    """Marking and cutting, the half that is cut first before the other; ``wall``: where the mortise's near wall is."""
    thick, long = look.figure("thickness"), look.figure("length")
    cut, level = _shouldered(look)
    round_ = "all round" if not level else f"on its {' and '.join(cut)}" if cut else "all round, for the pencil alone"
    others = met(look)
    if look.figure("step"):
        chop = ""  # in two stages, told apart
    elif _goes_through(look):
        chop = " Chop it from both sides to the middle."
    else:
        chop = " Chop it to the mark."
    knife = f"Knife the shoulders of {a} {marked(long)} from the end {round_}; gauge the tenon {marked(thick)} thick from the face."
    saw = "Saw the cheeks beside the line, then the shoulders; leave a shade at the cheek and pare to the gauge line."
    if look.asked("order") == "tenons":
        cutting = [
            knife,
            saw,
            f"Mark the mortise on {b} from the tenon as it is sawn, its near wall {wall}, its shoulder square to {b}.{chop}",
        ]
    else:
        cutting = [knife, f"Mark the mortise on {b} from the tenon's own width, its near wall {wall}.{chop}", saw]
    if level:
        cutting.append(f"The tenon has no shoulder at its {' and '.join(level)}: it is level with the part there.")
    if meeting(look) == "mitred":
        other = next(o for o in others if alike(look, o))
        cutting.append(f"Mark and mitre the tip at 45 degrees where it meets the tenon of {look.label(other.first)}.")
    ends = "comes through" if _goes_through(look) else "touches the bottom"
    fit = f"Fit by hand: a shade fat, thinned to fit; the shoulder closes before the tenon {ends}."
    return [*cutting, fit]


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


def _breadth(look: Look) -> float:
    """How broad the first part is across the tenon's width, mm."""
    low, high = look.bare(look.joint.first)[across_of(look)[0]]
    return high - low


def _width(look: Look, which: str = "") -> float:
    width = _breadth(look) - look.figure(f"{which}upper shoulder") - look.figure(f"{which}lower shoulder")
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


def _checks(look: Look, second: Placed, tenon: Block) -> tuple[Check, ...]:
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    thick = look.figure("thickness")
    owned = [c for c in look.shop.chisels if abs(c - thick) < 0.05]
    axis, _ = axis_of(joint.way)
    mate, beside = look.body(joint.second), _beside(look, tenon)
    found = [
        Check(
            bool(owned),
            f"mortise {marked(thick)} wide: {'a chisel at hand is' if owned else 'no chisel at hand is'} as wide",
            Mend("thickness", 0.0, "as thick as the chisel nearest to a third") if look.shop.chisels else None,
        ),
        Check(at_least(beside, WALL), f"{marked(beside)} of {b} stays beside the mortise; at least {marked(WALL)}"),
        Check(
            at_least(look.figure("length"), thick),
            f"the tenon of {a} is {marked(look.figure('length'))} long; at least its thickness, {marked(thick)}",
        ),
    ]
    if not _goes_through(look):
        sign = axis_of(joint.way)[1]
        behind = mate[axis][1] - tenon[axis][1] if sign > 0 else tenon[axis][0] - mate[axis][0]
        found.append(
            Check(at_least(behind, WALL), f"{marked(behind)} of {b} stays behind the mortise; at least {marked(WALL)}")
        )
    taken = look.figure("upper shoulder") + look.figure("width") + look.figure("lower shoulder")
    whole_width = _breadth(look)
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


def _beside(look: Look, tenon: Block) -> float:
    """The least wood of the second part that stays beside the mortise, mm; less than none where it runs out of it."""
    axis, mate = axis_of(look.joint.way)[0], look.body(look.joint.second)
    return min(min(tenon[k][0] - mate[k][0], mate[k][1] - tenon[k][1]) for k in range(3) if k != axis)


def _step(look: Look) -> float:
    """What a stepped tenon loses at either edge on its way through, mm; 0 of another."""
    return round(look.figure("width") / 6, 1) if look.asked("style") == "stepped" else 0.0


def _between(look: Look) -> float:
    """What lies between two tenons: a third of what both take up, mm."""
    return look.figure("width") / 3 if look.figure("count") == 2 else 0.0


def _no_room_for_a_haunch(look: Look) -> bool:
    """Whether nothing of the part lies beside the tenon's upper edge, or another tenon does."""
    return bool(look.asked("haunched")) and (look.figure("upper shoulder") <= SAME or given_up(look)[0] > 0)


def _haunch(look: Look) -> float:
    return look.figure("length") * HAUNCH if look.asked("haunched") and not _no_room_for_a_haunch(look) else 0.0


# ways that exclude each other: when, what is laid out instead in words, and which is given up
NOT_TOGETHER: tuple[tuple[Callable[[Look], bool], str, Mend], ...] = (
    (
        lambda look: look.asked("style") == "stepped" and look.asked("tenons") == 2,
        "two tenons are asked of a stepped one: it is laid out as one",
        Mend("tenons", 1.0, "one tenon, stepped"),
    ),
    (
        _no_room_for_a_haunch,
        "a haunch is asked, and no wood is free above the tenon: none is laid out",
        Mend("haunched", False, "no haunch"),
    ),
    (
        lambda look: look.asked("style") == "stub" and "drawbored" in str(look.asked("hold")),
        "a peg is asked of a stub tenon, which is too short for one",
        Mend("hold", "glued", "glued"),
    ),
)


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


_FIGURES: dict[str, Callable[[Look], float]] = {
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
MORTISE_AND_TENON = MortiseAndTenon()
