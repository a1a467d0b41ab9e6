"""One board, unfolded as it is turned over: face, edge, back, edge in register, and both ends with their rings, much larger.

Lengthwise all panels share x. The panel in hand lies lowest but for an edge; above it come the edge it is turned over, the other side,
mirrored as turning over mirrors it, and the other edge stands below. ``Unfolded`` knows where each lies, and what place on the board a
place of the drawing is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property

from nullah.core.document.project import Board, Defect, Reading
from nullah.core.drawing.display_list import (
    Area,
    Dimension,
    Drawing,
    Handle,
    Line,
    Point,
    Primitive,
    Text,
    moved,
    rectangle,
)
from nullah.core.layout.taper import clipped
from nullah.core.pictures.boards import told
from nullah.core.pictures.wood import back_figure, edge_figure, edge_mark, end_grain, face_mark, fault, figure
from nullah.core.stations.as_made import SHEETS, wood_of
from nullah.core.stations.timber import Span
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import marked
from nullah.core.wood.moisture import change, sawn_name
from nullah.core.wood.rings import rings
from nullah.core.wood.species import species
from nullah.core.wood.warp import end_changes

ON_EDGE = 2.0  # mm: a fault so near to an edge shows on it
LARGER = 12.0  # times larger than life what drying does to an end is drawn
LEAST_CUP, LEAST_MOVE = 0.25, 0.25  # mm: less is not told
DIAL = 0.62  # of the width of an end: how far from its middle the hand on the pith stands


@frozen
class Panel:
    """A side or an edge in the drawing: what it is, where its lower edge lies, how wide it is; ``turned``: mirrored up and down."""

    name: str
    y: float
    width: float
    turned: bool

    def up(self, across: float) -> float:
        """Where a place ``across`` the board, mm from its lower edge (or its back, on an edge), lies up the drawing."""
        return self.y + (self.width - across if self.turned else across)

    def across(self, up: float) -> float:
        """The place across the board that lies so far up the drawing."""
        return self.y + self.width - up if self.turned else up - self.y


@frozen
class Unfolded:
    """Where the panels of a board lie in its drawing, mm. ``over``: it is turned over, its back in hand."""

    board: Board
    over: bool = False

    @property
    def gap(self) -> float:
        """Between two panels, mm."""
        return max(14.0, 0.028 * self.board.length, 0.07 * self.board.width)

    @cached_property
    def panels(self) -> dict[str, Panel]:
        """The panels by name: face, back, upper edge, lower edge."""
        b = self.board
        low, high = ("upper edge", "lower edge") if self.over else ("lower edge", "upper edge")
        front, behind = ("back", "face") if self.over else ("face", "back")
        w, t, g = b.width, b.thickness, self.gap
        return {
            front: Panel(front, 0.0, w, self.over),
            high: Panel(high, w + g, t, not self.over),
            behind: Panel(behind, w + t + 2 * g, w, not self.over),
            low: Panel(low, -g - t, t, self.over),
        }

    @property
    def bounds(self) -> tuple[float, float]:
        """The lowest and the highest of the panels."""
        b = self.board
        return -self.gap - b.thickness, 2 * b.width + b.thickness + 2 * self.gap

    @property
    def end_scale(self) -> float:
        """How many times larger than life the ends are drawn."""
        low, high = self.bounds
        return min((high - low) / (self.board.width * 1.25), 0.11 * self.board.length / self.board.thickness)

    def end_at(self, left: bool) -> Point:
        """The lower left corner of an end as drawn, its width upright."""
        low, high = self.bounds
        thick, k = self.board.thickness * self.end_scale, self.end_scale
        y = (low + high - self.board.width * k) / 2
        aside = self.gap * 2.2
        return (-aside - thick, y) if left else (self.board.length + aside, y)

    def side_at(self, x: float, y: float) -> tuple[str, float] | None:
        """The side (face or back) that a place of the drawing lies on, within half a gap, and how far up the board; None beside it."""
        for name in ("face", "back"):
            panel = self.panels[name]
            slack = self.gap / 2
            if panel.y - slack <= y <= panel.y + panel.width + slack and -slack <= x <= self.board.length + slack:
                return name, min(max(0.0, panel.across(y)), panel.width)
        return None

    def dial(self) -> tuple[Point, float]:
        """The middle of the left end as drawn, and how far from it the hand on the pith stands."""
        x, y = self.end_at(True)
        k = self.end_scale
        return (x + self.board.thickness * k / 2, y + self.board.width * k / 2), DIAL * self.board.width * k / 2

    def pith_way(self) -> Point:
        """The way from the middle of the left end to the pith, in the drawing; of length one."""
        b = self.board
        y, z = rings(wood_of(b), b.length, b.width, b.thickness).pith(0.0)
        out, up = z - b.thickness / 2, y - b.width / 2
        far = math.hypot(out, up) * (-1.0 if self.over else 1.0)
        return out / far, up / far


def unfolded(
    at: Unfolded,
    span: Span | None,
    chosen: str = "",
    readings: tuple[Reading, ...] = (),
    settles: float | None = None,
    bare: tuple[str, ...] = (),
) -> Drawing:
    """The drawing of one board.

    Args:
        chosen: the id of the fault in hand.
        readings: of the board; those of its thickness are drawn.
        settles: percent that the room will make of it, to draw what that does to the end; None: nothing is drawn.
        bare: sides that a photograph lies under, drawn without wood.
    """
    b = at.board
    size = (b.length, b.width, b.thickness)
    items: list[Primitive] = []
    for side in ("face", "back"):
        items += _side(at, side, side in bare)
    for upper in (True, False):
        items += _edge(at, upper)
    becomes = None
    if settles is not None and b.stock not in SHEETS:
        becomes = end_changes(wood_of(b), size, b.moisture, settles, LARGER)
    for left in (True, False):
        items += _end(at, left, becomes[0] if becomes is not None and left else None, size)
    if span is not None:
        items += _trims(at, span)
    items += [p for r in readings if r.kind == "thickness" for p in _thickness(at, r)]
    for d in b.defects:
        items += _faults(at, d, d.id == chosen)
    items += _sizes(at)
    if settles is not None and becomes is not None:
        items.append(_what_it_will_do(at, settles, becomes[1]))
    low, high = at.bounds
    left_x, right_x = at.end_at(True)[0], at.end_at(False)[0] + b.thickness * at.end_scale
    return Drawing(tuple(items), bounds=(left_x, low, right_x, high))


def _side(at: Unfolded, side: str, bare: bool) -> list[Primitive]:
    b, panel = at.board, at.panels[side]
    wood = () if bare else figure(wood_of(b), (b.length, b.width, b.thickness))
    lines = list(wood if side == "face" or bare else back_figure(wood_of(b), (b.length, b.width, b.thickness)))
    ink = "" if bare else f"wood {b.species}"
    items: list[Primitive] = [
        Area(
            rectangle(0, panel.y, b.length, b.width),
            ink,
            edge="outline",
            tag=f"board:{b.id}",
            hint=f"{side} of {told(b)}",
        ),
        *_placed(lines, panel),
        *_past_the_edges(b, panel, side),
    ]
    if side == "face":
        edge = 0.0 if b.straight_edge == "lower" else b.width
        if b.straight_edge != "neither":
            items.append(Line(((0, panel.up(edge)), (b.length, panel.up(edge))), "computed", width=2.2))
            inward = 1 if (b.straight_edge == "lower") != panel.turned else -1
            size = min(60.0, b.width * 0.35) * inward
            items += [*face_mark(b.length / 2, panel.up(edge), size), *edge_mark(b.length / 2, panel.up(edge), size)]
    items.append(Text((0, panel.y + b.width + at.gap * 0.45), side, size=11, ink="quiet", align="left", tall=at.gap))
    return items


def _placed(lines: list[Line], panel: Panel) -> list[Primitive]:
    """Lines given from the board's lower edge, on a panel."""
    return [replace(line, points=tuple((x, panel.up(y)) for x, y in line.points)) for line in lines]


