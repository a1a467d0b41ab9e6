"""Looking for layouts: a search when edits have paused, and the planner for as long as one likes.

The search runs on a pool thread, the planner in a process of its own: a request (a self-contained value) goes out, layouts come
back, and are applied here, on the interface thread.
"""

from __future__ import annotations

from PySide6.QtCore import QObject, QThreadPool, QTimer, Signal, Slot

from nullah.core.document.project import Project
from nullah.core.layout.model import Layout
from nullah.core.planning.plan import Found, Plan, PlanCache, plan
from nullah.gui.clash_watch import ClashWatch
from nullah.gui.planner import PlannerProcess
from nullah.gui.search import Search
from nullah.processes.messages import Report, Task

LOOK_SECONDS = 8.0  # the planner at work, unless it is stopped
SEARCH_AFTER_MS = 250  # a flurry of edits is searched for once


class Looking(QObject):
    """What the session looks for layouts by; it has the project, its plan and the cache."""

    changed = Signal()
    said = Signal(str, bool)
    looked = Signal()  # the planner has come further, or has begun or stopped
    _found = Signal(str, object)

    @property
    def project(self) -> Project:
        """The project that is shown."""
        raise NotImplementedError

    plan: Plan
    cache: PlanCache
    here: str
    _firm: Plan
    _tried: Project | None

    def __init__(self) -> None:
        super().__init__()
        self.better_too = False  # whether better layouts were asked for though the one taken serves
        self.found: Found | None = None
        self._asked = ""
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._found.connect(self._apply_found)
        self.searches_on = False  # whether the planner goes on by itself where a layout is wanted
        self.report: Report | None = None
        self.planner = PlannerProcess(self)
        self.planner.reported.connect(self._reported)
        self.planner.failed.connect(lambda words: self.said.emit(words, True))
        self.planner.ended.connect(self.looked)
        self._search = QTimer(self)
        self._search.setSingleShot(True)
        self._search.setInterval(SEARCH_AFTER_MS)
        self._search.timeout.connect(self._begin_search)
        self.clashes = ClashWatch(self)
        self.clashes.found.connect(self._show_clashes)

    def _wanted(self) -> bool:
        """Whether layouts are to be looked for: there is none that serves, or what it was made from has changed."""
        result = self._firm.breakdown
        return bool(result.request.stock) and (result.needs_layout or result.changed)

    def _ask_for_layouts(self) -> None:
        if self._wanted():
            self._search.start()

    def search_after(self, milliseconds: int) -> None:
        """How long edits have paused before layouts are looked for."""
        self._search.setInterval(milliseconds)

    def _begin_search(self) -> None:
        """Edits have paused: look for layouts, unless they are looked for already or no longer wanted."""
        request = self._firm.breakdown.request
        if request.fingerprint != self._asked and self._wanted():
            self._asked = request.fingerprint
            self._pool.start(Search(request, self._found.emit))

    @Slot(str, object)
    def _apply_found(self, fingerprint: str, layouts: tuple[Layout, ...]) -> None:
        if fingerprint != self._firm.breakdown.request.fingerprint:
            return
        if self.report is not None and self.report.fingerprint == fingerprint and self.report.layouts:
            return  # the planner has been at it for longer
        self._show_found((fingerprint, layouts))
        if self.searches_on and self.here == "breakdown":
            self.look_longer()

    def _show_found(self, found: Found, better_too: bool = False) -> None:
        self.found, self.better_too = found, better_too
        self._tried = None
        self.plan = self._firm = plan(self.project, self.cache, self.found, self.better_too, self.clashes.looked)
        self.changed.emit()

    @Slot()
    def _show_clashes(self) -> None:
        """What clashes is known: it becomes calls. What is pulled just now is let go first."""
        if self._tried is None:
            self.plan = self._firm = plan(self.project, self.cache, self.found, self.better_too, self.clashes.looked)
            self.changed.emit()

    # ---- the planner, in a process of its own

    @property
    def looking(self) -> bool:
        """Whether the planner is at work."""
        return self.planner.at_work

    def look_longer(self, seconds: float = LOOK_SECONDS) -> None:
        """Let the planner look for better layouts; what it finds becomes a call."""
        request = self._firm.breakdown.request
        if not request.stock or not request.blanks:
            self.said.emit("There is nothing to lay out: every part is cut, or there are no boards.", True)
            return
        self.report = None
        self.planner.start(Task(request, seconds))
        self.looked.emit()

    def stop_looking(self) -> None:
        """Stop the planner; what it has found so far stands."""
        self.planner.stop()
        self.looked.emit()

    @Slot(object)
    def _reported(self, report: Report) -> None:
        request = self._firm.breakdown.request
        if report.fingerprint != request.fingerprint:
            self.planner.stop()
            return
        self.report = report
        result = self._firm.breakdown
        asked = result.layout is not None and not result.needs_layout and not result.changed
        fresh = self.found is None or self.found[1] != report.layouts or self.better_too != asked
        if report.layouts and fresh:
            self._show_found((report.fingerprint, report.layouts), asked)
        if report.done and asked and not self._firm.call("layout"):
            self.said.emit("Nothing better was found: the layout stands.", False)
        self.looked.emit()

    def end_searches(self) -> None:
        """Stop the planner and wait for a running search."""
        self._search.stop()
        self.clashes.stop()
        self.planner.stop()
        self._pool.waitForDone()
