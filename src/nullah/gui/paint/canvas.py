"""A widget that shows a drawing to scale: points at it, drags in it, types on its dimensions.

It is given a drawing and sends signals; it changes nothing itself. Everything the mouse does, keys do too: full stop and comma
pick one thing after the other, arrows move the one picked by the division shown (Shift: ten), plus, minus and 0 come nearer
and go back, D types on one dimension after the other, Ctrl with arrows turns what can be turned.
"""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from nullah.core.drawing.display_list import Area, Drawing, Handle, Line
from nullah.gui.paint.render import Renderer, Scale, fitted_with_words, scale_bar
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font
from nullah.gui.tips import show_tip
from nullah.gui.widgets import pressed

NEAR = 7.0  # pixels
TURN_BY_PIXEL, TURN_BY_KEY = 0.5, 15.0  # degrees
BAR = 18.0  # pixels at the foot that the scale bar has for itself
_ARROWS: dict[int, tuple[int, int]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class Canvas(QWidget):
    """The thing itself, to scale. The wheel comes nearer; dragging the ground moves it; a double click shows all again."""

    picked = Signal(str)  # the tag clicked
    typed = Signal(str, str)  # a dimension's edit name, and what was typed
    dragged = Signal(str, float, float, bool)  # a tag, mm moved along and up, whether let go
    nudged = Signal(str, int, int)  # a tag, and so many divisions along and up
    placed = Signal(float, float, bool)  # a place clicked where nothing is to be picked, mm, and whether with Shift
    left_be = Signal()  # a drag given up
    turned = Signal(float, float)  # the thing itself turned by hand: degrees to the right and up

    def __init__(self, theme: Theme, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.renderer = Renderer(theme, session.signed_figure, session.told)
        self.drawing = Drawing()
        self.lit = ""
        self.margin = 58.0
        self.margin_up: float | None = None  # above and below, where that is to be another
        self.near = 1.0
        self.pan = QPointF(0, 0)
        self.bar = True
        self.may_drag: tuple[str, ...] = ()
        self.turns = False  # whether dragging the ground turns the thing; with Shift it moves it then
        self._pressed: tuple[QPointF, str] | None = None
        self._moved = False
        self._held: Scale | None = None  # while something is dragged the scale stays
        self._picked = ""
        self._field: QLineEdit | None = None
        self._still: tuple[object, ...] = ()
        self._still_pixels = QPixmap()
        self._fitted: tuple[tuple[object, ...] | None, Drawing, Scale] = (None, self.drawing, Scale(1.0, 0.0, 0.0))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 150)
        self.setAccessibleName("drawing to scale")
        self.setAccessibleDescription(
            "Full stop and comma pick one thing after the other, arrows move it, D types on a dimension."
        )

    def takes_gestures(self, *prefixes: str) -> None:
        """Let the session hear of what is pulled here: handles, and whatever's tag begins with one of ``prefixes``."""
        self.may_drag = prefixes
        self.dragged.connect(self.session.pull)
        self.nudged.connect(self.session.nudge)
        self.left_be.connect(self.session.let_be)

    def show_drawing(self, drawing: Drawing, lit: str = "") -> None:
        """Show another drawing; where one looks stays as it is."""
        self.drawing, self.lit = drawing, lit
        self.update()

    def scale(self) -> Scale:
        """mm to pixels as now shown."""
        if self._held is not None:
            return self._held
        base = self._base()
        k = base.k * self.near
        x = self.width() / 2 + (base.x - self.width() / 2) * self.near + self.pan.x()
        y = self.height() / 2 + (base.y - self.height() / 2) * self.near + self.pan.y()
        return Scale(k, x, y)

    def _base(self) -> Scale:
        """The scale at which the whole drawing is seen with all its words; worked out once for a drawing, a size and a unit."""
        key = (
            id(self.drawing),
            self.size(),
            self.margin,
            self.margin_up,
            self.renderer.size,
            self.renderer.figures(1.0),
        )
        if key != self._fitted[0] or self._fitted[1] is not self.drawing:
            base = fitted_with_words(
                self.drawing,
                self.width(),
                self.height(),
                self.margin,
                self.margin_up,
                lambda k: self.renderer.words_at(self.drawing, k),
                BAR if self.bar else 0.0,
                self._fitted[2].k if self._fitted[0] is not None and self._fitted[0][1:] == key[1:] else 0.0,
            )
            self._fitted = (key, self.drawing, base)
        return self._fitted[2]

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        scale = self.scale()
        if self.drawing.under is not None:
            painter.drawPixmap(0, 0, self._under(self.drawing.under, scale))
        self.renderer.paint(painter, self.drawing, scale, self.lit)
        if self.bar and self.drawing.items:
            self._scale_bar(painter, scale)
        if self.hasFocus():
            painter.setPen(QPen(self.renderer.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
        painter.end()

    def _under(self, under: Drawing, scale: Scale) -> QPixmap:
        """What does not move, painted once and kept."""
        key = (id(under), scale, self.lit, self.renderer.theme.dark, self.size(), self.renderer.figures(1.0))
        if key != self._still:
            ratio = self.devicePixelRatioF()
            self._still_pixels = QPixmap(self.size() * ratio)
            self._still_pixels.setDevicePixelRatio(ratio)
            self._still_pixels.fill(self.renderer.theme["ground"])
            painter = QPainter(self._still_pixels)
            self.renderer.paint(painter, under, scale, self.lit)
            painter.end()
            self._still = key
        return self._still_pixels

    def _scale_bar(self, painter: QPainter, scale: Scale) -> None:
        mm, words = scale_bar(scale.k, self.session.project.units)
        long = mm * scale.k
        y, x = self.height() - 9.0, 8.0
        painter.setPen(QPen(self.renderer.theme["quiet"], 1.4))
        painter.drawPolyline(
            QPolygonF([QPointF(x, y - 5), QPointF(x, y), QPointF(x + long, y), QPointF(x + long, y - 5)])
        )
        painter.setFont(font(11))
        if self.session.project.units == "in":
            words += "     \u2212 less a hair   + and a hair"
        painter.drawText(QRectF(x + long + 6, y - 12, 320, 16), Qt.AlignmentFlag.AlignVCenter, words)

    # ---- keys

    def tags(self) -> list[str]:
        """Everything that can be picked, in the order it is drawn."""
        named = [i.tag for i in self.drawing.everything() if isinstance(i, Area | Handle) and i.tag]
        lines = [i.tag for i in self.drawing.everything() if isinstance(i, Line) and self._movable(i.tag)]
        return list(dict.fromkeys(named + lines))

    def _movable(self, tag: str) -> bool:
        handles = (i.tag for i in self.drawing.everything() if isinstance(i, Handle))
        return bool(tag) and (tag.startswith(self.may_drag or ("\0",)) or tag in handles)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if self.turns and key in _ARROWS and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            dx, dy = _ARROWS[key]
            self.turned.emit(dx * TURN_BY_KEY, dy * TURN_BY_KEY)
        elif key in _ARROWS:
            dx, dy = _ARROWS[key]
            if self._movable(self._picked):
                times = 10 if shift else 1
                self.nudged.emit(self._picked, dx * times, dy * times)
            else:
                self.pick_next(1 if dx - dy > 0 else -1)
        elif key in (Qt.Key.Key_Period, Qt.Key.Key_Comma):
            self.pick_next(1 if key == Qt.Key.Key_Period else -1)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus):
            self._come(QPointF(self.width() / 2, self.height() / 2), 1 / 1.25 if key == Qt.Key.Key_Minus else 1.25)
        elif key == Qt.Key.Key_0:
            self.show_all()
        elif key == Qt.Key.Key_D and not event.modifiers():
            self.next_field()
        elif key == Qt.Key.Key_Escape and self._pressed is not None:
            self._let_be()
        else:
            super().keyPressEvent(event)

    def pick_next(self, step: int) -> None:
        """Pick the next thing, or the one before."""
        tags = self.tags()
        if not tags:
            return
        at = tags.index(self._picked) + step if self._picked in tags else (0 if step > 0 else -1)
        self._picked = tags[at % len(tags)]
        self.setAccessibleDescription(f"picked: {self._in_words(self._picked)}")
        self.picked.emit(self._picked)

    def _in_words(self, tag: str) -> str:
        """A tag as it is called on the screen: what is pulled by what pulling does, a board by its name, a fault by its kind, a part by
        its own."""
        kind, _, name = tag.partition(":")
        items = [i for i in self.drawing.everything() if isinstance(i, Area | Handle) and i.tag == tag and i.hint]
        pulled = next((i.hint for i in items if isinstance(i, Handle)), "")
        if pulled:
            return self.renderer.told(pulled)
        board_id, _, which = name.partition("/")
        board = next((b for b in self.session.project.boards if b.id in (name, board_id)), None)
        if board is not None:
            fault = next((d for d in board.defects if d.id == which), None)
            if fault is not None:
                return f"{fault.kind} of {board.name}"
            return f"{which} of {board.name}" if which else board.name
        part = next((p for p in self.session.plan.piece.parts if p.id == name), None)
        if part is not None:
            return part.name
        if items:
            return self.renderer.told(items[0].hint)
        return f"{kind} {name.replace('/', ' ')}".replace("_", " ").strip()

    # ---- pointing

    def tag_at(self, at: QPointF) -> tuple[str, str]:
        """The tag and hint of what is uppermost at a point; handles before all else."""
        scale = self.scale()
        hint = ""
        items = self.drawing.everything()
        for item in items:
            if isinstance(item, Handle) and (scale.to(item.at) - at).manhattanLength() < 2 * NEAR:
                return item.tag, item.hint
        for item in reversed(items):
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
        return next((d.edit for box, d in self.renderer.dimension_boxes() if d.edit and box.contains(at)), "")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        edit = self.edit_at(event.position())
        if edit:
            self.open_field(edit)
            return
        tag, _ = self.tag_at(event.position())
        self._pressed, self._moved = (event.position(), tag), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            self._hover(event.position(), event.globalPosition().toPoint())
            return
        start, tag = self._pressed
        moved = event.position() - start
        if not self._moved and moved.manhattanLength() < 4:
            return
        if not self._moved and self._movable(tag):
            self._held = self.scale()
        self._moved = True
        if self._held is not None:
            k = self.scale().k
            self.dragged.emit(tag, moved.x() / k, -moved.y() / k, False)
        elif self.turns and not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._pressed = (event.position(), tag)
            self.turned.emit(-moved.x() * TURN_BY_PIXEL, moved.y() * TURN_BY_PIXEL)
        else:
            self.pan += moved
            self._pressed = (event.position(), tag)
            self.update()

    def _hover(self, at: QPointF, on_screen: QPoint) -> None:
        over = self.edit_at(at)
        tag, hint = self.tag_at(at)
        shape = Qt.CursorShape.PointingHandCursor if over or tag else Qt.CursorShape.ArrowCursor
        if not over and self._movable(tag):
            shape = Qt.CursorShape.OpenHandCursor
        self.setCursor(shape)
        show_tip(on_screen, "click to type" if over else self.renderer.told(hint), self)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        start, tag = self._pressed
        self._pressed = None
        if self._moved and self._held is not None:
            k = self.scale().k
            moved = event.position() - start
            self._picked, self._held = tag, None
            self.dragged.emit(tag, moved.x() / k, -moved.y() / k, True)
        elif not self._moved:
            self._picked = tag
            self.picked.emit(tag)
            if not tag:
                x, y = self.scale().back(event.position())
                self.placed.emit(x, y, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        self._held = None

    def _let_be(self) -> None:
        """Give up a drag: all is as it was."""
        self._pressed, self._held = None, None
        self.left_be.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.show_all()

    def show_all(self) -> None:
        """Step back until everything is seen."""
        self.near, self.pan = 1.0, QPointF(0, 0)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._come(event.position(), 1.0015 ** event.angleDelta().y())

    def _come(self, spot: QPointF, factor: float) -> None:
        """Nearer to a spot, or back from it."""
        new = max(1.0, min(16.0, self.near * factor))
        middle = QPointF(self.width() / 2, self.height() / 2)
        offset = spot - middle - self.pan
        self.pan += offset * (1 - new / self.near)
        self.near = new
        if new == 1.0:
            self.pan = QPointF(0, 0)
        self.update()

    # ---- typing on a dimension

    def next_field(self, here: str = "", by: int = 1) -> None:
        """Open a field on the dimension after the one that ``here`` names, or on the first that can be typed on."""
        names = list(dict.fromkeys(d.edit for _, d in self.renderer.dimension_boxes() if d.edit))
        if names:
            self.open_field(names[(names.index(here) + by) % len(names)] if here in names else names[0])

    def open_field(self, edit: str) -> None:
        """Open a field on the dimension that ``edit`` names."""
        found = next(((box, d) for box, d in self.renderer.dimension_boxes() if d.edit == edit), None)
        if found is None:
            return
        box, dimension = found
        self.close_field()
        field = QLineEdit(self.session.figure_and_hair(dimension.mm)[0], self)
        field.setObjectName("dimension")
        field.setProperty("edit", edit)
        field.setAccessibleName(f"type a size for {edit.replace('.', ' ').replace('_', ' ')}")
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
        self.setFocus()
        self.typed.emit(edit, words)

    def _take_and_go_on(self, by: int) -> None:
        """Take what was typed, where something was, and open the next dimension's field."""
        field = self._field
        if field is None:
            return
        here, words, typed = field.property("edit"), field.text(), field.isModified()
        if typed:
            self.close_field()
            self.typed.emit(here, words)
            QTimer.singleShot(0, lambda: self.next_field(here, by))  # once it is painted anew
        else:
            self.next_field(here, by)

    def close_field(self) -> None:
        """Close the open field, leaving things as they are."""
        if self._field is not None:
            field, self._field = self._field, None
            field.hide()
            field.deleteLater()

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if watched is self._field and (key := pressed(event)) is not None:
            if key == Qt.Key.Key_Escape:
                self.close_field()
                self.setFocus()
                return True
            if key in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab):
                self._take_and_go_on(1 if key == Qt.Key.Key_Tab else -1)
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