def _past_the_edges(b: Board, panel: Panel, side: str) -> list[Primitive]:
    """No wood past a tapering or wany edge: paper and the edge as a line, on the face with a hand at each of its points."""
    items: list[Primitive] = []
    for which, points, past in (("upper", b.upper, b.width + 0.5), ("lower", b.lower, -0.5)):
        if not points:
            continue
        edge = tuple((x, panel.up(h)) for x, h in clipped(points, 0.0, b.length))
        items.append(Area((*edge, (b.length, panel.up(past)), (0.0, panel.up(past))), "ground"))
        items.append(Line(edge, "outline", width=1.8))
        if side == "face":
            items += [
                Handle((x, panel.up(h)), f"edgepoint:{b.id}/{which}/{n}", "both", f"a point of the {which} edge")
                for n, (x, h) in enumerate(points)
                if x <= b.length
            ]
    return items


def _edge(at: Unfolded, upper: bool) -> list[Primitive]:
    """An edge: its figure, and what of the faults comes out there."""
    b = at.board
    name = "upper edge" if upper else "lower edge"
    panel = at.panels[name]
    items: list[Primitive] = [
        Area(
            rectangle(0, panel.y, b.length, b.thickness),
            f"wood {b.species}",
            edge="outline",
            tag=f"board:{b.id}",
            hint=f"{name} of {b.name}",
        ),
        *_placed(edge_figure(wood_of(b), (b.length, b.width, b.thickness), upper), panel),
    ]
    for d in b.defects:
        comes_out = d.y + d.width >= b.width - ON_EDGE if upper else d.y <= ON_EDGE
        if comes_out and d.kind != "wane":
            z0, z1 = _depths(d, b.thickness)
            low, high = sorted((panel.up(z0), panel.up(z1)))
            shape = rectangle(d.x, low, min(d.length, b.length - d.x), high - low)
            items.append(Area(shape, "wood dark", edge="fault", hint=d.kind, opacity=0.8, tag=f"fault:{b.id}/{d.id}"))
    words = (0, panel.y + b.thickness + at.gap * 0.4)
    items.append(Text(words, name, size=11, ink="quiet", align="left", tall=at.gap))
    return items


