"""Fitting a surface to what winding sticks, straightedge and caliper say.

Height of the face side: ``z = sum of k * shape(u, v)``, u and v from -1 to 1 along and across, with the shapes below. Every
reading is linear in the coefficients, because it is known where the stick or edge touches; a ridge holds back the
shapes that the readings do not speak of, and the higher ones more, so that few readings give the plain shape.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import field
from typing import Protocol

import numpy as np

from nullah.core.frozen import frozen
from nullah.core.surface.slab import Floats, Slab, thickest_slab

# shape, and how strongly it is held back: bow, cup, twist; then bow that leans, cup that grows, twist that starts part-way
_SHAPES: tuple[tuple[Callable[[Floats, Floats], Floats], float], ...] = (
    (lambda u, v: u * u, 1.0),
    (lambda u, v: v * v, 1.0),
    (lambda u, v: u * v, 1.0),
    (lambda u, v: u**3 - u, 8.0),
    (lambda u, v: u * v * v, 8.0),
    (lambda u, v: (u * u - 1) * v, 8.0),
)
_RIDGE = 1e-3
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
    """What comes off a rectangle of a board until it is flat: arrays ALONG x ACROSS, mm.

    ``face`` comes off the face side, ``back`` off the other, to the ``thickest`` flat board; ``most`` is (x, y, mm) of the
    highest spot of the face side, ``mean`` the mean of what comes off both together.
    """

    x: Floats
    y: Floats
    face: Floats
    back: Floats
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

    def top(self, x: Floats, y: Floats) -> Floats:
        """Height of the face side, mm, shaped as x and y (mm from the left end and the lower edge)."""
        u, v = 2 * np.asarray(x) / self.length - 1, 2 * np.asarray(y) / self.width - 1
        z = np.zeros(np.broadcast(u, v).shape)
        for k, (shape, _) in zip(self.k, _SHAPES, strict=True):
            z = z + k * shape(u, v)
        return z

    def bottom(self, x: Floats, y: Floats) -> Floats:
        """Height of the underside: the face side as found less the thickness there; flat variation is the caliper's."""
        a, b, c = self.under
        return self.top(x, y) - (a + b * np.asarray(x) + c * np.asarray(y))

    def section(self, x: float, y: float, length: float, width: float) -> tuple[Floats, Floats, Floats, Floats]:
        """x, y, top and bottom on a grid of ALONG by ACROSS points over a rectangle of the board, mm."""
        along, across = max(length, NARROWEST), max(width, NARROWEST)
        xs, ys = np.meshgrid(np.linspace(x, x + along, ALONG), np.linspace(y, y + across, ACROSS), indexing="ij")
        return xs, ys, self.top(xs, ys), self.bottom(xs, ys)

    def to_flat(self, x: float, y: float, length: float, width: float) -> Flat:
        """What comes off a rectangle of the board down to its slab; worked out once for each."""
        key = (x, y, length, width)
        if key not in self._flats:
            xs, ys, top, bottom = self.section(x, y, length, width)
            slab = self.slab(x, y, length, width)
            upper = slab.upper(xs, ys)
            face, back = np.maximum(top - upper, 0.0), np.maximum(upper - slab.thickness - bottom, 0.0)
            i = np.unravel_index(int(np.argmax(face)), face.shape)
            most = (float(xs[i]), float(ys[i]), float(face[i]))
            self._flats[key] = Flat(xs, ys, face, back, slab.thickness, most, float(face.mean() + back.mean()))
        return self._flats[key]

    def slab(self, x: float, y: float, length: float, width: float) -> Slab:
        """The thickest flat board inside a rectangle of the board; worked out once for each."""
        key = (x, y, length, width)
        if key not in self._slabs:
            self._slabs[key] = thickest_slab(*self.section(x, y, length, width))
        return self._slabs[key]


def fit(length: float, width: float, thickness: float, readings: Sequence[ReadingLike]) -> Surface:
    """The surface that a board's readings tell of.

    Args:
        length, width, thickness: of the board, mm; the thickness stands where no caliper reading does.
        readings: as the document's ``Reading``; of kind winding sticks, cup, bow or thickness.

    Returns:
        The surface; ``residuals`` follow the order of ``readings``, in mm of the reading.
    """
    rows, values = [], []
    for r in readings:
        if r.kind == "thickness":
            continue
        rows.append(_row(r, length, width))
        values.append(stick_difference(r.value, r.stick, width) if r.kind == "winding sticks" else r.value)
    ridge = np.diag([np.sqrt(_RIDGE * weight) for _, weight in _SHAPES])
    matrix = np.vstack([np.array(rows).reshape(-1, len(_SHAPES)), ridge])
    target = np.concatenate([np.array(values), np.zeros(len(_SHAPES))])
    k = np.linalg.lstsq(matrix, target, rcond=None)[0] if rows else np.zeros(len(_SHAPES))
    under = _under(length, width, thickness, [r for r in readings if r.kind == "thickness"])
    residuals = []
    for r in readings:
        if r.kind == "thickness":
            residuals.append(r.value - (under[0] + under[1] * r.at + under[2] * r.across))
        else:
            seen = stick_difference(r.value, r.stick, width) if r.kind == "winding sticks" else r.value
            residuals.append(float(seen - _row(r, length, width) @ k))
    return Surface(length, width, tuple(float(v) for v in k), under, tuple(residuals))


def _row(r: ReadingLike, length: float, width: float) -> Floats:
    """The reading as a row: what each shape of height one would read."""

    def z(x: float, y: float) -> Floats:
        u, v = np.float64(2 * x / length - 1), np.float64(2 * y / width - 1)
        return np.array([float(shape(u, v)) for shape, _ in _SHAPES])  # type: ignore[arg-type]  # scalars do as well

    if r.kind == "winding sticks":
        return (z(r.at, width) - z(r.at, 0)) - (z(0, width) - z(0, 0))
    if r.kind == "cup":
        return (z(r.at, 0) + z(r.at, width)) / 2 - z(r.at, width / 2)
    return (z(0, r.across) + z(length, r.across)) / 2 - z(length / 2, r.across)


def _under(length: float, width: float, thickness: float, caliper: Sequence[ReadingLike]) -> tuple[float, float, float]:
    """Thickness as a plane over the board: that of a single reading, a slope held back a little from more."""
    if not caliper:
        return (thickness, 0.0, 0.0)
    values = np.array([r.value for r in caliper])
    mean = float(values.mean())
    if len(caliper) < 2:
        return (mean, 0.0, 0.0)
    u = np.array([2 * r.at / length - 1 for r in caliper])
    v = np.array([2 * r.across / width - 1 for r in caliper])
    matrix = np.vstack([np.stack([np.ones_like(u), u, v], axis=1), np.diag([0.0, 0.05, 0.05])])
    a, b, c = np.linalg.lstsq(matrix, np.concatenate([values, np.zeros(3)]), rcond=None)[0]
    return (float(a - b - c), float(2 * b / length), float(2 * c / width))
