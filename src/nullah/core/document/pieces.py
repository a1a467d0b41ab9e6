"""The pieces of a document: what was asked for, and what the maker changed by hand; nothing that follows from it."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Any, Literal, Self

from pydantic import Discriminator, Field, Tag, model_validator

from nullah.core.document.boards import Pixel
from nullah.core.document.marks import Marks, Named
from nullah.core.values.value import Length, Signed, Text, Value, Word


class Contents(Value):
    """What the box must hold: ``count`` items of width x height x thickness, and how they stand."""

    name: Word = "thing"
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    width: Length = 60.0
    height: Length = 40.0
    thickness: Length = 40.0
    stand: Literal["upright", "on edge", "flat"] = "upright"


PieceId = Annotated[str, Field(pattern=r"^[0-9]{1,6}$")]
PartId = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9-]{0,59}$")]  # a dot parts it from its piece
WHOLE, OPENING = (
    "box",
    "opening",
)  # what is measured of a piece and is no part: its diagonals, and what is clear inside it
Answers = dict[Word, bool | int | float | Text]


class KnownLength(Value):
    """A length on a picture that is known: its two ends, pixels right and down from the upper left corner, and mm."""

    x0: Pixel
    y0: Pixel
    x1: Pixel
    y1: Pixel
    mm: Length

    @model_validator(mode="after")
    def _it_has_two_ends(self) -> KnownLength:
        if abs(self.x1 - self.x0) + abs(self.y1 - self.y0) < 1:
            raise ValueError("a known length has two ends")
        return self


class Guide(Value):
    """A photograph that a piece is made after: a small copy as JPEG in base64, its pixels, and one length on it once that is known."""

    name: Word
    jpeg: Annotated[str, Field(min_length=4, max_length=600_000, pattern=r"^[A-Za-z0-9+/]+={0,2}$")]
    wide: Annotated[int, Field(ge=1, le=4_000)]
    tall: Annotated[int, Field(ge=1, le=4_000)]
    known: KnownLength | None = None


class _OfPiece(Value):
    """What every piece has beside what is asked for: what the wood says of it, what is chosen and done, and a photograph to go by."""

    id: PieceId = "1"
    marks: Marks = Marks()
    guide: Guide | None = None

    @cached_property
    def design(self) -> Self:
        """What was asked for, and changed by hand, alone: the same object for as long as the piece is."""
        return self.model_copy(update={"marks": Marks(), "guide": None})

    @cached_property
    def planned_from(self) -> Self:
        """All of it that its plan is made from: not what is done, nor its photograph."""
        return self.model_copy(update={"marks": self.marks.model_copy(update={"done": ()}), "guide": None})

    @cached_property
    def named(self) -> Named:
        """Its marks by the project's names."""
        return self.marks.of(self.id)


class Piece(_OfPiece):
    """The dovetailed box as asked for; everything else about it is computed."""

    kind: Literal["dovetailed_box"] = "dovetailed_box"
    name: Word = "Practice box"
    contents: Contents = Contents()
    wiggle: Annotated[float, Field(ge=0, le=200)] = 3.0
    dividers: Annotated[int, Field(ge=0, le=400)] = 0
    divider_shift: Annotated[
        tuple[Signed, ...], Field(max_length=400)
    ] = ()  # each from where equal bays put it; () all 0
    divider_thickness: Annotated[float, Field(gt=0, le=100)] = 9.0
    wall: Annotated[float, Field(gt=0, le=100)] = 18.0
    bottom_thickness: Annotated[float, Field(gt=0, le=60)] = 6.0
    lid: Literal["sliding", "lift-off", "none"] = "none"
    lid_thickness: Annotated[float, Field(gt=0, le=60)] = 8.0
    tails: Annotated[int, Field(ge=0, le=40)] = 0  # 0: as many as suit the height
    pin: Annotated[float, Field(gt=0, le=60)] = 6.0
    half_pin: Annotated[float, Field(ge=0, le=60)] = 0.0  # 0: half the wall
    slope: Annotated[float, Field(ge=0, le=12)] = 0.0  # run for a rise of one; 0: by the species' ease
    extra_length: Signed = 0.0
    extra_width: Signed = 0.0
    extra_height: Signed = 0.0
    wall_species: Word = "yellow-poplar"  # a soft even wood for a first joint
    panel_species: Word = "yellow-poplar"
    lid_species: Word = "yellow-poplar"


