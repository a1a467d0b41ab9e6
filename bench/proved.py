"""What full cuts can place at the most, proved: the bench's bound, and for each board which sets of its largest parts fit.

For each board the exact search lists every set of the largest kinds that full cuts can free, kind after kind while there is time; what
lies on a board of those kinds lies within one of the largest such sets, or a mixture of them where HiGHS relaxes (Dantzig and Wolfe
1960). Then HiGHS says which parts should lie on which board, the exact search whether all of them fit; of what does not the least set
that does not either is forbidden, and HiGHS asked again (Benders 1962, with cuts that are plain prohibitions). What the exact search
does not decide soon is taken to fit. The search is the planner's own, held against brute force in the tests.
"""

from __future__ import annotations

import time

import numpy as np
import relaxed

from nullah.core.layout.compiled.exact import NO, NOT_FOUND, YES, fits
from nullah.core.layout.compiled.sets import KINDS, empty_known, wood_of
from nullah.core.layout.encoding import encode
from nullah.core.layout.model import Options

PATIENCE, GLANCE = 20_000_000, 2_000_000  # ways of parting looked at for one question; for one of the many of a list
LISTED = 20_000  # sets of a board, at the most


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
                told[count] = self.search(board, count, PATIENCE)
        return told[count]

    def search(self, board, count, patience):
        """What the exact search finds."""
        if len(count) > KINDS:
            return None
        piece = self.case.opens[self.case.open_start[board]]
        answer, _ = fits(self.woods[board], piece, np.array(count), self.known[board], patience)
        return {YES: True, NO: False, NOT_FOUND: None}[answer]

    def least_unfit(self, board, count, areas):
        """A set that does not fit, every one less than it does or is undecided."""
        for j in np.argsort(areas):
            while count[j]:
                fewer = (*count[:j], count[j] - 1, *count[j + 1 :])
                if self.fits(board, fewer) is not False:
                    break
                count = fewer
        return count


def _less(count):
    """Sets with one part less."""
    return ((*count[:j], n - 1, *count[j + 1 :]) for j, n in enumerate(count) if n)


def largest_sets(judge, programme, board, seconds):
    """The kinds listed, largest parts first, and of the sets of them that fit a board those that no further part fits into."""
    kinds = sorted(range(len(programme.sizes)), key=lambda j: -programme.sizes[j][0] * programme.sizes[j][1])
    every, listed, until = {(0,) * len(kinds)}, [], time.perf_counter() + seconds
    for j in kinds:
        larger = set(every)
        for count in sorted(every):
            for n in range(1, programme.asked[j] + 1):
                more = (*count[:j], n, *count[j + 1 :])
                known = programme.top[programme.lies[board, j, n]] > 0 and all(one in larger for one in _less(more))
                if not known or judge.search(board, more, GLANCE) is False:
                    break
                larger.add(more)
            if len(larger) > LISTED or time.perf_counter() > until:
                return listed, _largest(every, listed)
        every = larger
        listed.append(j)
    return listed, _largest(every, listed)


def _largest(every, listed):
    """Those sets that are not within another with one part more."""
    return [s for s in every if not any((*s[:j], s[j] + 1, *s[j + 1 :]) in every for j in listed)]


def _mix_of_sets(programme, board, listed, sets):
    """Of the kinds listed no more lies on a board than in a mixture of the sets."""
    columns = [programme.column(0.0, 1.0) for _ in sets]
    programme.row([(q, 1.0) for q in columns], 1.0)
    for j in listed:
        entries = [(programme.lies[board, j, n], 1.0) for n in range(1, programme.asked[j] + 1)]
        programme.row(entries + [(q, -float(s[j])) for q, s in zip(columns, sets, strict=True) if s[j]], 0.0)


def share_at_most(stock, blanks, kerf=1.5, seconds=120.0, found=0.0, listing=0.0):
    """The most of the area asked for that full cuts could place.

    Ends when it comes to what was ``found``, or after so long beyond ``listing`` seconds for the sets of each board.
    """
    programme = relaxed.Programme(stock, blanks, kerf)
    judge = Judge(stock, blanks, programme, kerf)
    areas = [long * w for long, w in programme.sizes]
    for b in range(len(stock) if listing else 0):
        _mix_of_sets(programme, b, *largest_sets(judge, programme, b, listing))
    most, began = programme.solve(seconds, whole=False)[1], time.perf_counter()
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
