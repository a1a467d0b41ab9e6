"""Nails, screws, dowels evenly along a length."""

from __future__ import annotations

import math

_EVEN = 1e-9  # share: a division so near to a whole number is one


def spaced(length: float, pitch: float, end: float) -> tuple[int, float]:
    """How many stand along a length, the first and the last so far from its ends, at most ``pitch`` apart; how far apart they are, mm.

    Raises:
        ValueError: the ends leave no room, or a size is none; one sentence.
    """
    if length <= 0 or pitch <= 0 or end < 0:
        raise ValueError("length and pitch are more than zero, and the distance from an end is not less.")
    between = length - 2 * end
    if between < 0:
        raise ValueError("Twice the distance from an end is more than the length.")
    gaps = math.ceil(between / pitch * (1 - _EVEN))
    return gaps + 1, between / gaps if gaps else 0.0
