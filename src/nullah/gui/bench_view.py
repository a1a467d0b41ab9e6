"""Bench view (F11): one step, one drawing, figures large enough to read from two metres; space and arrows only."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QWidget

from nullah.core import edit
from nullah.core.drawing import Drawing
from nullah.core.pictures import boards, piece, surface
from nullah.core.stations.bench import Step
from nullah.gui.bits import column, label, row
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font


class BenchView(QWidget):
    """The arrows turn the steps, space marks the one shown as done, Escape leaves."""

    left = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.place = label("")
        self.place.setFont(font(22))
        self.title = label("", wrap=True)
        self.title.setStyleSheet("font-size: 38px; font-weight: bold")
        self.figure = label("")
        self.figure.setStyleSheet(f"font-size: 120px; font-weight: bold; color: {theme.hex('computed')}")
        self.words = label("", wrap=True)
        self.words.setStyleSheet("font-size: 23px")
        self.caution = label("", wrap=True)
        self.caution.setStyleSheet(f"font-size: 20px; color: {theme.hex('decision')}")
        self.keys = label("space: done      \u2190 \u2192: steps      Esc: back", "quiet")
        self.keys.setStyleSheet("font-size: 18px")
        self.canvas = Canvas(theme, session)
        self.canvas.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        beside = QWidget()
        column(beside, self.figure, self.words, 1, self.caution, margins=0)
        beside.setMaximumWidth(620)
        middle = row(beside, self.canvas, spacing=20)
        middle.setStretch(1, 1)
        whole = column(self, self.place, self.title, middle, self.keys, margins=28, spacing=12)
        whole.setStretch(2, 1)
        session.changed.connect(lambda: self.refresh() if self.isVisible() else None)

    def begin(self) -> None:
        """Open on the step in hand."""
        self.at = max(0, self.session.plan.bench.now)
        self.refresh()
        self.setFocus()

    def refresh(self) -> None:
        steps = self.session.plan.bench.steps
        if not steps:
            self.title.setText("No steps yet")
            return
        self.at = max(0, min(self.at, len(steps) - 1))
        step = steps[self.at]
        done = "   \u2713 done" if step.done else ""
        self.place.setText(f"Step {self.at + 1} of {len(steps)}{done}")
        self.title.setText(step.title)
        self.figure.setText(self.session.figures(step.mm) if step.mm is not None else step.figure)
        told = self.session.told(step.words)
        words = told if len(told) < 420 else told[:418].rsplit(". ", 1)[0] + "."
        self.words.setText(words)
        self.caution.setText(" ".join(step.cautions))
        self.canvas.show_drawing(*drawing_for(self.session, step))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, s = event.key(), self.session
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.at += 1 if key == Qt.Key.Key_Right else -1
            self.refresh()
        elif key == Qt.Key.Key_Space and s.plan.bench.steps:
            step = s.plan.bench.steps[self.at]
            if step.done:
                s.do(edit.step_undone(s.project, step.id), f"{step.title} not done")
            elif s.attempt(f"{step.title} done", lambda: edit.step_done(s.project, s.plan, step.id, 0.0, s.now())):
                self.at += 1
                self.refresh()
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self.left.emit()
        else:
            super().keyPressEvent(event)


def drawing_for(session: Session, step: Step) -> tuple[Drawing, str]:
    """The one drawing that belongs to a step, and what in it stands out."""
    plan = session.plan
    if step.joint:
        joint = next(j for j in plan.joints.joints if j.id == step.joint)
        return joint.faces[0].drawing, ""
    if step.station == "breakdown":
        number = int(step.id.rsplit(" ", 1)[1])
        cut = plan.breakdown.cuts[number - 1]
        mine = tuple(b for b in session.project.boards if b.id == cut.board)
        return boards.laid_out(mine, plan.breakdown), f"cut:{number}"
    if step.station == "trueup" and step.parts and plan.trueup.of(step.parts[0]):
        return surface.picture(plan.trueup.of(step.parts[0])), ""
    if plan.piece.box is None:
        return Drawing(), ""
    return piece.picture(session.project.piece, plan.piece.box), f"part:{step.parts[0]}" if step.parts else ""
