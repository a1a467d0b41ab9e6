"""Which joints suit two parts: each family tried between them, with what it comes to; those that do not suit say why."""

from __future__ import annotations

import re
from collections.abc import Iterator

from nullah.core.document.names import prefix
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Drawing
from nullah.core.edits import piece_edits
from nullah.core.edits.edit import BadEdit
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.family import Joins, Meeting
from nullah.core.pictures import standing
from nullah.core.pictures.in_hand import box_round, shown
from nullah.core.pictures.patches import drawn
from nullah.core.planning.plan import Plan, PlanCache, plan
from nullah.core.shapes.cut import WAYS, Placed
from nullah.core.shapes.seen import looking
from nullah.core.stations.piece import shop_of
from nullah.core.values.frozen import frozen, replace

APART = 0.35  # of the smaller part's length that the two are drawn apart, at the most
MOST_APART = 90.0  # mm
NEAR = 60.0  # mm between two parts that may still be joined: what a joint reaches is not there yet
LEAST_ACROSS = 1.0  # mm that two parts lie opposite each other, to meet


@frozen
class Way:
    """A family between two parts. ``why_not`` is empty where it suits; then it has a picture of both parts apart, minutes at the bench,
    the tools that are set for it, those that are not at hand, and what of it would not hold."""

    family: str
    title: str
    about: str
    joins: Joins
    why_not: str = ""
    drawing: Drawing = Drawing()
    minutes: float = 0.0
    tools: tuple[str, ...] = ()
    lacking: tuple[str, ...] = ()
    fails: tuple[str, ...] = ()


def between(now: Plan, first: str, second: str) -> str:
    """The way that the first part looks towards the second, of the six; both by the project's names.

    Raises:
        BadEdit: they are one, or lie opposite each other nowhere near.
    """
    if first == second:
        raise BadEdit("A joint is of two parts: point at another one.")
    stands = _stands(now)
    if first not in stands or second not in stands:
        raise BadEdit("One of these parts is not there.")
    way = _way(stands[first], stands[second])
    if not way:
        raise BadEdit("These two do not meet: move one of them to the other first.")
    return way


def meets(now: Plan, first: str) -> tuple[str, ...]:
    """The parts that a part meets, by the project's names."""
    stands = _stands(now)
    return tuple(p for p in stands if p != first and _way(stands[first], stands[p])) if first in stands else ()


def _stands(now: Plan) -> dict[str, Placed]:
    """The parts of the piece in hand where they stand, by the project's names."""
    made = now.piece.in_hand
    return {f"{made.prefix}{p.id}": p for p in made.stands(now.joints.of_piece[made.id])}


def _way(one: Placed, other: Placed) -> str:
    """The way one part looks towards another; "" where they do not meet."""
    (low, high), (low2, high2) = one.box, other.box
    found: list[tuple[float, str]] = []
    for way, vector in WAYS.items():
        axis = next(k for k in range(3) if vector[k])
        others = [k for k in range(3) if k != axis]
        if any(min(high[k], high2[k]) - max(low[k], low2[k]) < LEAST_ACROSS for k in others):
            continue
        gap = low2[axis] - high[axis] if vector[axis] > 0 else low[axis] - high2[axis]
        into = -gap / (high[axis] - low[axis])  # what its joints reach lies within the other already
        if gap <= NEAR and into < 1:
            found.append((max(gap / NEAR, into), way))
    return min(found)[1] if found else ""


def ways(project: Project, now: Plan, first: str, second: str, way: str) -> Iterator[Way]:
    """Every family that joins two parts, one after the other, since each is tried on the whole piece.

    Args:
        now: the plan of the project. way: the first part looks so towards the second.
    """
    cache = PlanCache()
    plan(project, cache)
    stands, called = _stands(now), next(p.name for p in now.piece.in_hand.parts if p.id == second)
    meeting = Meeting(stands[first], stands[second], way, called)
    for family in FAMILIES.values():
        if family.joins is not None:
            told = Way(
                family.name, family.name.replace("_", " "), family.about, family.joins, family.joins.unsuited(meeting)
            )
            yield told if told.why_not else _tried(told, project, now, cache, first, second, way)


def join(project: Project, now: Plan, family: str, first: str, second: str, way: str) -> Project:
    """The project with two parts joined by a family, in place of what joined them before.

    Raises:
        BadEdit: the piece answers alone, or there is no such part.
    """
    for name in joined_by(now, first, second):
        project = piece_edits.take_away(project, name)
    return piece_edits.add_joint(project, now, family, first, second, way)


def joined_by(now: Plan, first: str, second: str) -> tuple[str, ...]:
    """The joints between two parts, by the project's names."""
    mine = now.joints.of_piece[now.piece.in_hand.id]
    return tuple(j.id for j in mine if set(j.parts) == {first, second})


def _tried(told: Way, project: Project, now: Plan, cache: PlanCache, first: str, second: str, way: str) -> Way:
    """What a family comes to between two parts, laid out in the piece; or why it cannot be."""
    try:
        after = join(project, now, told.family, first, second, way)
    except BadEdit as error:
        return replace(told, why_not=str(error))
    name = piece_edits.added(after)
    full = f"{prefix(project.hand)}{name}"
    made = plan(after, cache)
    joint = next((j for j in made.joints.joints if j.id == full), None)
    if joint is None:
        said = next((c.question for c in made.calls if name in c.question), made.piece.problem or made.joints.problem)
        return replace(
            told, why_not=re.sub(rf"\s*{re.escape(name)} is set aside\.?", "", said) or "It cannot be laid out here."
        )
    mine = [s.minutes for s in made.bench.steps if s.joint == full]
    return replace(
        told,
        drawing=_picture(made, (first, second), way),
        minutes=sum(mine),
        tools=tuple(dict.fromkeys(s.tool for s in joint.settings)),
        lacking=told.joins.lacking(shop_of(project.kit)),
        fails=tuple(c.text for c in joint.checks if not c.holds),
    )


def _picture(made: Plan, parts: tuple[str, str], way: str) -> Drawing:
    """The two parts by themselves, the first drawn back from the second."""
    found = shown(made)
    if found is None:
        return Drawing()
    mine = tuple(b for b in found.bodies if b.part in parts)
    low, high = box_round(mine)
    by = min(MOST_APART, APART * max(b - a for a, b in zip(low, high, strict=True)))
    x, y, z = (-by * v for v in WAYS[way])
    alone = replace(found, bodies=mine, off={parts[0]: (x, y, z)}, called=dict.fromkeys(found.called, ""))
    return Drawing(
        tuple(drawn(alone, looking(standing.PLAIN.turn, standing.PLAIN.tilt), shaded=True)), "the two parts apart"
    )