class AddFrame(Value):
    """An edit: where parts of the maker's own stand otherwise than square to the piece, turned by ``degrees`` about an axis through
    ``at``; right-handed: about x it takes y towards z."""

    edit: Literal["frame"] = "frame"
    id: PartId
    at: tuple[Signed, Signed, Signed] = (0.0, 0.0, 0.0)
    axis: Literal["x", "y", "z"] = "x"
    degrees: Annotated[float, Field(ge=-90, le=90)] = 0.0


class BetweenMarks(Value):
    """From one mark of a story stick to another."""

    rod: Word
    start: Word
    end: Word


class AddPart(Value):
    """An edit: a part of the maker's own, ``at`` the corner of its body least in x, y and z of its frame (the piece's own where it has
    none), its face and its upper edge looking the ways named. Its length lies ``along`` two marks, its width ``across`` and its
    thickness ``through`` two, where they are given, and follows them; else it is as long as it says."""

    edit: Literal["part"] = "part"
    id: PartId
    label: Word
    length: Length
    width: Length
    thickness: Annotated[float, Field(gt=0, le=300)]
    species: Word = "yellow-poplar"
    role: Literal["show", "inside", "hidden"] = "show"
    face: Literal["front", "back", "left", "right", "up", "down"] = "front"
    upper: Literal["front", "back", "left", "right", "up", "down"] = "up"
    at: tuple[Signed, Signed, Signed] = (0.0, 0.0, 0.0)
    frame: PartId | Literal[""] = ""
    along: BetweenMarks | None = None
    across: BetweenMarks | None = None
    through: BetweenMarks | None = None

    @model_validator(mode="after")
    def _face_and_edge_are_square(self) -> AddPart:
        axis = {"left": 0, "right": 0, "front": 1, "back": 1, "up": 2, "down": 2}
        if axis[self.face] == axis[self.upper]:
            raise ValueError(f"the face and the upper edge of {self.label} look the same way or opposite ones")
        return self


_ANY = AddPart(id="part", label="part", length=1, width=1, thickness=1)


def put_of_part(what: str, value: bool | float | str) -> float | str:
    """What is put of a part, held to what an added part's own may be: a size in mm, ``label``, ``species`` or ``role``.

    Raises:
        ValidationError: it may not stand there.
    """
    given = str(value) if isinstance(value, bool) else value  # yes and no are no sizes
    return getattr(_ANY.model_copy(update={what: given}), what)  # type: ignore[no-any-return]  # it was validated


class AddJoint(Value):
    """An edit: a joint of the maker's own, ``first`` looking ``way`` towards ``second``; those of one ``set`` share a setting."""

    edit: Literal["joint"] = "joint"
    id: PartId
    family: Word
    first: PartId
    second: PartId | Literal[""] = ""
    way: Literal["front", "back", "left", "right", "up", "down"] = "right"
    asked: Answers = Field(default_factory=dict)
    set: Word | Literal[""] = ""


class Drop(Value):
    """An edit: a part or a joint that the kind foresees and that is not wanted."""

    edit: Literal["drop"] = "drop"
    id: PartId


class Put(Value):
    """An edit: a figure written by hand in place of what the kind gives, as a part's ``thickness`` or what a joint is asked."""

    edit: Literal["put"] = "put"
    owner: PartId
    what: Word
    value: bool | float | Word


Edit = Annotated[AddFrame | AddPart | AddJoint | Drop | Put, Field(discriminator="edit")]


class Designed(_OfPiece):
    """A piece of any kind that is designed from answers: what was asked, by the names the kind asks for, and what the maker changed by
    hand. Nothing expanded is stored."""

    kind: Annotated[str, Field(pattern=r"^[a-z][a-z_]{0,59}$")]
    name: Word
    asked: Answers = Field(default_factory=dict)
    edits: Annotated[tuple[Edit, ...], Field(max_length=2_000)] = ()

    @model_validator(mode="after")
    def _a_box_is_written_as_one(self) -> Designed:
        if self.kind == "dovetailed_box":
            raise ValueError("a dovetailed box is written with fields of its own")
        return self


def _shape(given: Any) -> str:
    """Which of the two shapes of a piece is given."""
    kind = given.get("kind", "dovetailed_box") if isinstance(given, dict) else getattr(given, "kind", "")
    return "box" if kind == "dovetailed_box" else "designed"


AnyPiece = Annotated[Annotated[Piece, Tag("box")] | Annotated[Designed, Tag("designed")], Discriminator(_shape)]
