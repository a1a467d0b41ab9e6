"""The process that is sent one thing and answers: one that waits ahead is the one that is used, and none is left behind."""

from PySide6.QtCore import QObject, QProcess

from nullah.core.surface.heights import Heights
from nullah.core.surface.passes import PLANES
from nullah.core.surface.rounds import Wanted, plan_round
from nullah.gui.one_shot import OneShot
from nullah.gui.trueup.rounds import RoundPlanner

WANTED = Wanted(600.0, 120.0, Heights((0.6, 0.4, 0.3)), Heights((0.6, 0.4, 0.3), (-25.0, 0.0, 0.0)), PLANES)


def test_one_that_waits_is_the_one_that_answers_and_none_is_left(qtbot):
    parent, came = QObject(), []
    one = OneShot("nullah.processes.rounds", came.append, parent)

    def processes():
        return [p for p in one.findChildren(QProcess) if p.state() != QProcess.ProcessState.NotRunning]

    one.make_ready()
    one.make_ready()
    (waiting,) = processes()
    assert not one.at_work
    one.start(WANTED)
    assert one.at_work
    assert processes() == [waiting]
    one.make_ready()  # another, while that one works
    qtbot.waitUntil(lambda: len(came) == 1, timeout=30_000)
    assert came[0][-1] == plan_round(WANTED)
    (spare,) = processes()
    spare.kill()  # gone while it waited: what is asked for is worked out all the same
    spare.waitForFinished(5_000)
    one.start(WANTED)
    qtbot.waitUntil(lambda: len(came) == 2, timeout=30_000)
    assert came[1][-1] == came[0][-1]
    one.make_ready()
    one.start(WANTED)
    one.make_ready()
    one.stop(5_000)
    assert not processes()
    assert len(came) == 2


def test_one_that_does_not_start_is_told(qtbot, monkeypatch):
    parent, came = QObject(), []
    monkeypatch.setattr("nullah.gui.one_shot.sys.executable", "no such program")
    OneShot("nullah.processes.rounds", came.append, parent).start(WANTED)
    qtbot.waitUntil(lambda: len(came) == 1, timeout=5_000)
    assert came == [[]]


def test_nothing_begins_once_the_window_closes(qtbot):
    """What is said to a view while its window goes, the end of a search say, starts no process that nobody waits for."""
    parent = QObject()
    planner = RoundPlanner(parent)
    planner.ask(WANTED)
    assert parent.findChildren(QProcess)
    planner.close()
    planner.ask(WANTED)
    planner.make_ready()
    qtbot.wait(300)
    assert all(p.state() == QProcess.ProcessState.NotRunning for p in parent.findChildren(QProcess))
