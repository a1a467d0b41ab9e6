"""Knots where a joint is cut away from a part's ends, whose own zones the layout keeps clear: each is asked about.

No knot of any kind in a joint's zone: the joint and about one thickness to either side along the grain (common practice).
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.names import call_of
from nullah.core.document.project import Board, Choice, Node
from nullah.core.joints.families import FAMILIES
from nullah.core.layout.model import overlaps
from nullah.core.pieces.part import Part
from nullah.core.shapes.cut import SIDES, Cut
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.rough import CLEAR, KNOTS, kept_clear
from nullah.core.values.measure import marked

WHY = "a chisel skids on a knot, its edges crumble, and glue hardly holds on it"


class Zone(NamedTuple):
    """What a joint takes up of a part as its face is seen: from its left end and its lower edge, mm."""

    x: float
    y: float
    long: float
    wide: float


def zone(cut: Cut, size: tuple[float, float, float]) -> Zone:
    """The zone of one cut: what it takes up of the part, and one thickness more to either side along the grain.

    Args:
        size: length, width and thickness of the part, mm.
    """
    axis, far = SIDES[cut.side]
    points = (*cut.outline, *cut.far)
    ends: list[tuple[float, float]] = [(0.0, size[0]), (0.0, size[1])]
    across = [k for k in range(3) if k != axis]
    for k in (0, 1):
        if k == axis:
            ends[k] = (size[k] - cut.depth, size[k]) if far else (0.0, cut.depth)
        else:
            along = [p[across.index(k)] for p in points]
            ends[k] = (max(0.0, min(along)), min(size[k], max(along)))
    left, right = max(0.0, ends[0][0] - size[2]), min(size[0], ends[0][1] + size[2])
    return Zone(left, ends[1][0], right - left, ends[1][1] - ends[1][0])


def work(
    boards: tuple[Board, ...],
    choices: tuple[Choice, ...],
    piece: PieceResult,
    breakdown: BreakdownResult,
    joints: JointsResult,
) -> tuple[Call, ...]:
    """The station: parts in one piece that lie on a board, and the knots of it in their joints; and parts that are kept clear."""
    by_id = {b.id: b for b in boards}
    cuts: dict[str, list[tuple[str, Cut]]] = {}
    for joint in joints.joints:
        family = FAMILIES.get(joint.family)
        if family is None or family.joins is not None:  # what shapes a part alone is no joint
            for cut in joint.cuts:
                cuts.setdefault(cut.part, []).append((joint.name, cut))
    calls = []
    clear = kept_clear(piece.parts, choices)
    for part in piece.parts:
        if part.cut or part.id in breakdown.freed or part.id in breakdown.rough.staves:
            continue
        place = breakdown.place(part.id)
        board = by_id.get(place[0]) if place is not None else None
        found = ""
        if place is not None and board is not None:
            found = _knot_in_a_joint(part, board, place[1], cuts.get(part.id, ()))
        if found or part.id in clear:
            calls.append(_call(part, found, choices))
    return tuple(calls)


def _knot_in_a_joint(part: Part, board: Board, leaf: Node, cuts: Iterable[tuple[str, Cut]]) -> str:
    """The first knot of a board that lies in a joint of a part sawn from a rectangle of it, in words; "" where none does."""
    x, y = leaf.x + max(0.0, leaf.length - part.length) / 2, leaf.y + max(0.0, leaf.width - part.width) / 2
    knots = [d for d in board.defects if "knot" in d.kind]
    for joint, cut in cuts if knots else ():
        left, low, long, wide = zone(cut, part.sizes)
        for d in knots:
            if overlaps(x + left, y + low, long, wide, d.x, d.y, d.length, d.width):
                at = marked(d.x + d.length / 2 - x)
                return f"A {d.kind} of {board.name} lies in {part.name}, {at} from its left end, where a joint comes: {joint}"
    return ""


def _call(part: Part, found: str, choices: tuple[Choice, ...]) -> Call:
    call_id = call_of(KNOTS, part.id, part.piece)
    said = f"{found}." if found else f"{part.name[:1].upper()}{part.name[1:]} is kept clear of knots for its joints."
    options = (
        Option(
            CLEAR,
            "lay it out where there is no knot",
            ("it is laid out anew, on wood without knots", "it may take more wood"),
        ),
        Option("leave", "leave it there", ("the joint is cut through the knot, slowly and with a keen edge",)),
    )
    return Call(
        call_id,
        "breakdown",
        f"{said} Is it laid out clear of knots?",
        options,
        CLEAR,
        WHY,
        KNOTS,
        differ="A small sound knot in the middle of a long groove is often cut through; in a tail, a pin or a tenon it breaks out.",
        parts=(part.id,),
        taken=taken(call_id, options, KNOTS, choices),
        piece=part.piece,
    )
