"""A photograph of a side of the board: loaded, its corners pointed at, then laid under the drawing, its perspective taken out."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core.document.project import Board, BoardPhoto
from nullah.core.edits import board_readings
from nullah.core.marking.plan import counted
from nullah.core.surface.perspective import by_lengths
from nullah.core.surface.photo_fit import PhotoFit
from nullah.core.values import measure
from nullah.core.values.arrays import np
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
        self.known = {n: Field(f"known {n}", 66, partial(self._know, n), grows=True) for n in ("along", "across")}
        self._known: dict[tuple[str, str], float] = {}  # by board and way, mm
        self.edges = button(
            "Points on edges",
            lambda: self._turn("edges"),
            "chip",
            "click places along the board's edges: it is laid more truly",
        )
        self.told = button(
            "A length on it",
            lambda: self._turn("told"),
            "chip",
            "click two places on its face and say how far apart they are",
        )
        self.between = Field("length between the two points", 66, self._told, grows=True)
        self.alone = button("Corners alone", self._alone, "chip", "forget points on edges and lengths")
        for chip in (self.edges, self.told):
            chip.setCheckable(True)
        self.lengths = flow("known along", self.known["along"], "known across", self.known["across"], spacing=5)
        more = (self.edges, self.told, self.between, self.alone)
        tools = flow(self.choose, self.away, self.by_lengths, self.lengths, *more, spacing=5)
        whole = column(self, tools, self.what, self.photo, margins=0, spacing=4)
        whole.setStretch(2, 1)

    def shown(self) -> BoardPhoto | None:
        """The picture of the side in hand."""
        board = self._hand()
        return board_readings.photo_of(self.session.project, board.id, self._side()) if board is not None else None

    def _turn_way(self) -> None:
        """Four corners, or a corner and two lengths."""
        self._turn("by_lengths")

    def _turn(self, to: str) -> None:
        """What clicks on the picture set, one of: four corners, a corner and two lengths, points on edges, the ends of a length."""
        for name in ("by_lengths", "edges", "told"):
            getattr(self, name).setChecked(name == to and getattr(self, name).isChecked())
        self.photo.most = {"by_lengths": 3, "edges": 1, "told": 2}[to] if getattr(self, to).isChecked() else 4
        self.photo.marks = []
        self.refresh()

    def _told(self, text: str) -> None:
        """The length between the two points that are clicked."""
        board, found, s = self._hand(), self.shown(), self.session
        ends = [(m.x(), m.y()) for m in self.photo.marks]
        if board is None or found is None or len(ends) != 2:
            s.said.emit("Click the two points first, then say how far apart they are.", True)
            return
        try:
            length = measure.parse_positive(text, s.project.units, "a length")
        except measure.BadLength as error:
            s.said.emit(str(error), True)
            return
        self.photo.marks = []
        both = (ends[0], ends[1])
        s.attempt(
            f"a length told on {found.name}",
            lambda: board_readings.length_on_photo(s.project, board.id, found.side, both, length),
        )
        self.refresh()

    def _alone(self) -> None:
        found, s = self.shown(), self.session
        if found is not None:
            s.attempt(
                f"{found.name} laid by its corners",
                lambda: board_readings.corners_alone(s.project, found.board, found.side),
            )
            self.refresh()

    def _fit(self) -> PhotoFit | None:
        board, found = self._hand(), self.shown()
        return board_readings.photo_fit(found, board) if board is not None and found is not None else None

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
        fit = self._fit()
        for tool in (self.edges, self.told):
            tool.setVisible(fit is not None)
        self.between.setVisible(self.told.isChecked() and fit is not None)
        self.alone.setVisible(fit is not None and found is not None and bool(found.edges or found.known))
        self.choose.setText("Load another picture" if found is not None else "Load a picture")
        if found is None:
            self.what.setText(
                f"A photograph of the {side}, taken with its left end left: a small copy is kept in the project, and once its corners "
                "are pointed at it lies under the drawing, to scale."
            )
            return
        more = [*((at,) for at in found.edges), *(k.ends for k in found.known)]
        self.photo.show_picture(found.jpeg, found.corners, more)
        self.by_lengths.setVisible(True)
        self.lengths.setVisible(self.photo.most == 3)
        board = self._hand()
        for name, field in self.known.items():
            whole = getattr(board, "length" if name == "along" else "width", 0.0)
            field.show_text(self.session.figures(self._known.get((board.id if board is not None else "", name), whole)))
        number = len(self.photo.marks) % self.photo.most
        if fit is not None and (self.edges.isChecked() or self.told.isChecked()):
            self._say_fit(found, fit)
            return
        if self.photo.most == 3:
            wanted = ("upper left corner", "point so far along the upper edge", "point so far down the left end")[
                number
            ]
            self.what.setText(f"{found.name}: click the {wanted}. Only a picture taken square on is read right so.")
            return
        if fit is not None and not self.photo.marks:
            self.what.setText(
                f"{found.name} lies under the {side}; a place read from it is likely within {self._within(fit)}. Points on its edges "
                "and a length on it make that less. Click the upper left corner to point at the corners anew."
            )
        else:
            self.what.setText(
                f"{found.name}: click the {CORNERS[number]} corner of the board, or move the crosshair and press Space."
            )

    def _within(self, fit: PhotoFit) -> str:
        unit = "" if self.session.project.units == "in" else " mm"
        return self.session.fine(fit.likely) + unit

    def _say_fit(self, found: BoardPhoto, fit: PhotoFit) -> None:
        """What is wanted next of points on edges and of lengths, and what a place that is read is likely within."""
        if self.edges.isChecked():
            number, thing = len(found.edges), "point"
            wanted = "Click along all four edges, some points on each."
        else:
            number, thing = len(found.known), "length"
            wanted = "Click the two ends of a length measured on this side, then write it; best from near one end to the middle."
            if len(self.photo.marks) == 2:
                wanted = "Write how far apart the two points are."
        so_far = f" {counted(number, thing).capitalize()} so far." if number else ""
        self.what.setText(f"{found.name}: {wanted}{so_far} A place read from it is likely within {self._within(fit)}.")

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
        if board is not None and found is not None and self.edges.isChecked() and self.photo.marks:
            at = (self.photo.marks[-1].x(), self.photo.marks[-1].y())
            self.photo.marks = []
            self.session.attempt(
                f"a point on an edge in {found.name}",
                lambda: board_readings.point_on_edge(self.session.project, board.id, found.side, at),
            )
        elif self.told.isChecked():
            if len(self.photo.marks) == 2:
                self.between.setFocus()
        elif board is not None and found is not None and len(self.photo.marks) == self.photo.most:
            corners = [(m.x(), m.y()) for m in self.photo.marks]
            if self.photo.most == 3:
                known = {n: self._known.get((board.id, n)) for n in ("along", "across")}
                along, across = known["along"] or board.length, known["across"] or board.width
                corner, upper, left = corners
                corners = by_lengths(corner, upper, left, (board.length / along, board.width / across))
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
    fit = board_readings.photo_fit(found, board)
    if fit is None:
        return None
    wide = max(8, min(WIDE, round((PIXELS * board.length / board.width) ** 0.5)))
    tall = max(8, min(WIDE, round(wide * board.width / board.length)))
    return _squared(found.jpeg, fit, wide, tall)


@lru_cache(maxsize=8)
def _squared(jpeg: str, fit: PhotoFit, wide: int, tall: int) -> QPixmap | None:
    image = QImage()
    if not image.loadFromData(picture_bytes(jpeg)):
        return None
    image = image.convertToFormat(QImage.Format.Format_RGB888)
    flat = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), image.bytesPerLine())
    pixels = flat[:, : image.width() * 3].reshape(image.height(), image.width(), 3).astype(float)
    out = np.ascontiguousarray(fit.upright(pixels, wide, tall).round().astype(np.uint8))
    made = QImage(out.tobytes(), wide, tall, wide * 3, QImage.Format.Format_RGB888)
    return QPixmap.fromImage(made)
