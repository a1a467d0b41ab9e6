"""A round of planing worked out in a process of its own: a plane's strokes are compiled, and loading that would hold the window up."""

from __future__ import annotations

import os

from nullah.core.surface.rounds import plan_round
from nullah.planning import told


def main() -> int:
    """Read one board (``Wanted``), plan its next round, tell of it pass by pass."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    return told(plan_round)
