"""The calls of break-down: which of the layouts found is taken, and which offcut would take a part again."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.document.calls import Call, Change, Option, some
from nullah.core.document.project import Board, Project
from nullah.core.layout.merit import apart, merit
from nullah.core.layout.model import Blank, Layout, leaves
from nullah.core.layout.recut import not_again
from nullah.core.layout.saw import Totals, saw_plan, totals
from nullah.core.pieces.part import Part
from nullah.core.stations.breakdown import BreakdownResult, accept, outline_of
from nullah.core.stations.short_of_wood import asked_how, what_is_short
from nullah.core.values.frozen import replace
from nullah.core.values.measure import at_least, marked


def layout_call(
    result: BreakdownResult,
    found: tuple[Layout, ...],
    better_too: bool = False,
    called: Callable[[str], str] = str,
    ways: Callable[[Sequence[Blank]], tuple[Option, ...]] = lambda _: (),
) -> Call | None:
    """The call that offers new layouts, from what a search found; None where the accepted one serves and none is new.

    Args:
        better_too: a better one was looked for, and is offered though the accepted one serves.
        called: what a part or a group of an id is called.
        ways: how parts for which there is no place could come to wood.
    """
    if not result.blanks or not found:
        return None
    sooner = result.layout is not None and not result.problems and better_too
    if sooner:
        found = better_than(result, found)
        if not found:
            return None
    elif result.layout is not None and not result.changed and not _mended_by(found[0], result):
        return None
    options = [_offer(one, result, called) for one in found]
    if result.layout is not None:
        held = result.problems[:3] or ("every part still lies clear and large enough",)
        options.append(Option("keep", "keep the layout as it is", held, _keep(result.request.fingerprint)))
    serves = result.layout is not None and not result.problems
    recommended = options[0].id if sooner or not serves else "keep"
    if result.layout is None:
        question = "Nothing is laid on the boards yet. Which way is it sawn?"
    elif result.problems:
        question = (
            f"The layout no longer holds: {result.problems[0][0].lower()}{result.problems[0][1:-1]}. Lay out again?"
        )
    elif sooner:
        question = "There is a way with less sawing or better left over. Take it?"
    else:
        question = "Boards or parts changed since the layout was taken; it still holds. Lay out again?"
    if found[0].unplaced:
        without = {p for p, _ in found[0].unplaced}
        short = [b for b in result.blanks if b.id in without]
        out = ways(short)
        if result.layout is None:
            question = f"{what_is_short(short, result.stock, called)} {asked_how(out)}"
        options += out
    return Call(
        "layout",
        "breakdown",
        question,
        tuple(options),
        recommended,
        "what is marked on the boards stays good" if serves and not sooner else _why(found[0], called),
        result.request.fingerprint,
        differ="Crosscut first is short and easy; a rip first can save an offcut that a crosscut would ruin.",
        parts=tuple(b.id for b in result.blanks),
    )


def better_than(result: BreakdownResult, found: tuple[Layout, ...]) -> tuple[Layout, ...]:
    """Of layouts found, those that come to clearly less than the accepted one: at least a hundredth."""
    if result.layout is None:
        return found
    request, layout = result.request, result.layout
    now = Layout(
        layout.name, layout.boards, tuple((p, "") for p in layout.unplaced if any(b.id == p for b in request.blanks))
    )
    mine = merit(now, request.stock, request.blanks, request.options)

    def gains(one: Layout) -> bool:
        m = merit(one, request.stock, request.blanks, request.options)
        less = m.cost < mine.cost - 0.01 * abs(mine.cost)
        return m.without < mine.without - 1.0 or (m.without < mine.without + 1.0 and m.split <= mine.split and less)

    return tuple(one for one in found if gains(one))


def _mended_by(best: Layout, result: BreakdownResult) -> bool:
    """Whether a fresh layout would mend anything: a part known to have no place still has none, and needs no asking again."""
    known = {f"{part} has no place." for part in (result.layout.unplaced if result.layout else ())}
    return bool(set(result.problems) - known) or len(best.unplaced) < len(known)


def with_recut_stock(call: Call, part: Part | None, result: BreakdownResult, boards: tuple[Board, ...]) -> Call:
    """A conflict call whose *recut* option says which offcut would take the part again, if one does."""
    if part is None:
        return call
    names = {b.id: b for b in boards}
    length, width, thickness = part.planned
    fits = [
        (n.length * n.width, b, n)
        for b, n in result.offcuts
        if b in names
        and names[b].species == part.species
        and outline_of(names[b]).takes((n.x, n.y, n.length, n.width), length, width)
        and at_least(names[b].thickness, thickness)
    ]
    if fits:
        _, board, node = min(fits, key=lambda f: f[0])
        words = f"the offcut {marked(node.length)} x {marked(node.width)} of {names[board].name} takes it"
    else:
        words = f"no offcut of {part.species} takes it: other stock is wanted"
    options = tuple(replace(o, consequences=(*o.consequences, words)) if o.id == "recut" else o for o in call.options)
    return replace(call, options=options)


def _without(layout: Layout, called: Callable[[str], str]) -> list[str]:
    """What has no place in a layout and why, those together for which the reason is the same."""
    because: dict[str, list[str]] = {}
    for part, why in layout.unplaced:
        because.setdefault(why, []).append(called(part))
    return [f"{some(names)}: {why}" for why, names in because.items()]


def _why(best: Layout, called: Callable[[str], str]) -> str:
    if best.unplaced:
        part, why = best.unplaced[0]
        return f"it places the most; {called(part)}: {why}"
    return "every part has a place" + ("" if best.split_groups else ", the four sides in sequence from one length")


def _offer(one: Layout, result: BreakdownResult, called: Callable[[str], str]) -> Option:
    saw = saw_plan(one.boards, result.sawing.boards)
    sums = totals(saw)
    off = [n for b in one.boards for n in leaves(b.root) if n.use == "offcut"]
    most = max(off, key=lambda n: n.length * n.width, default=None)
    said = [_sawing_said(sums, len(one.boards), result.rates.minutes(saw))]
    if most is not None:
        said.append(f"largest offcut {marked(most.length)} x {marked(most.width)}")
    if one.split_groups:
        said.append("the sides do not come from one length: the figure will not run round")
    said += [f"{called(group)} come from {len(on)} boards" for group, on in apart(one, result.blanks).items()]
    said += _without(one, called)
    if not one.unplaced:
        said.append(_recut_said(one, result, called))
    new = accept(one, result.request.fingerprint, result.sawn)

    def change(project: Project) -> Project:
        return project.model_copy(update={"layout": new})

    return Option(one.name, one.name, tuple(said), change)


def _recut_said(one: Layout, result: BreakdownResult, called: Callable[[str], str]) -> str:
    """What could be cut once more from what is left over."""
    short = [b.id for b in not_again(one, result.stock, result.blanks)]
    if not short:
        return "any part could be cut again from what is left"
    if len(short) == len(result.blanks):
        return "nothing is left to cut a part again from"
    return f"what is left would not give {', '.join(called(p) for p in short[:4])}{' and others' if len(short) > 4 else ''} again"


def _sawing_said(sums: Totals, boards: int, minutes: float) -> str:
    """What sawing comes to, in words."""
    return (
        f"{boards} board{'s' if boards != 1 else ''}, {sums.cuts} cuts: {sums.across_m:.1f} m across, {sums.along_m:.1f} m along, "
        f"about {minutes:.0f} minutes"
    )


def _keep(fingerprint: str) -> Change:
    def change(project: Project) -> Project:
        if project.layout is None:
            return project
        return project.model_copy(update={"layout": project.layout.model_copy(update={"fingerprint": fingerprint})})

    return change
