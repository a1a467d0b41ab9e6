"""Heights over a board: bow, cup and twist, a plane, and what is local, kept at nodes spread evenly over it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import cos, pi
from operator import add, mul

from nullah.core.values.frozen import frozen

Rows = tuple[tuple[float, ...], ...]  # along rows of across values, mm

COLUMNS = 9  # nodes across
_APART, _FEWEST, _MOST = 60.0, 13, 41  # mm between nodes along, and how many there are
_OLD = (12, 8)  # nodes of older files, Chebyshev points of the second kind


def node_rows(length: float) -> int:
    """How many nodes lie along a board so long, mm."""
    return min(max(round(length / _APART) + 1, _FEWEST), _MOST)


def evenly(count: int) -> tuple[float, ...]:
    """So many places from -1 to 1."""
    return tuple([2 * i / (count - 1) - 1 for i in range(count)])


@frozen
class Heights:
    """``shapes`` are the bow (of u u), the cup (v v) and the twist (u v), ``plane`` is ``a + b u + c v``, ``local`` what is added at
    the nodes, straight between them (none: ``()``); u and v from -1 to 1 along and across, mm."""

    shapes: tuple[float, float, float] = (0.0, 0.0, 0.0)
    plane: tuple[float, float, float] = (0.0, 0.0, 0.0)
    local: Rows = ()

    def rows(self, us: Sequence[float], vs: Sequence[float]) -> Rows:
        """At every u and v, rows along."""
        (a, b, c), (bow, cup, twist) = self.plane, self.shapes
        beside = [_between(len(self.local[0]), v) for v in vs] if self.local else []
        out = []
        for u in us:
            level, lean = a + u * (b + bow * u), c + twist * u
            row = [level + v * (lean + cup * v) for v in vs]
            if beside:
                i, far = _between(len(self.local), u)
                near, beyond = self.local[i], self.local[i + 1]
                here = [p + far * (q - p) for p, q in zip(near, beyond, strict=True)]
                row = [z + here[j] + share * (here[j + 1] - here[j]) for z, (j, share) in zip(row, beside, strict=True)]
            out.append(tuple(row))
        return tuple(out)

    def at(self, u: float, v: float) -> float:
        """At one place."""
        return self.rows((u,), (v,))[0][0]

    def turned(self) -> Heights:
        """Upside down."""
        bow, cup, twist = self.shapes
        a, b, c = self.plane
        local = tuple([tuple([-z for z in row]) for row in self.local])
        return Heights((-bow, -cup, -twist), (-a, -b, -c), local)

    def plus(self, other: Heights) -> Heights:
        """Both together; nodes of one board lie alike, or are read between."""
        local = self.local or other.local
        if self.local and other.local:
            mine, theirs = self.local, other.local
            if len(mine) != len(theirs):
                theirs = Heights(local=theirs).rows(evenly(len(mine)), evenly(len(mine[0])))
            local = tuple([tuple(map(add, *rows)) for rows in zip(mine, theirs, strict=True)])
        return Heights(_added(self.shapes, other.shapes), _added(self.plane, other.plane), local)

    @property
    def level(self) -> bool:
        """Whether it is nowhere read as anything but one plane."""
        return not (any(self.shapes) or any(self.plane[1:]) or self.local)


def _added(a: tuple[float, float, float], b: tuple[float, float, float]) -> tuple[float, float, float]:
    return a[0] + b[0], a[1] + b[1], a[2] + b[2]


@lru_cache(maxsize=4096)
def _between(count: int, at: float) -> tuple[int, float]:
    """Which of so many nodes lies before a place, and the share of the way to the next."""
    place = min(max((at + 1) / 2 * (count - 1), 0.0), count - 1.0)
    i = min(int(place), count - 2)
    return i, place - i


def kept(heights: Sequence[float]) -> Heights:
    """Heights as a document keeps them: at the nodes, rows along."""
    flat = tuple(map(float, heights))
    if len(flat) == _OLD[0] * _OLD[1]:
        return Heights(local=_from_chebyshev(flat))
    return Heights(local=tuple([flat[i : i + COLUMNS] for i in range(0, len(flat), COLUMNS)]))


def _from_chebyshev(flat: tuple[float, ...]) -> Rows:
    rows = [flat[i : i + _OLD[1]] for i in range(0, len(flat), _OLD[1])]
    out = []
    for u in evenly(2 * _FEWEST - 1):
        here = [sum(map(mul, _barycentric(_OLD[0], u), column)) for column in zip(*rows, strict=True)]
        out.append(tuple([sum(map(mul, _barycentric(_OLD[1], v), here)) for v in evenly(COLUMNS)]))
    return tuple(out)


@lru_cache(maxsize=256)
def _barycentric(count: int, at: float) -> tuple[float, ...]:
    """Weights with which values at Chebyshev points of the second kind tell that at ``at`` (Berrut and Trefethen 2004)."""
    nodes = [-cos(pi * i / (count - 1)) for i in range(count)]
    near = [i for i, one in enumerate(nodes) if abs(one - at) < 1e-12]
    if near:
        return tuple([float(i == near[0]) for i in range(count)])
    parts = [(-1) ** i * (0.5 if i in (0, count - 1) else 1.0) / (at - one) for i, one in enumerate(nodes)]
    return tuple([part / sum(parts) for part in parts])
