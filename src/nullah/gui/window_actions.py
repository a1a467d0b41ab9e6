"""Everything one can do in the window, once: its keys, its buttons and the list in the overlay come from here."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, TypeVar, cast

from PySide6.QtWidgets import QApplication, QLineEdit

from nullah.core.planning.plan import STATIONS, TITLES
from nullah.gui.actions import Actions

if TYPE_CHECKING:
    from nullah.gui.breakdown.view import BreakdownView
    from nullah.gui.timber.view import TimberView
    from nullah.gui.trueup.view import TrueupView
    from nullah.gui.window import Window

View = TypeVar("View")


def all_actions(window: Window) -> Actions:
    """The actions of a window, each with its group, its words and its keys."""
    a = Actions()
    _finding_and_calls(window, a)
    _of_the_bench(window, a)
    _of_the_piece(window, a)
    _of_timber(window, a)
    _of_breakdown(window, a)
    _of_trueup(window, a)
    _of_files(window, a)
    return a


def _finding_and_calls(window: Window, a: Actions) -> None:
    a.add("Find", "actions", "find what to do", lambda: window.open_overlay("doing"), "F2")
    a.add("Find", "words", "explain the words on this screen", lambda: window.open_overlay("words"), "F1")
    a.add("Find", "reckon", "reckon something", lambda: window.open_overlay("reckoning"), "F4")
    for i, station in enumerate(STATIONS, 1):
        a.add("Go to", f"go {station}", TITLES[station], partial(window.go, station), f"Alt+{i}")
    a.add("Go to", "next station", "the next station", lambda: window.step(1), "PgDown")
    a.add("Go to", "last station", "the station before", lambda: window.step(-1), "PgUp")
    a.add("Go to", "follow", "the part in mind, at the next station that has it", window.follow, "G")
    a.add("Go to", "next area", "the next area of the window", lambda: window.turn_area(1), "F6")
    a.add("Call", "next call", "turn to the next call", lambda: window.side.turn(1), "C")
    for n in range(1, 10):
        words = f"take option {n} of the call laid out"
        a.add("Call", f"take {n}", words, partial(window.side.take_number, n), str(n))
    a.add("Call", "all settings", "all settings of the station, or the first of them", window.side.turn_all, "A")
    a.add("Call", "take back", "take the latest call back", window.take_back_latest, "B")


def _of_the_bench(window: Window, a: Actions) -> None:
    a.add("Bench", "measure", "say what the wood measures", window.measure, "M")
    a.add("Bench", "timer", "start or stop timing the step in hand", window.time_step, "T")
    a.add("Bench", "done", "the step in hand is done", window.step_is_done, "Ctrl+Return")
    a.add("Bench", "bench view", "bench view, and back", window.toggle_bench, "F11")


def _of_the_piece(window: Window, a: Actions) -> None:
    a.add("Piece", "standing", "the piece standing, or in three views", window.turn_standing, "V")
    a.add("Piece", "table", "the table of parts, or the drawing", window.turn_table, "Y")
    a.add("Piece", "guide", "a picture to go by, or the drawing", window.turn_guide, "J")
    for name, words, right, up in (
        ("turn left", "turn the standing piece to the left", -15.0, 0.0),
        ("turn right", "turn the standing piece to the right", 15.0, 0.0),
        ("turn up", "look at the standing piece from further up", 0.0, 15.0),
        ("turn down", "look at the standing piece from further down", 0.0, -15.0),
    ):
        a.add("Piece", name, words, partial(window.turn_piece, right, up))
    a.add("Piece", "apart", "draw the parts further apart", lambda: window.pull_apart(20), "]")
    a.add("Piece", "together", "draw the parts nearer together", lambda: window.pull_apart(-20), "[")
    a.add("Piece", "join", "join the part in mind to another", window.join, "H")
    a.add("Piece", "copy piece", "the piece in hand once more", window.files.copy_piece)
    a.add("Piece", "take over", "a piece from another project", window.files.take_over)


def _in(window: Window, station: str, act: Callable[[View], object]) -> Callable[[], object]:
    """Something that the view of a station does: one goes there first."""
    return lambda: act(cast("View", window.at(station)))  # which ``gui.views`` makes of that class


def _of_timber(window: Window, a: Actions) -> None:
    def do(act: Callable[[TimberView], object]) -> Callable[[], object]:
        return _in(window, "timber", act)

    def draw(pen: str) -> None:
        """Keys draw from now on, whatever field was typed in before."""
        view = cast("TimberView", window.at("timber"))
        window.guard.release()
        view.draw(pen)

    a.add("Timber", "add board", "add a board", do(lambda v: v.add_board()))
    a.add("Timber", "copy board", "one more board like the one in hand", do(lambda v: v.copy_board()))
    a.add("Timber", "drop board", "take the chosen board away", do(lambda v: v.drop_board()))
    a.add("Timber", "add fault", "add the fault as typed", do(lambda v: v.add_fault()))
    a.add("Timber", "drop fault", "remove the chosen fault", do(lambda v: v.drop_fault()))
    a.add("Timber", "turn over", "turn the board over", do(lambda v: v.turn_over()), "Alt+V")
    words = "a photograph of this side of the board, or its drawing"
    a.add("Timber", "photograph", words, do(lambda v: v.turn_photo()), "Alt+P")
    a.add("Timber", "say", "say what you see on the board, in a line", do(lambda v: v.begin_saying()), "Alt+Y")
    for pen, key in (
        ("sound knot", "K"),
        ("loose knot", "L"),
        ("check", "C"),
        ("sapwood", "W"),
        ("edge", "E"),
        ("thickness", "T"),
    ):
        a.add("Timber", f"draw {pen}", f"draw on the board: {pen}", partial(draw, pen), f"Alt+{key}")


def _of_breakdown(window: Window, a: Actions) -> None:
    def do(act: Callable[[BreakdownView], object]) -> Callable[[], object]:
        return _in(window, "breakdown", act)

    def mark() -> None:
        if not isinstance(QApplication.focusWidget(), QLineEdit):
            do(lambda v: v.mark_cut())()

    a.add("Break-down", "mark cut", "mark the chosen part as cut", mark, "X")
    a.add("Break-down", "pin", "pin the chosen part where it lies, or loosen it", do(lambda v: v.pin()), "P")
    words = "keep the chosen board whole, or let it be sawn"
    a.add("Break-down", "keep whole", words, do(lambda v: v.keep_whole()), "W")
    a.add("Break-down", "sawn", "the chosen board is sawn", do(lambda v: v.sawn()), "S")
    words = "let the planner look for better, or stop it"
    a.add("Break-down", "look for better", words, do(lambda v: v.look_for_better()), "K")
    a.add("Break-down", "other face", "the other face of the boards", do(lambda v: v.turn_over()), "O")
    a.add("Break-down", "cut after", "draw one more cut made", do(lambda v: v.step_by(1)), "E")
    a.add("Break-down", "cut before", "draw one cut fewer made", do(lambda v: v.step_by(-1)), "Q")


def _of_trueup(window: Window, a: Actions) -> None:
    def do(act: Callable[[TrueupView], object]) -> Callable[[], object]:
        return _in(window, "trueup", act)

    a.add("True-up", "next reading", "take the reading that would tell most", do(lambda v: v.take_next()), "Alt+N")
    a.add("True-up", "add reading", "add the reading as typed", do(lambda v: v.add()))
    a.add("True-up", "change reading", "say the chosen reading as typed", do(lambda v: v.change()))
    a.add("True-up", "drop reading", "remove the chosen reading", do(lambda v: v.remove()), "Alt+R")
    a.add("True-up", "other side", "turn over what is being trued", do(lambda v: v.turn_over()), "Alt+B")
    a.add("True-up", "choose pass", "on to the next pass in the list", do(lambda v: v.next_stage()), "Alt+J")
    a.add("True-up", "choose reading", "on to the next reading in the list", do(lambda v: v.next_entry()), "Alt+G")
    a.add("True-up", "planes", "the planes at hand, and how they are set", do(lambda v: v.show_planes()))
    words = "the passes down to the chosen one are done"
    a.add("True-up", "passes done", words, do(lambda v: v.done_to_here()), "Alt+D")


def _of_files(window: Window, a: Actions) -> None:
    s, f = window.session, window.files
    a.add("File", "new", "what to make: a new project, or a piece more", lambda: window.open_overlay("kinds"), "Ctrl+N")
    a.add("File", "open", "open a project", f.open, "Ctrl+O")
    a.add("File", "save", "save", f.save, "Ctrl+S")
    a.add("File", "save as", "save under another name", f.save_as, "Ctrl+Shift+S")
    a.add("File", "export", "cut list, shop sheet, full-size templates and pictures", f.export, "Ctrl+E")
    a.add("Edit", "undo", "undo", s.undo, "Ctrl+Z")
    a.add("Edit", "redo", "do again", s.redo, "Ctrl+Shift+Z", "Ctrl+Y")
    a.add("Show", "units", "mm, or inches in 16ths, 32nds, 64ths", window.turn_units, "U")
    a.add("Show", "theme", "light or dark", window.turn_theme, "L")
    a.add("Show", "seen", "put away what changed", window.news.close_quietly, "N")
