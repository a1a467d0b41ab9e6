"""The surface of a board from what winding sticks, straightedge and caliper say, and the thickest flat board in any rectangle of it.

How it is fitted, and what is known of boards beforehand, is told in ``gaussian_process``. Here a fit is read at the places of a part.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import field
from typing import Protocol

from nullah.core.surface import gaussian_process
from nullah.core.surface.gaussian_process import CALIPER, Board, Fit
from nullah.core.surface.heights import Heights, Rows, evenly, kept
from nullah.core.surface.prior import rough, turned, worked
from nullah.core.surface.reading_kinds import READING_KINDS, ReadingLike, Taken
from nullah.core.surface.slab import Slab, thickest_slab
from nullah.core.values.frozen import frozen, replace

Section = tuple[tuple[float, ...], tuple[float, ...], Rows, Rows]  # places along and across; heights of both faces

EVEN = 1e-6  # mm: spots as high as each other; the first from the left end is told
ALONG, ACROSS = 25, 9  # points of the grid a surface is worked on
NARROWEST = 1.0  # mm: a rectangle with less than that of length or width is taken as so long or wide
NOMINAL = 20.0  # mm, one standard deviation: the thickness a board is bought by may be far from what it measures
MARGIN, MOST_MARGIN = (
    0.7,
    0.5,
)  # of how unsure the face is, and mm at the most: so much less is promised than the likeliest surface holds
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
class Told:
    """What a side was fitted to: which of the readings (from 0), each less what was foreseen, and the fit."""

    which: tuple[int, ...]
    readings: tuple[Taken, ...]
    found: Fit


@frozen
class Surface:
    """A board as it is likeliest: heights of face side and underside, upward in one frame, and what each reading says of it.

    Where nothing is read it is flat and of its stated thickness. ``residuals`` tells how far each reading lies off the surface,
    ``apart`` how far off what all the others say, mm; ``strays`` which disagree with others of their place, ``again`` which are to be
    read again, from 0. ``told`` has by side what it was fitted to last, ``careful`` by how much less thickness is promised, mm.
    """

    length: float
    width: float
    face: Heights
    back: Heights
    residuals: tuple[float, ...] = ()
    apart: tuple[float, ...] = ()
    strays: tuple[int, ...] = ()
    again: tuple[int, ...] = ()
    careful: float = 0.0
    told: dict[str, Told] = field(default_factory=dict, compare=False, repr=False)
    _sections: dict[tuple[float, float, float, float], Section] = field(default_factory=dict, compare=False, repr=False)
    _slabs: dict[tuple[float, float, float, float], Slab] = field(default_factory=dict, compare=False, repr=False)
    _flats: dict[tuple[float, float, float, float], Flat] = field(default_factory=dict, compare=False, repr=False)

    @property
    def true(self) -> bool:
        """Whether it is read nowhere as anything but flat and of one thickness."""
        return self.face.level and self.back.level

    def unsure(self) -> tuple[float, float]:
        """One standard deviation of face and back, mm, as far as they are read."""
        face, back = (self.told[side].found.unsure() if side in self.told else 0.0 for side in (FACE, BACK))
        return face, back

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
    before = rough(length, width)
    board = Board(length, width, given=replace(before, taper=(NOMINAL, *before.taper[1:])))
    said = _Said(readings)
    first = said.fitted(
        board, thickness, [i for i, r in enumerate(readings) if r.after == 0 and READING_KINDS[r.kind].surface]
    )
    t, b, c, d = first.taper
    bow, cup, twist = first.shapes
    face, back = Heights(first.shapes, local=first.local), Heights((bow, cup - d, twist), (-t, -b, -c), first.behind)
    if taper is not None and not any(r.kind == CALIPER and r.after == 0 for r in readings):
        t, b, c = taper
        back = Heights(first.shapes, (-t, -b, -c), first.behind)
    second = FACE if planed and planed[0].side == BACK else BACK  # the side that is planed to thickness
    removed = {FACE: 0.0, BACK: 0.0}
    for one in planed:
        now = kept(one.heights)
        was, face, back = (face, now, back) if one.side == FACE else (back, face, now)
        removed[one.side] = _apart(was, now)
    for side in ((BACK, FACE) if second == FACE else (FACE, BACK)) if planed else ():
        since = counts_from(planed, side)
        mine = [
            i
            for i, r in enumerate(readings)
            if r.after >= since
            and READING_KINDS[r.kind].surface
            and (side == second if r.kind == CALIPER else r.side == side)
        ]
        off = worked(removed[side]) if any(one.side == side for one in planed) else turned(first.unsure())
        face, back = said.corrected(Board(length, width, side == second, off), side, mine, face, back)
    return Surface(
        length,
        width,
        face,
        back,
        tuple(said.residuals),
        tuple(said.apart),
        tuple(sorted(said.strays)),
        tuple(said.again),
        0.0 if planed else careful(first),
        said.told,
    )


def careful(found: Fit) -> float:
    """By how much less thickness is promised than the likeliest surface holds, mm."""
    return min(MARGIN * found.unsure(), MOST_MARGIN) if found.said else 0.0


def _apart(before: Heights, now: Heights) -> float:
    """How far two surfaces lie apart, root mean square, mm."""
    places = evenly(9), evenly(5)
    apart = [
        a - b for rows in zip(before.rows(*places), now.rows(*places), strict=True) for a, b in zip(*rows, strict=True)
    ]
    return math.sqrt(sum(one * one for one in apart) / len(apart))


def counts_from(planed: Sequence[PlanedLike], side: str) -> int:
    """Readings of a side count that were taken after so many rounds of planing: after its own last, or after any where it had none."""
    return max((n for n, one in enumerate(planed, 1) if one.side == side), default=min(len(planed), 1))


class _Said:
    """Readings, and what fits have said of each so far."""

    def __init__(self, readings: Sequence[SidedReading]):
        self.readings = readings
        self.residuals, self.apart = [0.0] * len(readings), [0.0] * len(readings)
        self.strays: set[int] = set()
        self.again: list[int] = []
        self.told: dict[str, Told] = {}

    def fitted(self, board: Board, thickness: float, which: Sequence[int]) -> Fit:
        """The likeliest board by some of them."""
        behind = frozenset(n for n, i in enumerate(which) if self.readings[i].side == BACK)
        found = gaussian_process.fit(board, thickness, [self.readings[i] for i in which], behind)
        for side in (FACE, BACK):
            self.told[side] = Told(tuple(which), tuple([_taken(self.readings[i]) for i in which]), found)
        self._keep(which, found)
        return found

    def corrected(
        self, board: Board, side: str, which: Sequence[int], face: Heights, back: Heights
    ) -> tuple[Heights, Heights]:
        """Both faces once readings have corrected one of them, by what they differ from what was foreseen; of the second to be planed
        (the other is true) calipers tell how thick it leaves the board."""
        off = tuple([self._off(board, self.readings[i], face, back) for i in which])
        found = gaussian_process.fit(board, 0.0, off)
        self.told[side] = Told(tuple(which), off, found)
        if not which:
            return face, back
        self._keep(which, found)
        t, b, c, _ = found.taper
        more = Heights(found.shapes, (t, b, c) if board.true else (0.0, 0.0, 0.0), found.local)
        if side == FACE:
            return face.plus(more), back
        return face, back.plus(more.turned())

    def _off(self, board: Board, r: SidedReading, face: Heights, back: Heights) -> Taken:
        """A reading less what it would say of the faces as foreseen."""
        sees = READING_KINDS[r.kind].points(r, board.length, board.width)
        if r.kind == CALIPER:
            foreseen = sum(w * (face.at(u, v) - back.at(u, v)) for w, u, v in sees)
        else:
            foreseen = sum(w * face.at(u, v) if r.side == FACE else -w * back.at(u, v) for w, u, v in sees)
        return replace(_taken(r), value=r.value - foreseen)

    def _keep(self, which: Sequence[int], found: Fit) -> None:
        for n, i in enumerate(which):
            self.residuals[i], self.apart[i] = found.residuals[n], found.apart[n]
        self.strays |= {which[n] for n in found.strays}
        self.again += [which[n] for n in found.again]


def _taken(r: ReadingLike) -> Taken:
    return Taken(r.kind, r.at, r.across, r.value, r.stick, r.to, r.stood)
