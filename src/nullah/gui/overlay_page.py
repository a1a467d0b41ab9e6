"""A page of what slides over the right of the window."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

WIDTH = 440  # px, of a page that asks for no other


class OverlayPage(QWidget):
    """What the overlay asks of each of its pages."""

    wide = WIDTH

    def begin(self) -> None:
        """It is opened: show what is so now, and take the keyboard."""
        raise NotImplementedError
