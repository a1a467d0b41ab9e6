"""Parts exchanged among pieces of a few boards and those without a place, each piece then parted by the exact search.

A few parts are taken out of each piece and all that is without a place is offered to them, largest first with some chance: what
the exact search says fits is kept. It sees what filling part by part does not find, where few parts lie in a piece.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from nullah.core.layout.compiled.exact import YES, fits
from nullah.core.layout.compiled.fill import empty_room, fill
from nullah.core.layout.compiled.freeing import free_parts
from nullah.core.layout.compiled.items import empty_shelf, gather
from nullah.core.layout.compiled.pieces import compiled, draw
from nullah.core.layout.compiled.records import ENDLESS, around, note, outside, put_back, within
from nullah.core.layout.compiled.rounds import FEW, empty_tried, is_better, keep_best, pick, take_on
from nullah.core.layout.compiled.sets import KINDS, MOST, wood_of

PARTS = 7  # in one piece, at the most
LOOK, CERTAIN = 300, 20_000  # ways of parting looked at for one question, and again for what is said to fit
ROUND = 20_000  # ways looked at in all of one round, about
WHOLE = 0.6  # how often a whole board is taken where it has few enough parts
WIDER = 0.8  # how often the piece around one is taken instead
OUT = 4  # parts taken out of a piece, at the most
NOWHERE = -2


class Pool(NamedTuple):
    """What is exchanged in a round: ``kinds`` of part, how many of each ``rest`` without a place, ``turn`` in which they are offered;
    by board picked its ``pieces``, their rows ``roots`` (-1 a whole board) and ``count`` of each kind in them."""

    kinds: np.ndarray
    rest: np.ndarray
    turn: np.ndarray
    pieces: np.ndarray
    roots: np.ndarray
    count: np.ndarray


@compiled
def inside(record, n, root):
    """How many parts lie in the piece of a row; -1 for the whole board."""
    many = 0
    for i in range(n):
        if record[i, 0] >= 0 and (root < 0 or within(record, i, root)):
            many += 1
    return many


@compiled
def piece_for(case, board, record, n, state, piece):
    """A piece with few enough parts: its row, -1 for the whole board, or ``NOWHERE``. Its sides go to ``piece``."""
    first = case.open_start[board]
    alone = case.open_start[board + 1] == first + 1
    if alone and (n == 0 or (inside(record, n, -1) <= PARTS and draw(state) < WHOLE)):
        piece[:] = case.opens[first]
        return -1
    root = int(draw(state) * n)
    if n == 0 or inside(record, n, root) > PARTS:
        return NOWHERE
    wider = around(record, n, root)
    while wider >= 0 and inside(record, n, wider) <= PARTS and draw(state) < WIDER:
        root = wider
        wider = around(record, n, root)
    piece[:] = record[root, 5:9]
    return root


@compiled
def empty_pieces(now, picked, few, pool, tried):
    """Put the parts of the pieces among those left; all kinds left are in the pool. Returns how many kinds."""
    records, rows, _, left = now
    before = np.zeros((FEW, left.size), np.int64)
    for j in range(few):
        b, root = picked[j], pool.roots[j]
        before[j] -= left
        tried.rows[j] = 0
        if root >= 0:
            tried.rows[j], _, _ = outside(records[b], rows[b], root, tried.records[j], left)
        else:
            put_back(records[b], rows[b], left)
        before[j] += left
    many = 0
    for turn in range(2):  # those in the pieces first
        for t in range(left.size):
            lay = before[:few, t].sum()
            if left[t] > 0 and many < KINDS and (lay > 0) == (turn == 0):
                pool.kinds[many], pool.rest[many] = t, left[t] - lay
                pool.count[:few, many] = before[:few, t]
                many += 1
    return many


@compiled
def take_out(case, pool, many, few, state):
    """Take some parts out of each piece, and say in which turn kinds are offered. Returns the area that was in the pieces."""
    area = 0.0
    for j in range(few):
        held = 0
        for i in range(many):
            held += pool.count[j, i]
            area += pool.count[j, i] * case.sizes[pool.kinds[i], 2]
        out = min(held, 1 + int(OUT * draw(state) ** 2))
        for gone in range(out):
            nth, i = int(draw(state) * (held - gone)), 0
            while nth >= pool.count[j, i]:
                nth -= pool.count[j, i]
                i += 1
            pool.count[j, i] -= 1
            pool.rest[i] += 1
    noise, weight = draw(state), np.empty(many)
    for i in range(many):
        weight[i] = case.sizes[pool.kinds[i], 2] * (1.0 + noise * draw(state))
        j = i
        while j > 0 and weight[pool.turn[j - 1]] < weight[i]:
            pool.turn[j] = pool.turn[j - 1]
            j -= 1
        pool.turn[j] = i
    return area


@compiled
def offer(case, picked, few, pool, many, known, state):
    """Offer all that is without a place to the pieces. Returns the area that lies in them, and how much was looked at."""
    looked, area = 100, 0.0
    for e in range(many):
        i = pool.turn[e]
        first = int(draw(state) * few)
        for k in range(few):
            j = (first + k) % few
            b = picked[j]
            if pool.rest[i] == 0 or case.allow[b, pool.kinds[i]] == 0 or looked > ROUND:
                continue
            wood = wood_of(case, b, pool.kinds, many, known.hashes)
            yes = True
            while yes and pool.rest[i] > 0:
                pool.count[j, i] += 1
                answer, looks = fits(wood, pool.pieces[j], pool.count[j, :many], known, LOOK)
                yes = answer == YES
                looked += looks + 10
                pool.count[j, i] -= 0 if yes else 1
                pool.rest[i] -= 1 if yes else 0
    for j in range(few):
        for i in range(many):
            area += pool.count[j, i] * case.sizes[pool.kinds[i], 2]
    return area, looked


@compiled
def lay_anew(case, now, picked, few, pool, many, known, aim, tried, shelf, room, state):
    """Cut each piece for what lies in it now and fill what is left over. Returns whether all could be cut, and the boards' value."""
    left, value = now[3], 0.0
    room.taste[:] = 0.0
    room.taste[1] = room.taste[2] = 1.0
    for i in range(many):
        left[pool.kinds[i]] = pool.rest[i]
    for j in range(few):
        b, n, record, piece = picked[j], tried.rows[j], tried.records[j], pool.pieces[j]
        count = pool.count[j, :many]
        room.sawn[:] = 0.0
        room.stack[0] = piece
        top = 1
        if n + 6 * count.sum() + 16 > record.shape[0]:
            return False, 0.0
        if count.sum() > 0:
            wood = wood_of(case, b, pool.kinds, many, known.hashes)
            answer, _ = fits(wood, piece, count, known, CERTAIN)
            if answer != YES:
                return False, 0.0
            known.tops[MOST] += CERTAIN
            n, top = free_parts(wood, known, pool.kinds, piece, record, n, room.stack, 0, room.sawn)
            if n < 0:
                return False, 0.0
        offered = gather(case, shelf, left, 1e-5, case.size[b], state)
        tried.rows[j], _ = fill(case, b, top, offered, shelf, left, state, (ENDLESS, ENDLESS), record, n, room)
        note(case, aim, b, record, tried.rows[j], tried.figures[j])
        value += tried.figures[j, 2]
    return True, value


