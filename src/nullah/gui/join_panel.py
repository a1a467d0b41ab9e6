"""Two parts joined: the families that suit, each with its picture, what it costs and what it holds; those that do not suit say why."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QFrame, QWidget

from nullah.core.choosing import joining
from nullah.core.choosing.joining import Way
from nullah.core.document.pieces import Designed
from nullah.core.edits.edit import BadEdit
from nullah.gui.flow import flow
from nullah.gui.overlay_page import OverlayPage
from nullah.gui.paint.thumb import Thumb
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import button, column, label, pick, refill, refill_pick, row, scroll_area

THUMB = 150  # px across


class WayCard(QFrame):
    """One family that suits; a click or Return takes it."""

    taken = Signal()

    def __init__(self, way: Way, told: Callable[[str], str], thumb: Thumb) -> None:
        super().__init__()
        self.way = way
        self.setObjectName("kind")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        thumb.setFixedWidth(THUMB)
        thumb.show_drawing(way.drawing)
        words = QWidget()
        inside = column(words, label(way.title.capitalize(), "heading"), margins=0, spacing=2)
        for told_ in (
            way.about,
            way.joins.strength,
            way.joins.season,
            f"About {way.minutes:.0f} minutes; set for it: {', '.join(way.tools)}.",
            *(f"Not at hand: {one}." for one in way.lacking),
            *(f"It would not hold: {told(f)}." for f in way.fails),
        ):
            inside.addWidget(label(told_, "" if told_ == way.joins.strength else "quiet", wrap=True))
        line = row(thumb, words, spacing=8)
        line.setStretch(1, 1)
        self.setLayout(line)
        line.setContentsMargins(7, 7, 7, 7)
        self.setAccessibleName(f"{way.title}. {way.joins.strength} {way.joins.season}")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.taken.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit()
        else:
            super().keyPressEvent(event)


class JoinPanel(OverlayPage):
    """The two parts, and what joins them."""

    done = Signal()
    wide = 640

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.first = pick("first part to join", [], lambda _: self.offer())
        self.second = pick("second part to join", [], lambda _: self.offer())
        self.swap = button("The other way round", self._swap, "chip")
        self.said = label("", wrap=True)
        self.found = scroll_area()
        self.cards: list[WayCard] = []
        self.waits = False  # whether families are still to be tried
        self._parts = ("", "", "")  # the first, the second, and the way the first looks towards it
        self._tries: Iterator[Way] = iter(())
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._try_next)
        above = flow(self.first, "to", self.second, self.swap)
        above.setObjectName("inside")
        whole = column(self, above, self.said, self.found, margins=0, spacing=6)
        whole.setStretch(2, 1)

    def choose(self, first: str, second: str = "") -> None:
        """Begin with these parts, by the project's names; without a second with the first it meets."""
        names = self._names()
        for box in (self.first, self.second):
            refill_pick(box, list(names))
        by_id = {part: name for name, part in names.items()}
        first = first if first in by_id else next(iter(by_id), "")
        if second not in by_id:
            second = next(iter(joining.meets(self.session.plan, first)), "")
        self.first.setCurrentText(by_id.get(first, ""))
        self.second.setCurrentText(by_id.get(second, ""))

    def begin(self) -> None:
        """Show what suits."""
        self.second.setFocus()
        self.offer()

    def offer(self) -> None:
        """Try every family between the two parts, one after the other, so that nobody waits for the last."""
        s = self.session
        first, second = self._chosen()
        self.cards, self._tries = [], iter(())
        self._lay_out()
        if not isinstance(s.project.in_hand, Designed):
            self.said.setText("Answers alone change this piece: make it your own first, under By hand.")
            return
        try:
            way = joining.between(s.plan, first, second)
        except BadEdit as error:
            self.said.setText(str(error))
            return
        before = joining.joined_by(s.plan, first, second)
        self.said.setText(
            "They are joined already; another joint takes the place of that one." if before else "These suit:"
        )
        self._parts = (first, second, way)
        self._tries = joining.ways(s.project, s.plan, first, second, way)
        self.waits = True
        self._timer.start()

    def _try_next(self) -> None:
        one = next(self._tries, None) if self.isVisible() else None
        if one is None:
            self._timer.stop()
            self.waits = False
            return
        s = self.session
        suiting, others = self.suiting.layout(), self.others.layout()
        assert suiting is not None
        assert others is not None
        if one.why_not:
            self.below.show()
            others.addWidget(label(f"{one.title.capitalize()}: {s.told(one.why_not)}", "quiet", wrap=True))
        else:
            card = WayCard(one, s.told, Thumb(self.theme, s))
            card.taken.connect(partial(self._take, one.family))
            self.cards.append(card)
            suiting.addWidget(card)
            if len(self.cards) == 1 and self.second.hasFocus():
                card.setFocus()

    def _lay_out(self) -> None:
        """Room for the cards, and below them for what does not suit."""
        self.suiting, self.others = QWidget(), QWidget()
        self.below = label("These do not suit", "heading")
        self.below.hide()
        for box in (self.suiting, self.others):
            box.setObjectName("inside")
            column(box, margins=0, spacing=6)
        refill(self.found, [self.suiting, self.below, self.others], spacing=6)

    def _names(self) -> dict[str, str]:
        return {p.name: p.id for p in self.session.plan.piece.in_hand.parts}

    def _chosen(self) -> tuple[str, str]:
        names = self._names()
        return names.get(self.first.currentText(), ""), names.get(self.second.currentText(), "")

    def _swap(self) -> None:
        first, second = self.first.currentText(), self.second.currentText()
        self.first.setCurrentText(second)
        self.second.setCurrentText(first)
        self.offer()

    def _take(self, family: str) -> None:
        s = self.session
        words = f"{self.first.currentText()} to {self.second.currentText()}: {family.replace('_', ' ')}"
        if s.attempt(words, lambda: joining.join(s.project, s.plan, family, *self._parts)):
            self.done.emit()
