"""What could do harm: names drawn as markup, other programs' files, half-done openings, work that is nowhere on the disk."""

import ast
import re
import stat
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtWidgets import QApplication, QLabel, QListWidget, QToolTip, QWidget

import nullah.gui
from conftest import opened
from nullah import demo
from nullah.cli import main
from nullah.core.document.pieces import Designed, Put
from nullah.core.document.project import Project
from nullah.core.edits import edit
from nullah.core.edits.piece_edits import fresh
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.formats import project_file
from nullah.formats.writing import write_whole
from nullah.gui import session as sessions
from nullah.gui.session import Session
from nullah.gui.tips import plain

MARKUP = 'B <img src="pipe"> <b>x</b>'


def test_no_name_is_drawn_as_markup_anywhere(qtbot, tmp_path):
    """Every label is set to plain text, every tip escaped, at every station; and a tip shows what was typed."""
    project = demo.project()
    boards = tuple(edit.changed(b, name=f"{MARKUP}{n}") for n, b in enumerate(project.boards))
    pieces = tuple(edit.changed(p, name=f"{MARKUP}{p.id}") for p in project.pieces)
    hand = opened(qtbot, edit.changed(project, boards=boards, pieces=pieces, name=MARKUP), tmp_path)
    tips = []
    for station in ("timber", "breakdown", "trueup", "joints", "together", "bench", "piece"):
        hand.go(station)
        for widget in hand.window.findChildren(QWidget):
            tips.append(widget.toolTip())
            if isinstance(widget, QLabel):
                assert widget.textFormat() == Qt.TextFormat.PlainText, widget.text()
            if isinstance(widget, QListWidget):
                tips += [widget.item(i).toolTip() for i in range(widget.count())]
    told = [t for t in tips if "img" in t]
    assert told
    assert not [t for t in told if "<img" in t or "<b>" in t]
    title = hand.window.state
    title.setToolTip(plain(MARKUP))
    at = QPoint(2, 2)
    QApplication.sendEvent(title, QHelpEvent(QEvent.Type.ToolTip, at, title.mapToGlobal(at)))
    assert "&lt;img" in QToolTip.text()
    QToolTip.hideText()


def test_tips_are_set_in_one_place():
    """No other file of the window sets a tip or makes a label."""
    for path in Path(nullah.gui.__file__).parent.rglob("*.py"):
        called = {ast.unparse(n.func) for n in ast.walk(ast.parse(path.read_text())) if isinstance(n, ast.Call)}
        own = {c for c in called if re.search(r"setToolTip|QToolTip|^QLabel$|setHtml|QTextBrowser|QMessageBox", c)}
        assert own <= {"tips.py": {"on.setToolTip", "QToolTip.showText"}, "widgets.py": {"QLabel"}}.get(
            path.name, set()
        )


def test_other_programs_files_stay(tmp_path):
    theirs = [tmp_path / n for n in (".film.mp4.part", ".x.part", ".a.0123456789abcdef.part", ".big.nullah-part")]
    for path in theirs:
        path.write_bytes(b"half a download")
    write_whole(tmp_path / "box.nullah", b"y", keep_previous=True)
    write_whole(tmp_path / "box.nullah", b"z", keep_previous=True)
    assert {p.name for p in tmp_path.iterdir()} == {*(p.name for p in theirs), "box.nullah", "box.nullah~"}


def test_opening_another_project_is_all_or_nothing(qapp, tmp_path, monkeypatch):
    session = Session(Project(name="mine"), tmp_path / "mine.nullah", tmp_path)
    was = session.plan

    def fails(*_):
        raise ZeroDivisionError

    monkeypatch.setattr(sessions, "plan", fails)
    with pytest.raises(ZeroDivisionError):
        session.replace(Project(name="other"), tmp_path / "other.nullah")
    assert (session.project.name, session.path, session.plan) == ("mine", tmp_path / "mine.nullah", was)
    session.close()


@pytest.mark.parametrize("kind", KINDS)
def test_whatever_is_put_of_a_part_is_held_to_what_may_stand_there(kind):
    """Of a file made by hand: each nonsense is one sentence, and the part is as it was."""
    project = fresh(kind)
    if not isinstance(project.in_hand, Designed) or not plan(project).piece.parts:
        return
    part = plan(project).piece.parts[0]
    for what, value in (
        ("role", "x"),
        ("role", 3.0),
        ("species", "no such wood"),
        ("label", 2.0),
        ("thickness", -3.0),
        ("length", 1e300),
        ("width", "wide"),
        ("thickness", True),
        ("nonsense", 1.0),
    ):
        piece = edit.held(project.in_hand, edits=(Put(owner=part.id, what=what, value=value),))
        made = plan(edit.changed(project, pieces=(piece,)))
        same = next(p for p in made.piece.parts if p.id == part.id)
        assert (same.role, same.species, same.sizes, same.name) == (part.role, part.species, part.sizes, part.name)
        assert [
            c for c in made.calls if what in c.question or any(what in d for o in c.options for d in o.consequences)
        ]


def test_work_whose_file_was_removed_or_cannot_be_written_beside_is_kept(qapp, tmp_path, monkeypatch):
    path, folder = tmp_path / "away" / "box.nullah", tmp_path / "kept"
    path.parent.mkdir()
    project_file.save(Project(name="saved"), path)
    session = Session(project_file.load(path), path, folder)
    assert not session.unsaved
    path.unlink()
    assert session.unsaved
    assert session.write_recovery()
    session.close()
    again = Session(fresh(), None, folder)
    assert [k.project.name for k in again.recovery.found(None, again.project)] == ["saved"]
    project_file.save(Project(name="saved"), path)
    session = Session(project_file.load(path), path, folder)
    session.do(edit.changed(session.project, name="edited"), "renamed")
    real = project_file.write_whole

    def nothing_beside(target, *rest):
        if target.parent == path.parent:
            raise project_file.FileTrouble("you may not write there")
        real(target, *rest)

    monkeypatch.setattr(project_file, "write_whole", nothing_beside)
    assert session.write_recovery()
    monkeypatch.undo()
    kept = list(folder.glob("away-*"))
    assert [stat.S_IMODE(p.stat().st_mode) for p in kept] == [0o600]
    session.close()
    assert [k.project.name for k in again.recovery.found(path, again.project)] == ["edited"]
    again.close()


def test_recovery_is_read_by_nobody_else_and_the_demo_is_written_over_nothing(qapp, tmp_path, capsys):
    path = tmp_path / "box.nullah"
    project_file.save(Project(), path)
    path.chmod(0o600)
    session = Session(project_file.load(path), path, tmp_path / "kept")
    session.do(edit.changed(session.project, name="edited"), "renamed")
    assert session.write_recovery()
    (kept,) = [p for p in tmp_path.iterdir() if p.name.endswith(".recovery")]
    assert stat.S_IMODE(kept.stat().st_mode) == 0o600
    session.close()
    link = tmp_path / "link"
    link.symlink_to(path)
    before = path.read_bytes()
    for target in (path, link):
        assert main(["demo-project", str(target)]) == 2
        assert "there already" in capsys.readouterr().err
    assert path.read_bytes() == before
    assert not path.with_name("box.nullah~").exists()
