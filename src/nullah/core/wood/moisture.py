"""Moisture and movement.

Equilibrium moisture content: Hailwood-Horrobin, Wood Handbook (FPL-GTR-282) eq. 4-5 in deg C. Change of a dimension:
the same, chapter 13: the change coefficient within 6 to 14 %, the total shrinkage outside it.
"""

from __future__ import annotations

import math

from nullah.core.wood.species import Species

FIBRE_SATURATION = 30.0  # percent: above it wood does not move
LOW, HIGH = 6.0, 14.0  # the range in which the change coefficient holds
RING_ANGLE = {"flat": 0.0, "rift": 45.0, "quarter": 90.0}  # degrees, unless measured


def equilibrium_moisture(temperature: float, humidity: float) -> float:
    """Moisture content in percent that wood settles at.

    Args:
        temperature: air temperature, deg C, -20 to 120.
        humidity: relative humidity in percent, 0 to 100.

    Raises:
        ValueError: either lies outside its range.
    """
    if not -20 <= temperature <= 120:
        raise ValueError(f"{temperature:g} deg C is outside -20 to 120 deg C.")
    if not 0 <= humidity <= 100:
        raise ValueError(f"{humidity:g} % is no relative humidity; it goes from 0 to 100.")
    t, h = temperature, humidity / 100
    w = 349 + 1.29 * t + 0.0135 * t**2
    k = 0.805 + 0.000736 * t - 0.00000273 * t**2
    k1 = 6.27 - 0.00938 * t - 0.000303 * t**2
    k2 = 1.91 + 0.0407 * t - 0.000293 * t**2
    kh = k * h
    hydrate = (k1 * kh + 2 * k1 * k2 * kh**2) / (1 + k1 * kh + k1 * k2 * kh**2)
    return 1800 / w * (kh / (1 - kh) + hydrate)


def coefficient(shrinkage: float, start: float, end: float) -> float:
    """Change per unit of dimension and per percent moisture, for a total ``shrinkage`` in percent.

    Both moistures within 6 to 14 %: ``1 / (3000/S - 20)``; else ``1 / (3000/S - 30 + M1)``, from the moisture it starts at.
    """
    if LOW <= start <= HIGH and LOW <= end <= HIGH:
        return 1 / (3000 / shrinkage - 20)
    return 1 / (3000 / shrinkage - FIBRE_SATURATION + start)


def change(wood: Species, dimension: float, start: float, end: float, ring_angle: float) -> float:
    """Change in mm of a dimension across the grain, negative when it shrinks.

    Args:
        dimension: its present size, mm.
        start, end: moisture content in percent; both are taken as 30 where they exceed it.
        ring_angle: of the growth rings to the face, degrees, 0 (flatsawn) to 90 (quartersawn); for a thickness give its
            complement.

    Raises:
        ValueError: a moisture below 0, an angle outside 0 to 90.
    """
    if start < 0 or end < 0:
        raise ValueError("Moisture content is not below 0 %.")
    if not 0 <= ring_angle <= 90:
        raise ValueError(f"A ring angle goes from 0 to 90 degrees; {ring_angle:g} does not.")
    first, last = min(start, FIBRE_SATURATION), min(end, FIBRE_SATURATION)
    cos2 = math.cos(math.radians(ring_angle)) ** 2
    tangential, radial = coefficient(wood.tangential, first, last), coefficient(wood.radial, first, last)
    return dimension * (tangential * cos2 + radial * (1 - cos2)) * (last - first)


def sawn_name(ring_angle: float) -> str:
    """What the trade calls a board whose rings stand at ``ring_angle`` degrees to the face."""
    return "flatsawn" if ring_angle < 30 else "rift" if ring_angle < 60 else "quartersawn"
