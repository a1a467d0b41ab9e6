"""What one may make: each kind drawn as it comes of its defaults, with what it is good for, what it teaches, its hours and its wood."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QLabel, QWidget

from nullah.core.choosing.catalogue import Offered, offered
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.kinds import KINDS
from nullah.gui.flow import flow
from nullah.gui.overlay_page import OverlayPage
from nullah.gui.paint.thumb import Thumb
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import button, column, label, scroll_area

if TYPE_CHECKING:
    from nullah.gui.window import Window

WIDE = 860  # px the panel takes
ACROSS = 3  # kinds side by side
HALF = 10.0  # hours; more are told by the whole, fewer by the half


class KindCard(QFrame):
    """One kind: chosen by a click or by the keys, begun with by Return or a double click."""

    chosen = Signal(str)
    begun = Signal()
    moved = Signal(int, int)  # so many cards to the right, and down

    def __init__(self, kind: Kind, theme: Theme, session: Session) -> None:
        super().__init__()
        self.kind = kind
        self.setObjectName("kind")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{kind.title}. {kind.about} {kind.teaches}")
        self.thumb = Thumb(theme, session)
        self.takes = label("", "quiet")
        inside = column(self, self.thumb, label(kind.title, "heading"), self.takes, margins=7, spacing=2)
        inside.setStretch(0, 1)

    def show_offered(self, one: Offered, inches: bool) -> None:
        """Its picture, hours and wood."""
        self.thumb.show_drawing(one.drawing)
        self.takes.setText(takes(one, inches))

    def show_chosen(self, chosen: bool) -> None:
        """Whether it is the one that is spoken of below."""
        if self.property("lit") != chosen:
            self.setProperty("lit", chosen)
            self.style().polish(self)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.begun.emit()

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.chosen.emit(self.kind.name)
        super().focusInEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways: dict[int, tuple[int, int]] = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }  # fmt: skip
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.begun.emit()
        elif event.key() in ways:
            self.moved.emit(*ways[event.key()])
        else:
            super().keyPressEvent(event)


def takes(one: Offered, inches: bool) -> str:
    """The hours and the wood of a kind in words; nothing where it has no parts yet."""
    if not one.parts:
        return "as many parts as you put in"
    hours = max(0.5, round(one.hours * 2) / 2) if one.hours < HALF else round(one.hours)
    wood = f"{one.board_feet:.1f} board feet" if inches else f"{one.square_metres:.2f} m\u00b2"
    return f"{one.parts} parts, {wood}, about {hours:g} hours"


class KindsPanel(OverlayPage):
    """The kinds side by side; what is said of the one chosen, and what may be done with it, stands below."""

    wide = WIDE

    def __init__(
        self, session: Session, theme: Theme, begin: Callable[[str], None], add: Callable[[str], None], *more: QWidget
    ) -> None:
        super().__init__()
        self.session = session
        self.chosen = next(iter(KINDS))
        self._begin, self._add = begin, add
        self._waiting: list[KindCard] = []
        inside = QWidget()
        inside.setObjectName("inside")
        grid = QGridLayout(inside)
        grid.setContentsMargins(0, 0, 5, 0)
        grid.setSpacing(8)
        self.cards = [KindCard(kind, theme, session) for kind in KINDS.values()]
        for n, card in enumerate(self.cards):
            grid.addWidget(card, n // ACROSS, n % ACROSS)
            card.chosen.connect(self._choose)
            card.begun.connect(self._begin_with)
            card.moved.connect(self._move)
        for n in range(ACROSS):
            grid.setColumnStretch(n, 1)
        area = scroll_area()
        area.setWidget(inside)
        self.area = area
        self.about: QLabel = label("", wrap=True)
        self.teaches: QLabel = label("", "quiet", wrap=True)
        self.begin_button = button("Begin a new project with it", self._begin_with, "main")
        self.add_button = button("Add it to this project", self._add_it)
        below = flow(self.begin_button, self.add_button, *more)
        below.setObjectName("inside")
        whole = column(self, area, self.about, self.teaches, below, margins=0, spacing=6)
        whole.setStretch(0, 1)
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._draw_next)

    def begin(self) -> None:
        """Show the kinds; those not drawn yet are drawn one after the other, so that nobody waits for the last."""
        self._waiting = list(self.cards)
        self._timer.start()
        self.card().setFocus()

    def card(self) -> KindCard:
        """The card of the kind that is chosen."""
        return next(c for c in self.cards if c.kind.name == self.chosen)

    def _draw_next(self) -> None:
        if not self._waiting or not self.isVisible():
            self._timer.stop()
            return
        card = self._waiting.pop(0)
        card.show_offered(offered(card.kind), self.session.project.units == "in")

    def draw_all(self) -> None:
        """Draw what is waiting at once."""
        while self._waiting:
            self._draw_next()

    def _choose(self, name: str) -> None:
        self.chosen = name
        for card in self.cards:
            card.show_chosen(card.kind.name == name)
        kind = KINDS[name]
        self.about.setText(kind.about)
        self.teaches.setText(f"It teaches: {kind.teaches[:1].lower()}{kind.teaches[1:]}" if kind.teaches else "")
        self.area.ensureWidgetVisible(self.card())

    def _move(self, right: int, down: int) -> None:
        at = self.cards.index(self.card()) + right + down * ACROSS
        if 0 <= at < len(self.cards):
            self.cards[at].setFocus()

    def _begin_with(self) -> None:
        self._begin(self.chosen)

    def _add_it(self) -> None:
        self._add(self.chosen)


def of_window(window: Window, close: Callable[[], None]) -> KindsPanel:
    """The page of a window; each of its ways closes it and turns to the piece."""

    def then(act: Callable[[], object]) -> None:
        close()
        act()
        window.go("piece")

    return KindsPanel(
        window.session,
        window.theme,
        lambda kind: then(lambda: window.files.new(kind)),
        lambda kind: then(lambda: window.piece_view().add_piece(kind)),
        button("Copy the piece in hand", lambda: then(window.files.copy_piece)),
        button("From another project", lambda: then(window.files.take_over)),
    )
