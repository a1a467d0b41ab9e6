"""The calculators: what each is asked, what it tells, and where that comes from.

Results have their unit in their name. To add one: write a function from values to results and add a line to ``CALCULATORS``; those of
joints stand in ``joint_calculators``.
"""

from __future__ import annotations

import math
from typing import Any

from nullah.core.calculators.calculator import Answers, BadReckoning, Calculator, Input
from nullah.core.calculators.joint_calculators import OF_JOINTS
from nullah.core.joints import dovetail
from nullah.core.joints.squareness import by_diagonals
from nullah.core.surface.planing import hollow_left
from nullah.core.surface.readings import stick_difference
from nullah.core.surface.slab import grid, minimum_zone
from nullah.core.values.arrays import Floats
from nullah.core.wood import sold_sizes
from nullah.core.wood.moisture import change, equilibrium_moisture
from nullah.core.wood.ready import ready
from nullah.core.wood.room import room_year


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


def _taper(length: float, start: float, end: float, faces: int) -> Answers:
    if length <= 0 or min(start, end) < 0:
        raise BadReckoning("length is more than zero, and neither thickness is less.")
    if faces not in (1, 2, 4):
        raise BadReckoning("faces is 1, 2 or 4: how many are tapered.")
    share = 0.5 if faces == 4 else 1.0  # opposite faces share the difference; two that meet have it each
    return {"angle_deg": math.degrees(math.atan2(abs(start - end) * share, length))}


def _sticks(reading: float, stick: float, width: float) -> Answers:
    if stick <= 0 or width <= 0:
        raise BadReckoning("stick and width are more than zero.")
    return {"difference_mm": stick_difference(reading, stick, width)}


def _hollow(sole: float, iron: float, set_: float, length: float) -> Answers:
    if not 0 < iron < sole or set_ <= 0 or length <= 0:
        raise BadReckoning("The iron lies between toe and heel, and set and length are more than zero.")
    return {"hollow_mm": hollow_left(sole, iron, set_, length)}


def _roundover(radius: float) -> Answers:
    if radius <= 0:
        raise BadReckoning("radius is more than zero.")
    return {"octagon_mm": radius * (2 - math.sqrt(2))}


def _cleat(thickness: float, angle: float) -> Answers:
    if thickness <= 0 or not 0 < angle < 90:
        raise BadReckoning("thickness is more than zero, and the angle between 0 and 90 degrees.")
    slant = math.radians(angle)
    return {"line_mm": thickness / 2 * math.tan(slant), "depth_mm": thickness / math.cos(slant)}


def _ogee(run: float, rise: float, share: float) -> Answers:
    if run <= 0 or rise <= 0 or not 0 < share < 1:
        raise BadReckoning("run and rise are more than zero, and the share between 0 and 1.")
    whole = (run**2 + rise**2) / (2 * rise)
    return {"first_radius_mm": share * whole, "second_radius_mm": (1 - share) * whole}


def _board_feet(length: float, width: float, thickness: float, count: int) -> Answers:
    feet, metres = sold_sizes.board_feet(length, width, thickness, count)
    return {"board_feet": feet, "cubic_metres": metres}


def _sold(nominal: str) -> Answers:
    thickness, width = sold_sizes.sold(nominal)
    return {"thickness_mm": thickness} | ({} if width is None else {"width_mm": width})


GRAVITY = 9.80665  # m/s2
LASTING = 2.0  # times as far down as at first, under a load that stays for years (Wood Handbook, chapter 5, creep, from memory)
SEEN = 600.0  # a sag of a 600th of the span is seen: some 1/32" on 18" (common practice, no source)


def _sag(species: Any, span: float, width: float, thickness: float, load: float) -> Answers:
    if min(span, width, thickness) <= 0 or load < 0:
        raise BadReckoning("span, width and thickness are more than zero, and load is not less.")
    if species.stiffness is None:
        raise BadReckoning(f"How stiff {species.name} is is not known; take a wood like it.")
    own = (species.density or 0.0) * span * width * thickness / 1e9
    bends = 5 * (load + own) * GRAVITY * span**3 / (384 * species.stiffness * width * thickness**3 / 12)
    return {
        "sag_mm": bends,
        "lasting_sag_mm": LASTING * bends,
        "span_unseen_mm": (span**4 / (LASTING * bends * SEEN)) ** (1 / 3) if bends else None,
    }


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


