"""Species: shrinkage, density, hardness, stiffness, ease of working, what is known of their dust; read from ``species_table.py``."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Any, Literal, cast

from nullah.core.values.frozen import frozen
from nullah.core.wood.species_table import SOURCES, TABLE

Ease = Literal["soft", "middling", "hard"]


@frozen
class Species:
    """Total shrinkage, radial and tangential, in percent, and ease of working; whether it is a softwood, whether its dust is known
    to make people react; density at 12 % in kg/m3, side hardness in N and ``stiffness``, the modulus of elasticity in bending, in
    MPa, None where not known; ``food``: whether it is fit beside food, None where nobody told. ``tints``: of a planed face and the
    lines of figure on it, ``#rrggbb``. ``sources`` by field."""

    name: str
    radial: float
    tangential: float
    ease: Ease
    softwood: bool = False
    sensitises: bool = False
    botanical: str | None = None
    density: float | None = None
    hardness: float | None = None
    stiffness: float | None = None
    pores: str | None = None
    food: bool | None = None
    tints: tuple[str, str] = ("#ead9b8", "#c9ae80")
    sources: tuple[tuple[str, str], ...] = ()

    @property
    def slope(self) -> float:
        """The run of a dovetail for a rise of one: 6 in soft wood to 8 in hard (common practice, no source)."""
        return {"soft": 6.0, "middling": 7.0, "hard": 8.0}[self.ease]

    @property
    def slower(self) -> float:
        """How many times as long as middling wood it takes to work (common practice, no source)."""
        return {"soft": 0.8, "middling": 1.0, "hard": 1.3}[self.ease]

    def described(self) -> dict[str, Any]:
        """Everything of it, by field as JSON has it: percent, kg/m3, N, MPa; None where not known; ``sources`` by the same fields."""
        return {
            "name": self.name,
            "botanical": self.botanical,
            "radial_percent": self.radial,
            "tangential_percent": self.tangential,
            "density_kg_m3": self.density,
            "janka_n": self.hardness,
            "elasticity_mpa": self.stiffness,
            "ease": self.ease,
            "pores": self.pores,
            "softwood": self.softwood,
            "sensitises": self.sensitises,
            "fit_for_food": self.food,
            "dovetail_slope": self.slope,
            "sources": dict(self.sources),
        }


_BY_HAND = ("botanical", "ease", "pores", "softwood", "sensitises", "fit_for_food", "dovetail_slope")


def _read(line: str) -> Species:
    """A species from its line of the table."""
    name, botanical, radial, tangential, of_shrinkage, *rest = line.split(",")
    density, of_density, hardness, of_hardness, *rest = rest
    stiffness, of_stiffness, ease, pores, softwood, sensitises, food, face, figure = rest
    told = {"radial_percent": of_shrinkage, "tangential_percent": of_shrinkage}
    told |= {"density_kg_m3": of_density, "janka_n": of_hardness, "elasticity_mpa": of_stiffness}
    told |= dict.fromkeys(_BY_HAND, "P")
    if not food:
        told.pop("fit_for_food")
    return Species(
        name,
        float(radial),
        float(tangential),
        cast(Ease, ease),
        bool(softwood),
        bool(sensitises),
        botanical,
        float(density) if density else None,
        float(hardness) if hardness else None,
        float(stiffness) if stiffness else None,
        pores,
        food == "fit" if food else None,
        (face, figure),
        tuple((field, SOURCES[letters]) for field, letters in told.items() if letters),
    )


ALL: dict[str, Species] = {s.name: s for s in map(_read, TABLE.strip().splitlines())}
NAMES: tuple[str, ...] = tuple(sorted(ALL, key=str.lower))
_BY_LOWER = {name.lower(): s for name, s in ALL.items()}
LARGEST_SHRINKAGE = 20.0  # percent: more than any wood has
_NAMED = 6  # species that a refusal names


# a wood of the maker's own bears its figures in its name: "plum (own: 4.3/9.1, hard)"
_OWN = re.compile(
    r"^(?P<name>[^()/]{1,60}?) \(own: (?P<radial>\d{1,2}(?:\.\d{1,2})?)/(?P<tangential>\d{1,2}(?:\.\d{1,2})?), "
    r"(?P<ease>soft|middling|hard)\)$"
)
_OWN_SOURCE = "told by the maker"


@lru_cache(maxsize=256)
def own(name: str) -> Species | None:
    """The wood of the maker's own that a name stands for, which bears its figures: ``plum (own: 4.3/9.1, hard)``, radial and tangential
    shrinkage in percent and ease; None where it is no such name, or its figures are no shrinkage of wood."""
    said = _OWN.match(name)
    if said is None:
        return None
    radial, tangential = float(said["radial"]), float(said["tangential"])
    if not 0 < radial <= LARGEST_SHRINKAGE or not 0 < tangential <= LARGEST_SHRINKAGE:
        return None
    told = tuple((field, _OWN_SOURCE) for field in ("radial_percent", "tangential_percent", "ease"))
    return Species(name, radial, tangential, cast(Ease, said["ease"]), sources=told)


def own_name(name: str, radial: float, tangential: float, ease: str) -> str:
    """The name that a wood of the maker's own goes by.

    Args:
        radial, tangential: shrinkage from green to oven-dry, percent. ease: soft, middling or hard.

    Raises:
        UnknownSpecies: these are no figures of a wood, or its name is none.
    """
    made = f"{' '.join(name.split())} (own: {radial:.3g}/{tangential:.3g}, {ease})"
    if own(made) is None:
        raise UnknownSpecies(
            f'"{name[:40]}" with a shrinkage of {radial:g} and {tangential:g} % is no wood: say its name without brackets, and what it '
            f"shrinks radially and tangentially, over 0 and up to {LARGEST_SHRINKAGE:g} %."
        )
    return made


class UnknownSpecies(ValueError):
    """A species that is not in the table."""


def species(name: str) -> Species:
    """The species of that name, letter case aside, or the wood of the maker's own that bears its figures in it.

    Raises:
        UnknownSpecies: it is not in the table; the message names some that share a word with it.
    """
    found = ALL.get(name) or _BY_LOWER.get(name.strip().lower()) or own(name)
    if found is None:
        words = set(name.lower().split())
        like = [n for n in NAMES if words & set(n.lower().replace("-", " ").split())]
        near = f"; it knows {', '.join(like[:_NAMED])}" if like else ""
        raise UnknownSpecies(
            f'"{name[:40]}" is not a species Nullah knows{near}. It knows {len(ALL)}: nullah species lists them.'
        )
    return found
