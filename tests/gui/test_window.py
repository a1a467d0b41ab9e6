"""The window by keys and mouse: calls, dimensions, drags, bad input, bench view, files."""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QProcess, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit

from nullah import demo
from nullah.core.planning.plan import STATIONS
from nullah.core.values.measure import told
from nullah.formats import project_file
from nullah.gui.side import OptionCard, SettingRow


def test_every_station_opens_from_the_course_and_by_keys(demo_hand):
    for station in STATIONS:
        demo_hand.go(station)
        assert demo_hand.window.view().isVisible()
    demo_hand.key("Alt+1")
    assert demo_hand.session.here == "piece"
    for station in STATIONS[1:]:
        demo_hand.key("PgDown")
        assert demo_hand.session.here == station


def test_a_call_is_taken_with_one_click_and_taken_back(demo_hand):
    demo_hand.go("joints")
    call = demo_hand.window.side.current_call()
    assert call.station == "joints"
    card = demo_hand.window.side.findChildren(OptionCard)[1]
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    assert demo_hand.plan.call(call.id).taken == call.options[1].id
    QApplication.processEvents()
    demo_hand.press("\u2713")
    assert demo_hand.plan.call(call.id).open


def test_what_is_altered_downstream_is_marked_until_seen(demo_hand):
    demo_hand.go("piece")
    demo_hand.type_in("contents.height", "120")
    assert {"breakdown", "joints"} <= demo_hand.session.altered
    demo_hand.go("joints")
    assert "joints" not in demo_hand.session.altered
    assert "breakdown" in demo_hand.session.altered


def test_a_setting_lights_its_lines(demo_hand):
    demo_hand.go("joints")
    demo_hand.key("A")  # all of them
    row = next(r for r in demo_hand.window.side.findChildren(SettingRow) if r.setting.tool == "dividers")
    QTest.mouseClick(row, Qt.MouseButton.LeftButton)
    canvas = demo_hand.window.view().canvas
    assert canvas.lit == f"setting:{row.setting.id}"
    assert any(item.tag == canvas.lit for item in canvas.drawing.items)


def test_a_size_is_typed_on_the_drawing(demo_hand):
    demo_hand.go("piece")
    canvas = demo_hand.window.view().canvas
    canvas.grab()
    box, _ = next((b, d) for b, d in canvas.renderer.dimension_boxes() if d.edit == "rod.height")
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
    field = canvas.findChild(QLineEdit, "dimension")
    QTest.keyClicks(field, "160")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert demo_hand.plan.piece.in_hand.own.box.outside[2] == pytest.approx(160)


def test_a_fault_is_dragged_and_one_undo_puts_it_back(demo_hand):
    demo_hand.go("timber")
    canvas = demo_hand.window.view().canvas
    canvas.grab()
    before = demo_hand.project
    knot = before.boards[0].defects[1]
    at = canvas.scale().to((knot.x + knot.length / 2, knot.y + knot.width / 2)).toPoint()  # the face lies lowest
    k = canvas.scale().k
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=at)
    for step in range(1, 6):
        QTest.mouseMove(canvas, at - QPoint(8 * step, 0))
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=at - QPoint(40, 0))
    moved = demo_hand.project.boards[0].defects[1]
    assert moved.x == pytest.approx(knot.x - 40 / k, abs=1.5 / k)
    assert moved.y == pytest.approx(knot.y, abs=1.5 / k)
    demo_hand.key("Ctrl+Z")
    assert demo_hand.project == before


def test_a_part_is_picked_and_marked_without_a_mouse(demo_hand):
    demo_hand.go("breakdown")
    view = demo_hand.window.view()
    view.canvas.setFocus()
    for _ in range(20):
        QTest.keyClick(view.canvas, Qt.Key.Key_Right)
        if view.chosen_part() is not None:
            break
    part = view.chosen_part()
    demo_hand.key("X")
    assert [m.part for m in demo_hand.project.cut] == [part.id]
    demo_hand.key("X")
    assert demo_hand.project.cut == ()


