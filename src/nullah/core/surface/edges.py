"""An edge that is out of square: which side of it the iron takes, and how often."""

from __future__ import annotations

import math
from collections.abc import Sequence

from nullah.core.surface.reading_kinds import ReadingLike
from nullah.core.values.frozen import frozen

KIND = "out of square"
SQUARE = 0.05  # mm: no light is seen under the square (common practice: edges square with no light)


@frozen
class EdgeWork:
    """What an edge takes until it is square: at ``at`` it is worst, its ``high`` side (face or back) standing ``out`` mm further;
    ``shavings`` of ``shaving`` mm with the iron over that side alone, then one over all of the edge."""

    edge: str
    at: float
    high: str
    out: float
    shavings: int
    shaving: float


def edge_work(readings: Sequence[ReadingLike], shaving: float) -> tuple[EdgeWork, ...]:
    """Of edges read out of square, lower before upper; the latest reading at a place stands.

    Args:
        readings: of one board or part, of any kind.
        shaving: of the plane, mm.
    """
    out = []
    for number, name in ((1.0, "lower"), (2.0, "upper")):
        latest = {round(r.at): r for r in readings if r.kind == KIND and r.to == number}
        worst = max(latest.values(), key=lambda r: abs(r.value), default=None)
        if worst is not None and abs(worst.value) > SQUARE:
            high = "back" if worst.value > 0 else "face"
            far = abs(worst.value)
            out.append(EdgeWork(name, worst.at, high, far, math.ceil(far / shaving - 1e-9), shaving))
    return tuple(out)
