"""What one sees is seen whole: figures inside their drawing, fields as wide as what they hold, calls with all options, rows uncut."""

import pytest
from PySide6.QtCore import QPoint, QRect
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit, QPushButton, QWidget

from conftest import opened
from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import board_readings, edit, piece_edits
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import STATIONS, plan
from nullah.gui.paint.canvas import Canvas
from nullah.gui.piece.view import PieceView
from nullah.gui.side import CallCard, OptionCard, SettingRow
from nullah.gui.widgets import Lines

SIZES = [(1280, 800), (1024, 700)]


def shown(qtbot, tmp_path, size, units, project=None):
    project = edit.changed(project or demo.box(), units=units, denominator=32)
    hand = opened(qtbot, project, tmp_path)
    hand.window.resize(*size)
    QApplication.processEvents()
    return hand


@pytest.mark.parametrize("size", SIZES, ids=["1280", "1024"])
@pytest.mark.parametrize("units", ["mm", "in"])
def test_figures_and_fields_are_never_cut_off(qtbot, tmp_path, size, units):
    hand = shown(qtbot, tmp_path, size, units)
    seen = 0
    for station in (*STATIONS, "joints, what is at hand"):
        hand.go(station.partition(",")[0])
        if "," in station:
            hand.press("At hand")
        hand.window.grab()
        assert (hand.window.width(), hand.window.height()) == size, station
        for canvas in (c for c in hand.window.findChildren(Canvas) if c.isVisible()):
            for box, dimension in canvas.renderer.dimension_boxes():
                seen += 1
                assert canvas.rect().adjusted(-2, -2, 2, 2).contains(box.toRect()), (station, dimension.mm, box)
        for field in (f for f in hand.window.findChildren(QLineEdit) if f.isVisible() and f.objectName()):
            wide = field.fontMetrics().horizontalAdvance(field.text())
            assert wide <= field.width() - 8, (station, field.objectName(), field.text())
        for box in (b for b in hand.window.findChildren(QComboBox) if b.isVisible()):
            assert box.fontMetrics().horizontalAdvance(box.currentText()) <= box.width() - 24, (
                station,
                box.objectName(),
            )
        for button in (b for b in hand.window.findChildren(QPushButton) if b.isVisible() and b.objectName() != "link"):
            assert button.width() >= button.sizeHint().width() - 1, (station, button.text())
            assert hand.window.rect().contains(QRect(button.mapTo(hand.window, QPoint(0, 0)), button.size())) or (
                button.visibleRegion().isEmpty()
            ), (station, button.text())
    assert seen > 20


def cut_in_half(area, kinds):
    """Widgets of some kinds in a scroll area of which only a part is seen."""
    room = area.viewport()
    inside = [w for w in area.widget().findChildren(QWidget) if isinstance(w, kinds) and w.isVisibleTo(area)]
    boxes = [(w, QRect(w.mapTo(room, QPoint(0, 0)), w.size())) for w in inside]
    return [w for w, box in boxes if box.intersects(room.rect()) and not room.rect().contains(box)]


@pytest.mark.parametrize("units", ["mm", "in"])
@pytest.mark.parametrize("kind", sorted(KINDS))
def test_no_line_of_a_sum_is_cut_in_half(qtbot, tmp_path, kind, units):
    hand = shown(qtbot, tmp_path, (1280, 800), units, piece_edits.change_kind(demo.box(), plan(demo.box()), kind))
    hand.go("piece")
    view = hand.window.findChild(PieceView)
    QApplication.processEvents()
    hand.window.grab()
    assert view.sums_area.isVisible()
    assert cut_in_half(view.sums_area, (QLabel, QLineEdit)) == []
    assert view.canvas.height() >= 150


