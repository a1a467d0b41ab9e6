"""Fillings of single boards remembered and put together anew, and others sought that would make a better whole.

Each filling says how many parts of each kind lie on a board. A linear programme over all that are known, no more than one to a board
(Gilmore and Gomory 1961; by HiGHS, through SciPy), tells what one more part of each kind is worth; a search of each board alone for
what is worth most by those prices finds what the whole still lacks; annealing picks one filling for each board. This is done in a
thread beside the search and hands back what is better.
"""

from __future__ import annotations

from collections.abc import Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nullah.core.layout.encoding import BLOCK, SUMS, WASTE, Case, alone, no_records
from nullah.core.layout.model import EPS
from nullah.core.values.frozen import frozen

SOUGHT, AT_ONCE = 300, 8  # rounds of search for each board alone, and for how many boards in one go
LOOKS = 10  # how often in them its best is taken along
COOLING = (0.1, 0.005)  # of a mean part's area: heat at the start and at the end of it
KEPT = 3000  # fillings remembered, where it has come to be twice as many
FLIPS, MELTING = 1_000_000, (0.2, 0.01)  # of putting together, and its heat as a share of a mean part's area
CHEAPEST = 0.02  # of its area that a part is taken to be worth at the least
FOLLOWED = 0.6  # how far prices follow the programme from one time to the next
STYLE = np.array([1.0, 0.0, 0.01, 0.0])


@frozen
class Filling:
    """One board filled: parts of each kind, rows of its record, and what is lost in scattered waste (on the scale of value)."""

    board: int
    count: tuple[int, ...]
    record: NDArray[np.float64]
    scattered: float


@frozen
class Look:
    """What was found, the fillings chosen from all, and those worth keeping."""

    found: list[Filling]
    chosen: list[Filling]
    kept: list[Filling]


