"""An upper bound of what fits, independent of the planner: an integer programme over how many of each kind lie on each board.

What holds of every layout, whatever its cuts: on a board, parts with their kerfs take no more area than there is clear; those wider
than its m-th share of the width lie at most m - 1 over one another, along stretches that are clear so wide; likewise long ones.
Solved by HiGHS through SciPy; its dual bound counts where time runs out.
"""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from shapely.geometry import box
from shapely.ops import unary_union


def _clear_strips(board, width):
    """Length of the board along which some strip ``width`` wide and at least as long as anything is clear, mm."""
    xs = sorted(
        {0.0, board.length, *(d.x for d in board.defects), *(min(board.length, d.x + d.length) for d in board.defects)}
    )
    total = 0.0
    for a, b in pairwise(xs):
        met = sorted((d.y, d.y + d.width) for d in board.defects if d.x < b - 1e-9 and d.x + d.length > a + 1e-9)
        free, at = 0.0, 0.0
        for y0, y1 in met:
            free, at = max(free, y0 - at), max(at, y1)
        if max(free, board.width - at) >= width - 1e-9:
            total += b - a
    return total


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


def _clear_there_anywhere(board, length, width):
    starts = {0.0, *(d.x + d.length for d in board.defects)}
    return any(a + length <= board.length + 1e-9 and _clear_there(board, a, length, width) for a in starts)


def share_at_most(stock, blanks, kerf=1.5, seconds=10.0):
    """The most of the area asked for that any layout could place, all blanks of one species and keeping clear of faults."""
    kinds = Counter((b.length, b.width) for b in blanks)
    sizes = list(kinds)
    area = np.array([long * w for long, w in sizes])
    n, m = len(stock), len(sizes)
    rows, most = [], []

    def held(i, weights, limit):
        row = np.zeros(n * m)
        row[i * m : (i + 1) * m] = weights
        rows.append(row)
        most.append(limit)

    upper = np.array([[kinds[s] for s in sizes]] * n, dtype=float)
    for i, b in enumerate(stock):
        grown = [
            box(d.x + kerf, d.y + kerf, d.x + d.length, d.y + d.width)
            for d in b.defects
            if d.length > kerf and d.width > kerf
        ]
        lost = unary_union(grown).intersection(box(0, 0, b.length, b.width)).area if grown else 0.0
        held(i, [(long + kerf) * (w + kerf) for long, w in sizes], (b.length + kerf) * (b.width + kerf) - lost)
        for j, (long, w) in enumerate(sizes):
            if long > b.length or w > b.width or _clear_strips(b, w) < long:
                upper[i, j] = 0
            elif 2 * w + kerf > b.width:
                upper[i, j] = min(upper[i, j], _in_one_row(b, long, w, kerf))
            elif not _clear_there_anywhere(b, long, w):
                upper[i, j] = 0
        for least in sorted({w for _, w in sizes if w <= b.width}):
            over = int((b.width + kerf) // (least + kerf))
            clear = _clear_strips(b, least)
            held(
                i,
                [long + kerf if w >= least else 0 for long, w in sizes],
                over * (clear + kerf * (1 + 2 * len(b.defects))),
            )
        for least in sorted({long for long, _ in sizes if long <= b.length}):
            over = int((b.length + kerf) // (least + kerf))
            held(i, [w + kerf if long >= least else 0 for long, w in sizes], over * (b.width + kerf))
    for j, s in enumerate(sizes):
        row = np.zeros(n * m)
        row[j::m] = 1
        rows.append(row)
        most.append(kinds[s])
    found = milp(
        -np.tile(area, n),
        constraints=LinearConstraint(np.array(rows), -np.inf, np.array(most)),
        integrality=np.ones(n * m),
        bounds=Bounds(0, upper.ravel()),
        options={"time_limit": seconds, "mip_rel_gap": 1e-3},
    )
    bound = -found.mip_dual_bound if found.mip_dual_bound is not None else float(area @ [kinds[s] for s in sizes])
    return min(1.0, bound / float(sum(b.length * b.width for b in blanks)))
