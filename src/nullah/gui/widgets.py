"""Small widgets that several views share: fields that take a length, labels, rows."""

from __future__ import annotations

import re
from collections.abc import Callable, Hashable

from PySide6.QtCore import QEvent, QPoint, QRect, Qt
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from nullah.core.values.glossary import explained
from nullah.gui.tips import set_tip


def pressed(event: QEvent) -> int | None:
    """The key that an event is the press of; None where it is none."""
    return event.key() if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress else None


def inside_of(area: QScrollArea) -> QWidget:
    """What a scroll area shows."""
    inside = area.widget()
    assert inside is not None
    return inside


def whole_application() -> QApplication:
    """The application there is."""
    found = QApplication.instance()
    assert isinstance(found, QApplication)
    return found


def label(text: str, name: str = "", wrap: bool = False) -> QLabel:
    """A label; ``name`` picks its look in the style sheet."""
    made = QLabel(text)
    made.setTextFormat(Qt.TextFormat.PlainText)
    if name:
        made.setObjectName(name)
    made.setWordWrap(wrap)
    if text:
        set_tip(made, explained(text))
    return made


class Lines(QLabel):
    """Words in so many lines at the most; what does not fit is told by an ellipsis, and stands whole in the tip."""

    def __init__(self, most: int, name: str = "") -> None:
        super().__init__()
        self.most, self._whole = most, ""
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setWordWrap(True)
        if name:
            self.setObjectName(name)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    @property
    def whole(self) -> str:
        """All the words."""
        return self._whole

    def show_text(self, words: str) -> None:
        """Show other words."""
        self._whole = words
        set_tip(self, explained(words) or words)
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """As many words as there are lines for."""
        tall = self.fontMetrics().lineSpacing() * self.most + 2
        words = self._whole.split(" ")
        if not self._fits(self._whole, tall):
            low, high = 0, len(words)
            while low < high:
                middle = (low + high + 1) // 2
                low, high = (
                    (middle, high) if self._fits(" ".join(words[:middle]) + "\u2026", tall) else (low, middle - 1)
                )
            self.setText(" ".join(words[:low]) + "\u2026")
        else:
            self.setText(self._whole)

    def _fits(self, words: str, tall: int) -> bool:
        room = QRect(0, 0, max(1, self.width()), 10_000)
        return self.fontMetrics().boundingRect(room, Qt.TextFlag.TextWordWrap, words).height() <= tall


def button(text: str, act: Callable[[], object], name: str = "", tip: str = "") -> QPushButton:
    """A button that does one thing."""
    made = QPushButton(text)
    if name:
        made.setObjectName(name)
    if tip:
        set_tip(made, tip)
    made.clicked.connect(lambda *_: act())
    return made


_SPOKEN = {
    "kit rip_kerf": "kerf of the rip saw",
    "kit crosscut_kerf": "kerf of the crosscut saw",
    "room temperature": "temperature of the room",
    "room humidity_dry": "driest air of the year, percent",
    "room humidity_wet": "dampest air of the year, percent",
    "board ring_angle": "angle of the rings to the face, degrees",
    "board moisture": "moisture of the board, percent",
    "fault x": "fault, from the left end",
    "fault y": "fault, from the lower edge",
    "reading at": "reading, from the left end",
    "reading across": "reading, from the lower edge",
    "reading value": "what was read",
    "reading stick": "length of the winding stick",
}


def spoken(name: str) -> str:
    """What a field is called by a screen reader: words, not the name it has in the program."""
    if name in _SPOKEN:
        return _SPOKEN[name]
    chain = re.fullmatch(r"chain (\d) (total|\d+)", name)
    if chain is not None:
        size = ("length", "width", "height")[int(chain[1]) % 3]
        return f"{size} outside" if chain[2] == "total" else f"{size}, line {int(chain[2]) + 1} of the sum"
    return name.replace("_", " ").replace(".", " ")


AROUND = 24  # px a field has beside its text


