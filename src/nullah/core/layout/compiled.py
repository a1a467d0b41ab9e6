"""The compiled inner loop of the search: one board filled by full cuts, and boards emptied and filled again many times.

Loaded late, by ``search`` alone, since Numba takes half a second to import. Everything here works on plain arrays; what they
hold is said in ``encoding``, which makes them and reads the result back. Numbers are mm and mm2. Nothing here reads a clock
or draws a number but from the state it is given: the same arrays, seed and count of rounds give the same layout.

Method: ruin and recreate (Schrimpf et al. 2000) over randomised greedy guillotine filling with one step of look-ahead, where
parts of nearly one length or width are first joined into blocks (after Wang 1983), accepted by a threshold that cools.
"""

from __future__ import annotations

import numpy as np
from numba import njit

EPS = 1e-6
MEMBERS = 4  # parts a block is made of, at the most
BLOCKS = 64  # blocks at the most in one round
CLEARS = 64  # clear rectangles looked at in one piece, at the most
COLUMNS = 10  # of a record: kind, x, y, length, width, the piece's four sides, order
BLOCK, CUT = -1, -2  # kinds of record that are no part
LOOSELY = 0.4  # waste that is borne in blocks now and then: a cut may stand where no single part ends
FITS = 6  # items, largest first, that are tried in a gap
PART_FILLED = 0.8  # what a gap is taken to hold where the best part leaves room for another

compiled = njit(cache=True, nogil=True, error_model="numpy", fastmath={"nsz", "contract", "arcp"})
compiled_inline = njit(cache=True, nogil=True, error_model="numpy", inline="always")


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
def available(members, item, left):
    """Whether enough of every part of the item is left."""
    for x in range(MEMBERS):
        t = members[item, x]
        if t < 0:
            break
        want = 1
        for y in range(x):
            if members[item, y] == t:
                want += 1
        if want > left[t]:
            return False
    return True


@compiled
def share(members, one, other):
    """Whether two items have a kind of part in common."""
    for x in range(MEMBERS):
        if members[one, x] < 0:
            break
        for y in range(MEMBERS):
            if members[other, y] < 0:
                break
            if members[one, x] == members[other, y]:
                return True
    return False


@compiled
def gather(pool, pooled, sizes, kind_class, left, kerfs, waste, room, items, members, halves, state):
    """Items to lay: every kind of part in the pool, then blocks of two to four that waste no more than ``waste``.

    ``items`` rows: length, width, area of parts, class, direction (0 in a row, 1 side by side). Returns how many.
    """
    n = 0
    for i in range(pooled):
        t = pool[i]
        items[n, 0], items[n, 1], items[n, 2], items[n, 3], items[n, 4] = (
            sizes[t, 0],
            sizes[t, 1],
            sizes[t, 2],
            kind_class[t],
            0,
        )
        members[n, 0] = t
        for x in range(1, MEMBERS):
            members[n, x] = -1
        halves[n, 0] = halves[n, 1] = -1
        n += 1
    singles = n
    pairs = n
    limit = singles + BLOCKS
    for level in range(2):
        first, last = (0, singles) if level == 0 else (singles, pairs)
        ones = singles if level == 0 else pairs
        for i in range(ones):
            for j in range(max(first, i), last):
                if items[i, 3] != items[j, 3]:
                    continue
                for way in range(2):
                    if way == 0:
                        length, width = items[i, 0] + kerfs[0] + items[j, 0], max(items[i, 1], items[j, 1])
                        if length > room[0] + EPS:
                            continue
                        lost = abs(items[i, 1] - items[j, 1]) * (
                            items[i, 0] if items[i, 1] < items[j, 1] else items[j, 0]
                        )
                    else:
                        length, width = max(items[i, 0], items[j, 0]), items[i, 1] + kerfs[1] + items[j, 1]
                        if width > room[1] + EPS:
                            continue
                        lost = abs(items[i, 0] - items[j, 0]) * (
                            items[i, 1] if items[i, 0] < items[j, 0] else items[j, 1]
                        )
                    if lost > waste * length * width:
                        continue
                    many = 0
                    for x in range(MEMBERS):
                        many += (members[i, x] >= 0) + (members[j, x] >= 0)
                    if many > MEMBERS:
                        continue
                    if n < limit:
                        at = n
                    elif n > pairs and draw(state) < 0.5:
                        at = pairs + int(draw(state) * (n - pairs))
                    else:
                        continue
                    k = 0
                    for x in range(MEMBERS):
                        if members[i, x] >= 0:
                            members[n, k] = members[i, x]
                            k += 1
                    for x in range(MEMBERS):
                        if members[j, x] >= 0:
                            members[n, k] = members[j, x]
                            k += 1
                    for x in range(k, MEMBERS):
                        members[n, x] = -1
                    if not available(members, n, left):
                        continue
                    if at != n:
                        for x in range(MEMBERS):
                            members[at, x] = members[n, x]
                    items[at, 0], items[at, 1], items[at, 2] = length, width, items[i, 2] + items[j, 2]
                    items[at, 3], items[at, 4] = items[i, 3], way
                    halves[at, 0], halves[at, 1] = i, j
                    if at == n:
                        n += 1
        if level == 0:
            pairs = n
    return n


