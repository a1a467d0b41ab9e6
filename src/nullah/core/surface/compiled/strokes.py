"""A plane's strokes over a grid of heights.

The sole is a rigid flat rectangle. At each station of a stroke it rests on the wood as it was before the stroke: of all planes that
lie nowhere under the wood, the one that is lowest where the hands press (a linear programme with three unknowns, its dual kept in
a basis of three points of contact). The hands press on the toe while the heel is off the board, on the heel once the toe is, else
evenly. The iron hangs under the sole by its set, less its camber towards the corners, and leaves no wood above its edge.

Lengths are mm; a grid has its rows along the board. ``plane`` is sole, iron (its distance behind the toe), width, set, camber.
"""

from __future__ import annotations

import numpy as np
from numba import njit

compiled = njit(cache=True, nogil=True, error_model="numpy")

OFF = -1e9  # a height that is none: off the board
LINES = 7  # across the sole, on which it may touch
SHORTEST = 3.0  # mm: stations lie no closer
STEP = 1e-7  # mm: so far a point may stand above the sole unnoticed
MOST = 60  # changes of the points of contact at one station
FAR = 1e4  # mm: how low, and how far off, the points are that hold a sole before it touches


@compiled
def height(z, dx, dy, x, y, near):
    """Height at a place between the points of the grid; of the edge beside it where it is off the board by ``near`` or less; or OFF."""
    rows, columns = z.shape
    i, j = x / dx, y / dy
    if i < -near / dx or j < -near / dy or i > rows - 1 + near / dx or j > columns - 1 + near / dy:
        return OFF
    i, j = min(max(i, 0.0), rows - 1.0), min(max(j, 0.0), columns - 1.0)
    a, b = min(int(i), rows - 2), min(int(j), columns - 2)
    u, v = i - a, j - b
    return (z[a, b] * (1 - v) + z[a, b + 1] * v) * (1 - u) + (z[a + 1, b] * (1 - v) + z[a + 1, b + 1] * v) * u


@compiled
def rest(under, h, half, first, last, toe, heel, basis):
    """How a sole lies on samples ``under`` (stations, LINES) first..last, ``h`` apart and as wide as twice ``half``.

    ``toe`` and ``heel`` say whether either is off the board. ``basis`` holds three points of contact to begin with, as station * LINES
    + line, or less than 0, and those found afterwards. Returns height at station 0 on the middle line, slope along and slope across.
    """
    weight = s_press = t_press = 0.0
    low = 1e18
    for k in range(first, last + 1):
        share = (k - first + 0.5) / (last - first + 1)
        w = 1.0
        if heel and not toe:
            w = 0.1 + share
        elif toe and not heel:
            w = 1.1 - share
        for m in range(LINES):
            if under[k, m] > OFF / 2:
                weight += w
                s_press += w * k * h
                t_press += w * half * (2 * m / (LINES - 1) - 1)
                low = min(low, under[k, m])
    if weight == 0.0:
        return OFF, 0.0, 0.0
    s_press /= weight
    t_press /= weight
    s, t, z = np.empty(3), np.empty(3), np.empty(3)
    share = np.empty(3)
    for i in range(3):
        if basis[i] >= 0:
            k, m = basis[i] // LINES, basis[i] % LINES
            if k < first or k > last or under[k, m] < OFF / 2:
                basis[0] = -1
            else:
                s[i], t[i], z[i] = k * h - s_press, half * (2 * m / (LINES - 1) - 1) - t_press, under[k, m]
        else:
            basis[0] = -1
    if basis[0] >= 0:  # do they still hold up where the hands press?
        det = (s[1] - s[0]) * (t[2] - t[0]) - (s[2] - s[0]) * (t[1] - t[0])
        if abs(det) < 1e-9:
            basis[0] = -1
        else:
            share[1] = (-s[0] * (t[2] - t[0]) + t[0] * (s[2] - s[0])) / det
            share[2] = (-t[0] * (s[1] - s[0]) + s[0] * (t[1] - t[0])) / det
            share[0] = 1 - share[1] - share[2]
            if min(share[0], share[1], share[2]) < -1e-9:
                basis[0] = -1
    if basis[0] < 0:
        s[0], s[1], s[2] = -FAR, FAR, 0.0
        t[0], t[1], t[2] = -FAR, -FAR, FAR
        for i in range(3):
            z[i] = low - FAR
            basis[i] = -1
        share[0] = share[1] = 0.25
        share[2] = 0.5
    a = b = c = 0.0
    for _ in range(MOST):
        det = (s[1] - s[0]) * (t[2] - t[0]) - (s[2] - s[0]) * (t[1] - t[0])
        b = ((z[1] - z[0]) * (t[2] - t[0]) - (z[2] - z[0]) * (t[1] - t[0])) / det
        c = ((s[1] - s[0]) * (z[2] - z[0]) - (s[2] - s[0]) * (z[1] - z[0])) / det
        a = z[0] - b * s[0] - c * t[0]
        worst, enters = STEP, -1
        for k in range(first, last + 1):
            along = a + b * (k * h - s_press) - c * (t_press + half)
            step = c * 2 * half / (LINES - 1)
            for m in range(LINES):
                over = under[k, m] - along - step * m
                if over > worst:
                    worst, enters = over, k * LINES + m
        if enters < 0:
            break
        k, m = enters // LINES, enters % LINES
        new_s, new_t = k * h - s_press, half * (2 * m / (LINES - 1) - 1) - t_press
        # how much of the new point goes with one of each of the old, and which of them it drives out
        way_1 = ((new_s - s[0]) * (t[2] - t[0]) - (new_t - t[0]) * (s[2] - s[0])) / det
        way_2 = ((new_t - t[0]) * (s[1] - s[0]) - (new_s - s[0]) * (t[1] - t[0])) / det
        way = (1 - way_1 - way_2, way_1, way_2)
        leaves, least = -1, 1e18
        for i in range(3):
            if way[i] > 1e-12 and max(share[i], 0.0) / way[i] < least:
                leaves, least = i, max(share[i], 0.0) / way[i]
        if leaves < 0:
            break
        for i in range(3):
            share[i] -= least * way[i]
        share[leaves] = least
        s[leaves], t[leaves], z[leaves] = new_s, new_t, under[k, m]
        basis[leaves] = enters
    return a - b * s_press - c * t_press, b, c


