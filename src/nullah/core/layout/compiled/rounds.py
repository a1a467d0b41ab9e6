"""The search: pieces of boards emptied and filled again, a worse result gone on from while it is hot, boards filled to the last kept.

``now`` and ``best`` are (records, rows, figures, left); figures by board are area, dead ends, value, worth, across, along.
``aim``: weights of area, scattered waste and cost. ``style``: noise, bias to crosscuts, waste in blocks, share of rounds that
look for a board filled to the last.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from nullah.core.layout.compiled.fill import empty_room, fill
from nullah.core.layout.compiled.items import empty_shelf, gather
from nullah.core.layout.compiled.pieces import EPS, compiled, draw
from nullah.core.layout.encoding import COLUMNS, SUMS, WASTE

FEW = 3  # boards at the most of which something is emptied together
ONE, TWO = 0.2, 0.75  # how often it is of one; of no more than two
WHOLE, WIDER = 0.15, 0.2  # how often it is the whole board; that the piece around the one drawn is taken instead
FREELY, FARTHER = (
    0.5,
    0.3,
)  # at the most, how often a cut is made where no part is laid yet; a part laid in the farther corner
LOOSELY = 0.4  # waste that is borne in blocks now and then: a cut may stand where no single part ends
ENDLESS = 1e300


class Tried(NamedTuple):
    """What a round tries: records, rows and figures of the boards ``picked``, and what was ``left`` before."""

    records: np.ndarray
    rows: np.ndarray
    figures: np.ndarray
    picked: np.ndarray
    saved: np.ndarray


@compiled
def empty_tried(rows, kinds):
    """Room for what a round tries."""
    return Tried(
        np.empty((FEW, rows, COLUMNS)),
        np.zeros(FEW, np.int64),
        np.empty((FEW, 6)),
        np.zeros(FEW, np.int64),
        np.empty(kinds, np.int64),
    )


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
def outside(record, n, root, kept, left):
    """Copy the rows outside the piece of row ``root`` to ``kept``, put the parts inside back among those left.

    Returns how many rows were kept, the area of parts in them, and the clear area inside.
    """
    a, b, c, d = record[root, 5], record[root, 6], record[root, 7], record[root, 8]
    k, area, spare = 0, 0.0, 0.0
    for i in range(n):
        inside = record[i, 5] > a - EPS and record[i, 6] > b - EPS and record[i, 7] < c + EPS and record[i, 8] < d + EPS
        if inside:
            t = int(record[i, 0])
            if t >= 0:
                left[t] += 1
            spare += record[i, SUMS] + record[i, SUMS + 1]
        else:
            kept[k] = record[i]
            area += record[i, SUMS]
            k += 1
    return k, area, spare


@compiled
def pick(figures, few, picked, state):
    """So many boards, all others: any, or rather those with much that is scattered."""
    focus = draw(state) < 0.5
    for j in range(few):
        again = True
        while again:
            b = int(draw(state) * figures.shape[0])
            if focus:
                for _ in range(2):
                    other = int(draw(state) * figures.shape[0])
                    if figures[other, 1] > figures[b, 1]:
                        b = other
            again = False
            for i in range(j):
                again = again or picked[i] == b
        picked[j] = b


@compiled
def rob(case, now, board, record, n, open_to):
    """Take the parts of a record from those left, or from boards that are open to it; says which boards are emptied for that."""
    records, rows, _, left = now
    robbed = np.zeros(case.boards, np.bool_)
    for i in range(n):
        t = int(record[i, 0])
        if t < 0:
            continue
        left[t] -= 1
        if left[t] >= 0:
            continue
        for e in range(case.boards):
            if e == board or robbed[e] or not open_to[e]:
                continue
            hit = False
            for x in range(rows[e]):
                hit = hit or int(records[e, x, 0]) == t
            if hit:
                put_back(records[e], rows[e], left)
                rows[e] = 0
                robbed[e] = True
                break
    return robbed


@compiled
def peel(case, now, state, aim, style, shelf, room, tried, changed):
    """Look for a board filled to the last from all parts that lie on boards not so filled; the boards robbed are filled again.

    Where parts come from boards sawn up without a rest, exact fits are hardly ever chance: a board filled to the last is kept.
    Returns whether anything was changed.
    """
    records, rows, figures, left = now
    boards, fresh, taste = case.boards, tried.records[0], room.taste
    b = int(draw(state) * boards)
    doubt = draw(state) < 0.2  # a few of those filled to the last are doubted
    if figures[b, 1] <= case.crumb and not doubt:
        return False
    open_to = np.zeros(boards, np.bool_)
    tried.saved[:] = left
    for e in range(boards):
        open_to[e] = e == b or figures[e, 1] > case.crumb or (doubt and draw(state) < 0.15)
        if open_to[e]:
            put_back(records[e], rows[e], left)
    count = gather(case, shelf, left, 1e-5, case.size[b], state)
    taste[0], taste[1], taste[2] = 0.3 * style[0] * draw(state), np.exp((draw(state) - 0.5) * 2.0), 0.6 * draw(state)
    taste[3] = taste[4] = 0.0
    top = open_whole(case, b, room)
    n, _ = fill(case, b, top, count, shelf, left, state, (ENDLESS, case.crumb), fresh, 0, room)
    left[:] = tried.saved
    if n < 0:
        return False
    note(case, aim, b, fresh, n, tried.figures[0])
    if figures[b, 1] <= case.crumb and tried.figures[0, 0] <= figures[b, 0] + 1.0:
        return False
    put_back(records[b], rows[b], left)
    robbed = rob(case, now, b, fresh, n, open_to)
    rows[b] = n
    records[b, :n] = fresh[:n]
    figures[b] = tried.figures[0]
    changed[b] = True
    for e in range(boards):
        if not robbed[e]:
            continue
        count = gather(case, shelf, left, style[2], case.size[e], state)
        taste[0], taste[1], taste[2] = style[0] * draw(state), 1.0, 1.0
        taste[3] = taste[4] = 0.0
        top = open_whole(case, e, room)
        rows[e], _ = fill(case, e, top, count, shelf, left, state, (ENDLESS, ENDLESS), records[e], 0, room)
        note(case, aim, e, records[e], rows[e], figures[e])
        changed[e] = True
    return True


@compiled
def refill(case, now, state, heat, aim, style, shelf, room, tried, changed):
    """Empty something of one to three boards and fill it again; what is worse by less than the heat stands. Returns what was gained."""
    records, rows, figures, left = now
    picked, taste = tried.picked, room.taste
    u = draw(state)
    few = min(1 if u < ONE else (2 if u < TWO else 3), case.boards)
    pick(figures, few, picked, state)
    tried.saved[:] = left
    old, most, wholes = 0.0, 0.0, 0.0
    longest, pieces = np.zeros(2), np.zeros((FEW, 4))
    roots = np.zeros(FEW, np.int64)
    for j in range(few):
        b = picked[j]
        old += figures[b, 2]
        wholes += case.whole[b]
        root = some_piece(records[b], rows[b], state)
        roots[j] = root
        if root < 0:
            tried.rows[j] = 0
            most += case.capacity[b]
            longest[0], longest[1] = max(longest[0], case.size[b, 0]), max(longest[1], case.size[b, 1])
            put_back(records[b], rows[b], left)
        else:
            pieces[j] = records[b, root, 5:9]
            tried.rows[j], area, spare = outside(records[b], rows[b], root, tried.records[j], left)
            most += area + spare
            longest[0] = max(longest[0], pieces[j, 2] - pieces[j, 0])
            longest[1] = max(longest[1], pieces[j, 3] - pieces[j, 1])
    waste = style[2] * draw(state) ** 3 if draw(state) < 0.85 else LOOSELY * draw(state)
    count = gather(case, shelf, left, waste, longest, state)
    taste[0] = style[0] * draw(state)
    taste[1] = np.exp((draw(state) - 0.5) * 2.0 + style[1])
    taste[2] = 0.8 + 0.6 * draw(state)
    taste[3] = FREELY * draw(state)
    taste[4] = FARTHER if draw(state) < 0.5 else 0.0
    floor = old + heat * np.log(draw(state) + 1e-12)
    may_lose = most - (floor - aim[2] * wholes) / aim[0] + 1e-3
    new = 0.0
    for j in range(few):
        b = picked[j]
        if roots[j] < 0:
            top = open_whole(case, b, room)
        else:
            room.stack[0] = pieces[j]
            top = 1
        record = tried.records[j]
        n, lost = fill(case, b, top, count, shelf, left, state, (may_lose, ENDLESS), record, tried.rows[j], room)
        if n < 0:
            left[:] = tried.saved
            return 0.0
        may_lose -= lost
        tried.rows[j] = n
        note(case, aim, b, record, n, tried.figures[j])
        new += tried.figures[j, 2]
    if new < floor:
        left[:] = tried.saved
        return 0.0
    for j in range(few):
        b = picked[j]
        rows[b] = tried.rows[j]
        records[b, : rows[b]] = tried.records[j, : rows[b]]
        figures[b] = tried.figures[j]
        changed[b] = True
    return new - old


@compiled
def rounds(case, now, best, state, many, heat, aim, style):
    """``many`` rounds of the search.

    ``heat``: how much worse may be gone on from, on the scale of ``value_of``. Ends early once nothing is left where cost counts
    for nothing. Returns rounds done, and looks for a full board and finds.
    """
    records, rows, figures, left = now
    best_records, best_rows, best_figures, best_left = best
    boards, kinds = case.boards, left.size
    shelf, room = empty_shelf(kinds), empty_room(kinds, case.zones.size)
    tried = empty_tried(records.shape[1], kinds)
    changed = np.ones(boards, np.bool_)
    total, best_total = figures[:, 2].sum(), best_figures[:, 2].sum()
    tries, hits = 0, 0
    for done in range(many):
        if aim[2] == 0 and best_left.sum() == 0:
            return done, tries, hits
        if draw(state) < style[3]:
            tries += 1
            if peel(case, now, state, aim, style, shelf, room, tried, changed):
                hits += 1
                total = figures[:, 2].sum()
        else:
            total += refill(case, now, state, heat, aim, style, shelf, room, tried, changed)
        if total > best_total + 1e-6 and (aim[2] == 0 or left.sum() == 0):  # no place is given up to save
            best_total = total
            for b in range(boards):
                if changed[b]:
                    best_rows[b] = rows[b]
                    best_records[b, : rows[b]] = records[b, : rows[b]]
                    best_figures[b] = figures[b]
                    changed[b] = False
            best_left[:] = left
    return many, tries, hits
