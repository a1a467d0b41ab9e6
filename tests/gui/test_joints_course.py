"""Joints by hand: put between parts by pointing, said otherwise, pulled, cut with other tools, printed at full size."""

import io

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from test_gestures import pull

from nullah.core.choosing import joining
from nullah.core.drawing.display_list import Handle, Text


def joined(hand, first, second):
    (name,) = joining.joined_by(hand.plan, first, second)
    return next(j for j in hand.plan.joints.joints if j.id == name)


def point_and_join(hand, first, second, family):
    """H on the first part, the second pointed at, and the card of a family clicked."""
    hand.press("Point at two parts")
    view = hand.window.view()
    for part in (first, second):
        view.canvas.picked.emit(f"part:{part}")  # as a click on it says
        QApplication.processEvents()
    card = next(c for c in hand.tried().cards if c.way.family == family)
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert joined(hand, first, second).family == family


def show(hand, joint):
    """A joint chosen in the list at Joints, by a click."""
    names = hand.window.view().names
    row = next(n for n, j in enumerate(hand.plan.joints.joints) if j.id == joint.id)
    names.scrollToItem(names.item(row))
    QTest.mouseClick(names.viewport(), Qt.MouseButton.LeftButton, pos=names.visualItemRect(names.item(row)).center())
    QApplication.processEvents()
    assert hand.window.view().joint().id == joint.id


def choose(hand, name, option):
    """One of a choice by keys."""
    box = hand.window.view().asked.picks[name]
    assert box.isVisible()
    box.setFocus()
    while box.currentText() != option:
        before = box.currentIndex()
        QTest.keyClick(box, Qt.Key.Key_Down)  # each is taken as it is come by
        QApplication.processEvents()
        assert box.currentIndex() > before, option
    QApplication.processEvents()


def tools_of(joint):
    return {s.tool for s in joint.settings}


