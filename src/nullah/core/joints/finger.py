"""The finger joint as a family: a corner of straight fingers, alike on both boards."""

from __future__ import annotations

from nullah.core.joints import dovetail, through_dovetail
from nullah.core.joints.dovetail_ways import ORDER_TAILS_FIRST, Ways
from nullah.core.marking.family import Joins, Look, NoJoint, School, over_an_edge
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import Check, JointPlan, Setting, counted
from nullah.core.marking.work import Making
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked

STRAIGHT = 1e12  # run of a slope that is none
MOST = 81  # fingers
STEPS = (
    ORDER_TAILS_FIRST[0],
    "Gauge the baselines all round both ends, each to the other's thickness.",
    "Mark the outside faces and which edge is the reference.",
    "Step the dividers from the reference edge over the end of the first; square down both faces; every other is waste.",
    "Saw beside the lines, on the waste, plumb; coping saw out the waste near the line.",
    "Chop to the baseline half from each face, the last cut in the gauge line, a slight undercut.",
    "Trace the first onto the end of the second, reference edges flush; mark the waste, saw and chop it likewise.",
    ORDER_TAILS_FIRST[-1],
    "Glue: nothing but glue holds it, so clamp across both ways until it has set.",
)


@frozen
class FingerJoint:
    """The family: ``second`` has a finger at both edges, ``first`` one fewer."""

    name: str = "finger_joint"
    about: str = "Straight fingers, alike on both boards, glued."
    reaches: tuple[str, ...] = ("reach", "reach of second")
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn and chopped", "sawn and chopped")
    joins: Joins = Joins(
        "Much glued long grain, and nothing that locks: it holds as long as the glue.",
        "Grain runs round the corner, so that both boards move alike.",
        over_an_edge,
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("finger", "about how wide a finger is; 0: as thick as the boards", "length", 0.0, 0.0, 200.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """fingers (a count, both boards together), finger, ``baseline on`` either part, width, and the reaches, mm."""
        if name == "fingers":
            width = look.figure("width")
            wanted = float(look.asked("finger")) or min(
                look.thickness(p) for p in (look.joint.first, look.joint.second)
            )
            pairs = max(1, round((width / wanted - 1) / 2))
            if 2 * pairs + 1 > MOST:
                raise NoJoint(f"Fingers of {marked(wanted)} are more than {MOST} on {marked(width)}: make them wider.")
            return 2.0 * pairs + 1
        if name in ("finger", "pin", "half pin"):
            return look.figure("width") / look.figure("fingers")
        if name == "tails":
            return (look.figure("fingers") - 1) / 2
        if name == "slope":
            return STRAIGHT
        return through_dovetail.corner_figure(name, look, 0.0)

    def plan(self, look: Look) -> JointPlan:
        """The corner laid out."""
        made, _ = through_dovetail.laid_out(look, 0.0, Ways())
        joint = look.joint
        both = (joint.first, joint.second)
        count, wide = int(look.figure("fingers")), look.figure("finger")
        entering = [c for c in look.shop.chisels if at_least(wide, c)]
        chisel = (
            f"the {marked(max(entering), unit=' mm')} chisel goes between"
            if entering
            else "no chisel at hand goes between"
        )
        gauges = tuple(s for s in made.settings if s.tool == "marking gauge")
        figures = {n: v for n, v in made.figures.items() if n not in ("tails", "pin", "half pin", "slope")}
        return replace(
            made,
            family=self.name,
            name=f"Finger corner of {look.label(joint.first)} and {look.label(joint.second)}: {counted(count, 'finger')}",
            settings=(
                *gauges,
                Setting("dividers", wide, "", (joint.first,), f"{counted(count, 'finger')} from the reference edge"),
            ),
            steps=STEPS,
            checks=(
                Check(
                    at_least(wide, dovetail.THINNEST_PIN),
                    f"fingers {marked(wide)}; at least {marked(dovetail.THINNEST_PIN)}",
                ),
                Check(bool(entering), f"fingers {marked(wide)}: {chisel}"),
            ),
            faces=marked_faces(made.cuts, {p: look.stands(p) for p in both}, look.label),
            tails=0,
            figures={**figures, "fingers": float(count), "finger": wide},
        )


FINGER_JOINT = FingerJoint()
