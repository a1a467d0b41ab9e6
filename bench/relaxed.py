"""An upper bound of what fits, independent of the planner: an integer programme over how many of each kind lie on each board.

What holds of every layout, whatever its cuts, once each part is taken with the kerf beyond it: the board falls into slabs between
the ends of its faults, and across any one line of a slab lie parts that can be stacked there, each where it is clear for all
its length; how long each stack goes on is a variable, and so much of every kind must come out of the stacks as lies on the
board (bar relaxation, after Scheithauer 1999, from memory). On a board parts take no more area than is clear; those longer
than its m-th share lie at most m - 1 in a row; of those too wide to lie side by side, no more than fit in one row. Solved
by HiGHS through SciPy; its dual bound counts where time runs out.
"""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_matrix
from shapely.geometry import box
from shapely.ops import unary_union

STACKS = 40_000  # of one set of boards; past it only area counts on those that remain


def _in_one_row(board, length, width, kerf):
    """How many of one kind, too wide to lie over one another, lie along a board: leftmost first is best for one length."""
    count, x = 0, 0.0
    while True:
        starts = sorted({x, *(d.x + d.length for d in board.defects if d.x + d.length > x)})
        here = next(
            (a for a in starts if a + length <= board.length + 1e-9 and _clear_there(board, a, length, width)), None
        )
        if here is None:
            return count
        count, x = count + 1, here + length + kerf


def _clear_there(board, x, length, width):
    """Whether a strip ``width`` wide is clear from x on over ``length``, at some height."""
    met = sorted((d.y, d.y + d.width) for d in board.defects if d.x < x + length - 1e-9 and d.x + d.length > x + 1e-9)
    at = 0.0
    for low, high in met:
        if low - at >= width - 1e-9:
            return True
        at = max(at, high)
    return board.width - at >= width - 1e-9


def _grown(board, kerf):
    """Faults as boxes (x0, y0, x1, y1) that parts with the kerf beyond them keep clear of."""
    boxes = [(d.x + kerf, d.y + kerf, d.x + d.length, d.y + d.width) for d in board.defects]
    return [f for f in boxes if f[0] < f[2] and f[1] < f[3]]


def _clear_boxes(length, width, faults):
    """The largest clear rectangles: every stretch between two ends of faults, and in it every gap between those met.

    Found apart from the planner's own, which they are to check.
    """
    lows, highs = sorted({0.0, *(f[2] for f in faults)}), sorted({length, *(f[0] for f in faults)})
    found = []
    for a in lows:
        for c in highs:
            if c <= a:
                continue
            at = 0.0
            met = sorted((f[1], f[3]) for f in faults if f[0] < c and f[2] > a)
            for low, high in [*met, (width, width)]:
                if low > at:
                    found.append((a, at, c, low))
                at = max(at, high)
    return found


def _stacks(spans, wide, most):
    """The largest stacks, as counts by kind: ``spans`` by kind are the heights (low, high) it may lie between, ``wide`` its width.

    None where there are more than ``STACKS``.
    """
    lowest = {(0,) * len(wide): 0.0}
    waiting, full = list(lowest), []
    while waiting:
        larger = {}
        for stack in waiting:
            at, grew = lowest[stack], False
            for j, w in enumerate(wide):
                if stack[j] == most[j]:
                    continue
                top = min((max(at, low) + w for low, high in spans[j] if max(at, low) + w <= high + 1e-9), default=None)
                if top is None:
                    continue
                grew = True
                more = (*stack[:j], stack[j] + 1, *stack[j + 1 :])
                larger[more] = min(top, larger.get(more, np.inf))
            if not grew:
                full.append(stack)
        lowest = larger
        waiting = list(larger)
        if len(waiting) + len(full) > STACKS:
            return None
    return full


def _slabs(board, sizes, most, kerf):
    """Slabs of a board as (length, stacks in it)."""
    length, width, faults = board.length + kerf, board.width + kerf, _grown(board, kerf)
    clear = _clear_boxes(length, width, faults)
    ends = sorted({0.0, length, *(v for f in faults for v in (f[0], f[2]) if 0 < v < length)})
    wide = [w + kerf for _, w in sizes]
    for a, c in pairwise(ends):
        over = [r for r in clear if r[0] < c and r[2] > a]
        spans = [
            sorted({(r[1], r[3]) for r in over if r[2] - r[0] >= long + kerf - 1e-9 and r[3] - r[1] >= w + kerf - 1e-9})
            for long, w in sizes
        ]
        yield c - a, _stacks(spans, wide, most)


