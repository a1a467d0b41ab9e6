"""The search: boards emptied and filled again, a worse result gone on from while it is hot, boards filled to the last kept.

``now`` and ``best`` are (records, rows, figures, left); figures by board are area, dead ends, value, worth, across, along.
``aim``: weights of area, scattered waste and cost. ``style``: noise, bias to crosscuts, waste in blocks, share of rounds that
look for a board filled to the last.
"""

from __future__ import annotations

import numpy as np

from nullah.core.layout.compiled.fill import empty_room, fill
from nullah.core.layout.compiled.items import empty_shelf, gather
from nullah.core.layout.compiled.pieces import compiled, draw

FEW = 3  # boards at the most that are emptied together
LOOSELY = 0.4  # waste that is borne in blocks now and then: a cut may stand where no single part ends
ENDLESS = 1e300


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
def weigh(case, figures, rows, aim):
    """The value of each board's filling anew, since the weights are others."""
    for b in range(case.boards):
        area, dead, worth, across, along = figures[b, 0], figures[b, 1], figures[b, 3], figures[b, 4], figures[b, 5]
        figures[b, 2] = value_of(case, aim, b, rows[b] > 0, area, dead, worth, across, along)


@compiled
def put_back(record, rows, left):
    """Put the parts of a record back among those left."""
    for i in range(rows):
        t = int(record[i, 0])
        if t >= 0:
            left[t] += 1


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
def peel(case, now, state, aim, style, shelf, room, saved, fresh, changed):
    """Look for a board filled to the last from all parts that lie on boards not so filled; the boards robbed are filled again.

    Where parts come from boards sawn up without a rest, exact fits are hardly ever chance: a board filled to the last is kept.
    Returns whether anything was changed.
    """
    records, rows, figures, left = now
    boards = case.boards
    b = int(draw(state) * boards)
    doubt = draw(state) < 0.2  # a few of those filled to the last are doubted
    if figures[b, 1] <= case.crumb and not doubt:
        return False
    open_to = np.zeros(boards, np.bool_)
    saved[:] = left
    for e in range(boards):
        open_to[e] = e == b or figures[e, 1] > case.crumb or (doubt and draw(state) < 0.15)
        if open_to[e]:
            put_back(records[e], rows[e], left)
    taste = room.taste
    count = gather(case, shelf, left, 1e-5, case.size[b], state)
    taste[0], taste[1], taste[2] = 0.3 * style[0] * draw(state), np.exp((draw(state) - 0.5) * 2.0), 0.6 * draw(state)
    bounds = (ENDLESS, case.crumb)
    n, area, _, dead, worth, across, along = fill(case, b, count, shelf, left, state, bounds, fresh[0], room)
    left[:] = saved
    if n < 0 or (figures[b, 1] <= case.crumb and area <= figures[b, 0] + 1.0):
        return False
    put_back(records[b], rows[b], left)
    robbed = rob(case, now, b, fresh[0], n, open_to)
    rows[b] = n
    records[b, :n] = fresh[0, :n]
    note(figures[b], case, aim, b, n > 0, area, dead, worth, across, along)
    changed[b] = True
    for e in range(boards):
        if not robbed[e]:
            continue
        count = gather(case, shelf, left, style[2], case.size[e], state)
        taste[0], taste[1], taste[2] = style[0] * draw(state), 1.0, 1.0
        n, area, _, dead, worth, across, along = fill(
            case, e, count, shelf, left, state, (ENDLESS, ENDLESS), records[e], room
        )
        rows[e] = n
        note(figures[e], case, aim, e, n > 0, area, dead, worth, across, along)
        changed[e] = True
    return True


@compiled
def refill(case, now, state, heat, aim, style, shelf, room, saved, fresh, fresh_rows, fresh_figures, picked, changed):
    """Empty one to three boards and fill them again; what is worse by less than the heat stands. Returns what was gained."""
    records, rows, figures, left = now
    u = draw(state)
    few = min(1 if u < 0.4 else (2 if u < 0.9 else 3), case.boards)
    pick(figures, few, picked, state)
    saved[:] = left
    old, spare, wholes = 0.0, 0.0, 0.0
    longest = np.zeros(2)
    for j in range(few):
        b = picked[j]
        old += figures[b, 2]
        spare += case.capacity[b]
        wholes += case.whole[b]
        longest[0], longest[1] = max(longest[0], case.size[b, 0]), max(longest[1], case.size[b, 1])
        put_back(records[b], rows[b], left)
    waste = style[2] * draw(state) ** 3 if draw(state) < 0.85 else LOOSELY * draw(state)
    count = gather(case, shelf, left, waste, longest, state)
    taste = room.taste
    taste[0] = style[0] * draw(state)
    taste[1] = np.exp((draw(state) - 0.5) * 2.0 + style[1])
    taste[2] = 0.8 + 0.6 * draw(state)
    floor = old + heat * np.log(draw(state) + 1e-12)
    may_lose = spare - (floor - aim[2] * wholes) / aim[0] + 1e-3
    new = 0.0
    for j in range(few):
        b = picked[j]
        bounds = (may_lose, ENDLESS)
        n, area, lost, dead, worth, across, along = fill(case, b, count, shelf, left, state, bounds, fresh[j], room)
        if n < 0:
            left[:] = saved
            return 0.0
        may_lose -= lost
        fresh_rows[j] = n
        note(fresh_figures[j], case, aim, b, n > 0, area, dead, worth, across, along)
        new += fresh_figures[j, 2]
    if new < floor:
        left[:] = saved
        return 0.0
    for j in range(few):
        b = picked[j]
        rows[b] = fresh_rows[j]
        records[b, : rows[b]] = fresh[j, : rows[b]]
        figures[b] = fresh_figures[j]
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
    shelf, room, saved = empty_shelf(kinds), empty_room(kinds, case.zones.size), np.empty(kinds, np.int64)
    fresh, fresh_rows, fresh_figures = np.empty((FEW, *records.shape[1:])), np.zeros(FEW, np.int64), np.empty((FEW, 6))
    picked = np.zeros(FEW, np.int64)
    changed = np.ones(boards, np.bool_)
    total, best_total = figures[:, 2].sum(), best_figures[:, 2].sum()
    tries, hits = 0, 0
    for done in range(many):
        if aim[2] == 0 and best_left.sum() == 0:
            return done, tries, hits
        if draw(state) < style[3]:
            tries += 1
            if peel(case, now, state, aim, style, shelf, room, saved, fresh, changed):
                hits += 1
                total = figures[:, 2].sum()
        else:
            total += refill(
                case,
                now,
                state,
                heat,
                aim,
                style,
                shelf,
                room,
                saved,
                fresh,
                fresh_rows,
                fresh_figures,
                picked,
                changed,
            )
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
