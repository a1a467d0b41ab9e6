"""The most that fits, proved by a general solver: a constraint model of rectangles that do not overlap, full cuts not asked for.

Every layout of full cuts is one of these, so that what is proved here holds for it. Independent of the planner: positions are whole
half millimetres, a part takes its kerf along and across, and faults are boxes with the kerf taken off their near sides.
"""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

from ortools.sat.python import cp_model

SCALE = 2  # half millimetres


def share_at_most(stock, blanks, kerf=1.5, seconds=60.0):
    """The best share of the area found, and the share proved not to be passed; they are one where the optimum is proved.

    All blanks of one species and keeping clear of faults; sizes in whole half millimetres.
    """
    kinds = Counter((b.length, b.width) for b in blanks)
    sizes = sorted(kinds, key=lambda s: -s[0] * s[1])
    model, k = cp_model.CpModel(), round(kerf * SCALE)
    laid = {s: [] for s in sizes}
    for board in stock:
        _one_board(model, board, sizes, kinds, laid, k)
    for s in sizes:
        model.Add(sum(laid[s]) <= kinds[s])
    model.Maximize(sum(round(s[0] * s[1]) * sum(laid[s]) for s in sizes))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    solver.parameters.use_timetabling_in_no_overlap_2d = True
    solver.parameters.use_energetic_reasoning_in_no_overlap_2d = True
    solver.Solve(model)
    asked = sum(b.length * b.width for b in blanks)
    return solver.ObjectiveValue() / asked, min(1.0, solver.BestObjectiveBound() / asked)


def _one_board(model, board, sizes, kinds, laid, k):
    """The rectangles that may lie on one board; copies of a kind in order from the left."""
    long, wide = round(SCALE * board.length) + k, round(SCALE * board.width) + k
    along, across, lengths, widths = [], [], [], []
    for x0, y0, x1, y1 in _apart(board, k):
        along.append(model.NewFixedSizeIntervalVar(x0, x1 - x0, ""))
        across.append(model.NewFixedSizeIntervalVar(y0, y1 - y0, ""))
        lengths.append(x1 - x0)
        widths.append(y1 - y0)
    for s in sizes:
        length, width = round(SCALE * s[0]) + k, round(SCALE * s[1]) + k
        before = None
        for _ in range(min(kinds[s], (long // length) * (wide // width))):
            here, x = model.NewBoolVar(""), model.NewIntVar(0, long - length, "")
            y = model.NewIntVar(0, wide - width, "")
            along.append(model.NewOptionalFixedSizeIntervalVar(x, length, here, ""))
            across.append(model.NewOptionalFixedSizeIntervalVar(y, width, here, ""))
            lengths.append(length)
            widths.append(width)
            laid[s].append(here)
            if before is not None:
                model.AddImplication(here, before[0])
                model.Add(before[1] <= x).OnlyEnforceIf(here)
            before = (here, x)
    model.AddNoOverlap2D(along, across)
    model.AddCumulative(along, widths, wide)
    model.AddCumulative(across, lengths, long)


def _apart(board, k):
    """Faults as boxes that do not overlap, with the kerf taken off the near sides."""
    boxes = []
    for d in board.defects:
        box = (round(SCALE * d.x) + k, round(SCALE * d.y) + k)
        far = (round(SCALE * (d.x + d.length)), round(SCALE * (d.y + d.width)))
        if far[0] > box[0] and far[1] > box[1]:
            boxes.append((*box, *far))
    out = []
    for a, b in pairwise(sorted({v for q in boxes for v in (q[0], q[2])})):
        spans = []
        for low, high in sorted((q[1], q[3]) for q in boxes if q[0] < b and q[2] > a):
            if spans and low <= spans[-1][1]:
                spans[-1][1] = max(spans[-1][1], high)
            else:
                spans.append([low, high])
        out += [(a, low, b, high) for low, high in spans]
    return out
