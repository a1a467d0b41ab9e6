"""What the piece station gives: every piece worked out, with its parts by the project's names."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from nullah.core.calls import Call
from nullah.core.document_pieces import Designed, Piece, prefix
from nullah.core.frozen import frozen
from nullah.core.joints.plan import Check
from nullah.core.pieces.box import Box
from nullah.core.pieces.part import Chain, Part
from nullah.core.pieces.worked import Worked


@frozen
class Made:
    """One piece worked out: what the document says of it, its parts by the project's names, and what cannot be worked out."""

    piece: Piece | Designed
    parts: tuple[Part, ...] = ()
    problem: str = ""
    box: Box | None = None
    worked: Worked | None = None

    @property
    def id(self) -> str:
        """The piece's id."""
        return self.piece.id

    @property
    def prefix(self) -> str:
        """What the project puts before the names of its parts."""
        return prefix(self.piece.id)

    @property
    def chains(self) -> tuple[Chain, ...]:
        """Its lines of arithmetic."""
        one = self.box or self.worked
        return one.chains if one else ()

    def failing(self) -> tuple[Check, ...]:
        """What is to hold of a designed piece as a whole and does not."""
        return tuple(c for c in self.worked.checks if not c.holds) if self.worked is not None else ()

    @property
    def outside(self) -> tuple[float, float, float] | None:
        """How far it reaches along x, y and z, mm; None where it has no parts."""
        if self.box is not None:
            return self.box.outside
        return self.worked.outside if self.worked is not None and self.parts else None


@frozen
class PieceResult:
    """Every piece; of the one in hand its box, if it is one, and what could not be worked out of it; the calls of all."""

    made: tuple[Made, ...]
    hand: str
    calls: tuple[Call, ...]
    of_part: Mapping[str, Made] = field(default_factory=dict)

    @property
    def in_hand(self) -> Made:
        """The piece in hand."""
        return next(m for m in self.made if m.id == self.hand)

    @property
    def box(self) -> Box | None:
        """The box in hand; None where it is none, or cannot be worked out."""
        return self.in_hand.box

    @property
    def problem(self) -> str:
        """Why the piece in hand cannot be worked out, "" where it can."""
        return self.in_hand.problem

    def called(self, name: str) -> str:
        """What a part is called whichever piece is in hand: a part of the first box by its own name, any other by its label, with its
        piece's name."""
        made = self.of_part.get(name)
        if made is None or (made.box is not None and not made.prefix):
            return name
        return next(p.name for p in made.parts if p.id == name)

    def spoken(self, name: str) -> str:
        """What a part is called where it is mentioned: a side of a box by its letter, a part of a designed piece by its label, those of
        pieces that are not in hand with their piece's name."""
        made = self.of_part.get(name)
        if made is None:
            return name
        part = next(p for p in made.parts if p.id == name)
        own = name.removeprefix(made.prefix) if made.box is not None else part.name.rpartition(": ")[2]
        return own if made.id == self.hand or not made.prefix else f"{made.piece.name}: {own}"

    @property
    def chains(self) -> tuple[Chain, ...]:
        """The lines of arithmetic of the piece in hand."""
        return self.in_hand.chains

    @property
    def parts(self) -> tuple[Part, ...]:
        """All parts of all pieces; those of a piece that cannot be worked out are not there."""
        return tuple(p for m in self.made for p in m.parts)


def owner(name: str, ids: tuple[str, ...]) -> str:
    """The id of the piece that a part's or a joint's name belongs to."""
    head, dot, _ = name.partition(".")
    return head if dot and head != "1" and head in ids else "1"
