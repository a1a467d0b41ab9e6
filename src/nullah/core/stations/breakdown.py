"""Break-down: blanks in the rough, the accepted layout held to account, the order of sawing, what is left over.

Searching is request -> result, outside the plan: ``Request`` is what goes out, ``offers`` what comes back;
``breakdown_calls`` turns them into a call. The plan checks an accepted layout and never re-shuffles it.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import field
from functools import cached_property
from types import MappingProxyType

from nullah.core.document.project import (
    AcceptedLayout,
    Board,
    BoardLayout,
    CutMark,
    Defect,
    Kit,
    Node,
    Reading,
    Weights,
)
from nullah.core.layout.check import problems
from nullah.core.layout.clear import Box
from nullah.core.layout.graft import grafted, only_parts
from nullah.core.layout.model import Blank, Layout, Options, Stock, cuts, leaves
from nullah.core.layout.move import NoPlace, moved
from nullah.core.layout.progress import Progress, cut_name, in_turn, pruned, sawn_so_far, without_parts
from nullah.core.layout.saw import HARDNESS, SawBoard, SawCut, SawRates, Totals, saw_plan, totals
from nullah.core.layout.search import search
from nullah.core.layout.taper import Outline
from nullah.core.layout.tidy import tidied
from nullah.core.stations.as_made import parts_named
from nullah.core.stations.made import PieceResult
from nullah.core.stations.rough import Rough, parts_of
from nullah.core.stations.surfaces import Surfaces
from nullah.core.stations.timber import Span, TimberResult
from nullah.core.surface.readings import Surface
from nullah.core.values.frozen import frozen, replace
from nullah.core.wood.species import species

COMMON = SawRates()
USUAL = Weights()
STAIR = 3.0  # mm: a tapering edge is followed in steps of this


@frozen
class Request:
    """All a search needs, and the fingerprint of what it was made from."""

    stock: tuple[Stock, ...]
    blanks: tuple[Blank, ...]
    options: Options
    fingerprint: str
    kept: tuple[BoardLayout, ...] = ()  # boards already sawn into: only their uncut leaves are laid out again
    begun: tuple[BoardLayout, ...] = ()  # boards with parts pinned where they lie


@frozen
class Sawing:
    """What sawing a layout comes to: the cuts in order, offcuts by board, sums."""

    cuts: tuple[SawCut, ...] = ()
    offcuts: tuple[tuple[str, Node], ...] = ()  # that are no boards of their own yet
    sums: Totals = field(default_factory=lambda: totals(()))
    boards: Mapping[str, SawBoard] = field(default_factory=dict)  # what sawing each board takes, by its id
    laid: tuple[BoardLayout, ...] = ()  # the layout

    @cached_property
    def _in_turn(self) -> list[tuple[str, Node, str]]:
        """Board, node and the cut that frees it, of every node of the layout."""
        return [(b.board, n, before) for b in self.laid for n, before in in_turn(b)]

    @cached_property
    def _names(self) -> frozenset[str]:
        """The names of the cuts that go through wood."""
        return frozenset(c.name for c in self.cuts)

    @cached_property
    def after(self) -> dict[str, str]:
        """The cut after which the piece of each cut is in hand, "" for a whole board; a cut through no wood is none, its piece was in
        hand before."""
        before = {cut_name(board, n): name for board, n, name in self._in_turn if n.use == "cut"}
        out = {}
        for cut in before:
            name = before[cut]
            while name and name not in self._names:
                name = before[name]
            out[cut] = name
        return out

    @cached_property
    def freed_by(self) -> dict[str, str]:
        """The cut after which each blank is free; "" where the board is the blank."""
        return {
            n.part: name if name in self._names else self.after.get(name, "")
            for _, n, name in self._in_turn
            if n.use == "part"
        }


@frozen
class BreakdownResult:
    """Blanks, the accepted layout and what is wrong with it, the saw order, leftovers, and the request for a search."""

    blanks: tuple[Blank, ...]
    layout: AcceptedLayout | None
    problems: tuple[str, ...]
    changed: bool
    sawing: Sawing
    request: Request
    stock: tuple[Stock, ...]
    options: Options
    held: frozenset[str] = frozenset()  # blanks pinned where they lie
    cut: frozenset[str] = frozenset()  # cut parts, and blanks that they come from
    rough: Rough = field(default_factory=Rough)
    rates: SawRates = COMMON
    sawn: tuple[BoardLayout, ...] = ()  # boards sawn as laid out: what came of them is known by these
    progress: Mapping[str, Progress] = field(default_factory=dict)  # how far each board is sawn
    freed: frozenset[str] = frozenset()  # blanks that are free of their boards, in the rough

    @property
    def needs_layout(self) -> bool:
        """Whether there is no layout, or it no longer serves."""
        return bool(self.blanks) and (self.layout is None or bool(self.problems))

    @property
    def cuts(self) -> tuple[SawCut, ...]:
        """The saw cuts in order."""
        return self.sawing.cuts

    @property
    def offcuts(self) -> tuple[tuple[str, Node], ...]:
        """What is left over and worth keeping, with its board."""
        return self.sawing.offcuts

    @cached_property
    def places(self) -> dict[str, tuple[str, Node]]:
        """The board and rectangle of each blank that is laid on one."""
        boards = self.layout.boards if self.layout else ()
        return {n.part: (b.board, n) for b in boards for n in leaves(b.root) if n.use == "part"}

    def place(self, name: str) -> tuple[str, Node] | None:
        """The board and rectangle a blank is laid on, or the first of a part's; or None."""
        return next((self.places[b] for b in (name, *self.rough.of(name)) if b in self.places), None)


