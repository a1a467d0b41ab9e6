"""The calls of True-up: saw before planing or not, which way and which faces, and what becomes of stock that is too thin."""

from __future__ import annotations

import math

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.names import call_of
from nullah.core.document.project import Choice
from nullah.core.joints.families import FAMILIES
from nullah.core.stations.made import PieceResult
from nullah.core.stations.piece_changes import thinner
from nullah.core.stations.trued import Trued
from nullah.core.values.measure import marked

KEEP = "keep"  # a hollow
WORKING = "working face"  # alone is made flat
WORTH_SAWING = 0.3  # mm gained in the thinnest part before sawing first is worth a word


def saw_call(board: Trued, parts: list[Trued], choices: tuple[Choice, ...]) -> Call | None:
    """Sawing to rough length first leaves each part less cup, bow and twist than the whole board has."""
    if not parts or not board.readings:
        return None
    thinnest = min(parts, key=lambda t: t.planing.thickest)
    gain = thinnest.planing.thickest - board.whole
    if gain < WORTH_SAWING:
        return None
    options = (
        Option(
            "saw",
            "saw first, then plane",
            (
                f"thinnest part {thinnest.id}: {marked(thinnest.planing.thickest)} left",
                f"about {sum(t.minutes for t in parts):.0f} min of planing, part by part; short ones are easier to plane flat",
            ),
        ),
        Option(
            "plane",
            "plane the board whole",
            (
                f"{marked(board.whole)} left everywhere",
                f"{marked(gain, unit=' mm')} more turned to shavings; about {board.minutes:.0f} min of planing, all at once",
            ),
        ),
    )
    asked = f"whole {board.whole:.1f}, sawn {thinnest.planing.thickest:.1f}"
    call_id = f"saw first {board.id}"
    return Call(
        call_id,
        "trueup",
        f"{board.name}: saw the parts before planing, or plane the board whole?",
        options,
        "saw",
        f"{marked(gain, unit=' mm')} more is left in the thinnest part",
        asked,
        parts=tuple(t.id for t in parts),
        board=board.id,
        taken=taken(call_id, options, asked, choices),
    )


def way_call(choices: tuple[Choice, ...]) -> Call:
    """Two main schools of taking down rough wood (common practice, no source)."""
    name, asked = "planing way", "rough wood"
    options = (
        Option(
            "turned",
            "at 45 degrees, one way and then the other",
            ("what one way leaves the other takes: errors cancel",),
        ),
        Option(
            "across",
            "straight across",
            ("short strokes, and the cambered iron tears least", "chamfer the far edge first, it breaks out"),
        ),
    )
    return Call(
        name,
        "trueup",
        "Which way is rough wood planed down?",
        options,
        "turned",
        "it is hard to plane a twist in",
        asked,
        differ="Both are main schools; the strokes along come last in either.",
        taken=taken(name, options, asked, choices),
        taste=True,
    )


def faces_calls(parts: tuple[Trued, ...], piece: PieceResult, choices: tuple[Choice, ...]) -> list[Call]:
    """Tops whose working face alone need be flat, as soon as one is read: what takes their thickness nowhere is held by screws."""
    read: dict[str, list[Trued]] = {}
    for t in parts:
        if t.readings and not t.measured and _held_by_screws(piece, t.part):
            read.setdefault(t.part, []).append(t)
    calls = []
    for part, those in read.items():
        name, asked = piece.called(part), "both faces"
        options = (
            Option(
                "both", "both faces, and to thickness", ("it moves evenly, and its edge is one thickness all round",)
            ),
            Option(
                WORKING,
                "the working face alone",
                (
                    "the underside stays as it comes, but where rails bear on it",
                    f"about {sum(t.minutes for t in those) / 2:.0f} min less of planing",
                ),
            ),
        )
        owner = piece.of_part[part].id
        call_id = call_of("faces", part, owner)
        calls.append(
            Call(
                call_id,
                "trueup",
                f"Are both faces of the {name} planed, or the working face alone?",
                options,
                "both",
                "what is planed on both faces alike stays flat",
                asked,
                differ="Of a bench or a work table many plane the upper face alone.",
                parts=tuple(t.id for t in those),
                taken=taken(call_id, options, asked, choices),
                taste=True,
                piece=owner,
            )
        )
    return calls


def _held_by_screws(piece: PieceResult, part: str) -> bool:
    """Whether a part lies face up, and no joint takes its thickness."""
    made = piece.of_part[part]
    name = part.removeprefix(made.prefix)
    if made.worked is None or made.worked.part(name).show_face != "upper":
        return False
    return all(
        FAMILIES[j.family].home in ("screwed", "")
        for j in made.worked.sizes.design.joints
        if name in (j.first, j.second)
    )


def thin_calls(parts: tuple[Trued, ...], piece: PieceResult, choices: tuple[Choice, ...]) -> list[Call]:
    """Parts whose place does not hold the thickness wanted, gathered by what sets that thickness."""
    by_id = {p.id: p for p in piece.parts}
    short: dict[str, list[Trued]] = {}
    for t in parts:
        part = by_id[t.part]
        if not t.planing.enough and "thickness" not in part.measured and not part.cut:
            short.setdefault(part.group or part.id, []).append(t)
    calls = []
    for group, those in short.items():
        thinnest = min(those, key=lambda t: t.planing.thickest)
        wanted = by_id[thinnest.part].thickness
        spare = thinnest.planing.wanted - thinnest.leaves * wanted  # what the resaw takes
        left = (thinnest.planing.thickest - spare) / thinnest.leaves
        to = math.floor(left * 10) / 10
        names = ", ".join(t.id for t in those)
        options = [
            Option(
                KEEP,
                "leave a hollow inside",
                (
                    f"{marked(wanted - left, unit=' mm')} low on the hidden face of {thinnest.id}",
                    "joints and show face stay right",
                ),
            )
        ]
        first = by_id[thinnest.part]
        owner = piece.of_part[first.id]
        change = thinner(owner, tuple(by_id[t.part] for t in those), to) if to > 0 else None
        if change is not None:
            words = group.removeprefix(owner.prefix)
            options.insert(
                0,
                Option(
                    "thinner",
                    f"make {words if not first.in_order else 'the walls'} {marked(to)}",
                    (f"from {marked(wanted)}; baselines, grooves and sizes follow",),
                    change,
                ),
            )
        asked = f"{names}: {left:.1f} of {wanted:.1f}"
        call_id = call_of("thin", group, owner.id)
        calls.append(
            Call(
                call_id,
                "trueup",
                f"{names}: {marked(left)} is left once flat, {marked(wanted)} is wanted.",
                tuple(options),
                options[0].id,
                "stop at what the wood has; the plan follows it",
                asked,
                differ="Stock that must show its thickness is replaced; elsewhere a hollow on a hidden face is let be.",
                parts=tuple(t.id for t in those),
                taken=taken(call_id, tuple(options), asked, choices),
                piece=owner.id,
            )
        )
    return calls
