"""One board filled: into each piece goes the item of least waste for its size, with some chance."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from nullah.core.layout.compiled.items import BLOCKS, MEMBERS, available, share
from nullah.core.layout.compiled.parting import free_cut, note_sawing, part
from nullah.core.layout.compiled.pieces import (
    CLEARS,
    EPS,
    carve,
    clear_area,
    clears_in,
    compiled,
    draw,
    in_joint_zone,
    long_share,
    put,
    start_of,
)
from nullah.core.layout.encoding import BLOCK, CUT, SUMS, WASTE
from nullah.core.layout.model import LEAST_WIDTH

FITS = 6  # items, largest first, that are tried in a gap
PART_FILLED = 0.8  # what a gap is taken to hold where the best part leaves room for another


class Room(NamedTuple):
    """Working arrays, made once for many fillings.

    ``taste``: noise, weight of rips, power of area, how often a cut is made before anything is laid, how often the farther corner
    of what is clear is taken. ``stack``: pieces not yet filled; ``sawn``: mm of crosscut and of rip for the row in hand;
    ``least``: length and width below which nothing fits.
    """

    taste: np.ndarray
    stack: np.ndarray
    sawn: np.ndarray
    least: np.ndarray
    clears: np.ndarray
    how_many: np.ndarray
    fitting: np.ndarray
    spots: np.ndarray
    tasks: np.ndarray


@compiled
def empty_room(kinds, classes):
    """Working arrays for so many kinds of part and classes of what they forgive."""
    return Room(
        np.zeros(5),
        np.empty((2048, 4)),
        np.zeros(2),
        np.zeros(2),
        np.empty((classes, CLEARS, 4)),
        np.zeros(classes, np.int64),
        np.zeros(kinds + BLOCKS + 1, np.int64),
        np.zeros((CLEARS, 2)),
        np.empty((4 * MEMBERS, 8)),
    )


@compiled
def best_inside(length, width, beside, fitting, count, shelf, left, least, kerfs, across):
    """Area that the best single part takes of a gap next to item ``beside``; room left for another counts in part.

    ``fitting`` names the parts, largest first, that fit the piece at all.
    """
    items, members = shelf.items, shelf.members
    most = 0.0
    fits = 0
    for n in range(count):
        q = fitting[n]
        if items[q, 1] > width + EPS or items[q, 0] > length + EPS:
            continue
        t = members[q, 0]
        if left[t] < 2:
            taken = False
            for x in range(MEMBERS):
                taken = taken or members[beside, x] == t
            if taken:
                continue
        area = items[q, 2]
        if across:
            gap = width - items[q, 1] - kerfs[1]
            if gap > least[1]:
                area += gap * length * PART_FILLED
        else:
            gap = length - items[q, 0] - kerfs[0]
            if gap > least[0]:
                area += gap * width * PART_FILLED
        most = max(most, area)
        fits += 1
        if fits == FITS:
            break
    return most


@compiled
def beside(gap, kerf, least, wide):
    """What is lost at once beside an item: a gap too small for anything (``wide``: with its kerf), else nothing yet."""
    if gap > -kerf + EPS and gap < least - EPS:
        return (gap + kerf) * wide
    return 0.0


@compiled
def waste_of(order, x, y, size, piece, cap, i, fitting, many, shelf, left, least, kerfs):
    """What is lost where an item is laid at (x, y) of a piece and freed in that order of cuts: gaps too small, and what the
    best part leaves of a gap in the same strip. Stops early, and tells too little, once it is over ``cap``."""
    length, width = size
    a, b, c, d = piece
    near, far = x - a - kerfs[0], c - x - length - kerfs[0]
    below, above = y - b - kerfs[1], d - y - width - kerfs[1]
    if order == 0:
        waste = beside(near, kerfs[0], least[0], d - b) + beside(far, kerfs[0], least[0], d - b)
        waste += beside(below, kerfs[1], least[1], length) + beside(above, kerfs[1], least[1], length)
        if below >= least[1] - EPS and waste < cap:
            waste += length * below - best_inside(length, below, i, fitting, many, shelf, left, least, kerfs, True)
        if above >= least[1] - EPS and waste < cap:
            waste += length * above - best_inside(length, above, i, fitting, many, shelf, left, least, kerfs, True)
    else:
        waste = beside(below, kerfs[1], least[1], c - a) + beside(above, kerfs[1], least[1], c - a)
        waste += beside(near, kerfs[0], least[0], width) + beside(far, kerfs[0], least[0], width)
        if near >= least[0] - EPS and waste < cap:
            waste += width * near - best_inside(near, width, i, fitting, many, shelf, left, least, kerfs, False)
        if far >= least[0] - EPS and waste < cap:
            waste += width * far - best_inside(far, width, i, fitting, many, shelf, left, least, kerfs, False)
    return waste


@compiled
def choose(case, board, piece, count, shelf, left, state, room):
    """What to lay in a piece, where, and in which order of cuts: the item of least waste for its size, with some chance.

    Returns the item or -1, x, y, and 0 where the crosscuts come first or 1 where the rips do.
    """
    items, members, live, taste = shelf.items, shelf.members, shelf.live, room.taste
    clears, how_many, least, fitting, spots = room.clears, room.how_many, room.least, room.fitting, room.spots
    kerfs, classes = case.kerfs, case.zones.size
    a, b, c, d = piece
    best, chosen, at_x, at_y, way = 1e300, -1, 0.0, 0.0, 0
    for k in range(classes):
        g = board * classes + k
        first, last = case.clear_start[g], case.clear_start[g + 1]
        how_many[k] = clears_in(case.clears, first, last, a, b, c, d, least, kerfs, clears[k])
    flip_x, flip_y = draw(state) < taste[4], draw(state) < taste[4]
    many = 0
    for i in range(count):
        if members[i, 1] >= 0:
            break
        if live[i] and items[i, 0] <= c - a + EPS and items[i, 1] <= d - b + EPS:
            fitting[many] = i
            many += 1
    for i in range(count - 1, -1, -1):
        length, width = items[i, 0], items[i, 1]
        if not live[i] or length > c - a + EPS or width > d - b + EPS:
            continue
        k = int(items[i, 3])
        g = board * classes + k
        inner = 100.0 + length * width - items[i, 2]
        weight = 1.0 + taste[0] * draw(state)
        weight = weight * weight * weight * items[i, 5]
        t = members[i, 0]
        limited = case.allow[board, t] == 1
        zone = case.zones[k]
        if zone > 0 and members[i, 1] >= 0:
            zone = length  # within a block ends lie anywhere
        tried = 0
        for j in range(how_many[k]):
            p, q, r, s = clears[k, j, 0], clears[k, j, 1], clears[k, j, 2], clears[k, j, 3]
            if limited:
                p = start_of(max(p, case.limits[board, t, 0]), a, kerfs[0])
                r = min(r, case.limits[board, t, 1] + length)
            if length > r - p + EPS or width > s - q + EPS:
                continue
            x = r - length if (p - a > c - r) != flip_x else p
            y = s - width if (q - b > d - s) != flip_y else q
            if (x > a + EPS and x < a + kerfs[0] - EPS) or (y > b + EPS and y < b + kerfs[1] - EPS):
                x, y = p, q
            known = False
            for e in range(tried):
                known = known or (spots[e, 0] == x and spots[e, 1] == y)
            if known:
                continue
            spots[tried, 0], spots[tried, 1] = x, y
            tried += 1
            if in_joint_zone(case.knots, case.knot_start[g], case.knot_start[g + 1], x, y, length, width, zone):
                continue
            for order in range(2):
                factor = weight * (taste[1] if order == 1 else 1.0)
                cap = best / factor - inner
                if cap <= 0:
                    continue
                waste = waste_of(order, x, y, (length, width), piece, cap, i, fitting, many, shelf, left, least, kerfs)
                if waste < cap:
                    best, chosen, at_x, at_y, way = (waste + inner) * factor, i, x, y, order
    return chosen, at_x, at_y, way


@compiled
def lay(record, n, first, x, y, piece, order, kerfs, shelf, left, room, top):
    """Record an item laid at (x, y) in a piece: a block is freed whole, then parted cut by cut. Returns n, stack top, kerf."""
    items, members, halves = shelf.items, shelf.members, shelf.halves
    stack, tasks, sawn = room.stack, room.tasks, room.sawn
    lost = 0.0
    tasks[0, 0], tasks[0, 1], tasks[0, 2], tasks[0, 7] = first, x, y, order
    for e in range(4):
        tasks[0, 3 + e] = piece[e]
    waiting = 1
    while waiting > 0:
        waiting -= 1
        i, x, y = int(tasks[waiting, 0]), tasks[waiting, 1], tasks[waiting, 2]
        a, b, c, d = tasks[waiting, 3], tasks[waiting, 4], tasks[waiting, 5], tasks[waiting, 6]
        order = int(tasks[waiting, 7])
        length, width = items[i, 0], items[i, 1]
        if halves[i, 0] < 0:
            put(record, n, members[i, 0], x, y, length, width, a, b, c, d, order)
            record[n, SUMS] = items[i, 2]
            left[members[i, 0]] -= 1
            top, kerf = carve(stack, top, a, b, c, d, x, y, length, width, order, kerfs, sawn)
            lost += note_sawing(record, n, kerf, sawn)
            n += 1
            continue
        if length < c - a - EPS or width < d - b - EPS:
            put(record, n, BLOCK, x, y, length, width, a, b, c, d, order)
            top, kerf = carve(stack, top, a, b, c, d, x, y, length, width, order, kerfs, sawn)
            lost += note_sawing(record, n, kerf, sawn)
            n += 1
        way = int(items[i, 4])
        low = x + items[halves[i, 0], 0] if way == 0 else y + items[halves[i, 0], 1]
        put(record, n, CUT, low, 0, 0, 0, x, y, x + length, y + width, way)
        sawn[way] += width if way == 0 else length
        lost += note_sawing(record, n, kerfs[way] * (width if way == 0 else length), sawn)
        n += 1
        for half in range(2):
            p, q = x, y
            r, s = x + length, y + width
            if way == 0:
                p, r = (x, low) if half == 0 else (low + kerfs[0], r)
            else:
                q, s = (y, low) if half == 0 else (low + kerfs[1], s)
            tasks[waiting, 0], tasks[waiting, 1], tasks[waiting, 2] = halves[i, half], p, q
            tasks[waiting, 3], tasks[waiting, 4], tasks[waiting, 5], tasks[waiting, 6] = p, q, r, s
            tasks[waiting, 7] = way
            waiting += 1
    return n, top, lost


@compiled
def make_live(case, board, count, shelf, left, taste):
    """Say which items may be laid on a board now, and weigh each by its size."""
    items, members, live = shelf.items, shelf.members, shelf.live
    for i in range(count):
        live[i] = available(shelf, i, left)
        for x in range(MEMBERS):
            t = members[i, x]
            if t >= 0 and (case.allow[board, t] == 0 or (case.allow[board, t] == 1 and members[i, 1] >= 0)):
                live[i] = False
        items[i, 5] = items[i, 2] ** -taste[2]


@compiled
def fill(case, board, top, count, shelf, left, state, bounds, record, n, room):
    """Fill the ``top`` pieces of one board that lie on the room's stack from the items; rows are added to the record from n on.

    ``bounds``: the most that may be lost in all, and as dead ends; past either the try is given up. A row's sums, from column
    ``SUMS`` on: area of parts, lost, dead ends, worth of offcuts, mm of crosscut and of rip.

    Returns:
        Rows of the record or -1, and what was lost.
    """
    items, live = shelf.items, shelf.live
    stack, sawn, least = room.stack, room.sawn, room.least
    kerfs, f0, f1 = case.kerfs, case.fault_start[board], case.fault_start[board + 1]
    sawn[0] = sawn[1] = 0.0
    lost, dead = 0.0, 0.0
    make_live(case, board, count, shelf, left, room.taste)
    while top > 0:
        top -= 1
        a, b, c, d = stack[top, 0], stack[top, 1], stack[top, 2], stack[top, 3]
        least[0] = least[1] = 1e9
        for i in range(count):
            if live[i]:
                least[0] = min(least[0], items[i, 0])
                least[1] = min(least[1], items[i, 1])
        piece = (a, b, c, d)
        chosen, at_x, at_y, way = -1, 0.0, 0.0, 0
        room_left = record.shape[0] - n - top > 4 * MEMBERS + 8
        if c - a >= least[0] - EPS and d - b >= least[1] - EPS and room_left:
            if draw(state) < room.taste[3]:
                axis, low = free_cut(case, board, piece, count, shelf, least, state)
                if axis >= 0:
                    n, top, kerf = part(record, n, piece, axis, low, kerfs, stack, sawn, top)
                    lost += kerf
                    if lost > bounds[0]:
                        return -1, lost
                    continue
            chosen, at_x, at_y, way = choose(case, board, piece, count, shelf, left, state, room)
        if chosen < 0:
            waste = clear_area(case.faults, f0, f1, a, b, c, d)
            put(record, n, WASTE, a, b, c - a, d - b, a, b, c, d, 0)
            record[n, SUMS + 1] = record[n, SUMS + 2] = waste
            if c - a >= case.keep and d - b >= LEAST_WIDTH:
                record[n, SUMS + 3] = waste * long_share(c - a)
            n += 1
            dead += waste
            lost += waste
            if lost > bounds[0] or dead > bounds[1]:
                return -1, lost
            continue
        n, top, kerf = lay(record, n, chosen, at_x, at_y, piece, way, kerfs, shelf, left, room, top)
        lost += kerf
        for i in range(count):
            if live[i] and share(shelf, chosen, i):
                live[i] = available(shelf, i, left)
        if lost > bounds[0]:
            return -1, lost
    return n, lost
