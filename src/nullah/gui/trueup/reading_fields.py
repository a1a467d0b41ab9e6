"""The fields of a reading: its kind, where it is taken, what it reads. A place may be clicked on the board instead of typed."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QWidget

from nullah.core.stations.trued import Trued
from nullah.core.surface.reading_kinds import EDGES, READING_KINDS, STOOD, ReadingLike
from nullah.core.values import measure
from nullah.gui.session import Session
from nullah.gui.widgets import Field, label, pick, row

PLACES = ("at", "across", "to", "stick")  # in the order of the fields
STICKS = "winding sticks"
STICK = 450.0  # mm, until another is said


class ReadingFields(QWidget):
    """Not shown itself: ``widgets`` are laid out by the view. ``entered``: Return was pressed on what it reads."""

    entered = Signal()

    def __init__(self, session: Session, parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.hide()
        self.kind = pick("reading kind", list(READING_KINDS), lambda _: self.clear())
        self.stood = pick("what the stick stood on", list(STOOD), lambda _: self.show_all())
        self.at = {n: Field(f"reading {n}", 58, partial(self._remember, n), grows=True) for n in (*PLACES, "value")}
        self.names = {n: label(n) for n in self.at}
        self.pairs = {n: QWidget() for n in self.at}  # a field with its name before it
        for n, pair in self.pairs.items():
            both = row(self.names[n], self.at[n], spacing=5)
            both.setContentsMargins(0, 0, 0, 0)
            pair.setLayout(both)
        self.given = {"at": 0.0, "across": 0.0, "to": 0.0, "stick": STICK}  # mm, or the number of a corner or edge
        self.value: float | None = None
        # queued: once the field has given what was typed
        self.at["value"].returnPressed.connect(self.entered, Qt.ConnectionType.QueuedConnection)

    @property
    def widgets(self) -> tuple[QWidget, ...]:
        """All of them, in order."""
        return (self.kind, self.stood, *self.pairs.values())

    def show_all(self) -> None:
        """Show what the kind asks for, in the units of the project."""
        kind = self.kind.currentText()
        said = {**dict(READING_KINDS[kind].words), "value": READING_KINDS[kind].value}
        self.stood.setVisible(kind == STICKS)
        if kind == STICKS and self.stood.currentText() != EDGES:
            said["across"] = "hump from the lower edge"
        for name, field in self.at.items():
            self.pairs[name].setVisible(name in said)
            self.names[name].setText(said.get(name, ""))
            field.show_text(self._shown(name))

    def _shown(self, name: str) -> str:
        mm = self.value if name == "value" else self.given[name]
        if mm is None:
            return ""
        if self._a_number(name):
            return f"{mm:g}"
        return self.session.fine(mm) if name == "value" else self.session.figure(mm)

    def _a_number(self, name: str) -> bool:
        """Whether a field holds the number of a corner or an edge, not a length."""
        return name in READING_KINDS[self.kind.currentText()].numbers

    def _remember(self, name: str, text: str) -> None:
        try:
            mm = float(int(text)) if self._a_number(name) else measure.parse_length(text, self.session.project.units)
        except ValueError as error:
            words = f'"{text[:30]}" is no number of a corner or edge.' if self._a_number(name) else str(error)
            self.session.said.emit(words, True)
        else:
            if name == "value":
                self.value = mm
            else:
                self.given[name] = mm
        self.at[name].show_text(self._shown(name))

    def fill(self, r: ReadingLike, length: float, value: float | None = None) -> None:
        """Put a reading into the fields, and what it reads, or nothing yet."""
        self.kind.setCurrentText(r.kind)
        self.stood.setCurrentText(r.stood)
        whole = r.kind == "bow" and not r.to
        self.given |= {"at": r.at, "across": r.across, "to": length if whole else r.to}
        self.given["stick"] = r.stick or self.given["stick"]
        self.value = value
        self.at["value"].setModified(False)
        self.show_all()

    def place(self, t: Trued, x: float, y: float, again: bool) -> None:
        """The reading is taken at a place of the board, mm; ``again``: against there."""
        kind = self.kind.currentText()
        left, low = x < t.length / 2, y < t.width / 2
        numbers = {"corner": 1 if low == left else 2, "out of square": 1 if low else 2}
        numbers["feeler"] = (1 if left else 2) if low else (4 if left else 3)
        if kind in numbers:
            self.given["to"] = float(numbers[kind])
        if again and "to" in READING_KINDS[kind].may:
            self.given["to"] = float(round(x))
        elif kind != "bow":
            self.given["at"] = float(round(x))
        self.given["across"] = float(round(y))
        self.clear()
        self.to_the_value()

    def clear(self) -> None:
        """Nothing is read yet."""
        self.value = None
        self.show_all()

    def to_the_value(self) -> None:
        """On to what it reads."""
        self.at["value"].setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.at["value"].selectAll()
