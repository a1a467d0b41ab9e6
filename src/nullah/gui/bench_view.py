"""Bench view (F11): one step, one line of it at a time, one drawing, figures large enough to read from two metres."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QLineEdit, QWidget

from nullah.core.drawing.display_list import Drawing
from nullah.core.edits import joint_readings, measuring, step_edits
from nullah.core.pictures import boards, joint, piece, surface
from nullah.core.stations.step import Step
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.strip import elapsed, toggle_timer
from nullah.gui.theme import Theme
from nullah.gui.widgets import column, label, row

KEYS = "space done    \u232b not done    \u2190 \u2192 steps    \u2191 \u2193 lines    M measured    T time    Esc back"
WIDE = 2.2  # a drawing so many times as long as it is high is laid under the words
LINE = 60  # letters: a longer sentence is a line of its own


class BenchView(QWidget):
    """Left and right turn the steps, up and down the lines of one, space marks the step done, Escape leaves."""

    left = Signal()

    def __init__(self, session: Session, theme: Theme, released: Callable[[], object] = lambda: None) -> None:
        super().__init__()
        self.session, self.theme, self.released = session, theme, released
        self.at = 0
        self.line = 0
        self._asked = ""  # the step whose doubts were told last
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("bench view")
        self.place, self.clock = label(""), label("")
        self.title = label("", wrap=True)
        self.figure = label("")
        self.words = label("", wrap=True)
        self.caution = label("", wrap=True)
        self.keys = label(KEYS)
        self.field = QLineEdit()
        self.field.setObjectName("measured at the bench")
        self.field.setAccessibleName("measured")
        self.field.returnPressed.connect(self._measured)
        self.field.hide()
        self.canvas = Canvas(theme, session)
        self.canvas.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.canvas.bar = False
        self.canvas.renderer.handles = False
        self.beside = QWidget()
        column(self.beside, self.figure, self.words, 1, margins=0)
        self.middle = row(self.beside, self.canvas, spacing=20)
        top = row(self.place, 1, self.clock)
        whole = column(self, top, self.title, self.middle, self.caution, self.field, self.keys, margins=28, spacing=10)
        whole.setStretch(2, 1)
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._tick)
        self.dress()
        session.changed.connect(lambda: self.refresh() if self.isVisible() else None)

    def dress(self) -> None:
        """Sizes by the window's height, so that two metres away a cap is still a centimetre on a usual screen."""
        tall = max(600, self.height())
        c = self.theme.hex
        for widget, size, more in (
            (self.place, 0.032, f"color: {c('quiet')}"),
            (self.clock, 0.045, f"font-weight: bold; color: {c('computed')}"),
            (self.title, 0.062, "font-weight: bold"),
            (self.figure, 0.20, f"font-weight: bold; color: {c('computed')}"),
            (self.words, 0.050, ""),
            (self.caution, 0.033, f"color: {c('decision')}; font-weight: bold"),
            (self.keys, 0.026, f"color: {c('quiet')}"),
            (self.field, 0.060, ""),
        ):
            widget.setStyleSheet(f"font-size: {round(tall * size)}px; {more}")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.dress()
        self._fit_figure()

    def begin(self) -> None:
        """Open on the step in hand, or on the one being timed."""
        timer, steps = self.session.project.timer, self.session.plan.bench.steps
        timed = next((i for i, s in enumerate(steps) if timer is not None and s.id == timer.step), -1)
        self.at = timed if timed >= 0 else max(0, self.session.plan.bench.now)
        self.line = 0
        self.refresh()
        self.setFocus()

    def step(self) -> Step | None:
        """The step shown."""
        steps = self.session.plan.bench.steps
        return steps[self.at] if 0 <= self.at < len(steps) else None

    def refresh(self) -> None:
        steps = self.session.plan.bench.steps
        self.at = max(0, min(self.at, len(steps) - 1))
        step = self.step()
        if step is None:
            self.title.setText("No steps yet")
            self.words.setText("Give the piece its contents and boards, and the steps follow.")
            self.figure.setText("")
            self.caution.setText("")
            return
        lines = lines_of(step)
        self.line = max(0, min(self.line, len(lines) - 1))
        done = "   \u2713 done" if step.done else ""
        several = f"   line {self.line + 1} of {len(lines)}" if len(lines) > 1 else ""
        self.place.setText(f"Step {self.at + 1} of {len(steps)}{several}{done}")
        self.title.setText(self.session.told(step.title))
        self.figure.setText(self.session.figure_and_hair(step.mm)[0] if step.mm is not None else step.figure)
        self._fit_figure()
        self.words.setText(self.session.told_to_work_by(lines[self.line]))
        self.caution.setText(step.cautions[self.line % len(step.cautions)] if step.cautions else "")
        drawing, lit = drawing_for(self.session, step)
        left, low, right, top = drawing.extent()
        beneath = right - left > WIDE * (top - low)  # a board lies across the whole screen, under the words
        way = QBoxLayout.Direction.TopToBottom if beneath else QBoxLayout.Direction.LeftToRight
        self.middle.setDirection(way)
        self.canvas.renderer.size = 1.4 if beneath else 1.8
        self.canvas.margin = 40.0 if beneath else 128.0
        self.middle.setStretch(0, 5 if beneath else 11)
        self.middle.setStretch(1, 4 if beneath else 10)
        self.canvas.show_drawing(drawing, lit)
        self._tick()

    def _fit_figure(self) -> None:
        """A long figure is set smaller, so that it stays whole."""
        letters = max(1, len(self.figure.text()))
        size = min(self.height() * 0.20, self.width() * 0.50 / letters / 0.62)
        self.figure.setStyleSheet(f"font-size: {round(size)}px; font-weight: bold; color: {self.theme.hex('computed')}")

    def _tick(self) -> None:
        timer = self.session.project.timer
        self.clock.setText("" if timer is None else elapsed(self.session))
        if timer is not None and self.isVisible():
            self._clock.start()
        else:
            self._clock.stop()

    # ---- keys

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.at += 1 if key == Qt.Key.Key_Right else -1
            self.line = 0
            self.refresh()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.line += 1 if key == Qt.Key.Key_Down else -1
            self.refresh()
        elif key == Qt.Key.Key_Space:
            self.done()
        elif key == Qt.Key.Key_Backspace:
            self.not_done()
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            if self.field.isVisible():
                self._close_field()
            else:
                self.left.emit()
        else:
            super().keyPressEvent(event)

    def done(self) -> None:
        """The step shown is done; on to the next that is not."""
        step, s = self.step(), self.session
        if step is None:
            return
        if not step.done and not s.finish(step, self._asked == step.id):
            done = {x.id for x in s.plan.bench.steps if x.done}
            steps = {x.id: i + 1 for i, x in enumerate(s.plan.bench.steps)}
            first = next((steps[w] for w in step.waits if w in steps and w not in done), 0)
            if first or self._asked != step.id:
                self.words.setText(f"Not yet: step {first} comes before it." if first else "Not yet.")
            return
        self._asked = ""
        self.at, self.line = self.at + 1, 0
        self.refresh()

    def doubt(self, unmet: step_edits.NotMet) -> None:
        """What the step shown needs and is not so: told in place of its words; the same key again says it is done all the same."""
        self._asked = unmet.step.id
        again = "Space again: take what is suggested, and done." if unmet.calls else "Space again: done all the same."
        self.words.setText(self.session.told(f"{unmet} {again}"))

    def not_done(self) -> None:
        """Back: the step shown is not done; where it was not, the one before."""
        step, s = self.step(), self.session
        if step is not None and step.done:
            s.attempt(f"{step.title} not done", lambda: step_edits.step_undone(s.project, s.plan, step.id))
        else:
            self.at, self.line = self.at - 1, 0
            self.refresh()

    def time(self) -> None:
        """Start or stop timing the step shown."""
        toggle_timer(self.session, self.step())

    def ask(self) -> None:
        """Open the line that takes what was measured."""
        self.field.setPlaceholderText(self.session.measured_sample())
        self.field.show()
        self.field.setFocus()

    def _measured(self) -> None:
        words, s = self.field.text(), self.session
        if s.attempt(f"Measured: {words.strip()}", lambda: joint_readings.measured(s.project, s.plan, words, s.now())):
            self._close_field()
            self.released()  # the field is gone, and Space is the key of this view
        else:
            self.words.setText(measuring.HOW)

    def _close_field(self) -> None:
        self.field.clear()
        self.field.hide()
        self.setFocus()