def test_three_joints_by_pointing_and_what_is_asked_of_them(hand, tmp_path):
    hand.begin_anew("shelves")
    hand.press("By hand")
    point_and_join(hand, "shelf-2", "side-left", "mortise_and_tenon")
    point_and_join(hand, "shelf-2", "side-right", "sliding_dovetail")
    point_and_join(hand, "shelf-3", "side-left", "dowels")

    # a slope typed: the neck of the tail follows
    hand.go("joints")
    tail = joined(hand, "shelf-2", "side-right")
    show(hand, tail)
    neck = tail.figures["neck"]
    hand.type_in("slope", "5")
    after = joined(hand, "shelf-2", "side-right").figures
    assert after["slope"] == 5
    assert after["neck"] == pytest.approx(neck - 2 * after["depth"] * (1 / 5 - 1 / 7))
    hand.type_in("slope", "500")  # what does not serve is said, and nothing changes
    assert "12 is the most" in hand.note()
    assert joined(hand, "shelf-2", "side-right").figures == after

    # nothing is what suits, also of what is called a length
    tenon = joined(hand, "shelf-2", "side-left")
    show(hand, tenon)
    hand.type_in("length", "8")
    assert joined(hand, "shelf-2", "side-left").figures["length"] == 8
    hand.type_in("length", "0")
    assert joined(hand, "shelf-2", "side-left").figures == tenon.figures
    show(hand, tail)

    # what is not at hand: another way, said and set
    view = hand.window.view()
    assert "router plane" in tools_of(tail)
    hand.press("At hand")
    box = view.tools["router_plane"]
    QTest.mouseClick(box, Qt.MouseButton.LeftButton, pos=QPoint(10, box.height() // 2))
    QApplication.processEvents()
    tail = joined(hand, "shelf-2", "side-right")
    assert "router plane" not in tools_of(tail)
    assert "depth line" in tools_of(tail)
    assert tail.steps[0].startswith("No router plane")

    hand.type_in("gauge reach", "90")
    assert hand.project.kit.gauge_reach == 90
    hand.type_in("plough deepest", "-4")
    assert hand.project.kit.plough_deepest == 15
    assert "plough deepest" in hand.note()

    # how a tenon is held
    tenon = joined(hand, "shelf-2", "side-left")
    show(hand, tenon)
    hand.press("Made")
    choose(hand, "hold", "drawbored")
    assert joined(hand, "shelf-2", "side-left").figures["pegs"] >= 1, hand.note()

    # a bit that is not at hand is asked about, and the call taken by its number
    dowels = joined(hand, "shelf-3", "side-left")
    show(hand, dowels)
    hand.type_in("diameter", "7")
    call = hand.plan.call(f"mend {dowels.id} diameter")
    assert call.open
    hand.session.take(call, "mend")
    assert joined(hand, "shelf-3", "side-left").figures["diameter"] != 7
    steps = 0
    while hand.session.history.can_undo and steps < 40:
        hand.key("Ctrl+Z")
        steps += 1
    assert steps >= 8

    while hand.session.history.can_redo:
        hand.key("Ctrl+Shift+Z")
    hand.window.files.export_to(tmp_path / "shop")
    hand.written()
    printed = PdfReader(io.BytesIO((tmp_path / "shop" / "full-size.pdf").read_bytes()))
    words = " ".join(page.extract_text() for page in printed.pages)
    assert "Story stick" in words
    assert "100 %" in words
    assert list((tmp_path / "shop").glob("full-size-*.dxf"))


def test_a_half_pin_is_pulled_and_a_corner_asked_otherwise(hand):
    hand.begin_anew("practice_joint")
    hand.go("joints")
    canvas = hand.window.view().canvas
    half = hand.plan.joints.joints[0].figures["half pin"]
    pull(canvas, "laid:corner/half_pin/lower", 0, -8)
    pulled = hand.plan.joints.joints[0].figures["half pin"]
    assert pulled > half
    assert float(hand.window.view().asked.fields["half_pin"].text()) == pytest.approx(pulled, abs=0.06)
    hand.key("Ctrl+Z")
    assert hand.plan.joints.joints[0].figures["half pin"] == half
    hand.type_in("half_pin", "9")
    assert hand.plan.joints.joints[0].figures["half pin"] == 9


def test_a_joint_is_seen_in_the_round_and_turned_by_hand(demo_hand):
    demo_hand.go("joints")
    canvas = demo_hand.window.view().canvas

    def words():
        return {i.text for i in canvas.drawing.items if isinstance(i, Text)}

    assert "half home" not in words()
    demo_hand.press("In the round")
    assert words() >= {"apart", "half home", "closed", "cut open", "A", "B"}
    was = canvas.drawing.items
    before = demo_hand.project
    ground = QPoint(canvas.width() // 2, 8)
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=ground)
    QTest.mouseMove(canvas, ground + QPoint(30, 0))
    QTest.mouseMove(canvas, ground + QPoint(60, 4))
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=ground + QPoint(60, 4))
    assert canvas.drawing.items != was
    was = canvas.drawing.items
    canvas.setFocus()
    QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert canvas.drawing.items != was
    assert demo_hand.project == before  # looking changes nothing
    show(demo_hand, demo_hand.plan.joints.joints[1])
    assert words() >= {"apart", "half home"}
    demo_hand.press("In the round")
    assert "half home" not in words()
    assert not canvas.turns


def test_a_line_of_a_tenon_is_pulled(hand):
    hand.begin_anew("small_table")
    hand.go("joints")
    tenon = next(j for j in hand.plan.joints.joints if j.id == "tenon-front-fl")
    show(hand, tenon)
    canvas = hand.window.view().canvas
    tag = next(i.tag for i in canvas.drawing.items if isinstance(i, Handle) and "/thickness/" in i.tag)
    along, rate = int(tag.split("/")[2]), float(tag.split("/")[3])
    far = 12 if rate > 0 else -12
    pull(canvas, tag, *((far, 0) if along == 0 else (0, -far)))  # y of the screen runs down
    after = next(j for j in hand.plan.joints.joints if j.id == "tenon-front-fl")
    assert after.figures["thickness"] > tenon.figures["thickness"]
    assert float(hand.window.view().asked.fields["thickness"].text()) == pytest.approx(
        after.figures["thickness"], abs=0.06
    )
    assert "thickness" in hand.note()
    hand.key("Ctrl+Z")
    again = next(j for j in hand.plan.joints.joints if j.id == "tenon-front-fl")
    assert again.figures == tenon.figures
