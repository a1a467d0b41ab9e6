"""A printed sheet: headings, words and drawings written from the top of a page down, the page turned when it is full."""

from __future__ import annotations

import io
from collections.abc import Callable

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from nullah.core.drawing.display_list import Drawing
from nullah.formats.paper import BOLD, PLAIN, Painter, load_fonts
from nullah.formats.paper import ink as colour

MARGIN = 40.0  # points
BOX = 8.0  # points of a box to check


class Sheet:
    """Pages of A4 or Letter under one ``title``; ``mm`` shows a length, ``told`` a sentence."""

    def __init__(
        self, out: io.BytesIO, title: str, mm: Callable[[float], str], told: Callable[[str], str], letter: bool = False
    ) -> None:
        load_fonts()
        self.wide, self.tall = LETTER if letter else A4
        self.title, self.mm, self.told = title, mm, told
        self.canvas = Canvas(out, pagesize=(self.wide, self.tall))
        self.canvas.setTitle(title)
        self.painter = Painter(self.canvas, mm, told)
        self.y = self.tall - MARGIN
        self.page = 1

    def save(self) -> None:
        """End the last page and write the whole."""
        self._foot()
        self.canvas.save()

    def room(self, need: float) -> None:
        """Turn the page where fewer than ``need`` points are left."""
        if self.y - need < MARGIN + 14:
            self._foot()
            self.canvas.showPage()
            self.page += 1
            self.y = self.tall - MARGIN

    def _foot(self) -> None:
        self.canvas.setFont(PLAIN, 8)
        self.canvas.setFillColor(colour("quiet"))
        self.canvas.drawString(MARGIN, MARGIN - 12, f"{self.title}, page {self.page}")
        self.canvas.setFillColor(colour("ink"))

    def head(self, words: str, size: float = 14, keep: float = 26) -> None:
        """A heading, on the same page as the ``keep`` points that follow it."""
        self.room(size + 14 + keep)
        self.y -= 8
        self.canvas.setFillColor(colour("ink"))
        self.canvas.setFont(BOLD, size)
        self.canvas.drawString(MARGIN, self.y - size, words)
        self.y -= size + 6

    def box(self, checked: bool) -> None:
        """A box to check at the left of the line that follows, with its mark where it is done already."""
        self.room(40)
        low = self.y - 10
        self.canvas.setStrokeColor(colour("ink"))
        self.canvas.setLineWidth(0.8)
        self.canvas.rect(MARGIN, low, BOX, BOX, stroke=1, fill=0)
        if checked:
            self.canvas.setLineWidth(1.4)
            self.canvas.line(MARGIN + 1.5, low + 4, MARGIN + 3.5, low + 1.5)
            self.canvas.line(MARGIN + 3.5, low + 1.5, MARGIN + BOX - 1, low + BOX - 1)

    def table(self, rows: list[tuple[str, ...]], at: tuple[float, ...]) -> None:
        """Rows under a head that is said again on every page; ``at``: where each column begins, points from the margin."""
        wide = self.wide - 2 * MARGIN
        columns = [*at, wide]

        def line(cells: tuple[str, ...], face: str) -> None:
            self.canvas.setFont(face, 9)
            for x, end, cell in zip(columns, columns[1:], cells, strict=False):
                self.canvas.drawString(MARGIN + x, self.y - 10, _fitted(cell, face, end - x - 4))
            self.y -= 14

        line(rows[0], BOLD)
        for cells in rows[1:]:
            page = self.page
            self.room(14)
            if self.page != page:
                line(rows[0], BOLD)
            line(cells, PLAIN)

    def words(self, text: str, indent: float = 0.0, bold: bool = False, ink: str = "ink", keep: float = 0.0) -> None:
        """A paragraph, broken over lines; on the same page as the ``keep`` points that follow it."""
        face, size = BOLD if bold else PLAIN, 9.0
        wide = self.wide - 2 * MARGIN - indent
        line = ""
        lines = []
        for word in self.told(text).split():
            longer = f"{line} {word}".strip()
            if pdfmetrics.stringWidth(longer, face, size) > wide and line:
                lines.append(line)
                line = word
            else:
                line = longer
        self.room(12 * min(len(lines) + 1, 3) + keep)
        for one in [*lines, line]:
            self.room(12)
            self.canvas.setFont(face, size)
            self.canvas.setFillColor(colour(ink))
            self.canvas.drawString(MARGIN + indent, self.y - 9, one)
            self.y -= 12
        self.canvas.setFillColor(colour("ink"))

    def drawing(self, drawing: Drawing, tall: float) -> None:
        """A display list, to fit the page's width and ``tall`` points."""
        self.room(tall + 8)
        left, low, right, top = drawing.extent()
        edge = 34.0
        k = min((self.wide - 2 * MARGIN - 2 * edge) / max(right - left, 1e-6), (tall - 2 * edge) / max(top - low, 1e-6))
        x = MARGIN + (self.wide - 2 * MARGIN - (right - left) * k) / 2 - left * k
        y = self.y - tall + (tall - (top - low) * k) / 2 - low * k
        self.painter.paint(drawing, k, x, y)
        self.y -= tall + 8


def _fitted(cell: str, face: str, wide: float) -> str:
    """A cell's words as far as its column goes, an ellipsis for the rest."""
    if pdfmetrics.stringWidth(cell, face, 9) <= wide:
        return cell
    while cell and pdfmetrics.stringWidth(cell + "\u2026", face, 9) > wide:
        cell = cell[:-1]
    return cell + "\u2026"
