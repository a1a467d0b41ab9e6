"""A room's year and what it does to a board: humidity month by month, to be pulled, and under it how wide the board is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import pairwise

from nullah.core.document.project import Board
from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text, rectangle
from nullah.core.stations.as_made import SHEETS
from nullah.core.wood.moisture import change, equilibrium_moisture
from nullah.core.wood.room import MONTHS
from nullah.core.wood.species import species

MONTH = 46.0  # drawing units a month
PERCENT = 0.9  # drawing units a percent of humidity
LEAST, MOST = 20.0, 95.0  # percent of humidity drawn
DOT = 9.0  # drawing units: what a month is pulled by
TALL = 17.0  # drawing units that the larger swing of the width has
BELOW = -26.0  # where the width as it is lies


def breathing(board: Board, months: Sequence[tuple[float, float]]) -> tuple[float, ...]:
    """How far a board's width is from what it is now, were it settled in each month's air, mm; nothing for sheet goods.

    Args:
        months: temperature in deg C and relative humidity in percent, January first.
    """
    if board.stock in SHEETS:
        return (0.0,) * len(months)
    kind = species(board.species)
    return tuple(
        change(kind, board.width, board.moisture, equilibrium_moisture(c, h), board.ring_angle) for c, h in months
    )


def picture(
    board: Board | None, months: Sequence[tuple[float, float]], month: int, figures: Callable[[float], str]
) -> Drawing:
    """The year. ``month``: the present one, 1 to 12; ``figures`` shows a length."""
    items: list[Primitive] = []
    for n, name in enumerate(MONTHS):
        items.append(Text((n * MONTH, LEAST * PERCENT - 9), name, size=11, ink="quiet"))
    for level in (30, 50, 70, 90):
        y = level * PERCENT
        items.append(Line(((-MONTH * 0.4, y), (11.4 * MONTH, y)), "line"))
        items.append(Text((-MONTH * 0.6, y), f"{level} %", size=10, ink="quiet", align="right"))
    air = [(n * MONTH, min(max(LEAST, h), MOST) * PERCENT) for n, (_, h) in enumerate(months)]
    items.append(Line(tuple(air), "computed", width=2.0))
    for n, at in enumerate(air):
        settles = equilibrium_moisture(*months[n])
        hint = f"{MONTHS[n]}: {months[n][1]:.0f} % humidity at {months[n][0]:.0f} \u00b0C; wood settles near {settles:.1f} %"
        square = rectangle(at[0] - DOT / 2, at[1] - DOT / 2, DOT, DOT)
        items.append(Area(square, "computed", edge="panel", tag=f"month:{n + 1}", hint=hint))
    today = (month - 1) * MONTH
    items.append(Line(((today, LEAST * PERCENT), (today, MOST * PERCENT)), "decision", dash=True))
    items.append(Text((today, MOST * PERCENT + 8), "today", size=11, ink="decision"))
    if board is not None:
        items += _width(board, breathing(board, months), today, figures)
    return Drawing(tuple(items), bounds=(-MONTH * 1.3, BELOW - TALL - 12, 11.6 * MONTH, MOST * PERCENT + 12))


def _width(board: Board, off: tuple[float, ...], today: float, figures: Callable[[float], str]) -> list[Primitive]:
    """The width through the year, much larger than life, its driest and its wettest month named."""
    most = max(map(abs, off)) or 1.0
    line = [(n * MONTH, BELOW + w * TALL / most) for n, w in enumerate(off)]
    items: list[Primitive] = [Line(((-MONTH * 0.4, BELOW), (11.4 * MONTH, BELOW)), "faint", dash=True)]
    for a, b in pairwise(line):
        items.append(Area((a, b, (b[0], BELOW), (a[0], BELOW)), "computed wash", opacity=0.8))
    items.append(Line(tuple(line), "ink", width=1.8))
    items.append(Text((-MONTH * 0.6, BELOW), figures(board.width), size=11, align="right", bold=True))
    for n in {off.index(min(off)), off.index(max(off))}:
        sign = "\u2212" if off[n] < 0 else "+"
        words = f"{sign}{figures(abs(off[n]))}"
        up = line[n][1] + (9 if off[n] >= 0 else -9)
        items.append(Text((line[n][0], up), words, size=11, bold=True, halo=True))
        items.append(Line(((line[n][0] - 3, line[n][1]), (line[n][0] + 3, line[n][1])), "decision", width=3.0))
    return items
