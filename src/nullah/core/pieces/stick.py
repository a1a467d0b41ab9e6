"""Story sticks as values: every mark of one line across a piece, and the gaps between them that a drawing dimensions."""

from __future__ import annotations

from nullah.core.values.frozen import frozen


@frozen
class Gap:
    """From one mark to the next, mm from the stick's start. ``edit`` names what typing another size changes, "" when it follows;
    ``clear``: something must go in there."""

    start: float
    end: float
    edit: str = ""
    clear: bool = False


@frozen
class Stick:
    """A story stick: ``marks`` of (mm from its start, what is written there, "" for the far side of a thickness).

    ``axis``: the way of the piece it runs along, "" in a frame that stands askew or apart; ``total_edit``: what typing its length
    changes; ``pulled``: the answer that is pulled at its end, "" where there is none.
    """

    rod: str
    title: str
    axis: str
    start: float
    marks: tuple[tuple[float, str], ...]
    gaps: tuple[Gap, ...]
    total_edit: str = ""
    pulled: str = ""

    @property
    def length(self) -> float:
        """From its first mark to its last, mm."""
        return self.marks[-1][0] - self.marks[0][0] if self.marks else 0.0
