"""Break-down: which part comes out of which board, and the order of sawing in words beside it."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QWidget

from nullah.core import edit
from nullah.core.pictures import boards as picture
from nullah.core.stations.breakdown import Sawing
from nullah.gui.bits import Field, button, column, label, row
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.theme import Theme


class BreakdownView(QWidget):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.lit = ""
        self.trouble = label("", "trouble", wrap=True)
        self.canvas = Canvas(theme, session)
        self.canvas.margin = 30.0
        self.canvas.picked.connect(self._picked)
        self.canvas.takes_gestures("part:")
        self.order = QListWidget()
        self.order.setAccessibleName("saw order")
        self.order.setFixedWidth(316)
        self.order.setWordWrap(True)
        self.order.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.order.currentRowChanged.connect(self._chose_cut)
        self.about = label("", wrap=True)
        self.part = label("Click a part to choose it.", wrap=True)
        self.mark = button("Mark as cut  X", self.mark_cut)
        self.mark.setObjectName("mark cut")
        words = QWidget()
        column(words, label("Order of sawing", "heading"), self.order, margins=0, spacing=4)
        middle = row(self.canvas, words)
        middle.setStretch(0, 1)
        self.given = {
            (owner, n): Field(f"{owner} {n}", 52, lambda t, o=owner, n=n: session.set_number(o, n, t))
            for owner, n in (
                ("allowances", "length"),
                ("allowances", "width"),
                ("kit", "crosscut_kerf"),
                ("kit", "rip_kerf"),
            )
        }
        g = list(self.given.values())
        foot = row(
            self.part, "left on: length", g[0], "width", g[1], "kerf: across", g[2], "along", g[3], self.mark, spacing=5
        )
        foot.setStretch(0, 1)
        whole = column(self, self.trouble, middle, self.about, foot, margins=12, spacing=6)
        whole.setStretch(1, 1)

    def chosen_part(self):
        """The part chosen, or None."""
        return next((p for p in self.session.plan.piece.parts if p.id == self.session.lit_part), None)

    def _picked(self, tag: str) -> None:
        self.lit = tag if tag.startswith("cut:") else ""
        self.session.light_part(tag.removeprefix("part:") if tag.startswith("part:") else "")
        self.refresh()

    def live(self) -> None:
        """While a part is dragged: where it would lie; cuts are numbered again when it is let go."""
        s, part = self.session, self.session.lit_part
        result = replace(s.plan.breakdown, layout=s.project.layout, sawing=Sawing())
        cut = frozenset(m.part for m in s.project.cut)
        self.canvas.show_drawing(picture.laid_out(s.project.boards, result, part, cut), f"part:{part}")

    def _chose_cut(self, index: int) -> None:
        cuts = self.session.plan.breakdown.cuts
        if self.order.hasFocus() and 0 <= index < len(cuts):
            self.lit = f"cut:{cuts[index].number}"
            self._draw()

    def light(self, tag: str) -> None:
        """Rough lengths have no line of their own here."""

    def mark_cut(self) -> None:
        """The part chosen is cut; or, where it is marked already, it is to be cut again."""
        part, s = self.chosen_part(), self.session
        if part is None:
            s.said.emit("Click a part first, then mark it as cut.", True)
        elif part.cut:
            s.do(edit.unmark_cut(s.project, part.id, s.now()), f"{part.id} to be cut again")
        else:
            s.do(edit.mark_cut(s.project, part, s.now()), f"{part.id} marked as cut")
            s.said.emit(f"{part.id} is marked as cut: its sizes no longer change silently.", False)

    def _draw(self) -> None:
        plan = self.session.plan
        part = self.chosen_part()
        cut = frozenset(p.id for p in plan.piece.parts if p.cut)
        drawing = picture.laid_out(self.session.project.boards, plan.breakdown, part.id if part else "", cut)
        self.canvas.show_drawing(drawing, self.lit or (f"part:{part.id}" if part else ""))

    def refresh(self) -> None:
        plan = self.session.plan
        result = plan.breakdown
        self._draw()
        names = {b.id: b.name for b in self.session.project.boards}
        self.order.clear()
        self.order.addItems([self.session.told(f"{c.number}  {names[c.board]}: {c.words}") for c in result.cuts])
        if not result.cuts:
            self.order.addItem("The cuts stand here, in order, once a layout is taken.")
        trouble = list(result.problems[:2])
        if result.layout is None:
            trouble = [
                "No layout is taken yet: see Your call."
                if self.session.project.boards
                else "Add boards under Timber first."
            ]
        elif result.layout.unplaced:
            trouble.append(f"No place for {', '.join(result.layout.unplaced)}.")
        self.trouble.setText(self.session.told("  ".join(trouble)))
        self.trouble.setVisible(bool(trouble))
        off = sorted(result.offcuts, key=lambda o: -o[1].length)[:3]
        sizes = [
            f"{self.session.figure(n.length)} x {self.session.figure(n.width)} of {names.get(b, b)}" for b, n in off
        ]
        left = "; ".join(sizes) or "nothing worth keeping"
        self.about.setText(
            f"Saw cut: {100 * result.sawing.across:.1f} dm\u00b2 across the grain, {100 * result.sawing.along:.1f} dm\u00b2 along it. "
            f"Left over, longest first: {left}. Keep the kerf in the waste; split the line where two parts share it."
        )
        for (owner, name), field in self.given.items():
            field.show_text(self.session.figures(getattr(getattr(self.session.project, owner), name)))
        part = self.chosen_part()
        if part is None:
            self.part.setText("Click a part to choose it.")
        else:
            place = result.place(part.id)
            show = self.session.figure
            rough = ""
            if place:
                rough = f"rough {show(place[1].length)} x {show(place[1].width)} of {names.get(place[0], '')}, "
            self.part.setText(
                f"{part.name}: {rough}finished {' x '.join(show(v) for v in part.sizes)}"
                + (", cut." if part.cut else ".")
            )
        self.mark.setText("To be cut again  X" if part is not None and part.cut else "Mark as cut  X")
        self.mark.setEnabled(part is not None)
