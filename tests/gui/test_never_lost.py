"""What one did is not lost: a crash, another hand on the file, a project left without saving."""

import os
import sys

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import opened
from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import edit
from nullah.core.edits.piece_edits import fresh
from nullah.formats import project_file
from nullah.gui import files, problems
from nullah.gui.session import Session


def crashed(path, folder, name):
    """A session that edits and is gone without a word."""
    session = Session(project_file.load(path) if path else Project(), path, folder)
    session.do(edit.changed(session.project, name=name), "renamed")
    session.write_recovery()
    session.close()


def offers(hand):
    assert hand.window.notice.isVisible()
    return {b.text(): b for b in hand.window.notice.buttons}


def take(hand, words):
    QTest.mouseClick(offers(hand)[words], Qt.MouseButton.LeftButton)
    QApplication.processEvents()


@pytest.fixture
def box(tmp_path):
    path = tmp_path / "box.nullah"
    project_file.save(Project(name="as saved"), path)
    return path


def test_work_of_a_crashed_session_is_offered_and_brought_back(qtbot, tmp_path, box):
    crashed(box, tmp_path / "recovery", "before the crash")
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.open_path(box)
    assert hand.project.name == "as saved"
    assert "kept when the program last ended" in hand.window.notice.words.text()
    take(hand, "Bring it back")
    assert hand.project.name == "before the crash"
    assert hand.session.unsaved
    hand.key("Ctrl+Z")
    assert hand.project.name == "as saved"
    hand.key("Ctrl+Shift+Z", "Ctrl+S")
    assert project_file.load(box).name == "before the crash"
    assert not [f for f in tmp_path.iterdir() if f.name.endswith(".recovery")]


def test_work_laid_aside_stays_a_project_of_its_own(qtbot, tmp_path, box):
    crashed(box, tmp_path / "recovery", "before the crash")
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.open_path(box)
    take(hand, "Leave it aside")
    kept = [f for f in tmp_path.glob("*.nullah") if f != box]
    assert [project_file.load(f).name for f in kept] == ["before the crash"]
    assert hand.project.name == "as saved"


def test_an_offer_not_answered_is_made_again(qtbot, tmp_path, box):
    crashed(box, tmp_path / "recovery", "first crash")
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.open_path(box)
    hand.session.do(edit.changed(hand.project, name="second"), "renamed")
    hand.session.write_recovery()  # this session's recovery does not write over what it offers
    names = {k.project.name for k in Session(project_file.load(box), box, tmp_path).recovery.found(box, Project())}
    assert names == {"first crash", "second"}


def test_work_without_a_name_is_found_unless_its_session_still_runs(qtbot, tmp_path):
    folder = tmp_path / "recovery"
    at_work = Session(Project(), None, folder)
    at_work.do(edit.changed(at_work.project, name="at work"), "renamed")
    at_work.write_recovery()
    crashed(None, folder, "nameless")
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.offer_kept()
    take(hand, "Bring it back")
    assert hand.project.name == "nameless"
    at_work.close()
    assert [k.project.name for k in hand.session.recovery.found(None, Project())] == ["at work"]


def test_work_of_a_killed_process_is_found_though_its_number_is_another_s(qapp, tmp_path):
    """The number of the process says nothing: here it is that of one that runs for ever."""
    path = tmp_path / f"unsaved-1-120000{project_file.SUFFIX}.recovery"  # as earlier versions named it
    project_file.save(Project(name="nameless"), path)
    session = Session(Project(), None, tmp_path)
    assert [k.project.name for k in session.recovery.found(None, Project())] == ["nameless"]
    session.close()


def test_two_windows_on_one_project_keep_each_its_own_edits(qapp, tmp_path, box):
    folder = tmp_path / "recovery"
    pair = [Session(project_file.load(box), box, folder) for _ in range(2)]
    for name, session in zip(("first", "second"), pair, strict=True):
        session.do(edit.changed(session.project, name=name), "renamed")
        session.write_recovery()
    third = Session(project_file.load(box), box, folder)
    assert third.recovery.found(box, third.project) == ()  # both are at work
    for session in pair:
        session.close()
    assert {k.project.name for k in third.recovery.found(box, third.project)} == {"first", "second"}
    third.close()


def test_a_file_may_have_a_name_that_is_no_text(qtbot, tmp_path):
    hand = opened(qtbot, Project(), tmp_path)
    path = tmp_path / os.fsdecode(b"odd\xff.nullah")
    assert hand.session.save(path)
    assert hand.project.name == "odd?"
    assert "odd?.nullah" in hand.window.state.text()
    assert hand.session.open(path)
    assert hand.project.name == "odd?"
    path.write_bytes(b"\xff")
    said = []
    hand.session.said.connect(lambda words, wrong: said.append(words))
    assert not hand.session.open(path)
    assert said == ["odd?.nullah is not text: byte 0 is not UTF-8."]


def test_recovery_goes_by_the_whole_name(qapp, tmp_path, box):
    other = tmp_path / "box.nullah.old.nullah"
    long = tmp_path / ("\N{LATIN SMALL LETTER E WITH ACUTE}" * 110 + ".nullah")
    for path in (other, long):
        project_file.save(Project(name="as saved"), path)
        crashed(path, tmp_path / "recovery", f"work on {path.name[:12]}")
    session = Session(project_file.load(box), box, tmp_path / "recovery")
    assert session.recovery.found(box, session.project) == ()
    for path in (other, long):
        assert [k.project.name for k in session.recovery.found(path, session.project)] == [f"work on {path.name[:12]}"]
    session.close()


