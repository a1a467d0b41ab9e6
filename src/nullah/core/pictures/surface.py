"""A face being trued: what comes off as bands over the face, and the two profiles, their heights drawn larger than life."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from nullah.core.drawing import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.measure import marked
from nullah.core.stations.trueup import Trued

BANDS = 6
STEP = 0.05  # mm: below this nothing is to come off


def picture(t: Trued) -> Drawing:
    """The face from above in bands of what comes off, readings where they were taken, profiles below and beside."""
    p = t.planing
    x0, y0 = p.x[0], p.y[0]
    length, width = p.x[-1] - x0, p.y[-1] - y0
    most = max(p.highest()[2], STEP)
    items: list[Primitive] = []
    rows, cols = len(p.x), len(p.y)
    for i, (here, there) in enumerate(pairwise(p.face)):
        for j in range(cols - 1):
            mean = (here[j] + here[j + 1] + there[j] + there[j + 1]) / 4
            band = min(BANDS - 1, int(mean / most * BANDS)) if mean > STEP / 2 else 0
            cell = rectangle(p.x[i] - x0, p.y[j] - y0, length / (rows - 1), width / (cols - 1))
            items.append(Area(cell, f"heat {band}", hint=f"{marked(mean, unit=' mm')} comes off here"))
    items.append(Line((*rectangle(0, 0, length, width), (0, 0)), "outline", width=1.6))
    for n, r in enumerate(t.readings):
        if r.kind == "winding sticks":
            items.append(
                Line(((r.at - x0, -width * 0.12), (r.at - x0, width * 1.12)), "computed", width=2.4, tag=f"reading:{n}")
            )
        elif r.kind == "cup":
            items.append(
                Line(((r.at - x0, 0), (r.at - x0, width)), "computed", dash=True, width=1.6, tag=f"reading:{n}")
            )
        elif r.kind == "bow":
            items.append(
                Line(
                    ((0, r.across - y0), (length, r.across - y0)), "computed", dash=True, width=1.6, tag=f"reading:{n}"
                )
            )
    hx, hy, deep = p.highest()
    hx, hy = hx - x0, hy - y0
    if deep > STEP:
        for i in range(rows - 1):
            for j in range(cols - 1):
                if (i, j) in _marked(rows, cols) and p.face[i][j] > STEP:
                    place = (p.x[i] - x0, p.y[j] - y0)
                    items.append(Text(place, marked(p.face[i][j]), size=11, halo=True))
        items.append(Text((hx, hy), f"\u25b2 {marked(deep)}", size=13, bold=True, ink="decision", halo=True))
    items.append(Dimension((0, width), (length, width), length, 26))
    items.append(Dimension((length, width), (length, 0), width, 24))
    items += _profile(t, length, width)
    return Drawing(tuple(items))


def _marked(rows: int, cols: int) -> set[tuple[int, int]]:
    return {(i, j) for i in (1, rows // 4, rows // 2, 3 * rows // 4, rows - 2) for j in (1, cols // 2, cols - 2)}


def _profile(t: Trued, length: float, width: float) -> list[Primitive]:
    """Lower edge, middle and upper edge seen from the side, with the flat board that lies inside."""
    p = t.planing
    items: list[Primitive] = []
    x0 = p.x[0]
    grow = min(12.0, max(2.0, width * 0.35 / max(1.0, p.thickest)))
    _, _, top, bottom = t.surface.section(x0, p.y[0], p.x[-1] - x0, p.y[-1] - p.y[0])
    cols = len(p.y)
    upper = [[z - off for z, off in zip(*rows, strict=True)] for rows in zip(top, p.face, strict=True)]
    lift = -width * 0.62 - grow * p.thickest
    base = sum(map(sum, upper)) / (len(p.x) * cols) - p.thickest

    def run(z: Sequence[Sequence[float]], j: int, less: float = 0.0) -> tuple[tuple[float, float], ...]:
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
    words = f"from the side, heights x {grow:.0f}: solid clay the lower edge, dashed moss the upper, hatched comes off"
    items.append(Text((length / 2, lift - width * 0.12), words, size=11, ink="quiet"))
    return items