def sawing_of(boards: tuple[Board, ...], layout: AcceptedLayout | None) -> Sawing:
    """The sawing of the accepted layout, as far as its boards are still here."""
    by_id = {b.id: b for b in boards}
    live = tuple(b for b in layout.boards if b.board in by_id) if layout else ()
    by_saw = {
        b.id: SawBoard(b.thickness, HARDNESS[species(b.species).ease], outline_of(b), planes=True) for b in boards
    }
    saw = saw_plan(live, by_saw)
    over = [(b.board, offcut_of(by_id[b.board], n)) for b in live if not by_id[b.board].sawn for n in leaves(b.root)]
    still = ((board, n) for board, n in over if n is not None and offcut_id(board, n) not in by_id)
    return Sawing(saw, tuple(still), totals(saw), by_saw, layout.boards if layout else ())


def progress_of(
    boards: tuple[Board, ...],
    layout: AcceptedLayout | None,
    sawing: Sawing,
    done: tuple[str, ...],
    cut: tuple[CutMark, ...],
) -> dict[str, Progress]:
    """How far each board of the accepted layout is sawn, by its id; ``done`` are names of steps, others than cuts aside."""
    if layout is None:
        return {}
    by_id = {b.id: b for b in boards}
    through = {c.name for c in sawing.cuts}
    parts, steps = {m.part for m in cut}, set(done)
    out = {}
    for b in layout.boards:
        if b.board in by_id:
            gone = {n.part for n in leaves(b.root) if n.use == "part" and parts & parts_named(n.part)}
            in_air = {cut_name(b.board, n) for n in cuts(b.root)} - through
            out[b.board] = sawn_so_far(b, steps, in_air, gone, by_id[b.board].sawn)
    return out


def offcut_id(board: str, node: Node) -> str:
    """What an offcut is called once it is a board of its own: where it lay tells it from the others."""
    return f"{board[:80]} offcut {node.x:.0f}-{node.y:.0f}"


def outline_of(board: Board) -> Outline:
    """The outline of a board as found."""
    return Outline(board.length, board.width, board.upper, board.lower)


def offcut_of(board: Board, leaf: Node) -> Node | None:
    """What an offcut comes to as wood: the box round it where a board tapers; None where a leaf is no offcut or none is left."""
    outline = outline_of(board)
    if leaf.use != "offcut" or outline.straight:
        return leaf if leaf.use == "offcut" else None
    box = outline.of_rectangle(leaf.x, leaf.y, leaf.length, leaf.width)
    if box is None or box[2] < min(leaf.length, USUAL.least_offcut):
        return None
    return leaf.model_copy(update=dict(zip(("x", "y", "length", "width"), box, strict=True)))


