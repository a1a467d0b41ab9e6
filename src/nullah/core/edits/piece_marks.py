"""What is measured, cut, chosen and done of a piece goes with it; what of that stays where it becomes of another kind."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.document.project import Project
from nullah.core.edits.edit import held
from nullah.core.planning.plan import Plan, plan
from nullah.core.stations.job import has_wood
from nullah.core.stations.step import Step


def without_piece(project: Project, now: Plan, piece_id: str) -> Project:
    """The project without a piece, and with nothing of it pinned to a board or timed; what the log tells of it stays.

    Args:
        now: its plan.
    """
    gives = now.breakdown.rough.gives
    blanks = {b for b, parts in gives.items() if now.piece.of_part[parts[0]].id == piece_id}
    steps = {s.id for s in now.bench.steps if s.piece == piece_id}
    left = tuple(p for p in project.pieces if p.id != piece_id)
    return held(
        project,
        pieces=left,
        hand=left[0].id if project.hand == piece_id else project.hand,
        last_piece=max(project.last_piece, int(piece_id)),
        pinned=tuple(p for p in project.pinned if p not in blanks),
        timer=None if project.timer is not None and project.timer.step in steps else project.timer,
    )


def with_what_still_is(before: Plan, after: Project) -> Project:
    """A project whose piece in hand has become of another kind, with only those of its steps done that are the same deed: of a part or
    joint that there is still. How a piece goes together is another matter each time.

    Args:
        before: the plan as it was.
    """
    if not after.in_hand.marks.done and after.timer is None:
        return after
    still = {s.id: s.title for s in plan(after).bench.steps if s.station != "together"}
    return _undone(after, (s for s in before.bench.steps if s.piece == after.hand and still.get(s.id) != s.title))


def _undone(project: Project, steps: Iterable[Step]) -> Project:
    gone = {name for s in steps for name in (s.id, *map(has_wood, s.parts))}
    timer = project.timer
    after = project.without_steps(gone)
    return held(after, timer=None) if timer is not None and timer.step in gone else after
