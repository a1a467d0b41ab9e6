"""How far a layout is sawn: which cuts are made, and what pieces are in hand. A cut is named by where it lies, so that it keeps its
name when the rest is laid out anew."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from nullah.core.document.project import BoardLayout, Node
from nullah.core.layout.cell import Cell
from nullah.core.values.frozen import frozen


@frozen
class Progress:
    """One board as far as it is sawn: the cuts made, by their names, and the pieces in hand, from left and below: leaves that are
    free, and what is still to be cut."""

    board: str
    made: frozenset[str]
    pieces: tuple[Node, ...]
    whole: bool  # not sawn into yet

    def free(self, use: str) -> tuple[Node, ...]:
        """The pieces that are free of the rest and of that use; none while the board is whole."""
        return () if self.whole else tuple(n for n in self.pieces if n.use == use)

    @property
    def all_made(self) -> bool:
        """Whether nothing is left to cut."""
        return not any(n.use == "cut" for n in self.pieces)


def cut_name(board: str, node: Node | Cell) -> str:
    """What a cut is called: its board, and the line it runs along on it."""
    way, start = ("x", node.y) if node.axis == "across" else ("y", node.x)
    return f"saw {board} {way} {node.at:.1f} {start:.1f}"


def sawn_so_far(
    layout: BoardLayout,
    done: Collection[str],
    in_air: Collection[str] = (),
    gone: Collection[str] = (),
    all_done: bool = False,
) -> Progress:
    """How far a board is sawn.

    Args:
        done: the names of cuts made; in_air: of those that meet no wood, which are made with the one before.
        gone: parts that are cut, which they cannot be while they hang on their board. all_done: the whole board is sawn.
    """
    made: set[str] = set()
    pieces: list[Node] = []
    waiting = [layout.root]
    while waiting:
        node = waiting.pop()
        name = cut_name(layout.board, node)
        if node.use == "cut" and (all_done or name in done or name in in_air or _holds(node, gone)):
            made.add(name)
            waiting.extend(reversed(node.children))
        else:
            pieces.append(node)
    return Progress(layout.board, frozenset(made), tuple(pieces), not (all_done or made.difference(in_air)))


def _holds(node: Node, parts: Collection[str]) -> bool:
    """Whether a part of these hangs somewhere on a piece."""
    if not parts:
        return False
    if node.use == "cut":
        return any(_holds(c, parts) for c in node.children)
    return node.use == "part" and node.part in parts


def pruned(layout: BoardLayout, progress: Progress) -> BoardLayout:
    """The tree with what is still to be cut as one free piece, so that it may be laid out anew."""
    uncut = {id(n) for n in progress.pieces if n.use == "cut"}

    def go(node: Node) -> Node:
        if id(node) in uncut:
            return Node(x=node.x, y=node.y, length=node.length, width=node.width, use="offcut")
        if node.use == "cut":
            return node.model_copy(update={"children": tuple(go(c) for c in node.children)})
        return node

    return BoardLayout(board=layout.board, root=go(layout.root))


def in_turn(layout: BoardLayout) -> Iterator[tuple[Node, str]]:
    """Every node of a tree with the name of the cut that frees it, "" for the board itself."""
    waiting = [(layout.root, "")]
    while waiting:
        node, before = waiting.pop()
        yield node, before
        if node.use == "cut":
            name = cut_name(layout.board, node)
            waiting.extend((c, name) for c in reversed(node.children))


def without_parts(layout: BoardLayout, parts: Collection[str]) -> BoardLayout:
    """The board with these parts turned to waste: they are made again from other wood."""

    def go(node: Node) -> Node:
        if node.use == "cut":
            return node.model_copy(update={"children": tuple(go(c) for c in node.children)})
        return node.model_copy(update={"use": "waste", "part": ""}) if node.part in parts else node

    return BoardLayout(board=layout.board, root=go(layout.root)) if parts else layout
