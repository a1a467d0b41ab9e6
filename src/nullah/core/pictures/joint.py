"""The marked faces of a joint in one picture."""

from __future__ import annotations

from nullah.core.drawing import Area, Drawing, Primitive, moved
from nullah.core.frozen import replace
from nullah.core.joints.plan import Face

IN_A_ROW = 3  # faces that stand in one row


def side_by_side(faces: tuple[Face, ...], species: str = "") -> Drawing:
    """The faces at one scale, left to right and of many in two rows, with room between them for their dimensions, in the wood they are
    cut in."""
    extents = [f.drawing.extent() for f in faces]
    a_row = len(faces) if len(faces) <= IN_A_ROW else (len(faces) + 1) // 2
    wide = max((right - left for left, _, right, _ in extents), default=0.0)
    tall = max((top - low for _, low, _, top in extents), default=0.0)
    items: list[Primitive] = []
    x = y = 0.0
    for n, (face, (left, low, right, _)) in enumerate(zip(faces, extents, strict=True)):
        if n and n % a_row == 0:
            x, y = 0.0, y - 2.0 * tall - 30
        items += moved([_of(item, species) for item in face.drawing.items], x - left, y - low)
        x += (1.35 * (right - left) if a_row == len(faces) else 2.2 * wide) + 34
    return Drawing(tuple(items))


def _of(item: Primitive, species: str) -> Primitive:
    kind = {"wood": "wood", "end grain": "end"}.get(item.ink) if isinstance(item, Area) and species else None
    return replace(item, ink=f"{kind} {species}") if isinstance(item, Area) and kind else item
