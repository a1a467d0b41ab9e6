"""Together: dry fit, glue-up inside the open time, square by diagonals."""

from __future__ import annotations

import math
from collections.abc import Mapping

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.names import named
from nullah.core.document.project import Choice, Kit, Measured
from nullah.core.joints.squareness import NoSuchFrame, Squareness, by_diagonals
from nullah.core.marking.plan import Check, JointPlan
from nullah.core.pieces.act import Act
from nullah.core.pieces.glue import CLOSING, COATING, OPEN_TIME, minutes_words, other_glue
from nullah.core.pieces.goes_together import acts, stages
from nullah.core.pieces.own import Own
from nullah.core.pieces.worked import Worked
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import Keeps, Made, PieceResult, anew
from nullah.core.values.design import Ref
from nullah.core.values.frozen import frozen, replace


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
    kit: Kit,
    measured: tuple[Measured, ...],
    choices: Mapping[str, tuple[Choice, ...]],
    piece: PieceResult,
    joints: JointsResult,
    keeps: Keeps = anew,
) -> dict[str, TogetherResult]:
    """The station: each piece that can be put together, by its id.

    Args:
        choices: of each piece, by its id.
    """
    found = {}
    for made in piece.made:
        diagonals = tuple(m for m in measured if m.part == made.whole)
        name, mine = f"together {made.id}", joints.of_piece[made.id]
        if made.own is not None:
            found[made.id] = keeps(name, _of_own, made, made.own, kit, diagonals, choices[made.id], mine)
        elif made.worked is not None and made.parts and not joints.troubles[made.id]:
            found[made.id] = keeps(name, _of_design, made, made.worked, kit, diagonals, choices[made.id], mine)
    return found


def _squareness(
    made: Made, frame: tuple[float, float], measured: tuple[Measured, ...]
) -> tuple[Squareness | None, str]:
    """By its diagonals, once both are measured; or why they cannot be."""
    said = {m.dimension: m.value for m in measured if m.part == made.whole}
    if "diagonal 1" in said and "diagonal 2" in said:
        try:
            return by_diagonals(*frame, said["diagonal 1"], said["diagonal 2"]), ""
        except NoSuchFrame as error:
            return None, str(error)
    return None, ""


def _of_own(
    made: Made,
    own: Own,
    kit: Kit,
    measured: tuple[Measured, ...],
    choices: tuple[Choice, ...],
    joints: tuple[JointPlan, ...],
) -> TogetherResult:
    """As its kind has it go together."""
    closing = own.closing(kit, joints, choices)
    square, trouble = _squareness(made, closing.frame, measured)
    return TogetherResult(
        closing.frame,
        math.hypot(*closing.frame),
        square,
        trouble,
        closing.minutes,
        OPEN_TIME[kit.glue],
        closing.engaged,
        closing.acts,
        closing.checks,
        tuple(replace(c, piece=made.id) for c in closing.calls),
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
    goes = stages(worked, {j.id.removeprefix(made.prefix): j for j in joints})
    most = max((s.cheeks * COATING + s.joints * CLOSING for s in goes if s.home == "glued"), default=0.0)
    call = _slow_call(made.id, kit, most, choices)
    clamps = max((s.clamps for s in goes if s.home == "glued"), default=0)
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
                f"the largest stage takes about {minutes_words(most)} min to coat and close; "
                f"{kit.glue} stays open {minutes_words(OPEN_TIME[kit.glue][0])}",
            ),
            *worked.checks,
        ),
        (call,) if call else (),
    )


def _slow_call(piece_id: str, kit: Kit, minutes: float, choices: tuple[Choice, ...]) -> Call | None:
    """A stage that takes longer than the glue stays open: a slower glue, or a second pair of hands."""
    shortest = OPEN_TIME[kit.glue][0]
    if minutes <= shortest:
        return None
    slower = [g for g, (least, _) in OPEN_TIME.items() if least >= minutes]
    options = (
        *(other_glue(g, minutes) for g in slower),
        Option(
            "two",
            "a second pair of hands",
            (f"{minutes_words(minutes / 2)} min each against {minutes_words(shortest)} of open time",),
        ),
        Option("one", "go on alone", (f"{minutes_words(minutes)} min; the last joint may not close",)),
    )
    asked = f"{minutes:.0f} min, {kit.glue}"
    call_id = named("stages", piece_id)
    return Call(
        call_id,
        "together",
        f"The largest stage takes about {minutes_words(minutes)} min to coat and close; "
        f"{kit.glue} stays open {minutes_words(shortest)}. How?",
        options,
        options[0].id,
        "glue swells joints: what is late does not close",
        asked,
        differ="Warmed parts and a thin coat give a little more time. The label governs.",
        taken=taken(call_id, options, asked, choices),
        piece=piece_id,
    )