def _depths(d: Defect, thickness: float) -> tuple[float, float]:
    """From where to where a fault lies, mm from the back; how far down one of a single side goes is not known: half the thickness."""
    if d.face == "both":
        return 0.0, thickness
    far = min(thickness, d.depth + thickness / 2)
    return (
        (thickness - far, thickness - min(d.depth, thickness)) if d.face == "face" else (min(d.depth, thickness), far)
    )


def _end(
    at: Unfolded, left: bool, becomes: Sequence[Point] | None, size: tuple[float, float, float]
) -> list[Primitive]:
    """An end, upright, its face to the board's middle, with its rings; ``becomes``: its outline as the room will make it, much larger
    than life."""
    b, k = at.board, at.end_scale
    x, y = at.end_at(left)
    tag = f"board:{b.id}"

    def place(p: Point) -> Point:  # (from the back, from the lower edge), k times
        up = b.width * k - p[1] if at.over else p[1]
        out = p[0] if left != at.over else b.thickness * k - p[0]
        return (x + out, y + up)

    arcs = end_grain(wood_of(b), size, (0.0, 0.0), k, upright=True)
    items: list[Primitive] = [
        Area(rectangle(x, y, b.thickness * k, b.width * k), f"end {b.species}", edge="outline", tag=tag)
    ]
    items += [replace(line, points=tuple(map(place, line.points))) for line in arcs]
    if becomes is not None:
        outline = tuple(place((z * k, across * k)) for across, z in (*becomes, becomes[0]))
        items.append(Line(outline, "decision", dash=True, width=1.6))
    words = f"left end: {sawn_name(b.ring_angle)}, {b.ring_angle:.0f}\u00b0" if left else "right end"
    edge = x + b.thickness * k if left else x
    up = y + b.width * k + at.gap * 0.45
    items.append(Text((edge, up), words, size=11, ink="quiet", align="right" if left else "left", tall=at.gap * 2))
    if left:
        (cx, cy), reach = at.dial()
        out, up = (way * reach for way in at.pith_way())
        items.append(Line(((cx, cy), (cx + out, cy + up)), "computed", dash=True, width=1.2))
        hint = "points to the pith; turn it until the rings look like those in the hand"
        items.append(Handle((cx + out, cy + up), f"rings:{b.id}/{int(at.over)}", "both", hint))
    return items


def _what_it_will_do(at: Unfolded, settles: float, hollow: float) -> Text:
    """What the room does to the board, in words over its right end; ``hollow``: how far it cups, mm."""
    b = at.board
    moves = change(species(b.species), b.width, b.moisture, settles, b.ring_angle)
    high = at.bounds[1]
    if abs(b.moisture - settles) < 0.05:
        words = f"settled: the room keeps it at {settles:.1f} %"
    else:
        side = "face" if hollow > 0 else "back"
        much = (
            f"{'narrows' if moves < 0 else 'widens'} {marked(abs(moves))}"
            if abs(moves) >= LEAST_MOVE
            else "hardly moves"
        )
        words = f"from {b.moisture:g} to {settles:.1f} % it {much}" + (
            f" and cups {marked(abs(hollow))}, hollow on the {side}" if abs(hollow) >= LEAST_CUP else ""
        )
    return Text((b.length, high + at.gap * 0.45), words, size=11, ink="decision", align="right")