@compiled
def best_inside(length, width, beside, fitting, count, items, members, left, least, kerfs, across):
    """Area that the best single part takes of a gap next to item ``beside``; room left for another counts in part.

    ``fitting`` names the parts, largest first, that fit the piece at all.
    """
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
def put(record, n, kind, x, y, length, width, a, b, c, d, order):
    """One row of a record."""
    record[n, 0], record[n, 1], record[n, 2], record[n, 3], record[n, 4] = kind, x, y, length, width
    record[n, 5], record[n, 6], record[n, 7], record[n, 8], record[n, 9] = a, b, c, d, order


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
def clears_in(clears, first, last, a, b, c, d, least, kerfs, out):
    """Clear rectangles first..last as far as they lie in the piece; a saw's width in from its near sides. Returns how many."""
    n = 0
    for m in range(first, last):
        p, q = max(clears[m, 0], a), max(clears[m, 1], b)
        r, s = min(clears[m, 2], c), min(clears[m, 3], d)
        if p > a and p < a + kerfs[0]:
            p = a + kerfs[0]
        if q > b and q < b + kerfs[1]:
            q = b + kerfs[1]
        if r - p < least[0] - EPS or s - q < least[1] - EPS:
            continue
        out[n, 0], out[n, 1], out[n, 2], out[n, 3] = p, q, r, s
        n += 1
        if n == CLEARS:
            break
    return n


@compiled
def beside(gap, kerf, least, wide):
    """What is lost at once beside an item: a gap too small for anything (``wide``: with its kerf), else nothing yet."""
    if gap > -kerf + EPS and gap < least - EPS:
        return (gap + kerf) * wide
    return 0.0


@compiled
def waste_of(order, x, y, size, piece, cap, i, fitting, many, items, members, left, least, kerfs):
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
            waste += length * below - best_inside(
                length, below, i, fitting, many, items, members, left, least, kerfs, True
            )
        if above >= least[1] - EPS and waste < cap:
            waste += length * above - best_inside(
                length, above, i, fitting, many, items, members, left, least, kerfs, True
            )
    else:
        waste = beside(below, kerfs[1], least[1], c - a) + beside(above, kerfs[1], least[1], c - a)
        waste += beside(near, kerfs[0], least[0], width) + beside(far, kerfs[0], least[0], width)
        if near >= least[0] - EPS and waste < cap:
            waste += width * near - best_inside(
                near, width, i, fitting, many, items, members, left, least, kerfs, False
            )
        if far >= least[0] - EPS and waste < cap:
            waste += width * far - best_inside(far, width, i, fitting, many, items, members, left, least, kerfs, False)
    return waste


@compiled
def choose(case, board, piece, count, items, members, left, live, state, taste, room):
    """What to lay in a piece, where, and in which order of cuts: the item of least waste for its size, with some chance.

    Returns the item or -1, x, y, and 0 where the crosscuts come first or 1 where the rips do.
    """
    _, clears, _, how_many, _, least, fitting, spots = room
    kerfs, classes = case.kerfs, case.zones.size
    a, b, c, d = piece
    best, chosen, at_x, at_y, way = 1e300, -1, 0.0, 0.0, 0
    for k in range(classes):
        g = board * classes + k
        first, last = case.clear_start[g], case.clear_start[g + 1]
        how_many[k] = clears_in(case.clears, first, last, a, b, c, d, least, kerfs, clears[k])
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
                p, r = max(p, case.limits[board, t, 0]), min(r, case.limits[board, t, 1] + length)
                if p > a and p < a + kerfs[0]:
                    p = a + kerfs[0]
            if length > r - p + EPS or width > s - q + EPS:
                continue
            x = r - length if p - a > c - r else p
            y = s - width if q - b > d - s else q
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
                waste = waste_of(
                    order, x, y, (length, width), piece, cap, i, fitting, many, items, members, left, least, kerfs
                )
                if waste < cap:
                    best, chosen, at_x, at_y, way = (waste + inner) * factor, i, x, y, order
    return chosen, at_x, at_y, way


