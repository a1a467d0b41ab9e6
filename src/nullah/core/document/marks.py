"""What the wood says of a piece, and what is chosen and done of it, under the piece's own bare names; and as the project names it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, model_validator

from nullah.core.document.names import named, named_deed
from nullah.core.values.frozen import frozen
from nullah.core.values.value import PLAIN, Length, Name, Prose, Value, Word


class Choice(Value):
    """A call taken: which option, and the facts as they stood (``asked``): when those change the call opens again."""

    call: Name
    option: Name
    asked: Prose = ""
    words: Prose = ""


class Measured(Value):
    """What the wood says: it replaces the planned value. ``part`` may be a part's id or ``opening``."""

    part: Word
    dimension: Literal["length", "width", "thickness", "diagonal 1", "diagonal 2"]
    value: Length


class CutMark(Value):
    """A part marked as cut, with its sizes as they then stood: they never change silently."""

    part: Word
    length: Length
    width: Length
    thickness: Length


COUNTS = ("tails", "count")  # figures of a joint that count something
MOST_CUT = 400


class JointMark(Value):
    """A joint marked as cut, with the figures it was laid out to (mm; ``tails`` a count, ``slope`` a run), and of each part how far its
    cuts lay from the near and the far end of its length, width and thickness, mm: they never change silently."""

    joint: Word
    parts: Annotated[tuple[Word, ...], Field(max_length=1_000)]
    figures: Annotated[dict[Word, Annotated[float, Field(ge=-20_000, le=20_000)]], Field(max_length=2_000)]
    places: dict[Word, tuple[float, float, float, float, float, float]] = Field(default_factory=dict, max_length=1_000)

    @model_validator(mode="after")
    def _so_many_are_cut_by_hand(self) -> JointMark:
        most = max((self.figures.get(name, 0.0) for name in COUNTS), default=0.0)
        if most > MOST_CUT:
            raise ValueError(f"a joint of {most:g} tails or screws was never cut; {MOST_CUT} is the most")
        return self


class Deed(Value):
    """A step that is done: ``what`` is done, as ``cut``, and to which part, joint or stage."""

    what: Word
    of: Annotated[str, Field(max_length=390), PLAIN] = ""

    def named(self, piece_id: str) -> str:
        """The step's id in the project."""
        return named_deed(self.what, self.of, piece_id)


@frozen
class Named:
    """The marks of a piece by the project's names."""

    measured: tuple[Measured, ...]
    cut: tuple[CutMark, ...]
    joints_cut: tuple[JointMark, ...]
    choices: tuple[Choice, ...]
    done: tuple[str, ...]


class Marks(Value):
    """What is measured, cut, chosen and done of one piece. A later mark of the same thing replaces the earlier."""

    measured: Annotated[tuple[Measured, ...], Field(max_length=20_000)] = ()
    cut: Annotated[tuple[CutMark, ...], Field(max_length=1_000)] = ()
    joints_cut: Annotated[tuple[JointMark, ...], Field(max_length=2_000)] = ()
    choices: Annotated[tuple[Choice, ...], Field(max_length=20_000)] = ()
    done: Annotated[tuple[Deed, ...], Field(max_length=20_000)] = ()

    def of(self, piece_id: str) -> Named:
        """The same by the project's names, of the piece of that id."""
        return Named(
            tuple([_named(m, "part", piece_id) for m in self.measured]),
            tuple([_named(m, "part", piece_id) for m in self.cut]),
            tuple([_joint(m, piece_id) for m in self.joints_cut]),
            tuple([_named(c, "call", piece_id) for c in self.choices]),
            tuple([d.named(piece_id) for d in self.done]),
        )

    def of_kind(self, mark: Mark) -> tuple[str, tuple[Mark, ...]]:
        """The field that a mark stands in, and that field's marks with it in place of an earlier one of the same thing."""
        field, same = _FIELDS[type(mark)]
        kept = tuple(m for m in getattr(self, field) if same(m) != same(mark))
        return field, (*kept, mark)


Mark = Measured | CutMark | JointMark | Choice | Deed
# where each stands, and what it is of
_FIELDS: dict[type, tuple[str, Callable[[Any], object]]] = {
    Measured: ("measured", lambda m: (m.part, m.dimension)),
    CutMark: ("cut", lambda m: m.part),
    JointMark: ("joints_cut", lambda m: m.joint),
    Choice: ("choices", lambda m: m.call),
    Deed: ("done", lambda m: m),
}
M = TypeVar("M", Measured, CutMark, Choice)


def _named(mark: M, field: str, piece_id: str) -> M:
    bare = getattr(mark, field)
    full = named(bare, piece_id)
    return mark if full == bare else mark.model_copy(update={field: full})


def _joint(mark: JointMark, piece_id: str) -> JointMark:
    if named("", piece_id) == "":
        return mark
    return mark.model_copy(
        update={
            "joint": named(mark.joint, piece_id),
            "parts": tuple(named(p, piece_id) for p in mark.parts),
            "places": {named(p, piece_id): at for p, at in mark.places.items()},
        }
    )
