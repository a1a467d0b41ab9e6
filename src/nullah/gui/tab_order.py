"""The way of the keyboard through a window: area by area, each from above and from the left."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QAbstractScrollArea, QListWidget, QScrollArea, QScrollBar, QWidget

LINE = 24  # px: things whose tops differ by less stand in one line


def order(window: QWidget, areas: Iterable[QWidget]) -> list[QWidget]:
    """What takes the keyboard in these areas of a window, in order."""
    out: list[QWidget] = []
    for area in areas:
        inside = [area, *area.findChildren(QWidget)]
        mine = [w for w in inside if w.focusPolicy() & Qt.FocusPolicy.TabFocus and w.isVisible() and w.isEnabled()]
        out += sorted((w for w in mine if _counts(w)), key=lambda w: _place(w, window))
    return out


def _counts(widget: QWidget) -> bool:
    """Whether a widget is more than a frame that scrolls others."""
    if isinstance(widget, QListWidget):
        return True
    return widget.focusProxy() is None and not isinstance(widget, QAbstractScrollArea | QScrollBar)


def _scrolled_in(widget: QWidget, window: QWidget | None = None) -> QScrollArea | None:
    area = widget.parentWidget()
    while area is not None and area is not window and not isinstance(area, QScrollArea):
        area = area.parentWidget()
    return area if isinstance(area, QScrollArea) else None


def _place(widget: QWidget, window: QWidget) -> tuple[int, int, int, int]:
    """Where a widget stands: its list's place in the window, and its own in the list, wherever that is scrolled to."""
    area = _scrolled_in(widget, window)
    outer = (area or widget).mapTo(window, QPoint(0, 0))
    inside = area.widget() if area is not None else None
    inner = widget.mapTo(inside, QPoint(0, 0)) if inside is not None else QPoint(0, 0)
    return round(outer.y() / LINE), outer.x(), round(inner.y() / LINE), inner.x()


def show(widget: QWidget) -> None:
    """Scroll a widget into sight."""
    area = _scrolled_in(widget)
    if area is not None:
        area.ensureWidgetVisible(widget)
