"""What a value of the document refuses, as one sentence in shop English: which figure, and what it may be."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from nullah.core.values.measure import marked

# fields whose numbers are no lengths in mm, and what is said after them
NO_LENGTH = {
    "count": "",
    "dividers": "",
    "tails": "",
    "slope": "",
    "clamps": "",
    "sawing": "",
    "denominator": "",
    "schema_version": "",
    "minutes": " minutes",
    "temperature": " degrees",
    "ring_angle": " degrees",
    "humidity_dry": " %",
    "humidity_wet": " %",
    "moisture": " %",
    "opening": " %",
    "percent": " %",
    "humidity": " %",
    "celsius": " degrees",
    "angle": " degrees",
}
SPOKEN = {
    "value": "size",
    "wall": "wall thickness",
    "lid": "kind of lid",
    "pin": "pin width",
    "wiggle": "room beside the contents",
    "extra_length": "length added",
    "extra_width": "width added",
    "extra_height": "height added",
    "dividers": "number of dividers",
    "tails": "number of tails",
    "clamps": "number of clamps",
    "chisels": "list of chisels",
    "ring_angle": "angle of the rings",
    "humidity_dry": "driest air",
    "humidity_wet": "dampest air",
    "opening": "cost of opening a board",
    "text": "line",
    "log": "bench book",
    "done": "list of steps done",
    "cut": "list of cut parts",
    "choices": "list of calls taken",
    "defects": "list of faults",
    "upper": "list of points of the upper edge",
    "lower": "list of points of the lower edge",
    "moistures": "list of readings",
    "percent": "reading of moisture",
    "angle": "angle at which the grain runs out",
    "bears": "choice of what may hold it",
}
_BOUNDS = {
    "greater_than": ("gt", "more than"),
    "greater_than_equal": ("ge", "at least"),
    "less_than": ("lt", "less than"),
    "less_than_equal": ("le", "at most"),
}
_KINDS = {
    "missing": "is missing",
    "extra_forbidden": "is not known here",
    "finite_number": "is no number",
    "bool_type": "is neither yes nor no",
    "bool_parsing": "is neither yes nor no",
    "model_type": "is not what belongs there",
    "model_attributes_type": "is not what belongs there",
    "tuple_type": "is not a list",
}


def sentence(error: ValidationError) -> str:
    """The first fault of a validation error as one sentence with where and why; lengths are marked for ``told``."""
    first = error.errors()[0]
    kind, loc, facts = first["type"], first["loc"], first.get("ctx", {})
    if (
        loc[:1] == ("pieces",) and len(loc) > 2
    ):  # a piece is told by its number, the first without, and never by its shape
        loc = ("piece", *((loc[1],) if loc[1] else ()), *loc[3:])
    names = [p for p in loc if not isinstance(p, int)]
    leaf = str(names[-1]) if names else ""
    where = " ".join(_said(p) for p in loc)
    if kind == "value_error":
        words = first["msg"].removeprefix("Value error, ")
        return f"{f'{where}: ' if where else ''}{words}."
    return f"The {where or 'project'} {_why(kind, leaf, facts)}."


def _said(step: object) -> str:
    """One step of the way to a field: a list's item by its number from 1."""
    if isinstance(step, int):
        return f"{step + 1}"
    return SPOKEN.get(str(step), str(step).replace("_", " "))


def _why(kind: str, leaf: str, facts: dict[str, Any]) -> str:
    if kind in _BOUNDS:
        key, words = _BOUNDS[kind]
        return f"must be {words} {_limit(leaf, facts[key])}"
    if kind in ("string_too_long", "too_long"):
        what = "letters" if kind == "string_too_long" else "entries"
        return f"is too long; it holds at most {facts['max_length']:,} {what}"
    if kind in ("string_too_short", "too_short"):
        return "is empty"
    if kind in ("literal_error", "enum"):
        return f"must be one of {str(facts['expected']).replace(chr(39), '')}"
    if kind.startswith(("float_", "int_")) or kind == "is_instance_of":
        return "is not a whole number" if kind.startswith("int_") else "is not a number"
    if kind.startswith("string_"):
        return "is not a text"
    return _KINDS.get(kind, "is not what belongs there")


def _limit(leaf: str, value: float) -> str:
    if leaf in NO_LENGTH:
        return f"{value:g}{NO_LENGTH[leaf]}"
    return marked(float(value), unit=" mm")
