"""A row that goes on in the next line where it is full, so that a window may be narrow and nothing is cut off."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QSizePolicy, QWidget

from nullah.gui.widgets import label


class Flow(QLayout):
    """Widgets side by side, as many lines as it takes; ``right`` lets the last line end at the right edge."""

    def __init__(self, spacing: int = 6, right: bool = False) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.right = right
        self.setSpacing(spacing)
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._place(QRect(0, 0, width, 0), False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._place(rect, True)

    def sizeHint(self) -> QSize:
        wide = sum(i.sizeHint().width() + self.spacing() for i in self._shown())
        tall = max((i.sizeHint().height() for i in self._shown()), default=0)
        return QSize(wide, tall)

    def minimumSize(self) -> QSize:
        return QSize(
            max((i.minimumSize().width() for i in self._shown()), default=0),
            max((i.minimumSize().height() for i in self._shown()), default=0),
        )

    def _shown(self) -> list[QLayoutItem]:
        return [i for i in self._items if not i.isEmpty()]

    def _lines(self, width: int) -> list[list[QLayoutItem]]:
        lines: list[list[QLayoutItem]] = [[]]
        used = 0
        for item in self._shown():
            wide = item.sizeHint().width()
            if lines[-1] and used + wide > width:
                lines.append([])
                used = 0
            lines[-1].append(item)
            used += wide + self.spacing()
        return lines

    def _place(self, rect: QRect, really: bool) -> int:
        y = rect.y()
        for line in self._lines(rect.width()):
            tall = max((i.sizeHint().height() for i in line), default=0)
            whole = sum(i.sizeHint().width() for i in line) + self.spacing() * max(0, len(line) - 1)
            x = rect.x() + (max(0, rect.width() - whole) if self.right else 0)
            for item in line:
                size = item.sizeHint()
                if really:
                    item.setGeometry(QRect(QPoint(x, y + (tall - size.height()) // 2), size))
                x += size.width() + self.spacing()
            y += tall + self.spacing()
        return max(0, y - rect.y() - self.spacing())


def flow(*things: QWidget | str, spacing: int = 6, right: bool = False) -> QWidget:
    """Widgets and words side by side, in as many lines as it takes, as one widget."""
    made = QWidget()
    made.setObjectName("flow")
    layout = Flow(spacing, right)
    for thing in things:
        layout.addWidget(label(thing) if isinstance(thing, str) else thing)
    made.setLayout(layout)
    policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    policy.setHeightForWidth(True)
    made.setSizePolicy(policy)
    return made
