"""Parts that share wood, or have lost the play between them, since one of them came out otherwise: what is asked about each."""

from __future__ import annotations

from collections.abc import Mapping

from nullah.core.document.calls import Call, Change, Option, some, taken
from nullah.core.document.names import bare, call_of
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Choice, Project
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.look import DIMENSIONS
from nullah.core.stations.made import Made, PieceResult
from nullah.core.stations.piece_changes import put
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, marked


@frozen
class Clash:
    """Two parts of a piece, by the project's names, that share wood ``deep`` mm along an axis of the piece (0, 1, 2), or where that is
    none have lost the ``play`` there was between them as planned, mm."""

    one: str
    other: str
    axis: int
    deep: float
    play: float = 0.0


@frozen
class Looked:
    """What was found of a piece as it was worked out: it holds for as long as these are the same objects."""

    made: Made
    joints: tuple[JointPlan, ...]
    clashes: tuple[Clash, ...]


def calls(
    looked: Mapping[str, Looked],
    piece: PieceResult,
    joints: Mapping[str, tuple[JointPlan, ...]],
    choices: tuple[Choice, ...],
) -> tuple[Call, ...]:
    """A call for each clash found of the pieces as they are now."""
    found = []
    for made in piece.made:
        one = looked.get(made.id)
        if one is not None and one.made is made and one.joints is joints[made.id]:
            found += [_call(sides, clashes, made, piece, choices) for sides, clashes in _together(one.clashes)]
    return tuple(found)


def _together(clashes: tuple[Clash, ...]) -> list[tuple[tuple[tuple[str, ...], tuple[str, ...]], list[Clash]]]:
    """Clashes along one axis that hang together, each lot with the parts on either side of it; what has no two sides by itself."""
    left, found = list(clashes), []
    while left:
        lot = [left.pop(0)]
        side = {lot[0].one: 0, lot[0].other: 1}
        for clash in [c for c in left if c.axis == lot[0].axis and bool(c.deep) == bool(lot[0].deep)] * 2:
            known = {p: side[p] for p in (clash.one, clash.other) if p in side}
            if clash not in left or not known or len(set(known.values())) != len(known):
                continue
            for part, mate in ((clash.one, clash.other), (clash.other, clash.one)):
                if part not in side:
                    side[part] = 1 - side[mate]
            lot.append(clash)
            left.remove(clash)
        sides = tuple(p for p, n in side.items() if n == 0), tuple(p for p, n in side.items() if n == 1)
        found.append((sides, lot))
    return found


def _call(
    sides: tuple[tuple[str, ...], tuple[str, ...]],
    clashes: list[Clash],
    made: Made,
    piece: PieceResult,
    choices: tuple[Choice, ...],
) -> Call:
    a, b = (some([piece.spoken(p) for p in side]) for side in sides)
    most = max(clashes, key=lambda c: (c.deep, c.play))
    if not most.deep:
        question = f"Between {a} and {b} there were {marked(most.play)} of play; now they touch. What gives way?"
    else:
        question = (
            f"{a[:1].upper()}{a[1:]} would stand {marked(most.deep)} in {b}: both cannot be there. What gives way?"
        )
    measured = {p.id for p in made.parts if p.measured}
    in_turn = sorted(sides, key=lambda side: not measured.intersection(side))  # what came out otherwise first
    options = [o for side in in_turn if (o := _way(side, clashes, made, piece)) is not None]
    options.append(
        Option("leave", "settle it as they are fitted", ("nothing is changed here; both are tried in place",))
    )
    asked = f"{most.deep:.1f} {most.play:.1f} {len(clashes)}"
    call_id = call_of(f"clash {most.axis} {bare(sides[0][0], made.id)}", sides[1][0], made.id)
    return Call(
        call_id,
        "piece",
        question,
        tuple(options),
        options[0].id,
        "what came out otherwise than planned is brought to the plan, where wood can still come off it",
        asked,
        parts=(*sides[0], *sides[1]),
        taken=taken(call_id, tuple(options), asked, choices),
        piece=made.id,
    )


def _way(side: tuple[str, ...], clashes: list[Clash], made: Made, piece: PieceResult) -> Option | None:
    """How the parts on one side may give way: by their size along the axis, where that is square to the piece and none is cut."""
    if made.worked is None or not isinstance(made.piece, Designed):
        return None
    placed = {f"{made.prefix}{p.id}": p for p in made.stands(())}
    changes, told = [], []
    sizes: dict[tuple[str, str], float] = {}
    for name in side:
        part, stands = next((p for p in made.parts if p.id == name), None), placed.get(name)
        mine = [c for c in clashes if name in (c.one, c.other)]
        if part is None or stands is None or part.cut:
            return None
        lies = next((k for k in range(3) if abs(stands.axes[k][mine[0].axis]) > 0.999), None)
        less = max(c.deep + c.play for c in mine)
        if lies is None or part.sizes[lies] - less <= 0:
            return None
        what, mm = DIMENSIONS[lies], round(part.sizes[lies] - less, 2)
        words = {"length": "shorten", "width": "narrow", "thickness": "thin"}[what]
        sizes[name.removeprefix(made.prefix), what] = mm
        told.append(f"{words} {piece.spoken(name)} from {marked(part.sizes[lies])} to {marked(mm)}")
        changes.append(
            _measured_less(made, name, what, mm) if what in part.measured else _smaller(made, name, what, mm)
        )

    if not _mended(made, sizes, clashes):
        return None

    def change(project: Project) -> Project:
        for one in changes:
            project = one(project)
        return project

    label = told[0] if len(told) == 1 else f"{told[0]}, and {len(told) - 1} more with it"
    return Option(f"less {side[0]}", label, (*told[1:4], "what hangs on it follows"), change)


def _mended(made: Made, sizes: Mapping[tuple[str, str], float], clashes: list[Clash]) -> bool:
    """Whether with these sizes, by part and dimension, the parts that clash stand apart: all is reckoned anew."""
    assert made.worked is not None
    try:
        anew = made.worked.sizes.otherwise(sizes)
        boxes = {name: anew.placed(name.removeprefix(made.prefix)).box for c in clashes for name in (c.one, c.other)}
    except ValueError:  # something else comes to nothing
        return False
    pairs = [(boxes[c.one], boxes[c.other]) for c in clashes]
    return all(any(min(a[1][k], b[1][k]) - max(a[0][k], b[0][k]) < SAME for k in range(3)) for a, b in pairs)


def _smaller(made: Made, name: str, what: str, mm: float) -> Change:
    return put(made.id, ((name.removeprefix(made.prefix), what, round(mm, 2)),))


def _measured_less(made: Made, name: str, what: str, mm: float) -> Change:
    """A part that is measured: it is so much once it is planed, and taken to be so from now on."""

    def change(project: Project) -> Project:
        mark = (bare(name, made.id), what)
        measured = tuple(
            m.model_copy(update={"value": round(mm, 2)}) if (m.part, m.dimension) == mark else m
            for m in project.of_piece(made.id).marks.measured
        )
        return project.with_marks(made.id, measured=measured)

    return change
