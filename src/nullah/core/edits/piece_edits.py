"""Edits of pieces: answers, what the maker changes by hand, pieces added and taken away; each gives the next project."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from nullah.core.document.names import bare, prefix
from nullah.core.document.pieces import AddFrame, AddJoint, AddPart, Designed, Piece, put_of_part
from nullah.core.document.project import Project
from nullah.core.document.refusals import sentence
from nullah.core.edits.edit import BadEdit, applied, held, made, mark_joint, set_piece
from nullah.core.edits.piece_marks import with_what_still_is, without_piece
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import unqualified
from nullah.core.pieces.by_hand import TOLD
from nullah.core.pieces.free import FREE
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.kinds import KINDS
from nullah.core.pieces.look import DIMENSIONS, LIES, frame_axes, frame_axes_of
from nullah.core.pieces.own import Written
from nullah.core.pieces.sizes import Sizes
from nullah.core.planning.plan import Plan
from nullah.core.planning.plan import plan as work_out
from nullah.core.stations.piece_changes import dropped, put
from nullah.core.values.ask import Ask, BadAnswer
from nullah.core.wood.species import UnknownSpecies, species

FIRST = "practice_joint"  # what a new project opens on


def fresh(kind: str = FIRST) -> Project:
    """A new project: one piece of a kind as by default; a practice joint at first, which can be changed into the real thing."""
    return Project(pieces=(KINDS[kind].piece({}),))


def kind_of(piece: Piece | Designed) -> Kind | None:
    """The kind of a piece; None where this program has none of that name."""
    return KINDS.get(piece.kind)


def ask_of(piece: Piece | Designed, name: str) -> Ask:
    """What is asked of a piece under that name.

    Raises:
        BadEdit: it is not asked.
    """
    kind = kind_of(piece)
    ask = next((a for a in kind.asks if a.name == name), None) if kind else None
    if ask is None:
        raise BadEdit(f"{piece.name} is not asked for {name.replace('_', ' ')}.")
    return ask


def answer(piece: Piece | Designed, name: str) -> Any:
    """What was answered, or the default.

    Raises:
        KeyError: it is not asked.
    """
    if isinstance(piece, Piece):
        owner = piece.contents if name.startswith("contents.") else piece
        return getattr(owner, name.removeprefix("contents."))
    kind = KINDS[piece.kind]
    return piece.asked.get(name, next(a.default for a in kind.asks if a.name == name))


def set_answer(project: Project, name: str, value: Any) -> Project:
    """The project with one answer of the piece in hand changed.

    Raises:
        BadEdit: it is not asked, or does not serve.
    """
    piece = project.in_hand
    if isinstance(piece, Piece):
        return set_piece(project, name, value)
    ask = ask_of(piece, name)
    try:
        return project.with_design(held(piece, asked={**piece.asked, name: ask.held(value)}))
    except BadAnswer as error:
        raise BadEdit(str(error)) from None


def set_total(project: Project, plan: Plan, rod: str, mm: float) -> Project:
    """The project with the length of a story stick of the piece in hand typed: the answer it goes by takes the difference.

    Raises:
        BadEdit: nothing that is asked sets it, or the size does not serve.
    """
    chain = next((c for c in plan.piece.chains if c.rod == rod), None)
    if chain is None or not chain.edit:
        raise BadEdit("That length follows from the others; change one of them.")
    if mm <= 0:
        raise BadEdit("A length over all is more than zero.")
    now = float(answer(project.in_hand, chain.edit))
    return set_answer(project, chain.edit, now + mm - chain.total)


def _new_id(project: Project) -> str:
    """An id that no piece has or had."""
    return str(1 + max(project.last_piece, *(int(p.id) for p in project.pieces)))


def _own_name(project: Project, title: str) -> str:
    """The title, with a number where another piece has it."""
    taken = {p.name for p in project.pieces}
    return next(n for n in (title, *(f"{title} {i}" for i in range(2, 1_000))) if n not in taken)


def add_piece(project: Project, kind: str) -> Project:
    """The project with one more piece, as by default, taken in hand.

    Raises:
        BadEdit: there is no such kind, or no more pieces go in.
    """
    if kind not in KINDS:
        raise BadEdit(f'There is no kind "{kind[:40]}"; there are {", ".join(KINDS)}.')
    piece_id = _new_id(project)
    new = held(KINDS[kind].piece({}, piece_id), name=_own_name(project, KINDS[kind].title))
    return held(project, pieces=(*project.pieces, new), hand=piece_id)


def take_over(project: Project, piece: Piece | Designed) -> Project:
    """The project with a piece more as another is asked for and changed by hand, its own or another project's, taken in hand. What is
    measured, cut and chosen of that one stays with it.

    Raises:
        BadEdit: no more pieces go in.
    """
    piece_id = _new_id(project)
    new = held(piece.design, id=piece_id, name=_own_name(project, piece.name))
    return held(project, pieces=(*project.pieces, new), hand=piece_id)


def drop_piece(project: Project, plan: Plan) -> Project:
    """The project without the piece in hand, and without what was measured, cut, chosen and done of it; its id is never used again.

    Raises:
        BadEdit: it is the only one.
    """
    if len(project.pieces) == 1:
        raise BadEdit("A project has a piece at least; change this one into another kind.")
    return without_piece(project, plan, project.hand)


def take_in_hand(project: Project, piece_id: str) -> Project:
    """The project with another piece in hand.

    Raises:
        BadEdit: there is no such piece.
    """
    return held(project, hand=piece_id)


def change_kind(project: Project, plan: Plan, kind: str) -> Project:
    """The project with the piece in hand become one of another kind, as by default; what is done of it stays done where the same is to
    be done still.

    Raises:
        BadEdit: there is no such kind.
    """
    if kind not in KINDS:
        raise BadEdit(f'There is no kind "{kind[:40]}"; there are {", ".join(KINDS)}.')
    old = project.in_hand
    if old.kind == kind:
        return project
    name = old.name if old.name not in {k.title for k in KINDS.values()} else _own_name(project, KINDS[kind].title)
    return with_what_still_is(plan, project.with_design(held(KINDS[kind].piece({}, old.id), name=name)))


def rename(project: Project, name: str) -> Project:
    """The project with the piece in hand called otherwise.

    Raises:
        BadEdit: the name is empty, too long, or another piece has it.
    """
    if any(p.name == name and p.id != project.hand for p in project.pieces):
        raise BadEdit(f'Another piece is called "{name[:40]}".')
    return project.with_design(held(project.in_hand, name=name))


# ---- the maker's own hand


def _designed(project: Project) -> Designed:
    piece = project.in_hand
    if not isinstance(piece, Designed):
        raise BadEdit("A dovetailed box is changed by its answers. Make it your own first: By hand, at Piece.")
    return piece


def _id(words: str, taken: set[str]) -> str:
    stem = re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")[:40] or "part"
    return next(n for n in (stem, *(f"{stem}-{i}" for i in range(2, 10_000))) if n not in taken)


def _taken(project: Project, plan: Plan) -> set[str]:
    pre = prefix(project.hand)
    mine = plan.joints.of_piece.get(project.hand, ())
    edits = getattr(project.in_hand, "edits", ())
    return {
        *(p.id.removeprefix(pre) for p in plan.piece.in_hand.parts),
        *(j.id.removeprefix(pre) for j in mine),
        *(e.id for e in edits if hasattr(e, "id")),
    }


def add_part(project: Project, plan: Plan, label: str, sizes: tuple[float, float, float], **more: Any) -> Project:
    """The project with a part of the maker's own in the piece in hand.

    Args:
        sizes: length between its shoulders, width and thickness, mm; more: fields of ``AddPart``: species, role, face, upper, at.

    Raises:
        BadEdit: a field is out of bounds, or another part is called so.
    """
    piece = _designed(project)
    words = " ".join(label.split())
    if any(p.name == words for p in plan.piece.parts):
        raise BadEdit(f'Another part is called "{words[:40]}".')
    new = made(
        AddPart, id=_id(words, _taken(project, plan)), label=words, **dict(zip(DIMENSIONS, sizes, strict=True)), **more
    )
    return project.with_design(held(piece, edits=(*piece.edits, new)))


def add_joint(project: Project, plan: Plan, family: str, first: str, second: str, way: str) -> Project:
    """The project with a joint of the maker's own: ``first`` looks ``way`` towards ``second``, both by the project's names.

    Raises:
        BadEdit: there is no such family or part.
    """
    piece = _designed(project)
    if family not in FAMILIES:
        raise BadEdit(f'There is no family of joints called "{family[:40]}"; there are {", ".join(FAMILIES)}.')
    pre = prefix(project.hand)
    known = {p.id for p in plan.piece.in_hand.parts}
    for name in (first, second):
        if name not in known and (name or not second == ""):
            raise BadEdit(f'There is no part "{name[:40]}" in {piece.name}.')
    if first == second:
        raise BadEdit("A joint is of two parts.")
    one, two = first.removeprefix(pre), second.removeprefix(pre)
    words = "-".join(filter(None, (FAMILIES[family].name.split("_")[0], one, two)))
    new = made(AddJoint, id=_id(words, _taken(project, plan)), family=family, first=one, second=two, way=way)
    return project.with_design(held(piece, edits=(*piece.edits, new)))


def added(project: Project) -> str:
    """The name, within its piece, of what was added to the piece in hand last; "" where nothing was."""
    found = [e.id for e in _designed(project).edits if isinstance(e, AddPart | AddJoint | AddFrame)]
    return found[-1] if found else ""


def take_away(project: Project, name: str) -> Project:
    """The project without a part or a joint of the piece in hand, by the project's name for it.

    Raises:
        BadEdit: the piece in hand has no edits.
    """
    _designed(project)
    return dropped(project, project.hand, name.removeprefix(prefix(project.hand)))


def put_figure(project: Project, name: str, what: str, value: float | str | bool) -> Project:
    """The project with a figure written by hand: a part's ``length``, ``width``, ``thickness``, ``label``, ``species`` or ``role``, or
    what a joint is asked.

    Raises:
        BadEdit: it does not serve.
    """
    if what in DIMENSIONS and not (isinstance(value, int | float) and 0 < value <= 20_000):
        raise BadEdit(f"A {what} is more than zero.")
    if what in (*DIMENSIONS, *TOLD):
        try:
            put_of_part(what, value)
            if what == "species":
                species(str(value))
        except ValidationError as error:
            raise BadEdit(sentence(error)) from None
        except UnknownSpecies as error:
            raise BadEdit(str(error)) from None
    return _with_figure(project, name, what, value)


def _with_figure(project: Project, name: str, what: str, value: float | str | bool) -> Project:
    _designed(project)
    try:
        return put(project.hand, ((name.removeprefix(prefix(project.hand)), what, value),))(project)
    except ValidationError as error:
        raise BadEdit(sentence(error)) from None


def move_part(project: Project, name: str, axis: int, mm: float) -> Project:
    """The project with a part that was added by hand standing elsewhere along x, y or z (0, 1, 2).

    Raises:
        BadEdit: the kind placed it, or the place is out of bounds.
    """
    piece = _designed(project)
    local = name.removeprefix(prefix(piece.id))
    edits = list(piece.edits)
    for i, one in enumerate(edits):
        if isinstance(one, AddPart) and one.id == local:
            at = tuple(mm if k == axis else v for k, v in enumerate(one.at))
            axes = dict(zip(frame_axes_of(one.face, one.upper), LIES.values(), strict=True))
            edits[i] = held(one, at=at, **{axes[axis]: None})
            return project.with_design(held(piece, edits=tuple(edits)))
    raise BadEdit("Where that part stands follows from the piece.")


def set_joint(project: Project, name: str, what: str, value: float | str | bool) -> Project:
    """The project with what a joint of the piece in hand is asked changed: by the answer of that name where the kind asks it, else by
    hand.

    Raises:
        BadEdit: it does not serve.
    """
    kind = kind_of(project.in_hand)
    if kind is not None and any(a.name == what for a in kind.asks):
        return set_answer(project, what, value)
    return _with_figure(project, name, what, value)  # whose length may be nothing: as suits


def is_mine(piece: Piece | Designed) -> bool:
    """Whether no kind holds a piece: all of it is the maker's own."""
    return piece.kind == FREE.name


