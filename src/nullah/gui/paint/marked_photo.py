"""A picture with marks set on it by hand: the ends of a length, or the corners of a board."""

from __future__ import annotations

import base64
from collections.abc import Sequence
from itertools import pairwise

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from nullah.gui.theme import Theme

PICTURES = "Pictures (*.jpg *.jpeg *.png *.JPG *.JPEG *.PNG)"  # for a dialog that asks for one
FAR, NEAR = 20.0, 2.0  # pixels of the picture that an arrow key moves by, and with Shift
_ARROWS: dict[int, tuple[int, int]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class MarkedPhoto(QWidget):
    """The picture with its marks, ``most`` of them. A click sets one, so does Space at the crosshair that the arrows move; one too many
    begins anew."""

    marked = Signal()

    def __init__(self, theme: Theme, most: int = 2) -> None:
        super().__init__()
        self.most = most
        self._theme = theme
        self._of = ""
        self._pixels = QPixmap()
        self.marks: list[QPointF] = []  # pixels of the picture
        self.known: tuple[QPointF, ...] = ()  # marks that are settled
        self.more: tuple[tuple[QPointF, ...], ...] = ()
        self.cross = QPointF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 90)
        self.setAccessibleName("picture to go by")
        self.setAccessibleDescription(
            "Arrows move the crosshair, with Shift by less; Space sets a mark, Escape takes the marks away."
        )

    def show_picture(
        self, jpeg: str, known: Sequence[tuple[float, float]], more: Sequence[Sequence[tuple[float, float]]] = ()
    ) -> None:
        """Show a picture, a JPEG in base64, with marks that are settled, in its pixels, and ``more`` of them, single ones and ends of
        lengths; those set by hand go with another picture."""
        if jpeg != self._of:
            self._of = jpeg
            self._pixels.loadFromData(picture_bytes(jpeg))
            self.marks = []
            self.cross = QPointF(self._pixels.width() / 2, self._pixels.height() / 2)
        self.known = tuple(QPointF(x, y) for x, y in known)
        self.more = tuple(tuple(QPointF(x, y) for x, y in points) for points in more)
        self.update()

    def place(self) -> QRectF:
        """Where the picture stands on the widget."""
        wide, tall = max(1, self._pixels.width()), max(1, self._pixels.height())
        k = min(self.width() / wide, self.height() / tall)
        return QRectF((self.width() - wide * k) / 2, (self.height() - tall * k) / 2, wide * k, tall * k)

    def _to(self, point: QPointF) -> QPointF:
        at = self.place()
        k = at.width() / max(1, self._pixels.width())
        return QPointF(at.x() + point.x() * k, at.y() + point.y() * k)

    def _back(self, point: QPointF) -> QPointF:
        at = self.place()
        k = at.width() / max(1, self._pixels.width())
        return self._within((point - at.topLeft()) / k)

    def _within(self, point: QPointF) -> QPointF:
        return QPointF(
            min(max(0.0, point.x()), float(self._pixels.width())),
            min(max(0.0, point.y()), float(self._pixels.height())),
        )

    def mark(self, point: QPointF) -> None:
        """Set a mark at a pixel of the picture."""
        self.marks = [*self.marks, point] if len(self.marks) < self.most else [point]
        self.cross = point
        self.update()
        self.marked.emit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and not self._pixels.isNull():
            self.mark(self._back(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in _ARROWS:
            by = NEAR if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else FAR
            x, y = _ARROWS[event.key()]
            self.cross = self._within(self.cross + QPointF(x, y) * by)
            self.update()
        elif event.key() == Qt.Key.Key_Space:
            self.mark(QPointF(self.cross))
        elif event.key() == Qt.Key.Key_Escape and self.marks:
            self.marks = []
            self.update()
            self.marked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawPixmap(self.place(), self._pixels, QRectF(self._pixels.rect()))
        if not self.marks or self.most < 3:
            self._line(painter, "computed", self.known)
            for points in self.more:
                self._line(painter, "computed", points, 3)
        self._line(painter, "decision", self.marks)
        if self.hasFocus():
            at = self._to(self.cross)
            painter.setPen(QPen(self._theme["decision"], 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(at.x(), 0), QPointF(at.x(), self.height()))
            painter.drawLine(QPointF(0, at.y()), QPointF(self.width(), at.y()))
        painter.end()

    def _line(self, painter: QPainter, ink: str, points: Sequence[QPointF], size: int = 5) -> None:
        places = [self._to(p) for p in points]
        for width, colour in ((4.5, "panel"), (2.0, ink)):  # to be seen on light and on dark
            painter.setPen(QPen(self._theme[colour], width))
            for at in places:
                painter.drawEllipse(at, size, size)
            closed = places[:1] if len(places) == max(4, self.most) else []
            for a, b in pairwise([*places, *closed]):
                painter.drawLine(a, b)


def picture_bytes(jpeg: str) -> bytes:
    """A picture's bytes from base64 text; none where that is no such text, as in a damaged file."""
    try:
        return base64.b64decode(jpeg)
    except ValueError:
        return b""
