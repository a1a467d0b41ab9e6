"""Which joints suit two parts: each family tried between them, with what it comes to; those that do not suit say why."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from nullah.core import piece_edits
from nullah.core.document import Project
from nullah.core.document_pieces import prefix
from nullah.core.drawing import Drawing
from nullah.core.edit import BadEdit
from nullah.core.frozen import frozen
from nullah.core.joints.families import FAMILIES
from nullah.core.joints.family import Family, own_axis
from nullah.core.pictures.in_hand import box_round, shown
from nullah.core.pictures.patches import drawn
from nullah.core.plan import Plan, PlanCache, plan
from nullah.core.shapes.cut import WAYS, Placed
from nullah.core.shapes.seen import looking

TURN, TILT = 28.0, 27.0  # degrees: how the picture of a joint is looked at
APART = 0.35  # of the smaller part's length that the two are drawn apart, at the most
MOST_APART = 90.0  # mm
NEAR = 60.0  # mm between two parts that may still be joined: what a joint reaches is not there yet
AT_EDGE = 1.0  # mm from an edge that a part lies at it still
AT_AN_EDGE = ("rabbet", "nailed_rabbet", "through_dovetail")
LEAST_ACROSS = 1.0  # mm that two parts lie opposite each other, to meet


Ends = tuple[tuple[float, ...], tuple[float, ...]]  # the low and the high corner of a part


@frozen
class Way:
    """A family between two parts. ``why_not`` is empty where it suits; then it has a picture of both parts apart, minutes at the bench,
    the tools that are set for it, and what of it would not hold."""

    family: str
    title: str
    about: str
    strength: str
    season: str
    why_not: str = ""
    drawing: Drawing = Drawing()
    minutes: float = 0.0
    tools: tuple[str, ...] = ()
    fails: tuple[str, ...] = ()


def between(now: Plan, first: str, second: str) -> str:
    """The way that the first part looks towards the second, of the six; both by the project's names.

    Raises:
        BadEdit: they are one, or lie opposite each other nowhere near.
    """
    if first == second:
        raise BadEdit("A joint is of two parts: point at another one.")
    boxes = _boxes(now)
    if first not in boxes or second not in boxes:
        raise BadEdit("One of these parts is not there.")
    way = _way(boxes[first], boxes[second])
    if not way:
        raise BadEdit("These two do not meet: move one of them to the other first.")
    return way


def meets(now: Plan, first: str) -> tuple[str, ...]:
    """The parts that a part meets, by the project's names."""
    boxes = _boxes(now)
    return tuple(p for p in boxes if p != first and _way(boxes[first], boxes[p])) if first in boxes else ()


def _boxes(now: Plan) -> dict[str, Ends]:
    made = now.piece.in_hand
    return {f"{made.prefix}{p.id}": _box(p) for p in made.stands(now.joints.of_piece[made.id])}


def _way(one: Ends, other: Ends) -> str:
    (low, high), (low2, high2) = one, other
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
    for family in FAMILIES.values():
        if family.home:
            yield _tried(project, now, cache, family, first, second, way)


def _unsuited(family: str, first: Placed, second: Placed, way: str, called: str) -> str:
    """Why a family is not for two parts though it could be cut: it is by the grain, or by where on the other part it lies."""
    across = next(k for k in range(3) if WAYS[way][k])
    (low, high), (low2, high2) = _box(first), _box(second)
    laps = {k: min(high[k], high2[k]) - max(low[k], low2[k]) for k in range(3) if k != across}
    run = max(laps, key=lambda k: laps[k])
    (beside,) = (k for k in laps if k != run)
    grain = next(k for k in range(3) if abs(second.axes[0][k]) > 0.5)
    if family in ("dado", "groove", "rabbet") and grain == across:
        return f"It would be sunk into the end of {called}: end grain holds nothing so."
    if family == "dado" and grain == run:
        return f"It would run along the grain of {called}: that is a groove."
    if family == "groove" and grain != run:
        return f"It would run across the grain of {called}: that is a dado."
    if family in AT_AN_EDGE and low[beside] - low2[beside] > AT_EDGE and high2[beside] - high[beside] > AT_EDGE:
        return f"It lies away from the edges and ends of {called}: there is nothing to go over."
    if family == "edge_joint" and any(own_axis(p, way)[0] != 1 for p in (first, second)):
        return "They do not meet edge to edge."
    return ""


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


def _tried(project: Project, now: Plan, cache: PlanCache, family: Family, first: str, second: str, way: str) -> Way:
    told = Way(family.name, family.name.replace("_", " "), family.about, family.strength, family.season)
    hand = now.piece.in_hand
    stands = {f"{hand.prefix}{p.id}": p for p in hand.stands(now.joints.of_piece[hand.id])}
    names = {p.id: p.name for p in hand.parts}
    why_not = _unsuited(family.name, stands[first], stands[second], way, names[second])
    if why_not:
        return replace(told, why_not=why_not)
    try:
        after = join(project, now, family.name, first, second, way)
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
    return Drawing(tuple(drawn(alone, looking(TURN, TILT), shaded=True)), "the two parts apart")


def _box(part: Placed) -> Ends:
    corners = [
        part.at((x, y, z)) for x in (0.0, part.size[0]) for y in (0.0, part.size[1]) for z in (0.0, part.size[2])
    ]
    return tuple(min(c[k] for c in corners) for k in range(3)), tuple(max(c[k] for c in corners) for k in range(3))
