"""Templates and story sticks as PDF pages at full size, tiled where they are larger than the paper.

One mm of the drawing is one mm of the page: 72 / 25.4 points (PDF 32000-1, 8.3.2.3: user space is 1/72 inch). Each page has
a 100 mm and a 4 inch line to be measured before anything is trusted.
"""

from __future__ import annotations

import io
import math
from collections.abc import Sequence

from reportlab.lib.pagesizes import A4, LETTER, landscape
from reportlab.pdfgen.canvas import Canvas

from nullah.core.pictures.full_size import Sheet, sheets
from nullah.core.planning.plan import Plan
from nullah.core.values.measure import INCH, in_words, told
from nullah.formats.paper import BOLD, MM, PLAIN, Painter, ink, load_fonts

MARGIN = 12.0  # mm of paper that printers may not reach
FOOT = 30.0  # mm for the check lines and what the page is
OVERLAP = 15.0  # mm that neighbouring pages share
AIR = 4.0  # mm kept round a drawing
LEAST_COLUMN = 70.0  # mm that a drawing has across, so that its title stands over it
TITLE = 8.0  # mm for what a drawing is, where several share a page


def pdf(plan: Plan, letter: bool = False) -> bytes:
    """All templates and sticks of a plan as PDF bytes; one page that says so where there is none."""
    load_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=LETTER if letter else A4)
    canvas.setTitle(f"Full size: {plan.project.name}")
    p = plan.project
    painter = Painter(
        canvas, lambda mm: in_words(mm, p.units, p.denominator), lambda s: told(s, p.units, p.denominator)
    )
    made = sheets(plan)
    paper = LETTER if letter else A4
    for group in _pages(made, paper):
        if len(group) > 1:
            _together(canvas, painter, group, paper, p.name)
        else:
            _tiles(canvas, painter, group[0][0], paper, p.name)
    if not made:
        canvas.setFont(PLAIN, 12)
        canvas.drawString(MARGIN * MM, A4[1] - 40, "There is nothing to lay out yet: no piece has parts.")
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _tiles(canvas: Canvas, painter: Painter, sheet: Sheet, paper: tuple[float, float], name: str) -> None:
    """One drawing on as many pages as it takes, columns from the left, rows from the top."""
    left, low, right, top = sheet.drawing.extent()
    left, low, right, top = left - AIR, low - AIR, right + AIR, top + AIR
    size = landscape(paper) if right - left > top - low else paper
    wide, tall = _free(size)
    columns, rows = _count(right - left, wide), _count(top - low, tall)
    for row in range(rows):
        for column in range(columns):
            canvas.setPageSize(size)
            x0 = left + column * (wide - OVERLAP)
            y1 = top - row * (tall - OVERLAP)
            canvas.saveState()
            frame = canvas.beginPath()
            frame.rect(MARGIN * MM, (MARGIN + FOOT) * MM, wide * MM, tall * MM)
            canvas.clipPath(frame, stroke=0, fill=0)
            foot = (MARGIN + FOOT) * MM
            room = (MARGIN * MM, foot, (MARGIN + wide) * MM, foot + tall * MM)
            painter.paint(sheet.drawing, MM, (MARGIN - x0) * MM, (MARGIN + FOOT + tall - y1) * MM, room=room)
            canvas.restoreState()
            _joins(canvas, wide, tall, column, columns, row, rows)
            page = row * columns + column + 1
            words = f"{name}: {sheet.title}"
            _foot(canvas, words if rows * columns == 1 else f"{words}, page {page} of {rows * columns}")
            canvas.showPage()


Spot = tuple[Sheet, float, float]  # a sheet, and its left and upper edge from the free page's upper left corner, mm


