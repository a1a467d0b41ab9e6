"""The process that writes everything for the shop, as the window sees it: a task is sent, one sentence comes back."""

from __future__ import annotations

import sys

from PySide6.QtCore import QObject, QProcess, Signal

from nullah.exporting import Exported, ExportTask
from nullah.planning import packed, unpacked

PATIENCE = 30_000  # ms that a closing window waits for what is being written


class Exporter(QObject):
    """At most one process at a time. All on the interface thread; the work is done elsewhere."""

    told = Signal(str, bool)  # a sentence, and whether it is a refusal

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None

    @property
    def at_work(self) -> bool:
        """Whether something is being written."""
        return self._process is not None

    def start(self, task: ExportTask) -> None:
        """Begin to write, unless something is being written still."""
        if self._process is not None:
            self.told.emit("The last export is still being written: try again when it is told.", True)
            return
        process = QProcess(self)
        process.finished.connect(lambda *_: self._ended(process))
        process.errorOccurred.connect(
            lambda error: self._ended(process) if error == QProcess.ProcessError.FailedToStart else None
        )
        self._process = process
        process.start(sys.executable, ["-P", "-c", "from nullah.export_process import main; main()"])
        process.write(packed(task))
        process.closeWriteChannel()

    def wait(self) -> None:
        """Stay until what is being written is written."""
        if self._process is not None:
            self._process.waitForFinished(PATIENCE)

    def _ended(self, process: QProcess) -> None:
        if process is not self._process:
            return
        self._process = None
        found, _ = unpacked(bytes(process.readAllStandardOutput().data()))
        process.deleteLater()
        for one in found:
            if isinstance(one, Exported):
                self.told.emit(one.said, one.refused)
                return
        self.told.emit("The export broke off, and nothing was written. Try it again.", True)
