"""A room's year: what wood that lives in it settles at, month by month, and the years that rooms usually have."""

from __future__ import annotations

import math
from collections.abc import Sequence

from nullah.core.values.frozen import frozen
from nullah.core.wood.moisture import equilibrium_moisture

MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
# temperature in deg C and relative humidity in percent, January first, as such rooms in a temperate country have them (common practice,
# no source)
USUAL: dict[str, tuple[tuple[float, float], ...]] = {
    "heated": (
        *((20.0, 34.0), (20.0, 35.0), (20.0, 38.0), (20.0, 43.0), (20.0, 49.0), (21.0, 55.0)),
        *((22.0, 58.0), (22.0, 58.0), (21.0, 54.0), (20.0, 48.0), (20.0, 41.0), (20.0, 36.0)),
    ),
    "unheated": (
        *((4.0, 84.0), (5.0, 81.0), (8.0, 75.0), (11.0, 69.0), (15.0, 65.0), (18.0, 64.0)),
        *((20.0, 65.0), (20.0, 67.0), (17.0, 72.0), (12.0, 78.0), (8.0, 83.0), (5.0, 85.0)),
    ),
    "damp": (
        *((8.0, 80.0), (8.0, 80.0), (9.0, 80.0), (11.0, 80.0), (13.0, 82.0), (15.0, 84.0)),
        *((16.0, 86.0), (16.0, 86.0), (15.0, 84.0), (13.0, 82.0), (10.0, 81.0), (9.0, 80.0)),
    ),
}


def between(temperature: float, dry: float, wet: float) -> tuple[tuple[float, float], ...]:
    """A year of months whose air goes evenly from its driest in January and February to its wettest in July and August and back.

    Args:
        temperature: deg C all year. dry, wet: relative humidity, percent.
    """
    middle, half = (dry + wet) / 2, (wet - dry) / 2
    swing = [math.cos(2 * math.pi * (n - 0.5) / 12) for n in range(12)]
    return tuple((temperature, middle - half * s / swing[0]) for s in swing)


@frozen
class RoomYear:
    """Where wood would settle in the driest and in the wettest month, percent, and which months those are."""

    driest: float
    wettest: float
    driest_month: int
    wettest_month: int


def room_year(months: Sequence[tuple[float, ...]]) -> RoomYear:
    """The driest and the wettest month of a room for wood: the equilibrium of each, without the lag of real boards. Of months that are
    alike the first is named.

    Args:
        months: the number of each, its temperature in deg C and its relative humidity in percent, in any order.

    Raises:
        ValueError: they are not months 1 to 12, each once, or the air of one lies outside its range.
    """
    if sorted(number for number, _, _ in months) != list(range(1, 13)):
        raise ValueError("a room's year has months 1 to 12, each once.")
    settles = {int(number): equilibrium_moisture(celsius, humidity) for number, celsius, humidity in sorted(months)}
    driest, wettest = min(settles, key=settles.__getitem__), max(settles, key=settles.__getitem__)
    return RoomYear(settles[driest], settles[wettest], driest, wettest)
