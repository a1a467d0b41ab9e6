"""A layout with no cut that another makes needless: where waste is cut off and the wood beside it is cut off again at once."""

from __future__ import annotations

from nullah.core.document.project import BoardLayout, Node

SLIVER = 12.0  # mm: narrower waste beside an offcut stays on it
_SPARE = ("waste", "offcut")


def tidied(board: BoardLayout) -> BoardLayout:
    """The board with one cut in place of two, as often as that goes; what is wanted lies where it lay."""
    return BoardLayout(board=board.board, root=_tidied(board.root))


def _tidied(node: Node) -> Node:
    if node.use != "cut":
        return node
    low, high = (_tidied(c) for c in node.children)
    if high.use == "cut" and high.axis == node.axis and low.use == "waste" and high.children[0].use in _SPARE:
        beside = high.children[0]
        if _may_stay(low, beside, node):
            return _tidied(
                high.model_copy(update=_box(node) | {"children": (_spread(beside, node, high.at), high.children[1])})
            )
    if low.use == "cut" and low.axis == node.axis and high.use == "waste" and low.children[1].use in _SPARE:
        beside = low.children[1]
        if _may_stay(high, beside, node):
            return _tidied(
                low.model_copy(update=_box(node) | {"children": (low.children[0], _spread(beside, node, None))})
            )
    return node.model_copy(update={"children": (low, high)})


def _may_stay(waste: Node, beside: Node, node: Node) -> bool:
    """Whether waste may stay on what is cut off beside it: on waste always, on an offcut where it is a sliver along it."""
    return beside.use == "waste" or (node.axis == "along" and waste.width < SLIVER)


def _box(node: Node) -> dict[str, float]:
    return {"x": node.x, "y": node.y, "length": node.length, "width": node.width}


def _spread(beside: Node, node: Node, up_to: float | None) -> Node:
    """The spare piece with the waste beside it: from the near end of the whole up to a cut, or from where it begins to the far
    end."""
    if node.axis == "across":
        start = node.x if up_to is not None else beside.x
        end = up_to if up_to is not None else node.x + node.length
        return beside.model_copy(update={"x": start, "length": max(0.0, end - start)})
    start = node.y if up_to is not None else beside.y
    end = up_to if up_to is not None else node.y + node.width
    return beside.model_copy(update={"y": start, "width": max(0.0, end - start)})
