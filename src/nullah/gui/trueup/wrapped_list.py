"""A list whose lines wrap, each as high as all of its words."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem

AROUND = QSize(20, 12)  # pixels beside and above words, both sides together


class WrappedList(QListWidget):
    """Lines of words, scrolled by the pixel; ``height`` in pixels."""

    def __init__(self, name: str, height: int) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFixedHeight(height)
        self.setWordWrap(True)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def put(self, words: str, data: object = None) -> None:
        """One more line, and what stands behind it."""
        item = QListWidgetItem(words)
        item.setData(Qt.ItemDataRole.UserRole, data)
        self.addItem(item)
        self._fit(item)

    def _fit(self, item: QListWidgetItem) -> None:
        wide = max(self.width() - self.verticalScrollBar().sizeHint().width() - AROUND.width(), 40)
        tall = self.fontMetrics().boundingRect(0, 0, wide, 10_000, Qt.TextFlag.TextWordWrap, item.text()).height()
        item.setSizeHint(QSize(wide, tall + AROUND.height()))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        for n in range(self.count()):
            self._fit(self.item(n))
