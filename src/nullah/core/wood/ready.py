"""When a board that dries in a room will be ready: an exponential fitted to its readings, with an interval.

A reading is ``settles + excess * exp(-days / constant)`` and the meter's noise. For each time constant and noise on a grid the two
amounts that are left are a linear regression with normal priors, solved as such (any textbook on Bayesian linear regression); the days
until the excess is a point follow, weighed by how well each pair of the grid tells the readings. The priors are what the trade knows of
boards in rooms (common practice, no source).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise

from nullah.core.values.frozen import frozen

FEWEST, FEWEST_BESIDE = 5, 3  # readings that are asked for, alone and beside a reference piece
MOST = 1_000
WITHIN = 1.0  # points of where it settles: then it is ready
# percent and points: the middle and the spread that are likely before anything is read
SETTLES, EXCESS = (9.5, 2.0), (8.0, 4.0)
BESIDE = 0.05  # percent: how well a reference piece tells where the board settles
CONSTANTS = (
    24.0,
    0.5,
    120,
)  # days: the likely time constant of a board not known, its spread as a logarithm, and how many are tried
NOISES = tuple(0.06 * 1.3**n for n in range(10))  # points: of the meter, with what is lost in rounding
SCATTERED = 0.6  # points: readings that lie so far off the best curve are no drying
RISEN = 0.3  # points: by so much the later half may stand above the earlier
COUNTED = 0.999  # of the likelihood, that the pairs of the grid which count hold together
COARSE, UNLIKELY = 4, 12.0  # one in so many constants first; a logarithm by which others may be less likely
REACH = 3.0  # how many of their spreads the time constants reach either way
EXACT, NEARLY = 1e-4, 1e-7  # days, and likelihood: nearer is not looked for
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


def ready(
    readings: Sequence[tuple[float, float]],
    reference: float | None = None,
    constant: float = CONSTANTS[0],
    spread: float = CONSTANTS[1],
) -> Ready:
    """When a board will be ready.

    Args:
        readings: (day, moisture in percent), in the order of the days.
        reference: of a piece that has always lived in the room, percent; it says where the board settles.
        constant: days in which such a board's excess is likely to fall to 1/e (``seasoned.time_constant``), before it is read; and how
            far it may be off, as a logarithm.

    Raises:
        NotTold: there are too few, or too many; a day comes twice or a moisture is none; they rise, or scatter.
    """
    _held(readings, reference)
    first = readings[0][0]
    log = [(d - first, p) for d, p in readings]
    middle = SETTLES if reference is None else (reference, BESIDE)
    fits = _fits(log, middle, (constant, spread))
    best = max(fits, key=lambda f: f.likely)
    off = math.fsum((p - best.level - best.excess * math.exp(-d / best.constant)) ** 2 for d, p in log)
    if math.sqrt(off / len(log)) > SCATTERED:
        raise NotTold("The readings scatter too much to tell a date: read again, at the same place and the same depth.")
    most = max(f.likely + f.prior for f in fits)
    weighed = sorted(((math.exp(f.likely + f.prior - most), f) for f in fits), key=lambda one: -one[0])
    whole = math.fsum(w for w, _ in weighed)
    level = math.fsum(w * f.level for w, f in weighed) / whole
    few, held = [], 0.0
    for w, f in weighed:  # those that hold nearly all of the likelihood
        few.append((w / whole, f))
        held += w / whole
        if held > COUNTED:
            break
    last, half = log[-1][0], (1 - INTERVAL) / 2
    days = _days(few, [share * held for share in (half, 0.5, 1 - half)])
    earliest, middling, latest = (max(0.0, day - last) for day in days)
    return Ready(middling, earliest, latest, level)


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
class _Fit:
    """For one time constant and one noise: how likely the readings are, and the constant before they are read, as logarithms; where the
    board settles, its excess on the first day and the variance of that."""

    likely: float
    prior: float
    level: float
    excess: float
    variance: float
    constant: float


def _fits(log: Sequence[tuple[float, float]], settles: tuple[float, float], likely: tuple[float, float]) -> list[_Fit]:
    """The two amounts by regression with normal priors, for each time constant and noise of the grid that counts; ``log`` from day 0.
    Every fourth constant is tried first; those near ones that are all far less likely than the best are left out."""
    sums = len(log), math.fsum(p for _, p in log), math.fsum(p * p for _, p in log)
    coarse = {n: _at(n, log, sums, settles, likely) for n in range(0, CONSTANTS[2], COARSE)}
    best = {n: max(f.likely + f.prior for f in fits) for n, fits in coarse.items()}
    least = max(best.values()) - UNLIKELY
    out: list[_Fit] = []
    for n in range(CONSTANTS[2]):
        low = n - n % COARSE
        if n in coarse:
            out += coarse[n]
        elif max(best[low], best.get(low + COARSE, -math.inf)) >= least:
            out += _at(n, log, sums, settles, likely)
    return out


def _at(
    n: int,
    log: Sequence[tuple[float, float]],
    sums: tuple[int, float, float],
    settles: tuple[float, float],
    middle: tuple[float, float],
) -> list[_Fit]:
    """The fits for one time constant of the grid; ``sums``: how many readings, their sum and that of their squares."""
    count, plain, square = sums
    step = -REACH + 2 * REACH * n / (CONSTANTS[2] - 1)
    constant = middle[0] * math.exp(middle[1] * step)
    fall = [math.exp(-d / constant) for d, _ in log]
    falls, squares = math.fsum(fall), math.fsum(f * f for f in fall)
    mixed = math.fsum(f * p for f, (_, p) in zip(fall, log, strict=True))
    out = []
    for noise in NOISES:
        variance = noise * noise
        # precision and its product with the mean, prior and readings together
        a, b = 1 / settles[1] ** 2 + count / variance, falls / variance
        c = 1 / EXCESS[1] ** 2 + squares / variance
        u, v = settles[0] / settles[1] ** 2 + plain / variance, EXCESS[0] / EXCESS[1] ** 2 + mixed / variance
        whole = a * c - b * b
        level, excess = (c * u - b * v) / whole, (a * v - b * u) / whole
        off = square - 2 * (level * plain + excess * mixed)
        off += count * level * level + 2 * level * excess * falls + excess * excess * squares
        far = max(0.0, off) / variance
        far += ((level - settles[0]) / settles[1]) ** 2 + ((excess - EXCESS[0]) / EXCESS[1]) ** 2
        likely = -0.5 * (far + math.log(whole)) - count * math.log(noise)
        out.append(_Fit(likely, -0.5 * step * step, level, excess, a / whole, constant))
    return out


def _days(weighed: Sequence[tuple[float, _Fit]], shares: Sequence[float]) -> list[float]:
    """The days by which the excess is a point with each likelihood of ``shares``: by the Illinois method (any textbook on false
    position), since the likelihood only ever grows with the days."""
    terms = [(w, f.excess, 1 / math.sqrt(2 * f.variance), f.constant) for w, f in weighed]

    def likely(day: float) -> float:
        below = 0.0
        for weight, excess, steep, constant in terms:
            below += weight * math.erfc((excess - WITHIN * math.exp(min(50.0, day / constant))) * steep)
        return below / 2

    marks = [(-1_000.0, likely(-1_000.0))]
    for day in (*map(float, range(0, 400, 25)), 2_000.0):  # nearly always it lies in the first
        marks.append((day, likely(day)))
        if marks[-1][1] >= max(shares):
            break
    return [_crossing(likely, marks, share) for share in shares]


def _crossing(likely: Callable[[float], float], marks: Sequence[tuple[float, float]], share: float) -> float:
    """The day by which ``likely`` comes to a share, between two of the marks (day, likelihood)."""
    after = next((n for n, (_, now) in enumerate(marks) if now >= share), len(marks) - 1)
    if after == 0:
        return marks[0][0]
    (low, at_low), (high, at_high) = ((day, now - share) for day, now in marks[after - 1 : after + 1])
    side = 0
    while high - low > EXACT and at_high > at_low:
        day = (low * at_high - high * at_low) / (at_high - at_low)
        now = likely(day) - share
        if abs(now) < NEARLY:
            return day
        if now > 0:
            high, at_high = day, now
            at_low, side = at_low / (2 if side > 0 else 1), 1
        else:
            low, at_low = day, now
            at_high, side = at_high / (2 if side < 0 else 1), -1
    return high
