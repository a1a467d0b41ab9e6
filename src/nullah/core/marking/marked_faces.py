"""The marked faces of a joint: every side that it cuts, to scale, its waste hatched and dimensioned."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from functools import partial
from math import hypot

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Point, Primitive, Text, rectangle
from nullah.core.marking.family import AT_EDGE, Span, least_and_most, side_of
from nullah.core.marking.plan import Face
from nullah.core.shapes.cut import SIDES, WAYS, Cut, Placed, Point3

_ENDWISE = ("left", "right")
MARGIN = 30.0  # mm of the part shown beyond the cuts of a face
WORDS = {"left": "left end", "right": "right end", "lower": "lower edge", "upper": "upper edge", "back": "back"}


def marked_faces(cuts: Iterable[Cut], stands: Mapping[str, Placed], label: Callable[[str], str]) -> tuple[Face, ...]:
    """Every side of every part that has cuts, to scale, its waste hatched and dimensioned from the lower left."""
    found: dict[tuple[str, str], list[Cut]] = {}
    for cut in cuts:
        found.setdefault((cut.part, cut.side), []).append(cut)
    faces = []
    for (part, side), mine in found.items():
        words = f"{label(part)}, {side_words(stands[part], side)}"
        size = stands[part].size
        draw = partial(side_drawing, words, part, side, size, mine)
        faces.append(Face(part, words, (side, size, tuple(mine)), draw, side))
    return tuple(faces)


def side_words(placed: Placed, side: str) -> str:
    """What a side is called: of a board its face, its back, its edges and ends; of what stands upright the way the side looks."""
    if side in _ENDWISE or abs(placed.axes[0][2]) < 0.5:
        return WORDS.get(side, side)
    return next((f"{way} side" for way in WAYS if side_of(placed, way) == side), WORDS.get(side, side))


def shown(side: str, size: Point3, cuts: Iterable[Cut]) -> tuple[Point, Point]:
    """The stretch of a side that a drawing of its cuts shows: low and high corner."""
    i, j = (k for k in range(3) if k != SIDES[side][0])
    points = [p for cut in cuts for p in cut.outline]
    low = [max(0.0, min(p[k] for p in points) - MARGIN) for k in (0, 1)]
    high = [min(size[(i, j)[k]], max(p[k] for p in points) + MARGIN) for k in (0, 1)]
    return (low[0], low[1]), (high[0], high[1])


def _round(outline: tuple[Point, ...]) -> float:
    """How wide a round hole is, mm; 0 for what is none."""
    middle = tuple(sum(p[k] for p in outline) / len(outline) for k in (0, 1))
    out = [hypot(p[0] - middle[0], p[1] - middle[1]) for p in outline]
    return 2 * max(out) if len(outline) >= 12 and max(out) - min(out) < 0.01 else 0.0


def _hole_said(middle: Point, across: float, low: Point, off: float, said: list[Point]) -> list[Primitive]:
    """Where the middle of a hole is, from the lower left, and of the first how wide it is; what is ``said`` of one before is not said
    again."""
    x, y = middle
    items: list[Primitive] = [
        Line(((x - across, y), (x + across, y)), "outline", dash=True),
        Line(((x, y - across), (x, y + across)), "outline", dash=True),
    ]
    if x > 0 and all(abs(x - p[0]) > AT_EDGE for p in said):
        items.append(Dimension((low[0], low[1]), (x, low[1]), x, -off, ink="computed"))
    if y > 0 and all(abs(y - p[1]) > AT_EDGE for p in said):
        items.append(Dimension((low[0], low[1]), (low[0], y), y, off, ink="computed"))
    if not said:
        items.append(Dimension((x - across / 2, y + across), (x + across / 2, y + across), across, 12.0))
    said.append(middle)
    return items


def side_drawing(label: str, part: str, side: str, size: Point3, cuts: list[Cut]) -> Drawing:
    """One side of a part round its cuts, in the part's own axes, mm; dimensions from the part's own end and edge, however much of it is
    shown."""
    low, high = shown(side, size, cuts)
    wide, tall = high[0] - low[0], high[1] - low[1]
    kind = "end grain" if side in _ENDWISE else "wood"
    items: list[Primitive] = [Area(rectangle(*low, wide, tall), kind, edge="outline", tag=f"part:{part}")]
    seen: set[tuple[float, float, float, float]] = set()
    along: set[Span] = set()  # stretches along and across that are dimensioned: said once
    across_it: set[Span] = set()
    said: list[Point] = []  # middles of holes
    i, j = (k for k in range(3) if k != SIDES[side][0])
    for number, cut in enumerate(cuts):
        items.append(Area(cut.outline, "waste", hatch=True, edge="outline", tag="cut"))
        x, y = least_and_most(p[0] for p in cut.outline), least_and_most(p[1] for p in cut.outline)
        box = (round(x[0], 2), round(x[1], 2), round(y[0], 2), round(y[1], 2))
        if box in seen or len(seen) > 3:
            continue
        seen.add(box)
        off = 20.0 * (1 + number % 3)
        if across := _round(cut.outline):
            middle = (sum(x) / 2, sum(y) / 2)
            items += _hole_said(middle, across, low, off, said)
            continue
        new_x, new_y = box[:2] not in along, box[2:] not in across_it
        along.add(box[:2])
        across_it.add(box[2:])
        if new_x and x[1] - x[0] < size[i] - 1e-6:
            items.append(Dimension((x[0], low[1]), (x[1], low[1]), x[1] - x[0], -off))
        if new_y and y[1] - y[0] < size[j] - 1e-6:
            items.append(Dimension((low[0], y[0]), (low[0], y[1]), y[1] - y[0], off))
        if new_x and x[0] > 0.05 and x[0] - low[0] > 0.05:
            below = (low[0], low[1]), (x[0], low[1])  # above stands what the side is called
            items.append(Dimension(*below, x[0], -off - 22.0, ink="computed"))
        if new_y and y[0] > 0.05 and y[0] - low[1] > 0.05:
            items.append(Dimension((high[0], y[0]), (high[0], low[1]), y[0], off, ink="computed"))
    for edge, at in ((0, low), (1, high)):  # where the part goes on beyond the drawing
        if (low[0] > 0) if edge == 0 else (high[0] < size[i] - 1e-9):
            items.append(Line(((at[0], low[1]), (at[0], high[1])), "faint", dash=True))
    items.append(Text(((low[0] + high[0]) / 2, high[1] + 8), label, size=13, bold=True, tag=f"part:{part}", halo=True))
    return Drawing(tuple(items))
