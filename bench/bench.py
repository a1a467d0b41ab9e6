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


def edits():
    """Edit to redrawn at each station, and the work of one move of a drag."""
    from PySide6.QtWidgets import QApplication

    from nullah.core import demo, edit
    from nullah.core.plan import STATIONS
    from nullah.gui import theme as look
    from nullah.gui.app import application
    from nullah.gui.session import Session
    from nullah.gui.theme import Theme
    from nullah.gui.window import Window

    app = application()
    theme = Theme()
    look.apply(app, theme)
    session = Session(demo.project())
    window = Window(session, theme)
    window.resize(1280, 800)
    window.show()
    worst = 0.0
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
        worst = max(worst, statistics.median(times))
        print(
            f"  edit to redrawn at {station:9}: median {1000 * statistics.median(times):5.0f} ms, worst {1000 * max(times):5.0f} ms"
        )
    print(f"edit to redrawn, slowest station: {1000 * worst:.0f} ms (bar: 100)")
    window.go("timber")
    view = window.view()
    times = []
    for i in range(40):
        start = time.perf_counter()
        view.canvas.dragged.emit("fault:board 1/2", 3.0 * i, 0.0, False)
        times.append(time.perf_counter() - start)
    print(
        f"drag of a fault, own work a move: median {1000 * statistics.median(times):.1f} ms, worst {1000 * max(times):.1f} ms (bar: 16)"
    )
    session.close()


if __name__ == "__main__":
    startup()
    edits()
