"""A printed sheet: headings, words and drawings written from the top of a page down, the page turned when it is full."""

from __future__ import annotations

import io
from collections.abc import Callable

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from nullah.core.drawing import Drawing
from nullah.formats.paper import BOLD, PLAIN, Painter, load_fonts
from nullah.formats.paper import ink as colour

MARGIN = 40.0  # points


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

    def words(self, text: str, indent: float = 0.0, bold: bool = False, ink: str = "ink") -> None:
        """A paragraph, broken over lines."""
        face, size = BOLD if bold else PLAIN, 9.0
        wide = self.wide - 2 * MARGIN - indent
        line = ""
        lines = []
        for word in self.told(text).replace("\u25a1", "o").split():
            longer = f"{line} {word}".strip()
            if pdfmetrics.stringWidth(longer, face, size) > wide and line:
                lines.append(line)
                line = word
            else:
                line = longer
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
