"""Whether a few parts can be freed from one piece of a board by full cuts at all: an exact search, for a dozen parts or so.

``extend`` is the heart: how far along, at the least, a set of parts reaches that begins at x1 and lies between y1 and y2. A set is one
part; or what a cut across parts in two, the left of them as short as can be and the right from there on; or what a cut along
parts in two, and the cut so high that the longer of them is shortest: of the heights where parts may end, the lower reaches
less far and the upper farther the higher it is. Left and lower ones are not parted the same way again, so that each tree is
met once. What a set comes to on clear wood, wherever that is, bounds it from below, and is it where no fault is met. All that was
found is kept by where the piece begins and what is in the set (dynamic programming over sets, after Wang 1983 and
Christofides and Whitlock 1977, from memory).

A part keeps clear of faults by its class; one that may lie only so far along a board begins within its limits; where a knot is
forgiven but at the ends, not every place is tried: a yes always holds, a no but for that, and for a fault's end less than a kerf
beyond a cut.
"""

from __future__ import annotations

import numpy as np
from numba import njit, types

from nullah.core.layout.compiled.pieces import EPS, compiled, in_joint_zone, start_of
from nullah.core.layout.compiled.sets import (
    ANYWHERE,
    FAR,
    FILLED,
    GRID,
    HEIGHTS,
    MOST,
    ROWS,
    TOP_HEIGHT,
    TOP_ROW,
    TURN,
    WORK,
    Known,
    Wood,
    code_of,
    find,
    next_split,
    on_clear,
    place_of,
    set_of,
)

STEP = 1.0 / GRID
NO, YES, NOT_FOUND = 0, 1, 2
ON_CLEAR = 10  # parts at the most in a set that is looked at on clear wood first
FREE_OF_FAULTS = -2.0  # for where a set is parted: as on clear wood


@compiled
def single(wood, x1, y1, y2, i, lim):
    """How far one part reaches at the least, and where it lies."""
    kind, clears, knots, saw = wood.kind, wood.clears, wood.knots, wood.saw
    best, at_x, at_y = FAR, 0.0, 0.0
    length, width, zone = kind[i, 0], kind[i, 1], kind[i, 6]
    if wood.board == ANYWHERE:
        if width <= y2 - y1 + EPS and x1 + length <= lim + EPS:
            best, at_x, at_y = x1 + length, x1, y1
        return best, at_x, at_y
    for c in range(int(kind[i, 4]), int(kind[i, 5])):
        x = start_of(max(clears[c, 0], kind[i, 2]), x1, saw[0])
        if x + length > min(clears[c, 2], lim) + EPS or x + length >= best or x > kind[i, 3] + EPS:
            continue
        y = start_of(clears[c, 1], y1, saw[1])
        if y + width > min(clears[c, 3], y2) + EPS:
            continue
        if in_joint_zone(knots, int(kind[i, 7]), int(kind[i, 8]), x, y, length, width, zone):
            continue
        best, at_x, at_y = x + length, x, y
    return best, at_x, at_y


@compiled
def reach(wood, x1, y1, y2, count, lim):
    """What a set reaches at the least for its area and its wide parts, or ``FAR`` where that is past ``lim``."""
    kind, faults, saw = wood.kind, wood.faults, wood.saw
    high = y2 - y1 + saw[1]
    area, half, third, longest = 0.0, 0.0, 0.0, 0.0
    for i in range(kind.shape[0]):
        n = count[i]
        if n == 0:
            continue
        length, width = kind[i, 0] + saw[0], kind[i, 1] + saw[1]
        if width > high + EPS:
            return FAR
        area += n * length * width
        longest = max(longest, length)
        if 2 * width > high + EPS:
            half += n * length
        if 3 * width > high + EPS:
            third += n * length
    least = max(area / high, half, third / 2, longest) - saw[0]
    if x1 + least > lim + EPS:
        return FAR
    free = (lim + saw[0] - x1) * high - area
    for f in range(faults.shape[0]):
        along = min(lim + saw[0], faults[f, 2]) - max(x1, faults[f, 0] + saw[0])
        across = min(y2 + saw[1], faults[f, 3]) - max(y1, faults[f, 1] + saw[1])
        if along > 0 and across > 0:
            free -= along * across
    return x1 + least if free > -1e-3 else FAR


@compiled
def sort(values, first, last):
    """Put values first..last in order (Shell 1959; the library's own sort takes long to compile)."""
    gap = (last - first) // 2
    while gap > 0:
        for i in range(first + gap, last):
            value, j = values[i], i
            while j >= first + gap and values[j - gap] > value:
                values[j] = values[j - gap]
                j -= gap
            values[j] = value
        gap //= 2


