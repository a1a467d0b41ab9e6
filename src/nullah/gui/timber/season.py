"""Under the board: the room's year and what it does to the width, and beside it the readings of moisture and the day it is ready."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial

from PySide6.QtWidgets import QWidget

from nullah.core.document.project import Board, Month, Project
from nullah.core.edits import board_readings, edit
from nullah.core.pictures import drying, movement, year
from nullah.core.stations.as_made import months
from nullah.core.stations.readiness import readiness, reference_of
from nullah.core.wood.room import USUAL
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Field, Lines, column, pick, row

AS_TOLD = "as told"
CANVAS = 60  # px the drawings are tall at the least


class Season(QWidget):
    """The room's year, and the readings of the board in hand; ``parts``, to be put elsewhere, is what the year does to each part."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.board: Board | None = None
        self.year = _canvas(theme, session, "the room's year: a hand on each month's humidity")
        self.year.takes_gestures("month:")
        self.parts = _canvas(theme, session, "how far each part moves through the year")
        self.drying = _canvas(theme, session, "readings of moisture by day")
        self.room = {
            n: Field(f"room {n}", 42, partial(self._air, n)) for n in ("temperature", "humidity_dry", "humidity_wet")
        }
        self.usual = pick("usual room", [AS_TOLD, *USUAL], self._take_usual)
        r = self.room
        self.living = flow(
            "Its room:",
            self.usual,
            r["temperature"],
            "\u00b0C,",
            r["humidity_dry"],
            "to",
            r["humidity_wet"],
            "%",
            spacing=5,
        )
        self.reads = Field("moisture read today", 52, self._read)
        self.reference = Field("reference reads today", 52, self._read_reference)
        self.told = Lines(2, "quiet")
        set_tip(self.reference, "a piece of the same wood that has always lived in the room")
        self.asked = flow("It reads", self.reads, "% today; reference piece", self.reference, "%", spacing=5)
        left, right = QWidget(), QWidget()
        column(left, self.living, self.year, margins=0, spacing=3).setStretch(1, 1)
        column(right, self.asked, self.told, self.drying, 1, margins=0, spacing=3).setStretch(2, 100)
        whole = row(left, right, spacing=12)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setStretch(0, 1)
        whole.setStretch(1, 1)
        self.setLayout(whole)

    # ---- edits

    def _air(self, name: str, text: str) -> bool:
        """The room's temperature or its driest or wettest air as typed: its months, if they were drawn, are let go."""
        done = self.session.set_number("room", name, text, length=False)
        if done and self.session.project.room.months:
            room = edit.held(self.session.project.room, months=())
            return self.session.attempt("room", lambda: edit.changed(self.session.project, room=room))
        return done

    def _take_usual(self, name: str) -> None:
        air = () if name == AS_TOLD else tuple(Month(celsius=c, humidity=h) for c, h in USUAL[name])
        room = edit.held(self.session.project.room, months=air)
        self.session.attempt(f"room {name}", lambda: edit.changed(self.session.project, room=room))

    def _read(self, text: str) -> None:
        self._percent(text, "{name} reads {percent:g} %", board_readings.read_moisture, "id")

    def _read_reference(self, text: str) -> None:
        self._percent(text, "the reference of {species} reads {percent:g} %", board_readings.read_reference, "species")

    def _percent(self, text: str, words: str, read: Callable[[Project, str, str, float], Project], of: str) -> None:
        """A percentage as typed, read today of the board in hand or of its wood."""
        board = self.board
        if board is None:
            return
        try:
            percent = float(text.replace(",", ".").strip(" %"))
        except ValueError:
            self.session.said.emit(f'"{text[:30]}" is not a number of percent.', True)
            return
        said = words.format(name=board.name, species=board.species, percent=percent)
        self.session.attempt(said, lambda: read(self.session.project, getattr(board, of), self.today(), percent))

    def today(self) -> str:
        """The day, ISO 8601, local."""
        return self.session.now()[:10]

    # ---- showing

    def refresh(self, board: Board | None) -> None:
        """Show the room and the board in hand."""
        self.board = board
        session, project = self.session, self.session.project
        air = months(project.room)
        timber = session.plan.timber
        month = date.fromisoformat(self.today()).month
        self.year.show_drawing(year.picture(board, air, month, session.figure))
        told_air = [h for _, h in air]
        shown = {
            "temperature": sum(c for c, _ in air) / len(air),
            "humidity_dry": min(told_air),
            "humidity_wet": max(told_air),
        }
        for name, field in self.room.items():
            field.show_text(f"{shown[name] if project.room.months else getattr(project.room, name):.3g}")
        usual = next((n for n, y in USUAL.items() if y == project.room.months_as_told), AS_TOLD)
        self.usual.setCurrentText(usual)
        self.living_words = f"Wood settles there between {timber.dry:.1f} and {timber.wet:.1f} %."
        set_tip(self.year, self.living_words)
        self.parts.show_drawing(movement.picture(timber.movement, session.figure))
        told = readiness(board, project.references) if board is not None else None
        reference = reference_of(project.references, board.species) if board is not None else None
        self.reads.setEnabled(board is not None)
        self.reference.setEnabled(board is not None)
        if board is not None:
            self.drying.show_drawing(drying.picture(board, told, reference, self.today()))
            self.reads.show_text(f"{board.moisture:g}" if board.moistures else "")
        self.reference.show_text(f"{reference:g}" if reference is not None else "")
        empty = "Type what the meter says, day after day: from five readings, or three beside a reference, the day it is ready is told."
        self.told.show_text(told.words if told is not None else empty)
        set_tip(self.told, self.told.whole)
        self.drying.setVisible(board is not None and bool(board.moistures))


def _canvas(theme: Theme, session: Session, name: str) -> Canvas:
    made = Canvas(theme, session)
    made.margin = 4.0
    made.bar = False
    made.setMinimumHeight(CANVAS)
    made.setAccessibleName(name)
    return made
