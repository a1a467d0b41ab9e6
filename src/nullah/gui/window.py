"""The window: it composes the course, one station's view, the side and the strip, and owns the keys and file actions."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from nullah.core import edit
from nullah.core.document import Project
from nullah.core.plan import STATIONS
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble
from nullah.gui import theme as look
from nullah.gui.bench.view import BenchBookView
from nullah.gui.bench_view import BenchView
from nullah.gui.bits import button, label, row
from nullah.gui.breakdown.view import BreakdownView
from nullah.gui.course import Course
from nullah.gui.joints.view import JointsView
from nullah.gui.piece.view import PieceView
from nullah.gui.session import Session
from nullah.gui.side import Side
from nullah.gui.strip import Strip
from nullah.gui.theme import Theme
from nullah.gui.timber.view import TimberView
from nullah.gui.together.view import TogetherView
from nullah.gui.trueup.view import TrueupView

VIEWS = {
    "piece": PieceView,
    "timber": TimberView,
    "breakdown": BreakdownView,
    "trueup": TrueupView,
    "joints": JointsView,
    "together": TogetherView,
    "bench": BenchBookView,
}


class Window(QMainWindow):
    """One project. A station's view is made when it is first looked at, and redrawn only while it is seen."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.resize(1280, 800)
        self.course = Course(session, theme)
        self.side = Side(session, theme)
        self.strip = Strip(session)
        self.views: dict[str, QWidget] = {}
        self.stack = QStackedWidget()
        self.pages = QStackedWidget()
        self.bench = None
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.stack, 1)
        middle.addWidget(self.side)
        page = QWidget()
        whole = QVBoxLayout(page)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(self._file_row())
        whole.addWidget(self.course)
        whole.addLayout(middle, 1)
        whole.addWidget(self.strip)
        self.pages.addWidget(page)
        self.setCentralWidget(self.pages)
        self.course.chosen.connect(self.go)
        self.side.lit.connect(lambda tag: self.view().light(tag))
        self.strip.bench_wanted.connect(self.toggle_bench)
        session.changed.connect(self.refresh)
        self._keys()
        self.go(session.here)
        self.refresh()

    # ---- parts of the window

    def _file_row(self) -> QHBoxLayout:
        self.title = label("", "heading")
        self.undo_button = button("Undo", self.session.undo, tip="Ctrl+Z")
        self.redo_button = button("Redo", self.session.redo, tip="Ctrl+Shift+Z")
        self.unit_button = button("mm", self.turn_units, tip="mm or inches")
        made = row(
            self.title,
            1,
            button("New", self.new, tip="Ctrl+N"),
            button("Open", self.open, tip="Ctrl+O"),
            button("Save", self.save, tip="Ctrl+S"),
            button("Export", self.export, tip="Cut list and shop sheet, Ctrl+E"),
            self.undo_button,
            self.redo_button,
            self.unit_button,
            button("Light / dark", self.turn_theme),
        )
        made.setContentsMargins(14, 6, 14, 0)
        return made

    def _keys(self) -> None:
        for keys, act in (
            ("Ctrl+N", self.new),
            ("Ctrl+O", self.open),
            ("Ctrl+S", self.save),
            ("Ctrl+Shift+S", self.save_as),
            ("Ctrl+E", self.export),
            ("Ctrl+Z", self.session.undo),
            ("Ctrl+Shift+Z", self.session.redo),
            ("Ctrl+Y", self.session.redo),
        ):
            action = QAction(self)
            action.setShortcut(QKeySequence(keys))
            action.triggered.connect(lambda *_, a=act: a())
            self.addAction(action)
        for keys, act in (
            ("M", self.measure),
            ("F11", self.toggle_bench),
            ("X", self.mark),
            *((str(n), lambda n=n: self.side.take_number(n)) for n in range(1, 6)),
            *((f"Alt+{i + 1}", lambda s=s: self.go(s)) for i, s in enumerate(STATIONS)),
            ("PgDown", lambda: self.step(1)),
            ("PgUp", lambda: self.step(-1)),
        ):
            QShortcut(QKeySequence(keys), self, context=Qt.ShortcutContext.WindowShortcut).activated.connect(act)

    def view(self) -> QWidget:
        """The view of the station one looks at."""
        here = self.session.here
        if here not in self.views:
            self.views[here] = VIEWS[here](self.session, self.theme)
            self.stack.addWidget(self.views[here])
        return self.views[here]

    def go(self, station: str) -> None:
        """Look at a station."""
        self.session.look_at(station)
        view = self.view()
        self.stack.setCurrentWidget(view)
        view.refresh()

    def step(self, by: int) -> None:
        """The next station along the course, or the one before."""
        i = STATIONS.index(self.session.here) + by
        if 0 <= i < len(STATIONS):
            self.go(STATIONS[i])

    def refresh(self) -> None:
        s = self.session
        if self.pages.currentIndex() == 0:
            self.view().refresh()
        star = " \u2022 not saved" if s.unsaved else ""
        name = s.path.name if s.path else s.project.name
        self.title.setText(f"{name}{star}")
        self.setWindowTitle(f"{name}{' *' if s.unsaved else ''} \u2014 Nullah")
        self.undo_button.setEnabled(s.history.can_undo)
        self.redo_button.setEnabled(s.history.can_redo)
        self.unit_button.setText("mm" if s.project.units == "mm" else f"1/{s.project.denominator} inch")

    # ---- actions

    def measure(self) -> None:
        self.pages.setCurrentIndex(0)
        self.strip.ask()

    def mark(self) -> None:
        if self.session.here == "breakdown" and not isinstance(QApplication.focusWidget(), QLineEdit):
            self.view().mark_cut()

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
        look.apply(QApplication.instance(), self.theme)
        self.side.repaint_all()
        self.refresh()
        self.course.update()

    def toggle_bench(self) -> None:
        """Bench view and back."""
        if self.pages.currentIndex() == 1:
            self.pages.setCurrentIndex(0)
            self.showNormal() if self.isFullScreen() else None
            self.refresh()
            return
        if self.bench is None:
            self.bench = BenchView(self.session, self.theme)
            self.bench.left.connect(self.toggle_bench)
            self.pages.addWidget(self.bench)
        self.pages.setCurrentIndex(1)
        self.bench.begin()

    # ---- files

    def new(self) -> None:
        """A new project, on a small practice box. What is unsaved is kept as a recovery file first."""
        self._keep_unsaved()
        self.session.replace(Project(), None)
        self.go("piece")
        self.session.said.emit(
            "A new project: a small practice box. Change what it holds, and it becomes yours.", False
        )

    def _keep_unsaved(self) -> None:
        s = self.session
        folder = s.recovery_folder
        if not s.unsaved or folder is None:
            return
        try:
            folder.mkdir(parents=True, exist_ok=True)
            project_file.save(s.project, folder / f"left-{s.now()[:19].replace(':', '')}.nullah")
        except (FileTrouble, OSError) as trouble:
            s.said.emit(f"Unsaved work could not be kept: {trouble}", True)

    def open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a project", "", "Nullah projects (*.nullah)")
        if name:
            self._keep_unsaved()
            self.session.open(Path(name))
            self.go(self.session.here)

    def save(self) -> None:
        if self.session.path is None:
            self.save_as()
        else:
            self.session.save()

    def save_as(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Save the project", f"{self.session.project.name}.nullah", "Nullah projects (*.nullah)"
        )
        if name:
            path = Path(name)
            self.session.save(path if path.suffix else path.with_suffix(project_file.SUFFIX))

    def export(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "Where to put the cut list and the shop sheet")
        if folder:
            self.export_to(Path(folder))

    def export_to(self, folder: Path) -> None:
        """Write cut list and shop sheet into a folder."""
        from nullah.formats.export import export  # on first use: the PDF library alone would make every start slower

        try:
            written = export(self.session.plan, folder)
        except FileTrouble as trouble:
            self.session.said.emit(str(trouble), True)
            return
        self.session.said.emit(f"Written: {', '.join(p.name for p in written)}.", False)

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.session.unsaved:
            self.session.write_recovery()
        self.session.close()
        super().closeEvent(event)
