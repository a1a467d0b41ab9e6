"""True-up: a board is read where sticks and straightedge lie, and planed by a plan that goes on from what it then reads."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QWidget

from nullah.core.edits import truing_edits
from nullah.core.marking.plan import counted
from nullah.core.pictures import surface as picture
from nullah.core.stations.planing_ways import counting, first_side, how, knowledge, wanted
from nullah.core.stations.trued import Trued
from nullah.core.stations.trueup import read_anew
from nullah.core.surface.certainty import AGAIN, Advice, Grid, Knowledge
from nullah.core.surface.passes import Pass
from nullah.core.surface.reading_kinds import READING_KINDS, ReadingLike, Taken
from nullah.core.surface.readings import BACK, FACE
from nullah.core.surface.rounds import Round
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.tips import set_tip
from nullah.gui.trueup import pass_words
from nullah.gui.trueup.reading_fields import ReadingFields
from nullah.gui.trueup.rounds import RoundPlanner
from nullah.gui.trueup.targets import Targets
from nullah.gui.trueup.wrapped_list import WrappedList
from nullah.gui.widgets import Field, Lines, button, column, label, row

SURE = Grid(13, 5)


class TrueupView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.target, self.side = "", "face"
        self.rows = (Targets("Boards", self.choose), Targets("Parts", self.choose))
        self.first = self.canvas = Canvas(theme, session)
        self.canvas.takes_gestures("reading:")
        self.canvas.picked.connect(self._picked)
        self.canvas.placed.connect(self._placed)
        self.left, self.words = label("", "figure"), Lines(3)
        self.planes_button = button("Planes", self.show_planes, "chip", "the planes at hand, and how they are set")
        self.planes_button.setCheckable(True)
        self.planes = Field("planes at hand", 640, self._say_planes)
        self.planes.hide()
        set_tip(
            self.planes, "sole, iron from the toe, width, set, camber, in mm; one plane after the other with semicolons"
        )
        self.turn = button("Turn over", self.turn_over)
        self.reading = ReadingFields(session, self)
        self.reading.entered.connect(self._entered)
        self.next = button("Next", self.take_next, "main")
        self.add_button = button("Add", self.add)
        self.change_button = button("Change", self.change)
        self.remove_button = button("Remove", self.remove, "", "the chosen reading")
        self._seen: Round | None = None  # what the passes show
        self.edges = 0  # lines of the passes that are of edges
        self.entries, self.stages = WrappedList("readings", 84), WrappedList("passes", 84)
        self.entries.currentRowChanged.connect(lambda _: self._entry_chosen())
        self.stages.currentRowChanged.connect(lambda _: self._stage_chosen())
        self.done = button("Done to here", self.done_to_here)
        self.planner = RoundPlanner(self)
        self.planner.told.connect(self._show_round)
        session.closing.connect(self.planner.close)
        self.advice = Advice(None)
        self._knows: tuple[object, Knowledge | None] = (None, None)
        line = flow(
            self.next,
            *self.reading.widgets,
            self.add_button,
            self.change_button,
            spacing=5,
        )
        head = row(self.left, self.words, self.turn, spacing=14)
        head.setStretch(1, 1)
        beside = QWidget()
        column(beside, self.done, self.remove_button, 1, margins=0, spacing=6)
        lists = row(self.entries, self.stages, beside, spacing=8)
        lists.setStretch(0, 5)
        lists.setStretch(1, 6)
        whole = column(
            self,
            flow(*self.rows, self.planes_button, spacing=8),
            self.planes,
            head,
            self.canvas,
            line,
            lists,
            margins=12,
            spacing=6,
        )
        whole.setStretch(3, 1)
        self.reading.show_all()

    # ---- what is in hand

    def _targets(self) -> list[Trued]:
        plan = self.session.plan
        return [*plan.trueup.boards, *plan.trueup.parts]

    def current(self) -> Trued | None:
        """What is being trued: the one chosen, else the first with readings, else the first."""
        targets = self._targets()
        chosen = next((t for t in targets if t.id == self.target), None)
        return chosen or next((t for t in targets if t.readings), targets[0] if targets else None)

    def choose(self, target: str) -> None:
        """Take a board or part in hand."""
        self._let_go()
        self.target, self.side = target, "face"
        self.refresh()

    def turn_over(self) -> None:
        """Read the other side."""
        self._let_go()
        self.side = "back" if self.side == "face" else "face"
        self.refresh()

    def _let_go(self) -> None:
        """No reading is in hand: what is typed is a new one."""
        self.entries.setCurrentRow(-1)
        self.reading.clear()

    def light(self, tag: str) -> None:
        """Gauge lines run round the edges, not over the face."""

    def show_part(self, part: str) -> None:
        """Turn to a part."""
        if any(t.id == part for t in self._targets()):
            self._let_go()
            self.target = part

    # ---- readings

    def _placed(self, x: float, y: float, again: bool) -> None:
        t = self.current()
        if t is not None and 0 <= x <= t.length and 0 <= y <= t.width:
            self.entries.setCurrentRow(-1)
            self.reading.place(t, x, y, again)

    def _entry_chosen(self) -> None:
        t, n = self.current(), self._chosen()
        if t is not None and 0 <= n < len(t.readings):
            self.reading.fill(t.readings[n], t.length, t.readings[n].value)
        if t is not None:
            self._draw(t)

    def _stage_chosen(self) -> None:
        """A pass is looked at on the side that it planes."""
        t, found = self.current(), self.planner.round
        if t is None or self.stages.currentRow() < self.edges:
            return
        if found is not None and found.stages and found.side != self.side:
            self.side = found.side
            self.refresh()
        else:
            self._draw(t)

    def take_next(self) -> None:
        """Put the reading that would tell most into the fields; its value is all there is to type."""
        t, knows = self.current(), self._knows[1]
        if t is None or knows is None:
            return
        if self.asked is None:  # one asks for more
            self.advice = knows.advice(more=True)
        if self.asked is None:
            self.session.said.emit("Everything that is asked for was read.", False)
            return
        self.planner.make_ready()
        self.entries.setCurrentRow(-1)
        self.reading.fill(self.asked, t.length)
        self.reading.to_the_value()

    def _entered(self) -> None:
        """Return on what it reads: the chosen reading is said anew; with none chosen one is added and the next asked for."""
        if self._chosen() >= 0:
            self.change()
        elif self.add() and self.asked is not None:
            self.take_next()

    def add(self) -> bool:
        """Add the reading as typed to the board or part in hand; where it cannot be, say why. Whether it was."""
        t, s, value = self.current(), self.session, self.reading.value
        if t is None or value is None:
            why = "Type what it reads first." if t else "Add a board under Timber first; then it can be read."
            s.said.emit(why, True)
            return False
        kind, stood, where = self.reading.kind.currentText(), self.reading.stood.currentText(), self.reading.given
        self.target = t.id
        done = s.attempt(
            f"{t.name}: {kind} read",
            lambda: truing_edits.put_reading(s.project, t, kind, self.side, value, stood, **where),
        )
        if done:
            self.reading.clear()
        return done

    def change(self) -> None:
        """Say the chosen reading as the fields do now."""
        t, n, value = self.current(), self._chosen(), self.reading.value
        if t is None or n < 0 or value is None or t.readings[n].kind != self.reading.kind.currentText():
            self.session.said.emit("Choose a reading in the list first; its kind stays.", True)
            return
        stood, where = self.reading.stood.currentText(), self.reading.given
        self.session.attempt(
            f"{t.name}: {t.readings[n].kind} read again",
            lambda: truing_edits.say_reading(self.session.project, t, n, value, stood, **where),
        )

    def remove(self) -> None:
        """Remove the chosen reading."""
        t, at = self.current(), self._chosen()
        if t is None or at < 0:
            self.session.said.emit("Choose a reading in the list first.", True)
            return
        self.entries.setCurrentRow(-1)
        self.session.attempt("reading removed", lambda: truing_edits.drop_reading(self.session.project, t, at))

    def _chosen(self) -> int:
        """Which of the readings in hand is chosen in the list; -1 for none."""
        item = self.entries.currentItem()
        found = None if item is None else item.data(Qt.ItemDataRole.UserRole)
        return -1 if found is None else int(found)

    def next_entry(self) -> None:
        """On to the next reading in the list."""
        _on(self.entries)

    def next_stage(self) -> None:
        """On to the next pass in the list."""
        _on(self.stages)

    def _picked(self, tag: str) -> None:
        if tag.startswith("reading:"):
            n = int(tag.rpartition("/")[2])
            for at in range(self.entries.count()):
                if self.entries.item(at).data(Qt.ItemDataRole.UserRole) == n:
                    self.entries.setCurrentRow(at)

    # ---- passes

    def done_to_here(self) -> None:
        """The passes down to the chosen one are done: the board is what they are foreseen to leave, and asks to be read again."""
        t, found, at = self.current(), self.planner.round, self.stages.currentRow() - self.edges
        if found is None and self.planner.wanted is not None and not self.planner.failed:
            self.session.said.emit("Passes are still being worked out.", True)
            return
        if t is None or found is None or not found.stages:
            self.session.said.emit("There is nothing planned to be done.", True)
            return
        if at < 0:
            self.session.said.emit("Choose the last pass that is done in the list first.", True)
            return
        stages = found.stages[: at + 1]
        heights = found.after[at]
        words = "; ".join(f"{counted(s.what.times, 'time')} the {s.what.plane.name}" for s in stages)
        self.side = found.side
        self.session.attempt(
            f"{t.name}: {found.side} planed",
            lambda: truing_edits.done_planing(
                self.session.project, t, found.side, words, found.minutes(at + 1), heights, self.session.now()
            ),
        )

    def show_planes(self) -> None:
        """The planes at hand, to be said otherwise; or put away again."""
        shown = self.planes.isHidden()
        self.planes.setVisible(shown)
        self.planes_button.setChecked(shown)
        if shown:
            self.planes.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _say_planes(self, text: str) -> None:
        self.session.attempt("planes at hand", lambda: truing_edits.set_planes(self.session.project, text))

    def _show_round(self) -> None:
        found, t = self.planner.round, self.current()
        grows = self._seen is not None and not self._seen.whole
        row_was = self.stages.currentRow() if found is self._seen or grows else -1
        self._seen = found
        self.stages.clear()
        for work in t.edges if t else ():
            self.stages.put(pass_words.of_an_edge(work, self.session))
        self.edges = self.stages.count()
        if self.planner.wanted is None:
            self.stages.put("Once it is read the passes are planned here.")
        elif self.planner.failed:
            self.stages.put("The passes could not be planned; change anything to try it again.")
        elif found is None:
            self.stages.put("Planning the passes...")
        elif not found.stages and found.whole:
            self.stages.put("Flat and to thickness as far as it is read: nothing is to be planed.")
        elif t is not None:
            for n in range(len(found.stages)):
                self.stages.put(pass_words.of_a_pass(found, n, t, self.session))
        self.stages.setCurrentRow(min(row_was, self.stages.count() - 1))
        if t is not None:
            self.words.show_text(self._said(t))
            self._draw(t)

    # ---- what is seen

    def refresh(self) -> None:
        current = self.current()
        boards = [t for t in self._targets() if t.id == t.board]
        parts = [t for t in self._targets() if t.id != t.board]
        for group, targets in zip(self.rows, (boards, parts), strict=True):
            group.show_targets(targets, current.id if current else "", self.session.figure)
        self.planes.show_text(truing_edits.planes_said(self.session.project))
        self.reading.show_all()
        self._show_readings(current)
        if current is None:
            self.left.setText("")
            self.words.show_text(
                "No boards yet: add one under Timber, lay out the parts, then read it with sticks and straightedge here."
            )
            return
        self._advise(current)
        self.left.setText(f"{self.session.figure(current.planing.thickest)} left")
        self.planner.ask(wanted(current, self.session.project.kit.planes))
        self._show_round()

    def live(self) -> None:
        """A reading is pulled: what it comes to, of what is in hand alone."""
        t, plan = self.current(), self.session.plan
        if t is not None:
            t = read_anew(t, self.session.project, plan.surfaces, plan.breakdown)
            self.left.setText(f"{self.session.figure(t.planing.thickest)} left")
            self._draw(t)

    def _advise(self, t: Trued) -> None:
        """Which reading would tell most next, and how sure the side in hand is."""
        told = t.surface.told.get(self.side)
        key = (t.id, self.side, told)
        if key != self._knows[0]:
            knows = knowledge(t, self.side) if told is not None else None
            self._knows = (key, knows)
            self.advice = knows.advice() if knows is not None else Advice(None)
        self.next.setEnabled(told is not None)
        r, why = self.advice.reading, self.advice.why
        ahead = "Read again" if why == AGAIN else "Next"
        self.next.setText(f"{ahead}: {self._place(r)}" if r else f"{why[:1].upper()}{why[1:]}; one more")

    @property
    def asked(self) -> Taken | None:
        """The reading that is asked for."""
        return self.advice.reading

    def _place(self, r: ReadingLike) -> str:
        t = self.current()
        return READING_KINDS[r.kind].place(r, t.length if t is not None else r.to, self.session.figure)

    def _said(self, t: Trued) -> str:
        show, p = self.session.figures, t.planing
        if t.measured:
            return f"{t.name} measures {show(p.thickest)}: it is planed already."
        out = []
        count = counting(t, self.side)
        strays, again = ([i for i in those if t.readings[i] in count] for those in (t.surface.strays, t.surface.again))
        if strays:
            stray = t.readings[strays[0]]
            out.append(
                f"One of the readings {self._place(stray)} does not agree with the other there, and is not counted."
            )
        elif again:
            out.append(
                f"Read {self._place(t.readings[again[0]])} again: the others do not bear it out. It may be a hump."
            )
        if t.planed and not count:
            out.append(f"Planed {counted(len(t.planed), 'time')} so far: read it again.")
        other, found = BACK if self.side == FACE else FACE, self.planner.round
        if found and found.stages and found.side == other and not counting(t, other):
            out.append(f"The {other} is next: turn the board over and read it as it lies now, before it is planed.")
        out.append(f"{t.name}, {'face' if self.side == 'face' else 'back, seen through the board'}.")
        if p.wanted > 0:
            out.append(f"{show(p.wanted)} is wanted: " + ("enough." if p.enough else f"{show(-p.spare)} short."))
        made = self.session.plan.trueup
        if t.id == t.board and t.id not in made.planed_whole and any(p.board == t.id for p in made.parts):
            out.append("Its parts are sawn first and planed one by one.")
        out.append(f"About {t.minutes:.0f} min of planing.")
        if t.readings and not t.planed:
            first, why = first_side(t)
            out.append(f"Begin with the {first}: {why}.")
        board = next((b for b in self.session.project.boards if b.id == t.board), None)
        place = self.session.plan.breakdown.place(t.id)
        if board is not None:
            out += how(board, t, self.side, (place[1].x, place[1].y) if place else (0.0, 0.0))
        return self.session.told(" ".join(out))

    def _show_readings(self, t: Trued | None) -> None:
        row_was = self.entries.currentRow()
        self.entries.blockSignals(True)
        self.entries.clear()
        if t is not None and not any(r.side == self.side for r in t.readings):
            self.entries.put("Not read yet. Begin with Next: it asks for the reading that tells most.")
        if t is not None:
            self._list(t)
        self.entries.setCurrentRow(min(row_was, self.entries.count() - 1))
        self.entries.blockSignals(False)

    def _list(self, t: Trued) -> None:
        """The readings of the side in hand, a line each."""
        count = counting(t, self.side)
        for n, r in enumerate(t.readings):
            if r.side != self.side:
                continue
            apart = t.surface.apart[n]
            off = f"{self.session.fine(abs(apart))} off the others"
            stray = (
                f"   misread: {off}"
                if n in t.surface.strays
                else f"   read it again: {off}"
                if n in t.surface.again
                else ""
            )
            old = "   before planing" if r not in count else ""
            self.entries.put(f"{self._place(r)}: {self.session.fine(r.value)}{stray}{old}", n)

    def _draw(self, t: Trued) -> None:
        knows = self._knows[1]
        sure = None
        if knows is not None and (t.readings or t.id == t.board):
            told = knows.deviations(SURE)

            def sure(x: float, y: float) -> float:
                i, j = round(x / t.length * (SURE.rows - 1)), round(y / t.width * (SURE.columns - 1))
                return float(told[min(max(i, 0), SURE.rows - 1), min(max(j, 0), SURE.columns - 1)])

        self.canvas.show_drawing(picture.picture(t, self.side, sure, self.asked, self._chosen(), self._pass_in_hand()))

    def _pass_in_hand(self) -> Pass | None:
        """The pass that is chosen in the list, else the first; of the side in hand."""
        found = self.planner.round
        if found is None or not found.stages or found.side != self.side:
            return None
        at = max(self.stages.currentRow() - self.edges, 0)
        return found.stages[min(at, len(found.stages) - 1)].what


def _on(box: QListWidget) -> None:
    """On to the next line, from the last to the first."""
    box.setCurrentRow((box.currentRow() + 1) % max(box.count(), 1))
