"""How what lies in a housing is held: glued all along, at one edge alone, dry, or dry but for a spot of glue."""

from __future__ import annotations

from nullah.core.joints.screws import ACROSS, grain_axis, row_axis, shared
from nullah.core.marking.family import OPPOSITE, Look, School, own_axis
from nullah.core.marking.plan import ROOM, Check, Mend, Said
from nullah.core.values.ask import Ask
from nullah.core.values.measure import at_least, marked

EDGE = 75.0  # mm glued at one edge where the rest is to move (common practice: 75 to 100)
AT_ONE_EDGE = "glued at one edge"
SPOT = "dry but for a spot of glue"
FIXED = Ask("fixed", "how it is held", "choice", "glued", options=("glued", AT_ONE_EDGE, "dry"))
PANEL_FIXED = Ask("fixed", "how the panel is held", "choice", "dry", options=("dry", SPOT))
PANELS = School(
    "fixed",
    "Do panels go into their grooves dry, or with a spot of glue in the middle of their width?",
    "a dry panel can never split, whatever the year brings",
    "A spot in the middle of each end keeps a panel centred and quiet, and it still moves to both sides; more glue splits it.",
)


def panel_in_a_frame(look: Look) -> bool:
    """Whether the end of a panel goes in here that lies in grooves at its other end and at an edge too: a spot of glue would center
    it."""
    joint = look.joint
    if own_axis(look.stands(joint.first), joint.way)[0] != 0:
        return False
    ways = {j.way for j in look.others() if j.first == joint.first and j.family == joint.family}
    return OPPOSITE[joint.way] in ways and bool(ways - {joint.way, OPPOSITE[joint.way]})


def glued_across(look: Look) -> tuple[Check, ...]:
    """Whether what is glued all along is glued across no more grain than bears it; nothing where both move alike, or where it is not
    glued."""
    joint = look.joint
    if look.asked("fixed") != "glued":
        return ()
    line = row_axis(look)
    low, high = shared(look)[line]
    across = [p for p in (joint.first, joint.second) if grain_axis(look, p) != line]
    if len(across) != 1:
        return ()
    words = (
        f"glued along {marked(high - low)} across the grain of {look.label(across[0])}; no more than {marked(ACROSS)}"
    )
    return (Check(at_least(ACROSS, high - low), words, Mend("fixed", AT_ONE_EDGE, f"glue {marked(EDGE)} at one edge")),)


def glue_of(look: Look, say: Said) -> str:
    """What alone takes glue, in words; "" where that is all, or none."""
    if look.asked("fixed") == AT_ONE_EDGE:
        return f"{say(EDGE, look.joint.first, ROOM, 'glued')} at the edge that is seen"
    return "one spot in the middle of its width" if look.asked("fixed") == SPOT else ""


def held_steps(look: Look, say: Said) -> tuple[str, ...]:
    """What is said of glue where it does not go all along."""
    called = look.label(look.joint.first)
    if look.asked("fixed") == AT_ONE_EDGE:
        return (f"Glue {glue_of(look, say)} of {called}; the rest goes in dry and moves.",)
    if look.asked("fixed") == SPOT:
        return (f"Glue {glue_of(look, say)} of {called}: it stays there and moves to both sides.",)
    return (f"{called[:1].upper()}{called[1:]} goes in dry, free to move.",) if look.asked("fixed") == "dry" else ()
