"""One search for layouts, away from the interface thread."""

from __future__ import annotations

import contextlib
from collections.abc import Callable

from PySide6.QtCore import QRunnable

from nullah.core.layout.model import Layout
from nullah.core.stations import breakdown


class Search(QRunnable):
    """One search on a pool thread; ``done`` is called there and only sends a signal."""

    def __init__(self, request: breakdown.Request, done: Callable[[str, tuple[Layout, ...]], None]) -> None:
        super().__init__()
        self.request, self.done = request, done

    def run(self) -> None:
        found = breakdown.offers(self.request)
        with contextlib.suppress(RuntimeError):  # the window was closed meanwhile: nobody waits for the answer
            self.done(self.request.fingerprint, found)
