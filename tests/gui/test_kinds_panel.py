"""What one may make: chosen by its picture, by mouse and by keys; pieces copied, and taken over from another project."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QPushButton

from nullah import demo
from nullah.core.choosing.catalogue import offered
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def panel_of(hand):
    hand.key("Ctrl+N")
    panel = hand.window.overlay.kinds
    hand.bot.waitUntil(lambda: all(c.takes.text() for c in panel.cards), timeout=20_000)
    return panel


def click(panel, words):
    (found,) = [b for b in panel.findChildren(QPushButton) if b.text() == words]
    QTest.mouseClick(found, Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def test_every_kind_is_drawn_with_its_hours_and_its_wood(hand):
    panel = panel_of(hand)
    assert [c.kind.name for c in panel.cards] == list(KINDS)
    for card in panel.cards:
        if card.kind.name == "free":
            assert "as many parts" in card.takes.text()
            continue
        assert card.thumb.drawing.items
        assert "m\u00b2, about" in card.takes.text()
        assert card.takes.text().endswith("hours")
    hand.window.turn_units()
    hand.window.overlay.close_overlay()
    hand.key("Ctrl+N")
    hand.bot.waitUntil(lambda: "board feet" in panel.cards[2].takes.text(), timeout=20_000)


def test_a_chest_begun_by_its_picture_and_added_by_keys(hand):
    panel = panel_of(hand)
    card = next(c for c in panel.cards if c.kind.name == "boarded_chest")
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    assert KINDS["boarded_chest"].about == panel.about.text()
    click(panel, "Begin a new project with it")
    assert hand.project == piece_edits.fresh("boarded_chest")
    assert not panel.isVisible()
    assert "by its defaults" in hand.note()
    hand.key("Ctrl+N")
    for key in (Qt.Key.Key_Up, Qt.Key.Key_Right, Qt.Key.Key_Up):  # the last leads nowhere
        QTest.keyClick(QApplication.focusWidget(), key)
    names = list(KINDS)
    assert panel.chosen == names[names.index("boarded_chest") - 3 + 1]
    click(panel, "Add it to this project")
    assert [p.kind for p in hand.project.pieces] == ["boarded_chest", panel.chosen]
    hand.key("Ctrl+Z")
    assert hand.project == piece_edits.fresh("boarded_chest")


def test_a_piece_is_copied_and_one_is_taken_over(demo_hand, tmp_path, monkeypatch):
    hand = demo_hand
    click(panel_of(hand), "Copy the piece in hand")
    first, second = hand.project.pieces
    assert second.model_copy(update={"id": first.id, "name": first.name}) == first
    assert hand.project.hand == second.id
    own = [p for m in hand.plan.piece.made for p in m.parts]
    assert len({p.id for p in own}) == len(own) == 2 * len(hand.plan.piece.made[0].parts)
    assert not [p for p in hand.plan.piece.in_hand.parts if p.cut]  # what is cut stays with the first

    other = tmp_path / "other.nullah"
    table = piece_edits.take_in_hand(demo.project(), "2")
    project_file.save(table, other)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(other), ""))
    click(panel_of(hand), "From another project")
    assert "Which piece of other.nullah?" in hand.window.notice.words.text()
    (way,) = [b for b in hand.window.notice.findChildren(QPushButton) if b.text() == table.pieces[1].name]
    QTest.mouseClick(way, Qt.MouseButton.LeftButton)
    assert hand.project.in_hand.asked == table.pieces[1].asked
    assert len(hand.project.pieces) == 3
    for _ in range(2):
        hand.key("Ctrl+Z")
    assert hand.project == demo.box()

    other.write_text("{")
    click(panel_of(hand), "From another project")
    assert "other.nullah is not a whole project file" in hand.note()
    assert hand.project == demo.box()


@pytest.mark.parametrize("name", ["boarded_chest", "small_table", "laminated_board"])
def test_hours_and_wood_are_those_of_the_piece(name):
    """The wood from the sizes of its parts; the hours more than what its joints alone take, and less than so many again."""
    one = offered(KINDS[name])
    bare = plan(Project(pieces=(KINDS[name].piece({}),)))
    parts = bare.piece.parts
    assert one.parts == len(parts)
    assert one.square_metres == pytest.approx(sum(p.length * p.width for p in parts) / 1e6)
    assert one.board_feet == pytest.approx(sum(p.length * p.width * p.thickness for p in parts) / 25.4**3 / 144)
    dry = sum(s.minutes for s in bare.bench.steps) / 60  # without wood nothing is sawn and nothing trued
    assert dry < one.hours < 4 * dry
