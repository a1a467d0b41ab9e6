"""Together: the frame with its diagonals, pushed square; the order of the glue-up against the clock."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QLayout, QWidget

from nullah.core.drawing.display_list import Drawing
from nullah.core.edits import edit, measuring
from nullah.core.pictures import frame as picture
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, column, label, pick, refill, row, scroll_area


class TogetherView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.first = self.canvas = Canvas(theme, session)
        self.diagonals = {n: Field(f"diagonal {n}", 92, partial(self._typed, n)) for n in ("1", "2")}
        self.verdict = label("", wrap=True)
        self.clock = label("", wrap=True)
        self.order = scroll_area()
        self.order.setFixedWidth(330)
        self.glue = pick(
            "glue",
            ["PVA", "hot hide", "liquid hide", "epoxy"],
            lambda t: session.attempt(f"glue: {t}", lambda: edit.set_in(session.project, "kit", "glue", t)),
        )
        self.glue.setFixedWidth(110)
        self.clamps = Field("clamps", 46, lambda t: session.set_number("kit", "clamps", t, length=False))
        measured = row("Diagonal 1", self.diagonals["1"], "diagonal 2", self.diagonals["2"], self.verdict)
        measured.setStretch(4, 1)
        middle = row(self.canvas, self.order)
        middle.setStretch(0, 1)
        foot = row(self.glue, "clamps", self.clamps, self.clock, spacing=10)
        foot.setStretch(3, 1)
        heading = label("Square by its diagonals", "heading")
        whole = column(self, heading, measured, middle, foot, margins=12, spacing=6)
        whole.setStretch(2, 1)

    def light(self, tag: str) -> None:
        """The diagonals are always drawn."""

    def _typed(self, number: str, text: str) -> None:
        s = self.session
        s.attempt(
            f"Measured: diagonal {number} {text.strip()}",
            lambda: measuring.measured(s.project, s.plan.piece.parts, f"diagonal {number} {text}", s.now()),
        )

    def refresh(self) -> None:
        result, plan = self.session.plan.together, self.session.plan
        if result is None:
            self.verdict.setText(
                self.session.told(plan.piece.problem or plan.joints.problem or "Nothing goes together yet.")
            )
            self.canvas.show_drawing(Drawing())
            refill(self.order, [])
            return
        self.canvas.show_drawing(picture.of(plan))
        whole = plan.piece.in_hand.whole
        said = {m.dimension[-1]: m.value for m in self.session.project.measured if m.part == whole}
        for number, field in self.diagonals.items():
            field.show_text(self.session.figures(said[number]) if number in said else "")
            field.setPlaceholderText(self.session.figures(result.diagonal))
        square = result.squareness
        if result.squareness_problem:
            words = result.squareness_problem
        elif square is None:
            words = (
                f"Square, both read {self.session.figures(result.diagonal)}. Measure both, outside corner to corner."
            )
        elif square.square:
            words = f"Square enough: the corner is {square.corner:.2f}\u00b0."
        else:
            push = f"push diagonal {square.longer} shorter by {self.session.figures(square.push)}"
            words = f"The corner of 1 is {square.corner:.2f}\u00b0: {push}."
        self.verdict.setText(words)
        rows: list[QWidget | QLayout] = [label("Order", "heading")]
        rows += [
            label(self.session.told_to_work_by(f"{i}.  {act.words}"), wrap=True)
            for i, act in enumerate(result.order, 1)
        ]
        rows.append(label("Checks", "heading"))
        for check in result.checks:
            mark = chr(0x2713) if check.holds else chr(0x2717)
            rows.append(
                label(self.session.told(f"{mark}  {check.text}"), "quiet" if check.holds else "trouble", wrap=True)
            )
        refill(self.order, rows)
        self.glue.setCurrentText(self.session.project.kit.glue)
        self.clamps.show_text(str(self.session.project.kit.clamps))
        short = "" if result.glue_minutes <= result.open_time[0] else " Too long for one go: see Your call."
        self.clock.setText(
            f"Coating and closing: about {result.glue_minutes:.0f} min. {self.session.project.kit.glue} stays open "
            f"{' to '.join(dict.fromkeys(f'{m:.0f}' for m in result.open_time))} min; the label governs.{short}"
        )
