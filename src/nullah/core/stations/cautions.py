"""What can hurt, and at which kind of step it is shown. Common practice, no source."""

from __future__ import annotations

from functools import lru_cache

from nullah.core.wood.species import species

ABOUT: dict[str, str] = {
    "edge": "Both hands behind the edge; the work held by vice, stop or holdfast, never by the hand.",
    "saw": "Support the falling piece; lift long boards with help; gloves for rough stock.",
    "dust": "Wood dust harms the lungs: wear a mask, clear it up damp.",
    "hardwood dust": "Wood dust harms the lungs and hardwood dust is a carcinogen: wear a mask, clear it up damp.",
    "chop": "Eye protection while chopping and striking.",
    "plane": "Long planing: a glove on the hand at the plane's side, and rest before the hands tire.",
    "glue": "Glue fumes want air; the label's times and cautions govern.",
    "reclaimed": "Reclaimed wood: draw every nail before a blade comes near, gloves on; where it bears marks of treatment, leave it; "
    "old paint: assume lead, and do not sand, plane or burn it.",
    "finish": "Oil-soaked rags heat themselves: spread them flat outdoors or drown them in a closed metal tin.",
}

AT: dict[str, tuple[str, ...]] = {
    "break down": ("saw", "dust"),
    "true up": ("edge", "plane"),
    "shoot": ("edge",),
    "joint": ("edge", "chop"),
    "plough": ("edge",),
    "fit": ("edge",),
    "glue": ("glue",),
    "nail": ("chop",),
    "finish": ("dust", "finish"),
}
TOUCHED = ("break down", "true up", "finish")  # steps whose dust and shavings get to skin and breath


@lru_cache(maxsize=1024)
def for_step(kind: str, woods: tuple[str, ...] = (), reclaimed: bool = False) -> tuple[str, ...]:
    """The cautions, in words, for a kind of step on these species, and on wood that was used before; none for a kind that cannot hurt.

    Raises:
        UnknownSpecies: a species is not in the table.
    """
    kinds = [species(w) for w in woods]
    hard = any(not w.softwood for w in kinds)
    names = ["hardwood dust" if n == "dust" and (hard or not kinds) else n for n in AT.get(kind, ())]
    out = [ABOUT[n] for n in names]
    if reclaimed and kind in TOUCHED:
        out.insert(0, ABOUT["reclaimed"])
    stings = list(dict.fromkeys(w.name for w in kinds if w.sensitises))
    if stings and kind in TOUCHED:
        named = " and ".join(stings)
        out.append(f"The dust of {named} makes some people's skin and breathing react: stop if yours does.")
    return tuple(out)