@pytest.mark.parametrize(
    ("station", "field", "words", "why"),
    [
        ("piece", "contents.width", "wide", "not a length"),
        ("piece", "contents.width", "0", "not more than zero"),
        ("piece", "contents.width", "-5", "not more than zero"),
        ("piece", "contents.width", "99999999", "longer than 100 m"),
        ("piece", "contents.width", "30 m", "must be at most 20000 mm"),
        ("piece", "contents.count", "many", "whole number"),
        ("piece", "contents.count", "0", "must be at least 1"),
        ("piece", "dividers", "-2", "must be at least 0"),
        ("piece", "contents.name", " ", "is empty"),
        ("timber", "board length", "x", "not a length"),
        ("timber", "board length", "10", "lies off"),
        ("timber", "board moisture", "wet", "not a number"),
        ("timber", "board moisture", "900", "moisture"),
        ("timber", "room humidity_dry", "99", "damper"),
        ("breakdown", "kit rip_kerf", "0", "must be more than 0 mm"),
        ("breakdown", "weights opening", "much", "not a number"),
        ("joints", "chisels", "6 big", "not a length"),
        ("together", "diagonal 1", "nought", "not a length"),
        ("together", "clamps", "two", "not a number"),
    ],
)
def test_bad_input_says_why_where_it_happened_and_changes_nothing(demo_hand, station, field, words, why):
    demo_hand.go(station)
    if station == "timber":
        demo_hand.below("the year" if field.startswith("room") else "in words")
    if field == "chisels":
        demo_hand.press("At hand")
    before = demo_hand.project
    shown = demo_hand.find(QLineEdit, field).text()
    demo_hand.type_in(field, words)
    assert why in demo_hand.note()
    assert demo_hand.project == before
    assert demo_hand.find(QLineEdit, field).text() == shown


def test_a_box_too_small_for_its_dividers_says_so_and_comes_back(demo_hand):
    demo_hand.go("piece")
    demo_hand.type_in("chain 0 total", "200")
    assert "needs 50.4" in demo_hand.window.view().trouble.text()
    demo_hand.type_in("chain 0 total", "60")
    assert "too small" in demo_hand.window.view().trouble.text()
    for station in STATIONS:
        demo_hand.go(station)
    demo_hand.key("Ctrl+Z", "Ctrl+Z")
    demo_hand.go("piece")
    assert not demo_hand.window.view().trouble.isVisible()


def test_measured_that_cannot_be_read_keeps_what_was_typed(demo_hand):
    demo_hand.measure("Q thickness 4")
    assert "no part" in demo_hand.note()
    assert demo_hand.find(QLineEdit, "measured").text() == "Q thickness 4"
    QTest.keyClick(demo_hand.find(QLineEdit, "measured"), Qt.Key.Key_Escape)
    assert not demo_hand.window.strip.field.isVisible()


def test_diagonals_tell_which_to_push(demo_hand):
    demo_hand.go("together")
    demo_hand.type_in("diagonal 1", "377")
    demo_hand.type_in("diagonal 2", "375")
    assert "push diagonal 1 shorter by 1" in demo_hand.window.view().verdict.text()
    demo_hand.type_in("diagonal 1", "375.2")
    assert "Square enough" in demo_hand.window.view().verdict.text()


def test_inches_are_shown_with_the_rounding_told_and_typed_back(demo_hand):
    demo_hand.press("mm")
    demo_hand.go("piece")
    assert demo_hand.project.units == "in"
    assert demo_hand.find(QLineEdit, "contents.width").text().startswith('3 5/16"')
    demo_hand.type_in("contents.width", "3 1/2")
    assert demo_hand.project.piece.contents.width == pytest.approx(88.9)
    for station in STATIONS:
        demo_hand.go(station)
        for shown in demo_hand.window.view().findChildren(QLabel):
            assert "\u2063" not in shown.text(), shown.text()
    demo_hand.go("joints")
    card = next(c for c in demo_hand.window.side.findChildren(OptionCard) if c.isVisible())
    assert '"' in card.option.consequences[0], "a call says inches where inches are shown"


def test_the_dark_theme_repaints_everything(demo_hand):
    light = demo_hand.window.grab().toImage().pixelColor(5, 400)
    demo_hand.press("Theme")
    dark = demo_hand.window.grab().toImage().pixelColor(5, 400)
    assert light.lightness() > 200 > 80 > dark.lightness()


def test_bench_view_needs_only_space_and_arrows(demo_hand):
    demo_hand.key("F11")
    bench = demo_hand.window.bench
    assert bench.isVisible()
    at, now = bench.at, demo_hand.plan.bench.now
    assert at == now
    for _ in range(2):  # what is open of the board is asked first
        QTest.keyClick(bench, Qt.Key.Key_Space)
    assert demo_hand.plan.bench.steps[at].done
    QTest.keyClick(bench, Qt.Key.Key_Right)
    assert bench.at == at + 2
    QTest.keyClick(bench, Qt.Key.Key_Left)
    for _ in range(len(demo_hand.plan.bench.steps)):
        QTest.keyClick(bench, Qt.Key.Key_Right)
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert "waits for" in demo_hand.note()
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.isVisible()


