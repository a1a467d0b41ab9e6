"""Recut stock: what could be cut once more from what a layout leaves, since one part cut short is an ordinary mishap."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.clear import Box, clear_for
from nullah.core.layout.model import EPS, Blank, Layout, Stock, blocks, leaves
from nullah.core.values.frozen import replace

SPARE = "spare "  # begins the name of a piece that is laid out only to be left over


def not_again(layout: Layout, stock: Sequence[Stock], blanks: Sequence[Blank]) -> tuple[Blank, ...]:
    """The blanks that no offcut and no untouched board would give a second time, largest first."""
    left = list(_left(layout, stock))
    short = [b for b in blanks if not any(_gives(s, box, b) for s, box in left)]
    return tuple(sorted(short, key=lambda b: (-b.length * b.width, b.id)))


def _left(layout: Layout, stock: Sequence[Stock]) -> Iterator[tuple[Stock, Box]]:
    trees = {b.board: b.root for b in layout.boards}
    for s in stock:
        if s.id not in trees:
            yield s, (s.x0, s.y0, s.x1, s.y1)
            continue
        for n in leaves(trees[s.id]):
            if n.use == "offcut":
                yield s, (n.x, n.y, n.x + n.length, n.y + n.width)


def _gives(s: Stock, box: Box, blank: Blank) -> bool:
    """Whether a piece of a board takes a blank, clear and thick enough."""
    long, wide = blank.length - EPS, blank.width - EPS
    if s.species != blank.species or box[2] - box[0] < long or box[3] - box[1] < wide:
        return False
    return any(
        c - a >= long
        and d - b >= wide
        and s.thickness_in(a, b, blank.length, blank.width) >= blank.thickness - 0.05
        and not any(blocks(f, blank, a, b, blank.length, blank.width) for f in s.defects)  # knots in a joint's zone
        for a, b, c, d in clear_for(box, s, blank.forgives, blank.hides)
    )


def spare_of(blank: Blank) -> Blank:
    """A second one of a blank, to be left over."""
    return replace(blank, id=SPARE + blank.id, group="", in_order=False)


def with_spares_left(layout: Layout, keep: float) -> Layout:
    """The layout with its spares as offcuts, or as waste where they are shorter than ``keep`` mm."""

    def turned(n: Node) -> Node:
        if n.use == "cut":
            return n.model_copy(update={"children": tuple(turned(c) for c in n.children)})
        if not n.part.startswith(SPARE):
            return n
        return n.model_copy(update={"use": "offcut" if n.length >= keep else "waste", "part": ""})

    boards = tuple(BoardLayout(board=b.board, root=turned(b.root)) for b in layout.boards)
    used = tuple(b for b in boards if any(n.use == "part" for n in leaves(b.root)))
    return replace(layout, boards=used, unplaced=tuple(u for u in layout.unplaced if not u[0].startswith(SPARE)))
