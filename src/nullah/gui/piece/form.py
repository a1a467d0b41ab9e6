"""What a kind asks, as its sentence: a field or a choice wherever the sentence names what is asked."""

from __future__ import annotations

import re
from collections.abc import Callable

from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from nullah.core.document.pieces import Designed, Piece
from nullah.core.edits.board_readings import own_woods
from nullah.core.edits.piece_edits import answer, set_answer
from nullah.core.pieces.kind import Kind
from nullah.core.values import measure
from nullah.core.values.ask import Ask
from nullah.gui.flow import flow
from nullah.gui.session import Session
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Field, emptied, pick, refill_pick

WIDE = {"length": 66, "whole": 52, "number": 56, "text": 120}  # px


class Form(QWidget):
    """The sentence of the piece in hand, to be typed in."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.fields: dict[str, Field] = {}
        self.picks: dict[str, QComboBox] = {}
        self._kind = ""
        self._asks: dict[str, Ask] = {}
        self.rows = QVBoxLayout(self)
        self.rows.setContentsMargins(0, 0, 0, 0)
        self.rows.setSpacing(6)

    def show_piece(self, piece: Piece | Designed, kind: Kind | None) -> None:
        """The answers as they are."""
        if kind is None:
            return
        if kind.name != self._kind:
            self._build(kind)
        for name, field in self.fields.items():
            field.show_text(ask_words(self.session, self._asks[name], answer(piece, name)))
        woods = own_woods(self.session.project)
        for name, choice in self.picks.items():
            value = answer(piece, name)
            ask = self._asks[name]
            if ask.also is not None and (woods or choice.count() > len(ask.options)):
                refill_pick(choice, list(dict.fromkeys((*ask.options, *woods, value))))
            choice.setCurrentText(ask_words(self.session, ask, value))

    def _build(self, kind: Kind) -> None:
        self._kind = kind.name
        self._asks = {a.name: a for a in kind.asks}
        self.fields, self.picks = {}, {}
        emptied(self.rows)
        for line in kind.sentence.split("\n"):
            pieces: list[QWidget | str] = []
            for words, name in re.findall(r"([^{}]*)(?:\{([a-z_.]+)\})?", line):
                if words.strip(" ."):  # a full stop by itself would be a line of its own
                    pieces.append(words.strip())
                if name in self._asks:
                    pieces.append(self._asked(self._asks[name]))
            if pieces:
                self.rows.addWidget(flow(*pieces))

    def _asked(self, ask: Ask) -> QWidget:
        spoken = ask_spoken(ask)
        if ask.type in ("choice", "yesno"):
            options = ["yes", "no"] if ask.type == "yesno" else list(ask.options)
            self.picks[ask.name] = choice = pick(spoken, options, lambda t: self._set(ask, lambda: ask.read(t), t))
            set_tip(choice, ask.words)
            choice.setAccessibleName(ask.words)
            return choice
        name = ask.name
        self.fields[name] = field = Field(
            name,
            WIDE[ask.type],
            lambda t: self._set(ask, lambda: ask_read(self.session, ask, t), t),
            ask.type == "length",
        )
        set_tip(field, ask.words)
        field.setAccessibleName(ask.words)
        return field

    def _set(self, ask: Ask, value: Callable[[], object], text: str) -> bool:
        return self.session.attempt(
            f"{ask_spoken(ask)}: {text.strip()}", lambda: set_answer(self.session.project, ask.name, value())
        )


def ask_words(session: Session, ask: Ask, value: object) -> str:
    """An answer as a field or a choice shows it."""
    if ask.type == "length":
        return session.figures(float(value))  # type: ignore[arg-type]  # a length is a number
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value)


def ask_read(session: Session, ask: Ask, text: str) -> object:
    """What was typed as a value: a length in the unit that is shown.

    Raises:
        BadAnswer, BadLength: it is none.
    """
    return length(session, ask, text) if ask.type == "length" else ask.read(text)


def ask_spoken(ask: Ask) -> str:
    """What is asked in a word or two: its name, without what it is asked of."""
    return ask.name.rpartition(".")[2].replace("_", " ")


def length(session: Session, ask: Ask, text: str) -> float:
    """A length that was typed for what is asked, in the unit that is shown, mm.

    Raises:
        BadLength: it is none, or not more than zero where it must be.
    """
    mm = measure.parse_length(text, session.project.units)
    if mm <= 0 and ask.positive:
        raise measure.BadLength(f'"{text.strip()[:30]}" is not more than zero; this size must be.')
    return mm
