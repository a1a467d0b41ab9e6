"""A board's readings of moisture over the days, where it settles, and when it is likely ready."""

from __future__ import annotations

from datetime import date, timedelta

from nullah.core.document.project import Board
from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text, rectangle
from nullah.core.stations.readiness import Readiness, spelt

WIDE, TALL = 420.0, 84.0  # drawing units


def picture(board: Board, told: Readiness | None, reference: float | None, today: str) -> Drawing:
    """The readings. ``told``: what they come to; ``reference``: percent, of a piece that has always lived in the room; ``today``: ISO
    8601, drawn where it lies among them."""
    log = board.moistures
    if not log:
        return Drawing()
    first = date.fromisoformat(log[0].day)
    ends = [log[-1].day, *(d for d in (told.latest if told else "",) if d)]
    last = max(date.fromisoformat(d) for d in ends) + timedelta(days=3)
    days = max(7, (last - first).days)
    level = reference if reference is not None else (told.settles if told and told.settles else None)
    values = [m.percent for m in log] + ([level] if level is not None else [])
    low, high = min(values) - 1.5, max(values) + 1.5

    def at(day: str, percent: float) -> tuple[float, float]:
        x = (date.fromisoformat(day) - first).days * WIDE / days
        return x, (percent - low) * TALL / (high - low)

    items: list[Primitive] = [Line(((0, TALL), (0, 0), (WIDE, 0)), "faint")]
    if told is not None and told.earliest and told.day:
        (x0, _), (x1, _), (x, _) = (at(d, low) for d in (told.earliest, told.latest, told.day))
        items.append(
            Area(rectangle(x0, 0, max(1.0, x1 - x0), TALL), "settled wash", opacity=0.9, hint="four times in five")
        )
        items.append(Line(((x, 0), (x, TALL)), "settled", width=2.0))
        items.append(Text((x, TALL + 9), spelt(told.day), size=11, bold=True, ink="settled"))
    if level is not None:
        y = at(log[0].day, level)[1]
        items.append(Line(((0, y), (WIDE, y)), "computed", dash=True, width=1.4))
        name = "reference" if reference is not None else "settles"
        items.append(Text((WIDE + 6, y), f"{name} {level:.1f} %", size=11, ink="computed", align="left"))
    points = tuple(at(m.day, m.percent) for m in log)
    items.append(Line(points, "ink", width=1.6))
    for (x, y), m in zip(points, log, strict=True):
        items.append(
            Area(rectangle(x - 2.5, y - 2.5, 5, 5), "ink", hint=f"{spelt(m.day)}: {m.percent:g} %", tag=f"read:{m.day}")
        )
    items.append(Text((points[-1][0], points[-1][1] + 10), f"{log[-1].percent:g} %", size=12, bold=True, halo=True))
    items.append(Text((0, -10), spelt(log[0].day), size=10, ink="quiet", align="left"))
    x = at(today, low)[0]
    if 0 <= x <= WIDE:
        items.append(Line(((x, 0), (x, TALL)), "decision", dash=True))
        items.append(Text((x, -10), "today", size=10, ink="decision"))
    return Drawing(tuple(items), bounds=(-14, -18, WIDE + 100, TALL + 18))
