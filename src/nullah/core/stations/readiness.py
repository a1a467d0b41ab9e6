"""Whether a board is ready, by its readings: against a reference piece, agreeing with the last, else a day told by its drying."""

from __future__ import annotations

from datetime import date, timedelta
from functools import lru_cache

from nullah.core.document.project import Board, Reference
from nullah.core.values.frozen import frozen
from nullah.core.wood.ready import WITHIN, NotTold, Ready, ready
from nullah.core.wood.seasoned import time_constant
from nullah.core.wood.species import UnknownSpecies, species

PACE = 0.8  # a logarithm: how far rooms differ in the pace that wood and thickness give (common practice, no source)
APART = 3  # days between two readings that are to agree, at the least (common practice)
AGREE = 0.5  # points: two readings that lie no further apart agree (common practice)


@frozen
class Readiness:
    """What the readings of a board say: ``state`` is ready, drying or not told; a sentence; the days it is likely ready, ISO 8601, the
    likely one and the 80 % interval, "" where none is told; where it settles, percent, 0 where not known."""

    state: str
    words: str
    day: str = ""
    days: int = 0  # from the last reading to that day
    earliest: str = ""
    latest: str = ""
    settles: float = 0.0


def reference_of(references: tuple[Reference, ...], species: str) -> float | None:
    """What the latest reading of a reference piece of a species says, percent; None where there is none."""
    mine = [r for r in references if r.species == species]
    return max(mine, key=lambda r: r.day).percent if mine else None


def days_of(board: Board) -> tuple[tuple[float, float], ...]:
    """A board's readings as (days from the first, percent)."""
    if not board.moistures:
        return ()
    first = date.fromisoformat(board.moistures[0].day)
    return tuple((float((date.fromisoformat(m.day) - first).days), m.percent) for m in board.moistures)


def readiness(board: Board, references: tuple[Reference, ...]) -> Readiness | None:
    """What a board's readings say of when it is ready; None where there are none."""
    log, reference = days_of(board), reference_of(references, board.species)
    if not log:
        return None
    if reference is not None and len(log) > 1 and abs(log[-1][1] - reference) <= WITHIN + 1e-9:
        before = [p for d, p in log[:-1] if log[-1][0] - d >= APART]
        if before and abs(before[-1] - log[-1][1]) <= AGREE + 1e-9:
            words = (
                f"Ready: {log[-1][1]:g} % is within a point of the reference, {reference:g} %, and two readings agree."
            )
            return Readiness("ready", words, settles=reference)
    try:
        told = _told(log, reference, time_constant(board.thickness, _density(board.species)))
    except NotTold as why:
        return Readiness("not told", str(why), settles=reference or 0.0)
    last = date.fromisoformat(board.moistures[-1].day)
    day, earliest, latest = (
        (last + timedelta(days=round(d))).isoformat() for d in (told.days, told.earliest, told.latest)
    )
    if told.days <= 0:
        words = (
            f"Within a point of where it settles, {told.settles:.1f} %. Read it again some days from now: two readings are to "
            "agree."
        )
        return Readiness("ready" if reference is None else "drying", words, day, 0, earliest, latest, told.settles)
    words = (
        f"Likely ready {spelt(day)}, four times in five between {spelt(earliest)} and {spelt(latest)}; it settles near "
        f"{told.settles:.1f} %."
    )
    return Readiness("drying", words, day, round(told.days), earliest, latest, told.settles)


@lru_cache(maxsize=256)  # a log says the same until it is added to
def _told(log: tuple[tuple[float, float], ...], reference: float | None, constant: float) -> Ready:
    return ready(log, reference, constant, PACE)


def _density(wood: str) -> float | None:
    try:
        return species(wood).density
    except UnknownSpecies:
        return None


def spelt(day: str) -> str:
    """A day in words: 24 March."""
    one = date.fromisoformat(day)
    names = [
        "January",
        "February",
        "March",
        "April",
        "May",
        "June",
        "July",
        "August",
        "September",
        "October",
        "November",
        "December",
    ]
    return f"{one.day} {names[one.month - 1]}"
