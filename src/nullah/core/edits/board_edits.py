"""Edits that lead the layout by hand: pin a part, keep a board whole."""

from __future__ import annotations

from nullah.core.document.project import Project
from nullah.core.edits.edit import BadEdit, changed
from nullah.core.planning.plan import Plan


def pin(project: Project, plan: Plan, part: str) -> Project:
    """The project with a part (or a stave of one) pinned where it is laid, or loose again where it was pinned.

    Raises:
        BadEdit: it is not laid on a board.
    """
    if part in project.pinned:
        return changed(project, pinned=tuple(p for p in project.pinned if p != part))
    if plan.breakdown.place(part) is None:
        raise BadEdit(f"{part} is not laid on a board yet; lay the parts out first.")
    return changed(project, pinned=(*project.pinned, part))


def keep_whole(project: Project, board_id: str) -> Project:
    """The project with a board that is not to be sawn into, or may be again."""
    if board_id in project.whole:
        return changed(project, whole=tuple(b for b in project.whole if b != board_id))
    return changed(project, whole=(*project.whole, board_id))
