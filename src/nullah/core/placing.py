"""Where the words and arrows of a drawing go: dimensions laid out so that no figure covers another.

Screen, PDF and SVG all place by this, so that a dimension reads the same everywhere. Coordinates are those of the page at
``k`` units a mm, y upward, with mm (0, 0) at (0, 0); the renderer shifts and turns them to its own.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from nullah.core.drawing import Dimension, Drawing, Point, Text
from nullah.core.frozen import frozen

Box = tuple[float, float, float, float]  # left, low, right, top
Measure = Callable[[str, float, bool], float]  # words, size, bold -> width, all in page units

ARROW = 7.0  # length of an arrowhead at size 1
SLENDER = 0.32  # half an arrowhead's breadth, of its length
FIGURE = 13.0  # size of a dimension's figure
LEVEL = 17.0  # from one row of dimensions to the next


@frozen
class Placed:
    """A dimension as drawn: ``strokes`` are lines, ``arrows`` filled triangles, ``at`` the left end of the words' baseline."""

    item: Dimension
    words: str
    strokes: tuple[tuple[Point, Point], ...]
    arrows: tuple[tuple[Point, Point, Point], ...]
    at: Point
    box: Box


def place(
    drawing: Drawing,
    k: float,
    figures: Callable[[float], str],
    told: Callable[[str], str],
    measure: Measure,
    size: float,
) -> tuple[Placed, ...]:
    """Every dimension among a drawing's own items that is long enough, moved outward or along until its figure stands clear.

    Args:
        k: page units a mm.
        figures: a length in mm as shown.
        told: a sentence as shown.
        measure: the width of words in page units.
        size: page units a screen pixel at 100 %.
    """
    words_at, lines_at = _Boxes(), _Boxes()
    for item in drawing.items:
        if isinstance(item, Text) and not too_low(item, k, size):
            wide = measure(told(item.text), item.size * size, item.bold)
            if not hidden(item, k, wide, size):
                words_at.add(text_box(item, k, wide, size))
    out = []
    for item in drawing.items:
        if not isinstance(item, Dimension) or math.dist(item.a, item.b) * k < item.least * size:
            continue
        words = f"{item.label} {figures(item.mm)}".strip()
        wide = measure(words, FIGURE * size, bool(item.edit))
        best, least = None, (math.inf, math.inf)
        for level, along in _PLACES:
            one = _one(item, words, wide, k, size, level, along)
            cost = _cost(one, words_at, lines_at)
            if cost < least:
                best, least = one, cost
            if cost[0] == 0:
                break
        if best is not None:
            words_at.add(best.box)
            lines_at.add(_of_stroke(best.strokes[2]))
            out.append(best)
    return tuple(out)


# upright, a figure is as wide as two or three rows: seven short ones beside each other want some twenty rows
_PLACES = ((0, 0), (0, 1), (0, -1), *((level, along) for level in range(1, 36) for along in (0, 1, -1)))
_CELL = 64.0


