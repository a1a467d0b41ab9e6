"""How a joint is marked with the gauges at hand: lines beyond their reach, and both walls of a mortise without a gauge for it."""

from __future__ import annotations

from collections.abc import Mapping

from nullah.core.marking.plan import Found, JointPlan, Setting, gathered
from nullah.core.values.frozen import replace
from nullah.core.values.measure import at_least, marked

GAUGE, MORTISE_GAUGE = "marking gauge", "mortise gauge"
NEARER = f"{MORTISE_GAUGE}, nearer pin"
BEYOND = "rule and knife"


def by_gauges(joint: JointPlan, reach: float, mortise_gauge: bool) -> JointPlan:
    """The joint with settings and steps as the gauges at hand allow.

    Args:
        reach: how far a marking gauge reaches from an edge, mm. mortise_gauge: whether there is a gauge with two pins.
    """
    said = []
    far = [s for s in joint.settings if s.tool == GAUGE and s.value is not None and not at_least(reach, s.value)]
    if far:
        most = max(s.value for s in far if s.value is not None)
        said.append(
            f"No gauge reaches {marked(most)}: measure it from the edge at both ends and knife along a straightedge."
        )
    pinned = not mortise_gauge and any(s.tool.startswith(MORTISE_GAUGE) for s in joint.settings)
    if pinned:
        said.append(
            "No mortise gauge: gauge one wall on every part, then the other, both from the face; with one it is quicker."
        )
    if not said:
        return joint
    nearer = {f.part: f for s in joint.settings if s.tool == NEARER for f in s.marks}
    settings = [one for s in joint.settings for one in _marked_with(s, s in far, pinned, nearer)]
    return replace(joint, settings=gathered(settings), steps=(*said, *joint.steps))


def _marked_with(setting: Setting, far: bool, pinned: bool, nearer: Mapping[str, Found]) -> list[Setting]:
    """A setting as it is made with what is at hand.

    Args:
        nearer: of a part, where the wall nearer its side is.
    """
    if far:
        return [replace(setting, tool=BEYOND)]
    if not pinned or not setting.tool.startswith(MORTISE_GAUGE):
        return [setting]
    if setting.tool == NEARER:
        return [replace(setting, tool=f"{GAUGE}, nearer wall")]
    assert setting.value is not None, "a mortise gauge is set to a width"
    walls = []
    for part in setting.parts:
        if part in nearer:
            wall, side = nearer[part].mm + setting.value, nearer[part].origin
            walls.append(Setting(f"{GAUGE}, farther wall", wall, "", (part,), setting.what, side))
        else:
            walls.append(replace(setting, tool=f"{GAUGE}, wall by wall", parts=(part,)))
    return walls
