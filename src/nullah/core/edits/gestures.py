"""Gestures: what pulling a thing in a drawing does to the project. Each stops at the division shown and is one step of undo.

To add one: a function from (project, plan, what is named after the colon, dx, dy) to the next project and what to call it,
and its line in ``_GESTURES``.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from pydantic import ValidationError

from nullah.core.document.names import prefix
from nullah.core.document.project import Board, Defect, Month, Project
from nullah.core.document.refusals import sentence
from nullah.core.edits import edit, piece_edits, truing_edits
from nullah.core.joints.dovetail import SHALLOWEST, STEEPEST
from nullah.core.layout.move import NoPlace
from nullah.core.marking.plan import JointPlan
from nullah.core.pictures.boards import in_hand, rows
from nullah.core.pictures.unfolded import Unfolded
from nullah.core.pictures.year import LEAST, MOST, PERCENT
from nullah.core.pieces.grips import cuts_if, in_force
from nullah.core.pieces.own import NoShift
from nullah.core.planning.plan import Plan
from nullah.core.stations.as_made import months
from nullah.core.stations.breakdown import move_part
from nullah.core.surface.reading_kinds import READING_KINDS
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import division, marked
from nullah.core.wood.room import MONTHS

NARROWEST = 0.5  # mm: nothing is pulled narrower


@frozen
class Gesture:
    """What a pull comes to: the next project, and a few words for undo and the line under the step."""

    project: Project
    words: str


def pull(project: Project, plan: Plan, tag: str, dx: float, dy: float) -> Gesture:
    """The project with the thing that ``tag`` names pulled ``dx`` mm along and ``dy`` mm up the drawing.

    Raises:
        BadEdit: it cannot go there; the message says why.
    """
    kind, _, name = tag.partition(":")
    found = _GESTURES.get(kind)
    if found is None:
        raise edit.BadEdit("That cannot be moved.")
    try:
        return found(project, plan, name, dx, dy)
    except (NoPlace, NoShift) as error:
        raise edit.BadEdit(str(error)) from None
    except ValidationError as error:
        raise edit.BadEdit(sentence(error)) from None


def nudge(project: Project, plan: Plan, tag: str, along: int, up: int) -> Gesture:
    """As ``pull``, by so many of the divisions shown.

    Raises:
        BadEdit: as ``pull``.
    """
    kind, _, name = tag.partition(":")
    if kind in _NUDGED:
        return _NUDGED[kind](project, plan, name, along, up)
    step = division(project.units, project.denominator)
    return pull(project, plan, tag, along * step, up * step)


def _stop(project: Project, mm: float) -> float:
    """The nearest division shown."""
    step = division(project.units, project.denominator)
    return round(round(mm / step) * step, 4)


def _board(project: Project, board_id: str) -> Board:
    board = next((b for b in project.boards if b.id == board_id), None)
    if board is None:
        raise edit.BadEdit("That board is no longer here.")
    return board


def _fault_of(board: Board, fault_id: str) -> Defect:
    fault = next((d for d in board.defects if d.id == fault_id), None)
    if fault is None:
        raise edit.BadEdit("That fault is no longer here.")
    return fault


def moved_fault(project: Project, board: Board, fault: Defect, dx: float, dy: float) -> Defect:
    """A fault shifted on its board, kept on it."""
    x = min(max(0.0, _stop(project, fault.x + dx)), max(0.0, board.length - fault.length))
    y = min(max(0.0, _stop(project, fault.y + dy)), max(0.0, board.width - fault.width))
    return fault.model_copy(update={"x": x, "y": y})


def _fault(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    board_id, _, fault_id = name.partition("/")
    board = _board(project, board_id)
    fault = _fault_of(board, fault_id)
    new = moved_fault(project, board, fault, dx, dy)
    defects = tuple(new if d.id == fault_id else d for d in board.defects)
    after = edit.put_board(project, board.model_copy(update={"defects": defects}))
    return Gesture(after, f"{fault.kind} at {marked(new.x)} along, {marked(new.y)} up")


def _fault_turned(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A fault pulled on a side that is drawn mirrored."""
    return _fault(project, plan, name, dx, -dy)


