"""Calculators of joints, for the bench without a project."""

from __future__ import annotations

import math
from typing import Any

from nullah.core.calculators.calculator import Answers, BadReckoning, Calculator, Input
from nullah.core.joints import dovetail
from nullah.core.joints.spacing import spaced
from nullah.core.wood.moisture import change


def _positive(**sizes: float) -> None:
    for name, mm in sizes.items():
        if mm <= 0:
            raise BadReckoning(f"{name} is more than zero.")


def _not_negative(**sizes: float) -> None:
    for name, mm in sizes.items():
        if mm < 0:
            raise BadReckoning(f"{name} is not less than zero.")


def _half_blind(
    width: float, tails: int, pin: float, half_pin: float, slope: float, front: float, side: float, lap: float
) -> Answers:
    _positive(front=front, side=side, lap=lap)
    if lap >= front:
        raise BadReckoning("The lap is what stays of the front before the tails: it is thinner than the front.")
    laid = dovetail.lay_out(width, tails, pin, half_pin, slope, front - lap)
    return {
        "tail_length_mm": front - lap,
        "divider_step_mm": laid.step,
        "tail_mm": laid.tail,
        "socket_base_mm": laid.socket_base,
        "lap_share": lap / front,
        "front_baseline_mm": side,
    }


def _sliding_dovetail(board: float, depth: float, slope: float, width: float) -> Answers:
    _positive(board=board, depth=depth, slope=slope, width=width)
    if depth >= board:
        raise BadReckoning("The socket is less deep than its board is thick.")
    neck = width - 2 * depth / slope
    if neck <= 0:
        raise BadReckoning("Nothing is left of the tail at its neck: make it wider, less deep or less steep.")
    return {"neck_mm": neck}


def _rabbet(mate: float, board: float, proud: float) -> Answers:
    _positive(mate=mate, board=board)
    _not_negative(proud=proud)
    return {
        "width_mm": mate + proud,
        "depth_mm": board / 3,
        "shallowest_mm": board / 4,
        "deepest_mm": 2 * board / 3,
    }


def _dado(mate: float, board: float) -> Answers:
    _positive(mate=mate, board=board)
    return {"width_mm": mate, "depth_mm": board / 3, "deepest_mm": board / 2}


def _panel(
    opening_length: float,
    opening_width: float,
    groove: float,
    clearance: float,
    species: Any,
    cut: float,
    now: float,
    dry: float,
    wet: float,
) -> Answers:
    _positive(opening_length=opening_length, opening_width=opening_width, groove=groove)
    _not_negative(clearance=clearance)
    room = opening_width + 2 * groove
    if clearance >= 2 * groove:
        raise BadReckoning("The clearance is as much as both grooves: nothing of the panel would be in them.")
    width = (room - clearance) / (1 + change(species, 1.0, now, max(now, wet), cut))
    dried = width + change(species, width, now, min(now, dry), cut)
    swollen = width + change(species, width, now, max(now, wet), cut)
    return {
        "length_mm": opening_length + 2 * groove - clearance,
        "width_mm": width,
        "engaged_dry_mm": (dried - opening_width) / 2,
        "free_wet_mm": room - swollen,
    }


def _bevel(start: float, end: float, over: float) -> Answers:
    _positive(over=over)
    _not_negative(**{"from": start, "to": end})
    return {"angle_deg": math.degrees(math.atan2(abs(start - end), over))}


def _tenon(thickness: float, chisels: tuple[float, ...]) -> Answers:
    _positive(thickness=thickness, chisels=min(chisels))
    tenon = min(chisels, key=lambda c: (round(abs(c - thickness / 3), 9), c))
    if tenon >= thickness:
        raise BadReckoning("None of the chisels is narrower than the part is thick.")
    return {"tenon_mm": tenon, "shoulder_mm": (thickness - tenon) / 2}


def _breadboard(
    width: float, staves: int, species: Any, cut: float, now: float, dry: float, wet: float, clearance: float
) -> Answers:
    _positive(width=width, staves=staves)
    _not_negative(clearance=clearance)
    outermost = width / 2 - width / (2 * staves)
    return {
        "outermost_mm": outermost,
        "slot_out_mm": change(species, outermost, now, max(now, wet), cut) + clearance,
        "slot_in_mm": -change(species, outermost, now, min(now, dry), cut) + clearance,
    }