class Fillings:
    """What is known of a case with ``counts`` of each kind asked for; all that is worked out is the same for the same calls."""

    def __init__(self, case: Case, counts: NDArray[np.int64], aim: NDArray[np.float64], seed: int, rows: int) -> None:
        self.case, self.counts, self.aim = case, counts, aim
        self.known: dict[tuple[int, tuple[int, ...]], Filling] = {}
        self.prices = case.sizes[:, 2].copy()
        self._seen: list[Any] = [None] * case.boards
        self._state = np.array([(seed * 0xD1342543DE82EF95 + 0x2545F4914F6CDD1D) % 2**64 or 1], dtype=np.uint64)
        self._rows, self._turn = rows, 0

    def note(self, now: tuple[Any, ...]) -> None:
        """Remember what lies on each board now."""
        records, rows, figures, _ = now
        for b in range(self.case.boards):
            key = (figures[b, 0], figures[b, 1], figures[b, 4])
            if self._seen[b] != key and figures[b, 0] > 0:
                self._seen[b] = key
                self.add([self._filling(b, records[b, : rows[b]])])

    def add(self, found: Iterable[Filling]) -> None:
        """Remember these; of those with the same parts the one with less scattered."""
        for one in found:
            old = self.known.get((one.board, one.count))
            if old is None or one.scattered < old.scattered:
                self.known[one.board, one.count] = one

    def _filling(self, board: int, record: NDArray[np.float64]) -> Filling:
        of = record[:, 0].astype(np.int64)
        parts = of >= 0
        kept = record.copy()
        kept[parts, SUMS] = self.case.sizes[of[parts], 2]  # it may have been found at other prices
        dead = float(kept[:, SUMS + 2].sum())
        count = tuple(int(n) for n in np.bincount(of[parts], minlength=self.counts.size))
        return Filling(board, count, kept, float(self.aim[1] * np.sqrt(max(0.0, dead) * self.case.mean_area)))

    def look(self, known: list[Filling]) -> Look:
        """Fillings that the whole lacks sought on some boards, at the prices of those known, and the best of all put together."""
        worth, short = self._relaxed(known)
        areas = self.case.sizes[:, 2]
        self.prices += FOLLOWED * (np.maximum(worth, CHEAPEST * areas) - self.prices)
        found = [one for b in self.next_boards() for one in self._sought(b)]
        chosen, _ = self.together(known + found)
        nearest = np.argsort(short, kind="stable")[:KEPT]
        return Look(found, chosen, [known[i] for i in sorted(nearest)])

    def next_boards(self) -> list[int]:
        """The boards whose turn it is."""
        many = self.case.boards
        these = [(self._turn + i) % many for i in range(min(many, AT_ONCE))]
        self._turn = (these[-1] + 1) % many
        return these

    def _sought(self, board: int) -> Iterable[Filling]:
        """What a search of one board alone finds to be worth most at the prices."""
        from nullah.core.layout.compiled.rounds import rounds as search

        case = alone(self.case, board, self.prices)
        now, best = (no_records(case, self._rows, self.counts) for _ in range(2))
        found = {}
        for i in range(LOOKS):
            heat = case.mean_area * COOLING[0] * (COOLING[1] / COOLING[0]) ** (i / LOOKS)
            search(case, now, best, self._state, SOUGHT // LOOKS, heat, self.aim, STYLE)
            one = self._filling(board, best[0][0, : best[1][0]])
            found[one.count] = one
        return found.values()

    def _programme(self, of: list[Filling]) -> tuple[Any, ...]:
        """Costs, rows, limits and tops: how far each filling is taken, then how many of each kind have a place by that."""
        from scipy.sparse import csr_array

        boards, kinds, many = self.case.boards, self.counts.size, len(of)
        held = np.array([one.count for one in of], dtype=float).reshape(many, kinds)
        which, kind = np.nonzero(held)
        rows = np.r_[[one.board for one in of], boards + kind, boards + np.arange(kinds)]
        columns = np.r_[np.arange(many), which, many + np.arange(kinds)]
        entries = np.r_[np.ones(many), -held[which, kind], np.ones(kinds)]
        matrix = csr_array((entries, (rows, columns)), shape=(boards + kinds, many + kinds))
        cost = np.r_[[one.scattered for one in of], -self.aim[0] * self.case.sizes[:, 2]]
        return cost, matrix, np.r_[np.ones(boards), np.zeros(kinds)], np.r_[np.ones(many), self.counts]

    def _relaxed(self, of: list[Filling]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Where fillings may be taken in part: what one more part of each kind is worth, and what each filling falls short by."""
        from scipy.optimize import linprog

        cost, matrix, limits, tops = self._programme(of)
        found = linprog(cost, A_ub=matrix, b_ub=limits, bounds=np.c_[np.zeros(tops.size), tops], method="highs")
        if found.status != 0:
            return self.case.sizes[:, 2], np.zeros(len(of))
        duals = -found.ineqlin.marginals
        short = cost[: len(of)] - (matrix.T @ found.ineqlin.marginals)[: len(of)]
        return duals[self.case.boards :], short

    def together(self, known: list[Filling]) -> tuple[list[Filling], float]:
        """One filling for each board at the most that together are worth about the most there is, and what that is."""
        from nullah.core.layout.compiled.together import pick

        known = sorted(known, key=lambda one: one.board)
        start = np.searchsorted([one.board for one in known], np.arange(self.case.boards + 1))
        count = np.array([one.count for one in known], dtype=np.int64).reshape(len(known), self.counts.size)
        scattered = np.array([one.scattered for one in known])
        areas, heats = self.aim[0] * self.case.sizes[:, 2], self.case.mean_area * np.array(MELTING)
        chosen, value = pick(count, start, scattered, areas, self.counts, FLIPS, heats, self._state)
        return [known[i] for i in chosen if i >= 0], float(value)

    def keep(self, those: list[Filling]) -> None:
        """Forget all fillings but those, where there are too many."""
        if len(self.known) > 2 * KEPT:
            self.known = {(one.board, one.count): one for one in those}


def laid(
    case: Case, aim: NDArray[np.float64], rows: int, counts: NDArray[np.int64], chosen: list[Filling]
) -> tuple[Any, ...]:
    """Records of these fillings on their boards, with nothing on the others; a part too many leaves its place free."""
    from nullah.core.layout.compiled.records import note

    made = no_records(case, rows, counts)
    records, used, figures, left = made
    for one in chosen:
        n, b = 0, one.board
        for row in one.record:
            kind = int(row[0])
            records[b, n] = row
            n += 1
            if kind >= 0 and left[kind] > 0:
                left[kind] -= 1
            elif kind >= 0:
                n = _left_free(records[b], n - 1)
        used[b] = n
        note(case, aim, b, records[b], n, figures[b])
    return made


def _left_free(record: NDArray[np.float64], i: int) -> int:
    """Turn the part of row i into a place that is freed and stays empty. Returns the rows now."""
    _, x, y, length, width = record[i, :5]
    area, piece = record[i, SUMS], record[i, 5:9]
    if length < piece[2] - piece[0] - EPS or width < piece[3] - piece[1] - EPS:
        record[i, 0], record[i, SUMS] = BLOCK, 0.0
        i += 1
        record[i] = 0.0
        record[i, 5:9] = x, y, x + length, y + width
        record[i, 1:5] = x, y, length, width
    record[i, 0], record[i, SUMS] = WASTE, 0.0
    record[i, SUMS + 1] += area
    record[i, SUMS + 2] += area
    return i + 1


class Beside:
    """One job at a time in a thread beside the search.

    Its result is taken as soon as it is there, or, where it ``waits``, after so many rounds, however fast the thread was.
    """

    def __init__(self, waits: bool) -> None:
        self.waits = waits
        self._threads: ThreadPoolExecutor | None = None
        self._job: Future[Any] | None = None
        self._due = 0

    def begin(self, job: Any, due: int) -> None:
        """Begin a job whose result is due at that round."""
        self._threads = self._threads or ThreadPoolExecutor(1)
        self._job, self._due = self._threads.submit(job), due

    @property
    def idle(self) -> bool:
        return self._job is None

    def result(self, rounds: int) -> Any:
        """What the job came to, where it is due; else None."""
        if self._job is None or (rounds < self._due if self.waits else not self._job.done()):
            return None
        job, self._job = self._job, None
        return job.result()

    def wait(self) -> None:
        """Until the job is done."""
        if self._job is not None:
            self._job.result()
            self._job = None
