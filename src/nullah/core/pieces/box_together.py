"""How a dovetailed box goes together: the order of fitting and gluing, and what is checked before."""

from __future__ import annotations

from collections.abc import Mapping

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.project import Choice, Kit
from nullah.core.joints.squareness import EQUAL
from nullah.core.marking.plan import Check
from nullah.core.pieces.act import Act
from nullah.core.pieces.box import Box
from nullah.core.pieces.glue import OPEN_TIME, minutes_words, other_glue
from nullah.core.values.measure import at_least, marked

CLAMP_EVERY = 100.0  # mm
LEAST_ENGAGED = 2.0  # mm of a panel in its groove on each side (common practice, no source)


def engaged_panels(box: Box) -> dict[str, float]:
    """How far each panel that lies in grooves lies in them on each side in the driest month, mm."""
    return {name: _engaged(box, name) for name in box.panel_growth if name != "lid" or box.lid_slides}


def _engaged(box: Box, panel: str) -> float:
    """How far a panel lies in its groove on each side in the driest month, mm: its width as it is, shrunk, less the opening."""
    part = box.part(panel)
    dry, _ = box.panel_growth[panel]
    return min(box.groove_depth, (part.width + min(0.0, dry) - box.inside[1]) / 2)


def order(box: Box, stages: str, glue: str) -> tuple[Act, ...]:
    """What is done in which order; ``stages``: ``one`` go or two ``stages``."""
    dividers = [p.id for p in box.parts if p.group == "dividers"]
    acts = [Act("fit", "Dry fit all four corners with the bottom in; mark each corner and which way up.", of="corners")]
    if dividers:
        acts.append(
            Act("fit", f"Try dividers {dividers[0]} to {dividers[-1]} dry; number dado and divider.", of="dividers")
        )
    if box.lid_slides:
        acts.append(Act("fit", "Try the lid in its grooves, in over the lowered end B.", of="lid"))
    acts += [
        Act("fit", "Measure both diagonals dry; a box that is out dry is out glued.", "diagonals", "diagonals"),
        Act("prepare", "Finish the inside faces now: no plane reaches them later.", of="inside"),
        Act("prepare", "Lay out clamps, cauls, brush, damp cloth; the bottom goes in dry, free to move.", of="clamps"),
    ]
    if stages == "stages":
        # the ends take the bottom between them along its length, the long sides close onto their pins: any groove lets that be
        acts += [
            Act(
                "glue",
                "Set the bottom dry between B and D; glue A onto both ends (A-B and A-D), with C on dry to keep it square.",
                of="A",
            ),
            Act("dry", f"Let it set in the clamps as the label of the {glue} says.", of="A"),
            Act("glue", "Take C off; glue it onto both ends (C-B and C-D), the bottom in its groove.", of="C"),
        ]
    else:
        acts.append(
            Act(
                "glue",
                "Set the bottom dry between B and D; glue A and C onto both ends, all four corners, and close evenly.",
                of="A and C",
            )
        )
    acts += [
        Act(
            "square",
            f"Measure the diagonals; push the longer one until they agree within {marked(EQUAL)}.",
            "diagonals",
        ),
        Act("dry", f"Let it set in the clamps as the label of the {glue} says.", of="C"),
    ]
    if dividers:
        acts.append(
            Act(
                "glue",
                "Slide the dividers in from above, down their dadoes, a spot of glue at the middle of each end only.",
                of="dividers",
            )
        )
        acts.append(Act("dry", f"Let the dividers set as the label of the {glue} says.", of="dividers"))
    return tuple(acts)


def checks(box: Box, kit: Kit, clamps: int, engaged: Mapping[str, float]) -> tuple[Check, ...]:
    """What is to hold before the glue comes out."""
    found = [
        Check(
            kit.clamps >= clamps, f"{clamps} clamps wanted, about one every {marked(CLAMP_EVERY)}; {kit.clamps} at hand"
        )
    ]
    for panel, each in engaged.items():
        found.append(
            Check(
                at_least(each, LEAST_ENGAGED),
                f"{panel} still {marked(each)} in its grooves each side in the driest month; at least {marked(LEAST_ENGAGED)}",
            )
        )
    found.append(
        Check(
            at_least(box.bay, box.bay_needed),
            f"{'each' if box.even else 'the narrowest'} bay is {marked(box.bay)} clear; what goes in needs {marked(box.bay_needed)}",
        )
    )
    if box.divider_room is not None:
        room, grows = box.divider_room
        found.append(
            Check(
                at_least(room, grows),
                f"dividers stand {marked(room)} below the lid and grow {marked(grows)} by the wettest month",
            )
        )
    return tuple(found)


def stages_call(pre: str, kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
    """One go or two halves, when coating and closing take longer than the glue stays open; or a glue that stays open longer, where
    neither fits."""
    shortest = OPEN_TIME[kit.glue][0]
    if minutes <= shortest:
        return None
    half = minutes / 2
    fits = half <= shortest
    glue = f"{kit.glue} stays open {minutes_words(shortest)}"
    stages = Option(
        "stages",
        "two corners, then two",
        (
            f"{minutes_words(half)} min each, {'inside' if fits else 'which is over'} {minutes_words(shortest)}",
            "a second drying time to wait",
        ),
    )
    one = Option(
        "one",
        "all four at once",
        (
            f"{minutes_words(minutes)} min against {minutes_words(shortest)} of open time",
            "the last corner may not close",
        ),
    )
    options: tuple[Option, ...] = (stages, one)
    why = "glue swells joints: what is late does not close"
    if not fits:
        slower = [g for g, (least, _) in OPEN_TIME.items() if least >= half]
        options = (*(other_glue(g, minutes) for g in slower), stages, one)
        why = f"no stage fits: one corner alone takes about {minutes_words(minutes / 4)} min, and {glue}"
    asked = f"{minutes:.0f} min, {kit.glue}"
    call_id = f"{pre}stages"
    return Call(
        call_id,
        "together",
        f"Coating and closing takes about {minutes_words(minutes)} min; {glue}. One go?",
        options,
        options[0].id,
        why,
        asked,
        differ="A second pair of hands halves the time; slower glue or warmed parts do too. The label governs.",
        taken=taken(call_id, options, asked, choices),
    )
