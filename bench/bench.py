"""Speed, as ratios within one run: start-up against an empty window, edits to redrawn, drags. Not a test: machines are noisy."""

import gc
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
EMPTY_WINDOW = ("-c", EMPTY)
DEMO = ("-m", "nullah", "--demo", "--once")  # as the command starts it


def seconds(words):
    """Wall seconds of a whole Python process, with its output put away."""
    start = time.perf_counter()
    subprocess.run([sys.executable, *words], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - start


def startup():
    """Start-up against an empty window, the median of seven pairs."""
    seconds(EMPTY_WINDOW), seconds(DEMO)  # warm the disk's cache
    pairs = [(seconds(EMPTY_WINDOW), seconds(DEMO)) for _ in range(7)]
    empty, ours = (statistics.median(p[i] for p in pairs) for i in (0, 1))
    print(f"start-up, whole process: empty window {empty:.2f} s, demo {ours:.2f} s, {ours / empty:.2f} times (bar: 4)")


def large():
    """60 boards and 300 parts: the demo's box grown to 294 dividers, its four boards fifteen times over and longer."""
    from nullah import demo
    from nullah.core.edits import edit
    from nullah.core.planning.plan import plan
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
    gc.collect()
    gc.freeze()  # as the program does once its window stands
    return window


def edits(window, what, bar):
    """Edit to redrawn at each station."""
    from PySide6.QtWidgets import QApplication

    from nullah.core.edits import measuring
    from nullah.core.planning.plan import STATIONS

    session = window.session
    session.search_after(10**6)  # the planner apart
    slowest = 0.0
    for station in STATIONS:
        window.go(station)
        window.grab()
        QApplication.processEvents()
        times = []
        for i in range(8):
            project = measuring.measured(session.project, session.plan.piece.parts, f"A thickness {17 + i / 10}")
            start = time.perf_counter()
            session.do(project, "measured")
            window.grab()  # painted, not merely asked for
            times.append(time.perf_counter() - start)
            QApplication.processEvents()
        slowest = max(slowest, statistics.median(times))
        middle, worst = 1000 * statistics.median(times), 1000 * max(times)
        print(f"  edit to redrawn at {station:9}: median {middle:5.0f} ms, worst {worst:5.0f} ms")
    print(f"edit to redrawn, {what}, slowest station: {1000 * slowest:.0f} ms (bar: {bar})")


def standing_pictures():
    """The standing picture of boxes of so many cuts (two to a tail), with all of them and as it is drawn, plain where they are too
    many; and of so many loose parts."""
    import tracemalloc

    from nullah import demo
    from nullah.core.document.pieces import AddPart, Designed
    from nullah.core.document.project import Project
    from nullah.core.edits import edit
    from nullah.core.pictures import bodies, standing
    from nullah.core.planning.plan import plan

    def told(what, make):
        tracemalloc.start()
        start = time.perf_counter()
        make()
        took, peak = time.perf_counter() - start, tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        print(f"  standing, {what}: {took:.2f} s, {peak / 2**20:.0f} MiB at the most")

    for wanted in (500, 2_000, 5_000):
        project, many = demo.box(), 0
        while many < wanted:  # as high as it takes
            height = project.piece.contents.height * 1.3
            if height > 20_000:
                break
            project = edit.set_piece(project, "contents.height", height)
            now = plan(project)
            many = sum(len(j.cuts) for j in now.joints.joints)
        told(f"{many} cuts, as it is drawn", lambda now=now: standing.of(now))
        if many < 1_000:
            most, bodies.MOST_DRAWN = bodies.MOST_DRAWN, 10**9
            told(f"{many} cuts, all of them", lambda now=now: standing.of(plan(now.project)))
            bodies.MOST_DRAWN = most
    for many in (500, 2_000):
        edits = tuple(
            AddPart(
                id=f"p-{i}", label=f"p {i}", length=100, width=50, thickness=10, at=(i % 20 * 110.0, i // 20 * 60.0, 0)
            )
            for i in range(many)
        )
        now = plan(Project(pieces=(Designed(kind="free", name="Parts", edits=edits),)))
        told(f"{many} loose parts", lambda now=now: standing.of(now))


def turning():
    """A frame of the demo's table with a drawer turned by hand, painted at 900x450."""
    from PySide6.QtWidgets import QApplication

    from nullah import demo
    from nullah.core.edits import piece_edits

    window = opened(piece_edits.take_in_hand(demo.project(), "2"))
    window.session.search_after(10**6)
    window.go("piece")
    view = window.view()
    view.stand_up(True)
    canvas = view.canvas
    canvas.setFixedSize(900, 450)
    QApplication.processEvents()
    times = []
    for _ in range(40):
        start = time.perf_counter()
        canvas.turned.emit(7.0, 1.0)
        canvas.grab()
        times.append(time.perf_counter() - start)
    parts = len(window.session.plan.piece.in_hand.parts)
    print(f"a table of {parts} parts turned, a frame: median {1000 * statistics.median(times):.0f} ms (bar: 33)")
    window.session.saved = window.session.project
    window.close()


def visits(project, what):
    """First visits to each station, undo, and the bench book with many lines."""
    from PySide6.QtWidgets import QApplication

    from nullah.core.edits import edit
    from nullah.core.planning.plan import STATIONS

    window = opened(project)
    session = window.session
    session.search_after(10**6)
    for station in STATIONS:
        start = time.perf_counter()
        window.go(station)
        window.grab()
        QApplication.processEvents()
        print(f"  {what}: first visit to {station:9} {time.perf_counter() - start:.2f} s")
    for station in ("timber", "breakdown"):
        window.go(station)
        session.do(edit.set_piece(session.project, "wiggle", session.project.piece.wiggle + 0.5), "wiggle")
        start = time.perf_counter()
        session.undo()
        window.grab()
        print(f"  {what}: undo at {station} {time.perf_counter() - start:.2f} s")
    log = tuple(edit.logged(session.project, "note", f"line {n}").log[0] for n in range(100)) * 200
    window.go("bench")
    start = time.perf_counter()
    session.do(edit.held(session.project, log=log), "a long record")
    window.grab()
    print(f"  {what}: bench book with {len(log)} lines {time.perf_counter() - start:.2f} s")
    session.saved = session.project
    window.close()


def many_boards(project, many):
    """A project with so many boards, most of them with nothing laid on them."""
    from nullah.core.edits import edit

    first = project.boards
    more = [
        first[i % len(first)].model_copy(update={"id": f"more {i}", "name": f"More {i}"})
        for i in range(many - len(first))
    ]
    return edit.changed(project, boards=(*first, *more))


def rack(project, what):
    """Timber with so many boards: opened again, searched, another board taken in hand, drawn anew, each painted."""
    window = opened(project)
    window.session.search_after(10**6)
    window.go("timber")
    window.grab()
    window.go("piece")
    view, worst = window.views["timber"], 0.0
    ids = [b.id for b in project.boards]
    for name, act in (
        ("opened", lambda i: window.go("timber") if i % 2 == 0 else window.go("piece")),
        ("searched", lambda i: view.rack.find.setText("larch" if i % 2 == 0 else "")),
        ("another board", lambda i: view.choose(ids[37 * i % len(ids)])),
        ("drawn anew", lambda i: view.refresh()),
    ):
        took = []
        for i in range(6):
            start = time.perf_counter()
            act(i)
            window.grab()
            took.append(1000 * (time.perf_counter() - start))
        window.go("timber")
        worst = max(worst, statistics.median(took))
        print(f"  {what}: timber {name:13} median {statistics.median(took):5.1f} ms, worst {max(took):5.1f} ms")
    print(f"timber with {what}, slowest: {worst:.1f} ms (bar: 100)")
    window.session.saved = window.session.project
    window.close()


def drags(window, what):
    """Own work of one move of each kind of drag, and with the drawing painted."""
    part = next(p.id for p in window.session.plan.piece.parts if window.session.plan.breakdown.place(p.id))
    tails = next((j.tails for j in window.session.plan.joints.joints if j.tails), 0)
    worst = 0.0
    for station, tag in (
        ("timber", "fault:board 1/2"),
        ("timber", "edge:board 1/length"),
        ("breakdown", f"part:{part}"),
        ("trueup", "reading:board 1/3"),
        ("joints", "laid:corner A-B/half_pin/lower"),
        ("joints", f"laid:corner A-B/pin/{tails}"),
        ("piece", "shift:1"),
        ("piece", "asked:extra_length"),
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


def tails():
    """A line pulled with forty tails on the screen: own work, and with the drawing painted."""
    from nullah.core.document.pieces import AddJoint, AddPart, Designed
    from nullah.core.document.project import Project

    size = {"width": 1200.0, "thickness": 18.0, "upper": "up"}
    edits = (
        AddPart(id="tail", label="tail board", length=500.0, face="front", at=(0, 0, 0), **size),
        AddPart(id="pin", label="pin board", length=500.0, face="right", at=(500, 18, 0), **size),
        AddJoint(id="corner", family="through_dovetail", first="tail", second="pin", way="right", asked={"tails": 40}),
    )
    window = opened(Project(pieces=(Designed(kind="free", name="Forty tails", edits=edits),)))
    window.go("joints")
    canvas = window.view().canvas
    canvas.grab()
    for tag in ("laid:corner/half_pin/lower", "laid:corner/pin/40"):
        work, painted = [], []
        for i in range(40):
            start = time.perf_counter()
            canvas.dragged.emit(tag, 0.0, 0.1 * i, False)
            work.append(time.perf_counter() - start)
            canvas.grab()
            painted.append(time.perf_counter() - start)
        window.session.let_be()
        own, whole = 1000 * statistics.median(work), 1000 * statistics.median(painted)
        print(f"40 tails, {tag}: {own:.1f} ms of own work, {whole:.1f} ms with the painting (bar: 16)")
    window.session.close()


def truing():
    """The thickest slab of a fine grid, and strokes of a plane on a finer."""
    import numpy as np

    from nullah.core.surface.passes import PLANES, Pass, take
    from nullah.core.surface.slab import thickest_slab
    from nullah.core.surface.zones import Workpiece, Zone

    chance, workpiece = np.random.default_rng(1), Workpiece(2000.0, 200.0, 200, 40)
    u, v = workpiece.places()
    top = 2 * u * u + v * v + u * v + chance.normal(0, 0.05, u.shape)
    bottom = top - 25 - 0.3 * u + chance.normal(0, 0.05, u.shape)
    times = []
    for _ in range(9):
        start = time.perf_counter()
        thickest_slab(u, v, top, bottom)
        times.append(time.perf_counter() - start)
    print(f"slab of a 200 x 40 grid: {1000 * statistics.median(times):.1f} ms (bar: 50)")
    workpiece = Workpiece(1800.0, 240.0, 600, 120)
    u, v = workpiece.places()
    slowest = 1e9
    for plane in PLANES:
        for direction in (0.0, 45.0):
            p = Pass(plane, (Zone(workpiece.all_over(), 1, direction),), 0.0)
            wood = u * u + 0.8 * v * v + 0.7 * u * v
            take(workpiece, wood, p)
            start = time.perf_counter()
            take(workpiece, wood, p)
            slowest = min(slowest, p.reckoned()[0] / (time.perf_counter() - start))
    print(f"strokes on a 600 x 120 grid, the slowest plane and direction: {slowest:.0f} a second (bar: 200)")


def main():
    """Everything, in one run."""
    startup()
    truing()
    tails()
    from nullah import demo

    window = opened(demo.project())
    edits(window, "demo", 100)
    drags(window, "demo")
    import planner

    planner.main(window)
    window.session.close()
    standing_pictures()
    turning()
    big = large()
    visits(big, "60 boards, 300 parts")
    visits(many_boards(big, 500), "500 boards, 300 parts")
    rack(many_boards(demo.project(), 500), "500 boards")
    window = opened(big)
    edits(window, "60 boards and 300 parts", 250)
    drags(window, "60 boards and 300 parts")
    window.session.close()


if __name__ == "__main__":
    main()
