"""Piece: the parts of every piece, and what to do where a part already cut no longer agrees with the plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field, replace
from typing import TypeVar

from nullah.core.calls import Call, Change, Option, taken
from nullah.core.document import (
    AddPart,
    BoardLayout,
    Choice,
    CutMark,
    Designed,
    Drop,
    Kit,
    Measured,
    Piece,
    Project,
    Put,
    prefix,
)
from nullah.core.frozen import frozen
from nullah.core.joints.family import Shop
from nullah.core.joints.plan import Check
from nullah.core.layout.model import leaves
from nullah.core.layout.progress import without_parts
from nullah.core.measure import SAME, marked
from nullah.core.pieces import box_calls, worked
from nullah.core.pieces.box import Box
from nullah.core.pieces.part import Chain, Part
from nullah.core.pieces.worked import Off, Worked
from nullah.core.stations.as_made import parts_named
from nullah.core.wood.seasoned import WoodOfParts

_WORDS = ("length", "width", "thickness")
M = TypeVar("M", Measured, CutMark)


@frozen
class Made:
    """One piece worked out: what the document says of it, its parts by the project's names, and what cannot be worked out."""

    piece: Piece | Designed
    parts: tuple[Part, ...] = ()
    problem: str = ""
    box: Box | None = None
    worked: Worked | None = None

    @property
    def id(self) -> str:
        """The piece's id."""
        return self.piece.id

    @property
    def prefix(self) -> str:
        """What the project puts before the names of its parts."""
        return prefix(self.piece.id)

    @property
    def chains(self) -> tuple[Chain, ...]:
        """Its lines of arithmetic."""
        one = self.box or self.worked
        return one.chains if one else ()

    def failing(self) -> tuple[Check, ...]:
        """What is to hold of a designed piece as a whole and does not."""
        return tuple(c for c in self.worked.checks if not c.holds) if self.worked is not None else ()

    @property
    def outside(self) -> tuple[float, float, float] | None:
        """How far it reaches along x, y and z, mm; None where it has no parts."""
        if self.box is not None:
            return self.box.outside
        return self.worked.outside if self.worked is not None and self.parts else None


@frozen
class PieceResult:
    """Every piece; of the one in hand its box, if it is one, and what could not be worked out of it; the calls of all."""

    made: tuple[Made, ...]
    hand: str
    calls: tuple[Call, ...]
    of_part: Mapping[str, Made] = field(default_factory=dict)

    @property
    def in_hand(self) -> Made:
        """The piece in hand."""
        return next(m for m in self.made if m.id == self.hand)

    @property
    def box(self) -> Box | None:
        """The box in hand; None where it is none, or cannot be worked out."""
        return self.in_hand.box

    @property
    def problem(self) -> str:
        """Why the piece in hand cannot be worked out, "" where it can."""
        return self.in_hand.problem

    def called(self, name: str) -> str:
        """What a part is called whichever piece is in hand: a part of the first box by its own name, any other by its label, with its
        piece's name."""
        made = self.of_part.get(name)
        if made is None or (made.box is not None and not made.prefix):
            return name
        return next(p.name for p in made.parts if p.id == name)

    def spoken(self, name: str) -> str:
        """What a part is called where it is mentioned: a side of a box by its letter, a part of a designed piece by its label, those of
        pieces that are not in hand with their piece's name."""
        made = self.of_part.get(name)
        if made is None:
            return name
        part = next(p for p in made.parts if p.id == name)
        own = name.removeprefix(made.prefix) if made.box is not None else part.name.rpartition(": ")[2]
        return own if made.id == self.hand or not made.prefix else f"{made.piece.name}: {own}"

    @property
    def chains(self) -> tuple[Chain, ...]:
        """The lines of arithmetic of the piece in hand."""
        return self.in_hand.chains

    @property
    def parts(self) -> tuple[Part, ...]:
        """All parts of all pieces; those of a piece that cannot be worked out are not there."""
        return tuple(p for m in self.made for p in m.parts)


