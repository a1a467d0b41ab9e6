"""The wood as it will be when parts are made of it: boards too damp or too dry become calls, and each part has its own board's
moisture and rings."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.project import AcceptedLayout, Board, Choice, CutMark, Reference, Room
from nullah.core.layout.model import leaves
from nullah.core.stations.readiness import Readiness, readiness, reference_of
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import marked
from nullah.core.wood.moisture import change, equilibrium_moisture
from nullah.core.wood.rings import Wood
from nullah.core.wood.room import between, room_year
from nullah.core.wood.seasoned import Strip, WoodOfParts, days_to_wait, sooner
from nullah.core.wood.species import species

SHEETS = ("plywood", "fibreboard")  # stock that has no moisture to wait for and does not move in its plane
READY_WITHIN = 1.0  # points from what the room gives: ready (common practice)
WAIT_OVER = 2.0  # points over or under: wait (common practice)


def wood_of(board: Board) -> Wood:
    """What shows of a board."""
    heart = board.heart_side == "back"
    return Wood(board.species, board.ring_angle, heart, board.id, board.pith, board.pith_distance, board.rises)


@frozen
class AsMade:
    """The wood of each part, and the calls of boards that are not ready, by board, with the days each is to wait."""

    wood: WoodOfParts
    calls: dict[str, Call]
    days: dict[str, int]

    def waits(self, board: str) -> bool:
        """Whether what is sawn from a board waits before it is planed."""
        call = self.calls.get(board)
        return call is not None and call.in_force == "wait"


def year(room: Room) -> tuple[float, float]:
    """Moisture content wood settles at in the room's driest and wettest air, percent."""
    if room.months:
        of = room_year([(n, m.celsius, m.humidity) for n, m in enumerate(room.months, 1)])
        return of.driest, of.wettest
    dry = equilibrium_moisture(room.temperature, room.humidity_dry)
    return dry, equilibrium_moisture(room.temperature, room.humidity_wet)


def months(room: Room) -> tuple[tuple[float, float], ...]:
    """Temperature in deg C and relative humidity in percent of each month, January first; of a room whose months were not told as they
    go from its driest air to its wettest and back."""
    if room.months:
        return room.months_as_told
    return between(room.temperature, room.humidity_dry, room.humidity_wet)


def settles_at(room: Room) -> float:
    """What the room settles wood at, the middle of its year, percent, to the tenth that is told."""
    return round(sum(year(room)) / 2, 1)


def goal_of(board: Board, room: Room, references: tuple[Reference, ...]) -> float:
    """What a board settles at, percent: what a reference piece of its wood reads, where there is one, else what the room gives."""
    reference = reference_of(references, board.species)
    return settles_at(room) if reference is None else reference


def work(
    boards: tuple[Board, ...],
    room: Room,
    choices: tuple[Choice, ...],
    layout: AcceptedLayout | None,
    cut: tuple[CutMark, ...],
    references: tuple[Reference, ...] = (),
) -> AsMade:
    """The station. A board settles at what a reference piece of its wood reads, where there is one, else at what the room gives."""
    dry, wet = year(room)
    on_board = _laid(layout)
    sizes = {
        b.board: [(n.length, n.width) for n in leaves(b.root) if n.use == "part"]
        for b in (layout.boards if layout is not None else ())
    }
    done = {m.part for m in cut}
    calls: dict[str, Call] = {}
    days: dict[str, int] = {}
    strips: dict[str, Strip] = {}
    for b in boards:
        mine = [name for name, _ in on_board.get(b.id, [])]
        finished = b.sawn and all(done & parts_named(name) for name in mine)
        reference = reference_of(references, b.species)
        goal = goal_of(b, room, references)
        told = readiness(b, references)
        pieces = sizes.get(b.id, [])
        call = None if finished else _season_call(b, goal, told, reference is not None, pieces, choices)
        if call is not None:
            calls[b.id] = call
            days[b.id] = _wait(b, goal, told)
        at = goal if call is not None and call.in_force == "wait" else b.moisture
        strips[b.id] = Strip(1.0, at, b.ring_angle, b.stock in SHEETS)
    wood = WoodOfParts(dry, wet, _of_parts(on_board, strips), _of_species(boards, strips))
    return AsMade(wood, calls, days)


def parts_named(blank: str) -> set[str]:
    """Every part that a blank's name may stand for: ``lid``, ``lid 2``, ``1+2``, ``lid 1+2``."""
    stem, _, _ = blank.rpartition(" ")
    return {blank, *blank.split("+"), *({stem} if stem else ())}


