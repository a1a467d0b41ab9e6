"""A kind that is worked out in a way of its own instead of from a design: what everything downstream asks of such a piece."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field
from typing import Protocol

from nullah.core.document.calls import Call, Change
from nullah.core.document.pieces import AddFrame, AddJoint, AddPart, Piece
from nullah.core.document.project import Choice, CutMark, JointMark, Kit, Measured
from nullah.core.marking.plan import Check, JointPlan
from nullah.core.pieces.act import Act
from nullah.core.pieces.part import Chain, Part
from nullah.core.pieces.stick import Stick
from nullah.core.shapes.cut import Placed, Point3
from nullah.core.values.frozen import frozen
from nullah.core.wood.seasoned import Wood


class NoShift(ValueError):
    """A part cannot be moved there; the message says why."""


@frozen
class Laying:
    """Its joints by its own names, what stands in their way, and what is asked of them; ``anew``: those that are cut as they would be
    laid out were none cut, or why one cannot be."""

    joints: tuple[JointPlan, ...]
    trouble: str
    calls: tuple[Call, ...]
    anew: Mapping[str, JointPlan | str] = field(default_factory=dict)


@frozen
class Closing:
    """How it goes together: the frame's length and width, mm, the longest stage in minutes, steps, checks and calls; how far each
    panel still lies in its grooves on each side in the driest month, mm."""

    frame: tuple[float, float]
    minutes: float
    acts: tuple[Act, ...]
    checks: tuple[Check, ...]
    calls: tuple[Call, ...]
    engaged: Mapping[str, float]


@frozen
class Written:
    """Such a piece as parts and joints of the maker's own; ``became``: the joints that each of its joints has become."""

    edits: tuple[AddFrame | AddPart | AddJoint, ...]
    became: Mapping[str, tuple[str, ...]]


class Own(Protocol):
    """A piece worked out in its kind's own way. Parts and joints go by the piece's own names, without what a project puts before
    them."""

    @property
    def word(self) -> str:
        """The piece in a word."""

    @property
    def parts(self) -> tuple[Part, ...]:
        """Its parts."""

    @property
    def chains(self) -> tuple[Chain, ...]:
        """Its lines of arithmetic."""

    @property
    def sticks(self) -> tuple[Stick, ...]:
        """Its story sticks."""

    @property
    def outside(self) -> Point3:
        """How far it reaches along x, y and z, mm."""

    @property
    def inside(self) -> Point3 | None:
        """What is clear inside it, mm; None where it holds nothing."""

    @property
    def problems(self) -> tuple[str, ...]:
        """What no longer goes in, a sentence each."""

    def following(self, part: Part, off: list[int]) -> Change | None:
        """The change that makes the plan of a part what it was cut to in these dimensions; None where there is none."""

    def thinner(self, part: Part, to: float) -> Change | None:
        """The change that makes a part, and those like it, so thick, mm; None where nothing sets it."""

    def laid(self, kit: Kit, choices: tuple[Choice, ...]) -> Laying:
        """Its joints."""

    def as_cut(self, mark: JointMark, now: JointPlan) -> tuple[str, Change] | None:
        """What would make the plan of a joint, as it would be laid out ``now``, what was cut, in words, and the change; None where
        nothing would."""

    def placed(self, joints: tuple[JointPlan, ...]) -> tuple[Placed, ...]:
        """Every part where it stands when the piece is closed."""

    def closing(self, kit: Kit, joints: tuple[JointPlan, ...], choices: tuple[Choice, ...]) -> Closing:
        """How it goes together."""

    def written(self, joints: tuple[JointPlan, ...]) -> Written:
        """It as parts and joints of the maker's own, which no kind holds."""

    def away(self, part: str) -> Point3:
        """How far a part moves off, mm, when the piece comes wholly apart."""

    def shifts(self) -> tuple[str, ...]:
        """The parts that may be pulled to and fro along the length of the piece."""

    def shifted(self, part: str, by: float, stop: Callable[[float], float]) -> tuple[Change, str]:
        """The change that moves such a part ``by`` mm, and a few words; ``stop`` gives the nearest division shown.

        Raises:
            NoShift: it cannot go there.
        """


class Works(Protocol):
    """How such a kind works a piece out."""

    def __call__(
        self,
        piece: Piece,
        measured: tuple[Measured, ...],
        cut: tuple[CutMark, ...],
        joints: tuple[JointMark, ...],
        choices: tuple[Choice, ...],
        wood: Wood,
    ) -> tuple[Own, tuple[Call, ...], tuple[Call, ...]]:
        """The piece, what is asked before its parts are cut, and what after; parts, joints and marks by its own names.

        Raises:
            ValueError: it cannot be made; one sentence.
        """
