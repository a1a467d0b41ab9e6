"""Cuts that part a piece before anything is laid in it, and what a row notes of its sawing."""

from __future__ import annotations

from nullah.core.layout.compiled.pieces import EPS, compiled, draw, put
from nullah.core.layout.encoding import CUT, SUMS


@compiled
def note_sawing(record, n, kerf, sawn):
    """Put what was sawn for a row into its sums; the saw's count starts anew. Returns the area of its kerfs."""
    record[n, SUMS + 1], record[n, SUMS + 4], record[n, SUMS + 5] = kerf, sawn[0], sawn[1]
    sawn[0] = sawn[1] = 0.0
    return kerf


@compiled
def free_cut(case, board, piece, count, shelf, least, state):
    """A cut right through a piece where a chain of one to three parts would end, laid from either side of it or of what is clear.

    Returns 0 for across or 1 for along, or -1 where none was found; and where its near side is.
    """
    items, live, kerfs = shelf.items, shelf.live, case.kerfs
    axis = 0 if draw(state) < 0.5 else 1
    low, high = piece[axis], piece[2 + axis]
    near, far, fewest = low, high, 1
    if draw(state) < 0.4:
        g = board * case.zones.size + int(draw(state) * case.zones.size)
        first, last = case.clear_start[g], case.clear_start[g + 1]
        i = first + int(draw(state) * (last - first))
        near, far, fewest = max(low, case.clears[i, axis]), min(high, case.clears[i, 2 + axis]), 0
    chain = 0.0
    for _ in range(fewest + int(draw(state) * 3)):
        i = int(draw(state) * count)
        if live[i]:
            chain += items[i, axis] + (kerfs[axis] if chain > 0 else 0.0)
    if draw(state) < 0.5:
        start = near + chain if chain > 0 else near - kerfs[axis]
    else:
        start = far - chain - kerfs[axis] if chain > 0 else far
    if start < low + least[axis] - EPS or start + kerfs[axis] > high - least[axis] + EPS:
        return -1, 0.0
    return axis, start


@compiled
def part(record, n, piece, axis, low, kerfs, stack, sawn, top):
    """Record a cut right through a piece; its two sides go on the stack. Returns n, stack top, kerf."""
    a, b, c, d = piece
    put(record, n, CUT, low, 0, 0, 0, a, b, c, d, axis)
    line = d - b if axis == 0 else c - a
    sawn[axis] += line
    kerf = note_sawing(record, n, kerfs[axis] * line, sawn)
    for side in range(2):
        stack[top + side, 0], stack[top + side, 1], stack[top + side, 2], stack[top + side, 3] = a, b, c, d
    stack[top, 2 + axis] = low
    stack[top + 1, axis] = low + kerfs[axis]
    return n + 1, top + 2, kerf
