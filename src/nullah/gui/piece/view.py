"""Piece: what is asked, as a sentence; the piece to scale; its dimension chains as sums."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QPushButton, QSlider

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Area, Drawing
from nullah.core.edits import measuring, piece_edits
from nullah.core.pictures import piece as picture
from nullah.core.pictures import standing
from nullah.core.pieces.kinds import KINDS
from nullah.core.pieces.part import Part
from nullah.core.planning.plan import TITLES
from nullah.core.values import measure
from nullah.core.values.measure import marked
from nullah.gui.flow import flow
from nullah.gui.paint.canvas import Canvas
from nullah.gui.piece.chips import PieceChips
from nullah.gui.piece.form import Form, length
from nullah.gui.piece.looking import Looking
from nullah.gui.piece.sums import Sums
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, emptied, height_of_whole_lines, label, pick, row, scroll_area

if TYPE_CHECKING:
    from nullah.gui.piece.by_hand import ByHand
    from nullah.gui.piece.guide import GuidePanel
    from nullah.gui.piece.parts_table import PartsTable

LEAST_SUMS = 96  # px
LEAST_DRAWING = 180  # px that the drawing has before there are sums
LEAST_RODS = 240  # the same, where all the sums are story sticks drawn in it
LEAST_BY_HAND = 156  # the same, while the maker is at work below it
MORE = "and another piece"


class PieceView(StationView):
    drawn_once_painted = False  # as the program starts: the window stands first, the drawing is in it a moment later

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self._seen_from = ""
        self._room_for_sums = True

        self.pieces = PieceChips()
        self.pieces.taken.connect(self._take)
        self.form = Form(session)
        self.title = Field("name of the piece", 150, self._rename, grows=True)
        self.kind = pick("kind of piece", [k.title for k in KINDS.values()], self._change_kind)
        self.more = pick("add a piece", [MORE, *(k.title for k in KINDS.values())], self._add)
        self.away = button("Take it away", self._drop, "chip", "take the piece in hand out of the project")
        self.by_hand: ByHand | None = None  # made when it is first asked for
        self.hand = button("By hand", self._draw_hand, "chip", "add parts and joints of your own, and write figures")
        self.hand.setCheckable(True)
        self.about = flow("In hand:", self.title, ", a", self.kind, self.more, self.away)
        self.trouble = label("", "trouble", wrap=True)
        self.first = self.canvas = Canvas(theme, session)
        self.canvas.typed.connect(self._typed)
        self.canvas.picked.connect(self._picked)
        self.canvas.takes_gestures("shift:")
        self.drives = label("", "quiet", wrap=True)
        self.flat = button("Three views", lambda: self.stand_up(False), "chip")
        self.upright = button("Standing", lambda: self.stand_up(True), "chip")
        self.listed = button("Table", self.show_table, "chip", "every part with its sizes, and the wood they come to")
        self.guided = button("Picture", self.show_guide, "chip", "a photograph to go by: lengths are read off it")
        self.parts_table: PartsTable | None = None  # made when it is first asked for, as is the picture to go by
        self.guide: GuidePanel | None = None
        self.instead: PartsTable | GuidePanel | None = None  # what is shown in place of the drawing
        chips = (self.flat, self.upright, self.listed, self.guided)
        for chip in chips:
            chip.setCheckable(True)
        self.apart = QSlider(Qt.Orientation.Horizontal)
        self.apart.setRange(0, 100)
        self.apart.setFixedWidth(190)
        self.apart.setAccessibleName("how far apart the parts are drawn")
        self.apart.valueChanged.connect(lambda _: self._draw())
        self.closer, self.further = label("together", "quiet"), label("apart", "quiet")
        self.looking = Looking()
        self.looking.changed.connect(self._draw)
        self.canvas.turned.connect(self.looking.turn)
        self.see = row("", spacing=4)
        how = row(*chips, self.closer, self.apart, self.further, self.hand, 1, self.see)
        self.sums = Sums(session, self._typed, self._length)
        self.sums.built.connect(self._share_soon)
        self.sums_area = scroll_area()
        self.sums_area.setWidget(self.sums)
        self.hand_area = scroll_area()  # empty until it is first asked for
        self.hand_area.hide()
        self.whole_column = column(
            self,
            self.pieces,
            self.about,
            self.form,
            self.trouble,
            how,
            self.looking,
            self.canvas,
            self.drives,
            self.hand_area,
            self.sums_area,
            margins=12,
            spacing=6,
        )
        self.whole_column.setStretch(self.whole_column.indexOf(self.canvas), 1)
        self._make_room(upright=False)

    def _do(self, words: str, make: Callable[[Project], Project]) -> bool:
        return self.session.attempt(words, lambda: make(self.session.project))

    def _rename(self, text: str) -> bool:
        name = text.strip()
        return self._do(f"the piece is called {name}", lambda p: piece_edits.rename(p, name))

    def _kind_named(self, title: str) -> str:
        return next(k.name for k in KINDS.values() if k.title == title)

    def _change_kind(self, title: str) -> None:
        self._do(
            f"the piece is a {title.lower()}",
            lambda p: piece_edits.change_kind(p, self.session.plan, self._kind_named(title)),
        )

    def _add(self, title: str) -> None:
        self.more.setCurrentIndex(0)
        if title != MORE:
            self.add_piece(self._kind_named(title))

    def add_piece(self, kind: str) -> None:
        """Add a piece of a kind by its defaults."""
        self._do(f"a piece more: {KINDS[kind].title.lower()}", lambda p: piece_edits.add_piece(p, kind))

    def _drop(self) -> None:
        self._do(
            f"{self.session.project.in_hand.name} taken away", lambda p: piece_edits.drop_piece(p, self.session.plan)
        )

    def _take(self, piece_id: str) -> None:
        name = next(p.name for p in self.session.project.pieces if p.id == piece_id)
        self._do(f"in hand: {name}", lambda p: piece_edits.take_in_hand(p, piece_id))

    def _length(self, name: str) -> Callable[[str], bool]:
        def taken(text: str) -> bool:
            project = self.session.project

            def make() -> Project:
                ask = piece_edits.ask_of(project.in_hand, name)  # which another piece in hand may not be asked
                return piece_edits.set_answer(project, name, length(self.session, ask, text))

            return self.session.attempt(f"{name.replace('_', ' ')}: {text.strip()}", make)

        return taken

    def _typed(self, name: str, text: str) -> None:
        s = self.session
        if name.startswith("measured."):
            part = name.removeprefix("measured.")
            s.attempt(
                f"Measured: {part} thickness {text}",
                lambda: measuring.measured(s.project, s.plan.piece.parts, f"{part} thickness {text}", s.now()),
            )
        elif name.startswith("rod."):
            rod = name.removeprefix("rod.")
            s.attempt(
                f"{rod.replace('-', ' ')}: {text.strip()}",
                lambda: piece_edits.set_total(
                    s.project, s.plan, rod, measure.parse_positive(text, s.project.units, "a length")
                ),
            )
        else:
            self._length(name.removeprefix("asked."))(text)

    def stand_up(self, upright: bool) -> None:
        """Show the piece standing, or in three views; standing already, from where one first saw it."""
        if upright and self.canvas.turns:
            self.looking.again()
        self._make_room(upright)
        self._draw()

    def show_table(self) -> None:
        """Show the table of parts in place of the drawing."""
        if self.parts_table is None:
            from nullah.gui.piece.parts_table import PartsTable

            self.parts_table = PartsTable(self.session)
            self.parts_table.lit.connect(self._lit_in_table)
        self._show_instead(self.parts_table, self.listed)

    def show_guide(self) -> None:
        """Show a picture to go by in place of the drawing."""
        if self.guide is None:
            from nullah.gui.piece.guide import GuidePanel

            self.guide = GuidePanel(self.session, self.canvas.renderer.theme)
        self._show_instead(self.guide, self.guided)

    def _show_instead(self, page: PartsTable | GuidePanel, chip: QPushButton) -> None:
        if self.whole_column.indexOf(page) < 0:
            self.whole_column.insertWidget(self.whole_column.indexOf(self.canvas), page, 1)
        self._make_room(False)
        self.flat.setChecked(False)
        chip.setChecked(True)
        self.instead = page
        self.canvas.hide()
        page.show()
        page.refresh()
        self._show_sums()
        self._share_height()

    def _lit_in_table(self, part: str) -> None:
        self.session.light_part(part)
        self._show_driven()

    def _make_room(self, upright: bool) -> None:
        self.canvas.show()
        for page, chip in ((self.parts_table, self.listed), (self.guide, self.guided)):
            chip.setChecked(False)
            if page is not None:
                page.hide()
        self.instead = None
        self.flat.setChecked(not upright)
        self.upright.setChecked(upright)
        for thing in (self.apart, self.closer, self.further, self.looking):
            thing.setVisible(upright)
        self.canvas.turns = upright
        self._show_sums()
        self.canvas.margin = 26.0 if upright else 62.0
        self.canvas.margin_up = 26.0 if upright else 40.0
        self.canvas.show_all()

    def _draw(self) -> None:
        plan, part = self.session.plan, self.session.lit_part
        if self.instead is not None:
            self.instead.refresh()
        elif self.upright.isChecked():
            self.canvas.show_drawing(
                standing.seen(plan, self.looking.at(part, self.apart.value() / 100)), f"part:{part}"
            )
        elif PieceView.drawn_once_painted:
            PieceView.drawn_once_painted = False  # who set it has the view refreshed
        else:
            self._show_flat(picture.of(plan))

    def _show_flat(self, drawing: Drawing) -> None:
        part = self.session.lit_part
        tags = {i.tag for i in drawing.items if isinstance(i, Area)}
        self.canvas.show_drawing(drawing, next((t for t in tags if t.partition(":")[2] == part), ""))

    def live(self) -> None:
        """While something is dragged: the piece and its sums as they would be."""
        if self.upright.isChecked() or self.instead is not None:
            self._draw()
        else:
            self._show_flat(picture.three_views(self.session.plan))
        self.sums.show_chains(self.session.plan.piece.chains)

    def _picked(self, tag: str) -> None:
        part = tag.partition(":")[2] if tag.startswith(("part:", "shift:")) else ""
        self.session.light_part("" if part == self.session.lit_part else part)
        self.refresh()

    def light(self, tag: str) -> None:
        """Nothing of a setting is drawn here but its part."""

    def refresh(self) -> None:
        project, plan = self.session.project, self.session.plan
        piece = project.in_hand
        kind = piece_edits.kind_of(piece)
        self.pieces.show_pieces(project)
        self.away.setVisible(len(project.pieces) > 1)
        self.title.show_text(piece.name)
        self.kind.setCurrentText(kind.title if kind else "")
        self.form.show_piece(piece, kind)
        unmet = " ".join(plan.piece.in_hand.failing())
        self.trouble.setText(self.session.told(plan.piece.problem or plan.joints.problem or unmet))
        self.trouble.setVisible(bool(self.trouble.text()))
        self._draw()
        self._show_driven()
        self.sums.show_chains(self.session.plan.piece.chains)
        self._draw_hand()

    def _draw_hand(self) -> None:
        """What is changed by hand, where it is asked for."""
        shown = self.hand.isChecked()
        if shown and self.by_hand is None:
            from nullah.gui.piece.by_hand import ByHand

            self.by_hand = ByHand(self.session)
            self.by_hand.pointing_begun.connect(self.refresh)
            self.by_hand.pointed_at.connect(self.joining.emit)
            self.hand_area.setWidget(self.by_hand)
        self.hand_area.setVisible(shown)
        if shown and self.by_hand is not None:
            mine = self.session.plan.piece.in_hand.parts
            self.by_hand.show_part(next((p for p in mine if p.id == self.session.lit_part), None))
        self._share_height()

    def _show_driven(self) -> None:
        part = next((p for p in self.session.plan.piece.parts if p.id == self.session.lit_part), None)
        shown = part.id if part else ""
        if shown != self._seen_from:
            self._seen_from = shown
            emptied(self.see)
            if part is not None:
                self.see.addWidget(label("See it in", "quiet"))
                for station in ("breakdown", "trueup", "joints"):
                    self.see.addWidget(button(TITLES[station], partial(self.wanted.emit, station), "chip"))
        if part is None:
            self.drives.setText(
                "Click a part to see what depends on it; click a dotted figure to type another; pull a blue drop."
            )
            return
        sizes = " x ".join(self.session.figures(v) for v in part.sizes)
        state = "cut" if part.cut else f"{', '.join(part.measured)} measured" if part.measured else "planned"
        depends = f"  On it depend: {', '.join(part.drives)}." if part.drives else ""
        self.drives.setText(
            self.session.told(f"{part.name}: {sizes}, {part.species}, {state}.{self._why(part)}{depends}")
        )

    def _why(self, part: Part) -> str:
        """What the length of a part of a designed piece is made up of."""
        made = self.session.plan.piece.of_part[part.id]
        if made.worked is None:
            return ""
        lines = made.worked.why(part.id.removeprefix(made.prefix), "length")
        return f"  Length: {' + '.join(f'{what} {marked(mm)}' for what, mm in lines)}."

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._share_soon()

    def _share_soon(self) -> None:
        self._share_height()
        QTimer.singleShot(0, self, self._share_height)  # once more when what is new in it has its size

    def _share_height(self) -> None:
        """The sums whole, or what is done by hand, as long as the drawing keeps its room."""
        wide, designed = self._inner_width(), isinstance(self.session.project.in_hand, Designed)
        self.drives.setVisible(self.instead is None)
        if not self.session.lit_part and self.height() - self._beside() < LEAST_DRAWING:
            self.drives.hide()  # a small window: what one may do gives way to the drawing
        room = self.height() - self._beside() - (LEAST_RODS if designed else LEAST_DRAWING)
        self._room_for_sums = room >= LEAST_SUMS
        self._show_sums()
        if self._room_for_sums:
            self.sums_area.setFixedHeight(height_of_whole_lines(self.sums, wide, room))
        if self.by_hand is not None and self.hand.isChecked():
            room = self.height() - self._beside() - LEAST_BY_HAND
            inside = self.by_hand.layout()
            if inside is not None and room < inside.heightForWidth(wide):  # what is typed on goes before what is told
                self.drives.hide()
                room = self.height() - self._beside() - LEAST_BY_HAND
            self.hand_area.setFixedHeight(height_of_whole_lines(self.by_hand, wide, room))

    def _inner_width(self) -> int:
        margins = self.whole_column.contentsMargins()
        return self.width() - margins.left() - margins.right()

    def _beside(self) -> int:
        """The height of all that stands in the view beside the drawing and the sums, as wide as the view is."""
        margins = self.whole_column.contentsMargins()
        wide = self._inner_width()
        tall = margins.top() + margins.bottom()
        shared = (self.canvas, self.parts_table, self.guide, self.hand_area, self.sums_area)
        for i in range(self.whole_column.count()):
            item = self.whole_column.itemAt(i)
            assert item is not None
            here = item.widget()
            if here is not None and (here.isHidden() or here in shared):
                continue
            own = item.heightForWidth(wide) if item.hasHeightForWidth() else item.sizeHint().height()
            tall += own + self.whole_column.spacing()
        return tall + 2 * self.whole_column.spacing()

    def _show_sums(self) -> None:
        """The sums, where there is room for them beside the drawing, which shows the rods of a designed piece as well."""
        self.sums_area.setVisible(
            self._room_for_sums and not (self.hand.isChecked() or self.canvas.turns or self.instead is not None)
        )
