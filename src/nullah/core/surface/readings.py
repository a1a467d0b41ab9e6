"""The surface of a board from what winding sticks, straightedge and caliper say, and the thickest flat board in any rectangle of it.

How it is fitted, and what is known of boards beforehand, is told in ``gaussian_process``. Here a fit is read at the places of a part.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field
from operator import add, mul
from typing import Protocol

from nullah.core.frozen import frozen, replace
from nullah.core.surface import gaussian_process
from nullah.core.surface.gaussian_process import (
    CALIPER,
    NODES,
    ROUGH,
    SHAPES,
    WORKED,
    Board,
    Fit,
    between,
    seen,
)
from nullah.core.surface.sights import SIGHTS, ReadingLike, Taken
from nullah.core.surface.slab import Slab, thickest_slab

Rows = tuple[tuple[float, ...], ...]  # ALONG rows of ACROSS values, mm
Section = tuple[tuple[float, ...], tuple[float, ...], Rows, Rows]  # places along and across; heights of both faces

EVEN = 1e-6  # mm: spots as high as each other; the first from the left end is told
ALONG, ACROSS = 25, 9  # points of the grid a surface is worked on
NARROWEST = 1.0  # mm: a rectangle with less than that of length or width is taken as so long or wide
# the thickness a board is bought by may be far from what it measures: one standard deviation, mm, of the first of ``taper``
NOMINAL = replace(ROUGH, taper=(20.0, 0.4, 0.3, 0.15))
BEHIND = replace(WORKED, taper=(0.3, 0.2, 0.2, 0.0))  # the back, off what is foreseen, once the face is planed
FACE, BACK = "face", "back"


class SidedReading(ReadingLike, Protocol):
    """A reading of face or back; the document's ``Reading`` is one."""

    @property
    def side(self) -> str: ...
    @property
    def after(self) -> int: ...


class PlanedLike(Protocol):
    """A side that was planed and the heights foreseen at the nodes; the document's ``Planed`` is one."""

    @property
    def side(self) -> str: ...
    @property
    def heights(self) -> Sequence[float]: ...


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
class Heights:
    """Heights over a board: coefficients of ``SHAPES``, a plane ``a + b u + c v``, what is local at the nodes (none: ``()``), mm."""

    shapes: tuple[float, ...] = (0.0,) * len(SHAPES)
    plane: tuple[float, float, float] = (0.0, 0.0, 0.0)
    local: Rows = ()

    def rows(self, us: Sequence[float], vs: Sequence[float]) -> Rows:
        """At every u and v, rows along."""
        a, b, c = self.plane
        beside = [between(NODES[1], v) for v in vs] if self.local else []
        columns = tuple(zip(*self.local, strict=True))
        out = []
        for u in us:
            held = [a + b * u, c, 0.0]
            for k, (along, power) in zip(self.shapes, SHAPES, strict=True):
                held[power] += k * along(u)
            plain, leaning, cupped = held
            row = [plain + v * (leaning + v * cupped) for v in vs]
            if beside:
                here = between(NODES[0], u)
                local = [sum(map(mul, here, column)) for column in columns]
                row = [z + sum(map(mul, weights, local)) for z, weights in zip(row, beside, strict=True)]
            out.append(tuple(row))
        return tuple(out)

    def at(self, u: float, v: float) -> float:
        """At one place."""
        return self.rows((u,), (v,))[0][0]

    def turned(self) -> Heights:
        """Upside down."""
        a, b, c = self.plane
        local = tuple([tuple([-z for z in row]) for row in self.local])
        return Heights(tuple([-k for k in self.shapes]), (-a, -b, -c), local)

    def plus(self, other: Heights) -> Heights:
        """Both together."""
        local = self.local or other.local
        if self.local and other.local:
            local = tuple([tuple(map(add, *rows)) for rows in zip(self.local, other.local, strict=True)])
        return Heights(tuple(map(add, self.shapes, other.shapes)), _added(self.plane, other.plane), local)


