"""A face being trued: what comes off as bands over the face, and the two profiles, their heights drawn larger than life."""

from __future__ import annotations

from nullah.core.drawing import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.measure import marked
from nullah.core.stations.trueup import Trued
from nullah.core.surface.slab import Floats

BANDS = 6
STEP = 0.05  # mm: below this nothing is to come off


def picture(t: Trued) -> Drawing:
    """The face from above in bands of what comes off, readings where they were taken, profiles below and beside."""
    p = t.planing
    x0, y0 = float(p.x[0, 0]), float(p.y[0, 0])
    length, width = float(p.x[-1, 0]) - x0, float(p.y[0, -1]) - y0
    most = max(float(p.face.max()), STEP)
    items: list[Primitive] = []
    rows, cols = p.face.shape
    for i in range(rows - 1):
        for j in range(cols - 1):
            mean = float(p.face[i : i + 2, j : j + 2].mean())
            band = min(BANDS - 1, int(mean / most * BANDS)) if mean > STEP / 2 else 0
            cell = rectangle(float(p.x[i, j]) - x0, float(p.y[i, j]) - y0, length / (rows - 1), width / (cols - 1))
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
                if (i, j) in _marked(rows, cols) and p.face[i, j] > STEP:
                    place = (float(p.x[i, j]) - x0, float(p.y[i, j]) - y0)
                    items.append(Text(place, marked(float(p.face[i, j])), size=11, halo=True))
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
    x0 = float(p.x[0, 0])
    grow = min(12.0, max(2.0, width * 0.35 / max(1.0, t.planing.thickest)))
    top = t.surface.top(p.x, p.y)
    bottom = t.surface.bottom(p.x, p.y)
    upper = top - p.face
    lift = -width * 0.62 - grow * t.planing.thickest
    base = float(upper.mean()) - t.planing.thickest
    cols = p.x.shape[1]

    def run(z: Floats, j: int) -> tuple[tuple[float, float], ...]:
        return tuple((float(p.x[i, j]) - x0, lift + grow * (float(z[i, j]) - base)) for i in range(p.x.shape[0]))

    middle = cols // 2
    body = (*run(top, middle), *reversed(run(bottom, middle)))
    items.append(Area(body, "waste", hatch=True))
    slab_top = run(upper, middle)
    slab_low = run(upper - t.planing.thickest, middle)
    items.append(Area((*slab_top, *reversed(slab_low)), "wood", edge="computed"))
    for j, ink in ((0, "decision"), (cols - 1, "settled")):
        items.append(Line(run(top, j), ink, width=1.6, dash=j != 0))
        items.append(Line(run(bottom, j), ink, width=1.0, dash=j != 0))
    right = slab_top[-1][0]
    items.append(Dimension((right, slab_top[-1][1]), (right, slab_low[-1][1]), t.planing.thickest, 24, ink="computed"))
    words = f"from the side, heights x {grow:.0f}: solid clay the lower edge, dashed moss the upper, hatched comes off"
    items.append(Text((length / 2, lift - width * 0.12), words, size=11, ink="quiet"))
    return items
