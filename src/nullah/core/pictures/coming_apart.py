"""Boards sawn up step by step: after so many cuts, the pieces drawn apart and the next cut's line on its piece."""

from __future__ import annotations

from collections.abc import Mapping

from nullah.core.document.project import Board, Defect, Node
from nullah.core.drawing.display_list import Area, Drawing, Line, Point, Primitive, Text, rectangle
from nullah.core.layout.model import leaves
from nullah.core.layout.saw import SawCut
from nullah.core.pictures.boards import MANY, SAWN_GAP, SHORT
from nullah.core.pictures.wood import fault
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.values.frozen import frozen, replace

PARTED = 30.0  # mm: how far pieces are drawn apart that a cut has parted


def coming_apart(boards: tuple[Board, ...], result: BreakdownResult, done: int) -> Drawing:
    """The boards after ``done`` cuts; later cuts are left out, parts not yet free are dashed."""
    roots = {x.board: x.root for x in (result.layout.boards if result.layout else ())}
    cuts = {id(c.node): c for c in result.cuts}
    items: list[Primitive] = []
    y = 0.0
    for b in boards:
        if b.id not in roots:
            continue
        drawn, long, tall = _Sawn(b, cuts, done, result.cut).pieces(roots[b.id], (0.0, 0.0))
        y -= tall
        items += [moved(p, (0.0, y)) for p in drawn]
        many = len(roots) > MANY  # then the names stand beside them
        at, words = ((long + 30, y + tall / 2), b.name) if many else ((0.0, y - 30), f"{b.name}, {b.species}")
        items.append(Text(at, words, size=12, align="left", ink="quiet", tag=f"board:{b.id}"))
        y -= SAWN_GAP
    return Drawing(tuple(items))


def moved(item: Primitive, by: Point) -> Primitive:
    """An area, a line or words, moved."""

    def at(p: Point) -> Point:
        return (p[0] + by[0], p[1] + by[1])

    if isinstance(item, Area | Line):
        return replace(item, points=tuple(at(p) for p in item.points))
    return replace(item, at=at(item.at)) if isinstance(item, Text) else item


@frozen
class _Sawn:
    """One board after so many cuts."""

    board: Board
    cuts: Mapping[int, SawCut]  # by the identity of their nodes
    done: int
    cut_parts: frozenset[str]

    def pieces(self, node: Node, by: Point) -> tuple[list[Primitive], float, float]:
        """A piece, or what has been parted of it, moved ``by``; and how far right and up it reaches, mm."""
        cut = self.cuts.get(id(node))
        if cut is not None and cut.number <= self.done:
            return self._parted(node, by)
        if node.length <= 0 or node.width <= 0:
            return [], 0.0, 0.0
        items = [moved(p, by) for p in (*self._piece(node), *self._next(node, cut))]
        return items, node.x + by[0] + node.length, node.y + by[1] + node.width

    def _parted(self, node: Node, by: Point) -> tuple[list[Primitive], float, float]:
        low, high = node.children
        first, right, top = self.pieces(low, by)
        if node.axis == "across":
            further = (by[0] + max(0.0, right - low.x - low.length - by[0]) + PARTED, by[1])
        else:
            further = (by[0], by[1] + max(0.0, top - low.y - low.width - by[1]) + PARTED)
        second, more_right, more_top = self.pieces(high, further)
        return first + second, max(right, more_right), max(top, more_top)

    def _piece(self, node: Node) -> list[Primitive]:
        """The wood of a piece with the faults that lie on it, and its parts by name."""
        mine = [n for n in leaves(node) if n.use == "part"]
        shape = rectangle(node.x, node.y, node.length, node.width)
        items: list[Primitive] = [
            Area(shape, f"wood {self.board.species}", edge="outline", tag=f"board:{self.board.id}")
        ]
        if not mine:
            kind = "offcut" if any(n.use == "offcut" for n in leaves(node)) else "waste"
            items.append(Area(shape, kind, hatch=kind == "waste", opacity=0.6))
        items += [p for d in self.board.defects if _on(d, node) for p in fault(self.board, d, 0.0, named=False)]
        free = node.use == "part"
        for n in mine:
            corners = rectangle(n.x, n.y, n.length, n.width)
            if not free:
                items.append(Line((*corners, corners[0]), "faint", dash=True))
            words = n.part + (" \u2713" if n.part in self.cut_parts else "")
            middle, ink = (n.x + n.length / 2, n.y + n.width / 2), "ink" if free else "quiet"
            size = 17 if n.length > 60 and len(n.part) <= SHORT else 12
            room, tall = n.length * 1.2, n.width * 1.6
            items.append(
                Text(
                    middle, words, size=size, bold=free, ink=ink, halo=True, tag=f"part:{n.part}", room=room, tall=tall
                )
            )
        return items

    def _next(self, node: Node, cut: SawCut | None) -> list[Primitive]:
        """The line of the next cut, a little over the piece at both ends, with its number."""
        if cut is None or cut.number != self.done + 1:
            return []
        (x0, y0), (x1, y1) = cut.line
        tag = f"cut:{cut.number}"
        across = cut.kind == "crosscut"
        over = (0.0, 8.0) if across else (8.0, 0.0)
        ends = ((x0 - over[0], y0 - over[1]), (x1 + over[0], y1 + over[1]))
        spot = (x0 + 34, y0 + 0.16 * node.width) if across else (x0 + 40, y0)
        return [
            Line(ends, "computed", width=2.8, tag=tag),
            Text(spot, str(cut.number), size=13, bold=True, ink="computed", halo=True, tag=tag),
        ]


def _on(d: Defect, node: Node) -> bool:
    """Whether a fault lies wholly on a piece."""
    along = node.x <= d.x and d.x + d.length <= node.x + node.length
    return along and node.y <= d.y and d.y + d.width <= node.y + node.width
