"""What the view of a station is to the window: what it may be asked, whichever it is."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from nullah.core.document.calls import Option


class StationView(QWidget):
    """The view of a station. Each says anew what it does otherwise than here."""

    wanted = Signal(str)  # a station to see the lit part in
    joining = Signal(str, str)  # two parts that are to be joined
    first: QWidget | None = None  # its drawing, where one begins

    def refresh(self) -> None:
        """Show the project as it is."""
        raise NotImplementedError

    def live(self) -> None:
        """Show what is pulled, while it is."""
        self.refresh()

    def light(self, tag: str) -> None:
        """Light the lines of a setting; "": none."""

    def show_part(self, part: str) -> None:
        """Turn to a part."""

    def choose(self, name: str) -> None:
        """Take in hand what has that name at this station."""

    def look_at(self, option: Option | None) -> None:
        """Show what an option of a call would come to, before it is taken; None: what is."""
