"""The board in hand, unfolded: pulled and typed on like any drawing, and drawn on with a pen; photographs lie under it.

With a pen in hand dragging draws what it stands for, or the arrows move a crosshair and Space sets its corners one after the other;
with none in hand all is as in any other drawing.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap

from nullah.core.drawing.display_list import Drawing
from nullah.core.pictures.unfolded import Unfolded
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font

STEPS = 200.0  # arrow keys that a board's length takes
POINTS = ("edge", "thickness")  # pens that set one point at a time
_ARROWS: dict[int, tuple[int, int]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}
Place = tuple[float, float]


class BoardCanvas(Canvas):
    """The unfolded board. ``drawn`` tells the pen, the side and two places from the left end and the lower edge, mm."""

    drawn = Signal(str, str, float, float, float, float)
    pen_changed = Signal()

    def __init__(self, theme: Theme, session: Session) -> None:
        super().__init__(theme, session)
        self.at: Unfolded | None = None
        self.pen = ""
        self.cross: Place = (0.0, 0.0)
        self.photos: dict[str, QPixmap] = {}
        self._first: Place | None = None  # the first corner, once it is set
        self._draws = False
        self.setAccessibleName("the board, unfolded, to scale")

    def show_board(self, drawing: Drawing, at: Unfolded | None, photos: dict[str, QPixmap]) -> None:
        """Show a board: its drawing, where its sides lie in it, and the photographs of its sides."""
        if at is not None and (self.at is None or self.at.board.id != at.board.id):
            self.cross = (at.board.length / 2, at.panels["back" if at.over else "face"].y + at.board.width / 2)
            self._first = None
        self.at, self.photos = at, photos
        self.show_drawing(drawing)

    def take_pen(self, pen: str) -> None:
        """Take a pen in hand, or with "" none."""
        if pen != self.pen:
            self.pen, self._first, self._draws = pen, None, False
            self.setCursor(Qt.CursorShape.CrossCursor if pen else Qt.CursorShape.ArrowCursor)
            self.pen_changed.emit()
            self.update()

    # ---- drawing

    def _place(self, at: QPointF) -> Place:
        scale = self.scale()
        return (at.x() - scale.x) / scale.k, (scale.y - at.y()) / scale.k

    def _set(self, a: Place, b: Place) -> None:
        """Tell what was drawn between two places of the drawing; both are taken on the side that the first lies on."""
        if self.at is None:
            return
        on = self.at.side_at(*a)
        self._first = None
        if on is None:
            self.session.said.emit("Draw on the face or on the back.", True)
            self.update()
            return
        side, across = on
        panel = self.at.panels[side]
        other = min(max(0.0, panel.across(b[1])), panel.width)
        self.drawn.emit(self.pen, side, a[0], across, b[0], other)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.pen and event.button() == Qt.MouseButton.LeftButton:
            self._first = self.cross = self._place(event.position())
            self._draws = True
            if self.pen in POINTS:
                self._draws = False
                self._set(self._first, self._first)
            self.update()
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.pen:
            self.cross = self._place(event.position())
            self.update()
            return
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.pen:
            if self._draws and self._first is not None:
                self._draws = False
                self._set(self._first, self._place(event.position()))
            return
        super().mouseReleaseEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if not self.pen:
            super().mouseDoubleClickEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if not self.pen or self.at is None:
            super().keyPressEvent(event)
        elif key in _ARROWS:
            step = (
                1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else max(1.0, self.at.board.length / STEPS)
            )
            dx, dy = _ARROWS[key]
            self.cross = (self.cross[0] + dx * step, self.cross[1] + dy * step)
            self.update()
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.pen in POINTS or self._first is not None:
                self._set(self._first or self.cross, self.cross)
            else:
                self._first = self.cross
                self.update()
        elif key == Qt.Key.Key_Escape:
            if self._first is not None:
                self._first, self._draws = None, False
                self.update()
            else:
                self.take_pen("")
        else:
            super().keyPressEvent(event)

    # ---- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.at is not None and self.photos:
            self._paint_photos(self.at)
        super().paintEvent(event)
        if self.pen and self.at is not None:
            self._paint_pen(self.at)

    def _paint_photos(self, at: Unfolded) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        scale = self.scale()
        for side, pixels in self.photos.items():
            panel = at.panels[side]
            corner = scale.to((0.0, panel.y + panel.width))
            target = QRectF(corner.x(), corner.y(), at.board.length * scale.k, panel.width * scale.k)
            painter.drawPixmap(target, pixels, QRectF(pixels.rect()))
        painter.end()

    def _paint_pen(self, at: Unfolded) -> None:
        """The crosshair and what is being drawn, with its figures."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scale, theme = self.scale(), self.renderer.theme
        spot = scale.to(self.cross)
        painter.setPen(QPen(theme["decision"], 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(spot.x(), 0), QPointF(spot.x(), self.height()))
        painter.drawLine(QPointF(0, spot.y()), QPointF(self.width(), spot.y()))
        on = at.side_at(*(self._first or self.cross))
        words = self.pen
        if on is not None:
            side = on[0]
            here = min(max(0.0, at.panels[side].across(self.cross[1])), at.board.width)
            figure = self.session.figure
            words = f"{figure(min(max(0.0, self.cross[0]), at.board.length))}, {figure(here)} on the {side}"
        if self._first is not None:
            painter.setPen(QPen(theme["decision"], 2))
            painter.drawRect(QRectF(scale.to(self._first), spot).normalized())
        painter.setFont(font(12, True))
        painter.setPen(theme["decision"])
        wide = painter.fontMetrics().horizontalAdvance(words)
        x = spot.x() + 10 if spot.x() + wide + 14 < self.width() else spot.x() - wide - 10
        painter.drawText(QPointF(x, max(16.0, spot.y() - 8)), words)
        painter.end()