@pytest.mark.parametrize("size", SIZES, ids=["1280", "1024"])
@pytest.mark.parametrize("kind", ["dovetailed_box", "small_table"])
def test_by_hand_leaves_the_drawing_its_room_and_no_row_is_cut_in_half(qtbot, tmp_path, size, kind):
    project = piece_edits.change_kind(demo.box(), plan(demo.box()), kind)
    if kind == "dovetailed_box":
        project = piece_edits.make_mine(project, plan(project))
    hand = shown(qtbot, tmp_path, size, "in", project)
    hand.go("piece")
    view = hand.window.findChild(PieceView)
    view.hand.click()
    hand.window.session.light_part(hand.plan.piece.parts[0].id)
    view.refresh()
    QApplication.processEvents()
    hand.window.grab()
    room = view.hand_area.viewport()
    kinds = (QLineEdit, QComboBox, QPushButton)
    rows = [w for w in view.by_hand.findChildren(QWidget) if isinstance(w, kinds) and w.isVisibleTo(view)]
    whole = [QRect(w.mapTo(room, QPoint(0, 0)), w.size()) for w in rows]
    assert sum(room.rect().contains(box) for box in whole) >= 8
    assert cut_in_half(view.hand_area, kinds) == []
    for box in (r for r in rows if isinstance(r, QComboBox)):
        assert box.fontMetrics().horizontalAdvance(box.currentText()) <= box.width() - 24, box.objectName()
    assert view.canvas.height() >= 150
    assert view.rect().contains(QRect(view.hand_area.mapTo(view, QPoint(0, 0)), view.hand_area.size()))
    _, low, _, top = view.canvas.drawing.extent()
    assert (top - low) * view.canvas.scale().k >= 0.4 * view.canvas.height()  # not all of it is figures
    boxes = [box for box, _ in view.canvas.renderer.dimension_boxes()]
    assert boxes
    for i, box in enumerate(boxes):
        assert view.canvas.rect().adjusted(-2, -2, 2, 2).contains(box.toRect())
        assert not any(box.adjusted(4, 4, -4, -4).intersects(other) for other in boxes[i + 1 :])


@pytest.mark.parametrize("size", [*SIZES, (1150, 743)], ids=["1280", "1024", "1150"])
@pytest.mark.parametrize("units", ["mm", "in"])
def test_no_row_of_the_table_of_parts_is_cut_in_half(qtbot, tmp_path, size, units):
    hand = shown(qtbot, tmp_path, size, units, demo.project())
    hand.go("piece")
    hand.window.view().show_table()
    hand.window.grab()
    table = hand.window.view().parts_table.table
    shows = table.viewport().height()
    spans = [(table.rowViewportPosition(n), table.rowHeight(n)) for n in range(table.rowCount())]
    seen = [top + tall for top, tall in spans if top < shows]
    assert 0 < len(seen) < table.rowCount()
    assert max(seen) <= shows


@pytest.mark.parametrize("units", ["mm", "in"])
def test_a_call_with_three_options_is_seen_whole_and_no_setting_is_cut_in_half(qtbot, tmp_path, units):
    hand = shown(qtbot, tmp_path, (1280, 800), units)
    project = hand.project
    for kind, x, more in (("loose knot", 600, {"depth": 3.0}), ("run-out", 200, {"angle": 12.0}), ("stain", 900, {})):
        project, fault = board_readings.mark_fault(project, "board 1", kind, "face", (x, 50), (x + 60, 90))
        project = board_readings.change_fault(project, "board 1", fault, **more)
    hand.session.do(edit.held(project, readings=()), "read")
    threes = [c for c in hand.plan.open_calls() if len(c.options) == 3]
    assert {c.id.split()[0] for c in threes} >= {"sap", "near", "load", "end"}
    for call in [*threes, *hand.plan.open_calls()]:
        hand.window.show_call(call.id)
        QApplication.processEvents()
        area = hand.window.side.calls_area.viewport()
        for card in hand.window.side.findChildren(OptionCard):
            if card.isVisible():
                inside = QRect(card.mapTo(area, QPoint(0, 0)), card.size())
                assert area.rect().contains(inside), (call.id, card.option.label)
        rows = [r for r in hand.window.side.findChildren(SettingRow) if r.isVisible()]
        room = hand.window.side.settings_area.viewport()
        for row in rows:
            assert room.rect().contains(QRect(row.mapTo(room, QPoint(0, 0)), row.size())), (call.id, row.tool)