@compiled
def lay(record, n, first, x, y, piece, order, kerfs, items, members, halves, left, stack, top, tasks, sawn):
    """Record an item laid at (x, y) in a piece: a block is freed whole, then parted cut by cut. Returns n, stack top, kerf."""
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
            n += 1
            left[members[i, 0]] -= 1
            top, kerf = carve(stack, top, a, b, c, d, x, y, length, width, order, kerfs, sawn)
            lost += kerf
            continue
        if length < c - a - EPS or width < d - b - EPS:
            put(record, n, BLOCK, x, y, length, width, a, b, c, d, order)
            n += 1
            top, kerf = carve(stack, top, a, b, c, d, x, y, length, width, order, kerfs, sawn)
            lost += kerf
        way = int(items[i, 4])
        low = x + items[halves[i, 0], 0] if way == 0 else y + items[halves[i, 0], 1]
        put(record, n, CUT, low, 0, 0, 0, x, y, x + length, y + width, way)
        n += 1
        lost += kerfs[way] * (width if way == 0 else length)
        sawn[way] += width if way == 0 else length
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
def fill(case, board, count, items, members, halves, left, live, state, taste, bounds, record, room):
    """Fill one board from the items.

    ``taste``: noise, weight of rips, power of area. ``bounds``: the most that may be lost in all, and as dead ends; past either
    the try is given up. ``room``: working arrays (stack, clears, tasks).

    Returns:
        Rows of the record or -1, area of parts, lost, dead ends, worth of offcuts, crosscut mm, rip mm.
    """
    stack, _, tasks, _, sawn, least, _, _ = room
    kerfs, f0, f1 = case.kerfs, case.fault_start[board], case.fault_start[board + 1]
    sawn[0] = sawn[1] = 0.0
    n, top = 0, 0
    area, lost, dead, worth = 0.0, 0.0, 0.0, 0.0
    for i in range(case.open_start[board], case.open_start[board + 1]):
        for e in range(4):
            stack[top, e] = case.opens[i, e]
        top += 1
    for i in range(count):
        live[i] = available(members, i, left)
        for x in range(MEMBERS):
            t = members[i, x]
            if t >= 0 and (case.allow[board, t] == 0 or (case.allow[board, t] == 1 and members[i, 1] >= 0)):
                live[i] = False
        items[i, 5] = items[i, 2] ** -taste[2]
    rows = record.shape[0] - 3 * MEMBERS
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
        if c - a >= least[0] - EPS and d - b >= least[1] - EPS and n < rows:
            chosen, at_x, at_y, way = choose(case, board, piece, count, items, members, left, live, state, taste, room)
        if chosen < 0:
            waste = clear_area(case.faults, f0, f1, a, b, c, d)
            dead += waste
            lost += waste
            if c - a >= case.keep and d - b >= 25.0:
                worth += waste * (c - a) / (c - a + 1000.0)
            if lost > bounds[0] or dead > bounds[1]:
                return -1, area, lost, dead, worth, 0.0, 0.0
            continue
        n, top, kerf = lay(
            record, n, chosen, at_x, at_y, piece, way, kerfs, items, members, halves, left, stack, top, tasks, sawn
        )
        area += items[chosen, 2]
        lost += kerf
        for i in range(count):
            if live[i] and share(members, chosen, i):
                live[i] = available(members, i, left)
        if lost > bounds[0]:
            return -1, area, lost, dead, worth, 0.0, 0.0
    return n, area, lost, dead, worth, sawn[0], sawn[1]


@compiled
def value_of(case, aim, board, used, area, dead, worth, across, along):
    """What one board's filling is worth: area of parts, less scattered waste, sawing, and the board opened."""
    total = aim[0] * area - aim[1] * np.sqrt(max(0.0, dead) * case.mean_area)
    if not used:
        return total + aim[2] * case.whole[board]
    return total + aim[2] * (worth - case.effort[board, 0] * across - case.effort[board, 1] * along)


@compiled
def note(figures, case, aim, board, used, area, dead, worth, across, along):
    """One board's figures, its value among them."""
    figures[0], figures[1], figures[3], figures[4], figures[5] = area, dead, worth, across, along
    figures[2] = value_of(case, aim, board, used, area, dead, worth, across, along)


