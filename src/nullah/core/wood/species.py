"""Species: shrinkage and how easily they work.

Shrinkage from green to oven-dry in percent: Wood Handbook, FPL-GTR-282, table 4-3, from memory. Ease and the dovetail
slope that goes with it: common practice, no source. To add a species, add a line to ``_TABLE``.
"""

from __future__ import annotations

from typing import Literal

from nullah.core.frozen import frozen

Ease = Literal["soft", "middling", "hard"]


@frozen
class Species:
    """Total shrinkage, radial and tangential, in percent, and ease of working; whether it is a softwood, and whether its dust is known
    to make people react (common practice, from memory)."""

    name: str
    radial: float
    tangential: float
    ease: Ease
    softwood: bool = False
    sensitises: bool = False

    @property
    def slope(self) -> float:
        """The run of a dovetail for a rise of one: 6 in soft wood to 8 in hard (common practice, no source)."""
        return {"soft": 6.0, "middling": 7.0, "hard": 8.0}[self.ease]


_TABLE = (
    Species("white ash", 4.9, 7.8, "hard"),
    Species("American elm", 4.2, 9.5, "middling", sensitises=True),
    Species("western larch", 4.5, 9.1, "middling", softwood=True, sensitises=True),
    Species("American beech", 5.5, 11.9, "hard"),
    Species("black cherry", 3.7, 7.1, "middling"),
    Species("black walnut", 5.5, 7.8, "middling"),
    Species("sugar maple", 4.8, 9.9, "hard"),
    Species("northern red oak", 4.0, 8.6, "hard"),
    Species("white oak", 5.6, 10.5, "hard"),
    Species("yellow-poplar", 4.6, 8.2, "soft"),
    Species("eastern white pine", 2.1, 6.1, "soft", softwood=True),
    Species("white fir", 3.3, 7.0, "soft", softwood=True),
    Species("mahogany", 3.0, 4.1, "middling"),
)
ALL: dict[str, Species] = {s.name: s for s in _TABLE}


class UnknownSpecies(ValueError):
    """A species that is not in the table."""


def species(name: str) -> Species:
    """The species of that name, letter case aside.

    Raises:
        UnknownSpecies: it is not in the table; the message lists those that are.
    """
    found = ALL.get(name) or next((s for s in _TABLE if s.name.lower() == name.strip().lower()), None)
    if found is None:
        raise UnknownSpecies(f'"{name[:40]}" is not a species Nullah knows; it knows {", ".join(sorted(ALL))}.')
    return found