@compiled
def stations(sole, iron):
    """How many stations of one length lie behind and before the iron, so that they end at heel and toe as nearly as can be."""
    best, before, after = 1e18, 1, 1
    for n in range(4, 33):
        if iron / n < SHORTEST and n > 4:
            break
        behind = (sole - iron) * n / iron
        whole = max(np.round(behind), 1.0)
        off = abs(behind - whole) / whole + 1e-4 * n
        if behind + n <= 100 and off < best:
            best, before, after = off, int(whole), n
    return before, after


@compiled
def stroke(z, zone, touched, dx, dy, path, plane):
    """Take one stroke off ``z``, cutting only where ``zone`` is not 0: wood taken (mm3), points cut, points passed over.

    ``path`` is where the middle of the iron begins and ends: x, y, x, y. ``touched`` counts at each point how often it was cut.
    """
    sole, iron, width, depth, camber = plane
    x0, y0 = path[0], path[1]
    run = np.hypot(path[2] - x0, path[3] - y0)
    if run < 1e-6:
        return 0.0, 0, 0
    ex, ey = (path[2] - x0) / run, (path[3] - y0) / run
    half = width / 2
    before, after = stations(sole, iron)
    h = iron / after
    steps = max(int(np.ceil(run / h)), 1)
    count = before + steps + after + 1
    near = max(half / (LINES - 1), h / 2) + 1e-6  # so that an edge between two samples bears as well
    under = np.empty((count, LINES))
    for k in range(count):
        s = (k - before) * h
        for m in range(LINES):
            t = half * (2 * m / (LINES - 1) - 1)
            under[k, m] = height(z, dx, dy, x0 + s * ex - t * ey, y0 + s * ey + t * ex, near)
    base, roll = np.empty(steps + 1), np.empty(steps + 1)
    basis = np.full(3, -1, dtype=np.int64)
    middle = LINES // 2
    for i in range(steps + 1):
        heel, toe = under[i, middle] < OFF / 2, under[i + before + after, middle] < OFF / 2
        level, along, across = rest(under, h, half, i, i + before + after, toe, heel, basis)
        base[i] = level + along * (i + before) * h
        roll[i] = across
    taken, cut, passed = 0.0, 0, 0
    rows, columns = z.shape
    reach_x = abs(ex) * run + abs(ey) * width
    first = max(int((min(x0, path[2]) - abs(ey) * half) / dx), 0)
    last = min(int((min(x0, path[2]) + reach_x) / dx) + 1, rows - 1)
    for i in range(first, last + 1):
        x = i * dx - x0
        low, high = 0.0, (columns - 1) * dy
        if abs(ex) > 1e-9:  # |t| <= half, t = y ex - x ey
            one, other = (x * ey - half) / ex + y0, (x * ey + half) / ex + y0
            low, high = max(low, min(one, other)), min(high, max(one, other))
        elif abs(x) > half + 1e-9:
            continue
        if abs(ey) > 1e-9:  # 0 <= s <= run, s = x ex + y ey
            one, other = -x * ex / ey + y0, (run - x * ex) / ey + y0
            low, high = max(low, min(one, other)), min(high, max(one, other))
        for j in range(int(np.ceil(low / dy - 1e-9)), int(np.floor(high / dy + 1e-9)) + 1):
            if zone[i, j] == 0:
                continue
            y = j * dy - y0
            s, t = x * ex + y * ey, y * ex - x * ey
            if s < -1e-9 or s > run + 1e-9:
                continue
            at = min(max(s / h, 0.0), float(steps))
            k = min(int(at), steps - 1)
            part = at - k
            if base[k] < OFF / 2 or base[k + 1] < OFF / 2:
                continue
            edge = (base[k] + roll[k] * t) * (1 - part) + (base[k + 1] + roll[k + 1] * t) * part
            edge += camber * (t / half) ** 2 - depth
            passed += 1
            if z[i, j] > edge:
                taken += (z[i, j] - edge) * dx * dy
                z[i, j] = edge
                touched[i, j] += 1
                cut += 1
    return taken, cut, passed


@compiled
def strokes(z, zone, touched, dx, dy, paths, plane):
    """All strokes of a pass, in order: wood taken (mm3), points cut, points passed over."""
    taken, cut, passed = 0.0, 0, 0
    for n in range(paths.shape[0]):
        a, b, c = stroke(z, zone, touched, dx, dy, paths[n], plane)
        taken += a
        cut += b
        passed += c
    return taken, cut, passed
