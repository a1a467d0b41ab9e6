"""What every family of joints is, and what it sees of the piece: one joint at a time, each figure asked for when it is wanted.

To add a family: a file here with a ``Family`` and its line in ``families.py``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import Protocol

from nullah.core.drawing.display_list import Point, rectangle
from nullah.core.marking.plan import Check, JointPlan, Mend
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, WAYS, Cut, Placed, Point3
from nullah.core.values.ask import Ask
from nullah.core.values.design import Answer, JointDesign
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked
from nullah.core.wood.species import Species

AT_EDGE = 1.0  # mm from an edge that a part lies at it still
Span = tuple[float, float]
Block = tuple[Span, Span, Span]  # along the frame's x, y and z
Grows = Callable[[str, str, float], Span]  # a part, its species, a width: mm to the driest and the wettest month
OPPOSITE = {"left": "right", "right": "left", "front": "back", "back": "front", "up": "down", "down": "up"}


class NoJoint(ValueError):
    """Sizes that leave no room for the joint; the message says which to change."""


def still(part: str, wood: str, width: float) -> Span:
    """What does not move: 0 mm to the driest and to the wettest."""
    return 0.0, 0.0


@frozen
class School:
    """A matter of school that a joint is asked: the ask's name, the question, what speaks for the usual way, and how the ways differ.
    ``ways``: which of the ask's options are offered; none named: all. ``usual``: the way that the first part's wood asks for, where it
    is not the ask's default; ``spoken`` how a way is said, ``told`` what it comes to."""

    ask: str
    question: str
    why: str
    differ: str
    ways: tuple[str, ...] = ()
    usual: Callable[[Species], str] | None = None
    spoken: str = "{}"
    told: Callable[[str], str] | None = None

    def comes_to(self, way: str) -> tuple[str, ...]:
        """What a way comes to, in words; nothing where nothing is told of it."""
        return (self.told(way),) if self.told else ()


@frozen
class Shop:
    """What is at hand: widths of chisels and plough irons, diameters of bits, how deep the plough goes, mm; and the planes that cut
    beside a fence or level a floor."""

    chisels: tuple[float, ...] = (3, 6, 12, 18, 25)
    bits: tuple[float, ...] = (3, 4, 5, 6, 8, 10, 12, 16, 20, 25)
    plough_irons: tuple[float, ...] = (3, 4, 5, 6, 8, 10, 12)
    plough_deepest: float = 15.0
    plough: bool = True
    router_plane: bool = True
    rabbet_plane: bool = True


@frozen
class Meeting:
    """Two parts where they stand, to be joined: the first looks ``way`` towards the second, which is ``called`` so."""

    first: Placed
    second: Placed
    way: str
    called: str

    @property
    def run(self) -> int:
        """The axis along which they lie longest against each other."""
        return max(self._laps, key=lambda k: self._laps[k])

    @property
    def _laps(self) -> dict[int, float]:
        (low, high), (low2, high2) = self.first.box, self.second.box
        across = axis_of(self.way)[0]
        return {k: min(high[k], high2[k]) - max(low[k], low2[k]) for k in range(3) if k != across}

    @property
    def with_the_grain(self) -> bool:
        """Whether they lie longest along the second's grain."""
        return abs(self.second.axes[0][self.run]) > 0.5

    @property
    def at_an_end(self) -> bool:
        """Whether the first comes against end grain."""
        return own_axis(self.second, self.way)[0] == 0

    @property
    def at_an_edge(self) -> bool:
        """Whether the first lies at an edge or an end of the second."""
        (beside,) = (k for k in self._laps if k != self.run)
        (low, high), (low2, high2) = self.first.box, self.second.box
        return low[beside] - low2[beside] <= AT_EDGE or high2[beside] - high[beside] <= AT_EDGE

    @property
    def edge_to_edge(self) -> bool:
        """Whether the edges of both meet."""
        return all(own_axis(p, self.way)[0] == 1 for p in (self.first, self.second))


def any_meeting(_: Meeting) -> str:
    """Suits wherever it can be laid out."""
    return ""


def over_an_edge(meeting: Meeting) -> str:
    """Why what goes over an edge or an end does not suit; "" where it may."""
    if meeting.at_an_edge:
        return ""
    return f"It lies away from the edges and ends of {meeting.called}: there is nothing to go over."


WITHOUT = {
    "plough": ("plough plane", "both lines are knifed and the groove is chopped out"),
    "router_plane": ("router plane", "the floor is pared to a gauged line"),
    "rabbet_plane": ("rabbet plane", "it is sawn to both lines and pared"),
}  # what of ``Shop`` makes a joint easier, and how it is cut without


