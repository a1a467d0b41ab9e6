"""The edges of a sliding lid as a family: a groove along a side, open at the end the lid comes in by, in which it runs dry."""

from __future__ import annotations

from nullah.core.joints.housing import ASKS, WORKING, Housing
from nullah.core.joints.housing_suits import along_the_grain
from nullah.core.joints.panel import PANEL
from nullah.core.marking.family import Joins, Look, Meeting, NoJoint, axis_of, own_axis
from nullah.core.marking.plan import Check, JointPlan
from nullah.core.marking.work import Making
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import SAME, marked


def _runs(meeting: Meeting) -> str:
    """Why a lid does not run there; "" where it does."""
    if own_axis(meeting.first, meeting.way)[0] == 0:
        return f"The end of the lid would come against {meeting.called}: a groove takes that, its edges run."
    return along_the_grain(meeting)


@frozen
class SlidingLid(Housing):
    """The family: ``first`` is the lid, ``second`` the side it runs in. How far the end it comes in by is lowered is told."""

    def figure(self, name: str, look: Look) -> float:
        """As of a groove, but some room is left even in the wettest month."""
        if name == "free":
            return float(look.asked("free")) or round(self._season(look)[1] + WORKING, 1)
        return Housing.figure(self, name, look)

    def plan(self, look: Look) -> JointPlan:
        """The groove laid out, and whether the lid comes in."""
        made = Housing.plan(self, look)
        lid, side = look.label(look.joint.first), look.label(look.joint.second)
        way, face = axis_of(look.joint.way)[0], axis_of(look.face(look.joint.first))[0]
        if way == face:
            raise NoJoint(f"{lid} lies flat on {side}: an edge of it runs in a groove.")
        one, other = (look.body(p)[3 - way - face] for p in (look.joint.first, look.joint.second))
        short = max(0.0, min(one[0] - other[0], other[1] - one[1]))
        check = Check(
            short <= SAME,
            f"the groove for {lid} stops {marked(short)} short of the end of {side}: {lid} cannot slide in"
            if short > SAME
            else f"the groove for {lid} runs out at an end of {side}: {lid} slides in there",
        )
        return replace(made, checks=(*made.checks, check))


SLIDING_LID = SlidingLid(
    "sliding_lid",
    "A lid that runs in grooves of two sides and is drawn out at an end.",
    "groove",
    (
        "Try the groove in scrap on the edge of {mate}: it slides there by itself and does not rattle, before {host} is touched.",
        "{way} {host} to {depth}, out at the end {mate} comes in by; what closes that end goes no higher than the groove's lower wall.",
        "Ease the edge of {mate} by a shaving at a time until a finger pushes it; the ends first, in the middle last.",
        "Wax groove and edges. No glue: {mate} is drawn out.",
    ),
    Joins(
        "It closes without hinge or catch; nothing but its own friction holds it against being drawn.",
        "The lid is free: it grows and shrinks in both grooves, and still runs in the wettest month.",
        _runs,
        ("plough",),
        goes="along",
    ),
    "Plough",
    "slid",
    Making("ploughed", "ploughed"),
    asks=(*ASKS, *PANEL),
)
