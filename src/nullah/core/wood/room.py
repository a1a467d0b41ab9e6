"""A room's year: what wood that lives in it settles at, month by month."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.frozen import frozen
from nullah.core.wood.moisture import equilibrium_moisture


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
