"""What lies between two marks of a story stick: where a part of the maker's own may stand, and follow."""

from __future__ import annotations

from itertools import combinations, pairwise

from nullah.core.document.pieces import BetweenMarks
from nullah.core.planning.plan import Plan
from nullah.core.values.frozen import frozen

MOST_MARKS = 14  # of a stick whose marks are all held against each other; of one with more the neighbours alone
LEAST = 3.0  # mm between two marks, for a part to lie there


@frozen
class MarkedSpan:
    """Two marks in words, what lies between them and where it begins along the piece, mm."""

    between: BetweenMarks
    words: str
    mm: float
    start: float


def of_piece(now: Plan, axis: int) -> tuple[MarkedSpan, ...]:
    """The spans along the x, y or z (0, 1, 2) of the piece in hand, the shortest first; none of a piece that has no story sticks of
    marks."""
    worked = now.piece.in_hand.worked
    if worked is None:
        return ()
    found = []
    for rod in worked.sizes.design.rods:
        if rod.axis != "xyz"[axis] or rod.frame:
            continue
        marks = worked.sizes.rods.marks(rod.id)
        names = [m.id for m in rod.marks]
        pairs = combinations(names, 2) if len(names) <= MOST_MARKS else pairwise(names)
        for a, b in pairs:
            if marks[b] - marks[a] >= LEAST:
                words = f"{rod.name.lower()}, {_spoken(a)} to {_spoken(b)}"
                found.append(MarkedSpan(BetweenMarks(rod=rod.id, start=a, end=b), words, marks[b] - marks[a], marks[a]))
    return tuple(sorted(found, key=lambda s: s.mm))


def _spoken(mark: str) -> str:
    return mark.replace("-", " ")
