"""Steps from pieces in the rough to parts of their thickness, and sides shot to length."""

from __future__ import annotations

from nullah.core.pieces.part import Part
from nullah.core.stations import cautions, made_up
from nullah.core.stations.as_made import SHEETS
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.job import Job
from nullah.core.stations.rough import CLEANING, OVER_THICK, resawing
from nullah.core.stations.step import Step, told_figure
from nullah.core.stations.trued import Trued
from nullah.core.values.measure import marked
from nullah.core.wood.species import species

SQUARE_METRE_PLANED = (
    60.0  # minutes a square metre and millimetre in middling wood (common practice; the log replaces it)
)


def planing_minutes(t: Trued, wood: str) -> float:
    """Minutes of planing something flat and to thickness, or its working face alone flat."""
    area = t.length * t.width / 1e6
    off = t.planing.flat.mean + max(0.0, t.planing.spare)
    return 4 + t.ways.share * area * SQUARE_METRE_PLANED * off * species(wood).slower


def steps(job: Job) -> list[Step]:
    """Each piece trued once it is free and has settled; leaves, panels glued up; sides to length."""
    out = [_true(t, job) for t in job.trueup.parts]
    out += made_up.steps(job)
    for part in job.piece.parts:
        if not part.fitted:
            out.append(
                Step(
                    f"cut {part.id}",
                    "trueup",
                    f"Saw and shoot {part.name} to length",
                    f"Both ends square; {marked(part.length)} long, {marked(part.width)} wide. "
                    "Once done, these sizes are the wood's.",
                    told_figure(part.length),
                    part.length,
                    waits=job.to_thickness(part.id),
                    minutes=8,
                    cautions=cautions.for_step("shoot"),
                    parts=(part.id,),
                    cuts=part.id,
                    piece=part.piece,
                    deed="cut",
                )
            )
    return out


SHEET_MINUTES = 4.0  # to look a part of sheet goods over (common practice, no source)


def _looked_over(t: Trued, part: Part, job: Job) -> Step:
    """A part of sheet goods is not planed: it is looked over and measured."""
    layers = job.by_id[t.board].stock == "plywood"
    words = (
        f"Sheet goods are not planed: square two edges, then {marked(part.width)} wide. Measure its thickness wherever a dado or a "
        "groove takes it, and cut that to what is measured"
        + (
            ", since layers vary and may have voids: look for them at the edges. Veneer, if any, goes on both faces alike, or it bows."
            if layers
            else ". Keep it from damp, which ruins it."
        )
    )
    return Step(
        f"true {t.id}",
        "trueup",
        f"Look over {t.name}",
        words,
        told_figure(part.width),
        part.width,
        waits=job.waits_for_wood(t.id),
        minutes=SHEET_MINUTES,
        cautions=cautions.for_step("shoot"),
        parts=(t.id,),
        piece=part.piece,
        deed="true",
    )


def _true(t: Trued, job: Job) -> Step:
    part = job.parts[t.part]
    if t.board in job.by_id and job.by_id[t.board].stock in SHEETS:
        return _looked_over(t, part, job)
    x, _, most = t.planing.highest()
    words = _what_to_true(t, part, job.breakdown, t.board in job.trueup.planed_whole)
    if most > 0.05 and not t.measured and t.board not in job.trueup.planed_whole:
        passes = t.planing.shavings(job.trueup.face_plane.shaving)
        words += (
            f" Most comes off near {marked(x - t.planing.x[0])} from the left end: {marked(most, unit=' mm')}, "
            f"{passes} shaving{'s' if passes != 1 else ''} of the {job.trueup.face_plane.name}."
        )
    words += _leaf_told(t, part, job)
    return Step(
        f"true {t.id}",
        "trueup",
        f"True up {t.name}",
        words,
        told_figure(t.planing.wanted),
        t.planing.wanted,
        waits=job.waits_for_wood(t.id),
        minutes=planing_minutes(t, part.species),
        cautions=cautions.for_step("true up", (part.species,)),
        parts=(t.id,),
        piece=part.piece,
        deed="true",
    )


LEAST_LEAF = 6.0  # mm: a thinner leaf is of little use (common practice, no source)


def _leaf_told(t: Trued, part: Part, job: Job) -> str:
    """What is planed away where a leaf could be sawn off in its place, and what that saves; nothing where none would come of it."""
    if t.leaves > 1 or t.measured:
        return ""
    leaf = t.planing.spare - job.breakdown.options.rip_kerf - 2 * CLEANING
    if leaf < LEAST_LEAF:
        return ""
    area, minutes = resawing(part, t.width, 1)
    return (
        f" {marked(t.planing.spare)} goes to shavings so; a leaf {marked(leaf)} thick could be sawn off first: {area:.2f} m2 of "
        f"resawing, about {minutes:.0f} minutes."
    )


def _what_to_true(t: Trued, part: Part, breakdown: BreakdownResult, planed: bool) -> str:
    """What is made true of a part, of a stave that is still to be jointed, or of a piece that is still to be resawn."""
    if t.leaves > 1:
        return f"Both faces flat, one edge square; {marked(t.planing.wanted)} thick, to be resawn into {t.leaves}."
    if part.id in breakdown.rough.staves:
        over = t.planing.wanted - part.thickness
        more = f" ({marked(over)} over, until the panel is levelled)" if over > OVER_THICK / 2 else ""
        return (
            f"Face side flat; then gauge {marked(t.planing.wanted)} thick{more}. Its edges are jointed with its mates'."
        )
    if t.measured:
        return f"It measures {marked(part.thickness)} thick: face edge square, then gauge {marked(part.width)} wide."
    if planed:
        return f"Its faces are flat already: face edge square; then gauge {marked(part.width)} wide and {marked(part.thickness)} thick."
    if t.ways.working_face:
        return (
            f"Face side flat, face edge square; then gauge {marked(part.width)} wide. The other face stays as it comes."
        )
    return f"Face side flat, face edge square; then gauge {marked(part.width)} wide and {marked(part.thickness)} thick."
