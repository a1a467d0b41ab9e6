"""The free piece: nothing is foreseen; its parts and joints are the maker's edits alone."""

from __future__ import annotations

from nullah.core.pieces.kind import Answers, Kind
from nullah.core.values.design import Design


def design(_: Answers) -> Design:
    """Nothing."""
    return Design()


FREE = Kind(
    "free",
    "A piece of your own: parts and joints as you put them in.",
    (),
    "Parts and joints of your own.",
    design,
    teaches="Whatever you set yourself.",
)