def test_matters_of_taste_stand_apart_and_nothing_waits_for_them(qtbot, tmp_path):
    hand = shown(qtbot, tmp_path, (1280, 800), "mm", Project(pieces=(KINDS["practice_joint"].piece({}),)))
    hand.go("joints")
    side, tastes = hand.window.side, [c for c in hand.plan.open_calls() if c.taste]
    assert len(tastes) > 2
    assert [c for c in hand.plan.open_calls() if c.waits] == []

    def said():
        return {w.text() for w in side.findChildren(QLabel) if w.isVisible()}

    assert {"Your call", "Nothing waits for a decision.", f"As you like to work  ({len(tastes)})"} <= said()
    assert not [c for c in side.findChildren(OptionCard) if c.isVisible()]
    assert "wait" not in hand.window.course.about("joints")
    hand.key("2")  # no call is laid out: there is nothing to take
    assert not hand.project.choices
    hand.window.show_call("school first")
    hand.key("2")
    assert hand.project.choices[-1].option == "pins"
    assert f"As you like to work  ({len(tastes) - 1})" in said()
    assert "Settled" in said()


def test_the_calls_that_wait_come_before_matters_of_taste(demo_hand):
    demo_hand.go("joints")
    shown = demo_hand.window.side.shown_calls()
    waiting = [c for c in shown if c.waits]
    assert 0 < len(waiting) < len(shown)
    assert shown[: len(waiting)] == waiting
    assert demo_hand.window.side.calls_head.text() == f"Your call  ({len(waiting)})"
    here = sum(c.station == "joints" for c in waiting)
    assert f"{here} call" in demo_hand.window.course.about("joints")


def test_all_settings_are_on_a_key(demo_hand):
    hand = demo_hand
    hand.go("joints")
    many = len(hand.plan.joints.settings)
    count = lambda: len([r for r in hand.window.side.findChildren(SettingRow) if r.isVisibleTo(hand.window)])  # noqa: E731
    assert count() < many
    hand.key("A")
    assert count() == many


def test_lines_of_the_strip_keep_clear_of_each_other_whatever_they_say(demo_hand):
    strip = demo_hand.window.strip
    for words in ("short", "long " * 200, "w" * 900):
        strip.say(words, True)
        strip.words.show_text(words)
        strip.caution.show_text(words)
        QApplication.processEvents()
        lines = [w for w in strip.findChildren(Lines) if w.isVisible()]
        boxes = [QRect(w.mapTo(strip, QPoint(0, 0)), w.size()) for w in lines]
        for i, box in enumerate(boxes):
            assert strip.rect().contains(box)
            assert not any(box.intersects(other) for other in boxes[i + 1 :])
        assert strip.note.whole == words
        assert words[:4] in strip.words.toolTip()


def test_the_window_does_not_grow_by_itself(demo_hand):
    hand = demo_hand
    hand.window.resize(1024, 700)
    for station in STATIONS:
        hand.go(station)
        hand.session.said.emit("a long sentence " * 60, False)
        hand.window.notice.say("another long sentence " * 30, ("Fine", lambda: None))
        QApplication.processEvents()
        assert (hand.window.width(), hand.window.height()) == (1024, 700)


def test_a_project_has_a_name_that_follows_its_file_and_can_be_changed(hand, tmp_path):
    assert hand.session.save(tmp_path / "tins.nullah")
    assert hand.project.name == "tins"
    hand.session.save(tmp_path / "jars.nullah")
    assert hand.project.name == "jars"
    hand.type_in("project name", "For the seed library")
    assert hand.project.name == "For the seed library"
    hand.session.save(tmp_path / "third.nullah")
    assert hand.project.name == "For the seed library"  # somebody named it
    assert "For the seed library" in hand.window.windowTitle()


