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
from nullah.core.layout.compiled.pieces import compiled, draw
from nullah.core.layout.compiled.records import ENDLESS, note, open_whole, outside, put_back, some_piece
from nullah.core.layout.encoding import COLUMNS

FEW = 3  # boards at the most of which something is emptied together
PLACED = 1e-3  # mm2: areas that have a place and differ by less are as much
ONE, TWO = 0.2, 0.75  # how often it is of one; of no more than two
FREELY = 0.5  # at the most, how often a cut is made where no part is laid yet
FARTHER = 0.3  # how often a part is laid in the farther corner of what is clear
LOOSELY = 0.4  # waste that is borne in blocks now and then: a cut may stand where no single part ends


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
def pick(figures, picked, state):
    """One to three boards, all others: any, or rather those with much that is scattered. Returns how many."""
    u = draw(state)
    few = min(1 if u < ONE else (2 if u < TWO else FEW), figures.shape[0])
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
    return few


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
def take_on(now, few, tried, changed):
    """What was tried of the boards picked stands."""
    records, rows, figures, _ = now
    for j in range(few):
        b = tried.picked[j]
        rows[b] = tried.rows[j]
        records[b, : rows[b]] = tried.records[j, : rows[b]]
        figures[b] = tried.figures[j]
        changed[b] = True


@compiled
def refill(case, now, state, heat, aim, style, shelf, room, tried, changed):
    """Empty something of one to three boards and fill it again; what is worse by less than the heat stands. Returns what was gained."""
    records, rows, figures, left = now
    picked, taste = tried.picked, room.taste
    few = pick(figures, picked, state)
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
    take_on(now, few, tried, changed)
    return new - old


@compiled
def keep_best(now, best, changed):
    """What was changed is the best so far."""
    records, rows, figures, left = now
    best_records, best_rows, best_figures, best_left = best
    for b in range(rows.size):
        if changed[b]:
            best_rows[b] = rows[b]
            best_records[b, : rows[b]] = records[b, : rows[b]]
            best_figures[b] = figures[b]
            changed[b] = False
    best_left[:] = left


@compiled
def is_better(now, best, total, best_total):
    """Whether what stands now is better than the best so far: more has a place, or as much has and the value is more. No place is given
    up for a value."""
    area, best_area = now[2][:, 0].sum(), best[2][:, 0].sum()
    return area > best_area + PLACED or (area > best_area - PLACED and total > best_total + 1e-6)


@compiled
def rounds(case, now, best, state, many, heat, aim, style):
    """``many`` rounds of the search.

    ``heat``: how much worse may be gone on from, on the scale of ``value_of``. Ends early once nothing is left where cost counts
    for nothing. Returns rounds done, and looks for a full board and finds.
    """
    records, _, figures, left = now
    kinds = left.size
    shelf, room = empty_shelf(kinds), empty_room(kinds, case.zones.size)
    tried = empty_tried(records.shape[1], kinds)
    changed = np.ones(case.boards, np.bool_)
    total, best_total = figures[:, 2].sum(), best[2][:, 2].sum()
    tries, hits = 0, 0
    for done in range(many):
        if aim[2] == 0 and best[3].sum() == 0:
            return done, tries, hits
        if draw(state) < style[3]:
            tries += 1
            if peel(case, now, state, aim, style, shelf, room, tried, changed):
                hits += 1
                total = figures[:, 2].sum()
        else:
            total += refill(case, now, state, heat, aim, style, shelf, room, tried, changed)
        if is_better(now, best, total, best_total):
            best_total = total
            keep_best(now, best, changed)
    return many, tries, hits
