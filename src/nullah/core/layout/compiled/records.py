"""Records of how boards are filled, row by row: what they come to, what of them is emptied, and what stays.

A board's figures are area of parts, dead ends, value, worth of offcuts, mm of crosscut and of rip; ``aim`` weighs area, scattered
waste and cost.
"""

from __future__ import annotations

import numpy as np

from nullah.core.layout.compiled.pieces import EPS, compiled, draw
from nullah.core.layout.encoding import SUMS, WASTE

WHOLE, WIDER = 0.15, 0.2  # how often a whole board is emptied; that the piece around the one drawn is taken instead
ENDLESS = 1e300


@compiled
def value_of(case, aim, board, figures):
    """What one board's filling is worth: area of parts, less scattered waste, sawing, and the board opened."""
    area, dead, worth, across, along = figures[0], figures[1], figures[3], figures[4], figures[5]
    total = aim[0] * area - aim[1] * np.sqrt(max(0.0, dead) * case.mean_area)
    if area == 0:
        return total + aim[2] * case.whole[board]
    return total + aim[2] * (worth - case.effort[board, 0] * across - case.effort[board, 1] * along)


@compiled
def note(case, aim, board, record, n, figures):
    """One board's figures, its value among them, from the sums of its rows."""
    figures[:] = 0.0
    for i in range(n):
        figures[0] += record[i, SUMS]
        figures[1] += record[i, SUMS + 2]
        figures[3] += record[i, SUMS + 3]
        figures[4] += record[i, SUMS + 4]
        figures[5] += record[i, SUMS + 5]
    figures[2] = value_of(case, aim, board, figures)


@compiled
def weigh(case, figures, aim):
    """The value of each board's filling anew, since the weights are others."""
    for b in range(case.boards):
        figures[b, 2] = value_of(case, aim, b, figures[b])


@compiled
def put_back(record, rows, left):
    """Put the parts of a record back among those left."""
    for i in range(rows):
        t = int(record[i, 0])
        if t >= 0:
            left[t] += 1


@compiled
def open_whole(case, board, room):
    """Lay the free pieces of a whole board on the stack. Returns how many."""
    top = 0
    for i in range(case.open_start[board], case.open_start[board + 1]):
        for e in range(4):
            room.stack[top, e] = case.opens[i, e]
        top += 1
    return top


@compiled
def around(record, n, i):
    """The row of the least piece that the piece of row i was freed from, or -1."""
    a, b, c, d = record[i, 5], record[i, 6], record[i, 7], record[i, 8]
    size, found, least = (c - a) * (d - b), -1, ENDLESS
    for j in range(n):
        if record[j, 5] < a + EPS and record[j, 6] < b + EPS and record[j, 7] > c - EPS and record[j, 8] > d - EPS:
            area = (record[j, 7] - record[j, 5]) * (record[j, 8] - record[j, 6])
            if area > size + 1.0 and area < least:
                found, least = j, area
    return found


@compiled
def some_piece(record, n, state):
    """A row whose piece is to be emptied: any that holds a part, or one it was freed from; -1 for the whole board."""
    if n == 0 or draw(state) < WHOLE:
        return -1
    i = int(draw(state) * n)
    if int(record[i, 0]) == WASTE:
        i = around(record, n, i)
    while i >= 0 and draw(state) < WIDER:
        i = around(record, n, i)
    return i


@compiled
def within(record, i, root):
    """Whether the piece of row i lies within that of row ``root``."""
    near = record[i, 5] > record[root, 5] - EPS and record[i, 6] > record[root, 6] - EPS
    return near and record[i, 7] < record[root, 7] + EPS and record[i, 8] < record[root, 8] + EPS


@compiled
def outside(record, n, root, kept, left):
    """Copy the rows outside the piece of row ``root`` to ``kept``, put the parts inside back among those left.

    Returns how many rows were kept, the area of parts in them, and the clear area inside.
    """
    k, area, spare = 0, 0.0, 0.0
    for i in range(n):
        if within(record, i, root):
            t = int(record[i, 0])
            if t >= 0:
                left[t] += 1
            spare += record[i, SUMS] + record[i, SUMS + 1]
        else:
            kept[k] = record[i]
            area += record[i, SUMS]
            k += 1
    return k, area, spare
