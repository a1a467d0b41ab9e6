"""A photograph beside the piece: one length on it is told, then others are read off it into what the piece is asked."""

from __future__ import annotations

import base64
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core import guide_edits, measure, piece_edits
from nullah.core.document import Guide, Project
from nullah.formats import photo
from nullah.formats.trouble import FileTrouble
from nullah.gui.flow import flow
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, label, pick, refill_pick

FILTER = "Pictures (*.jpg *.jpeg *.png *.JPG *.JPEG *.PNG)"
FAR, NEAR = 20.0, 2.0  # pixels of the picture that an arrow key moves by, and with Shift
_ARROWS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


class Photo(QWidget):
    """The picture with its marks. A click sets a mark, so does Space at the crosshair that the arrows move; a third begins anew."""

    marked = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._of = ""
        self._pixels = QPixmap()
        self.marks: list[QPointF] = []  # pixels of the picture
        self.known: guide_edits.Ends | None = None
        self.cross = QPointF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 90)
        self.setAccessibleName("picture to go by")
        self.setAccessibleDescription(
            "Arrows move the crosshair, with Shift by less; Space sets a mark, Escape takes the marks away."
        )

    def show_guide(self, guide: Guide) -> None:
        """Show a guide; its marks go with another picture."""
        if guide.jpeg != self._of:
            self._of = guide.jpeg
            self._pixels.loadFromData(base64.b64decode(guide.jpeg))
            self.marks = []
            self.cross = QPointF(guide.wide / 2, guide.tall / 2)
        k = guide.known
        self.known = (k.x0, k.y0, k.x1, k.y1) if k is not None else None
        self.update()

    def ends(self) -> guide_edits.Ends | None:
        """The two marks, once there are two."""
        if len(self.marks) < 2:
            return None
        a, b = self.marks
        return (a.x(), a.y(), b.x(), b.y())

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
        self.marks = [*self.marks, point] if len(self.marks) < 2 else [point]
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
        if self.known is not None:
            x0, y0, x1, y1 = self.known
            self._line(painter, "computed", [QPointF(x0, y0), QPointF(x1, y1)])
        self._line(painter, "decision", self.marks)
        if self.hasFocus():
            at = self._to(self.cross)
            painter.setPen(QPen(self._theme["decision"], 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(at.x(), 0), QPointF(at.x(), self.height()))
            painter.drawLine(QPointF(0, at.y()), QPointF(self.width(), at.y()))
        painter.end()

    def _line(self, painter: QPainter, ink: str, points: list[QPointF]) -> None:
        places = [self._to(p) for p in points]
        for width, colour in ((4.5, "panel"), (2.0, ink)):  # to be seen on light and on dark
            painter.setPen(QPen(self._theme[colour], width))
            for at in places:
                painter.drawEllipse(at, 5, 5)
            if len(places) == 2:
                painter.drawLine(*places)


class GuidePanel(QWidget):
    """The picture, what is known on it, and what is read off it."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self._asks: dict[str, str] = {}
        self.photo = Photo(theme)
        self.photo.marked.connect(self.refresh)
        self.what = label("", "quiet", wrap=True)
        self.choose = button("A picture", self.open, "chip", "a photograph of what you would make, JPEG or PNG")
        self.away = button("Take the picture away", self._drop, "chip")
        self.known = Field("known length", 84, self._know, True)
        self.known.setToolTip("what lies between the two marks, as it is known")
        self.reading = label("", "heading")
        self.into = pick("answer that is read off", [], lambda _: None)
        self.take = button("Make it that", self._take, "chip", "write what is read into the answer")
        self.first = flow("known between the marks:", self.known)
        self.second = flow("Between the marks:", self.reading, "for the", self.into, self.take)
        above = flow(self.choose, self.away, self.first)
        whole = column(self, above, self.what, self.photo, self.second, margins=0, spacing=4)
        whole.setStretch(2, 1)

    def refresh(self) -> None:
        """Show the guide of the piece in hand as it is."""
        guide = guide_edits.of(self.session.project)
        for thing in (self.photo, self.away, self.first):
            thing.setVisible(guide is not None)
        self.choose.setText("A picture" if guide is None else "Another picture")
        self.what.setText(self._words(guide))
        self.what.show()
        self.second.setVisible(guide is not None and guide.known is not None)
        if guide is None:
            return
        self.photo.show_guide(guide)
        ends = self.photo.ends()  # another picture has none yet
        self.what.setVisible(ends is None)  # it says what to do, and the room is the picture's
        self.known.setEnabled(ends is not None)
        self.known.show_text(self.session.figures(guide.known.mm) if guide.known is not None and ends is None else "")
        piece = self.session.project.in_hand
        kind = piece_edits.kind_of(piece)
        self._asks = {a.words: a.name for a in (kind.asks if kind else ()) if a.type == "length"}
        refill_pick(self.into, list(self._asks))
        apart = guide_edits.readable(guide, ends)
        self.reading.setText(self.session.told(guide_edits.told(guide, ends)) if apart else "mark two ends")
        for thing in (self.into, self.take):
            thing.setEnabled(apart and bool(self._asks))

    def _words(self, guide: Guide | None) -> str:
        if guide is None:
            return "A photograph to go by: tell one length on it, and read the others off. A small copy is kept in the project."
        if guide.known is None:
            return f"{guide.name}: click the two ends of something whose length you know, then type that length."
        return (
            f"{guide.name}: click the two ends of what is to be read. Only what lies as far from the camera as the known length, and "
            "square to it, is read right."
        )

    def open(self) -> None:
        """Ask for a picture, and put it beside the piece in hand."""
        name, _ = QFileDialog.getOpenFileName(self, "A picture of what you would make", "", FILTER)
        if not name:
            return
        try:
            found = photo.read(Path(name))
        except FileTrouble as trouble:
            self.session.said.emit(str(trouble), True)
            return
        s = self.session
        s.attempt(
            f"{found.name} beside {s.project.in_hand.name}",
            lambda: guide_edits.put(s.project, found.name, found.jpeg, found.wide, found.tall),
        )
        self.photo.setFocus()

    def _drop(self) -> None:
        self.session.attempt("the picture taken away", lambda: guide_edits.drop(self.session.project))

    def _know(self, text: str) -> bool:
        s, ends = self.session, self.photo.ends()
        if ends is None:
            return False

        def make() -> Project:
            return guide_edits.know(s.project, ends, measure.parse_positive(text, s.project.units, "a length"))

        if not s.attempt(f"known on the picture: {text.strip()}", make):
            return False
        self.photo.marks = []
        self.refresh()
        return True

    def _take(self) -> None:
        s, guide, ends = self.session, guide_edits.of(self.session.project), self.photo.ends()
        name = self._asks.get(self.into.currentText(), "")
        if guide is None or ends is None or not name:
            return
        read = guide_edits.taken(guide, ends)
        words = f"read off {guide.name}: {self.into.currentText()} {s.figures(read)}"
        s.attempt(words, lambda: piece_edits.set_answer(s.project, name, read))
