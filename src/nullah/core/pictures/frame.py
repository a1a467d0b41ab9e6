"""The frame from above with its diagonals, and how it racks, drawn larger than life."""

from __future__ import annotations

import math
from collections.abc import Callable

from nullah.core.drawing import Area, Dimension, Drawing, Line, Point, Primitive, Text
from nullah.core.pieces.box import Box
from nullah.core.stations.together import TogetherResult


def picture(box: Box | None, result: TogetherResult) -> Drawing:
    """Outline, the walls of a box, both diagonals; pushed out of square as measured, ten times over."""
    length, width = result.frame
    square = result.squareness
    lean = 0.0
    if square is not None:
        lean = max(-0.35, min(0.35, math.radians(90 - square.corner) * 10)) * width

    def at(x: float, y: float) -> tuple[float, float]:
        return (x + lean * y / width, y)

    outer = (at(0, 0), at(length, 0), at(length, width), at(0, width))
    items: list[Primitive] = [Area(outer, "wood dark" if box is not None else "panel", edge="outline")]
    if box is not None:
        items += _walls(box, at)
    first = "decision" if square is not None and square.longer == 1 and not square.square else "computed"
    second = "decision" if square is not None and square.longer == 2 and not square.square else "computed"
    items += [
        Line((at(0, 0), at(length, width)), first, width=2.2, tag="diagonal:1"),
        Line((at(length, 0), at(0, width)), second, width=2.2, dash=True, tag="diagonal:2"),
        Text(at(length * 0.22, width * 0.3), "1", bold=True, size=15, halo=True, ink=first),
        Text(at(length * 0.78, width * 0.3), "2", bold=True, size=15, halo=True, ink=second),
        Dimension(at(0, 0), at(length, 0), length, -24),
        Dimension(at(length, width), at(length, 0), width, 24),
    ]
    if box is not None:
        items += _names(box, at)
    if square is not None and not square.square:
        start, end = (at(0, 0), at(length, width)) if square.longer == 1 else (at(length, 0), at(0, width))
        for px, py, sign in ((*start, -1), (*end, 1)):
            dx, dy = end[0] - start[0], end[1] - start[1]
            far = math.hypot(dx, dy) / (0.10 * length)
            items.append(
                Line(
                    (
                        (px + sign * dx / far, py + sign * dy / far),
                        (px + sign * dx / far * 0.15, py + sign * dy / far * 0.15),
                    ),
                    "decision",
                    width=4,
                )
            )
    return Drawing(tuple(items))


def _walls(box: Box, at: Callable[[float, float], Point]) -> list[Primitive]:
    """What lies inside the walls, and the dividers."""
    length, width, _ = box.outside
    t = box.thickness
    inner = (
        at(t["D"], t["A"]),
        at(length - t["B"], t["A"]),
        at(length - t["B"], width - t["C"]),
        at(t["D"], width - t["C"]),
    )
    items: list[Primitive] = [Area(inner, "panel", edge="outline")]
    for c in box.dado_centres:
        items.append(Line((at(c, t["A"]), at(c, width - t["C"])), "grain", width=3))
    return items


def _names(box: Box, at: Callable[[float, float], Point]) -> list[Primitive]:
    """The names of the sides."""
    length, width, _ = box.outside
    t = box.thickness
    items: list[Primitive] = []
    for name, x, y in (
        ("A", length / 2, t["A"] / 2),
        ("C", length / 2, width - t["C"] / 2),
        ("D", t["D"] / 2, width / 2),
        ("B", length - t["B"] / 2, width / 2),
    ):
        items.append(Text(at(x, y), name, bold=True, size=14, halo=True))
    return items
