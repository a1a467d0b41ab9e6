"""Timber: one board in hand, unfolded, to be read by drawing on it or saying what is seen; the others beside it; its room's year."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QPixmap, QResizeEvent
from PySide6.QtWidgets import QLineEdit, QSizePolicy, QStackedWidget, QWidget

from nullah.core.document.project import DEFECT_KINDS, Board, Project
from nullah.core.edits import board_readings, board_said, edit
from nullah.core.pictures.unfolded import Unfolded, unfolded
from nullah.core.stations.as_made import goal_of
from nullah.gui.flow import flow
from nullah.gui.session import REFUSALS, Session, refusal
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.timber.board_canvas import POINTS, BoardCanvas
from nullah.gui.timber.fields import BoardFields, FaultFields
from nullah.gui.timber.photo_panel import PhotoPanel, laid_under
from nullah.gui.timber.rack import Rack
from nullah.gui.timber.season import Season
from nullah.gui.tips import set_tip
from nullah.gui.widgets import button, column, height_of_whole_lines, inside_of, label, pick, scroll_area

PENS = ("sound knot", "loose knot", "check", "sapwood", "edge", "thickness")
OTHERS = "other fault"
OTHER_PENS = (OTHERS, *(k for k in DEFECT_KINDS if k not in PENS))
THROUGH = (
    "check",
    "split",
    "sapwood",
    "wane",
    "pith",
    "void",
    "nail hole",
)  # faults that are drawn as going right through
BELOW = 150  # px under the board
ROOMY = 540  # px of the view: with less nothing is shown under the board until it is asked for
PAGES = (
    ("in words", "the board and its faults in words, to be typed"),
    ("the year", "what the room's year does to it, and whether it is ready"),
    ("parts", "how far each part moves through the year"),
)
LEAST = 6.0  # mm: a click with a pen draws a fault of this


class TimberView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.chosen = ""
        self.fault = ""
        self.over = False
        add = button("Add a board", self.add_board, "main")
        add.setObjectName("add board")
        self.rack = Rack(session, theme, add)
        self.rack.chosen.connect(self.choose)
        self.first = self.canvas = BoardCanvas(theme, session)
        self.canvas.margin = 18.0
        self.canvas.setMinimumHeight(110)
        self.canvas.picked.connect(self._picked)
        self.canvas.typed.connect(self._typed)
        self.canvas.dragged.connect(self._dragged)
        self.canvas.drawn.connect(self._drawn)
        self.canvas.pen_changed.connect(self._show_pen)
        self.canvas.takes_gestures("fault:", "fault-turned:")
        self.empty = label(
            "No boards yet. Add one as you find it on the rack: length, width, thickness, then draw on it what you see.",
            "heading",
            wrap=True,
        )
        self.words = BoardFields(session, self.hand)
        self.faults = FaultFields(session, self.hand, lambda: self.fault, self.add_fault)
        self.copy = button("Copy", self.copy_board, tip="a second board like this one, as it is")
        self.drop = button("Remove", self.drop_board, tip="take this board away")
        self.photo = button(
            "Photograph", self.turn_photo, "chip", "a photograph of this side, to lie under the drawing"
        )
        self.photo.setCheckable(True)
        self.turn = button("Turn over", self.turn_over, "chip", "the back in hand, as turned over its long edge")
        self.turn.setCheckable(True)
        self.pens = {p: button(p, partial(self.draw, p), "chip", f"draw: {p}") for p in PENS}
        for pen in self.pens.values():
            pen.setCheckable(True)
        self.other_pens = pick("other faults to draw", list(OTHER_PENS), lambda t: self.draw("" if t == OTHERS else t))
        self.say = QLineEdit()
        self.say.setObjectName("say what you see")
        self.say.setAccessibleName("say what you see on the board, in a line")
        self.say.setMinimumWidth(300)
        self.say.returnPressed.connect(self._say)
        pens = flow("Draw:", *self.pens.values(), self.other_pens, spacing=5)
        self.season = Season(session, theme)
        self.below = QStackedWidget()
        inside = QWidget()
        inside.setObjectName("inside")
        column(inside, self.words, self.faults, 1, margins=0, spacing=6)
        self.in_words = scroll_area()
        self.in_words.setWidget(inside)
        for page in (self.in_words, self.season, self.season.parts):
            self.below.addWidget(page)
        self.below.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self.below.setFixedHeight(BELOW)
        self.tabs = [button(t, partial(self.turn_below, n), "chip", tip) for n, (t, tip) in enumerate(PAGES)]
        for tab in self.tabs:
            tab.setCheckable(True)
        tools = flow(self.say, self.turn, self.photo, self.copy, self.drop, *self.tabs, spacing=5)
        self.photos = PhotoPanel(session, theme, self.board, self.side)
        self.photos.squared.connect(self._squared)
        self.photos.hide()
        self._paper = QWidget()
        paper = column(self._paper, self.canvas, self.photos, margins=0, spacing=0)
        paper.setStretch(0, 1)
        paper.setStretch(1, 1)
        whole = column(self, self.rack, self.empty, pens, self._paper, tools, self.below, margins=12, spacing=6)
        whole.setStretch(3, 1)
        self._asked_below = False
        self.show_below(1 if session.project.boards else 0)

    def show_below(self, page: int) -> None:
        """Show a page under the board: 0 it in words, 1 the year and the readings, 2 what the parts do; -1 none."""
        self.below.setVisible(page >= 0)
        if page >= 0:
            self.below.setCurrentIndex(page)
            inside = inside_of(self.in_words)
            self.below.setFixedHeight(height_of_whole_lines(inside, self.width() - 24, BELOW) if page == 0 else BELOW)
        for n, tab in enumerate(self.tabs):
            tab.setChecked(n == page)

    def turn_below(self, page: int) -> None:
        """Show a page under the board, or put it away where it is shown."""
        self._asked_below = True
        self.show_below(-1 if self.below.isVisible() and self.below.currentIndex() == page else page)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.below.currentIndex() == 0 and not self.below.isHidden():
            self.show_below(0)
        if not self._asked_below and self.session.project.boards:  # where there is little room the board has it
            self.show_below(1 if self.height() >= ROOMY else -1)

    # ---- what is chosen

    def board(self) -> Board | None:
        """The board in hand: the one chosen, else the first there is."""
        boards = self.session.project.boards
        return next((b for b in boards if b.id == self.chosen), boards[0] if boards else None)

    def hand(self) -> str:
        """The id of the board in hand, or ""."""
        board = self.board()
        return board.id if board is not None else ""

    def choose(self, board_id: str) -> None:
        """Take a board in hand."""
        self.chosen, self.fault = board_id, ""
        self.refresh()

    def turn_over(self) -> None:
        """The board turned over its long edge, its other side in hand."""
        self.over = not self.over
        self.turn.setChecked(self.over)
        self.refresh()

    def side(self) -> str:
        """The side in hand."""
        return "back" if self.over else "face"

    def turn_photo(self) -> None:
        """The photograph of the side in hand in place of the drawing, or the drawing again."""
        on = self.photos.isHidden() and self.board() is not None
        self.photo.setChecked(on)
        self.photos.setVisible(on)
        self.refresh()
        (self.photos.photo if on else self.canvas).setFocus(Qt.FocusReason.OtherFocusReason)

    def _squared(self) -> None:
        """A picture has its corners: the drawing again, with the picture under it."""
        if not self.photos.isHidden():
            self.turn_photo()

    def _picked(self, tag: str) -> None:
        kind, _, name = tag.partition(":")
        if kind in ("fault", "fault-turned"):
            self.chosen, self.fault = name.split("/")[:2]
        elif kind == "board":
            self.fault = ""
        self.refresh()

    def light(self, tag: str) -> None:
        """No setting is drawn on rough boards."""

    # ---- drawing

    def draw(self, pen: str) -> None:
        """Take a pen in hand, or put down the one that is; the board has the keyboard then."""
        if self.board() is None:
            self.session.said.emit("Add a board first; then draw on it.", True)
            self._show_pen()
            return
        self.canvas.take_pen("" if pen == self.canvas.pen else pen)
        self.canvas.setFocus(Qt.FocusReason.OtherFocusReason)
        if self.canvas.pen:
            how = "click" if pen in POINTS else "drag over it"
            self.session.said.emit(f"{pen}: {how} on the board, or arrows and Space; Esc puts the pen down.", False)

    def _show_pen(self) -> None:
        for name, chip in self.pens.items():
            chip.setChecked(name == self.canvas.pen)
        self.other_pens.setCurrentText(self.canvas.pen if self.canvas.pen in OTHER_PENS[1:] else OTHERS)

    def _drawn(self, pen: str, side: str, x0: float, y0: float, x1: float, y1: float) -> None:
        """Something was drawn on a side of the board in hand, between two places of it, mm."""
        project = self.session.project
        if pen == "thickness":
            place = f"{self.session.figure(max(0.0, x0))}, {self.session.figure(y0)}"
            self.say.setText(f"thickness  at {place}")
            self.say.setFocus()
            self.say.setCursorPosition(len("thickness "))
            return
        if pen == "edge":
            board = board_readings.board_of(project, self.hand())
            which = "upper" if y0 > board.width / 2 else "lower"
            self.session.attempt(f"{which} edge", lambda: board_readings.bend_edge(project, self.hand(), which, x0, y0))
            return
        if abs(x1 - x0) < LEAST and abs(y1 - y0) < LEAST:
            x0, x1, y0, y1 = x0 - LEAST, x0 + LEAST, y0 - LEAST, y0 + LEAST
        made: list[str] = []

        def mark() -> Project:
            where = "both" if pen in THROUGH else side
            after, number = board_readings.mark_fault(project, self.hand(), pen, where, (x0, y0), (x1, y1))
            made.append(number)
            return after

        self.fault, before = "", self.fault
        if self.session.attempt(f"{pen} on the {side}", mark):
            self.fault = made[0]
            self.refresh()
        else:
            self.fault = before

    def begin_saying(self) -> None:
        """The keyboard to the line that is said."""
        self.say.setFocus(Qt.FocusReason.OtherFocusReason)

    def _say(self) -> None:
        """What is said of the board in hand, taken; what is not understood stays to be mended."""
        board = self.board()
        if board is None:
            self.session.said.emit("Add a board first; then say what you see on it.", True)
            return
        try:
            project, words, fault = board_said.said(
                self.session.project, board.id, self.say.text(), self.season.today()
            )
        except REFUSALS as error:
            self.session.said.emit(self.session.told(refusal(error)), True)
            return
        self.say.clear()
        self.fault = fault or self.fault
        self.session.do(project, words)
        self.session.said.emit(words, False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.fault:
            self.drop_fault()
        else:
            super().keyPressEvent(event)

    # ---- edits

    def _typed(self, name: str, text: str) -> None:
        _, board, what = name.split(".")
        self.chosen = board
        self.words.set(what, text)

    def add_board(self) -> None:
        """Add a board of the piece's species, and take it in hand."""
        s = self.session
        new = edit.new_board_id(s.project)
        species = next((p.species for p in s.plan.piece.parts), s.project.piece.wall_species)
        board = Board(id=new, name=new.capitalize(), species=species, length=1200, width=180, thickness=24)
        self.chosen, self.fault = new, ""
        s.attempt(f"{board.name} added", lambda: edit.put_board(s.project, board))

    def copy_board(self) -> None:
        """Add a second board like the one in hand, and take it in hand."""
        if self.board() is None:
            self.session.said.emit("Add a board first.", True)
            return
        made: list[str] = []

        def more() -> Project:
            after, new = board_readings.copy_board(self.session.project, self.hand())
            made.append(new)
            return after

        before, self.fault = self.chosen, ""
        if self.session.attempt("one more like it", more):
            self.choose(made[0])
        else:
            self.chosen = before

    def drop_board(self) -> None:
        """Take the board in hand away."""
        board = self.board()
        if board is not None:
            self.chosen = self.fault = ""
            self.session.attempt(f"{board.name} removed", lambda: edit.drop_board(self.session.project, board.id))

    def add_fault(self) -> None:
        """Add the fault as typed to the board in hand."""
        self.fault = self.faults.add_fault() or self.fault
        self.refresh()

    def drop_fault(self) -> None:
        """Remove the fault in hand."""
        self.faults.drop_fault()
        self.fault = ""
        self.refresh()

    # ---- showing

    def _dragged(self, tag: str, dx: float, dy: float, let_go: bool) -> None:
        if tag.startswith("fault"):
            self.fault = tag.partition("/")[2].partition("/")[0]

    def live(self) -> None:
        """While something is dragged: the board alone, and the year."""
        board = self.board()
        if board is not None:
            self._show_board(board)
            self.season.refresh(board)

    def _show_board(self, board: Board) -> None:
        project = self.session.project
        at = Unfolded(board, self.over)
        readings = tuple(r for r in project.readings if r.target == board.id)
        spans = self.session.plan.timber.spans
        photos: dict[str, QPixmap] = {}
        for photo in project.board_photos:
            pixels = laid_under(photo, board) if photo.board == board.id else None
            if pixels is not None:
                photos[photo.side] = pixels
        settles = goal_of(board, project.room, project.references)
        drawing = unfolded(at, spans.get(board.id), self.fault, readings, settles, tuple(photos))
        self.canvas.show_board(drawing, at, photos)

    def refresh(self) -> None:
        """Show the board in hand and the others."""
        board = self.board()
        self.empty.setVisible(board is None)
        self.say.setPlaceholderText(self.session.told(f"or say: {board_said.SAMPLE}"))
        set_tip(self.say, self.session.told(board_said.HOW))
        self.rack.refresh(self.hand())
        if board is None and not self.photos.isHidden():
            self.photos.hide()
            self.photo.setChecked(False)
        self.canvas.setVisible(board is not None and self.photos.isHidden())
        if not self.photos.isHidden():
            self.photos.refresh()
        for widget in (self.copy, self.photo, self.drop, self.turn, self.say, self.other_pens, *self.pens.values()):
            widget.setEnabled(board is not None)
        if board is not None:
            self._show_board(board)
        self.faults.refresh()
        self.words.refresh()
        self.season.refresh(board)
