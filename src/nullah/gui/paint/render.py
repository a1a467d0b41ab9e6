"""Paints a display list: mm to pixels, y upward, inks to colours."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from nullah.core.drawing import Area, Dimension, Drawing, Line, Text
from nullah.gui.theme import Theme, font


@dataclass(frozen=True)
class Scale:
    """How mm become pixels: ``k`` pixels a mm, and where mm (0, 0) lies."""

    k: float
    x: float
    y: float

    def to(self, p: tuple[float, float]) -> QPointF:
        return QPointF(self.x + p[0] * self.k, self.y - p[1] * self.k)

    def back(self, p: QPointF) -> tuple[float, float]:
        return ((p.x() - self.x) / self.k, (self.y - p.y()) / self.k)


def fitted(drawing: Drawing, width: float, height: float, margin: float) -> Scale:
    """The scale that shows the whole drawing with a margin in pixels all round, in the middle."""
    left, low, right, top = drawing.extent()
    wide, tall = max(right - left, 1e-6), max(top - low, 1e-6)
    k = max(1e-6, min((width - 2 * margin) / wide, (height - 2 * margin) / tall))
    x = (width - wide * k) / 2 - left * k
    y = height - (height - tall * k) / 2 + low * k
    return Scale(k, x, y)


class Renderer:
    """Paints one drawing; ``figures`` shows a length, ``told`` a sentence, in the user's unit."""

    def __init__(self, theme: Theme, figures: Callable[[float], str], told: Callable[[str], str]) -> None:
        self.theme = theme
        self.figures, self.told = figures, told
        self.dimension_boxes: list[tuple[QRectF, Dimension]] = []

    def paint(self, painter: QPainter, drawing: Drawing, scale: Scale, lit: str = "") -> None:
        """Paint in order; what carries the tag ``lit`` stands out."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.dimension_boxes.clear()
        for item in drawing.items:
            bright = bool(lit) and item.tag == lit
            if isinstance(item, Area):
                self._area(painter, item, scale, bright)
            elif isinstance(item, Line):
                self._line(painter, item, scale, bright)
            elif isinstance(item, Text):
                self._text(painter, item, scale, bright)
            else:
                self._dimension(painter, item, scale, bright)

    def _area(self, painter: QPainter, item: Area, scale: Scale, bright: bool) -> None:
        shape = QPolygonF([scale.to(p) for p in item.points])
        edge = "lit" if bright else item.edge
        painter.setPen(QPen(self.theme[edge], 2.4 if bright or edge == "lit" else 1.2) if edge else Qt.PenStyle.NoPen)
        painter.setBrush(self.theme[item.ink])
        painter.drawPolygon(shape)
        if item.hatch:
            brush = QBrush(self.theme["quiet"], Qt.BrushStyle.BDiagPattern)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(brush)
            painter.drawPolygon(shape)

    def _line(self, painter: QPainter, item: Line, scale: Scale, bright: bool) -> None:
        pen = QPen(self.theme["lit" if bright else item.ink], item.width * (2.2 if bright else 1.0))
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        if item.dash:
            pen.setDashPattern([5, 4])
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([scale.to(p) for p in item.points]))

    def _text(self, painter: QPainter, item: Text, scale: Scale, bright: bool) -> None:
        text = self.told(item.text)
        made = font(item.size, item.bold)
        metrics = QFontMetricsF(made)
        at = scale.to(item.at)
        wide = metrics.horizontalAdvance(text)
        shift = {"left": 0.0, "centre": -wide / 2, "right": -wide}[item.align]
        start = QPointF(at.x() + shift, at.y() + (metrics.ascent() - metrics.descent()) / 2)
        self._words(painter, start, text, made, "lit" if bright else item.ink, item.halo)

    def _words(self, painter: QPainter, start: QPointF, words: str, made: QFont, ink: str, halo: bool) -> None:
        if halo:
            metrics = QFontMetricsF(made)
            ground = QColor(self.theme["panel"])
            ground.setAlpha(190)
            wide = metrics.horizontalAdvance(words)
            painter.fillRect(
                QRectF(start.x() - 2, start.y() - metrics.capHeight() - 3, wide + 4, metrics.capHeight() + 6), ground
            )
        painter.setFont(made)
        painter.setPen(self.theme[ink])
        painter.drawText(start, words)

    def _dimension(self, painter: QPainter, item: Dimension, scale: Scale, bright: bool) -> None:
        a, b = scale.to(item.a), scale.to(item.b)
        long = math.hypot(b.x() - a.x(), b.y() - a.y()) or 1.0
        along = QPointF((b.x() - a.x()) / long, (b.y() - a.y()) / long)
        left = QPointF(along.y(), -along.x())
        a2, b2 = a + left * item.offset, b + left * item.offset
        ink = "lit" if bright else item.ink
        painter.setPen(QPen(self.theme[ink], 2.2 if bright else 1.0))
        sign = 1 if item.offset >= 0 else -1
        for p, q in ((a, a2), (b, b2)):
            painter.drawLine(p + left * (3 * sign), q + left * (4 * sign))
        painter.drawLine(a2, b2)
        for end, way in ((a2, 1), (b2, -1)):
            tick = (along * way + left) * 4
            painter.drawLine(end - tick, end + tick)
        words = f"{item.label} {self.figures(item.mm)}".strip()
        made = font(13, bold=bright or bool(item.edit))
        metrics = QFontMetricsF(made)
        wide, tall = metrics.horizontalAdvance(words), metrics.height()
        middle = (a2 + b2) / 2
        out = tall * 0.62 * sign
        if abs(along.x()) > 0.7:
            at = QPointF(
                middle.x() - wide / 2, middle.y() + left.y() * out + (metrics.ascent() - metrics.descent()) / 2
            )
            if wide > long - 6:
                at.setY(at.y() + left.y() * 2 * sign)
        else:
            side = left.x() * sign
            at = QPointF(
                middle.x() + (6 if side > 0 else -6 - wide), middle.y() + (metrics.ascent() - metrics.descent()) / 2
            )
        self._words(painter, at, words, made, ink, True)
        box = QRectF(at.x() - 3, at.y() - metrics.ascent() - 2, wide + 6, tall + 4)
        if item.edit:
            painter.setPen(QPen(self.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(at.x(), at.y() + 3), QPointF(at.x() + wide, at.y() + 3))
        self.dimension_boxes.append((box, item))
