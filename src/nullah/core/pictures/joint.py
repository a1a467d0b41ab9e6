"""The marked faces of a joint in one picture."""

from __future__ import annotations

from nullah.core.drawing import Area, Drawing, Primitive, Text, moved
from nullah.core.frozen import replace
from nullah.core.joints.plan import Face

APART = 0.8  # of the tallest: how far the slender ones of three begin from each other
IN_A_ROW = 3  # faces that stand side by side


def side_by_side(faces: tuple[Face, ...], species: str = "", page: int = 0) -> Drawing:
    """The faces at one scale, left to right, with room between them for their dimensions, in the wood they are cut in; sides of one
    part that look alike are drawn once.

    Args:
        page: of many faces which few, from 0; ``pages`` says how many there are.
    """
    items: list[Primitive] = []
    x = 0.0
    shown = _once(faces)[page * IN_A_ROW : (page + 1) * IN_A_ROW]
    tall = max((top - low for _, low, _, top in (d.extent() for d in shown)), default=0.0)
    for drawing in shown:
        left, low, right, _ = drawing.extent()
        items += moved([_of(item, species) for item in drawing.items], x - left, -low)
        x += max(
            1.35 * (right - left) + 34, APART * tall if len(shown) == IN_A_ROW else 0.0
        )  # what is slender stands apart
    return Drawing(tuple(items))


def pages(faces: tuple[Face, ...]) -> int:
    """How many pictures it takes to show all faces, a few in each; 1 at the least."""
    return max(1, -(-len(_once(faces)) // IN_A_ROW))


def _once(faces: tuple[Face, ...]) -> list[Drawing]:
    """The drawings of the faces, those that differ in their words alone as one that says both."""
    found: dict[object, tuple[Drawing, list[str]]] = {}
    for face in faces:
        drawing = face.drawing
        part, _, side = face.title.partition(", ")
        words = [i for i in drawing.items if isinstance(i, Text) and i.text == face.title]
        key = (part, tuple(i for i in drawing.items if i not in words)) if words else id(face)
        found.setdefault(key, (drawing, []))[1].append(side)
    return [_called(drawing, sides) for drawing, sides in found.values()]


def _called(drawing: Drawing, sides: list[str]) -> Drawing:
    if len(sides) < 2:
        return drawing
    one, others = sides[0], sides[1:]
    more = f"{', '.join([one, *others[:-1]])} and {others[-1]}"
    items = tuple(
        replace(i, text=i.text.replace(one, more, 1)) if isinstance(i, Text) and i.text.endswith(f", {one}") else i
        for i in drawing.items
    )
    return replace(drawing, items=items)


def _of(item: Primitive, species: str) -> Primitive:
    kind = {"wood": "wood", "end grain": "end"}.get(item.ink) if isinstance(item, Area) and species else None
    return replace(item, ink=f"{kind} {species}") if isinstance(item, Area) and kind else item
