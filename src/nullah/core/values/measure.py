"""Lengths as people write them, in and out. Inside the program every length is a float in mm."""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Any, Literal

from nullah.core.values.frozen import frozen

INCH = 25.4
FOOT = 12 * INCH
LONGEST = 100_000.0  # 100 m: beyond any board; a longer figure is a slip of the keyboard

Unit = Literal["mm", "in"]

_PER_UNIT = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": INCH, '"': INCH, "ft": FOOT, "'": FOOT}


class BadLength(ValueError):
    """A text that is not a length; the message is one sentence that says what to write instead."""


_TOKEN = re.compile(
    r"""\s*(?:
        (?P<mixed>\d+(?:\s+|-)\d+\s*/\s*\d+)   # 3 5/8 or 3-5/8: the hyphen has no spaces round it
      | (?P<frac>\d+\s*/\s*\d+)
      | (?P<num>\d+(?:[.,]\d+)?|[.,]\d+)
      | (?P<unit>mm|cm|m|inches|inch|in|feet|foot|ft|["'\u2032\u2033\u2019\u201d])
      | (?P<op>[-+\u2212])
    )""",
    re.X | re.I,
)
_UNIT_NAMES = {
    "inches": "in",
    "inch": "in",
    "feet": "ft",
    "foot": "ft",
    "\u2032": "'",
    "\u2019": "'",
    "\u2033": '"',
    "\u201d": '"',
}


def _tokens(text: str) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    at = 0
    body = re.sub(r"(?i)(ft|feet|foot|['\u2032\u2019])-(?=\d)", r"\1 ", text.strip())  # 1'-4" is one length, not a sum
    while at < len(body):
        match = _TOKEN.match(body, at)
        if match is None:
            raise BadLength(f'"{text.strip()[:40]}" is not a length; write one like 17.4, 3 5/8 or 18 - 0.4.')
        kind = str(match.lastgroup)
        found.append((kind, match.group(kind)))
        at = match.end()
    return found


def _ratio(text: str) -> float:
    above, below = text.split("/")
    return int(above) / int(below)


def _number(kind: str, text: str, whole: str) -> float:
    try:
        if kind == "frac":
            return _ratio(text)
        if kind == "mixed":
            first, rest = re.split(r"[\s-]+", text, maxsplit=1)
            return int(first) + _ratio(rest)
    except ZeroDivisionError:
        raise BadLength(f'"{whole}" divides by zero; write a fraction like 5/8.') from None
    if re.fullmatch(r"\d+,\d{3}", text):
        raise BadLength(f'"{text}" could be a thousand or a decimal; write it without the comma, or with a point.')
    return float(text.replace(",", "."))


def parse_length(text: str, unit: Unit = "mm") -> float:
    """The length written in ``text``, in mm.

    A bare decimal is in ``unit``, the unit shown; a bare fraction or mixed number is inches; an unspaced hyphen before
    a fraction makes a mixed number, a spaced one subtracts. Feet and inches may follow each other (1' 4 1/2").

    Raises:
        BadLength: the text is no length, or lies beyond 100 m.
    """
    whole = text.strip()[:60]
    tokens = _tokens(text)
    if not tokens:
        raise BadLength("There is no length here; write one like 17.4, 3 5/8 or 18 - 0.4.")
    total, sign, at, wants_term = 0.0, 1.0, 0, True
    after_feet = False
    while at < len(tokens):
        kind, word = tokens[at]
        if kind == "op":
            if wants_term and at > 0:
                raise BadLength(f'"{whole}" has two signs together; write one like 18 - 0.4.')
            sign = 1.0 if word == "+" else -1.0
            wants_term, after_feet = True, False
            at += 1
            continue
        if kind == "unit":
            raise BadLength(f'"{whole}" has a unit without a number before it.')
        if not wants_term and not after_feet:
            raise BadLength(f'"{whole}" has two numbers with nothing between them; write one like 3 5/8 or 18 - 0.4.')
        value = _number(kind, word, whole)
        at += 1
        if at < len(tokens) and tokens[at][0] == "unit":
            name = tokens[at][1].lower()
            per = _PER_UNIT[_UNIT_NAMES.get(name, name)]
            at += 1
        elif after_feet or kind in ("frac", "mixed"):
            per = INCH
        else:
            per = INCH if unit == "in" else 1.0
        total += sign * value * per
        after_feet = per == FOOT
        wants_term = False
    if wants_term:
        raise BadLength(f'"{whole}" ends with a sign; write one like 18 - 0.4.')
    if not math.isfinite(total) or abs(total) > LONGEST:
        raise BadLength(f'"{whole}" is longer than 100 m; check the figure and its unit.')
    return total


def parse_positive(text: str, unit: Unit = "mm", what: str = "a length") -> float:
    """As ``parse_length``, but zero and less raise BadLength, naming ``what`` is wanted."""
    value = parse_length(text, unit)
    if value <= 0:
        raise BadLength(f'"{text.strip()[:40]}" is not more than zero; {what} must be.')
    return value


@frozen
class Shown:
    """A length as shown: the text, and what the text leaves out (``remainder`` mm, true length less shown)."""

    text: str
    remainder: float


