"""The right side: *Set your tools* above, *Your call* below."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QEvent, QRect, Qt, Signal
from PySide6.QtGui import (
    QEnterEvent,
    QFocusEvent,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QFrame, QWidget

from nullah.core.document.calls import Call, Option
from nullah.core.marking.plan import Setting, listed
from nullah.core.planning.plan import TITLES, settings_at
from nullah.core.values.frozen import replace
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Rows, button, column, inside_of, label

WIDTH = 318
MARGIN, SPACING, SCROLL = 10, 6, 16  # px
LEAST_SETTINGS = 74  # px: a setting and the line that tells of more
NO_CALL = 48  # px of the line that says that nothing waits
LEAST_CALL = 150  # px that calls keep while all settings are shown
SLACK = 14  # px that a card may come out higher than it was reckoned
MORE = 28  # px of the line that tells of more


class SettingRow(QWidget):
    """One setting: the figure large, what tool, which parts. A click lights its lines in the drawing."""

    picked = Signal(str)

    def __init__(self, setting: Setting, figure: str, parts: str, lit: bool, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setting, self.figure, self.lit, self.theme = setting, figure, lit, theme
        self.tool = f"{setting.tool}  \u2192  {parts}"
        self.setAccessibleName(f"{setting.tool} {figure} for {parts}: {setting.use}")
        wide = WIDTH - 46 - self._left()
        big = QRect(0, 0, wide, 400)
        wrap = Qt.TextFlag.TextWordWrap
        self._tool_tall = QFontMetrics(font(14)).boundingRect(big, wrap, self.tool).height()
        self._use_tall = QFontMetrics(font(13)).boundingRect(big, wrap, setting.use).height()
        self.setFixedHeight(max(40, self._tool_tall + self._use_tall + 9))

    def _left(self) -> int:
        return max(88, QFontMetrics(font(26, True)).horizontalAdvance(self.figure) + 14)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme["computed wash" if self.lit else "panel"])
        painter.setPen(self.theme["line"])
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
        painter.setFont(font(26, True))
        painter.setPen(self.theme["computed"])
        painter.drawText(QRect(4, 3, self._left(), 32), Qt.AlignmentFlag.AlignVCenter, self.figure)
        wrap = Qt.TextFlag.TextWordWrap
        wide = self.width() - self._left() - 4
        painter.setFont(font(14))
        painter.setPen(self.theme["ink"])
        painter.drawText(QRect(self._left(), 3, wide, self._tool_tall), wrap, self.tool)
        painter.setFont(font(13))
        painter.setPen(self.theme["quiet"])
        painter.drawText(QRect(self._left(), 4 + self._tool_tall, wide, self._use_tall), wrap, self.setting.use)
        if self.hasFocus():
            painter.setPen(QPen(self.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.picked.emit(f"setting:{self.setting.id}")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.picked.emit(f"setting:{self.setting.id}")
        else:
            super().keyPressEvent(event)


class OptionCard(QFrame):
    """One option of a call, with its consequences; one click, or its number key, takes it."""

    taken = Signal(str)
    eyed = Signal(str)  # looked at, before it is taken; "" no longer

    def __init__(self, number: int, option: Option, recommended: bool) -> None:
        super().__init__()
        self.setObjectName("option")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.option = option
        head = label(
            f"{number}   {option.label}" + ("   \u2190 would take" if recommended else ""), "heading", wrap=True
        )
        inside = column(self, head, margins=7, spacing=2)
        for line in option.consequences:
            inside.addWidget(label(f"\u2022 {line}", wrap=True))
        self.setAccessibleName(f"{number}: {option.label}. {'; '.join(option.consequences)}")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.taken.emit(self.option.id)

    def enterEvent(self, event: QEnterEvent) -> None:
        self.eyed.emit(self.option.id)

    def leaveEvent(self, event: QEvent) -> None:
        self.eyed.emit("")

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.eyed.emit(self.option.id)
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.eyed.emit("")
        super().focusOutEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.taken.emit(self.option.id)
        else:
            super().keyPressEvent(event)


class CallCard(QFrame):
    """A call with its options laid out; ``extras`` go, the first of them first, where the options would not be seen whole."""

    taken = Signal(str)
    eyed = Signal(str)  # an option looked at; "" no longer

    def __init__(self, call: Call, told: Callable[[str], str]) -> None:
        super().__init__()
        self.setObjectName("call")
        top = ("Conflict with what is cut \u00b7 " if call.conflict else "") + TITLES[call.station]
        inside = column(
            self, label(top, "quiet"), label(told(call.question), "heading", wrap=True), margins=9, spacing=5
        )
        for i, option in enumerate(call.options, 1):
            lines = tuple(told(c) for c in option.consequences)
            shown = replace(option, label=told(option.label), consequences=lines)
            card = OptionCard(i, shown, option.id == call.recommended)
            card.taken.connect(self.taken)
            card.eyed.connect(self.eyed)
            inside.addWidget(card)
        why = label(told(f"Why: {call.why}."), wrap=True)
        inside.addWidget(why)
        self.extras = [why]
        if call.differ:
            differ = label(told(call.differ), "quiet", wrap=True)
            inside.addWidget(differ)
            self.extras.insert(0, differ)
        set_tip(self, "\n".join(e.text() for e in reversed(self.extras)))


class Side(QFrame):
    """Settings and calls of the plan; ``lit`` is sent when a setting is chosen, ``eyed`` when an option is looked at."""

    lit = Signal(str)
    eyed = Signal(str, str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedWidth(WIDTH)
        self.session, self.theme = session, theme
        self._shown_settings: object = None
        self._shown_calls: object = None
        self.chosen_setting = ""
        self.open_call = ""
        self.settings_head = label("Set your tools", "heading")
        self.settings_area = Rows("settings", spacing=0)
        self.calls_head = label("Your call", "heading")
        self.calls_area = Rows("calls")
        self._scrolled_to = ""  # the call that was scrolled into sight last
        whole = column(
            self,
            self.settings_head,
            self.settings_area,
            self.calls_head,
            self.calls_area,
            margins=MARGIN,
            spacing=SPACING,
        )
        whole.setStretch(3, 1)
        self.all_settings = False  # whether every setting is shown, and calls give way
        self._card_shown: CallCard | None = None
        session.changed.connect(self.refresh)
        session.looked_at.connect(lambda _: self.refresh())

    def shown_calls(self) -> list[Call]:
        """Open calls in the order shown: conflicts, then this station's, then the rest downstream; matters of taste after them all."""
        here = self.session.here
        return sorted(self.session.plan.open_calls(), key=lambda c: (not c.conflict, c.taste, c.station != here))

    def current_call(self) -> Call | None:
        """The call whose options are laid out: the one opened, else the first that waits."""
        calls = self.shown_calls()
        return next((c for c in calls if c.id == self.open_call), next((c for c in calls if c.waits), None))

    def take_number(self, number: int) -> None:
        """Take the option with that number of the call laid out."""
        call = self.current_call()
        if call is not None and self.isVisible() and 1 <= number <= len(call.options):
            self.open_call = ""
            self.session.take(call, call.options[number - 1].id)

    def lay_out(self, call_id: str) -> None:
        """Lay out the call of that id."""
        self._open(call_id)

    def turn(self, by: int) -> None:
        """Lay out the next call."""
        calls, current = self.shown_calls(), self.current_call()
        if calls:
            at = calls.index(current) if current is not None else -1 if by > 0 else 0
            self._open(calls[(at + by) % len(calls)].id)

    def repaint_all(self) -> None:
        """After another theme: every row anew."""
        self._shown_settings = self._shown_calls = None
        self.settings_area.forget()
        self.calls_area.forget()
        self.refresh()

    def refresh(self) -> None:
        self._refresh_calls()
        self._refresh_settings()
        self.calls_area.settle()  # what of the call is put away depends on the settings
        self._show_open()

    def _show_open(self) -> None:
        """Scroll the call laid out into sight, once: where others stand before it, it begins at the top."""
        card, current = self._card_shown, self.current_call()
        now = current.id if current is not None else ""
        if card is None or now == self._scrolled_to:
            return
        self._scrolled_to = now
        bar, room = self.calls_area.verticalScrollBar(), self.calls_area.maximumViewportSize().height()
        bar.setRange(0, max(0, inside_of(self.calls_area).height() - room))
        top, bottom = card.y(), card.y() + card.height()
        if top < bar.value() or bottom > bar.value() + room:
            bar.setValue(max(0, min(top, bottom - room) if bottom - top <= room else top))

    def turn_all(self) -> None:
        """All settings, or the first of them and the call whole."""
        self.all_settings = not self.all_settings
        self._shown_settings = None
        self._refresh_settings()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()  # the first time too: before it has its size nobody can say how many settings there is room for

    def _room(self) -> int:
        """Height for settings and calls together, px."""
        heads = self.settings_head.sizeHint().height() + self.calls_head.sizeHint().height()
        return self.height() - heads - 2 * MARGIN - 3 * SPACING

    def _tall(self) -> int:
        """How high the call laid out is, with its extras put away as far as they would push its options out of sight."""
        card = self._card_shown
        if card is None:
            return NO_CALL
        wide, most = WIDTH - 2 * MARGIN - SCROLL - 8, self._room() - LEAST_SETTINGS - SLACK
        for label_ in (card, *card.findChildren(QWidget)):
            label_.ensurePolished()  # the style sheet says how large its letters are
        for extra in card.extras:
            extra.setVisible(True)
        tall = _height(card, wide)
        for extra in card.extras:
            if tall <= most:
                break
            extra.setVisible(False)
            tall = _height(card, wide)
        return tall + SLACK

    def _refresh_settings(self) -> None:
        """As many settings as there is room for, each whole, and how many more there are; or all of them."""
        settings = settings_at(self.session.plan, self.session.here)
        units = (self.session.project.units, self.session.project.denominator)
        room = self._room() - self._tall()
        showing = (tuple(settings), units, self.chosen_setting, self.session.plan.piece.problem, room)
        if showing == self._shown_settings:
            return
        self._shown_settings = showing
        area, wide = self.settings_area, WIDTH - 2 * MARGIN - SCROLL
        room = self._room() - LEAST_CALL if self.all_settings else max(room, LEAST_SETTINGS)
        tall, shown = 0, 0
        rows: list[QWidget] = []
        for setting in settings:
            rows.append(self._setting(setting))
            tall += _height(rows[-1], wide)
            if tall > room and not self.all_settings:
                break
            shown += 1
        if shown < len(settings):  # the line that tells of more wants its room too
            while rows and len(rows) > 1 and (len(rows) > shown or tall > room - MORE):
                tall -= _height(rows[-1], wide)
                area.drop(rows.pop())
            shown = len(rows)
        if not settings:
            words = self.session.plan.piece.problem or self.session.plan.joints.problem
            words = self.session.told(words) or "Nothing to set at this station yet."
            tall = _height(area.row(words, lambda: label(words, "quiet", wrap=True)), wide)
        if shown < len(settings) or self.all_settings:
            more = "the first of them  A" if self.all_settings else f"and {len(settings) - shown} more  A"
            area.row(more, lambda: button(more, self.turn_all, "link", "all settings, or the first and the call whole"))
            tall += MORE
        area.fill()
        area.setFixedHeight(min(tall + 2, max(room, tall if not self.all_settings else LEAST_SETTINGS)))

    def _setting(self, s: Setting) -> QWidget:
        figure, hair = (s.text, "") if s.value is None else self.session.figure_and_hair(s.value)
        said = replace(s, what=self.session.told(f"{hair}; {s.use}" if hair else s.use), origin="")
        parts = listed(tuple(map(self.session.plan.piece.spoken, s.parts)))
        lit = self.chosen_setting == f"setting:{s.id}"

        def made() -> QWidget:
            row = SettingRow(said, figure, parts, lit, self.theme)
            row.picked.connect(self._light)
            return row

        return self.settings_area.row((said, figure, parts, lit), made)

    def _light(self, tag: str) -> None:
        self.chosen_setting = "" if tag == self.chosen_setting else tag
        self.lit.emit(self.chosen_setting)
        self._refresh_settings()

    def _refresh_calls(self) -> None:
        calls, current = self.shown_calls(), self.current_call()
        units = (self.session.project.units, self.session.project.denominator)
        showing = (tuple(calls), current, self.session.project.choices, units)
        if showing == self._shown_calls:
            return
        self._shown_calls = showing
        self._card_shown = None
        waiting = sum(c.waits for c in calls)
        self.calls_head.setText(f"Your call  ({waiting})" if waiting else "Your call")
        area = self.calls_area
        if not waiting:
            area.row("none", lambda: label("Nothing waits for a decision.", "quiet", wrap=True))
        for n, call in enumerate(calls):
            if call.taste and n == waiting:
                words = f"As you like to work  ({len(calls) - waiting})"
                area.row(words, partial(label, words, "heading"))
            if call is current:
                card = area.row((call, units), partial(self._card, call))
                assert isinstance(card, CallCard)
                self._card_shown = card
            else:
                question = self.session.told(call.question)
                area.row((call.id, question), partial(self._folded, call.id, question))
        settled = [c for c in self.session.plan.calls if not c.open]
        recorded = [(c.id, self.session.told(f"{c.question}  {c.option(c.taken).label}")) for c in settled]
        known = {c.id for c in self.session.plan.calls}
        recorded += [(c.call, c.words) for c in self.session.project.choices if c.call not in known]
        if recorded:
            area.row("settled", lambda: label("Settled", "heading"))
        for call_id, words in recorded:
            area.row(("settled", call_id, words), partial(self._settled, call_id, words))
        area.fill()

    def _card(self, call: Call) -> CallCard:
        card = CallCard(call, self.session.told)
        card.taken.connect(lambda option: self._take(call.id, option))
        card.eyed.connect(lambda option: self.eyed.emit(call.id, option))
        return card

    def _settled(self, call_id: str, words: str) -> QWidget:
        made = button(
            f"\u2713 {_short(words, 40)}",
            lambda: self.session.take_back(call_id),
            "link",
            f"{words}\nClick to take it back.",
        )
        made.setAccessibleName(f"take back: {words}")
        return made

    def _take(self, call_id: str, option: str) -> None:
        call = self.session.plan.call(call_id)
        self.open_call = ""
        if call is not None:
            self.session.take(call, option)

    def _folded(self, call_id: str, question: str) -> QWidget:
        return button(f"\u25b8 {_short(question, 40)}", lambda: self._open(call_id), "link", question)

    def _open(self, call_id: str) -> None:
        self.open_call = call_id
        self.refresh()


def _height(widget: QWidget, wide: int) -> int:
    """How high a widget is at a width."""
    layout = widget.layout()
    if layout is not None and layout.hasHeightForWidth():
        return layout.totalHeightForWidth(wide)
    return (
        widget.heightForWidth(wide)
        if widget.hasHeightForWidth()
        else max(widget.minimumHeight(), widget.sizeHint().height())
    )


def _short(words: str, most: int) -> str:
    return words if len(words) <= most else words[: most - 1].rstrip() + "\u2026"
