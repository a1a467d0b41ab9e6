"""True-up in the real window: a board read as advised, a stray reading found and mended, half the passes done, read again."""

import numpy as np
import pytest
from hidden_boards import ReadBoard
from other_plane import Maker
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from nullah import demo
from nullah.core.edits import edit
from nullah.core.surface.place_words import place_words
from nullah.core.surface.zones import Workpiece
from nullah.core.values.measure import division

LENGTH, WIDTH = 1200.0, 180.0


@pytest.fixture
def at_board(demo_hand):
    """A board that nothing is read of, in hand at True-up."""
    board = next(b for b in demo.project().boards if b.id == "board 2")
    new = board.model_copy(update={"id": "wind", "name": "Windy", "length": LENGTH, "width": WIDTH, "thickness": 25.0})
    new = new.model_copy(update={"upper": (), "lower": (), "defects": (), "moistures": ()})
    project = demo_hand.project
    demo_hand.session.do(edit.held(project, boards=(*project.boards, new)), "one board more")
    demo_hand.go("trueup")
    view = demo_hand.window.view()
    view.choose("wind")
    QApplication.processEvents()
    return demo_hand, view


class Shaped(ReadBoard):
    """A board of few faults, read without error; ``bent``: its back follows its face, else it is flat."""

    length, width, thickness = LENGTH, WIDTH, 25.0
    read = ReadBoard.said

    def __init__(self, hump=0.0, wind=0.0, bow=0.0, cup=0.0, bent=False):
        self.faults, self.bent = (hump, wind, bow, cup), bent

    def face(self, x, y):
        hump, wind, bow, cup = self.faults
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        bump = hump * np.exp(-((u / 0.15) ** 2 + (v / 0.5) ** 2) / 2)
        return bump + wind * u * v / 4 + bow * u * u + cup * v * v

    def back(self, x, y):
        return self.face(x, y) * self.bent - self.thickness


def said(board, r):
    """What a reading says of a board."""
    return board.read(r.kind, r.at, r.across, r.stick, r.to)


def planned(hand, view):
    planner = view.planner
    hand.bot.waitUntil(lambda: planner.failed or (planner.round is not None and planner.round.whole), timeout=60_000)
    assert not planner.failed
    return view.planner.round


@pytest.mark.parametrize("by", ["mouse", "keys"])
def test_a_board_is_read_as_advised_and_planed_as_planned(at_board, by):
    hand, view = at_board
    board = Shaped(bow=1.0, cup=0.8, wind=2.4, bent=True)

    def act(words, key):
        hand.press(words) if by == "mouse" else hand.key(key)

    def mine():
        return [r for r in hand.project.readings if r.target == "wind"]

    act("Next", "Alt+N")
    said_again = False
    for _ in range(30):
        if view.asked is None:
            break
        said_again = said_again or view.next.text().startswith("Read again")
        asked, wrong = view.asked, 1.5 if len(mine()) == 5 else 0.0
        field = hand.find(QLineEdit, "reading value")
        assert field.hasFocus()
        QTest.keyClicks(field, f"{said(board, asked) + wrong:.2f}")
        QTest.keyClick(field, Qt.Key.Key_Return)
        QApplication.processEvents()
        assert (mine()[-1].kind, mine()[-1].at, mine()[-1].after) == (asked.kind, pytest.approx(asked.at), 0)
    assert 8 <= len(mine()) <= 20
    # the reading that was misread was asked for again, is named, and taken away
    current = view.current()
    assert said_again
    assert current.surface.strays == (5,)
    assert "does not agree" in view.words.whole
    misread = mine()[5]
    field.clearFocus()
    if by == "mouse":
        item = view.entries.item(5)
        QTest.mouseClick(
            view.entries.viewport(), Qt.MouseButton.LeftButton, pos=view.entries.visualItemRect(item).center()
        )
    else:
        for _ in range(20):
            if view.entries.currentRow() != 5:
                hand.key("Alt+G")
    act("Remove", "Alt+R")
    assert misread not in mine()
    # enough is known; one asks for one more
    assert view.asked is None
    many = len(mine())
    act(view.next.text(), "Alt+N")
    QTest.keyClicks(field, f"{said(board, view.asked):.2f}")
    QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert len(mine()) == many + 1
    assert view.current().surface.strays == ()
    # half of the passes
    before = planned(hand, view)
    assert before.side == "back"  # the face is hollow across: laid on it the board does not rock
    field.clearFocus()
    if by == "mouse":
        item = view.stages.item(0)
        QTest.mouseClick(
            view.stages.viewport(), Qt.MouseButton.LeftButton, pos=view.stages.visualItemRect(item).center()
        )
    else:
        hand.key("Alt+J")
    act("Done to here", "Alt+D")
    (run,) = [p for p in hand.project.planed if p.target == "wind"]
    assert run.side == "back"
    assert run.heights == pytest.approx(before.after[0], abs=1e-6)
    # read again: the readings are of what is there now, and the plan goes on from them
    act("Next", "Alt+N")
    field = hand.find(QLineEdit, "reading value")
    first = view.asked
    QTest.keyClicks(field, "0.3")
    QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert (mine()[-1].kind, mine()[-1].after) == (first.kind, 1)
    now = planned(hand, view)
    assert now.side == "back"
    assert now.stages[0].what.most < before.stages[0].what.most - 0.2
    hand.key("Ctrl+Z")
    hand.key("Ctrl+Z")
    assert not [p for p in hand.project.planed if p.target == "wind"]


