"""Boards to scale, one under the other: as found with their faults, or as laid out and sawn."""

from __future__ import annotations

import math
from collections.abc import Mapping

from nullah.core.document import Board, Defect
from nullah.core.drawing import Area, Dimension, Drawing, Line, Point, Primitive, Text, rectangle
from nullah.core.layout.model import leaves
from nullah.core.measure import marked
from nullah.core.pictures.wood import end_arcs, face_figure
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.timber import Span
from nullah.core.wood.moisture import sawn_name

GAP = 215.0  # mm between boards, where their names stand
END_AT = 40.0  # mm right of the board, where its end grain is drawn


def rows(boards: tuple[Board, ...], gap: float = GAP) -> dict[str, float]:
    """Where each board's lower edge lies, the first board uppermost."""
    at, out = 0.0, {}
    for b in boards:
        at -= b.width
        out[b.id] = at
        at -= gap
    return out


def as_found(boards: tuple[Board, ...], spans: Mapping[str, Span], chosen: str = "") -> Drawing:
    """Each board with figure, faults, what is trimmed off, and its end grain beside it."""
    items: list[Primitive] = []
    for b in boards:
        y = rows(boards)[b.id]
        items += _ground(b, y, chosen == b.id)
        span = spans.get(b.id)
        if span is not None:
            items += _trims(b, y, span)
        items += [p for d in b.defects for p in fault(b, d, y)]
        end_x = b.length + END_AT
        items.append(Area(rectangle(end_x, y, b.thickness * 2, b.width), "end grain", edge="outline"))
        items += _turned(end_arcs(0, 0, b.width, b.thickness * 2, b.ring_angle, b.heart_side == "back"), end_x, y)
        items.append(Text((end_x, y - 22), sawn_name(b.ring_angle), size=11, ink="quiet", align="left"))
        words = f"{b.name}  {b.species}, {marked(b.thickness)} thick, {b.moisture:g} %"
        items.append(
            Text((0, y + b.width + 30), words, size=13, bold=chosen == b.id, align="left", tag=f"board:{b.id}")
        )
        items.append(Dimension((0, y), (b.length, y), b.length, -15, edit=f"board.{b.id}.length"))
        items.append(Dimension((0, y), (0, y + b.width), b.width, 15, edit=f"board.{b.id}.width"))
    return Drawing(tuple(items))


def _turned(items: tuple[Primitive, ...], x: float, y: float) -> list[Primitive]:
    """An end drawn lying is stood upright: its width runs up the picture."""
    return [
        Line(tuple((x + q, y + p) for p, q in item.points), item.ink, width=item.width)
        for item in items
        if isinstance(item, Line)
    ]


def _ground(b: Board, y: float, chosen: bool) -> list[Primitive]:
    items: list[Primitive] = [
        Area(rectangle(0, y, b.length, b.width), "wood", edge="lit" if chosen else "outline", tag=f"board:{b.id}")
    ]
    items += face_figure(0, y, b.length, b.width, b.ring_angle, 8)
    if b.straight_edge != "neither":
        edge = y if b.straight_edge == "lower" else y + b.width
        items.append(Line(((0, edge), (b.length, edge)), "computed", width=2.2))
    return items


def _trims(b: Board, y: float, span: Span) -> list[Primitive]:
    items: list[Primitive] = []
    for x, length in ((0.0, span.x0), (span.x1, b.length - span.x1)):
        if length > 0.5:
            items.append(Area(rectangle(x, y, length, b.width), "waste", hatch=True, tag=f"board:{b.id}"))
            line = span.x0 if x == 0.0 else span.x1
            items.append(Line(((line, y - 6), (line, y + b.width + 6)), "decision", width=1.6))
    return items


def fault(b: Board, d: Defect, y: float) -> list[Primitive]:
    """One fault, drawn as what it is, never by colour alone."""
    tag = f"fault:{b.id}/{d.id}"
    x, low, long, w = d.x, y + d.y, min(d.length, b.length - d.x), min(d.width, b.width - d.y)
    if "knot" in d.kind:
        ring = _oval(x + long / 2, low + w / 2, long / 2, w / 2)
        core = _oval(x + long / 2, low + w / 2, long / 5, w / 5)
        items: list[Primitive] = [
            Area(ring, "wood dark", edge="fault", tag=tag, hint=d.kind),
            Area(core, "fault", tag=tag),
        ]
        if d.kind == "loose knot":
            items.append(
                Line(
                    (*_oval(x + long / 2, low + w / 2, long / 2, w / 2.0), (x + long, low + w / 2)), "fault", width=2.4
                )
            )
            items.append(Line(((x, low), (x + long, low + w)), "fault", width=1.4))
            items.append(Line(((x, low + w), (x + long, low)), "fault", width=1.4))
        return items
    if d.kind in ("check", "split"):
        middle = low + w / 2
        zig: tuple[Point, ...] = tuple(
            (x + long * i / 8, middle + (w / 3 if i % 2 else -w / 3) * (1 - abs(i - 4) / 8)) for i in range(9)
        )
        return [
            Area(rectangle(x, low, long, w), "decision wash", tag=tag, hint=d.kind),
            Line(zig, "fault", width=2.0, tag=tag),
        ]
    ink = "offcut" if d.kind == "sapwood" else "waste" if d.kind == "wane" else "wood dark"
    items = [Area(rectangle(x, low, long, w), ink, hatch=d.kind != "sapwood", edge="fault", tag=tag, hint=d.kind)]
    if long > 60:
        items.append(Text((x + long / 2, low + w / 2), d.kind, size=10, ink="fault", tag=tag, halo=True))
    return items


