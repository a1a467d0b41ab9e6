"""The project's boards as a strip: each a small picture to scale with its name; found by a word, put in order."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPen, QPolygonF
from PySide6.QtWidgets import (
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from nullah.core.document.project import Board
from nullah.core.layout.taper import clipped
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font
from nullah.gui.widgets import column, pick, row

TALL, WIDE = 54, 132  # px of a board in the strip
ORDERS: dict[str, Callable[[Board], object]] = {
    "as entered": lambda b: 0,
    "longest first": lambda b: -b.length,
    "widest first": lambda b: -b.width,
    "thickest first": lambda b: -b.thickness,
    "by wood": lambda b: b.species.lower(),
    "driest first": lambda b: b.moisture,
}
_BOARD = Qt.ItemDataRole.UserRole


class Rack(QWidget):
    """The strip, ``add`` beside it. ``chosen`` tells the id of the board that is picked in it."""

    chosen = Signal(str)

    def __init__(self, session: Session, theme: Theme, add: QWidget) -> None:
        super().__init__()
        self.session = session
        self._shown: tuple[object, ...] = ()
        self._hand = ""
        self.search = QLineEdit()
        self.search.setObjectName("find boards")
        self.search.setAccessibleName("find boards by name, wood or fault")
        self.search.setPlaceholderText("find")
        self.search.setFixedWidth(92)
        self.search.textChanged.connect(lambda _: self.refresh(self._hand))
        self.order = pick("order of boards", list(ORDERS), lambda _: self.refresh(self._hand))
        self.list = QListWidget()
        self.list.setObjectName("boards")
        self.list.setAccessibleName("the project's boards")
        self.list.setFlow(QListWidget.Flow.LeftToRight)
        self.list.setWrapping(False)
        self.list.setUniformItemSizes(True)
        self.list.setFixedHeight(TALL + 14)
        self.list.setHorizontalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setItemDelegate(_Small(session, theme, self.list))
        self.list.currentItemChanged.connect(self._turned)
        self.tools = QWidget()
        row_ = row(self.search, self.order, spacing=4)
        row_.setContentsMargins(0, 0, 0, 0)
        self.tools.setLayout(row_)
        left = QWidget()
        column(left, add, self.tools, 1, margins=0, spacing=4)
        whole = row(left, self.list)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setStretch(1, 1)
        self.setLayout(whole)

    def boards(self) -> list[Board]:
        """The boards that are shown, in order."""
        words = self.search.text().lower().split()
        found = [b for b in self.session.project.boards if all(w in _words(b) for w in words)]
        order = self.order.currentText()
        return found if order == "as entered" else sorted(found, key=ORDERS[order])  # type: ignore[arg-type]

    def refresh(self, hand: str) -> None:
        """Show the boards as they are now, the one in hand picked."""
        self._hand = hand
        boards = self.boards()
        self.tools.setVisible(len(self.session.project.boards) > 3 or bool(self.search.text()))
        ids = tuple(b.id for b in boards)
        self.list.blockSignals(True)
        if ids != self._shown:
            self.list.clear()
            for _ in boards:
                item = QListWidgetItem()
                item.setSizeHint(QSize(WIDE, TALL))
                self.list.addItem(item)
            self._shown = ids
        for n, b in enumerate(boards):
            item = self.list.item(n)
            if item.data(_BOARD) is not b:
                item.setData(_BOARD, b)
                item.setData(Qt.ItemDataRole.AccessibleTextRole, b.name)
        if hand in ids and self.list.currentRow() != ids.index(hand):
            self.list.setCurrentRow(ids.index(hand))
        self.list.blockSignals(False)
        self.list.scheduleDelayedItemsLayout()

    def _turned(self, item: QListWidgetItem | None, _: QListWidgetItem | None) -> None:
        if item is not None:
            self.chosen.emit(item.data(_BOARD).id)


def _words(b: Board) -> str:
    return " ".join((b.name, b.species, b.stock, *(d.kind for d in b.defects))).lower()


class _Small(QStyledItemDelegate):
    """One board of the strip: its outline to scale with all others, its faults as marks, its name and size."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        b: Board = index.data(_BOARD)
        project, theme, box = self.session.project, self.theme, QRectF(option.rect).adjusted(4, 3, -4, -3)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(theme["computed"], 2))
            painter.setBrush(theme["computed wash"])
            painter.drawRoundedRect(QRectF(option.rect).adjusted(1.5, 1.5, -1.5, -1.5), 4, 4)
        longest = max(x.length for x in project.boards)
        widest = max(x.width for x in project.boards)
        k = min(box.width() / longest, (box.height() - 30) / widest)
        left, low = box.left(), box.top() + 14 + (box.height() - 30 + b.width * k) / 2
        top = clipped(b.upper, 0.0, b.length) or ((0.0, b.width), (b.length, b.width))
        foot = clipped(b.lower, 0.0, b.length) or ((0.0, 0.0), (b.length, 0.0))
        shape = QPolygonF([QPointF(left + x * k, low - y * k) for x, y in (*foot, *reversed(top))])
        painter.setPen(QPen(theme["outline"], 1))
        painter.setBrush(theme[f"wood {b.species}"])
        painter.drawPolygon(shape)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme["fault"])
        for d in b.defects:
            mark = QRectF(left + d.x * k, low - (d.y + d.width) * k, max(2.0, d.length * k), max(2.0, d.width * k))
            painter.drawRect(mark.intersected(shape.boundingRect()))
        painter.setPen(theme["ink"])
        painter.setFont(font(12, True))
        words = painter.fontMetrics().elidedText(b.name, Qt.TextElideMode.ElideRight, round(box.width()))
        painter.drawText(QRectF(box.left(), box.top(), box.width(), 14), Qt.AlignmentFlag.AlignVCenter, words)
        painter.setFont(font(11))
        painter.setPen(theme["quiet"])
        told = "in pieces" if b.sawn else f"{b.moisture:g} %  {self.session.figure(b.thickness)} thick"
        painter.drawText(QRectF(box.left(), box.bottom() - 14, box.width(), 14), Qt.AlignmentFlag.AlignVCenter, told)
        painter.restore()