def test_where_one_begins(hand):
    assert hand.window.focusWidget() is hand.window.view().canvas
    step = hand.window.strip.step()
    assert step.id == "wood"
    assert "under Timber" in hand.window.strip.words.whole
    assert hand.project == Project()


def test_of_many_boards_any_is_found(qtbot, tmp_path):
    first = demo.box()
    more = [first.boards[i % 4].model_copy(update={"id": f"m{i}", "name": f"More {i}"}) for i in range(60)]
    hand = shown(qtbot, tmp_path, (1280, 800), "mm", edit.changed(first, boards=(*first.boards, *more)))
    hand.go("timber")
    view = hand.window.view()
    assert view.rack.list.count() == 64
    QTest.keyClicks(hand.find(QLineEdit, "find boards"), "larch loose")
    assert {b.species for b in view.rack.boards()} == {"western larch"}
    assert view.rack.list.count() == 16
    hand.window.show_board("m55")
    assert "board:m55" in view.canvas.tags()
    assert view.board().name == "More 55"


def test_a_long_record_is_shown_from_its_end_and_more_when_asked(hand):
    project = hand.project
    for n in range(700):
        project = edit.logged(project, "note", f"line {n}")
    hand.session.do(project, "written")
    hand.go("bench")
    log = hand.window.view().log
    assert "line 699" in log.item(0).text()
    assert log.count() == 301
    log.setCurrentRow(log.count() - 1)
    log.itemActivated.emit(log.currentItem())
    assert log.count() == 601


def test_undo_while_something_is_pulled(demo_hand):
    hand = demo_hand
    hand.go("timber")
    before = hand.project
    board = before.boards[0]
    hand.session.do(edit.put_board(before, board.model_copy(update={"length": 1700.0})), "longer")
    hand.session.pull("edge:board 1/length", 20.0, 0.0, False)
    hand.session.undo()
    assert hand.project == before
    hand.session.pull("fault:board 1/1", 5.0, 0.0, False)
    hand.session.do(edit.put_board(before, board.model_copy(update={"defects": ()})), "no faults")
    hand.session.pull("fault:board 1/1", 6.0, 0.0, True)  # the hand lets go of what is no longer there
    assert "no longer here" in hand.note()
    assert hand.session.plan.project == hand.project


def test_what_stays_as_it_was_beside_an_edit_stays_the_widget_it_is(demo_hand):
    side = demo_hand.window.side
    demo_hand.go("timber")
    card = next(c for c in side.findChildren(OptionCard) if c.isVisible())
    card.setFocus()
    demo_hand.session.do(edit.set_piece(demo_hand.project, "wiggle", 3.0), "wiggle")
    QApplication.processEvents()
    assert card.isVisible()
    assert card.hasFocus()
    calls = [c.id for c in side.shown_calls()]
    card.taken.emit(card.option.id)
    QApplication.processEvents()
    assert not any(c is card and c.isVisible() for c in side.findChildren(OptionCard))
    assert [c.id for c in side.shown_calls()] != calls
    assert side.findChildren(OptionCard)
    tops = [
        w.mapTo(side.calls_area.widget(), QPoint(0, 0)).y()
        for w in side.calls_area.findChildren(CallCard)
        if w.isVisible()
    ]
    assert tops == [0]  # what is laid out stands first


def test_a_call_is_never_seen_squeezed_while_it_is_laid_out(demo_hand):
    """What is painted before the next turn of the event loop: each option as high as its words want."""
    hand = demo_hand
    hand.session.do(demo.after_some_work(hand.project), "some work")
    for station in ("breakdown", "piece", "joints"):
        hand.window.go(station)
        hand.session.do(edit.set_piece(hand.project, "wiggle", hand.project.piece.wiggle + 0.5), "wiggle")
        cards = [c for c in hand.window.side.findChildren(OptionCard) if c.isVisible()]
        assert cards
        for card in cards:
            assert card.height() >= card.layout().totalHeightForWidth(card.width()), (station, card.option.label)
