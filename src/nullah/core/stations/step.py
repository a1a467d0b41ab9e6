"""A step at the bench."""

from __future__ import annotations

from nullah.core.values.frozen import frozen
from nullah.core.values.measure import show_mm


def told_figure(mm: float) -> str:
    """A length as a step's figure, in mm and rounded as everywhere."""
    return show_mm(mm).text


@frozen
class Step:
    """One step: what to do, the one number it turns on, what it waits for, what can hurt.

    ``cuts`` names the part that is cut to its final size once the step is done, so that it is marked; ``saws`` the board that is sawn
    by it; ``piece`` whose step it is, and ``deed`` what is then done, with which its id begins. ``doubts``: what does not hold that the
    step needs, a sentence each.
    """

    id: str
    station: str
    title: str
    words: str
    figure: str = ""
    mm: float | None = None
    waits: tuple[str, ...] = ()
    minutes: float = 0.0
    cautions: tuple[str, ...] = ()
    parts: tuple[str, ...] = ()
    cuts: str = ""
    joint: str = ""
    saws: str = ""
    piece: str = ""
    deed: str = ""
    doubts: tuple[str, ...] = ()
    done: bool = False
    took: float = 0.0
