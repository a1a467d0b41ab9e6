"""What can hurt, and at which kind of step it is shown. Common practice, no source."""

from __future__ import annotations

ABOUT: dict[str, str] = {
    "edge": "Both hands behind the edge; the work held by vice, stop or holdfast, never by the hand.",
    "saw": "Support the falling piece; lift long boards with help; gloves for rough stock.",
    "dust": "Wood dust harms the lungs and hardwood dust is a carcinogen: wear a mask, clear it up damp.",
    "sensitise": "Larch and elm dust make some people's skin and breathing react: stop if yours does.",
    "chop": "Eye protection while chopping and striking.",
    "plane": "Long planing: a glove on the hand at the plane's side, and rest before the hands tire.",
    "glue": "Glue fumes want air; the label's times and cautions govern.",
    "finish": "Oil-soaked rags heat themselves: spread them flat outdoors or drown them in a closed metal tin.",
}

AT: dict[str, tuple[str, ...]] = {
    "break down": ("saw", "dust", "sensitise"),
    "true up": ("plane", "dust"),
    "joint": ("edge", "chop"),
    "fit": ("edge",),
    "glue": ("glue",),
    "finish": ("finish",),
}


def for_step(kind: str) -> tuple[str, ...]:
    """The cautions, in words, for a kind of step; none for a kind that cannot hurt."""
    return tuple(ABOUT[name] for name in AT.get(kind, ()))
