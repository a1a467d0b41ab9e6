"""Boards already sawn into, or with parts pinned on them: what else is laid on their free pieces, put back into their trees."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.cell import Cell, as_cell, as_node, sound
from nullah.core.layout.model import Layout, Options, Stock, leaves


def grafted(layout: Layout, kept: tuple[BoardLayout, ...]) -> Layout:
    """What was laid on pieces of sawn boards, put back into those boards' trees."""
    new = {b.board: b.root for b in layout.boards if "#" in b.board}
    boards = [b for b in layout.boards if "#" not in b.board]
    for old in kept:
        roots = {i: new.get(f"{old.board}#{i}") for i in range(len(list(leaves(old.root))))}
        boards.append(BoardLayout(board=old.board, root=_replaced(old.root, iter(roots.items()))))
    return Layout(layout.name, tuple(boards), layout.unplaced, layout.split_groups)


def _replaced(node: Node, roots: Iterable[tuple[int, Node | None]]) -> Node:
    """The tree with its leaves, in order, replaced; an old leaf with nothing new on it is free again."""
    each = iter(roots)

    def go(n: Node) -> Node:
        if n.use == "cut":
            return n.model_copy(update={"children": tuple(go(c) for c in n.children)})
        _, fresh = next(each)
        if fresh is None:
            return n
        return _inner(fresh, n)

    return go(node)


def _inner(root: Node, leaf: Node) -> Node:
    """Of a tree grown on a whole board's rectangle, the subtree that stands on ``leaf``."""
    same = all(abs(getattr(root, k) - getattr(leaf, k)) < 1e-6 for k in ("x", "y", "length", "width"))
    if same:
        return root
    for child in root.children:
        if (
            child.x <= leaf.x + 1e-6
            and child.y <= leaf.y + 1e-6
            and child.x + child.length >= leaf.x + leaf.length - 1e-6
            and child.y + child.width >= leaf.y + leaf.width - 1e-6
        ):
            return _inner(child, leaf)
    return root


def only_parts(board: BoardLayout, parts: frozenset[str], stock: Stock) -> BoardLayout:
    """A board with none but these parts on it; what was free on both sides of a cut that is then needless is one piece again."""
    root = as_cell(board.root)
    _clear(root, parts, stock)
    return BoardLayout(board=board.board, root=as_node(root, Options(keep_offcut=0.0)))


def _clear(cell: Cell, parts: frozenset[str], stock: Stock) -> None:
    for child in cell.children:
        _clear(child, parts, stock)
    if cell.use == "cut":
        if all(c.use == "free" for c in cell.children):
            cell.use, cell.axis, cell.children = "free", "", []
    elif (cell.use == "part" and cell.part not in parts) or sound(cell, stock):
        cell.use, cell.part = "free", ""
