"""The shop sheet as PDF, A4 or Letter: parts, layouts, settings, joints, steps, cautions. Renders the core's drawings."""

from __future__ import annotations

import io

from nullah.core.measure import in_words, told
from nullah.core.pictures import boards, piece
from nullah.core.pictures import joint as joint_picture
from nullah.core.plan import Plan
from nullah.formats.paper import BOLD, PLAIN
from nullah.formats.paper import ink as colour
from nullah.formats.sheet import MARGIN, Sheet


def pdf(plan: Plan, letter: bool = False) -> bytes:
    """The whole sheet as PDF bytes."""
    out = io.BytesIO()
    _Sheet(plan, out, letter).write()
    return out.getvalue()


class _Sheet(Sheet):
    """The plan on paper, part by part."""

    def __init__(self, plan: Plan, out: io.BytesIO, letter: bool) -> None:
        self.plan, p = plan, plan.project
        super().__init__(
            out,
            p.name,
            lambda mm: in_words(mm, p.units, p.denominator),
            lambda sentence: told(sentence, p.units, p.denominator),
            letter,
        )

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
        self.save()

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
