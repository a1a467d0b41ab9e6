"""The marked faces of a joint in one picture."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from nullah.core.drawing.display_list import Area, Drawing, Handle, Primitive, Text, moved
from nullah.core.marking.plan import Face
from nullah.core.values.frozen import replace

APART = 0.8  # of the tallest: how far the slender ones of three begin from each other
IN_A_ROW = 3  # faces that stand side by side


def side_by_side(faces: tuple[Face, ...], species: str = "") -> Drawing:
    """All faces in one picture; sides of one part that look alike are drawn once."""
    return beside(_once(faces, {}), species)


def beside(sides: Sequence[Drawing], species: str = "") -> Drawing:
    """Some sides of a joint at one scale, left to right, with room between them for their dimensions, in the wood they are cut in."""
    items: list[Primitive] = []
    x = 0.0
    extents = [d.extent() for d in sides]
    tall = max((top - low for _, low, _, top in extents), default=0.0)
    slender = APART * tall if len(sides) == IN_A_ROW else 0.0
    for drawing, (left, low, right, _) in zip(sides, extents, strict=True):
        items += moved([_of(item, species) for item in drawing.items], x - left, -low)
        x += max(1.35 * (right - left) + 34, slender)
    return Drawing(tuple(items))


def pages(
    faces: tuple[Face, ...], handles: Mapping[tuple[str, str], Sequence[Handle]] | None = None
) -> list[list[Drawing]]:
    """The marked sides as they are shown, a few at a time; sides of one part that look alike are drawn once.

    Args:
        handles: what can be taken hold of, by part and side.
    """
    sides = _once(faces, handles or {})
    return [sides[n : n + IN_A_ROW] for n in range(0, len(sides), IN_A_ROW)] or [[]]


def _once(faces: tuple[Face, ...], handles: Mapping[tuple[str, str], Sequence[Handle]]) -> list[Drawing]:
    """The drawings of the faces, those of one part that differ in what they are called alone as one that says both."""
    found: list[tuple[str, tuple[Primitive, ...], Drawing, list[str]]] = []
    for face in faces:
        part, _, side = face.title.partition(", ")
        unnamed = tuple(i for i in face.drawing.items if not (isinstance(i, Text) and i.text == face.title))
        named = len(unnamed) < len(face.drawing.items)
        same = next((sides for p, items, _, sides in found if named and p == part and items == unnamed), None)
        if same is not None:
            same.append(side)
        else:
            held = handles.get((face.part, face.side), ())
            found.append((part, unnamed, Drawing((*face.drawing.items, *held)) if held else face.drawing, [side]))
    return [_called(drawing, sides) for _, _, drawing, sides in found]


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
