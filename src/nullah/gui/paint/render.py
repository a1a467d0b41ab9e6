"""Paints a display list: mm to pixels, y upward, inks to colours."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF

from nullah.core.drawing.display_list import FINEST, Area, Dimension, Drawing, Handle, Line, Text, area
from nullah.core.drawing.placing import FIGURE, Placed, hidden, place, text_box, too_low
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import INCH
from nullah.gui.theme import Theme, font


@frozen
class Scale:
    """How mm become pixels: ``k`` pixels a mm, and where mm (0, 0) lies."""

    k: float
    x: float
    y: float

    def to(self, p: tuple[float, float]) -> QPointF:
        return QPointF(self.x + p[0] * self.k, self.y - p[1] * self.k)

    def back(self, p: QPointF) -> tuple[float, float]:
        return ((p.x() - self.x) / self.k, (self.y - p.y()) / self.k)


def fitted(drawing: Drawing, width: float, height: float, margin: float, up: float | None = None) -> Scale:
    """The scale that shows the whole drawing with a margin in pixels all round (``up`` above and below), in the middle."""
    left, low, right, top = drawing.extent()
    wide, tall = max(right - left, 1e-6), max(top - low, 1e-6)
    k = max(1e-6, min((width - 2 * margin) / wide, (height - 2 * (margin if up is None else up)) / tall))
    x = (width - wide * k) / 2 - left * k
    y = height - (height - tall * k) / 2 + low * k
    return Scale(k, x, y)


LEAST_MARGIN = 18.0  # px: a drop that is pulled has its arrows in it; words take more where they stand beyond
PAD = 4.0  # px kept between words and the edge of the widget
LEAST_STEP, MOST_STEP, TRIES = (
    0.8,
    0.97,
    12,
)  # how much smaller the next try is to fit a drawing with its words; how many are made


def fitted_with_words(
    drawing: Drawing,
    width: float,
    height: float,
    margin: float,
    up: float | None,
    words: Callable[[float], tuple[float, float, float, float]],
    foot: float = 0.0,
    before: float = 0.0,
) -> Scale:
    """As ``fitted``, but margins are no wider than figures and names need that stand beyond what is drawn.

    Args:
        words: what all words take at so many pixels a mm: left, low, right, top, in pixels from mm (0, 0), y upward.
        foot: what is kept free below, pixels.
        before: pixels a mm of what was shown until now, which stay where they serve nearly as well; 0 where there was nothing.
    """
    left, low, right, top = drawing.extent()
    height -= foot
    wide, tall = max(right - left, 1e-6), max(top - low, 1e-6)
    across, side = min(LEAST_MARGIN, margin), min(LEAST_MARGIN, margin if up is None else up)
    largest = max(1e-6, min((width - 2 * across) / wide, (height - 2 * side) / tall))
    k = before if 0 < before <= largest else largest
    best: tuple[float, float, list[float]] | None = None
    for _ in range(TRIES):
        box = words(k)
        beyond = (left * k - box[0], low * k - box[1], box[2] - right * k, box[3] - top * k)
        need = [max(m, b + PAD) for m, b in zip((across, side, across, side), beyond, strict=True)]
        over = max((wide * k + need[0] + need[2]) / width, (tall * k + need[1] + need[3]) / height)
        if best is None or over < best[0]:
            best = (over, k, need)
        if over <= 1.0:
            if k != before or k == largest or over >= MOST_STEP:
                break
            best, k = None, largest
            continue
        # what would fit if the words stayed as they are; the smaller it is drawn, the more of its figures stand beside it
        fits = min((width - need[0] - need[2]) / wide, (height - need[1] - need[3]) / tall)
        k = min(max(fits, LEAST_STEP * k), MOST_STEP * k)
    _, k, need = best or (0.0, k, [across, side, across, side])
    # what is drawn stands in the middle of its room, as far as its words let it
    x = min(max((width - wide * k) / 2, need[0]), max(need[0], width - wide * k - need[2])) - left * k
    y = height - min(max((height - tall * k) / 2, need[1]), max(need[1], height - tall * k - need[3])) + low * k
    return Scale(k, x, y)


class Renderer:
    """Paints one drawing; ``figures`` shows a length, ``told`` a sentence, in the user's unit."""

    def __init__(self, theme: Theme, figures: Callable[[float], str], told: Callable[[str], str]) -> None:
        self.theme = theme
        self.figures, self.told = figures, told
        self.size = 1.0  # how much larger than usual words are drawn
        self.handles = True
        self.placed: tuple[Placed, ...] = ()
        self._scale = Scale(1.0, 0.0, 0.0)
        self._worded: list[QRectF] = []  # where words stand, pixels
        self._kept: list[tuple[Drawing, float, str, tuple[Placed, ...]]] = []

    def paint(self, painter: QPainter, drawing: Drawing, scale: Scale, lit: str = "") -> None:
        """Paint a drawing's own items in order; what carries the tag ``lit`` stands out."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._scale = scale
        self._worded.clear()
        waste: list[Area] = []  # what is hatched alike, one after the other: painted at once
        for item in drawing.items:
            bright = bool(lit) and getattr(item, "tag", "") == lit
            if isinstance(item, Area) and item.hatch and not bright:
                if waste and (item.ink, item.edge, item.opacity) != (waste[0].ink, waste[0].edge, waste[0].opacity):
                    self._hatched(painter, waste, scale)
                waste.append(item)
                continue
            self._hatched(painter, waste, scale)
            if isinstance(item, Area):
                self._area(painter, item, scale, bright)
            elif isinstance(item, Line):
                if bright or not item.detail or item.detail * scale.k >= FINEST:
                    self._line(painter, item, scale, bright)
            elif isinstance(item, Text):
                self._text(painter, item, scale, bright)
            elif isinstance(item, Handle) and self.handles:
                self._handle(painter, item, scale)
        self._hatched(painter, waste, scale)
        self.placed = self._places(drawing, scale)
        for one in self.placed:
            self._dimension(painter, one, scale, bool(lit) and one.item.tag == lit)

    def _places(self, drawing: Drawing, scale: Scale) -> tuple[Placed, ...]:
        """Where the dimensions go; worked out once for a drawing at a scale, in a unit."""
        unit = self.figures(1.0)
        for kept, k, shown, placed in self._kept:
            if kept is drawing and k == scale.k and shown == unit:
                return placed
        placed = place(drawing, scale.k, self.figures, self.told, width_of, self.size)
        self._kept = [(drawing, scale.k, unit, placed), *self._kept[:5]]
        return placed

    def words_at(self, drawing: Drawing, k: float) -> tuple[float, float, float, float]:
        """What all words of a drawing take at so many pixels a mm: left, low, right, top, in pixels from mm (0, 0)."""
        left, low, right, top = drawing.extent()
        boxes = [(left * k, low * k, right * k, top * k)]
        for part in (drawing, *((drawing.under,) if drawing.under is not None else ())):
            boxes += [p.box for p in self._places(part, Scale(k, 0.0, 0.0))]
            for item in part.items:
                if isinstance(item, Text) and not too_low(item, k, self.size):
                    wide = width_of(self.told(item.text), item.size * self.size, item.bold)
                    if not hidden(item, k, wide, self.size):
                        boxes.append(text_box(item, k, wide, self.size))
        return (
            min(b[0] for b in boxes),
            min(b[1] for b in boxes),
            max(b[2] for b in boxes),
            max(b[3] for b in boxes),
        )

    def dimension_boxes(self) -> list[tuple[QRectF, Dimension]]:
        """Where each dimension's figure stands on the widget."""
        s = self._scale
        return [
            (QRectF(s.x + p.box[0] - 3, s.y - p.box[3] - 2, p.box[2] - p.box[0] + 6, p.box[3] - p.box[1] + 4), p.item)
            for p in self.placed
        ]

    def _area(self, painter: QPainter, item: Area, scale: Scale, bright: bool) -> None:
        shape = QPainterPath()
        corners = [scale.to(p) for p in item.points]
        shape.addPolygon(QPolygonF([*corners, *corners[:1]]))
        self._shape(painter, item, bright, shape)

    def _shape(self, painter: QPainter, item: Area, bright: bool, shape: QPainterPath) -> None:
        """Paint a shape as an area is: filled, edged, hatched."""
        edge = "lit" if bright else item.edge
        painter.setPen(QPen(self.theme[edge], 2.6 if bright or edge == "lit" else 1.2) if edge else Qt.PenStyle.NoPen)
        fill: QBrush | Qt.BrushStyle = Qt.BrushStyle.NoBrush
        if item.ink:
            tint = QColor(self.theme[item.ink])
            tint.setAlphaF(item.opacity)
            fill = QBrush(tint)
        painter.setBrush(fill)
        painter.drawPath(shape)
        if item.hatch:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QBrush(self.theme["quiet"], Qt.BrushStyle.BDiagPattern))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            painter.drawPath(shape)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def _hatched(self, painter: QPainter, waste: list[Area], scale: Scale) -> None:
        """Paint hatched areas that are alike as one shape, and forget them."""
        if len(waste) == 1:
            self._area(painter, waste[0], scale, False)
        elif waste:
            shape = QPainterPath()
            shape.setFillRule(Qt.FillRule.WindingFill)
            x, y, k = scale.x, scale.y, scale.k
            for item in waste:
                points = (
                    item.points if area(item.points) > 0 else item.points[::-1]
                )  # one way round: no hole where two overlap
                corners = [QPointF(x + p * k, y - q * k) for p, q in points]
                shape.addPolygon(QPolygonF([*corners, corners[0]]))
            self._shape(painter, waste[0], False, shape)
        waste.clear()

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
        if too_low(item, scale.k, self.size):
            return
        text = self.told(item.text)
        made = font(item.size * self.size, item.bold)
        metrics = QFontMetricsF(made)
        wide = metrics.horizontalAdvance(text)
        if hidden(item, scale.k, wide, self.size):
            return
        left, low, _, top = text_box(item, scale.k, wide, self.size)
        start = QPointF(scale.x + left, scale.y - (low + top) / 2 + (metrics.ascent() - metrics.descent()) / 2)
        stands = QRectF(start.x() - 4, start.y() - metrics.capHeight() - 3, wide + 8, metrics.capHeight() + 6)
        if item.yields and any(stands.intersects(other) for other in self._worded):
            return
        self._worded.append(stands)
        self._words(painter, start, text, made, "lit" if bright else item.ink, item.halo)

    def _words(self, painter: QPainter, start: QPointF, words: str, made: QFont, ink: str, halo: bool) -> None:
        if halo:
            metrics = QFontMetricsF(made)
            ground = QColor(self.theme["panel"])
            ground.setAlpha(225)
            tall, wide = metrics.capHeight(), metrics.horizontalAdvance(words)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(ground)
            painter.drawRoundedRect(QRectF(start.x() - 3, start.y() - tall - 3, wide + 6, tall + 6), 3, 3)
        painter.setFont(made)
        painter.setPen(self.theme[ink])
        painter.drawText(start, words)

    def _handle(self, painter: QPainter, item: Handle, scale: Scale) -> None:
        """A drop of water with the ways it may be pulled."""
        at = scale.to(item.at)
        painter.setPen(QPen(self.theme["panel"], 1.5))
        painter.setBrush(self.theme["computed"])
        painter.drawEllipse(at, 6, 6)
        painter.setPen(QPen(self.theme["computed"], 1.6))
        for dx, dy in {"along": ((1, 0), (-1, 0)), "up": ((0, 1), (0, -1))}.get(
            item.way, ((1, 0), (-1, 0), (0, 1), (0, -1))
        ):
            tip = at + QPointF(dx, dy) * 12
            side = QPointF(dy, dx) * 3
            painter.drawPolyline(QPolygonF([tip - QPointF(dx, dy) * 3 - side, tip, tip - QPointF(dx, dy) * 3 + side]))

    def _dimension(self, painter: QPainter, one: Placed, scale: Scale, bright: bool) -> None:
        def at(p: tuple[float, float]) -> QPointF:
            return QPointF(scale.x + p[0], scale.y - p[1])

        ink = self.theme["lit" if bright else one.item.ink]
        painter.setPen(QPen(ink, 2.2 if bright else 1.0))
        for a, b in one.strokes:
            painter.drawLine(at(a), at(b))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        for arrow in one.arrows:
            painter.drawPolygon(QPolygonF([at(p) for p in arrow]))
        may_type = bool(one.item.edit)
        start = at(one.at)
        self._words(
            painter,
            start,
            one.words,
            font(FIGURE * self.size, bright or may_type),
            "lit" if bright else one.item.ink,
            True,
        )
        if may_type:
            painter.setPen(QPen(self.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.drawLine(start + QPointF(0, 3), start + QPointF(one.box[2] - one.box[0] - 2, 3))


def width_of(words: str, size: float, bold: bool) -> float:
    """The width of words in pixels."""
    return QFontMetricsF(font(size, bold)).horizontalAdvance(words)


def scale_bar(k: float, unit: str, most: float = 150.0) -> tuple[float, str]:
    """A round length whose bar is at most so many pixels long: mm, and what it is called."""
    if unit == "in":
        lengths = [(INCH * n, f'{n}"' if n < 12 else f"{n // 12}'") for n in (1, 2, 3, 6, 12, 24, 36, 72, 120)]
        lengths = [(INCH / 4, '1/4"'), (INCH / 2, '1/2"'), *lengths]
    else:
        lengths = [(float(n), f"{n} mm") for n in (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)]
    fitting = [one for one in lengths if one[0] * k <= most]
    return fitting[-1] if fitting else lengths[0]
