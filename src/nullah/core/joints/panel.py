"""The edge of a panel that goes into a groove: rabbeted or bevelled down to a tongue."""

from __future__ import annotations

import math

from nullah.core.marking.family import Look, NoJoint, own_axis, side_of
from nullah.core.marking.plan import SIDE_WORDS, Check, Setting
from nullah.core.shapes.cut import Cut
from nullah.core.shaping.arris import along_edge
from nullah.core.values.ask import Ask
from nullah.core.values.measure import at_least, marked

PANEL = (
    Ask("panel", "the edge of the panel", "choice", "flat", options=("flat", "rabbeted", "bevelled")),
    Ask("tongue", "how thick the panel is at its edge", "length", 4.0, 1.0, 60.0),
    Ask("field", "how far in from its edge it is rabbeted or bevelled", "length", 40.0, 2.0, 300.0),
)
THIN_TONGUE = 3.0  # mm: thinner, the edge of a panel breaks as it goes in (1/8", common practice)


def panel_edge(look: Look, panel: str) -> Cut:
    """What is taken off a panel's face along the edge that goes in: a rabbet, or a bevel."""
    joint, (field, shoulder) = look.joint, (look.figure("field"), look.figure("shoulder"))
    placed = look.stands(joint.first)
    across, _ = own_axis(placed, joint.way)
    if across == 2:
        raise NoJoint(f"{look.label(joint.first)} lies flat on its mate: an edge of it goes in.")
    if shoulder <= 0:
        thick = look.thickness(joint.first)
        raise NoJoint(
            f"{look.label(joint.first)} is {marked(thick)} thick, no more than its edge is to be; leave it flat."
        )
    if field < look.figure("reach") or field >= placed.size[across] / 2:
        raise NoJoint(
            f"The field of {look.label(joint.first)} does not begin {marked(field)} in: outside the groove it begins, and short of "
            "the middle."
        )
    section = [(0.0, 0.0), (field, 0.0), (0.0, shoulder)]
    if panel == "rabbeted":
        section[2:] = [(field, shoulder), (0.0, shoulder)]
    return along_edge(placed, look.face(joint.first), joint.way, section)


def panel_told(look: Look, panel: str) -> tuple[list[Setting], Check, list[str]]:
    """Settings, check and steps of a panel's edge."""
    mine, called = (look.joint.first,), look.label(look.joint.first)
    field, edge = look.figure("field"), look.thickness(look.joint.first) - look.figure("shoulder")
    settings = [
        Setting("marking gauge", edge, "", mine, f"edge of {called}", "back"),
        Setting(
            "marking gauge",
            field,
            "",
            mine,
            f"field of {called}",
            SIDE_WORDS[side_of(look.stands(mine[0]), look.joint.way)],
        ),
    ]
    if panel == "bevelled":
        slope = math.degrees(math.atan2(look.figure("shoulder"), field))
        settings.append(Setting("sliding bevel", None, f"{slope:.1f}\N{DEGREE SIGN}", mine, f"bevel of {called}"))
        how = "plane the bevel down to both lines, the ends first, until a scrap with the groove in it goes on and bears at its mouth"
    else:
        how = "knife the field's line across the grain, saw or plane the rabbet down to the gauged edge, the ends first"
    check = Check(
        at_least(edge, THIN_TONGUE), f"the edge of {called} is {marked(edge)}; at least {marked(THIN_TONGUE)}"
    )
    return (
        settings,
        check,
        [f"Gauge {marked(edge)} on the edges of {called} and {marked(field)} in on its face; {how}."],
    )
