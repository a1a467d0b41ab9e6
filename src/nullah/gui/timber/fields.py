"""A board and a fault of it in words: what can be typed where drawing would be slow."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QWidget

from nullah.core.document.project import DEFECT_KINDS, Board, Defect
from nullah.core.edits import board_readings, edit
from nullah.core.values import measure
from nullah.core.wood.species import NAMES
from nullah.gui.flow import flow
from nullah.gui.session import Session
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Field, button, column, label, pick, refill_pick

FACES = {"goes right through": "both", "shows on the face": "face", "shows on the back": "back"}
STOCKS = {"sawn board": "sawn", "reclaimed board": "reclaimed", "plywood": "plywood", "fibreboard": "fibreboard"}
RISES = {"not looked at": "", "rises to the right": "right", "rises to the left": "left"}
BEARS = {"as their role allows": "by role", "any of them": "any part", "none of them": "no part"}
NUMBERS = ("moisture", "ring_angle")  # fields of a board that are no lengths
PLACE = ("x", "y", "length", "width")


class BoardFields(QWidget):
    """The board in hand in words. ``hand`` gives its id."""

    def __init__(self, session: Session, hand: Callable[[], str]) -> None:
        super().__init__()
        self.session, self._hand = session, hand
        self.fields = {
            n: Field(f"board {n}", w, partial(self.set, n), grows=n not in NUMBERS)
            for n, w in (
                ("name", 84),
                ("length", 60),
                ("width", 54),
                ("thickness", 50),
                ("moisture", 48),
                ("ring_angle", 40),
            )
        }
        self.species = pick("board species", list(NAMES), lambda t: self.change(species=t))
        set_tip(
            self.species,
            'a wood of your own is said in a line: "wood plum 4.3/9.1 hard", with what it shrinks in percent',
        )
        self.stock = pick("board stock", list(STOCKS), lambda t: self.change(stock=STOCKS[t]))
        self.edge = pick("upper edge", ["sawn", "rough", "wany"], lambda t: self.change(upper_edge=t))
        self.rises = pick("grain at an edge", list(RISES), lambda t: self.change(rises=RISES[t]))
        set_tip(
            self.rises,
            "seen on an edge, the end towards which the grain comes up to the face: strokes along go with it",
        )
        self.ends = pick("board ends", ["open", "sealed"], lambda t: self.change(ends=t))
        set_tip(self.ends, "ends that are sealed with wax or paint dry no faster than the rest")
        f = self.fields
        words = flow(
            f["name"],
            "is a",
            self.stock,
            "of",
            self.species,
            f["length"],
            "long,",
            f["width"],
            "wide,",
            f["thickness"],
            "thick; reads",
            f["moisture"],
            "% moisture; rings",
            f["ring_angle"],
            "\u00b0 to the face; grain",
            self.rises,
            "; upper edge",
            self.edge,
            ", ends",
            self.ends,
            spacing=5,
        )
        column(self, words, margins=0)

    def board(self) -> Board | None:
        """The board in hand."""
        return next((b for b in self.session.project.boards if b.id == self._hand()), None)

    def change(self, **update: object) -> bool:
        """Change fields of the board in hand; whether it could be done."""
        board = self.board()
        if board is None:
            return False
        words = ", ".join(self._told(k, v) for k, v in update.items())
        return self.session.attempt(
            f"{board.name}: {words}", lambda: edit.put_board(self.session.project, edit.held(board, **update))
        )

    def _told(self, field: str, value: object) -> str:
        """A change of a board in words, lengths in the unit shown."""
        name = field.replace("_", " ")
        if field in ("length", "width", "thickness") and isinstance(value, float):
            return f"{field} {self.session.figure(value)}"
        return f"{name} {value:g}" if isinstance(value, float) else f"{name} {value}"

    def set(self, name: str, text: str) -> bool:
        """A field as typed; whether it serves."""
        if name == "name":
            return self.change(name=text.strip())
        try:
            if name in NUMBERS:
                return self.change(**{name: float(text.replace(",", ".").strip(" %\u00b0"))})
            return self.change(**{name: measure.parse_positive(text, self.session.project.units, f"the {name}")})
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
        except ValueError:
            self.session.said.emit(f'"{text[:30]}" is not a number.', True)
        return False

    def refresh(self) -> None:
        """Show the board in hand."""
        board = self.board()
        for field in (*self.fields.values(), self.species, self.stock, self.edge, self.rises, self.ends):
            field.setEnabled(board is not None)
        if board is None:
            return
        for name in ("length", "width", "thickness"):
            self.fields[name].show_text(self.session.figures(getattr(board, name)))
        self.fields["name"].show_text(board.name)
        self.fields["moisture"].show_text(f"{board.moisture:g}")
        self.fields["ring_angle"].show_text(f"{board.ring_angle:g}")
        refill_pick(self.species, list(dict.fromkeys((*NAMES, *board_readings.own_woods(self.session.project)))))
        self.species.setCurrentText(board.species)
        self.stock.setCurrentText(next(t for t, s in STOCKS.items() if s == board.stock))
        self.edge.setCurrentText(board.upper_edge)
        self.rises.setCurrentText(next(t for t, s in RISES.items() if s == board.rises))
        self.ends.setCurrentText(board.ends)


class FaultFields(QWidget):
    """The fault in hand in words; with none in hand, one that may be added where it is typed. ``hand`` and ``chosen``
    give the ids of the board and of the fault; ``add`` is what the button does."""

    def __init__(
        self, session: Session, hand: Callable[[], str], chosen: Callable[[], str], add: Callable[[], object]
    ) -> None:
        super().__init__()
        self.session, self._hand, self._chosen = session, hand, chosen
        self._typed = {"x": 300.0, "y": 40.0, "length": 25.0, "width": 20.0, "depth": 0.0, "angle": 0.0}
        self.kind = pick("fault kind", list(DEFECT_KINDS), lambda t: self._set(kind=t))
        self.face = pick("fault shows", list(FACES), lambda t: self._set(face=FACES[t]))
        self.at = {n: Field(f"fault {n}", 50, partial(self._length, n), grows=True) for n in (*PLACE, "depth")}
        self.angle = Field("fault angle", 40, self._angle)
        self.bears = pick("parts that may hold it", list(BEARS), lambda t: self._set(bears=BEARS[t]))
        self.add = button("Add fault", add, "chip", "another fault where these fields say")
        self.drop = button("Remove fault", self.drop_fault, "chip")
        self.lead = label("A fault:")
        words = flow(
            self.lead,
            self.kind,
            "that",
            self.face,
            self.at["x"],
            "from the left end,",
            self.at["y"],
            "from the lower edge,",
            self.at["length"],
            "long,",
            self.at["width"],
            "wide;",
            self.at["depth"],
            "under the surface; grain runs out at",
            self.angle,
            "\u00b0; parts may hold it:",
            self.bears,
            self.add,
            self.drop,
            spacing=5,
        )
        column(self, words, margins=0)

    def fault(self) -> Defect | None:
        """The fault in hand."""
        board = next((b for b in self.session.project.boards if b.id == self._hand()), None)
        return next((d for d in board.defects if d.id == self._chosen()), None) if board is not None else None

    def _set(self, **update: object) -> bool:
        """Change the fault in hand; with none in hand what is picked waits to be added."""
        d = self.fault()
        if d is None:
            return False
        words = f"{d.kind}: " + ", ".join(
            f"{k} {self.session.figure(v) if k in self.at and isinstance(v, float) else v}" for k, v in update.items()
        )
        return self.session.attempt(
            words, lambda: board_readings.change_fault(self.session.project, self._hand(), d.id, **update)
        )

    def _length(self, name: str, text: str) -> None:
        try:
            mm = measure.parse_length(text, self.session.project.units)
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
            return
        if self.fault() is None:
            self._typed[name] = mm
            self.refresh()
        else:
            self._set(**{name: mm})

    def _angle(self, text: str) -> None:
        try:
            degrees = float(text.replace(",", ".").strip(" \u00b0"))
        except ValueError:
            self.session.said.emit(f'"{text[:30]}" is not a number.', True)
            return
        if self.fault() is None:
            self._typed["angle"] = degrees
        else:
            self._set(angle=degrees)

    def add_fault(self) -> str:
        """Add the fault as typed to the board in hand; its id, or "" and a sentence said where it cannot be."""
        board = next((b for b in self.session.project.boards if b.id == self._hand()), None)
        if board is None:
            self.session.said.emit("Add a board first; a fault lies on one.", True)
            return ""
        try:
            typed = {n: measure.parse_length(f.text(), self.session.project.units) for n, f in self.at.items()}
            number = edit.fresh_id("f", {d.id for d in board.defects})
            face, bears = FACES[self.face.currentText()], BEARS[self.bears.currentText()]
            angle = float(self.angle.text().replace(",", ".") or 0)
            fault = edit.made(
                Defect, id=number, kind=self.kind.currentText(), face=face, angle=angle, bears=bears, **typed
            )
        except (measure.BadLength, edit.BadEdit) as error:
            self.session.said.emit(self.session.told(str(error)), True)
            return ""
        except ValueError:
            self.session.said.emit(f'"{self.angle.text()[:30]}" is not a number.', True)
            return ""
        done = self.session.attempt(
            f"{board.name}: {fault.kind}",
            lambda: edit.put_board(self.session.project, edit.held(board, defects=(*board.defects, fault))),
        )
        return number if done else ""

    def drop_fault(self) -> None:
        """Remove the fault in hand."""
        d = self.fault()
        if d is not None:
            self.session.attempt(
                f"{d.kind} removed", lambda: board_readings.drop_fault(self.session.project, self._hand(), d.id)
            )

    def refresh(self) -> None:
        """Show the fault in hand, else what was typed last."""
        d = self.fault()
        self.drop.setEnabled(d is not None)
        self.lead.setText("This fault:" if d is not None else "A fault:")
        for name, field in self.at.items():
            field.show_text(self.session.figures(getattr(d, name) if d is not None else self._typed[name]))
        self.angle.show_text(f"{d.angle if d is not None else self._typed['angle']:g}")
        if d is not None:
            self.kind.setCurrentText(d.kind)
            self.face.setCurrentText(next(t for t, s in FACES.items() if s == d.face))
            self.bears.setCurrentText(next(t for t, s in BEARS.items() if s == d.bears))
