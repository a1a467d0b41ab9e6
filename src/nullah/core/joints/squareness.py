"""Squareness of a glued frame, by its diagonals."""

from __future__ import annotations

import math

from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked

SLACK, SLACK_SHARE = (
    2.0,
    0.01,
)  # mm, and of the diagonal, by which sides and diagonals may disagree (common practice, no source)
EQUAL = 0.5  # mm: diagonals this near are square (common practice)


class NoSuchFrame(ValueError):
    """Sides and diagonals that no four-sided frame can have."""


@frozen
class Squareness:
    """A frame by its diagonals: the corner that diagonal 1 starts from, in degrees, and how far to push the longer one.

    ``push`` is how much shorter the longer diagonal is to get, mm; ``longer`` is 1, 2, or 0 when they are equal.
    """

    corner: float
    push: float
    longer: int

    @property
    def square(self) -> bool:
        """Whether the diagonals agree within 0.5 mm."""
        return 2 * self.push <= EQUAL + 1e-9


def by_diagonals(a: float, b: float, first: float, second: float) -> Squareness:
    """Squareness of a frame with opposite sides equal: ``d1^2 - d2^2 = 4 a b cos(c)`` (geometry).

    Args:
        a, b: sides, mm; first, second: diagonals, mm; the corner is that from which the first starts.

    Raises:
        NoSuchFrame: a size is not more than zero, the two diagonals differ by more than any frame allows, or sides and diagonals
            disagree (``d1^2 + d2^2 = 2 (a^2 + b^2)``) by more than sides as planned and a rule held askew explain.
    """
    if min(a, b, first, second) <= 0:
        raise NoSuchFrame("Sides and diagonals are more than zero.")
    cosine = (first**2 - second**2) / (4 * a * b)
    mean = math.sqrt((first**2 + second**2) / 2)
    corner = math.hypot(a, b)
    if abs(cosine) >= 1 or abs(mean - corner) > SLACK + SLACK_SHARE * corner:
        raise NoSuchFrame(
            f"No frame of {marked(a)} by {marked(b)} has diagonals of {marked(first)} and {marked(second)}; measure them again."
        )
    longer = 0 if first == second else 1 if first > second else 2
    return Squareness(math.degrees(math.acos(cosine)), max(first, second) - mean, longer)
