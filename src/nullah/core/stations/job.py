"""The whole job as the steps are made from it: what every part waits for until it has its thickness."""

from __future__ import annotations

from functools import cached_property

from nullah.core.document import Board, Node
from nullah.core.frozen import frozen
from nullah.core.layout.progress import cut_name, in_turn
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import AsMade
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.rates import saw_step
from nullah.core.stations.trueup import TrueupResult

WOOD = "wood"  # the step that stands for wood which is not there yet


@frozen
class Job:
    """What the stations say, as far as steps are made from it."""

    boards: tuple[Board, ...]
    piece: PieceResult
    as_made: AsMade
    breakdown: BreakdownResult
    trueup: TrueupResult
    joints: JointsResult

    @cached_property
    def by_id(self) -> dict[str, Board]:
        """The boards by id."""
        return {b.id: b for b in self.boards}

    @cached_property
    def parts(self) -> dict[str, Part]:
        """The parts by id."""
        return {p.id: p for p in self.piece.parts}

    @cached_property
    def _in_turn(self) -> list[tuple[str, Node, str]]:
        """Board, node and the cut that frees it, of every node of the layout."""
        layout = self.breakdown.layout
        return [(b.board, n, before) for b in (layout.boards if layout else ()) for n, before in in_turn(b)]

    @cached_property
    def after(self) -> dict[str, str]:
        """The saw step after which the piece of each cut is in hand, "" for a whole board; a cut through no wood is none, its piece
        was in hand before."""
        before = {cut_name(board, n): name for board, n, name in self._in_turn if n.use == "cut"}
        steps = {saw_step(c) for c in self.breakdown.cuts}
        out = {}
        for cut in before:
            name = before[cut]
            while name and name not in steps:
                name = before[name]
            out[cut] = name
        return out

    @cached_property
    def freed_by(self) -> dict[str, str]:
        """The saw step after which each blank is free; "" where the board is the blank."""
        steps = {saw_step(c) for c in self.breakdown.cuts}
        return {
            n.part: name if name in steps else self.after.get(name, "")
            for _, n, name in self._in_turn
            if n.use == "part"
        }

    @property
    def laid_on(self) -> tuple[str, ...]:
        """The boards that are here and have something laid on them."""
        layout = self.breakdown.layout
        return tuple(b.board for b in layout.boards if b.board in self.by_id) if layout else ()

    @cached_property
    def without_wood(self) -> tuple[str, ...]:
        """Parts that are neither cut nor laid on any board, and so wait for wood."""
        rough = self.breakdown.rough
        return tuple(
            p.id for p in self.piece.parts if not p.cut and not all(n in self.breakdown.places for n in rough.of(p.id))
        )

    def waits_for_wood(self, blank: str) -> tuple[str, ...]:
        """What a blank waits for before it is planed: the cut that frees it, and its damp wood to settle."""
        place = self.breakdown.places.get(blank)
        if place is None:
            return ()
        freed = self.freed_by.get(blank, "")
        waits = (freed,) if freed else ()
        if self.as_made.waits(place[0]):
            waits = (*waits, f"damp {place[0]}")
        return waits if waits or place[0] not in self.trueup.planed_whole else (f"plane {place[0]}",)

    @cached_property
    def trued(self) -> frozenset[str]:
        """The blanks that are trued."""
        return frozenset(t.id for t in self.trueup.parts)

    def to_thickness(self, part: str) -> tuple[str, ...]:
        """The steps that give a part its thickness: trued, or resawn, or glued up and levelled."""
        rough = self.breakdown.rough
        if part in self.without_wood:
            return (WOOD,)
        if part in rough.staves:
            return (f"level {part}",)
        blanks = rough.of(part)
        resawn = tuple(f"resaw {b}" for b in blanks if b in rough.leaves)
        return resawn or tuple(f"true {b}" for b in blanks if b in self.trued)
