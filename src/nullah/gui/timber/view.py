"""Timber: the boards as found, their faults where they lie, and how each part will move across the year."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from nullah.core import edit, measure
from nullah.core.document import Board, Defect
from nullah.core.drawing import Drawing
from nullah.core.pictures import boards as picture
from nullah.core.pictures import movement
from nullah.core.pictures.wood import fault
from nullah.core.wood.species import NAMES
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, label, pick, row

FACES = {"right through": "both", "on the face": "face", "on the back": "back"}
FAULTS = ["sound knot", "loose knot", "check", "split", "sapwood", "wane", "run-out"]
PAGE = 12  # boards drawn at once


class TimberView(QWidget):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.chosen = ""
        self.fault = ""
        self._still: Drawing | None = None
        self._still_rows: dict[str, float] = {}
        self._dragging = ""
        self.canvas = Canvas(theme, session)
        self.canvas.margin = 50.0
        self.canvas.picked.connect(self._picked)
        self.canvas.typed.connect(self._typed)
        self.canvas.dragged.connect(self._dragged)
        self.canvas.takes_gestures("fault:")
        self.year = Canvas(theme, session)
        self.year.margin = 6.0
        self.year.bar = False
        self.year.setFixedWidth(260)
        self.empty = label(
            "No boards yet. Add one as you find it on the rack: length, width, thickness, then its faults.",
            "heading",
            wrap=True,
        )
        self.fields = {
            n: Field(f"board {n}", w, self._board_setter(n))
            for n, w in (
                ("name", 84),
                ("length", 84),
                ("width", 70),
                ("thickness", 54),
                ("moisture", 50),
                ("ring_angle", 44),
            )
        }
        self.species = pick("board species", list(NAMES), lambda t: self._change(species=t))
        self.edge = pick("upper edge", ["sawn", "rough", "wany"], lambda t: self._change(upper_edge=t))
        add = button("Add a board", self.add_board, "main")
        add.setObjectName("add board")
        self.drop = button("Remove", self.drop_board, tip="take this board away")
        self.kind = pick("fault kind", FAULTS, lambda t: None)
        self.on_face = pick("fault shows", list(FACES), lambda t: None)
        self.widths = Field("board widths", 150, self._set_widths, grows=True)
        self.widths.setPlaceholderText("as wide all along")
        self.widths.setToolTip("widths of a board that tapers or has a wany edge, evenly spaced from the left end")
        self.at = {
            n: Field(f"fault {n}", 54, grows=True, taken=lambda t, n=n: self._remember(n, t))
            for n in ("x", "y", "length", "width")
        }
        self._fault_at = {"x": 300.0, "y": 40.0, "length": 25.0, "width": 20.0}  # mm
        self.add_fault_button = button("Add fault", self.add_fault)
        self.drop_fault_button = button("Remove fault", self.drop_fault)
        f = self.fields
        about = flow(
            add,
            f["name"],
            self.species,
            f["length"],
            "long,",
            f["width"],
            "wide,",
            f["thickness"],
            "thick; moisture, %",
            f["moisture"],
            "rings to the face, \u00b0",
            f["ring_angle"],
            "upper edge",
            self.edge,
            "widths, where it tapers",
            self.widths,
            self.drop,
            spacing=5,
        )
        faults = flow(
            "A fault:",
            self.kind,
            "that",
            self.on_face,
            "from the left end",
            self.at["x"],
            "from the lower edge",
            self.at["y"],
            "long",
            self.at["length"],
            "wide",
            self.at["width"],
            self.add_fault_button,
            self.drop_fault_button,
            spacing=5,
        )
        self.room = {
            n: Field(f"room {n}", 46, lambda t, n=n: session.set_number("room", n, t, length=False))
            for n in ("temperature", "humidity_dry", "humidity_wet")
        }
        r = self.room
        self.note, self.page_words = label("", "quiet"), label("", "quiet")
        living = flow(
            "It will live at",
            r["temperature"],
            "\u00b0C in air of",
            r["humidity_dry"],
            "to",
            r["humidity_wet"],
            "% of humidity.",
            self.note,
            spacing=5,
        )
        self.paging = flow(
            button("\u2039 Boards", lambda: self.turn_page(-1), tip="the boards before these"),
            button("Boards \u203a", lambda: self.turn_page(1), tip="the boards after these"),
            self.page_words,
            spacing=5,
        )
        top = row(self.canvas, self.year)
        top.setStretch(0, 1)
        whole = column(self, self.empty, self.paging, top, about, faults, living, margins=12, spacing=6)
        whole.setStretch(2, 1)

    # ---- what is chosen

    def board(self) -> Board | None:
        boards = self.session.project.boards
        return next((b for b in boards if b.id == self.chosen), boards[0] if boards else None)

    def shown(self) -> tuple[Board, ...]:
        """The boards that are drawn: all while they are few, else the page with the chosen one on it."""
        boards = self.session.project.boards
        if len(boards) <= PAGE:
            return boards
        chosen = self.board()
        at = boards.index(chosen) if chosen in boards else 0
        first = at // PAGE * PAGE
        return boards[first : first + PAGE]

    def turn_page(self, by: int) -> None:
        """The boards before or after those drawn."""
        boards = self.session.project.boards
        shown = self.shown()
        if len(boards) > len(shown):
            first = (boards.index(shown[0]) // PAGE + by) % ((len(boards) + PAGE - 1) // PAGE) * PAGE
            self.choose(boards[first].id)

    def choose(self, board_id: str) -> None:
        """Turn to a board."""
        self.chosen, self.fault = board_id, ""
        self.refresh()

    def _picked(self, tag: str) -> None:
        if tag.startswith("board:"):
            self.chosen, self.fault = tag.removeprefix("board:"), ""
        elif tag.startswith("fault:"):
            self.chosen, self.fault = tag.removeprefix("fault:").split("/")
        self.refresh()

    def light(self, tag: str) -> None:
        """No setting is drawn on rough boards."""

    # ---- edits

    def _change(self, **update: object) -> bool:
        board = self.board()
        if board is None:
            return False
        words = ", ".join(self._told_change(k, v) for k, v in update.items())
        return self.session.attempt(
            f"{board.name}: {words}", lambda: edit.put_board(self.session.project, edit.held(board, **update))
        )

    def _told_change(self, field: str, value: object) -> str:
        """A change of a board in words: lengths in the unit shown, lists told by what they are."""
        if field == "defects":
            return f"{len(value)} fault{'s' if len(value) != 1 else ''}"
        if field == "widths":
            return f"widths {'; '.join(self.session.figure(w) for w in value) or 'as wide all along'}"
        if field in ("length", "width", "thickness"):
            return f"{field} {self.session.figure(value)}"
        return (
            f"{field.replace('_', ' ')} {value:g}" if isinstance(value, float) else f"{field.replace('_', ' ')} {value}"
        )

    def _board_setter(self, name: str):
        def taken(text: str) -> bool:
            if name == "name":
                return self._change(name=text.strip())
            try:
                if name in ("moisture", "ring_angle"):
                    return self._change(**{name: float(text.replace(",", ".").strip(" %\u00b0"))})
                return self._change(**{name: measure.parse_positive(text, self.session.project.units, f"the {name}")})
            except measure.BadLength as error:
                self.session.said.emit(str(error), True)
            except ValueError:
                self.session.said.emit(f'"{text[:30]}" is not a number.', True)
            return False

        return taken

    def _set_widths(self, text: str) -> bool:
        """Widths along a board, from the left end to the right; none for a board with straight edges."""
        try:
            unit = self.session.project.units
            widths = tuple(measure.parse_positive(t, unit, "a width") for t in text.split(";") if t.strip())
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
            return False
        return self._change(widths=widths)

    def _typed(self, name: str, text: str) -> None:
        _, board, what = name.split(".")
        self.chosen = board
        self._board_setter(what)(text)

    def add_board(self) -> None:
        """Add a board of the piece's species, and choose it."""
        s = self.session
        taken = {b.id for b in s.project.boards}
        new = edit.fresh_id("board", taken)
        board = Board(
            id=new,
            name=new.capitalize(),
            species=next((p.species for p in s.plan.piece.parts), s.project.piece.wall_species),
            length=1200,
            width=180,
            thickness=24,
        )
        self.chosen = new
        s.attempt(f"{board.name} added", lambda: edit.put_board(s.project, board))

    def drop_board(self) -> None:
        board = self.board()
        if board is not None:
            self.session.attempt(f"{board.name} taken away", lambda: edit.drop_board(self.session.project, board.id))

    def _remember(self, name: str, text: str) -> None:
        try:
            self._fault_at[name] = measure.parse_length(text, self.session.project.units)
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
        self.at[name].show_text(self.session.figure(self._fault_at[name]))

    def add_fault(self) -> None:
        """Add the fault as typed to the chosen board; where it cannot be, say why."""
        board = self.board()
        if board is None:
            self.session.said.emit("Add a board first; a fault lies on one.", True)
            return
        try:
            unit = self.session.project.units
            read = {n: measure.parse_length(f.text(), unit) for n, f in self.at.items()}
            number = edit.fresh_id("f", {d.id for d in board.defects})
            face = FACES[self.on_face.currentText()]
            fault = edit.made(Defect, id=number, kind=self.kind.currentText(), face=face, **read)
        except (measure.BadLength, edit.BadEdit) as error:
            self.session.said.emit(self.session.told(str(error)), True)
            return
        self.fault = fault.id
        self._change(defects=(*board.defects, fault))

    def drop_fault(self) -> None:
        board = self.board()
        if board is not None and self.fault:
            self._change(defects=tuple(d for d in board.defects if d.id != self.fault))

    def live(self) -> None:
        """While something is dragged: what does not move is painted once, over it what does."""
        project = self.session.project
        if self._dragging.startswith("fault:"):
            board_id, fault_id = self._dragging.removeprefix("fault:").split("/")
            board = next(b for b in project.boards if b.id == board_id)
            moved = next(d for d in board.defects if d.id == fault_id)
            if self._still is None:
                self._still = picture.as_found(self.shown(), self.session.plan.timber.spans, board_id, self._dragging)
            ghost = fault(board, moved, picture.rows(self.shown())[board_id])
            self.canvas.show_drawing(Drawing(tuple(ghost), bounds=self.canvas.drawing.extent(), under=self._still))
            return
        spans, pulled = self.session.plan.timber.spans, self.chosen
        rows = picture.rows(self.shown())
        if self._still is None or self._still_rows != rows:
            self._still = picture.as_found(self.shown(), spans, pulled, only=lambda b: b != pulled)
            self._still_rows = rows
        moving = picture.as_found(self.shown(), spans, pulled, only=lambda b: b == pulled)
        bounds = self.canvas.drawing.extent()
        self.canvas.show_drawing(Drawing(moving.items, bounds=bounds, under=self._still))

    def _dragged(self, tag: str, dx: float, dy: float, let_go: bool) -> None:
        self._dragging = tag
        self.chosen, _, rest = tag.partition(":")[2].partition("/")
        if tag.startswith("fault:"):
            self.fault = rest
        if let_go:
            self._still = None

    def refresh(self) -> None:
        project, plan = self.session.project, self.session.plan
        self._still = None
        board = self.board()
        self.empty.setVisible(not project.boards)
        self.canvas.setVisible(bool(project.boards))
        shown = self.shown()
        self.canvas.show_drawing(picture.as_found(shown, plan.timber.spans, board.id if board else ""))
        self.paging.setVisible(len(shown) < len(project.boards))
        if len(shown) < len(project.boards):
            first = project.boards.index(shown[0]) + 1
            self.page_words.setText(
                f"{first} to {first + len(shown) - 1} of {len(project.boards)}; F2 finds a board by its name"
            )
        show = self.session.figures
        self.year.show_drawing(movement.picture(plan.timber.movement, self.session.figure))
        for field in (*self.fields.values(), self.species, self.edge, self.drop):
            field.setEnabled(board is not None)
        if board is not None:
            for name in ("length", "width", "thickness"):
                self.fields[name].show_text(show(getattr(board, name)))
            self.fields["name"].show_text(board.name)
            self.fields["moisture"].show_text(f"{board.moisture:g}")
            self.fields["ring_angle"].show_text(f"{board.ring_angle:g}")
            self.species.setCurrentText(board.species)
            self.edge.setCurrentText(board.upper_edge)
            self.widths.show_text("; ".join(self.session.figure(w) for w in board.widths))
            self.widths.setCursorPosition(0)
        self.widths.setEnabled(board is not None)
        for name, field in self.at.items():
            field.show_text(show(self._fault_at[name]))
        self.drop_fault_button.setEnabled(bool(self.fault))
        for name, field in self.room.items():
            field.show_text(f"{getattr(project.room, name):g}")
        self.note.setText(f"Wood there settles between {plan.timber.dry:.1f} and {plan.timber.wet:.1f} %.")
