"""The real window, offscreen, driven by keys and mouse."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton

from nullah import demo
from nullah.core.document.project import Project
from nullah.gui import theme as look
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.window import Window


class Hand:
    """A person at the window: looks, clicks, types."""

    def __init__(self, qtbot, window):
        self.bot, self.window, self.session = qtbot, window, window.session

    @property
    def project(self):
        return self.session.project

    @property
    def plan(self):
        return self.session.plan

    def key(self, *keys):
        for key in keys:
            QTest.keySequence(self.window, key)
        QApplication.processEvents()

    def find(self, kind, name):
        found = [w for w in self.window.findChildren(kind, name) if w.isVisible()]
        assert found, f"no visible {name}"
        return found[0]

    def below(self, page):
        """Another page under the board in hand, at Timber."""
        if not next(t for t in self.window.view().tabs if t.text() == page).isChecked():
            self.press(page)

    def press(self, words):
        button = next(b for b in self.window.findChildren(QPushButton) if b.isVisible() and b.text().startswith(words))
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        QApplication.processEvents()

    def type_in(self, name, words):
        field = self.find(QLineEdit, name)
        QTest.mouseClick(field, Qt.MouseButton.LeftButton)
        field.selectAll()
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        QApplication.processEvents()

    def go(self, station):
        """A click on the course."""
        from nullah.core.planning.plan import STATIONS

        course = self.window.course
        at = course._at(STATIONS.index(station))
        QTest.mouseClick(course, Qt.MouseButton.LeftButton, pos=QPoint(int(at.x()), int(at.y())))
        QApplication.processEvents()
        assert self.session.here == station

    def go_if_elsewhere(self, station):
        """To a station whatever else is open."""
        if self.window.pages.currentIndex() == 1:
            self.window.toggle_bench()
        if self.window._overlay is not None:
            self.window.overlay.close_overlay()
        self.window.go(station)

    def click_canvas(self, canvas, mm):
        at = canvas.scale().to(mm)
        QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))
        QApplication.processEvents()

    def measure(self, words):
        self.key("M")
        field = self.find(QLineEdit, "measured")
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        QApplication.processEvents()

    def wait_for_call(self, call_id):
        self.bot.waitUntil(lambda: self.plan.call(call_id) is not None and self.plan.call(call_id).open, timeout=5000)

    def begin_anew(self, kind="practice_joint"):
        """A new project, chosen by its picture."""
        self.key("Ctrl+N")
        panel = self.window.overlay.kinds
        card = next(c for c in panel.cards if c.kind.name == kind)
        QTest.mouseClick(card, Qt.MouseButton.LeftButton)
        QTest.keyClick(card, Qt.Key.Key_Return)
        QApplication.processEvents()

    def tried(self):
        """Wait until every way of joining two parts is tried."""
        panel = self.window.overlay.join
        self.bot.waitUntil(lambda: not panel.waits, timeout=20_000)
        return panel

    def written(self):
        """Wait until what is exported is written."""
        self.bot.waitUntil(lambda: not self.window.files.exporter.at_work, timeout=60_000)

    def gauge(self, part, mate):
        """Gauge settings for the baseline of a part where it meets a mate."""
        settings = [s for s in self.plan.joints.settings if s.tool == "marking gauge" and part in s.parts]
        return [s.value for s in settings if mate in s.use.rpartition(" at ")[2].split(", ")]

    def note(self):
        return self.window.strip.note.whole


def opened(qtbot, project, tmp_path):
    app = QApplication.instance()
    theme = Theme()
    look.load_fonts()
    look.apply(app, theme)
    window = Window(Session(project, None, tmp_path / "recovery"), theme)
    qtbot.addWidget(window, before_close_func=lambda w: w.session.close())
    window.resize(1280, 800)
    window.show()
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow, timeout=5000)
    return Hand(qtbot, window)


@pytest.fixture
def hand(qtbot, tmp_path):
    """A new project in an open window."""
    return opened(qtbot, Project(), tmp_path)


@pytest.fixture
def demo_hand(qtbot, tmp_path):
    """The demo in an open window."""
    return opened(qtbot, demo.box(), tmp_path)
