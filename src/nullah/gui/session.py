"""The open project and its plan: edits go in, one notice goes out. All on the interface thread, but for the search.

The search runs on a pool thread: a request (a self-contained value) goes out, layouts come back, and are applied here.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal, Slot

from nullah.core import edit, measure
from nullah.core.calls import Call
from nullah.core.document import Project
from nullah.core.layout.model import Layout
from nullah.core.plan import STATIONS, Plan, PlanCache, plan
from nullah.core.stations import breakdown
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble

AUTOSAVE_AFTER_MS = 2_000


class _Search(QRunnable):
    """One search on a pool thread; ``done`` is called there and only sends a signal."""

    def __init__(self, request: breakdown.Request, done: Callable[[str, tuple[Layout, ...]], None]) -> None:
        super().__init__()
        self.request, self.done = request, done

    def run(self) -> None:
        found = breakdown.offers(self.request)
        with contextlib.suppress(RuntimeError):  # the window was closed meanwhile: nobody waits for the answer
            self.done(self.request.fingerprint, found)


class Session(QObject):
    """What is open. ``changed`` after every edit; ``said`` carries one sentence to show (trouble or not)."""

    changed = Signal()
    said = Signal(str, bool)
    looked_at = Signal(str)
    _found = Signal(str, object)

    def __init__(self, project: Project, path: Path | None = None, recovery_folder: Path | None = None) -> None:
        super().__init__()
        self.history = edit.History(project)
        self.saved = project
        self.path = path
        self.recovery_folder = recovery_folder
        self.cache = PlanCache()
        self.found: tuple[str, tuple[Layout, ...]] | None = None
        self.altered: set[str] = set()
        self.here = "piece"
        self._asked = ""
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._found.connect(self._apply_found)
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_AFTER_MS)
        self._autosave.timeout.connect(self.write_recovery)
        self.plan: Plan = plan(project, self.cache)
        self._ask_for_layouts()

    # ---- reading

    @property
    def project(self) -> Project:
        return self.history.now

    def figures(self, mm: float) -> str:
        """A length in the unit shown."""
        return measure.in_words(mm, self.project.units, self.project.denominator)

    def figure_and_hair(self, mm: float) -> tuple[str, str]:
        """A length in the unit shown, and apart from it what the rounding leaves out, in words or ""."""
        whole = self.figures(mm)
        figure = measure.show_length(mm, self.project.units, self.project.denominator).text
        return figure, whole.removeprefix(figure).strip()

    def told(self, sentence: str) -> str:
        """A sentence of the plan with its lengths in the unit shown."""
        return measure.told(sentence, self.project.units, self.project.denominator)

    @property
    def unsaved(self) -> bool:
        return self.project != self.saved

    def now(self) -> str:
        """The present moment for the log, local time."""
        return datetime.now().astimezone().isoformat(timespec="seconds")

    # ---- editing

    def do(self, project: Project, words: str) -> None:
        """Make ``project`` the present one and tell everyone."""
        self.history.do(project, words)
        self._replan()

    def attempt(self, words: str, make: Callable[[], Project]) -> bool:
        """Do what ``make`` gives; where it cannot be done, say why and leave everything as it was."""
        try:
            project = make()
        except (edit.BadEdit, measure.BadLength) as error:
            self.said.emit(self.told(str(error)), True)
            return False
        self.do(project, words)
        self.said.emit(words, False)
        return True

    def set_number(self, owner: str, field: str, text: str, length: bool = True) -> bool:
        """Set a field of room, kit or allowances from what was typed: a length, or a bare number."""

        def make() -> Project:
            if length:
                return edit.set_in(self.project, owner, field, measure.parse_length(text, self.project.units))
            try:
                number = float(text.replace(",", ".").strip(" %\u00b0C"))
            except ValueError:
                raise edit.BadEdit(f'"{text[:30]}" is not a number.') from None
            return edit.set_in(self.project, owner, field, number)

        return self.attempt(f"{field.replace('_', ' ')}: {text.strip()}", make)

    def undo(self) -> None:
        words = self.history.undo()
        if words:
            self._replan()
            self.said.emit(f"Undone: {words}", False)

    def redo(self) -> None:
        words = self.history.redo()
        if words:
            self._replan()
            self.said.emit(f"Done again: {words}", False)

    def take(self, call: Call, option_id: str) -> None:
        """Take a call's option."""
        project = edit.take(self.project, call, option_id, self.now())
        self.do(project, self.told(call.option(option_id).label))
        self.said.emit(f"Taken: {self.told(call.option(option_id).label)}. It can be taken back below.", False)

    def take_back(self, call_id: str) -> None:
        self.do(edit.take_back(self.project, call_id, self.now()), f"{call_id} taken back")

    def _replan(self) -> None:
        before = self.plan
        self.plan = plan(self.project, self.cache, self.found)
        after_piece = STATIONS.index(self.here)
        old, new = digests(before), digests(self.plan)
        self.altered |= {s for s in STATIONS[after_piece + 1 :] if old[s] != new[s]}
        self._ask_for_layouts()
        self._autosave.start()
        self.changed.emit()

    def look_at(self, station: str) -> None:
        """The user turned to a station: what was altered there is seen."""
        self.here = station
        self.altered.discard(station)
        self.looked_at.emit(station)

    # ---- the search

    def _ask_for_layouts(self) -> None:
        result = self.plan.breakdown
        request = result.request
        wanted = result.needs_layout or result.changed
        if not wanted or not request.stock or request.fingerprint == self._asked:
            return
        self._asked = request.fingerprint
        self._pool.start(_Search(request, self._found.emit))

    @Slot(str, object)
    def _apply_found(self, fingerprint: str, layouts: tuple[Layout, ...]) -> None:
        if fingerprint != self.plan.breakdown.request.fingerprint:
            return
        self.found = (fingerprint, layouts)
        self.plan = plan(self.project, self.cache, self.found)
        self.changed.emit()

    def close(self) -> None:
        """Wait for a running search and stop the autosave."""
        self._autosave.stop()
        self._pool.waitForDone()

    # ---- files

    def replace(self, project: Project, path: Path | None) -> None:
        """Open another project in place of this one."""
        self.remove_recovery()
        self.history = edit.History(project)
        self.saved, self.path, self.found, self._asked = project, path, None, ""
        self.altered.clear()
        self.cache = PlanCache()
        self.plan = plan(project, self.cache)
        self._ask_for_layouts()
        self.changed.emit()

    def open(self, path: Path) -> bool:
        try:
            project = project_file.load(path)
        except FileTrouble as trouble:
            self.said.emit(str(trouble), True)
            return False
        self.replace(project, path)
        self.said.emit(f"Opened {path.name}.", False)
        return True

    def save(self, path: Path | None = None) -> bool:
        target = path or self.path
        if target is None:
            return False
        try:
            project_file.save(self.project, target)
        except FileTrouble as trouble:
            self.said.emit(str(trouble), True)
            return False
        self.remove_recovery()
        self.path, self.saved = target, self.project
        self.changed.emit()
        self.said.emit(f"Saved {target.name}.", False)
        return True

    def recovery(self) -> Path | None:
        """Where the autosave lies, or None where there is no folder for it."""
        return project_file.recovery_path(self.path, self.recovery_folder) if self.recovery_folder else None

    def write_recovery(self) -> None:
        """Keep a copy of unsaved work beside the file, so that a crash loses nothing."""
        target = self.recovery()
        if target is None or not self.unsaved:
            return
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            project_file.save(self.project, target)
        except (FileTrouble, OSError) as trouble:
            self.said.emit(f"Unsaved work cannot be kept safe: {trouble}", True)

    def remove_recovery(self) -> None:
        target = self.recovery()
        for file in (target, target.with_name(target.name + "~")) if target else ():
            with contextlib.suppress(OSError):  # not there, or not ours to remove: either way nothing is lost
                file.unlink()


def digests(one: Plan) -> dict[str, object]:
    """What each station says, small enough to compare: a change of it is what one would want to look at."""
    return {
        "piece": tuple((p.id, *(round(v, 1) for v in p.sizes)) for p in one.piece.parts),
        "timber": tuple(round(m.to_wet, 1) for m in one.timber.movement) + tuple(one.timber.spans.items()),
        "breakdown": (
            one.breakdown.problems,
            tuple(b.id + f"{b.length:.0f} {b.width:.0f}" for b in one.breakdown.blanks),
            one.breakdown.layout,
        ),
        "trueup": tuple((t.id, round(t.planing.thickest, 1), round(t.planing.wanted, 1)) for t in one.trueup.parts),
        "joints": tuple((s.id, s.parts) for s in one.joints.settings),
        "together": tuple(round(v, 1) for v in one.together.frame) if one.together else (),
        "bench": tuple(s.id for s in one.bench.steps),
    }
