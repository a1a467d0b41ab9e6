"""The overlay: a panel that slides over the right of the window with everything one can do, the
reckoners, the words used, what one may make, or what joins two parts."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QLabel,
    QLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStackedWidget,
    QWidget,
)
from shiboken6 import isValid

from nullah.core.calculators import reckon
from nullah.core.drawing.display_list import Text
from nullah.core.values import glossary, measure
from nullah.core.wood.species import NAMES
from nullah.gui.actions import Action, Actions, matching
from nullah.gui.join_panel import JoinPanel
from nullah.gui.kinds_panel import KindsPanel
from nullah.gui.overlay_page import WIDTH, OverlayPage
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.side import SettingRow
from nullah.gui.widgets import button, column, label, pick, pressed, refill, row, scroll_area

MOST_PLACES = 60  # boards, parts, calls and steps listed at once


class Overlay(QFrame):
    """One page at a time; Escape closes it and gives the keyboard back to where it was."""

    def __init__(
        self,
        parent: QWidget,
        session: Session,
        actions: Actions,
        places: Callable[[], list[Action]],
        kinds: KindsPanel,
        join: JoinPanel,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("overlay")
        self.pages = QStackedWidget()
        self.kinds, self.join = kinds, join
        self.doing = DoPanel(actions, places, self.close_overlay)
        self.reckoning = ReckonPanel(session)
        self.words = WordsPanel()
        for page in (self.doing, self.reckoning, self.words, self.kinds, self.join):
            self.pages.addWidget(page)
        self.join.done.connect(self.close_overlay)
        self.title = label("", "heading")
        shut = button("Close  Esc", self.close_overlay)
        column(self, row(self.title, 1, shut), self.pages, margins=14, spacing=8)
        self._before: QWidget | None = None
        self.hide()

    def open_named(self, name: str, title: str) -> None:
        """Show a page by its name."""
        named: dict[str, OverlayPage] = {
            "doing": self.doing,
            "words": self.words,
            "reckoning": self.reckoning,
            "kinds": self.kinds,
            "join": self.join,
        }
        self.open_page(named[name], title)

    def open_page(self, page: OverlayPage, title: str) -> None:
        """Show a page; shown already, close it."""
        if self.isVisible() and self.pages.currentWidget() is page:
            self.close_overlay()
            return
        if not self.isVisible():
            self._before = self.window().focusWidget()
        self.title.setText(title)
        self.pages.setCurrentWidget(page)
        self.place()
        self.show()
        self.raise_()
        page.begin()

    def place(self) -> None:
        """Along the right edge, from top to bottom."""
        whole = self.parentWidget()
        assert whole is not None
        page = self.pages.currentWidget()
        wide = min(page.wide if isinstance(page, OverlayPage) else WIDTH, whole.width())
        self.setGeometry(whole.width() - wide, 0, wide, whole.height())

    def close_overlay(self) -> None:
        self.hide()
        if self._before is not None and isValid(self._before) and self._before.isVisible():  # its view may be made anew
            self._before.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close_overlay()
        else:
            super().keyPressEvent(event)


class DoPanel(OverlayPage):
    """Every action; words typed narrow the list, Return does the first or the one chosen."""

    def __init__(self, actions: Actions, places: Callable[[], list[Action]], close: Callable[[], None]) -> None:
        super().__init__()
        self.commands, self.places, self.shut = actions, places, close
        self._shown: list[Action] = []
        self.search = QLineEdit()
        self.search.setObjectName("what to do")
        self.search.setAccessibleName("what to do")
        self.search.setPlaceholderText("What would you like to do?")
        self.search.textChanged.connect(lambda _: self._narrow())
        self.search.returnPressed.connect(self._do)
        self.search.installEventFilter(self)
        self.found = QListWidget()
        self.found.setAccessibleName("actions")
        self.found.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.found.itemActivated.connect(lambda _: self._do())
        self.found.itemClicked.connect(lambda _: self._do())
        column(self, self.search, self.found, margins=0, spacing=6)

    def begin(self) -> None:
        self.search.clear()
        self._narrow()
        self.search.setFocus()

    def _narrow(self) -> None:
        self.found.clear()
        words = self.search.text()
        self._shown = self.commands.matching(words)
        if words.strip():  # what has a name on the screen is found by it
            self._shown += matching(self.places(), words)[:MOST_PLACES]
        for action in self._shown:
            keys = f"   [{', '.join(action.keys)}]" if action.keys else ""
            self.found.addItem(QListWidgetItem(f"{action.group}:  {action.words}{keys}"))
        self.found.setCurrentRow(0)

    def _do(self) -> None:
        at = self.found.currentRow()
        if 0 <= at < len(self._shown):
            self.shut()
            self._shown[at].act()

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        """Up and down walk the list while one types."""
        key = pressed(event)
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = 1 if key == Qt.Key.Key_Down else -1
            self.found.setCurrentRow(max(0, min(self.found.count() - 1, self.found.currentRow() + step)))
            return True
        return False


class ReckonPanel(OverlayPage):
    """A calculator at a time: type what is known, the answer stands below, in the unit shown, with where it comes from."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.names = [c.name for c in reckon.CALCULATORS.values() if all(i.kind not in reckon.FILES for i in c.inputs)]
        self.choice = pick("reckoner", [reckon.CALCULATORS[n].about for n in self.names], lambda _: self._chosen())
        self.inputs = scroll_area()
        self.answer = label("", "figure", wrap=True)
        self.answer.setObjectName("answer")
        self.source = label("", "quiet", wrap=True)
        self.fields: dict[str, QLineEdit | QComboBox] = {}
        whole = column(self, self.choice, self.inputs, self.answer, self.source, margins=0, spacing=8)
        whole.setStretch(1, 1)
        self._chosen()

    def begin(self) -> None:
        self._work()
        first = next(iter(self.fields.values()))
        first.setFocus()

    def choose(self, name: str) -> None:
        """Turn to a calculator by its name."""
        self.choice.setCurrentIndex(self.names.index(name))
        self._chosen()

    def _chosen(self) -> None:
        calculator = reckon.CALCULATORS[self.names[self.choice.currentIndex()]]
        self.fields = {}
        rows: list[QWidget | QLayout] = []
        for wanted in calculator.inputs:
            if wanted.kind in ("species", "cut"):
                options = list(NAMES) if wanted.kind == "species" else ["flat", "rift", "quarter"]
                field: QLineEdit | QComboBox = pick(wanted.name, options, lambda _: self._work())
            else:
                field = QLineEdit(wanted.default or "")
                field.textChanged.connect(lambda _: self._work())
            field.setObjectName(f"reckon {wanted.name}")
            field.setAccessibleName(f"{wanted.name}: {wanted.about}")
            self.fields[wanted.name] = field
            about = wanted.about.removesuffix(", mm")
            rows += [label(f"{wanted.name.replace('_', ' ')}, {about}", "quiet", wrap=True), field]
        refill(self.inputs, rows, spacing=4)
        self.source.setText(f"From: {calculator.source}.")
        self._work()

    def _given(self, name: str) -> str:
        field = self.fields[name]
        text = field.currentText() if isinstance(field, QComboBox) else field.text()
        kind = next(i.kind for i in self._calculator().inputs if i.name == name)
        if kind == "length" and text.strip():  # a bare number is in the unit shown here, in mm there
            return f"{measure.parse_length(text, self.session.project.units):.6f} mm"
        return text

    def _calculator(self) -> reckon.Calculator:
        return reckon.CALCULATORS[self.names[self.choice.currentIndex()]]

    def _work(self) -> None:
        calculator = self._calculator()
        try:
            given = {name: self._given(name) for name in self.fields}
            answers = reckon.reckon(calculator.name, {k: v for k, v in given.items() if v.strip()})
        except (reckon.BadReckoning, measure.BadLength) as error:
            self.answer.setObjectName("quiet")
            self.answer.setText(self.session.told(str(error).replace(", mm", "")))
        else:
            self.answer.setObjectName("answer")
            self.answer.setText("\n".join(self._line(k, v, calculator.results[k]) for k, v in answers.items()))
        self.answer.style().polish(self.answer)

    def _line(self, key: str, value: object, about: str) -> str:
        name, _, unit = key.rpartition("_")
        if unit == "mm" and isinstance(value, float):
            return f"{name.replace('_', ' ')} {self.session.figures(value)}"
        if unit in ("percent", "deg") and isinstance(value, float):
            return f"{name.replace('_', ' ')} {measure.decimals(value, 2)}{' %' if unit == 'percent' else chr(0xB0)}"
        return f"{about}: {measure.decimals(value, 3) if isinstance(value, float) else value}"