@compiled
def exchange(case, now, state, heat, aim, shelf, room, tried, changed, known, pool):
    """One round: what is worse by less than the heat, by area or by all that counts, stands. Returns gain, how much was looked at."""
    records, rows, figures, left = now
    picked, old = tried.picked, 0.0
    few = pick(figures, picked, state)
    for j in range(few):
        b = picked[j]
        old += figures[b, 2]
        pool.roots[j] = piece_for(case, b, records[b], rows[b], state, pool.pieces[j])
        if pool.roots[j] == NOWHERE:
            return 0.0, 100
    tried.saved[:] = left
    many = empty_pieces(now, picked, few, pool, tried)
    lay = take_out(case, pool, many, few, state)
    lies, looks = offer(case, picked, few, pool, many, known, state)
    floor = heat * np.log(draw(state) + 1e-12)
    fine, new = lies - lay >= floor, 0.0
    if fine:
        fine, new = lay_anew(case, now, picked, few, pool, many, known, aim, tried, shelf, room, state)
    if not fine or (draw(state) < 0.5 and new - old < floor):
        left[:] = tried.saved
        return 0.0, looks
    take_on(now, few, tried, changed)
    return new - old, looks


@compiled
def exchanges(case, now, best, state, looks, heat, aim, known):
    """Rounds of exchange until so much was looked at or nothing is left. Returns what was looked at beyond."""
    records, _, figures, left = now
    shelf, room = empty_shelf(left.size), empty_room(left.size, case.zones.size)
    tried = empty_tried(records.shape[1], left.size)
    pool = Pool(
        np.zeros(KINDS, np.int64),
        np.zeros(KINDS, np.int64),
        np.zeros(KINDS, np.int64),
        np.zeros((FEW, 4)),
        np.zeros(FEW, np.int64),
        np.zeros((FEW, KINDS), np.int64),
    )
    changed = np.ones(case.boards, np.bool_)
    total, best_total = figures[:, 2].sum(), best[2][:, 2].sum()
    while looks > 0 and best[3].sum() > 0:
        gained, looked = exchange(case, now, state, heat, aim, shelf, room, tried, changed, known, pool)
        looks -= looked
        total += gained
        if is_better(now, best, total, best_total):
            best_total = total
            keep_best(now, best, changed)
    return -looks
