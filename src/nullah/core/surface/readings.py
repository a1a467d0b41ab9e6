"""Fitting a surface to what winding sticks, straightedge and caliper say.

Height of the face side: ``z = sum of k * shape(u, v)``, u and v from -1 to 1 along and across, with the shapes below. Every
reading is linear in the coefficients, because it is known where the stick or edge touches; a ridge holds back the
shapes that the readings do not speak of, and the higher ones more, so that few readings give the plain shape.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import field
from math import sqrt
from typing import Protocol

from nullah.core.frozen import frozen
from nullah.core.surface.linear import least_squares
from nullah.core.surface.slab import Slab, thickest_slab

Rows = tuple[tuple[float, ...], ...]  # ALONG rows of ACROSS values, mm

# Each shape is something of u times a power of v, and is held back so strongly: bow, cup, twist; then bow that leans, cup that
# grows, twist that starts part-way.
_SHAPES: tuple[tuple[Callable[[float], float], int, float], ...] = (
    (lambda u: u * u, 0, 1.0),
    (lambda u: 1.0, 2, 1.0),
    (lambda u: u, 1, 1.0),
    (lambda u: u**3 - u, 0, 8.0),
    (lambda u: u, 2, 8.0),
    (lambda u: u * u - 1, 1, 8.0),
)
_RIDGE = 1e-3
_HELD = 0.05  # as strongly is the slope of the underside held back
EVEN = 1e-6  # mm: spots as high as each other; the first from the left end is told
ALONG, ACROSS = 25, 9  # points of the grid a surface is worked on


NARROWEST = 1.0  # mm: a rectangle with less than that of length or width is taken as so long or wide


class ReadingLike(Protocol):
    """What the fit asks of a reading; the document's ``Reading`` is one."""

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


def stick_difference(value: float, stick: float, width: float) -> float:
    """True difference between the edges of a board ``width`` wide, of a reading over a stick ``stick`` long: g W / S."""
    return value * width / stick if stick > 0 else value


@frozen
class Flat:
    """What comes off a rectangle of a board until it is flat, at ALONG places ``x`` by ACROSS places ``y``, mm.

    ``face`` comes off the face side, ``back`` off the other, to the ``thickest`` flat board; ``most`` is (x, y, mm) of the
    highest spot of the face side, ``mean`` the mean of what comes off both together.
    """

    x: tuple[float, ...]
    y: tuple[float, ...]
    face: Rows
    back: Rows
    thickest: float
    most: tuple[float, float, float]
    mean: float


@frozen
class Surface:
    """A fitted board: face side and underside, and how far each reading lies from the fit.

    ``k`` holds the coefficients of the face side; ``under`` the underside's plane (a, b, c) in mm below, in mm of x and y:
    thickness at (x, y) is ``a + b x + c y``.
    """

    length: float
    width: float
    k: tuple[float, ...]
    under: tuple[float, float, float]
    residuals: tuple[float, ...]
    _slabs: dict[tuple[float, float, float, float], Slab] = field(default_factory=dict, compare=False, repr=False)
    _flats: dict[tuple[float, float, float, float], Flat] = field(default_factory=dict, compare=False, repr=False)

    @property
    def _true(self) -> bool:
        """Whether it is read nowhere as anything but flat and of one thickness."""
        return not any((*self.k, *self.under[1:]))

    def section(
        self, x: float, y: float, length: float, width: float
    ) -> tuple[tuple[float, ...], tuple[float, ...], Rows, Rows]:
        """ALONG places in length, ACROSS in width, and heights of face side and underside there, over a rectangle of the board.

        All in mm. The underside is the face side as found less the thickness there: flat variation is the caliper's.
        """
        xs = _spread(x, max(length, NARROWEST), ALONG)
        ys = _spread(y, max(width, NARROWEST), ACROSS)
        across = [2 * one / self.width - 1 for one in ys]
        a, b, c = self.under
        top, bottom = [], []
        for one in xs:
            held = [0.0, 0.0, 0.0]
            u = 2 * one / self.length - 1
            for k, (along, power, _) in zip(self.k, _SHAPES, strict=True):
                held[power] += k * along(u)
            plain, leaning, cupped = held
            row = tuple([plain + v * (leaning + v * cupped) for v in across])
            thick = a + b * one
            top.append(row)
            bottom.append(tuple([z - (thick + c * place) for z, place in zip(row, ys, strict=True)]))
        return xs, ys, tuple(top), tuple(bottom)

    def to_flat(self, x: float, y: float, length: float, width: float) -> Flat:
        """What comes off a rectangle of the board down to its slab; worked out once for each."""
        key = (x, y, length, width)
        if key not in self._flats and self._true:
            nothing = ((0.0,) * ACROSS,) * ALONG
            xs, ys = _spread(x, max(length, NARROWEST), ALONG), _spread(y, max(width, NARROWEST), ACROSS)
            self._flats[key] = Flat(xs, ys, nothing, nothing, self.under[0], (xs[0], ys[0], 0.0), 0.0)
        elif key not in self._flats:
            xs, ys, top, bottom = self.section(x, y, length, width)
            slab = self._slabs.get(key) or _thickest(xs, ys, top, bottom)
            self._slabs[key] = slab
            upper = [[slab.upper(one, place) for place in ys] for one in xs]
            face = _over(top, upper)
            back = _over([[z - slab.thickness for z in row] for row in upper], bottom)
            most = max(map(max, face))
            at = next(
                (x, y)
                for x, row in zip(xs, face, strict=True)
                for y, off in zip(ys, row, strict=True)
                if off > most - EVEN
            )
            mean = (sum(map(sum, face)) + sum(map(sum, back))) / (ALONG * ACROSS)
            self._flats[key] = Flat(xs, ys, face, back, slab.thickness, (*at, most), mean)
        return self._flats[key]

    def slab(self, x: float, y: float, length: float, width: float) -> Slab:
        """The thickest flat board inside a rectangle of the board; worked out once for each."""
        if self._true:
            return Slab(0.0, 0.0, 0.0, self.under[0])
        key = (x, y, length, width)
        if key not in self._slabs:
            self._slabs[key] = _thickest(*self.section(x, y, length, width))
        return self._slabs[key]


