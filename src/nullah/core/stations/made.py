"""What the piece station gives: every piece worked out, with its parts by the project's names."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import field
from functools import cached_property
from typing import Any, Protocol, TypeVar

from nullah.core.document.calls import Call
from nullah.core.document.names import prefix
from nullah.core.document.pieces import WHOLE, Designed, Piece
from nullah.core.document.project import JointMark
from nullah.core.marking.plan import JointPlan, unqualified
from nullah.core.pieces.own import Own
from nullah.core.pieces.part import Chain, Part
from nullah.core.pieces.stick import Stick
from nullah.core.pieces.worked import Worked
from nullah.core.shapes.cut import Placed, Point3
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import frozen

APART = 0.9  # of a part's distance from the middle: how far it moves when all comes apart

R = TypeVar("R")


class Keeps(Protocol):
    """What keeps the result of a piece's work for as long as all that it was worked from stays the same."""

    def __call__(self, name: str, work: Callable[..., R], /, *inputs: Any) -> R:
        """The kept result of ``work`` of the inputs under a name, or a fresh one."""
        ...


def anew(_: str, work: Callable[..., R], *inputs: Any) -> R:
    """``Keeps`` that keeps nothing."""
    return work(*inputs)


@frozen
class Made:
    """One piece worked out: what the document says of it, its parts by the project's names, and what cannot be worked out.

    ``own``: where its kind works it out in a way of its own; ``worked``: where it is worked out from a design; ``joints_cut``: its
    joints that are cut, by the project's names.
    """

    piece: Piece | Designed
    parts: tuple[Part, ...] = ()
    problem: str = ""
    own: Own | None = None
    worked: Worked | None = None
    joints_cut: tuple[JointMark, ...] = ()

    @property
    def id(self) -> str:
        """The piece's id."""
        return self.piece.id

    @property
    def prefix(self) -> str:
        """What the project puts before the names of its parts."""
        return prefix(self.piece.id)

    @property
    def whole(self) -> str:
        """What measurements of the whole piece, its diagonals, are written under."""
        return f"{self.prefix}{WHOLE}"

    @property
    def chains(self) -> tuple[Chain, ...]:
        """Its lines of arithmetic."""
        one = self.own or self.worked
        return one.chains if one else ()

    @property
    def sticks(self) -> tuple[Stick, ...]:
        """Its story sticks."""
        one = self.own or self.worked
        return one.sticks if one else ()

    def failing(self) -> tuple[str, ...]:
        """What is to hold of the piece as a whole and does not, a sentence each."""
        if self.own is not None:
            return self.own.problems
        return tuple(c.text for c in self.worked.checks if not c.holds) if self.worked is not None else ()

    @property
    def outside(self) -> Point3 | None:
        """How far it reaches along x, y and z, mm; None where it has no parts."""
        if self.own is not None:
            return self.own.outside
        return self.worked.outside if self.worked is not None and self.parts else None

    @property
    def inside(self) -> Point3 | None:
        """What is clear inside it, mm; None where that is not told."""
        return self.own.inside if self.own is not None else None

    def label(self, part: Part) -> str:
        """What one of its parts is called without its piece's name: by its letter where its kind names parts so."""
        return part.id.removeprefix(self.prefix) if self.own is not None else part.name.rpartition(": ")[2]

    def joint_design(self, joint: str) -> JointDesign | None:
        """A joint by the project's name for it as the piece's design has it; None of a piece worked out in a way of its own."""
        if self.worked is None:
            return None
        name = joint.removeprefix(self.prefix)
        return next((j for j in self.worked.sizes.design.joints if j.id == name), None)

    def stands(self, joints: tuple[JointPlan, ...]) -> tuple[Placed, ...]:
        """Every part where it stands, by the piece's own names.

        Args:
            joints: of the piece, as they are laid out, by the project's names.
        """
        if self.own is not None:
            return self.own.placed(tuple(unqualified(j, self.prefix) for j in joints))
        return self.worked.placed() if self.worked is not None else ()

    def away(self, part: str, middle: Point3, whole: Point3) -> Point3:
        """How far a part moves off, mm, when the piece comes wholly apart.

        Args:
            middle: of the part; whole: of the piece; mm.
        """
        if self.own is not None:
            return self.own.away(part)
        x, y, z = (APART * (a - b) for a, b in zip(middle, whole, strict=True))
        return (x, y, z)

    def shifts(self) -> tuple[str, ...]:
        """The parts that may be pulled to and fro along the piece, by its own names."""
        return self.own.shifts() if self.own is not None else ()


@frozen
class PieceResult:
    """Every piece, the one in hand, and the calls of all."""

    made: tuple[Made, ...]
    hand: str
    calls: tuple[Call, ...]
    of_part: Mapping[str, Made] = field(default_factory=dict)

    @property
    def in_hand(self) -> Made:
        """The piece in hand."""
        return next(m for m in self.made if m.id == self.hand)

    @property
    def problem(self) -> str:
        """Why the piece in hand cannot be worked out, "" where it can."""
        return self.in_hand.problem

    def called(self, name: str) -> str:
        """What a part is called whichever piece is in hand: a part of the first piece by its own name where its kind names parts by
        letters, any other by its label, with its piece's name; and a group of them likewise."""
        made = self.of_part.get(name)
        if made is None:
            of = next((m for m in self.made if m.prefix and name.startswith(m.prefix)), None)
            return f"{of.piece.name}: {name.removeprefix(of.prefix).replace('-', ' ')}" if of is not None else name
        if made.own is not None and not made.prefix:
            return name
        return next(p.name for p in made.parts if p.id == name)

    def written(self, name: str) -> str:
        """What a part has written on it: its letter or its label, with its piece's number before it where another piece has a part of
        that label."""
        return self._written.get(name, name)

    @cached_property
    def _written(self) -> dict[str, str]:
        labels = {p.id: m.label(p) for m in self.made for p in m.parts}
        of = defaultdict(set)
        for m in self.made:
            for p in m.parts:
                of[labels[p.id]].add(m.id)
        return {
            p.id: f"{m.id} {labels[p.id]}" if m.prefix and len(of[labels[p.id]]) > 1 else labels[p.id]
            for m in self.made
            for p in m.parts
        }

    def spoken(self, name: str) -> str:
        """What a part is called where it is mentioned: by its letter or its label, those of pieces that are not in hand with their
        piece's name."""
        made = self.of_part.get(name)
        if made is None:
            return name
        own = made.label(next(p for p in made.parts if p.id == name))
        return own if made.id == self.hand or not made.prefix else f"{made.piece.name}: {own}"

    @property
    def chains(self) -> tuple[Chain, ...]:
        """The lines of arithmetic of the piece in hand."""
        return self.in_hand.chains

    @property
    def parts(self) -> tuple[Part, ...]:
        """All parts of all pieces; those of a piece that cannot be worked out are not there."""
        return tuple(p for m in self.made for p in m.parts)
