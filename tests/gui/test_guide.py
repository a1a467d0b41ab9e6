"""A photograph to go by: a length told, others read off it into answers; by mouse and by keys, undone and kept."""

import pytest
from PIL import Image, ImageDraw
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit

from nullah.core.edits import guide_edits
from nullah.formats import project_file

LID = ((200, 300), (1100, 300))  # pixels of the picture, 900 mm long: a pixel is a millimetre
DEEP = ((300, 300), (300, 720))


@pytest.fixture
def picture(tmp_path, monkeypatch):
    path = tmp_path / "an old chest.png"
    image = Image.new("RGB", (1200, 900), "white")
    ImageDraw.Draw(image).rectangle((200, 300, 1100, 720), fill="brown")
    image.save(path)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    return path


def opened_guide(hand):
    hand.begin_anew("boarded_chest")
    hand.key("J")
    guide = hand.window.view().guide
    hand.press("A picture")
    return guide


def click(guide, *points):
    """Click on pixels of the picture; a widget has fewer of them."""
    place = guide.photo.place()
    k = place.width() / 1200
    for x, y in points:
        at = QPoint(round(place.x() + x * k), round(place.y() + y * k))
        QTest.mouseClick(guide.photo, Qt.MouseButton.LeftButton, pos=at)
    QApplication.processEvents()


def test_a_chest_is_sized_off_its_picture(hand, picture, tmp_path):
    guide = opened_guide(hand)
    before = hand.project
    assert "whose length you know" in guide.what.text()
    click(guide, *LID)
    hand.type_in("known length", "900")
    assert guide_edits.of(hand.project).known.mm == 900
    assert "read off" not in hand.note()
    click(guide, *DEEP)
    assert "about 4" in guide.reading.text()
    guide.into.setCurrentText("height of the ends; about half the lid")
    hand.press("Make it that")
    pixel = 1200 / guide.photo.place().width()  # how far off a click may be, mm
    assert hand.project.in_hand.asked["height"] == pytest.approx(420, abs=2 * pixel)
    assert hand.project.in_hand.asked["height"] == round(hand.project.in_hand.asked["height"])
    lengths = {p.id: p.length for p in hand.plan.piece.in_hand.parts}
    assert lengths["left-end"] == lengths["right-end"] == hand.project.in_hand.asked["height"]

    project_file.save(hand.project, tmp_path / "chest.nullah")
    assert project_file.load(tmp_path / "chest.nullah") == hand.project
    hand.key("Ctrl+Z", "Ctrl+Z")
    assert hand.project == before
    assert guide_edits.of(before).name == picture.name
    hand.key("Ctrl+Z")
    assert guide_edits.of(hand.project) is None
    assert not guide.photo.isVisible()
    hand.key("Ctrl+Shift+Z", "Ctrl+Shift+Z", "Ctrl+Shift+Z")
    assert hand.project.in_hand.asked["height"] == pytest.approx(420, abs=2 * pixel)


def test_the_same_by_keys(hand, picture):
    guide = opened_guide(hand)
    photo = guide.photo
    photo.setFocus()
    QTest.keyClick(photo, Qt.Key.Key_Space)
    for _ in range(5):
        QTest.keyClick(photo, Qt.Key.Key_Right)
    QTest.keyClick(photo, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(photo, Qt.Key.Key_Space)
    assert [(m.x(), m.y()) for m in photo.marks] == [(600, 450), (698, 450)]  # five steps of 20 less one of 2
    field = hand.find(QLineEdit, "known length")
    field.setFocus()
    QTest.keyClicks(field, "49")
    QTest.keyClick(field, Qt.Key.Key_Return)
    QTest.keyClick(field, Qt.Key.Key_Escape)  # out of the field, so that keys are keys again
    assert guide_edits.reads(guide_edits.of(hand.project), (0, 0, 0, 10)) == pytest.approx(5)
    photo.setFocus()
    QTest.keyClick(photo, Qt.Key.Key_Space)
    assert len(photo.marks) == 1
    QTest.keyClick(photo, Qt.Key.Key_Escape)
    assert not photo.marks
    hand.press("Take the picture away")
    assert not [p.guide for p in hand.project.pieces if p.guide]


def test_what_is_no_picture_is_told_and_nothing_is_lost(hand, picture):
    picture.write_text("not a picture")
    hand.begin_anew("boarded_chest")
    before = hand.project
    hand.key("J")
    hand.press("A picture")
    assert hand.note() == "an old chest.png is no JPEG and no PNG picture."
    assert hand.project == before
    hand.key("J")
    assert hand.window.view().canvas.isVisible()
    assert not hand.window.view().guide.isVisible()
