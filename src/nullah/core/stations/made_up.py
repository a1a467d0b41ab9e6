"""Steps that make a part whole out of what is sawn: resawing into leaves, gluing panels up from staves."""

from __future__ import annotations

from nullah.core.stations import cautions
from nullah.core.stations.job import Job
from nullah.core.stations.rough import CLEANING, resawing
from nullah.core.stations.step import Step, told_figure
from nullah.core.values.measure import marked

LEVELLED = 90.0  # minutes a square metre of panel takes to level on both faces (common practice; the log replaces it)


def steps(job: Job) -> list[Step]:
    """Resawing into leaves; gluing panels up from staves, letting the glue dry, levelling them to thickness."""
    out, rough = [], job.breakdown.rough
    trued = {t.id for t in job.trueup.parts}
    for name, leaves in rough.leaves.items():
        if name not in trued:
            continue  # it has no wood yet
        part = job.parts[rough.gives[name][0]]
        wide = rough.staves.get(part.id, (part.width,))[0]  # leaves of a panel are its staves
        each = rough.leaf_thickness(name, part.thickness)
        out.append(
            Step(
                f"resaw {name}",
                "trueup",
                f"Resaw {name} into {leaves} leaves",
                f"Gauge {marked(each + CLEANING)} from each face all round, saw down the line from corner to corner, "
                f"turning the piece end for end; the sawn faces are planed off to {marked(each)}. Lay the leaves on "
                "stickers overnight: freed wood moves.",
                told_figure(each + CLEANING),
                each + CLEANING,
                waits=(f"true {name}",),
                minutes=5 + resawing(part, wide, leaves - 1)[1],
                cautions=cautions.for_step("break down", (part.species,)),
                parts=(name,),
                piece=part.piece,
                deed="resaw",
            )
        )
    for part_id, widths in rough.staves.items():
        if part_id not in job.without_wood:
            out += _glued_up(part_id, widths, job)
    return out


def _glued_up(part_id: str, widths: tuple[float, ...], job: Job) -> list[Step]:
    rough, part = job.breakdown.rough, job.parts[part_id]
    mine = rough.of(part_id)
    kind = "leaves" if any(b in rough.leaves for b in mine) else "staves"
    return [
        Step(
            f"glue up {part_id}",
            "trueup",
            f"Glue up {part.name} from {len(widths)} {kind}",
            f"Shoot the edges in pairs, face sides together, so that errors cancel; {_lying(part_id, job)} "
            "Spread, close with clamps above and below by turns about every 100, check flat across. "
            f"{' + '.join(marked(w) for w in widths)} finished.",
            f"{len(widths)} {kind}",
            waits=tuple(f"resaw {b}" if b in rough.leaves else f"true {b}" for b in mine),
            minutes=15 + 12 * (len(widths) - 1),
            cautions=cautions.for_step("glue"),
            parts=(part_id,),
            piece=part.piece,
            deed="glue up",
        ),
        Step(
            f"dry {part_id}",
            "trueup",
            f"Let the glue of {part.name} dry",
            "Leave it in the clamps as the glue's label says, then a day on edge: the glue line swells and shrinks again.",
            "a day",
            waits=(f"glue up {part_id}",),
            parts=(part_id,),
            piece=part.piece,
            deed="dry",
        ),
        Step(
            f"level {part_id}",
            "trueup",
            f"Level {part.name}",
            f"Glue off; face side flat, then gauge {marked(part.thickness)} thick and plane the other to it.",
            told_figure(part.thickness),
            part.thickness,
            waits=(f"dry {part_id}",),
            minutes=6 + part.length * part.width / 1e6 * LEVELLED,
            cautions=cautions.for_step("true up", (part.species,)),
            parts=(part_id,),
            piece=part.piece,
            deed="level",
        ),
    ]


def _lying(part: str, job: Job) -> str:
    """How its staves lie side by side, or its leaves opened like a book."""
    if any(b in job.breakdown.rough.leaves for b in job.breakdown.rough.of(part)):
        return "the two faces the saw parted lie up, mirrored about the joint."
    return job.arranged.get(part, "lay the rings of neighbours opposite ways where they lie flat.")