def test_steps_done_are_logged_with_their_minutes(demo_hand):
    demo_hand.go("bench")
    demo_hand.press("Start")
    demo_hand.bot.wait(5)
    QTest.mouseClick(demo_hand.window.strip.done_button, Qt.MouseButton.LeftButton)
    assert demo_hand.project.done == ()
    assert "Saw it off or keep it? Suggested: saw it off" in demo_hand.window.notice.words.text()
    demo_hand.press("Take what is suggested")
    assert len(demo_hand.project.done) == 1
    assert demo_hand.project.log[-1].kind == "time"
    demo_hand.type_in("note", "Sharpen before, not after.")
    assert demo_hand.project.log[-1].text == "Sharpen before, not after."


def test_saving_where_one_may_not_keeps_everything(demo_hand, tmp_path):
    demo_hand.measure("A thickness 17.4")
    before = demo_hand.project
    assert not demo_hand.session.save(tmp_path / "no such folder" / "x.nullah")
    assert "no such folder" in demo_hand.note()
    assert demo_hand.project == before
    assert demo_hand.session.unsaved


def test_a_broken_file_leaves_the_open_project(demo_hand, tmp_path):
    bad = tmp_path / "bad.nullah"
    bad.write_text('{"schema_version": 1, "piece": 4}')
    before = demo_hand.project
    assert not demo_hand.session.open(bad)
    assert "bad.nullah cannot be read" in demo_hand.note()
    assert demo_hand.project == before


def test_export_from_the_window(demo_hand, tmp_path):
    demo_hand.window.files.export_to(tmp_path)
    demo_hand.window.files.export_to(tmp_path / "once more")
    assert "still being written" in demo_hand.note()
    demo_hand.written()
    assert "shop-sheet.pdf" in demo_hand.note()
    assert not (tmp_path / "once more").exists()
    for name in ("cut-list.csv", "full-size.pdf", "standing.svg", "layout.svg"):
        assert (tmp_path / name).stat().st_size > 500


def test_an_export_that_cannot_be_written_or_breaks_off_says_so(demo_hand, tmp_path):
    (tmp_path / "file").write_text("in the way")
    demo_hand.window.files.export_to(tmp_path / "file")
    demo_hand.written()
    assert "Could not save file" in demo_hand.note()
    assert (tmp_path / "file").read_text() == "in the way"
    demo_hand.window.files.export_to(tmp_path / "shop")
    exporter = demo_hand.window.files.exporter
    (writes,) = (p for p in exporter.findChildren(QProcess) if p.state() != QProcess.ProcessState.NotRunning)
    assert writes.waitForStarted()
    writes.kill()
    demo_hand.written()
    assert "broke off" in demo_hand.note()
    assert not list(tmp_path.glob("shop/*.pdf"))


def test_a_new_project_opens_on_a_practice_box_and_an_empty_rack(hand):
    hand.go("timber")
    assert hand.window.view().empty.isVisible()
    hand.press("Add fault")
    assert "Add a board first" in hand.note()
    hand.go("trueup")
    hand.press("Add")
    assert "Add a board" in hand.note()
    for station in STATIONS:
        hand.go(station)


def test_a_board_thinner_than_the_part_says_so(hand):
    hand.go("timber")
    hand.press("Add a board")
    hand.type_in("board thickness", "12")
    hand.wait_for_call("layout")
    call = hand.plan.call("layout")
    assert any(
        "needs 18 thick; the thickest yellow-poplar is 12" in told(line)
        for o in call.options
        for line in o.consequences
    )


def test_other_species_can_be_picked(demo_hand):
    demo_hand.go("piece")
    box = demo_hand.find(QComboBox, "wall species")
    box.setFocus()
    QTest.keyClicks(box, "sugar")
    assert demo_hand.project.piece.wall_species == "sugar maple"
    assert any("sugar maple" in p or "species" in p or "is to be" in p for p in demo_hand.plan.breakdown.problems)


@pytest.mark.xvfb
@pytest.mark.skipif(shutil.which("xvfb-run") is None, reason="no Xvfb here")
def test_the_demo_opens_in_a_real_window():
    program = Path(sys.executable).with_name("nullah")
    done = subprocess.run(
        ["xvfb-run", "--auto-servernum", "env", "-u", "QT_QPA_PLATFORM", str(program), "--demo", "--once"],
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 0, done.stderr


@pytest.mark.skipif(not os.environ.get("NULLAH_SOAK"), reason="a picture of every view takes long: in the soak")
def test_soak_the_pictures_are_made_from_the_demo(tmp_path):
    done = subprocess.run(
        [sys.executable, "-m", "nullah.cli", "shots", str(tmp_path / "s")], capture_output=True, timeout=120, check=True
    )
    names = done.stdout.decode().split()
    assert len(names) == len(STATIONS) + 12
    assert project_file.dumps(demo.box()) == project_file.dumps(demo.box())
