"""Two parts joined by pointing at one and at the other: what suits is offered, and taken; by mouse and by keys."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from nullah.core.choosing import joining
from nullah.core.values.measure import told


def words_of(panel):
    return " ".join(told(w.text()) for w in panel.findChildren(QLabel) if w.isVisible())


def family(hand):
    (name,) = joining.joined_by(hand.plan, "shelf-2", "side-left")
    return next(j.family for j in hand.plan.joints.joints if j.id == name)


def test_two_parts_pointed_at_are_joined_another_way(hand):
    hand.begin_anew("shelves")
    before = hand.project
    hand.press("By hand")
    hand.press("Point at two parts")
    view = hand.window.view()
    for part in ("shelf-2", "side-left"):
        view.canvas.picked.emit(f"part:{part}")  # as a click on it says
        QApplication.processEvents()
    panel = hand.tried()
    assert panel.isVisible()
    assert "joined already" in panel.said.text()
    assert "that is a dado" in words_of(panel)
    assert "They do not meet edge to edge" in words_of(panel)
    card = next(c for c in panel.cards if c.way.family == "mortise_and_tenon")
    assert "racking" in words_of(card)
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    assert family(hand) == "mortise_and_tenon"
    assert not panel.isVisible()
    after = hand.project
    hand.key("Ctrl+Z")
    assert hand.project == before
    hand.key("Ctrl+Shift+Z")
    assert hand.project == after


def test_the_same_by_keys(hand):
    hand.begin_anew("shelves")
    hand.window.show_part("shelf-2")
    hand.key("H")
    panel = hand.tried()
    assert (panel.first.currentText(), panel.second.currentText()) == ("shelf 2", "left side")
    assert QApplication.focusWidget() is panel.cards[0]
    while QApplication.focusWidget().way.family != "mortise_and_tenon":
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    assert family(hand) == "mortise_and_tenon"


def test_what_cannot_be_joined_is_told(demo_hand):
    hand = demo_hand
    hand.key("H")  # a box answers alone
    assert "make it your own first" in hand.window.overlay.join.said.text()
    QTest.keyClick(hand.window.overlay.join, Qt.Key.Key_Escape)
    hand.begin_anew("shelves")
    hand.window.join("shelf-1", "shelf-4")
    assert "do not meet" in hand.window.overlay.join.said.text()
    assert not hand.window.overlay.join.cards
