"""Kinds of reading: what each touches, how well it is read, which places are given with it, and how it is said.

To add one: a ``ReadingKind`` and its place in ``READING_KINDS``, and its word in the document's ``Reading``. Fit, CSV, fields and
handles go by it; where its words stand in the drawing, and what a click on the board says of a corner or an edge, is told there by
kind.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from nullah.core.values.frozen import frozen, replace

Point = tuple[float, float, float]  # weight, u, v: from -1 to 1 along and across
Show = Callable[[float], str]  # a length in the units of the project


class ReadingLike(Protocol):
    """What is asked of a reading; the document's ``Reading`` is one."""

    @property
    def kind(self) -> str: ...
    @property
    def at(self) -> float: ...
    @property
    def across(self) -> float: ...
    @property
    def value(self) -> float: ...
    @property
    def stick(self) -> float: ...
    @property
    def to(self) -> float: ...
    @property
    def stood(self) -> str: ...


EDGES, LOWER, UPPER = "both edges", "lower edge, hump", "upper edge, hump"
STOOD = (
    EDGES,
    LOWER,
    UPPER,
)  # what the stick at ``at`` stood on; over a hump it rocks, and is pressed down on one edge


@frozen
class Taken:
    """A reading: ``kind`` one of ``READING_KINDS``, where and how it was taken and what it says, all mm.

    ``winding sticks``: at ``at`` against a stick at ``to``, both ``stick`` long (0: as long as the board is wide), on both edges; the
    one at ``at`` may have ``stood`` on an edge and a hump, the hump at ``across``. ``cup`` at ``at``. ``bow`` at ``across`` from ``at``
    to ``to`` (0: the other end). ``corner``: ``to`` = 1 from the lower left corner, 2 from the upper left. ``feeler``: the gap under a
    corner, the other three bearing; ``to`` = 1 to 4, round from the lower left. ``thickness`` at ``at`` and ``across``. ``out of
    square``: of an edge at ``at``, ``to`` = 1 the lower, 2 the upper.
    """

    kind: str
    at: float = 0.0
    across: float = 0.0
    value: float = 0.0
    stick: float = 0.0
    to: float = 0.0
    stood: str = EDGES


@frozen
class ReadingKind:
    """A kind of reading.

    Attributes:
        short: its name in a drawing.
        value: the words before what it reads.
        needed, may: which of at, across, stick, to are given with it, and which may be.
        words: before each of those.
        points: what it sees of heights, of a board so long and wide.
        place: where it is read, in words, of a board so long.
        wrong: what is wrong with it on a board so long, or "".
        error: one standard deviation, mm (common practice, no source).
        numbers: which of the places are no lengths but numbers of a corner or an edge.
        surface: whether it tells of the surface at all.
    """

    short: str
    value: str
    needed: tuple[str, ...]
    words: tuple[tuple[str, str], ...]
    points: Callable[[ReadingLike, float, float], tuple[Point, ...]]
    place: Callable[[ReadingLike, float, Show], str]
    wrong: Callable[[ReadingLike, float], str] = lambda r, length: ""
    may: tuple[str, ...] = ()
    error: float = 0.1
    numbers: tuple[str, ...] = ()
    surface: bool = True

    @property
    def used(self) -> tuple[str, ...]:
        """Every place that is given with it, or may be."""
        return self.needed + self.may


def _u(at: float, whole: float) -> float:
    return 2 * at / whole - 1