def _tusk(first: float, second: float, length: float, friction: float) -> Answers:
    _positive(length=length, friction=friction)
    _not_negative(first=first, second=second)
    angle, limit = (
        math.degrees(math.atan2(abs(first - second), length)),
        math.degrees(math.atan(friction)),
    )
    return {"angle_deg": angle, "limit_deg": limit, "holds": angle < limit}


def _spaced(length: float, pitch: float, end: float) -> Answers:
    count, spacing = spaced(length, pitch, end)
    if count > 10_000:
        raise BadReckoning("That is more than 10,000 of them: the pitch is too small.")
    return {"count": count, "spacing_mm": spacing}


def _drawer(height: float, species: Any, cut: float, now: float, wet: float, gap: float) -> Answers:
    _positive(height=height)
    _not_negative(gap=gap)
    if gap >= height:
        raise BadReckoning("The gap is less than the opening is high.")
    high = (height - gap) / (1 + change(species, 1.0, now, max(now, wet), cut))
    return {"growth_mm": height - gap - high, "height_mm": high}


def _mitre(corner: float, width: float) -> Answers:
    _positive(width=width)
    if not 0 < corner < 180:
        raise BadReckoning("The corner is between 0 and 180 degrees.")
    return {"mitre_deg": corner / 2, "line_mm": width / math.sin(math.radians(corner / 2))}


_WOOD = (
    Input("species", "species", "as in the table of species"),
    Input("cut", "cut", "flat, rift or quarter", "flat"),
    Input("now", "percent", "moisture as it is made, %"),
)
_DRY = Input("dry", "percent", "in the driest month, %")
_WET = Input("wet", "percent", "in the wettest month, %")
_MOVES = "Wood Handbook FPL-GTR-282, chapter 13 and table 4-3; "
_PRACTICE = "common practice, no source"

