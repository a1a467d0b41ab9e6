"""One thing that is asked, of a piece or of a joint, and how an answer written as words is read."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from nullah.core.values.frozen import frozen
from nullah.core.values.measure import BadLength, parse_length


class BadAnswer(ValueError):
    """An answer to nothing that is asked, or one that does not serve; one sentence."""


@frozen
class Ask:
    """One thing that is asked. ``type``: length, whole, number, yesno, choice or text; lengths in mm.

    ``least`` and ``most`` bound numbers, both allowed, but ``least`` itself not where it says ``above``; ``options`` are those of a
    choice; ``also`` says what else serves for one, as a wood of the maker's own.
    """

    name: str
    words: str
    type: str
    default: Any
    least: float | None = None
    most: float | None = None
    options: tuple[str, ...] = ()
    above: bool = False
    also: Callable[[str], object] | None = None

    @property
    def positive(self) -> bool:
        """Whether it must be more than zero."""
        return self.least is None or self.least > 0 or (self.above and self.least == 0)

    def read(self, text: str) -> Any:
        """The answer as written: ``84``, ``3 1/2"``, ``1:7``, ``yes``; its bounds are held by ``held``.

        Raises:
            BadAnswer: it is no such answer.
        """
        return _READ[self.type](self, text)

    def held(self, value: Any) -> Any:
        """An answer that keeps to its type and bounds; whole numbers may stand for lengths and numbers.

        Raises:
            BadAnswer: it does not.
        """
        if self.type == "whole" and isinstance(value, float) and value.is_integer():
            value = int(value)  # a whole number that went by way of JSON or a field of numbers
        if not _FITS.get(self.type, _is_number)(self, value):
            raise BadAnswer(f"{self.words.capitalize()}: {_WANTED[self.type].format(options=', '.join(self.options))}.")
        if self.type in ("length", "number"):
            value = float(value)
        low, high = self.least, self.most
        if low is not None and (not value >= low or (self.above and value == low)):
            raise BadAnswer(f"{self.words.capitalize()}: {low:g} is the least, not {value:g}.")
        if high is not None and not value <= high:
            raise BadAnswer(f"{self.words.capitalize()}: {high:g} is the most, not {value:g}.")
        return value

    def described(self) -> dict[str, Any]:
        """It as plain data."""
        return {
            "name": self.name,
            "words": self.words,
            "type": self.type,
            "default": self.default,
            "least": self.least,
            "most": self.most,
            "options": list(self.options),
        }


MOST_LETTERS = 120  # of a text that is answered


def _is_number(_: Ask, value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


_FITS: dict[str, Callable[[Ask, Any], bool]] = {
    "whole": lambda _, v: isinstance(v, int) and not isinstance(v, bool),
    "yesno": lambda _, v: isinstance(v, bool),
    "choice": lambda ask, v: v in ask.options or (isinstance(v, str) and ask.also is not None and bool(ask.also(v))),
    "text": lambda _, v: isinstance(v, str) and 0 < len(v) <= MOST_LETTERS,
}
_WANTED = {
    "whole": "a whole number is wanted",
    "yesno": "yes or no is wanted",
    "choice": "one of {options} is wanted",
    "text": f"a text of at most {MOST_LETTERS} letters is wanted",
    "length": "a length is wanted",
    "number": "a number is wanted",
}


def _length(ask: Ask, text: str) -> float:
    try:
        return parse_length(text)
    except BadLength as error:
        raise BadAnswer(f"{ask.name}: {error}") from None


def _whole(ask: Ask, text: str) -> int:
    if not re.fullmatch(r"\s*[+-]?\d{1,12}\s*", text):
        raise BadAnswer(f'{ask.name} is a whole number, not "{text.strip()[:40]}".')
    return int(text)


def _number(ask: Ask, text: str) -> float:
    """A number, or a slope as 1:7."""
    body = re.sub(r"^\s*1\s*:", "", text).strip().replace(",", ".")
    if not re.fullmatch(r"[+-]?(\d{1,12}(\.\d{0,12})?|\.\d{1,12})", body):
        raise BadAnswer(f'{ask.name} is a number, or a slope as 1:7, not "{text.strip()[:40]}".')
    return float(body)


def _yesno(ask: Ask, text: str) -> bool:
    said = text.strip().lower()
    if said not in ("yes", "no"):
        raise BadAnswer(f'{ask.name} is yes or no, not "{text.strip()[:40]}".')
    return said == "yes"


def _choice(ask: Ask, text: str) -> str:
    said = text.strip().lower()
    found = next((o for o in ask.options if o.lower() == said), None)
    if found is None and ask.also is not None and ask.also(text.strip()):
        return text.strip()
    if found is None:
        raise BadAnswer(f'{ask.name} is one of {", ".join(ask.options)}, not "{text.strip()[:40]}".')
    return found


_READ: dict[str, Callable[[Ask, str], Any]] = {
    "length": _length,
    "whole": _whole,
    "number": _number,
    "yesno": _yesno,
    "choice": _choice,
    "text": lambda _, text: text.strip(),
}
