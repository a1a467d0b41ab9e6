"""What full cuts can place at the most, proved where few parts lie on a board: the bench's bound, and sets that do not fit ruled out.

HiGHS says which parts should lie on which board; the exact search says whether they can be freed by full cuts; of what cannot be
the least set that cannot be either is forbidden, and HiGHS asked again (Benders 1962, with cuts that are plain prohibitions). What the
exact search does not decide soon is taken to fit. The search is the planner's own, held against brute force in the tests.
"""

from __future__ import annotations

import time

import numpy as np
import relaxed

from nullah.core.layout.compiled.exact import fits
from nullah.core.layout.compiled.sets import KINDS, empty_known, wood_of
from nullah.core.layout.encoding import encode
from nullah.core.layout.model import Options

PATIENCE = 20_000_000  # ways of parting looked at for one question


class Judge:
    """Says which sets, as counts by kind of the programme, fit each board: True, False, or None where undecided."""

    def __init__(self, stock, blanks, programme, kerf):
        encoded = encode(stock, blanks, Options(kerf, kerf))
        self.case, many = encoded.case, len(encoded.kinds)
        kinds = np.array([[(k.length, k.width) for k in encoded.kinds].index(s) for s in programme.sizes])
        self.known = [empty_known(1 << 19, many) for _ in stock]
        self.woods = [wood_of(self.case, b, kinds, many, known.hashes) for b, known in enumerate(self.known)]
        self.told = [{} for _ in stock]

    def fits(self, board, count):
        """What is told of the set, or of one that is less or more than it; else what the exact search finds."""
        told = self.told[board]
        if count not in told:
            for other, yes in told.items():
                less = all(a <= b for a, b in zip(other, count, strict=True))
                if (less and yes is False) or (yes and all(a >= b for a, b in zip(other, count, strict=True))):
                    told[count] = yes
                    break
            else:
                told[count] = self._search(board, count)
        return told[count]

    def _search(self, board, count):
        if len(count) > KINDS:
            return None
        piece = self.case.opens[self.case.open_start[board]]
        yes, looked = fits(self.woods[board], piece, np.array(count), self.known[board], PATIENCE)
        return True if yes else (None if looked >= PATIENCE else False)

    def least_unfit(self, board, count, areas):
        """A set that does not fit, every one less than it does or is undecided."""
        for j in np.argsort(areas):
            while count[j]:
                fewer = (*count[:j], count[j] - 1, *count[j + 1 :])
                if self.fits(board, fewer) is not False:
                    break
                count = fewer
        return count


def share_at_most(stock, blanks, kerf=1.5, seconds=120.0, found=0.0):
    """The most of the area asked for that full cuts could place; ends when it comes to what was ``found``, or after so long."""
    programme = relaxed.Programme(stock, blanks, kerf)
    judge = Judge(stock, blanks, programme, kerf)
    areas = [long * w for long, w in programme.sizes]
    most, began = 1.0, time.perf_counter()
    while (gone := time.perf_counter() - began) < seconds and most > found + 1e-4:
        x, proved = programme.solve(seconds - gone)
        most = min(most, proved)
        if x is None:
            break
        unfit = []
        for i in range(len(stock)):
            count = tuple(
                round(sum(x[programme.lies[i, j, c]] for c in range(1, asked + 1)))
                for j, asked in enumerate(programme.asked)
            )
            if judge.fits(i, count) is False:
                unfit.append((i, judge.least_unfit(i, count, areas)))
        for i, count in unfit:
            entries = [(programme.lies[i, j, c], 1.0) for j, c in enumerate(count) if c]
            programme.row(entries, len(entries) - 1)
        if not unfit:
            break
    return most
