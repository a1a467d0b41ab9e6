"""Typing is never a command. After a field had the hand, single keys act only once Esc, Tab or a click has left it; a click on a field
that cannot be typed in counts as having it; Ctrl+Z undoes everywhere, in a field the typing first."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QMouseEvent
from PySide6.QtWidgets import QAbstractSpinBox, QComboBox, QLineEdit, QPlainTextEdit, QTextEdit, QWidget

from nullah.gui.widgets import whole_application

FIELDS = (QLineEdit, QAbstractSpinBox, QTextEdit, QPlainTextEdit)
HOW = "Esc, Tab or a click leaves the field; then single keys act again."
_TAKEN_AWAY = (
    Qt.FocusReason.OtherFocusReason,
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
)
_COMMANDS_BESIDE = (
    Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier
)


class TypingGuard(QObject):
    """Watches the keys of one window. ``say`` is told why a key did nothing; ``undo`` and ``redo`` are the window's."""

    def __init__(
        self,
        window: QWidget,
        say: Callable[[str], object],
        undo: Callable[[], object],
        redo: Callable[[], object],
    ) -> None:
        super().__init__(window)
        self.window, self.say, self.undo, self.redo = window, say, undo, redo
        self.held = False  # a field had the hand a moment ago, and nobody has left it by hand
        self._leaving = False  # the key that was pressed last leaves a field
        self._clicked = 0
        self.watching = False

    def begin(self) -> None:
        """Watch from now on. Not before the window stands: the first event of any widget that Python sees takes long."""
        if not self.watching:
            self.watching = True
            whole_application().installEventFilter(self)

    @contextmanager
    def looking_away(self) -> Iterator[None]:
        """While every widget is dressed anew no key comes: what Python does not see goes half as fast again."""
        whole_application().removeEventFilter(self)
        self.watching = False
        try:
            yield
        finally:
            self.begin()

    def release(self) -> None:
        """The hand has left the field all the same: what it typed is taken, and the field is gone."""
        self.held = False

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if kind not in _WATCHED or not isinstance(watched, QWidget) or watched.window() is not self.window:
            return False
        if kind == QEvent.Type.FocusOut:
            self._left(watched, event)
        elif kind == QEvent.Type.FocusIn:
            self.held = self.held and not isinstance(watched, FIELDS)
        elif kind == QEvent.Type.MouseButtonPress and isinstance(event, QMouseEvent):
            if (
                event.timestamp() != self._clicked
            ):  # a press that a disabled field lets by comes again for what is behind it
                self.held = isinstance(watched, FIELDS) and not watched.isEnabled()
            self._clicked = event.timestamp() if self.held else 0
        elif kind == QEvent.Type.KeyPress:
            return self._pressed(watched, event)
        elif kind == QEvent.Type.ShortcutOverride and (self._is_held_back(watched, event) or _chooses(watched, event)):
            event.accept()  # no command; the key comes again as a press
            return True
        return False

    def _left(self, watched: QWidget, event: QEvent) -> None:
        if isinstance(watched, FIELDS) and isinstance(event, QFocusEvent):
            by_hand = self._leaving or event.reason() == Qt.FocusReason.MouseFocusReason
            if by_hand:
                self.held = False
            elif event.reason() in _TAKEN_AWAY:  # hidden, disabled, or another was given the keyboard
                self.held = True

    def _pressed(self, watched: QWidget, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent):
            return False
        key = event.key()
        self._leaving = key in (Qt.Key.Key_Escape, Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
        if self._leaving:
            self.held = False
        if isinstance(watched, QLineEdit) and self._undoes(watched, event):
            return True
        if self._is_held_back(watched, event):
            self.say(HOW)
            return True
        return False

    def _undoes(self, field: QLineEdit, event: QKeyEvent) -> bool:
        """Undo and redo where the field has nothing of its own to undo."""
        if event.matches(QKeySequence.StandardKey.Undo) and not field.isUndoAvailable():
            self.undo()
            return True
        if event.matches(QKeySequence.StandardKey.Redo) and not field.isRedoAvailable():
            self.redo()
            return True
        return False

    def _is_held_back(self, watched: QWidget, event: QEvent) -> bool:
        if not self.held or not isinstance(event, QKeyEvent) or isinstance(watched, (*FIELDS, QComboBox)):
            return False
        typed = event.text()
        return bool(typed) and typed.isprintable() and not event.modifiers() & _COMMANDS_BESIDE


def _chooses(watched: QWidget, event: QEvent) -> bool:
    """Whether a letter goes to a choice among words, which is made by its first letters."""
    return (
        isinstance(watched, QComboBox)
        and isinstance(event, QKeyEvent)
        and bool(event.text())
        and event.text().isprintable()
    )


_WATCHED = (
    QEvent.Type.FocusOut,
    QEvent.Type.FocusIn,
    QEvent.Type.MouseButtonPress,
    QEvent.Type.KeyPress,
    QEvent.Type.ShortcutOverride,
)
