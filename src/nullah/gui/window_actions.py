"""Everything one can do in the window, once: its keys, its buttons and the list in the overlay come from here."""

from __future__ import annotations

from typing import TYPE_CHECKING

from nullah.core.planning.plan import STATIONS, TITLES
from nullah.gui.actions import Actions

if TYPE_CHECKING:
    from nullah.gui.window import Window


def all_actions(window: Window) -> Actions:
    """The actions of a window, each with its group, its words and its keys."""
    s, a, f = window.session, Actions(), window.files
    a.add("Find", "actions", "find what to do", lambda: window.open_overlay("doing"), "F2")
    a.add("Find", "words", "explain the words on this screen", lambda: window.open_overlay("words"), "F1")
    a.add("Find", "reckon", "reckon something", lambda: window.open_overlay("reckoning"), "F4")
    for i, station in enumerate(STATIONS, 1):
        a.add("Go to", f"go {station}", TITLES[station], lambda st=station: window.go(st), f"Alt+{i}")
    a.add("Go to", "next station", "the next station", lambda: window.step(1), "PgDown")
    a.add("Go to", "last station", "the station before", lambda: window.step(-1), "PgUp")
    a.add("Go to", "follow", "the part in mind, at the next station that has it", window.follow, "G")
    a.add("Go to", "next area", "the next area of the window", lambda: window.turn_area(1), "F6")
    a.add("Call", "next call", "turn to the next call", lambda: window.side.turn(1), "C")
    for n in range(1, 10):
        words = f"take option {n} of the call laid out"
        a.add("Call", f"take {n}", words, lambda i=n: window.side.take_number(i), str(n))
    a.add("Call", "all settings", "all settings of the station, or the first of them", window.side.turn_all, "A")
    a.add("Call", "take back", "take the latest call back", window.take_back_latest, "B")
    a.add("Bench", "measure", "say what the wood measures", window.measure, "M")
    a.add("Bench", "timer", "start or stop timing the step in hand", window.time_step, "T")
    a.add("Bench", "done", "the step in hand is done", window.step_is_done, "Ctrl+Return")
    a.add("Bench", "bench view", "bench view, and back", window.toggle_bench, "F11")
    a.add("Break-down", "mark cut", "mark the chosen part as cut", window.mark, "X")
    for name, words, method, key in (
        ("pin", "pin the chosen part where it lies, or loosen it", "pin", "P"),
        ("keep whole", "keep the chosen board whole, or let it be sawn", "keep_whole", "W"),
        ("sawn", "the chosen board is sawn", "sawn", "S"),
        ("look for better", "let the planner look for better, or stop it", "look_for_better", "K"),
        ("other face", "the other face of the boards", "turn_over", "O"),
    ):
        a.add("Break-down", name, words, lambda m=method: window.at("breakdown", m), key)
    a.add("Break-down", "cut after", "draw one more cut made", lambda: window.step_cut(1), "E")
    a.add("Break-down", "cut before", "draw one cut fewer made", lambda: window.step_cut(-1), "Q")
    a.add("Piece", "standing", "the piece standing, or in three views", window.turn_standing, "V")
    a.add("Piece", "table", "the table of parts, or the drawing", window.turn_table, "Y")
    a.add("Piece", "guide", "a picture to go by, or the drawing", window.turn_guide, "J")
    for name, words, right, up in (
        ("turn left", "turn the standing piece to the left", -15.0, 0.0),
        ("turn right", "turn the standing piece to the right", 15.0, 0.0),
        ("turn up", "look at the standing piece from further up", 0.0, 15.0),
        ("turn down", "look at the standing piece from further down", 0.0, -15.0),
    ):
        a.add("Piece", name, words, lambda r=right, u=up: window.turn_piece(r, u))
    a.add("Piece", "apart", "draw the parts further apart", lambda: window.pull_apart(20), "]")
    a.add("Piece", "together", "draw the parts nearer together", lambda: window.pull_apart(-20), "[")
    for name, words, method, keys in (
        ("add board", "add a board", "add_board", ()),
        ("copy board", "one more board like the one in hand", "copy_board", ()),
        ("drop board", "take the chosen board away", "drop_board", ()),
        ("add fault", "add the fault as typed", "add_fault", ()),
        ("drop fault", "remove the chosen fault", "drop_fault", ()),
        ("turn over", "turn the board over", "turn_over", ("Alt+V",)),
        ("photograph", "a photograph of this side of the board, or its drawing", "turn_photo", ("Alt+P",)),
        ("say", "say what you see on the board, in a line", "begin_saying", ("Alt+Y",)),
    ):
        a.add("Timber", name, words, lambda m=method: window.at("timber", m), *keys)
    for pen, key in (
        ("sound knot", "K"),
        ("loose knot", "L"),
        ("check", "C"),
        ("sapwood", "W"),
        ("edge", "E"),
        ("thickness", "T"),
    ):
        a.add("Timber", f"draw {pen}", f"draw on the board: {pen}", lambda p=pen: _draw(window, p), f"Alt+{key}")
    for name, words, method, keys in (
        ("next reading", "take the reading that would tell most", "take_next", ("Alt+N",)),
        ("add reading", "add the reading as typed", "add", ()),
        ("change reading", "say the chosen reading as typed", "change", ()),
        ("drop reading", "remove the chosen reading", "remove", ("Alt+R",)),
        ("other side", "turn over what is being trued", "turn_over", ("Alt+B",)),
        ("choose pass", "on to the next pass in the list", "next_stage", ("Alt+J",)),
        ("choose reading", "on to the next reading in the list", "next_entry", ("Alt+G",)),
        ("planes", "the planes at hand, and how they are set", "show_planes", ()),
        ("passes done", "the passes down to the chosen one are done", "done_to_here", ("Alt+D",)),
    ):
        a.add("True-up", name, words, lambda m=method: window.at("trueup", m), *keys)
    a.add("File", "new", "what to make: a new project, or a piece more", lambda: window.open_overlay("kinds"), "Ctrl+N")
    a.add("Piece", "join", "join the part in mind to another", window.join, "H")
    a.add("Piece", "copy piece", "the piece in hand once more", f.copy_piece)
    a.add("Piece", "take over", "a piece from another project", f.take_over)
    a.add("File", "open", "open a project", f.open, "Ctrl+O")
    a.add("File", "save", "save", f.save, "Ctrl+S")
    a.add("File", "save as", "save under another name", f.save_as, "Ctrl+Shift+S")
    a.add("File", "export", "cut list, shop sheet, full-size templates and pictures", f.export, "Ctrl+E")
    a.add("Edit", "undo", "undo", s.undo, "Ctrl+Z")
    a.add("Edit", "redo", "do again", s.redo, "Ctrl+Shift+Z", "Ctrl+Y")
    a.add("Show", "units", "mm, or inches in 16ths, 32nds, 64ths", window.turn_units, "U")
    a.add("Show", "theme", "light or dark", window.turn_theme, "L")
    a.add("Show", "seen", "put away what changed", window.news.close_quietly, "N")
    return a


def _draw(window: Window, pen: str) -> None:
    """Take a pen in hand at Timber: keys draw from now on, whatever field was typed in before."""
    window.go("timber")
    window.guard.release()
    window.view().draw(pen)