def work(
    pieces: tuple[Piece | Designed, ...],
    hand: str,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    choices: tuple[Choice, ...],
    wood: WoodOfParts,
    shop: Shop,
) -> PieceResult:
    """The station: parts and lines of arithmetic of every piece from what is asked for and what is measured and cut."""
    made: list[Made] = []
    calls: list[Call] = []
    ids = tuple(p.id for p in pieces)
    several = len(pieces) > 1
    for piece in pieces:
        said = tuple(_own(m, piece.id) for m in measured if owner(m.part, ids) == piece.id)
        marks = tuple(_own(m, piece.id) for m in cut if owner(m.part, ids) == piece.id)
        one, asked = (
            _box(piece, said, marks, choices, wood)
            if isinstance(piece, Piece)
            else _designed(piece, said, marks, choices, shop, wood)
        )
        made.append(one)
        calls += [replace(c, question=f"{piece.name}: {c.question}") if several else c for c in asked]
    of_part = {p.id: m for m in made for p in m.parts}
    calls += _gone([*measured, *cut], of_part, made, choices)
    return PieceResult(tuple(made), hand, tuple(calls), of_part)


def owner(name: str, ids: tuple[str, ...]) -> str:
    """The id of the piece that a part's or a joint's name belongs to."""
    head, dot, _ = name.partition(".")
    return head if dot and head != "1" and head in ids else "1"


def _own(mark: M, piece_id: str) -> M:
    """A mark by its piece's own name for the part."""
    return mark.model_copy(update={"part": mark.part.removeprefix(prefix(piece_id))}) if prefix(piece_id) else mark


def _qualified(part: Part, piece: Piece | Designed, box: bool) -> Part:
    """A part by the project's names."""
    pre = prefix(piece.id)
    if box:
        part = replace(part, fitted=part.group != "sides", in_order=part.group == "sides")
    if not pre:
        return part
    name = f"{piece.name}: {part.name}"[:120]
    return replace(part, id=f"{pre}{part.id}", name=name, group=f"{pre}{part.group}" if part.group else "")


def _box(
    piece: Piece,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    choices: tuple[Choice, ...],
    wood: WoodOfParts,
) -> tuple[Made, tuple[Call, ...]]:
    pre = prefix(piece.id)
    wood = (
        WoodOfParts(wood.dry, wood.wet, {k.removeprefix(pre): v for k, v in wood.parts.items()}, wood.by_species)
        if pre
        else wood
    )
    try:
        box, first, last = box_calls.worked(piece, measured, cut, choices, wood)
    except ValueError as error:
        return Made(piece, problem=str(error)), ()
    parts = tuple(_qualified(p, piece, True) for p in box.parts)
    conflicts = []
    for local, part in zip(box.parts, parts, strict=True):

        def follow(off: list[int], local: Part = local) -> Change | None:
            update = box_calls.following(piece, local, off)
            return box_calls.changed(piece, update) if update else None

        if part.cut and (c := _conflict("box", part, local.id, follow, choices)):
            conflicts.append(c)
    return Made(piece, parts, "", box), (*conflicts, *first, *last)


# ---- pieces that are designed


def shop_of(kit: Kit) -> Shop:
    """What the kit means to the joints."""
    return Shop(kit.chisels, kit.plough, kit.router_plane, kit.rabbet_plane)


