"""At the bench: the step in hand, in words and one number; Measured, start, done."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt, QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QVBoxLayout

from nullah.core.edits import edit, joint_readings, measuring
from nullah.core.stations.step import Step
from nullah.gui.session import Session
from nullah.gui.widgets import Lines, button, label, pressed

MOST_NAMED = 8  # parts that are named where one is asked what was measured


class Strip(QFrame):
    """The lowest line of the window. Key M opens *Measured...* from anywhere."""

    bench_wanted = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("strip")
        self.session = session
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._tick)
        self.place = label("", "quiet")
        self.words = Lines(2)
        self.caution = Lines(1, "quiet")
        self.figure = label("", "figure")
        self.measure_button = button(
            "Measured\u2026  M", self.ask, tip="What the wood says of a part or a board, from anywhere"
        )
        self.field = QLineEdit()
        self.field.setObjectName("measured")
        self.field.setAccessibleName("measured")
        self.field.setFixedWidth(210)
        self.field.returnPressed.connect(self._measured)
        self.field.installEventFilter(self)
        self.field.hide()
        self.start_button = button("Start  T", self.start, tip="time this step")
        self.done_button = button("Done", self.done, "main")
        self.full = button("Bench view  F11", self.bench_wanted.emit)
        self.note = Lines(1, "quiet")
        left = QVBoxLayout()
        left.setSpacing(1)
        head = QHBoxLayout()
        head.setSpacing(18)
        head.addWidget(self.place)
        head.addWidget(self.note, 1)
        left.addLayout(head)
        left.addWidget(self.words)
        left.addWidget(self.caution)
        across = QHBoxLayout()
        across.addLayout(left, 1)
        for thing in (self.figure, self.field, self.measure_button, self.start_button, self.done_button, self.full):
            across.addWidget(thing, 0, Qt.AlignmentFlag.AlignVCenter)
        across.setContentsMargins(14, 6, 14, 6)
        self.setLayout(across)
        self.setFixedHeight(104)
        session.changed.connect(self.refresh)
        session.said.connect(self.say)
        self.refresh()

    def step(self) -> Step | None:
        """The step in hand."""
        bench = self.session.plan.bench
        return bench.steps[bench.now] if 0 <= bench.now < len(bench.steps) else None

    def refresh(self) -> None:
        bench, step = self.session.plan.bench, self.step()
        if step is None:
            self.place.setText("At the bench")
            waiting = (
                "Give the piece its contents and boards, and the steps follow."
                if not bench.steps
                else "Every step is done."
            )
            self.words.show_text(waiting)
            self.figure.setText("")
            self.caution.show_text("")
        else:
            self.place.setText(f"At the bench: step {bench.now + 1} of {len(bench.steps)}")
            self.words.show_text(
                self.session.told_to_work_by(f"{step.title}. {first_sentence(' '.join((*step.doubts, step.words)))}")
            )
            self.figure.setText(self.session.figure(step.mm) if step.mm is not None else step.figure)
            self.caution.show_text(" ".join(step.cautions[:2]))
        self.start_button.setEnabled(step is not None)
        self.done_button.setEnabled(step is not None)
        self._tick()

    def say(self, words: str, trouble: bool) -> None:
        """One sentence under the step: what was done, or why it was not."""
        self.note.setObjectName("trouble" if trouble else "quiet")
        self.note.style().polish(self.note)
        self.note.show_text(words)

    def ask(self) -> None:
        """Open the line that takes what was measured."""
        self.field.setPlaceholderText(self.session.measured_sample())
        self.field.show()
        self.field.setFocus()
        plan = self.session.plan
        named = [plan.piece.spoken(p.id) for p in plan.piece.in_hand.parts]
        if len(named) > MOST_NAMED:
            named = [*named[:MOST_NAMED], "and so on"]
        self.say(
            f"{measuring.HOW} Parts: {', '.join(named) or 'none yet'}, opening, diagonal 1.",
            False,
        )

    def _measured(self) -> None:
        words = self.field.text()
        s = self.session
        if s.attempt(f"Measured: {words.strip()}", lambda: joint_readings.measured(s.project, s.plan, words, s.now())):
            self.field.clear()  # it stays for the next one, and the hand with it

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if watched is self.field and pressed(event) == Qt.Key.Key_Escape:
            self.field.clear()
            self.field.hide()
            self.measure_button.setFocus()
            self.say("", False)
            return True
        return False

    def start(self) -> None:
        """Begin to time the step in hand, or stop and log its minutes. It runs on while the program is closed."""
        toggle_timer(self.session, self.step())

    def done(self) -> None:
        """The step in hand is done; its minutes are logged when it was timed."""
        step = self.step()
        if step is not None:
            self.session.finish(step)

    def _tick(self) -> None:
        """The minutes of the step being timed."""
        timer = self.session.project.timer
        if timer is None:
            self.start_button.setText("Start  T")
            self._clock.stop()
            return
        self.start_button.setText(f"Stop {elapsed(self.session)}")
        if not self._clock.isActive():
            self._clock.start()


def toggle_timer(session: Session, step: Step | None) -> None:
    """Start timing a step, or stop the one being timed."""
    p, now = session.project, session.now()
    if p.timer is not None:
        title = next((s.title for s in session.plan.bench.steps if s.id == p.timer.step), p.timer.step)
        session.attempt(f"{title}: timer stopped", lambda: edit.stop_timer(p, title, now))
    elif step is not None:
        session.attempt(f"{step.title}: timer started", lambda: edit.start_timer(p, step.id, now))


def elapsed(session: Session) -> str:
    """How long the timer has run, as 12:04."""
    seconds = round(60 * edit.timed(session.project, session.now()))
    return (
        f"{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
        if seconds >= 3600
        else f"{seconds // 60}:{seconds % 60:02d}"
    )


def first_sentence(words: str) -> str:
    """The first sentence, for a line that has room for one."""
    head, dot, _ = words.partition(". ")
    return head + "." if dot else words