CALCULATORS: dict[str, Calculator] = {
    c.name: c
    for c in (
        Calculator(
            "emc",
            "equilibrium moisture content of wood in air",
            (
                Input("temperature", "temperature", "of the air, deg C"),
                Input("humidity", "percent", "relative humidity, %"),
            ),
            {"emc_percent": "moisture content the wood settles at"},
            "Wood Handbook FPL-GTR-282, eq. 4-5",
            _emc,
        ),
        Calculator(
            "movement",
            "change of a width with moisture",
            (
                Input("species", "species", "as in the table of species"),
                Input("width", "length", "across the grain, mm"),
                Input("from", "percent", "moisture now, %"),
                Input("to", "percent", "moisture then, %"),
                Input("cut", "cut", "flat, rift or quarter", "flat"),
            ),
            {"change_mm": "negative when it shrinks", "width_after_mm": "width then"},
            "Wood Handbook FPL-GTR-282, chapter 13 and table 4-3",
            _movement,
        ),
        Calculator(
            "dovetail",
            "through dovetails stepped with dividers",
            (
                Input("width", "length", "of the tail board, mm"),
                Input("tails", "whole", "how many"),
                Input("pin", "length", "width at the end of the tail board, mm"),
                Input("half_pin", "length", "at the edges, mm"),
                Input("slope", "slope", "like 1:7", "1:7"),
                Input("mating", "length", "thickness of the mating board, mm"),
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
                Input("heights", "heights", "CSV of heights in mm, rows along the length"),
                Input("thickness", "length", "of the board, mm"),
            ),
            {"minimum_zone_mm": "flatness as found, vertical", "thickest_mm": "thickest flat board"},
            "minimum zone as ISO 12781, taken vertically; linear programme",
            _slab,
        ),
        Calculator(
            "diagonals",
            "squareness of a frame by its diagonals",
            (
                Input("a", "length", "one side"),
                Input("b", "length", "the other"),
                Input("d1", "length", "diagonal 1"),
                Input("d2", "length", "diagonal 2"),
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
            (Input("span", "length", "chord"), Input("rise", "length", "sagitta")),
            {"radius_mm": "radius"},
            "geometry of the circle",
            _arc,
        ),
        Calculator(
            "taper",
            "angle of a taper on one, two or all four faces",
            (
                Input("length", "length", "along the taper"),
                Input("from", "length", "thickness at one end"),
                Input("to", "length", "at the other"),
                Input("faces", "whole", "1; 2 that meet; or 4, of which opposite ones share the difference", "1"),
            ),
            {"angle_deg": "of each tapered face to what it was"},
            "geometry of the right triangle",
            _taper,
        ),
        Calculator(
            "sticks",
            "what winding sticks longer than the board is wide truly say",
            (
                Input("reading", "length", "what one stick's end stands above the other's, mm"),
                Input("stick", "length", "how long the sticks are"),
                Input("width", "length", "of the board"),
            ),
            {"difference_mm": "between the edges of the board"},
            "similar triangles",
            _sticks,
        ),
        Calculator(
            "hollow",
            "what a plane can leave hollow well inside a long board",
            (
                Input("sole", "length", "of the plane"),
                Input("iron", "length", "its distance behind the toe"),
                Input("set", "length", "thickness of the shaving"),
                Input("length", "length", "over which the hollow is measured"),
            ),
            {"hollow_mm": "in the middle of that length"},
            "a sole bears at toe and heel on a circle: R = a b / (2 d), l^2 / (8 R)",
            _hollow,
        ),
        Calculator(
            "sag",
            "how far a shelf that lies loose on two supports sags under an even load",
            (
                Input("species", "species", "as in the table of species"),
                Input("span", "length", "between the supports"),
                Input("width", "length", "of the shelf, front to back"),
                Input("thickness", "length", "of the shelf"),
                Input("load", "weight", "in all, spread evenly, kg"),
            ),
            {
                "sag_mm": "in the middle, its own weight with it, when it is loaded",
                "lasting_sag_mm": "after years under that load",
                "span_unseen_mm": "the span at which as much on each length of it sags by a 600th in the end, which is hardly seen",
            },
            "beam theory, clear wood; Wood Handbook FPL-GTR-282, chapters 5 and 9. What must bear people is licensed practice",
            _sag,
        ),
        Calculator(
            "roundover",
            "guide lines of the octagon before a round-over",
            (Input("radius", "length", "of the round-over; lines so far from the arris too"),),
            {"octagon_mm": "from the arris to the lines of the octagon"},
            "geometry of the regular octagon",
            _roundover,
        ),
        Calculator(
            "cleat",
            "lines and depth of the slanting rip of a wall cleat",
            (
                Input("thickness", "length", "of the board"),
                Input("angle", "angle", "off square, degrees"),
            ),
            {"line_mm": "from the middle, on either face", "depth_mm": "what is sawn through"},
            "geometry of the right triangle",
            _cleat,
        ),
        Calculator(
            "ogee",
            "an ogee: two arcs that meet on a line, the ends along the run",
            (
                Input("run", "length", "along"),
                Input("rise", "length", "across"),
                Input("share", "share", "of the whole that the first arc has, 0 to 1", "0.5"),
            ),
            {"first_radius_mm": "of the first arc", "second_radius_mm": "of the second"},
            "geometry of two tangent circles: r1 + r2 = (run^2 + rise^2) / (2 rise)",
            _ogee,
        ),
        Calculator(
            "board-feet",
            "how much wood is in so many boards",
            (
                Input("length", "length", "of a board, mm"),
                Input("width", "length", "of a board, mm"),
                Input("thickness", "length", "as given, not raised to an inch, mm"),
                Input("qty", "whole", "how many", "1"),
            ),
            {"board_feet": "board feet", "cubic_metres": "cubic metres"},
            "a board foot is 144 cubic inches (NIST Handbook 44, appendix C, from memory)",
            _board_feet,
        ),
        Calculator(
            "sold",
            "what a board sold by a name measures",
            (Input("nominal", "size", "as 1x12, 5/4x6, 4/4 or 25"),),
            {"thickness_mm": "thickness", "width_mm": "width, where the name has one"},
            "American Softwood Lumber Standard PS 20, from memory; rough and metric sizes are common practice",
            _sold,
        ),
        Calculator(
            "room-year",
            "the driest and the wettest month of a room for wood, without lag",
            (Input("file", "year", "CSV of month,celsius,humidity, months 1 to 12"),),
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
                Input("file", "readings", "CSV of day,percent"),
                Input("reference", "percent", "of a piece that has always lived in the room, %", ""),
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
        *OF_JOINTS,
    )
}
