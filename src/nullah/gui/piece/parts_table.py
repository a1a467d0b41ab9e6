"""The table of parts: sorted by a click on its head, written in where the maker may, copied as text, with the wood added up."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QGuiApplication, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QTableWidget, QTableWidgetItem, QWidget

from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning import parts_table
from nullah.core.planning.parts_table import BY_HAND, COLUMNS, Row
from nullah.core.values import measure
from nullah.gui.session import Session
from nullah.gui.widgets import button, column, row

VALUE = int(Qt.ItemDataRole.UserRole)


class Cell(QTableWidgetItem):
    """A cell that sorts by what it stands for."""

    def __init__(self, words: str, value: float | str) -> None:
        super().__init__(words)
        self.setData(VALUE, value)

    def __lt__(self, other: QTableWidgetItem) -> bool:
        return bool(self.data(VALUE) < other.data(VALUE))


SPACING = 4  # px
WOOD = ("species", "thickness", "parts", "m\u00b2", "board feet")


def _table(name: str, columns: tuple[str, ...]) -> QTableWidget:
    made = QTableWidget(0, len(columns))
    made.setAccessibleName(name)
    made.setHorizontalHeaderLabels([c[:1].upper() + c[1:] for c in columns])
    made.verticalHeader().hide()
    made.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    made.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    made.setTabKeyNavigation(False)
    return made


class PartsTable(QWidget):
    """Every part of every piece, or the wood they come to."""

    lit = Signal(str)  # the part of the row that was picked

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._filling = False
        self.rows: tuple[Row, ...] = ()
        self.table = _table("table of parts", COLUMNS)
        self.table.itemChanged.connect(self._written)
        self.table.itemSelectionChanged.connect(self._picked)
        self.wood = _table("wood by species and thickness", WOOD)
        self.wood.hide()
        self.which = button("Wood", self._turn, "chip", "finished wood added up by species and thickness")
        self.which.setCheckable(True)
        copy = button("Copy as text", self.copy, "chip", "all of it, with tabs between, as a spreadsheet takes it")
        below = row(self.which, copy, 1)
        whole = column(self, self.table, self.wood, below, margins=0, spacing=SPACING)
        whole.setStretch(0, 1)
        whole.setStretch(1, 1)
        whole.addStretch(0)  # takes what is left over of a row
        self._below = below

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._whole_rows()

    def _whole_rows(self) -> None:
        """So high that no row is cut in half at the lower edge."""
        room = self.height() - self._below.sizeHint().height() - SPACING
        for table in (self.table, self.wood):
            tall, bar = table.verticalHeader().defaultSectionSize(), table.verticalScrollBar().sizeHint().width()
            around = table.horizontalHeader().sizeHint().height() + 2 * table.frameWidth()
            if table.horizontalHeader().length() > self.width() - bar - 2 * table.frameWidth():
                around += table.horizontalScrollBar().sizeHint().height()
            table.setMaximumHeight(around + max(1, (room - around) // tall) * tall)

    def refresh(self) -> None:
        """Show the parts as they are now, in the order they are sorted by."""
        plan = self.session.plan
        self.rows = parts_table.rows(plan)
        self._fill(self.table, [[getattr(r, name) for name in COLUMNS] for r in self.rows], [r.id for r in self.rows])
        for at in range(self.table.rowCount()):
            cell = self.table.item(at, 0)
            if cell is not None and cell.data(VALUE + 1) == self.session.lit_part:
                self._filling = True
                self.table.selectRow(at)
                self._filling = False
        wood = parts_table.sums(plan)
        shown: list[list[float | str]] = [
            [s.species, s.thickness, str(s.parts), f"{s.area:.3f}", f"{s.board_feet:.2f}"] for s in wood
        ]
        self._fill(self.wood, shown, [""] * len(shown))
        self._whole_rows()

    def _fill(self, table: QTableWidget, lines: Sequence[Sequence[float | str]], ids: list[str]) -> None:
        self._filling = True
        table.setSortingEnabled(False)
        table.setRowCount(len(lines))
        may = {r.id for r in self.rows if r.written}
        for at, (cells, part) in enumerate(zip(lines, ids, strict=True)):
            for place, value in enumerate(cells):
                made = Cell(self.session.signed_figure(value) if isinstance(value, float) else value, value)
                made.setData(VALUE + 1, part)
                if part not in may or COLUMNS[place] not in BY_HAND:
                    made.setFlags(made.flags() & ~Qt.ItemFlag.ItemIsEditable)
                if isinstance(value, float) or value[:1].isdigit():
                    made.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                table.setItem(at, place, made)
        table.setSortingEnabled(True)
        table.resizeColumnsToContents()
        self._filling = False

    def _turn(self) -> None:
        self.table.setVisible(not self.which.isChecked())
        self.wood.setVisible(self.which.isChecked())

    def copy(self) -> None:
        """Put the table on the clipboard."""
        QGuiApplication.clipboard().setText(parts_table.text(self.session.plan, self.session.figures))
        self.session.said.emit("The table of parts is on the clipboard.", False)

    def _picked(self) -> None:
        found = self.table.selectedItems()
        if not self._filling and found:
            self.lit.emit(found[0].data(VALUE + 1))

    def _written(self, cell: QTableWidgetItem) -> None:
        if self._filling:
            return
        part, what, words = cell.data(VALUE + 1), COLUMNS[cell.column()], cell.text().strip()
        one = next(r for r in self.rows if r.id == part)

        def make(project: Project) -> Project:
            value = words if what == "species" else measure.parse_positive(words, project.units, f"the {what}")
            return piece_edits.put_figure(project, part, what, value)

        if not self.session.attempt(f"{one.part} {what} by hand: {words}", lambda: make(self.session.project)):
            self.refresh()  # as it was
