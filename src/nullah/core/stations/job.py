"""The whole job as the steps are made from it: what every part waits for until it has its thickness."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from nullah.core.document.project import Board
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import AsMade
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.step import Step
from nullah.core.stations.trueup import TrueupResult
from nullah.core.values.frozen import frozen

WOOD = "wood"  # the step that stands for wood which is not there yet


def has_wood(part: str) -> str:
    """What is recorded as done once wood for a part is said to be there though none is entered that holds it."""
    return f"{WOOD} {part}"


@frozen
class Job:
    """What the stations say, as far as steps are made from it."""

    boards: tuple[Board, ...]
    piece: PieceResult
    as_made: AsMade
    breakdown: BreakdownResult
    trueup: TrueupResult
    joints: JointsResult
    cuts: tuple[Step, ...]  # of the saw
    arranged: Mapping[str, str]  # how the staves of a panel lie, in words, by its part

    @cached_property
    def by_id(self) -> dict[str, Board]:
        """The boards by id."""
        return {b.id: b for b in self.boards}

    @cached_property
    def parts(self) -> dict[str, Part]:
        """The parts by id."""
        return {p.id: p for p in self.piece.parts}

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
        freed = self.breakdown.sawing.freed_by.get(blank, "")
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
