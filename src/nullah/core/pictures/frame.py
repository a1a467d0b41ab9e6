"""The frame from above with its diagonals, and how it racks, drawn larger than life."""

from __future__ import annotations

import math

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Point, Primitive, Text
from nullah.core.pictures.in_hand import box_round, shown
from nullah.core.planning.plan import Plan
from nullah.core.stations.together import TogetherResult

FLAT = 0.999  # cosine: a part whose thickness stands upright lies flat, and is no part of the frame


def of(plan: Plan) -> Drawing:
    """The frame of the piece in hand with its diagonals; empty where nothing goes together."""
    result = plan.together
    return Drawing() if result is None else picture(result, footprints(plan))


def footprints(plan: Plan) -> tuple[tuple[str, str, Point, Point], ...]:
    """Of every part of the piece in hand that stands upright in it what it is called, its species, and the low and the high corner of
    where it stands, mm from the corner of them all."""
    found = shown(plan, True)
    if found is None:
        return ()
    worked = plan.piece.in_hand.worked
    inner = {p.id for p in worked.sizes.design.parts if p.frame} if worked is not None else set()  # a drawer, say
    standing = [b for b in found.bodies if abs(b.placed.axes[2][2]) <= FLAT and b.placed.id not in inner]
    if not standing:
        return ()
    low, _ = box_round(tuple(standing))
    out = []
    for body in standing:
        a, b = box_round((body,))
        ends = ((a[0] - low[0], a[1] - low[1]), (b[0] - low[0], b[1] - low[1]))
        out.append((found.called[body.part], found.wood[body.part].species, *ends))
    return tuple(out)


def picture(result: TogetherResult, stands: tuple[tuple[str, str, Point, Point], ...] = ()) -> Drawing:
    """Outline, what stands in it, both diagonals; pushed out of square as measured, ten times over."""
    length, width = result.frame
    square = result.squareness
    lean = 0.0
    if square is not None:
        lean = max(-0.35, min(0.35, math.radians(90 - square.corner) * 10)) * width

    def at(x: float, y: float) -> tuple[float, float]:
        return (x + lean * y / width, y)

    outer = (at(0, 0), at(length, 0), at(length, width), at(0, width))
    items: list[Primitive] = [Area(outer, "panel", edge="outline")]
    for _, species, (x0, y0), (x1, y1) in stands:
        items.append(Area((at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)), f"end {species}", edge="outline"))
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
    for called, _, (x0, y0), (x1, y1) in stands:
        items.append(Text(at((x0 + x1) / 2, (y0 + y1) / 2), called, bold=True, size=13, halo=True, room=x1 - x0))
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
