"""The planner: a search that always has a layout to show, gets better while one waits, and says how much better is possible.

A ``Planner`` is stepped: ``advance`` does so many rounds at a heat that falls with the share of the work that is done. It
reads no clock; the same boards, blanks, options, seed and steps give the same layout. First everything is to find a place;
once all has, boards opened, sawing and what is left over are made better, and a place is never given up again.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from nullah.core.document import BoardLayout
from nullah.core.layout.bound import Bound, bound
from nullah.core.layout.encoding import COLUMNS, Encoded, decode, encode
from nullah.core.layout.model import Blank, Layout, Options, Stock
from nullah.core.layout.search import why_not

HEAT = (0.2, 0.02)  # of a mean part's area: at the start, and at the end
PLACING, SAVING = np.array([1.0, 0.4, 0.0]), np.array([10.0, 0.02, 1.0])  # weights of area, scattered waste, cost
NOISE, JOINED_WASTE, PEEL = 1.0, 0.01, 0.04
EXCHANGE_HEAT, AMONG = 0.1, 40  # of a mean part's area, for exchanges by exact search; less where there are more parts
EXCHANGED, FEW_EXCHANGED, FEW_PARTS = 0.3, 0.8, 150  # share of the work that goes into them; where there are so few parts
BEGUN = 0.05  # share of the work after which exchanges begin, and not before boards are no more filled to the last
LOOKS_A_ROUND = 200  # about how many ways of parting the exact search looks at in the time of a round
SLOTS = 1 << 18  # for what the exact search has found
STRAIGHT = {"crosscut": 0.35, "rip": -0.35}  # how the kind of cut that is to come first is leant to


@dataclass(frozen=True)
class Progress:
    """How far a search has come: share of the area asked for that has a place, parts without one, rounds done."""

    placed: float
    unplaced: int
    rounds: int


class Planner:
    """One search, stepped from outside.

    Args:
        stock: the boards. blanks: the parts in the rough. options: saws and preferences.
        seed: a search with another seed takes another way. begun: boards with parts that stay where they are.
    """

    def __init__(
        self,
        stock: Sequence[Stock],
        blanks: Sequence[Blank],
        options: Options,
        seed: int = 1,
        begun: Sequence[BoardLayout] = (),
    ) -> None:
        self.blanks = tuple(blanks)
        self.encoded: Encoded = encode(stock, blanks, options, begun)
        case = self.encoded.case
        self.state = np.array([(seed * 0x9E3779B97F4A7C15 + 0x2545F4914F6CDD1D) % 2**64 or 1], dtype=np.uint64)
        rows = _rows_needed(self.encoded)
        self.now: tuple[Any, ...] = _empty(case.boards, rows, self.encoded.counts)
        self.best: tuple[Any, ...] = _empty(case.boards, rows, self.encoded.counts)
        for _, _, figures, _ in (self.now, self.best):
            figures[:, 1] = case.capacity
        self.rounds = 0
        self.looks = (0, 0)  # for boards filled to the last, and how many were found
        self.saving = False
        self._turned_at = 0.0
        self._known: Any = None  # what the exact search has found
        self._owed = 0  # ways of parting that exchanges are still to look at
        self._weighed_for: Any = None  # the weights that the boards' values are of

    def advance(self, rounds: int, share: float) -> Progress:
        """Do so many rounds; ``share`` (0 to 1) of the whole work is done by now, which is how hot it still is."""
        from nullah.core.layout.compiled.records import weigh
        from nullah.core.layout.compiled.rounds import (
            rounds as search,  # the one late import: Numba takes half a second
        )

        if self.done:
            return self.progress
        if not self.saving and self.best[3].sum() == 0:
            self.saving, self._turned_at = True, share
            for ours, theirs in zip(self.now, self.best, strict=True):
                ours[:] = theirs
        began = self._turned_at if self.saving else 0.0
        part = min(1.0, max(0.0, (share - began) / max(1e-9, 1.0 - began)))
        heat = self.encoded.case.mean_area * HEAT[0] * (HEAT[1] / HEAT[0]) ** part
        aim = SAVING if self.saving else PLACING
        if aim is not self._weighed_for:
            self._weighed_for = aim
            for _, _, figures, _ in (self.now, self.best):
                weigh(self.encoded.case, figures, aim)
        lean = STRAIGHT[self.encoded.options.first] if self.saving else 0.0
        in_vain = self.looks[0] > 50 * (1 + self.looks[1])
        peel = 0.0 if self.saving else PEEL / (20.0 if in_vain else 1.0)
        style = np.array([NOISE, lean, JOINED_WASTE, peel])
        if not self.saving and share > BEGUN and in_vain:
            part_of = FEW_EXCHANGED if len(self.blanks) <= FEW_PARTS else EXCHANGED
            by_search = int(rounds * (1 - part_of)) + 1
            self._exchange((rounds - by_search) * LOOKS_A_ROUND, aim)
            self.rounds += rounds - by_search
            rounds = by_search
        done, tries, hits = search(self.encoded.case, self.now, self.best, self.state, rounds, heat, aim, style)
        self.rounds += int(done)
        self.looks = (self.looks[0] + int(tries), self.looks[1] + int(hits))
        return self.progress

    def _exchange(self, looks: int, aim: Any) -> None:
        """Exchange parts among pieces until so much was looked at; what one exchange looks at beyond is owed by the next."""
        from nullah.core.layout.compiled.exchange import exchanges
        from nullah.core.layout.compiled.sets import empty_known

        case = self.encoded.case
        if self._known is None:
            self._known = empty_known(SLOTS, len(self.encoded.kinds))
        self._owed += looks
        if self._owed > 0:
            heat = case.mean_area * EXCHANGE_HEAT * min(1.0, AMONG / len(self.blanks))
            beyond = exchanges(case, self.now, self.best, self.state, self._owed, heat, aim, self._known)
            self._owed = -int(beyond)

    @property
    def done(self) -> bool:
        """Whether nothing can be gained any more: there is nothing to lay, or no board to lay it on."""
        return self.encoded.counts.size == 0 or self.encoded.case.boards == 0

    @property
    def progress(self) -> Progress:
        """How far it has come."""
        demand = self.encoded.demand
        left = self.best[3]
        area = float((left * self.encoded.case.sizes[:, 2]).sum()) if left.size else 0.0
        return Progress(1.0 - area / demand if demand else 1.0, int(left.sum()), self.rounds)

    def layout(self) -> Layout:
        """The best layout so far."""
        boards, without = decode(self.encoded, self.best[0], self.best[1])
        reasons = tuple((b.id, why_not(self.encoded.stock, b)) for b in without)
        split = () if self.encoded.options.keep_groups else tuple(sorted({b.group for b in self.blanks if b.in_order}))
        return Layout(f"{self.encoded.options.first} first", boards, reasons, split)

    def bound(self) -> Bound:
        """How much could have a place at the most."""
        return bound(self.encoded)


def paced(rounds: int, took: float, turn: float) -> int:
    """How many rounds to ask for next, where so many took ``took`` seconds and a look at the clock is wanted each ``turn``."""
    return max(4, min(3 * rounds, int(rounds * turn / max(took, 1e-5))))


def _rows_needed(encoded: Encoded) -> int:
    """Rows of a record: six for each part that a board could hold at the most, since what is left beside it has rows too."""
    case = encoded.case
    if case.boards == 0 or case.sizes.size == 0:
        return 1
    least = float((case.sizes[:, 0] * case.sizes[:, 1]).min())
    return 6 * int(min(int(encoded.counts.sum()), case.capacity.max() / least)) + 48


def _empty(boards: int, rows: int, counts: Any) -> tuple[Any, ...]:
    return np.zeros((boards, rows, COLUMNS)), np.zeros(boards, np.int64), np.zeros((boards, 6)), counts.copy()
