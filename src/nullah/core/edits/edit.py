"""Edits: each takes a project and gives the next one. Undo is the list of old ones; nothing here changes a value in place."""

from __future__ import annotations

import re
from datetime import datetime
from typing import Any, TypeVar

from pydantic import ValidationError

from nullah.core.document.calls import Call, Change
from nullah.core.document.marks import Mark
from nullah.core.document.names import bare
from nullah.core.document.pieces import AddPart, Piece, Put
from nullah.core.document.project import (
    LOG_LETTERS,
    LOG_LINES,
    Board,
    Choice,
    JointMark,
    LogEntry,
    Project,
    Timer,
)
from nullah.core.document.refusals import sentence
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.part import Part
from nullah.core.stations import as_made, piece
from nullah.core.stations.piece_changes import marked_at, without_mark
from nullah.core.values.measure import show_length, told
from nullah.core.values.value import Value
from nullah.core.wood.species import UnknownSpecies, species

MOST_LETTERS = 2000  # of one line of the bench book
V = TypeVar("V", bound=Value)


class BadEdit(ValueError):
    """An edit that cannot be made; the message is one sentence that says what to do instead."""


def changed(project: Project, **update: Any) -> Project:
    """The project with fields replaced, validated anew.

    Raises:
        BadEdit: the new values are not valid; the message says which and why.
    """
    return held(project, **update)


def held(value: V, /, **update: Any) -> V:
    """Any value of the document with fields replaced.

    Raises:
        BadEdit: a new value is out of bounds; the message says which and why.
    """
    try:
        return value.model_copy(update=update)
    except ValidationError as error:
        raise BadEdit(sentence(error)) from None


def applied(project: Project, change: Change) -> Project:
    """The project after a change.

    Raises:
        BadEdit: a value is out of bounds, or there are more marks than a project keeps; the message says which and why.
    """
    try:
        return change(project)
    except ValidationError as error:
        raise BadEdit(sentence(error)) from None


def with_mark(project: Project, piece_id: str, mark: Mark) -> Project:
    """The project with a mark of a piece, by the piece's own names, in place of an earlier one of the same thing.

    Raises:
        BadEdit: there are more marks than a project keeps.
    """
    return applied(project, lambda p: p.with_mark(piece_id, mark))


def made(what: type[V], /, **fields: Any) -> V:
    """A new value of the document.

    Raises:
        BadEdit: a field is out of bounds; the message says which and why.
    """
    try:
        return what.model_validate(fields)
    except ValidationError as error:
        raise BadEdit(sentence(error)) from None


