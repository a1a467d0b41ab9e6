"""Display lists on paper: a drawing painted on a PDF page at any scale, with the typeface the window uses."""

from __future__ import annotations

import io
from collections.abc import Callable
from functools import lru_cache
from importlib import resources

from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from nullah.core.drawing.display_list import FINEST, Area, Drawing, Line, Point, Text
from nullah.core.drawing.ink import colour
from nullah.core.drawing.placing import FIGURE, Placed, hidden, place, text_box

PLAIN, BOLD = "Nullah", "Nullah-Bold"
SIZE = 0.62  # points for a screen pixel of the window at 100 %
MM = 72 / 25.4  # points a mm
PEN = 4.0  # points: no pen is broader
Box = tuple[float, float, float, float]  # left, low, right, top


def load_fonts() -> None:
    """Register the shipped typeface with the PDF library, once."""
    if PLAIN in pdfmetrics.getRegisteredFontNames():
        return
    for name, file in ((PLAIN, "Regular"), (BOLD, "Bold")):
        data = resources.files("nullah.gui").joinpath(f"fonts/AtkinsonHyperlegibleNext-{file}.ttf").read_bytes()
        pdfmetrics.registerFont(TTFont(name, io.BytesIO(data)))


@lru_cache(maxsize=256)
def ink(name: str) -> Color:
    """An ink as the PDF library's colour, for paper."""
    return HexColor(colour(name))


def _beyond(points: tuple[Point, ...], k: float, x: float, y: float, room: Box) -> bool:
    """Whether points on the page, with a pen's breadth round them, lie all on one side of a room."""
    xs, ys = [x + p[0] * k for p in points], [y + p[1] * k for p in points]
    return max(xs) < room[0] - PEN or min(xs) > room[2] + PEN or max(ys) < room[1] - PEN or min(ys) > room[3] + PEN


def width_of(words: str, size: float, bold: bool) -> float:
    """The width of words in points."""
    return float(pdfmetrics.stringWidth(words, BOLD if bold else PLAIN, size))


class Painter:
    """Paints drawings on a PDF canvas; ``figures`` shows a length, ``told`` a sentence, in the user's unit."""

    def __init__(self, canvas: Canvas, figures: Callable[[float], str], told: Callable[[str], str]) -> None:
        self.canvas, self.figures, self.told = canvas, figures, told
        self._placed: tuple[Drawing, float, float, tuple[Placed, ...]] | None = None  # of what was painted last

    def paint(
        self, drawing: Drawing, k: float, x: float, y: float, size: float = SIZE, room: Box | None = None
    ) -> None:
        """Paint at ``k`` points a mm, mm (0, 0) at (``x``, ``y``) points; ``size`` points a pixel for words and pens. Of what is drawn
        only what meets ``room`` is painted, points on the page: a drawing of many pages has little of itself on each."""
        for item in drawing.everything():
            if room is not None and isinstance(item, Area | Line) and _beyond(item.points, k, x, y, room):
                continue
            if isinstance(item, Area):
                self._area(item, k, x, y, size)
            elif isinstance(item, Line):
                if not item.detail or item.detail * k >= FINEST * size:
                    self._line(item, k, x, y, size)
            elif isinstance(item, Text):
                self._text(item, k, x, y, size)
        kept = self._placed
        if kept is None or kept[0] is not drawing or kept[1:3] != (k, size):
            flat = Drawing(drawing.everything())
            kept = self._placed = (drawing, k, size, place(flat, k, self.figures, self.told, width_of, size))
        for one in kept[3]:
            self._dimension(one, x, y, size)

    def _path(self, points: tuple[Point, ...], k: float, x: float, y: float, close: bool) -> PDFPathObject:
        path = self.canvas.beginPath()
        path.moveTo(x + points[0][0] * k, y + points[0][1] * k)
        for px, py in points[1:]:
            path.lineTo(x + px * k, y + py * k)
        if close:
            path.close()
        return path

    def _area(self, item: Area, k: float, x: float, y: float, size: float) -> None:
        c = self.canvas
        if item.ink:
            c.setFillColor(ink(item.ink), alpha=item.opacity)
        c.setStrokeColor(ink(item.edge or "outline"))
        c.setLineWidth(size)
        path = self._path(item.points, k, x, y, True)
        if item.ink or item.edge:
            c.drawPath(path, stroke=int(bool(item.edge)), fill=int(bool(item.ink)))
        c.setFillAlpha(1)
        if item.hatch:
            self._hatch(item.points, k, x, y)

    def _hatch(self, points: tuple[Point, ...], k: float, x: float, y: float) -> None:
        c = self.canvas
        c.saveState()
        c.clipPath(self._path(points, k, x, y, True), stroke=0, fill=0)
        xs, ys = [x + p[0] * k for p in points], [y + p[1] * k for p in points]
        c.setStrokeColor(ink("quiet"))
        c.setLineWidth(0.35)
        tall = max(ys) - min(ys)
        at = min(xs) - tall
        lines = c.beginPath()
        while at < max(xs):
            lines.moveTo(at, min(ys))
            lines.lineTo(at + tall, max(ys))
            at += 3.5
        c.drawPath(lines, stroke=1, fill=0)
        c.restoreState()

    def _line(self, item: Line, k: float, x: float, y: float, size: float) -> None:
        c = self.canvas
        c.setStrokeColor(ink(item.ink))
        c.setLineWidth(0.9 * size * item.width)
        c.setDash([3, 2] if item.dash else [])
        c.drawPath(self._path(item.points, k, x, y, False), stroke=1, fill=0)
        c.setDash([])

    def _text(self, item: Text, k: float, x: float, y: float, size: float) -> None:
        words = self.told(item.text).replace("\u25b2", "^").replace("\u2713", "done")
        wide = width_of(words, item.size * size, item.bold)
        if hidden(item, k, wide, size):
            return
        left, low, _, top = text_box(item, k, wide, size)
        self._words(
            words, x + left, y + (low + top) / 2 - item.size * size * 0.35, item.size * size, item.ink, item.bold
        )

    def _words(self, words: str, x: float, y: float, size: float, name: str, bold: bool) -> None:
        self.canvas.setFont(BOLD if bold else PLAIN, size)
        self.canvas.setFillColor(ink(name))
        self.canvas.drawString(x, y, words)

    def _dimension(self, one: Placed, x: float, y: float, size: float) -> None:
        c = self.canvas
        c.setStrokeColor(ink(one.item.ink))
        c.setFillColor(ink(one.item.ink))
        c.setLineWidth(0.8 * size)
        for (ax, ay), (bx, by) in one.strokes:
            c.line(x + ax, y + ay, x + bx, y + by)
        for arrow in one.arrows:
            c.drawPath(self._path(arrow, 1.0, x, y, True), stroke=0, fill=1)
        self._words(one.words, x + one.at[0], y + one.at[1], FIGURE * size, one.item.ink, bool(one.item.edit))
