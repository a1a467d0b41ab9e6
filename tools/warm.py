"""Compile the inner loops of planner and plane into Numba's cache anew, so that the first search or plan does not wait for them."""

from dataclasses import replace
from pathlib import Path

import numpy as np

import nullah.core
from nullah.core.layout.model import Blank, Options, Stock
from nullah.core.layout.planner import Planner
from nullah.core.surface.passes import PLANES, TURNED, Finish, Workpiece, planned

for stale in Path(nullah.core.__file__).parent.rglob("__pycache__/*.nb[ic]"):
    stale.unlink()  # Numba does not see that a function called from another file has changed

WOOD = "yellow-poplar"
board = Stock("b", "b", WOOD, 1000.0, 200.0, 0.0, 1000.0, 0.0, 200.0, 25.0, (), lambda *_: 25.0)
for many in (3, 30):  # all finds a place, and not all
    blanks = [Blank(str(i), 300.0, 90.0 + i % 3, 20.0, WOOD, (300.0, 90.0)) for i in range(many)]
    planner = Planner([board, replace(board, id="c")], blanks, Options())
    planner.looks = (1000, 0)  # in vain, so that exchanges begin and fillings are put together
    for share in (0.0, 0.5, 0.9, 1.0):
        planner.advance(1500, share)

flat = np.zeros((25, 9))
list(planned(Workpiece(500.0, 100.0, 25, 9), flat + 0.3, flat, PLANES, TURNED, Finish(0.1, 1)))