def make_mine(project: Project, plan: Plan) -> Project:
    """The project with the piece in hand turned into a free one: its design written out as edits, so that no kind holds it. What was
    measured and cut of it stays.

    Raises:
        BadEdit: it is free already, or cannot be worked out.
    """
    piece, now = project.in_hand, plan.piece.in_hand
    if is_mine(piece):
        raise BadEdit("This piece is your own already.")
    trouble = now.problem or plan.joints.troubles[now.id]
    if trouble:
        raise BadEdit(trouble)
    if now.own is not None:
        mine = tuple(unqualified(j, now.prefix) for j in plan.joints.of_piece[now.id])
        written = now.own.written(mine)
    elif now.worked is not None:
        written = Written(_written(now.worked.sizes), {})
    else:
        raise BadEdit("This piece cannot be worked out.")
    free = made(Designed, id=piece.id, kind=FREE.name, name=piece.name, edits=written.edits)
    return _joints_follow(project.with_design(free), written.became)


def _written(sizes: Sizes) -> tuple[AddFrame | AddPart | AddJoint, ...]:
    """A design as frames, parts and joints of the maker's own."""
    design = sizes.design
    edits: list[AddFrame | AddPart | AddJoint] = [
        made(AddFrame, id=f.id, at=tuple(sizes.total(s) for s in f.at), axis=f.axis, degrees=f.degrees)
        for f in design.frames
    ]
    for part in design.parts:
        block = sizes.block(part.id, bare=True)
        spans = [block[axis] for axis in frame_axes(part)]
        edits.append(
            made(
                AddPart,
                id=part.id,
                label=part.label,
                **{d: high - low for d, (low, high) in zip(DIMENSIONS, spans, strict=True)},
                species=part.species,
                role=part.role,
                face=part.face,
                upper=part.up,
                at=tuple(low for low, _ in block),
                frame=part.frame,
            )
        )
    edits += [
        made(
            AddJoint,
            id=j.id,
            family=j.family,
            first=j.first,
            second=j.second,
            way=j.way,
            asked=dict(j.asked),
            set=j.set,
        )
        for j in design.joints
    ]
    return tuple(edits)


def _joints_follow(project: Project, became: Mapping[str, tuple[str, ...]]) -> Project:
    """The project with joints of the piece in hand that were cut cut still, and steps that were done done, under the names they have
    now."""
    marks = project.in_hand.marks
    cut = {new for m in marks.joints_cut for new in became.get(m.joint, ())}
    kept = tuple(m for m in marks.joints_cut if m.joint not in became)
    done = [
        deed
        for d in marks.done
        for deed in ([held(d, of=new) for new in became[d.of]] if d.what == "joint" and d.of in became else [d])
    ]
    after = applied(project, lambda p: p.with_marks(p.hand, joints_cut=kept, done=tuple(done)))
    if cut:
        for laid in work_out(after).joints.of_piece[project.hand]:
            after = mark_joint(after, laid) if bare(laid.id, laid.piece) in cut else after
    return after
