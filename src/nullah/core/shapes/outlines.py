"""Outlines on a drawing: most are boxes, which cost little; all others are sections of the solid engine's."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from nullah.core.drawing.display_list import Point, area

if TYPE_CHECKING:
    from manifold3d import CrossSection

Box = tuple[float, float, float, float]  # left, low, right, top
Rings = tuple[tuple[Point, ...], ...]  # the first goes round, the others round holes
Outline: TypeAlias = "Box | CrossSection"  # a box is an outline that fills it
NO_ROOM = 1e-6  # mm2 by which an outline that is its own box differs from it
NOWHERE = (0.0, 0.0, 0.0, 0.0)
LEAST = 0.3  # mm2 of a face that is drawn


def section(m: Any, shape: Outline) -> CrossSection:
    """An outline as the solid engine has it."""
    if not isinstance(shape, tuple):
        return shape
    left, low, right, top = shape
    made: CrossSection = m.CrossSection.square((right - left, top - low)).translate((left, low))
    return made


def moved_box(box: Box, x: float, y: float) -> Box:
    """A box moved right and up on the drawing."""
    left, low, right, top = box
    return (left + x, low + y, right + x, top + y)


def translated(shape: Outline, x: float, y: float) -> Outline:
    """An outline moved right and up on the drawing."""
    if not isinstance(shape, tuple):
        return shape.translate((x, y))
    return moved_box(shape, x, y)


def nothing(shape: Outline) -> bool:
    """Whether an outline has no room in it."""
    if isinstance(shape, tuple):
        left, low, right, top = shape
        return bool(left >= right or low >= top)
    return bool(shape.is_empty())


def box_less(a: Box, b: Box) -> Box | None:
    """A box less another where that leaves a box, or nothing (one of no width); None where it leaves something else."""
    if b[0] >= a[2] or b[2] <= a[0] or b[1] >= a[3] or b[3] <= a[1]:
        return a
    wide, tall = b[0] <= a[0] and b[2] >= a[2], b[1] <= a[1] and b[3] >= a[3]
    if wide and tall:
        return (a[0], a[1], a[0], a[1])
    if tall and (b[0] <= a[0] or b[2] >= a[2]):
        return (b[2], a[1], a[2], a[3]) if b[0] <= a[0] else (a[0], a[1], b[0], a[3])
    if wide and (b[1] <= a[1] or b[3] >= a[3]):
        return (a[0], b[3], a[2], a[3]) if b[1] <= a[1] else (a[0], a[1], a[2], b[1])
    return None


def box_within(m: Any, box: Box, shape: Outline) -> Box:
    """A box within an outline: the one round it, less a strip for each gap between the two, the one that takes least."""
    if isinstance(shape, tuple) or (box[2] - box[0]) * (box[3] - box[1]) - shape.area() < NO_ROOM:
        return box
    left, low, right, top = box
    for gap in (section(m, box) - shape).decompose():
        a, b, c, d = gap.bounds()
        if a >= right or c <= left or b >= top or d <= low:
            continue
        ways = [(c, low, right, top), (left, low, a, top), (left, d, right, top), (left, low, right, b)]
        left, low, right, top = max(ways, key=lambda w: max(0.0, w[2] - w[0]) * max(0.0, w[3] - w[1]))
    return (left, low, right, top) if left < right and low < top else NOWHERE


def is_box(corners: list[list[float]], box: Box) -> bool:
    """Whether four corners one after the other are those of the box round them."""
    if len(corners) != 4 or box[0] >= box[2] or box[1] >= box[3]:
        return False
    at = [(x == box[2], y == box[3]) for x, y in corners if x in (box[0], box[2]) and y in (box[1], box[3])]
    return len(set(at)) == 4 and all(
        (a[0] == b[0]) != (a[1] == b[1]) for a, b in zip(at, [*at[1:], at[0]], strict=True)
    )


def shifted(rings: Rings, x: float, y: float) -> Rings:
    """Rings moved right and up on the drawing."""
    return tuple(tuple((a + x, b + y) for a, b in ring) for ring in rings) if x or y else rings


def pieces(shape: Outline) -> list[Rings]:
    """The pieces of an outline that are large enough to be drawn, each as its outer ring and those of its holes."""
    if isinstance(shape, tuple):
        left, low, right, top = shape
        ring = ((left, low), (right, low), (right, top), (left, top))
        return [(ring,)] if (right - left) * (top - low) >= LEAST else []
    plain = shape.simplify(1e-3)
    found = []
    for piece in [plain] if plain.num_contour() == 1 else plain.decompose():
        if piece.area() >= LEAST:
            rings = [tuple(map(tuple, ring.tolist())) for ring in piece.to_polygons()]
            found.append(tuple(sorted(rings, key=lambda r: -abs(area(r))) if len(rings) > 1 else rings))
    return found