@compiled
def add_parts(record, rows, left, sign):
    """Put the parts of a record back among those left (or take them)."""
    for i in range(rows):
        t = int(record[i, 0])
        if t >= 0:
            left[t] += sign


@compiled
def pooled_of(left, pool):
    """The kinds of which any is left, in ``pool``; how many."""
    n = 0
    for t in range(left.size):
        if left[t] > 0:
            pool[n] = t
            n += 1
    return n


@compiled
def peel(
    case,
    now,
    state,
    aim,
    style,
    room,
    items,
    members,
    halves,
    live,
    pool,
    saved,
    taste,
    bounds,
    longest,
    fresh,
    changed,
):
    """Look for a board filled to the last from all parts that lie on boards not so filled; the boards robbed are filled again.

    Where parts come from boards sawn up without a rest, exact fits are hardly ever chance: a board filled to the last is kept.
    Returns what was gained, and whether anything was changed.
    """
    records, rows, figures, left = now
    boards = case.boards
    b = int(draw(state) * boards)
    doubt = draw(state) < 0.2  # a few of those filled to the last are doubted
    if figures[b, 1] <= case.crumb and not doubt:
        return 0.0, False
    open_to = np.zeros(boards, np.bool_)
    saved[:] = left
    for e in range(boards):
        open_to[e] = e == b or figures[e, 1] > case.crumb or (doubt and draw(state) < 0.15)
        if open_to[e]:
            add_parts(records[e], rows[e], left, 1)
    pooled = pooled_of(left, pool)
    longest[0], longest[1] = case.size[b, 0], case.size[b, 1]
    count = gather(
        pool, pooled, case.sizes, case.kind_class, left, case.kerfs, 1e-5, longest, items, members, halves, state
    )
    taste[0], taste[1], taste[2] = 0.3 * style[0] * draw(state), np.exp((draw(state) - 0.5) * 2.0), 0.6 * draw(state)
    bounds[0], bounds[1] = 1e300, case.crumb
    n, area, _, dead, worth, across, along = fill(
        case, b, count, items, members, halves, left, live, state, taste, bounds, fresh[0], room
    )
    left[:] = saved
    if n < 0 or (figures[b, 1] <= case.crumb and area <= figures[b, 0] + 1.0):
        return 0.0, False
    before = figures[:, 2].sum()
    add_parts(records[b], rows[b], left, 1)
    robbed = np.zeros(boards, np.bool_)
    for i in range(n):
        t = int(fresh[0, i, 0])
        if t < 0:
            continue
        left[t] -= 1
        if left[t] >= 0:
            continue
        for e in range(boards):
            if e == b or robbed[e] or not open_to[e]:
                continue
            hit = False
            for x in range(rows[e]):
                hit = hit or int(records[e, x, 0]) == t
            if hit:
                add_parts(records[e], rows[e], left, 1)
                rows[e] = 0
                robbed[e] = True
                break
    rows[b] = n
    records[b, :n] = fresh[0, :n]
    note(figures[b], case, aim, b, n > 0, area, dead, worth, across, along)
    changed[b] = True
    bounds[0] = bounds[1] = 1e300
    for e in range(boards):
        if not robbed[e]:
            continue
        pooled = pooled_of(left, pool)
        longest[0], longest[1] = case.size[e, 0], case.size[e, 1]
        count = gather(
            pool,
            pooled,
            case.sizes,
            case.kind_class,
            left,
            case.kerfs,
            style[2],
            longest,
            items,
            members,
            halves,
            state,
        )
        taste[0], taste[1], taste[2] = style[0] * draw(state), 1.0, 1.0
        n, area, _, dead, worth, across, along = fill(
            case, e, count, items, members, halves, left, live, state, taste, bounds, records[e], room
        )
        rows[e] = n
        note(figures[e], case, aim, e, n > 0, area, dead, worth, across, along)
        changed[e] = True
    return figures[:, 2].sum() - before, True


