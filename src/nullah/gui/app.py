"""Starting the window, and making the pictures of it."""

from __future__ import annotations

import gc
import sys
from pathlib import Path

import platformdirs
from PySide6.QtCore import QEventLoop, QSize, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication, QLineEdit

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import board_edits, piece_edits
from nullah.core.planning.plan import STATIONS
from nullah.formats.trouble import FileTrouble
from nullah.gui import problems
from nullah.gui import theme as look
from nullah.gui.breakdown.view import BreakdownView
from nullah.gui.piece.view import PieceView
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.trueup.view import TrueupView
from nullah.gui.window import Window

STYLE = (
    "-style",
    "fusion",
)  # given to Qt as it starts: set later, a style with all its enumerations would be made for Python
SOON = 20  # ms after which the window has been painted
SETTLED = 250  # ms before a picture is taken: cards are laid out in several turns of the event loop
TURNS = 8  # at the most, until two pictures in a row are the same
PLANNED = 60  # times as long, at the most, until the passes are planned
SHORT_LOOK = 1.0  # seconds that the planner looks for the picture of it


def application() -> QApplication:
    """The one application, made on first need, with fonts loaded."""
    app = QApplication.instance() or QApplication([*sys.argv[:1], *STYLE])
    assert isinstance(app, QApplication)
    app.setApplicationName("Nullah")
    app.setDesktopFileName("nullah")
    app.setWindowIcon(QIcon(str(Path(__file__).parent / "icons" / "nullah.svg")))
    look.load_fonts()
    return app


def run(project: Project, path: Path | None = None, once: bool = False) -> int:
    """Open the window and stay until it is closed, or with ``once`` until it is drawn; the exit code."""
    app = application()
    theme = Theme()
    look.apply(app, theme)
    folder = Path(platformdirs.user_data_dir("nullah")) / "recovery"
    session = Session(project, path, folder)
    session.searches_on = True
    PieceView.drawn_once_painted = True
    window = Window(session, theme)
    problems.watch(session.said.emit)
    if path is not None or project == piece_edits.fresh():
        window.files.offer_kept()
    window.show()
    QTimer.singleShot(0, lambda: _shown(window, once))
    return app.exec()


def _shown(window: Window, once: bool) -> None:
    """The window stands: what was made so far is kept out of the garbage collector's way from now on."""
    gc.freeze()
    gc.enable()
    PieceView.drawn_once_painted = False
    if once:
        window.grab()
        window.close()
    else:
        QTimer.singleShot(SOON, window.refresh)  # with the drawing of the piece, which takes its time


def settle(milliseconds: int = 60) -> None:
    """Let the event loop run for a while."""
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def shots(folder: Path) -> list[Path]:
    """Each main view of the demo as PNG at 1280x800 in ``folder``; the files written.

    Raises:
        FileTrouble: the folder may not be written.
    """
    app = application()
    theme = Theme()
    look.apply(app, theme)
    session = Session(demo.project())
    window = Window(session, theme)
    window.setFixedSize(QSize(1280, 800))
    window.show()
    written = []
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FileTrouble(f"Could not make {folder.name}: {(error.strerror or '').lower()}.") from None

    def shot(name: str) -> None:
        path, last = folder / f"{name}.png", None
        for _ in range(TURNS):
            settle(SETTLED)
            seen = window.grab()
            if seen.toImage() == last:
                break
            last = seen.toImage()
        if not seen.save(str(path)):
            raise FileTrouble(f"Could not write {path.name}: the folder may not be written.")
        written.append(path)

    for i, station in enumerate(STATIONS, 1):
        window.go(station)
        if station == "timber":
            window.at("timber").choose("board 3")  # the one that dries under readings
        if station == "trueup":
            view = window.at("trueup")
            assert isinstance(view, TrueupView)
            for _ in range(PLANNED):
                if view.planner.round is not None and view.planner.round.whole:
                    break
                settle(SETTLED)
            view.stages.setCurrentRow(0)
        if station == "bench":
            session.do(demo.after_some_work(session.project), "some work done")
        shot(f"{i}-{station}")
    window.toggle_bench()
    shot("8-bench-view")
    window.toggle_bench()
    window.go("joints")
    shot("9-what-changed")
    window.open_overlay("doing")
    shot("10-everything-one-can-do")
    window.open_overlay("reckoning")
    _a_reckoning(window)
    shot("11-reckon")
    window.overlay.close_overlay()
    window.go("piece")
    window.pull_apart(60)
    shot("12-apart")
    window.turn_theme()
    shot("13-dark")
    window.turn_theme()
    window.turn_units()
    window.go("joints")
    shot("14-inches")
    window.turn_units()
    window.turn_units()
    window.turn_units()
    boards = window.at("breakdown")
    assert isinstance(boards, BreakdownView)
    boards.step_by(6)
    shot("15-cut-by-cut")
    boards.step_by(-6)
    _wood_short(session)
    shot("16-wood-short")
    session.do(piece_edits.take_in_hand(session.project, "2"), "the table in hand")
    window.news.close_quietly()
    window.piece_view().stand_up(False)
    shot("17-table")
    window.open_overlay("kinds")
    window.overlay.kinds.draw_all()
    shot("18-what-to-make")
    window.overlay.close_overlay()
    window.turn_table()
    shot("19-table-of-parts")
    window.close()
    window.deleteLater()
    settle(10)
    return written


def _a_reckoning(window: Window) -> None:
    """The corner of the demo's box, reckoned by itself."""
    panel = window.overlay.reckoning
    panel.choose("dovetail")
    for name, text in (("width", "134"), ("tails", "5"), ("pin", "6"), ("half_pin", "9"), ("mating", "18")):
        field = panel.fields[name]
        assert isinstance(field, QLineEdit)
        field.setText(text)


def _wood_short(session: Session) -> None:
    """The demo with its boards of larch kept whole, and the planner done with looking for places for what was to come out of them."""
    for larch in [b for b in session.project.boards if b.species == "western larch"]:
        session.do(board_edits.keep_whole(session.project, larch.id), f"{larch.name} is kept whole")
    session.look_longer(SHORT_LOOK)
    while session.looking:
        settle()
