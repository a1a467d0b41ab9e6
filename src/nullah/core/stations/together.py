"""Together: dry fit, glue-up inside the open time, square by diagonals."""

from __future__ import annotations

import math
from collections.abc import Mapping

from nullah.core.calls import Call, Option, taken
from nullah.core.document import Choice, Kit, Measured, Project
from nullah.core.frozen import frozen
from nullah.core.joints.frame import EQUAL, NoSuchFrame, Squareness, by_diagonals
from nullah.core.joints.plan import Check
from nullah.core.measure import at_least, marked
from nullah.core.pieces.box import Box
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.piece import PieceResult

# minutes the label usually gives: least, most (common practice; the label governs)
OPEN_TIME = {"PVA": (10.0, 10.0), "hot hide": (1.0, 3.0), "liquid hide": (15.0, 30.0), "epoxy": (30.0, 60.0)}
COATING = 0.12  # minutes to coat one cheek of a tail or pin with a small brush (common practice; the log replaces it)
CLOSING = 1.5  # minutes to close and clamp one corner
CLAMP_EVERY = 100.0  # mm
LEAST_ENGAGED = 2.0  # mm of a panel in its groove on each side (common practice, no source)


@frozen
class Act:
    """One step of putting together: what kind it is (fit, prepare, glue, dry, square), its words, and what figure it turns on."""

    kind: str
    words: str
    figure: str = ""


@frozen
class TogetherResult:
    """Glue-up: minutes it takes against the open time, clamps, order, checks; squareness once diagonals are measured.

    ``engaged``: how far each panel still lies in its grooves on each side in the driest month, mm.
    """

    frame: tuple[float, float]
    diagonal: float
    squareness: Squareness | None
    squareness_problem: str
    glue_minutes: float
    open_time: tuple[float, float]
    engaged: Mapping[str, float]
    order: tuple[Act, ...]
    checks: tuple[Check, ...]
    calls: tuple[Call, ...]


def work(
    kit: Kit, measured: tuple[Measured, ...], choices: tuple[Choice, ...], piece: PieceResult, joints: JointsResult
) -> TogetherResult | None:
    """The station, or None where there is no box."""
    box = piece.box
    if box is None:
        return None
    length, width, height = box.outside
    said = {m.dimension: m.value for m in measured if m.part == "box"}
    square, trouble = None, ""
    if "diagonal 1" in said and "diagonal 2" in said:
        try:
            square = by_diagonals(length, width, said["diagonal 1"], said["diagonal 2"])
        except NoSuchFrame as error:
            trouble = str(error)
    cheeks = sum(4 * j.tails for j in joints.joints)  # two to a tail, two to a pin
    minutes = cheeks * COATING + 4 * CLOSING
    clamps = 2 * max(2, math.ceil(height / CLAMP_EVERY)) + 2
    call = _stages_call(kit, minutes, choices)
    engaged = {name: _engaged(box, name) for name in box.panel_growth if name != "lid" or box.lid_slides}
    return TogetherResult(
        (length, width),
        math.hypot(length, width),
        square,
        trouble,
        minutes,
        OPEN_TIME[kit.glue],
        engaged,
        _order(box, "one" if call is None or call.in_force == "one" else "stages", kit.glue),
        _checks(box, kit, clamps, engaged),
        (call,) if call else (),
    )


def _engaged(box: Box, panel: str) -> float:
    """How far a panel lies in its groove on each side in the driest month, mm: its width as it is, shrunk, less the opening."""
    part = box.part(panel)
    dry, _ = box.panel_growth[panel]
    return min(box.groove_depth, (part.width + min(0.0, dry) - box.inside[1]) / 2)


def _minutes(value: float) -> str:
    return f"{value:.0f}" if value >= 10 else f"{value:.1f}".removesuffix(".0")


