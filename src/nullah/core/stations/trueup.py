"""True-up: the thickest flat board in each part's place, what comes off where, enough or not, and saw before planing or not."""

from __future__ import annotations

from nullah.core.document.calls import Call
from nullah.core.document.project import Board, Choice, Kit, Node, Plane, Planed, Project, Reading
from nullah.core.stations import trueup_calls
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.surfaces import Surfaces
from nullah.core.stations.trued import Trued
from nullah.core.surface.edges import edge_work
from nullah.core.surface.passes import TURNED, WAYS
from nullah.core.surface.planing import minutes, planing
from nullah.core.surface.readings import Surface, fit
from nullah.core.surface.rounds import Ways
from nullah.core.values.frozen import frozen, replace


@frozen
class TrueupResult:
    """Boards and parts to plane, calls."""

    boards: tuple[Trued, ...]
    parts: tuple[Trued, ...]
    face_plane: Plane
    calls: tuple[Call, ...]
    planed_whole: frozenset[str] = frozenset()  # boards that are planed before they are sawn

    def of(self, target: str) -> Trued | None:
        """The board or part of that id, or None."""
        return next((t for t in (*self.parts, *self.boards) if t.id == target), None)


def work(
    boards: tuple[Board, ...],
    readings: tuple[Reading, ...],
    planed: tuple[Planed, ...],
    kit: Kit,
    choices: tuple[Choice, ...],
    piece: PieceResult,
    breakdown: BreakdownResult,
    fitted: Surfaces,
) -> TrueupResult:
    """The station. A part read on its own goes by its own readings, else by its place on its board."""
    by_id = {b.id: b for b in boards}
    whole: list[Trued] = []
    needed: dict[str, float] = {}
    units = _units(piece, breakdown)
    for u in units:
        place = breakdown.place(u.id)
        if place is not None:
            needed[place[0]] = max(needed.get(place[0], 0.0), u.thickness)
    for b in boards:
        surface = fitted.of[b.id]
        mine = tuple(r for r in readings if r.target == b.id)
        plan = planing(surface, needed.get(b.id, 0.0), 0, 0, b.length, b.width)
        done = tuple(p for p in planed if p.target == b.id)
        new = Trued(b.id, b.name, b.id, b.length, b.width, surface, plan, mine, plan.thickest, planed=done)
        whole.append(_reckoned(new, kit))
    left = {t.id: t.whole for t in whole}
    parts = tuple(t for u in units if (t := _part(u, readings, planed, by_id, breakdown, fitted, left, kit)))
    calls: list[Call] = []
    first: dict[str, str] = {}
    for board in whole:
        call = trueup_calls.saw_call(board, [t for t in parts if t.board == board.id], choices)
        if call:
            calls.append(call)
            first[board.id] = call.in_force
    parts = tuple(_planed_whole(t) if first.get(t.board) == "plane" else t for t in parts)
    faces = trueup_calls.faces_calls(parts, piece, choices)
    calls += faces
    alone = {part for call in faces if call.in_force == trueup_calls.WORKING for part in call.parts}
    thin = trueup_calls.thin_calls(tuple(t for t in parts if t.id not in alone), piece, choices)
    kept = {part for call in thin if call.in_force == trueup_calls.KEEP for part in call.parts}
    parts = tuple(replace(t, hollow=True) if t.id in kept else t for t in parts)
    calls += thin
    plane = min(kit.planes, key=lambda p: abs(p.sole - 380))
    before = frozenset(b for b, way in first.items() if way == "plane")
    directions = TURNED
    if any(t.readings for t in (*whole, *parts)):
        way = trueup_calls.way_call(choices)
        calls.append(way)
        directions = WAYS[way.in_force]

    def as_planed(t: Trued) -> Trued:
        ways = Ways(directions, by_id[t.board].rises, t.id in alone)
        return replace(t, ways=ways, minutes=ways.share * t.minutes)

    return TrueupResult(tuple(map(as_planed, whole)), tuple(map(as_planed, parts)), plane, tuple(calls), before)


