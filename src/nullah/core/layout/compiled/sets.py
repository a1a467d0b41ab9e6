"""What the exact search is asked, a set of parts on a board, and what it has found, kept by where a piece begins and what is in it."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from nullah.core.layout.compiled.pieces import compiled

FAR = 1e300  # farther than any board
GRID = 1e4  # places are kept to a ten thousandth of a mm
ANYWHERE = -1  # the board where all is clear
KINDS = 32  # kinds of part in a set, at the most
ROWS, HEIGHTS = 256, 1 << 15
TOP_ROW, TOP_HEIGHT, FILLED, WORK, MOST, TURN = range(6)  # what ``tops`` holds


class Wood(NamedTuple):
    """Parts and what they are laid on.

    ``kind`` rows: length, width, from where to where it may begin, first clear rectangle and past the last, joint zone, first
    knot and past the last, area. ``hashes`` by kind. ``board``: which, or ``ANYWHERE`` on clear wood. ``faults``: what nothing
    forgives; ``spoils``: all that anything may have to keep clear of. ``saw``: kerfs. ``limited``: some may lie only so far along.
    """

    kind: np.ndarray
    hashes: np.ndarray
    clears: np.ndarray
    knots: np.ndarray
    faults: np.ndarray
    spoils: np.ndarray
    saw: np.ndarray
    board: int
    limited: bool


@compiled
def wood_of(case, board, kinds, many, hashes):
    """Parts of the first so many of these kinds on a board."""
    kind, own, limited = np.empty((many, 10)), np.empty(many, np.uint64), False
    for i in range(many):
        t = kinds[i]
        g = board * case.zones.size + case.kind_class[t]
        own[i] = hashes[t]
        kind[i, 0], kind[i, 1], kind[i, 2], kind[i, 3] = case.sizes[t, 0], case.sizes[t, 1], -FAR, FAR
        if case.allow[board, t] == 1:
            kind[i, 2], kind[i, 3] = case.limits[board, t, 0], case.limits[board, t, 1]
            limited = True
        kind[i, 4], kind[i, 5] = case.clear_start[g], case.clear_start[g + 1]
        kind[i, 6] = case.zones[case.kind_class[t]]
        kind[i, 7], kind[i, 8], kind[i, 9] = case.knot_start[g], case.knot_start[g + 1], case.sizes[t, 2]
    faults = case.faults[case.fault_start[board] : case.fault_start[board + 1]]
    spoils = case.spoils[case.spoil_start[board] : case.spoil_start[board + 1]]
    return Wood(kind, own, case.clears, case.knots, faults, spoils, case.kerfs, board, limited)


@compiled
def on_clear(wood):
    """The same parts on clear wood anywhere."""
    return Wood(
        wood.kind,
        wood.hashes,
        wood.clears[:0],
        wood.knots[:0],
        wood.faults[:0],
        wood.spoils[:0],
        wood.saw,
        ANYWHERE,
        False,
    )


class Known(NamedTuple):
    """What was found: ``keys`` (place, set, those of it nearest the corner), ``kept`` (how far, asked up to, parted where, how, turn).

    ``hashes`` by kind of part make the number of a set. ``sets`` and ``heights`` are stacks to work on. ``tops``: rows and heights in
    use, slots filled, ways of parting looked at and the most that may be, turn (what was kept in another is free).
    """

    hashes: np.ndarray
    keys: np.ndarray
    kept: np.ndarray
    sets: np.ndarray
    heights: np.ndarray
    tops: np.ndarray


def empty_known(slots: int, kinds: int) -> Known:
    """Room to keep what is found of so many kinds of part; ``slots`` is a power of two."""
    tops = np.zeros(6, np.int64)
    tops[TURN] = 1
    return Known(
        np.random.default_rng(1).integers(1, 2**63, kinds, dtype=np.uint64),
        np.zeros((slots, 3), np.int64),
        np.zeros((slots, 5)),
        np.zeros((ROWS, KINDS), np.int64),
        np.zeros(HEIGHTS),
        tops,
    )


@compiled
def place_of(x, y, way, free):
    """One number for where a set begins, on clear wood anywhere (negative) or on a board, and how it may be parted."""
    place = (int(x * GRID + 0.5) << 26) + (int(y * GRID + 0.5) << 2) + way
    return -1 - place if free else place


@compiled
def set_of(code, y2, board):
    """One number for a set, the height it lies under, and the board."""
    return np.int64(code) ^ (int(y2 * GRID + 0.5) * 0x5851F42D4C957F2D) ^ ((board + 1) * 0x14057B7EF767814F)


@compiled
def find(known, place, of):
    """The slot of a set begun at a place, or the free one where it belongs."""
    keys, kept, turn = known.keys, known.kept, known.tops[TURN]
    h = (np.uint64(place) * np.uint64(0x9E3779B97F4A7C15)) ^ (np.uint64(of) * np.uint64(0xC2B2AE3D27D4EB4F))
    h ^= h >> np.uint64(29)
    h *= np.uint64(0xBF58476D1CE4E5B9)
    at = int(h >> np.uint64(32)) & (keys.shape[0] - 1)
    while kept[at, 4] == turn and (keys[at, 0] != place or keys[at, 1] != of):
        at = (at + 1) & (keys.shape[0] - 1)
    return at


@compiled
def code_of(wood, count):
    """How many parts a set has, one of its kinds, and its code."""
    total, last, code = 0, 0, np.uint64(0)
    for i in range(wood.kind.shape[0]):
        if count[i]:
            total += count[i]
            last = i
            code += np.uint64(count[i]) * wood.hashes[i]
    return total, last, code


@compiled
def next_split(kinds, a, b, hashes, code):
    """The next way to part a set in two, a and b; returns the code of a, 0 when all were met."""
    i = 0
    while i < kinds and b[i] == 0:
        code -= np.uint64(a[i]) * hashes[i]
        b[i] = a[i]
        a[i] = 0
        i += 1
    if i == kinds:
        return np.uint64(0)
    a[i] += 1
    b[i] -= 1
    return code + hashes[i]


@compiled
def subset(wood, count, code, part, rest):
    """The part of a set that has this code, and the rest."""
    kinds = wood.kind.shape[0]
    for i in range(kinds):
        part[i], rest[i] = 0, count[i]
    now = next_split(kinds, part, rest, wood.hashes, np.uint64(0))
    while now and now != code:
        now = next_split(kinds, part, rest, wood.hashes, now)
    return now != 0