def show_fraction(mm: float, denominator: int = 32) -> Shown:
    """``mm`` to the nearest 1/``denominator`` inch, as ``3 5/8"``, with the remainder in mm.

    Raises:
        ValueError: the denominator is not a power of two from 1 to 128.
    """
    if denominator not in (1, 2, 4, 8, 16, 32, 64, 128):
        raise ValueError(f"A rule is not divided into {denominator} parts; use 16, 32 or 64.")
    parts = round(abs(mm) / INCH * denominator)
    whole, rest = divmod(parts, denominator)
    common = math.gcd(rest, denominator)
    fraction = f"{rest // common}/{denominator // common}"
    sign = "-" if mm < 0 and parts else ""
    body = f"{whole}" if not rest else fraction if not whole else f"{whole} {fraction}"
    shown = (-1 if mm < 0 else 1) * parts * INCH / denominator
    return Shown(f'{sign}{body}"', mm - shown)


def show_mm(mm: float, decimals: int = 1) -> Shown:
    """``mm`` to so many decimals, trailing zeros kept off, without a unit, with the remainder in mm."""
    rounded = round(mm, decimals) + 0.0
    text = f"{rounded:.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return Shown("0" if text == "-0" else text, mm - rounded)


def show_length(mm: float, unit: Unit = "mm", denominator: int = 32) -> Shown:
    """``mm`` as shown in ``unit``: to 0.1 mm, or to the nearest 1/``denominator`` inch."""
    return show_fraction(mm, denominator) if unit == "in" else show_mm(mm)


def show_fine(mm: float, unit: Unit = "mm") -> str:
    """What is read or planed off, finer than any rule: to 0.01 mm, or to the thousandth of an inch."""
    return f'{decimals(mm / INCH, 3)}"' if unit == "in" else show_mm(mm, 2).text


SAME = 0.05  # mm: two sizes nearer than this are one: no rule tells them apart, and sums of floats differ by less


def at_least(has: float, wants: float) -> bool:
    """Whether one size is as large as another, as far as a maker can tell."""
    return has >= wants - SAME


def division(unit: Unit = "mm", denominator: int = 32) -> float:
    """The smallest step shown, in mm: what an arrow key moves by and what a drag stops at."""
    return INCH / denominator if unit == "in" else 0.1


_MARK = "\u2063"  # the invisible separator: a marked length that nobody converts still reads as mm


_FINE = chr(0xE0000 + ord("f"))  # of a marked length that is shown as ``show_fine`` does
_TAG = 0xE0000  # characters from here on are seen by nobody: a marked length carries its thousandths of a mm in them


@lru_cache(maxsize=8192)  # an edit says the same thousands of lengths again
def marked(mm: float, unit: str = "", fine: bool = False) -> str:
    """A length inside a sentence, in mm, marked so that ``told`` can put it in another unit; ``unit`` is said after it.

    The mark carries the length itself, so that a figure is rounded once, in the unit it is shown in. ``fine``: shown by ``show_fine``.
    """
    exact = f"{mm * 1000:.0f}" if math.isfinite(mm) else ""
    hidden = "".join(chr(_TAG + ord(c)) for c in exact)
    return f"{_MARK}{show_fine(mm) if fine else show_mm(mm).text}{hidden}{_FINE if fine else ''}{unit}{_MARK}"


def told(sentence: str, unit: Unit = "mm", denominator: int = 32, hair: bool = False) -> str:
    """A sentence with its marked lengths in ``unit``: as they stand in mm, or to the nearest 1/``denominator`` inch; ``hair``: with
    what the rounding leaves out told (``in_words``), for a sentence that one marks or sets by."""

    def shown(match: re.Match[str]) -> str:
        if unit == "mm":
            return match[1] + match[4]
        exact = "".join(chr(ord(c) - _TAG) for c in match[2])
        mm = int(exact) / 1000 if exact else float(match[1])
        if match[3]:
            return show_fine(mm, unit)
        return in_words(mm, unit, denominator) if hair else show_fraction(mm, denominator).text

    if _MARK not in sentence:
        return sentence
    return re.sub(
        f"{_MARK}(-?[0-9.]+)([{chr(_TAG + 0x2D)}{chr(_TAG + 0x30)}-{chr(_TAG + 0x39)}]*)({_FINE}?)([^{_MARK}]*){_MARK}",
        shown,
        sentence,
    )


def decimals(value: float, places: int) -> str:
    """A number to so many decimals; never a minus before nothing."""
    return f"{round(value, places) + 0.0:.{places}f}"


def plain(value: Any) -> Any:
    """Lists and dictionaries with every minus before a zero gone, for files."""
    if isinstance(value, float):
        return value + 0.0
    if isinstance(value, dict):
        return {k: plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    return value


def in_words(mm: float, unit: Unit = "mm", denominator: int = 32) -> str:
    """As ``show_length``, with the rounding told: ``3 5/8" less a hair`` when the true length is shorter."""
    shown = show_length(mm, unit, denominator)
    if unit == "mm" or abs(shown.remainder) < 0.05:
        return shown.text
    return f"{shown.text} {'less' if shown.remainder < 0 else 'and'} a hair"
