"""One thing to plane, as True-up has it: a board, or a part in the rough."""

from __future__ import annotations

from nullah.core.document.project import Planed, Reading
from nullah.core.surface.edges import EdgeWork
from nullah.core.surface.planing import Planing
from nullah.core.surface.readings import Surface
from nullah.core.surface.rounds import Ways
from nullah.core.values.frozen import frozen


@frozen
class Trued:
    """One thing to plane: a board, or a part in the rough. ``planing`` says what comes off where."""

    id: str
    name: str
    board: str
    length: float
    width: float
    surface: Surface
    planing: Planing
    readings: tuple[Reading, ...]
    whole: float  # thickest flat board when the whole board is planed before sawing
    part: str = ""  # the part that comes of it, where it is no whole board
    leaves: int = 1  # into how many it is resawn once true
    measured: bool = False  # its thickness is what the wood says: it is planed already
    planed: tuple[Planed, ...] = ()  # what was done to it, in order
    minutes: float = 0.0  # to plane both faces flat and to thickness
    edges: tuple[EdgeWork, ...] = ()  # what its edges take until they are square
    secondary: bool = False  # its back is no show face: marks of planing across may stay
    hollow: bool = False  # and what is low there may stay
    ways: Ways = Ways()
