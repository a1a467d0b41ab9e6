"""Mortise and tenon: blind, through, stub or stepped; single or double, haunched, wedged or drawn up by a peg; shoulders all round or
on the seen sides only; two that meet in a leg.

The mortise is as wide as the chisel nearest to a third of the tenoned part (common practice, no source).
"""

from __future__ import annotations

from nullah.core.joints.mortise_checks import beside, checked
from nullah.core.joints.mortise_figures import FIGURES
from nullah.core.joints.tenon import (
    alike,
    blocks,
    cheeks,
    coming_through,
    goes_through,
    kerfs,
    meeting,
    met,
    mitre,
    shoulders,
    sockets,
    whole,
)
from nullah.core.joints.tenon_features import formed, peg_holes, pegged, tip_of, wedged
from nullah.core.marking.family import Joins, Look, NoJoint, School, axis_of, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, JointPlan, Said, Setting, gathered
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Placed, on_grid
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, marked

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
    making: Making = Making("sawn", "mortised", lambda joint: {"make": 0.5 * joint.figures.get("pegs", 0.0)})
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
        found = FIGURES.get(name)
        if found is None:
            raise NoJoint(f"A tenon has no {name}.")
        return found(look)

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        tenon, made = whole(look), blocks(look)
        a, b = look.label(joint.first), look.label(joint.second)
        if look.asked("hold") == "wedged" and not goes_through(look):
            raise NoJoint(f"The tenon of {a} ends inside {b}: wedges are driven where it comes through.")
        if beside(look, tenon) < -SAME:
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
        if not goes_through(look):
            settings.append(Setting("depth mark on the chisel", on_grid(holes[0].depth), "", mates, f"mortise for {a}"))
        steps = _in_order(look, a, b, f"{marked(wall)} from its {side}")
        checks = list(checked(look, tenon))
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
    elif goes_through(look):
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
    ends = "comes through" if goes_through(look) else "touches the bottom"
    fit = f"Fit by hand: a shade fat, thinned to fit; the shoulder closes before the tenon {ends}."
    return [*cutting, fit]


MORTISE_AND_TENON = MortiseAndTenon()
