"""The dovetailed box as a kind: what it asks is what the document holds of it, with the document's own bounds and defaults."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, get_args

from pydantic.fields import FieldInfo

from nullah.core.document.pieces import Contents, Piece
from nullah.core.pieces import box_own
from nullah.core.pieces.kind import Ask, Kind
from nullah.core.wood.species import NAMES, own

WORDS = {
    "name": "what the box is called",
    "contents.name": "what it holds, one of them",
    "contents.count": "how many it holds",
    "contents.width": "width of one of them",
    "contents.height": "height of one",
    "contents.thickness": "thickness of one",
    "contents.stand": "how they stand",
    "wiggle": "room beside the contents",
    "dividers": "number of dividers",
    "divider_thickness": "thickness of the dividers",
    "wall": "thickness of the sides",
    "bottom_thickness": "thickness of the bottom",
    "lid": "kind of lid",
    "lid_thickness": "thickness of the lid",
    "tails": "tails at each corner; 0: as many as suit",
    "pin": "width of a pin at its mouth",
    "half_pin": "width of a half pin; 0: half the wall",
    "slope": "slope of the tails, 1 to so many; 0: as suits the wood",
    "extra_length": "length added inside",
    "extra_width": "width added inside",
    "extra_height": "height added inside",
    "wall_species": "wood of the sides",
    "panel_species": "wood of bottom and dividers",
    "lid_species": "wood of the lid",
}


def _asks() -> Iterator[Ask]:
    """One for each of ``WORDS``, as the document has it."""
    for name, words in WORDS.items():
        owner, field = (Contents, name.removeprefix("contents.")) if "." in name else (Piece, name)
        info = owner.model_fields[field]
        default = info.default
        if field.endswith("species"):
            yield Ask(name, words, "choice", default, options=NAMES, also=own)
        elif options := get_args(info.annotation):
            yield Ask(name, words, "choice", default, options=options)
        elif info.annotation is str:
            yield Ask(name, words, "text", default)
        else:
            kind = "whole" if info.annotation is int else "number" if field == "slope" else "length"
            least, most, above = _bounds(info)
            yield Ask(name, words, kind, default, least, most, above=above)


def _bounds(info: FieldInfo) -> tuple[float | None, float | None, bool]:
    """The least and the most that the document takes, and whether it must be above the least."""
    found: dict[str, float] = {}
    for rule in info.metadata:
        for key in ("gt", "ge", "lt", "le"):
            if getattr(rule, key, None) is not None:
                found[key[0]] = getattr(rule, key)
    return found.get("g"), found.get("l"), any(getattr(rule, "gt", None) is not None for rule in info.metadata)


def _made(answers: Mapping[str, Any]) -> Piece:
    contents = {k.removeprefix("contents."): v for k, v in answers.items() if k.startswith("contents.")}
    rest = {k: v for k, v in answers.items() if not k.startswith("contents.")}
    return Piece.model_validate({**rest, **({"contents": contents} if contents else {})})


DOVETAILED_BOX = Kind(
    "dovetailed_box",
    "A box sized from what it holds: through dovetails, a bottom in grooves, dividers in dadoes, a lid that slides or lifts off.",
    tuple(_asks()),
    "Holds {contents.count} {contents.name} , each {contents.width} wide, {contents.height} high, {contents.thickness} thick, "
    "standing {contents.stand}\n"
    "with {dividers} dividers and a {lid} lid; sides of {wall_species} , inside of {panel_species} , lid of {lid_species}",
    made=_made,
    works=box_own.work,
    teaches="Four corners that must agree, grooves kept out of sight, a panel that is let move.",
)
