"""The document: ``Project`` and what it holds, as frozen, validated, versioned values. Lengths in mm.

An edit makes a new ``Project``; undo is the list of old ones. What is searched for and accepted (a layout) is kept here
as a value, with a fingerprint of what it was made from.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from nullah.core.document.boards import DEFECT_KINDS as DEFECT_KINDS
from nullah.core.document.boards import Board as Board
from nullah.core.document.boards import BoardPhoto as BoardPhoto
from nullah.core.document.boards import Defect as Defect
from nullah.core.document.boards import LengthOnPhoto as LengthOnPhoto
from nullah.core.document.boards import MoistureReading as MoistureReading
from nullah.core.document.boards import Month as Month
from nullah.core.document.boards import Reference as Reference
from nullah.core.document.boards import Room as Room
from nullah.core.document.marks import COUNTS as COUNTS
from nullah.core.document.marks import MOST_CUT as MOST_CUT
from nullah.core.document.marks import Choice as Choice
from nullah.core.document.marks import CutMark as CutMark
from nullah.core.document.marks import Deed as Deed
from nullah.core.document.marks import JointMark as JointMark
from nullah.core.document.marks import Mark
from nullah.core.document.marks import Marks as Marks
from nullah.core.document.marks import Measured as Measured
from nullah.core.document.pieces import AnyPiece, Designed, Piece, PieceId
from nullah.core.document.pieces import Guide as Guide
from nullah.core.document.pieces import KnownLength as KnownLength
from nullah.core.values.value import PLAIN, Length, Name, Position, Prose, Value, Word

SCHEMA_VERSION = 10
MOST_GUIDES = 12
LOG_LINES = 100_000  # lines of the bench book; past that, or past the letters below, the earliest make way
LOG_LETTERS = 12_000_000

# ---- readings


class Reading(Value):
    """One reading of the face side of a board or part, or of its back as it lies turned over (places as seen from the face).

    ``winding sticks``: at ``at`` from the left end, how much the upper edge stands above the lower, against a stick laid
    at ``to``, read over sticks ``stick`` long; over a hump the stick ``stood`` on that, at ``across``, and on one edge. ``cup``: a
    straightedge across at ``at``, the hollow (+) or hump (-) in the middle. ``bow``: a straightedge along at ``across`` from the lower
    edge, from ``at`` to ``to`` (0: the other end), hollow (+) or hump (-) in the middle. ``corner``: corner to corner, ``to`` 1 from
    the lower left or 2 from the upper left. ``feeler``: the gap under the corner ``to``, 1 to 4 round from the lower left, when the
    side lies down on the other three. ``thickness``: the caliper at (``at``, ``across``). ``out of square``: how far the edge ``to``
    (1 lower, 2 upper) stands out at the back. ``after`` counts the times its target had been planed (``Planed``).
    """

    target: Word
    kind: Literal["winding sticks", "cup", "bow", "corner", "feeler", "thickness", "out of square"]
    at: Position = 0.0
    across: Position = 0.0
    value: Annotated[float, Field(ge=-500, le=500)]
    stick: Annotated[float, Field(ge=0, le=2_000)] = 0.0  # 0: as long as the board is wide
    to: Position = 0.0
    stood: Literal["both edges", "lower edge, hump", "upper edge, hump"] = "both edges"
    side: Literal["face", "back"] = "face"
    after: Annotated[int, Field(ge=0, le=200)] = 0


class Planed(Value):
    """A face or back that was planed: what was done, the minutes it was reckoned to take, and the heights it is foreseen to have
    now, mm at the nodes a surface is kept at (rows along the board)."""

    target: Word
    side: Literal["face", "back"] = "face"
    words: Prose = ""
    minutes: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    heights: Annotated[tuple[Annotated[float, Field(ge=-500, le=500)], ...], Field(min_length=96, max_length=369)]


# ---- kit


class Plane(Value):
    """A bench plane: sole length, the iron's distance behind the toe, the shaving it is set to, how wide its iron is and by how much
    the corners of that stand back (camber), all mm."""

    name: Word
    sole: Length
    iron: Length
    shaving: Annotated[float, Field(gt=0, le=3)]
    width: Annotated[float, Field(ge=10, le=200)] = 50.0
    camber: Annotated[float, Field(ge=0, le=10)] = 0.0


class Kit(Value):
    """What is at hand; it decides the way the plan takes."""

    planes: Annotated[tuple[Plane, ...], Field(min_length=1, max_length=20)] = (
        Plane(name="jack plane, 355 mm sole", sole=355, iron=120, shaving=0.2, camber=0.12),
        Plane(name="jointer, 560 mm sole", sole=560, iron=190, shaving=0.1, width=60, camber=0.02),
        Plane(name="smoother, 245 mm sole", sole=245, iron=80, shaving=0.04),
    )
    crosscut_kerf: Annotated[float, Field(gt=0, le=10)] = 1.5
    rip_kerf: Annotated[float, Field(gt=0, le=10)] = 1.5
    chisels: Annotated[tuple[Annotated[float, Field(gt=0, le=100)], ...], Field(max_length=40)] = (3, 6, 12, 18, 25)
    bits: Annotated[tuple[Annotated[float, Field(gt=0, le=100)], ...], Field(max_length=60)] = (
        3,
        4,
        5,
        6,
        8,
        10,
        12,
        16,
        20,
        25,
    )
    plough: bool = True
    plough_irons: Annotated[tuple[Annotated[float, Field(gt=0, le=50)], ...], Field(max_length=40)] = (
        3,
        4,
        5,
        6,
        8,
        10,
        12,
    )
    plough_deepest: Annotated[float, Field(gt=0, le=100)] = 15.0
    router_plane: bool = True
    rabbet_plane: bool = True
    mortise_gauge: bool = True
    gauge_reach: Annotated[float, Field(gt=0, le=1_000)] = 150.0
    clamps: Annotated[int, Field(ge=0, le=200)] = 6
    glue: Literal["PVA", "hot hide", "liquid hide", "epoxy"] = "PVA"

    def only(self, *names: str) -> Kit:
        """The kit as it is to who asks for these fields alone: all others as by default."""
        return Kit(**{name: getattr(self, name) for name in names})


class Allowances(Value):
    """What is left on when sawing from the rough."""

    length: Annotated[float, Field(ge=0, le=200)] = 25.0
    width: Annotated[float, Field(ge=0, le=100)] = 6.0


class Weights(Value):
    """What counts for how much between two layouts that place the same parts.

    ``least_offcut``: mm along the grain, a shorter piece left over is waste. ``opening``: what sawing into a board costs, as
    percent of its area in wood left over. ``sawing``: how many times the common a metre of sawing counts.
    """

    least_offcut: Annotated[float, Field(ge=20, le=5000)] = 150.0
    opening: Annotated[float, Field(ge=0, le=1000)] = 10.0
    sawing: Annotated[float, Field(ge=0, le=100)] = 1.0


# ---- what was decided, timed, written down


class LogEntry(Value):
    """One line of the bench book. ``when`` is ISO 8601 in local time, or empty; ``step`` the step's id, if one."""

    kind: Literal["measured", "call", "cut", "time", "note", "change"]
    text: Prose
    when: Annotated[str, Field(max_length=40), PLAIN] = ""
    step: Annotated[str, Field(max_length=400), PLAIN] = ""
    minutes: Annotated[float, Field(ge=0, le=100_000)] = 0.0


