"""Bench book: the ordered steps of the whole job, what each waits for, its caution, and minutes as they were."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.document.names import named_deed
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Board, LogEntry
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import Check, JointPlan
from nullah.core.pieces.kinds import KINDS
from nullah.core.pieces.part import Part
from nullah.core.stations import cautions, rough_steps, true_steps
from nullah.core.stations.arranged import ArrangedResult
from nullah.core.stations.as_made import AsMade
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.job import WOOD, Job, has_wood
from nullah.core.stations.joints import JointsResult
from nullah.core.stations.made import Made, PieceResult
from nullah.core.stations.step import Step, told_figure
from nullah.core.stations.together import TogetherResult
from nullah.core.stations.trueup import TrueupResult
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import marked

ACTS = {
    "fit": "Dry fit",
    "prepare": "Get ready",
    "glue": "Glue",
    "dry": "Let the glue dry",
    "square": "Square",
    "screw": "Screw",
    "nail": "Nail",
    "peg": "Drive the pegs",
    "wedge": "Drive the wedges",
    "slide": "Slide in",
}


@frozen
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
    as_made: AsMade,
    breakdown: BreakdownResult,
    trueup: TrueupResult,
    joints: JointsResult,
    together: dict[str, TogetherResult],
    cuts: tuple[Step, ...],
    arranged: ArrangedResult,
) -> BenchResult:
    """The station: the steps as the plan stands, with what is done and what the log says it took."""
    job = Job(boards, piece, as_made, breakdown, trueup, joints, cuts, arranged.words)
    steps = [
        *rough_steps.steps(job),
        *true_steps.steps(job),
        *(s for made in piece.made for s in _of_piece(made, job, together.get(made.id))),
    ]
    finished = {*(d for d in done if d != WOOD), *_implied(steps, piece, breakdown)}
    if steps and steps[0].id == WOOD and all(has_wood(p) in finished for p in steps[0].parts):
        finished.add(WOOD)
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


def _implied(steps: list[Step], piece: PieceResult, breakdown: BreakdownResult) -> set[str]:
    """Steps that must have been done though nobody said so: a part that is cut was sawn and trued before."""
    cut = {p.id for p in piece.parts if p.cut}
    out = {s.id for s in steps if s.cuts in cut}
    out |= {name for p in breakdown.progress.values() if not p.whole for name in p.made}
    for step in steps:
        of = [set(breakdown.rough.gives.get(n, (n,))) for n in step.parts]
        if step.station == "trueup" and of and all(parts <= cut for parts in of):
            out.add(step.id)
    return out


def _of_piece(made: Made, job: Job, together: TogetherResult | None) -> list[Step]:
    """The joints of one piece, what is fitted, and how it goes together."""
    joints = job.joints.of_piece[made.id]
    first = _joint_steps(made.parts, joints, job) if made.own is not None else _design_steps(made.parts, joints, job)
    return [replace(s, piece=made.id) for s in (*first, *_last_steps(made, joints, together))]


def doubts(checks: Iterable[Check]) -> tuple[str, ...]:
    """What does not hold of some checks, a sentence each."""
    return tuple(f"This does not hold: {c.text}." for c in checks if not c.holds)


def _joint_steps(parts: tuple[Part, ...], joints: tuple[JointPlan, ...], job: Job) -> list[Step]:
    """Corners from shot sides; grooves and dadoes once the corners fit and what goes in them has its thickness; parts fitted last;
    and what is cut in a part once it is fitted."""
    steps = [_joint_step(j, job, tuple(f"cut {p}" for p in j.parts)) for j in joints if _is_corner(j)]
    corners = tuple(s.id for s in steps)
    sides = {p.id for p in parts if not p.fitted}
    inside = [j for j in joints if not _is_corner(j) and sides.intersection(j.parts)]
    for joint in inside:
        mates = [p for p in joint.parts if p not in sides]
        steps.append(_joint_step(joint, job, (*corners, *(w for m in mates for w in job.to_thickness(m)))))
    for part in parts:
        if not part.fitted:
            continue
        holds = tuple(f"joint {j.id}" for j in inside if part.id in j.parts)
        steps.append(_fit_step(part, (*corners, *holds, *job.to_thickness(part.id))))
    after = [j for j in joints if not _is_corner(j) and j not in inside]
    steps += [_joint_step(j, job, tuple(f"cut {p}" for p in j.parts)) for j in after]
    return steps


def _fit_step(part: Part, waits: tuple[str, ...]) -> Step:
    return Step(
        f"cut {part.id}",
        "joints",
        f"Fit {part.name}",
        f"Left long until now: cut to the opening as built, {marked(part.length)} x "
        f"{marked(part.width)}, and try it dry.",
        told_figure(part.length),
        part.length,
        waits=waits,
        minutes=10,
        cautions=cautions.for_step("fit"),
        parts=(part.id,),
        cuts=part.id,
        deed="cut",
    )


def _design_steps(parts: tuple[Part, ...], joints: tuple[JointPlan, ...], job: Job) -> list[Step]:
    """Joints of parts that are shot to size, each after those that must be cut before it in the same part; then what is fitted, and its
    joints."""
    fitted = {p.id for p in parts if p.fitted}
    early = [j for j in joints if not fitted.intersection(j.parts)]
    late = [j for j in joints if j not in early]
    steps = _ganged(early, job)
    before = tuple(s.id for s in steps)
    steps += [_fit_step(p, (*before, *job.to_thickness(p.id))) for p in parts if p.fitted]
    return [*steps, *_ganged(late, job)]


def _ganged(joints: list[JointPlan], job: Job) -> list[Step]:
    """Those that others wait for first, and of these what is set alike one after the other, so that every tool is set once."""
    order: dict[tuple[object, ...], int] = {}
    for joint in joints:
        order.setdefault(_set_to(joint), len(order))
    steps: list[Step] = []
    before: JointPlan | None = None
    for joint in sorted(joints, key=lambda j: (len(FAMILIES[j.family].after), order[_set_to(j)])):
        step = _joint_step(joint, job, _waits(joint, joints))
        if before is not None and _set_to(before) == _set_to(joint):
            step = replace(step, words=f"All tools are set as for the one before: do not touch them. {step.words}")
        steps.append(step)
        before = joint
    return steps


def _set_to(joint: JointPlan) -> tuple[object, ...]:
    """The tools of a joint and what they are set to."""
    return joint.family, *((s.tool, s.text, round(s.value or 0.0, 2)) for s in joint.settings)


def _waits(joint: JointPlan, among: list[JointPlan]) -> tuple[str, ...]:
    """What a joint waits for: its parts at their size, and joints that are cut in them before it."""
    first = FAMILIES[joint.family].after
    mine = set(joint.parts)
    return (
        *(f"cut {p}" for p in joint.parts),
        *(f"joint {j.id}" for j in among if j.family in first and mine.intersection(j.parts)),
    )


def _is_corner(joint: JointPlan) -> bool:
    return joint.tails > 0


def _joint_step(joint: JointPlan, job: Job, waits: tuple[str, ...]) -> Step:
    main = joint.settings[0]
    done = job.joints.work(joint.id)
    return Step(
        f"joint {joint.id}",
        "joints",
        joint.name,
        " ".join(joint.steps),
        main.text or told_figure(main.value or 0.0),
        main.value,
        waits=waits,
        minutes=done.minutes,
        cautions=tuple(dict.fromkeys(c for kind in done.cautions for c in cautions.for_step(kind))),
        parts=joint.parts,
        joint=joint.id,
        deed="joint",
        doubts=doubts(joint.checks),
    )


def _last_steps(made: Made, joints: tuple[JointPlan, ...], together: TogetherResult | None) -> list[Step]:
    if together is None:
        return []
    steps = []
    before = (
        *(f"cut {p.id}" for p in made.parts),
        *(f"joint {j.id}" for j in joints),
    )
    failing = doubts(together.checks)
    first = next((i for i, act in enumerate(together.order) if act.kind == "glue"), 0)  # where it is told and asked
    for i, act in enumerate(together.order):
        figure, mm = ("", None)
        if act.figure == "diagonals":
            figure, mm = told_figure(together.diagonal), together.diagonal
        steps.append(
            Step(
                f"together {made.prefix}{act.deed}",
                "together",
                ACTS[act.kind],
                act.words,
                figure,
                mm,
                waits=before,
                minutes=0 if act.kind == "dry" else 10,
                cautions=cautions.for_step(act.kind) if act.kind in ("glue", "nail") else (),
                deed="together",
                doubts=failing if i == first else (),
            )
        )
        before = (steps[-1].id,)
    woods = {p.species for p in made.parts}
    steps.append(
        Step(
            named_deed("finish", "", made.id),
            "together",
            "Clean up and finish",
            "Plane the ends flush, ease the arrises, finish inside and out alike.",
            waits=before,
            minutes=40,
            cautions=cautions.for_step("finish", tuple(sorted(woods))),
            deed="finish",
        )
    )
    return [*steps, *_use_step(made, steps[-1].id)]


def _use_step(made: Made, after: str) -> list[Step]:
    """What is to be heeded where the piece is put to use, for a kind that says so."""
    kind = KINDS.get(made.piece.kind)
    if kind is None or kind.use is None or not isinstance(made.piece, Designed):
        return []
    use = kind.use(kind.answers(made.piece.asked))
    name = named_deed("use", "", made.id)
    return [Step(name, "together", use.title, use.words, waits=(after,), minutes=20, cautions=use.cautions, deed="use")]