class WordsPanel(OverlayPage):
    """The trade's words that stand on the screen in hand, explained; others by searching."""

    def __init__(self) -> None:
        super().__init__()
        self.search = QLineEdit()
        self.search.setObjectName("find a word")
        self.search.setAccessibleName("find a word")
        self.search.setPlaceholderText("Another word")
        self.search.textChanged.connect(lambda _: self._fill())
        self.list = scroll_area()
        column(self, self.search, self.list, margins=0, spacing=6)
        self._here: tuple[str, ...] = ()

    def begin(self) -> None:
        """Lay out the words of the trade that stand on the screen behind."""
        texts = []
        for words in self.window().findChildren(QLabel):
            if words.isVisible() and not self.isAncestorOf(words):
                texts.append(words.text())
        for canvas in self.window().findChildren(Canvas):
            if canvas.isVisible():
                texts += [item.text for item in canvas.drawing.everything() if isinstance(item, Text)]
        for line in self.window().findChildren(SettingRow):
            if line.isVisible():
                texts.append(f"{line.tool} {line.setting.use}")
        self._here = glossary.terms_in("\n".join(texts))
        self.search.clear()
        self._fill()
        self.search.setFocus()

    def _fill(self) -> None:
        asked = self.search.text().strip().lower()
        terms = [t for t in glossary.WORDS if asked in t] if asked else sorted(self._here)
        rows: list[QWidget | QLayout] = []
        for term in terms:
            rows += [label(term, "heading"), label(glossary.WORDS[term], wrap=True)]
        if not rows:
            rows.append(
                label("No such word is explained here." if asked else "No word of the trade stands here.", wrap=True)
            )
        refill(self.list, rows, spacing=3)
