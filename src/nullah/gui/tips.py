"""Tips: the one place where words become one, always as plain text; no other file of the window sets or shows a tip.

A tip that looks like markup is drawn as such by the toolkit, and reads whatever file a name in it points at.
"""

from __future__ import annotations

import html
from typing import Protocol

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QToolTip, QWidget


class HasTip(Protocol):
    """A widget, or an item of a list."""

    def setToolTip(self, words: str, /) -> None:
        """Give it a tip."""


def plain(words: str) -> str:
    """Words as a tip shows them letter by letter: what could be taken for markup is escaped, line ends stay."""
    return f'<p style="white-space:pre-wrap">{html.escape(words)}</p>' if "<" in words else words


def set_tip(on: HasTip, words: str) -> None:
    """Give a widget or an item its tip, as plain text."""
    on.setToolTip(plain(words))


def show_tip(at: QPoint, words: str, over: QWidget) -> None:
    """Show a tip at a place of the screen, as plain text."""
    QToolTip.showText(at, plain(words), over)
