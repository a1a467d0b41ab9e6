"""Which of many known fillings to take, one for each board at the most, so that together they are worth most."""

from __future__ import annotations

import numpy as np

from nullah.core.layout.compiled.pieces import compiled, draw


@compiled
def gain_of(new, old, count, scattered, areas, asked, cover):
    """What is gained where filling ``new`` takes the place of ``old`` (-1: the board is empty)."""
    gain = (scattered[old] if old >= 0 else 0.0) - (scattered[new] if new >= 0 else 0.0)
    for t in range(areas.size):
        more = (count[new, t] if new >= 0 else 0) - (count[old, t] if old >= 0 else 0)
        if more != 0:
            gain += areas[t] * (min(asked[t], cover[t] + more) - min(asked[t], cover[t]))
    return gain


@compiled
def pick(count, start, scattered, areas, asked, flips, heats, state):
    """Simulated annealing over one filling for each board; parts beyond those asked for are worth nothing.

    Args:
        count: parts of each kind in each filling, the fillings of board b from ``start[b]`` on. scattered: what each loses in
            waste. areas, asked: worth of a part, and how many, by kind. heats: at the start and at the end.

    Returns:
        The filling of each board or -1, and what they are worth.
    """
    boards, kinds = start.size - 1, areas.size
    chosen, best = np.full(boards, -1, np.int64), np.full(boards, -1, np.int64)
    cover = np.zeros(kinds, np.int64)
    value, most, heat = 0.0, 0.0, heats[0]
    cooling = (heats[1] / heats[0]) ** (1.0 / flips)
    for _ in range(flips):
        heat *= cooling
        b = int(draw(state) * boards)
        new, old = start[b] + int(draw(state) * (start[b + 1] - start[b] + 1)), chosen[b]
        if new == start[b + 1]:
            new = -1
        if new == old:
            continue
        gain = gain_of(new, old, count, scattered, areas, asked, cover)
        if gain < 0 and gain < heat * np.log(draw(state) + 1e-300):
            continue
        for t in range(kinds):
            cover[t] += (count[new, t] if new >= 0 else 0) - (count[old, t] if old >= 0 else 0)
        chosen[b] = new
        value += gain
        if value > most + 1e-6:
            most = value
            best[:] = chosen
    return best, most
