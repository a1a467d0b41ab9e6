"""The rods of a design: how long the gaps between their marks are, once parts that are measured or written by hand tell of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from nullah.core.pieces.look import DIMENSIONS
from nullah.core.values.design import NoPiece, PartDesign, Rod, Sum
from nullah.core.values.measure import marked

LEAST = 0.5  # mm: nothing thinner is a part
LEAST_OFF = 1e-6  # mm


@dataclass
class Rods:
    """The rods of one set of sizes; worked out once, never changed.

    Attributes:
        of: by id.
        between: by rod, the parts that lie from mark to mark of it, and along which of their dimensions.
        known: by (part, dimension), what the wood says of it, else what was written by hand, mm.
        held: for a rod's id, whether its ``outside`` or its ``inside`` stays.
        total: a sum, mm.
        reach: how far joints reach beyond both ends of a part along a dimension, mm.
        as_planned: the same rods with nothing measured or cut.
    """

    of: Mapping[str, Rod]
    between: Mapping[str, Sequence[tuple[PartDesign, int]]]
    known: Mapping[tuple[str, str], float]
    held: Mapping[str, str]
    total: Callable[[Sum], float]
    reach: Callable[[PartDesign, int], float]
    as_planned: Callable[[], Rods]

    def __post_init__(self) -> None:
        self._gaps: dict[str, list[float]] = {}
        self._marks: dict[str, dict[str, float]] = {}

    def marks(self, rod_id: str) -> dict[str, float]:
        """Where a rod's marks lie in its frame, mm, in order.

        Raises:
            NoPiece: nothing is left of a gap that gives.
        """
        kept = self._marks.get(rod_id)
        if kept is None:
            rod = self.of[rod_id]
            at, kept = 0.0, {}
            for mark, gap in zip(rod.marks, self.gaps(rod), strict=True):
                if mark.gives and gap < LEAST:
                    words = mark.label or mark.id.replace("-", " ")
                    raise NoPiece(
                        f"{rod.name}: {marked(gap, unit=' mm')} is left {words}; make it larger, or what is on it smaller."
                    )
                at += gap
                kept[mark.id] = at
            self._marks[rod_id] = kept
        return kept

    def gaps(self, rod: Rod) -> list[float]:
        """The gaps of a rod, mm: stretches told by parts that are measured or written by hand, then what gives of the rest."""
        kept = self._gaps.get(rod.id)
        if kept is not None:
            return kept
        gaps, free = self._alone(rod)
        total = self._agreed(rod)
        if free and total is not None:
            left = total - sum(gaps[1:])  # the first only says where the rod begins
            shares = sum(rod.marks[i].gives for i in free)
            for i in free:
                gaps[i] += left * rod.marks[i].gives / shares
        elif total is not None and sum(gaps[1:]) - total > LEAST_OFF:
            giving = [i for i, m in enumerate(rod.marks) if m.gives] or [len(gaps) - 1]
            each = (total - sum(gaps[1:])) / len(giving)
            for i in giving:
                gaps[i] += each
        self._gaps[rod.id] = gaps
        return gaps

    def _agreed(self, rod: Rod) -> float | None:
        """How long a rod is: the shortest of what parts of it, and of those that are to be as long, tell or an inside that is held
        gives; else its own total."""
        said = []
        for one in (rod, *(self.of[r] for r in rod.same if r in self.of)):
            tells = any((p.id, DIMENSIONS[d]) in self.known for p, d in self.between.get(one.id, ()))
            if one is not rod and not tells and self.held.get(one.id) != "inside":
                continue
            gaps, free = self._alone(one)
            if not free:
                said.append(sum(gaps[1:]))
            elif one.hold and self.held.get(one.id) == "inside":
                at = [m.id for m in one.marks].index(one.hold)
                if at in free:
                    said.append(sum(gaps[1:]) + self.as_planned().gaps(one)[at] - sum(gaps[i] for i in free))
        if said:
            return min(said)
        return self.total(rod.total) if rod.total else None

    def _alone(self, rod: Rod) -> tuple[list[float], list[int]]:
        """The gaps of a rod as its own parts tell them, and which of them still give."""
        gaps = [self.total(m.gap) for m in rod.marks]
        told: set[int] = set()
        for low, high, wanted in self._told(rod):
            inside = [i for i in range(low + 1, high + 1) if i not in told]
            if not inside:
                continue
            giving = [i for i in inside if rod.marks[i].gives] or inside[-1:]
            left = wanted - sum(gaps[low + 1 : high + 1])
            shares = sum(rod.marks[i].gives or 1.0 for i in giving)
            for i in giving:
                gaps[i] += left * (rod.marks[i].gives or 1.0) / shares
            told |= set(inside)
        return gaps, [i for i, m in enumerate(rod.marks) if m.gives and i not in told]

    def _told(self, rod: Rod) -> list[tuple[int, int, float]]:
        """The stretches of a rod that parts tell by their own size, from mark to mark, the inner ones first: of two parts that tell
        one stretch the shorter holds, since wood comes off and does not go on. What is fitted last tells nothing, nor what is cut:
        where that differs from the plan is a conflict."""
        found: dict[tuple[int, int], float] = {}
        names = {m.id: i for i, m in enumerate(rod.marks)}
        for part, dimension in self.between.get(rod.id, ()):
            known = self.known.get((part.id, DIMENSIONS[dimension]))
            if known is None:
                continue
            lies = (part.along, part.across, part.through)[dimension]
            low, high = sorted((names[lies.a], names[lies.b]))
            wanted = max(0.0, known - self.reach(part, dimension) + self.total(lies.off) - self.total(lies.off_b))
            found[low, high] = min(found.get((low, high), wanted), wanted)
        return sorted(((a, b, mm) for (a, b), mm in found.items()), key=lambda s: (s[1] - s[0], s))
