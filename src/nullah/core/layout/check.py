"""Holding a layout to account: any layout, found or accepted earlier, against boards and blanks as they are now."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.model import EPS, Blank, Stock, blocks, leaves, overlaps
from nullah.core.values.measure import marked

TOLERANCE = 0.01  # mm


def problems(boards: Sequence[BoardLayout], stock: Sequence[Stock], blanks: Sequence[Blank]) -> tuple[str, ...]:
    """Every reason why the layout does not serve, one sentence each; empty when it does.

    Checked: each tree is made of full cuts that take their kerf; each blank is there once, large enough, within the
    trimmed board, of its species, clear of what its role does not forgive, and thick enough once planed.
    """
    found: list[str] = []
    by_id = {s.id: s for s in stock}
    wanted = {b.id: b for b in blanks}
    seen: set[str] = set()
    for board in boards:
        s = by_id.get(board.board)
        if s is None:
            found.append(f"{board.board} is no longer here.")
            continue
        found += _tree_problems(board.root, s)
        for leaf in leaves(board.root):
            if leaf.use != "part":
                continue
            seen.add(leaf.part)
            if leaf.part in wanted:
                found += _part_problems(leaf, s, wanted[leaf.part])
            else:
                found.append(f"{leaf.part} is laid out but no longer wanted.")
    found += [f"{b.id} has no place." for b in blanks if b.id not in seen]
    return tuple(found)


def _part_problems(leaf: Node, s: Stock, blank: Blank) -> list[str]:
    found = []
    need_l, need_w = blank.least
    if leaf.length < need_l - TOLERANCE or leaf.width < need_w - TOLERANCE:
        found.append(
            f"{blank.id} needs {marked(need_l)} x {marked(need_w)}; "
            f"{marked(leaf.length)} x {marked(leaf.width)} is laid out."
        )
    if s.species != blank.species:
        found.append(f"{blank.id} is to be {blank.species}; {s.name} is {s.species}.")
    if (
        leaf.x < s.x0 - TOLERANCE
        or leaf.y < s.y0 - TOLERANCE
        or leaf.x + leaf.length > s.x1 + TOLERANCE
        or leaf.y + leaf.width > s.y1 + TOLERANCE
    ):
        found.append(f"{blank.id} runs into what is to be trimmed off {s.name}.")
    found += [
        f"{blank.id} lies on a {d.kind} of {s.name}."
        for d in s.defects
        if blocks(d, blank, leaf.x, leaf.y, leaf.length, leaf.width)
    ]
    if any(overlaps(leaf.x, leaf.y, leaf.length, leaf.width, a, b, c - a, d - b) for a, b, c, d in s.edges):
        found.append(f"{blank.id} runs out past the edge of {s.name}.")
    have = s.thickness_in(leaf.x, leaf.y, leaf.length, leaf.width)
    if have < blank.thickness - 0.05:
        found.append(f"{blank.id} needs {marked(blank.thickness)} thick; {marked(have)} is left there once flat.")
    return found


def _tree_problems(node: Node, s: Stock) -> list[str]:
    """Each cut goes right across its piece, and its two sides with the kerf make it up again."""
    if node.use != "cut":
        return []
    low, high = node.children
    if node.axis == "across":
        whole = abs(low.x - node.x) < TOLERANCE and abs(low.x + low.length - node.at) < TOLERANCE
        after = min(node.at + node.kerf, node.x + node.length)
        rest = high.length < EPS or (
            abs(high.x - node.at - node.kerf) < TOLERANCE
            and abs(high.x + high.length - node.x - node.length) < TOLERANCE
        )
        right_across = all(
            abs(c.y - node.y) < TOLERANCE and abs(c.width - node.width) < TOLERANCE for c in node.children
        )
    else:
        whole = abs(low.y - node.y) < TOLERANCE and abs(low.y + low.width - node.at) < TOLERANCE
        after = min(node.at + node.kerf, node.y + node.width)
        rest = high.width < EPS or (
            abs(high.y - node.at - node.kerf) < TOLERANCE and abs(high.y + high.width - node.y - node.width) < TOLERANCE
        )
        right_across = all(
            abs(c.x - node.x) < TOLERANCE and abs(c.length - node.length) < TOLERANCE for c in node.children
        )
    bad = (
        []
        if whole and rest and right_across and after > node.at - EPS
        else [f"A cut of {s.name} does not go right across."]
    )
    return bad + _tree_problems(low, s) + _tree_problems(high, s)
