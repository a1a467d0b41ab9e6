"""Steps done and not done: a saw cut that is made parts its board, a joint that is cut is held, a part that is fitted is marked."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.document import Board, Node, Project
from nullah.core.edit import BadEdit, changed, held, logged, mark_cut, mark_joint, take, timed
from nullah.core.layout.model import leaves
from nullah.core.layout.progress import Progress
from nullah.core.plan import Plan
from nullah.core.plan import plan as work_out
from nullah.core.stations.breakdown import offcut_id, offcut_of, outline_of
from nullah.core.stations.step import Step


def step_done(project: Project, plan: Plan, step_id: str, minutes: float = 0.0, when: str = "") -> Project:
    """The project with a step done, its minutes logged, and what it cuts, saws or joins marked.

    Raises:
        BadEdit: there is no such step, or what it waits for is not done.
    """
    step = _step(plan, step_id)
    done = {s.id for s in plan.bench.steps if s.done} | set(project.done)
    waiting = [w for w in step.waits if w not in done]
    if waiting:
        names = {s.id: s.title for s in plan.bench.steps}
        raise BadEdit(f"{step.title} waits for: {names.get(waiting[0], waiting[0])}.")
    after = held(project, done=(*(d for d in project.done if d != step_id), step_id))
    if project.timer is not None and project.timer.step == step_id:
        minutes = minutes or timed(project, when)
        after = held(after, timer=None)
    if minutes > 0:
        after = logged(after, "time", step.title, when, step_id, round(minutes, 2))
    if step.saws:
        after = _sawn_on(after, plan, step.saws, when)
    joint = next((j for j in plan.joints.joints if step.joint and j.id == step.joint), None)
    if joint is not None:
        after = mark_joint(after, joint)
    part = next((p for p in plan.piece.parts if p.id == step.cuts), None)
    return mark_cut(after, part, when) if part is not None and not part.cut else after


def step_undone(project: Project, plan: Plan, step_id: str) -> Project:
    """The project with a step no longer done. A part it cut stays marked: wood does not grow back; but a saw cut or a joint that was
    said to be made by mistake is not made.

    Raises:
        BadEdit: something done since rests on a saw cut.
    """
    step = next((s for s in plan.bench.steps if s.id == step_id), None)
    joints = tuple(m for m in project.joints_cut if f"joint {m.joint}" != step_id)
    after = held(project, done=tuple(d for d in project.done if d != step_id), joints_cut=joints)
    if step is None or not step.saws:
        return after
    later = next((s for s in plan.bench.steps if s.done and step_id in s.waits), None)
    if later is not None:
        raise BadEdit(f"{later.title} was done after it; take that back first.")
    return _together_again(after, plan, step.saws)


def sawn(project: Project, plan: Plan, board_id: str, when: str = "") -> Project:
    """The project with a board sawn as laid out, every cut of it made: its parts are there in the rough, what is left over joins the
    boards.

    Raises:
        BadEdit: nothing is laid on it, or it is sawn already.
    """
    board = next((b for b in project.boards if b.id == board_id), None)
    laid = {b.board for b in project.layout.boards} if project.layout else set()
    if board is None or board_id not in laid or board.sawn:
        raise BadEdit("Nothing is laid on that board that is not sawn already.")
    cuts = tuple(s.id for s in plan.bench.steps if s.saws == board_id and s.id not in project.done)
    after = held(project, done=(*project.done, *cuts))
    if not cuts:  # the board is the part
        after = changed(after, boards=_with_flag(after.boards, board_id, True))
    before = {b.id for b in project.boards}
    after = _sawn_on(after, plan, board_id, when)
    left = sum(b.id not in before for b in after.boards)
    return logged(after, "cut", f"{board.name} sawn; {left or 'no'} offcut{'s' if left != 1 else ''} kept", when)


def _step(plan: Plan, step_id: str) -> Step:
    step = next((s for s in plan.bench.steps if s.id == step_id), None)
    if step is None:
        raise BadEdit("That step is no longer in the plan.")
    return step


# ---- what a cut parts


def _sawn_on(after: Project, plan: Plan, board_id: str, when: str) -> Project:
    """The project once more cuts of a board are made: offcuts that are free join the boards, and what is begun is decided."""
    rough = plan.breakdown.rough
    tree = next((b.root for b in after.layout.boards if b.board == board_id), None) if after.layout else None
    on_it = {n.part for n in leaves(tree)} if tree is not None else set()
    for call in rough.calls:
        if call.open and any(set(rough.of(part)) & on_it for part in call.parts):
            after = take(after, call, call.in_force, when)
    progress = work_out(after).breakdown.progress.get(board_id)
    if progress is None:
        return after
    after = _with_offcuts(after, board_id, progress)
    if progress.all_made:
        after = changed(after, boards=_with_flag(after.boards, board_id, True))
    free = {n.part for n in progress.free("part")}
    after = changed(after, pinned=tuple(p for p in after.pinned if p not in free))
    return _layout_stands(after)


def _with_flag(boards: tuple[Board, ...], board_id: str, sawn_up: bool) -> tuple[Board, ...]:
    return tuple(b.model_copy(update={"sawn": sawn_up}) if b.id == board_id else b for b in boards)


def _with_offcuts(project: Project, board_id: str, progress: Progress) -> Project:
    board = next(b for b in project.boards if b.id == board_id)
    new: list[Board] = []
    for leaf in _offcuts(board, progress):
        if all(b.id != offcut_id(board_id, leaf) for b in project.boards):
            number = 1 + sum(b.name.startswith(f"{_stem(board)}, offcut ") for b in (*project.boards, *new))
            new.append(left_over(board, leaf, offcut_id(board_id, leaf), number))
    return changed(project, boards=(*project.boards, *new)) if new else project


def _offcuts(board: Board, progress: Progress) -> Iterable[Node]:
    found = (offcut_of(board, n) for n in progress.free("offcut"))
    return [n for n in found if n is not None]


def _together_again(after: Project, plan: Plan, board_id: str) -> Project:
    """The project with one cut of a board fewer: offcuts that it freed are no boards of their own, as long as nothing was done with
    them."""
    after = changed(after, boards=_with_flag(after.boards, board_id, False))
    board = next(b for b in after.boards if b.id == board_id)
    now = work_out(after).breakdown
    still = (
        {offcut_id(board_id, n) for n in _offcuts(board, now.progress[board_id])} if board_id in now.progress else set()
    )
    was = plan.breakdown.progress.get(board_id)
    gone = {offcut_id(board_id, n) for n in _offcuts(board, was)} - still if was is not None else set()
    used = {b.board for b in after.layout.boards} if after.layout else set()
    taken = next((b for b in after.boards if b.id in gone and (b.id in used or b.sawn)), None)
    if taken is not None:
        raise BadEdit(f"{taken.name} came of it, and parts are laid on that; lay them elsewhere first.")
    boards = tuple(b for b in after.boards if b.id not in gone)
    readings = tuple(r for r in after.readings if r.target not in gone)
    return _layout_stands(changed(after, boards=boards, readings=readings))


def _layout_stands(project: Project) -> Project:
    """What is sawn as laid out is no reason to lay out again: the layout counts as made from what is there now."""
    if project.layout is None:
        return project
    now = work_out(project).breakdown.request.fingerprint
    return changed(project, layout=held(project.layout, fingerprint=now))


# ---- an offcut as a board


def _stem(board: Board) -> str:
    return board.name.partition(", offcut ")[0][:90]


def left_over(board: Board, leaf: Node, board_id: str, number: int) -> Board:
    """What is left over of a board as a board of its own, with the faults that lie on it."""
    faults = []
    for d in board.defects:
        x0, y0 = max(d.x, leaf.x), max(d.y, leaf.y)
        x1, y1 = min(d.x + d.length, leaf.x + leaf.length), min(d.y + d.width, leaf.y + leaf.width)
        if x1 > x0 and y1 > y0:
            size = {"x": x0 - leaf.x, "y": y0 - leaf.y, "length": x1 - x0, "width": y1 - y0}
            faults.append(d.model_copy(update=size))
    upper = board.upper_edge if leaf.y + leaf.width >= board.width - 1 or board.upper else "sawn"
    lower = board.straight_edge if leaf.y <= 0 or board.straight_edge == "upper" else "lower"
    update = {"id": board_id, "name": f"{_stem(board)}, offcut {number}", "length": leaf.length, "width": leaf.width}
    upper_points, lower_points = outline_of(board).within(leaf.x, leaf.y, leaf.length, leaf.width)
    edges = {"upper_edge": upper, "straight_edge": lower, "upper": upper_points, "lower": lower_points}
    fresh = {"defects": tuple(faults), **edges}
    return board.model_copy(update={**update, **fresh, "sawn": False})