class Field(QLineEdit):
    """A line that gives its text once, when Return is pressed or it is left changed; Escape puts it back.

    ``grows``: it gets wider with its text, where there is room.
    """

    def __init__(self, name: str, wide: int, taken: Callable[[str], object], grows: bool = False) -> None:
        super().__init__()
        self.setObjectName(name)
        self.setAccessibleName(spoken(name))
        self.setFixedWidth(wide)
        self._least = wide if grows else 0
        self._shown = ""
        self._taken = taken
        self.editingFinished.connect(self._give)

    def show_text(self, text: str) -> None:
        """Show a value; what is being typed is not written over."""
        text = text.removesuffix(" less a hair").removesuffix(" and a hair")  # a field takes figures
        self._shown = text
        if not (self.hasFocus() and self.isModified()):
            if self._least and text != self.text():  # a fraction of an inch is wider than a number of mm
                self.setFixedWidth(max(self._least, self.fontMetrics().horizontalAdvance(text) + AROUND))
            self.setText(text)

    def _give(self) -> None:
        words = self.text()
        self.setModified(False)
        if words == self._shown:
            return
        self._taken(words)
        self.setText(self._shown)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setModified(False)
            self.setText(self._shown)
            self.clearFocus()
            return
        super().keyPressEvent(event)


def pick(name: str, options: list[str], taken: Callable[[str], object]) -> QComboBox:
    """A choice among words; ``taken`` hears only what a person picks."""
    made = QComboBox()
    made.setObjectName(name)
    made.setAccessibleName(spoken(name))
    made.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)  # also to options that come later
    made.addItems(options)
    made.textActivated.connect(taken)
    return made


def refill_pick(box: QComboBox, options: list[str]) -> None:
    """Other options in a choice, the one that is chosen kept where it is still among them."""
    if [box.itemText(i) for i in range(box.count())] != options:
        kept = box.currentText()
        box.clear()
        box.addItems(options)
        box.setCurrentText(kept)


def row(*things: QWidget | QLayout | str | int, spacing: int = 6) -> QHBoxLayout:
    """Widgets, words and gaps side by side; a number is a stretch of that weight."""
    made = QHBoxLayout()
    made.setSpacing(spacing)
    for thing in things:
        if isinstance(thing, int):
            made.addStretch(thing)
        elif isinstance(thing, str):
            made.addWidget(label(thing))
        elif isinstance(thing, QLayout):
            made.addLayout(thing)
        else:
            made.addWidget(thing)
    return made


def column(parent: QWidget, *things: QWidget | QLayout | int, margins: int = 10, spacing: int = 8) -> QVBoxLayout:
    """Widgets and rows one under the other, as the layout of ``parent``."""
    made = QVBoxLayout(parent)
    made.setContentsMargins(margins, margins, margins, margins)
    made.setSpacing(spacing)
    for thing in things:
        if isinstance(thing, int):
            made.addStretch(thing)
        elif isinstance(thing, QLayout):
            made.addLayout(thing)
        else:
            made.addWidget(thing)
    return made


def refill(area: QScrollArea, things: list[QWidget | QLayout], spacing: int = 5) -> None:
    """Show other things in a scroll area, one under the other; where it is scrolled to stays."""
    at = area.verticalScrollBar().value()
    inside = QWidget()
    inside.setObjectName("inside")
    column(inside, *things, 1, margins=0, spacing=spacing).setContentsMargins(0, 0, 5, 0)
    old = area.takeWidget()  # let go later: a click on something in it may have brought us here
    if old is not None:
        old.hide()
        old.deleteLater()
    area.setWidget(inside)
    area.verticalScrollBar().setValue(at)


def scroll_area() -> QScrollArea:
    """A scroll area that only ever scrolls up and down."""
    area = QScrollArea()
    _upright(area)
    return area


def _upright(area: QScrollArea) -> None:
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)


