"""Piece: what it must hold, as a sentence; the box to scale; its dimension chains as sums."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSlider, QWidget

from nullah.core import edit, measure
from nullah.core.pictures import piece as picture
from nullah.core.pictures import standing
from nullah.core.pieces.part import Chain, ChainLine
from nullah.core.plan import TITLES
from nullah.core.wood.species import ALL
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, emptied, label, pick, row, scroll_area

LEAST_SUMS = 96  # px
BESIDE_SUMS = 350  # px: the sentence, the drawing at its least, the words under it
_LID = ["sliding", "lift-off", "none"]
_STAND = ["upright", "on edge", "flat"]


class PieceView(QWidget):
    wanted = Signal(str)  # a station to see the lit part in

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self._seen_from = ""
        self.fields: dict[str, Field] = {}
        self.sums: list[list[QWidget]] = []
        self._shape: object = None

        def whole(name: str) -> Field:
            return self._field(name, 52, self._whole(name))

        def length(name: str) -> Field:
            return self._field(name, 66, self._length(name), grows=True)

        self.name = self._field("contents.name", 120, lambda t: self._set("contents.name", t.strip()))
        self.stand = pick("stand", _STAND, lambda t: self._set("contents.stand", t))
        self.lid = pick("lid", _LID, lambda t: self._set("lid", t))
        self.species = pick("wall species", sorted(ALL), lambda t: self._set("wall_species", t))
        self.panels = pick("panel species", sorted(ALL), lambda t: self._set("panel_species", t))
        self.lid_species = pick("lid species", sorted(ALL), lambda t: self._set("lid_species", t))
        first = flow(
            "Holds",
            whole("contents.count"),
            self.name,
            ", each",
            length("contents.width"),
            "wide,",
            length("contents.height"),
            "high,",
            length("contents.thickness"),
            "thick, standing",
            self.stand,
        )
        second = flow(
            "with",
            whole("dividers"),
            "dividers and a",
            self.lid,
            "lid; sides of",
            self.species,
            ", inside of",
            self.panels,
            ", lid of",
            self.lid_species,
        )
        self.trouble = label("", "trouble", wrap=True)
        self.canvas = Canvas(theme, session)
        self.canvas.typed.connect(self._typed)
        self.canvas.picked.connect(self._picked)
        self.canvas.takes_gestures("divider:")
        self.drives = label("", "quiet", wrap=True)
        self.flat = button("Three views", lambda: self.stand_up(False), "chip")
        self.upright = button("Standing", lambda: self.stand_up(True), "chip")
        for chip in (self.flat, self.upright):
            chip.setCheckable(True)
        self.apart = QSlider(Qt.Orientation.Horizontal)
        self.apart.setRange(0, 100)
        self.apart.setFixedWidth(190)
        self.apart.setAccessibleName("how far apart the parts are drawn")
        self.apart.valueChanged.connect(lambda _: self._draw())
        self.closer, self.further = label("together", "quiet"), label("apart", "quiet")
        self.see = row("", spacing=4)
        how = row(self.flat, self.upright, self.closer, self.apart, self.further, 1, self.see)
        self.sums_below = QWidget()
        self.chains = QHBoxLayout(self.sums_below)
        self.chains.setContentsMargins(0, 0, 0, 0)
        self.sums_area = scroll_area()
        self.sums_area.setWidget(self.sums_below)
        whole_column = column(
            self, first, second, self.trouble, how, self.canvas, self.drives, self.sums_area, margins=12, spacing=6
        )
        whole_column.setStretch(4, 1)
        self._make_room(upright=False)

    def _field(self, name: str, wide: int, taken, grows: bool = False) -> Field:
        made = Field(name, wide, taken, grows)
        self.fields[name] = made
        return made

    def _set(self, name: str, value: object) -> bool:
        return self.session.attempt(
            f"{name.removeprefix('contents.').replace('_', ' ')}: {value}",
            lambda: edit.set_piece(self.session.project, name, value),
        )

    def _whole(self, name: str):
        def taken(text: str) -> bool:
            try:
                return self._set(name, int(text.strip()))
            except ValueError:
                self.session.said.emit(f'"{text[:30]}" is not a whole number.', True)
                return False

        return taken

    def _length(self, name: str):
        def taken(text: str) -> bool:
            project = self.session.project
            signed = name.startswith("extra")

            def make():
                mm = measure.parse_length(text, project.units)
                if mm <= 0 and not signed and name != "wiggle":
                    raise measure.BadLength(f'"{text.strip()[:30]}" is not more than zero; this size must be.')
                return edit.set_piece(project, name, mm)

            return self.session.attempt(f"{name.removeprefix('contents.').replace('_', ' ')}: {text.strip()}", make)

        return taken

    def _typed(self, name: str, text: str) -> None:
        s = self.session
        if name.startswith("outside."):
            axis = int(name[-1])
            s.attempt(
                f"{('length', 'width', 'height')[axis]} outside: {text.strip()}",
                lambda: edit.set_outside(
                    s.project, s.plan, axis, measure.parse_positive(text, s.project.units, "an outside size")
                ),
            )
        elif name.startswith("measured."):
            part = name.removeprefix("measured.")
            s.attempt(
                f"Measured: {part} thickness {text}",
                lambda: edit.measured(s.project, s.plan.piece.parts, f"{part} thickness {text}", s.now()),
            )
        else:
            self._length(name.removeprefix("piece."))(text)

    def stand_up(self, upright: bool) -> None:
        """Show the box standing, or in three views."""
        self._make_room(upright)
        self._draw()

    def _make_room(self, upright: bool) -> None:
        self.flat.setChecked(not upright)
        self.upright.setChecked(upright)
        for thing in (self.apart, self.closer, self.further):
            thing.setVisible(upright)
        self.sums_area.setVisible(not upright)
        self.canvas.margin = 26.0 if upright else 62.0
        self.canvas.margin_up = 26.0 if upright else 40.0
        self.canvas.show_all()

    def _draw(self) -> None:
        plan, part = self.session.plan, self.session.lit_part
        if plan.piece.box is None:
            return
        if self.upright.isChecked():
            self.canvas.show_drawing(standing.of(plan, self.apart.value() / 100), f"part:{part}")
        else:
            self.canvas.show_drawing(picture.of(plan), f"divider:{part}" if part.isdigit() else f"part:{part}")

    def live(self) -> None:
        """While something is dragged: the box and its sums as they would be."""
        self._draw()
        self._show_chains()

    def _picked(self, tag: str) -> None:
        part = tag.partition(":")[2] if tag.startswith(("part:", "divider:")) else ""
        self.session.light_part("" if part == self.session.lit_part else part)
        self.refresh()

    def light(self, tag: str) -> None:
        """Nothing of a setting is drawn here but its part."""

    def refresh(self) -> None:
        piece, plan = self.session.project.piece, self.session.plan
        c = piece.contents
        show = self.session.figures
        values = {
            "contents.count": str(c.count),
            "contents.name": c.name,
            "contents.width": show(c.width),
            "contents.height": show(c.height),
            "contents.thickness": show(c.thickness),
            "dividers": str(piece.dividers),
        }
        for name, text in values.items():
            self.fields[name].show_text(text)
        for box, value in (
            (self.stand, c.stand),
            (self.lid, piece.lid),
            (self.species, piece.wall_species),
            (self.panels, piece.panel_species),
            (self.lid_species, piece.lid_species),
        ):
            box.setCurrentText(value)
        tight = " ".join(plan.piece.box.problems) if plan.piece.box else ""
        self.trouble.setText(self.session.told(plan.piece.problem or plan.joints.problem or tight))
        self.trouble.setVisible(bool(self.trouble.text()))
        self._draw()
        self._show_driven()
        self._show_chains()

    def _show_driven(self) -> None:
        part = next((p for p in self.session.plan.piece.parts if p.id == self.session.lit_part), None)
        shown = part.id if part else ""
        if shown != self._seen_from:
            self._seen_from = shown
            emptied(self.see)
            if part is not None:
                self.see.addWidget(label(f"See {part.id} in", "quiet"))
                for station in ("breakdown", "trueup", "joints"):
                    self.see.addWidget(button(TITLES[station], lambda s=station: self.wanted.emit(s), "chip"))
        if part is None:
            self.drives.setText(
                "Click a part to see what depends on it; click a dotted figure to type another; pull a blue drop or a divider."
            )
            return
        sizes = " x ".join(self.session.figures(v) for v in part.sizes)
        state = "cut" if part.cut else f"{', '.join(part.measured)} measured" if part.measured else "planned"
        depends = f"  On it depend: {', '.join(part.drives)}." if part.drives else ""
        self.drives.setText(f"{part.name}: {sizes}, {part.species}, {state}.{depends}")

    def _show_chains(self) -> None:
        box = self.session.plan.piece.box
        chains = box.chains if box else ()
        shape = (
            self.session.figures(1.0),
            *((c.name, tuple((x.label, x.times, x.edit) for x in c.lines)) for c in chains),
        )
        if shape != self._shape:
            self._shape = shape
            self._build_chains(chains)
        for axis, chain in enumerate(chains):
            self.fields[f"chain {axis} total"].show_text(self.session.figures(chain.total))
            for line, shown in zip(chain.lines, self.sums[axis], strict=True):
                text = self.session.figure(line.each)
                shown.show_text(text) if isinstance(shown, Field) else shown.setText(text)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._share_height()

    def _share_height(self) -> None:
        """The sums whole, as long as the drawing keeps its room."""
        self.sums_below.layout().activate()
        wanted = self.sums_below.sizeHint().height() + 2
        self.sums_area.setFixedHeight(max(LEAST_SUMS, min(wanted, self.height() - BESIDE_SUMS)))

    def _build_chains(self, chains: tuple[Chain, ...]) -> None:
        for name in [n for n in self.fields if n.startswith("chain ")]:
            del self.fields[name]
        emptied(self.chains)
        self.sums = []
        for axis, chain in enumerate(chains):
            frame = QFrame()
            inside = column(frame, label(chain.name, "heading"), margins=4, spacing=1)
            self.sums.append([])
            for line in chain.lines:
                text = f"{line.times} \u00d7 {line.label}" if line.times > 1 else line.label
                words = label(self.session.told(text), "quiet", wrap=True)
                shown = self._sum(f"chain {axis} {line.label}", line)
                self.sums[-1].append(shown)
                both = row(words, shown)
                both.setStretch(0, 1)
                inside.addLayout(both)
            total = self._field(f"chain {axis} total", 92, lambda t, a=axis: self._typed(f"outside.{a}", t), grows=True)
            total.setFixedHeight(26)
            inside.addLayout(row("=", 1, total))
            inside.addStretch(1)
            self.chains.addWidget(frame, 1)
        self._share_height()

    def _sum(self, name: str, line: ChainLine) -> QWidget:
        if not line.edit:
            return label("")
        field = self._field(name, 76, self._length(line.edit.removeprefix("piece.")), grows=True)
        field.setFixedHeight(24)
        return field