@compiled
def rounds(case, now, best, state, many, heat, aim, style):
    """``many`` rounds of emptying a few boards and filling them again.

    ``now`` and ``best`` are (records, rows, figures, left): figures by board are area, dead, value, worth, across, along.
    ``heat``: how much worse may be gone on from, on the scale of ``value_of``. ``aim``: weights of area, scattered waste and
    cost; ``style``: noise, bias to crosscuts, waste in blocks, share of rounds that look for a board filled to the last.
    Ends early once nothing is left where cost counts for nothing. Returns rounds done, and looks for a full board and finds.
    """
    records, rows, figures, left = now
    best_records, best_rows, best_figures, best_left = best
    boards, kinds = case.boards, left.size
    stack, clears, tasks = np.empty((2048, 4)), np.empty((case.zones.size, CLEARS, 4)), np.empty((4 * MEMBERS, 8))
    how_many, sawn, least = np.zeros(case.zones.size, np.int64), np.zeros(2), np.zeros(2)
    most = kinds + BLOCKS + 1
    room = (stack, clears, tasks, how_many, sawn, least, np.zeros(most, np.int64), np.zeros((CLEARS, 2)))
    items, members, halves = np.empty((most, 6)), np.empty((most, MEMBERS), np.int64), np.empty((most, 2), np.int64)
    live, pool, saved = np.empty(most, np.bool_), np.empty(kinds, np.int64), np.empty(kinds, np.int64)
    fresh, fresh_rows, fresh_figures = np.empty((4, *records.shape[1:])), np.zeros(4, np.int64), np.empty((4, 6))
    picked, taste, bounds, longest = np.zeros(4, np.int64), np.zeros(3), np.zeros(2), np.zeros(2)
    changed = np.ones(boards, np.bool_)
    total, best_total = figures[:, 2].sum(), best_figures[:, 2].sum()
    tries, hits = 0, 0
    for done in range(many):
        if aim[2] == 0 and best_left.sum() == 0:
            return done, tries, hits
        if draw(state) < style[3]:
            tries += 1
            _, hit = peel(
                case,
                now,
                state,
                aim,
                style,
                room,
                items,
                members,
                halves,
                live,
                pool,
                saved,
                taste,
                bounds,
                longest,
                fresh,
                changed,
            )
            if hit:
                hits += 1
                total = figures[:, 2].sum()
        else:
            u = draw(state)
            few = 1 if u < 0.4 else (2 if u < 0.9 else 3)
            few = min(few, boards)
            focus = draw(state) < 0.5
            for j in range(few):
                again = True
                while again:
                    b = int(draw(state) * boards)
                    if focus:
                        for _ in range(2):
                            other = int(draw(state) * boards)
                            if figures[other, 1] > figures[b, 1]:
                                b = other
                    again = False
                    for i in range(j):
                        again = again or picked[i] == b
                picked[j] = b
            saved[:] = left
            old, spare, wholes = 0.0, 0.0, 0.0
            longest[:] = 0.0
            for j in range(few):
                b = picked[j]
                old += figures[b, 2]
                spare += case.capacity[b]
                wholes += case.whole[b]
                longest[0], longest[1] = max(longest[0], case.size[b, 0]), max(longest[1], case.size[b, 1])
                add_parts(records[b], rows[b], left, 1)
            pooled = pooled_of(left, pool)
            waste = style[2] * draw(state) ** 3 if draw(state) < 0.85 else LOOSELY * draw(state)
            sizes, classes = case.sizes, case.kind_class
            count = gather(
                pool, pooled, sizes, classes, left, case.kerfs, waste, longest, items, members, halves, state
            )
            taste[0], taste[1], taste[2] = (
                style[0] * draw(state),
                np.exp((draw(state) - 0.5) * 2.0 + style[1]),
                0.8 + 0.6 * draw(state),
            )
            floor = old + heat * np.log(draw(state) + 1e-12)
            bounds[0], bounds[1] = spare - (floor - aim[2] * wholes) / aim[0] + 1e-3, 1e300
            new, good = 0.0, True
            for j in range(few):
                b = picked[j]
                n, area, lost, dead, worth, across, along = fill(
                    case, b, count, items, members, halves, left, live, state, taste, bounds, fresh[j], room
                )
                if n < 0:
                    good = False
                    break
                bounds[0] -= lost
                fresh_rows[j] = n
                note(fresh_figures[j], case, aim, b, n > 0, area, dead, worth, across, along)
                new += fresh_figures[j, 2]
            if not good or new < floor:
                left[:] = saved
                continue
            for j in range(few):
                b = picked[j]
                rows[b] = fresh_rows[j]
                records[b, : rows[b]] = fresh[j, : rows[b]]
                figures[b] = fresh_figures[j]
                changed[b] = True
            total += new - old
        if total > best_total + 1e-6:
            best_total = total
            for b in range(boards):
                if changed[b]:
                    best_rows[b] = rows[b]
                    best_records[b, : rows[b]] = records[b, : rows[b]]
                    best_figures[b] = figures[b]
                    changed[b] = False
            best_left[:] = left
    return many, tries, hits
