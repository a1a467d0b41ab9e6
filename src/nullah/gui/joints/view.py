"""Joints: the marked faces side by side to scale, with the order of marking and cutting and the checks under them."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QListWidget, QWidget

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Drawing, Handle
from nullah.core.edits.edit import set_in
from nullah.core.edits.piece_edits import set_joint
from nullah.core.marking.plan import JointPlan
from nullah.core.pictures import joint as picture
from nullah.core.pictures import joint_round
from nullah.core.pieces.grips import Grip, grips, handles
from nullah.core.values import measure
from nullah.core.values.design import JointDesign
from nullah.gui.joints.asked import Asked
from nullah.gui.paint.canvas import Canvas
from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme
from nullah.gui.widgets import Field, button, column, label, refill, row, scroll_area

LEFT = 184  # px of the column on the left at the least
DRAWN = 330  # px: with less room there is no drawing beside what is at hand
LIST = 148  # px of the list of joints


class JointsView(StationView):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.lit = ""
        self.chosen = 0
        self._written: object = None
        self.names = QListWidget()
        self.names.setAccessibleName("joints")
        self.names.setWordWrap(True)
        self.names.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.names.currentRowChanged.connect(self._choose)
        self.grips: tuple[Grip, ...] = ()
        self._gripped: tuple[str, object] = ("", None)  # the joint they are of, and the piece as it was worked out
        self.page = 0  # of many sides which few are shown
        self.more = button("", self._more, "chip", "the other sides that are marked")
        self.round = button(
            "In the round", self._show, "chip", "the joint apart, half home, closed and cut open; drag to turn it"
        )
        self.round.setCheckable(True)
        self.turned = (0.0, 0.0)  # how far one has turned it, degrees to the right and up
        self.title = label("", "heading", wrap=True)
        self.first = self.canvas = Canvas(theme, session)
        self.canvas.margin = 50.0
        self.canvas.turned.connect(self._turn_round)
        self.canvas.typed.connect(self._typed)
        self.canvas.takes_gestures()
        self.canvas.picked.connect(self._picked)
        self.below = scroll_area()
        self.below.setFixedHeight(196)
        self.tools = {
            n: QCheckBox(n.replace("_", " ")) for n in ("plough", "router_plane", "rabbet_plane", "mortise_gauge")
        }
        for name, box in self.tools.items():
            box.clicked.connect(
                lambda on, n=name: session.attempt(
                    f"{n.replace('_', ' ')}: {'at hand' if on else 'none'}",
                    lambda: set_in(session.project, "kit", n, on),
                )
            )
        self.widths = {
            name: Field(name, 172, partial(self._widths, name), grows=True)
            for name in ("chisels", "bits", "plough_irons")
        }
        self.lengths = {
            name: Field(name.replace("_", " "), 172, partial(self._length, name), grows=True)
            for name in ("plough_deepest", "gauge_reach")
        }
        self.names.setFixedHeight(LIST)
        self.inside = QWidget()
        self.asked = Asked(session)
        self.elsewhere = label("What the joints of this piece are asked is said at Piece.", "quiet", wrap=True)
        self.kit = QWidget()
        column(
            self.kit,
            *self.tools.values(),
            *(
                one
                for field in (*self.widths.values(), *self.lengths.values())
                for one in (label(field.accessibleName(), "quiet"), field)
            ),
            margins=0,
            spacing=3,
        )
        self.turns = {words: button(words, partial(self._turn, words), "chip") for words in ("Made", "At hand")}
        for turn in self.turns.values():
            turn.setCheckable(True)
        self._turned = "Made"
        column(
            self.inside,
            self.names,
            row(*self.turns.values(), spacing=4),
            self.elsewhere,
            self.asked,
            self.kit,
            1,
            margins=0,
            spacing=4,
        )
        self.left = scroll_area()  # on a low screen the list keeps its height, and what is at hand is reached below it
        self.left.setWidget(self.inside)
        self.drawn = QWidget()
        column(self.drawn, self.canvas, self.below, margins=0, spacing=6).setStretch(0, 1)
        under = row(self.left, self.drawn)
        under.setAlignment(self.left, Qt.AlignmentFlag.AlignLeft)  # also where there is no room for the drawing
        under.setStretch(1, 1)
        top = row(self.title, self.more, self.round)
        top.setStretch(0, 1)
        whole = column(self, top, under, margins=12, spacing=6)
        whole.setStretch(1, 1)

    def _drawing(self, joint: JointPlan) -> Drawing:
        """The sides that are shown of a joint, and how to come to the others; or the joint in the round."""
        self.canvas.turns = self.round.isChecked()
        self.canvas.margin = 24.0 if self.round.isChecked() else 50.0
        if self.round.isChecked():
            self.more.hide()
            return joint_round.seen(self.session.plan, joint, self.turned)
        pages = picture.pages(joint.faces, self._handles(joint))
        self.page %= len(pages)
        self.more.setVisible(len(pages) > 1)
        self.more.setText(f"Sides {self.page + 1} of {len(pages)}: more")
        return picture.beside(pages[self.page], self._species(joint))

    def _handles(self, joint: JointPlan) -> dict[tuple[str, str], list[Handle]]:
        """What can be taken hold of, by part and side, where it is now; found anew when another joint is shown or it is laid out anew,
        not while something is pulled."""
        made, was = self.session.plan.piece.in_hand, self._gripped
        name = joint.id.removeprefix(made.prefix)
        if not self.session.trying and (was[0] != joint.id or was[1] is not made.worked):
            own = any(isinstance(i, Handle) for f in joint.faces if not f.side for i in f.drawing.items)
            self._gripped = (joint.id, made.worked)
            self.grips = grips(made.worked, name) if made.worked is not None and not own else ()
        return handles(self.grips, joint, name) if self._gripped[0] == joint.id else {}

    def _more(self) -> None:
        """Show the next of the joint's sides."""
        self.page += 1
        self._show()

    def _turn_round(self, right: float, up: float) -> None:
        """Look at the joint in the round from further on."""
        self.turned = (self.turned[0] + right, self.turned[1] + up)
        self._show()

    def _turn(self, to: str) -> None:
        """Show what is asked of the joint, or what is at hand, as wide as its widths want; a piece that answers alone asks nothing of
        single joints."""
        self._turned = to
        for words, turn in self.turns.items():
            turn.setChecked(words == to)
        kit = to == "At hand"
        self.asked.setVisible(not kit and self._designed())
        self.kit.setVisible(kit)
        wide = max((field.width() for field in self.widths.values()), default=0) if kit else 0
        self.inside.setFixedWidth(max(LEFT, wide + 4))
        self.left.setFixedWidth(self.inside.width() + 16)
        self.elsewhere.setVisible(not kit and not self._designed())
        self.drawn.setVisible(not kit or self.width() - self.left.width() > DRAWN)

    def _design(self) -> JointDesign | None:
        """The joint shown as its piece's design has it; None of a piece that answers alone."""
        joint = self.joint()
        return self.session.plan.piece.in_hand.joint_design(joint.id) if joint is not None else None

    def _mine(self) -> tuple[JointPlan, ...]:
        """The joints of the piece in hand."""
        return self.session.plan.joints.of_piece.get(self.session.project.hand, ())

    def joint(self) -> JointPlan | None:
        """The joint shown."""
        joints = self._mine()
        return joints[min(self.chosen, len(joints) - 1)] if joints else None

    def _choose(self, index: int) -> None:
        if index >= 0 and index != self.chosen:
            self.chosen = index
            self.page, self.turned = 0, (0.0, 0.0)
            self._show()

    def light(self, tag: str) -> None:
        """Light the lines of a setting; where this joint has none of them, show the first that does."""
        self.lit = tag
        seen = self.joint()
        for i, joint in enumerate(self._mine()):
            if tag and any(f"setting:{s.id}" == tag for s in joint.settings) and joint is not seen:
                if seen is None or not any(f"setting:{s.id}" == tag for s in seen.settings):
                    self.chosen = i
                    self.names.setCurrentRow(i)
                break
        self._show()

    def _picked(self, tag: str) -> None:
        if tag.startswith("part:"):
            self.session.light_part(tag.removeprefix("part:"))
            self._show()

    def live(self) -> None:
        """While a line is dragged: the joint as it would be."""
        joint = self.joint()
        if joint is not None:
            self.canvas.show_drawing(self._drawing(joint), self.lit)

    def _species(self, joint: JointPlan) -> str:
        return next((p.species for p in self.session.plan.piece.parts if p.id in joint.parts), "")

    def _typed(self, name: str, text: str) -> None:
        s = self.session
        field = name.removeprefix("asked.")
        joint = self.joint()
        if joint is None:
            return

        def make() -> Project:
            mm = measure.parse_positive(text, s.project.units, f"the {field.replace('_', ' ')}")
            return set_joint(s.project, joint.id, field, mm)

        s.attempt(f"{field.replace('_', ' ')}: {text.strip()}", make)

    def _widths(self, name: str, text: str) -> bool:
        """Take what is typed as the widths there are of a tool, one after the other."""
        s, words = self.session, name.replace("_", " ")

        def make() -> Project:
            each = text.split(";" if ";" in text else None)
            widths = tuple(measure.parse_positive(w, s.project.units, f"one of the {words}") for w in each)
            return set_in(s.project, "kit", name, widths)

        return s.attempt(f"{words}: {text.strip()}", make)

    def _length(self, name: str, text: str) -> bool:
        """Take what is typed as how far a tool goes."""
        s, words = self.session, name.replace("_", " ")
        return s.attempt(
            f"{words}: {text.strip()}",
            lambda: set_in(s.project, "kit", name, measure.parse_positive(text, s.project.units, f"the {words}")),
        )

    def show_part(self, part: str) -> None:
        """Turn to the first joint of a part."""
        joints = self._mine()
        self.chosen = next((i for i, j in enumerate(joints) if part in j.parts), self.chosen)

    def refresh(self) -> None:
        kit = self.session.project.kit
        for name, box in self.tools.items():
            box.setChecked(getattr(kit, name))
        between = " " if self.session.project.units == "mm" else "; "
        for name, field in self.widths.items():
            field.show_text(between.join(self.session.figure(mm).removesuffix('"') for mm in getattr(kit, name)))
        for name, field in self.lengths.items():
            field.show_text(self.session.figures(getattr(kit, name)))
        joints = self._mine()
        names = [("" if all(c.holds for c in j.checks) else "! ") + self._spoken(j) for j in joints]
        if names != [self.names.item(i).text() for i in range(self.names.count())]:
            self.names.clear()
            self.names.addItems(names)
        self.chosen = max(0, min(self.chosen, len(joints) - 1))
        self.names.setCurrentRow(self.chosen)
        self._show()

    def _spoken(self, joint: JointPlan) -> str:
        """A joint in the list: by its own name up to the colon, without its piece's."""
        name = joint.name
        if self.session.plan.piece.in_hand.prefix:
            name = name.partition(": ")[2]
        return (
            name.partition(":")[0]
            if joint.tails
            else name
            if self._designed()
            else joint.id.rpartition(".")[2].capitalize()
        )

    def _designed(self) -> bool:
        return isinstance(self.session.project.in_hand, Designed)

    def _show(self) -> None:
        joint = self.joint()
        self._turn(self._turned)
        self.asked.show_joint(self._design(), joint.id if joint else "")
        if joint is None:
            self.title.setText(self.session.told(self.session.plan.joints.problem) or "No joints yet.")
            self.canvas.show_drawing(Drawing())
            refill(self.below, [])
            self._written = None
            return
        sides = () if self.round.isChecked() else tuple(f.title for f in joint.faces)
        self.title.setText(f"{joint.name}.   {'      '.join(sides)}")
        part = self.session.lit_part
        lit = self.lit or (f"part:{part}" if part else "")
        self.canvas.show_drawing(self._drawing(joint), lit)
        if (joint.checks, joint.steps, self.session.figures(1.0)) == self._written:
            return
        self._written = (joint.checks, joint.steps, self.session.figures(1.0))
        rows: list[QWidget] = [label("Before cutting", "heading")]
        for check in joint.checks:
            mark = "\u2713" if check.holds else "\u2717"
            rows.append(label(self.session.told(f"{mark}  {check.text}"), "" if check.holds else "trouble", wrap=True))
        order: list[QWidget] = [label("Order of marking and cutting", "heading")]
        order += [
            label(self.session.told_to_work_by(f"{i}.  {step}"), wrap=True) for i, step in enumerate(joint.steps, 1)
        ]
        left, right = QWidget(), QWidget()
        column(left, *rows, 1, margins=0, spacing=3)
        column(right, *order, 1, margins=0, spacing=3)
        left.setFixedWidth(max(190, min(300, self.below.width() * 2 // 5)))
        refill(self.below, [row(left, right, spacing=16)])