def _trims(at: Unfolded, span: Span) -> list[Primitive]:
    """What falls away at the ends, on face and back alike."""
    b, items = at.board, list[Primitive]()
    for x, long in ((0.0, span.x0), (span.x1, b.length - span.x1)):
        if long > 0.5:
            line = span.x0 if x == 0.0 else span.x1
            for side in ("face", "back"):
                panel = at.panels[side]
                shape = rectangle(x, panel.y, long, b.width)
                items.append(Area(shape, "waste", hatch=True, opacity=0.5, tag=f"board:{b.id}"))
                items.append(Line(((line, panel.y - 5), (line, panel.y + b.width + 5)), "decision", width=1.6))
    return items


def _thickness(at: Unfolded, r: Reading) -> list[Primitive]:
    """A caliper's reading where it was taken."""
    panel = at.panels["face"]
    spot = (r.at, panel.up(r.across))
    return [
        Line(((spot[0] - 4, spot[1]), (spot[0] + 4, spot[1])), "computed", width=1.6),
        Line(((spot[0], spot[1] - 4), (spot[0], spot[1] + 4)), "computed", width=1.6),
        Text((spot[0] + 7, spot[1]), marked(r.value), size=11, ink="computed", align="left", halo=True),
    ]


def _shows_on(d: Defect, side: str) -> bool:
    """Whether a fault is seen on a side as the board lies there."""
    return d.face in ("both", side) and d.depth == 0


def _faults(at: Unfolded, d: Defect, lit: bool) -> list[Primitive]:
    """A fault on both sides, as it is where it shows and dashed where it does not; the one in hand with its sizes."""
    b, items = at.board, list[Primitive]()
    low, long, wide = d.y, min(d.length, b.length - d.x), min(d.width, b.width - d.y)
    for side in ("face", "back"):
        panel = at.panels[side]
        y0 = min(panel.up(low), panel.up(low + wide))
        shape = rectangle(d.x, y0, long, wide)
        tag = f"fault:{b.id}/{d.id}" if not panel.turned else f"fault-turned:{b.id}/{d.id}"
        if _shows_on(d, side):
            as_seen = d.model_copy(update={"y": 0.0, "length": long, "width": wide})
            drawn = moved(fault(b, as_seen, 0.0, named=True), 0.0, y0)
            items += [replace(p, tag=tag) if getattr(p, "tag", "") else p for p in drawn]
        else:
            near = d.face == side
            items.append(Area(shape, "", tag=tag if near else "", hint=f"{d.kind}, {_under(d)}", opacity=0.0))
            items.append(Line((*shape, shape[0]), "fault", dash=True, width=1.4 if near else 0.9))
            if near:
                middle = (d.x + long / 2, y0 - at.gap * 0.55)
                items.append(Text(middle, f"{marked(d.depth)} under", size=10, ink="fault", halo=True, room=long * 3))
    if lit:
        front = next(p for p in at.panels.values() if p.y == 0.0)
        y0 = min(front.up(low), front.up(low + wide))
        shape = rectangle(d.x - 2, y0 - 2, long + 4, wide + 4)
        items.append(Line((*shape, shape[0]), "lit", width=2.0))
        corner = (d.x + long, front.up(low + wide))
        items.append(
            Handle(corner, f"fault-size:{b.id}/{d.id}/{int(front.turned)}", "both", "pull it larger or smaller")
        )
    return items


def _under(d: Defect) -> str:
    if d.depth > 0:
        return f"{marked(d.depth)} under the {'face' if d.face == 'both' else d.face}"
    return "right through" if d.face == "both" else f"on the {d.face}"


def _sizes(at: Unfolded) -> list[Primitive]:
    """Length, width and thickness, to type on and to pull."""
    b = at.board
    low = at.panels["upper edge" if at.over else "lower edge"]
    front = at.panels["back" if at.over else "face"]
    edge_of_width = front.up(b.width)
    return [
        Dimension((0, low.y), (b.length, low.y), b.length, -14, edit=f"board.{b.id}.length"),
        Dimension((0, front.y), (0, front.y + b.width), b.width, 13, edit=f"board.{b.id}.width"),
        Dimension((b.length, low.y), (b.length, low.y + b.thickness), b.thickness, -13, edit=f"board.{b.id}.thickness"),
        Handle((b.length, front.y + b.width / 2), f"edge:{b.id}/length", "along", "pull the end"),
        *(
            [Handle((b.length * 0.68, edge_of_width), f"edge:{b.id}/width", "up", "pull the edge")]
            if not b.upper and not at.over
            else []
        ),
    ]