def _added(a: tuple[float, float, float], b: tuple[float, float, float]) -> tuple[float, float, float]:
    return a[0] + b[0], a[1] + b[1], a[2] + b[2]


@frozen
class Surface:
    """A board as it is likeliest: heights of face side and underside, upward in one frame, and what each reading says of it.

    Where nothing is read it is flat and of its stated thickness. ``residuals`` tells how far each reading lies off the surface,
    ``apart`` how far off what all the others say, mm; ``strays`` which disagree, from 0.
    """

    length: float
    width: float
    face: Heights
    back: Heights
    residuals: tuple[float, ...] = ()
    apart: tuple[float, ...] = ()
    strays: tuple[int, ...] = ()
    _sections: dict[tuple[float, float, float, float], Section] = field(default_factory=dict, compare=False, repr=False)
    _slabs: dict[tuple[float, float, float, float], Slab] = field(default_factory=dict, compare=False, repr=False)
    _flats: dict[tuple[float, float, float, float], Flat] = field(default_factory=dict, compare=False, repr=False)

    @property
    def true(self) -> bool:
        """Whether it is read nowhere as anything but flat and of one thickness."""
        tilts = self.face.plane[1:] + self.back.plane[1:]
        return not (any((*self.face.shapes, *self.back.shapes, *tilts)) or self.face.local or self.back.local)

    @property
    def thickness(self) -> float:
        """In the middle, mm."""
        return self.face.at(0.0, 0.0) - self.back.at(0.0, 0.0)

    def section(self, x: float, y: float, length: float, width: float) -> Section:
        """ALONG places in length, ACROSS in width, and heights of face side and underside there, over a rectangle of the board, mm."""
        key = (x, y, length, width)
        if key not in self._sections:
            xs = _spread(x, max(length, NARROWEST), ALONG)
            ys = _spread(y, max(width, NARROWEST), ACROSS)
            us, vs = [2 * one / self.length - 1 for one in xs], [2 * one / self.width - 1 for one in ys]
            self._sections[key] = (xs, ys, self.face.rows(us, vs), self.back.rows(us, vs))
        return self._sections[key]

    def taper(self, x: float, y: float, length: float, width: float) -> tuple[float, float, float]:
        """Thickness of a rectangle as a plane through its corners, ``t + b u + c v`` in the rectangle's own u and v, mm."""
        us, vs = (
            [2 * at / whole - 1 for at in (start, start + reach)]
            for start, reach, whole in ((x, length, self.length), (y, width, self.width))
        )
        top, low = self.face.rows(us, vs), self.back.rows(us, vs)
        (p, q), (r, s) = ([a - b for a, b in zip(*rows, strict=True)] for rows in zip(top, low, strict=True))
        return (p + q + r + s) / 4, (r + s - p - q) / 4, (q + s - p - r) / 4

    def to_flat(self, x: float, y: float, length: float, width: float) -> Flat:
        """What comes off a rectangle of the board down to its slab; worked out once for each."""
        key = (x, y, length, width)
        if key not in self._flats and self.true:
            nothing = ((0.0,) * ACROSS,) * ALONG
            xs, ys = _spread(x, max(length, NARROWEST), ALONG), _spread(y, max(width, NARROWEST), ACROSS)
            self._flats[key] = Flat(xs, ys, nothing, nothing, self.thickness, (xs[0], ys[0], 0.0), 0.0)
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
        if self.true:
            return Slab(0.0, 0.0, 0.0, self.thickness)
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