def lines_of(step: Step) -> tuple[str, ...]:
    """The words of a step, a few at a time: short sentences together, long ones alone."""
    out: list[str] = []
    for sentence in " ".join((*step.doubts, step.words)).replace(". ", ".\n").split("\n"):
        if out and len(out[-1]) + len(sentence) < LINE:
            out[-1] = f"{out[-1]} {sentence}"
        else:
            out.append(sentence)
    return tuple(out) or ("",)


def drawing_for(session: Session, step: Step) -> tuple[Drawing, str]:
    """The one drawing that belongs to a step, and what in it stands out."""
    plan = session.plan
    found = next((j for j in plan.joints.joints if j.id == step.joint), None)
    if found is not None:
        wood = next((p.species for p in plan.piece.parts if p.id in found.parts), "")
        return joint.side_by_side(found.faces[:1], wood), ""
    cut = next((c for c in plan.breakdown.cuts if step.saws and c.name == step.id), None)
    if cut is not None:
        mine = tuple(b for b in session.project.boards if b.id == cut.board)
        return boards.laid_out(mine, plan.breakdown, name=plan.piece.written), f"cut:{cut.number}"
    trued = plan.trueup.of(step.parts[0]) if step.station == "trueup" and step.parts else None
    if trued is not None:
        return surface.picture(trued), ""
    return piece.of(plan), f"part:{step.parts[0]}" if step.parts else ""
