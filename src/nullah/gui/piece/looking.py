"""How one looks at a standing piece: from which side, cut open, with its hidden edges, one part of it alone."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QSlider, QVBoxLayout, QWidget

from nullah.core.pictures import standing
from nullah.core.values.frozen import replace
from nullah.gui.flow import flow
from nullah.gui.widgets import button, pick

WHOLE = "whole"
RESTS = 150  # ms after the last turn: then the wood has its figure again
SIDES = {
    f"cut open from {words}": side
    for side, words in zip(standing.OPEN_FROM, ("the front", "the right", "above"), strict=True)
}


class Looking(QWidget):
    """What is said above the drawing of a standing piece; ``changed`` when it is to be drawn anew."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.sight = standing.PLAIN
        self.opening = pick("cut open", [WHOLE, *SIDES], lambda _: self.changed.emit())
        self.open_at = QSlider(Qt.Orientation.Horizontal)
        self.open_at.setRange(2, 98)
        self.open_at.setValue(50)
        self.open_at.setFixedWidth(120)
        self.open_at.setAccessibleName("how far in it is cut open")
        self.open_at.valueChanged.connect(lambda _: self.changed.emit())
        self.edges = button("Hidden edges", self.changed.emit, "chip", "dash every edge that is not seen")
        self.alone = button("This part alone", self.changed.emit, "chip", "the part that is lit by itself")
        for chip in (self.edges, self.alone):
            chip.setCheckable(True)
        self.rests = QTimer(self)
        self.rests.setSingleShot(True)
        self.rests.setInterval(RESTS)
        self.rests.timeout.connect(self.changed)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(flow(self.opening, self.open_at, self.edges, self.alone))

    def turn(self, right: float, up: float) -> None:
        """Turn the piece by so many degrees; until it rests it is drawn without the figure of its wood, which nobody makes out of what
        moves."""
        self.sight = self.sight.turned(right, up)
        self.rests.start()
        self.changed.emit()

    def again(self) -> None:
        """Look at it as one first saw it."""
        self.rests.stop()
        self.sight = standing.PLAIN

    def at(self, part: str, apart: float) -> standing.Sight:
        """How one looks at it now, with the part that is lit and how far it is drawn apart."""
        side = SIDES.get(self.opening.currentText(), "")
        self.open_at.setVisible(bool(side))
        self.alone.setEnabled(bool(part))
        return replace(
            self.sight,
            apart=apart,
            open_from=side,
            open_at=self.open_at.value() / 100,
            hidden=self.edges.isChecked(),
            alone=part if self.alone.isChecked() else "",
            figured=not self.rests.isActive(),
        )
