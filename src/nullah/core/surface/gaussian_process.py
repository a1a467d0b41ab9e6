"""What readings tell of a board, as a Gaussian process: the likeliest surface, how sure it is, and which reading disagrees.

A face is ``z(u, v) = sum of k * shape(u, v) + local(u, v)``, u and v from -1 to 1 along and across: the shapes are those boards
take as they dry and are sawn, what is local is a Gaussian process of a smooth kernel (kriging; Rasmussen and Williams 2006,
chapters 2 and 5, from memory). How large each is in a board beforehand is common practice, no source. Every reading is linear in
these, since what is touched is known, so the posterior is exact. The underside of rough stock follows the shapes of the face
(the board is warped as a whole) at a thickness that tapers and is hollow a little; that of a board whose other face is true is a plane.

What opening a project asks for is worked in plain lists; how sure a surface is, in arrays, when it is asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import lru_cache
from math import cos, exp, hypot, pi, sqrt
from operator import mul

from nullah.core.frozen import frozen, replace
from nullah.core.surface.linear import inverse
from nullah.core.surface.sights import SIGHTS, Point, ReadingLike

# Each shape is something of u times a power of v: bow, cup, twist; then bow that leans, cup that grows, twist that starts part-way.
SHAPES: tuple[tuple[Callable[[float], float], int], ...] = (
    (lambda u: u * u, 0),
    (lambda u: 1.0, 2),
    (lambda u: u, 1),
    (lambda u: u**3 - u, 0),
    (lambda u: u, 2),
    (lambda u: u * u - 1, 1),
)
REACH = (0.50, 0.82)  # over which bumps and hollows go together, in u and v
CALIPER = "thickness"  # the kind that sees both faces
LEFT = 0.05  # mm, one standard deviation of a face that is called true: calipers bear on it
NODES = (12, 8)  # along and across: what is local is kept at so many Chebyshev points, and read between them
LOOK_AGAIN = 2.8  # standard deviations between a reading and what the others say: it is one to look at again


@frozen
class Seen:
    """What a reading sees: weights at places of the face (its shapes and what is local), and how it sees the thickness."""

    shapes: tuple[float, ...]
    points: tuple[Point, ...]
    taper: tuple[float, float, float, float]
    error: float


@frozen
class Prior:
    """How large each of ``SHAPES`` is beforehand, bumps and hollows, and of the thickness how far it is from what was typed, its
    slopes along and across and its hollow: one standard deviation each, mm."""

    shapes: tuple[float, ...]
    local: float
    taper: tuple[float, float, float, float]


ROUGH = Prior((2.0, 1.5, 1.5, 0.3, 0.3, 0.3), 0.15, (0.25, 0.25, 0.18, 0.15))  # a board as it comes
WORKED = Prior(
    (0.2, 0.2, 0.2, 0.1, 0.1, 0.1), 0.1, (0.2, 0.1, 0.1, 0.1)
)  # off what the plan foresaw, once it is planed


@frozen
class Board:
    """A board to read: length and width, mm; ``true`` where the face that is not read is flat already."""

    length: float
    width: float
    true: bool = False
    prior: Prior = ROUGH

    def place(self, x: float, y: float) -> tuple[float, float]:
        """u and v of a place in mm."""
        return 2 * x / self.length - 1, 2 * y / self.width - 1


def seen(board: Board, r: ReadingLike) -> Seen:
    """What a reading sees of a board.

    Raises:
        KeyError: its kind is none.
    """
    sight = SIGHTS[r.kind]
    points = sight.points(r, board.length, board.width)
    if r.kind != CALIPER:
        return Seen(_shapes(points), points, _NO_TAPER, sight.error)
    _, u, v = points[0]
    if board.true:
        return Seen(_shapes(points), points, (1.0, u, v, 0.0), hypot(sight.error, LEFT))
    return Seen(_NO_SHAPES, points, (1.0, u, v, v * v), sight.error)


_NO_SHAPES = (0.0,) * len(SHAPES)
_NO_TAPER = (0.0, 0.0, 0.0, 0.0)


def _shapes(points: Sequence[Point]) -> tuple[float, ...]:
    return tuple(sum(w * along(u) * v**power for w, u, v in points) for along, power in SHAPES)


def _kernel(u: float, v: float, other_u: float, other_v: float) -> float:
    return exp(-(((u - other_u) / REACH[0]) ** 2 + ((v - other_v) / REACH[1]) ** 2) / 2)


def _covariance(prior: Prior, a: Seen, b: Seen) -> float:
    """Of what two readings say, before either is taken."""
    known = sum(p * q * sd**2 for p, q, sd in zip(a.shapes, b.shapes, prior.shapes, strict=True))
    known += sum(p * q * sd**2 for p, q, sd in zip(a.taper, b.taper, prior.taper, strict=True))
    return known + prior.local**2 * sum(w * x * _kernel(u, v, p, q) for w, u, v in a.points for x, p, q in b.points)


@frozen
class Fit:
    """The likeliest board: coefficients of ``SHAPES``, what is local at the ``NODES`` (rows along), and the thickness
    ``T + b u + c v + d v^2``.

    By reading: how far it lies from the fit (``residuals``) and from what all the others say (``apart``), both mm, and the latter in
    standard deviations (``against``).
    """

    board: Board
    shapes: tuple[float, ...]
    local: tuple[tuple[float, ...], ...]
    taper: tuple[float, float, float, float]
    residuals: tuple[float, ...]
    apart: tuple[float, ...]
    against: tuple[float, ...]
    strays: tuple[int, ...]  # which readings disagree, from 0; they weigh little in the fit


def fit(board: Board, thickness: float, readings: Sequence[ReadingLike]) -> Fit:
    """The likeliest board.

    Where two readings or more disagree that would not in a board twice or four times as warped, it is taken to be that.

    Args:
        thickness: as it was typed, mm, not exact.
        readings: of the face, and calipered.
    """
    best = _fit(board, thickness, readings)
    for times in _MORE_WARPED:
        if len(best.strays) < 2:
            break
        other = _fit(replace(board, prior=_more_warped(board.prior, times)), thickness, readings)
        if len(other.strays) <= len(best.strays) - 2:
            best = replace(other, board=board)
    return best


_MORE_WARPED = (2.0, 4.0)
_SPEAK = 1.0  # mm: others that leave so much open, one standard deviation, do not gainsay a reading


def _more_warped(prior: Prior, times: float) -> Prior:
    return replace(prior, shapes=tuple([times * sd for sd in prior.shapes]), local=prior.local * sqrt(times))


def _fit(board: Board, thickness: float, readings: Sequence[ReadingLike]) -> Fit:
    prior, said = board.prior, [seen(board, r) for r in readings]
    values = [r.value - s.taper[0] * thickness for r, s in zip(readings, said, strict=True)]
    before = [[_covariance(prior, a, b) for b in said[: i + 1]] for i, a in enumerate(said)]
    strays: set[int] = set()
    while True:
        matrix = [[before[max(i, j)][min(i, j)] for j in range(len(said))] for i in range(len(said))]
        for i, s in enumerate(said):
            matrix[i][i] += (_DISTRUSTED if i in strays else s.error) ** 2
        inverted = inverse(matrix)
        weights = [sum(map(mul, row, values)) for row in inverted]
        told = _against(said, strays, inverted, weights)
        trusted = [i for i in range(len(said)) if i not in strays and told[i].open < _SPEAK]
        worst = max(trusted, key=lambda i: abs(told[i].deviations), default=None)
        if worst is None or abs(told[worst].deviations) < LOOK_AGAIN or 4 * (len(strays) + 1) > len(said) + 1:
            break
        strays.add(worst)

    def summed(sights: Sequence[Sequence[float]], sizes: Sequence[float]) -> tuple[float, ...]:
        return tuple(
            [sd**2 * sum(w * one[i] for w, one in zip(weights, sights, strict=True)) for i, sd in enumerate(sizes)]
        )

    t, b, c, d = summed([s.taper for s in said], prior.taper)
    points = [(w * x * prior.local**2, u, v) for w, s in zip(weights, said, strict=True) for x, u, v in s.points]
    return Fit(
        board,
        summed([s.shapes for s in said], prior.shapes),
        _at_nodes(points),
        (thickness + t, b, c, d),
        tuple([w * (_DISTRUSTED if i in strays else said[i].error) ** 2 for i, w in enumerate(weights)]),
        tuple([one.apart for one in told]),
        tuple([one.deviations for one in told]),
        tuple(sorted(strays)),
    )


@frozen
class _Told:
    """By how much a reading lies off what all the others say, mm and in standard deviations; and how much they leave ``open``, mm."""

    apart: float
    deviations: float
    open: float


def _against(
    said: Sequence[Seen], strays: set[int], inverted: Sequence[Sequence[float]], weights: Sequence[float]
) -> list[_Told]:
    """Each reading against all the others (Rasmussen and Williams, eq. 5.12)."""
    out = []
    for i, (s, w) in enumerate(zip(said, weights, strict=True)):
        variance = 1 / inverted[i][i]
        others = max(variance - (_DISTRUSTED if i in strays else s.error) ** 2, 0.0)
        out.append(_Told(w * variance, w * variance / sqrt(others + s.error**2), sqrt(others)))
    return out


_DISTRUSTED = 20.0  # mm: the error of a reading that disagrees


def _at_nodes(points: Sequence[Point]) -> tuple[tuple[float, ...], ...]:
    """Sum of kernels about weighted places, at the nodes."""
    us, vs = chebyshev(NODES[0]), chebyshev(NODES[1])
    out = [[0.0] * len(vs) for _ in us]
    for w, u, v in points:
        across = [w * exp(-(((v - one) / REACH[1]) ** 2) / 2) for one in vs]
        for row, one in zip(out, us, strict=True):
            share = exp(-(((u - one) / REACH[0]) ** 2) / 2)
            for j, part in enumerate(across):
                row[j] += share * part
    return tuple(map(tuple, out))


@lru_cache
def chebyshev(count: int) -> tuple[float, ...]:
    """So many Chebyshev points of the second kind, from -1 to 1."""
    return tuple(-cos(pi * i / (count - 1)) for i in range(count))


@lru_cache(maxsize=4096)
def between(count: int, at: float) -> tuple[float, ...]:
    """Weights with which values at ``chebyshev(count)`` tell the value at ``at`` (barycentric; Berrut and Trefethen 2004)."""
    nodes = chebyshev(count)
    if at in nodes:
        return tuple(float(one == at) for one in nodes)
    parts = [(-1) ** i * (0.5 if i in (0, count - 1) else 1.0) / (at - one) for i, one in enumerate(nodes)]
    whole = sum(parts)
    return tuple(part / whole for part in parts)
