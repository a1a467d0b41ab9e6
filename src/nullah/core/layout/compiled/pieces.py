"""Pieces of a board while it is filled: rectangles freed by full cuts, what is clear in them, and the record of both."""

from __future__ import annotations

import numpy as np
from numba import njit

from nullah.core.layout import merit
from nullah.core.layout.encoding import COLUMNS, SUMS

EPS = 1e-6
CLEARS = 64  # clear rectangles looked at in one piece, at the most

compiled = njit(cache=True, nogil=True, error_model="numpy", fastmath={"nsz", "contract", "arcp"})
compiled_inline = njit(cache=True, nogil=True, error_model="numpy", inline="always")
long_share = compiled(merit.long_share)


@compiled_inline
def draw(state):
    """The next number from 0 to 1 (xorshift64, Marsaglia 2003)."""
    x = state[0]
    x ^= x << np.uint64(13)
    x ^= x >> np.uint64(7)
    x ^= x << np.uint64(17)
    state[0] = x
    return float(x >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@compiled
def clear_area(faults, first, last, a, b, c, d):
    """Area of the rectangle (a, b)-(c, d) less what faults first..last take of it."""
    area = (c - a) * (d - b)
    for i in range(first, last):
        along = min(c, faults[i, 2]) - max(a, faults[i, 0])
        across = min(d, faults[i, 3]) - max(b, faults[i, 1])
        if along > 0 and across > 0:
            area -= along * across
    return area


@compiled
def in_joint_zone(knots, first, last, x, y, length, width, zone):
    """Whether a knot first..last lies within ``zone`` of either end of the rectangle."""
    if zone <= 0:
        return False
    z = min(zone, length / 2)
    for i in range(first, last):
        if knots[i, 1] + EPS < y + width and y + EPS < knots[i, 3]:
            if knots[i, 0] + EPS < x + z and x + EPS < knots[i, 2]:
                return True
            if knots[i, 0] + EPS < x + length and x + length - z + EPS < knots[i, 2]:
                return True
    return False


@compiled
def put(record, n, kind, x, y, length, width, a, b, c, d, order):
    """One row of a record, its sums nothing yet."""
    record[n, 0], record[n, 1], record[n, 2], record[n, 3], record[n, 4] = kind, x, y, length, width
    record[n, 5], record[n, 6], record[n, 7], record[n, 8], record[n, 9] = a, b, c, d, order
    for e in range(SUMS, COLUMNS):
        record[n, e] = 0.0


@compiled
def carve(stack, top, a, b, c, d, x, y, length, width, order, kerfs, sawn):
    """Free a rectangle out of the piece (a, b)-(c, d); what is beside it goes on the stack. Returns its new top, kerf area."""
    lost = 0.0
    for h in range(2):
        if (h == 0) == (order == 0):
            if x > a + EPS:
                stack[top, 0], stack[top, 1], stack[top, 2], stack[top, 3] = a, b, x - kerfs[0], d
                top += 1
                lost += kerfs[0] * (d - b)
                sawn[0] += d - b
                a = x
            if x + length < c - EPS:
                lost += min(kerfs[0], c - x - length) * (d - b)
                sawn[0] += d - b
                if c - x - length - kerfs[0] > EPS:
                    stack[top, 0], stack[top, 1], stack[top, 2], stack[top, 3] = x + length + kerfs[0], b, c, d
                    top += 1
                c = x + length
        else:
            if y > b + EPS:
                stack[top, 0], stack[top, 1], stack[top, 2], stack[top, 3] = a, b, c, y - kerfs[1]
                top += 1
                lost += kerfs[1] * (c - a)
                sawn[1] += c - a
                b = y
            if y + width < d - EPS:
                lost += min(kerfs[1], d - y - width) * (c - a)
                sawn[1] += c - a
                if d - y - width - kerfs[1] > EPS:
                    stack[top, 0], stack[top, 1], stack[top, 2], stack[top, 3] = a, y + width + kerfs[1], c, d
                    top += 1
                d = y + width
    return top, lost


@compiled
def start_of(at, low, kerf):
    """Where something begins that is to begin at ``at`` or beyond in a piece from ``low`` on: there, or a kerf in."""
    if at <= low:
        return low
    return max(at, low + kerf)


@compiled
def clears_in(clears, first, last, a, b, c, d, least, kerfs, out):
    """Clear rectangles first..last as far as they lie in the piece; a saw's width in from its near sides. Returns how many."""
    n = 0
    for m in range(first, last):
        p, q = start_of(clears[m, 0], a, kerfs[0]), start_of(clears[m, 1], b, kerfs[1])
        r, s = min(clears[m, 2], c), min(clears[m, 3], d)
        if r - p < least[0] - EPS or s - q < least[1] - EPS:
            continue
        out[n, 0], out[n, 1], out[n, 2], out[n, 3] = p, q, r, s
        n += 1
        if n == CLEARS:
            break
    return n
