"""A small picture of a piece."""

from __future__ import annotations

from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from nullah.core.drawing.display_list import Drawing, Text
from nullah.gui.paint.render import Renderer, fitted
from nullah.gui.session import Session
from nullah.gui.theme import Theme

TALL = 112  # px at the least


class Thumb(QWidget):
    """A small picture of a piece, without words."""

    def __init__(self, theme: Theme, session: Session) -> None:
        super().__init__()
        self.drawing = Drawing()
        self._renderer = Renderer(theme, session.signed_figure, session.told)
        self._renderer.handles = False
        self.setMinimumHeight(TALL)

    def show_drawing(self, drawing: Drawing) -> None:
        """Show the piece of a drawing."""
        self.drawing = Drawing(tuple(i for i in drawing.items if not isinstance(i, Text)), drawing.title)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.drawing.items:
            painter = QPainter(self)
            self._renderer.paint(painter, self.drawing, fitted(self.drawing, self.width(), self.height(), 6.0))
            painter.end()
