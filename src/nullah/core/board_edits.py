"""Edits that lead the layout by hand: pin a part, keep a board whole, say that a board is sawn."""

from __future__ import annotations

from nullah.core.document import Board, Node, Project
from nullah.core.edit import BadEdit, changed, fresh_id, logged, mark_cut, take
from nullah.core.layout.model import leaves
from nullah.core.measure import SAME
from nullah.core.plan import Plan
from nullah.core.plan import plan as work_out
from nullah.core.stations.breakdown import offcut_of, outline_of


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
    for each in leaves(tree):
        if leaf := offcut_of(board, each):
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
    upper = board.upper_edge if leaf.y + leaf.width >= board.width - 1 or board.widths else "sawn"
    lower = board.straight_edge if leaf.y <= 0 or board.straight_edge == "upper" else "lower"
    update = {"id": board_id, "name": f"{board.name}, offcut {number}", "length": leaf.length, "width": leaf.width}
    fresh = {"defects": tuple(faults), "upper_edge": upper, "straight_edge": lower, "widths": _widths_of(board, leaf)}
    return board.model_copy(update={**update, **fresh, "sawn": False})


MOST_WIDTHS = 60  # as many as a board takes


def _widths_of(board: Board, leaf: Node) -> tuple[float, ...]:
    """Widths along what is left over of a board that tapers; none where it does not there."""
    if not board.widths:
        return ()
    outline = outline_of(board)
    inner = [w for _, w in _corners(board, leaf)]
    if all(w - leaf.y >= leaf.width - SAME for w in inner):
        return ()
    many = min(MOST_WIDTHS, 4 * (len(inner) - 1) + 1)
    places = [leaf.x + leaf.length * k / (many - 1) for k in range(many)]
    return tuple(min(leaf.width, max(1.0, round(outline.width_at(x) - leaf.y, 1))) for x in places)


def _corners(board: Board, leaf: Node) -> list[tuple[float, float]]:
    """Where the upper edge of a tapering board bends along a piece of it, its ends counted, and the width there."""
    stretch = board.length / (len(board.widths) - 1)
    bends = [k * stretch for k in range(len(board.widths))]
    places = [leaf.x, *(x for x in bends if leaf.x < x < leaf.x + leaf.length), leaf.x + leaf.length]
    outline = outline_of(board)
    return [(x, outline.width_at(x)) for x in places]