@compiled
def heights_of(wood, x1, y1, y2, count, heights, at):
    """Where the next strip from y1 on may begin: sums of widths from y1 or a fault's top. Sorted from ``at`` on; returns the end."""
    kind, faults, saw = wood.kind, wood.spoils, wood.saw
    heights[at] = y1
    n = at + 1
    for f in range(faults.shape[0]):
        if faults[f, 3] > y1 and faults[f, 3] < y2 and faults[f, 2] > x1:
            heights[n] = start_of(faults[f, 3], y1, saw[1])
            n += 1
    for i in range(kind.shape[0] + 1):
        sort(heights, at, n)
        last = at + 1
        for e in range(at + 1, n):
            if heights[e] > heights[last - 1] + EPS / 10:
                heights[last] = heights[e]
                last += 1
        n = last
        if i == kind.shape[0]:
            break
        for c in range(1, count[i] + 1):
            for e in range(at, last):
                up = heights[e] + c * (kind[i, 1] + saw[1])
                if up >= y2 or n >= heights.size - 1:
                    break
                heights[n] = up
                n += 1
    return n


@compiled
def first_fault(faults, x1, y1, y2):
    """Where the first fault begins that a strip from x1 on meets."""
    at = FAR
    for f in range(faults.shape[0]):
        if faults[f, 2] > x1 + EPS and faults[f, 1] < y2 - EPS and faults[f, 3] > y1 + EPS:
            at = min(at, faults[f, 0])
    return at


@compiled
def past_hole(faults, saw, start):
    """The end of a fault less than a kerf beyond a start, where it may be better to begin; ``FAR`` where none is."""
    at = FAR
    for f in range(faults.shape[0]):
        if faults[f, 2] > start + EPS and faults[f, 2] < start + saw[0]:
            at = min(at, faults[f, 2])
    return at


@compiled
def cut_heights(wood, a, b, y1, y2, long):
    """Between which heights a cut along can lie for the widest parts and the area below and above it."""
    kind, saw = wood.kind, wood.saw
    area_a, area_b, wide_a, wide_b = 0.0, 0.0, 0.0, 0.0
    for j in range(kind.shape[0]):
        size = (kind[j, 0] + saw[0]) * (kind[j, 1] + saw[1])
        if a[j]:
            area_a += a[j] * size
            wide_a = max(wide_a, kind[j, 1])
        if b[j]:
            area_b += b[j] * size
            wide_b = max(wide_b, kind[j, 1])
    return y1 + max(wide_a, area_a / long - saw[1]), y2 - max(wide_b, area_b / long - saw[1]) - saw[1]


FLOATS, WHOLES = types.float64[:, ::1], types.int64[:, ::1]
WOOD = types.NamedTuple(
    (FLOATS, types.uint64[::1], FLOATS, FLOATS, FLOATS, FLOATS, types.float64[::1], types.int64, types.boolean), Wood
)
KNOWN = types.NamedTuple((types.uint64[::1], WHOLES, FLOATS, WHOLES, types.float64[::1], types.int64[::1]), Known)
PLACE = (types.float64, types.float64, types.float64, types.int64, types.int64, types.float64, types.int64)