def _pages(sheets: Sequence[Sheet], paper: tuple[float, float]) -> list[list[Spot]]:
    """The sheets in order, as many on a page as stand on it whole: side by side, and rows under each other."""
    wide, tall = _free(paper)
    pages: list[list[Spot]] = []
    x, y, row = wide, tall, 0.0  # the first begins a page
    for sheet in sheets:
        left, low, right, top = sheet.drawing.extent()
        w, h = max(right - left + 2 * AIR, LEAST_COLUMN), top - low + 2 * AIR + TITLE
        if x + w > wide or y + h > tall:  # the next row
            x, y, row = 0.0, y + row, 0.0
        if not pages or y + h > tall or w > wide:
            pages.append([])
            x, y, row = 0.0, 0.0, 0.0
        pages[-1].append((sheet, x, y))
        x, row = x + w, max(row, h)
        if w > wide or h > tall:
            x, y = wide, tall  # it has its pages to itself
    return pages


def _free(size: tuple[float, float]) -> tuple[float, float]:
    """What of a page is free for drawings, mm."""
    return size[0] / MM - 2 * MARGIN, size[1] / MM - 2 * MARGIN - FOOT


def _together(canvas: Canvas, painter: Painter, spots: Sequence[Spot], paper: tuple[float, float], name: str) -> None:
    """Several drawings on one page, each under what it is."""
    canvas.setPageSize(paper)
    _, tall = _free(paper)
    for sheet, x, y in spots:
        left, _, _, top = sheet.drawing.extent()
        upper = MARGIN + FOOT + tall - y - TITLE
        canvas.setFillColor(ink("ink"))
        canvas.setFont(BOLD, 9)
        canvas.drawString((MARGIN + x) * MM, (upper + 1.5) * MM, sheet.title)
        painter.paint(sheet.drawing, MM, (MARGIN + x + AIR - left) * MM, (upper - AIR - top) * MM)
    _foot(canvas, f"{name}: {', '.join(s.title for s, _, _ in spots)}"[:110])
    canvas.showPage()


def _count(size: float, room: float) -> int:
    """Pages across a size, each sharing ``OVERLAP`` with the next."""
    return max(1, math.ceil((size - OVERLAP) / (room - OVERLAP) - 1e-9))


def _joins(canvas: Canvas, wide: float, tall: float, column: int, columns: int, row: int, rows: int) -> None:
    """Dashed lines along the middle of each overlap: laid on the neighbour's, the drawing runs on."""
    canvas.setStrokeColor(ink("quiet"))
    canvas.setLineWidth(0.4)
    canvas.setDash([2, 2])
    low, high = (MARGIN + FOOT) * MM, (MARGIN + FOOT + tall) * MM
    start, end = MARGIN * MM, (MARGIN + wide) * MM
    for there, x in ((column > 0, MARGIN + OVERLAP / 2), (column < columns - 1, MARGIN + wide - OVERLAP / 2)):
        if there:
            canvas.line(x * MM, low, x * MM, high)
    for there, y in ((row > 0, MARGIN + FOOT + tall - OVERLAP / 2), (row < rows - 1, MARGIN + FOOT + OVERLAP / 2)):
        if there:
            canvas.line(start, y * MM, end, y * MM)
    canvas.setDash([])


def _foot(canvas: Canvas, words: str) -> None:
    """What the page is, and the two check lines."""
    canvas.setFillColor(ink("ink"))
    canvas.setFont(BOLD, 10)
    canvas.drawString(MARGIN * MM, (MARGIN + FOOT - 5) * MM, words)
    canvas.setFont(PLAIN, 9)
    canvas.drawString(
        MARGIN * MM, (MARGIN + FOOT - 10) * MM, "Print at 100 %, never fit to the page. Measure these lines first:"
    )
    canvas.setStrokeColor(ink("ink"))
    canvas.setLineWidth(0.7)
    for y, long, said in ((MARGIN + 11, 100.0, "100 mm"), (MARGIN + 3, 4 * INCH, '4"')):
        canvas.line(MARGIN * MM, y * MM, (MARGIN + long) * MM, y * MM)
        for x in (MARGIN, MARGIN + long):
            canvas.line(x * MM, (y - 2) * MM, x * MM, (y + 2) * MM)
        canvas.drawString((MARGIN + long + 3) * MM, (y - 1) * MM, said)
