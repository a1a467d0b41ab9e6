"""An upper bound of what any layout could place: how much better is possible at all.

A linear programme (by HiGHS, through SciPy) over how many of each kind lie on each board, in part if need be. What holds of every
layout, whatever its cuts, once each part is taken with the kerf beyond it, for any set of kinds on a board: their area is no
more than that of the clear wood some of them can lie in; along no line do more of them lie than the shortest goes into the
clear stretches of the line, likewise across and the narrowest (bar relaxation, after Scheithauer 1999, from memory); and they are
no more in number than the smallest of them would be by any of these, rounded down. The sets are the kinds of no less than some
length and some width. Where that leaves room the bound is all that is asked for.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import chain, pairwise, product
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nullah.core.layout.clear import Box, union_area
from nullah.core.layout.encoding import Encoded
from nullah.core.values.frozen import frozen

SETS = 500  # of kinds, on all boards together, about: with more boards fewer are looked at on each
SLACK = 1e-6  # of the bound, for what the solver takes to be even


@frozen
class Bound:
    """``placed_area_share_at_most`` of the area asked for; ``by_species``: usable mm2 against asked mm2, kerfs counted."""

    placed_area_share_at_most: float
    by_species: tuple[tuple[str, float, float], ...]


def bound(encoded: Encoded) -> Bound:
    """The most of the area asked for that can have a place."""
    demand = encoded.demand
    if demand <= 0:
        return Bound(1.0, ())
    sides = encoded.case.sizes[:, :2] + encoded.case.kerfs
    boards = [_Wood(encoded, b, sides) for b in range(encoded.case.boards)]
    asked = encoded.counts * sides.prod(axis=1)
    told = []
    for name in sorted({k.species for k in encoded.kinds}):
        mine = np.array([k.species == name for k in encoded.kinds])
        room = sum(union_area(one.clear_of(mine)) for one in boards if encoded.stock[one.board].species == name)
        told.append((name, room, float(asked[mine].sum())))
    return Bound(min(1.0, _most(encoded, boards) / demand * (1 + SLACK)), tuple(told))


class _Wood:
    """Clear wood of a board's free pieces by kind, each box and each part with a kerf more along and across."""

    def __init__(self, encoded: Encoded, board: int, sides: NDArray[Any]) -> None:
        self.board, self.sides, case = board, sides, encoded.case
        pieces = case.opens[case.open_start[board] : case.open_start[board + 1]]
        self.boxes: list[list[Box]] = [[] for _ in self.sides]
        for of_class in range(case.zones.size):
            g = board * case.zones.size + of_class
            clears = case.clears[case.clear_start[g] : case.clear_start[g + 1]]
            low = np.maximum(clears[:, None, :2], pieces[None, :, :2]).reshape(-1, 2)
            high = np.minimum(clears[:, None, 2:], pieces[None, :, 2:]).reshape(-1, 2) + case.kerfs
            every = [(float(a), float(b), float(c), float(d)) for a, b, c, d in np.c_[low, high]]
            for t in np.flatnonzero((case.kind_class == of_class) & (case.allow[board] > 0)):
                fits = np.flatnonzero((high - low >= self.sides[t] - 1e-6).all(axis=1))
                self.boxes[t] = [every[i] for i in fits]
        self.reaching = np.array([bool(boxes) for boxes in self.boxes])

    def clear_of(self, kinds: NDArray[Any]) -> list[Box]:
        """Boxes that some of these kinds can lie in."""
        return list({box for t in np.flatnonzero(kinds) for box in self.boxes[t]})

    def sets(self, most: int) -> Iterator[NDArray[Any]]:
        """All kinds, and sets that may be short of room: those no shorter, or no narrower, than one of them, or both."""
        lengths, widths = (np.unique(self.sides[self.reaching, side])[::-1] for side in (0, 1))
        few = most // 2
        one_side = [(0.0, 0.0), *((v, 0.0) for v in lengths[:few]), *((0.0, v) for v in widths[:few])]
        met: set[bytes] = set()
        for least in chain(one_side, product(lengths, widths)):
            kinds = self.reaching & (self.sides >= least).all(axis=1)
            if kinds.any() and kinds.tobytes() not in met:
                met.add(kinds.tobytes())
                yield kinds
            if len(met) >= most:
                break

    def limits(self, kinds: NDArray[Any]) -> Iterator[tuple[NDArray[Any], float]]:
        """What holds of a set of kinds, as weights by kind and what their sum over parts is at the most."""
        boxes, least = self.clear_of(kinds), self.sides[kinds].min(axis=0)
        held = [
            (self.sides.prod(axis=1) * kinds, union_area(boxes)),
            (self.sides[:, 1] * kinds, _lines(boxes, float(least[0]))),
            (self.sides[:, 0] * kinds, _lines([(b, a, d, c) for a, b, c, d in boxes], float(least[1]))),
        ]
        yield from held
        yield kinds.astype(float), np.floor(min(limit / weights[kinds].min() for weights, limit in held) + 1e-6)


def _lines(boxes: Sequence[Box], least: float) -> float:
    """How much height of parts no shorter than ``least`` the boxes can hold: for each line along, how many go into its stretches."""
    room = 0.0
    for low, high in pairwise(sorted({y for b in boxes for y in (b[1], b[3])})):
        many, begin, end = 0, -1.0, -1.0
        here = sorted((b[0], b[2]) for b in boxes if b[1] <= low and b[3] >= high)
        for a, c in [*here, (np.inf, np.inf)]:
            if a > end:
                many += int((end - begin + 1e-6) // least)
                begin = a
            end = max(end, c)
        room += many * (high - low)
    return room


def _most(encoded: Encoded, boards: Sequence[_Wood]) -> float:
    """The most area that the parts with a place can have, mm2."""
    from scipy.optimize import linprog
    from scipy.sparse import csr_array

    if not boards:
        return 0.0
    kinds, area = len(encoded.kinds), encoded.case.sizes[:, 2]
    entries, rows, columns = [], [], []
    tops: list[float] = []
    for one in boards:
        for chosen in one.sets(SETS // len(boards)) if one.reaching.any() else ():
            for weights, limit in one.limits(chosen):
                at = np.flatnonzero(weights)
                entries.append(weights[at])
                rows.append(np.full(at.size, len(tops)))
                columns.append(one.board * kinds + at)
                tops.append(limit)
    for t in range(kinds):  # no more than are asked for, on all boards together
        entries.append(np.ones(len(boards)))
        rows.append(np.full(len(boards), len(tops)))
        columns.append(np.arange(len(boards)) * kinds + t)
        tops.append(float(encoded.counts[t]))
    many = len(boards) * kinds
    matrix = csr_array((np.concatenate(entries), (np.concatenate(rows), np.concatenate(columns))), (len(tops), many))
    most = np.concatenate([encoded.counts * one.reaching for one in boards])
    cost = -np.tile(area, len(boards))
    found = linprog(cost, A_ub=matrix, b_ub=tops, bounds=np.c_[np.zeros(many), most], method="highs")
    return -float(found.fun) if found.status == 0 else encoded.demand
