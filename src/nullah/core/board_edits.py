"""Edits that lead the layout by hand: pin a part, keep a board whole, say that a board is sawn."""

from __future__ import annotations

from nullah.core.document import Board, Node, Project
from nullah.core.edit import BadEdit, changed, fresh_id, logged, mark_cut, take
from nullah.core.layout.model import leaves
from nullah.core.plan import Plan
from nullah.core.plan import plan as work_out


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


def sawn(project: Project, plan: Plan, board_id: str, when: str = "") -> Project:
    """The project with a board sawn as laid out: its parts are marked as cut, what is left over joins the boards.

    Raises:
        BadEdit: nothing is laid on it, or it is sawn already.
    """
    board = next((b for b in project.boards if b.id == board_id), None)
    tree = next((b.root for b in project.layout.boards if b.board == board_id), None) if project.layout else None
    if board is None or tree is None or board.sawn:
        raise BadEdit("Nothing is laid on that board that is not sawn already.")
    taken = {b.id for b in project.boards}
    left: list[Board] = []
    for leaf in leaves(tree):
        if leaf.use == "offcut":
            number = len(left) + 1
            left.append(left_over(board, leaf, fresh_id(f"{board.id} offcut", taken), number))
            taken.add(left[-1].id)
    boards = tuple(b.model_copy(update={"sawn": True}) if b.id == board_id else b for b in project.boards)
    steps = tuple(s.id for s in plan.bench.steps if s.id.startswith(f"saw {board_id} ") and s.id not in project.done)
    after = changed(project, boards=(*boards, *left), done=(*project.done, *steps))
    on_it = {n.part for n in leaves(tree)}
    for call in plan.breakdown.rough.calls:  # what is begun is decided
        if call.open and any(set(plan.breakdown.rough.of(part)) & on_it for part in call.parts):
            after = take(after, call, call.in_force, when)
    rough = plan.breakdown.rough
    freed = on_it | {n.part for b in plan.breakdown.sawn for n in leaves(b.root)}
    for part in plan.piece.parts:
        mine = rough.of(part.id)
        if on_it.intersection(mine) and freed.issuperset(mine) and not part.cut:
            after = mark_cut(after, part, when)
    after = changed(after, pinned=tuple(p for p in after.pinned if p not in on_it))
    if after.layout is not None:  # what is sawn as laid out is no reason to lay out again
        now = work_out(after).breakdown.request.fingerprint
        after = after.model_copy(update={"layout": after.layout.model_copy(update={"fingerprint": now})})
    return logged(
        after, "cut", f"{board.name} sawn; {len(left) or 'no'} offcut{'s' if len(left) != 1 else ''} kept", when
    )


def left_over(board: Board, leaf: Node, board_id: str, number: int) -> Board:
    """What is left over of a board as a board of its own, with the faults that lie on it."""
    faults = []
    for d in board.defects:
        x0, y0 = max(d.x, leaf.x), max(d.y, leaf.y)
        x1, y1 = min(d.x + d.length, leaf.x + leaf.length), min(d.y + d.width, leaf.y + leaf.width)
        if x1 > x0 and y1 > y0:
            size = {"x": x0 - leaf.x, "y": y0 - leaf.y, "length": x1 - x0, "width": y1 - y0}
            faults.append(d.model_copy(update=size))
    upper = board.upper_edge if leaf.y + leaf.width >= board.width - 1 else "sawn"
    lower = board.straight_edge if leaf.y <= 0 or board.straight_edge == "upper" else "lower"
    widths = _widths_of(board, leaf)
    update = {"id": board_id, "name": f"{board.name}, offcut {number}", "length": leaf.length, "width": leaf.width}
    fresh = {"defects": tuple(faults), "upper_edge": upper, "straight_edge": lower, "widths": widths, "sawn": False}
    return board.model_copy(update={**update, **fresh})


def _widths_of(board: Board, leaf: Node) -> tuple[float, ...]:
    """Widths along what is left over of a board that tapers; none where it does not there."""
    if not board.widths:
        return ()
    stretch = board.length / (len(board.widths) - 1)

    def width_at(x: float) -> float:
        i = min(int(x / stretch), len(board.widths) - 2)
        here = board.widths[i] + (board.widths[i + 1] - board.widths[i]) * (x / stretch - i)
        return min(leaf.width, max(1.0, here - leaf.y))

    found = tuple(round(width_at(leaf.x + leaf.length * k / 4), 1) for k in range(5))
    return found if min(found) < leaf.width - 0.5 else ()