class Timer(Value):
    """A step that is being timed: since when (ISO 8601 with its offset). It runs on while the program is closed."""

    step: Name
    started: Annotated[str, Field(min_length=1, max_length=40), PLAIN]


# ---- accepted layout


class Node(Value):
    """A rectangle of a board in a tree of full saw cuts: a part, an offcut, waste, or cut in two.

    ``x, y, length, width`` lie in the board's own axes. A cut ``across`` (crosscut) takes away x from ``at`` to
    ``at + kerf``; one ``along`` (rip) takes away y from ``at`` to ``at + kerf``. ``children`` are the two sides, in order.
    """

    x: Position
    y: Position
    length: Annotated[float, Field(ge=0, le=20_000)]
    width: Annotated[float, Field(ge=0, le=20_000)]
    use: Literal["part", "offcut", "waste", "cut"]
    part: Annotated[str, Field(max_length=120), PLAIN] = ""
    axis: Literal["", "across", "along"] = ""
    at: Position = 0.0
    kerf: Annotated[float, Field(ge=0, le=20)] = 0.0
    children: Annotated[tuple[Node, ...], Field(max_length=2)] = ()

    @model_validator(mode="after")
    def _a_cut_has_two_sides(self) -> Node:
        if (len(self.children) == 2 and self.axis != "") != (self.use == "cut") or (
            self.children and self.use != "cut"
        ):
            raise ValueError("a cut has two sides and a direction, and nothing else has")
        return self