def _laid(layout: AcceptedLayout | None) -> dict[str, list[tuple[str, float]]]:
    """The blanks laid on each board, with their widths."""
    if layout is None:
        return {}
    return {b.board: [(n.part, n.width) for n in leaves(b.root) if n.use == "part"] for b in layout.boards}


def _of_parts(on_board: dict[str, list[tuple[str, float]]], strips: dict[str, Strip]) -> dict[str, tuple[Strip, ...]]:
    found: dict[str, list[tuple[float, Strip]]] = {}
    for board, blanks in on_board.items():
        if board in strips:
            for name, width in blanks:
                for part in parts_named(name):
                    found.setdefault(part, []).append((width, strips[board]))
    out = {}
    for part, mine in found.items():
        whole = sum(width for width, _ in mine) or 1.0
        out[part] = tuple(replace(s, share=width / whole) for width, s in mine)
    return out


def _of_species(boards: tuple[Board, ...], strips: dict[str, Strip]) -> dict[str, tuple[Strip, ...]]:
    """All boards of a species alike, those still whole before those in pieces."""
    out: dict[str, tuple[Strip, ...]] = {}
    for name in {species(b.species).name for b in boards}:
        mine = [b for b in boards if species(b.species).name == name]
        mine = [b for b in mine if not b.sawn] or mine
        each = [strips[b.id] for b in mine]
        out[name] = tuple(replace(s, share=1 / len(each)) for s in each)
    return out


def _gain(board: Board, pieces: Sequence[tuple[float, float]], days: int) -> str:
    """What sawing in the rough first gains in days, by the largest of the pieces."""
    if pieces:
        largest = max(pieces, key=lambda p: p[0] * p[1])
        size = (board.length, board.width, board.thickness)
        gained = round(sooner(days, size, (*largest, board.thickness)))
        if gained >= 1:
            return f"sawn in the rough first, its pieces are ready about {gained} day{'s' if gained > 1 else ''} sooner"
    return "the rough parts settle a little faster than the board"


def _wait(board: Board, settles: float, told: Readiness | None) -> int:
    """Days a board is to wait: by its own readings where they tell a day, else as the trade has it."""
    if told is not None and told.days > 0:
        return told.days
    density = species(board.species).density
    size = (board.length, board.width)
    return days_to_wait(board.thickness, board.moisture - settles, density, size, board.ends == "sealed")


def _season_call(
    board: Board,
    settles: float,
    told: Readiness | None,
    beside: bool,
    pieces: Sequence[tuple[float, float]],
    choices: tuple[Choice, ...],
) -> Call | None:
    """A board that is not yet what the room will make of it: wait, or go on with what that brings. ``told``: what its readings say;
    ``beside``: whether a reference piece says where it settles; ``pieces``: length and width of what is sawn from it, mm."""
    over = board.moisture - settles
    if told is not None and told.state == "ready" and beside:
        return None
    if board.stock in SHEETS or abs(over) < READY_WITHIN - 1e-9:
        return None
    wood = species(board.species)
    moves = change(wood, board.width, board.moisture, settles, board.ring_angle)
    days = _wait(board, settles, told)
    by_readings = (told.words,) if told is not None and told.days > 0 else ()
    options = (
        Option(
            "wait",
            "rough-cut and wait",
            (
                f"stack it on stickers in the room, read it again in {days} days",
                *by_readings,
                _gain(board, pieces, days),
            ),
        ),
        Option(
            "go on",
            "go on now",
            (
                f"{marked(board.width, unit=' mm')} of it will {'shrink' if moves < 0 else 'grow'} "
                f"{marked(abs(moves))} after it is made",
            ),
        ),
    )
    asked = f"{board.moisture:.1f} %, {'reference' if beside else 'room'} {settles:.1f} %"
    call_id = f"damp {board.id}"
    way = "over" if over > 0 else "under"
    much = abs(over) >= WAIT_OVER - 1e-9
    return Call(
        call_id,
        "timber",
        f"{board.name} reads {board.moisture:.1f} %; {'its reference reads' if beside else 'the room will settle it near'} "
        f"{settles:.1f} %. Wait?",
        options,
        "wait" if much else "go on",
        f"{abs(over):.1f} points {way}; two or more means wait"
        if much
        else f"{abs(over):.1f} points {way}: ready is within about one, two or more means wait",
        asked,
        differ="Meters differ: compare with a piece that has always lived in the room.",
        taken=taken(call_id, options, asked, choices),
    )