@frozen
class Joins:
    """What is to be said of a family where two parts are joined: what it holds, what becomes of it as wood moves, and why it does not
    suit two parts though it could be cut; "" where it does. ``planes`` of ``WITHOUT`` are wanted for it. The first goes home along
    the ``way`` it looks, square to its ``face``, or ``along`` what it is let into, as ``goes`` says."""

    strength: str
    season: str
    unsuited: Callable[[Meeting], str] = any_meeting
    planes: tuple[str, ...] = ()
    goes: str = "way"

    def lacking(self, shop: Shop) -> tuple[str, ...]:
        """What is wanted for it and not at hand, with the way to do without."""
        return tuple(": ".join(WITHOUT[name]) for name in self.planes if not getattr(shop, name))


class Look(Protocol):
    """What a family sees of the piece it is reckoned in."""

    @property
    def joint(self) -> JointDesign:
        """The joint that is looked at."""

    @property
    def shop(self) -> Shop:
        """What is at hand."""

    def asked(self, name: str) -> Answer:
        """What is asked of the joint, or the family's default."""

    def figure(self, name: str, joint: str = "") -> float:
        """A figure of this joint, or of another by its id; of a joint that is cut as it was cut."""

    def as_cut(self, name: str, joint: str) -> float | None:
        """A figure that a joint was cut to; None where it is not cut."""

    def size(self, part: str) -> Point3:
        """Length, width and thickness of a part, mm."""

    def thickness(self, part: str) -> float:
        """Thickness alone, which is there before the length is."""

    def across(self, part: str, way: str) -> float:
        """A part's size along a way of its frame, mm; along the part's length without what its own joints reach."""

    def bare(self, part: str) -> Block:
        """Where a part stands in its frame without what its joints add to it."""

    def body(self, part: str) -> Block:
        """Where a part stands in its frame."""

    def stands(self, part: str) -> Placed:
        """The part where it stands in its frame."""

    def stands_in(self, part: str, other: str) -> Placed:
        """A part as it stands in the frame of another."""

    def label(self, part: str) -> str:
        """What a part is called."""

    def up(self, part: str) -> str:
        """Which way of its frame a part's upper edge looks."""

    def face(self, part: str) -> str:
        """Which way its face looks."""

    def grows(self, part: str, width: float) -> Span:
        """How far a width of a part moves from how it is made to the driest and to the wettest of the year, mm."""

    def ease(self, part: str) -> str:
        """How its wood works: soft, middling or hard."""

    def others(self) -> tuple[JointDesign, ...]:
        """The other joints of the piece."""


class Family(Protocol):
    """A family of joints."""

    @property
    def name(self) -> str:
        """The name it is registered under."""

    @property
    def about(self) -> str:
        """What it is, in one sentence."""

    @property
    def asks(self) -> tuple[Ask, ...]:
        """What is asked of a joint of it."""

    @property
    def home(self) -> str:
        """How it goes together: ``glued``, ``dry``, ``screwed``, ``nailed``, ``wedged``, ``slid``; "" where nothing goes together."""

    @property
    def making(self) -> Making:
        """How its cuts are made, and what is done that no cut shows: what its work is reckoned from."""

    @property
    def joins(self) -> Joins | None:
        """What is to be said of it where two parts are joined; None where one part is shaped."""

    @property
    def after(self) -> tuple[str, ...]:
        """Families that are cut in the same part before it."""

    @property
    def reaches(self) -> tuple[str, ...]:
        """Of ``reach`` and ``reach of second``, what it gives."""

    @property
    def schools(self) -> tuple[School, ...]:
        """What is asked that is a matter of school; the figure ``asks NAME`` is 1 where it matters."""

    def figure(self, name: str, look: Look) -> float:
        """One figure by name; ``reach`` is what it adds to the length of the first part, ``reach of second`` to the second's.

        Raises:
            NoJoint: it cannot be made.
        """

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out, with its cuts in the parts' own axes.

        Raises:
            NoJoint: it cannot be made.
        """


def bit_near(shop: Shop, wanted: float) -> float:
    """The bit at hand nearest to a diameter, the smaller of two as near; where there is none, what is wanted; mm."""
    return min(shop.bits, key=lambda b: (abs(b - wanted), b), default=wanted)


def bit_check(shop: Shop, diameter: float, what: str, ask: str, wanted: float = 0.0) -> Check:
    """Whether a bit of that diameter is at hand; else ``ask``, what the joint is asked for it, may be the nearest there is to what is
    ``wanted``, by default that diameter."""
    there = any(abs(b - diameter) < 0.05 for b in shop.bits)
    nearest = bit_near(shop, wanted or diameter)
    instead = "" if there or not shop.bits else f"; the nearest is {marked(nearest)}"
    words = f"{what} of {marked(diameter)}: {'a bit' if there else 'no bit'} at hand bores it{instead}"
    return Check(there, words, Mend(ask, nearest, f"{what} of {marked(nearest)}") if shop.bits else None)


def depth_of_the_set(look: Look, usual: Callable[[float], float]) -> float:
    """How deep a joint and the others of its set and family are sunk, mm: as one of them is cut, else the least asked of each
    or, where nothing is, of the ``usual`` depth in the second part's thickness."""
    mine = look.joint
    others = [j for j in look.others() if mine.set and j.set == mine.set and j.family == mine.family]
    done = [d for j in others if (d := look.as_cut("depth", j.id)) is not None]
    asked = [(float(look.asked("depth")), mine), *((float(j.asked.get("depth", 0.0)), j) for j in others)]
    return min(done or [own or usual(look.thickness(j.second)) for own, j in asked])


