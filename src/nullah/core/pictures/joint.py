"""The marked faces of a joint in one picture."""

from __future__ import annotations

from nullah.core.drawing import Drawing, Primitive, moved
from nullah.core.joints.plan import Face


def side_by_side(faces: tuple[Face, ...]) -> Drawing:
    """The faces at one scale, left to right, with room between them for their dimensions."""
    items: list[Primitive] = []
    x = 0.0
    for face in faces:
        left, low, right, _ = face.drawing.extent()
        items += moved(face.drawing.items, x - left, -low)
        x += 1.35 * (right - left) + 34
    return Drawing(tuple(items))
