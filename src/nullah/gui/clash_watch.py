"""Looking for parts that share wood, beside the edits: a few milliseconds at a time while nothing else is done."""

from __future__ import annotations

import time
from collections.abc import Iterator

from PySide6.QtCore import QObject, QTimer, Signal

from nullah.core.planning.plan import Plan
from nullah.core.stations.clash_calls import Looked

AFTER_MS = 300  # edits have paused
SLICE = 0.006  # seconds of work between turns of the event loop
BETWEEN_MS = 2


class ClashWatch(QObject):
    """``looked``: what was found of pieces, by id; ``found`` is sent once all were looked at and something was found, or is no more."""

    found = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.looked: dict[str, Looked] = {}
        self._plan: Plan | None = None
        self._at_work: Iterator[Looked | None] | None = None
        self._news = False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._turn)

    def watch(self, plan: Plan) -> None:
        """Look at what of a plan was not looked at yet, once edits have paused."""
        self._plan, self._at_work, self._news = plan, None, False
        self._timer.start(AFTER_MS)

    def stop(self) -> None:
        """Look no more."""
        self._timer.stop()
        self._at_work = None

    def finish(self) -> None:
        """Look at all of it at once."""
        self._timer.stop()
        while self._step():
            pass

    def _turn(self) -> None:
        end = time.perf_counter() + SLICE
        while self._step():
            if time.perf_counter() >= end:
                self._timer.start(BETWEEN_MS)
                return

    def _step(self) -> bool:
        """One thing looked at; whether there is more."""
        if self._plan is None:
            return False
        if self._at_work is None:
            self._at_work = self._all(self._plan)
        one = next(self._at_work, self)
        if one is self:
            self._plan = self._at_work = None
            if self._news:
                self.found.emit()
            return False
        if isinstance(one, Looked):
            before = self.looked.get(one.made.id)
            self._news |= bool(one.clashes) or bool(before and before.clashes)
            self.looked[one.made.id] = one
        return True

    def _all(self, plan: Plan) -> Iterator[Looked | None]:
        from nullah.core.planning import clashes

        for made in plan.piece.made:
            joints, known = plan.joints.of_piece[made.id], self.looked.get(made.id)
            if (known is None or known.made is not made or known.joints is not joints) and clashes.worth_a_look(made):
                yield from clashes.look(made, joints)
