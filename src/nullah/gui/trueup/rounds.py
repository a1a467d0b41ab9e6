"""The process that plans a round of planing, as the view sees it: a board is sent, a round comes back; a newer drops the older."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal

from nullah.core.surface.rounds import Round, Wanted
from nullah.gui.one_shot import OneShot
from nullah.gui.planner import LONGEST

PAUSE = 150  # ms after the last change before a round is planned


class RoundPlanner(QObject):
    """What was planned for the board as it now is is kept; a board is planned once it has been let be for ``PAUSE``."""

    told = Signal()  # ``round`` stands, as far as it is planned, or ``failed``

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.wanted: Wanted | None = None
        self.round: Round | None = None
        self.failed = False
        self._closed = False
        self._process = OneShot("nullah.processes.rounds", self._ended, self, self._heard)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(PAUSE)
        self._soon.timeout.connect(lambda: self._process.start(self.wanted))

    def ask(self, wanted: Wanted | None) -> None:
        """Plan a round for a board, unless it is planned or under way already; None: there is none to plan."""
        if self._closed or (wanted == self.wanted and not self.failed):
            return
        self._process.let_be()
        self.wanted, self.round, self.failed = wanted, None, False
        if wanted is None:
            self._soon.stop()
        else:
            self.make_ready()
            self._soon.start()

    def make_ready(self) -> None:
        """One is going to read: what plans is loaded, so that the first pass is there at once."""
        if not self._closed:
            self._process.make_ready()

    def close(self) -> None:
        """End what is under way, wait until it is gone, and begin nothing more, whatever is asked while a window closes."""
        self._closed = True
        self._soon.stop()
        self._process.stop(LONGEST)
        self.wanted = None

    def _heard(self, one: object) -> None:
        if isinstance(one, Round) and not one.whole:
            self.round = one
            self.told.emit()

    def _ended(self, found: list[object]) -> None:
        self.round = next((one for one in reversed(found) if isinstance(one, Round) and one.whole), None)
        self.failed = self.round is None
        self.make_ready()  # what is read next is planned at once
        self.told.emit()