def logged(project: Project, kind: str, text: str, when: str = "", step: str = "", minutes: float = 0.0) -> Project:
    """The project with one more line in its bench book; where the book is full its earliest lines make way.

    Raises:
        BadEdit: the line is longer than 2,000 letters, or its minutes are out of bounds.
    """
    words = "".join(c if c >= " " else " " for c in text)  # a control character is written as six
    entry = made(LogEntry, kind=kind, text=words, when=when, step=step, minutes=minutes)
    kept = project.log[max(0, len(project.log) - LOG_LINES + 1) :]
    while len(kept) * MOST_LETTERS > LOG_LETTERS and _letters(kept) + len(words) > LOG_LETTERS:
        kept = kept[max(1, len(kept) // 100) :]
    return held(project, log=(*kept, entry))


def _letters(log: tuple[LogEntry, ...]) -> int:
    return sum(len(entry.text) for entry in log)


def set_piece(project: Project, field: str, value: Any) -> Project:
    """The project with one field of its piece set; ``contents.`` before the name reaches into the contents.

    Raises:
        BadEdit: the value is out of bounds.
    """
    owner = project.piece.contents if field.startswith("contents.") else project.piece
    name = field.removeprefix("contents.")
    if name.endswith("species"):
        _known(str(value))
    fresh = held(owner, **{name: value})
    return held(project, piece=fresh if owner is project.piece else held(project.piece, contents=fresh))


def set_in(project: Project, owner: str, field: str, value: Any) -> Project:
    """The project with one field of its ``room``, ``kit``, ``allowances`` or ``weights`` set.

    Raises:
        BadEdit: the value is out of bounds.
    """
    return held(project, **{owner: held(getattr(project, owner), **{field: value})})


def put_board(project: Project, board: Board) -> Project:
    """The project with a board added, or put in the place of the one with its id."""
    _known(board.species)
    boards = list(project.boards)
    index = next((i for i, b in enumerate(boards) if b.id == board.id), None)
    if index is None:
        boards.append(board)
    else:
        boards[index] = board
    return changed(project, boards=tuple(boards))


def drop_board(project: Project, board_id: str) -> Project:
    """The project without a board, all that was read and planed of it, and its pictures; its number is never used again."""
    return changed(
        project,
        last_board=max(project.last_board, number_of(board_id)),
        planed=tuple(p for p in project.planed if p.target != board_id),
        boards=tuple(b for b in project.boards if b.id != board_id),
        readings=tuple(r for r in project.readings if r.target != board_id),
        board_photos=tuple(p for p in project.board_photos if p.board != board_id),
    )


def number_of(name: str) -> int:
    """The number that an id ends with; 0 where it has none, or one that is no one's."""
    digits = re.search(r"\d{1,6}$", name)
    return int(digits[0]) if digits else 0


def new_board_id(project: Project) -> str:
    """An id that no board has or had."""
    return f"board {1 + max(project.last_board, *(number_of(b.id) for b in project.boards), 0)}"


def fresh_id(stem: str, taken: set[str]) -> str:
    """The stem with the lowest number that is not taken."""
    number = 1
    while f"{stem} {number}" in taken:
        number += 1
    return f"{stem} {number}"


def _known(name: str) -> None:
    try:
        species(name)
    except UnknownSpecies as error:
        raise BadEdit(str(error)) from None


def check_species(project: Project) -> None:
    """Nothing where every species named is in the table.

    Raises:
        UnknownSpecies: one is not; the message lists those that are.
    """
    named = [b.species for b in project.boards]
    for one in project.pieces:
        if isinstance(one, Piece):
            named += [one.wall_species, one.panel_species, one.lid_species]
        else:
            named += [e.species for e in one.edits if isinstance(e, AddPart)]
            named += [str(e.value) for e in one.edits if isinstance(e, Put) and e.what == "species"]
    for name in named:
        species(name)


# ---- calls


def take(project: Project, call: Call, option_id: str, when: str = "") -> Project:
    """The project with a call taken: its option's change made, the choice recorded.

    Raises:
        KeyError: the call has no such option.
        BadEdit: its change passes a limit.
    """
    option = call.option(option_id)
    asked, label = (told(t, project.units, project.denominator) for t in (call.question, option.label))
    choice = made(
        Choice,
        call=bare(call.id, call.piece),
        option=option_id,
        asked=call.asked[:MOST_LETTERS],
        words=f"{asked} {label}"[:MOST_LETTERS],
    )
    after = applied(project, option.change)
    if call.piece:
        after = with_mark(after, call.piece, choice)
    else:
        others = (c for c in after.choices_of_all if c.call != call.id)
        after = held(after, choices_of_all=(*others, choice))
    if not call.sets_outside:
        after = _outside_held(project, after)
    unit = (project.units, project.denominator)
    came = "; ".join(told(c, *unit) for c in option.consequences)
    ours = "" if option_id == call.recommended else f" The program would have taken {told(_label(call), *unit)}."
    why = f" Why: {told(call.why, *unit)}." if call.why and not ours else ours
    return logged(after, "call", f"{asked} Taken: {label}{f' ({came})' if came else ''}.{why}"[:MOST_LETTERS], when)


_MADE_UP = ("extra_length", "extra_width", "extra_height")


def _outside_held(before: Project, after: Project) -> Project:
    """The project after a call, with outside sizes of boxes that were typed as they were: what is made up takes the difference."""
    for was, now in zip(before.pieces, after.pieces, strict=False):
        if not (isinstance(was, Piece) and isinstance(now, Piece) and was.id == now.id):
            continue
        typed = [f for f in _MADE_UP if getattr(was, f) == getattr(now, f) != 0]
        size, grown = (_outside(one, now.id) if typed else None for one in (before, after))
        if size is not None and grown is not None:
            update = {f: getattr(now, f) + size[i] - grown[i] for i, f in enumerate(_MADE_UP) if f in typed}
            after = held(after, piece=held(now, **update))
    return after


def _outside(project: Project, piece_id: str) -> tuple[float, ...] | None:
    p = project
    wood = as_made.work(p.boards, p.room, p.choices, p.layout, p.cut, p.references).wood
    made = piece.work((p.of_piece(piece_id),), piece_id, wood, piece.shop_of(p.kit)).in_hand
    return made.own.outside if made.own is not None else None


def _label(call: Call) -> str:
    return call.option(call.recommended).label


def take_back(project: Project, call_id: str, when: str = "") -> Project:
    """The project with a recorded choice taken back: the call is open again (a layout taken is laid aside)."""
    after = project.without_choice(call_id)
    if call_id == "layout":
        after = held(after, layout=None)
    return logged(after, "call", f"Taken back: {call_id}.", when)


# ---- cut and done


def mark_cut(project: Project, part: Part, when: str = "") -> Project:
    """The project with a part marked as cut at its sizes as they stand: from now on they never change silently."""
    after = applied(project, marked_at(part, part.sizes))
    sizes = " x ".join(show_length(v, project.units, project.denominator).text for v in part.sizes)
    return logged(after, "cut", f"{part.name} cut: {sizes}", when)


def unmark_cut(project: Project, part: Part, when: str = "") -> Project:
    """The project with a part no longer marked as cut: it is made again, from other wood where it was sawn."""
    after = without_mark(part)(project)
    return logged(after, "cut", f"{part.id} is to be cut again", when)


def mark_joint(project: Project, joint: JointPlan) -> Project:
    """The project with a joint marked as cut at its figures and places as they stand: from now on they never change silently."""
    mark = made(
        JointMark,
        joint=bare(joint.id, joint.piece),
        parts=tuple(bare(p, joint.piece) for p in joint.parts),
        figures=dict(joint.figures),
        places={bare(p, joint.piece): at for p, at in joint.places.items()},
    )
    return with_mark(project, joint.piece, mark)


def start_timer(project: Project, step_id: str, when: str) -> Project:
    """The project with a step being timed from ``when`` (ISO 8601) on; another that was being timed is stopped unlogged."""
    return held(project, timer=made(Timer, step=step_id, started=when))


def stop_timer(project: Project, title: str, when: str) -> Project:
    """The project with its timer stopped and the minutes logged for the step, which is not done by that."""
    if project.timer is None:
        return project
    step, minutes = project.timer.step, timed(project, when)
    after = held(project, timer=None)
    return logged(after, "time", title, when, step, round(minutes, 2)) if minutes > 0 else after


LONGEST_GO = 24 * 60.0  # minutes: a timer left running longer was forgotten, and says nothing


def timed(project: Project, when: str) -> float:
    """Minutes since the timer was started; 0 without one, or where it was forgotten for more than a day."""
    if project.timer is None:
        return 0.0
    try:
        minutes = (datetime.fromisoformat(when) - datetime.fromisoformat(project.timer.started)).total_seconds() / 60
    except (ValueError, TypeError):
        return 0.0
    return minutes if 0 < minutes <= LONGEST_GO else 0.0