@lru_cache(maxsize=16)
def axis_of(way: str) -> tuple[int, int]:
    """The axis a way runs along, and whether up it (1) or down it (-1)."""
    vector = WAYS[way]
    axis = next(i for i, v in enumerate(vector) if v)
    return axis, int(vector[axis])


def way_of(axis: int, sign: int) -> str:
    """The name of a way of the frame."""
    return ("right", "back", "up")[axis] if sign > 0 else ("left", "front", "down")[axis]


def own_axis(placed: Placed, way: str) -> tuple[int, int]:
    """The axis of a part that lies along a way of its frame, and whether it runs with it (1) or against it (-1)."""
    axis, sign = axis_of(way)
    mine = next(i for i in range(3) if abs(placed.axes[i][axis]) > 0.5)
    return mine, sign if placed.axes[mine][axis] > 0 else -sign


def side_of(placed: Placed, way: str) -> str:
    """The side of a part that looks that way of its frame."""
    axis, sign = own_axis(placed, way)
    return next(name for name, (a, far) in SIDES.items() if a == axis and far == (sign > 0))


def block_cut(placed: Placed, block: Block, way: str) -> Cut:
    """What a block of the frame takes out of a part, as a cut into the side that looks ``way``."""
    low, high = own_block(placed, block)
    side = side_of(placed, way)
    axis, far = SIDES[side]
    depth = placed.size[axis] - low[axis] if far else high[axis]
    i, j = (k for k in range(3) if k != axis)
    return Cut(placed.id, side, rectangle(low[i], low[j], high[i] - low[i], high[j] - low[j]), depth)


def own_block(placed: Placed, block: Block) -> tuple[Point3, Point3]:
    """A block of the frame in a part's own axes, no further than the part goes: its low and its high corner."""
    ends = [own_point(placed, (block[0][k], block[1][k], block[2][k])) for k in (0, 1)]
    low = tuple(max(0.0, min(a, b)) for a, b in zip(*ends, strict=True))
    high = tuple(min(size, max(a, b)) for a, b, size in zip(*ends, placed.size, strict=True))
    return low, high


def own_point(placed: Placed, point: Point3) -> Point3:
    """A point of the frame in a part's own axes."""
    off = [p - o for p, o in zip(point, placed.origin, strict=True)]
    x, y, z = (sum(o * a for o, a in zip(off, axis, strict=True)) for axis in placed.axes)
    return (x, y, z)


def on_side(placed: Placed, side: str, axes: tuple[int, int], points: Iterable[Point]) -> tuple[Point, ...]:
    """Points along two axes of the frame, mm, as an outline on a side of a part, which lies square to neither."""
    i, j = (k for k in range(3) if k != SIDES[side][0])
    found = []
    for p, q in points:
        at = [0.0, 0.0, 0.0]
        at[axes[0]], at[axes[1]] = p, q
        own = own_point(placed, (at[0], at[1], at[2]))
        found.append((own[i], own[j]))
    return tuple(found)


def with_span(block: Block, axis: int, span: Span) -> Block:
    """A block with another span along one axis."""
    x, y, z = (span if i == axis else s for i, s in enumerate(block))
    return (x, y, z)


def least_and_most(values: Iterable[float]) -> Span:
    """The least and the most of some values."""
    found = list(values)
    return min(found), max(found)
