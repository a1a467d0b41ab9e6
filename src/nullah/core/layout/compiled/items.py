"""What is laid: single parts, and blocks of a few that nearly fit together, so that a cut may stand where no single part ends."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from nullah.core.layout.compiled.pieces import EPS, compiled, draw

MEMBERS = 4  # parts a block is made of, at the most
BLOCKS = 64  # blocks at the most in one round


class Shelf(NamedTuple):
    """The items of a round, singles first, largest first.

    ``items`` rows: length, width, area of parts, class, direction (0 in a row, 1 side by side), weight by its size. ``members``: the
    kinds in each, -1 for none; ``halves``: the two items a block was joined from, -1 for a single; ``live``: may be laid now.
    """

    items: np.ndarray
    members: np.ndarray
    halves: np.ndarray
    live: np.ndarray


@compiled
def empty_shelf(kinds):
    """A shelf with room for every kind, the blocks, and one that is only tried."""
    most = kinds + BLOCKS + 1
    return Shelf(
        np.empty((most, 6)),
        np.empty((most, MEMBERS), np.int64),
        np.empty((most, 2), np.int64),
        np.empty(most, np.bool_),
    )


@compiled
def available(shelf, item, left):
    """Whether enough of every part of the item is left."""
    members = shelf.members
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
def share(shelf, one, other):
    """Whether two items have a kind of part in common."""
    members = shelf.members
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
def gather(case, shelf, left, waste, longest, state):
    """Items to lay: every kind of part of which any is left, then blocks of two to four that waste no more than ``waste``.

    ``longest``: length and width of the largest board they are for. Returns how many.
    """
    items, members, halves, kerfs, sizes = shelf.items, shelf.members, shelf.halves, case.kerfs, case.sizes
    n = 0
    for t in range(left.size):
        if left[t] <= 0:
            continue
        items[n, 0], items[n, 1], items[n, 2], items[n, 3], items[n, 4] = (
            sizes[t, 0],
            sizes[t, 1],
            sizes[t, 2],
            case.kind_class[t],
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
                        if length > longest[0] + EPS:
                            continue
                        lost = abs(items[i, 1] - items[j, 1]) * (
                            items[i, 0] if items[i, 1] < items[j, 1] else items[j, 0]
                        )
                    else:
                        length, width = max(items[i, 0], items[j, 0]), items[i, 1] + kerfs[1] + items[j, 1]
                        if width > longest[1] + EPS:
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
                    if not available(shelf, n, left):
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