def _thickest(xs: tuple[float, ...], ys: tuple[float, ...], top: Rows, bottom: Rows) -> Slab:
    places = [one for one in xs for _ in ys], [*ys] * len(xs)
    return thickest_slab(*places, [z for row in top for z in row], [z for row in bottom for z in row])


def _spread(start: float, reach: float, count: int) -> tuple[float, ...]:
    return tuple([start + reach * i / (count - 1) for i in range(count)])


def _over(upper: Sequence[Sequence[float]], lower: Sequence[Sequence[float]]) -> Rows:
    """By how much the one lies over the other, where it does."""
    return tuple(
        tuple([a - b if a > b else 0.0 for a, b in zip(*rows, strict=True)]) for rows in zip(upper, lower, strict=True)
    )


def fit(length: float, width: float, thickness: float, readings: Sequence[ReadingLike]) -> Surface:
    """The surface that a board's readings tell of.

    Args:
        length, width, thickness: of the board, mm; the thickness stands where no caliper reading does.
        readings: as the document's ``Reading``; of kind winding sticks, cup, bow or thickness.

    Returns:
        The surface; ``residuals`` follow the order of ``readings``, in mm of the reading.
    """
    flat = [(_row(r, length, width), _told(r, width)) for r in readings if r.kind != "thickness"]
    k: Sequence[float] = [0.0] * len(_SHAPES)
    if flat:
        held = [sqrt(_RIDGE * weight) for _, _, weight in _SHAPES]
        k = least_squares([row for row, _ in flat], [told for _, told in flat], held)
    a, b, c = under = _under(length, width, thickness, [r for r in readings if r.kind == "thickness"])
    residuals = [
        r.value - (a + b * r.at + c * r.across)
        if r.kind == "thickness"
        else _told(r, width) - sum(x * y for x, y in zip(_row(r, length, width), k, strict=True))
        for r in readings
    ]
    return Surface(length, width, tuple(k), under, tuple(residuals))


def _told(r: ReadingLike, width: float) -> float:
    """What a reading says of the board, mm."""
    return stick_difference(r.value, r.stick, width) if r.kind == "winding sticks" else r.value


def _row(r: ReadingLike, length: float, width: float) -> list[float]:
    """The reading as a row: what each shape of height one would read."""

    def z(x: float, y: float) -> list[float]:
        u, v = 2 * x / length - 1, 2 * y / width - 1
        return [along(u) * v**power for along, power, _ in _SHAPES]

    if r.kind == "winding sticks":
        ends = z(r.at, width), z(r.at, 0), z(0, width), z(0, 0)
        return [(a - b) - (c - d) for a, b, c, d in zip(*ends, strict=True)]
    if r.kind == "cup":
        ends_and_middle = z(r.at, 0), z(r.at, width), z(r.at, width / 2)
    else:
        ends_and_middle = z(0, r.across), z(length, r.across), z(length / 2, r.across)
    return [(a + b) / 2 - middle for a, b, middle in zip(*ends_and_middle, strict=True)]


def _under(length: float, width: float, thickness: float, caliper: Sequence[ReadingLike]) -> tuple[float, float, float]:
    """Thickness as a plane over the board: that of a single reading, a slope held back a little from more."""
    if not caliper:
        return (thickness, 0.0, 0.0)
    values = [r.value for r in caliper]
    if len(caliper) < 2:
        return (values[0], 0.0, 0.0)
    rows = [(1.0, 2 * r.at / length - 1, 2 * r.across / width - 1) for r in caliper]
    a, b, c = least_squares(rows, values, (0.0, _HELD, _HELD))
    return (a - b - c, 2 * b / length, 2 * c / width)
