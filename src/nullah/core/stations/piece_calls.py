"""What designed pieces ask the maker, and what is asked of any part that is cut and no longer agrees with the plan."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.document.calls import Call, Change, Option, taken
from nullah.core.document.marks import Choice, CutMark, Measured
from nullah.core.document.names import bare, call_of, named
from nullah.core.document.pieces import OPENING, WHOLE, Designed
from nullah.core.document.project import Project
from nullah.core.pieces import worked
from nullah.core.pieces.look import DIMENSIONS
from nullah.core.pieces.part import Part
from nullah.core.pieces.worked import Off
from nullah.core.stations.made import Made
from nullah.core.stations.piece_changes import marked_at, without_mark
from nullah.core.values.measure import SAME, marked


def hold_call(piece: Designed, off: Off, choices: tuple[Choice, ...]) -> Call:
    """Whether outside or inside stays along a rod, where its parts came out otherwise than planned."""
    options = tuple(
        Option(
            way,
            f"hold the {way}",
            (f"over all {marked(off.both[way][0])}, between them {marked(off.both[way][1])}",),
        )
        for way in ("outside", "inside")
    )
    call_id = named(f"hold {off.rod}", piece.id)
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
        parts=tuple(named(f"{p}", piece.id) for p in off.parts),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


def misfit_call(piece_id: str, part: Part, dimension: str, mm: float, room: float, choices: tuple[Choice, ...]) -> Call:
    """A part, by its piece's own name, that measures otherwise than what lies between its mates."""
    name, off = part.id, mm - room
    full = named(name, piece_id)

    def planned(project: Project) -> Project:
        marks = project.of_piece(piece_id).marks.measured
        return project.with_marks(
            piece_id, measured=tuple(m for m in marks if (m.part, m.dimension) != (name, dimension))
        )

    options = (
        Option(
            "trim" if off > 0 else "again",
            f"bring it to {marked(room)}" if off > 0 else "make it again",
            (f"{marked(off)} comes off" if off > 0 else f"it is {marked(-off)} short",),
            planned,
        ),
        Option("keep", "leave it as it is", (f"it stands {marked(abs(off))} {'proud' if off > 0 else 'short'} there",)),
    )
    call_id = named(f"fit {name} {dimension}", piece_id)
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
        return project.with_design(piece.model_copy(update={"edits": kept}))

    options = (
        Option("keep", "keep it in case it comes back", ("it is set aside until then",)),
        Option("drop", "let it go", ("what was written by hand there is given up",), without),
    )
    call_id = named(f"lost {name}", piece.id)
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


def gone_calls(marks: list[Measured | CutMark], made: Made, choices: tuple[Choice, ...]) -> list[Call]:
    """What is measured or cut of parts that a designed piece has no more: kept, and told once for each part.

    Args:
        marks: of the piece, by its own names.
    """
    if made.problem or made.worked is None:
        return []
    there = {bare(p.id, made.id) for p in made.parts}
    found = []
    for name in dict.fromkeys(m.part for m in marks):
        if name in there or name in (OPENING, WHOLE):
            continue
        options = (
            Option("keep", "keep it in case the part comes back", ("it changes nothing until then",)),
            Option("drop", "let it go", (f"what was measured and cut of {name} is given up",), _without(made.id, name)),
        )
        call_id, asked = named(f"gone {name}", made.id), named(name, made.id)
        found.append(
            Call(
                call_id,
                "piece",
                f"{name} was measured or cut, and is no part of the plan now.",
                options,
                "keep",
                "what the wood said is not thrown away unasked",
                asked,
                taken=taken(call_id, options, asked, choices),
                piece=made.id,
            )
        )
    return found


def _without(piece_id: str, name: str) -> Change:
    def change(project: Project) -> Project:
        marks = project.of_piece(piece_id).marks
        return project.with_marks(
            piece_id,
            measured=tuple(m for m in marks.measured if m.part != name),
            cut=tuple(m for m in marks.cut if m.part != name),
        )

    return change


def conflict(
    what: str, part: Part, name: str, follow: Callable[[list[int]], Change | None], choices: tuple[Choice, ...]
) -> Call | None:
    """A part cut to sizes that the plan no longer has.

    Args:
        what: the piece in a word; name: what the part is called; follow: the change that makes the plan follow in these dimensions.
    """
    off = [i for i in (0, 1, 2) if abs(part.sizes[i] - part.planned[i]) > SAME and DIMENSIONS[i] not in part.measured]
    if not off:
        return None
    facts = ", ".join(
        f"{DIMENSIONS[i]} {marked(part.sizes[i])} as cut, {marked(part.planned[i])} in the plan" for i in off
    )
    options = [
        Option(
            "recut",
            f"cut {name} again",
            (
                f"needs {marked(part.planned[0])} x {marked(part.planned[1])} of stock",
                "the first one goes to the offcuts",
            ),
            without_mark(part),
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
                    f"every {DIMENSIONS[i]} like it goes to {marked(part.sizes[i])}"
                    for i in off
                    if 2 not in off or i == 2
                ),
                change,
            ),
        )
    if all(part.sizes[i] >= part.planned[i] - SAME for i in off):
        less = ", ".join(f"{marked(part.sizes[i] - part.planned[i])} off the {DIMENSIONS[i]}" for i in off)
        options.insert(
            0,
            Option(
                "trim",
                f"trim {name}",
                (less, "its joints must not lie in what comes off"),
                marked_at(part, part.planned),
            ),
        )
    asked = facts
    call_id = call_of("cut", part.id, part.piece)
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
