"""A room's year: what wood that lives in it settles at, month by month."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.frozen import frozen
from nullah.core.wood.moisture import equilibrium_moisture


@frozen
class Month:
    """The air of one month: its number from 1, temperature in deg C, relative humidity in percent."""

    number: int
    temperature: float
    humidity: float


@frozen
class RoomYear:
    """Where wood would settle in the driest and in the wettest month, percent, and which months those are."""

    driest: float
    wettest: float
    driest_month: int
    wettest_month: int


def room_year(months: Sequence[Month]) -> RoomYear:
    """The driest and the wettest month of a room for wood: the equilibrium of each, without the lag of real boards. Of months that are
    alike the first is named.

    Raises:
        ValueError: they are not months 1 to 12, each once, or the air of one lies outside its range.
    """
    if sorted(m.number for m in months) != list(range(1, 13)):
        raise ValueError("a room's year has months 1 to 12, each once.")
    settles = {
        m.number: equilibrium_moisture(m.temperature, m.humidity) for m in sorted(months, key=lambda m: m.number)
    }
    driest, wettest = min(settles, key=settles.__getitem__), max(settles, key=settles.__getitem__)
    return RoomYear(settles[driest], settles[wettest], driest, wettest)
