"""Bench book: every step with what it waits for, the minutes it should take and took, and the record beside it."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from nullah.core.edits import edit, step_edits
from nullah.core.planning.plan import TITLES
from nullah.core.stations.step import Step
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme, font
from nullah.gui.tips import set_tip
from nullah.gui.widgets import button, column, label, row

LINES = 300  # of the record that are shown at once


class BenchBookView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.sum = label("", wrap=True)
        self.steps = QListWidget()
        self.steps.setAccessibleName("steps")
        self.steps.setWordWrap(True)
        self.steps.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.steps.itemActivated.connect(self._toggle)
        self.log = QListWidget()
        self.log.setAccessibleName("record")
        self.log.setWordWrap(True)
        self.log.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.toggle = button("Done / not done", lambda: self._toggle(self.steps.currentItem()))
        self.minutes = QLineEdit()
        self.minutes.setPlaceholderText("minutes")
        self.minutes.setAccessibleName("minutes")
        self.minutes.setFixedWidth(84)
        self.minutes.returnPressed.connect(self._minutes)
        self.note = QLineEdit()
        self.note.setObjectName("note")
        self.note.setAccessibleName("note")
        self.note.setPlaceholderText("What happened, what to do otherwise next time")
        self.note.returnPressed.connect(self._note)
        self.lines = LINES
        self._shown_log: object = None
        self._shown_steps: object = None
        self.log.itemActivated.connect(self._more_lines)
        self.log.itemClicked.connect(self._more_lines)
        left, right = QWidget(), QWidget()
        column(
            left,
            label("The whole job, in order", "heading"),
            self.steps,
            row(self.toggle, "it took", self.minutes, 1),
            margins=0,
            spacing=5,
        )
        column(right, label("The record", "heading"), self.log, self.note, margins=0, spacing=5)
        both = row(left, right, spacing=12)
        both.setStretch(0, 6)
        both.setStretch(1, 4)
        whole = column(self, self.sum, both, margins=12, spacing=6)
        whole.setStretch(1, 1)

    def choose(self, step_id: str) -> None:
        """Turn to a step."""
        steps = [s.id for s in self.session.plan.bench.steps]
        if step_id in steps:
            self.steps.setCurrentRow(steps.index(step_id))
            self.steps.setFocus()

    def light(self, tag: str) -> None:
        """Nothing is drawn here."""

    def _toggle(self, item: QListWidgetItem | None) -> None:
        s = self.session
        if item is None:
            s.said.emit("Choose a step first.", True)
            return
        step = self._step_of(item)
        if step is None:
            return
        if step.done:
            s.attempt(f"{step.title} not done", lambda: step_edits.step_undone(s.project, s.plan, step.id))
        else:
            s.finish(step)

    def _minutes(self) -> None:
        item, s = self.steps.currentItem(), self.session
        try:
            minutes = float(self.minutes.text().replace(",", "."))
            if not 0 < minutes <= 100_000:
                raise ValueError
        except ValueError:
            s.said.emit(f'"{self.minutes.text()[:20]}" is not a number of minutes.', True)
            return
        if item is None:
            s.said.emit("Choose the step these minutes belong to.", True)
            return
        step = self._step_of(item)
        if step is not None and s.attempt(
            f"{minutes:g} min for {step.title}",
            lambda: edit.logged(s.project, "time", step.title, s.now(), step.id, minutes),
        ):
            self.minutes.clear()

    def _step_of(self, item: QListWidgetItem) -> Step | None:
        """The step that a line of the list stands for, or None where it is no longer in the plan."""
        wanted = item.data(Qt.ItemDataRole.UserRole)
        return next((x for x in self.session.plan.bench.steps if x.id == wanted), None)

    def _note(self) -> None:
        words = self.note.text().strip()
        if words:
            s = self.session
            if s.attempt("note written", lambda: edit.logged(s.project, "note", words, s.now())):
                self.note.clear()

    def refresh(self) -> None:
        bench = self.session.plan.bench
        hours = bench.minutes_left / 60
        rate = "by common rates" if bench.rate == 1 else f"at your own pace, {bench.rate:.1f} times the common rates"
        done = sum(s.done for s in bench.steps)
        self.sum.setText(
            f"{done} of {len(bench.steps)} steps done, {bench.minutes_taken:.0f} min logged; about {hours:.1f} h left {rate}."
        )
        showing = (bench.steps, bench.now, self.theme.dark)
        if showing != self._shown_steps:
            self._shown_steps = showing
            self._show_steps()
        self._show_log()

    def _show_steps(self) -> None:
        bench = self.session.plan.bench
        at = self.steps.currentRow()
        self.steps.clear()
        names = {s.id: i + 1 for i, s in enumerate(bench.steps)}
        station = ""
        for i, step in enumerate(bench.steps):
            waits = sorted(names[w] for w in step.waits if w in names and not bench.steps[names[w] - 1].done)
            head = f"{TITLES[step.station].upper()}\n" if step.station != station else ""
            station = step.station
            waiting = f"   waits for {', '.join(map(str, waits[:4]))}" if waits else ""
            took = f", took {step.took:.0f}" if step.took else ""
            mark = "\u2713" if step.done else "\u25b6" if i == bench.now else "\u00b7"
            item = QListWidgetItem(f"{head}{mark}  {i + 1}  {step.title}   {step.minutes:.0f} min{took}{waiting}")
            item.setData(Qt.ItemDataRole.UserRole, step.id)
            set_tip(item, self.session.told_to_work_by(" ".join((*step.doubts, step.words))))
            if i == bench.now:
                item.setFont(font(14, True))
            if step.done:
                item.setForeground(QBrush(self.theme["settled"]))
            self.steps.addItem(item)
        self.steps.setCurrentRow(at if 0 <= at < len(bench.steps) else bench.now)

    def _show_log(self) -> None:
        """The latest lines of the record; earlier ones when they are asked for."""
        log = self.session.project.log
        showing = (log[-self.lines :], len(log), self.lines)
        if showing == self._shown_log:
            return
        self._shown_log = showing
        self.log.clear()
        for entry in reversed(log[-self.lines :]):
            when = entry.when[5:16].replace("T", " ")
            minutes = f", {entry.minutes:.0f} min" if entry.minutes else ""
            self.log.addItem(f"{when}  {entry.kind}: {entry.text}{minutes}")
        if len(log) > self.lines:
            self.log.addItem(f"{len(log) - self.lines} earlier lines: click or Return shows more.")
        if not log:
            self.log.addItem("Nothing yet. What you measure, decide, cut and time is written here.")

    def _more_lines(self, item: QListWidgetItem) -> None:
        """Earlier lines of the record, from the last line of the list."""
        if len(self.session.project.log) > self.lines and self.log.row(item) == self.log.count() - 1:
            self.lines += LINES
            self._show_log()
