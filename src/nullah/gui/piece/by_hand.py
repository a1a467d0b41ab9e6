"""What the maker changes by hand in a piece: a part's figures, parts and joints added and taken away, the piece made one's own."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from nullah.core.choosing import spans
from nullah.core.choosing.spans import MarkedSpan
from nullah.core.document.names import prefix
from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.edits.board_readings import own_woods
from nullah.core.joints.families import FAMILIES
from nullah.core.pieces.look import LIES, frame_axes_of
from nullah.core.pieces.part import Part
from nullah.core.shapes.cut import WAYS
from nullah.core.values import measure
from nullah.core.wood.species import NAMES
from nullah.gui.flow import flow
from nullah.gui.session import Session
from nullah.gui.widgets import Field, button, column, label, pick, refill_pick

SIZES = ("length", "width", "thickness")
AS_TYPED = "as typed"
AT = ("from the left", "from the front", "up")


def _kept(name: str, wide: int) -> Field:
    """A field that keeps what is typed until it is used."""
    made = Field(name, wide, lambda text: made.show_text(text))
    return made


class ByHand(QWidget):
    """Rows to add parts and joints, and to write figures of the part that is lit."""

    pointing_begun = Signal()
    pointed_at = Signal(str, str)  # two parts that are to be joined

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.part: Part | None = None
        self.own = {n: Field(f"by hand {n}", 62, partial(self._put, n), grows=True) for n in SIZES}
        self.at = {n: Field(f"by hand {n}", 58, partial(self._move, i), grows=True) for i, n in enumerate(AT)}
        self.wood = pick("wood of the part", list(NAMES), lambda t: self._written("species", t))
        self.away = button("Take it away", self._take_away, "chip")
        self.figures = QWidget()
        self.places = flow("standing", *self.at.values())
        column(self.figures, flow("By hand", *self.own.values(), "of", self.wood, self.places, self.away), margins=0)
        self.new = {n: _kept(f"new part {n}", 62 if n != "name" else 110) for n in ("name", *SIZES)}
        for name, field in self.new.items():
            field.setPlaceholderText(name)
        self.new_at = {n: _kept(f"new part {n}", 62) for n in AT}
        for name, field in self.new_at.items():
            field.setPlaceholderText(name.removeprefix("from the "))
        self.face = pick("new part face", list(WAYS), lambda _: None)
        self.upper = pick("new part upper edge", list(WAYS), lambda _: None)
        self.face.setCurrentText("front")
        self.upper.setCurrentText("up")
        self._spans: dict[str, dict[str, MarkedSpan]] = {}
        self.between = {n: pick(f"new part {n} between", [AS_TYPED], lambda _: self._show_typed()) for n in SIZES}
        for choice in (self.face, self.upper):
            choice.currentTextChanged.connect(lambda _: self._show_spans())
        self.first = pick("joint first part", [], lambda _: None)
        self.second = pick("joint second part", [], lambda _: None)
        self.way = pick("joint way", list(WAYS), lambda _: None)
        self.family = pick("joint family", [f.replace("_", " ") for f in FAMILIES], lambda _: None)
        self.pointing = button("Point at two parts", self._point, "chip", "the joints that suit the two are offered")
        self.pointing.setCheckable(True)
        self._pointed = ""
        self.mine = button("Make this piece my own", self._make_mine, "chip")
        self.why = label("Answers alone change this piece. Made your own, all of it is changed by hand.")
        self.held = flow(self.why, self.mine)
        self.more = QWidget()
        column(
            self.more,
            self.figures,
            flow(
                "A part",
                *self.new.values(),
                "at",
                *self.new_at.values(),
                "face",
                self.face,
                "edge",
                self.upper,
                button("Add part", self.add_part, "chip"),
            ),
            flow(
                "lying",
                "along",
                self.between["length"],
                "across",
                self.between["width"],
                "through",
                self.between["thickness"],
            ),
            flow(
                "A joint:",
                self.first,
                "goes",
                self.way,
                "into",
                self.second,
                "by",
                self.family,
                button("Add joint", self.add_joint, "chip"),
                self.pointing,
            ),
            margins=0,
            spacing=4,
        )
        column(self, self.more, self.held, margins=0, spacing=4)

    def show_part(self, part: Part | None) -> None:
        """The figures of a part of the piece in hand, or none; of a piece that answers alone change, how it is made one's own."""
        piece = self.session.project.in_hand
        self.part = part
        self.more.setVisible(isinstance(piece, Designed))
        self.why.setVisible(not isinstance(piece, Designed))
        self.held.setVisible(not piece_edits.is_mine(piece))
        parts = self.session.plan.piece.in_hand.parts
        names = [p.name for p in parts]
        for box, choices in ((self.first, names), (self.second, [*names, "nothing"])):
            refill_pick(box, choices)
        self._show_spans()
        self.figures.setVisible(part is not None)
        if part is None:
            return
        if self.pointing.isChecked() and part.id != self._pointed:
            self._pointed_at(part)
        for name, field in self.own.items():
            field.show_text(self.session.figures(getattr(part, name)))
        refill_pick(self.wood, list(dict.fromkeys((*NAMES, *own_woods(self.session.project), part.species))))
        self.wood.setCurrentText(part.species)
        added = self._added()
        self.places.setVisible(added is not None)
        if added is not None:
            for field, mm in zip(self.at.values(), added.at, strict=True):
                field.show_text(self.session.figures(mm))

    def _added(self) -> AddPart | None:
        """The edit that added the part, if one did."""
        piece = self.session.project.in_hand
        if self.part is None or not isinstance(piece, Designed):
            return None
        local = self.part.id.removeprefix(prefix(piece.id))
        return next((e for e in piece.edits if isinstance(e, AddPart) and e.id == local), None)

    def _do(self, words: str, make: Callable[[Project], Project]) -> bool:
        return self.session.attempt(words, lambda: make(self.session.project))

    def _mm(self, text: str, what: str) -> float:
        return measure.parse_positive(text, self.session.project.units, what)

    def _put(self, what: str, text: str) -> bool:
        part = self.part
        if part is None:
            return False
        added = self._added()

        def make(project: Project) -> Project:
            mm = self._mm(text, f"the {what}")
            if added is not None:  # without what its joints reach, which comes to it again
                mm -= getattr(part, what) - getattr(added, what)
            return piece_edits.put_figure(project, part.id, what, mm)

        return self._do(f"{part.name} {what} by hand: {text.strip()}", make)

    def _move(self, axis: int, text: str) -> bool:
        part = self.part
        if part is None:
            return False

        def make(project: Project) -> Project:
            mm = measure.parse_length(text, project.units)
            return piece_edits.move_part(project, part.id, axis, mm)

        return self._do(f"{part.name} {AT[axis]}: {text.strip()}", make)

    def _written(self, what: str, text: str) -> None:
        part = self.part
        if part is not None:
            self._do(f"{part.name} {what}: {text}", lambda p: piece_edits.put_figure(p, part.id, what, text))

    def _take_away(self) -> None:
        part = self.part
        if part is not None:
            self._do(f"{part.name} taken away", lambda p: piece_edits.take_away(p, part.id))

    def _axes(self) -> tuple[int, ...]:
        """The axes of the piece that length, width and thickness of the new part lie along; none where its face is its edge."""
        axes = frame_axes_of(self.face.currentText(), self.upper.currentText())
        return axes if len(set(axes)) == 3 else ()

    def _show_spans(self) -> None:
        """What there is to lie between, along each of the new part's sizes."""
        axes = self._axes() if self.isVisible() else ()
        self._spans = {}
        for name, axis in zip(SIZES, axes, strict=False):
            there = spans.of_piece(self.session.plan, axis)
            self._spans[name] = {f"{s.words}, {self.session.figures(s.mm)}": s for s in there}
        for name, choice in self.between.items():
            refill_pick(choice, [AS_TYPED, *self._spans.get(name, {})])
        self._show_typed()

    def _span(self, name: str) -> MarkedSpan | None:
        return self._spans.get(name, {}).get(self.between[name].currentText())

    def _show_typed(self) -> None:
        """What lies between marks is not typed."""
        free = {axis for name, axis in zip(SIZES, self._axes(), strict=False) if self._span(name) is None}
        for name in SIZES:
            self.new[name].setEnabled(self._span(name) is None)
        for axis, field in enumerate(self.new_at.values()):
            field.setEnabled(axis in free)

    def add_part(self) -> None:
        """Add the part as typed, or as it lies between marks."""

        def make(project: Project) -> Project:
            found = {n: self._span(n) for n in SIZES}
            length, width, thickness = (
                s.mm if (s := found[n]) is not None else self._mm(self.new[n].text(), f"the {n}") for n in SIZES
            )
            at = [
                measure.parse_length(f.text(), project.units) if f.text().strip() else 0.0 for f in self.new_at.values()
            ]
            for name, axis in zip(SIZES, self._axes(), strict=False):
                if (span := found[name]) is not None:
                    at[axis] = span.start
            name = self.new["name"].text().strip() or "part"
            return piece_edits.add_part(
                project,
                self.session.plan,
                name,
                (length, width, thickness),
                face=self.face.currentText(),
                upper=self.upper.currentText(),
                at=tuple(at),
                **{LIES[n]: s.between for n, s in found.items() if s is not None},
            )

        if self._do(f"part added: {self.new['name'].text().strip() or 'part'}", make):
            for field in (*self.new.values(), *self.new_at.values()):
                field.show_text("")

    def add_joint(self) -> None:
        """Add the joint as chosen."""
        ids = {p.name: p.id for p in self.session.plan.piece.in_hand.parts}
        first, second = ids.get(self.first.currentText(), ""), ids.get(self.second.currentText(), "")
        family = self.family.currentText().replace(" ", "_")
        self._do(
            f"joint added: {self.first.currentText()} into {self.second.currentText()}",
            lambda p: piece_edits.add_joint(p, self.session.plan, family, first, second, self.way.currentText()),
        )

    def _point(self) -> None:
        """Begin: the next two parts that are pointed at are to be joined."""
        self._pointed = ""
        self.session.light_part("")
        self.pointing_begun.emit()
        if self.pointing.isChecked():
            self.session.said.emit("Click on the part that goes in, then on the one that it goes into.", False)

    def _pointed_at(self, part: Part) -> None:
        """The first of two parts, or the second: then what joins them is offered."""
        if not self._pointed:
            self._pointed = part.id
            return
        first, self._pointed = self._pointed, ""
        self.pointing.setChecked(False)
        self.pointed_at.emit(first, part.id)

    def _make_mine(self) -> None:
        self._do("the piece made my own", lambda p: piece_edits.make_mine(p, self.session.plan))
