"""One step of putting a piece together."""

from __future__ import annotations

from nullah.core.values.frozen import frozen


@frozen
class Act:
    """One step of putting together: its kind (fit, prepare, glue, dry, square, peg, nail, screw, wedge, slide), its words, and what
    figure it turns on. ``of``: what of the piece it is done to, by which it is told from others of its kind; it lasts whatever else is
    done before it."""

    kind: str
    words: str
    figure: str = ""
    of: str = ""

    @property
    def deed(self) -> str:
        """What it is, in a word or two that last."""
        return f"{self.kind} {self.of}".strip()