def _designed(
    piece: Designed,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    choices: tuple[Choice, ...],
    shop: Shop,
    wood: WoodOfParts,
) -> tuple[Made, tuple[Call, ...]]:
    pre = prefix(piece.id)

    def grows(part: str, kind: str, width: float) -> tuple[float, float]:
        return wood.change(f"{pre}{part}", kind, width)

    try:
        done = worked.work(piece, measured, cut, {}, shop, grows)
        holds = [_hold_call(piece, off, choices) for off in done.off]
        taken_ways = {off.rod: c.in_force for off, c in zip(done.off, holds, strict=True)}
        if any(c.in_force != c.recommended for c in holds):
            done = worked.work(piece, measured, cut, taken_ways, shop, grows)
    except ValueError as error:
        return Made(piece, problem=str(error)), ()
    parts = tuple(_qualified(p, piece, False) for p in done.parts)
    conflicts = []
    for part in parts:

        def follow(off: list[int], part: Part = part) -> Change | None:
            local = part.id.removeprefix(pre)
            return put(piece.id, tuple((local, _WORDS[i], part.sizes[i]) for i in off))

        if part.cut and (c := _conflict("plan", part, part.name, follow, choices)):
            conflicts.append(c)
    holds += [
        _misfit_call(piece, done, *misfit, choices) for misfit in done.misfits if not _is_cut(parts, pre, misfit[0])
    ]
    lost = tuple(lost_call(piece, name, words, choices) for name, words in done.lost)
    return Made(piece, parts, "", None, done), (*conflicts, *holds, *lost)


