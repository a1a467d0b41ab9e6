"""Speed, as ratios within one run: start-up against an empty window, edits to redrawn, drags. Not a test: machines are noisy."""

import os
import statistics
import subprocess
import sys
import time

os.environ["QT_QPA_PLATFORM"] = "offscreen"
os.environ.pop("PYTHONDONTWRITEBYTECODE", None)

EMPTY = """
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QWidget
app = QApplication([])
window = QWidget()
window.resize(1280, 800)
window.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""
DEMO = "from nullah.cli import main; main(['--demo', '--once'])"


def seconds(code):
    """Wall seconds of a whole Python process."""
    start = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], check=True)
    return time.perf_counter() - start


def startup():
    """Start-up against an empty window, the median of seven pairs."""
    seconds(EMPTY), seconds(DEMO)  # warm the disk's cache
    pairs = [(seconds(EMPTY), seconds(DEMO)) for _ in range(7)]
    empty, ours = (statistics.median(p[i] for p in pairs) for i in (0, 1))
    print(f"start-up, whole process: empty window {empty:.2f} s, demo {ours:.2f} s, {ours / empty:.2f} times (bar: 4)")


def large():
    """60 boards and 300 parts: the demo's box grown to 294 dividers, its four boards fifteen times over and longer."""
    from nullah.core import demo, edit
    from nullah.core.plan import plan
    from nullah.core.stations import breakdown

    first = demo.untouched()
    contents = first.piece.contents.model_copy(update={"count": 295})
    piece = first.piece.model_copy(update={"contents": contents, "dividers": 294})
    boards = []
    for i in range(60):
        b, k = demo.boards()[i % 4], i // 4
        name = {"id": f"board {i + 1}", "name": f"Board {i + 1}"}
        boards.append(b.model_copy(update={**name, "length": b.length + 5200 + 7 * k, "width": b.width + 20 + k}))
    project = edit.changed(first, piece=piece, boards=tuple(boards))
    request = plan(project).breakdown.request
    best = breakdown.offers(request)[0]
    print(f"  {len(boards)} boards, {len(request.blanks)} parts, {len(best.unplaced)} without a place")
    return project.model_copy(update={"layout": breakdown.accept(best, request.fingerprint)})


def opened(project):
    """The window on a project, shown."""
    from nullah.gui import theme as look
    from nullah.gui.app import application
    from nullah.gui.session import Session
    from nullah.gui.theme import Theme
    from nullah.gui.window import Window

    app = application()
    theme = Theme()
    look.apply(app, theme)
    window = Window(Session(project), theme)
    window.resize(1280, 800)
    window.show()
    return window


def edits(window, what, bar):
    """Edit to redrawn at each station."""
    from PySide6.QtWidgets import QApplication

    from nullah.core import edit
    from nullah.core.plan import STATIONS

    session = window.session
    session.search_after(10**6)  # the planner apart
    slowest = 0.0
    for station in STATIONS:
        window.go(station)
        window.grab()
        QApplication.processEvents()
        times = []
        for i in range(8):
            project = edit.measured(session.project, session.plan.piece.parts, f"A thickness {17 + i / 10}")
            start = time.perf_counter()
            session.do(project, "measured")
            window.grab()  # painted, not merely asked for
            times.append(time.perf_counter() - start)
            QApplication.processEvents()
        slowest = max(slowest, statistics.median(times))
        middle, worst = 1000 * statistics.median(times), 1000 * max(times)
        print(f"  edit to redrawn at {station:9}: median {middle:5.0f} ms, worst {worst:5.0f} ms")
    print(f"edit to redrawn, {what}, slowest station: {1000 * slowest:.0f} ms (bar: {bar})")


def drags(window, what):
    """Own work of one move of each kind of drag, and with the drawing painted."""
    part = next(p.id for p in window.session.plan.piece.parts if window.session.plan.breakdown.place(p.id))
    tails = next((j.tails for j in window.session.plan.joints.joints if j.tails), 0)
    worst = 0.0
    for station, tag in (
        ("timber", "fault:board 1/2"),
        ("timber", "edge:board 1/length"),
        ("breakdown", f"part:{part}"),
        ("joints", "line:half_pin/lower"),
        ("joints", f"line:pin/{tails}"),
        ("piece", "divider:1"),
        ("piece", "size:0"),
    ):
        window.go(station)
        canvas = window.view().canvas
        canvas.grab()
        work, painted = [], []
        for i in range(24):
            start = time.perf_counter()
            canvas.dragged.emit(tag, 0.3 * i, 0.1 * i, False)
            work.append(time.perf_counter() - start)
            canvas.grab()
            painted.append(time.perf_counter() - start)
        window.session.let_be()
        own, whole = 1000 * statistics.median(work), 1000 * statistics.median(painted)
        worst = max(worst, own)
        print(
            f"  a move of {tag.partition(':')[0]:8} at {station:9}: {own:5.1f} ms of own work, {whole:5.1f} ms with the painting"
        )
    print(f"one move of a drag, {what}, slowest: {worst:.1f} ms of own work (bar: 16)")


def main():
    """Everything, in one run."""
    startup()
    from nullah.core import demo

    window = opened(demo.project())
    edits(window, "demo", 100)
    drags(window, "demo")
    import planner

    planner.main(window)
    window.session.close()
    window = opened(large())
    edits(window, "60 boards and 300 parts", 250)
    drags(window, "60 boards and 300 parts")
    window.session.close()


if __name__ == "__main__":
    main()
