"""Calculators: one small registry, used by the window and by the command line.

Each has named inputs with units, results with the unit in their name (mm, degrees, percent), and its source. To add one:
write a function from values to results and add a line to ``CALCULATORS``. Numbers without a unit are mm, deg C, percent.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from typing import Any

from nullah.core.arrays import Floats
from nullah.core.frozen import frozen
from nullah.core.joints import dovetail
from nullah.core.joints.frame import by_diagonals
from nullah.core.measure import BadLength, parse_length
from nullah.core.surface.linear import Singular
from nullah.core.surface.slab import grid, minimum_zone
from nullah.core.wood import sold
from nullah.core.wood.moisture import RING_ANGLE, change, equilibrium_moisture
from nullah.core.wood.ready import ready
from nullah.core.wood.room import room_year
from nullah.core.wood.species import species

Answers = dict[str, Any]
_NUMBER = re.compile(r"^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$", re.I)
DIGITS = 6


class BadReckoning(ValueError):
    """A calculator or input that is not there, or a value that does not serve; one sentence."""


@frozen
class Input:
    """A named input: ``kind`` is length, temperature, percent, whole, slope, species, cut or size, or one of ``FILES``; ``default`` or
    none, "" where it may be left out."""

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


_READ: dict[str, Callable[[str, str], Any]] = {
    "length": _length,
    "temperature": _temperature,
    "percent": lambda n, t: number(n, t, ("%",)),
    "whole": _whole,
    "slope": _slope,
    "cut": _cut,
    "species": lambda _, t: species(t),
    "size": lambda _, t: t,
}
# of the files that are tables of figures
COLUMNS = {"year": ("month", "celsius", "humidity"), "readings": ("day", "percent")}
FILES = ("heights", *COLUMNS)  # kinds of input that are read from a file


def _emc(temperature: float, humidity: float) -> Answers:
    return {"emc_percent": equilibrium_moisture(temperature, humidity)}


def _movement(species: Any, width: float, start: float, end: float, cut: float) -> Answers:
    if width <= 0:
        raise BadReckoning("width is more than zero.")
    moved = change(species, width, start, end, cut)
    return {"change_mm": moved, "width_after_mm": width + moved}


def _dovetail(width: float, tails: int, pin: float, half_pin: float, slope: float, mating: float) -> Answers:
    joint = dovetail.lay_out(width, tails, pin, half_pin, slope, mating)
    return {
        "divider_step_mm": joint.step,
        "tail_mm": joint.tail,
        "pin_mm": joint.pin,
        "baseline_mm": joint.mating,
        "slope_deg": joint.slope_deg,
        "socket_base_mm": joint.socket_base,
        "tail_base_mm": joint.tail_base,
    }


def _slab(heights: Floats, thickness: float) -> Answers:
    if thickness <= 0:
        raise BadReckoning("thickness is more than zero.")
    x, y = grid(heights)
    zone = minimum_zone(x, y, heights)
    return {"minimum_zone_mm": zone, "thickest_mm": max(0.0, thickness - zone)}


def _diagonals(a: float, b: float, first: float, second: float) -> Answers:
    frame = by_diagonals(a, b, first, second)
    return {"corner_deg": frame.corner, "push_mm": frame.push, "longer_diagonal": frame.longer}


def _arc(span: float, rise: float) -> Answers:
    if span <= 0 or rise <= 0:
        raise BadReckoning("span and rise are more than zero.")
    return {"radius_mm": (span**2 / 4 + rise**2) / (2 * rise)}


def _taper(length: float, start: float, end: float) -> Answers:
    if length <= 0 or min(start, end) < 0:
        raise BadReckoning("length is more than zero, and neither thickness is less.")
    return {"angle_deg": math.degrees(math.atan2(abs(start - end), length))}


def _board_feet(length: float, width: float, thickness: float, count: int) -> Answers:
    feet, metres = sold.board_feet(length, width, thickness, count)
    return {"board_feet": feet, "cubic_metres": metres}


def _sold(nominal: str) -> Answers:
    thickness, width = sold.sold(nominal)
    return {"thickness_mm": thickness} | ({} if width is None else {"width_mm": width})


def _ready(readings: tuple[tuple[float, float], ...], reference: float | None) -> Answers:
    found = ready(readings, reference)
    return {
        "ready_in_days": found.days,
        "earliest_days": found.earliest,
        "latest_days": found.latest,
        "settles_percent": found.settles,
    }


def _room_year(months: tuple[tuple[float, ...], ...]) -> Answers:
    year = room_year(months)
    return {
        "driest_percent": year.driest,
        "wettest_percent": year.wettest,
        "driest_month": year.driest_month,
        "wettest_month": year.wettest_month,
    }


def _in(name: str, kind: str, about: str, default: str | None = None) -> Input:
    return Input(name, kind, about, default)


CALCULATORS: dict[str, Calculator] = {
    c.name: c
    for c in (
        Calculator(
            "emc",
            "equilibrium moisture content of wood in air",
            (
                _in("temperature", "temperature", "of the air, deg C"),
                _in("humidity", "percent", "relative humidity, %"),
            ),
            {"emc_percent": "moisture content the wood settles at"},
            "Wood Handbook FPL-GTR-282, eq. 4-5",
            _emc,
        ),
        Calculator(
            "movement",
            "change of a width with moisture",
            (
                _in("species", "species", "as in the table of species"),
                _in("width", "length", "across the grain, mm"),
                _in("from", "percent", "moisture now, %"),
                _in("to", "percent", "moisture then, %"),
                _in("cut", "cut", "flat, rift or quarter", "flat"),
            ),
            {"change_mm": "negative when it shrinks", "width_after_mm": "width then"},
            "Wood Handbook FPL-GTR-282, chapter 13 and table 4-3",
            _movement,
        ),
        Calculator(
            "dovetail",
            "through dovetails stepped with dividers",
            (
                _in("width", "length", "of the tail board, mm"),
                _in("tails", "whole", "how many"),
                _in("pin", "length", "width at the end of the tail board, mm"),
                _in("half_pin", "length", "at the edges, mm"),
                _in("slope", "slope", "like 1:7", "1:7"),
                _in("mating", "length", "thickness of the mating board, mm"),
            ),
            {
                "divider_step_mm": "what the dividers are set to",
                "tail_mm": "tail at the end",
                "pin_mm": "pin at the mouth",
                "baseline_mm": "gauge setting",
                "slope_deg": "off square",
                "socket_base_mm": "socket at the baseline",
                "tail_base_mm": "tail at the baseline",
            },
            "common practice, no source",
            _dovetail,
        ),
        Calculator(
            "slab",
            "the thickest flat board inside a rough one",
            (
                _in("heights", "heights", "CSV of heights in mm, rows along the length"),
                _in("thickness", "length", "of the board, mm"),
            ),
            {"minimum_zone_mm": "flatness as found, vertical", "thickest_mm": "thickest flat board"},
            "minimum zone as ISO 12781, taken vertically; linear programme",
            _slab,
        ),
        Calculator(
            "diagonals",
            "squareness of a frame by its diagonals",
            (
                _in("a", "length", "one side"),
                _in("b", "length", "the other"),
                _in("d1", "length", "diagonal 1"),
                _in("d2", "length", "diagonal 2"),
            ),
            {
                "corner_deg": "the corner that d1 starts from",
                "push_mm": "how much shorter the longer one is to get",
                "longer_diagonal": "1, 2, or 0 for neither",
            },
            "geometry of the parallelogram",
            _diagonals,
        ),
        Calculator(
            "arc",
            "radius of an arc through span and rise",
            (_in("span", "length", "chord"), _in("rise", "length", "sagitta")),
            {"radius_mm": "radius"},
            "geometry of the circle",
            _arc,
        ),
        Calculator(
            "taper",
            "angle of a taper on one face",
            (
                _in("length", "length", "along the taper"),
                _in("from", "length", "thickness at one end"),
                _in("to", "length", "at the other"),
            ),
            {"angle_deg": "angle to the untapered face"},
            "geometry of the right triangle",
            _taper,
        ),
        Calculator(
            "board-feet",
            "how much wood is in so many boards",
            (
                _in("length", "length", "of a board, mm"),
                _in("width", "length", "of a board, mm"),
                _in("thickness", "length", "as given, not raised to an inch, mm"),
                _in("qty", "whole", "how many", "1"),
            ),
            {"board_feet": "board feet", "cubic_metres": "cubic metres"},
            "a board foot is 144 cubic inches (NIST Handbook 44, appendix C, from memory)",
            _board_feet,
        ),
        Calculator(
            "sold",
            "what a board sold by a name measures",
            (_in("nominal", "size", "as 1x12, 5/4x6, 4/4 or 25"),),
            {"thickness_mm": "thickness", "width_mm": "width, where the name has one"},
            "American Softwood Lumber Standard PS 20, from memory; rough and metric sizes are common practice",
            _sold,
        ),
        Calculator(
            "room-year",
            "the driest and the wettest month of a room for wood, without lag",
            (_in("file", "year", "CSV of month,celsius,humidity, months 1 to 12"),),
            {
                "driest_percent": "moisture wood settles at in the driest month",
                "wettest_percent": "in the wettest",
                "driest_month": "its number",
                "wettest_month": "its number",
            },
            "Wood Handbook FPL-GTR-282, eq. 4-5",
            _room_year,
        ),
        Calculator(
            "ready",
            "when a board that dries in a room is within a point of where it settles",
            (
                _in("file", "readings", "CSV of day,percent"),
                _in("reference", "percent", "of a piece that has always lived in the room, %", ""),
            ),
            {
                "ready_in_days": "days after the last reading",
                "earliest_days": "the true day lies from this one",
                "latest_days": "to this one, four times in five",
                "settles_percent": "where it settles",
            },
            "exponential drying fitted by Bayesian regression; what is likely beforehand is common practice, no source",
            _ready,
        ),
    )
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
