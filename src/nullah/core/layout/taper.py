"""Boards that taper or are wany: how wide they are where, and how much of a rectangle is wood. All mm.

``widths`` are those of the board at evenly spaced places from its left end to its right, with straight edges between them;
without any the board is as wide all along.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from nullah.core.frozen import frozen
from nullah.core.layout.model import EPS, LEAST_WIDTH


@frozen
class Outline:
    """A board's outline: its lower edge lies along y = 0."""

    length: float
    width: float
    widths: tuple[float, ...] = ()

    def width_at(self, x: float) -> float:
        """How wide the board is at ``x`` from its left end; beyond an end as wide as there."""
        if not self.widths:
            return self.width
        stretch = self.length / (len(self.widths) - 1)
        i = min(max(int(x / stretch), 0), len(self.widths) - 2)
        share = min(max(x / stretch - i, 0.0), 1.0)
        return self.widths[i] + (self.widths[i + 1] - self.widths[i]) * share

    def bends(self, x0: float, x1: float) -> list[float]:
        """Where the upper edge bends between two places, both counted."""
        if not self.widths:
            return [x0, x1]
        stretch = self.length / (len(self.widths) - 1)
        return [x0, *(k * stretch for k in range(len(self.widths)) if x0 + EPS < k * stretch < x1 - EPS), x1]

    def _segments(self, x0: float, x1: float) -> Iterator[tuple[float, float, float, float]]:
        """(x, width, x, width) of each straight piece of the upper edge between two places."""
        for a, b in pairwise(self.bends(x0, x1)):
            yield a, self.width_at(a + EPS), b, self.width_at(b - EPS)

    def stretches(self, x0: float, x1: float, y: float) -> list[tuple[float, float]]:
        """Where between ``x0`` and ``x1`` there is wood at the height ``y`` (the upper edge counts), from the left."""
        found: list[tuple[float, float]] = []
        for a, wide_a, b, wide_b in self._segments(x0, x1):
            low, high = wide_a - y, wide_b - y
            if low < -EPS and high < -EPS:
                continue
            start = a if low >= -EPS else a + (b - a) * -low / (high - low)
            end = b if high >= -EPS else a + (b - a) * low / (low - high)
            if end - start <= EPS:
                continue
            if found and start - found[-1][1] < 1e-3:
                found[-1] = (found[-1][0], end)
            else:
                found.append((start, end))
        return found

    def longest(self, x0: float, x1: float, y: float) -> tuple[float, float]:
        """The longest stretch between ``x0`` and ``x1`` that has wood at the height ``y``; of no length where there is none."""
        return max(self.stretches(x0, x1, y), key=lambda s: s[1] - s[0], default=(x0, x0))

    def widest(self, x0: float, x1: float) -> float:
        """The greatest width between two places."""
        return max(max(wide_a, wide_b) for _, wide_a, _, wide_b in self._segments(x0, x1))

    def of_rectangle(self, x: float, y: float, length: float, width: float) -> tuple[float, float, float, float] | None:
        """What of a rectangle is a piece of wood: as (x, y, length, width) of the box round it; None where no more than a sliver
        is."""
        start, end = self.longest(x, x + length, y + min(LEAST_WIDTH, width))
        if end - start <= LEAST_WIDTH:
            return None
        return start, y, end - start, min(width, self.widest(start, end) - y)

    def takes(self, box: Sequence[float], length: float, width: float) -> bool:
        """Whether a part of that length and width can be cut from the wood in the box (x, y, length, width)."""
        x, y, long, wide = box
        if width > wide + EPS:
            return False
        start, end = self.longest(x, x + long, y + width)
        return end - start >= length - EPS
