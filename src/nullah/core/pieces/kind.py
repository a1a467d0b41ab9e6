"""What a kind of piece asks, and how answers written as words become a piece."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from pydantic import ValidationError

from nullah.core.document import Piece
from nullah.core.frozen import frozen
from nullah.core.measure import BadLength, parse_length
from nullah.core.refusals import sentence


class BadAnswer(ValueError):
    """An answer to nothing that is asked, or one that does not serve; one sentence."""


@frozen
class Ask:
    """One thing that is asked. ``type``: length, whole, number, yesno, choice or text; lengths in mm.

    ``least`` and ``most`` bound numbers, both allowed unless something stands against it; ``options`` are those of a choice.
    """

    name: str
    words: str
    type: str
    default: Any
    least: float | None = None
    most: float | None = None
    options: tuple[str, ...] = ()


@frozen
class Kind:
    """A kind of piece: what it is good for, what it asks, and the piece of answers by name, those not given as by default."""

    name: str
    about: str
    asks: tuple[Ask, ...]
    made: Callable[[Mapping[str, Any]], Piece]

    def piece(self, written: Mapping[str, str]) -> Piece:
        """The piece of answers as written: ``84``, ``3 1/2"``, ``1:7``, ``yes``.

        Raises:
            BadAnswer: something is answered that is not asked, or an answer does not serve.
        """
        asks = {a.name: a for a in self.asks}
        for name in written:
            if name not in asks:
                raise BadAnswer(f'{self.name} does not ask "{name[:40]}"; it asks {", ".join(asks) or "nothing"}.')
        try:
            return self.made({name: _READ[asks[name].type](asks[name], text) for name, text in written.items()})
        except ValidationError as error:
            raise BadAnswer(sentence(error)) from None

    def described(self) -> dict[str, Any]:
        """The kind as plain data: name, about and asks."""
        return {
            "name": self.name,
            "about": self.about,
            "asks": [
                {
                    "name": a.name,
                    "words": a.words,
                    "type": a.type,
                    "default": a.default,
                    "least": a.least,
                    "most": a.most,
                    "options": list(a.options),
                }
                for a in self.asks
            ],
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
