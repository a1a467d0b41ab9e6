"""Calculators run on inputs as they are written, by the window and by the command line; they themselves are in ``calculators``.

Numbers without a unit are mm, deg C, percent, degrees.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from typing import Any

from nullah.core.calculators.calculator import COLUMNS, FILES, Answers, BadReckoning, Calculator
from nullah.core.calculators.calculators import CALCULATORS
from nullah.core.surface.linear import Singular
from nullah.core.values.measure import BadLength, parse_length
from nullah.core.wood.moisture import RING_ANGLE
from nullah.core.wood.species import species

__all__ = ["CALCULATORS", "COLUMNS", "FILES", "BadReckoning", "Calculator", "described", "number", "reckon"]

_NUMBER = re.compile(r"^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$", re.I)
DIGITS = 6


def number(name: str, text: str, units: tuple[str, ...] = ()) -> float:
    """A finite number, with one of ``units`` after it or none.

    Raises:
        BadReckoning: it is not.
    """
    body = text.strip()
    for unit in units:
        if body.lower().endswith(unit.lower()):
            body = body[: -len(unit)].strip()
            break
    if not _NUMBER.match(body) or not math.isfinite(float(body)):
        raise BadReckoning(f'{name} is not a number: "{text.strip()[:40]}".')
    return float(body)


def _length(name: str, text: str) -> float:
    try:
        return parse_length(text)
    except BadLength as error:
        raise BadReckoning(f"{name}: {error}") from None


def _temperature(name: str, text: str) -> float:
    body = text.strip()
    if body.lower().endswith("f"):
        return (number(name, body[:-1].removesuffix("\u00b0")) - 32) * 5 / 9
    return number(name, body, ("\u00b0c", "c"))


def _weight(name: str, text: str) -> float:
    """Kilograms; pounds with lb after them."""
    body = text.strip()
    if body.lower().endswith("lb"):
        return number(name, body[:-2]) * 0.45359237
    return number(name, body, ("kg",))


def _slope(name: str, text: str) -> float:
    """1:7 as 7; a bare 7 the same."""
    parts = text.split(":")
    if len(parts) == 2:
        rise, run = number(name, parts[0]), number(name, parts[1])
        if rise <= 0 or run <= 0:
            raise BadReckoning(f"{name} is written like 1:7, both more than zero.")
        return run / rise
    if len(parts) > 2:
        raise BadReckoning(f"{name} is written like 1:7.")
    return number(name, text)


def _cut(name: str, text: str) -> float:
    if text.strip().lower() in RING_ANGLE:
        return RING_ANGLE[text.strip().lower()]
    raise BadReckoning(f"{name} is flat, rift or quarter.")


def _whole(name: str, text: str) -> int:
    value = number(name, text)
    if value != int(value) or abs(value) > 10_000:
        raise BadReckoning(f"{name} is a whole number.")
    return int(value)


def _lengths(name: str, text: str) -> tuple[float, ...]:
    """Lengths with commas between them."""
    return tuple(_length(name, one) for one in text.split(","))


_READ: dict[str, Callable[[str, str], Any]] = {
    "length": _length,
    "lengths": _lengths,
    "temperature": _temperature,
    "percent": lambda n, t: number(n, t, ("%",)),
    "whole": _whole,
    "angle": lambda n, t: number(n, t, ("\u00b0", "deg")),
    "share": number,
    "weight": _weight,
    "slope": _slope,
    "cut": _cut,
    "species": lambda _, t: species(t),
    "size": lambda _, t: t,
}


def reckon(name: str, given: Mapping[str, str], files: Mapping[str, Callable[[str], Any]] | None = None) -> Answers:
    """Run a calculator on inputs as written.

    Args:
        files: for each kind of ``FILES`` what reads one from its name as written; None where there are no files.

    Returns:
        Results by name, floats rounded to 6 decimals.

    Raises:
        BadReckoning: no such calculator or input, one missing, or a value that does not serve.
    """
    calculator = CALCULATORS.get(name)
    if calculator is None:
        raise BadReckoning(f'There is no calculator "{name[:40]}"; there are {", ".join(CALCULATORS)}.')
    known = {i.name for i in calculator.inputs}
    for key in given:
        if key not in known:
            raise BadReckoning(
                f'{name} has no input "{key[:40]}"; it takes {", ".join(i.name for i in calculator.inputs)}.'
            )
    values: list[Any] = []
    for wanted in calculator.inputs:
        text = given.get(wanted.name, wanted.default)
        if not text and wanted.default == "":
            values.append(None)
            continue
        if text is None or not text.strip():
            raise BadReckoning(f"{name} needs {wanted.name}: {wanted.about}.")
        if wanted.kind in FILES:
            if files is None:
                raise BadReckoning(f"There is no file to read {wanted.name} from here.")
            values.append(files[wanted.kind](text))
        else:
            try:
                values.append(_READ[wanted.kind](wanted.name, text))
            except BadReckoning:
                raise
            except ValueError as error:
                raise BadReckoning(str(error)) from None
    try:
        answers = calculator.work(*values)
    except (ValueError, OverflowError, ZeroDivisionError, Singular) as error:
        raise BadReckoning(str(error)) from None
    out = {k: round(v, DIGITS) + 0.0 if isinstance(v, float) else v for k, v in answers.items()}
    if not all(math.isfinite(v) for v in out.values() if isinstance(v, float)):
        raise BadReckoning("These values give no finite answer.")
    return out


def described() -> list[dict[str, Any]]:
    """Every calculator as plain data: name, what it is for, inputs, results, source."""
    return [
        {
            "name": c.name,
            "about": c.about,
            "source": c.source,
            "results": dict(c.results),
            "inputs": [{"name": i.name, "kind": i.kind, "about": i.about, "default": i.default} for i in c.inputs],
        }
        for c in CALCULATORS.values()
    ]