def test_work_left_four_times_within_a_second_is_four_works(qtbot, tmp_path):
    hand = opened(qtbot, Project(), tmp_path)
    for n in range(4):
        hand.session.do(edit.changed(hand.project, name=f"work {n}"), "renamed")
        hand.begin_anew()
    kept = {project_file.load(f).name for f in (tmp_path / "recovery").glob("left-*.nullah")}
    assert kept == {f"work {n}" for n in range(4)}


@pytest.mark.parametrize("leave", ["new", "open", "close"])
def test_where_nothing_can_be_kept_nothing_is_left(qtbot, tmp_path, box, leave, monkeypatch):
    (tmp_path / "recovery").write_text("a plain file stands there")
    hand = opened(qtbot, Project(), tmp_path)
    hand.session.do(edit.changed(hand.project, name="hours of work"), "renamed")

    def go():
        if leave == "open":
            hand.window.files.open_path(box)
        elif leave == "new":
            hand.begin_anew()
        else:
            hand.window.close()
        QApplication.processEvents()

    go()
    assert hand.project.name == "hours of work"
    assert hand.window.isVisible()
    assert "could not be kept" in hand.window.notice.words.text()
    take(hand, "Stay here")
    assert hand.project.name == "hours of work"
    elsewhere = tmp_path / "elsewhere.nullah"
    monkeypatch.setattr(files.QFileDialog, "getSaveFileName", lambda *_: (str(elsewhere), ""))
    go()
    take(hand, "Save it elsewhere")
    assert project_file.load(elsewhere).name == "hours of work"
    gone_on = {"new": Project().name, "open": "as saved", "close": "hours of work"}
    assert hand.project.name == gone_on[leave]
    assert hand.window.isVisible() == (leave != "close")


def test_a_file_that_cannot_be_read_leaves_the_work_where_it_is(qtbot, tmp_path):
    hand = opened(qtbot, Project(), tmp_path)
    hand.session.do(edit.changed(hand.project, name="mine"), "renamed")
    hand.window.files.open_path(tmp_path / "none.nullah")
    assert hand.project.name == "mine"
    assert not hand.window.notice.isVisible()


def test_what_nobody_foresaw_is_said_written_down_and_changes_nothing(qtbot, tmp_path, monkeypatch):
    hand = opened(qtbot, demo.box(), tmp_path)
    before, plan = hand.project, hand.plan
    log = tmp_path / "logs" / "problems.log"
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    problems.watch(hand.session.said.emit, log)

    def fails(*_):
        raise ZeroDivisionError("a fault put in by the test")

    monkeypatch.setattr("nullah.core.planning.plan.together.work", fails)
    with pytest.raises(ZeroDivisionError) as raised:
        hand.session.do(edit.set_in(before, "kit", "clamps", 3), "clamps")
    sys.excepthook(raised.type, raised.value, raised.tb)  # as the event loop does with what nobody caught
    assert "nothing was changed" in hand.note()
    assert "a fault put in by the test" in log.read_text()
    assert (hand.project, hand.session.plan) == (before, plan)
    monkeypatch.undo()
    hand.session.do(edit.set_in(before, "kit", "clamps", 3), "clamps")
    assert hand.project.kit.clamps == 3


def test_a_file_changed_outside_is_noticed_and_either_side_can_be_kept(qtbot, tmp_path, box):
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.open_path(box)
    hand.session.do(edit.changed(hand.project, name="mine"), "renamed")
    project_file.save(Project(name="theirs, and longer"), box)
    qtbot.waitUntil(hand.window.notice.isVisible, timeout=5000)
    assert "changed by something else" in hand.window.notice.words.text()
    take(hand, "Take theirs")
    assert hand.project.name == "theirs, and longer"
    hand.key("Ctrl+Z")
    assert hand.project.name == "mine"
    project_file.save(Project(name="theirs once more"), box)
    qtbot.waitUntil(hand.window.notice.isVisible, timeout=5000)
    take(hand, "Keep mine")
    assert hand.session.unsaved
    hand.key("Ctrl+S")
    assert project_file.load(box).name == "mine"


def test_saving_over_what_another_wrote_asks_first(qtbot, tmp_path, box, monkeypatch):
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.open_path(box)
    QApplication.processEvents()
    monkeypatch.setattr(hand.window.files, "look_outside", lambda: None)  # as if the watcher had not told yet
    hand.session.do(edit.changed(hand.project, name="mine"), "renamed")
    project_file.save(Project(name="theirs, and longer"), box)
    hand.key("Ctrl+S")
    assert project_file.load(box).name == "theirs, and longer"
    take(hand, "Save over it")
    assert project_file.load(box).name == "mine"
    assert project_file.load(box.with_name("box.nullah~")).name == "theirs, and longer"


def test_what_is_left_unsaved_for_another_project_can_be_gone_back_to(qtbot, tmp_path):
    hand = opened(qtbot, demo.box(), tmp_path)
    hand.measure("A thickness 17.4")
    left = hand.project
    hand.begin_anew()
    assert hand.project == fresh()
    take(hand, "Go back to it")
    assert hand.project == left


def test_editing_without_a_pause_is_kept_all_the_same(qtbot, tmp_path):
    hand = opened(qtbot, Project(), tmp_path)
    hand.session._autosave.setInterval(60)
    for i in range(12):
        hand.session.do(edit.changed(hand.project, name=f"name {i}"), "renamed")
        qtbot.wait(20)
    file = hand.session.recovery.place(None)
    assert file.exists()
    assert project_file.load(file).name != "New project"
