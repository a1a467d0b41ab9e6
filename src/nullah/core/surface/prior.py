"""What is known of boards before they are read: how far they bow, cup and twist, how unevenly, and how rough they are.

All of it grows with the board: a long one bows more than a short one, a wide one cups more (common practice, no source; boards of
several makings bear it out, see the tests). How uneven, how rough and how badly warped *this* board is, is not known beforehand but
learnt from what is read of it: each of ``SCALES`` is tried, and weighs by how well it foretells the readings.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import product
from math import sqrt
from typing import Any

from nullah.core.values.frozen import frozen

Exp = Callable[[Any], Any]  # of a number, or of an array


@frozen
class Prior:
    """One standard deviation each, mm: ``shapes`` the bow, the cup and the twist at the board's rim; ``local`` what is rough; ``taper``
    how far the thickness is from what was typed, its slopes along and across, and its hollow."""

    shapes: tuple[float, float, float]
    local: float
    taper: tuple[float, float, float, float]


@frozen
class Scale:
    """How a board may be: times as warped and as rough as most; ``uneven``, as a share of the warp; how many are, of one."""

    warped: float
    uneven: float
    local: float
    share: float


SCALES = tuple(
    Scale(warped, uneven, local, a * b * c)
    for (warped, a), (uneven, b), (local, c) in product(
        ((1.0, 0.8), (3.0, 0.2)), ((0.08, 0.4), (0.25, 0.4), (0.6, 0.2)), ((0.33, 0.35), (1.0, 0.45), (2.5, 0.2))
    )
)


def rough(length: float, width: float) -> Prior:
    """Of a board as it comes, so long and wide, mm."""
    metres, wide = length / 1000, width / 200
    shapes = 1.2 * metres**1.5 + 0.3, 0.6 * wide**1.3 + 0.15, sqrt(metres * wide) + 0.2
    return Prior(shapes, 0.18, (1.0, 0.4, 0.3, 0.2))


def worked(removed: float) -> Prior:
    """Of what a face is off once it is planed, from what was foreseen of it: by how much came off, mm, root mean square. A plane in
    other hands, at another set, takes a quarter more or less (common practice, no source)."""
    warp, local = 0.08 + 0.25 * removed, 0.05 + 0.08 * removed
    return Prior(
        (warp, warp, warp), min(local, 0.3), (0.1 + 0.25 * removed, 0.08 + 0.1 * removed, 0.08 + 0.1 * removed, 0.08)
    )


def turned(unsure: float) -> Prior:
    """Of what the back is off once the face is true, from what readings foresaw of it that left the board so ``unsure``, mm."""
    warp = 0.15 + unsure
    return Prior((warp, warp, warp), 0.1 + 0.3 * unsure, (0.3 + unsure, 0.3, 0.3, 0.2))


def bend(u: Any, p: Any, exp: Exp) -> Any:
    """How heights at two places of a board go together, for a board as most are; u and v from -1 to 1, ``exp`` of numbers or arrays.
    Here of what bends along: once differentiable (Matern, 3/2; Rasmussen and Williams 2006, eq. 4.17, from memory), so that what is
    not read is not taken for sure."""
    far = abs(u - p) * (sqrt(3.0) / _BEND)
    return (1 + far) * exp(-far)


def alongs(half: float, u: Any, p: Any, exp: Exp) -> tuple[Any, ...]:
    """Of what is local, along: the waves a saw leaves, humps and hollows of two sizes, ends that are sprung. Each times what
    ``acrosses`` has in its place, all of them together, is how two places go together. ``half``: of the length, mm."""
    along = (u - p) * half
    humps = [share * exp(-((along / reach) ** 2) / 2) for share, reach in _HUMPS]
    sprung = sum(exp(-(2 + u + p) * (half / reach)) + exp(-(2 - u - p) * (half / reach)) for reach in _SPRUNG)
    return _WAVES * exp(-((along / _WAVE) ** 2) / 2), *humps, _ENDS * sprung


def acrosses(half: float, v: Any, q: Any, exp: Exp) -> tuple[Any, ...]:
    """The same across: waves go right across, humps end. ``half``: of the width, mm."""
    humps = [exp(-(((v - q) * half / min(reach, half)) ** 2) / 2) for _, reach in _HUMPS]
    return exp(-((v - q) ** 2) / 18), *humps, 0.8 + 0.2 * v * q


_BEND = 0.5  # of u: over which the bend goes together
_WAVES, _WAVE = 0.35, 110.0  # share, and mm
_HUMPS = ((0.3, 60.0), (0.35, 180.0))  # shares, and mm
_ENDS, _SPRUNG = 2.0, (50.0, 110.0)  # so many times as rough, in variance, each; mm