def work(
    boards: tuple[Board, ...],
    readings: tuple[Reading, ...],
    kit: Kit,
    layout: AcceptedLayout | None,
    piece: PieceResult,
    timber: TimberResult,
    rough: Rough,
    fitted: Surfaces,
    sawing: Sawing,
    pinned: tuple[str, ...] = (),
    whole: tuple[str, ...] = (),
    weights: Weights = USUAL,
    rates: SawRates = COMMON,
    progress: Mapping[str, Progress] = MappingProxyType({}),
) -> BreakdownResult:
    """The station: never searches, only checks."""
    sawn = frozenset(b.id for b in boards if b.sawn)
    of_sawn = tuple(b for b in layout.boards if b.board in sawn) if layout else ()
    freed = freed_of(progress)
    cut_parts = _cut_blanks(layout, piece) | freed
    blanks = tuple(b for b in rough.blanks if b.id not in cut_parts)  # one leaf cut, the piece it came of is sawn
    stock = tuple(_stock(b, timber.spans[b.id], fitted.of[b.id], timber.faults[b.id]) for b in boards if not b.sawn)
    plain = Options(
        kit.crosscut_kerf,
        kit.rip_kerf,
        keep_offcut=weights.least_offcut,
        crosscut_effort=Options.crosscut_effort * weights.sawing,
        rip_effort=Options.rip_effort * weights.sawing,
        opening=weights.opening / 100.0,
        kept=frozenset(whole),
    )
    options = replace(
        plain, crosscut_effort=plain.crosscut_effort * rates.across, rip_effort=plain.rip_effort * rates.along
    )
    held = frozenset(p for p in pinned if p not in cut_parts)
    decided = [f"{b.id} {timber.faults[b.id]}" for b in boards if timber.faults[b.id] != b.defects]
    fingerprint = _fingerprint("\n".join((fitted.digest(), *decided)), blanks, timber.spans, plain, held)
    here = tuple(b for b in layout.boards if b.board in timber.spans and b.board not in sawn) if layout else ()
    into = frozenset(b for b, p in progress.items() if not p.whole)
    kept = tuple(pruned(b, progress[b.board]) for b in here if b.board in into)
    begun = _begun([b for b in here if b.board not in into], held, stock)
    laid = {n.part for b in begun for n in leaves(b.root)}
    wanted = tuple(b for b in blanks if b.id not in laid)
    names = frozenset(b.id for b in boards)
    request = Request(_open_stock(stock, kept, cut_parts, names), wanted, options, fingerprint, kept, begun)
    # parts that are already cut or free are history and need no room
    accepted = tuple(without_parts(b, cut_parts) for b in layout.boards if b.board not in sawn) if layout else ()
    wrong = problems(accepted, stock, blanks) if layout else ()
    return BreakdownResult(
        blanks,
        layout,
        wrong,
        bool(layout and layout.fingerprint != fingerprint),
        sawing,
        request,
        stock,
        options,
        held,
        cut_parts,
        rough,
        rates,
        of_sawn,
        progress,
        freed,
    )


def freed_of(progress: Mapping[str, Progress]) -> frozenset[str]:
    """The blanks that are free of their boards."""
    return frozenset(n.part for p in progress.values() for n in p.free("part"))


def _cut_blanks(layout: AcceptedLayout | None, piece: PieceResult) -> frozenset[str]:
    """Cut parts, and what is laid out that they come from."""
    ids = {p.id for p in piece.parts}
    cut = frozenset(p.id for p in piece.parts if p.cut)
    laid = {n.part for b in layout.boards for n in leaves(b.root) if n.use == "part"} if layout else set()
    return cut | {name for name in laid if cut.intersection(parts_of(name, ids))}


def _begun(here: Iterable[BoardLayout], held: frozenset[str], stock: Iterable[Stock]) -> tuple[BoardLayout, ...]:
    """Boards with pinned parts, with nothing else on them."""
    by_id = {s.id: s for s in stock}
    return tuple(only_parts(b, held, by_id[b.board]) for b in here if any(n.part in held for n in leaves(b.root)))


