"""Bench book: the ordered steps of the whole job, what each waits for, its caution, and minutes as they were."""

from __future__ import annotations

from dataclasses import dataclass, replace

from nullah.core import cautions
from nullah.core.document import Board, LogEntry
from nullah.core.joints.plan import JointPlan
from nullah.core.measure import marked
from nullah.core.pieces.part import Part
from nullah.core.stations import made_up
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.piece import PieceResult
from nullah.core.stations.rates import SETTING_UP, saw_step
from nullah.core.stations.step import Step
from nullah.core.stations.timber import TimberResult
from nullah.core.stations.together import TogetherResult
from nullah.core.stations.trueup import Trued, TrueupResult
from nullah.core.wood.species import species

# assumed rates (common practice, no source); the log replaces them as it grows
SQUARE_METRE_PLANED = 60.0  # minutes a square metre and millimetre in middling wood
TAIL_MINUTES = 9.0  # a tail and its pin, both sides
ACTS = {"fit": "Dry fit", "prepare": "Get ready", "glue": "Glue", "dry": "Let the glue dry", "square": "Square"}
HARD = {"soft": 0.8, "middling": 1.0, "hard": 1.3}


@dataclass(frozen=True)
class BenchResult:
    """All steps in order; ``now`` is the first not done whose waits are over, -1 at the end."""

    steps: tuple[Step, ...]
    now: int
    minutes_left: float
    minutes_taken: float
    rate: float


def work(
    boards: tuple[Board, ...],
    done: tuple[str, ...],
    log: tuple[LogEntry, ...],
    piece: PieceResult,
    timber: TimberResult,
    breakdown: BreakdownResult,
    trueup: TrueupResult,
    joints: JointsResult,
    together: TogetherResult | None,
) -> BenchResult:
    """The station: the steps as the plan stands, with what is done and what the log says it took."""
    steps = [
        *_timber_steps(timber),
        *_saw_steps(boards, breakdown),
        *_plane_steps(boards, piece, breakdown, trueup),
        *_joint_steps(piece, breakdown, joints),
        *_last_steps(piece, together),
    ]
    finished = set(done)
    took: dict[str, float] = {}
    for entry in log:
        if entry.kind == "time" and entry.step:
            took[entry.step] = took.get(entry.step, 0.0) + entry.minutes
    told = finished | set(took)
    out = [replace(s, done=s.id in finished, took=took.get(s.id, 0.0)) if s.id in told else s for s in steps]
    timed = [s for s in out if s.done and s.took > 0 and s.minutes > 0]
    rate = sum(s.took for s in timed) / sum(s.minutes for s in timed) if timed else 1.0
    now = next((i for i, s in enumerate(out) if not s.done and all(w in finished for w in s.waits)), -1)
    left = sum(s.minutes * rate for s in out if not s.done)
    return BenchResult(tuple(out), now, left, sum(s.took for s in out), rate)


def _timber_steps(timber: TimberResult) -> list[Step]:
    waiting = [c for c in timber.calls if c.id.startswith("damp") and c.in_force == "wait"]
    return [
        Step(
            c.id,
            "timber",
            "Wait for the wood",
            f"{c.question.split(';')[0]}: stack it on stickers in the room, read again in a week.",
            figure="7 days",
        )
        for c in waiting
    ]


def _saw_steps(boards: tuple[Board, ...], breakdown: BreakdownResult) -> list[Step]:
    steps = []
    by_id = {b.id: b for b in boards}
    for cut in breakdown.cuts:
        kind, _, rest = cut.words.partition(" ")
        steps.append(
            Step(
                saw_step(cut),
                "breakdown",
                f"Cut {cut.number}: {kind} {by_id[cut.board].name}",
                f"{rest}; {cut.side}. Hold {cut.hold}.".capitalize(),
                f"{cut.at:.0f}",
                cut.at,
                minutes=SETTING_UP + cut.minutes,
                cautions=cautions.for_step("break down"),
            )
        )
    return steps


def _what_to_true(t: Trued, part: Part, breakdown: BreakdownResult) -> str:
    """What is made true of a part, of a stave that is still to be jointed, or of a piece that is still to be resawn."""
    if t.leaves > 1:
        return f"Both faces flat, one edge square; {marked(t.planing.wanted)} thick, to be resawn into {t.leaves}. "
    if part.id in breakdown.rough.staves:
        return f"Face side flat; then gauge {marked(part.thickness)} thick. Its edges are jointed with its mates'. "
    return (
        f"Face side flat, face edge square; then gauge {marked(part.width)} wide and {marked(part.thickness)} thick. "
    )


