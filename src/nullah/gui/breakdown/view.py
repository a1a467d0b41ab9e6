"""Break-down: which part comes out of which board, the planner at work, and the order of sawing, stepped through cut by cut."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from nullah.core.document.calls import Option
from nullah.core.document.project import Board
from nullah.core.edits import board_edits, edit, step_edits
from nullah.core.pictures import boards as picture
from nullah.core.pictures.coming_apart import coming_apart
from nullah.core.pieces.part import Part
from nullah.core.stations.breakdown import Sawing, sawing_of
from nullah.core.stations.rough import parts_of
from nullah.core.values.frozen import replace
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Field, button, column, label, row

ORDER, BESIDE, OVER = 316, 34, 10  # px: the order of sawing, what lies beside its words, and over and under them
GIVEN = {  # what the layout goes by: its word in the row of fields, whether it is a length, what it means
    ("allowances", "length"): ("left on: length", True, "what is left on each part's length when it is sawn"),
    ("allowances", "width"): ("width", True, "what is left on each part's width when it is sawn"),
    ("kit", "crosscut_kerf"): ("kerf: across", True, "what the crosscut saw turns to dust"),
    ("kit", "rip_kerf"): ("along", True, "what the rip saw turns to dust"),
    ("weights", "least_offcut"): ("offcut from", True, "a shorter piece left over is waste"),
    ("weights", "opening"): (
        "board opened %",
        False,
        "what it costs to saw into one more board, in percent of its area: the more, the fewer boards are opened",
    ),
    ("weights", "sawing"): (
        "sawing ×",
        False,
        "how many times the common a metre of sawing counts: the more, the less is sawn and the more is wasted",
    ),
}


class BreakdownView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.lit = ""
        self.trouble = label("", "trouble", wrap=True)
        self.first = self.canvas = Canvas(theme, session)
        self.canvas.margin = 30.0
        self.canvas.picked.connect(self._picked)
        self.canvas.takes_gestures("part:")
        self.order = QListWidget()
        self.order.setAccessibleName("saw order")
        self.order.setFixedWidth(ORDER)
        self.order.setWordWrap(True)
        self.order.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.order.currentRowChanged.connect(self._chose_cut)
        self._order: list[str] = []
        self.about = label("", wrap=True)
        self.part = label("Click a part to choose it.", wrap=True)
        self.mark = button("Mark as cut  X", self.mark_cut)
        self.mark.setObjectName("mark cut")
        self.step = 0  # cuts made in the drawing; 0: the layout as it lies
        self.back = False
        self._looked_at = False  # whether the drawing is of a layout that is not taken
        self.pin_button = button("Pin  P", self.pin, "pin", "the chosen part stays where it lies")
        self.whole_button = button(
            "Keep board whole  W", self.keep_whole, "keep whole", "nothing is sawn out of the chosen board"
        )
        self.sawn_button = button(
            "Board is sawn  S",
            self.sawn,
            "sawn",
            "its parts are there in the rough, what is left over joins the boards",
        )
        self.turn_button = button("Other face  O", self.turn_over, "other face")
        self.before = button("\u2039 Cut  Q", lambda: self.step_by(-1), "cut before")
        self.after = button("Cut \u203a  E", lambda: self.step_by(1), "cut after")
        self.look = button("Look for better  K", self.look_for_better, "look for better")
        self.looked = label("", "quiet", wrap=True)
        self.board = ""  # the board chosen
        words = QWidget()
        column(words, label("Order of sawing", "heading"), self.order, margins=0, spacing=4)
        middle = row(self.canvas, words)
        middle.setStretch(0, 1)
        self.given = {
            (owner, n): Field(f"{owner} {n}", 48, partial(self._number, owner, n, mm), grows=True)
            for (owner, n), (_, mm, _) in GIVEN.items()
        }
        fields: list[str | QWidget] = []
        for key, field in self.given.items():
            set_tip(field, GIVEN[key][2])
            fields += [GIVEN[key][0], field]
        foot = flow(*fields, spacing=4)
        lead = row(self.look, self.looked, self.turn_button, self.before, self.after, spacing=5)
        lead.setStretch(1, 1)
        hand = flow(self.pin_button, self.mark, self.whole_button, self.sawn_button, spacing=5)
        whole = column(self, self.trouble, lead, middle, self.about, self.part, hand, foot, margins=12, spacing=6)
        whole.setStretch(2, 1)
        session.looked.connect(self._show_looking)

    def _number(self, owner: str, name: str, length: bool, text: str) -> bool:
        return self.session.set_number(owner, name, text, length)

    def chosen_part(self) -> Part | None:
        """The part chosen, or the one that comes of what is chosen, or None."""
        lit, plan = self.session.lit_part, self.session.plan
        parts = {p.id: p for p in plan.piece.parts}
        return next((parts[p] for p in parts_of(lit, parts)), None)

    def chosen_piece(self) -> str:
        """What is chosen as it is laid on the boards: a part, a stave of one, or a piece that gives several; or nothing."""
        lit, result = self.session.lit_part, self.session.plan.breakdown
        if lit in result.places or self.chosen_part() is None:
            return lit
        return next((b for b in result.rough.of(lit) if b in result.places), lit)

    def _picked(self, tag: str) -> None:
        self.lit = tag if tag.startswith("cut:") else ""
        part = tag.removeprefix("part:") if tag.startswith("part:") else ""
        self.session.light_part(part)
        kind, _, name = tag.partition(":")
        place = self.session.plan.breakdown.place(part) if part else None
        self.board = place[0] if place else name if kind in ("board", "offcut") else self.board
        self.refresh()

    # ---- led by hand

    def chosen_board(self) -> Board | None:
        """The board that was clicked last, or the one with the chosen part, or None."""
        place = self.session.plan.breakdown.place(self.chosen_piece())
        wanted = place[0] if place else self.board
        return next((b for b in self.session.project.boards if b.id == wanted), None)

    def pin(self) -> None:
        """The part chosen stays where it lies, or is loose again."""
        name, s = self.chosen_piece(), self.session
        if self.chosen_part() is None:
            s.said.emit("Click a part first, then pin it.", True)
            return
        held = name in s.project.pinned
        words = f"{name} is loose again" if held else f"{name} stays where it lies"
        s.attempt(words, lambda: board_edits.pin(s.project, s.plan, name))

    def keep_whole(self) -> None:
        """Nothing is sawn out of the board chosen, or may be again."""
        board, s = self.chosen_board(), self.session
        if board is None:
            s.said.emit("Click a board first, then keep it whole.", True)
            return
        words = f"{board.name} may be sawn again" if board.id in s.project.whole else f"{board.name} is kept whole"
        s.attempt(words, lambda: board_edits.keep_whole(s.project, board.id))

    def sawn(self) -> None:
        """The board chosen is sawn as laid out."""
        board, s = self.chosen_board(), self.session
        if board is None:
            s.said.emit("Click the board that is sawn, or a part on it, first.", True)
            return
        if s.attempt(f"{board.name} is sawn", lambda: step_edits.sawn(s.project, s.plan, board.id, s.now())):
            s.said.emit(
                f"{board.name} is sawn: its parts are there in the rough, what is left over stands under Timber.", False
            )

    def turn_over(self) -> None:
        """The boards' other face, and back."""
        self.back = not self.back
        self.refresh()

    def step_by(self, by: int) -> None:
        """So many cuts on or back in the drawing: the pieces come apart."""
        many = len(self.session.plan.breakdown.cuts)
        if not many:
            self.session.said.emit("There is no cut to step through until a layout is taken.", True)
            return
        self.step = min(max(self.step + by, 0), many)
        self._draw()
        self._tell_step()

    def look_for_better(self) -> None:
        """The planner at work, or stopped."""
        self.session.stop_looking() if self.session.looking else self.session.look_longer()

    def _tell_step(self) -> None:
        cuts = self.session.plan.breakdown.cuts
        self.before.setEnabled(self.step > 0)
        self.after.setEnabled(self.step < len(cuts))
        if self.step and self.step < len(cuts):
            nxt = cuts[self.step]
            self.about.setText(
                self.session.told(
                    f"{self.step} of {len(cuts)} cuts made. Next, {nxt.number}: {nxt.words}; {nxt.side}. Hold {nxt.hold}."
                )
            )
            self.order.setCurrentRow(self.step)
        elif self.step:
            self.about.setText(
                f"All {len(cuts)} cuts are made. Number the pieces, mark their faces, keep the pattern piece apart."
            )
        else:
            self._tell_sums()

    def _show_looking(self) -> None:
        """How far the planner has come, and how much better is possible."""
        s, report = self.session, self.session.report
        self.look.setText("Stop looking  K" if s.looking else "Look for better  K")
        if report is None:
            self.looked.setText("Looking\u2026" if s.looking else "")
            return
        state = f"{100 * report.share:.0f} % of the time" if s.looking else "done looking" if report.done else "stopped"
        words = f"{state}, {f'{report.rounds:,}'.replace(',', chr(0x202F))} tries"
        placed, at_most = (f"{100 * share:.1f}\u00a0%" for share in (report.placed, report.at_most))
        words += f": {placed} of the wood asked for has a place, at most {at_most} could."
        ways = [way.said(s.plan.piece.called) for way in report.ways_out[:2]]
        self.looked.setText(s.told(" ".join([words, *ways])))

    def live(self) -> None:
        """While a part is dragged: where it would lie; cuts are numbered again when it is let go."""
        s, part = self.session, self.session.lit_part
        result = replace(s.plan.breakdown, layout=s.project.layout, sawing=Sawing())
        self.step = 0
        self.canvas.show_drawing(
            picture.laid_out(s.project.boards, result, part, self.back, s.plan.piece.written), f"part:{part}"
        )

    def look_at(self, option: Option | None) -> None:
        """Show the layout that an option of a call would take; with none, the one that is taken."""
        s = self.session
        layout = option.change(s.project).layout if option is not None else s.project.layout
        if option is None or layout is None or layout == s.project.layout:
            if self._looked_at:
                self._looked_at = False
                self._draw()
                self._tell_step()
            return
        self._looked_at, self.step = True, 0
        result = replace(s.plan.breakdown, layout=layout, sawing=sawing_of(s.project.boards, layout))
        self.canvas.show_drawing(picture.laid_out(s.project.boards, result, "", self.back, s.plan.piece.written), "")
        self.about.setText(s.told(f"Shown: {option.label}, which is not taken yet. {'; '.join(option.consequences)}."))

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
            s.attempt(f"{part.id} to be cut again", lambda: edit.unmark_cut(s.project, part, s.now()))
        elif s.attempt(f"{part.id} marked as cut", lambda: edit.mark_cut(s.project, part, s.now())):
            s.said.emit(f"{part.id} is marked as cut: its sizes no longer change silently.", False)

    def _draw(self) -> None:
        plan = self.session.plan
        part = self.chosen_part()
        self.step = min(self.step, len(plan.breakdown.cuts))
        if self.step:
            self.canvas.show_drawing(
                coming_apart(self.session.project.boards, plan.breakdown, self.step),
                f"cut:{self.step + 1}",
            )
            return
        name = self.chosen_piece() if part else ""
        drawing = picture.laid_out(self.session.project.boards, plan.breakdown, name, self.back, plan.piece.written)
        self.canvas.show_drawing(drawing, self.lit or (f"part:{name}" if part else ""))

    def _room_for(self, line: str) -> QSize:
        """What a wrapped line of the order of sawing takes; the list itself reckons without its padding and cuts words off."""
        metrics, wide = self.order.fontMetrics(), ORDER - BESIDE
        words = metrics.boundingRect(QRect(0, 0, wide, 10_000), Qt.TextFlag.TextWordWrap, line)
        return QSize(wide, words.height() + OVER)

    def refresh(self) -> None:
        plan = self.session.plan
        result = plan.breakdown
        self._draw()
        names = {b.id: b.name for b in self.session.project.boards}
        order = [self.session.told_to_work_by(f"{c.number}  {names[c.board]}: {c.words}") for c in result.cuts]
        order = order or ["The cuts stand here, in order, once a layout is taken."]
        if order != self._order:  # laying out many wrapped lines anew takes its time
            self._order = order
            self.order.clear()
            for line in order:
                item = QListWidgetItem(line, self.order)
                item.setSizeHint(self._room_for(line))
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
        self._tell_step()
        self._show_looking()
        for (owner, name), field in self.given.items():
            value = getattr(getattr(self.session.project, owner), name)
            field.show_text(self.session.figures(value) if GIVEN[owner, name][1] else f"{value:g}")
        part = self.chosen_part()
        if part is None:
            self.part.setText("Click a part to choose it.")
        else:
            name = self.chosen_piece()
            place = result.place(name)
            show = self.session.figure
            rough = ""
            if place:
                rough = f"rough {show(place[1].length)} x {show(place[1].width)} of {names.get(place[0], '')}, "
            called = part.name if name == part.id else f"{name} of {part.name}"
            self.part.setText(
                f"{called}: {rough}finished {' x '.join(show(v) for v in part.sizes)}" + (", cut." if part.cut else ".")
            )
        self.mark.setText("To be cut again  X" if part is not None and part.cut else "Mark as cut  X")
        self.mark.setEnabled(part is not None)
        board = self.chosen_board()
        held = part is not None and self.chosen_piece() in self.session.project.pinned
        self.pin_button.setText("Loose  P" if held else "Pin  P")
        self.pin_button.setEnabled(part is not None)
        kept = board is not None and board.id in self.session.project.whole
        self.whole_button.setText("May be sawn  W" if kept else "Keep board whole  W")
        self.whole_button.setEnabled(board is not None)
        self.sawn_button.setEnabled(board is not None and not board.sawn)
        self.turn_button.setText("Face  O" if self.back else "Other face  O")

    def _rates_said(self) -> str:
        """Whose rates the minutes are by, once the maker's own are known."""
        rates = self.session.plan.breakdown.rates
        if not any(rates.timed):
            return ""
        return f" at your own rates ({rates.across:.1f} and {rates.along:.1f} of the common, from {sum(rates.timed)} timed cuts)"

    def _tell_sums(self) -> None:
        """What the sawing comes to, and what is left over."""
        result = self.session.plan.breakdown
        if not result.cuts:
            self.about.setText("What the sawing comes to stands here once a layout is taken.")
            return
        names = {b.id: b.name for b in self.session.project.boards}
        off = sorted(result.offcuts, key=lambda o: -o[1].length)[:3]
        sizes = [
            f"{self.session.figure(n.length)} x {self.session.figure(n.width)} of {names.get(b, b)}" for b, n in off
        ]
        sums = result.sawing.sums
        left = "; ".join(sizes) or "nothing worth keeping"
        self.about.setText(
            f"{sums.cuts} cuts at {sums.settings} settings: {sums.across_m:.1f} m across, {sums.along_m:.1f} m along, "
            f"about {result.rates.minutes(result.cuts):.0f} minutes{self._rates_said()}. "
            f"Left over, longest first: {left}. Keep the kerf in the waste; split the line where two parts share it."
        )