@frozen
class LeftWhenFlat:
    """The thickest flat board inside a rectangle of a board, mm: what a search asks of wood that is read."""

    surface: Surface

    def __call__(self, x: float, y: float, length: float, width: float) -> float:
        return self.surface.slab(x, y, length, width).thickness - self.surface.careful


def _stock(board: Board, span: Span, surface: Surface, faults: tuple[Defect, ...]) -> Stock:
    return Stock(
        board.id,
        board.name,
        board.species,
        board.length,
        board.width,
        span.x0,
        span.x1,
        span.y0,
        span.y1,
        min(board.thickness, surface.thickness) if not any(surface.back.plane[1:]) else board.thickness,
        faults,
        LeftWhenFlat(surface),
        no_wood(board),
        HARDNESS[species(board.species).ease],
    )


def no_wood(board: Board) -> tuple[Box, ...]:
    """Boxes past the edges of a board that tapers or is wany, stepped so that all outside of them is wood."""
    return tuple(outline_of(board).boxes(STAIR))


def _fingerprint(
    timber: str, blanks: tuple[Blank, ...], spans: dict[str, Span], plain: Options, held: frozenset[str]
) -> str:
    seen = [timber, *sorted(held)]
    seen += [
        f"{b.id} {b.length:.0f} {b.width:.0f} {b.thickness:.0f} {b.species}" for b in blanks
    ]  # a shaving is no change
    seen += [f"{k} {s}" for k, s in sorted(spans.items())] + [
        str(replace(plain, kept=frozenset())),  # other rates are no reason to lay out again
        *sorted(plain.kept),
    ]
    return hashlib.sha256("\n".join(seen).encode()).hexdigest()[:16]


def _open_stock(
    stock: tuple[Stock, ...], kept: tuple[BoardLayout, ...], cut_parts: frozenset[str], boards: frozenset[str]
) -> tuple[Stock, ...]:
    """Whole boards, but of those already sawn into only the pieces that are left, each as stock of its own; not offcuts that are
    boards of their own."""
    sawn = {b.board: b for b in kept}
    out: list[Stock] = []
    for s in stock:
        if s.id not in sawn:
            out.append(s)
            continue
        for i, leaf in enumerate(leaves(sawn[s.id].root)):
            own = offcut_id(s.id, leaf) in boards
            if leaf.use != "waste" and leaf.part not in cut_parts and not own and min(leaf.length, leaf.width) > 0:
                out.append(
                    replace(s, id=f"{s.id}#{i}", x0=leaf.x, x1=leaf.x + leaf.length, y0=leaf.y, y1=leaf.y + leaf.width)
                )
    return tuple(out)


def offers(request: Request) -> tuple[Layout, ...]:
    """Search, away from the interface thread; layouts of whole boards, best first."""
    found = search(request.stock, request.blanks, request.options, request.begun)
    return tuple(grafted(one, request.kept) for one in found) if request.kept else found


def accept(layout: Layout, fingerprint: str, sawn: tuple[BoardLayout, ...] = ()) -> AcceptedLayout:
    """The layout as the project keeps it, with boards that are ``sawn`` already."""
    return AcceptedLayout(
        name=layout.name,
        boards=(*sawn, *(tidied(b) for b in layout.boards)),
        unplaced=tuple(p for p, _ in layout.unplaced),
        fingerprint=fingerprint,
    )


def move_part(result: BreakdownResult, part: str, board: str, place: tuple[float, float]) -> AcceptedLayout:
    """The accepted layout with a part moved by hand to ``place`` (its lower-left corner, mm) on a board.

    Raises:
        NoPlace: nothing is laid out, the part is cut, or it cannot lie there; one sentence that says why.
    """
    blanks = {b.id: b for b in result.blanks}
    if result.layout is None or part not in blanks:
        raise NoPlace(f"{part} is cut already; it stays where it was sawn.")
    boards = moved(
        result.layout.boards, blanks[part], board, place, result.stock, result.options, blanks, result.progress
    )
    return result.layout.model_copy(
        update={"name": "by hand", "boards": boards, "fingerprint": result.request.fingerprint}
    )
