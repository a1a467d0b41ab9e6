"""The display list: every picture the program shows is one of these, in mm, y upward.

Renderers (screen, paper) turn ``ink`` names into colours and widths; nothing here knows either. ``tag`` ties a primitive
to what it shows: ``part:A``, ``setting:gauge-17.4``, ``edit:asked.wall``, so that a view can light or edit it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import field
from functools import cached_property

from nullah.core.values.frozen import frozen, replace

Point = tuple[float, float]


@frozen
class Line:
    """A polyline. ``dash`` for hidden edges and centre lines.

    ``detail`` is the distance in mm to the next line of its kind: where that is too few pixels to tell apart, renderers
    leave the line out. 0: always drawn.
    """

    points: tuple[Point, ...]
    ink: str = "outline"
    dash: bool = False
    tag: str = ""
    width: float = 1.0  # pen width in screen pixels at 100 %
    detail: float = 0.0


@frozen
class Area:
    """A closed polygon filled with ``ink`` ("" for none), ``opacity`` 0 to 1; ``hatch`` marks waste, never by colour alone."""

    points: tuple[Point, ...]
    ink: str = "wood"
    hatch: bool = False
    edge: str = ""
    tag: str = ""
    hint: str = ""
    opacity: float = 1.0


@frozen
class Text:
    """Words at a point. ``size`` in screen pixels at 100 %; ``align``: left, centre, right.

    ``room`` is the mm they have along, ``tall`` up: renderers leave them out where they would not fit. 0: always drawn. In the window
    what ``yields`` is left out where other words stand that were drawn before.
    """

    at: Point
    text: str
    ink: str = "ink"
    size: float = 12.0
    align: str = "centre"
    bold: bool = False
    tag: str = ""
    halo: bool = False
    room: float = 0.0
    tall: float = 0.0
    yields: bool = False


@frozen
class Dimension:
    """A measured distance from ``a`` to ``b``, drawn ``offset`` pixels to the left of the way from a to b.

    ``mm`` is what is shown (formatted by the renderer in the user's unit); ``edit`` names what typing here changes. Where it
    would be drawn shorter than ``least`` screen pixels at 100 %, renderers leave it out. 0: always drawn.
    """

    a: Point
    b: Point
    mm: float
    offset: float = 22.0
    label: str = ""
    ink: str = "dimension"
    edit: str = ""
    tag: str = ""
    least: float = 0.0


@frozen
class Handle:
    """Something to take hold of at a point; ``way``: along, up, both. ``tag`` names what a drag of it changes."""

    at: Point
    tag: str
    way: str = "both"
    hint: str = ""


Primitive = Line | Area | Text | Dimension | Handle

FINEST = 3.0  # pixels: detail nearer together than this is left out


@frozen
class Drawing:
    """A picture: what is drawn, in order, and its bounds (left, bottom, right, top) in mm."""

    items: tuple[Primitive, ...] = ()
    title: str = ""
    bounds: tuple[float, float, float, float] | None = field(default=None)
    under: Drawing | None = None  # painted first and kept while it stays the same: what does not move in a drag

    def extent(self) -> tuple[float, float, float, float]:
        """The given bounds, or those of all points; a unit square when empty."""
        return self._extent

    @cached_property
    def _extent(self) -> tuple[float, float, float, float]:
        if self.bounds is not None:
            return self.bounds
        points = [p for item in self.everything() if not _is_detail(item) for p in _points(item)]
        if not points:
            return (0.0, 0.0, 1.0, 1.0)
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return (min(xs), min(ys), max(xs), max(ys))

    def everything(self) -> tuple[Primitive, ...]:
        """What is under and what is over it, in painting order."""
        return (*self.under.everything(), *self.items) if self.under is not None else self.items

    def of_piece(self, prefix: str) -> Drawing:
        """The drawing with the parts that it shows named by the project's names, which have ``prefix`` before their own."""
        items = tuple(
            replace(i, tag=f"part:{prefix}{i.tag[5:]}") if getattr(i, "tag", "").startswith("part:") else i
            for i in self.items
        )
        return replace(self, items=items)


def _is_detail(item: Primitive) -> bool:
    """Detail lies within what carries it, and need not be looked at for bounds."""
    return isinstance(item, Line) and item.detail > 0


def _points(item: Primitive) -> tuple[Point, ...]:
    if isinstance(item, Line | Area):
        return item.points
    if isinstance(item, Text | Handle):
        return (item.at,)
    return (item.a, item.b)


def area(ring: tuple[Point, ...]) -> float:
    """The area that points go round, mm2: more than zero anticlockwise, less clockwise."""
    return sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], ring[0]), strict=True)) / 2


def moved(items: Iterable[Primitive], dx: float, dy: float) -> list[Primitive]:
    """The same primitives, shifted by (dx, dy) mm."""

    def shift(p: Point) -> Point:
        return (p[0] + dx, p[1] + dy)

    out: list[Primitive] = []
    for item in items:
        if isinstance(item, Line | Area):
            out.append(replace(item, points=tuple(shift(p) for p in item.points)))
        elif isinstance(item, Text | Handle):
            out.append(replace(item, at=shift(item.at)))
        else:
            out.append(replace(item, a=shift(item.a), b=shift(item.b)))
    return out


def rectangle(x: float, y: float, length: float, width: float) -> tuple[Point, ...]:
    """The four corners of an upright rectangle, from its lower left, anticlockwise."""
    return ((x, y), (x + length, y), (x + length, y + width), (x, y + width))
