"""How sure a fitted board is, and the reading that would tell most next.

The posterior covariance of a linear Gaussian model does not hang on what the readings say, only on where they were taken: so the
next reading is the one that leaves least variance over the board (A-optimal design; Chaloner and Verdinelli 1995, from memory).
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from functools import lru_cache
from itertools import product

from nullah.core.arrays import Floats, np
from nullah.core.frozen import frozen, replace
from nullah.core.surface.gaussian_process import (
    CALIPER,
    NODES,
    REACH,
    SHAPES,
    Board,
    Fit,
    Prior,
    Seen,
    between,
    chebyshev,
    seen,
)
from nullah.core.surface.readings import Heights
from nullah.core.surface.sights import SIGHTS, ReadingLike, Taken

ENOUGH = 0.08  # mm, standard deviation over the face: with that, another reading is not worth its time
OF_A_FACE = ("winding sticks", "cup", "bow", "corner")  # kinds that are asked for
ADVISED = (*OF_A_FACE, CALIPER)
STICK = 600.0  # mm: sticks so long, or twice as long as the board is wide
_N = NODES[0] * NODES[1]
_CUP = 1  # which of SHAPES
_SIZE = len(SHAPES) + _N + 4  # of the state: shapes, what is local, thickness


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


_WEIGHED = Grid(15, 7)  # on which readings are weighed


def faces(found: Fit, grid: Grid) -> tuple[Floats, Floats]:
    """Heights of the face and of the other face on a grid, both (rows, columns), mm in one frame."""
    u, v = grid.u()[:, None], grid.v()[None, :]
    shapes = _warp(found.shapes, grid)
    t, b, c, d = found.taper
    thick = t + b * u + c * v + d * v * v
    face = shapes + _local(np.array(found.local), grid)
    back: Floats = (np.zeros_like(shapes) if found.board.true else shapes) - thick
    return face, back


@frozen
class Knowledge:
    """How sure a board is: covariance of what is not known of it (shapes, what is local at the nodes, thickness; mm2)."""

    board: Board
    covariance: Floats

    def after(self, readings: Sequence[ReadingLike]) -> Knowledge:
        """Once these readings are taken."""
        return self.told(readings, [0.0] * len(readings))[0]

    def told(self, readings: Sequence[ReadingLike], differences: Sequence[float]) -> tuple[Knowledge, Floats]:
        """What readings add that differ so much from what was foreseen (mm): knowledge, and the likeliest correction of the state (a
        Kalman filter's update)."""
        if not readings:
            return self, np.zeros(_SIZE)
        said = [seen(self.board, r) for r in readings]
        rows = np.array([_row(s) for s in said])
        gain = self.covariance @ rows.T
        within = rows @ gain + np.diag([s.error**2 for s in said])
        weights = np.linalg.solve(within, gain.T).T
        return replace(self, covariance=self.covariance - weights @ gain.T), weights @ np.asarray(differences)

    def worked(self, by: Prior) -> Knowledge:
        """Once it is planed: what was foreseen of that is off so much."""
        return replace(self, covariance=self.covariance + _before(by))

    def turned_over(self, by: Prior) -> Knowledge:
        """Of the other face once this one is true: the shapes it follows it in, and ``by`` for what no reading of this face tells."""
        size = len(SHAPES)
        way = np.zeros((_SIZE, _SIZE))
        way[range(size), range(size)] = 1.0
        way[_CUP, _SIZE - 1] = -1.0  # as much less cupped as the thickness is hollow
        board = replace(self.board, true=True)
        return Knowledge(board, way @ self.covariance @ way.T + _before(by))

    def deviations(self, grid: Grid) -> Floats:
        """One standard deviation of the face's heights, (rows, columns) in mm, once the least-squares plane of what is not known is
        removed."""
        free = _free(grid)
        variance = np.einsum("ij,jk,ik->i", free, self.covariance, free, optimize=True)
        out: Floats = np.sqrt(np.maximum(variance, 0.0)).reshape(grid.rows, grid.columns)
        return out

    def next_reading(
        self, known: Sequence[ReadingLike], kinds: Collection[str] = ADVISED, enough: float = ENOUGH
    ) -> Taken | None:
        """The reading of one of ``kinds`` that would tell most of the face and of the thickness next.

        None when enough is known, which is ``enough`` mm of standard deviation over the face, or none is left that is not ``known``.
        """
        free, level = _free(_WEIGHED), _thickness(self.board)
        unsure = float(np.einsum("ij,jk,ik->", free, self.covariance, free, optimize=True)) / len(free)
        thick = float(level @ self.covariance @ level)
        if unsure < enough**2 and (thick < _THICK**2 or CALIPER not in kinds):
            return None
        asked, rows, errors = _askable(self.board)
        taken = {_where(self.board, r) for r in known}
        may = [i for i, r in enumerate(asked) if r.kind in kinds and _where(self.board, r) not in taken]
        if not may:
            return None
        gain = self.covariance @ rows[may].T
        variance = np.einsum("ij,ji->i", rows[may], gain) + errors[may] ** 2
        told = ((free @ gain) ** 2).sum(axis=0) / len(free) + (level @ gain) ** 2
        return asked[may[int((told / variance).argmax())]]

    def advised(self, count: int, kinds: Collection[str]) -> list[Taken]:
        """So many readings, each the one that tells most after those before."""
        out: list[Taken] = []
        knows = self
        while len(out) < count and (found := knows.next_reading(out, kinds, 0.0)) is not None:
            out.append(found)
            knows = knows.after([found])
        return out


def nothing_known(board: Board) -> Knowledge:
    """Before the first reading."""
    return Knowledge(board, _before(board.prior))


def heights(state: Floats, grid: Grid) -> Floats:
    """Heights of the face a state tells of, (rows, columns), mm."""
    return _warp(state[: len(SHAPES)], grid) + _local(state[len(SHAPES) : -4].reshape(NODES), grid)


def on_grid(told: Heights, grid: Grid) -> Floats:
    """Heights on a grid, (rows, columns), mm."""
    a, b, c = told.plane
    out = _warp(told.shapes, grid) + a + b * grid.u()[:, None] + c * grid.v()[None, :]
    return out + _local(np.array(told.local), grid) if told.local else out


def to_nodes(told: Floats, grid: Grid) -> Floats:
    """Values at the nodes that tell heights on a grid best (least squares), shaped as the nodes."""
    along, across = np.linalg.pinv(_read(NODES[0], grid.rows)), np.linalg.pinv(_read(NODES[1], grid.columns))
    out: Floats = along @ told @ across.T
    return out


def _warp(coefficients: Sequence[float] | Floats, grid: Grid) -> Floats:
    """Shapes on a grid."""
    u, v = grid.u()[:, None], grid.v()[None, :]
    out = np.zeros((grid.rows, grid.columns))
    for i, (k, (_, power)) in enumerate(zip(coefficients, SHAPES, strict=True)):
        out += k * _along(i, u) * v**power
    return out


def _local(nodes: Floats, grid: Grid) -> Floats:
    """What is local on a grid, from its values at the nodes."""
    out: Floats = _read(NODES[0], grid.rows) @ nodes @ _read(NODES[1], grid.columns).T
    return out


def levels(state: Floats) -> tuple[float, float, float, float]:
    """What a state tells of the thickness: level, slopes along and across, hollow, in mm of u and v."""
    level, along, across, hollow = map(float, state[-4:])
    return level, along, across, hollow


_THICK = 0.1  # mm: so sure the mean thickness is to be


def _where(board: Board, r: ReadingLike) -> tuple[str, float, float, float]:
    """What makes two readings one: kind and place, to the mm."""
    whole = r.kind == "bow" and r.to >= board.length - 0.5
    across = round(r.across) if "across" in SIGHTS[r.kind].used else 0
    return r.kind, round(r.at), across, 0 if whole else round(r.to)


@lru_cache(maxsize=8)
def _askable(board: Board) -> tuple[list[Taken], Floats, Floats]:
    """Readings that may be asked for, at places that are easily found; what each sees, of the state; and their errors."""
    stick = max(STICK, 2 * board.width)
    along = [min(float(round(board.length * i / 12)), board.length) for i in range(13)]
    across = [min(float(round(board.width * i / 8)), board.width) for i in range(9)]
    along[-1], across[-1] = board.length, board.width
    out = [Taken("winding sticks", at=x, to=o, stick=stick) for o in (0.0, along[6]) for x in along[1:] if x != o]
    out += [Taken("cup", at=x) for x in along]
    ends = [(along[i], along[j]) for i, j in ((0, 12), (0, 6), (6, 12), (3, 9))]
    out += [Taken("bow", at=a, across=y, to=b if b < along[12] else 0) for (a, b), y in product(ends, across)]
    out += [Taken("corner", to=1), Taken("corner", to=2)]
    out += [Taken("thickness", at=x, across=y) for x, y in product(along[1:-1], across[1:-1])]
    said = [seen(board, r) for r in out]
    return out, np.array([_row(s) for s in said]), np.array([s.error for s in said])


def _thickness(board: Board) -> Floats:
    """The mean thickness, of the state."""
    row = np.zeros(_SIZE)
    row[len(SHAPES) + _N :] = (1.0, 0.0, 0.0, 0.0 if board.true else 1 / 3)
    return row


@lru_cache
def _before(prior: Prior) -> Floats:
    """Covariance of the state: shapes, what is local at the nodes, and the thickness."""
    u, v = np.array(chebyshev(NODES[0])), np.array(chebyshev(NODES[1]))
    ku = np.exp(-(((u[:, None] - u) / REACH[0]) ** 2) / 2)
    kv = np.exp(-(((v[:, None] - v) / REACH[1]) ** 2) / 2)
    size = len(SHAPES)
    out = np.zeros((_SIZE,) * 2)
    out[range(size), range(size)] = [sd**2 for sd in prior.shapes]
    out[size : size + _N, size : size + _N] = prior.local**2 * np.kron(ku, kv)
    out[range(size + _N, len(out)), range(size + _N, len(out))] = [sd**2 for sd in prior.taper]
    return out


def _row(s: Seen) -> Floats:
    """What a reading sees, of the state."""
    local = np.zeros(NODES)
    for w, u, v in s.points:
        local += w * np.outer(between(NODES[0], u), between(NODES[1], v))
    return np.concatenate([s.shapes, local.ravel(), s.taper])


def _along(i: int, u: Floats) -> Floats:
    out: Floats = SHAPES[i][0](u)  # type: ignore[arg-type, assignment]  # the shapes take arrays as they take numbers
    return out


@lru_cache(maxsize=64)
def _read(count: int, places: int) -> Floats:
    """Values at evenly spaced places from those at so many nodes, as a matrix."""
    return np.array([between(count, float(one)) for one in np.linspace(-1.0, 1.0, places)])


@lru_cache(maxsize=4)
def _heights(grid: Grid) -> Floats:
    """Heights of the face on a grid, of the state."""
    u, v = (one.ravel() for one in np.meshgrid(grid.u(), grid.v(), indexing="ij"))
    shapes = np.stack([_along(i, u) * v**power for i, (_, power) in enumerate(SHAPES)], axis=1)
    local = np.kron(_read(NODES[0], grid.rows), _read(NODES[1], grid.columns))
    return np.concatenate([shapes, local, np.zeros((len(u), 4))], axis=1)


@lru_cache(maxsize=4)
def _free(grid: Grid) -> Floats:
    """Heights of the face on a grid, of the state, once their least-squares plane is removed."""
    rows = _heights(grid)
    u, v = (one.ravel() for one in np.meshgrid(grid.u(), grid.v(), indexing="ij"))
    basis, _ = np.linalg.qr(np.stack([np.ones_like(u), u, v], axis=1))
    out: Floats = rows - basis @ (basis.T @ rows)
    return out
