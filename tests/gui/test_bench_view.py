"""Bench view: dusty hands, two metres away, a timer that does not mind the program being closed."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from conftest import opened
from nullah import demo
from nullah.core.edits import edit
from nullah.formats import project_file
from nullah.gui.bench_view import lines_of

READ_AT = 2000.0  # mm
DOT = 25.4 / 96  # mm a pixel on a usual screen


@pytest.fixture
def bench(demo_hand):
    demo_hand.key("F11")
    return demo_hand.window.bench


def test_what_must_be_read_from_two_metres_is_large_enough(bench, qtbot):
    # common practice, no source: letters as high as a two-hundredth of the distance; a capital is 0.67 of the type's size
    wanted = READ_AT / 200 / DOT / 0.67
    for label in (bench.title, bench.figure):
        assert label.fontInfo().pixelSize() >= 0.85 * wanted * bench.height() / 1000
    assert bench.figure.fontInfo().pixelSize() >= wanted
    bench.window().resize(1920, 1080)
    QApplication.processEvents()
    assert bench.title.fontInfo().pixelSize() >= wanted
    assert bench.words.fontInfo().pixelSize() >= 0.85 * wanted


def test_a_step_is_read_line_by_line_and_every_word_comes(bench, demo_hand):
    steps = demo_hand.plan.bench.steps
    bench.at = next(i for i, s in enumerate(steps) if s.joint)
    bench.refresh()
    lines = lines_of(steps[bench.at])
    assert len(lines) > 3
    seen = [bench.words.text()]
    for _ in range(len(lines)):
        QTest.keyClick(bench, Qt.Key.Key_Down)
        seen.append(bench.words.text())
    assert " ".join(dict.fromkeys(seen)) == demo_hand.session.told(steps[bench.at].words)
    QTest.keyClick(bench, Qt.Key.Key_Up)
    assert bench.words.text() == demo_hand.session.told(lines[-2])


def test_space_and_back(bench, demo_hand):
    first = bench.step().id
    QTest.keyClick(bench, Qt.Key.Key_Space)  # what is open of the board is asked first
    assert demo_hand.project.done == ()
    assert "Saw it off or keep it? Suggested: saw it off" in bench.words.text()
    assert "Space again" in bench.words.text()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert demo_hand.project.done == (first,)
    assert "natural board 1 3" in {c.call for c in demo_hand.project.choices}
    QTest.keyClick(bench, Qt.Key.Key_Backspace)  # to the step before, then it is not done after all
    QTest.keyClick(bench, Qt.Key.Key_Backspace)
    assert demo_hand.project.done == ()
    QTest.keyClick(bench, Qt.Key.Key_End)
    bench.at = len(demo_hand.plan.bench.steps) - 1
    bench.refresh()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert "comes before it" in bench.words.text()


def test_the_wood_speaks_from_the_bench(bench, demo_hand):
    demo_hand.key("M")
    field = demo_hand.find(QLineEdit, "measured at the bench")
    QTest.keyClicks(field, "A thickness 17.4")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert demo_hand.plan.piece.in_hand.own.box.thickness["A"] == 17.4
    assert not field.isVisible()
    assert bench.isVisible()


def test_number_keys_take_no_call_while_the_calls_are_out_of_sight(bench, demo_hand):
    demo_hand.key("1")
    assert demo_hand.project.choices == ()


def test_the_timer_runs_on_while_the_program_is_closed(bench, demo_hand, qtbot, tmp_path):
    demo_hand.key("T")
    timed = demo_hand.project.timer
    assert timed.step == bench.step().id
    assert ":" in bench.clock.text()
    path = tmp_path / "box.nullah"
    demo_hand.session.save(path)
    demo_hand.window.close()
    an_hour_ago = "2026-03-14T09:00:00.000+00:00"
    kept = project_file.load(path)
    project_file.save(edit.changed(kept, timer=timed.model_copy(update={"started": an_hour_ago})), path)
    again = opened(qtbot, project_file.load(path), tmp_path)
    again.session.now = lambda: "2026-03-14T10:04:00.000+00:00"
    again.key("F11")
    assert again.window.bench.step().id == timed.step  # it opens on the step being timed
    assert again.window.bench.clock.text() == "1:04:00"
    for _ in range(2):  # what is open is asked first
        QTest.keyClick(again.window.bench, Qt.Key.Key_Space)
    assert again.project.timer is None
    assert [e.minutes for e in again.project.log if e.kind == "time"] == [64.0]


def test_a_version_1_project_opens_with_no_timer_and_no_shift(tmp_path):
    text = project_file.dumps(demo.box()).replace('"schema_version": 2', '"schema_version": 1')
    old = text.replace(',\n "timer": null', "").replace('\n   "divider_shift": [],', "")
    assert '"timer"' not in old
    assert '"divider_shift"' not in old
    assert project_file.loads(old) == demo.box()