def _hold_call(piece: Designed, off: Off, choices: tuple[Choice, ...]) -> Call:
    """Whether outside or inside stays along a rod, where its parts came out otherwise than planned."""
    options = tuple(
        Option(
            way,
            f"hold the {way}",
            (f"over all {marked(off.both[way][0])}, between them {marked(off.both[way][1])}",),
        )
        for way in ("outside", "inside")
    )
    call_id = f"{prefix(piece.id)}hold {off.rod}"
    asked = "; ".join(f"{name} {is_:.1f} {way}, planned {was:.1f}" for name, way, is_, was in off.facts)
    facts = " and ".join(
        f"{name} is {marked(is_)} {way}, {marked(was)} was planned" for name, way, is_, was in off.facts
    )
    return Call(
        call_id,
        "piece",
        f"{off.name}: {facts}. Is the outside held, or what lies between?",
        options,
        "outside" if off.less else "inside",
        "the parts are thinner: nothing gets tight, and lengths already marked stay good"
        if off.less
        else "the parts are thicker: holding the outside would squeeze what lies between",
        asked,
        differ="Hold the inside when something must fit between; the outside when the place is fixed.",
        parts=tuple(f"{prefix(piece.id)}{p}" for p in off.parts),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


def _is_cut(parts: tuple[Part, ...], pre: str, name: str) -> bool:
    """Whether a part is marked as cut: then its conflict says what differs."""
    return any(p.cut for p in parts if p.id == f"{pre}{name}")


def _misfit_call(
    piece: Designed, done: Worked, name: str, dimension: str, mm: float, room: float, choices: tuple[Choice, ...]
) -> Call:
    """A part that measures otherwise than what lies between its mates."""
    part = done.part(name)
    off = mm - room
    full = f"{prefix(piece.id)}{name}"

    def planned(project: Project) -> Project:
        kept = tuple(m for m in project.measured if (m.part, m.dimension) != (full, dimension))
        return project.model_copy(update={"measured": kept})

    options = (
        Option(
            "trim" if off > 0 else "again",
            f"bring it to {marked(room)}" if off > 0 else "make it again",
            (f"{marked(off)} comes off" if off > 0 else f"it is {marked(-off)} short",),
            planned,
        ),
        Option("keep", "leave it as it is", (f"it stands {marked(abs(off))} {'proud' if off > 0 else 'short'} there",)),
    )
    call_id = f"{prefix(piece.id)}fit {name} {dimension}"
    asked = f"{mm:.1f}, {room:.1f}"
    return Call(
        call_id,
        "piece",
        f"The {part.name} is {marked(mm)} {worked.SPOKEN[dimension]}; {marked(room)} lies between what it meets.",
        options,
        "trim" if off > 0 else "keep",
        "wood comes off and does not go on",
        asked,
        parts=(full,),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


def lost_call(piece: Designed, name: str, words: str, choices: tuple[Choice, ...]) -> Call:
    """An edit by hand that the piece has no place for now."""

    def without(project: Project) -> Project:
        kept = tuple(e for e in piece.edits if name not in (getattr(e, "id", ""), getattr(e, "owner", "")))
        return changed_piece(project, piece.model_copy(update={"edits": kept}))

    options = (
        Option("keep", "keep it in case it comes back", ("it is set aside until then",)),
        Option("drop", "let it go", ("what was written by hand there is given up",), without),
    )
    call_id = f"{prefix(piece.id)}lost {name}"
    return Call(
        call_id,
        "piece",
        words,
        options,
        "keep",
        "nothing that was written by hand is dropped unasked",
        words,
        taken=taken(call_id, options, words, choices),
    )


def _gone(
    marks: list[Measured | CutMark], of_part: Mapping[str, Made], made: list[Made], choices: tuple[Choice, ...]
) -> list[Call]:
    """What is measured or cut of parts that no designed piece has now: kept, and told once for each part."""
    whole = {m.id for m in made if not m.problem and m.worked is not None}
    ids = tuple(m.id for m in made)
    names = dict.fromkeys(m.part for m in marks if m.part not in of_part)
    found = []
    for name in names:
        mine = owner(name, ids)
        local = name.removeprefix(prefix(mine))
        if mine not in whole or local in ("opening", "box"):
            continue
        options = (
            Option("keep", "keep it in case the part comes back", ("it changes nothing until then",)),
            Option("drop", "let it go", (f"what was measured and cut of {local} is given up",), _without(name)),
        )
        call_id, asked = f"gone {name}", name
        found.append(
            Call(
                call_id,
                "piece",
                f"{local} was measured or cut, and is no part of the plan now.",
                options,
                "keep",
                "what the wood said is not thrown away unasked",
                asked,
                taken=taken(call_id, options, asked, choices),
            )
        )
    return found


def _without(name: str) -> Change:
    def change(project: Project) -> Project:
        return project.model_copy(
            update={
                "measured": tuple(m for m in project.measured if m.part != name),
                "cut": tuple(m for m in project.cut if m.part != name),
            }
        )

    return change


def changed_piece(project: Project, piece: Piece | Designed) -> Project:
    """The project with the piece of that id replaced."""
    return project.model_copy(update={"pieces": tuple(piece if p.id == piece.id else p for p in project.pieces)})


def put(piece_id: str, values: tuple[tuple[str, str, float | str | bool], ...]) -> Change:
    """The change that writes figures by hand in a designed piece: (owner, what, value) each; of a part that was added by hand its own
    sizes are changed."""

    def change(project: Project) -> Project:
        piece = next((p for p in project.pieces if p.id == piece_id), None)
        if not isinstance(piece, Designed):
            return project
        edits = list(piece.edits)
        for name, what, value in values:
            at = next(
                (i for i, e in enumerate(edits) if isinstance(e, AddPart) and e.id == name and what in _WORDS), None
            )
            if at is not None:
                edits[at] = edits[at].model_copy(update={what: value})
                continue
            edits = [e for e in edits if not (isinstance(e, Put) and (e.owner, e.what) == (name, what))]
            edits.append(Put(owner=name, what=what, value=value))
        return changed_piece(project, piece.model_copy(update={"edits": tuple(edits)}))

    return change


def dropped(project: Project, piece_id: str, name: str) -> Project:
    """The project with a part or a joint taken away by hand: one that was added goes for good, one the kind foresees is set aside."""
    piece = next((p for p in project.pieces if p.id == piece_id), None)
    if not isinstance(piece, Designed):
        return project
    own = [e for e in piece.edits if getattr(e, "id", "") == name and not isinstance(e, Drop)]
    kept = tuple(e for e in piece.edits if e not in own)
    edits = kept if own else (*kept, Drop(id=name))
    return changed_piece(project, piece.model_copy(update={"edits": edits}))


def thinner(made: Made, parts: tuple[Part, ...], to: float) -> Change | None:
    """The change that makes these parts, and those like them, so thick; None where nothing sets it."""
    if isinstance(made.piece, Piece):
        local = parts[0].group.removeprefix(made.prefix) or parts[0].id.removeprefix(made.prefix)
        name = box_calls.THICKNESS_FIELD.get(local)
        return box_calls.changed(made.piece, {name: to}) if name else None
    group = parts[0].group
    alike = [p for p in made.parts if p in parts or (group and p.group == group)]
    return put(made.id, tuple((p.id.removeprefix(made.prefix), "thickness", to) for p in alike))


# ---- conflicts with what is cut


def without_mark(part: str) -> Change:
    """The change that takes a part's mark as cut away: it is to be made again, from other wood than it was laid on."""

    def change(project: Project) -> Project:
        update: dict[str, object] = {"cut": tuple(m for m in project.cut if m.part != part)}
        if project.layout is not None:
            boards = tuple(without_parts(b, _made_only(part, b)) for b in project.layout.boards)
            update["layout"] = project.layout.model_copy(update={"boards": boards})
            update["done"] = tuple(d for d in project.done if d not in (f"cut {part}", f"true {part}"))
        return project.model_copy(update=update)

    return change


def _made_only(part: str, board: BoardLayout) -> frozenset[str]:
    """What is laid on a board for a part and no other: the part in one piece, or staves of it."""
    laid = {n.part for n in leaves(board.root) if n.use == "part"}
    return frozenset(n for n in laid if part in parts_named(n) and "+" not in n.removeprefix(f"{part} "))


def _conflict(
    what: str, part: Part, name: str, follow: Callable[[list[int]], Change | None], choices: tuple[Choice, ...]
) -> Call | None:
    """A part cut to sizes that the plan no longer has.

    Args:
        what: the piece in a word; name: what the part is called; follow: the change that makes the plan follow in these dimensions.
    """
    off = [i for i in (0, 1, 2) if abs(part.sizes[i] - part.planned[i]) > SAME and _WORDS[i] not in part.measured]
    if not off:
        return None
    facts = ", ".join(f"{_WORDS[i]} {marked(part.sizes[i])} as cut, {marked(part.planned[i])} in the plan" for i in off)
    options = [
        Option(
            "recut",
            f"cut {name} again",
            (
                f"needs {marked(part.planned[0])} x {marked(part.planned[1])} of stock",
                "the first one goes to the offcuts",
            ),
            without_mark(part.id),
        ),
        Option("keep", f"keep {name} as it is", ("the plan for the others stays", f"{name} will not meet its mates")),
    ]
    change = follow(off)
    if change:
        options.insert(
            0,
            Option(
                "follow",
                f"the {what} follows {name}",
                tuple(
                    f"every {_WORDS[i]} like it goes to {marked(part.sizes[i])}" for i in off if 2 not in off or i == 2
                ),
                change,
            ),
        )
    if all(part.sizes[i] >= part.planned[i] - SAME for i in off):
        less = ", ".join(f"{marked(part.sizes[i] - part.planned[i])} off the {_WORDS[i]}" for i in off)
        options.insert(
            0,
            Option(
                "trim",
                f"trim {name}",
                (less, "its joints must not lie in what comes off"),
                _marked(part.id, part.planned),
            ),
        )
    asked = facts
    call_id = f"cut {part.id}"
    return Call(
        call_id,
        "piece",
        f"{name} is cut: {facts}.",
        tuple(options),
        options[0].id,
        "what is cut stays; no wood is lost" if options[0].id != "recut" else "nothing else makes it meet its mates",
        asked,
        parts=(part.id,),
        conflict=True,
        taken=taken(call_id, tuple(options), asked, choices),
        sets_outside=True,
    )


def _marked(part: str, sizes: tuple[float, float, float]) -> Change:
    def change(project: Project) -> Project:
        mark = CutMark(part=part, length=sizes[0], width=sizes[1], thickness=sizes[2])
        return project.model_copy(update={"cut": (*(m for m in project.cut if m.part != part), mark)})

    return change
