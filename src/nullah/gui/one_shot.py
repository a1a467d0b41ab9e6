"""A process that is sent one thing and answers, as the window sees it."""

from __future__ import annotations

import sys
from collections.abc import Callable

import shiboken6
from PySide6.QtCore import QObject, QProcess

from nullah.processes.messages import packed, unpacked


class OneShot(QObject):
    """At most one process at a time. All on the interface thread; the work is done elsewhere.

    Args:
        module: whose ``main`` is run.
        ended: hears what came back when it has ended; nothing where it did not start or broke off.
        heard: hears each thing as it comes.
    """

    def __init__(
        self,
        module: str,
        ended: Callable[[list[object]], None],
        parent: QObject,
        heard: Callable[[object], object] = lambda value: None,
    ) -> None:
        super().__init__(parent)
        self.module, self.ended, self.heard = module, ended, heard
        self._waiting: QProcess | None = None  # started ahead, with all it needs loaded
        self._found: list[object] = []
        self._rest = b""
        self._process: QProcess | None = None
        self._ending: list[QProcess] = []  # killed, and not gone yet

    @property
    def at_work(self) -> bool:
        """Whether it is under way."""
        return self._process is not None

    def start(self, sent: object) -> None:
        """Begin, in place of what may be under way."""
        self.let_be()
        process, self._waiting = self._waiting or self._begun(), None
        self._found, self._rest = [], b""
        self._process = process
        if process.state() == QProcess.ProcessState.NotRunning:  # it did not start, or broke off while it waited
            self._ended(process)
            return
        process.write(packed(sent))
        process.closeWriteChannel()

    def make_ready(self) -> None:
        """Start one ahead, where none waits: what is sent next is sent to it."""
        if self._waiting is None:
            self._waiting = self._begun()

    def _begun(self) -> QProcess:
        process = QProcess(self)
        process.readyReadStandardOutput.connect(lambda: self._hear(process))
        process.finished.connect(lambda *_: self._ended(process))
        process.errorOccurred.connect(
            lambda error: self._ended(process) if error == QProcess.ProcessError.FailedToStart else None
        )
        # -P: nothing from the folder one happens to be in is run; not -m: pickles name its module
        process.start(sys.executable, ["-P", "-c", f"from {self.module} import main; main()"])
        return process

    def let_be(self) -> None:
        """End it at once; nothing more is told of it. One that waits goes on waiting."""
        process, self._process = self._process, None
        if process is not None:
            self._ending.append(process)
            process.kill()

    def stop(self, wait: int = 0) -> None:
        """End it at once, and one that waits; nothing more is told of it. ``wait``: stay until it is gone, so many ms at the most."""
        self.let_be()
        waits, self._waiting = self._waiting, None
        if waits is not None:
            self._ending.append(waits)
            waits.kill()
        for one in self._ending[:] if wait else ():
            one.waitForFinished(wait)

    def wait(self, ms: int) -> None:
        """Stay until it has ended, so long at the most."""
        if self._process is not None:
            self._process.waitForFinished(ms)

    def _hear(self, process: QProcess) -> None:
        if process is self._process:
            found, self._rest = unpacked(self._rest + bytes(process.readAllStandardOutput().data()))
            self._found += found
            for one in found:
                self.heard(one)

    def _ended(self, process: QProcess) -> None:
        if not shiboken6.isValid(process):
            return
        if process in self._ending:
            self._ending.remove(process)
            process.deleteLater()
        if process is self._waiting:
            self._waiting = None
            process.deleteLater()
        if process is not self._process:
            return
        self._hear(process)
        self._process = None
        process.deleteLater()
        self.ended(self._found)
