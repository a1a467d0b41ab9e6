"""How each part moves across the year: a bar from its driest to its wettest width, much larger than life."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text, rectangle
from nullah.core.stations.timber import Movement

REACH = 100.0  # drawing units for the largest change
ROW = 24.0
ALONE = 4  # parts that move alike and are named one by one


def picture(movement: tuple[Movement, ...], figures: Callable[[float], str]) -> Drawing:
    """One row a part, parts that move alike in one; beside it the whole swing, as ``figures`` shows a length."""
    alike: dict[tuple[str, str], list[Movement]] = {}
    for m in movement:
        alike.setdefault((figures(m.to_dry), figures(m.to_wet)), []).append(m)
    most = max((max(abs(m.to_dry), abs(m.to_wet)) for m in movement), default=1.0) or 1.0
    items: list[Primitive] = []
    y = 0.0
    for those in alike.values():
        m, names = those[0], [t.part for t in those]
        name = " ".join(names) if len(names) <= ALONE else f"{names[0]} to {names[-1]}"
        words = f"\u00b1 {figures((m.to_wet - m.to_dry) / 2)}"
        low, high = sorted((m.to_dry * REACH / most, m.to_wet * REACH / most))
        items.append(Area(rectangle(low, y, max(high - low, 0.5), ROW * 0.55), "computed wash", edge="computed"))
        items.append(Text((-REACH * 1.12, y + ROW * 0.27), name, size=12, bold=True, align="right", tall=ROW))
        items.append(Text((REACH * 1.12, y + ROW * 0.27), words, size=12, align="left", tall=ROW))
        y -= ROW
    items.append(Line(((0, ROW), (0, y + ROW * 0.6)), "decision", width=1.6))
    items.append(Text((0, ROW * 1.35), "today", size=11, ink="decision"))
    items.append(Text((-REACH * 0.7, ROW * 1.35), "drier", size=11, ink="quiet", align="right"))
    items.append(Text((REACH * 0.7, ROW * 1.35), "wetter", size=11, ink="quiet", align="left"))
    return Drawing(tuple(items), bounds=(-REACH * 1.75, y + ROW * 0.5, REACH * 2.0, ROW * 1.8))
