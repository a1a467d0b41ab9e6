"""A line across the window that says one thing and offers what can be done about it; never a dialog in the way."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from nullah.gui.tips import set_tip
from nullah.gui.widgets import button, label


class Notice(QFrame):
    """Hidden until it has something to say; every offer closes it."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setObjectName(name)
        self.words = label("", wrap=True)
        self.words.setAccessibleName(name)
        self.offers = QHBoxLayout()
        whole = QHBoxLayout(self)
        whole.setContentsMargins(14, 5, 14, 5)
        whole.addWidget(self.words, 1)
        whole.addLayout(self.offers)
        self.buttons: list[QPushButton] = []
        self.hide()

    def say(self, words: str, *offers: tuple[str, Callable[[], object]], tip: str = "") -> None:
        """Show a sentence with its offers, the first the one most would take."""
        self.words.setText(words)
        set_tip(self.words, tip)
        for old in self.buttons:
            self.offers.removeWidget(old)
            old.hide()
            old.deleteLater()
        self.buttons = []
        for text, act in offers:
            made = button(text, partial(self._taken, act))
            self.buttons.append(made)
            self.offers.addWidget(made)
        self.show()

    def _taken(self, act: Callable[[], object]) -> None:
        self.hide()
        act()

    def close_quietly(self) -> None:
        """Nothing to say any more."""
        self.hide()