def _fault_size(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """The upper right corner of a fault pulled; ``name``: board, fault, and 1 where the side is drawn mirrored, its lower one then."""
    rest, _, mirrored = name.rpartition("/")
    board_id, _, fault_id = rest.partition("/")
    board = _board(project, board_id)
    d = _fault_of(board, fault_id)
    x1 = min(board.length, _stop(project, d.x + d.length + dx))
    y1 = min(board.width, _stop(project, d.y + d.width + (-dy if mirrored == "1" else dy)))
    new = d.model_copy(update={"length": max(NARROWEST, x1 - d.x), "width": max(NARROWEST, y1 - d.y)})
    after = edit.put_board(
        project, board.model_copy(update={"defects": tuple(new if o.id == d.id else o for o in board.defects)})
    )
    return Gesture(after, f"{d.kind} {marked(new.length)} x {marked(new.width)}")


def _edge_point(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A point of a tapering or wany edge, kept between its neighbours and on the board."""
    rest, _, number = name.rpartition("/")
    board_id, _, which = rest.rpartition("/")
    board, n = _board(project, board_id), int(number)
    points = getattr(board, which)
    if n >= len(points):
        raise edit.BadEdit("That point is no longer here.")
    least = points[n - 1][0] if n else 0.0
    most = points[n + 1][0] if n + 1 < len(points) else board.length
    x = min(max(least, _stop(project, points[n][0] + dx)), most)
    y = min(max(0.0, _stop(project, points[n][1] + dy)), board.width)
    moved = (*points[:n], (x, y), *points[n + 1 :])
    after = edit.put_board(project, board.model_copy(update={which: moved}))
    return Gesture(after, f"{which} edge at {marked(x)}: {marked(y)} from the lower")


def _rings(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """The hand on the pith of the left end pulled round: the rings turn with it."""
    board_id, _, over = name.rpartition("/")
    board = _board(project, board_id)
    at = Unfolded(board, over == "1")
    (out, up), (_, reach) = at.pith_way(), at.dial()
    return _turned(project, board, (out * reach + dx, up * reach + dy), at.over)


def _turned(project: Project, board: Board, way: tuple[float, float], over: bool) -> Gesture:
    """The rings of a board with their pith that way from the middle of the left end, as drawn."""
    towards_face, up = (-way[0], -way[1]) if over else way
    angle = round(math.degrees(math.atan2(abs(up), abs(towards_face))))
    turned = {"ring_angle": float(angle), "heart_side": "face" if towards_face > 0 else "back"}
    after = edit.put_board(project, board.model_copy(update={**turned, "pith": "upper" if up > 0 else "lower"}))
    return Gesture(after, f"rings of {board.name} {angle}\u00b0 to the face, heart to the {turned['heart_side']}")


TURN = math.radians(5.0)  # of the rings by a key


def _rings_nudged(project: Project, plan: Plan, name: str, along: int, up: int) -> Gesture:
    """The rings turned by keys, five degrees each: right and up one way, left and down the other."""
    board_id, _, over = name.rpartition("/")
    board = _board(project, board_id)
    at = Unfolded(board, over == "1")
    out, high = at.pith_way()
    angle = math.atan2(high, out) + (along + up) * TURN
    return _turned(project, board, (math.cos(angle), math.sin(angle)), at.over)


def _month(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """The humidity of a month of the room's year, in the drawing of the year; the months as they were drawn are the room's from then
    on."""
    n = int(name) - 1
    now = list(months(project.room))
    celsius, humidity = now[n]
    now[n] = (celsius, float(round(min(max(LEAST, humidity + dy / PERCENT), MOST))))
    year = tuple(Month(celsius=round(c, 1), humidity=round(h, 1)) for c, h in now)
    after = edit.changed(project, room=edit.held(project.room, months=year))
    return Gesture(after, f"{MONTHS[n]}: {now[n][1]:.0f} % humidity")


def _month_nudged(project: Project, plan: Plan, name: str, along: int, up: int) -> Gesture:
    """The humidity of a month moved by keys, one percent each."""
    return _month(project, plan, name, 0.0, up * PERCENT)


def _edge(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    board_id, _, which = name.partition("/")
    board = _board(project, board_id)
    size = _stop(project, getattr(board, which) + (dx if which == "length" else dy))
    least = max((d.x if which == "length" else d.y for d in board.defects), default=0.0) + NARROWEST
    if size < least:
        raise edit.BadEdit(f"{board.name} cannot be {marked(size)}: a fault is marked further out. Remove it first.")
    after = edit.put_board(project, board.model_copy(update={which: size}))
    return Gesture(after, f"{board.name} {which} {marked(size)}")


def _shift(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A part of the piece in hand that may be pulled to and fro along it."""
    made = plan.piece.in_hand
    if made.own is None:
        raise edit.BadEdit(plan.piece.problem or "That cannot be moved.")
    change, words = made.own.shifted(name.removeprefix(made.prefix), dx, lambda mm: _stop(project, mm))
    return Gesture(change(project), words)


def _asked(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """An answer of the piece in hand that is a length, pulled at the end of a story stick; where the stick adds up to more than the
    answer, what it comes to stops at the division shown."""
    words = name.replace("_", " ")
    chain = next((c for c in plan.piece.chains if c.edit == name), None)
    if chain is not None:
        total = _stop(project, chain.total + (dx or dy))
        return Gesture(piece_edits.set_total(project, plan, chain.rod, total), f"{chain.name.lower()} {marked(total)}")
    size = _stop(project, float(piece_edits.answer(project.in_hand, name)) + (dx or dy))
    return Gesture(piece_edits.set_answer(project, name, size), f"{words} {marked(size)}")


def _laid(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A line of a dovetailed corner: its half pins (the upper runs the other way), where a slope meets the baseline, or what parts a
    tail from its pin."""
    joint_id, which, side = (*name.split("/"), "")[:3]
    mine = plan.joints.of_piece[project.hand]
    joint = next((j for j in mine if j.id.removeprefix(prefix(project.hand)) == joint_id), None)
    if joint is None:
        raise edit.BadEdit(plan.joints.problem or "That joint is no longer here.")
    if which == "slope":
        return _sloped(project, joint, joint_id, dy)
    if which == "half_pin":
        size = joint.figures["half pin"] + (-dy if side == "upper" else dy)
    else:
        count = int(side)
        size = joint.figures["pin"] - dy / (1 - 1 / count)
        project = piece_edits.set_joint(project, joint_id, "tails", count)  # another pin, not another count
    size = max(NARROWEST, _stop(project, size))
    words = f"{which.replace('_', ' ')} {marked(size)}"
    return Gesture(piece_edits.set_joint(project, joint_id, which, size), words)


def _sloped(project: Project, joint: JointPlan, joint_id: str, dy: float) -> Gesture:
    """The slope of a dovetailed corner by where the lowest tail's lower side meets the baseline."""
    deep = next(mm for name, mm in joint.figures.items() if name.startswith("baseline on "))
    into = max(deep / joint.figures["slope"] + dy, deep / SHALLOWEST)
    run = round(min(max(deep / into, STEEPEST), SHALLOWEST), 1)
    return Gesture(piece_edits.set_joint(project, joint_id, "slope", run), f"slope 1 : {run:g}")


def _grip(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A line of a joint that moves with what the joint is asked: ``name`` says the joint, what is asked, along which axis of its side
    the line moves, and how far with each mm."""
    joint, which, axis, rate = name.split("/")
    worked = plan.piece.in_hand.worked
    if worked is None or all(j.id != joint for j in worked.sizes.design.joints):
        raise edit.BadEdit(plan.joints.problem or "That joint is no longer here.")
    size = max(NARROWEST, _stop(project, in_force(worked, joint, which) + (dx, dy)[int(axis)] / float(rate)))
    try:
        cuts_if(worked, joint, which, size)
    except ValueError as error:
        raise edit.BadEdit(str(error)) from None
    words = f"{which.replace('_', ' ')} {marked(size)}"
    return Gesture(piece_edits.set_joint(project, joint, which, size), words)


def _reading(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A reading pulled to where it was taken; ``name``: the board or part, and which of its readings."""
    target, _, n = name.rpartition("/")
    t = plan.trueup.of(target)
    if t is None:
        raise edit.BadEdit("That board or part is no longer here.")
    r = truing_edits.reading(t, int(n))
    needed = READING_KINDS[r.kind].needed
    moved: dict[str, float] = {}
    if "at" in needed:
        moved["at"] = min(max(0.0, _stop(project, r.at + dx)), t.length)
    if "across" in needed:
        moved["across"] = min(max(0.0, _stop(project, r.across + dy)), t.width)
    if not moved:
        raise edit.BadEdit(f"A {r.kind} reading stays where it is: choose it, and say another corner.")
    after = truing_edits.change_reading(project, t, int(n), **moved)
    return Gesture(after, f"{r.kind}: " + " and ".join(f"{where} {marked(mm)}" for where, mm in moved.items()))


def _part(project: Project, plan: Plan, name: str, dx: float, dy: float) -> Gesture:
    """A part as laid on a board: to another place on it, or onto another board."""
    result = plan.breakdown
    place = result.place(name)
    if place is None:
        raise edit.BadEdit(f"{name} is not laid on a board.")
    board_id, leaf = place
    used = in_hand(project.boards, {b.board for b in result.layout.boards} if result.layout else set())
    at = rows(used)
    x, y = leaf.x + dx, at[board_id] + leaf.y + dy
    middle = y + leaf.width / 2
    onto = min(used, key=lambda b: abs(middle - at[b.id] - b.width / 2))
    layout = move_part(result, name, onto.id, (x, y - at[onto.id]))
    after = project.model_copy(update={"layout": layout})
    return Gesture(after, f"{name} laid on {onto.name}")


_GESTURES: dict[str, Callable[[Project, Plan, str, float, float], Gesture]] = {
    "fault": _fault,
    "fault-turned": _fault_turned,
    "fault-size": _fault_size,
    "edge": _edge,
    "edgepoint": _edge_point,
    "rings": _rings,
    "month": _month,
    "shift": _shift,
    "asked": _asked,
    "laid": _laid,
    "grip": _grip,
    "part": _part,
    "reading": _reading,
}
# what keys move otherwise than by the divisions shown
_NUDGED: dict[str, Callable[[Project, Plan, str, int, int], Gesture]] = {
    "rings": _rings_nudged,
    "month": _month_nudged,
}
