"""A photograph of a side of the board: loaded, its corners pointed at, then laid under the drawing, its perspective taken out."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core import board_readings, measure
from nullah.core.arrays import np
from nullah.core.document import Board, BoardPhoto
from nullah.core.surface.perspective import by_lengths, convex, squared
from nullah.formats.trouble import FileTrouble
from nullah.gui.flow import flow
from nullah.gui.paint.marked_photo import PICTURES, MarkedPhoto, picture_bytes
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, label

CORNERS = ("upper left", "upper right", "lower right", "lower left")
PIXELS = 400_000  # of a squared picture: some 100 MB while it is worked
WIDE = 1200  # pixels of a squared picture, of a board that is longer than wide


class PhotoPanel(QWidget):
    """The picture of the side in hand with its corners. ``squared`` is sent once the fourth is set."""

    squared = Signal()

    def __init__(
        self, session: Session, theme: Theme, hand: Callable[[], Board | None], side: Callable[[], str]
    ) -> None:
        super().__init__()
        self.session, self._hand, self._side = session, hand, side
        self.photo = MarkedPhoto(theme, 4)
        self.photo.marked.connect(self._marked)
        self.what = label("", "quiet", wrap=True)
        self.choose = button("Load a picture", self.open, "chip", "a photograph of this side of the board, JPEG or PNG")
        self.away = button("Take the picture away", self._drop, "chip")
        self.by_lengths = button(
            "By two lengths", self._turn_way, "chip", "a corner and two known lengths, for a picture taken square on"
        )
        self.by_lengths.setCheckable(True)
        self.known = {
            n: Field(f"known {n}", 66, lambda t, n=n: self._know(n, t), grows=True) for n in ("along", "across")
        }
        self._known: dict[tuple[str, str], float] = {}  # by board and way, mm
        self.lengths = flow("known along", self.known["along"], "known across", self.known["across"], spacing=5)
        tools = flow(self.choose, self.away, self.by_lengths, self.lengths, spacing=5)
        whole = column(self, tools, self.what, self.photo, margins=0, spacing=4)
        whole.setStretch(2, 1)

    def shown(self) -> BoardPhoto | None:
        """The picture of the side in hand."""
        board = self._hand()
        return board_readings.photo_of(self.session.project, board.id, self._side()) if board is not None else None

    def _turn_way(self) -> None:
        """Four corners, or a corner and two lengths."""
        self.photo.most = 3 if self.by_lengths.isChecked() else 4
        self.photo.marks = []
        self.refresh()

    def _know(self, which: str, text: str) -> None:
        try:
            known = measure.parse_positive(text, self.session.project.units, "a length")
            board = self._hand()
            self._known[board.id if board is not None else "", which] = known
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
        self.refresh()

    def refresh(self) -> None:
        """Show the picture of the side in hand, and which corner is wanted next."""
        found, side = self.shown(), self._side()
        self.photo.setVisible(found is not None)
        self.away.setVisible(found is not None)
        self.by_lengths.setVisible(found is not None)
        self.lengths.setVisible(False)
        self.choose.setText("Load another picture" if found is not None else "Load a picture")
        if found is None:
            self.what.setText(
                f"A photograph of the {side}, taken with its left end left: a small copy is kept in the project, and once its corners "
                "are pointed at it lies under the drawing, to scale."
            )
            return
        self.photo.show_picture(found.jpeg, found.corners)
        self.by_lengths.setVisible(True)
        self.lengths.setVisible(self.photo.most == 3)
        board = self._hand()
        for name, field in self.known.items():
            whole = getattr(board, "length" if name == "along" else "width", 0.0)
            field.show_text(self.session.figures(self._known.get((board.id if board is not None else "", name), whole)))
        number = len(self.photo.marks) % self.photo.most
        if self.photo.most == 3:
            wanted = ("upper left corner", "point so far along the upper edge", "point so far down the left end")[
                number
            ]
            self.what.setText(f"{found.name}: click the {wanted}. Only a picture taken square on is read right so.")
            return
        if found.corners and not self.photo.marks:
            self.what.setText(
                f"{found.name} lies under the {side}. Click the upper left corner to point at the corners anew."
            )
        else:
            self.what.setText(
                f"{found.name}: click the {CORNERS[number]} corner of the board, or move the crosshair and press Space."
            )

    def open(self) -> None:
        """Ask for a picture of the side in hand."""
        board, side, s = self._hand(), self._side(), self.session
        if board is None:
            s.said.emit("Add a board first; a picture is of one.", True)
            return
        name, _ = QFileDialog.getOpenFileName(self, f"A picture of the {side} of {board.name}", "", PICTURES)
        if not name:
            return
        from nullah.formats import photo  # the library of pictures is loaded once one is asked for

        try:
            found = photo.read(Path(name))
        except FileTrouble as trouble:
            s.said.emit(str(trouble), True)
            return
        s.attempt(
            f"{found.name} under the {side} of {board.name}",
            lambda: board_readings.put_photo(s.project, board.id, side, found.name, found.jpeg, found.wide, found.tall),
        )
        self.photo.setFocus()

    def _marked(self) -> None:
        board, found = self._hand(), self.shown()
        if board is not None and found is not None and len(self.photo.marks) == self.photo.most:
            corners = [(m.x(), m.y()) for m in self.photo.marks]
            if self.photo.most == 3:
                known = {n: self._known.get((board.id, n)) for n in ("along", "across")}
                along, across = known["along"] or board.length, known["across"] or board.width
                corners = by_lengths(*corners, (board.length / along, board.width / across))
            self.photo.marks = []
            done = self.session.attempt(
                f"{found.name} squared",
                lambda: board_readings.square_photo(self.session.project, board.id, found.side, corners),
            )
            if done:
                self.squared.emit()
                return
        self.refresh()

    def _drop(self) -> None:
        found = self.shown()
        if found is not None:
            self.photo.marks = []
            self.session.attempt(
                "the picture taken away",
                lambda: board_readings.drop_photo(self.session.project, found.board, found.side),
            )


def laid_under(found: BoardPhoto, board: Board) -> QPixmap | None:
    """A picture with its perspective taken out, its sides those of the board; None before its corners are told, and where a
    damaged file has others than a board's."""
    if not convex(found.corners):
        return None
    wide = max(8, min(WIDE, round((PIXELS * board.length / board.width) ** 0.5)))
    tall = max(8, min(WIDE, round(wide * board.width / board.length)))
    return _squared(found.jpeg, found.corners, wide, tall)


@lru_cache(maxsize=8)
def _squared(jpeg: str, corners: tuple[tuple[float, float], ...], wide: int, tall: int) -> QPixmap | None:
    image = QImage()
    if not image.loadFromData(picture_bytes(jpeg)):
        return None
    image = image.convertToFormat(QImage.Format.Format_RGB888)
    flat = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), image.bytesPerLine())
    pixels = flat[:, : image.width() * 3].reshape(image.height(), image.width(), 3).astype(float)
    out = np.ascontiguousarray(squared(pixels, corners, wide, tall).round().astype(np.uint8))
    made = QImage(out.tobytes(), wide, tall, wide * 3, QImage.Format.Format_RGB888)
    return QPixmap.fromImage(made)
