"""True-up: a face under the sticks: what comes off where, and the thickest flat board inside."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QComboBox, QListWidget, QPushButton, QWidget

from nullah.core import edit, measure
from nullah.core.document import Reading
from nullah.core.pictures import surface as picture
from nullah.core.stations.trueup import Trued
from nullah.core.surface.planing import hollow_left
from nullah.gui.flow import Flow, flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, emptied, label, pick, row

KINDS = ["winding sticks", "cup", "bow", "thickness"]


class TrueupView(QWidget):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.target = ""
        self.rows = (Targets("Boards", self.choose), Targets("Parts", self.choose))
        self.canvas = Canvas(theme, session)
        self.canvas.margin = 56.0
        self.left = label("", "figure")
        self.words = label("", wrap=True)
        self.kind = pick("reading kind", KINDS, lambda t: self._kind_changed())
        self.at = {
            n: Field(f"reading {n}", 64, lambda t, n=n: self._remember(n, t), grows=True)
            for n in ("at", "across", "value", "stick")
        }
        self._given = {"at": 0.0, "across": 0.0, "value": 0.0, "stick": 450.0}  # mm
        self.add_button = button("Add reading", self.add)
        self.remove_button = button("Remove", self.remove)
        self.entries = QListWidget()
        self.entries.setAccessibleName("readings")
        self.entries.setFixedHeight(92)
        self.names = {n: label(n) for n in self.at}
        line = flow(
            self.kind,
            *(x for n in self.at for x in (self.names[n], self.at[n])),
            self.add_button,
            self.remove_button,
            spacing=5,
        )
        head = row(self.left, self.words, spacing=14)
        head.setStretch(1, 1)
        whole = column(self, *self.rows, head, self.canvas, line, self.entries, margins=12, spacing=6)
        whole.setStretch(3, 1)
        self._kind_changed()

    def _targets(self):
        plan = self.session.plan
        return [*plan.trueup.boards, *plan.trueup.parts]

    def current(self):
        """What is being trued: the one chosen, else the first with readings, else the first."""
        targets = self._targets()
        chosen = next((t for t in targets if t.id == self.target), None)
        return chosen or next((t for t in targets if t.readings), targets[0] if targets else None)

    def choose(self, target: str) -> None:
        self.target = target
        self.refresh()

    def light(self, tag: str) -> None:
        """Gauge lines run round the edges, not over the face."""

    def _kind_changed(self) -> None:
        kind = self.kind.currentText()
        said = {
            "winding sticks": ("at", "", "reads", "stick"),
            "cup": ("at", "", "hollow +", ""),
            "bow": ("", "across", "hollow +", ""),
            "thickness": ("at", "across", "thickness", ""),
        }[kind]
        for name, words in zip(self.at, said, strict=True):
            self.at[name].setVisible(bool(words))
            self.names[name].setVisible(bool(words))
            self.names[name].setText(words)

    def _remember(self, name: str, text: str) -> None:
        try:
            self._given[name] = measure.parse_length(text, self.session.project.units)
        except measure.BadLength as error:
            self.session.said.emit(str(error), True)
        self.at[name].show_text(self.session.figure(self._given[name]))

    def add(self) -> None:
        """Add the reading as typed to the part or board in hand; where it cannot be, say why."""
        target, s = self.current(), self.session
        if target is None:
            s.said.emit("Add a board under Timber first; then it can be read.", True)
            return
        kind = self.kind.currentText()

        def make():
            read = {n: measure.parse_length(f.text(), s.project.units) for n, f in self.at.items()}
            if not 0 <= read["at"] <= target.length or not 0 <= read["across"] <= target.width:
                raise edit.BadEdit(
                    f"That place lies off {target.name}: it is {measure.marked(target.length)} by {measure.marked(target.width)}."
                )
            if kind == "thickness" and read["value"] <= 0:
                raise edit.BadEdit("A thickness is more than zero.")
            new = edit.made(
                Reading,
                target=target.id,
                kind=kind,
                at=read["at"],
                across=read["across"],
                value=read["value"],
                stick=read["stick"] if kind == "winding sticks" else 0.0,
            )
            return edit.changed(s.project, readings=(*s.project.readings, new))

        self.target = target.id
        s.attempt(f"{target.name}: {kind} read", make)

    def remove(self) -> None:
        """Remove the chosen reading."""
        target, at = self.current(), self.entries.currentRow()
        if target is None or not 0 <= at < len(target.readings):
            self.session.said.emit("Choose a reading in the list first.", True)
            return
        gone = target.readings[at]
        readings = list(self.session.project.readings)
        readings.remove(gone)
        self.session.attempt("reading removed", lambda: edit.changed(self.session.project, readings=tuple(readings)))

    def show_part(self, part: str) -> None:
        """Turn to a part."""
        if any(t.id == part for t in self._targets()):
            self.target = part

    def refresh(self) -> None:
        self._show_chips()
        t = self.current()
        self.entries.clear()
        for name, field in self.at.items():
            field.show_text(self.session.figure(self._given[name]))
        if t is None:
            self.left.setText("")
            self.words.setText(
                "No boards yet: add one under Timber, lay out the parts, then read it with sticks and straightedge here."
            )
            return
        show = self.session.figures
        p, plane = t.planing, self.session.plan.trueup.face_plane
        self.canvas.show_drawing(picture.picture(t))
        self.left.setText(f"{show(p.thickest)} left")
        enough = (
            ""
            if p.wanted <= 0
            else f" {show(p.wanted)} is wanted: " + ("enough." if p.enough else f"{show(-p.spare)} short.")
        )
        hollow = hollow_left(plane.sole, plane.iron, plane.shaving, min(1000.0, t.length))
        x, _, most = p.highest()
        if t.measured:
            words = f"{t.name} measures {show(p.thickest)}: it is planed already."
        elif most > 0.05:
            passes = p.shavings(plane.shaving)
            words = (
                f"{t.name}, once flat.{enough} Most comes off the face {show(x - p.x[0])} from its left end: "
                f"{show(most)}, {passes} shaving{'s' if passes != 1 else ''} of the {plane.name} at {plane.shaving:g} mm. "
                "Across or at 45\u00b0 until the sticks agree, along the grain last; that plane alone can leave "
                f"{measure.decimals(hollow, 2)} mm hollow in {show(min(1000.0, t.length))}."
            )
        else:
            words = f"{t.name} is flat as far as it is read.{enough} Read it with sticks and straightedge to know where it is not."
        self.words.setText(words)
        residuals = t.surface.residuals if t.readings else ()  # a part not read itself has its board's surface
        if not t.readings:
            self.entries.addItem("Not read itself: it goes by its place on the board. Add a reading when it is sawn.")
        for r, residual in zip(t.readings, residuals, strict=True):
            where = f"at {show(r.at)}" if r.kind != "bow" else f"{show(r.across)} up"
            stick = f" over a stick of {show(r.stick)}" if r.stick else ""
            stray = "   look again" if abs(residual) > 0.5 else ""
            off = f"   ({measure.decimals(abs(residual), 2)} mm off the fit)" if abs(residual) >= 0.005 else ""
            self.entries.addItem(f"{r.kind} {where}: {show(r.value)}{stick}{off}{stray}")

    def _show_chips(self) -> None:
        """What can be trued: a chip each, or a list where they are many; made anew only when there are others."""
        current = self.current()
        boards = [t for t in self._targets() if t.id == t.board]
        parts = [t for t in self._targets() if t.id != t.board]
        for group, targets in zip(self.rows, (boards, parts), strict=True):
            group.show_targets(targets, current.id if current else "", self.session.figure)


MOST_CHIPS = 12


class Targets(QWidget):
    """A row of chips to choose what is trued, or with more than ``MOST_CHIPS`` a list to open."""

    def __init__(self, words: str, choose: Callable[[str], None]) -> None:
        super().__init__()
        self.words, self.choose = words, choose
        self.line = Flow(4)
        self.setLayout(self.line)
        self.ids: tuple[str, ...] = ()
        self.chips: list[QPushButton] = []
        self.list: QComboBox | None = None

    def show_targets(self, targets: list[Trued], current: str, figure: Callable[[float], str]) -> None:
        """Show these, with the thickness left in each, the current one marked."""
        ids = tuple(t.id for t in targets)
        if ids != self.ids or self.line.count() == 0:
            self._build(ids)
        for i, t in enumerate(targets):
            short = "" if t.planing.enough else " !"
            words = f"{t.name if t.id == t.board else t.id}  {figure(t.planing.thickest)}{short}"
            if self.list is not None:
                self.list.setItemText(i, words)
            else:
                self.chips[i].setText(words)
                self.chips[i].setChecked(t.id == current)
        if self.list is not None:
            self.list.setCurrentIndex(ids.index(current) if current in ids else -1)

    def _build(self, ids: tuple[str, ...]) -> None:
        emptied(self.line)
        self.ids, self.chips, self.list = ids, [], None
        self.line.addWidget(label(self.words, "quiet"))
        if len(ids) > MOST_CHIPS:
            self.list = pick(self.words, list(ids), lambda _: self._listed())
            self.list.setFixedWidth(220)
            self.line.addWidget(self.list)
        for one in ids if self.list is None else ():
            chip = button(one, lambda i=one: self.choose(i), "chip")
            chip.setCheckable(True)
            self.chips.append(chip)
            self.line.addWidget(chip)

    def _listed(self) -> None:
        if self.list is not None:
            self.choose(self.ids[self.list.currentIndex()])