def _oval(cx: float, cy: float, rx: float, ry: float) -> tuple[Point, ...]:
    return tuple((cx + rx * math.cos(i * math.pi / 12), cy + ry * math.sin(i * math.pi / 12)) for i in range(24))


def laid_out(
    boards: tuple[Board, ...], result: BreakdownResult, chosen: str = "", cut_parts: frozenset[str] = frozenset()
) -> Drawing:
    """The accepted layout on the boards that are sawn, cuts numbered in order, offcuts and waste told apart by words too."""
    used = (
        tuple(b for b in boards if any(x.board == b.id for x in (result.layout.boards if result.layout else ())))
        or boards
    )
    at = rows(used, 105.0)
    roots = {x.board: x.root for x in (result.layout.boards if result.layout else ())}
    items: list[Primitive] = []
    for b in used:
        y = at[b.id]
        items.append(Area(rectangle(0, y, b.length, b.width), "waste", hatch=True, edge="outline", tag=f"board:{b.id}"))
        if b.id in roots:
            for leaf in leaves(roots[b.id]):
                if leaf.use == "part":
                    ink = "settled wash" if leaf.part in cut_parts else "wood"
                    lit = leaf.part == chosen
                    items.append(
                        Area(
                            rectangle(leaf.x, y + leaf.y, leaf.length, leaf.width),
                            ink,
                            edge="lit" if lit else "outline",
                            tag=f"part:{leaf.part}",
                            hint=f"{leaf.part}: {marked(leaf.length, 0)} x {marked(leaf.width, 0)}",
                        )
                    )
                    items += face_figure(leaf.x, y + leaf.y, leaf.length, leaf.width, b.ring_angle, 4)
                elif leaf.use == "offcut":
                    items.append(
                        Area(
                            rectangle(leaf.x, y + leaf.y, leaf.length, leaf.width),
                            "offcut",
                            edge="outline",
                            hint=f"offcut {marked(leaf.length, 0)} x {marked(leaf.width, 0)}",
                        )
                    )
                    if leaf.length > 180 and leaf.width > 40:
                        items.append(
                            Text(
                                (leaf.x + leaf.length / 2, y + leaf.y + leaf.width / 2),
                                f"offcut {marked(leaf.length, 0)} x {marked(leaf.width, 0)}",
                                size=11,
                                ink="quiet",
                            )
                        )
        else:
            items.append(Area(rectangle(0, y, b.length, b.width), "wood", edge="outline", tag=f"board:{b.id}"))
            items += face_figure(0, y, b.length, b.width, b.ring_angle, 6)
        items += [p for d in b.defects for p in fault(b, d, y)]
        for leaf in leaves(roots[b.id]) if b.id in roots else ():
            if leaf.use == "part":
                size = 17 if leaf.length > 60 else 12
                items.append(
                    Text(
                        (leaf.x + leaf.length / 2, y + leaf.y + leaf.width / 2),
                        leaf.part,
                        size=size,
                        bold=True,
                        halo=True,
                        tag=f"part:{leaf.part}",
                    )
                )
        items += _saw_lines(result, b.id, y, b)
        items.append(
            Text(
                (0, y - 26),
                f"{b.name}, {b.species}, {marked(b.length)} x {marked(b.width)} x {marked(b.thickness)}",
                size=12,
                align="left",
                ink="quiet",
                tag=f"board:{b.id}",
            )
        )
    return Drawing(tuple(items))


def _saw_lines(result: BreakdownResult, board: str, y: float, b: Board) -> list[Primitive]:
    items: list[Primitive] = []
    for cut in result.cuts:
        if cut.board != board:
            continue
        n = cut.node
        if n.axis == "across":
            a, z = (n.at + n.kerf / 2, y + n.y), (n.at + n.kerf / 2, y + n.y + n.width)
            label = (a[0], y + b.width + 8)
        else:
            a, z = (n.x, y + n.at + n.kerf / 2), (n.x + n.length, y + n.at + n.kerf / 2)
            label = (n.x + min(16.0, n.length / 2), a[1])
        items.append(Line((a, z), "kerf", width=1.8, tag=f"cut:{cut.number}"))
        items.append(
            Text(label, str(cut.number), size=11, bold=True, ink="computed", halo=True, tag=f"cut:{cut.number}")
        )
    return items
