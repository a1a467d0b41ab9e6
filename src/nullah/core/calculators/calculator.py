"""What a calculator is: its inputs by name, its results with their unit in their name, and where it comes from."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from nullah.core.values.frozen import frozen

Answers = dict[str, Any]
# of the files that are tables of figures
COLUMNS = {"year": ("month", "celsius", "humidity"), "readings": ("day", "percent")}
FILES = ("heights", *COLUMNS)  # kinds of input that are read from a file


class BadReckoning(ValueError):
    """A calculator or input that is not there, or a value that does not serve; one sentence."""


@frozen
class Input:
    """A named input: ``kind`` is length, lengths, temperature, percent, whole, angle, share, weight, slope, species, cut or size,
    or one of ``FILES``; ``default`` or none, "" where it may be left out."""

    name: str
    kind: str
    about: str
    default: str | None = None


@frozen
class Calculator:
    """One calculator: inputs, results by name with what they are, and where it comes from."""

    name: str
    about: str
    inputs: tuple[Input, ...]
    results: Mapping[str, str]
    source: str
    work: Callable[..., Answers]
