"""Wood drawn as wood: figure on a face, arcs on an end, faults, and the marks of the show face and the face edge."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache

from nullah.core.document.project import Board, Defect
from nullah.core.drawing.display_list import Area, Line, Point, Primitive, Text
from nullah.core.drawing.display_list import rectangle as _rectangle
from nullah.core.pieces.part import Part
from nullah.core.shapes.clip import within
from nullah.core.stations.as_made import wood_of
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.values.arrays import np
from nullah.core.values.frozen import frozen
from nullah.core.wood.rings import Run, Wood, on_edge, on_end, on_face

COARSEST = 6  # halvings of the figure as it is drawn smaller
APART = 4.0  # mm between neighbouring rings, about


@lru_cache(maxsize=1024)  # an edit leaves most pieces of wood where they were
def figure(
    wood: Wood, size: tuple[float, float, float], at: Point = (0.0, 0.0), clip: tuple[Point, Point] | None = None
) -> tuple[Line, ...]:
    """The figure on the face of a board of ``size`` (length, width, thickness) whose lower-left corner lies at ``at``.

    ``clip`` gives lower-left and upper-right corners, in the board's own axes, of the part of it that is drawn.
    """
    return tuple(_lines(wood, on_face(wood, *size), at, clip))


def end_grain(
    wood: Wood, size: tuple[float, float, float], at: Point, scale: float = 1.0, upright: bool = False
) -> list[Line]:
    """The arcs on the left end, ``scale`` times its size, lower-left corner at ``at``; ``upright``: its width runs up."""
    runs = tuple(
        tuple((z * scale, y * scale) if upright else (y * scale, z * scale) for y, z in run)
        for run in on_end(wood, *size)
    )
    return _lines(wood, runs, at, None, scale)


def edge_figure(wood: Wood, size: tuple[float, float, float], upper: bool) -> list[Line]:
    """The figure on an edge of a board of ``size``, from its left end and its back."""
    return _lines(wood, on_edge(wood, *size, upper), (0.0, 0.0), None)


def back_figure(wood: Wood, size: tuple[float, float, float]) -> list[Line]:
    """The figure on the back of a board of ``size``, seen through from the face."""
    return _lines(wood, on_face(wood, *size, False), (0.0, 0.0), None)


def _lines(
    wood: Wood, runs: tuple[Run, ...], at: Point, clip: tuple[Point, Point] | None, scale: float = 1.0
) -> list[Line]:
    out: list[Line] = []
    for i, pieces in enumerate(_clipped(runs, clip) if clip else [[run] for run in runs], 1):
        detail = APART * scale * (1 << min(COARSEST, (i & -i).bit_length() - 1))
        for piece in pieces:
            shifted = tuple((at[0] + x, at[1] + y) for x, y in piece)
            out.append(Line(shifted, f"figure {wood.species}", width=0.8, detail=detail))
    return out


def _clipped(runs: tuple[Run, ...], clip: tuple[Point, Point]) -> list[list[Run]]:
    """The pieces of each run that lie in a rectangle."""
    (left, low), (right, top) = clip
    found: list[list[Run]] = []
    crossing: list[int] = []
    for number, run in enumerate(runs):
        xs, ys = [x for x, _ in run], [y for _, y in run]
        inside = min(xs) >= left and max(xs) <= right and min(ys) >= low and max(ys) <= top
        found.append([run] if inside else [])
        if not inside and not (max(xs) < left or min(xs) > right or max(ys) < low or min(ys) > top):
            crossing.append(number)
    cut = within([np.array(runs[n]) for n in crossing], [_rectangle(left, low, right - left, top - low)])
    for number, pieces in zip(crossing, cut, strict=True):
        found[number] = pieces
    return found


def face_mark(x: float, y: float, size: float, ink: str = "ink") -> list[Primitive]:
    """The mark of a show or face side: a ripple of two waves running down to the face edge at (x, y)."""
    wave = tuple(
        (x + size * 0.30 * math.sin(t * math.pi * 2.0) * (1 - 0.55 * t), y + size * (1.0 - t))
        for t in (i / 16 for i in range(17))
    )
    return [Line(wave, ink, width=1.7, detail=_mark_detail(size))]


def _mark_detail(mark: float) -> float:
    """The detail of a mark so large: smaller than some nine pixels it is left out."""
    return abs(mark) / 3


def edge_mark(x: float, y: float, size: float, ink: str = "ink") -> list[Primitive]:
    """The mark of a face edge: two short strokes across the edge at (x, y), where the ripple of the face side ends."""
    out: list[Primitive] = []
    for dx in (-0.16, 0.16):
        ends = ((x + dx * size, y - 0.16 * size), (x + dx * size, y + 0.22 * size))
        out.append(Line(ends, ink, width=1.7, detail=_mark_detail(size)))
    return out


def oval(cx: float, cy: float, rx: float, ry: float) -> tuple[Point, ...]:
    """Points round an ellipse."""
    return tuple((cx + rx * math.cos(i * math.pi / 12), cy + ry * math.sin(i * math.pi / 12)) for i in range(24))


def fault(b: Board, d: Defect, y: float, named: bool = True) -> list[Primitive]:
    """One fault of a board whose lower edge lies at ``y``, drawn as what it is, never by colour alone; ``named`` in words too."""
    tag = f"fault:{b.id}/{d.id}"
    x, low, long, w = d.x, y + d.y, min(d.length, b.length - d.x), min(d.width, b.width - d.y)
    middle = (x + long / 2, low + w / 2)
    if "knot" in d.kind:
        return _knot(d.kind, tag, middle, long, w)
    if d.kind in ("check", "split"):
        zig: tuple[Point, ...] = tuple(
            (x + long * i / 8, middle[1] + (w / 3 if i % 2 else -w / 3) * (1 - abs(i - 4) / 8)) for i in range(9)
        )
        return [
            Area(_rectangle(x, low, long, w), "decision wash", tag=tag, hint=d.kind, opacity=0.6),
            Line(zig, "fault", width=2.0, tag=tag),
        ]
    shape = _rectangle(x, low, long, w)
    ink = {"sapwood": f"sap {b.species}", "wane": "ground"}.get(d.kind, "wood dark")
    items: list[Primitive] = [
        Area(shape, ink, edge="fault", tag=tag, hint=d.kind, opacity=0.35 if d.kind == "run-out" else 0.9)
    ]
    if d.kind == "run-out":  # grain that leaves the face: short slanting strokes
        count = max(3, int(long / 16))
        items += [
            Line(((x + long * (i + 0.2) / count, low), (x + long * (i + 0.9) / count, low + w)), "fault", width=0.9)
            for i in range(count)
        ]
    elif d.kind == "wane":
        bark = tuple((x + long * i / 24, low + w * (0.25 + 0.2 * math.sin(i * 1.9))) for i in range(25))
        items.append(Line(bark, "fault", width=1.5))
    if named:
        items.append(Text(middle, d.kind, size=11, ink="fault", tag=tag, halo=True, room=long))
    return items


def _knot(kind: str, tag: str, at: Point, long: float, w: float) -> list[Primitive]:
    """A sound knot is rings in rings; a loose one has a broken dark ring and a cross: it may fall out."""
    loose = kind == "loose knot"
    items: list[Primitive] = [
        Area(oval(*at, long / 2, w / 2), "wood dark", edge="fault", tag=tag, hint=kind),
        Line((*oval(*at, long / 3.2, w / 3.2), (at[0] + long / 3.2, at[1])), "fault", width=0.8, detail=5.0),
        Area(oval(*at, long / 6, w / 6), "fault", tag=tag),
    ]
    if loose:
        items += [
            Line((*oval(*at, long / 2, w / 2), (at[0] + long / 2, at[1])), "fault", width=2.6, dash=True),
            Line(((at[0] - long / 2, at[1] - w / 2), (at[0] + long / 2, at[1] + w / 2)), "fault", width=1.4),
            Line(((at[0] - long / 2, at[1] + w / 2), (at[0] + long / 2, at[1] - w / 2)), "fault", width=1.4),
        ]
    return items


@frozen
class PartWood:
    """The wood a part comes from: the board's, and where on it the part lies; its own where it is not laid on one yet."""

    wood: Wood
    size: tuple[float, float, float]
    at: Point = (0.0, 0.0)

    @property
    def species(self) -> str:
        """What wood it is."""
        return self.wood.species

    def face(self, length: float, width: float, to: Point = (0.0, 0.0)) -> tuple[Line, ...]:
        """Its figure over a face of that size, lower-left corner at ``to``."""
        x, y = self.at
        return figure(self.wood, self.size, (to[0] - x, to[1] - y), ((x, y), (x + length, y + width)))


def woods(parts: Iterable[Part], result: BreakdownResult, boards: Iterable[Board]) -> dict[str, PartWood]:
    """The wood of each part, by id, as the accepted layout has it."""
    by_id = {b.id: b for b in boards}
    out = {}
    for p in parts:
        place = result.place(p.id)
        board = by_id.get(place[0]) if place else None
        if place is None or board is None or board.species != p.species:
            out[p.id] = PartWood(Wood(p.species, 20.0, True, p.id), p.sizes)
            continue
        leaf = place[1]
        spare = ((leaf.length - p.length) / 2, (leaf.width - p.width) / 2)
        at = (leaf.x + max(0.0, spare[0]), leaf.y + max(0.0, spare[1]))
        out[p.id] = PartWood(wood_of(board), (board.length, board.width, board.thickness), at)
    return out
