"""Rows of chips to choose what is trued."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QComboBox, QPushButton, QWidget

from nullah.core.stations.trued import Trued
from nullah.gui.flow import Flow
from nullah.gui.widgets import button, emptied, label, pick

MOST_CHIPS = 6


class Targets(QWidget):
    """A row of chips to choose what is trued, or with more than ``MOST_CHIPS`` a list to open."""

    def __init__(self, words: str, choose: Callable[[str], None]) -> None:
        super().__init__()
        self.words, self.choose = words, choose
        self.line = Flow(4)
        self.setLayout(self.line)
        self.ids: tuple[str, ...] = ()
        self.chips: list[QPushButton] = []
        self.list: QComboBox | None = None

    def show_targets(self, targets: list[Trued], current: str, figure: Callable[[float], str]) -> None:
        """Show these, with the thickness left in each, the current one marked."""
        ids = tuple(t.id for t in targets)
        if ids != self.ids or self.line.count() == 0:
            self._build(ids)
        for i, t in enumerate(targets):
            short = "" if t.planing.enough else " !"
            words = f"{t.name if t.id == t.board else t.id}  {figure(t.planing.thickest)}{short}"
            if self.list is not None:
                self.list.setItemText(i, words)
            else:
                self.chips[i].setText(words)
                self.chips[i].setChecked(t.id == current)
        if self.list is not None:
            self.list.setCurrentIndex(ids.index(current) if current in ids else -1)

    def _build(self, ids: tuple[str, ...]) -> None:
        emptied(self.line)
        self.ids, self.chips, self.list = ids, [], None
        self.line.addWidget(label(self.words, "quiet"))
        if len(ids) > MOST_CHIPS:
            self.list = pick(self.words, list(ids), lambda _: self._listed())
            self.list.setFixedWidth(150)
            self.list.setPlaceholderText("choose one")
            self.line.addWidget(self.list)
        for one in ids if self.list is None else ():
            chip = button(one, partial(self.choose, one), "chip")
            chip.setCheckable(True)
            self.chips.append(chip)
            self.line.addWidget(chip)

    def _listed(self) -> None:
        if self.list is not None:
            self.choose(self.ids[self.list.currentIndex()])
