"""The process that writes everything for the shop, as the window sees it: a task is sent, one sentence comes back."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from nullah.gui.one_shot import OneShot
from nullah.processes.exporting import Exported, ExportTask

PATIENCE = 30_000  # ms that a closing window waits for what is being written


class Exporter(QObject):
    """At most one export at a time."""

    told = Signal(str, bool)  # a sentence, and whether it is a refusal

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process = OneShot("nullah.processes.export", self._ended, self)

    @property
    def at_work(self) -> bool:
        """Whether something is being written."""
        return self._process.at_work

    def start(self, task: ExportTask) -> None:
        """Begin to write, unless something is being written still."""
        if self._process.at_work:
            self.told.emit("The last export is still being written: try again when it is told.", True)
            return
        self._process.start(task)

    def wait(self) -> None:
        """Stay until what is being written is written."""
        self._process.wait(PATIENCE)

    def _ended(self, found: list[object]) -> None:
        for one in found:
            if isinstance(one, Exported):
                self.told.emit(one.said, one.refused)
                return
        self.told.emit("The export broke off, and nothing was written. Try it again.", True)
