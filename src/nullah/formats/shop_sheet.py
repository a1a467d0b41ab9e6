"""The shop sheet as PDF, A4 or Letter: parts, layouts, settings, joints, steps, cautions. Renders the core's drawings."""

from __future__ import annotations

import io
import math
from importlib import resources

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from nullah.core.drawing import Area, Dimension, Drawing, Line, Text
from nullah.core.ink import HEAT, PAPER
from nullah.core.measure import in_words, told
from nullah.core.pictures import boards, piece
from nullah.core.pictures import joint as joint_picture
from nullah.core.plan import Plan

MARGIN = 40.0  # points
PLAIN, BOLD = "Nullah", "Nullah-Bold"


def pdf(plan: Plan, letter: bool = False) -> bytes:
    """The whole sheet as PDF bytes."""
    _fonts()
    out = io.BytesIO()
    sheet = _Sheet(plan, out, LETTER if letter else A4)
    sheet.write()
    return out.getvalue()


def _fonts() -> None:
    if PLAIN in pdfmetrics.getRegisteredFontNames():
        return
    for name, file in ((PLAIN, "Regular"), (BOLD, "Bold")):
        data = resources.files("nullah.gui").joinpath(f"fonts/AtkinsonHyperlegibleNext-{file}.ttf").read_bytes()
        pdfmetrics.registerFont(TTFont(name, io.BytesIO(data)))


def _colour(ink: str) -> Color:
    if ink.startswith("heat "):
        return HexColor(HEAT[int(ink[5:])])
    return HexColor(PAPER.get(ink, PAPER["ink"]))


class _Sheet:
    """Writes from the top of a page down, and turns the page when it is full."""

    def __init__(self, plan: Plan, out: io.BytesIO, size: tuple[float, float]) -> None:
        self.plan = plan
        self.wide, self.tall = size
        self.canvas = Canvas(out, pagesize=size)
        self.canvas.setTitle(f"Shop sheet: {plan.project.name}")
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
            self.drawing(piece.picture(p.project.piece, p.piece.box), 230)
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
            self.canvas.setFillColor(_colour("computed"))
            self.canvas.drawString(MARGIN, self.y - 13, s.text if s.value is None else self.mm(s.value))
            self.canvas.setFillColor(_colour("ink"))
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
        self.canvas.setFillColor(_colour("quiet"))
        self.canvas.drawString(MARGIN, MARGIN - 12, f"{self.plan.project.name}, page {self.page}")
        self.canvas.setFillColor(_colour("ink"))

    def head(self, words: str, size: float = 14, keep: float = 26) -> None:
        """A heading, on the same page as the ``keep`` points that follow it."""
        self.room(size + 14 + keep)
        self.y -= 8
        self.canvas.setFillColor(_colour("ink"))
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
            self.canvas.setFillColor(_colour(ink))
            self.canvas.drawString(MARGIN + indent, self.y - 9, one)
            self.y -= 12
        self.canvas.setFillColor(_colour("ink"))

    def drawing(self, drawing: Drawing, tall: float) -> None:
        """A display list, to fit the page's width and ``tall`` points."""
        self.room(tall + 8)
        left, low, right, top = drawing.extent()
        edge = 34.0
        k = min((self.wide - 2 * MARGIN - 2 * edge) / max(right - left, 1e-6), (tall - 2 * edge) / max(top - low, 1e-6))
        x = MARGIN + (self.wide - 2 * MARGIN - (right - left) * k) / 2 - left * k
        y = self.y - tall + (tall - (top - low) * k) / 2 - low * k
        for item in drawing.items:
            if isinstance(item, Area):
                self._area(item, k, x, y)
            elif isinstance(item, Line):
                self._line(item, k, x, y)
            elif isinstance(item, Text):
                self._text(
                    item.text, x + item.at[0] * k, y + item.at[1] * k, item.size * 0.62, item.ink, item.bold, item.align
                )
            else:
                self._dimension(item, k, x, y)
        self.y -= tall + 8

    def _path(self, points: tuple[tuple[float, float], ...], k: float, x: float, y: float, close: bool) -> object:
        path = self.canvas.beginPath()
        path.moveTo(x + points[0][0] * k, y + points[0][1] * k)
        for px, py in points[1:]:
            path.lineTo(x + px * k, y + py * k)
        if close:
            path.close()
        return path

    def _area(self, item: Area, k: float, x: float, y: float) -> None:
        c = self.canvas
        c.setFillColor(_colour(item.ink))
        c.setStrokeColor(_colour(item.edge or item.ink))
        c.setLineWidth(0.6)
        c.drawPath(self._path(item.points, k, x, y, True), stroke=int(bool(item.edge)), fill=1)
        if item.hatch:
            self._hatch(item.points, k, x, y)

    def _hatch(self, points: tuple[tuple[float, float], ...], k: float, x: float, y: float) -> None:
        c = self.canvas
        c.saveState()
        c.clipPath(self._path(points, k, x, y, True), stroke=0, fill=0)
        xs, ys = [x + p[0] * k for p in points], [y + p[1] * k for p in points]
        c.setStrokeColor(_colour("quiet"))
        c.setLineWidth(0.35)
        tall = max(ys) - min(ys)
        at = min(xs) - tall
        while at < max(xs):
            c.line(at, min(ys), at + tall, max(ys))
            at += 3.5
        c.restoreState()

    def _line(self, item: Line, k: float, x: float, y: float) -> None:
        c = self.canvas
        c.setStrokeColor(_colour(item.ink))
        c.setLineWidth(0.55 * item.width)
        c.setDash([3, 2] if item.dash else [])
        c.drawPath(self._path(item.points, k, x, y, False), stroke=1, fill=0)
        c.setDash([])

    def _text(self, words: str, x: float, y: float, size: float, ink: str, bold: bool, align: str) -> None:
        c = self.canvas
        c.setFont(BOLD if bold else PLAIN, size)
        c.setFillColor(_colour(ink))
        draw = {"left": c.drawString, "centre": c.drawCentredString, "right": c.drawRightString}[align]
        draw(x, y - size * 0.35, self.told(words).replace("\u25b2", "^"))

    def _dimension(self, item: Dimension, k: float, x: float, y: float) -> None:
        ax, ay, bx, by = x + item.a[0] * k, y + item.a[1] * k, x + item.b[0] * k, y + item.b[1] * k
        long = math.hypot(bx - ax, by - ay) or 1.0
        ux, uy = (bx - ax) / long, (by - ay) / long
        off = item.offset * 0.62
        lx, ly = -uy * off, ux * off
        c = self.canvas
        c.setStrokeColor(_colour(item.ink))
        c.setLineWidth(0.5)
        c.line(ax + lx, ay + ly, bx + lx, by + ly)
        c.line(ax + lx * 0.2, ay + ly * 0.2, ax + lx * 1.2, ay + ly * 1.2)
        c.line(bx + lx * 0.2, by + ly * 0.2, bx + lx * 1.2, by + ly * 1.2)
        sign = 1 if off >= 0 else -1
        words = f"{item.label} {self.mm(item.mm)}".strip()
        mx, my = (ax + bx) / 2 + lx, (ay + by) / 2 + ly
        if abs(ux) > 0.7:
            self._text(words, mx, my + sign * ux * 6, 8, item.ink, bool(item.edit), "centre")
        else:
            out = -uy * sign
            self._text(
                words, mx + (3 if out > 0 else -3), my, 8, item.ink, bool(item.edit), "left" if out > 0 else "right"
            )
