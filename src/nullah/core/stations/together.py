"""Together: dry fit, glue-up inside the open time, square by diagonals."""

from __future__ import annotations

import math
from dataclasses import dataclass

from nullah.core.calls import Call, Option, taken
from nullah.core.document import Choice, Kit, Measured
from nullah.core.joints.frame import EQUAL, NoSuchFrame, Squareness, by_diagonals
from nullah.core.joints.plan import Check
from nullah.core.measure import marked
from nullah.core.pieces.box import Box
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.piece import PieceResult

# minutes the label usually gives: least, most (common practice; the label governs)
OPEN_TIME = {"PVA": (10.0, 10.0), "hot hide": (1.0, 3.0), "liquid hide": (15.0, 30.0), "epoxy": (30.0, 60.0)}
COATING = 0.12  # minutes to coat one cheek of a tail or pin with a small brush (common practice; the log replaces it)
CLOSING = 1.5  # minutes to close and clamp one corner
CLAMP_EVERY = 100.0  # mm


@dataclass(frozen=True)
class TogetherResult:
    """Glue-up: minutes it takes against the open time, clamps, order, checks; squareness once diagonals are measured."""

    frame: tuple[float, float]
    diagonal: float
    squareness: Squareness | None
    squareness_problem: str
    glue_minutes: float
    open_time: tuple[float, float]
    order: tuple[str, ...]
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
    return TogetherResult(
        (length, width),
        math.hypot(length, width),
        square,
        trouble,
        minutes,
        OPEN_TIME[kit.glue],
        _order(box, call.in_force if call else "one"),
        _checks(box, kit, clamps),
        (call,) if call else (),
    )


def _stages_call(kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
    """One go or two halves, when coating and closing take longer than the glue stays open."""
    shortest = OPEN_TIME[kit.glue][0]
    if minutes <= shortest:
        return None
    options = (
        Option(
            "stages",
            "two corners, then two",
            (f"{minutes / 2:.0f} min each, inside {shortest:.0f}", "a second drying time to wait"),
        ),
        Option(
            "one",
            "all four at once",
            (f"{minutes:.0f} min against {shortest:.0f} of open time", "the last corner may not close"),
        ),
    )
    asked = f"{minutes:.0f} min, {kit.glue}"
    return Call(
        "stages",
        "together",
        f"Coating and closing takes about {minutes:.0f} min; {kit.glue} stays open {shortest:.0f}. One go?",
        options,
        "stages",
        "glue swells joints: what is late does not close",
        asked,
        differ="A second pair of hands halves the time; slower glue does too. The label governs.",
        taken=taken("stages", options, asked, choices),
    )


def _order(box: Box, stages: str) -> tuple[str, ...]:
    dividers = [p.id for p in box.parts if p.group == "dividers"]
    order = ["Dry fit all four corners with the bottom in; mark each corner and which way up."]
    if dividers:
        order.append(f"Try dividers {dividers[0]} to {dividers[-1]} dry; number dado and divider.")
    order += [
        "Measure both diagonals dry; a box that is out dry is out glued.",
        "Finish the inside faces now: no plane reaches them later.",
        "Lay out clamps, cauls, brush, damp cloth; the bottom goes in dry, free to move.",
    ]
    if stages == "stages":
        order += [
            "Glue A-B and C-D, clamp each square, let them set.",
            "Then A-D and C-B, with the bottom in its groove.",
        ]
    else:
        order.append("Glue all four corners: pins into A and C, bottom in, close evenly.")
    order.append(f"Measure the diagonals; push the longer one until they agree within {marked(EQUAL)}.")
    if dividers:
        order.append("Slide the dividers in from above, a spot of glue at the middle of each end only.")
    return tuple(order)


def _checks(box: Box, kit: Kit, clamps: int) -> tuple[Check, ...]:
    found = [
        Check(
            kit.clamps >= clamps, f"{clamps} clamps wanted, about one every {marked(CLAMP_EVERY)}; {kit.clamps} at hand"
        )
    ]
    depth = box.groove_depth
    for panel, (dry, _) in box.panel_growth.items():
        engaged = depth - (0.5 - dry) / 2
        found.append(
            Check(
                engaged >= 2.0,
                f"{panel} still {marked(engaged)} in its grooves each side in the driest month; at least {marked(2.0)}",
            )
        )
    found.append(
        Check(
            box.bay >= box.bay_needed,
            f"{'each' if box.even else 'the narrowest'} bay is {marked(box.bay)} clear; what goes in needs {marked(box.bay_needed)}",
        )
    )
    return tuple(found)
