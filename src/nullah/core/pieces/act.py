"""One step of putting a piece together."""

from __future__ import annotations

from nullah.core.frozen import frozen


@frozen
class Act:
    """One step of putting together: its kind (fit, prepare, glue, dry, square, peg, nail, screw, wedge, slide), its words, and what
    figure it turns on."""

    kind: str
    words: str
    figure: str = ""
