"""What is asked of a joint, to be typed or chosen: how deep, how many, how it is held."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from nullah.core.edits.piece_edits import set_joint
from nullah.core.joints.families import FAMILIES
from nullah.core.values.ask import Ask
from nullah.core.values.design import JointDesign
from nullah.gui.piece.form import ask_read, ask_spoken, ask_words
from nullah.gui.session import Session
from nullah.gui.widgets import Field, emptied, label, pick

WIDE = 164  # px


class Asked(QWidget):
    """The asks of one joint, one under the other."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.fields: dict[str, Field] = {}
        self.picks: dict[str, QComboBox] = {}
        self._family = ""
        self._joint = ""
        self.rows = QVBoxLayout(self)
        self.rows.setContentsMargins(0, 0, 0, 0)
        self.rows.setSpacing(3)

    def show_joint(self, joint: JointDesign | None, joint_id: str) -> None:
        """What is asked of it as it is now.

        Args:
            joint_id: by the project's names.
        """
        self._joint = joint_id
        if joint is None:
            return
        if joint.family != self._family:
            self._build(joint.family)
        for ask in FAMILIES[joint.family].asks:
            value = joint.asked.get(ask.name, ask.default)
            words = ask_words(self.session, ask, value)
            if ask.name in self.fields:
                self.fields[ask.name].show_text(words)
            else:
                self.picks[ask.name].setCurrentText(words)

    def _build(self, family: str) -> None:
        self._family = family
        self.fields, self.picks = {}, {}
        emptied(self.rows)
        for ask in FAMILIES[family].asks:
            self.rows.addWidget(label(ask.words, "quiet", wrap=True))
            self.rows.addWidget(self._asked(ask))

    def _asked(self, ask: Ask) -> QWidget:
        if ask.type in ("choice", "yesno"):
            options = ["yes", "no"] if ask.type == "yesno" else list(ask.options)
            self.picks[ask.name] = choice = pick(ask_spoken(ask), options, lambda text: self._set(ask, text))
            choice.setFixedWidth(WIDE)
            choice.setAccessibleName(ask.words)
            return choice
        self.fields[ask.name] = field = Field(ask.name, WIDE, lambda text: self._set(ask, text))
        field.setAccessibleName(ask.words)
        return field

    def _set(self, ask: Ask, text: str) -> bool:
        """What was typed or chosen, once it is known to serve."""
        return self.session.attempt(
            f"{ask_spoken(ask)}: {text.strip()}",
            lambda: set_joint(self.session.project, self._joint, ask.name, ask.held(ask_read(self.session, ask, text))),
        )
