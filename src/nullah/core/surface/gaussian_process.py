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
from typing import Protocol

from nullah.core.frozen import frozen
from nullah.core.surface.linear import inverse

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
ERRORS = {"winding sticks": 0.1, "cup": 0.1, "bow": 0.1, "corner": 0.1, "thickness": 0.05}  # one standard deviation, mm
LEFT = 0.05  # mm, one standard deviation of a face that is called true: calipers bear on it
NODES = (12, 8)  # along and across: what is local is kept at so many Chebyshev points, and read between them
LOOK_AGAIN = 2.8  # standard deviations between a reading and what the others say: it is one to look at again

Point = tuple[float, float, float]  # weight, u, v


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
    @property
    def to(self) -> float: ...


@frozen
class Taken:
    """A reading: ``kind`` one of ``ERRORS``, where and how it was taken and what it says, all mm.

    ``winding sticks``: at ``at`` against a stick at ``to``, both ``stick`` long (0: as long as the board is wide). ``cup`` at ``at``.
    ``bow`` at ``across`` from ``at`` to ``to`` (0: the other end). ``corner``: ``to`` = 1 from the lower left corner, 2 from the upper
    left. ``thickness`` at ``at`` and ``across``.
    """

    kind: str
    at: float = 0.0
    across: float = 0.0
    value: float = 0.0
    stick: float = 0.0
    to: float = 0.0


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
    error = ERRORS[r.kind]
    if r.kind == "thickness":
        u, v = board.place(r.at, r.across)
        points = ((1.0, u, v),)
        if board.true:
            return Seen(_shapes(points), points, (1.0, u, v, 0.0), hypot(error, LEFT))
        return Seen(_NO_SHAPES, points, (1.0, u, v, v * v), error)
    touched = _touched(board, r)
    return Seen(_shapes(touched), touched, _NO_TAPER, error)


_NO_SHAPES = (0.0,) * len(SHAPES)
_NO_TAPER = (0.0, 0.0, 0.0, 0.0)


def _touched(board: Board, r: ReadingLike) -> tuple[Point, ...]:
    if r.kind == "winding sticks":
        share = r.stick / board.width if r.stick > 0 else 1.0
        here, there = 2 * r.at / board.length - 1, 2 * r.to / board.length - 1
        return (share, here, 1.0), (-share, here, -1.0), (-share, there, 1.0), (share, there, -1.0)
    if r.kind == "cup":
        u = 2 * r.at / board.length - 1
        return (0.5, u, -1.0), (0.5, u, 1.0), (-1.0, u, 0.0)
    if r.kind == "bow":
        v = 2 * r.across / board.width - 1
        start, end = 2 * r.at / board.length - 1, 2 * (r.to or board.length) / board.length - 1
        return (0.5, start, v), (0.5, end, v), (-1.0, (start + end) / 2, v)
    lower = -1.0 if r.to == 1 else 1.0
    return (0.5, -1.0, lower), (0.5, 1.0, -lower), (-1.0, 0.0, 0.0)


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

    Args:
        thickness: as it was typed, mm, not exact.
        readings: of the face, and calipered.
    """
    prior, said = board.prior, [seen(board, r) for r in readings]
    values = [r.value - s.taper[0] * thickness for r, s in zip(readings, said, strict=True)]
    before = [[_covariance(prior, a, b) for b in said[: i + 1]] for i, a in enumerate(said)]
    strays: set[int] = set()
    for _ in range(2 * len(said) + 1):
        matrix = [[before[max(i, j)][min(i, j)] for j in range(len(said))] for i in range(len(said))]
        for i, s in enumerate(said):
            matrix[i][i] += (_DISTRUSTED if i in strays else s.error) ** 2
        inverted = inverse(matrix)
        weights = [sum(map(mul, row, values)) for row in inverted]
        apart, against = _against(said, strays, inverted, weights)
        trusted = [i for i in range(len(said)) if i not in strays]
        worst = max(trusted, key=lambda i: abs(against[i]), default=None)
        if worst is not None and abs(against[worst]) >= LOOK_AGAIN and 4 * (len(strays) + 1) <= len(said) + 1:
            strays.add(worst)
            continue
        break
    shapes = tuple(
        sd**2 * sum(w * s.shapes[i] for w, s in zip(weights, said, strict=True)) for i, sd in enumerate(prior.shapes)
    )
    taper = tuple(
        sd**2 * sum(w * s.taper[i] for w, s in zip(weights, said, strict=True)) for i, sd in enumerate(prior.taper)
    )
    residuals = tuple(
        w * (_DISTRUSTED if i in strays else s.error) ** 2 for i, (w, s) in enumerate(zip(weights, said, strict=True))
    )
    points = [(w * x * prior.local**2, u, v) for w, s in zip(weights, said, strict=True) for x, u, v in s.points]
    t, b, c, d = taper
    return Fit(
        board,
        shapes,
        _at_nodes(points),
        (thickness + t, b, c, d),
        residuals,
        tuple(apart),
        tuple(against),
        tuple(sorted(strays)),
    )


def _against(
    said: Sequence[Seen], strays: set[int], inverted: Sequence[Sequence[float]], weights: Sequence[float]
) -> tuple[list[float], list[float]]:
    """By how much each reading lies off what all the others say, in mm and in standard deviations (Rasmussen and Williams, 5.12)."""
    apart, against = [], []
    for i, (s, w) in enumerate(zip(said, weights, strict=True)):
        variance = 1 / inverted[i][i]
        others = variance - (_DISTRUSTED if i in strays else s.error) ** 2
        apart.append(w * variance)
        against.append(w * variance / sqrt(max(others, 0.0) + s.error**2))
    return apart, against


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