def _sticks(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    share = r.stick / width if r.stick > 0 else 1.0
    here, there = _u(r.at, length), _u(r.to, length)
    against = (-share, there, 1.0), (share, there, -1.0)
    hump, edge = _u(r.across, width), -1.0 if r.stood == LOWER else 1.0
    if r.stood == EDGES or hump == edge:
        return ((share, here, 1.0), (-share, here, -1.0), *against)
    steep = share * 2 / (hump - edge)  # what the stick leans, over its length, by a mm between edge and hump
    return ((steep, here, hump), (-steep, here, edge), *against)


def _cup(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    u = _u(r.at, length)
    return (0.5, u, -1.0), (0.5, u, 1.0), (-1.0, u, 0.0)


def _bow(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    v = _u(r.across, width)
    start, end = _u(r.at, length), _u(r.to or length, length)
    return (0.5, start, v), (0.5, end, v), (-1.0, (start + end) / 2, v)


def _corner(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    lower = -1.0 if r.to == 1 else 1.0
    return (0.5, -1.0, lower), (0.5, 1.0, -lower), (-1.0, 0.0, 0.0)


def _feeler(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    """The read side lies down on something flat: the corners that bear stand out, that with the gap does not."""
    way = 1.0 if r.to in (1.0, 3.0) else -1.0
    return (-way, -1.0, -1.0), (way, 1.0, -1.0), (-way, 1.0, 1.0), (way, -1.0, 1.0)


def _caliper(r: ReadingLike, length: float, width: float) -> tuple[Point, ...]:
    return ((1.0, _u(r.at, length), _u(r.across, width)),)


def _sticks_place(r: ReadingLike, length: float, show: Show) -> str:
    stood = "" if r.stood == EDGES else f", on {r.stood} {show(r.across)} from the lower edge"
    return f"sticks at {show(r.at)} against {show(r.to) if r.to else 'the left end'}{stood}"


def _bow_place(r: ReadingLike, length: float, show: Show) -> str:
    whole = r.at == 0 and (not r.to or r.to >= length - 0.5)
    return f"straightedge along, {show(r.across)} from the lower edge" + (
        "" if whole else f", {show(r.at)} to {show(r.to or length)}"
    )


def _sticks_wrong(r: ReadingLike, length: float) -> str:
    if r.at == r.to:
        return "the sticks lie at one place: that says nothing of wind"
    if (r.stood == LOWER and r.across <= 0) or (r.stood == UPPER and r.across < 0):
        return "the hump lies between the edges: say how far up it is"
    return ""


def _numbered(most: int, what: str) -> Callable[[ReadingLike, float], str]:
    return lambda r, length: "" if r.to in range(1, most + 1) else what


CORNERS = ("lower left", "lower right", "upper right", "upper left")
READING_KINDS: dict[str, ReadingKind] = {
    "winding sticks": ReadingKind(
        short="sticks",
        value="upper edge high by",
        needed=("at",),
        may=("stick", "to"),
        words=(("at", "at"), ("to", "against"), ("stick", "sticks")),
        points=_sticks,
        place=_sticks_place,
        wrong=_sticks_wrong,
    ),
    "cup": ReadingKind(
        short="cup",
        value="hollow (+), crowned (-)",
        needed=("at",),
        words=(("at", "across at"),),
        points=_cup,
        place=lambda r, length, show: f"straightedge across at {show(r.at)}",
    ),
    "bow": ReadingKind(
        short="bow",
        value="hollow (+), crowned (-)",
        needed=("across",),
        may=("at", "to"),
        words=(("across", "from the lower edge"), ("at", "from"), ("to", "to")),
        points=_bow,
        place=_bow_place,
        wrong=lambda r, length: "a bow is read from at to a place beyond it" if 0 < (r.to or length) <= r.at else "",
    ),
    "corner": ReadingKind(
        short="corner",
        value="hollow (+), crowned (-)",
        needed=("to",),
        words=(("to", "from corner 1 or 2"),),
        points=_corner,
        place=lambda r, length, show: (
            f"straightedge corner to corner from the {'lower' if r.to == 1 else 'upper'} left"
        ),
        wrong=_numbered(2, "of a corner reading to is 1, from the lower left, or 2, from the upper left"),
        numbers=("to",),
    ),
    "feeler": ReadingKind(
        short="gap",
        value="gap",
        needed=("to",),
        words=(("to", "under corner 1 to 4"),),
        points=_feeler,
        place=lambda r, length, show: f"gap under the {CORNERS[(int(r.to) - 1) % 4]} corner, the others down",
        wrong=_numbered(
            4, f"of a feeler reading to is the corner: {', '.join(f'{n} {c}' for n, c in enumerate(CORNERS, 1))}"
        ),
        numbers=("to",),
    ),
    "thickness": ReadingKind(
        short="",
        error=0.05,
        value="thickness",
        needed=("at", "across"),
        words=(("at", "at"), ("across", "from the lower edge")),
        points=_caliper,
        place=lambda r, length, show: f"thickness at {show(r.at)}, {show(r.across)} from the lower edge",
        wrong=lambda r, length: "a thickness is more than zero" if r.value <= 0 else "",
    ),
    "out of square": ReadingKind(
        short="square",
        value="back out by",
        needed=("at", "to"),
        words=(("at", "at"), ("to", "edge 1 lower, 2 upper")),
        points=lambda r, length, width: (),
        place=lambda r, length, show: f"{'lower' if r.to == 1 else 'upper'} edge out of square at {show(r.at)}",
        wrong=_numbered(2, "of an edge that is out of square to is 1, the lower, or 2, the upper"),
        numbers=("to",),
        surface=False,
    ),
}


def onto_the_board(r: Taken, length: float, width: float) -> Taken:
    """A reading with the places that all but lie on an edge of the board moved onto it."""
    numbers = READING_KINDS[r.kind].numbers
    to = r.to if "to" in numbers else min(max(r.to, 0.0), length)
    return replace(r, at=min(max(r.at, 0.0), length), across=min(max(r.across, 0.0), width), to=to)


_NEAR = 1e-6  # mm: a place so far off an edge lies on it


def off_the_board(r: ReadingLike, length: float, width: float) -> str:
    """Which of its places lies off a board, in words, or ""."""
    limits = {"at": length, "across": width, "to": length}
    used = (*READING_KINDS[r.kind].used, *(("across",) if r.stood != EDGES else ()))
    for name in used:
        value = getattr(r, name)
        if name in limits and name not in READING_KINDS[r.kind].numbers and not -_NEAR <= value <= limits[name] + _NEAR:
            return f"{name} {value:g} lies off the board"
    return ""


def wrong(r: ReadingLike, length: float, width: float) -> str:
    """What is wrong with a reading of a board so long and wide, mm, in words that end a sentence; or ""."""
    if abs(r.value) > 500:
        return "a reading is no more than 500 mm"
    return READING_KINDS[r.kind].wrong(r, length) or off_the_board(r, length, width)
