"""The box's dimension chains: from what it must hold to its outside sizes, line by line."""

from __future__ import annotations

import math
from collections.abc import Mapping

from nullah.core.document.pieces import Contents, Piece
from nullah.core.pieces.part import Chain, ChainLine
from nullah.core.values.measure import marked


def stands(contents: Contents) -> tuple[float, float, float]:
    """How far one item reaches across the box, up, and along it, mm, as it stands."""
    if contents.stand == "upright":
        return contents.width, contents.height, contents.thickness
    if contents.stand == "on edge":
        return contents.height, contents.width, contents.thickness
    return contents.width, contents.thickness, contents.height


def in_a_bay(piece: Piece) -> tuple[float, float, str]:
    """How far the contents of one bay reach along it and up, mm, and what they are in words."""
    c = piece.contents
    _, up, along = stands(c)
    in_bay = math.ceil(c.count / (piece.dividers + 1))
    if c.stand == "flat":
        return along, up * in_bay, f"{c.name}, lying"
    return along * in_bay, up, f"{in_bay} of {c.name}" if in_bay > 1 else c.name


def as_it_is(chain: Chain, pair: str, thick: Mapping[str, float], planned: float, outside: float) -> Chain:
    """The chain with its walls as they came out, and a line for what is held or measured otherwise than planned."""
    lines = chain.lines
    if any(thick[p] != planned for p in pair):
        lines = (*(ChainLine(f"wall {p}", thick[p]) for p in pair), *lines[1:])
    rest = outside - sum(line.mm for line in lines)
    if abs(rest) > 0.005:
        lines = (*lines, ChainLine("outside as held or measured", rest))
    return Chain(chain.name, lines, chain.edit, chain.rod)


def planned_chains(piece: Piece, from_edge: float, lid_edge: float, bottom_t: float, lid_t: float) -> tuple[Chain, ...]:
    """Length, width and height as planned, line by line, from the contents out; groove places and panel thicknesses in mm."""
    c = piece.contents
    across, _, _ = stands(c)
    bays = piece.dividers + 1
    in_bay = math.ceil(c.count / bays)
    along_bay, tall, held = in_a_bay(piece)
    length = [
        ChainLine("wall", piece.wall, 2, "asked.wall"),
        ChainLine(
            f"bay: {held} {marked(along_bay)}, room {marked(2 * piece.wiggle)}", along_bay + 2 * piece.wiggle, bays
        ),
        ChainLine("divider", piece.divider_thickness, piece.dividers, "asked.divider_thickness"),
        ChainLine("added to that", piece.extra_length, 1, "asked.extra_length"),
    ]
    width = [
        ChainLine("wall", piece.wall, 2, "asked.wall"),
        ChainLine(f"{c.name} across", across),
        ChainLine("room each side", piece.wiggle, 2, "asked.wiggle"),
        ChainLine("added to that", piece.extra_width, 1, "asked.extra_width"),
    ]
    height = [
        ChainLine("edge to groove", from_edge),
        ChainLine("bottom", bottom_t, 1, "asked.bottom_thickness"),
        ChainLine(f"{c.name} standing" if c.stand != "flat" else f"{in_bay} of {c.name}, stacked", tall),
        ChainLine("room above", piece.wiggle, 1, "asked.wiggle"),
    ]
    if piece.lid == "sliding":
        height += [
            ChainLine("lid in its groove", lid_t, 1, "asked.lid_thickness"),
            ChainLine("groove to edge", lid_edge),
        ]
    elif piece.lid == "lift-off":
        height.append(ChainLine("lid drops in", lid_t / 2))
    height.append(ChainLine("added to that", piece.extra_height, 1, "asked.extra_height"))
    return (
        Chain("Length outside", tuple(x for x in length if x.times), "extra_length", "length"),
        Chain("Width outside", tuple(width), "extra_width", "width"),
        Chain("Height", tuple(height), "extra_height", "height"),
    )
