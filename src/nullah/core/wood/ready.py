"""When a board that dries in a room will be ready: an exponential fitted to its readings, with an interval.

A reading is ``settles + excess * exp(-days / constant)`` and the meter's noise. For each time constant and noise on a grid the two
amounts that are left are a linear regression with normal priors, solved as such (any textbook on Bayesian linear regression); the days
until the excess is a point follow, weighed by how well each pair of the grid tells the readings. The priors are what the trade knows of
boards in rooms (common practice, no source).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from nullah.core.arrays import Floats, np
from nullah.core.frozen import frozen

FEWEST, FEWEST_BESIDE = 5, 3  # readings that are asked for, alone and beside a reference piece
MOST = 1_000
WITHIN = 1.0  # points of where it settles: then it is ready
# percent and points: the middle and the spread that are likely before anything is read
SETTLES, EXCESS = (9.5, 2.0), (8.0, 4.0)
BESIDE = 0.05  # percent: how well a reference piece tells where the board settles
CONSTANTS = 24.0, 0.5, 120  # days: the likely time constant, its spread as a logarithm, and how many are tried
NOISES = tuple(0.06 * 1.3**n for n in range(10))  # points: of the meter, with what is lost in rounding
SCATTERED = 0.6  # points: readings that lie so far off the best curve are no drying
RISEN = 0.3  # points: by so much the later half may stand above the earlier
LEAST_WEIGHT = 1e-6  # of a pair of the grid, to count
HALVINGS = 30
INTERVAL = 0.8  # how likely the true day lies between the earliest and the latest


class NotTold(ValueError):
    """Readings that tell no date; one sentence with the reason."""


@frozen
class Ready:
    """Days after the last reading until a board is within a point of where it settles: the likely one, and between which the true one
    lies four times in five; and where it settles, percent. All days are 0 for a board that is ready."""

    days: float
    earliest: float
    latest: float
    settles: float


def ready(readings: Sequence[tuple[float, float]], reference: float | None = None) -> Ready:
    """When a board will be ready.

    Args:
        readings: (day, moisture in percent), in the order of the days.
        reference: of a piece that has always lived in the room, percent; it says where the board settles.

    Raises:
        NotTold: there are too few, or too many; a day comes twice or a moisture is none; they rise, or scatter.
    """
    _held(readings, reference)
    day = np.array([d for d, _ in readings], dtype=float) - readings[0][0]
    percent = np.array([p for _, p in readings], dtype=float)
    middle = SETTLES if reference is None else (reference, BESIDE)
    steps = np.linspace(-3.0, 3.0, CONSTANTS[2])
    constant = np.repeat(CONSTANTS[0] * np.exp(CONSTANTS[1] * steps), len(NOISES))
    told = _fitted(day, percent, constant, np.tile(np.array(NOISES), CONSTANTS[2]), middle)
    best = int(told.likely.argmax())
    off = percent - told.level[best] - told.excess[best] * np.exp(-day / constant[best])
    if math.sqrt(float((off * off).mean())) > SCATTERED:
        raise NotTold("The readings scatter too much to tell a date: read again, at the same place and the same depth.")
    weights = told.likely + np.repeat(-0.5 * steps**2, len(NOISES))
    weights = np.exp(weights - weights.max())
    weights /= weights.sum()
    counts = weights > LEAST_WEIGHT
    few = weights[counts], told.excess[counts], told.variance[counts], constant[counts]
    last = float(day[-1])
    half = (1 - INTERVAL) / 2
    earliest, middling, latest = (max(0.0, _day(*few, share) - last) for share in (half, 0.5, 1 - half))
    return Ready(middling, earliest, latest, float((weights * told.level).sum()))


def _held(readings: Sequence[tuple[float, float]], reference: float | None) -> None:
    fewest = FEWEST if reference is None else FEWEST_BESIDE
    if len(readings) < fewest:
        beside = "" if reference is None else " beside a reference piece"
        raise NotTold(f"{len(readings)} readings are too few to tell a date; it takes {fewest}{beside}.")
    if len(readings) > MOST:
        raise NotTold(f"{len(readings)} readings are too many; {MOST} is the most.")
    for (before, _), (after, _) in pairwise(readings):
        if after <= before:
            raise NotTold(f"Day {after:g} does not come after day {before:g}.")
    for name, percent in [
        *((f"day {d:g}", p) for d, p in readings),
        *([("the reference", reference)] if reference is not None else []),
    ]:
        if not 0 < percent <= 100:
            raise NotTold(f"A moisture content lies over 0 and up to 100 %; that of {name} is {percent:g}.")
    half = len(readings) // 2
    early, late = readings[:half], readings[-half:]
    if sum(p for _, p in late) - sum(p for _, p in early) > RISEN * half:
        raise NotTold("The readings rise: the board takes up moisture, and no date is told.")


@frozen
class _Fits:
    """For each time constant and noise of the grid: how likely the readings are, where the board settles, its excess on the first day
    and the variance of that; all of one length."""

    likely: Floats
    level: Floats
    excess: Floats
    variance: Floats


def _fitted(day: Floats, percent: Floats, constant: Floats, noise: Floats, settles: tuple[float, float]) -> _Fits:
    """The two amounts by regression with normal priors, for each pair of a time constant and a noise."""
    fall = np.exp(-day / constant[:, None])
    variance = noise * noise
    # precision and its product with the mean, prior and readings together
    a = 1 / settles[1] ** 2 + len(day) / variance
    b = fall.sum(axis=1) / variance
    c = 1 / EXCESS[1] ** 2 + (fall * fall).sum(axis=1) / variance
    u = settles[0] / settles[1] ** 2 + float(percent.sum()) / variance
    v = EXCESS[0] / EXCESS[1] ** 2 + fall @ percent / variance
    whole = a * c - b * b
    level, excess = (c * u - b * v) / whole, (a * v - b * u) / whole
    off = percent - level[:, None] - excess[:, None] * fall
    far = (off * off).sum(axis=1) / variance
    far += ((level - settles[0]) / settles[1]) ** 2 + ((excess - EXCESS[0]) / EXCESS[1]) ** 2
    return _Fits(-0.5 * (far + np.log(whole)) - len(day) * np.log(noise), level, excess, a / whole)


def _day(weight: Floats, excess: Floats, variance: Floats, constant: Floats, share: float) -> float:
    """The day by which the excess is a point with a likelihood of ``share``: by halving."""
    low, high = -1_000.0, 2_000.0
    spread = np.sqrt(2 * variance)
    for _ in range(HALVINGS):
        day = (low + high) / 2
        bound = WITHIN * np.exp(np.minimum(50.0, day / constant))
        far = ((excess - bound) / spread).tolist()
        below = 0.5 * sum(w * math.erfc(x) for w, x in zip(weight.tolist(), far, strict=True))
        low, high = (day, high) if below < share else (low, day)
    return high
