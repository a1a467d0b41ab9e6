"""Piece: the parts of every piece, and what to do where a part already cut no longer agrees with the plan."""

from __future__ import annotations

from nullah.core.document.calls import Call, Change
from nullah.core.document.marks import Choice, CutMark, JointMark, Marks, Measured
from nullah.core.document.names import prefix
from nullah.core.document.pieces import WHOLE, Designed, Piece
from nullah.core.document.project import Kit
from nullah.core.marking.family import Shop
from nullah.core.pieces import worked
from nullah.core.pieces.kinds import KINDS, works_of
from nullah.core.pieces.look import DIMENSIONS
from nullah.core.pieces.part import Part
from nullah.core.stations.made import Keeps, Made, PieceResult, anew
from nullah.core.stations.piece_calls import conflict, gone_calls, hold_call, lost_call, misfit_call
from nullah.core.stations.piece_changes import put
from nullah.core.stations.proportions import proportion_calls
from nullah.core.values.frozen import replace
from nullah.core.values.measure import SAME
from nullah.core.wood.seasoned import AskedWood, WoodOfParts


def work(
    pieces: tuple[Piece | Designed, ...], hand: str, wood: WoodOfParts, shop: Shop, keeps: Keeps = anew
) -> PieceResult:
    """The station: parts and lines of arithmetic of every piece from what is asked for and what is measured, cut and chosen of it. A
    piece that nothing has changed for is kept."""
    made: list[Made] = []
    calls: list[Call] = []
    several = len(pieces) > 1
    for piece in pieces:
        marks = piece.marks
        said = tuple(m for m in marks.measured if m.part != WHOLE)
        given = (said, marks.cut, marks.joints_cut, piece.named.choices)
        mine = AskedWood(wood, prefix(piece.id))
        one, asked = keeps(f"piece {piece.id}", _one, piece.design, *given, mine, shop)
        made.append(one)
        calls += [replace(c, question=f"{piece.name}: {c.question}") if several else c for c in asked]
    of_part = {p.id: m for m in made for p in m.parts}
    for piece, one in zip(pieces, made, strict=True):
        calls += gone_calls([*piece.marks.measured, *piece.marks.cut], one, piece.named.choices)
    return PieceResult(tuple(made), hand, tuple(calls), of_part)


def _one(
    piece: Piece | Designed,
    said: tuple[Measured, ...],
    marks: tuple[CutMark, ...],
    sawn: tuple[JointMark, ...],
    choices: tuple[Choice, ...],
    wood: AskedWood,
    shop: Shop,
) -> tuple[Made, tuple[Call, ...]]:
    """One piece, with what is asked about it; what is marked of it by its own names, ``choices`` by the project's."""
    one, asked = (
        _designed(piece, said, marks, sawn, choices, shop, wood)
        if isinstance(piece, Designed)
        else _in_its_own_way(piece, said, marks, sawn, choices, wood)
    )
    calls = tuple(replace(c, piece=piece.id) for c in asked)
    return (replace(one, joints_cut=Marks(joints_cut=sawn).of(piece.id).joints_cut) if sawn else one), calls


def _qualified(part: Part, piece: Piece | Designed) -> Part:
    """A part by the project's names."""
    pre = prefix(piece.id)
    if not pre:
        return part
    name = f"{piece.name}: {part.name}"[:120]
    group = f"{pre}{part.group}" if part.group else ""
    return replace(part, id=f"{pre}{part.id}", name=name, group=group, piece=piece.id)


def _in_its_own_way(
    piece: Piece,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    joints: tuple[JointMark, ...],
    choices: tuple[Choice, ...],
    wood: AskedWood,
) -> tuple[Made, tuple[Call, ...]]:
    try:
        own, first, last = works_of(piece)(piece, measured, cut, joints, choices, wood)
    except ValueError as error:
        return Made(piece, problem=str(error)), ()
    parts = tuple(_qualified(p, piece) for p in own.parts)
    conflicts = []
    for local, part in zip(own.parts, parts, strict=True):

        def follow(off: list[int], local: Part = local) -> Change | None:
            return own.following(local, off)

        if part.cut and (c := conflict(own.word, part, local.id, follow, choices)):
            conflicts.append(c)
    fits = []
    by_id = {p.id: p for p in own.parts}
    for mark in measured:
        one = by_id.get(mark.part)
        if one is None or not one.fitted or one.cut or mark.dimension not in ("length", "width"):
            continue
        others = tuple(m for m in measured if m is not mark)
        without, _, _ = works_of(piece)(piece, others, cut, joints, choices, wood)
        room = float(getattr(next(p for p in without.parts if p.id == one.id), mark.dimension))
        if abs(mark.value - room) > SAME:
            fits.append(misfit_call(piece.id, one, mark.dimension, mark.value, room, choices))
    return Made(piece, parts, "", own), (*conflicts, *first, *fits, *last)


# ---- pieces that are designed


def shop_of(kit: Kit) -> Shop:
    """What the kit means to the joints."""
    return Shop(
        kit.chisels,
        kit.bits,
        kit.plough_irons,
        kit.plough_deepest,
        kit.plough,
        kit.router_plane,
        kit.rabbet_plane,
    )


def _designed(
    piece: Designed,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    joints: tuple[JointMark, ...],
    choices: tuple[Choice, ...],
    shop: Shop,
    wood: AskedWood,
) -> tuple[Made, tuple[Call, ...]]:
    pre = prefix(piece.id)
    try:
        done = worked.work(piece, measured, cut, {}, shop, wood.change, joints)
        holds = [hold_call(piece, off, choices) for off in done.off]
        taken_ways = {off.rod: c.in_force for off, c in zip(done.off, holds, strict=True)}
        if any(c.in_force != c.recommended for c in holds):
            done = worked.work(piece, measured, cut, taken_ways, shop, wood.change, joints)
    except ValueError as error:
        return Made(piece, problem=str(error)), ()
    parts = tuple(_qualified(p, piece) for p in done.parts)
    conflicts = []
    for part in parts:

        def follow(off: list[int], part: Part = part) -> Change | None:
            local = part.id.removeprefix(pre)
            return put(piece.id, tuple((local, DIMENSIONS[i], part.sizes[i]) for i in off))

        if part.cut and (c := conflict("plan", part, part.name, follow, choices)):
            conflicts.append(c)
    holds += [
        misfit_call(piece.id, done.part(name), what, mm, room, choices)
        for name, what, mm, room in done.misfits
        if not _is_cut(parts, pre, name)
    ]
    lost = tuple(lost_call(piece, name, words, choices) for name, words in done.lost)
    on_paper = not (measured or cut or joints)
    proportions = proportion_calls(piece, KINDS[piece.kind], choices) if on_paper else ()
    return Made(piece, parts, "", None, done), (*conflicts, *holds, *lost, *proportions)


def _is_cut(parts: tuple[Part, ...], pre: str, name: str) -> bool:
    """Whether a part is marked as cut: then its conflict says what differs."""
    return any(p.cut for p in parts if p.id == f"{pre}{name}")