@pytest.mark.parametrize(
    ("board", "first"),
    [
        (Shaped(hump=1.2), "the middle"),
        (Shaped(wind=4.8), "the two high corners, lower left and upper right"),
        (Shaped(bow=1.5), "right across"),
    ],
    ids=["hump", "wound", "bowed"],
)
def test_a_board_is_read_planed_and_read_again_to_the_end(at_board, board, first):
    """What is told is carried out by another plane, and what that leaves is what is read next."""
    hand, view = at_board
    maker, begun = Maker(board, 12.0), []
    possible = maker.wood.thickness()[0]
    workpiece = Workpiece(LENGTH, WIDTH, 121, 31)

    def read(most):
        for _ in range(most):
            (value,) = maker.read(view.side, [view.asked])
            field = hand.find(QLineEdit, "reading value")
            QTest.keyClicks(field, f"{value:.2f}")
            QTest.keyClick(field, Qt.Key.Key_Return)
            QApplication.processEvents()
            if view.asked is None:
                break
        hand.find(QLineEdit, "reading value").clearFocus()

    hand.key("Alt+N")
    read(30)
    for _ in range(14):
        found = planned(hand, view)
        if not found.stages:
            break
        if view.side != found.side:
            mine = [r for r in hand.project.readings if r.target == "wind" and r.side == found.side]
            unread = not [r for r in mine if r.after or not begun]
            assert (f"The {found.side} is next" in view.words.whole) == unread
            view.turn_over()
            if unread:
                hand.key("Alt+N")
                read(6)
                continue
        for _ in found.stages:
            hand.key("Alt+J")
        hand.key("Alt+D")
        for stage in found.stages:
            maker.take(found.side, stage.what)
        begun.append(found)
        hand.key("Alt+N")
        read(6)
    assert not found.stages  # flat and to thickness, as it is told
    place = place_words(workpiece, begun[0].stages[0].what.outlines, "{:.0f}".format)
    assert place.startswith(first)
    left, face, back = maker.wood.thickness()
    assert max(face, back) < 0.5
    assert left > possible - 1.1


def test_a_reading_is_placed_by_a_click_and_pulled_to_where_it_was_taken(at_board):
    hand, view = at_board
    view.reading.kind.setCurrentText("thickness")
    view.reading.show_all()

    def at(x, y):
        return view.canvas.scale().to((x, y)).toPoint()

    def mine():
        return [r for r in hand.project.readings if r.target == "wind"]

    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, pos=at(300, 60))
    field = hand.find(QLineEdit, "reading value")
    assert field.hasFocus()
    QTest.keyClicks(field, "24.5")
    hand.press("Add")
    (taken,) = mine()
    assert (taken.kind, taken.value) == ("thickness", 24.5)
    assert (taken.at, taken.across) == (pytest.approx(300, abs=3), pytest.approx(60, abs=3))
    left = view.left.text()
    # pulled 200 along; what is drawn follows while it is pulled
    hand.find(QLineEdit, "reading value").clearFocus()
    here, there = at(taken.at, taken.across), at(taken.at + 200, taken.across)
    QTest.mousePress(view.canvas, Qt.MouseButton.LeftButton, pos=here)
    for i in range(1, 5):
        QTest.mouseMove(view.canvas, here + (there - here) * i / 4)
    QTest.mouseRelease(view.canvas, Qt.MouseButton.LeftButton, pos=there)
    (moved,) = mine()
    assert moved.at == pytest.approx(taken.at + 200, abs=3)
    QTest.keyClick(view.canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert mine()[0].at == pytest.approx(moved.at + 10 * division("mm", 32))
    # said anew
    hand.key("Alt+G")
    hand.type_in("reading value", "23")
    assert [r.value for r in mine()] == [23]
    assert view.left.text() != left
    hand.key("Ctrl+Z")
    assert mine()[0].value == 24.5
    # planes are said in a line, and the passes are planned with them
    hand.press("Planes")
    hand.type_in("planes at hand", "355 120 50 0.2 0.12; 900 300 70")
    assert "five figures" in hand.note()
    hand.type_in("planes at hand", "355 120 50 0.3 0.12; 600 200 60 0.05 0")
    assert [(p.name, p.shaving) for p in hand.project.kit.planes] == [
        ("jack plane, 355 mm sole", 0.3),
        ("jointer, 600 mm sole", 0.05),
    ]
    # with Shift the other stick
    view.reading.kind.setCurrentText("winding sticks")
    view.reading.show_all()
    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, pos=at(900, 90))
    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, at(200, 90))
    assert (view.reading.given["at"], view.reading.given["to"]) == (
        pytest.approx(900, abs=3),
        pytest.approx(200, abs=3),
    )
    hand.press("Add")
    assert "Type what it reads" in hand.note()
    view.reading.kind.setCurrentText("feeler")
    view.reading.show_all()
    hand.type_in("reading to", "nan")
    assert "no number of a corner" in hand.note()
    view.reading.kind.setCurrentText("winding sticks")
    view.reading.show_all()
    hand.type_in("reading at", "2000")
    hand.type_in("reading value", "1")
    assert "lies off Windy" in hand.note()
    assert len(mine()) == 1


def test_a_board_s_stray_reading_is_not_looked_for_among_a_part_s(demo_hand):
    """A part that has no readings of its own is seen with the board's surface: what strays is said of the board alone."""
    hand = demo_hand
    wrong = tuple(
        r.model_copy(update={"value": r.value + 4}) if n == 3 else r for n, r in enumerate(hand.project.readings)
    )
    hand.session.attempt("misread", lambda: hand.project.model_copy(update={"readings": wrong}))
    made = hand.plan.trueup
    assert any(t.surface.again for t in made.boards)
    on_it = [t for t in made.parts if t.board == "board 1" and not t.readings]
    assert on_it
    assert not any(t.surface.again for t in on_it)
    hand.go("trueup")
    view = hand.window.view()
    for t in on_it:
        view.show_part(t.id)
        view.refresh()
        assert view.current().id == t.id
        assert "again" not in view.words.whole
