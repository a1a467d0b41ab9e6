"""Boards laid out and sawn, from the planner's own values: for a layout made without a project."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.document.project import BoardLayout
from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text, rectangle
from nullah.core.layout.model import Stock, leaves
from nullah.core.layout.saw import SawCut
from nullah.core.values.measure import marked
from nullah.core.wood.species import ALL, own

GAP = 110.0  # mm between boards, where their names and the numbers of crosscuts stand


def drawing(
    stock: Sequence[Stock], boards: Sequence[BoardLayout], saw: Sequence[SawCut], name: Callable[[str], str]
) -> Drawing:
    """Each board that is sawn, the first uppermost: parts with names, waste hatched, faults, cuts with their numbers."""
    by_id = {s.id: s for s in stock}
    items: list[Primitive] = []
    y = 0.0
    for b in boards:
        s = by_id[b.board]
        y -= s.width
        items += board(s, b, [c for c in saw if c.board == b.board], y, name)
        y -= GAP
    return Drawing(tuple(items))


def board(
    s: Stock, layout: BoardLayout, saw: Sequence[SawCut], y: float, name: Callable[[str], str]
) -> list[Primitive]:
    """One board with its lower edge at ``y``."""
    wood = f"wood {s.species}" if s.species in ALL or own(s.species) else "wood"
    items: list[Primitive] = [Area(rectangle(0, y, s.length, s.width), wood, edge="outline")]
    for n in leaves(layout.root):
        if n.length <= 0 or n.width <= 0:
            continue
        shape = rectangle(n.x, y + n.y, n.length, n.width)
        if n.use == "part":
            items.append(Area(shape, "", edge="outline"))
        else:
            items.append(
                Area(shape, "offcut" if n.use == "offcut" else "waste", hatch=True, edge="outline", opacity=0.6)
            )
    for x0, y0, x1, y1 in s.edges:
        items.append(Area(rectangle(x0, y + y0, x1 - x0, y1 - y0), "ground", opacity=0.9))
    for d in s.defects:
        long, wide = min(d.length, s.length - d.x), min(d.width, s.width - d.y)
        items.append(Area(rectangle(d.x, y + d.y, long, wide), "fault", edge="decision", hint=d.kind, opacity=0.45))
    for c in saw:
        (x0, y0), (x1, y1) = c.line
        items.append(Line(((x0, y + y0), (x1, y + y1)), "kerf", width=1.6))
        spot = (x0, y + s.width + 22) if c.kind == "crosscut" else (x0 + 0.36 * (x1 - x0), y + y0)
        items.append(Text(spot, str(c.number), size=9, bold=True, ink="computed", halo=True, tall=GAP / 2))
    for n in leaves(layout.root):
        if n.use == "part":
            middle = (n.x + n.length / 2, y + n.y + n.width / 2)
            items.append(Text(middle, name(n.part), size=11, bold=True, halo=True, room=n.length, tall=n.width))
    size = f"{marked(s.length)} x {marked(s.width)} x {marked(s.thickness)}"
    items.append(Text((0, y - 26), f"{s.name}, {s.species}, {size}", size=11, align="left", ink="quiet"))
    return items
