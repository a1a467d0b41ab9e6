"""Wood drawn as wood: face figure and end-grain arcs computed from the ring orientation.

Rings are cylinders about a pith line that leans a little along the board. On a face they cut hyperbolas (the cathedrals of
flatsawn stock) or near-straight lines (quartersawn); on an end they are arcs.
"""

from __future__ import annotations

import math
from functools import lru_cache

from nullah.core.drawing import Line, Point, Primitive

PITH = 95.0  # mm from the middle of the face to the pith
LEAN = 0.035  # the pith's lean along the board


@lru_cache(maxsize=256)  # pure, and the same boards are drawn again after every edit
def face_figure(
    x: float, y: float, length: float, width: float, ring_angle: float, lines: int = 11
) -> tuple[Primitive, ...]:
    """Lines of figure on a face whose lower-left corner is at (x, y), clipped to it; ring angle in degrees."""
    angle = math.radians(ring_angle)
    off, deep = PITH * math.sin(angle), PITH * math.cos(angle)
    near = math.hypot(max(0.0, off - width / 2), deep * 0.35)
    far = math.hypot(off + width / 2, deep + LEAN * length)
    out: list[Primitive] = []
    steps = 30
    for i in range(lines):
        radius = near + (far - near) * (i + 0.6) / lines
        for side in (1, -1) if ring_angle < 60 else (1,):
            run: list[Point] = []
            for k in range(steps + 1):
                along = length * k / steps
                depth = deep + LEAN * (along - length * 0.45) + 2.2 * math.sin(along / 170 + i)
                inside = radius * radius - depth * depth
                across = width / 2 - off + side * math.sqrt(inside) if inside >= 0 else math.nan
                if math.isnan(across) or not 0 <= across <= width:
                    if len(run) > 1:
                        out.append(Line(tuple(run), "grain", width=0.7))
                    run = []
                    continue
                run.append((x + along, y + across))
            if len(run) > 1:
                out.append(Line(tuple(run), "grain", width=0.7))
    return tuple(out)


@lru_cache(maxsize=256)
def end_arcs(
    x: float, y: float, wide: float, thick: float, ring_angle: float, bark_up: bool = True
) -> tuple[Primitive, ...]:
    """Arcs on an end ``wide`` by ``thick`` with its lower-left corner at (x, y)."""
    angle = math.radians(ring_angle)
    cx = wide / 2 - PITH * math.sin(angle)
    cy = thick / 2 + (-1 if bark_up else 1) * PITH * math.cos(angle)
    corners = [(0.0, 0.0), (wide, 0.0), (0.0, thick), (wide, thick)]
    reach = [math.hypot(px - cx, py - cy) for px, py in corners]
    out: list[Primitive] = []
    spacing = 4.5
    radius = math.ceil(min(*reach, abs(cy)) / spacing) * spacing
    while radius < max(reach):
        run: list[Point] = []
        for k in range(181):
            a = math.radians(k * 2)
            px, py = cx + radius * math.cos(a), cy + radius * math.sin(a)
            if 0 <= px <= wide and 0 <= py <= thick:
                run.append((x + px, y + py))
            else:
                if len(run) > 1:
                    out.append(Line(tuple(run), "quiet", width=0.8))
                run = []
        if len(run) > 1:
            out.append(Line(tuple(run), "quiet", width=0.8))
        radius += spacing
    return tuple(out)