class BoardLayout(Value):
    """What is sawn from one board."""

    board: Word
    root: Node


class AcceptedLayout(Value):
    """A layout found by search and accepted; ``fingerprint`` is of the boards and rough sizes it was made from."""

    name: Word
    boards: Annotated[tuple[BoardLayout, ...], Field(max_length=200)]
    unplaced: tuple[Word, ...] = ()
    fingerprint: Annotated[str, Field(max_length=80), PLAIN]


# ---- the whole


Number = Annotated[int, Field(ge=0, le=999_999)]


class Project(Value):
    """One piece of work, whole: a piece or several that come out of the same boards. Immutable; ``model_copy(update=...)`` through
    ``edit`` makes the next one.

    ``piece=`` may be given in place of ``pieces=`` to make a project of one, and ``model_copy(update={"piece": one})`` replaces the
    piece of that id, whose marks stay.
    """

    schema_version: Literal[10] = 10
    name: Word = "New project"
    units: Literal["mm", "in"] = "mm"
    denominator: Literal[16, 32, 64] = 32
    pieces: Annotated[tuple[AnyPiece, ...], Field(min_length=1, max_length=40)] = (Piece(),)
    last_piece: Number = 0  # the highest number of those that were taken away: no other ever has it
    hand: PieceId = "1"  # the piece that is in hand
    boards: Annotated[tuple[Board, ...], Field(max_length=500)] = ()
    last_board: Number = 0
    readings: Annotated[tuple[Reading, ...], Field(max_length=5_000)] = ()
    planed: Annotated[tuple[Planed, ...], Field(max_length=5_000)] = ()  # in the order it was done
    room: Room = Room()
    kit: Kit = Kit()
    allowances: Allowances = Allowances()
    weights: Weights = Weights()
    choices_of_all: Annotated[
        tuple[Choice, ...], Field(max_length=20_000)
    ] = ()  # of boards, and of all pieces together
    done_of_all: Annotated[
        tuple[Name, ...], Field(max_length=20_000)
    ] = ()  # steps of no one piece: saw cuts, boards that settle
    log: Annotated[tuple[LogEntry, ...], Field(max_length=LOG_LINES)] = ()
    layout: AcceptedLayout | None = None
    pinned: Annotated[tuple[Word, ...], Field(max_length=1_000)] = ()  # parts that stay where they are laid
    whole: Annotated[tuple[Word, ...], Field(max_length=500)] = ()  # boards that are not to be sawn into
    timer: Timer | None = None
    board_photos: Annotated[tuple[BoardPhoto, ...], Field(max_length=24)] = ()  # at most one of a side
    references: Annotated[tuple[Reference, ...], Field(max_length=200)] = ()  # the latest of a species counts

    @model_validator(mode="before")
    @classmethod
    def _one_piece_stands_for_pieces(cls, given: Any) -> Any:
        if isinstance(given, dict) and "piece" in given:
            rest = {k: v for k, v in given.items() if k != "piece"}
            one = given["piece"]
            if isinstance(one, Piece | Designed) and "pieces" in rest:  # the piece of that id is replaced
                kept = tuple(
                    _with_marks_of(one, p) if p.id == one.id and type(p) is type(one) else p for p in rest["pieces"]
                )
                return {**rest, "pieces": kept}
            hand = one.id if isinstance(one, Piece | Designed) else "1"
            return {"hand": hand, **rest, "pieces": (one,)}
        return given

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Project:
        boards = [b.id for b in self.boards]
        if len(set(boards)) != len(boards):
            raise ValueError("two boards share one id")
        pieces = [p.id for p in self.pieces]
        if len(set(pieces)) != len(pieces):
            raise ValueError("two pieces share one id")
        if self.hand not in pieces:
            raise ValueError("the piece in hand is none of the project's")
        if sum(p.guide is not None for p in self.pieces) > MOST_GUIDES:
            raise ValueError(f"a project keeps {MOST_GUIDES} photographs beside its pieces at the most")
        return self

    # what is marked, by the project's names

    @cached_property
    def measured(self) -> tuple[Measured, ...]:
        """All that is measured, of all pieces."""
        return tuple([m for p in self.pieces for m in p.named.measured])

    @cached_property
    def cut(self) -> tuple[CutMark, ...]:
        """All parts that are marked as cut."""
        return tuple([m for p in self.pieces for m in p.named.cut])

    @cached_property
    def joints_cut(self) -> tuple[JointMark, ...]:
        """All joints that are marked as cut."""
        return tuple([m for p in self.pieces for m in p.named.joints_cut])

    @cached_property
    def choices(self) -> tuple[Choice, ...]:
        """All calls that are taken: of all together, then of each piece."""
        return (*self.choices_of_all, *(c for p in self.pieces for c in p.named.choices))

    @cached_property
    def done(self) -> tuple[str, ...]:
        """The ids of all steps that are done: of all together, then of each piece."""
        return (*self.done_of_all, *(d for p in self.pieces for d in p.named.done))

    @cached_property
    def planned_from(self) -> tuple[Piece | Designed, ...]:
        """All that the plan of its pieces is made from."""
        return tuple(p.planned_from for p in self.pieces)

    def of_piece(self, piece_id: str) -> Piece | Designed:
        """The piece of an id.

        Raises:
            KeyError: there is none.
        """
        for one in self.pieces:
            if one.id == piece_id:
                return one
        raise KeyError(piece_id)

    def with_design(self, piece: Piece | Designed) -> Project:
        """The project with what is asked for of a piece, and changed by hand, as in another of that id; its marks stay.

        Raises:
            ValidationError: it is out of bounds.
        """
        kept = (p if p.id != piece.id else _with_marks_of(piece, p) for p in self.pieces)
        return self.model_copy(update={"pieces": tuple(kept)})

    def with_marks(self, piece_id: str, **update: Any) -> Project:
        """The project with fields of the ``Marks`` of a piece replaced.

        Raises:
            ValidationError: they are out of bounds.
            KeyError: there is no such piece.
        """
        mine = self.of_piece(piece_id)
        fresh = mine.model_copy(update={"marks": mine.marks.model_copy(update=update)})
        return self.model_copy(update={"pieces": tuple(fresh if p is mine else p for p in self.pieces)})

    def with_mark(self, piece_id: str, mark: Mark) -> Project:
        """The project with a mark of a piece, by the piece's own names, in place of an earlier one of the same thing.

        Raises:
            ValidationError: there are more than a project keeps.
            KeyError: there is no such piece.
        """
        field, marks = self.of_piece(piece_id).marks.of_kind(mark)
        return self.with_marks(piece_id, **{field: marks})

    def without_steps(self, ids: Collection[str]) -> Project:
        """The project with no step done that has one of these ids."""
        kept = self._where("done", lambda name: name not in ids)
        return kept.model_copy(update={"done_of_all": tuple(d for d in self.done_of_all if d not in ids)})

    def without_choice(self, call_id: str) -> Project:
        """The project with nothing chosen in the call of an id."""
        kept = self._where("choices", lambda choice: choice.call != call_id)
        return kept.model_copy(update={"choices_of_all": tuple(c for c in self.choices_of_all if c.call != call_id)})

    def _where(self, field: str, stays: Callable[[Any], bool]) -> Project:
        """The project with those marks of its pieces alone that are to stay by the project's names."""
        project = self
        for p in self.pieces:
            both = zip(getattr(p.marks, field), getattr(p.named, field), strict=True)
            left = tuple(mark for mark, name in both if stays(name))
            if len(left) < len(getattr(p.marks, field)):
                project = project.with_marks(p.id, **{field: left})
        return project

    @property
    def in_hand(self) -> Piece | Designed:
        """The piece in hand."""
        return self.of_piece(self.hand)

    @property
    def piece(self) -> Piece:
        """The box in hand, else the first there is, else one as by default: for what knows boxes alone."""
        boxes = [p for p in self.pieces if isinstance(p, Piece)]
        return next((p for p in boxes if p.id == self.hand), boxes[0] if boxes else _NO_BOX)


_NO_BOX = Piece()


def _with_marks_of(piece: Piece | Designed, other: Piece | Designed) -> Piece | Designed:
    return piece.model_copy(update={"marks": other.marks, "guide": other.guide})


def schema() -> dict[str, object]:
    """The document's JSON Schema (draft 2020-12), as docs/ ships it."""
    return Project.model_json_schema()
