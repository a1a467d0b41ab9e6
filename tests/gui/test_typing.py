"""Typing is never a command, undo reaches everywhere, names on the screen are known, Tab goes in the order of the work."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QWidget

from nullah.core.edits import edit
from nullah.core.planning.plan import STATIONS

LETTERS = "bltumxcgpwsk123"


def press(hand, letters):
    """Keys as they fall on whatever has the keyboard."""
    for letter in letters:
        QTest.keyClick(QApplication.focusWidget() or hand.window, letter)
        QApplication.processEvents()


def test_a_name_typed_on_after_a_field_went_is_no_command(demo_hand):
    hand = demo_hand
    hand.go("piece")
    before = hand.project
    for leave in ("hidden", "disabled", "another was given the keyboard"):
        field = hand.find(QLineEdit, "contents.name")
        QTest.mouseClick(field, Qt.MouseButton.LeftButton)
        if leave == "hidden":
            field.hide()
        elif leave == "disabled":
            field.setEnabled(False)
        else:
            hand.window.view().canvas.setFocus()
        QApplication.processEvents()
        press(hand, LETTERS)
        field.show()
        field.setEnabled(True)
        assert hand.project == before, leave
        assert not hand.window.theme.dark
        assert not hand.window.strip.field.isVisible()
        assert hand.session.here == "piece"
        assert isinstance(QApplication.focusWidget(), QLineEdit) or "single keys act again" in hand.note()
    assert "single keys act again" in hand.note()


@pytest.mark.parametrize("leave", ["Esc", "Tab", "click"])
def test_left_by_hand_a_field_gives_the_keys_back(demo_hand, leave):
    hand = demo_hand
    hand.go("piece")
    field = hand.find(QLineEdit, "contents.name")
    QTest.mouseClick(field, Qt.MouseButton.LeftButton)
    if leave == "click":
        QTest.mouseClick(hand.window.view().canvas, Qt.MouseButton.LeftButton, pos=QPoint(4, 4))
    else:
        QTest.keyClick(field, Qt.Key.Key_Escape if leave == "Esc" else Qt.Key.Key_Tab)
    while isinstance(QApplication.focusWidget(), QLineEdit | QComboBox):
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    press(hand, "l")
    assert hand.window.theme.dark


def test_a_field_that_cannot_be_typed_in_looks_it_and_what_is_typed_there_is_no_command(hand):
    hand.go("timber")
    field = hand.find(QLineEdit, "board name")
    assert not field.isEnabled()
    assert ":disabled" in QApplication.instance().styleSheet()
    QTest.mouseClick(hand.window.view(), Qt.MouseButton.LeftButton, pos=QPoint(2, 2))
    before = hand.project
    QTest.mouseClick(field, Qt.MouseButton.LeftButton)
    press(hand, LETTERS)
    assert hand.project == before
    assert not hand.window.theme.dark


def test_the_hand_stays_where_it_was_after_an_edit(demo_hand):
    hand = demo_hand
    for station, name, words in (
        ("piece", "contents.width", "86"),
        ("timber", "board moisture", "10.9"),
        ("breakdown", "kit rip_kerf", "1.2"),
        ("together", "clamps", "7"),
    ):
        hand.go(station)
        if station == "timber":
            hand.below("in words")
        hand.type_in(name, words)
        assert QApplication.focusWidget() is hand.find(QLineEdit, name), station
    hand.key("Esc")
    hand.measure("A thickness 17.4")
    assert QApplication.focusWidget() is hand.window.strip.field
    QTest.keyClicks(hand.window.strip.field, "C thickness 17.6")
    QTest.keyClick(hand.window.strip.field, Qt.Key.Key_Return)
    assert {m.part for m in hand.project.measured} == {"A", "C"}


def test_undo_in_a_field_takes_back_the_typing_first_and_then_the_work(demo_hand):
    hand = demo_hand
    hand.go("piece")
    hand.type_in("contents.width", "86")
    field = hand.find(QLineEdit, "contents.width")
    assert QApplication.focusWidget() is field
    QTest.keyClicks(field, "99")
    QTest.keySequence(field, "Ctrl+Z")
    assert hand.project.piece.contents.width == 86  # the typing only
    while field.isUndoAvailable():
        QTest.keySequence(field, "Ctrl+Z")
    QTest.keySequence(field, "Ctrl+Z")
    assert hand.project.piece.contents.width == 84
    assert field.text() == "84"
    QTest.keySequence(field, "Ctrl+Shift+Z")
    assert hand.project.piece.contents.width == 86


def test_measured_knows_boards_by_the_names_on_the_screen(demo_hand):
    hand = demo_hand
    board = hand.project.boards[1]
    named = edit.put_board(hand.project, board.model_copy(update={"name": "Long ash"}))
    hand.session.do(named, "named")
    hand.measure("long ash thickness 21.4")
    QTest.keyClicks(hand.window.strip.field, "Long ash moisture 9,8 %")
    QTest.keyClick(hand.window.strip.field, Qt.Key.Key_Return)
    now = hand.project.boards[1]
    assert (now.thickness, now.moisture) == (21.4, 9.8)
    assert [e.text for e in hand.project.log] == ["Long ash thickness 21.4", "Long ash moisture 9.8 %"]
    QTest.keyClicks(hand.window.strip.field, "Short ash thickness 3")
    QTest.keyClick(hand.window.strip.field, Qt.Key.Key_Return)
    assert "no part" in hand.note()


def test_everything_that_has_a_name_is_found_by_it(demo_hand):
    hand = demo_hand

    def find(words):
        hand.key("F2")
        search = hand.find(QLineEdit, "what to do")
        QTest.keyClicks(search, words)
        QTest.keyClick(search, Qt.Key.Key_Return)
        QApplication.processEvents()

    find("board board 3 larch")
    assert hand.session.here == "timber"
    assert hand.window.view().board().name == "Board 3"
    find("part divider 2")
    assert hand.session.lit_part == "2"
    find("step clean up")
    assert hand.session.here == "bench"
    call = hand.plan.open_calls()[-1]
    hand.window.show_call(call.id)
    assert hand.window.side.current_call().id == call.id
    hand.session.take(call, call.recommended)
    hand.window.show_call(call.id)  # listed a moment ago, and gone since
    assert "no longer open" in hand.note()
    before = hand.project
    hand.session.take(call.__class__("gone", "piece", "?", call.options, call.recommended, ""), call.recommended)
    assert hand.project == before


@pytest.mark.parametrize("station", STATIONS)
def test_tab_goes_in_the_order_of_the_work_and_reaches_everything(demo_hand, station):
    hand = demo_hand
    hand.go(station)
    order = hand.window.tab_order()
    order[0].setFocus()
    seen = []
    for _ in order:
        seen.append(QApplication.focusWidget())
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    assert seen == order
    assert QApplication.focusWidget() is order[0]
    areas = [hand.window.stack, hand.window.side, hand.window.strip, hand.window.course]
    at = [next(i for i, a in enumerate(areas) if w is a or a.isAncestorOf(w)) for w in seen if in_any(w, areas)]
    assert at == sorted(at)


def in_any(widget, areas):
    return any(widget is a or a.isAncestorOf(widget) for a in areas)


@pytest.mark.parametrize("station", STATIONS)
def test_screen_readers_get_words(demo_hand, station):
    demo_hand.go(station)
    for widget in demo_hand.window.findChildren(QWidget):
        said = widget.accessibleName()
        assert "_" not in said, said
        assert "." not in said.rstrip(".") or " " in said, said
    canvas = getattr(demo_hand.window.view(), "canvas", None)
    if canvas is not None and canvas.tags():
        canvas.setFocus()
        for _ in range(6):
            QTest.keyClick(canvas, Qt.Key.Key_Period)
            said = canvas.accessibleDescription()
            assert ":" not in said.removeprefix("picked:")
            assert "/" not in said


def test_nothing_of_the_program_s_inside_is_said(demo_hand):
    hand, said = demo_hand, []
    hand.session.said.connect(lambda words, _: said.append(words))
    hand.go("timber")
    hand.below("in words")
    hand.press("Add fault")
    hand.key("Ctrl+Z")
    for words in (
        "upper edge 0, 180; 500, 170; 900, 160",
        "upper edge 5",
        "knot",
        "knot at 1e9, 2",
        "reads 900",
        "rings 120",
    ):
        hand.type_in("say what you see", words)
    hand.type_in("board length", "0.0001 mm")
    hand.type_in("board moisture", "1e9")
    hand.go("breakdown")
    hand.type_in("weights opening", "-4")
    for words in said:
        for inside in ("Defect(", "Board(", "id=", "input", "validation", "=<", "_", "None", "float"):
            assert inside not in words, words