class Rows(QScrollArea):
    """Rows one under the other; one that is to show what it showed before stays the widget it is, with its focus and its place.

    Each is asked for by ``row``, in order; ``fill`` then shows those and lets the others go.
    """

    def __init__(self, name: str, spacing: int = 5) -> None:
        super().__init__()
        self.setAccessibleName(name)
        _upright(self)
        self._shown: dict[object, QWidget] = {}
        self._wanted: dict[object, QWidget] = {}
        inside = QWidget()
        inside.setObjectName("inside")
        self._column = column(inside, 1, margins=0, spacing=spacing)
        self._column.setContentsMargins(0, 0, 5, 0)
        self.setWidget(inside)

    def row(self, shows: Hashable, make: Callable[[], QWidget]) -> QWidget:
        """The next row: the widget that shows just that, or one newly made."""
        found = self._shown.get(shows)
        if found is None or shows in self._wanted:
            found = make()
        self._wanted[shows if shows not in self._wanted else (shows, len(self._wanted))] = found
        return found

    def drop(self, row: QWidget) -> None:
        """Do without a row that was asked for after all."""
        self._wanted = {k: w for k, w in self._wanted.items() if w is not row}
        if row not in self._shown.values():
            row.deleteLater()

    def fill(self) -> None:
        """Show the rows asked for since the last time, in that order, and no others."""
        shown, self._shown, self._wanted = self._shown, self._wanted, {}
        kept = set(map(id, self._shown.values()))
        for old in shown.values():
            if id(old) not in kept:
                self._column.removeWidget(old)
                old.hide()  # let go later: a click on it may have brought us here
                old.deleteLater()
        for i, row_ in enumerate(self._shown.values()):
            at = self._column.itemAt(i)
            if at is None or at.widget() is not row_:
                self._column.removeWidget(row_)
                self._column.insertWidget(i, row_)
                row_.show()
        self.settle()

    def settle(self) -> None:
        """Lay the rows out at once: what is painted before the next turn of the event loop stands where it belongs."""
        inside = self.widget()
        assert inside is not None
        for each in inside.findChildren(QWidget):
            each.ensurePolished()  # the style sheet says how large its letters are
            layout = each.layout()
            if layout is not None:  # what of it is shown may be another than a moment ago
                layout.invalidate()
                each.updateGeometry()
        self._column.invalidate()
        tall = self._column.totalHeightForWidth(inside.width())
        inside.resize(inside.width(), max(tall, self.maximumViewportSize().height()))
        self._column.activate()

    def forget(self) -> None:
        """Make every row anew the next time."""
        self._shown = {(object(), k): w for k, w in self._shown.items()}


BAR = 16  # px kept for the bar of a scroll area
EDGE = 4  # px below a line before it is cut off


def height_of_whole_lines(inside: QWidget, wide: int, room: int) -> int:
    """The height in px at which a scroll area ``wide`` px across shows ``inside``: all of it where ``room`` px hold it, else so many
    whole lines as they hold, and one where they hold none."""
    layout = inside.layout()
    assert layout is not None
    layout.activate()
    tall = layout.totalHeightForWidth(wide - BAR) if layout.hasHeightForWidth() else layout.totalSizeHint().height()
    if tall + 2 <= room:
        return tall + 2
    inside.resize(wide - BAR, tall)
    spans = []
    for child in inside.findChildren(QWidget):
        if child.isVisibleTo(inside) and isinstance(child, (QLineEdit, QComboBox, QPushButton, QLabel)):
            top = child.mapTo(inside, QPoint(0, 0)).y()
            spans.append((top, top + child.height()))
    ends = {low for _, low in spans if not any(t < low < b for t, b in spans)}
    heights = sorted(min((t for t, _ in spans if low <= t < low + EDGE), default=low + EDGE) for low in ends)
    return max((y for y in heights if y <= room), default=heights[0] if heights else room)


def emptied(layout: QLayout) -> None:
    """Take everything out of a layout and let it go."""
    while layout.count():
        item = layout.takeAt(0)
        widget, inner = (item.widget(), item.layout()) if item is not None else (None, None)
        if widget is not None:
            widget.hide()
            widget.deleteLater()
        elif inner is not None:
            emptied(inner)
