"""Where the words and arrows of a drawing go: dimensions laid out so that no figure covers another.

Screen, PDF and SVG all place by this, so that a dimension reads the same everywhere. Coordinates are those of the page at
``k`` units a mm, y upward, with mm (0, 0) at (0, 0); the renderer shifts and turns them to its own.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from nullah.core.drawing.display_list import Dimension, Drawing, Point, Text
from nullah.core.values.frozen import frozen

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
        lies = _Lies(item, wide, k, size)
        best, least = (0, 0), (math.inf, math.inf)
        for where in _PLACES:
            cost = _cost(lies, *where, words_at, lines_at)
            if cost < least:
                best, least = where, cost
            if cost[0] == 0:
                break
        one = _one(lies, words, *best)
        words_at.add(one.box)
        lines_at.add(_of_stroke(one.strokes[2]))
        out.append(one)
    return tuple(out)


# upright, a figure is as wide as two or three rows: seven short ones beside each other want some twenty rows
_PLACES = ((0, 0), (0, 1), (0, -1), *((level, along) for level in range(1, 36) for along in (0, 1, -1)))
_CELL, _MOST_CELLS = 64.0, 60


class _Boxes:
    """Boxes by the cells of a coarse grid they touch, so that only neighbours are compared."""

    def __init__(self) -> None:
        self._cells: dict[tuple[int, int], list[Box]] = {}
        self._long: list[Box] = []  # over too many cells

    def add(self, box: Box) -> None:
        cells = _touched(box)
        if cells is None:
            self._long.append(box)
            return
        for cell in cells:
            self._cells.setdefault(cell, []).append(box)

    def near(self, box: Box) -> Iterable[Box]:
        cells = _touched(box)
        if cells is None:
            return {other for some in self._cells.values() for other in some}.union(self._long)
        found = [some for cell in cells if (some := self._cells.get(cell)) is not None]
        if len(found) < 2:
            return [*found[0], *self._long] if found else self._long
        return {other for some in found for other in some}.union(self._long)


def _touched(box: Box) -> list[tuple[int, int]] | None:
    """The cells a box touches; None where they are too many to be told one by one."""
    left, low, right, top = (int(v // _CELL) for v in box)
    if (right - left + 1) * (top - low + 1) > _MOST_CELLS:
        return None
    return [(i, j) for i in range(left, right + 1) for j in range(low, top + 1)]


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


class _Lies:
    """A dimension's line and figure wherever they are tried: rows further out, along it, past an end."""

    def __init__(self, item: Dimension, wide: float, k: float, size: float) -> None:
        self.item, self.wide, self.size = item, wide, size
        self.a, self.b = (item.a[0] * k, item.a[1] * k), (item.b[0] * k, item.b[1] * k)
        self.long = math.hypot(self.b[0] - self.a[0], self.b[1] - self.a[1]) or 1e-9
        self.along = ((self.b[0] - self.a[0]) / self.long, (self.b[1] - self.a[1]) / self.long)
        sign = 1.0 if item.offset >= 0 else -1.0
        self.outward = (-self.along[1] * sign, self.along[0] * sign)
        self.inside = self.long > 2.6 * ARROW * size  # whether its arrows stand within it
        self.reach = 0.0 if self.inside else 2.2 * ARROW * size
        self.level = abs(self.along[0]) >= abs(self.along[1])
        self.tall = FIGURE * size

    def ends(self, level: int) -> tuple[Point, Point]:
        """Both ends of the line ``level`` rows further out than asked."""
        out = (abs(self.item.offset) + LEVEL * level) * self.size
        (ax, ay), (bx, by), (nx, ny) = self.a, self.b, self.outward
        return (ax + nx * out, ay + ny * out), (bx + nx * out, by + ny * out)

    def line(self, start: Point) -> tuple[Point, Point]:
        """The line as drawn, which goes on beyond its ends where the arrows stand there."""
        (ux, uy), last = self.along, self.long + self.reach
        first = -self.reach
        return (start[0] + ux * first, start[1] + uy * first), (start[0] + ux * last, start[1] + uy * last)

    def middle(self, start: Point, along: int) -> Point:
        """The middle of the figure: of the line (0), past its end (1) or before its start (-1)."""
        half = (self.wide if self.level else self.tall) / 2
        to = {
            0: self.long / 2,
            1: self.long + self.reach + half + 2 * self.size,
            -1: -self.reach - half - 2 * self.size,
        }[along]
        off = 0.0 if along else (self.tall * 0.66 if self.level else self.wide / 2 + 5 * self.size)
        (ux, uy), (nx, ny) = self.along, self.outward
        return start[0] + ux * to + nx * off, start[1] + uy * to + ny * off

    def box(self, middle: Point) -> Box:
        """The room the figure takes."""
        (x, y), wide, tall = middle, self.wide / 2 + self.size, self.tall * 0.55
        return (x - wide, y - tall, x + wide, y + tall)


def _one(lies: _Lies, words: str, level: int, along: int) -> Placed:
    """The dimension ``level`` rows further out than asked, its figure in the middle (0) or past its end (1) or start (-1)."""
    start, end = lies.ends(level)
    size, (ux, uy), (nx, ny) = lies.size, lies.along, lies.outward
    gap, past = 3.0 * size, 4.0 * size
    strokes = [
        ((at[0] + nx * gap, at[1] + ny * gap), (to[0] + nx * past, to[1] + ny * past))
        for at, to in ((lies.a, start), (lies.b, end))
    ]
    head = ARROW * size
    arrows = []
    for tip, way in ((start, 1.0), (end, -1.0)):
        way = way if lies.inside else -way
        back = (tip[0] + ux * head * way, tip[1] + uy * head * way)
        side = head * SLENDER
        arrows.append(
            (tip, (back[0] - uy * side, back[1] + ux * side), (back[0] + uy * side, back[1] - ux * side)),
        )
    strokes.append(lies.line(start))
    middle = lies.middle(start, along)
    at = (middle[0] - lies.wide / 2, middle[1] - lies.tall * 0.36)
    return Placed(lies.item, words, tuple(strokes), tuple(arrows), at, lies.box(middle))


def _of_stroke(stroke: tuple[Point, Point]) -> Box:
    """A line's own room; its ends are let off, so that dimensions may stand end to end."""
    (ax, ay), (bx, by) = stroke
    dx, dy = (0.06 * abs(bx - ax), 0.06 * abs(by - ay))
    return (min(ax, bx) + dx - 0.5, min(ay, by) + dy - 0.5, max(ax, bx) - dx + 0.5, max(ay, by) - dy + 0.5)


def shared(a: Box, b: Box) -> float:
    """The area two boxes share."""
    return max(0.0, min(a[2], b[2]) - max(a[0], b[0])) * max(0.0, min(a[3], b[3]) - max(a[1], b[1]))


def _cost(lies: _Lies, level: int, along: int, words_at: _Boxes, lines_at: _Boxes) -> tuple[float, float]:
    """What is covered: figures on words or on other lines, and own line on words or other lines; then how far out it went."""
    start, _ = lies.ends(level)
    line, middle = lies.line(start), lies.middle(start, along)
    own, box = _of_stroke(line), lies.box(middle)
    covered = sum(shared(box, b) for b in words_at.near(box)) + sum(shared(box, b) for b in lines_at.near(box))
    covered += sum(shared(own, b) for b in words_at.near(own)) + sum(8 * shared(own, b) for b in lines_at.near(own))
    out = math.hypot(middle[0] - lies.wide / 2 - line[0][0], middle[1] - lies.tall * 0.36 - line[0][1])
    return round(covered, 3), out
