"""The marked faces of a joint in one picture."""

from __future__ import annotations

from nullah.core.drawing import Area, Drawing, Primitive, moved
from nullah.core.frozen import replace
from nullah.core.joints.plan import Face


def side_by_side(faces: tuple[Face, ...], species: str = "") -> Drawing:
    """The faces at one scale, left to right, with room between them for their dimensions, in the wood they are cut in."""
    items: list[Primitive] = []
    x = 0.0
    for face in faces:
        left, low, right, _ = face.drawing.extent()
        items += moved([_of(item, species) for item in face.drawing.items], x - left, -low)
        x += 1.35 * (right - left) + 34
    return Drawing(tuple(items))


def _of(item: Primitive, species: str) -> Primitive:
    kind = {"wood": "wood", "end grain": "end"}.get(item.ink) if isinstance(item, Area) and species else None
    return replace(item, ink=f"{kind} {species}") if isinstance(item, Area) and kind else item
