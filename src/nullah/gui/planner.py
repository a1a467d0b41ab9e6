"""The planner's process as the window sees it: a task is sent, reports come as signals, stopping it takes no time."""

from __future__ import annotations

import sys

from PySide6.QtCore import QObject, QProcess, Signal

from nullah.processes.messages import Report, Task, packed, unpacked

LONGEST = 10_000  # ms: a process that is killed is gone at once, but where the machine is at its limit


class PlannerProcess(QObject):
    """At most one process at a time. All on the interface thread; the work is done elsewhere."""

    reported = Signal(object)
    failed = Signal(str)
    ended = Signal()  # by itself, with its work done or not

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None
        self._read, self._done = b"", False

    @property
    def at_work(self) -> bool:
        return self._process is not None

    def start(self, task: Task) -> None:
        """Begin with a task, in place of what may be under way."""
        self.stop()
        self._read, self._done = b"", False
        process = QProcess(self)
        process.readyReadStandardOutput.connect(lambda: self._take(process))
        process.finished.connect(lambda *_: self._ended(process))
        process.errorOccurred.connect(lambda error: self._not_started(process, error))
        self._process = process
        # -P: nothing from the folder one happens to be in is run; not -m: pickles name its module
        process.start(sys.executable, ["-P", "-c", "from nullah.processes.planner import main; main()"])
        process.write(packed(task))
        process.closeWriteChannel()

    def stop(self) -> None:
        """End it at once; nothing more is told of it."""
        process, self._process = self._process, None
        if process is None:
            return
        process.kill()
        process.waitForFinished(LONGEST)
        process.deleteLater()

    def _take(self, process: QProcess) -> None:
        if process is not self._process:
            return
        found, self._read = unpacked(self._read + bytes(process.readAllStandardOutput().data()))
        for one in found[-1:]:  # only the latest counts
            self._done = isinstance(one, Report) and one.done
            self.reported.emit(one)

    def _not_started(self, process: QProcess, error: QProcess.ProcessError) -> None:
        """A process that never began does not finish either; one that breaks off does."""
        if error == QProcess.ProcessError.FailedToStart:
            self._ended(process)

    def _ended(self, process: QProcess) -> None:
        if process is not self._process:
            return
        self._take(process)
        if process is not self._process:
            return
        self._process = None
        process.deleteLater()
        if not self._done:  # it did not start, was killed, or ended before it had said that it is done
            self.failed.emit("The planner could not go on; the layout found so far stands. K begins anew.")
        self.ended.emit()
