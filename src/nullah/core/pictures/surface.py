"""A side being trued: what comes off as a map with figures, where readings were taken and the next is to be, the board from the side.

Nothing is drawn across the map but the map: readings stand at the edges they were taken from, so that no line runs through a figure.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Handle, Line, Point, Primitive, Text, rectangle
from nullah.core.drawing.ink import HEAT
from nullah.core.stations.planing_ways import counting
from nullah.core.stations.trued import Trued
from nullah.core.surface.passes import Pass
from nullah.core.surface.planing import Planing
from nullah.core.surface.reading_kinds import READING_KINDS, ReadingLike
from nullah.core.surface.zones import strokes_in
from nullah.core.values.measure import marked

Sure = Callable[[float, float], float]  # one standard deviation at a place of the board, mm

STEP = 0.05  # mm: below this nothing is to come off
UNSURE = 0.12  # mm: less sure than that is hatched, and said beside the figures
_OUT = 0.09  # of the width: so far out from an edge a reading's mark reaches
_WORDS = 0.11  # of the length: a reading's words take so much


def picture(
    t: Trued,
    side: str = "face",
    sure: Sure | None = None,
    asked: ReadingLike | None = None,
    chosen: int = -1,
    planed: Pass | None = None,
) -> Drawing:
    """A side from above, readings at its edges, profiles below.

    Args:
        side: face, or back as it is seen through the board from the face.
        sure: how sure the side is; hatched where more than ``UNSURE``.
        asked: the reading that would tell most next.
        chosen: which of the readings is in hand.
        planed: the pass in hand: its places are outlined, with strokes the way they go.
    """
    p = t.planing
    length, width = p.x[-1] - p.x[0], p.y[-1] - p.y[0]
    off = p.face if side == "face" else p.back
    most = max(max(map(max, off)), STEP)
    items: list[Primitive] = [*_map(p, off, most, length, width)]
    marks = _Marks(length, width)
    count = counting(t, side)
    for n, r in enumerate(t.readings):
        if r in count or (n == chosen and r.side == side):  # what was read before planing is no longer so
            stray = n in t.surface.strays
            words = f"{READING_KINDS[r.kind].short} {marked(r.value, fine=True)}{' ?' if stray else ''}".strip()
            marks.put(r, words, "decision" if stray else "computed", f"reading:{t.id}/{n}", bold=n == chosen)
    if asked is not None:
        marks.put(asked, f"{READING_KINDS[asked.kind].short} ?".strip(), "decision", "asked", bold=True, asked=True)
    figures = _figures(p, off, most, length, width, marks.looked, sure)
    if sure is not None:
        items += _unsure(sure, p, length, width, [*(f.at for f in figures), *marks.looked])
    items.append(Line((*rectangle(0, 0, length, width), (0, 0)), "outline", width=1.6))
    items += _places(planed) if planed is not None else []
    items += [*figures[:1], *marks.items, *figures[1:]]
    items.append(Dimension((0, width), (length, width), length, 40))
    items.append(Dimension((length, width), (length, 0), width, 40))
    items += _profile(t, length, width, -marks.low)
    return Drawing(tuple(items))


# ---- the map


def _map(p: Planing, off: Sequence[Sequence[float]], most: float, length: float, width: float) -> list[Primitive]:
    """Bands of what comes off, their borders read between the points of the grid; over all of it what is said when pointed at."""
    xs, ys = [x - p.x[0] for x in p.x], [y - p.y[0] for y in p.y]
    items: list[Primitive] = [Area(rectangle(0, 0, length, width), "heat 0")]
    lanes = [  # by cell along each lane: its corners' heights, the lowest and the highest of them
        [(z := (a[j], b[j], b[j + 1], a[j + 1]), min(z), max(z)) for a, b in pairwise(off)] for j in range(len(ys) - 1)
    ]
    for band in range(1, len(HEAT)):
        level = max(most * band / len(HEAT), STEP / 2)
        for j, lane in enumerate(lanes):
            start: float | None = None  # of a run of cells that lie over the level whole
            for i, (corners, low, high) in enumerate(lane):
                if low >= level:
                    start = xs[i] if start is None else start
                    continue
                if start is not None:
                    items.append(_band(rectangle(start, ys[j], xs[i] - start, ys[j + 1] - ys[j]), band))
                    start = None
                if high > level:
                    cell = ((xs[i], ys[j]), (xs[i + 1], ys[j]), (xs[i + 1], ys[j + 1]), (xs[i], ys[j + 1]))
                    items.append(_band(_above(cell, [z - level for z in corners]), band))
            if start is not None:
                items.append(_band(rectangle(start, ys[j], xs[-1] - start, ys[j + 1] - ys[j]), band))
    for i in range(0, len(xs) - 1, 2):
        for j in range(0, len(ys) - 1, 2):
            spot = rectangle(xs[i], ys[j], xs[i + 2] - xs[i], ys[j + 2] - ys[j])
            items.append(Area(spot, "", hint=f"{marked(off[i + 1][j + 1], unit=' mm', fine=True)} comes off here"))
    return items


def _places(p: Pass) -> list[Primitive]:
    """Where a pass goes, as one would scribble it on the wood: outlines, and strokes in them side by side."""
    items: list[Primitive] = []
    for zone in p.zones:
        for x0, y0, x1, y1 in strokes_in(zone, p.plane.width, _SCRIBBLED).tolist():
            run = math.hypot(x1 - x0, y1 - y0)
            short = min(p.plane.width, run / 3) / run  # within the outline
            start, end = ((x0 + share * (x1 - x0), y0 + share * (y1 - y0)) for share in (short, 1 - short))
            items.append(Line((start, end), "ink", width=1.2))
            items.append(Line(_head(start, end, p.plane.width * _HEAD), "ink", width=1.2))
    for outline in p.outlines:
        items.append(Line((*outline, outline[0]), "ink", width=3.0))
    return items


def _head(start: Point, end: Point, size: float) -> tuple[Point, ...]:
    """The head of an arrow, so long, mm."""
    way = math.atan2(end[1] - start[1], end[0] - start[0])
    barbs = [(end[0] - size * math.cos(way + turn), end[1] - size * math.sin(way + turn)) for turn in (-_BARB, _BARB)]
    return barbs[0], end, barbs[1]


_HEAD, _BARB = 0.3, 0.5  # of an iron's width; radians
_SCRIBBLED = 1.0  # of an iron's width: how far apart strokes are drawn


def _band(points: Sequence[Point], band: int) -> Area:
    return Area(tuple(points), f"heat {band}", edge=f"heat {band}")


def _above(corners: Sequence[Point], over: Sequence[float]) -> list[Point]:
    """What of a cell lies over a level, straight between its corners."""
    out: list[Point] = []
    for n, (here, z) in enumerate(zip(corners, over, strict=True)):
        there, w = corners[(n + 1) % len(corners)], over[(n + 1) % len(corners)]
        if z >= 0:
            out.append(here)
        if (z >= 0) != (w >= 0):
            s = z / (z - w)
            out.append((here[0] + s * (there[0] - here[0]), here[1] + s * (there[1] - here[1])))
    return out


def _between(off: Sequence[Sequence[float]], along: float, across: float) -> float:
    i, j = along * (len(off) - 1), across * (len(off[0]) - 1)
    a, b = min(int(i), len(off) - 2), min(int(j), len(off[0]) - 2)
    p, q = i - a, j - b
    return (off[a][b] * (1 - q) + off[a][b + 1] * q) * (1 - p) + (off[a + 1][b] * (1 - q) + off[a + 1][b + 1] * q) * p


def _unsure(sure: Sure, p: Planing, length: float, width: float, figures: Sequence[Point]) -> list[Primitive]:
    """Hatched where little is known, clear of the figures."""
    rows, columns = (12 if length > 3 * width else 5), 4
    dx, dy = length / rows, width / columns
    out: list[Primitive] = []
    for i in range(rows):
        for j in range(columns):
            x, y = (i + 0.5) * dx, (j + 0.5) * dy
            little = sure(p.x[0] + x, p.y[0] + y)
            read = any(abs(x - a) < dx and abs(y - b) < dy for a, b in figures)
            if little > UNSURE and not read:
                told = f"not sure here: to about {marked(little, unit=' mm', fine=True)}"
                out.append(Area(rectangle(i * dx, j * dy, dx, dy), "", hatch=True, hint=told))
    return out


def _figures(
    p: Planing,
    off: Sequence[Sequence[float]],
    most: float,
    length: float,
    width: float,
    looked: Sequence[Point],
    sure: Sure | None,
) -> list[Text]:
    """What comes off in mm at places spread over the face, clear of where readings look at it."""
    if most <= STEP:
        return []
    clear = 0.2 * width

    z, i, j = max((z, i, j) for i, row in enumerate(off) for j, z in enumerate(row))
    high = p.x[i] - p.x[0], p.y[j] - p.y[0]
    place = min(max(high[0], 0.06 * length), 0.94 * length), min(max(high[1], 0.16 * width), 0.84 * width)
    little = sure(p.x[i], p.y[j]) if sure is not None else 0.0
    give = f" \u00b1{marked(round(little, 1), fine=True)}" if little > UNSURE else ""
    inward = 0.05 * length * (1 if high[0] < length / 2 else -1)
    for _ in range(8):  # clear of where readings look
        if all(abs(place[0] - u) > 0.11 * length or abs(place[1] - v) > clear for u, v in looked):
            break
        place = place[0] + inward, place[1]
    out = [Text(place, f"\u25b2 {marked(round(z, 1), fine=True)}{give}", size=13, bold=True, ink="decision", halo=True)]
    for along in (0.07, 0.285, 0.5, 0.715, 0.93):
        for across in (0.15, 0.5, 0.85):
            x, y, z = along * length, across * width, _between(off, along, across)
            crowded = any(abs(x - u) < 0.07 * length and abs(y - v) < clear for u, v in looked)
            if z > STEP and not crowded:
                out.append(Text((x, y), marked(round(z, 1), fine=True), size=11, halo=True, yields=True))
    return out


# ---- readings


class _Marks:
    """Readings at the edges they bear on: a tick out from each, a diamond where one looks at the face itself, what it says beside it.

    That in hand has something to pull it by. ``looked`` are places on the face that are taken; ``low`` is how far below the board the
    words reach.
    """

    def __init__(self, length: float, width: float):
        self.length, self.width = length, width
        self.items: list[Primitive] = []
        self.looked: list[Point] = []
        self.low = 0.3 * width
        self._lanes: list[list[float]] = []  # of words under the lower edge: the places where each has some
        self._right: list[float] = []  # and right of the right end: how high

    def put(self, r: ReadingLike, words: str, ink: str, tag: str, bold: bool = False, asked: bool = False) -> None:
        """One more."""
        length, width, out = self.length, self.width, _OUT * self.width
        pen, handle = (3.0 if bold else 1.8), (0.0, 0.0)
        placed = False
        ticks = list(READING_KINDS[r.kind].points(r, length, width)) or [(1.0, 2 * r.at / length - 1, _edge_of(r))]
        for _, u, v in ticks:
            x, y = (u + 1) / 2 * length, (v + 1) / 2 * width
            over = _outward(v) if r.kind not in ("bow", "thickness") else 0.0
            end = _outward(u) if r.kind in ("corner", "feeler") else 0.0
            if r.kind == "bow":
                end = _outward(u)  # a straightedge that ends on the board is looked at there
            if not over and not end:
                self._look(x, y, ink, tag, asked)
                handle = handle if placed else (x, y)
                continue
            tip = x + end * out, y + over * out
            self.items.append(Line(((x, y), tip), ink, dash=asked, width=pen, tag=tag))
            if not placed or (over > 0 and abs(x - r.at) < 0.5):
                handle, placed = tip, True
        self._say(r, words, ink, tag, bold)
        along, up = (where in READING_KINDS[r.kind].needed for where in ("at", "across"))
        if bold and not asked and (along or up):
            way = "both" if along and up else "along" if along else "up"
            self.items.append(Handle(handle, tag, way, f"{r.kind}: {words}"))

    def _look(self, x: float, y: float, ink: str, tag: str, asked: bool) -> None:
        size = 0.012 * max(self.length, 6 * self.width) / 2
        diamond = ((x - size, y), (x, y - size), (x + size, y), (x, y + size))
        self.items.append(Area(diamond, "" if asked else ink, edge=ink, tag=tag))
        self.looked.append((x, y))

    def _say(self, r: ReadingLike, words: str, ink: str, tag: str, bold: bool) -> None:
        """Its words, below the lower edge where it bears on one, right of the right end, or by the place it looks at."""
        if r.kind == "thickness":
            y = r.across + (0.2 if r.across < self.width / 2 else -0.2) * self.width
            self.items.append(Text((r.at, y), words, ink, 11, bold=bold, tag=tag, halo=True, yields=True))
            self.looked.append((r.at, y))
        elif r.kind in ("bow", "corner"):
            y = r.across if r.kind == "bow" else (self.width if r.to == 1 else 0.0)
            apart = max(0.13 * self.width, 0.024 * self.length)
            while any(abs(y - other) < apart for other in self._right):
                y += apart
            self._right.append(y)
            end = max(self.length, r.to) if r.kind == "bow" else self.length
            self.items.append(Text((end + 1.4 * _OUT * self.width, y), words, ink, 11, "left", bold, tag))
        else:
            x = r.at if r.kind != "feeler" else (0.0 if r.to in (1, 4) else self.length)
            lane = next((i for i, taken in enumerate(self._lanes) if all(self._apart(x, o) for o in taken)), None)
            if lane is None:
                lane = len(self._lanes)
                self._lanes.append([])
            self._lanes[lane].append(x)
            y = -_OUT * self.width - (0.6 + lane) * max(0.13 * self.width, 0.024 * self.length)
            self.low = max(self.low, 0.15 * self.width - y)
            self.items.append(Text((x, y), words, ink, 11, bold=bold, tag=tag))

    def _apart(self, x: float, other: float) -> bool:
        return abs(x - other) >= _WORDS * self.length


def _outward(place: float) -> float:
    """Which way an edge or an end looks that lies at u or v; 0 for what lies between."""
    return 1.0 if place >= 0.999 else -1.0 if place <= -0.999 else 0.0


def _edge_of(r: ReadingLike) -> float:
    return -1.0 if r.to == 1 else 1.0


# ---- from the side


def _profile(t: Trued, length: float, width: float, under: float) -> list[Primitive]:
    """Lower edge, middle and upper edge seen from the side, with the flat board that lies inside, all below ``under``."""
    p = t.planing
    items: list[Primitive] = []
    x0 = p.x[0]
    grow = min(12.0, max(2.0, width * 0.35 / max(1.0, p.thickest)))
    _, _, top, bottom = t.surface.section(x0, p.y[0], length, width)
    cols = len(p.y)
    upper = [[z - off for z, off in zip(*rows, strict=True)] for rows in zip(top, p.face, strict=True)]
    base = max(map(max, top))
    lift = under - 0.12 * width

    def run(z: Sequence[Sequence[float]], j: int, less: float = 0.0) -> tuple[Point, ...]:
        return tuple((x - x0, lift + grow * (row[j] - less - base)) for x, row in zip(p.x, z, strict=True))

    middle = cols // 2
    body = (*run(top, middle), *reversed(run(bottom, middle)))
    items.append(Area(body, "waste", hatch=True))
    slab_top = run(upper, middle)
    slab_low = run(upper, middle, p.thickest)
    items.append(Area((*slab_top, *reversed(slab_low)), "wood", edge="computed"))
    for j, ink in ((0, "decision"), (cols - 1, "settled")):
        items.append(Line(run(top, j), ink, width=1.6, dash=j != 0))
        items.append(Line(run(bottom, j), ink, width=1.0, dash=j != 0))
    right = slab_top[-1][0]
    items.append(Dimension((right, slab_top[-1][1]), (right, slab_low[-1][1]), p.thickest, 24, ink="computed"))
    words = f"from the side, heights x {grow:.0f}; the upper edge dashed"
    lowest = lift - grow * (base - min(map(min, bottom)))
    items.append(Text((length / 2, lowest - max(0.14 * width, 0.024 * length)), words, size=11, ink="quiet"))
    return items
