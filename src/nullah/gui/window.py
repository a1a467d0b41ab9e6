"""The window: it composes the course, one station's view, the side and the strip, and knows everything one can do."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QSize, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from nullah.core.edits import edit
from nullah.core.edits.step_edits import NotMet
from nullah.core.planning.plan import STATIONS
from nullah.formats.trouble import spoken
from nullah.gui import doubt, news, tab_order, views
from nullah.gui import theme as look
from nullah.gui.course import Course
from nullah.gui.files import Files
from nullah.gui.flow import flow
from nullah.gui.notice import Notice
from nullah.gui.piece.view import PieceView
from nullah.gui.places import places
from nullah.gui.session import NO_LONGER_OPEN, Session
from nullah.gui.side import Side
from nullah.gui.station_view import StationView
from nullah.gui.strip import Strip
from nullah.gui.theme import Theme
from nullah.gui.tips import set_tip
from nullah.gui.typing_guard import TypingGuard
from nullah.gui.widgets import Field, button, label, row, whole_application
from nullah.gui.window_actions import all_actions

if TYPE_CHECKING:
    from nullah.gui.bench_view import BenchView
    from nullah.gui.overlay import Overlay

SMALLEST = QSize(1024, 680)


class Window(QMainWindow):
    """One project. A station's view is made when it is first looked at, and redrawn only while it is seen."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.resize(1280, 800)
        self.notice, self.news = Notice("notice"), Notice("news")
        self.files = Files(session, self, self.notice)
        self.course = Course(session, theme)
        self.side = Side(session, theme)
        self.strip = Strip(session)
        self.views: dict[str, StationView] = {}
        self.stack = QStackedWidget()
        self.pages = QStackedWidget()
        self.bench: BenchView | None = None
        self._overlay: Overlay | None = None
        self.commands = all_actions(self)
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.stack, 1)
        middle.addWidget(self.side)
        page = QWidget()
        whole = QVBoxLayout(page)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        self.files_row = QWidget()
        self.files_row.setLayout(self._file_row())
        whole.addWidget(self.files_row)
        whole.addWidget(self.course)
        whole.addWidget(self.notice)
        whole.addWidget(self.news)
        whole.addLayout(middle, 1)
        whole.addWidget(self.strip)
        self.pages.addWidget(page)
        self.setCentralWidget(self.pages)
        self.course.chosen.connect(self.go)
        self.side.lit.connect(lambda tag: self.view().light(tag))
        self.strip.bench_wanted.connect(self.toggle_bench)
        session.changed.connect(self.refresh)
        session.previewed.connect(self._live)
        session.doubted.connect(self._doubt)
        self.side.eyed.connect(self._look_at)
        self.commands.give_keys(self)
        self.guard = TypingGuard(self, lambda words: session.said.emit(words, False), session.undo, session.redo)
        self.stack.setCurrentWidget(self.view())
        self.refresh()
        self.setMinimumSize(SMALLEST)
        (self.view().first or self.view()).setFocus()  # the drawing is where one begins

    # ---- parts of the window

    def _file_row(self) -> QHBoxLayout:
        self.title = Field("project name", 150, self._rename, grows=True)
        set_tip(self.title, "what the project is called; saved under another name it follows its file")
        self.state = label("", "quiet")
        a = self.commands

        def made(action: str, words: str) -> QPushButton:
            one = a[action]
            return button(words, one.act, tip=f"{one.words}  {one.key}".strip())

        self.undo_button, self.redo_button = made("undo", "Undo"), made("redo", "Redo")
        self.unit_button = made("units", "mm")
        buttons = flow(
            made("new", "New"),
            made("open", "Open"),
            made("save", "Save"),
            made("export", "Export"),
            self.undo_button,
            self.redo_button,
            self.unit_button,
            made("theme", "Theme"),
            made("reckon", "Reckon"),
            made("words", "Words  F1"),
            made("actions", "Keys  F2"),
            spacing=5,
            right=True,
        )
        line = row(self.title, self.state, buttons)
        line.setStretch(2, 1)
        line.setContentsMargins(14, 6, 14, 0)
        return line

    def _rename(self, text: str) -> bool:
        s, name = self.session, text.strip()
        return s.attempt(f"called {name}", lambda: edit.changed(s.project, name=name))

    @property
    def overlay(self) -> Overlay:
        """The overlay, made when first opened."""
        if self._overlay is None:
            from nullah.gui.join_panel import JoinPanel
            from nullah.gui.kinds_panel import of_window
            from nullah.gui.overlay import Overlay

            kinds = of_window(self, lambda: self.overlay.close_overlay())
            self._overlay = Overlay(
                self.pages,
                self.session,
                self.commands,
                lambda: places(self),
                kinds,
                JoinPanel(self.session, self.theme),
            )
        return self._overlay

    def show_board(self, board_id: str) -> None:
        """Turn to a board under Timber."""
        self.go("timber")
        self.view().choose(board_id)

    def show_part(self, part_id: str) -> None:
        """Turn to a part of the piece, and have it in mind."""
        self.session.light_part(part_id)
        self._see_part("piece")

    def show_call(self, call_id: str) -> None:
        """Lay a call out, at its station; one that is no longer open is told."""
        call = self.session.plan.call(call_id)
        if call is None or not call.open:
            self.session.said.emit(NO_LONGER_OPEN, True)
            return
        self.go(call.station)
        self.side.lay_out(call_id)

    def show_step(self, step_id: str) -> None:
        """Turn to a step in the bench book."""
        self.go("bench")
        self.view().choose(step_id)

    def open_overlay(self, page: str) -> None:
        """Slide a page over the right of the window, by its name in the overlay; shown already, it goes."""
        titles = {
            "doing": "Everything one can do",
            "words": "Words on this screen",
            "reckoning": "Reckon",
            "kinds": "What to make",
            "join": "Join two parts",
        }
        self.overlay.open_named(page, titles[page])

    def join(self, first: str = "", second: str = "") -> None:
        """Offer what joins two parts: the one in mind and the first that it meets, where none is named."""
        self.overlay.join.choose(first or self.session.lit_part, second)
        self.open_overlay("join")

    def view(self) -> StationView:
        """The view of the station one looks at."""
        here = self.session.here
        if here not in self.views:
            self.views[here] = made = views.made(here, self.session, self.theme)
            self.stack.addWidget(made)
            made.wanted.connect(self._see_part)
            made.joining.connect(self.join)
        return self.views[here]

    def go(self, station: str) -> None:
        """Look at a station."""
        if self.pages.currentIndex() != 0:
            self.toggle_bench()
        self.session.look_at(station)
        view = self.view()
        self.stack.setCurrentWidget(view)
        view.refresh()
        news.tell(self.news, self.session)

    def step(self, by: int) -> None:
        """The next station along the course, or the one before."""
        i = STATIONS.index(self.session.here) + by
        if 0 <= i < len(STATIONS):
            self.go(STATIONS[i])

    def at(self, station: str) -> StationView:
        """The view of a station, turned to."""
        if self.session.here != station:
            self.go(station)
        return self.view()

    def _see_part(self, station: str) -> None:
        self.go(station)
        view = self.view()
        view.show_part(self.session.lit_part)
        view.refresh()

    def follow(self) -> None:
        """On to the next station where the part in mind is drawn."""
        order = ("piece", "breakdown", "trueup", "joints")
        if not self.session.lit_part:
            self.session.said.emit("Pick a part in a drawing first; then G follows it from station to station.", True)
            return
        here = self.session.here
        self._see_part(order[(order.index(here) + 1) % len(order)] if here in order else order[0])

    def turn_area(self, by: int) -> None:
        """Give the keyboard to the next area: the course, the drawing, the calls, the strip."""
        drawing = self.view().first or self.view()
        first_call = next((w for w in self.side.calls_area.findChildren(QWidget) if w.focusPolicy()), self.side)
        areas = [self.course, drawing, first_call, self.strip.measure_button]
        now = QApplication.focusWidget()
        at = next((i for i, one in enumerate(areas) if one is now), -1)
        areas[(at + by) % len(areas)].setFocus()

    def refresh(self) -> None:
        """Show the project as it is: the view in hand, the title and what can be undone."""
        s = self.session
        if self.pages.currentIndex() == 0:
            self.view().refresh()
        name = s.project.name
        self.title.show_text(name)
        self.title.setCursorPosition(0)
        file = spoken(s.path) if s.path else "no file yet"
        self.state.setText(f"{file}{', not saved' if s.unsaved else ''}")
        set_tip(self.state, str(s.path or ""))
        self.setWindowTitle(f"{name}{' *' if s.unsaved else ''} \u2014 Nullah")
        self.undo_button.setEnabled(s.history.can_undo)
        self.redo_button.setEnabled(s.history.can_redo)
        self.unit_button.setText("mm" if s.project.units == "mm" else f'1/{s.project.denominator}"')

    def _live(self) -> None:
        """While something is dragged: what is seen of it."""
        self.view().live()

    def _look_at(self, call_id: str, option: str) -> None:
        """Show what an option would come to, before it is taken, where the view can; with no option, what is."""
        call = self.session.plan.call(call_id)
        if call is not None:
            self.view().look_at(call.option(option) if option else None)

    # ---- actions

    def measure(self) -> None:
        if self.pages.currentIndex() == 1 and self.bench is not None:
            self.bench.ask()
        else:
            self.strip.ask()

    def time_step(self) -> None:
        """Start or stop timing: the step shown in bench view, else the step in hand."""
        if self.pages.currentIndex() == 1 and self.bench is not None:
            self.bench.time()
        else:
            self.strip.start()

    def step_is_done(self) -> None:
        if self.pages.currentIndex() == 1 and self.bench is not None:
            self.bench.done()
        else:
            self.strip.done()

    def take_back_latest(self) -> None:
        """The call taken last is open again."""
        choices = self.session.project.choices
        if choices:
            self.session.take_back(choices[-1].call)
        else:
            self.session.said.emit("No call has been taken yet.", True)

    def turn_standing(self) -> None:
        view = self.piece_view()
        view.stand_up(not view.upright.isChecked())

    def turn_table(self) -> None:
        """The table of parts, or the drawing again."""
        view = self.piece_view()
        view.stand_up(False) if view.listed.isChecked() else view.show_table()

    def turn_guide(self) -> None:
        """The picture to go by, or the drawing again."""
        view = self.piece_view()
        view.stand_up(False) if view.guided.isChecked() else view.show_guide()

    def turn_piece(self, right: float, up: float) -> None:
        """Turn the standing piece by so many degrees; one that does not stand yet stands up turned, drawn once."""
        view = self.piece_view()
        if view.upright.isChecked():
            view.looking.turn(right, up)
        else:
            view.looking.sight = view.looking.sight.turned(right, up)
            view.stand_up(True)

    def pull_apart(self, by: int) -> None:
        """Draw the parts further apart or nearer together, standing."""
        view = self._standing()
        view.apart.setValue(view.apart.value() + by)

    def _standing(self) -> PieceView:
        view = self.piece_view()
        if not view.upright.isChecked():
            view.stand_up(True)
        return view

    def piece_view(self) -> PieceView:
        """The view of the piece, turned to."""
        view = self.at("piece")
        assert isinstance(view, PieceView)
        return view

    def turn_units(self) -> None:
        """mm, then sixteenths, thirty-seconds and sixty-fourths of an inch, then mm again."""
        p = self.session.project
        order = [("mm", 32), ("in", 16), ("in", 32), ("in", 64)]
        at = order.index(("mm", 32)) if p.units == "mm" else order.index(("in", p.denominator))
        units, denominator = order[(at + 1) % len(order)]
        self.session.do(edit.changed(p, units=units, denominator=denominator), f"shown in {units}")

    def turn_theme(self) -> None:
        """Light or dark."""
        self.theme.turn(not self.theme.dark)
        with self.guard.looking_away():
            look.apply(whole_application(), self.theme)
        self.side.repaint_all()
        self.refresh()
        self.course.update()
        if self.bench is not None:
            self.bench.dress()

    def _doubt(self, unmet: NotMet) -> None:
        """A step that is said to be done needs what is not so: asked where one is."""
        if self.pages.currentIndex() == 1 and self.bench is not None:
            self.bench.doubt(unmet)
        else:
            doubt.ask(unmet, self.notice, self.session, self.go)

    def toggle_bench(self) -> None:
        """Bench view and back."""
        if self.pages.currentIndex() == 1:
            self.pages.setCurrentIndex(0)
            self.showNormal() if self.isFullScreen() else None
            self.refresh()
            return
        if self.bench is None:
            from nullah.gui.bench_view import BenchView

            self.bench = BenchView(self.session, self.theme, self.guard.release)
            self.bench.left.connect(self.toggle_bench)
            self.pages.addWidget(self.bench)
        self.pages.setCurrentIndex(1)
        self.bench.begin()

    # ---- the keyboard's way through the window

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes in the order of the work: the station in hand, its settings and calls, the step in hand, the course, the files."""
        if self.pages.currentIndex() != 0 or self._over():
            return super().focusNextPrevChild(forward)
        order = self.tab_order()
        now = QApplication.focusWidget()
        if not order:
            return False
        step = 1 if forward else -1
        if now in order:
            wanted = order[(order.index(now) + step) % len(order)]
        else:  # what had the keyboard is gone: no other field takes what is typed on
            wanted = (self.view().first if now is not None else None) or order[0 if forward else -1]
        tab_order.show(wanted)
        wanted.setFocus(Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason)
        return True

    def _over(self) -> bool:
        return self._overlay is not None and self._overlay.isVisible()

    def tab_order(self) -> list[QWidget]:
        """What the keyboard can go to, in the order of the work."""
        areas = (self.notice, self.news, self.stack.currentWidget(), self.side, self.strip, self.course, self.files_row)
        return tab_order.order(self, areas)

    # ---- the window itself

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self._overlay is not None and self._overlay.isVisible():
            self._overlay.place()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self.guard.watching:  # the first paint
            QTimer.singleShot(0, self.guard, self.guard.begin)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            QTimer.singleShot(0, self.files.look_outside)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_close():
            event.ignore()
            return
        self.session.close()
        super().closeEvent(event)
