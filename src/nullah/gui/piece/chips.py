"""The pieces of a project as a row of chips, the one in hand pressed."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from nullah.core.document.project import Project
from nullah.gui.flow import flow
from nullah.gui.widgets import button, column, emptied


class PieceChips(QWidget):
    """One chip for each piece; none where there is but one."""

    taken = Signal(str)  # the id of the piece that is taken in hand

    def __init__(self) -> None:
        super().__init__()
        self._shown: tuple[object, ...] = ()
        self._row = flow("Pieces")
        column(self, self._row, margins=0, spacing=0)

    def show_pieces(self, project: Project) -> None:
        """Show the pieces as they are."""
        shows = (project.hand, *((p.id, p.name) for p in project.pieces))
        if shows == self._shown:
            return
        self._shown = shows
        line = self._row.layout()
        assert line is not None
        emptied(line)
        several = len(project.pieces) > 1
        for piece in project.pieces if several else ():
            chip = button(piece.name, partial(self.taken.emit, piece.id), "chip")
            chip.setCheckable(True)
            chip.setChecked(piece.id == project.hand)
            line.addWidget(chip)
        self.setVisible(several)
