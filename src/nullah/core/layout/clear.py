"""Clear wood: the largest rectangles of a board that touch none of its faults."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import pairwise

from nullah.core.layout.model import Stock, forgiven

Box = tuple[float, float, float, float]  # x0, y0, x1, y1 in mm

LEAST = 5.0  # mm: a clear rectangle narrower or shorter than that serves nothing


def largest_clear(inside: Box, faults: Iterable[Box]) -> list[Box]:
    """The rectangles within ``inside`` that touch no fault and cannot be made larger, largest first.

    Every rectangle clear of faults lies in one of them. All boxes are (x0, y0, x1, y1), mm; touching sides are clear.
    """
    left, low, right, high = inside
    near = [f for f in faults if f[0] < right and f[2] > left and f[1] < high and f[3] > low]
    starts = sorted({left, *(f[2] for f in near if left < f[2] < right)})
    found: set[Box] = set()
    for x0 in starts:
        ahead = sorted((f for f in near if f[2] > x0), key=lambda f: f[0])
        found.update(_grown(x0, ahead, inside))
    whole = [_widened(b, near, inside) for b in found]
    return _largest(set(whole))


def clear_for(inside: Box, s: Stock, forgives: frozenset[str], hides: frozenset[str]) -> list[Box]:
    """The largest rectangles within ``inside`` on a board that no fault spoils for a role, and that lie on the wood."""
    faults = [d for d in s.defects if not forgiven(d, forgives, hides)]
    return largest_clear(inside, [*((d.x, d.y, d.x + d.length, d.y + d.width) for d in faults), *s.edges])


def _grown(x0: float, ahead: Sequence[Box], inside: Box) -> Iterable[Box]:
    """Clear rectangles that begin at ``x0``, each as long as its height lets it be: bands of height are split by each fault met."""
    bands = [(inside[1], inside[3])]
    met = 0
    while bands:
        while met < len(ahead) and ahead[met][0] <= x0:
            bands = _split(bands, ahead[met])
            met += 1
        if met == len(ahead):
            break
        x1 = ahead[met][0]
        for y0, y1 in bands:
            if ahead[met][1] < y1 and ahead[met][3] > y0:
                yield (x0, y0, x1, y1)
        bands = _split(bands, ahead[met])
        met += 1
    for y0, y1 in bands:
        yield (x0, y0, inside[2], y1)


def _split(bands: Sequence[tuple[float, float]], fault: Box) -> list[tuple[float, float]]:
    """Bands of height with a fault's height taken out; slivers are dropped."""
    out = []
    for y0, y1 in bands:
        if fault[1] >= y1 or fault[3] <= y0:
            out.append((y0, y1))
            continue
        out += [(p, q) for p, q in ((y0, fault[1]), (fault[3], y1)) if q - p >= LEAST]
    return out


def _widened(box: Box, faults: Sequence[Box], inside: Box) -> Box:
    """A clear rectangle stretched to the left and right as far as it stays clear at its height."""
    x0, y0, x1, y1 = box
    level = [f for f in faults if f[1] < y1 and f[3] > y0]
    return (
        max((f[2] for f in level if f[2] <= x0), default=inside[0]),
        y0,
        min((f[0] for f in level if f[0] >= x1), default=inside[2]),
        y1,
    )


def _largest(boxes: set[Box]) -> list[Box]:
    """Without those that lie in another, and without slivers, largest first."""
    by_size = sorted(boxes, key=lambda b: (-(b[2] - b[0]) * (b[3] - b[1]), b))
    kept: list[Box] = []
    for b in by_size:
        if b[2] - b[0] < LEAST or b[3] - b[1] < LEAST:
            continue
        if not any(k[0] <= b[0] and k[1] <= b[1] and k[2] >= b[2] and k[3] >= b[3] for k in kept):
            kept.append(b)
    return kept


def union_area(boxes: Sequence[Box]) -> float:
    """Area of the union of rectangles, mm2, by the strips between their sides."""
    xs = sorted({x for b in boxes for x in (b[0], b[2])})
    area = 0.0
    for x0, x1 in pairwise(xs):
        end, height = float("-inf"), 0.0
        for y0, y1 in sorted((b[1], b[3]) for b in boxes if b[0] <= x0 and b[2] >= x1):
            height += max(0.0, y1 - max(y0, end))
            end = max(end, y1)
        area += height * (x1 - x0)
    return area
