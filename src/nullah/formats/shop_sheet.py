"""The shop sheet as PDF, A4 or Letter: parts, layouts, settings, joints, steps, cautions. Renders the core's drawings."""

from __future__ import annotations

import io

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from nullah.core.drawing import Drawing
from nullah.core.measure import in_words, told
from nullah.core.pictures import boards, piece
from nullah.core.pictures import joint as joint_picture
from nullah.core.plan import Plan
from nullah.formats.paper import BOLD, PLAIN, Painter, load_fonts
from nullah.formats.paper import ink as colour

MARGIN = 40.0  # points


def pdf(plan: Plan, letter: bool = False) -> bytes:
    """The whole sheet as PDF bytes."""
    load_fonts()
    out = io.BytesIO()
    sheet = _Sheet(plan, out, LETTER if letter else A4)
    sheet.write()
    return out.getvalue()


class _Sheet:
    """Writes from the top of a page down, and turns the page when it is full."""

    def __init__(self, plan: Plan, out: io.BytesIO, size: tuple[float, float]) -> None:
        self.plan = plan
        self.wide, self.tall = size
        self.canvas = Canvas(out, pagesize=size)
        self.canvas.setTitle(f"Shop sheet: {plan.project.name}")
        self.painter = Painter(self.canvas, self.mm, self.told)
        self.y = self.tall - MARGIN
        self.page = 1

    def mm(self, value: float) -> str:
        p = self.plan.project
        return in_words(value, p.units, p.denominator)

    def told(self, sentence: str) -> str:
        p = self.plan.project
        return told(sentence, p.units, p.denominator)

    def write(self) -> None:
        p = self.plan
        self.head(p.project.name, 20)
        self.words(
            f"Lengths in {'mm' if p.project.units == 'mm' else 'inches'}. Mark from the wood: a measured size replaces any figure here."
        )
        if p.piece.problem:
            self.words(p.piece.problem)
        if p.piece.box is not None:
            self.drawing(piece.of(p), 230)
        self._parts()
        if p.breakdown.layout is not None and p.project.boards:
            self.head("Layout and order of sawing", keep=270)
            self.drawing(boards.laid_out(p.project.boards, p.breakdown), 260)
            names = {b.id: b.name for b in p.project.boards}
            for cut in p.breakdown.cuts:
                self.words(f"{cut.number}.  {names[cut.board]}: {cut.words}")
        self._settings()
        for joint in p.joints.joints:
            self.head(joint.name, 12, 175)
            self.drawing(joint_picture.side_by_side(joint.faces), 165)
            for check in joint.checks:
                self.words(("holds: " if check.holds else "LOOK: ") + check.text)
        self._steps()
        self._foot()
        self.canvas.save()

    def _parts(self) -> None:
        self.head("Parts")
        rows: list[tuple[str, ...]] = [("part", "length", "width", "thickness", "species", "joints", "state")]
        for p in self.plan.piece.parts:
            state = "cut" if p.cut else "measured" if p.measured else "planned"
            rows.append((p.name, *(self.mm(v) for v in p.sizes), p.species, p.joints, state))
        at = (0.0, 78.0, 132.0, 182.0, 240.0, 322.0, 452.0)
        for i, cells in enumerate(rows):
            self.room(14)
            self.canvas.setFont(BOLD if i == 0 else PLAIN, 9)
            for x, cell in zip(at, cells, strict=True):
                self.canvas.drawString(MARGIN + x, self.y - 10, cell)
            self.y -= 14

    def _settings(self) -> None:
        if not self.plan.joints.settings:
            return
        self.head("Set your tools")
        for s in self.plan.joints.settings:
            self.room(20)
            self.canvas.setFont(BOLD, 13)
            self.canvas.setFillColor(colour("computed"))
            self.canvas.drawString(MARGIN, self.y - 13, s.text if s.value is None else self.mm(s.value))
            self.canvas.setFillColor(colour("ink"))
            self.y -= 2
            self.words(f"{s.tool}, for {' '.join(s.parts)}: {s.use}", indent=92)

    def _steps(self) -> None:
        self.head("Steps")
        shown: set[str] = set()
        for i, step in enumerate(self.plan.bench.steps, 1):
            self.room(30)
            self.words(
                f"{chr(0x25A1) if not step.done else 'done'} {i}. {step.title} ({step.minutes:.0f} min)", bold=True
            )
            if not step.joint:
                self.words(step.words, indent=14)
            for caution in step.cautions:
                if caution not in shown:
                    self.words(f"Caution: {caution}", indent=14, ink="decision")
                    shown.add(caution)
        self.words("Structure and load: local codes and licensed practice decide, not this sheet.", ink="quiet")

    # ---- laying it on paper

    def room(self, need: float) -> None:
        if self.y - need < MARGIN + 14:
            self._foot()
            self.canvas.showPage()
            self.page += 1
            self.y = self.tall - MARGIN

    def _foot(self) -> None:
        self.canvas.setFont(PLAIN, 8)
        self.canvas.setFillColor(colour("quiet"))
        self.canvas.drawString(MARGIN, MARGIN - 12, f"{self.plan.project.name}, page {self.page}")
        self.canvas.setFillColor(colour("ink"))

    def head(self, words: str, size: float = 14, keep: float = 26) -> None:
        """A heading, on the same page as the ``keep`` points that follow it."""
        self.room(size + 14 + keep)
        self.y -= 8
        self.canvas.setFillColor(colour("ink"))
        self.canvas.setFont(BOLD, size)
        self.canvas.drawString(MARGIN, self.y - size, words)
        self.y -= size + 6

    def words(self, text: str, indent: float = 0.0, bold: bool = False, ink: str = "ink") -> None:
        face, size = BOLD if bold else PLAIN, 9.0
        wide = self.wide - 2 * MARGIN - indent
        line = ""
        lines = []
        for word in self.told(text).replace("\u25a1", "o").split():
            longer = f"{line} {word}".strip()
            if pdfmetrics.stringWidth(longer, face, size) > wide and line:
                lines.append(line)
                line = word
            else:
                line = longer
        for one in [*lines, line]:
            self.room(12)
            self.canvas.setFont(face, size)
            self.canvas.setFillColor(colour(ink))
            self.canvas.drawString(MARGIN + indent, self.y - 9, one)
            self.y -= 12
        self.canvas.setFillColor(colour("ink"))

    def drawing(self, drawing: Drawing, tall: float) -> None:
        """A display list, to fit the page's width and ``tall`` points."""
        self.room(tall + 8)
        left, low, right, top = drawing.extent()
        edge = 34.0
        k = min((self.wide - 2 * MARGIN - 2 * edge) / max(right - left, 1e-6), (tall - 2 * edge) / max(top - low, 1e-6))
        x = MARGIN + (self.wide - 2 * MARGIN - (right - left) * k) / 2 - left * k
        y = self.y - tall + (tall - (top - low) * k) / 2 - low * k
        self.painter.paint(drawing, k, x, y)
        self.y -= tall + 8
