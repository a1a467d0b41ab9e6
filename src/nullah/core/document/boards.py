"""Boards in the document: what is read off them, the room they go to, their photographs; as frozen, validated values. Lengths in mm."""

from __future__ import annotations

from datetime import date
from itertools import pairwise
from typing import Annotated, Any, Literal, get_args

from pydantic import AfterValidator, Field, model_validator

from nullah.core.values.value import Length, Percent, Position, Value, Word

DefectKind = Literal[
    "sound knot",
    "loose knot",
    "check",
    "split",
    "shake",
    "sapwood",
    "wane",
    "run-out",
    "pith",
    "worm",
    "stain",
    "resin",
    "nail hole",
    "old mark",
    "void",
    "fault",
]
DEFECT_KINDS: tuple[str, ...] = get_args(DefectKind)


class Defect(Value):
    """A fault as a rectangle: ``x`` from the left end, ``y`` from the lower edge, to its lower left, as seen from the face.

    ``face``: it shows on the face side, on the back (given as seen through from the face) or goes through. ``depth``: how far under
    that side it begins, mm; 0: it shows. ``angle``: of grain that runs out, to the face, degrees; 0: not measured. ``bears``: which
    parts may hold it.
    """

    id: Word
    kind: DefectKind
    x: Position
    y: Position
    length: Length
    width: Length
    face: Literal["both", "face", "back"] = "both"
    depth: Annotated[float, Field(ge=0, le=300)] = 0.0
    angle: Annotated[float, Field(ge=0, le=60)] = 0.0
    bears: Literal["by role", "any part", "no part"] = "by role"


def _a_day(day: str) -> str:
    try:
        if date.fromisoformat(day).isoformat() == day:
            return day
    except ValueError:
        pass
    raise ValueError(f'"{day[:20]}" is no day; write it like 2026-03-24')


Day = Annotated[str, Field(max_length=10), AfterValidator(_a_day)]  # ISO 8601
EdgePoints = Annotated[tuple[tuple[Position, Position], ...], Field(max_length=200)]


class MoistureReading(Value):
    """Moisture content read on a day (ISO 8601), percent."""

    day: Day
    percent: Annotated[float, Field(gt=0, le=100)]


class Board(Value):
    """A board as found. ``ring_angle`` is that of the rings to the face in degrees: 0 flat, 45 rift, 90 quarter; the pith lies on the
    ``heart_side``, towards the edge ``pith`` names, ``pith_distance`` mm from the middle of the end (0: not looked at). ``rises``: the
    end towards which the grain comes up to the face, as seen on an edge ("": not looked at).

    ``upper`` and ``lower`` are its edges where they taper or are wany: (x, y) from the left end to the right, y from the lower edge of
    the rectangle round the board; straight between points, level beyond the first and the last; without points straight all along.
    ``widths=`` may be given in place of ``upper=``: the height of the upper edge at evenly spaced places. ``moistures`` are readings by
    day, ``moisture`` the latest there is.
    """

    id: Word
    name: Word
    species: Word
    length: Length
    width: Length
    thickness: Annotated[float, Field(gt=0, le=300)]
    stock: Literal["sawn", "reclaimed", "plywood", "fibreboard"] = "sawn"
    ring_angle: Annotated[float, Field(ge=0, le=90)] = 0.0
    heart_side: Literal["face", "back"] = "back"
    pith: Literal["", "lower", "upper"] = ""
    pith_distance: Annotated[float, Field(ge=0, le=2_000)] = 0.0
    rises: Literal["", "left", "right"] = ""
    moisture: Annotated[float, Field(ge=0, le=60)] = 12.0
    moistures: Annotated[tuple[MoistureReading, ...], Field(max_length=400)] = ()
    ends: Literal["open", "sealed"] = "open"
    straight_edge: Literal["lower", "upper", "neither"] = "lower"
    upper_edge: Literal["sawn", "rough", "wany"] = "rough"
    upper: EdgePoints = ()
    lower: EdgePoints = ()
    defects: Annotated[tuple[Defect, ...], Field(max_length=200)] = ()
    sawn: bool = False  # it is in pieces: what was left over stands among the boards under names of its own

    @model_validator(mode="before")
    @classmethod
    def _widths_stand_for_the_upper_edge(cls, given: Any) -> Any:
        if not isinstance(given, dict) or "widths" not in given:
            return given
        widths, rest = given["widths"], {k: v for k, v in given.items() if k != "widths"}
        if not isinstance(widths, list | tuple) or not isinstance(rest.get("length"), int | float):
            raise ValueError("the widths along a board are a list of lengths")
        if len(widths) == 1:
            raise ValueError("the widths along a board are two or more")
        stretch = rest["length"] / max(1, len(widths) - 1)
        return {**rest, "upper": tuple((k * stretch, w) for k, w in enumerate(widths))}

    @model_validator(mode="after")
    def _what_is_on_it_lies_on_it(self) -> Board:
        for fault in self.defects:
            if fault.x >= self.length or fault.y >= self.width:
                raise ValueError(f"{fault.kind} {fault.id} lies off {self.name}")
        for points in (self.upper, self.lower):
            if any(b[0] < a[0] for a, b in pairwise(points)):
                raise ValueError(f"the points of an edge of {self.name} go from its left end to the right")
            if any(y > self.width + 1e-6 for _, y in points):
                raise ValueError(f"an edge of {self.name} lies further out than the board is wide")
        return self


