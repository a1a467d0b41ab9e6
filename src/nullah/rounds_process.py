"""A round of planing worked out in a process of its own: a plane's strokes are compiled, and loading that would hold the window up."""

from __future__ import annotations

import os

from nullah.core.arrays import np
from nullah.core.surface.passes import PLANES
from nullah.core.surface.rounds import plan_round
from nullah.planning import told


def main() -> int:
    """Read one board (``Wanted``), plan its next round, tell of it pass by pass."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    return told(plan_round, _loaded)


def _loaded() -> None:
    """The compiled strokes, so that whoever waits for a plan does not wait for them."""
    from nullah.core.surface.compiled.strokes import strokes

    heights, every, touched = np.zeros((9, 9)), np.ones((9, 9), np.uint8), np.zeros((9, 9), np.int64)
    strokes(heights, every, touched, 10.0, 10.0, np.array([[0.0, 40.0, 80.0, 40.0]]), PLANES[0].row())