class Programme:
    """The integer programme of a case: ``lies[b, j, c]`` is the column that says at least c parts of kind j lie on board b.

    ``sizes``: (length, width) by kind, mm; ``asked``: how many of each; ``area``: of all asked for, mm2.
    """

    def __init__(self, stock, blanks, kerf):
        kinds = Counter((b.length, b.width) for b in blanks)
        self.sizes = sorted(kinds)
        self.asked = [kinds[s] for s in self.sizes]
        self.area = sum(b.length * b.width for b in blanks)
        self.cells, self.limits, self.cost, self.top = [], [], [], []
        self.lies = {}
        for i in range(len(stock)):
            for j, (long, w) in enumerate(self.sizes):
                for c in range(1, self.asked[j] + 1):
                    self.lies[i, j, c] = self.column(-long * w, 1.0)
                    if c > 1:
                        self.row([(self.lies[i, j, c], 1.0), (self.lies[i, j, c - 1], -1.0)], 0.0)
        for i, b in enumerate(stock):
            self._board(i, b, kerf)
        for j, most in enumerate(self.asked):
            self.row([(self.lies[i, j, c], 1.0) for i in range(len(stock)) for c in range(1, most + 1)], most)

    def column(self, cost, top):
        """A new variable from 0 to ``top``; returns its number."""
        self.cost.append(cost)
        self.top.append(top)
        return len(self.cost) - 1

    def row(self, entries, limit):
        """What holds: the sum of (column, weight) is no more than ``limit``."""
        self.cells.extend((len(self.limits), column, value) for column, value in entries)
        self.limits.append(limit)

    def _of(self, i, weight):
        """Entries of all parts on a board, each weighed by its size."""
        every = [(j, c) for j, most in enumerate(self.asked) for c in range(1, most + 1)]
        return [(self.lies[i, j, c], weight(*self.sizes[j])) for j, c in every]

    def _board(self, i, b, kerf):
        length, width = b.length + kerf, b.width + kerf
        lost = unary_union([box(*f) for f in _grown(b, kerf)]).intersection(box(0, 0, length, width)).area
        self.row(self._of(i, lambda long, w: (long + kerf) * (w + kerf)), length * width - lost)
        for j, (long, w) in enumerate(self.sizes):
            most = self.asked[j]
            if long > b.length or w > b.width:
                most = 0
            elif 2 * w + kerf > b.width:
                most = _in_one_row(b, long, w, kerf)
            for c in range(most + 1, self.asked[j] + 1):
                self.top[self.lies[i, j, c]] = 0.0
        for least in sorted({long for long, _ in self.sizes if long <= b.length}):
            over = int(length // (least + kerf))
            self.row(self._of(i, lambda long, w, least=least: (w + kerf) * (long >= least)), over * width)
        if len(self.cost) - len(self.lies) > STACKS:
            return
        out = [
            [(self.lies[i, j, c], long + kerf) for c in range(1, self.asked[j] + 1)]
            for j, (long, _) in enumerate(self.sizes)
        ]
        for slab, stacks in _slabs(b, self.sizes, self.asked, kerf):
            if stacks is None:
                return
            columns = [self.column(0.0, np.inf) for _ in stacks]
            self.row([(q, 1.0) for q in columns], slab)
            for q, stack in zip(columns, stacks, strict=True):
                for j, many in enumerate(stack):
                    if many:
                        out[j].append((q, -float(many)))
        for entries in out:
            self.row(entries, 0.0)

    def solve(self, seconds, whole=True):
        """What HiGHS finds, and the share of the area asked for that it proves to be the most."""
        r, c, v = zip(*self.cells, strict=True)
        rows = csr_matrix((v, (r, c)), (len(self.limits), len(self.cost)))
        found = milp(
            self.cost,
            constraints=LinearConstraint(rows, -np.inf, np.array(self.limits)),
            integrality=(np.arange(len(self.cost)) < len(self.lies)) * int(whole),
            bounds=Bounds(0, np.array(self.top)),
            options={"time_limit": seconds, "mip_rel_gap": 1e-4},
        )
        proved = found.mip_dual_bound if whole else found.fun if found.status == 0 else None
        return found.x, 1.0 if proved is None or not np.isfinite(proved) else min(1.0, -proved / self.area)


def share_at_most(stock, blanks, kerf=1.5, seconds=10.0):
    """The most of the area asked for that any layout could place, all blanks of one species and keeping clear of faults."""
    programme = Programme(stock, blanks, kerf)
    return min(programme.solve(seconds, whole)[1] for whole in (False, True))
