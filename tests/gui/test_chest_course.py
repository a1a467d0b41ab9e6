"""A chest from its picture to a tray let into it, taken apart and back: once by mouse, once by keys alone."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit

from conftest import opened
from nullah.core.choosing import joining
from nullah.core.edits.piece_edits import fresh
from nullah.core.values.measure import told
from nullah.formats import project_file

TYPED = {"new part name": "tray", "new part thickness": "10", "new part up": "180"}
PICKED = {
    "new part face": "up",
    "new part upper edge": "back",
    "new part length between": "length, inside left to inside right",
    "new part width between": "depth, inside front to inside back",
}


class ByMouse:
    def __init__(self, hand):
        self.hand = hand

    def begin(self, kind):
        self.hand.begin_anew(kind)

    def write(self, name, words):
        self.hand.type_in(name, words)

    def choose(self, name, words):
        box = self.hand.find(QComboBox, name)
        at = next(i for i in range(box.count()) if box.itemText(i).startswith(words))
        QTest.mouseClick(box, Qt.MouseButton.LeftButton)
        QApplication.processEvents()
        self.hand.bot.waitUntil(box.view().isVisible)
        self.hand.bot.wait(
            QApplication.doubleClickInterval() + 50
        )  # sooner a list takes the click for that which opened it
        rows, row = box.view(), box.model().index(at, 0)
        rows.scrollTo(row)
        QApplication.processEvents()
        QTest.mouseMove(rows.viewport(), rows.visualRect(row).center())
        QTest.mouseClick(rows.viewport(), Qt.MouseButton.LeftButton, pos=rows.visualRect(row).center())
        box.hidePopup()
        QApplication.processEvents()
        assert box.currentIndex() == at

    def press(self, words):
        self.hand.press(words)

    def join(self, first, second):
        self.press("Point at two parts")
        for part in (first, second):
            self.point(part)

    def point(self, part):
        """Click on a part where it is seen in the three views."""
        canvas = self.hand.window.view().canvas
        for y in range(4, canvas.height(), 6):
            for x in range(4, canvas.width(), 6):
                if canvas.tag_at(QPointF(x, y))[0].partition(":")[2] == part:
                    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(x, y))
                    QApplication.processEvents()
                    return
        raise AssertionError(f"{part} is not seen")

    def take(self, family):
        card = next(c for c in self.hand.tried().cards if c.way.family == family)
        QTest.mouseClick(card, Qt.MouseButton.LeftButton)
        QApplication.processEvents()

    def turn(self):
        canvas = self.hand.window.view().canvas
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=QPoint(6, 6))
        QTest.mouseMove(canvas, QPoint(66, 6))
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=QPoint(66, 6))
        QApplication.processEvents()


class ByKeys(ByMouse):
    def begin(self, kind):
        self.hand.key("Ctrl+N")
        panel = self.hand.window.overlay.kinds
        for _ in range(len(panel.cards)):
            if panel.chosen == kind:
                break
            QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Right)
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
        QApplication.processEvents()

    def focus(self, widget):
        """Tab until the keyboard is there."""
        for _ in range(150):
            if QApplication.focusWidget() is widget:
                return
            QTest.keyClick(QApplication.focusWidget() or self.hand.window, Qt.Key.Key_Tab)
        raise AssertionError(f"Tab does not come to {widget.objectName()}")

    def write(self, name, words):
        field = self.hand.find(QLineEdit, name)
        self.focus(field)
        field.selectAll()
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        QTest.keyClick(field, Qt.Key.Key_Escape)
        QApplication.processEvents()

    def choose(self, name, words):
        box = self.hand.find(QComboBox, name)
        self.focus(box)
        at = next(i for i in range(box.count()) if box.itemText(i).startswith(words))
        while box.currentIndex() != at:
            QTest.keyClick(box, Qt.Key.Key_Down if box.currentIndex() < at else Qt.Key.Key_Up)
        QApplication.processEvents()

    def press(self, words):
        button = next(
            b
            for b in self.hand.window.findChildren(type(self.hand.window.view().hand))
            if b.isVisible() and b.text() == words
        )
        self.focus(button)
        QTest.keyClick(button, Qt.Key.Key_Space)
        QApplication.processEvents()

    def join(self, first, second):
        self.hand.window.show_part(first)  # as F2 and its name do
        self.hand.key("H")
        panel = self.hand.window.overlay.join
        names = {p.id: p.name for p in self.hand.plan.piece.in_hand.parts}
        panel.second.setFocus()
        while panel.second.currentText() != names[second]:
            at, to = panel.second.currentIndex(), panel.second.findText(names[second])
            QTest.keyClick(panel.second, Qt.Key.Key_Down if to > at else Qt.Key.Key_Up)
        QApplication.processEvents()

    def take(self, family):
        card = next(c for c in self.hand.tried().cards if c.way.family == family)
        self.focus(card)
        QTest.keyClick(card, Qt.Key.Key_Return)
        QApplication.processEvents()

    def turn(self):
        canvas = self.hand.window.view().canvas
        self.focus(canvas)
        QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
        QApplication.processEvents()


def lengths(hand):
    return {p.id: p.length for p in hand.plan.piece.in_hand.parts}


def family(hand):
    (name,) = joining.joined_by(hand.plan, "tray", "left-end")
    return next(j for j in hand.plan.joints.joints if j.id == name)


@pytest.mark.parametrize("way", [ByMouse, ByKeys])
def test_a_chest_from_its_picture_all_the_way_and_back(qtbot, tmp_path, way):
    hand = opened(qtbot, fresh(), tmp_path)
    first, by = hand.project, way(hand)
    by.begin("boarded_chest")
    begun = hand.project
    assert begun.in_hand.kind == "boarded_chest"
    by.write("lid", "1000")
    # craft: front and back 2" shorter than the lid
    assert lengths(hand)["front"] == pytest.approx(1000 - 2 * 25.4)
    inside = 1000 - 2 * 25.4 - 2 * 16

    # a tray between marks of the story sticks, which it follows
    by.press("By hand")
    for name, words in PICKED.items():
        by.choose(name, words)
    for name, words in TYPED.items():
        by.write(name, words)
    by.press("Add part")
    assert lengths(hand)["tray"] == pytest.approx(inside)
    by.write("lid", "1100")
    assert lengths(hand)["tray"] == pytest.approx(inside + 100)

    # let in by pointing; another family; what does not suit says why
    by.join("tray", "left-end")
    words = " ".join(told(w.text()) for w in hand.tried().findChildren(QLabel) if w.isVisible())
    assert "They do not meet edge to edge" in words
    by.take("dado")
    assert family(hand).family == "dado"
    assert lengths(hand)["tray"] == pytest.approx(inside + 100 + family(hand).figures["depth"])
    by.join("tray", "left-end")
    by.take("mortise_and_tenon")
    assert family(hand).family == "mortise_and_tenon"
    assert lengths(hand)["tray"] == pytest.approx(inside + 100 + family(hand).figures["length"])

    # seen from inside, from elsewhere, apart
    view = hand.window.view()
    by.press("Standing")
    before = view.canvas.drawing
    by.choose("cut open", "cut open from the front")
    assert view.canvas.drawing != before
    by.turn()
    assert view.looking.sight.turn != 28
    hand.key("Esc")
    hand.key("]")
    assert view.apart.value() > 0

    # what is cut stays, and that is a conflict
    hand.window.show_part("front")
    hand.go("breakdown") if way is ByMouse else hand.key("Alt+3")
    hand.session.light_part("front")
    hand.window.view().refresh()
    hand.press("Mark as cut") if way is ByMouse else hand.key("X")
    assert next(p for p in hand.plan.piece.parts if p.id == "front").cut, hand.note()
    hand.go("piece") if way is ByMouse else hand.key("Alt+1")
    by.write("lid", "1200")
    conflict = next(c for c in hand.plan.open_calls() if c.conflict)
    assert "front" in conflict.parts
    assert lengths(hand)["front"] == pytest.approx(1100 - 2 * 25.4)

    last = hand.project
    while hand.project != begun:
        assert hand.session.history.can_undo
        hand.key("Ctrl+Z")
    while hand.session.history.can_redo:
        hand.key("Ctrl+Shift+Z")
    assert hand.project == last != first
    project_file.save(hand.project, tmp_path / "chest.nullah")
    assert project_file.load(tmp_path / "chest.nullah") == last