@njit(types.float64(WOOD, KNOWN, *PLACE), cache=True, nogil=True, error_model="numpy")
def extend(wood, known, x1, y1, y2, row, way, lim, enough):
    """How far the set of ``known.sets[row]`` reaches at the least, or ``FAR`` where past ``lim``.

    ``way``: 0 parted as it likes, 1 not along first, 2 not across first. ``enough``: anything up to ``lim`` will do. Once as much
    was looked at as may be, all is ``FAR``.
    """
    kind, saw, sets, heights, kept, tops = wood.kind, wood.saw, known.sets, known.heights, known.kept, known.tops
    count, kinds = sets[row], kind.shape[0]
    total, last, code = code_of(wood, count)
    if total == 1:
        return single(wood, x1, y1, y2, last, lim)[0]
    if reach(wood, x1, y1, y2, count, lim) >= FAR:
        return FAR
    full = tops[FILLED] > kept.shape[0] // 4 * 3 or tops[TOP_HEIGHT] > HEIGHTS - 1024 or row > ROWS - 4
    if full or tops[WORK] >= tops[MOST]:
        tops[WORK] = tops[MOST]
        return FAR
    free = wood.board == ANYWHERE
    place, of = place_of(x1, y1, way, free), set_of(code, y2, wood.board)
    at = find(known, place, of)
    if kept[at, 4] == tops[TURN]:
        far, how = kept[at, 0], int(kept[at, 3])
        if far < FAR and (how % 2 == 0 or (enough and far <= lim + EPS)):
            return far if far <= lim + EPS else FAR
        if far >= FAR and kept[at, 1] >= lim - EPS:
            return FAR
    best, bound, parted, where, how, known_already = FAR, lim, np.uint64(0), 0.0, 0, False
    if not free and total <= ON_CLEAR:
        bare = on_clear(wood)
        far = extend(bare, known, 0.0, 0.0, y2 - y1, row, way, lim - x1, enough)
        if tops[WORK] >= tops[MOST]:
            return FAR
        known_already = far >= FAR
        if x1 + far <= first_fault(wood.spoils, x1, y1, y2) + EPS and not wood.limited:
            best, where, how, known_already = x1 + far, FREE_OF_FAULTS, enough, True
    if not known_already:
        row_a, row_b, floor = tops[TOP_ROW], tops[TOP_ROW] + 1, tops[TOP_HEIGHT]
        a, b = sets[row_a], sets[row_b]
        tops[TOP_ROW] += 2
        for along in range(2):
            if way == 2 - along:
                continue
            ceiling = floor
            if along:
                ceiling = heights_of(wood, x1, y1, y2, count, heights, floor)
                tops[TOP_HEIGHT] = ceiling
            for i in range(kinds):
                a[i], b[i] = 0, count[i]
            code = next_split(kinds, a, b, wood.hashes, np.uint64(0))
            while code and not (enough and best < FAR) and tops[WORK] < tops[MOST]:
                tops[WORK] += 1
                rest = 0
                for i in range(kinds):
                    rest += b[i]
                if rest and not (free and a[last] == 0):  # on clear wood either may be the left, or the lower
                    if along == 0:
                        room = reach(wood, x1, y1, y2, b, bound)
                        start = FAR
                        if room < FAR:
                            start = saw[0] + extend(
                                wood, known, x1, y1, y2, row_a, np.int64(2), bound - (room - x1) - saw[0], np.int64(0)
                            )
                        while start < FAR:
                            far = extend(wood, known, start, y1, y2, row_b, np.int64(0), bound, enough)
                            if far < best:
                                best, parted, where, how = far, code, start, enough
                                bound = min(bound, best - STEP)
                            start = past_hole(wood.spoils, saw, start) if far >= FAR else FAR
                    else:
                        least, most = cut_heights(wood, a, b, y1, y2, bound + saw[0] - x1)
                        low, high = floor, floor
                        while low < ceiling and heights[low] - saw[1] < least - EPS / 10:
                            low += 1
                        high = low
                        while high < ceiling and heights[high] - saw[1] <= most + EPS / 10:
                            high += 1
                        while low < high:
                            middle = (low + high) // 2
                            cut = heights[middle] - saw[1]
                            lower = extend(wood, known, x1, y1, cut, row_a, np.int64(1), bound, enough)
                            if lower >= FAR:
                                low = middle + 1
                                continue
                            upper = extend(wood, known, x1, cut + saw[1], y2, row_b, np.int64(0), bound, enough)
                            far = max(lower, upper)
                            if far < best:
                                best, parted, where, how = far, code, cut, 2 + enough
                                bound = min(bound, best - STEP)
                                if enough:
                                    break
                            if upper >= lower:
                                high = middle
                            else:
                                low = middle + 1
                code = next_split(kinds, a, b, wood.hashes, code)
            tops[TOP_HEIGHT] = floor
        tops[TOP_ROW] -= 2
    if tops[WORK] >= tops[MOST]:
        return best
    at = find(known, place, of)
    if kept[at, 4] != tops[TURN]:
        tops[FILLED] += 1
    known.keys[at, 0], known.keys[at, 1], known.keys[at, 2] = place, of, np.int64(parted)
    kept[at, 0], kept[at, 1], kept[at, 2], kept[at, 3], kept[at, 4] = best, lim, where, how, tops[TURN]
    return best


@compiled
def fits(wood, piece, count, known, most):
    """Whether a set fits into a piece, ``YES``, ``NO`` or ``NOT_FOUND``, and how many ways of parting were looked at.

    A yes always holds. A no means that every way was looked at (but for what the module's docstring says of knots); what took
    ``most`` looks, or more room than there is to keep what is found, is ``NOT_FOUND``: asked again with more, it may fit.
    """
    sets, tops = known.sets, known.tops
    if tops[FILLED] > known.keys.shape[0] // 2:
        tops[FILLED] = 0
        tops[TURN] += 1
    total = 0
    for i in range(count.size):
        sets[0, i] = count[i]
        total += count[i]
    tops[TOP_ROW], tops[TOP_HEIGHT], tops[WORK], tops[MOST] = 1, 0, 0, most
    yes = total == 0 or extend(wood, known, piece[0], piece[1], piece[3], 0, 0, piece[2], 1) < FAR
    answer = YES if yes else NOT_FOUND if tops[WORK] >= most else NO
    return answer, tops[WORK]
