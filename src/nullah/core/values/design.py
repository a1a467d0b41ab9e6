"""What a kind of piece comes to before anything is reckoned: frames, rods, parts and joints as values.

Piece: x left to right, y front to back, z up; mm and degrees. Nothing here holds a size that was worked out: sizes are sums of terms,
each a number or a reference to another figure, and ``core/pieces/sizes.py`` reckons them with what was measured and cut.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from functools import cached_property
from typing import NamedTuple

from nullah.core.values.frozen import frozen, replace

Answer = bool | int | float | str


class NoPiece(ValueError):
    """Answers or edits that no piece can be made of; the message is one sentence."""


class Ref(NamedTuple):
    """A figure of something: a part's ``length``, a joint's ``depth``, a rod's mark."""

    owner: str
    what: str


@frozen
class Term:
    """One line of arithmetic: ``times`` x a number of mm, a figure, or the largest of several. ``edit``: the answer that typing on it
    changes, "" for none. ``swells``: only so much of it as that of these parts which grows most grows by the wettest month, were they
    made to fill it then."""

    label: str
    mm: float = 0.0
    of: Ref | None = None
    times: float = 1.0
    edit: str = ""
    most: tuple[Ref, ...] = ()
    swells: tuple[str, ...] = ()


Sum = tuple[Term, ...]


@frozen
class Frame:
    """Where rods run: the piece itself ("") or something that stands in it, turned by ``degrees`` about an axis through ``at``.

    The turn is right-handed: about x it takes y towards z.
    """

    id: str
    at: tuple[Sum, Sum, Sum] = ((), (), ())
    axis: str = "x"
    degrees: float = 0.0


@frozen
class Mark:
    """A mark on a rod: so far from the one before it (the first: from the frame's origin). ``gives``: it takes its share of what is
    left over of the rod's total; ``clear``: something must fit in there."""

    id: str
    gap: Sum = ()
    gives: float = 0.0
    clear: bool = False
    label: str = ""  # of a gap that gives


@frozen
class Rod:
    """A story stick along an axis of a frame, which is also a line of arithmetic. Without ``total`` it is as long as its gaps; with it
    the gaps that give take up what is left. ``hold``: the mark whose gap is the inside, where inside or outside may be held."""

    id: str
    name: str
    axis: str
    marks: tuple[Mark, ...]
    total: Sum = ()
    frame: str = ""
    hold: str = ""
    same: tuple[str, ...] = ()  # rods that are to be as long as it


@frozen
class Along:
    """How a part lies in one way of its frame: from mark ``a`` to mark ``b`` of a rod, or from one of them and a size.

    ``off`` is added at a, ``off_b`` at b. Without a rod, ``off`` says where it begins and ``size`` how far it goes. What its joints
    reach is added where both ends are given by marks, and without a rod.
    """

    rod: str = ""
    a: str = ""
    b: str = ""
    size: Sum = ()
    off: Sum = ()
    off_b: Sum = ()


@frozen
class PartDesign:
    """A part: what it is called, which way its face and its upper edge look (``front``, ``up``, ...), and how it lies along its length,
    across its width and through its thickness."""

    id: str
    label: str
    face: str
    up: str
    along: Along
    across: Along
    through: Along
    frame: str = ""
    group: str = ""
    role: str = "show"
    species: str = "yellow-poplar"
    show_face: str = "outside"
    fitted: bool = False  # left long, and fitted last


@frozen
class JointDesign:
    """Two parts that meet, or one that is shaped: ``first`` is what enters, looking ``way`` towards ``second``.

    ``asked``: what is asked of the joint otherwise than by default. ``set``: joints of one set share a setting.
    """

    id: str
    family: str
    first: str
    second: str = ""
    way: str = "right"
    asked: Mapping[str, Answer] = field(default_factory=dict)
    set: str = ""


@frozen
class Squared:
    """What is squared by its diagonals: two rods whose totals are its sides."""

    name: str
    rods: tuple[str, str]


@frozen
class Design:
    """A piece as designed."""

    rods: tuple[Rod, ...] = ()
    parts: tuple[PartDesign, ...] = ()
    joints: tuple[JointDesign, ...] = ()
    frames: tuple[Frame, ...] = ()
    squared: tuple[Squared, ...] = ()

    def part(self, part_id: str) -> PartDesign:
        """The part of that id.

        Raises:
            KeyError: there is none.
        """
        return self._by_id[part_id]

    @cached_property
    def _by_id(self) -> dict[str, PartDesign]:
        return {p.id: p for p in self.parts}


# ---- short ways to write a design down


def mm(label: str, value: float, edit: str = "", times: float = 1.0) -> Sum:
    """A line of so many mm; ``edit`` names the answer it comes from."""
    return (Term(label, value, times=times, edit=edit),)


def of(label: str, owner: str, what: str, times: float = 1.0) -> Sum:
    """A line that is a figure of something else."""
    return (Term(label, of=Ref(owner, what), times=times),)


def most(label: str, *refs: tuple[str, str], times: float = 1.0) -> Sum:
    """A line that is the largest of several figures, each by owner and what."""
    return (Term(label, times=times, most=tuple(Ref(owner, what) for owner, what in refs)),)


def swelling(label: str, terms: Sum, parts: tuple[str, ...]) -> Sum:
    """What parts that are to fill a room in the wettest month are made smaller than it."""
    return tuple(
        replace(t, label="" if n else label, times=-t.times, edit="", swells=parts) for n, t in enumerate(terms)
    )


def between(rod: str, a: str, b: str, off: Sum = (), off_b: Sum = ()) -> Along:
    """From one mark of a rod to another, with something added at each."""
    return Along(rod, a, b, (), off, off_b)


def from_mark(rod: str, a: str, size: Sum, off: Sum = ()) -> Along:
    """From a mark on, so long as ``size``."""
    return Along(rod, a, "", size, off)


def up_to(rod: str, b: str, size: Sum, off: Sum = ()) -> Along:
    """So long as ``size``, ending at a mark."""
    return Along(rod, "", b, size, (), off)
