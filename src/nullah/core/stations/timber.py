"""Timber: what is left of each board once its ends are read, and how each part moves in the year of its room."""

from __future__ import annotations

from nullah.core.document.calls import Call
from nullah.core.document.project import AcceptedLayout, Allowances, Board, Choice, Defect, Reading
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import AsMade
from nullah.core.stations.fault_calls import faults_in_force
from nullah.core.stations.made import PieceResult
from nullah.core.stations.surfaces import Surfaces
from nullah.core.stations.timber_calls import end_call, end_of, face_call, laid_on, lost_by, thin_call
from nullah.core.values.frozen import frozen
from nullah.core.wood.seasoned import WoodOfParts

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
    """Spans and faults by board id, movement by part, the moistures of the room's year, calls."""

    spans: dict[str, Span]
    faults: dict[str, tuple[Defect, ...]]  # of each board, as the calls in force have them: what parts are laid round
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
    layout: AcceptedLayout | None,
    readings: tuple[Reading, ...],
    fitted: Surfaces,
) -> TimberResult:
    """The station. End checks, sapwood, grain that runs out and knots near under a face become calls; spans and faults follow the
    options in force. Boards that are not ready have theirs."""

    calls: list[Call] = []
    spans: dict[str, Span] = {}
    faults: dict[str, tuple[Defect, ...]] = {}
    on_board = laid_on(layout)
    for board in boards:
        if board.id in as_made.calls:
            calls.append(as_made.calls[board.id])
        faults[board.id] = board.defects
        if board.sawn:
            spans[board.id] = Span(0.0, board.length, 0.0, board.width)
            continue
        wanted = _in_sequence(piece, board.species, allowances, kerf)
        faults[board.id], more = faults_in_force(board, fitted.of[board.id], choices)
        calls += more
        face = face_call(board, any(r.target == board.id for r in readings), choices)
        thin = thin_call(board, piece.parts, readings, on_board.get(board.id, ()), choices)
        calls += [one for one in (face, thin) if one is not None]
        ends = [(fault, end) for fault in board.defects if (end := end_of(fault, board))]
        lost = {"left": 0.0, "right": 0.0}
        for fault, end in ends:  # what the other end loses is known before an end is weighed
            lost[end] = max(lost[end], lost_by(end_call(board, fault, end, 0.0, wanted, choices), board, fault, end))
        cut = {"left": 0.0, "right": 0.0}
        for fault, end in ends:
            other = lost["right" if end == "left" else "left"]
            call = end_call(board, fault, end, other, wanted, choices, on_board.get(board.id, ()), piece.called)
            calls.append(call)
            cut[end] = max(cut[end], lost_by(call, board, fault, end))
        x0, x1 = min(cut["left"], board.length), max(board.length - cut["right"], 0.0)
        y0 = ROUGH_EDGE if board.straight_edge != "lower" else 0.0
        y1 = board.width - (ROUGH_EDGE if board.upper_edge != "sawn" else 0.0)
        spans[board.id] = Span(x0, max(x0, x1), y0, max(y0, y1))
    wood = as_made.wood
    return TimberResult(spans, faults, _movements(piece.parts, wood), wood.dry, wood.wet, tuple(calls))


def _in_sequence(piece: PieceResult, species: str, allowances: Allowances, kerf: float) -> float:
    """What the four sides take in sequence from one length of that species, with what is left on and the kerfs between, mm; 0 where
    they are of another."""
    sides = [p for p in piece.parts if p.in_order and p.species == species and not p.cut]
    return sum(p.length + p.long_by + allowances.length for p in sides) + kerf * max(0, len(sides) - 1)


def _movements(parts: tuple[Part, ...], wood: WoodOfParts) -> tuple[Movement, ...]:
    """Each part's movement across its width, from the boards it is made of."""
    found = []
    for p in parts:
        mine = wood.strips(p.id, p.species)
        now = sum(s.share * s.moisture for s in mine)
        angle = sum(s.share * s.ring_angle for s in mine)
        found.append(Movement(p.id, p.width, now, *wood.change(p.id, p.species, p.width), angle))
    return tuple(found)
