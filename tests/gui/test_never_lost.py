"""What one did is not lost: a crash, another hand on the file, a project left without saving."""

import os

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import opened
from nullah.core import demo, edit
from nullah.core.document import Project
from nullah.formats import project_file
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
    hand.session.write_recovery()  # this session's keeping does not write over what it offers
    names = {k.project.name for k in Session(project_file.load(box), box, tmp_path).keeping.found(box, Project())}
    assert names == {"first crash", "second"}


def test_work_without_a_name_is_found_unless_its_program_still_runs(qtbot, tmp_path):
    folder = tmp_path / "recovery"
    crashed(None, folder, "nameless")
    mine = next(folder.iterdir())
    session = Session(Project(), None, folder)
    assert session.keeping.found(None, Project()) == ()  # this very process made it, and it runs
    gone = mine.rename(folder / mine.name.replace(str(os.getpid()), "999999999"))
    hand = opened(qtbot, Project(), tmp_path)
    hand.window.files.offer_kept()
    take(hand, "Bring it back")
    assert hand.project.name == "nameless"
    assert not gone.exists()
    session.close()


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
    hand = opened(qtbot, demo.project(), tmp_path)
    hand.measure("A thickness 17.4")
    left = hand.project
    hand.key("Ctrl+N")
    assert hand.project == Project()
    take(hand, "Go back to it")
    assert hand.project == left


def test_editing_without_a_pause_is_kept_all_the_same(qtbot, tmp_path):
    hand = opened(qtbot, Project(), tmp_path)
    hand.session._autosave.setInterval(60)
    for i in range(12):
        hand.session.do(edit.changed(hand.project, name=f"name {i}"), "renamed")
        qtbot.wait(20)
    file = hand.session.keeping.place(None)
    assert file.exists()
    assert project_file.load(file).name != "New project"