def fit(
    length: float,
    width: float,
    thickness: float,
    readings: Sequence[SidedReading],
    planed: Sequence[PlanedLike] = (),
    taper: tuple[float, float, float] | None = None,
) -> Surface:
    """The surface that a board's readings tell of, and what was planed since.

    Args:
        length, width, thickness: of the board, mm; the thickness stands where no caliper reading does.
        readings: as the document's ``Reading``; those taken before a side was last planed no longer count for it.
        planed: as the document's ``Planed``, in order.
        taper: of a part, what its board's thickness is there (``Surface.taper``): it stands where the part was not calipered itself.
    """
    board = Board(length, width, prior=NOMINAL)
    said = _Said(readings)
    rough = said.fitted(
        board, thickness, [i for i, r in enumerate(readings) if r.after == 0 and SIGHTS[r.kind].surface]
    )
    t, b, c, d = rough.taper
    face = Heights(rough.shapes, local=rough.local if any(map(any, rough.local)) else ())
    bow, cup, *rest = rough.shapes
    back = Heights((bow, cup - d, *rest), (-t, -b, -c))
    if taper is not None and not any(r.kind == CALIPER and r.after == 0 for r in readings):
        t, b, c = taper
        back = Heights(rough.shapes, (-t, -b, -c))
    second = FACE if planed and planed[0].side == BACK else BACK  # the side that is planed to thickness
    for side in (FACE, BACK) if planed else ():
        runs = [n for n, one in enumerate(planed, 1) if one.side == side]
        if runs:
            flat = tuple(map(float, planed[runs[-1] - 1].heights))
            kept = Heights(local=tuple([flat[i : i + NODES[1]] for i in range(0, len(flat), NODES[1])]))
            face, back = (kept, back) if side == FACE else (face, kept)
    for side in ((BACK, FACE) if second == FACE else (FACE, BACK)) if planed else ():
        since = counts_from(planed, side)
        mine = [
            i
            for i, r in enumerate(readings)
            if r.after >= since and SIGHTS[r.kind].surface and (side == second if r.kind == CALIPER else r.side == side)
        ]
        face, back = said.corrected(board, side, side == second, mine, face, back)
    return Surface(length, width, face, back, tuple(said.residuals), tuple(said.apart), tuple(sorted(said.strays)))


def counts_from(planed: Sequence[PlanedLike], side: str) -> int:
    """Readings of a side count that were taken after so many rounds of planing: after its own last, or after any where it had none."""
    return max((n for n, one in enumerate(planed, 1) if one.side == side), default=min(len(planed), 1))


class _Said:
    """Readings, and what fits have said of each so far."""

    def __init__(self, readings: Sequence[SidedReading]):
        self.readings = readings
        self.residuals, self.apart = [0.0] * len(readings), [0.0] * len(readings)
        self.strays: set[int] = set()

    def fitted(self, board: Board, thickness: float, which: Sequence[int]) -> Fit:
        """The likeliest board by some of them."""
        found = gaussian_process.fit(board, thickness, [self.readings[i] for i in which])
        self._keep(which, found)
        return found

    def corrected(
        self, board: Board, side: str, second: bool, which: Sequence[int], face: Heights, back: Heights
    ) -> tuple[Heights, Heights]:
        """Both faces once readings have corrected one of them, by what they differ from what was foreseen; of the ``second`` to be
        planed calipers tell how thick it leaves the board."""
        if not which:
            return face, back
        board = replace(board, prior=BEHIND if second else WORKED, true=True)
        found = gaussian_process.fit(board, 0.0, [self._off(board, self.readings[i], face, back) for i in which])
        self._keep(which, found)
        t, b, c, _ = found.taper
        more = Heights(found.shapes, (t, b, c) if second else (0.0, 0.0, 0.0), found.local)
        if side == FACE:
            return face.plus(more), back
        return face, back.plus(more.turned())

    def _off(self, board: Board, r: SidedReading, face: Heights, back: Heights) -> Taken:
        """A reading less what it would say of the faces as foreseen."""
        sees = seen(board, r).points
        if r.kind == CALIPER:
            foreseen = sum(w * (face.at(u, v) - back.at(u, v)) for w, u, v in sees)
        else:
            foreseen = sum(w * face.at(u, v) if r.side == FACE else -w * back.at(u, v) for w, u, v in sees)
        return Taken(r.kind, r.at, r.across, r.value - foreseen, r.stick, r.to, r.stood)

    def _keep(self, which: Sequence[int], found: Fit) -> None:
        for n, i in enumerate(which):
            self.residuals[i], self.apart[i] = found.residuals[n], found.apart[n]
        self.strays |= {which[n] for n in found.strays}
