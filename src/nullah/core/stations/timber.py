"""Timber: what is left of each board once its ends are read, and how each part moves in the year of its room."""

from __future__ import annotations

from dataclasses import dataclass

from nullah.core.calls import Call, Option, taken
from nullah.core.document import Board, Choice, Defect, Room
from nullah.core.measure import marked
from nullah.core.pieces.part import Part
from nullah.core.stations.piece import PieceResult, year
from nullah.core.wood.moisture import change
from nullah.core.wood.species import species

RUNS_ON = 25.0  # mm a check or split runs further than it shows (common practice, no source)
AT_END = 8.0  # mm: a check that begins nearer than this to an end is an end check
ROUGH_EDGE = 3.0  # mm taken off a rough edge before anything is laid there
WAIT_OVER = 2.0  # points of moisture over what the room gives: wait (common practice)


@dataclass(frozen=True)
class Span:
    """What is left of a board: x0..x1 along, y0..y1 across, mm."""

    x0: float
    x1: float
    y0: float
    y1: float


@dataclass(frozen=True)
class Movement:
    """A part's width across the year: mm from today to the driest and to the wettest air; ``ring_angle`` assumed."""

    part: str
    width: float
    now: float
    to_dry: float
    to_wet: float
    ring_angle: float


@dataclass(frozen=True)
class TimberResult:
    """Spans by board id, movement by part, the moistures of the room's year, calls."""

    spans: dict[str, Span]
    movement: tuple[Movement, ...]
    dry: float
    wet: float
    calls: tuple[Call, ...]


def work(
    boards: tuple[Board, ...], room: Room, choices: tuple[Choice, ...], piece: PieceResult, split_sides: bool = False
) -> TimberResult:
    """The station. End checks and damp boards become calls; the spans follow the options in force."""
    dry, wet = year(room)
    sides = [p for p in piece.parts if p.group == "sides"]
    wanted = sum(p.length for p in sides) if not split_sides else max((p.length for p in sides), default=0.0)
    calls: list[Call] = []
    spans: dict[str, Span] = {}
    for board in boards:
        x0, x1 = 0.0, board.length
        if board.sawn:
            spans[board.id] = Span(x0, x1, 0.0, board.width)
            continue
        for fault in board.defects:
            end = _end_of(fault, board)
            if not end:
                continue
            call = _end_call(board, fault, end, wanted, choices)
            calls.append(call)
            off = {"clean": _reach(fault, board, end) + RUNS_ON, "seen": _reach(fault, board, end), "keep": 0.0}[
                call.in_force
            ]
            if end == "left":
                x0 = max(x0, min(off, board.length))
            else:
                x1 = min(x1, max(board.length - off, 0.0))
        y0 = ROUGH_EDGE if board.straight_edge != "lower" else 0.0
        y1 = board.width - (ROUGH_EDGE if board.upper_edge != "sawn" else 0.0)
        spans[board.id] = Span(x0, max(x0, x1), y0, max(y0, y1))
        damp = _damp_call(board, dry, wet, choices)
        if damp:
            calls.append(damp)
    return TimberResult(spans, _movements(piece.parts, boards, dry, wet), dry, wet, tuple(calls))


def _end_of(fault: Defect, board: Board) -> str:
    if fault.kind not in ("check", "split"):
        return ""
    if fault.x <= AT_END:
        return "left"
    return "right" if fault.x + fault.length >= board.length - AT_END else ""


def _reach(fault: Defect, board: Board, end: str) -> float:
    return fault.x + fault.length if end == "left" else board.length - fault.x


def _end_call(board: Board, fault: Defect, end: str, wanted: float, choices: tuple[Choice, ...]) -> Call:
    """How far to cut an end check back: soundness against length still needed."""
    seen = _reach(fault, board, end)

    def left(off: float) -> str:
        return f"{marked(off, 0, unit=' mm')} lost, {marked(board.length - off, 0)} left"

    options = (
        Option(
            "clean", f"cut at {marked(seen + RUNS_ON, 0)}", (left(seen + RUNS_ON), "past where a check runs on unseen")
        ),
        Option("seen", f"cut at {marked(seen, 0)}", (left(seen), "may still show a hair line in the end")),
        Option("keep", "keep the end", (left(0), f"nothing is laid over the {fault.kind} itself")),
    )
    enough = board.length - seen - RUNS_ON >= wanted
    asked = f"{fault.kind} {fault.id} reaches {seen:.0f} into {board.length:.0f}"
    call_id = f"end {board.id} {fault.id}"
    return Call(
        call_id,
        "timber",
        f"{board.name}, {end} end: the {fault.kind} shows for {marked(seen, 0)}. Where is it cut back to?",
        options,
        "clean" if enough or board.length > 2 * (seen + RUNS_ON) else "seen",
        f"checks run on about {marked(RUNS_ON, 0)} further than they show"
        + (f", and {marked(board.length - seen - RUNS_ON, 0)} still holds the four sides" if enough and wanted else ""),
        asked,
        differ="A small crack may be lived with where it is hidden.",
        taken=taken(call_id, options, asked, choices),
    )


def _damp_call(board: Board, dry: float, wet: float, choices: tuple[Choice, ...]) -> Call | None:
    """A board still damper than the room will ever let it stay."""
    settles = (dry + wet) / 2
    if board.moisture < settles + WAIT_OVER:
        return None
    wood = species(board.species)
    shrinks = -change(wood, board.width, board.moisture, settles, board.ring_angle)
    options = (
        Option(
            "wait",
            "rough-cut and wait",
            ("stack it on stickers in the room, read it again in a week", "the rough parts dry faster than the board"),
        ),
        Option(
            "go on",
            "go on now",
            (f"{marked(board.width, 0, unit=' mm')} of it will shrink {marked(shrinks)} after it is made",),
        ),
    )
    asked = f"{board.moisture:.1f} %, room {settles:.1f} %"
    call_id = f"damp {board.id}"
    return Call(
        call_id,
        "timber",
        f"{board.name} reads {board.moisture:.1f} %; the room will settle it near {settles:.1f} %. Wait?",
        options,
        "wait",
        f"{board.moisture - settles:.1f} points over; two or more means wait",
        asked,
        differ="Meters differ: compare with a piece that has always lived in the room.",
        taken=taken(call_id, options, asked, choices),
    )


def _movements(parts: tuple[Part, ...], boards: tuple[Board, ...], dry: float, wet: float) -> tuple[Movement, ...]:
    """Each part's movement across its width, by the mean moisture and ring angle of the boards of its species."""
    found = []
    typical = {name: _typical(name, boards, (dry + wet) / 2) for name in {p.species for p in parts}}
    for p in parts:
        now, angle = typical[p.species]
        wood = species(p.species)
        found.append(
            Movement(
                p.id,
                p.width,
                now,
                change(wood, p.width, now, dry, angle),
                change(wood, p.width, now, wet, angle),
                angle,
            )
        )
    return tuple(found)


def _typical(wood: str, boards: tuple[Board, ...], otherwise: float) -> tuple[float, float]:
    """Mean moisture in % and ring angle in degrees of the boards of a species; where there are none, as given and 0."""
    mine = [b for b in boards if b.species == wood]
    if not mine:
        return otherwise, 0.0
    return sum(b.moisture for b in mine) / len(mine), sum(b.ring_angle for b in mine) / len(mine)
