"""A round of planing worked out in a process of its own: a plane's strokes are compiled, and loading that would hold the window up."""

from __future__ import annotations

import os

from nullah.core.surface.passes import PLANES, Pass, take
from nullah.core.surface.rounds import plan_round
from nullah.core.surface.zones import Workpiece, Zone
from nullah.core.values.arrays import np
from nullah.processes.messages import told


def main() -> int:
    """Read one board (``Wanted``), plan its next round, tell of it pass by pass."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    return told(plan_round, _loaded)


def _loaded() -> None:
    """The compiled strokes, so that whoever waits for a plan does not wait for them."""
    small = Workpiece(80.0, 80.0, 9, 9)
    take(small, np.zeros((9, 9)), Pass(PLANES[0], (Zone(small.all_over(), 1, 0.0),), 0.0))