class Reference(Value):
    """A reading of a piece of that species that has always lived in the room: what boards there settle at."""

    species: Word
    day: Day
    percent: Annotated[float, Field(gt=0, le=60)]


class Month(Value):
    """The air of a month in a room: temperature in deg C, relative humidity in percent."""

    celsius: Annotated[float, Field(ge=-20, le=60)]
    humidity: Percent


class Room(Value):
    """The room the piece will live in: temperature and the year's driest and wettest air, relative humidity in %; or its ``months``,
    January first, which then count instead."""

    temperature: Annotated[float, Field(ge=-20, le=60)] = 20.0
    humidity_dry: Percent = 35.0
    humidity_wet: Percent = 65.0
    months: tuple[Month, ...] = ()

    @model_validator(mode="after")
    def _dry_before_wet(self) -> Room:
        if self.humidity_dry > self.humidity_wet:
            raise ValueError("the driest air is damper than the wettest")
        if len(self.months) not in (0, 12):
            raise ValueError("a room's year has twelve months")
        return self

    @property
    def months_as_told(self) -> tuple[tuple[float, float], ...]:
        """The months as pairs of temperature and humidity; none where they were not told."""
        return tuple((m.celsius, m.humidity) for m in self.months)


Pixel = Annotated[float, Field(ge=-10, le=10_000)]


Pointed = tuple[Pixel, Pixel]


class LengthOnPhoto(Value):
    """A length told on a photograph: two places on the board's face, pixels, and how far apart they are, mm."""

    ends: tuple[Pointed, Pointed]
    length: Annotated[float, Field(gt=0, le=20_000)]


class BoardPhoto(Value):
    """A photograph of a board's face or back: a small copy as JPEG in base64 and its pixels. ``corners`` are those of the board on it,
    upper left, upper right, lower right, lower left as the picture shows that side with its left end left; pixels. ``edges`` are places
    on its edges and ``known`` lengths on its face, by which it is laid more truly."""

    board: Word
    side: Literal["face", "back"]
    name: Word
    jpeg: Annotated[str, Field(min_length=4, max_length=600_000, pattern=r"^[A-Za-z0-9+/]+={0,2}$")]
    wide: Annotated[int, Field(ge=1, le=4_000)]
    tall: Annotated[int, Field(ge=1, le=4_000)]
    corners: Annotated[tuple[Pointed, ...], Field(max_length=4)] = ()
    edges: Annotated[tuple[Pointed, ...], Field(max_length=48)] = ()
    known: Annotated[tuple[LengthOnPhoto, ...], Field(max_length=12)] = ()