def _stages_call(kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
    """One go or two halves, when coating and closing take longer than the glue stays open; or a glue that stays open longer, where
    neither fits."""
    shortest = OPEN_TIME[kit.glue][0]
    if minutes <= shortest:
        return None
    half = minutes / 2
    fits = half <= shortest
    glue = f"{kit.glue} stays open {_minutes(shortest)}"
    stages = Option(
        "stages",
        "two corners, then two",
        (
            f"{_minutes(half)} min each, {'inside' if fits else 'which is over'} {_minutes(shortest)}",
            "a second drying time to wait",
        ),
    )
    one = Option(
        "one",
        "all four at once",
        (f"{_minutes(minutes)} min against {_minutes(shortest)} of open time", "the last corner may not close"),
    )
    options: tuple[Option, ...] = (stages, one)
    why = "glue swells joints: what is late does not close"
    if not fits:
        slower = [g for g, (least, _) in OPEN_TIME.items() if least >= half]
        options = (*(_other_glue(g, minutes) for g in slower), stages, one)
        why = f"no stage fits: one corner alone takes about {_minutes(minutes / 4)} min, and {glue}"
    asked = f"{minutes:.0f} min, {kit.glue}"
    return Call(
        "stages",
        "together",
        f"Coating and closing takes about {_minutes(minutes)} min; {glue}. One go?",
        options,
        options[0].id,
        why,
        asked,
        differ="A second pair of hands halves the time; slower glue or warmed parts do too. The label governs.",
        taken=taken("stages", options, asked, choices),
    )


def _other_glue(glue: str, minutes: float) -> Option:
    """A glue that stays open long enough for two stages, or for one."""
    least = OPEN_TIME[glue][0]
    whole = minutes <= least

    def change(project: Project) -> Project:
        return project.model_copy(update={"kit": project.kit.model_copy(update={"glue": glue})})

    said = f"{_minutes(minutes if whole else minutes / 2)} min{'' if whole else ' each'}, inside {_minutes(least)}"
    return Option(f"glue {glue}", f"take {glue}, {'in one go' if whole else 'in two stages'}", (said,), change)


def _order(box: Box, stages: str, glue: str) -> tuple[Act, ...]:
    dividers = [p.id for p in box.parts if p.group == "dividers"]
    order = [Act("fit", "Dry fit all four corners with the bottom in; mark each corner and which way up.")]
    if dividers:
        order.append(Act("fit", f"Try dividers {dividers[0]} to {dividers[-1]} dry; number dado and divider."))
    if box.lid_slides:
        order.append(Act("fit", "Try the lid in its grooves, in over the lowered end B."))
    order += [
        Act("fit", "Measure both diagonals dry; a box that is out dry is out glued.", "diagonals"),
        Act("prepare", "Finish the inside faces now: no plane reaches them later."),
        Act("prepare", "Lay out clamps, cauls, brush, damp cloth; the bottom goes in dry, free to move."),
    ]
    if stages == "stages":
        # the ends take the bottom between them along its length, the long sides close onto their pins: any groove lets that be
        order += [
            Act(
                "glue",
                "Set the bottom dry between B and D; glue A onto both ends (A-B and A-D), with C on dry to keep it square.",
            ),
            Act("dry", f"Let it set in the clamps as the label of the {glue} says."),
            Act("glue", "Take C off; glue it onto both ends (C-B and C-D), the bottom in its groove."),
        ]
    else:
        order.append(
            Act(
                "glue",
                "Set the bottom dry between B and D; glue A and C onto both ends, all four corners, and close evenly.",
            )
        )
    order += [
        Act(
            "square",
            f"Measure the diagonals; push the longer one until they agree within {marked(EQUAL)}.",
            "diagonals",
        ),
        Act("dry", f"Let it set in the clamps as the label of the {glue} says."),
    ]
    if dividers:
        order.append(
            Act(
                "glue",
                "Slide the dividers in from above, down their dadoes, a spot of glue at the middle of each end only.",
            )
        )
        order.append(Act("dry", f"Let the dividers set as the label of the {glue} says."))
    return tuple(order)


def _checks(box: Box, kit: Kit, clamps: int, engaged: Mapping[str, float]) -> tuple[Check, ...]:
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
