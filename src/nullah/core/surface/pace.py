"""How long planing takes at the bench: a practised pace (common practice, no source)."""

from __future__ import annotations

READING, PLANE = 0.4, 1.0  # minutes: of a reading, of changing the plane
_STROKE, _PACE = 1.0 / 60, 1 / (500.0 * 60)  # minutes: of turning back after a stroke, of a mm of it


def minutes_of(strokes: float, run: float) -> float:
    """So many strokes, together ``run`` mm long."""
    return strokes * _STROKE + run * _PACE
