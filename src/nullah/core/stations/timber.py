"""Timber: what is left of each board once its ends are read, and how each part moves in the year of its room."""

from __future__ import annotations

from nullah.core.calls import Call, Option, taken
from nullah.core.document import Allowances, Board, Choice, Defect
from nullah.core.frozen import frozen
from nullah.core.measure import at_least, marked
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import AsMade
from nullah.core.stations.made import PieceResult
from nullah.core.wood.seasoned import WoodOfParts

RUNS_ON = 25.0  # mm a check or split runs further than it shows (common practice, no source)
AT_END = 8.0  # mm: a check that begins nearer than this to an end is an end check
ROUGH_EDGE = 3.0  # mm taken off a rough edge before anything is laid there


@frozen
class Span:
    """What is left of a board: x0..x1 along, y0..y1 across, mm."""

    x0: float
    x1: float
    y0: float
    y1: float


@frozen
class Movement:
    """A part's width across the year: mm from how it is made (``now`` percent) to the driest and to the wettest air;
    ``ring_angle``: the mean of its boards'."""

    part: str
    width: float
    now: float
    to_dry: float
    to_wet: float
    ring_angle: float


@frozen
class TimberResult:
    """Spans by board id, movement by part, the moistures of the room's year, calls."""

    spans: dict[str, Span]
    movement: tuple[Movement, ...]
    dry: float
    wet: float
    calls: tuple[Call, ...]


def work(
    boards: tuple[Board, ...],
    choices: tuple[Choice, ...],
    piece: PieceResult,
    as_made: AsMade,
    allowances: Allowances,
    kerf: float,
) -> TimberResult:
    """The station. End checks become calls; the spans follow the options in force. Boards that are not ready have theirs."""
    calls: list[Call] = []
    spans: dict[str, Span] = {}
    for board in boards:
        if board.id in as_made.calls:
            calls.append(as_made.calls[board.id])
        if board.sawn:
            spans[board.id] = Span(0.0, board.length, 0.0, board.width)
            continue
        wanted = _in_sequence(piece, board.species, allowances, kerf)
        ends = [(fault, end) for fault in board.defects if (end := _end_of(fault, board))]
        lost = {"left": 0.0, "right": 0.0}
        for fault, end in ends:  # what the other end loses is known before an end is weighed
            lost[end] = max(lost[end], _lost(_end_call(board, fault, end, 0.0, wanted, choices), board, fault, end))
        cut = {"left": 0.0, "right": 0.0}
        for fault, end in ends:
            call = _end_call(board, fault, end, lost["right" if end == "left" else "left"], wanted, choices)
            calls.append(call)
            cut[end] = max(cut[end], _lost(call, board, fault, end))
        x0, x1 = min(cut["left"], board.length), max(board.length - cut["right"], 0.0)
        y0 = ROUGH_EDGE if board.straight_edge != "lower" else 0.0
        y1 = board.width - (ROUGH_EDGE if board.upper_edge != "sawn" else 0.0)
        spans[board.id] = Span(x0, max(x0, x1), y0, max(y0, y1))
    wood = as_made.wood
    return TimberResult(spans, _movements(piece.parts, wood), wood.dry, wood.wet, tuple(calls))


def _in_sequence(piece: PieceResult, species: str, allowances: Allowances, kerf: float) -> float:
    """What the four sides take in sequence from one length of that species, with what is left on and the kerfs between, mm; 0 where
    they are of another."""
    sides = [p for p in piece.parts if p.in_order and p.species == species and not p.cut]
    return sum(p.length + p.long_by + allowances.length for p in sides) + kerf * max(0, len(sides) - 1)


def _lost(call: Call, board: Board, fault: Defect, end: str) -> float:
    """How much of an end the option in force takes, mm."""
    seen = _reach(fault, board, end)
    return {"clean": seen + RUNS_ON, "seen": seen, "keep": 0.0}[call.in_force]


def _end_of(fault: Defect, board: Board) -> str:
    if fault.kind not in ("check", "split"):
        return ""
    if fault.x <= AT_END:
        return "left"
    return "right" if fault.x + fault.length >= board.length - AT_END else ""


def _reach(fault: Defect, board: Board, end: str) -> float:
    return fault.x + fault.length if end == "left" else board.length - fault.x


def _end_call(board: Board, fault: Defect, end: str, other: float, wanted: float, choices: tuple[Choice, ...]) -> Call:
    """How far to cut an end check back: soundness against length still needed.

    Args:
        other: what the other end loses, mm. wanted: what the sides would take of this board in sequence, mm; 0 where they would not
            lie on it.
    """
    seen = _reach(fault, board, end)
    whole = board.length - other

    def left(off: float) -> str:
        return f"{marked(off, unit=' mm')} lost, {marked(max(0.0, whole - off))} left"

    options = (
        Option(
            "clean", f"cut at {marked(seen + RUNS_ON)}", (left(seen + RUNS_ON), "past where a check runs on unseen")
        ),
        Option("seen", f"cut at {marked(seen)}", (left(seen), "may still show a hair line in the end")),
        Option("keep", "keep the end", (left(0), f"nothing is laid over the {fault.kind} itself")),
    )
    enough = at_least(whole - seen - RUNS_ON, wanted)
    asked = f"{fault.kind} {fault.id} reaches {seen:.0f} into {board.length:.0f}"
    call_id = f"end {board.id} {fault.id}"
    return Call(
        call_id,
        "timber",
        f"{board.name}, {end} end: the {fault.kind} shows for {marked(seen)}. Where is it cut back to?",
        options,
        "clean" if (enough if wanted else True) or whole > 2 * (seen + RUNS_ON) else "seen",
        f"checks run on about {marked(RUNS_ON)} further than they show"
        + (f", and {marked(whole - seen - RUNS_ON)} still holds the sides in sequence" if enough and wanted else ""),
        asked,
        differ="A small crack may be lived with where it is hidden.",
        taken=taken(call_id, options, asked, choices),
    )


def _movements(parts: tuple[Part, ...], wood: WoodOfParts) -> tuple[Movement, ...]:
    """Each part's movement across its width, from the boards it is made of."""
    found = []
    for p in parts:
        mine = wood.strips(p.id, p.species)
        now = sum(s.share * s.moisture for s in mine)
        angle = sum(s.share * s.ring_angle for s in mine)
        found.append(Movement(p.id, p.width, now, *wood.change(p.id, p.species, p.width), angle))
    return tuple(found)
