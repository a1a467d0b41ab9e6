"""The cuts that free a set of parts from a piece, read off what the exact search has found."""

from __future__ import annotations

import numpy as np

from nullah.core.layout.compiled.exact import FREE_OF_FAULTS, extend, single
from nullah.core.layout.compiled.parting import note_sawing, part
from nullah.core.layout.compiled.pieces import carve, compiled, put
from nullah.core.layout.compiled.sets import (
    ANYWHERE,
    FAR,
    ROWS,
    TOP_HEIGHT,
    TOP_ROW,
    code_of,
    find,
    on_clear,
    place_of,
    set_of,
    subset,
)
from nullah.core.layout.encoding import SUMS


@compiled
def free_parts(wood, known, kinds, piece, record, n, stack, top, sawn):
    """Record the cuts that free the set of ``known.sets[0]`` from a piece; what is left over goes on the stack.

    ``kinds``: which kind of part each of the wood's is. Returns rows of the record, -1 where it cannot be, and the stack's top.
    """
    sets, tops, saw = known.sets, known.tops, wood.saw
    tasks = np.empty((ROWS, 6))
    tasks[0] = np.array([piece[0], piece[1], piece[2], piece[3], 0.0, 0.0])
    waiting, rows = 1, 1
    while waiting > 0:
        waiting -= 1
        a, b, c, d = tasks[waiting, 0], tasks[waiting, 1], tasks[waiting, 2], tasks[waiting, 3]
        row, way = int(tasks[waiting, 4]), int(tasks[waiting, 5])
        total, last, code = code_of(wood, sets[row])
        if total == 1:
            far, x, y = single(wood, a, b, d, last, c)
            if far >= FAR:
                return -1, top
            length, width = wood.kind[last, 0], wood.kind[last, 1]
            order = 0 if (c - a - length) * (d - b) >= (d - b - width) * (c - a) else 1
            put(record, n, kinds[last], x, y, length, width, a, b, c, d, order)
            top, kerf = carve(stack, top, a, b, c, d, x, y, length, width, order, saw, sawn)
            note_sawing(record, n, kerf, sawn)
            record[n, SUMS] = wood.kind[last, 9]
            n += 1
            continue
        tops[TOP_ROW], tops[TOP_HEIGHT] = rows + 2, 0
        if rows + 2 > ROWS - 8 or extend(wood, known, a, b, d, row, way, c, 1) >= FAR:
            return -1, top
        at = find(known, place_of(a, b, way, False), set_of(code, d, wood.board))
        where = known.kept[at, 2]
        if where == FREE_OF_FAULTS:
            bare = on_clear(wood)
            if extend(bare, known, 0.0, 0.0, d - b, row, way, c - a, 1) >= FAR:
                return -1, top
            at = find(known, place_of(0.0, 0.0, way, True), set_of(code, d - b, ANYWHERE))
            where = known.kept[at, 2] + (b if int(known.kept[at, 3]) >= 2 else a)
        along = int(known.kept[at, 3]) >= 2
        if not subset(wood, sets[row], np.uint64(known.keys[at, 2]), sets[rows], sets[rows + 1]):
            return -1, top
        axis = 1 if along else 0
        low = where if along else where - saw[0]
        n, waiting, _ = part(record, n, (a, b, c, d), axis, low, saw, tasks, sawn, waiting)
        for half in range(2):
            tasks[waiting - 2 + half, 4], tasks[waiting - 2 + half, 5] = rows + half, 0.0
        tasks[waiting - 2, 5] = 2 - axis
        rows += 2
    return n, top
