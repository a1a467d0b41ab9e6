"""The wood that parts are made of: the moisture each will be made at, how its rings stand, and what the year does to it.

One function, ``WoodOfParts.change``, says how far a width moves, for whoever asks: clearances of panels, their engagement, the
year's movement.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import field

from nullah.core.values.frozen import frozen
from nullah.core.wood.moisture import change
from nullah.core.wood.species import species

LEAST_WAIT = 7  # days: thin boards in the room they will live in (common practice, no source)
# days in which the excess falls to 1/e: at the surface for each mm of thickness, in the core for each mm2 of it in wood of ``MIDDLING``
# density, and how much more that is for each kg/m3 more (fitted to a diffusion model of three woods, 25 and 60 mm thick, ends sealed)
SURFACE, CORE, MIDDLING, DENSER = 0.0576, 0.0126, 560.0, 0.0047


@frozen
class Strip:
    """A share of a part's width that comes from one board: the moisture it is made at in percent, and its ring angle; ``still``: sheet
    goods, that do not move in their plane."""

    share: float
    moisture: float
    ring_angle: float
    still: bool = False


@frozen
class WoodOfParts:
    """The strips of each part that has a board, and of each species for parts without one; the year's ends in percent."""

    dry: float = 7.0
    wet: float = 12.0
    parts: Mapping[str, tuple[Strip, ...]] = field(default_factory=dict)
    by_species: Mapping[str, tuple[Strip, ...]] = field(default_factory=dict)

    def strips(self, part: str, wood: str) -> tuple[Strip, ...]:
        """What a part is made of: its own boards, else the boards of its species alike, else flatsawn at the year's middle."""
        middle = (Strip(1.0, (self.dry + self.wet) / 2, 0.0),)
        return self.parts.get(part) or self.by_species.get(species(wood).name, middle)

    def change(self, part: str, wood: str, width: float) -> tuple[float, float]:
        """How far a width of a part moves from how it is made to the driest and to the wettest of the year, mm.

        Raises:
            UnknownSpecies: the species is not in the table.
        """
        kind, mine = species(wood), [s for s in self.strips(part, wood) if not s.still]
        to_dry = sum(change(kind, width * s.share, s.moisture, self.dry, s.ring_angle) for s in mine)
        to_wet = sum(change(kind, width * s.share, s.moisture, self.wet, s.ring_angle) for s in mine)
        return to_dry, to_wet


class AskedWood:
    """The wood of one piece's parts by the piece's own names, as far as it is asked about: equal to other wood that would have answered
    all that was asked alike. So what was worked out from it holds when the year changes and nothing of that piece moves otherwise.

    Args:
        prefix: what the names of the parts begin with in ``wood``.
    """

    __hash__ = None  # type: ignore[assignment]  # what it is equal to changes as it is asked

    def __init__(self, wood: WoodOfParts, prefix: str = "") -> None:
        self._wood, self._prefix = wood, prefix
        self._strips: dict[tuple[str, str], tuple[Strip, ...]] = {}
        self._changes: dict[tuple[str, str, float], tuple[float, float]] = {}

    def strips(self, part: str, wood: str) -> tuple[Strip, ...]:
        """As ``WoodOfParts.strips``."""
        found = self._wood.strips(f"{self._prefix}{part}", wood)
        self._strips[part, wood] = found
        return found

    def change(self, part: str, wood: str, width: float) -> tuple[float, float]:
        """As ``WoodOfParts.change``."""
        found = self._wood.change(f"{self._prefix}{part}", wood, width)
        self._changes[part, wood, width] = found
        return found

    def __eq__(self, other: object) -> bool:
        """Whether the other would have answered alike; where it would, what is asked from now on is asked of that."""
        if not isinstance(other, AskedWood) or other._prefix != self._prefix:
            return NotImplemented
        wood, pre = other._wood, self._prefix
        alike = wood is self._wood or (
            all(wood.strips(f"{pre}{p}", w) == said for (p, w), said in self._strips.items())
            and all(wood.change(f"{pre}{p}", w, mm) == said for (p, w, mm), said in self._changes.items())
        )
        if alike:
            self._wood = wood
        return alike


Wood = WoodOfParts | AskedWood


def time_constant(thickness: float, density: float | None = None) -> float:
    """Days in which a board's excess moisture falls to 1/e in the room, its ends sealed: through the surface as its thickness, through
    the core as the square of that and slower the denser the wood.

    Args:
        thickness: mm. density: at 12 %, kg/m3; a middling wood's where it is not known.
    """
    core = CORE * math.exp(DENSER * ((density or MIDDLING) - MIDDLING))
    return SURFACE * thickness + core * thickness * thickness


def days_to_wait(
    thickness: float,
    excess: float,
    density: float | None = None,
    size: tuple[float, float] | None = None,
    sealed: bool = False,
) -> int:
    """Days until a board in the room is within a point of what it settles at: its excess falls exponentially (``time_constant``),
    sooner through its edges and its ends; a week at the least.

    Args:
        thickness: of the wood, mm. excess: points of moisture over (or under) what it settles at, percent. density: kg/m3. size: length
            and width, mm; none: as if it had no end. sealed: whether its ends are.
    """
    days = time_constant(thickness, density) * math.log(max(1.0, abs(excess)))
    if size is not None:
        whole = (size[0] if not sealed else ENDLESS, size[1], thickness)
        days -= sooner(days, (ENDLESS, ENDLESS, thickness), whole)
    return max(LEAST_WAIT, math.ceil(days - 1e-9))


ENDLESS = 1e9  # mm
LEAST_SIDE = 0.1  # mm: nothing thinner is reckoned with
ALONG = 12.0  # times as fast as across moisture moves along the grain: 10 to 15 (Wood Handbook, FPL-GTR-282, chapter 4, from memory)


def sooner(days: float, board: tuple[float, float, float], piece: tuple[float, float, float]) -> float:
    """Days that a piece sawn from a board dries sooner than the board, which takes ``days``.

    The slowest part of drying by diffusion goes as the sum of what leaves each way over the square of its length (any textbook on
    diffusion: the first term of the series for a block).

    Args:
        board, piece: length, width and thickness, mm.
    """

    def rate(*sides: float) -> float:
        along, width, thickness = (max(LEAST_SIDE, side) for side in sides)
        return ALONG / along**2 + 1 / width**2 + 1 / thickness**2

    return days * (1 - rate(*board) / rate(*piece))