OF_JOINTS: tuple[Calculator, ...] = (
    Calculator(
        "half-blind",
        "half-blind dovetails: tails stepped with dividers, a lap before them",
        (
            Input("width", "length", "of the tail board (the side), mm"),
            Input("tails", "whole", "how many"),
            Input("pin", "length", "width at the end of the tail board, mm"),
            Input("half_pin", "length", "at the edges, mm"),
            Input("slope", "slope", "like 1:7", "1:7"),
            Input("front", "length", "thickness of the front at the joint, mm"),
            Input("side", "length", "thickness of the side, mm"),
            Input("lap", "length", "of the front before the tails, a fifth to a third of it, mm"),
        ),
        {
            "tail_length_mm": "baseline of the side, and how deep the sockets are",
            "divider_step_mm": "what the dividers are set to",
            "tail_mm": "tail at the end",
            "socket_base_mm": "between tails at the baseline",
            "lap_share": "of the front's thickness",
            "front_baseline_mm": "gauge setting on the inside of the front",
        },
        _PRACTICE,
        _half_blind,
    ),
    Calculator(
        "sliding-dovetail",
        "neck of a sliding dovetail",
        (
            Input("board", "length", "thickness of the board that has the socket, mm"),
            Input("depth", "length", "of the socket, about a third of the board, mm"),
            Input("slope", "slope", "like 1:7", "1:7"),
            Input("width", "length", "of the tail at its wide side, mm"),
        ),
        {"neck_mm": "of the tail at the face of the board"},
        "geometry of the trapezium",
        _sliding_dovetail,
    ),
    Calculator(
        "rabbet",
        "width and depth of a rabbet",
        (
            Input("mate", "length", "thickness of the part that stands in it, mm"),
            Input("board", "length", "thickness of its own board, mm"),
            Input("proud", "length", "left over to plane flush, mm", "0"),
        ),
        {
            "width_mm": "of the rabbet",
            "depth_mm": "a third of its board",
            "shallowest_mm": "a quarter",
            "deepest_mm": "two thirds",
        },
        _PRACTICE,
        _rabbet,
    ),
    Calculator(
        "dado",
        "width and depth of a dado",
        (
            Input("mate", "length", "thickness of the part that stands in it, as measured, mm"),
            Input("board", "length", "thickness of its own board, mm"),
        ),
        {"width_mm": "of the dado", "depth_mm": "a third of its board", "deepest_mm": "half of it"},
        _PRACTICE,
        _dado,
    ),
    Calculator(
        "panel",
        "a panel in grooves through the seasons",
        (
            Input("opening_length", "length", "of the frame, along the panel's grain, mm"),
            Input("opening_width", "length", "across it, mm"),
            Input("groove", "length", "how deep each groove is, mm"),
            Input("clearance", "length", "left free in all in the wettest month, mm"),
            *_WOOD,
            _DRY,
            _WET,
        ),
        {
            "length_mm": "of the panel",
            "width_mm": "as it is made",
            "engaged_dry_mm": "in each groove in the driest month; below zero it falls out",
            "free_wet_mm": "in all in the wettest month",
        },
        _MOVES + _PRACTICE,
        _panel,
    ),
    Calculator(
        "bevel",
        "angle of a bevel by two thicknesses",
        (
            Input("from", "length", "thickness, mm"),
            Input("to", "length", "at the edge, mm"),
            Input("over", "length", "how wide the bevel is along the face, mm"),
        ),
        {"angle_deg": "to the face"},
        "geometry of the right triangle",
        _bevel,
    ),
    Calculator(
        "tenon",
        "thickness of a tenon by the chisels at hand",
        (
            Input("thickness", "length", "of the part, mm"),
            Input("chisels", "lengths", "widths at hand with commas between them, mm", "6,8,10"),
        ),
        {"tenon_mm": "the chisel nearest to a third", "shoulder_mm": "on either side"},
        _PRACTICE,
        _tenon,
    ),
    Calculator(
        "breadboard",
        "slots of a breadboard end's outermost tenons",
        (
            Input("width", "length", "of the panel across its grain, mm"),
            Input("staves", "whole", "each with a tenon"),
            *_WOOD,
            _DRY,
            _WET,
            Input("clearance", "length", "added to each way, mm", "0"),
        ),
        {
            "outermost_mm": "middle of the outermost stave from the centre",
            "slot_out_mm": "beyond the tenon, away from the centre",
            "slot_in_mm": "towards the centre",
        },
        _MOVES + _PRACTICE,
        _breadboard,
    ),
    Calculator(
        "tusk",
        "whether the wedge of a tusk tenon holds",
        (
            Input("first", "length", "offset of the line at one end of the wedge, mm"),
            Input("second", "length", "at the other, mm"),
            Input("length", "length", "between them, mm"),
            Input("friction", "share", "of wood on wood, 0.25 at the least", "0.25"),
        ),
        {
            "angle_deg": "of the wedge",
            "limit_deg": "of friction: steeper it is pushed out",
            "holds": "whether it is less steep",
        },
        "mechanics of the wedge",
        _tusk,
    ),
    Calculator(
        "fasteners",
        "nails or screws evenly along a length",
        (
            Input("length", "length", "of the edge, mm"),
            Input("pitch", "length", "at the most, mm"),
            Input("end", "length", "of the first and the last from the ends, mm", "25"),
        ),
        {"count": "how many", "spacing_mm": "between them"},
        _PRACTICE,
        _spaced,
    ),
    Calculator(
        "dowels",
        "dowels evenly along a joint",
        (
            Input("length", "length", "of the joint, mm"),
            Input("pitch", "length", "at the most, mm"),
            Input("end", "length", "of the first and the last from the ends, mm"),
        ),
        {"count": "how many", "spacing_mm": "between them"},
        _PRACTICE,
        _spaced,
    ),
    Calculator(
        "drawer",
        "height of a drawer's sides in their opening",
        (
            Input("height", "length", "of the opening, mm"),
            *_WOOD,
            _WET,
            Input("gap", "length", "left in the wettest month, mm"),
        ),
        {"growth_mm": "by the wettest month", "height_mm": "as it is made"},
        _MOVES + _PRACTICE,
        _drawer,
    ),
    Calculator(
        "mitre",
        "mitre line of a corner",
        (Input("corner", "angle", "of the frame, degrees", "90"), Input("width", "length", "of its parts, mm")),
        {"mitre_deg": "off the length of each part", "line_mm": "how long the mitre line is"},
        "geometry of the right triangle",
        _mitre,
    ),
)
