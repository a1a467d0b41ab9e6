"""The open project and its plan: edits go in, one notice goes out. All on the interface thread, but for the search."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from pydantic import ValidationError
from PySide6.QtCore import QTimer, Signal

from nullah.core.document import history
from nullah.core.document.calls import Call
from nullah.core.document.project import Project
from nullah.core.document.refusals import sentence
from nullah.core.edits import edit, step_edits
from nullah.core.edits.gestures import nudge, pull
from nullah.core.planning.changes import Change, Facts, between, facts, made_from, no_more
from nullah.core.planning.plan import STATIONS, Plan, PlanCache, plan
from nullah.core.stations.step import Step
from nullah.core.values import measure
from nullah.core.values.ask import BadAnswer
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble, spoken
from nullah.gui.figures import Figures
from nullah.gui.looking import Looking
from nullah.gui.recovery import Recovery

AUTOSAVE_AFTER_MS = 2_000
# stations worked while something is dragged at one: what is seen there, and what it is made from
WORKED_WHILE_DRAGGING = {
    "piece": frozenset({"piece"}),
    "timber": frozenset({"timber"}),
    "breakdown": frozenset[str](),  # the view draws the layout as it would be
    "trueup": frozenset({"surfaces"}),  # the view reads anew what is in hand
    "joints": frozenset({"piece", "joints"}),
    "together": frozenset({"together"}),
    "bench": frozenset({"bench"}),
}


NO_LONGER_OPEN = "That call is no longer open: something it rested on has changed."
REFUSALS = (edit.BadEdit, BadAnswer, measure.BadLength, ValidationError)  # what an edit that cannot be made raises


def refusal(error: Exception) -> str:
    """The sentence of an edit that cannot be made."""
    return sentence(error) if isinstance(error, ValidationError) else str(error)


def _stem(path: Path) -> str:
    """A file's name without its ending, as a project's name."""
    return spoken(path.stem)[:120]


def _names_of(path: Path | None) -> tuple[str, ...]:
    """What a project is called that nobody has named: as a new one, or as its file."""
    return (Project().name, *((_stem(path),) if path is not None else ()))


class Session(Figures, Looking):
    """What is open. ``changed`` after every edit; ``said`` carries one sentence to show (trouble or not).

    While something is dragged, ``project`` and ``plan`` are what it would come to, worked for the station in hand alone, and
    ``previewed`` is sent instead of ``changed``; letting go makes it one step of undo.
    """

    previewed = Signal()
    looked_at = Signal(str)
    doubted = Signal(object)  # a ``step_edits.NotMet``
    closing = Signal()

    def __init__(
        self,
        project: Project,
        path: Path | None = None,
        recovery_folder: Path | None = None,
    ) -> None:
        super().__init__()
        self.history = history.History(project)
        self.saved = project
        self.path = path
        self.recovery = Recovery(recovery_folder)
        self.recovery.look(path)
        self.cache = PlanCache()
        self.here = "piece"
        self.lit_part = ""  # the part one has in mind, lit at every station
        self._tried: Project | None = None
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_AFTER_MS)
        self._autosave.timeout.connect(self.write_recovery)
        self.plan: Plan = plan(project, self.cache)
        self._firm = self.plan  # the plan of the project as it is, whatever is being dragged
        self._stated: dict[str, tuple[object, Facts]] = {}
        self.seen = {s: self.stated(s) for s in STATIONS}  # what each station stated when it was last looked at
        self.left_behind = ""  # what was done and is no step any more since the last edit, as a sentence
        self.news: tuple[Change, ...] = ()  # what had changed at the station in hand when one turned to it
        self._ask_for_layouts()
        self.clashes.watch(self.plan)

    # ---- reading

    @property
    def project(self) -> Project:
        return self.history.now if self._tried is None else self._tried

    @property
    def trying(self) -> bool:
        """Whether something is pulled and not let go yet."""
        return self._tried is not None

    @property
    def altered(self) -> set[str]:
        """Stations that state something else than when they were last looked at."""
        return {s for s in STATIONS if s != self.here and self.seen[s] != self.stated(s) and self.altered_at(s)}

    def stated(self, station: str) -> Facts:
        """What a station states now; read again only when the station was worked again."""
        source = made_from(self._firm, station)
        kept = self._stated.get(station)
        if kept is None or kept[0] is not source:
            kept = self._stated[station] = (source, facts(self._firm, station))
        return kept[1]

    def altered_at(self, station: str) -> tuple[Change, ...]:
        """What a station states otherwise than when it was last looked at."""
        return between(self.seen[station], self.stated(station), self.told)

    @property
    def unsaved(self) -> bool:
        """Whether what is here is in no file: changed since it was saved, or its file is gone."""
        return self.history.now != self.saved or (self.path is not None and not self.path.exists())

    def now(self) -> str:
        """The present moment for the log, local time."""
        return datetime.now().astimezone().isoformat(timespec="milliseconds")

    # ---- editing

    def do(self, project: Project, words: str, gesture: str = "") -> None:
        """Make ``project`` the present one and tell everyone; steps of the same ``gesture`` are one step of undo.

        The plan is worked first: whatever goes wrong there leaves project and plan as they were.
        """
        fresh = self._planned(project)
        gone = no_more(self._firm, fresh)
        self._tried = None
        self.history.do(project, words, gesture)
        self._show(fresh)
        self.left_behind = f" Done, and no longer to be done: {', '.join(gone)}." if gone else ""

    # ---- gestures

    def pull(self, tag: str, dx: float, dy: float, let_go: bool) -> None:
        """Something in a drawing is dragged: show what it would come to; let go, make it so."""
        try:
            gesture = pull(self.history.now, self._firm, tag, dx, dy)
        except REFUSALS as error:
            self.said.emit(self.told(refusal(error)), True)
            if let_go:
                self.let_be()
            return
        self.said.emit(self.told(gesture.words), False)
        if let_go:
            self.do(gesture.project, self.told(gesture.words))
            return
        self.cache.only = WORKED_WHILE_DRAGGING[self.here]
        try:
            self.plan = plan(gesture.project, self.cache, self.found, self.better_too, self.clashes.looked)
        finally:
            self.cache.only = None
        self._tried = gesture.project
        self.previewed.emit()

    def let_be(self) -> None:
        """A drag given up: all is as it was."""
        if self._tried is not None:
            self._tried, self.plan = None, self._firm
            self.changed.emit()

    def nudge(self, tag: str, along: int, up: int) -> None:
        """Something is moved by arrow keys; nudge after nudge of one thing is one step of undo."""
        try:
            gesture = nudge(self.history.now, self._firm, tag, along, up)
        except REFUSALS as error:
            self.said.emit(self.told(refusal(error)), True)
            return
        self.do(gesture.project, self.told(gesture.words), f"nudge {tag}")
        self.said.emit(self.told(gesture.words), False)

    def attempt(self, words: str, make: Callable[[], Project]) -> bool:
        """Do what ``make`` gives; where it cannot be done, say why and leave everything as it was."""
        try:
            project = make()
        except REFUSALS as error:
            self.said.emit(self.told(refusal(error)), True)
            return False
        self.do(project, words)
        self.said.emit(f"{words}{'.' if self.left_behind else ''}{self.left_behind}", False)
        return True

    def finish(self, step: Step, sure: bool = False) -> bool:
        """Mark a step done; where it needs what is not so, or stands on open calls, ``doubted`` asks first. Whether it is done."""
        words = f"{step.title} done"
        try:
            project = step_edits.step_done(self.project, self.plan, step.id, 0.0, self.now(), sure)
        except step_edits.NotMet as unmet:
            self.doubted.emit(unmet)
            return False
        except REFUSALS as error:
            self.said.emit(self.told(refusal(error)), True)
            return False
        self.do(project, words)
        self.said.emit(words, False)
        return True

    def set_number(self, owner: str, field: str, text: str, length: bool = True) -> bool:
        """Set a field of room, kit, allowances or weights from what was typed: a length, or a bare number."""

        def make() -> Project:
            if length:
                return edit.set_in(self.project, owner, field, measure.parse_length(text, self.project.units))
            try:
                number = float(text.replace(",", ".").strip(" %\u00b0C"))
            except ValueError:
                raise edit.BadEdit(f'"{text[:30]}" is not a number.') from None
            return edit.set_in(self.project, owner, field, number)

        return self.attempt(f"{field.replace('_', ' ')}: {text.strip()}", make)

    def measured_sample(self) -> str:
        """How a measurement is written, by the first part of the piece in hand."""
        made = self.plan.piece.in_hand
        if not made.parts:
            return "Board 1 moisture 10.5"
        part = made.parts[0]
        return f"{made.label(part)} thickness {self.figures(part.thickness)}"

    def undo(self) -> None:
        self._tried = None
        words = self.history.undo()
        if words:
            self._replan()
            self.said.emit(f"Undone: {words}", False)

    def redo(self) -> None:
        self._tried = None
        words = self.history.redo()
        if words:
            self._replan()
            self.said.emit(f"Done again: {words}", False)

    def take(self, call: Call, option_id: str) -> None:
        """Take a call's option; one that is no longer laid out is told, and nothing is taken."""
        now = self._firm.call(call.id)
        if now is None or not any(o.id == option_id for o in now.options):
            self.said.emit(NO_LONGER_OPEN, True)
            return
        label = self.told(now.option(option_id).label)
        if self.attempt(label, lambda: edit.take(self.history.now, now, option_id, self.now())):
            if call.id == "layout":
                self.better_too = False  # the others have been seen
                self.stop_looking()
            self.said.emit(f"Taken: {label}. It can be taken back below.{self.left_behind}", False)

    def take_back(self, call_id: str) -> None:
        self.attempt(f"{call_id} taken back", lambda: edit.take_back(self.history.now, call_id, self.now()))

    def _planned(self, project: Project) -> Plan:
        """The plan of a project; where it cannot be worked the next begins with an empty cache."""
        cache, self.cache = self.cache, PlanCache()
        fresh = plan(project, cache, self.found, self.better_too, self.clashes.looked)
        self.cache = cache
        return fresh

    def _replan(self) -> None:
        self._show(self._planned(self.history.now))

    def _show(self, fresh: Plan) -> None:
        """A plan of the present project: everyone is told."""
        self.plan = self._firm = fresh
        self.seen[self.here] = self.stated(self.here)
        self._ask_for_layouts()
        self.clashes.watch(fresh)
        if not self._autosave.isActive():  # not put off by the next edit: at most that long is ever missing
            self._autosave.start()
        self.changed.emit()

    def look_at(self, station: str) -> None:
        """The user turned to a station: what was altered there is told, and seen from now on."""
        if station != self.here:
            self.news = between(self.seen[station], self.stated(station), self.told)
        self.here = station
        if (
            station == "breakdown"
            and self.searches_on
            and self.found is not None
            and self._wanted()
            and not self.looking
        ):
            self.look_longer()
        self.seen[station] = self.stated(station)
        self.looked_at.emit(station)

    def light_part(self, part: str) -> None:
        """Have another part in mind, or with "" none."""
        self.lit_part = part

    def close(self) -> None:
        """Wait for a running search and stop the autosave."""
        self.closing.emit()
        self._autosave.stop()
        self.end_searches()
        self.recovery.close()

    # ---- files

    def replace(self, project: Project, path: Path | None) -> None:
        """Open another project in place of this one. It is planned first: whatever goes wrong there leaves all as it was."""
        cache = PlanCache()
        fresh = plan(project, cache)
        self.planner.stop()
        self.report = None
        self.recovery.remove(self.path)
        self.history = history.History(project)
        self.saved, self.path, self.found, self._asked, self._tried = project, path, None, "", None
        self.recovery.look(path)
        self.cache = cache
        self.plan = self._firm = fresh
        self._stated = {}
        self.seen = {s: self.stated(s) for s in STATIONS}
        self.news, self.lit_part = (), ""
        self._ask_for_layouts()
        self.clashes.watch(fresh)
        self.changed.emit()

    def read(self, path: Path) -> Project | None:
        """The project in a file; None, and one sentence said, where it cannot be read."""
        try:
            return project_file.load(path)
        except FileTrouble as trouble:
            self.said.emit(self.told(str(trouble)), True)
            return None

    def open(self, path: Path) -> bool:
        """Open a project in place of this one, which is let go as it is."""
        project = self.read(path)
        if project is None:
            return False
        self.replace(project, path)
        self.said.emit(f"Opened {spoken(path)}.", False)
        return True

    def save(self, path: Path | None = None) -> bool:
        """Save to ``path``, else to its own file; whether it was saved. A project nobody has named is called as its file."""
        target = path or self.path
        if target is None:
            return False
        before = self.history.now
        renamed = target != self.path and before.name in _names_of(self.path) and before.name != _stem(target)
        if renamed:
            self.history.do(edit.changed(before, name=_stem(target) or before.name), f"called {_stem(target)}")
        try:
            project_file.save(self.history.now, target)
        except FileTrouble as trouble:
            if renamed:
                self.history.undo()
            self.said.emit(self.told(str(trouble)), True)
            return False
        self.recovery.remove(self.path)
        self.path, self.saved = target, self.history.now
        self.recovery.look(target)
        if renamed:
            self._replan()
        else:
            self.changed.emit()
        self.said.emit(f"Saved {spoken(target)}.", False)
        return True

    def take_theirs(self) -> None:
        """The file was changed outside: go on from what it says now; Undo goes back to what was here."""
        if self.path is None:
            return
        try:
            project = project_file.load(self.path)
        except FileTrouble as trouble:
            self.said.emit(str(trouble), True)
            return
        self.saved = project
        self.recovery.look(self.path)
        self.do(project, "taken from the file as changed outside")

    def keep_mine(self) -> None:
        """The file was changed outside: what is here stays, and counts as not saved."""
        self.saved = Project(name="\N{EM DASH}")
        self.recovery.look(self.path)
        self.changed.emit()

    def write_recovery(self) -> bool:
        """Keep a copy of unsaved work, so that a crash loses nothing; whether there is none to keep, or it is kept."""
        if not self.unsaved:
            return True
        try:
            self.recovery.write(self.history.now, self.path)
        except FileTrouble as trouble:
            self.said.emit(f"Unsaved work cannot be kept safe: {trouble}", True)
            return False
        return True
