"""What a layout comes to, so that any two can be compared: parts without a place, split groups, sawing and what is left over."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.layout.model import Blank, Layout, Options, Stock, cuts, leaves
from nullah.core.values.frozen import frozen


def worth_of(length: float, width: float) -> float:
    """What a left-over piece is worth, mm2: its area, a long one's more, since it serves for more."""
    return length * width * long_share(length)


def long_share(length: float) -> float:
    """How much of its area a left-over piece this long is worth."""
    return length / (length + 1000.0)


def efforts(s: Stock, options: Options) -> tuple[float, float]:
    """What a mm of crosscut and of rip costs in a board, mm2 of wood."""
    hard = s.hardness * s.thickness / 25.0
    return options.crosscut_effort * hard, options.rip_effort * hard


@frozen
class Merit:
    """What a layout comes to; less is better, in this order: area without a place, split groups, cost in mm2 of wood."""

    without: float
    split: int
    cost: float


def apart(layout: Layout, blanks: Sequence[Blank]) -> dict[str, dict[str, float]]:
    """Groups of mates that come from more than one board: the area of each on each board, mm2. Groups in order are not mates here."""
    groups = {b.id: b.group for b in blanks if b.group and not b.in_order}
    found: dict[str, dict[str, float]] = {}
    for board in layout.boards:
        for n in leaves(board.root):
            if n.use == "part" and n.part in groups:
                on = found.setdefault(groups[n.part], {})
                on[board.board] = on.get(board.board, 0.0) + n.length * n.width
    return {g: on for g, on in found.items() if len(on) > 1}


def merit(layout: Layout, stock: Sequence[Stock], blanks: Sequence[Blank], options: Options) -> Merit:
    """The merit of any layout, by the same weights for all."""
    area = {b.id: b.length * b.width for b in blanks}
    by_id = {s.id: s for s in stock}
    cost = 0.0
    for b in layout.boards:
        s = by_id.get(b.board)
        if s is None:
            continue
        cost += worth_of(s.x1 - s.x0, s.y1 - s.y0) + options.opening * (s.x1 - s.x0) * (s.y1 - s.y0)
        cost -= sum(worth_of(n.length, n.width) for n in leaves(b.root) if n.use == "offcut")
        for n in cuts(b.root):
            across, along = efforts(s, options)
            cost += across * n.width if n.axis == "across" else along * n.length
    return Merit(sum(area[p] for p, _ in layout.unplaced), len(layout.split_groups), cost)
