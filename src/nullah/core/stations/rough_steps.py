"""Steps from the boards as found to pieces in the rough: wood chosen, boards planed whole where that is wanted, cuts, settling."""

from __future__ import annotations

from nullah.core.document.project import Board
from nullah.core.layout.saw import SawCut
from nullah.core.stations import cautions
from nullah.core.stations.breakdown import Sawing
from nullah.core.stations.job import WOOD, Job
from nullah.core.stations.rates import SETTING_UP
from nullah.core.stations.step import Step, told_figure
from nullah.core.stations.true_steps import planing_minutes
from nullah.core.values.measure import marked


def steps(job: Job) -> list[Step]:
    """In order: wood, boards that wait before they are planed whole, boards planed whole, cuts, what waits in the rough."""
    out = _wood(job)
    whole = [b for b in job.laid_on if b in job.trueup.planed_whole]
    out += [_wait(b, job, ()) for b in whole if job.as_made.waits(b)]
    out += [_plane_whole(b, job) for b in whole]
    out += job.cuts
    for b in job.laid_on or tuple(job.by_id):
        if job.as_made.waits(b) and b not in whole:
            out.append(_wait(b, job, tuple(s.id for s in job.cuts if s.saws == b)))
    return out


def _wood(job: Job) -> list[Step]:
    """What is to be done before anything else while parts have no wood."""
    short = job.without_wood
    if not short:
        return []
    named = ", ".join(map(job.piece.called, short[:6])) + (" and others" if len(short) > 6 else "")
    if not job.boards:
        station, words = "timber", "No board is entered yet: say under Timber what boards there are, with their faults."
    elif job.breakdown.layout is None:
        station, words = "breakdown", "Nothing is laid on the boards yet: take a layout under Break-down."
    else:
        station, words = (
            "breakdown",
            f"{named} {'has' if len(short) == 1 else 'have'} no place on these boards: see Break-down.",
        )
    return [Step(WOOD, station, "Choose the wood", words, parts=short, doubts=(words,))]


def _wait(board: str, job: Job, after: tuple[str, ...]) -> Step:
    call, days = job.as_made.calls[board], job.as_made.days[board]
    where = "the pieces sawn from it" if after else "it"
    return Step(
        call.id,
        "timber",
        f"Let {job.by_id[board].name} settle",
        f"{call.question.partition(' Wait?')[0]} Stack {where} on stickers in the room, read again in {days} days.",
        figure=f"{days} days",
        waits=after,
    )


def _plane_whole(board: str, job: Job) -> Step:
    t = job.trueup.of(board)
    assert t is not None, "a board that is planed whole is a board"
    to = min(t.planing.wanted, t.whole)
    return Step(
        f"plane {board}",
        "trueup",
        f"Plane {job.by_id[board].name} whole",
        f"Before it is sawn: face side flat, then gauge {marked(to)} thick all round and plane the back to it.",
        told_figure(to),
        to,
        waits=(f"damp {board}",) if job.as_made.waits(board) else (),
        minutes=planing_minutes(t, job.by_id[board].species),
        cautions=cautions.for_step("true up", (job.by_id[board].species,)),
        parts=(board,),
    )


def cut_steps(boards: tuple[Board, ...], sawing: Sawing, planed_whole: frozenset[str]) -> tuple[Step, ...]:
    """The steps of the saw, in order; boards ``planed_whole`` are planed before."""
    by_id = {b.id: b for b in boards}
    out = []
    for cut in sawing.cuts:
        name = sawing.after[cut.name]
        first = (f"plane {cut.board}",) if cut.board in planed_whole else ()
        out.append(_cut(cut, by_id[cut.board], (name,) if name else first))
    return tuple(out)


def _cut(cut: SawCut, board: Board, waits: tuple[str, ...]) -> Step:
    planed = cut.kind == "plane"
    words = f"{cut.words[:1].upper()}{cut.words[1:]}; {cut.side}. Hold {cut.hold}."
    return Step(
        cut.name,
        "breakdown",
        f"Cut {cut.number}: {cut.kind} {'an edge of ' if planed else ''}{board.name}",
        words,
        told_figure(cut.at),
        cut.at,
        waits=waits,
        minutes=SETTING_UP + cut.minutes,
        cautions=cautions.for_step("true up" if planed else "break down", (board.species,), board.stock == "reclaimed"),
        saws=cut.board,
    )
