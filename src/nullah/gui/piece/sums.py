"""The dimension chains of the piece as sums: side by side in one grid, with fields for what may be typed."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from nullah.core.pieces.part import Chain, ChainLine
from nullah.gui.session import Session
from nullah.gui.widgets import Field, emptied, label, row

ROW, GAP = 24, 14  # px: a line of a sum, and between sums
ACROSS = 4


class Sums(QWidget):
    """``typed`` hears the edit name of a total and what was typed; ``length`` gives who hears of an answer. ``built`` is sent when
    other sums stand there than before."""

    built = Signal()

    def __init__(
        self, session: Session, typed: Callable[[str, str], None], length: Callable[[str], Callable[[str], bool]]
    ) -> None:
        super().__init__()
        self.session, self._typed, self._length = session, typed, length
        self.fields: dict[str, Field] = {}
        self._lines: list[list[Field | QLabel]] = []
        self._totals: list[Field | QLabel] = []
        self._shape: object = None
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(4, 4, 4, 4)
        self.grid.setVerticalSpacing(1)
        self.grid.setHorizontalSpacing(GAP)

    def show_chains(self, chains: tuple[Chain, ...]) -> None:
        """Show the sums as they are."""
        shape = (
            self.session.figures(1.0),
            *((c.name, c.edit, tuple((x.label, x.times, x.edit) for x in c.lines)) for c in chains),
        )
        if shape != self._shape:
            self._shape = shape
            self._build(chains)
        for chain, total, lines in zip(chains, self._totals, self._lines, strict=True):
            _show(total, self.session.figures(chain.total))
            for line, shown in zip(chain.lines, lines, strict=True):
                _show(shown, self.session.figure(line.each))

    def _build(self, chains: tuple[Chain, ...]) -> None:
        emptied(self.grid)
        self.fields, self._lines, self._totals = {}, [], []
        top = lowest = 0
        for axis, chain in enumerate(chains):
            at = axis % ACROSS  # sums stand in one grid, so that lines of all columns end alike
            top = lowest if at == 0 else top
            self._lines.append([self._line(f"chain {axis} {line.label}", line) for line in chain.lines])
            self.grid.addWidget(label(chain.name, "heading"), top, at)
            for n, (line, shown) in enumerate(zip(chain.lines, self._lines[-1], strict=True), top + 1):
                text = f"{line.times} \u00d7 {line.label}" if line.times > 1 else line.label
                both = row(label(self.session.told(text), "quiet", wrap=True), shown)
                both.setStretch(0, 1)
                self.grid.addLayout(both, n, at)
                self.grid.setRowMinimumHeight(n, ROW)
            total: Field | QLabel = label("", "heading")
            if chain.edit:
                total = self._field(f"chain {axis} total", 92, partial(self._typed, f"rod.{chain.rod}"))
            total.setFixedHeight(ROW)
            self._totals.append(total)
            self.grid.addLayout(row("=", 1, total), top + 1 + len(chain.lines), at)
            lowest = max(lowest, top + 2 + len(chain.lines))
        for at in range(ACROSS):
            self.grid.setColumnStretch(at, int(at < len(chains)))
        self.grid.setRowStretch(lowest, 1)
        self.built.emit()

    def _line(self, name: str, line: ChainLine) -> Field | QLabel:
        if not line.edit:
            return label("")
        field = self._field(name, 76, self._length(line.edit.removeprefix("asked.")))
        field.setFixedHeight(ROW)
        return field

    def _field(self, name: str, wide: int, taken: Callable[[str], object]) -> Field:
        self.fields[name] = field = Field(name, wide, taken, grows=True)
        return field


def _show(where: Field | QLabel, text: str) -> None:
    """Words in a field or on a label."""
    where.show_text(text) if isinstance(where, Field) else where.setText(text)
