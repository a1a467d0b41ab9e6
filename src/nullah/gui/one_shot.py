"""A process that is sent one thing and answers once, as the window sees it."""

from __future__ import annotations

import sys
from collections.abc import Callable

import shiboken6
from PySide6.QtCore import QObject, QProcess

from nullah.planning import packed, unpacked


class OneShot(QObject):
    """At most one process at a time. All on the interface thread; the work is done elsewhere.

    Args:
        module: whose ``main`` is run.
        ended: hears what came back when it has ended; nothing where it did not start or broke off.
    """

    def __init__(self, module: str, ended: Callable[[list[object]], None], parent: QObject) -> None:
        super().__init__(parent)
        self.module, self.ended = module, ended
        self._process: QProcess | None = None
        self._ending: list[QProcess] = []  # killed, and not gone yet

    @property
    def at_work(self) -> bool:
        """Whether it is under way."""
        return self._process is not None

    def start(self, sent: object) -> None:
        """Begin, in place of what may be under way."""
        self.stop()
        process = QProcess(self)
        process.finished.connect(lambda *_: self._ended(process))
        process.errorOccurred.connect(
            lambda error: self._ended(process) if error == QProcess.ProcessError.FailedToStart else None
        )
        self._process = process
        # -P: nothing from the folder one happens to be in is run; not -m: pickles name its module
        process.start(sys.executable, ["-P", "-c", f"from {self.module} import main; main()"])
        process.write(packed(sent))
        process.closeWriteChannel()

    def stop(self, wait: int = 0) -> None:
        """End it at once; nothing more is told of it. ``wait``: stay until it is gone, so many ms at the most."""
        process, self._process = self._process, None
        if process is not None:
            self._ending.append(process)
            process.kill()
        for one in self._ending[:] if wait else ():
            one.waitForFinished(wait)

    def wait(self, ms: int) -> None:
        """Stay until it has ended, so long at the most."""
        if self._process is not None:
            self._process.waitForFinished(ms)

    def _ended(self, process: QProcess) -> None:
        if not shiboken6.isValid(process):
            return
        if process in self._ending:
            self._ending.remove(process)
            process.deleteLater()
        if process is not self._process:
            return
        self._process = None
        found, _ = unpacked(bytes(process.readAllStandardOutput().data()))
        process.deleteLater()
        self.ended(found)
