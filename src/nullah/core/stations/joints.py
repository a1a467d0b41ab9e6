"""Joints: every setting, marked face, order and check, from the parts as they are.

To add a joint family: a file in ``core/joints`` and its line in ``core/joints/families.py``.
"""

from __future__ import annotations

from dataclasses import replace

from nullah.core.calls import Call
from nullah.core.document import Choice, JointMark, Kit, Piece
from nullah.core.frozen import frozen
from nullah.core.joints.dovetail import NoDovetail
from nullah.core.joints.plan import JointPlan, Setting, gathered, qualified
from nullah.core.pieces import box_joints
from nullah.core.stations import cut_joints
from nullah.core.stations.piece import Made, PieceResult, owner


@frozen
class JointsResult:
    """Joints of all pieces in the order of the work, settings gathered over all of them, what of the piece in hand cannot be laid
    out, calls; ``of_piece``: each piece's joints by its id, and ``troubles`` what cannot be laid out of which."""

    joints: tuple[JointPlan, ...]
    settings: tuple[Setting, ...]
    problem: str
    calls: tuple[Call, ...]
    of_piece: dict[str, tuple[JointPlan, ...]]
    troubles: dict[str, str]

    def failing(self) -> tuple[tuple[str, str], ...]:
        """(joint, words) of every check that does not hold."""
        return tuple((j.name, c.text) for j in self.joints for c in j.checks if not c.holds)


def work(kit: Kit, choices: tuple[Choice, ...], upstream: PieceResult, cut: tuple[JointMark, ...] = ()) -> JointsResult:
    """The station: joints of every piece, worked from measured thicknesses; joints that are cut are held to account."""
    laid: dict[str, tuple[JointPlan, ...]] = {}
    troubles: dict[str, str] = {}
    calls: list[Call] = []
    ids = tuple(m.id for m in upstream.made)
    for made in upstream.made:
        joints, trouble, asked = _of_box(made, kit, choices) if isinstance(made.piece, Piece) else _of_design(made)
        name = made.piece.name if made.prefix else ""
        laid[made.id] = tuple(qualified(j, made.prefix, name) for j in joints)
        troubles[made.id] = trouble
        marks = tuple(m for m in cut if owner(m.joint.removeprefix("corner "), ids) == made.id)
        if not trouble:
            asked = (*cut_joints.conflicts(made.piece, laid[made.id], marks, choices), *asked)
        if len(ids) > 1:
            asked = tuple(replace(c, question=f"{made.piece.name}: {c.question}") for c in asked)
        calls += asked
    joints = tuple(j for mine in laid.values() for j in mine)
    settings = gathered([s for j in joints for s in j.settings])
    return JointsResult(joints, settings, troubles[upstream.hand], tuple(calls), laid, troubles)


def _of_box(made: Made, kit: Kit, choices: tuple[Choice, ...]) -> tuple[tuple[JointPlan, ...], str, tuple[Call, ...]]:
    """Joints, what stands in their way, and calls of a box."""
    box, piece = made.box, made.piece
    if box is None or not isinstance(piece, Piece):
        return (), made.problem, ()
    proud = box_joints.proud_call(piece, box, choices)
    school = box_joints.school_call(piece, box, kit, choices)
    try:
        joints = box_joints.joints_of(piece, kit, box, box_joints.PROUD[proud.in_force], school.in_force == "pins")
    except NoDovetail as error:
        return (), str(error), (proud, school)
    return joints, "", (proud, school)


def _of_design(made: Made) -> tuple[tuple[JointPlan, ...], str, tuple[Call, ...]]:
    """Joints of a designed piece, and what stands in their way."""
    if made.worked is None:
        return (), made.problem, ()
    try:
        return made.worked.joints(), "", ()
    except ValueError as error:
        return (), str(error), ()
