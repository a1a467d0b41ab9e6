"""Steps done and not done: a saw cut that is made parts its board, a joint that is cut is held, a part that is fitted is marked."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.document.calls import Call
from nullah.core.document.marks import Deed
from nullah.core.document.names import bare, bare_deed, named
from nullah.core.document.project import Board, Node, Project
from nullah.core.edits.edit import BadEdit, changed, held, logged, made, mark_cut, mark_joint, take, timed, with_mark
from nullah.core.layout.model import leaves
from nullah.core.layout.progress import Progress
from nullah.core.planning.plan import Plan
from nullah.core.planning.plan import plan as work_out
from nullah.core.stations.breakdown import offcut_id, offcut_of, outline_of
from nullah.core.stations.job import WOOD, has_wood
from nullah.core.stations.step import Step


class NotMet(BadEdit):
    """A step stands on what is not so, or not decided: ``doubts``, a sentence each, and the ``calls`` that are open."""

    def __init__(self, step: Step, calls: tuple[Call, ...]) -> None:
        self.step, self.doubts, self.calls = step, step.doubts, calls
        asked = [f"{c.question} Suggested: {c.option(c.recommended).label}." for c in calls]
        super().__init__(" ".join((*self.doubts, *asked)))


def stands_on(plan: Plan, step: Step) -> tuple[Call, ...]:
    """The open calls that a step stands on: of the board it saws and the parts on that, of the parts it trues or joins, of the piece it
    puts together. Matters of taste wait for nothing, and a better layout is only offered."""
    found = []
    tree = (
        next((b.root for b in plan.project.layout.boards if b.board == step.saws), None)
        if plan.project.layout
        else None
    )
    on_it = {n.part for n in leaves(tree)} if step.saws and tree is not None else set()
    rough = plan.breakdown.rough
    together = {c.id for c in plan.togethers[step.piece].calls} if step.piece in plan.togethers else set()
    mine = set(step.parts)
    for call in plan.calls:
        theirs = set(call.parts)
        alike = bool(theirs and mine) and (theirs <= mine or mine <= theirs)
        if not call.waits or call.id == "layout":
            continue
        if step.saws:
            stands = call.board == step.saws or any(
                set(rough.of(p)) & on_it for p in theirs if call.station == "breakdown"
            )
        elif step.joint:
            stands = alike and call.station in ("piece", "joints")
        elif step.station == "trueup":
            stands = alike and call.station == "trueup" and not call.board
        else:
            stands = step.station == "together" and call.id in together
        if stands:
            found.append(call)
    return tuple(found)


def step_done(
    project: Project, plan: Plan, step_id: str, minutes: float = 0.0, when: str = "", sure: bool = False
) -> Project:
    """The project with a step done, its minutes logged, and what it cuts, saws or joins marked.

    Args:
        sure: done all the same where the step needs what is not so; of open calls that it stands on what is suggested is taken.

    Raises:
        NotMet: the step needs what is not so, or stands on open calls.
        BadEdit: there is no such step, or what it waits for is not done.
    """
    step = _step(plan, step_id)
    _nothing_before(project, plan, step)
    calls = stands_on(plan, step)
    if (calls or step.doubts) and not sure:
        raise NotMet(step, calls)
    if calls:
        for call in calls:
            project = take(project, call, call.recommended, when)
        plan = work_out(project)
        step = _step(plan, step_id)
    if step.doubts:
        project = logged(
            project, "note", f"Done all the same, {step.title}: {' '.join(step.doubts)}"[:2_000], when, step_id
        )
    return _done(project, plan, step, minutes, when)


def _nothing_before(project: Project, plan: Plan, step: Step) -> None:
    """Nothing where all that a step waits for is done."""
    done = {s.id for s in plan.bench.steps if s.done} | set(project.done)
    waiting = [w for w in step.waits if w not in done]
    if waiting:
        names = {s.id: s.title for s in plan.bench.steps}
        raise BadEdit(f"{step.title} waits for: {names.get(waiting[0], waiting[0])}.")


def _done(project: Project, plan: Plan, step: Step, minutes: float, when: str) -> Project:
    """The project with a step done."""
    step_id = step.id
    after = with_steps(project, plan, (step,))
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


def with_steps(project: Project, plan: Plan, steps: Iterable[Step]) -> Project:
    """The project with steps said to be done, each of its piece, and nothing else marked; wood that is said to be there is so of each
    part.

    Args:
        plan: of the project, whose ``steps`` they are.
    """
    for step in steps:
        if step.id == WOOD:
            for part in step.parts:
                mine = plan.piece.of_part[part].id
                project = with_mark(project, mine, Deed(what=WOOD, of=bare(part, mine)))
        elif step.piece:
            deed = made(Deed, what=step.deed, of=bare_deed(step.id, step.deed, step.piece))
            project = with_mark(project, step.piece, deed)
        else:
            project = held(project, done_of_all=(*(d for d in project.done_of_all if d != step.id), step.id))
    return project


def step_undone(project: Project, plan: Plan, step_id: str) -> Project:
    """The project with a step no longer done. A part it cut stays marked: wood does not grow back; but a saw cut or a joint that was
    said to be made by mistake is not made.

    Raises:
        BadEdit: something done since rests on a saw cut.
    """
    step = next((s for s in plan.bench.steps if s.id == step_id), None)
    gone = {step_id, *(map(has_wood, step.parts) if step is not None and step_id == WOOD else ())}
    after = project.without_steps(gone)
    if step is not None and step.joint:
        cut = project.of_piece(step.piece).marks.joints_cut
        left = tuple(m for m in cut if named(m.joint, step.piece) != step.joint)
        after = after.with_marks(step.piece, joints_cut=left)
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
    cuts = tuple(s for s in plan.bench.steps if s.saws == board_id and s.id not in project.done)
    after = with_steps(project, plan, cuts)
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