class _Boxes:
    """Boxes by the cells of a coarse grid they touch, so that only neighbours are compared."""

    def __init__(self) -> None:
        self._cells: dict[tuple[int, int], list[Box]] = {}

    def _touched(self, box: Box) -> list[tuple[int, int]]:
        columns = range(int(box[0] // _CELL), int(box[2] // _CELL) + 1)
        return [(i, j) for i in columns for j in range(int(box[1] // _CELL), int(box[3] // _CELL) + 1)]

    def add(self, box: Box) -> None:
        for cell in self._touched(box):
            self._cells.setdefault(cell, []).append(box)

    def near(self, box: Box) -> set[Box]:
        return {other for cell in self._touched(box) for other in self._cells.get(cell, ())}


def hidden(item: Text, k: float, wide: float, size: float = 1.0) -> bool:
    """Whether words are left out because they would not fit the room they have."""
    return 0 < item.room * k < wide or too_low(item, k, size)


def too_low(item: Text, k: float, size: float) -> bool:
    """Whether words are higher than the room they have."""
    return 0 < item.tall * k < 0.8 * item.size * size


def text_box(item: Text, k: float, wide: float, size: float) -> Box:
    """The room that words take, in page units."""
    x, y = item.at[0] * k, item.at[1] * k
    left = x - {"left": 0.0, "centre": wide / 2, "right": wide}[item.align]
    half = item.size * size * 0.55
    return (left, y - half, left + wide, y + half)


def _one(item: Dimension, words: str, wide: float, k: float, size: float, level: int, along: int) -> Placed:
    """The dimension ``level`` rows further out than asked, its figure in the middle (0) or past its end (1) or start (-1)."""
    ax, ay, bx, by = item.a[0] * k, item.a[1] * k, item.b[0] * k, item.b[1] * k
    long = math.hypot(bx - ax, by - ay) or 1e-9
    ux, uy = (bx - ax) / long, (by - ay) / long
    sign = 1.0 if item.offset >= 0 else -1.0
    nx, ny = -uy * sign, ux * sign  # outward
    out = (abs(item.offset) + LEVEL * level) * size
    start, end = (ax + nx * out, ay + ny * out), (bx + nx * out, by + ny * out)
    gap, past = 3.0 * size, 4.0 * size
    strokes = [((ax + nx * gap, ay + ny * gap), (start[0] + nx * past, start[1] + ny * past))]
    strokes.append(((bx + nx * gap, by + ny * gap), (end[0] + nx * past, end[1] + ny * past)))
    head = ARROW * size
    inside = long > 2.6 * head
    arrows = []
    for tip, way in ((start, 1.0), (end, -1.0)):
        way = way if inside else -way
        back = (tip[0] + ux * head * way, tip[1] + uy * head * way)
        side = head * SLENDER
        arrows.append(
            (tip, (back[0] - uy * side, back[1] + ux * side), (back[0] + uy * side, back[1] - ux * side)),
        )
    tall = FIGURE * size
    level_along = abs(ux) >= abs(uy)
    reach = 0.0 if inside else 2.2 * head
    first, last = (-reach, long + reach)
    half = (wide if level_along else tall) / 2
    middle = {0: long / 2, 1: long + reach + half + 2 * size, -1: -reach - half - 2 * size}[along]
    if along > 0:
        last = long + reach
    lines = ((start[0] + ux * first, start[1] + uy * first), (start[0] + ux * last, start[1] + uy * last))
    strokes.append(lines)
    cx, cy = start[0] + ux * middle, start[1] + uy * middle
    off = 0.0 if along else (tall * 0.66 if level_along else wide / 2 + 5 * size)
    cx, cy = cx + nx * off, cy + ny * off
    low = cy - tall * 0.36
    return Placed(
        item,
        words,
        tuple(strokes),
        tuple(arrows),
        (cx - wide / 2, low),
        (cx - wide / 2 - size, cy - tall * 0.55, cx + wide / 2 + size, cy + tall * 0.55),
    )


def _of_stroke(stroke: tuple[Point, Point]) -> Box:
    """A line's own room; its ends are let off, so that dimensions may stand end to end."""
    (ax, ay), (bx, by) = stroke
    dx, dy = (0.06 * abs(bx - ax), 0.06 * abs(by - ay))
    return (min(ax, bx) + dx - 0.5, min(ay, by) + dy - 0.5, max(ax, bx) - dx + 0.5, max(ay, by) - dy + 0.5)


def shared(a: Box, b: Box) -> float:
    """The area two boxes share."""
    return max(0.0, min(a[2], b[2]) - max(a[0], b[0])) * max(0.0, min(a[3], b[3]) - max(a[1], b[1]))


def _cost(one: Placed, words_at: _Boxes, lines_at: _Boxes) -> tuple[float, float]:
    """What is covered: figures on words or on other lines, and own line on words or other lines; then how far out it went."""
    own = _of_stroke(one.strokes[2])
    covered = sum(shared(one.box, b) for b in words_at.near(one.box)) + sum(
        shared(one.box, b) for b in lines_at.near(one.box)
    )
    covered += sum(shared(own, b) for b in words_at.near(own)) + sum(8 * shared(own, b) for b in lines_at.near(own))
    return (round(covered, 3), math.hypot(one.at[0] - one.strokes[2][0][0], one.at[1] - one.strokes[2][0][1]))
