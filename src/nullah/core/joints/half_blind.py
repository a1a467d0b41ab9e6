"""The half-blind dovetail as a family: tails go into the end of a front that keeps a lap before them, as a drawer's does."""

from __future__ import annotations

from nullah.core.joints import through_dovetail
from nullah.core.joints.dovetail_ways import COPING_OR_CHOPPING, ORDER_TAILS_FIRST, SET_OUT, SETTING_OUT, SLOPES, WASTE
from nullah.core.marking.family import Joins, Look, NoJoint, School, over_an_edge
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import Check, JointPlan, Mend, Setting
from nullah.core.marking.work import Making
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked

USUAL = 0.25  # of the thickness: the lap, where it is not said
LEAST, MOST = 1 / 5, 1 / 3  # of the thickness (common practice, no source)
FINEST = 3.0  # mm: a thinner lap breaks out in the chopping (common practice, no source)

STEPS = (
    ORDER_TAILS_FIRST[0],
    "Gauge the length of the tails all round the end of the tail board; with the same setting the end of the front, from its inside.",
    "Gauge the thickness of the tail board on the inside of the front.",
    *ORDER_TAILS_FIRST[2:8],
    "Trace onto the end of the front: the tails' ends at the gauged lap, baseline at its inside arris, reference edges flush.",
    "Square down the inside, mark the waste; saw slanting from the inside arris, beside the line, to both gauge lines, no further.",
    "Chop across at the baseline and split in from the end, in turns; pare to the lap, into the corners with a narrow chisel.",
    ORDER_TAILS_FIRST[-1],
    "Put together side, front or back, other side: the tails go in along their length.",
)


@frozen
class HalfBlind:
    """The family: ``first`` has the tails, ``second``, the front, the sockets."""

    name: str = "half_blind_dovetail"
    about: str = "Tails let into the end of a front whose face shows nothing of them."
    reaches: tuple[str, ...] = ("reach", "reach of second")
    schools: tuple[School, ...] = (SETTING_OUT, COPING_OR_CHOPPING, SLOPES)
    home: str = "glued"
    making: Making = Making("sawn and chopped", "chopped blind")
    joins: Joins = Joins(
        "As strong as a through dovetail against a pull on the front.",
        "Grain runs round the corner, so that both boards move alike.",
        over_an_edge,
        goes="face",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        *through_dovetail.ASKS,
        SET_OUT,
        WASTE,
        Ask("lap", "thickness left before the tails; 0: a quarter of it", "length", 0.0, 0.0, 60.0),
        Ask("at_joint", "thickness at the joint, of a shaped front; 0: all of it", "length", 0.0, 0.0, 300.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """As of a through dovetail, and the ``lap``: what is left at the joint before the tails, mm; the baseline on the first part is
        the length of the tails, and so is what it reaches."""
        if name == "lap":
            return _lap(look)
        return through_dovetail.corner_figure(name, look, _before_tails(look))

    def plan(self, look: Look) -> JointPlan:
        """The corner laid out."""
        lap, at_joint = look.figure("lap"), _at_joint(look)
        made, _ = through_dovetail.laid_out(
            look, _before_tails(look), through_dovetail.ways_asked(look, ("set_out", "waste"), STEPS)
        )
        joint = look.joint
        front, side = look.label(joint.second), look.label(joint.first)
        share = lap / at_joint
        checks = (
            *made.checks,
            Check(
                LEAST - 1e-9 <= share <= MOST + 1e-9,
                f"lap {marked(lap)}, {share:.2f} of {marked(at_joint)} at the joint; a fifth to a third",
                Mend("lap", round(at_joint / 4, 1), f"lap {marked(round(at_joint / 4, 1))}, a quarter"),
            ),
            Check(at_least(lap, FINEST), f"lap {marked(lap)}; at least {marked(FINEST)}"),
        )
        before = _before_tails(look)
        settings = tuple(
            replace(
                s, what=f"length of the tails; on the end of {front} from its inside", parts=(joint.first, joint.second)
            )
            if s.use == f"baseline at {front}"
            else replace(s, what=f"thickness of {side}, on the inside of {front}")
            if s.use == f"baseline at {side}"
            else s
            for s in made.settings
        )
        stands = {p: look.stands(p) for p in (joint.first, joint.second)}
        return replace(
            made,
            family=self.name,
            name=made.name.replace("Corner of", "Half-blind corner of", 1),
            settings=(
                *settings,
                Setting("rule", before, "", (joint.second,), f"what stays of {front} before the tails", "face"),
            ),
            checks=checks,
            faces=marked_faces(made.cuts, stands, look.label),
            figures={**made.figures, "lap": lap},
        )


def _at_joint(look: Look) -> float:
    """How thick the front is where the tails go in, mm."""
    whole = look.thickness(look.joint.second)
    asked = float(look.asked("at_joint"))
    if asked > whole:
        raise NoJoint(
            f"{look.label(look.joint.second)} is {marked(whole)} thick: it cannot be {marked(asked)} at the joint."
        )
    return asked or whole


def _lap(look: Look) -> float:
    at_joint = _at_joint(look)
    lap = float(look.asked("lap")) or round(at_joint * USUAL, 1)
    if lap >= at_joint:
        raise NoJoint(f"A lap of {marked(lap)} leaves no room for tails in {marked(at_joint)}: make it thinner.")
    return lap


def _before_tails(look: Look) -> float:
    """What of the whole thickness lies before the tails, mm: the lap, and what a shaped front has more elsewhere."""
    return look.thickness(look.joint.second) - _at_joint(look) + look.figure("lap")


HALF_BLIND = HalfBlind()