def _plane_steps(
    boards: tuple[Board, ...], piece: PieceResult, breakdown: BreakdownResult, trueup: TrueupResult
) -> list[Step]:
    steps = []
    by_id = {p.id: p for p in piece.parts}
    for t in trueup.parts:
        part = by_id[t.part]
        wood = HARD[species(part.species).ease]
        x, _, most = t.planing.highest()
        area = t.length * t.width / 1e6
        off = t.planing.flat.mean + max(0.0, t.planing.spare)
        words = _what_to_true(t, part, breakdown)
        if most > 0.05:
            words += f"Most comes off near {marked(x - float(t.planing.x[0, 0]), 0)} from the left end: {marked(most, unit=' mm')}, "
            words += f"{t.planing.shavings(trueup.face_plane.shaving)} shavings of the {trueup.face_plane.name}."
        steps.append(
            Step(
                f"true {t.id}",
                "trueup",
                f"True up {t.name}",
                words,
                f"{t.planing.wanted:.1f}",
                t.planing.wanted,
                minutes=4 + area * SQUARE_METRE_PLANED * off * wood,
                cautions=cautions.for_step("true up"),
                parts=(t.id,),
            )
        )
    steps += made_up.steps(boards, piece, breakdown)
    for part in piece.parts:
        if part.group != "sides":
            continue
        steps.append(
            Step(
                f"cut {part.id}",
                "trueup",
                f"Saw and shoot {part.name} to length",
                f"Both ends square; {marked(part.length)} long, {marked(part.width)} wide. Once done, these sizes are the wood's.",
                f"{part.length:.1f}",
                part.length,
                waits=made_up.once(part.id, breakdown)
                or ((f"true {part.id}",) if any(t.id == part.id for t in trueup.parts) else ()),
                minutes=8,
                cautions=cautions.for_step("break down"),
                parts=(part.id,),
                cuts=part.id,
            )
        )
    return steps


def _joint_steps(piece: PieceResult, breakdown: BreakdownResult, joints: JointsResult) -> list[Step]:
    steps = []
    for joint in _in_working_order(joints.joints):
        main = joint.settings[0]
        waits = tuple(f"cut {p}" for p in joint.parts if p in "ABCD")
        minutes = TAIL_MINUTES * joint.tails or 25.0
        steps.append(
            Step(
                f"joint {joint.id}",
                "joints",
                joint.name,
                " ".join(joint.steps),
                main.text or f"{main.value:.1f}",
                main.value,
                waits=waits,
                minutes=minutes,
                cautions=cautions.for_step("joint"),
                parts=joint.parts,
                joint=joint.id,
            )
        )
    corners = tuple(s.id for s in steps if s.joint.startswith("corner"))
    for part in piece.parts:
        if part.group != "sides":
            steps.append(
                Step(
                    f"cut {part.id}",
                    "joints",
                    f"Fit {part.name}",
                    f"Left long until now: cut to the opening as built, {marked(part.length)} x "
                    f"{marked(part.width)}, and try it dry.",
                    f"{part.length:.1f}",
                    part.length,
                    waits=(*corners, *made_up.once(part.id, breakdown)),
                    minutes=10,
                    cautions=cautions.for_step("fit"),
                    parts=(part.id,),
                    cuts=part.id,
                )
            )
    return steps


def _in_working_order(joints: tuple[JointPlan, ...]) -> list[JointPlan]:
    """Dadoes and grooves are cut after the dovetails are laid out and fitted."""
    return sorted(joints, key=lambda j: not j.id.startswith("corner"))


def _last_steps(piece: PieceResult, together: TogetherResult | None) -> list[Step]:
    if together is None:
        return []
    fits = tuple(f"cut {p.id}" for p in piece.parts if p.group != "sides")
    steps = []
    before = fits
    for i, act in enumerate(together.order):
        figure, mm = ("", None)
        if act.figure == "diagonals":
            figure, mm = f"{together.diagonal:.1f}", together.diagonal
        steps.append(
            Step(
                f"together {i}",
                "together",
                ACTS[act.kind],
                act.words,
                figure,
                mm,
                waits=before,
                minutes=0 if act.kind == "dry" else 10,
                cautions=cautions.for_step("glue") if act.kind == "glue" else (),
            )
        )
        before = (f"together {i}",)
    steps.append(
        Step(
            "finish",
            "together",
            "Clean up and finish",
            "Plane the ends flush, ease the arrises, finish inside and out alike.",
            waits=before,
            minutes=40,
            cautions=cautions.for_step("finish"),
        )
    )
    return steps
