"""What is measured, cut, chosen and done of a piece: taken away with it, and kept through a change of kind as far as it still is."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

from nullah.core.document.pieces import prefix
from nullah.core.document.project import Project
from nullah.core.edits.edit import held
from nullah.core.planning.plan import Plan, plan
from nullah.core.stations.job import has_wood
from nullah.core.stations.step import Step

_OTHERS = re.compile(r"\d{1,6}\.")  # what the names of parts and joints of all pieces but the first begin with


def belongs(piece_id: str) -> Callable[[str], bool]:
    """Tells of the name of a part or joint whether it is that piece's."""
    pre = prefix(piece_id)
    return lambda name: name.startswith(pre) if pre else _OTHERS.match(name) is None


def without_marks(project: Project, now: Plan, piece_id: str) -> Project:
    """The project without all that was measured, cut, chosen, done and pinned of a piece; what the log tells of it stays.

    Args:
        now: its plan.
    """
    mine = belongs(piece_id)
    calls = {c.id for c in now.calls if c.parts and all(map(mine, c.parts))}
    return held(
        _undone(project, _steps_of(now.bench.steps, piece_id)),
        measured=tuple(m for m in project.measured if not mine(m.part)),
        cut=tuple(c for c in project.cut if not mine(c.part)),
        joints_cut=tuple(j for j in project.joints_cut if not mine(j.joint)),
        choices=tuple(c for c in project.choices if c.call not in calls and not _named(c.call, piece_id)),
        pinned=tuple(p for p in project.pinned if not mine(p)),
    )


def with_what_still_is(before: Plan, after: Project) -> Project:
    """A project whose piece in hand has become of another kind, with only those of its steps done that are the same deed: of a part or
    joint that there is still. How a piece goes together is another matter each time.

    Args:
        before: the plan as it was.
    """
    if not after.done and after.timer is None:
        return after
    mine = _steps_of(before.bench.steps, after.hand)
    still = {s.id: s.title for s in plan(after).bench.steps if s.station != "together"}
    return _undone(after, [s for s in mine if still.get(s.id) != s.title])


def _steps_of(steps: Iterable[Step], piece_id: str) -> list[Step]:
    mine = belongs(piece_id)
    return [s for s in steps if s.piece == piece_id or (s.parts and not s.saws and all(map(mine, s.parts)))]


def _undone(project: Project, steps: Iterable[Step]) -> Project:
    gone = {name for s in steps for name in (s.id, *map(has_wood, s.parts))}
    timer = project.timer
    return held(
        project,
        done=tuple(d for d in project.done if d not in gone),
        timer=None if timer is not None and timer.step in gone else timer,
    )


def _named(call_id: str, piece_id: str) -> bool:
    """Whether a call names the piece by its number: of the first none does."""
    pre = prefix(piece_id)
    return bool(pre) and any(word.startswith(pre) for word in call_id.split())
