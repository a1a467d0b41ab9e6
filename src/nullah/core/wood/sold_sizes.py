"""What boards are sold as and what they measure, and how much wood there is in them.

Dressed softwood by the American Softwood Lumber Standard (PS 20, from memory), rough hardwood in quarters of an inch, metric sawn
thicknesses as timber yards keep them (common practice, no source).
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from nullah.core.values.frozen import frozen
from nullah.core.values.measure import INCH, Unit

BOARD_FOOT = 144.0  # cubic inches: a foot square and an inch thick
DRESSED_THICK = {
    1.0: 0.75,
    1.25: 1.0,
    1.5: 1.25,
    2.0: 1.5,
    2.5: 2.0,
    3.0: 2.5,
    3.5: 3.0,
    4.0: 3.5,
}  # inches: nominal, dressed
QUARTERED = {1.25: "5/4", 1.5: "6/4"}  # nominal sizes that go by quarters
WIDEST = 16.0  # inches, nominal
NARROW = 8.0  # inches, nominal: from that on dressing takes more of the width
LESS_NARROW, LESS_WIDE = 0.5, 0.75  # inches that dressing takes of the width
METRIC = (19.0, 25.0, 32.0, 38.0, 50.0, 63.0, 75.0)  # mm, sawn
QUARTERS = (3, 16)  # of an inch, the thinnest and the thickest rough hardwood
HOW = "a size is written 1x12 or 5/4x6 for dressed softwood, 4/4 for rough hardwood, or 25 for sawn metric stock"
_CROSSED = re.compile(r"([0-9]+(?:\.[0-9]+)?|[0-9]+/4)\s*(?:x|\N{MULTIPLICATION SIGN})\s*([0-9]+)", re.IGNORECASE)
_QUARTERED = re.compile(r"([0-9]+)/4")


class NotSold(ValueError):
    """A size that is not sold; the message says which are."""


def board_feet(length: float, width: float, thickness: float, count: int = 1) -> tuple[float, float]:
    """How much wood there is in so many boards of one size.

    Args:
        length, width, thickness: as given, mm; a thickness under an inch is not raised to one.

    Returns:
        Board feet, and cubic metres.

    Raises:
        ValueError: a size or the count is not more than zero.
    """
    if min(length, width, thickness) <= 0 or count < 1:
        raise ValueError("length, width, thickness and qty are more than zero.")
    cubic_mm = length * width * thickness * count
    return cubic_mm / INCH**3 / BOARD_FOOT, cubic_mm / 1e9


def sold(nominal: str) -> tuple[float, float | None]:
    """What a board sold by a name measures.

    Args:
        nominal: 1x12 or 5/4x6, dressed softwood; 4/4, rough hardwood; 25, metric sawn.

    Returns:
        Thickness, and width where the name has one, mm.

    Raises:
        NotSold: no board is sold by that name.
    """
    text = nominal.strip()
    if crossed := _CROSSED.fullmatch(text):
        return _dressed(_inches(crossed[1]), float(crossed[2]), text)
    if quartered := _QUARTERED.fullmatch(text):
        count = int(quartered[1])
        if not QUARTERS[0] <= count <= QUARTERS[1]:
            raise NotSold(f"rough hardwood goes from {QUARTERS[0]}/4 to {QUARTERS[1]}/4; {text[:20]} is none of that.")
        return count * INCH / 4, None
    if re.fullmatch(r"[0-9]+(\.[0-9]+)?", text):
        if float(text) not in METRIC:
            raise NotSold(
                f"sawn boards are sold {', '.join(f'{mm:g}' for mm in METRIC)} thick; {text[:20]} is none of these."
            )
        return float(text), None
    raise NotSold(f"{HOW}; not {text[:40]}.")


def _inches(text: str) -> float:
    return int(text.removesuffix("/4")) / 4 if text.endswith("/4") else float(text)


def _dressed(thick: float, wide: float, text: str) -> tuple[float, float]:
    if thick not in DRESSED_THICK or not 2 <= wide <= WIDEST:
        known = ", ".join(f"{inches:g}" for inches in DRESSED_THICK)
        raise NotSold(f"dressed softwood is {known} thick and 2 to {WIDEST:g} wide by name; {text[:20]} is not.")
    return DRESSED_THICK[thick] * INCH, (wide - (LESS_NARROW if wide < NARROW else LESS_WIDE)) * INCH


# ---- what to buy

SOLD_LONG = {
    "mm": tuple(300.0 * n for n in range(6, 21)),
    "in": tuple(round(12 * INCH * n, 4) for n in range(6, 17, 2)),
}  # common practice
STEP_WIDE = {"mm": 25.0, "in": INCH / 2}  # mm that widths sold are apart (common practice, no source)
TRUING = 3.0  # mm of thickness that truing is taken to cost in a board not yet seen
EDGING = 6.0  # mm of width for a straight edge
SPARE = 60.0  # mm of length for squaring the ends of a board not yet seen


@frozen
class ToBuy:
    """So many boards of one size as it is sold: ``name`` of the thickness, and mm."""

    count: int
    name: str
    length: float
    width: float
    thickness: float


def to_buy(
    pieces: Sequence[tuple[float, float]], thickness: float, softwood: bool, unit: Unit, kerf: float
) -> ToBuy | None:
    """Boards that pieces of one thickness can be crosscut from end to end, in the length sold that leaves the least over; None where
    none is sold so long or so thick.

    Args:
        pieces: length and width of each, mm. thickness: wanted, mm; what truing takes is added. unit: how boards are sold where the
            maker buys. kerf: of the crosscut saw, mm.
    """
    thick = _sold_thick(thickness + TRUING, softwood, unit)
    if thick is None or not pieces:
        return None
    name, mm = thick
    wide = math.ceil((max(w for _, w in pieces) + EDGING) / STEP_WIDE[unit]) * STEP_WIDE[unit]
    ways = [(n * long, n, long) for long in SOLD_LONG[unit] if (n := _boards_of(long, [p for p, _ in pieces], kerf))]
    if not ways:
        return None
    _, count, long = min(ways)
    return ToBuy(count, name, long, wide, mm)


def _sold_thick(least: float, softwood: bool, unit: Unit) -> tuple[str, float] | None:
    """The thinnest that is sold and at least so thick: its name, and mm."""
    if unit == "mm":
        sizes = [(f"{mm:g}", mm) for mm in METRIC]
    elif softwood:
        sizes = [
            (f"{QUARTERED.get(nominal, f'{nominal:g}x')} dressed", dressed * INCH)
            for nominal, dressed in DRESSED_THICK.items()
        ]
    else:
        sizes = [(f"{n}/4", n * INCH / 4) for n in range(QUARTERS[0], QUARTERS[1] + 1)]
    return next((s for s in sizes if s[1] >= least), None)


def _boards_of(long: float, pieces: Sequence[float], kerf: float) -> int:
    """How many boards so long the pieces come from, the longest first, each into the first that has room; 0 where one is too long."""
    left: list[float] = []
    for piece in sorted(pieces, reverse=True):
        if piece > long - SPARE:
            return 0
        at = next((i for i, room in enumerate(left) if room >= piece), None)
        if at is None:
            left.append(long - SPARE)
            at = len(left) - 1
        left[at] -= piece + kerf
    return len(left)