@frozen
class _Unit:
    """What is trued in one piece: a part, a stave of one, or a piece that is resawn into leaves."""

    id: str
    name: str
    part: str
    thickness: float
    leaves: int
    measured: bool = False  # the part's own thickness, of a part that is one piece
    secondary: bool = False  # its back is no show face


def _units(piece: PieceResult, breakdown: BreakdownResult) -> list[_Unit]:
    out: dict[str, _Unit] = {}
    thick = {b.id: b.thickness for b in breakdown.rough.blanks}
    for p in piece.parts:
        for name in breakdown.rough.of(p.id):
            leaves = breakdown.rough.leaves.get(name, 1)
            words = p.name if name == p.id else name
            said = "thickness" in p.measured and name == p.id
            secondary = p.role != "show" or p.show_face == "upper"
            out.setdefault(name, _Unit(name, words, p.id, thick.get(name, p.thickness), leaves, said, secondary))
    return list(out.values())


def _part(
    part: _Unit,
    readings: tuple[Reading, ...],
    planed: tuple[Planed, ...],
    boards: dict[str, Board],
    breakdown: BreakdownResult,
    fitted: Surfaces,
    left: dict[str, float],
    kit: Kit,
) -> Trued | None:
    place = breakdown.place(part.id)
    if place is None or place[0] not in boards:
        return None
    board_id, leaf = place
    mine = tuple(r for r in readings if r.target == part.id)
    surface, x, y = fitted.of[board_id], leaf.x, leaf.y
    done = tuple(p for p in planed if p.target == part.id)
    if mine or done:
        surface, x, y = _read_alone(surface, leaf, boards[board_id].thickness, mine, done), 0.0, 0.0
    elif surface.strays or surface.again:
        surface = replace(surface, strays=(), again=())  # which are readings of the board, and said there
    plan = planing(surface, part.thickness, x, y, leaf.length, leaf.width)
    if part.measured:  # the wood has said how thick it is: nothing more comes off
        plan = replace(plan, thickest=part.thickness)
    size = (leaf.length, leaf.width)
    found = Trued(part.id, part.name, board_id, *size, surface, plan, mine, left[board_id], part.part, part.leaves)
    return _reckoned(replace(found, measured=part.measured, planed=done, secondary=part.secondary), kit)


def read_anew(t: Trued, project: Project, fitted: Surfaces, breakdown: BreakdownResult) -> Trued:
    """One board or part as its readings now have it, apart from all others: while a reading is pulled."""
    mine = tuple(r for r in project.readings if r.target == t.id)
    surface, place = fitted.of[t.board], breakdown.place(t.id)
    if t.id != t.board and place is not None:
        thickness = next(b.thickness for b in project.boards if b.id == t.board)
        surface = _read_alone(surface, place[1], thickness, mine, t.planed)
    plan = planing(surface, t.planing.wanted, 0.0, 0.0, t.length, t.width)
    return _reckoned(replace(t, surface=surface, planing=plan, readings=mine), project.kit)


def _reckoned(t: Trued, kit: Kit) -> Trued:
    """With the minutes it takes, and what its edges do."""
    coarse = max(kit.planes, key=lambda p: p.shaving)
    p = t.planing
    mean = p.flat.mean + (max(p.spare, 0.0) if p.wanted > 0 else 0.0)
    time = minutes(mean, t.length, t.width, coarse.width, coarse.shaving)
    long = max(kit.planes, key=lambda one: one.sole)
    return replace(t, minutes=time, edges=edge_work(t.readings, long.shaving))


def _read_alone(
    board: Surface, leaf: Node, thickness: float, readings: tuple[Reading, ...], planed: tuple[Planed, ...]
) -> Surface:
    """A part by its own readings; its thickness where it lay on its board, as the caliper said there, unless it was read anew."""
    taper = board.taper(leaf.x, leaf.y, leaf.length, leaf.width)
    return fit(leaf.length, leaf.width, thickness, readings, planed, taper)


def _planed_whole(t: Trued) -> Trued:
    """A part whose board is planed before it is sawn has the whole board's thickness, unless read on its own since."""
    if t.readings or t.measured:
        return t
    p = t.planing
    return replace(t, planing=replace(p, thickest=t.whole))
