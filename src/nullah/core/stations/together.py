"""Together: dry fit, glue-up inside the open time, square by diagonals."""

from __future__ import annotations

import math
from collections.abc import Mapping

from nullah.core.calls import Call, Option, taken
from nullah.core.design import Ref
from nullah.core.document import Choice, Kit, Measured, Project
from nullah.core.frozen import frozen
from nullah.core.joints.frame import NoSuchFrame, Squareness, by_diagonals
from nullah.core.joints.plan import Check, JointPlan
from nullah.core.pieces.act import Act
from nullah.core.pieces.box import Box
from nullah.core.pieces.box_together import CLAMP_EVERY, checks, engaged_panels, order
from nullah.core.pieces.goes_together import acts, stages
from nullah.core.pieces.worked import Worked
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import Made, PieceResult

# minutes the label usually gives: least, most (common practice; the label governs)
OPEN_TIME = {"PVA": (10.0, 10.0), "hot hide": (1.0, 3.0), "liquid hide": (15.0, 30.0), "epoxy": (30.0, 60.0)}
COATING = 0.12  # minutes to coat one cheek of a tail or pin with a small brush (common practice; the log replaces it)
CLOSING = 1.5  # minutes to close and clamp one corner


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
) -> dict[str, TogetherResult]:
    """The station: each piece that can be put together, by its id."""
    found = {}
    for made in piece.made:
        if made.box is not None:
            found[made.id] = _of_box(made, made.box, kit, measured, choices, joints.of_piece[made.id])
        elif made.worked is not None and made.parts and not joints.troubles[made.id]:
            found[made.id] = _of_design(made, made.worked, kit, measured, choices, joints.of_piece[made.id])
    return found


def _squareness(
    made: Made, frame: tuple[float, float], measured: tuple[Measured, ...]
) -> tuple[Squareness | None, str]:
    """By its diagonals, once both are measured; or why they cannot be."""
    said = {m.dimension: m.value for m in measured if m.part == f"{made.prefix}box"}
    if "diagonal 1" in said and "diagonal 2" in said:
        try:
            return by_diagonals(*frame, said["diagonal 1"], said["diagonal 2"]), ""
        except NoSuchFrame as error:
            return None, str(error)
    return None, ""


def _of_box(
    made: Made,
    box: Box,
    kit: Kit,
    measured: tuple[Measured, ...],
    choices: tuple[Choice, ...],
    joints: tuple[JointPlan, ...],
) -> TogetherResult:
    length, width, height = box.outside
    square, trouble = _squareness(made, (length, width), measured)
    cheeks = sum(4 * j.tails for j in joints)  # two to a tail, two to a pin
    minutes = cheeks * COATING + 4 * CLOSING
    clamps = 2 * max(2, math.ceil(height / CLAMP_EVERY)) + 2
    call = _stages_call(made.prefix, kit, minutes, choices)
    engaged = engaged_panels(box)
    return TogetherResult(
        (length, width),
        math.hypot(length, width),
        square,
        trouble,
        minutes,
        OPEN_TIME[kit.glue],
        engaged,
        order(box, "one" if call is None or call.in_force == "one" else "stages", kit.glue),
        checks(box, kit, clamps, engaged),
        (call,) if call else (),
    )


def _of_design(
    made: Made,
    worked: Worked,
    kit: Kit,
    measured: tuple[Measured, ...],
    choices: tuple[Choice, ...],
    joints: tuple[JointPlan, ...],
) -> TogetherResult:
    """From the joints' own ways home: frame by frame, what is glued along one axis at a time, then what is screwed."""
    sizes = worked.sizes
    outside = worked.outside
    frame = (outside[0], outside[1])
    for squared in sizes.design.squared[:1]:
        a, b = (sizes.value(Ref(rod, "total")) for rod in squared.rods)
        frame = (a, b)
    square, trouble = _squareness(made, frame, measured)
    goes = stages(worked, {j.id.removeprefix(made.prefix): j.tails for j in joints})
    most = max((s.cheeks * COATING + s.joints * CLOSING for s in goes if s.home == "glued"), default=0.0)
    call = _slow_call(made.prefix, kit, most, choices)
    clamps = 2 * max((s.joints for s in goes if s.home == "glued"), default=0)
    return TogetherResult(
        frame,
        math.hypot(*frame),
        square,
        trouble,
        most,
        OPEN_TIME[kit.glue],
        {},
        acts(goes, bool(sizes.design.squared), kit.glue),
        (
            Check(kit.clamps >= clamps, f"{clamps} clamps wanted for the largest stage; {kit.clamps} at hand"),
            Check(
                most <= OPEN_TIME[kit.glue][0],
                f"the largest stage takes about {_minutes(most)} min to coat and close; "
                f"{kit.glue} stays open {_minutes(OPEN_TIME[kit.glue][0])}",
            ),
            *worked.checks,
        ),
        (call,) if call else (),
    )


def _slow_call(pre: str, kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
    """A stage that takes longer than the glue stays open: a slower glue, or a second pair of hands."""
    shortest = OPEN_TIME[kit.glue][0]
    if minutes <= shortest:
        return None
    slower = [g for g, (least, _) in OPEN_TIME.items() if least >= minutes]
    options = (
        *(_other_glue(g, minutes) for g in slower),
        Option(
            "two",
            "a second pair of hands",
            (f"{_minutes(minutes / 2)} min each against {_minutes(shortest)} of open time",),
        ),
        Option("one", "go on alone", (f"{_minutes(minutes)} min; the last joint may not close",)),
    )
    asked = f"{minutes:.0f} min, {kit.glue}"
    call_id = f"{pre}stages"
    return Call(
        call_id,
        "together",
        f"The largest stage takes about {_minutes(minutes)} min to coat and close; {kit.glue} stays open {_minutes(shortest)}. How?",
        options,
        options[0].id,
        "glue swells joints: what is late does not close",
        asked,
        differ="Warmed parts and a thin coat give a little more time. The label governs.",
        taken=taken(call_id, options, asked, choices),
    )


def _minutes(value: float) -> str:
    return f"{value:.0f}" if value >= 10 else f"{value:.1f}".removesuffix(".0")


def _stages_call(pre: str, kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
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
    call_id = f"{pre}stages"
    return Call(
        call_id,
        "together",
        f"Coating and closing takes about {_minutes(minutes)} min; {glue}. One go?",
        options,
        options[0].id,
        why,
        asked,
        differ="A second pair of hands halves the time; slower glue or warmed parts do too. The label governs.",
        taken=taken(call_id, options, asked, choices),
    )


def _other_glue(glue: str, minutes: float) -> Option:
    """A glue that stays open long enough for two stages, or for one."""
    least = OPEN_TIME[glue][0]
    whole = minutes <= least

    def change(project: Project) -> Project:
        return project.model_copy(update={"kit": project.kit.model_copy(update={"glue": glue})})

    said = f"{_minutes(minutes if whole else minutes / 2)} min{'' if whole else ' each'}, inside {_minutes(least)}"
    return Option(f"glue {glue}", f"take {glue}, {'in one go' if whole else 'in two stages'}", (said,), change)
