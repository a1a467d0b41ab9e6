"""A widget that shows a drawing to scale: points at it, drags in it, types on its dimensions.

It is given a drawing and sends signals; it changes nothing itself.
"""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QLineEdit, QToolTip, QWidget

from nullah.core.drawing import Area, Drawing, Line
from nullah.gui.paint.render import Renderer, Scale, fitted
from nullah.gui.session import Session
from nullah.gui.theme import Theme

NEAR = 7.0  # pixels


class Canvas(QWidget):
    """The thing itself, to scale. The wheel comes nearer; dragging the ground moves it; a double click shows all again."""

    picked = Signal(str)  # the tag clicked
    typed = Signal(str, str)  # a dimension's edit name, and what was typed
    dragged = Signal(str, float, float, bool)  # a tag, mm moved along and up, whether let go

    def __init__(self, theme: Theme, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.renderer = Renderer(theme, session.figures, session.told)
        self.drawing = Drawing()
        self.lit = ""
        self.margin = 58.0
        self.near = 1.0
        self.pan = QPointF(0, 0)
        self.may_drag: tuple[str, ...] = ()
        self._pressed: tuple[QPointF, str] | None = None
        self._moved = False
        self._picked = ""
        self._field: QLineEdit | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setMinimumSize(240, 150)
        self.setAccessibleName("drawing to scale")

    def show_drawing(self, drawing: Drawing, lit: str = "") -> None:
        """Show another drawing; where one looks stays as it is."""
        self.drawing, self.lit = drawing, lit
        self.update()

    def scale(self) -> Scale:
        """mm to pixels as now shown."""
        base = fitted(self.drawing, self.width(), self.height(), self.margin)
        k = base.k * self.near
        x = self.width() / 2 + (base.x - self.width() / 2) * self.near + self.pan.x()
        y = self.height() / 2 + (base.y - self.height() / 2) * self.near + self.pan.y()
        return Scale(k, x, y)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        self.renderer.paint(painter, self.drawing, self.scale(), self.lit)
        if self.hasFocus():
            painter.setPen(QPen(self.renderer.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
        painter.end()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The arrows pick one thing after the other, so that no mouse is needed."""
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}.get(event.key(), 0)
        tags = list(dict.fromkeys(i.tag for i in self.drawing.items if isinstance(i, Area) and i.tag))
        if not step or not tags:
            super().keyPressEvent(event)
            return
        at = tags.index(self._picked) + step if self._picked in tags else (0 if step > 0 else -1)
        self._picked = tags[at % len(tags)]
        self.picked.emit(self._picked)

    # ---- pointing

    def tag_at(self, at: QPointF) -> tuple[str, str]:
        """The tag and hint of what is uppermost at a point."""
        scale = self.scale()
        hint = ""
        for item in reversed(self.drawing.items):
            if isinstance(item, Area) and (item.tag or item.hint):
                if QPolygonF([scale.to(p) for p in item.points]).containsPoint(at, Qt.FillRule.OddEvenFill):
                    hint = hint or item.hint
                    if item.tag:
                        return item.tag, hint
            elif isinstance(item, Line) and item.tag and _near_line(at, [scale.to(p) for p in item.points]):
                return item.tag, hint
        return "", hint

    def edit_at(self, at: QPointF) -> str:
        """The edit name of the dimension whose figure lies at a point, or ""."""
        return next((d.edit for box, d in self.renderer.dimension_boxes if d.edit and box.contains(at)), "")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        edit = self.edit_at(event.position())
        if edit:
            self.open_field(edit)
            return
        tag, _ = self.tag_at(event.position())
        self._pressed, self._moved = (event.position(), tag), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            over = self.edit_at(event.position())
            tag, hint = self.tag_at(event.position())
            hand = over or tag
            self.setCursor(Qt.CursorShape.PointingHandCursor if hand else Qt.CursorShape.ArrowCursor)
            QToolTip.showText(
                event.globalPosition().toPoint(), "click to type" if over else self.renderer.told(hint), self
            )
            return
        start, tag = self._pressed
        moved = event.position() - start
        if not self._moved and moved.manhattanLength() < 4:
            return
        self._moved = True
        if tag and tag.startswith(self.may_drag or ("\0",)):
            k = self.scale().k
            self.dragged.emit(tag, moved.x() / k, -moved.y() / k, False)
        else:
            self.pan += moved
            self._pressed = (event.position(), tag)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        start, tag = self._pressed
        self._pressed = None
        if self._moved:
            if tag and tag.startswith(self.may_drag or ("\0",)):
                k = self.scale().k
                moved = event.position() - start
                self.dragged.emit(tag, moved.x() / k, -moved.y() / k, True)
        else:
            self._picked = tag
            self.picked.emit(tag)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.near, self.pan = 1.0, QPointF(0, 0)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        factor = 1.0015 ** event.angleDelta().y()
        new = max(1.0, min(12.0, self.near * factor))
        middle = QPointF(self.width() / 2, self.height() / 2)
        offset = event.position() - middle - self.pan
        self.pan += offset * (1 - new / self.near)
        self.near = new
        if new == 1.0:
            self.pan = QPointF(0, 0)
        self.update()

    # ---- typing on a dimension

    def open_field(self, edit: str) -> None:
        """Open a field on the dimension that ``edit`` names."""
        found = next(((box, d) for box, d in self.renderer.dimension_boxes if d.edit == edit), None)
        if found is None:
            return
        box, dimension = found
        self.close_field()
        field = QLineEdit(
            self.renderer.figures(dimension.mm).replace(" less a hair", "").replace(" and a hair", ""), self
        )
        field.setObjectName("dimension")
        field.setAccessibleName(f"type a size for {edit}")
        wide = max(96, int(box.width()) + 30)
        left = min(max(0, int(box.center().x()) - wide // 2), self.width() - wide)
        field.setGeometry(left, int(box.center().y()) - 15, wide, 30)
        field.selectAll()
        field.show()
        field.setFocus()
        field.installEventFilter(self)
        field.returnPressed.connect(lambda: self._take(edit))
        self._field = field

    def _take(self, edit: str) -> None:
        if self._field is None:
            return
        words = self._field.text()
        self.close_field()
        self.typed.emit(edit, words)

    def close_field(self) -> None:
        """Close the open field, leaving things as they are."""
        if self._field is not None:
            field, self._field = self._field, None
            field.hide()
            field.deleteLater()

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if watched is self._field and event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:
            self.close_field()
            return True
        return False


def _near_line(at: QPointF, points: list[QPointF]) -> bool:
    for a, b in pairwise(points):
        d = b - a
        long = d.x() ** 2 + d.y() ** 2
        s = 0.0 if long == 0 else max(0.0, min(1.0, QPointF.dotProduct(at - a, d) / long))
        if (at - a - d * s).manhattanLength() < NEAR:
            return True
    return False
