"""How sure a fitted board is, and the reading that would tell most next.

A reading is worth what it takes off the variance over the board (A-optimal design; Chaloner and Verdinelli 1995, from memory), over
the scales that the readings so far leave likely: so it hangs on what was read, not only on where.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from functools import lru_cache
from itertools import product

from nullah.core.surface.gaussian_process import (
    CALIPER,
    CAREFUL,
    Board,
    Fit,
    Seen,
    Weighed,
    of_a_place,
    seen,
    where,
)
from nullah.core.surface.heights import Heights
from nullah.core.surface.prior import Scale, acrosses, alongs, bend
from nullah.core.surface.reading_kinds import ReadingLike, Taken
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

ENOUGH = 0.09  # mm, standard deviation over the face: with that, another reading is not worth its time
LITTLE = 0.033  # mm of standard deviation: nor is one that tells so little, once there are ``BEGUN``
BEGUN, MOST = 12, 30  # readings: so many say how a board is; after so many one asks for more oneself
OF_A_FACE = ("winding sticks", "cup", "bow", "corner")  # kinds that are asked for
ADVISED = (*OF_A_FACE, CALIPER)
STICK = 600.0  # mm: sticks so long, or twice as long as the board is wide
_THICK = 0.15  # mm: so sure the mean thickness is to be
_LIKELY = 5  # scales that advice goes by, at the most


@frozen
class Grid:
    """Evenly spaced places from end to end and edge to edge: so many rows along and columns across."""

    rows: int
    columns: int

    def u(self) -> Floats:
        """Along, from -1 to 1."""
        return np.linspace(-1.0, 1.0, self.rows)

    def v(self) -> Floats:
        """Across, from -1 to 1."""
        return np.linspace(-1.0, 1.0, self.columns)

    def places(self) -> tuple[Floats, Floats]:
        """Of all of them, rows along: u and v."""
        u, v = np.meshgrid(self.u(), self.v(), indexing="ij")
        return u.ravel(), v.ravel()


_WEIGHED = Grid(15, 7)  # on which readings are weighed
_FINEST = (49, 17)


def faces(found: Fit, grid: Grid) -> tuple[Floats, Floats]:
    """Heights of the face and of the other face on a grid, both (rows, columns), mm in one frame."""
    t, b, c, d = found.taper
    face = on_grid(Heights(found.shapes, local=found.local), grid)
    if found.board.true:
        return face, on_grid(Heights((0.0, 0.0, 0.0), (-t, -b, -c)), grid)
    bow, cup, twist = found.shapes
    return face, on_grid(Heights((bow, cup - d, twist), (-t, -b, -c), found.behind), grid)


def on_grid(told: Heights, grid: Grid) -> Floats:
    """Heights on a grid, (rows, columns), mm."""
    a, b, c = told.plane
    bow, cup, twist = told.shapes
    u, v = grid.u()[:, None], grid.v()[None, :]
    out: Floats = a + u * (b + bow * u) + v * (c + twist * u + cup * v)
    if told.local:
        local = np.array(told.local)
        out = out + _read(local.shape[0], grid.rows) @ local @ _read(local.shape[1], grid.columns).T
    return out


def to_nodes(told: Floats, grid: Grid, rows: int, columns: int) -> Floats:
    """Values at so many nodes that tell heights on a grid best (least squares)."""
    along, across = np.linalg.pinv(_read(rows, grid.rows)), np.linalg.pinv(_read(columns, grid.columns))
    out: Floats = along @ told @ across.T
    return out


@lru_cache(maxsize=64)
def _read(count: int, places: int) -> Floats:
    """Values at evenly spaced places from those at so many nodes, straight between them, as a matrix."""
    at = (np.linspace(-1.0, 1.0, places) + 1) / 2 * (count - 1)
    first = np.minimum(at.astype(int), count - 2)
    out = np.zeros((places, count))
    out[range(places), first] = 1 - (at - first)
    out[range(places), first + 1] += at - first
    return out


@frozen
class Advice:
    """The reading that is asked for next (None: none is), and why."""

    reading: Taken | None
    why: str = ""


AGAIN, ENOUGH_KNOWN, NO_MORE = (
    "read it again: the others do not bear it out",
    "enough is known",
    "another would tell little",
)


@frozen
class Knowledge:
    """How sure a board is by what was read of it."""

    found: Fit
    readings: tuple[ReadingLike, ...]

    @property
    def board(self) -> Board:
        """What is read."""
        return self.found.board

    def deviations(self, grid: Grid) -> Floats:
        """One standard deviation of the face's heights, (rows, columns) in mm, once the least-squares plane of what is not known is
        removed; of a fine grid, read between those of a coarser one."""
        coarse = Grid(min(grid.rows, _FINEST[0]), min(grid.columns, _FINEST[1]))
        if coarse != grid:
            told = self.deviations(coarse)
            spread: Floats = _read(coarse.rows, grid.rows) @ told @ _read(coarse.columns, grid.columns).T
            return spread
        shares, means, variances = [], [], []
        free = _off_plane(grid)
        u, v = grid.places()
        there = _Places((of_a_place(0.0, 0.0),), np.stack([np.ones_like(u), u, v], axis=1))
        own = _covariance(self.board, there, there)
        beside = _covariance(self.board, there, _Places(self.found.said)) if self.found.said else None
        for one in self.found.weighed:
            among = free @ own.of(one.scale) @ free
            variance, mean = np.diag(among), np.zeros(len(u))
            if beside is not None:
                sees = free @ beside.of(one.scale)
                variance = variance - np.einsum("ij,jk,ik->i", sees, np.array(one.inverted), sees, optimize=True)
                mean = sees @ np.array(one.weights)
            shares.append(one.share)
            means.append(mean)
            variances.append(variance)
        weights, held = np.array(shares), np.array(means)
        apart = (held - weights @ held) ** 2
        out: Floats = CAREFUL * np.sqrt(np.maximum(weights @ (np.array(variances) + apart), 0.0))
        return out.reshape(grid.rows, grid.columns)

    def advice(self, kinds: Collection[str] = ADVISED, more: bool = False) -> Advice:
        """What to read next: again what the others do not bear out, else what tells most; with ``more``, even once that is little."""
        again = [i for i in self.found.again if self.readings[i].kind in kinds]
        if again and (more or len(self.readings) < MOST):
            return Advice(_as_taken(self.readings[again[0]]), AGAIN)
        now = _Posterior(self.board, self.found)
        if not more:
            if now.unsure() < ENOUGH and (now.thickness() < _THICK or CALIPER not in kinds):
                return Advice(None, ENOUGH_KNOWN)
            if len(self.readings) >= MOST:
                return Advice(None, NO_MORE)
        taken = {where(self.board, r) for r in self.readings}
        asked, gain = now.next(kinds, taken)
        if asked is None or (not more and len(self.readings) >= BEGUN and gain < LITTLE**2):
            return Advice(None, NO_MORE)
        return Advice(asked)

    def advised(self, count: int, kinds: Collection[str]) -> list[Taken]:
        """So many readings, each the one that tells most after those before; none of what is enough known."""
        now, out, taken = _Posterior(self.board, self.found), list[Taken](), set[object]()
        while len(out) < count:
            asked, _ = now.next(kinds, taken)
            if asked is None:
                break
            out.append(asked)
            taken.add(where(self.board, asked))
            now.take(asked)
        return out


def known(found: Fit, readings: Sequence[ReadingLike]) -> Knowledge:
    """By the readings that a board was fitted to."""
    return Knowledge(found, tuple(readings))


def _as_taken(r: ReadingLike) -> Taken:
    return Taken(r.kind, r.at, r.across, 0.0, r.stick, r.to, r.stood)


@frozen
class _Arrays:
    even: Floats
    uneven: Floats
    local: Floats
    taper: Floats

    def of(self, s: Scale) -> Floats:
        out: Floats = s.warped**2 * (self.even + s.uneven**2 * self.uneven) + s.local**2 * self.local + self.taper
        return out


class _Places:
    """Things seen, as arrays: of each kind of what they see all places, and the matrix that sums them by thing; or, with ``points``
    (weight, u, v), that place again and again."""

    def __init__(self, said: Sequence[Seen], points: Floats | None = None):
        if points is not None:
            rows = np.eye(len(points))
            self.warp = self.local = (rows, points[:, 1], points[:, 2])
            self.behind = (np.zeros((len(points), 0)), np.zeros(0), np.zeros(0))
            self.taper = np.zeros((len(points), 4))
            return
        self.warp, self.local, self.behind = (
            _gathered([getattr(s, name) for s in said]) for name in ("warp", "local", "behind")
        )
        self.taper = np.array([s.taper for s in said]).reshape(-1, 4)


def _gathered(points: Sequence[Sequence[tuple[float, float, float]]]) -> tuple[Floats, Floats, Floats]:
    every = np.array([p for some in points for p in some], dtype=np.float64).reshape(-1, 3)
    rows, start = np.zeros((len(points), len(every))), 0
    for i, some in enumerate(points):
        rows[i, start : start + len(some)] = every[start : start + len(some), 0]
        start += len(some)
    return rows, every[:, 1], every[:, 2]


def _covariance(board: Board, a: _Places, b: _Places) -> _Arrays:
    """As ``gaussian_process.parts``, of many at once."""
    prior = board.prior
    bow, cup, twist = (sd * sd for sd in prior.shapes)
    (left, u, v), (right, p, q) = a.warp, b.warp
    u, v, p, q = u[:, None], v[:, None], p[None], q[None]
    bent, leaning, curled = bow, twist * v * q, cup * (v * q) ** 2
    even = left @ (bent * (u * p) ** 2 + leaning * u * p + curled) @ right.T
    uneven = left @ ((bent + leaning + curled) * bend(u, p, np.exp)) @ right.T
    local: Floats = np.zeros(even.shape)
    for mine, theirs in ((a.local, b.local), (a.behind, b.behind)):
        (left, u, v), (right, p, q) = mine, theirs
        if u.size and p.size:
            along = alongs(board.half[0], u[:, None], p[None], np.exp)
            across = acrosses(board.half[1], v[:, None], q[None], np.exp)
            local = local + left @ sum(x * y for x, y in zip(along, across, strict=True)) @ right.T
    taper = a.taper @ np.diag(np.square(prior.taper)) @ b.taper.T
    return _Arrays(even, uneven, prior.local**2 * local, taper)


class _Posterior:
    """What is not known of a board, over the likeliest scales: the face off its plane on ``_WEIGHED``, the mean thickness, and what
    readings that may be asked for would say."""

    def __init__(self, board: Board, found: Fit):
        self.board = board
        self.asked, self._errors, said, among, beside, behind, own, level = _to_be_asked(board)
        those = found.weighed[:_LIKELY]
        self.shares = np.array([one.share for one in those])
        self.shares /= self.shares.sum()
        free = _off_plane(_WEIGHED)
        self._among = [among.of(one.scale) for one in those]  # of readings that may be asked
        self._beside = [free @ beside.of(one.scale) for one in those]  # of the face with them
        self._behind = [free @ behind.of(one.scale) for one in those]  # of the back
        self._level = [level.copy() for _ in those]  # of the thickness with them
        self._face = [float(np.trace(free @ own.of(one.scale) @ free)) / len(free) for one in those]
        self._thick = [float(_mean_thickness(board) ** 2 @ np.square(board.prior.taper)) for _ in those]
        if found.said:
            places = _Places(found.said)
            with_asked, with_face = _covariance(board, places, said), _covariance(board, _grid_places(), places)
            with_back = _covariance(board, _grid_places(not board.true), places)
            thick = places.taper @ (np.square(board.prior.taper) * _mean_thickness(board))
            for n, one in enumerate(those):
                face, back = free @ with_face.of(one.scale), free @ with_back.of(one.scale)
                self._given(n, one, with_asked.of(one.scale), face, back, thick)

    def _given(self, n: int, one: Weighed, asked: Floats, face: Floats, back: Floats, thick: Floats) -> None:
        inverted = np.array(one.inverted)
        self._among[n] = self._among[n] - asked.T @ inverted @ asked
        self._beside[n] = self._beside[n] - face @ inverted @ asked
        self._behind[n] = self._behind[n] - back @ inverted @ asked
        self._level[n] = self._level[n] - thick @ inverted @ asked
        self._face[n] -= float(np.einsum("ij,jk,ik->", face, inverted, face, optimize=True)) / len(face)
        self._thick[n] -= float(thick @ inverted @ thick)

    def unsure(self) -> float:
        """One standard deviation of the face off its plane, mm, root mean square."""
        return float(CAREFUL * np.sqrt(max(self.shares @ np.array(self._face), 0.0)))

    def thickness(self) -> float:
        """One standard deviation of the mean thickness, mm."""
        return float(np.sqrt(max(self.shares @ np.array(self._thick), 0.0)))

    def next(self, kinds: Collection[str], taken: Collection[object]) -> tuple[Taken | None, float]:
        """What takes most off the variance, and how much, mm2."""
        may = [i for i, r in enumerate(self.asked) if r.kind in kinds and where(self.board, r) not in taken]
        if not may:
            return None, 0.0
        told = np.zeros(len(may))
        for n, share in enumerate(self.shares):
            variance = np.diag(self._among[n])[may] + self._errors[may] ** 2
            faces = (self._beside[n][:, may] ** 2).mean(axis=0) + _OF_THE_BACK * (self._behind[n][:, may] ** 2).mean(
                axis=0
            )
            told += share * (faces + self._level[n][may] ** 2) / variance
        best = int(told.argmax())
        return self.asked[may[best]], float(told[best])

    def take(self, r: Taken) -> None:
        """Once it is read too."""
        i = self.asked.index(r)
        for n, among in enumerate(self._among):
            variance = among[i, i] + self._errors[i] ** 2
            row, column, level = among[i].copy(), self._beside[n][:, i].copy(), self._level[n][i]
            back = self._behind[n][:, i].copy()
            self._behind[n] = self._behind[n] - np.outer(back, row) / variance
            self._face[n] -= float((column**2).mean() / variance)
            self._thick[n] -= float(level**2 / variance)
            self._among[n] = among - np.outer(row, row) / variance
            self._beside[n] = self._beside[n] - np.outer(column, row) / variance
            self._level[n] = self._level[n] - level * row / variance


def _mean_thickness(board: Board) -> Floats:
    return np.array([1.0, 0.0, 0.0, 0.0 if board.true else 1 / 3])


_OF_THE_BACK = 0.7  # what a reading tells of the back counts so much beside what it tells of the face


@lru_cache(maxsize=2)
def _grid_places(behind: bool = False) -> _Places:
    u, v = _WEIGHED.places()
    out = _Places((), np.stack([np.ones_like(u), u, v], axis=1))
    if behind:  # the back follows the warp, is rough by itself, and as far below as the board is thick
        out.local, out.behind = out.behind, out.local
        out.taper = -np.stack([np.ones_like(u), u, v, v * v], axis=1)
    return out


_SPANS = ((0, 12), (0, 6), (6, 12), (3, 9), (0, 3), (9, 12), (0, 2), (10, 12), (3, 6), (6, 9))  # twelfths of the length


@lru_cache(maxsize=8)
def _to_be_asked(board: Board) -> tuple[list[Taken], Floats, _Places, _Arrays, _Arrays, _Arrays, _Arrays, Floats]:
    """Readings that may be asked for, at places that are easily found; their errors, what they see, and how that goes together with
    each other, with the face and with the thickness."""
    stick = max(STICK, 2 * board.width)
    along = [min(float(round(board.length * i / 12)), board.length) for i in range(13)]
    across = [min(float(round(board.width * i / 8)), board.width) for i in range(9)]
    along[-1], across[-1] = board.length, board.width
    out = [Taken("winding sticks", at=x, to=o, stick=stick) for o in (0.0, along[6]) for x in along[1:] if x != o]
    out += [Taken("cup", at=x) for x in along]
    ends = [(along[i], along[j]) for i, j in _SPANS]
    out += [Taken("bow", at=a, across=y, to=b if b < along[12] else 0) for (a, b), y in product(ends, across)]
    out += [Taken("corner", to=1), Taken("corner", to=2)]
    out += [Taken("thickness", at=x, across=y) for x, y in product(along[1:-1], across[1:-1])]
    every = [seen(board, r) for r in out]
    said = _Places(every)
    face = _grid_places()
    level = said.taper @ (np.square(board.prior.taper) * _mean_thickness(board))
    errors = np.array([s.error for s in every])
    return (
        out,
        errors,
        said,
        _covariance(board, said, said),
        _covariance(board, face, said),
        _covariance(board, _grid_places(not board.true), said),
        _covariance(board, face, face),
        level,
    )


@lru_cache(maxsize=8)
def _off_plane(grid: Grid) -> Floats:
    """What takes the least-squares plane off values on a grid, as a matrix."""
    u, v = grid.places()
    basis, _ = np.linalg.qr(np.stack([np.ones_like(u), u, v], axis=1))
    out: Floats = np.eye(len(u)) - basis @ basis.T
    return out
