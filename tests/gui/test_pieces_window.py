"""Pieces by keys and mouse: from a new project to a table with a drawer, what the wood says, a second piece, and all the way back."""

import pytest
from marked import with_done
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from conftest import opened
from nullah.core.drawing.display_list import Area, Line
from nullah.core.edits import edit, piece_edits, step_edits
from nullah.core.edits.piece_edits import fresh, set_answer
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def choose(hand, name, words):
    """Pick an entry of a choice by the keyboard."""
    box = hand.find(QComboBox, name)
    box.setFocus()
    at, to = box.currentIndex(), box.findText(words)
    assert to >= 0, words
    for _ in range(abs(to - at)):
        QTest.keyClick(box, Qt.Key.Key_Down if to > at else Qt.Key.Key_Up)
    QApplication.processEvents()


def part(hand, part_id):
    return next(p for p in hand.plan.piece.parts if p.id == part_id)


def chip(hand, words):
    return next(b for b in hand.window.findChildren(QPushButton) if b.isVisible() and b.text() == words)


def test_a_table_from_new_to_two_pieces_and_all_the_way_back(qtbot, tmp_path):
    hand = opened(qtbot, fresh(), tmp_path)
    first = hand.project
    hand.go("piece")
    choose(hand, "kind of piece", "Small table")
    choose(hand, "drawer", "yes")
    assert part(hand, "drawer-front").length == 600 - 60 - 2 * 42 - 1
    assert hand.window.view().canvas.drawing.items
    joint = next(j for j in hand.plan.joints.joints if j.id == "tenon-rail-lower-fl")
    assert joint.figures["length"] == 14
    # the wood speaks: a leg is thin
    hand.measure("front left leg width 39")
    assert part(hand, "drawer-front").length == 600 - 60 - 42 - 39 - 1
    joint = next(j for j in hand.plan.joints.joints if j.id == "tenon-rail-lower-fl")
    assert joint.figures["length"] == 13
    assert hand.plan.call("hold front").open
    # two parts and a joint are cut
    hand.key("Esc")
    hand.go("breakdown")
    for name in ("leg-bl", "apron-back"):
        hand.session.light_part(name)
        hand.window.view().refresh()
        hand.press("Mark as cut")
        assert part(hand, name).cut, hand.note()
    step = "joint tenon-back-bl"
    assert any(s.id == step for s in hand.plan.bench.steps)
    hand.session.do(step_edits.step_done(hand.project, hand.plan, step, sure=True), "cut")
    assert [m.joint for m in hand.project.joints_cut] == ["tenon-back-bl"]
    # an answer changes: what is cut stays, and that is a conflict
    hand.go("piece")
    was = part(hand, "apron-back").sizes
    hand.type_in("apron", "96")
    assert part(hand, "apron-back").sizes == was
    assert part(hand, "apron-left").width == 96
    conflicts = [c for c in hand.plan.calls if c.conflict]
    assert {p for c in conflicts for p in c.parts} >= {"apron-back", "leg-bl"}
    for _ in range(8):
        open_ones = [c for c in hand.plan.open_calls() if c.conflict]
        if not open_ones:
            break
        hand.session.take(open_ones[0], "keep")
    assert not [c for c in hand.plan.open_calls() if c.conflict]
    # a second piece, out of the same boards
    choose(hand, "add a piece", "Practice joint")
    assert [p.kind for p in hand.project.pieces] == ["small_table", "practice_joint"]
    assert {"2.tail-board", "2.pin-board"} <= {p.id for p in hand.plan.piece.parts}
    hand.go("timber")
    hand.press("Add")
    hand.go("breakdown")
    blanks = {b.id for b in hand.plan.breakdown.blanks}
    assert {"2.tail-board", "leg-fl"} <= blanks
    hand.go("piece")
    QTest.mouseClick(chip(hand, "Small table"), Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert hand.project.hand == "1"
    # all the way back, and forth again, and to a file and back
    last = hand.project
    while hand.session.history.can_undo:
        hand.key("Ctrl+Z")
    assert hand.project == first
    while hand.session.history.can_redo:
        hand.key("Ctrl+Shift+Z")
    assert hand.project == last
    file = tmp_path / "table.nullah"
    project_file.save(hand.project, file)
    assert project_file.load(file) == last


def test_a_free_piece_by_hand(qtbot, tmp_path):
    hand = opened(qtbot, fresh(), tmp_path)
    hand.go("piece")
    choose(hand, "kind of piece", "Free")
    QTest.mouseClick(chip(hand, "By hand"), Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    for name, sizes, at, face, edge in (
        ("post", ("300", "40", "40"), ("", "", ""), "front", "left"),
        ("rail", ("200", "60", "20"), ("40", "10", "200"), "front", "up"),
    ):
        for field, text in zip(("name", "length", "width", "thickness"), (name, *sizes), strict=True):
            hand.type_in(f"new part {field}", text)
        for field, text in zip(("from the left", "from the front", "up"), at, strict=True):
            if text:
                hand.type_in(f"new part {field}", text)
        choose(hand, "new part face", face)
        choose(hand, "new part upper edge", edge)
        hand.press("Add part")
        assert hand.plan.piece.parts, hand.note()
    assert [p.id for p in hand.plan.piece.parts] == ["post", "rail"]
    choose(hand, "joint first part", "rail")
    choose(hand, "joint second part", "post")
    choose(hand, "joint way", "left")
    choose(hand, "joint family", "mortise and tenon")
    hand.press("Add joint")
    assert hand.plan.joints.joints[0].family == "mortise_and_tenon"
    assert not hand.plan.joints.problem
    assert abs(part(hand, "rail").length - (200 + 40 * 2 / 3)) < 1e-9
    hand.session.light_part("rail")
    hand.window.view().refresh()
    hand.type_in("by hand thickness", "24")
    assert part(hand, "rail").thickness == 24
    hand.press("Take it away")
    assert [p.id for p in hand.plan.piece.parts] == ["post"]
    hand.key("Ctrl+Z")
    assert [p.id for p in hand.plan.piece.parts] == ["post", "rail"]


def test_a_box_with_a_corner_cut_is_made_one_s_own_and_gets_a_shelf(demo_hand):
    """What is measured, cut and laid out stays; the shelf goes into a dado of its own; all of it is undone."""
    hand = demo_hand
    hand.go("joints")
    before = hand.project
    corner = next(j for j in hand.plan.joints.joints if j.id == "corner A-B")
    hand.session.do(edit.mark_joint(hand.project, corner), "corner A-B is cut")
    sizes = {p.id: p.sizes for p in hand.plan.piece.parts}
    hand.go("piece")
    QTest.mouseClick(chip(hand, "By hand"), Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert not any(f.isVisible() for f in hand.window.findChildren(QLineEdit, "new part name"))
    hand.press("Make this piece my own")
    assert {p.id: p.sizes for p in hand.plan.piece.parts} == {k: pytest.approx(v, abs=1e-3) for k, v in sizes.items()}
    assert [m.joint for m in hand.project.joints_cut] == ["corner-A-B"]
    assert not [c for c in hand.plan.calls if c.conflict]
    assert hand.project.layout == before.layout
    for field, text in zip(("name", "length", "width", "thickness"), ("shelf", "80", "40", "6"), strict=True):
        hand.type_in(f"new part {field}", text)
    for field, text in zip(("from the left", "from the front", "up"), ("18", "40", "80"), strict=True):
        hand.type_in(f"new part {field}", text)
    choose(hand, "new part face", "up")
    choose(hand, "new part upper edge", "back")
    hand.press("Add part")
    choose(hand, "joint first part", "shelf")
    choose(hand, "joint second part", "D")
    choose(hand, "joint way", "left")
    choose(hand, "joint family", "dado")
    hand.press("Add joint")
    assert part(hand, "shelf").length == pytest.approx(80 + 6)
    assert hand.plan.joints.joints[-1].parts == ("D", "shelf")
    while hand.project != before:
        hand.key("Ctrl+Z")
    while hand.session.history.can_redo:
        hand.key("Ctrl+Shift+Z")
    assert part(hand, "shelf").length == pytest.approx(86)


def test_a_figure_typed_on_a_drawing_that_has_gone_gets_a_sentence(qtbot, tmp_path):
    """The field stood open over a table while a practice joint was taken in hand."""
    hand = opened(qtbot, fresh(), tmp_path)
    hand.go("piece")
    before = hand.project
    hand.window.view().canvas.typed.emit("asked.apron", "90")
    assert "not asked for apron" in hand.note()
    assert hand.project == before


def test_what_had_the_keyboard_may_be_gone_when_the_overlay_closes(qtbot, tmp_path):
    hand = opened(qtbot, fresh(), tmp_path)
    hand.go("piece")
    hand.find(QComboBox, "kind of piece")
    hand.window.view().sums.fields["chain 2 width"].setFocus()
    hand.window.open_overlay("doing")
    hand.session.undo()
    choose_kind = hand.window.view()._change_kind
    choose_kind("Small table")  # the sums are made anew
    QApplication.sendPostedEvents(None, 52)  # deferred deletion
    QApplication.processEvents()
    hand.window.overlay.close_overlay()
    assert hand.project.in_hand.kind == "small_table"


def test_a_standing_piece_is_turned_by_hand_by_keys_and_cut_open(demo_hand, qtbot):
    hand = demo_hand
    hand.go("piece")
    view = hand.window.view()
    view.upright.click()
    canvas = view.canvas
    canvas.grab()
    before = canvas.drawing.items
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=QPoint(6, 6))
    QTest.mouseMove(canvas, QPoint(46, 6))
    QTest.mouseMove(canvas, QPoint(86, 6))
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=QPoint(86, 6))
    assert view.looking.sight.turn == pytest.approx((28 - 40 * 0.5 - 40 * 0.5) % 360)
    assert canvas.drawing.items != before
    canvas.setFocus()
    QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert view.looking.sight.turn == pytest.approx((28 - 40 + 15) % 360)
    moving = sum(isinstance(i, Line) for i in canvas.drawing.items)
    qtbot.waitUntil(
        lambda: sum(isinstance(i, Line) for i in canvas.drawing.items) > moving
    )  # the wood has its figure again
    view.upright.click()  # standing already: as one first saw it
    assert canvas.drawing.items == before
    assert not view.looking.open_at.isVisible()
    view.looking.opening.setCurrentIndex(1)
    view.looking.opening.textActivated.emit(view.looking.opening.currentText())
    assert view.looking.open_at.isVisible()
    assert canvas.drawing.items != before
    view.looking.opening.setCurrentIndex(0)
    view.looking.opening.textActivated.emit(view.looking.opening.currentText())
    hand.session.light_part("A")
    view.refresh()
    view.looking.alone.click()
    assert {i.tag for i in canvas.drawing.items if isinstance(i, Area) and i.tag} == {"part:A"}


def test_the_table_of_parts_is_written_in_sorted_and_copied(qtbot, tmp_path):
    hand = opened(qtbot, piece_edits.change_kind(fresh(), plan(fresh()), "small_table"), tmp_path)
    hand.go("piece")
    view = hand.window.view()
    view.listed.click()
    table = view.parts_table.table
    assert table.isVisible()
    assert not view.canvas.isVisible()
    names = [table.item(r, 1).text() for r in range(table.rowCount())]
    assert len(names) == len(hand.plan.piece.parts)
    table.sortByColumn(2, Qt.SortOrder.AscendingOrder)
    lengths = [table.item(r, 2).data(Qt.ItemDataRole.UserRole) for r in range(table.rowCount())]
    assert lengths == sorted(lengths)
    at = next(r for r in range(table.rowCount()) if table.item(r, 1).text() == "top")
    table.item(at, 4).setText("24")
    assert part(hand, "top").thickness == 24
    at = next(r for r in range(table.rowCount()) if table.item(r, 1).text() == "top")
    table.item(at, 4).setText("many")  # said, and nothing is lost
    assert part(hand, "top").thickness == 24
    shown = {table.item(r, 1).text(): table.item(r, 4).text() for r in range(table.rowCount())}
    assert shown["top"] == "24"
    assert not table.item(at, 6).flags() & Qt.ItemFlag.ItemIsEditable
    table.selectRow(at)
    assert hand.session.lit_part == table.item(at, 0).data(Qt.ItemDataRole.UserRole + 1)
    chip(hand, "Copy as text").click()
    lines = QApplication.clipboard().text().splitlines()
    assert lines[0].split("\t")[:3] == ["piece", "part", "length"]
    assert any(line.split("\t")[1:2] == ["top"] for line in lines)
    chip(hand, "Wood").click()
    assert view.parts_table.wood.isVisible()
    hand.session.undo()
    view.flat.click()
    assert view.canvas.isVisible()
    assert part(hand, "top").thickness == 20


def test_a_part_that_no_longer_goes_in_is_told_once_it_is_known(qtbot, tmp_path):
    """The upper rail comes out thinner: what it does to the drawer is worked out beside the edit, and becomes a call."""
    hand = opened(qtbot, set_answer(fresh("small_table"), "drawer", True), tmp_path)
    hand.measure("upper rail thickness 16.5")
    qtbot.waitUntil(lambda: any(c.id.startswith("clash") for c in hand.plan.calls), timeout=15_000)
    call = next(c for c in hand.plan.calls if c.id.startswith("clash"))
    hand.session.take(call, call.options[0].id)
    hand.session.clashes.finish()
    assert not any(c.id.startswith("clash") and c.open for c in hand.plan.calls)
    hand.key("Ctrl+Z")
    qtbot.waitUntil(lambda: any(c.id.startswith("clash") for c in hand.plan.calls), timeout=15_000)


def test_what_was_done_and_is_no_step_any_more_is_told(demo_hand):
    hand = demo_hand
    hand.session.attempt(
        "a table", lambda: set_answer(piece_edits.add_piece(hand.project, "small_table"), "drawer", True)
    )
    glue = next(s for s in hand.plan.bench.steps if "rail-lower" in s.id and s.title == "Glue")
    hand.session.attempt("glued", lambda: with_done(hand.project, glue.id))
    assert "no longer" not in hand.note()
    hand.session.attempt("no drawer", lambda: piece_edits.set_answer(hand.project, "drawer", False))
    assert hand.note() == "no drawer. Done, and no longer to be done: Glue."
    hand.session.undo()
    assert any(s.id == glue.id and s.done for s in hand.plan.bench.steps)
