"""The shop sheet as PDF, A4 or Letter: parts, layouts, settings, joints, steps, cautions. Renders the core's drawings."""

from __future__ import annotations

import io

from nullah.core.marking.plan import JointPlan, listed
from nullah.core.pictures import boards, piece
from nullah.core.pictures import joint as joint_picture
from nullah.core.pieces.part import Part
from nullah.core.planning.plan import Plan
from nullah.core.values.frozen import replace
from nullah.core.values.measure import in_words, told
from nullah.formats.paper import BOLD
from nullah.formats.paper import ink as colour
from nullah.formats.sheet import MARGIN, Sheet

BOARD = 120.0  # points that the picture of one board is high


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
            lambda sentence: told(sentence, p.units, p.denominator, hair=True),
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
        drawing = piece.of(p)
        if drawing.items:
            self.drawing(drawing, 230)
        self._parts()
        self._layout()
        self._settings()
        self._joints()
        self._steps()
        self.save()

    def _parts(self) -> None:
        self.head("Parts", keep=80)
        rows: list[tuple[str, ...]] = [("part", "finished", "", "", "rough", "", "species", "state")]
        each = [(p, n) for p in self.plan.piece.parts for n in self.plan.breakdown.rough.of(p.id)]
        for p, name in each:
            rough = rough_size(self.plan, name)
            sizes = tuple(self.mm(v) for v in p.sizes)
            sawn = tuple(self.mm(v) for v in rough) if rough else ("", "")
            rows.append((p.name if name == p.id else name, *sizes, *sawn, p.species, state(self.plan, p, name)))
        self.table(rows, (0.0, 92.0, 142.0, 186.0, 226.0, 278.0, 330.0, 420.0))

    def _layout(self) -> None:
        """Each board by itself, so that it can be read whatever was sawn of it since, with its cuts to tick off under it."""
        p = self.plan
        layout = p.breakdown.layout
        by_id = {b.id: b for b in p.project.boards}
        laid = [b for b in layout.boards if b.board in by_id] if layout else []
        if not laid:
            return
        self.head("Layout and order of sawing", keep=BOARD + 40)
        done = {s.id for s in p.bench.steps if s.done}
        for one in laid:
            board = by_id[one.board]
            alone = replace(p.breakdown, layout=layout.model_copy(update={"boards": (one,)}) if layout else None)
            self.drawing(boards.laid_out((board,), alone, name=p.piece.written), BOARD)
            for cut in p.breakdown.cuts:
                if cut.board == one.board:
                    self.box(cut.name in done)
                    self.words(f"{cut.number}. {board.name}: {cut.words}; {cut.side}", indent=14)

    def _joints(self) -> None:
        """Each joint's marked faces and what to look at before it is cut; joints laid out alike are told once."""
        alike: dict[tuple[object, ...], list[JointPlan]] = {}
        for joint in self.plan.joints.joints:
            told = tuple((c.holds, c.text) for c in joint.checks)
            sizes = tuple(sorted(v for v in joint.figures.values()))
            alike.setdefault((joint.tails, told, sizes, joint.steps), []).append(joint)
        for those in alike.values():
            first = those[0]
            names = [j.name.partition(":")[0] for j in those]
            title = first.name if len(those) == 1 else f"{', '.join(names)}: alike, drawn for {names[0]}"
            self.head(title, 12, 175)
            for sides in joint_picture.pages(first.faces):
                self.drawing(joint_picture.beside(sides), 165)
            for check in first.checks:
                self.words(("holds: " if check.holds else "LOOK: ") + check.text)
            for n, step in enumerate(first.steps, 1):
                self.words(f"{n}. {step}", indent=14)

    def _settings(self) -> None:
        if not self.plan.joints.settings:
            return
        self.head("Set your tools", keep=60)
        for s in self.plan.joints.settings:
            self.room(26)
            self.canvas.setFont(BOLD, 13)
            self.canvas.setFillColor(colour("computed"))
            self.canvas.drawString(MARGIN, self.y - 13, s.text if s.value is None else self.mm(s.value))
            self.canvas.setFillColor(colour("ink"))
            self.y -= 2
            self.words(f"{s.tool}, for {listed(tuple(self.plan.piece.spoken(p) for p in s.parts))}: {s.use}", indent=92)

    def _steps(self) -> None:
        """The whole job to tick off; what stands above already, cuts and the order of a joint, is only named."""
        self.head("Steps", keep=60)
        shown: set[str] = set()
        for i, step in enumerate(self.plan.bench.steps, 1):
            new = [c for c in step.cautions if c not in shown]
            shown.update(new)
            if step.saws and not new:
                continue
            words = () if step.saws or step.joint else (step.words,)
            self.room(30 + 12 * len(new))
            if step.saws:
                self.words("Saw as under Layout and order of sawing.", bold=True, keep=14)
            else:
                self.box(step.done)
                minutes = f" ({step.minutes:.0f} min)" if step.minutes else ""
                self.words(f"{i}. {step.title}{minutes}", indent=14, bold=True, keep=14 if words else 0.0)
            for text in words:
                self.words(text, indent=14)
            for caution in new:
                self.words(f"Caution: {caution}", indent=14, ink="decision")
        self.words("Structure and load: local codes and licensed practice decide, not this sheet.", ink="quiet")


def rough_size(plan: Plan, blank: str) -> tuple[float, float] | None:
    """Length and width of a blank in the rough, mm: as it is laid out, else as it is to be; None where neither is known."""
    place = plan.breakdown.place(blank)
    if place is not None:
        return place[1].length, place[1].width
    wanted = next((b for b in plan.breakdown.blanks if b.id == blank), None)
    return (wanted.length, wanted.width) if wanted is not None else None


def state(plan: Plan, part: Part, blank: str) -> str:
    """How far a part is: planned, measured, sawn (in the rough), cut."""
    if part.cut:
        return "cut"
    if blank in plan.breakdown.freed:
        return "sawn"
    return "measured" if part.measured else "planned"
