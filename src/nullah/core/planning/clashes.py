"""Parts that share wood or have lost their play, found on the solids: only pairs whose boxes meet are looked at, one at a time, so
that it can be done beside an edit."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import combinations

from nullah.core.document.project import Project
from nullah.core.marking.plan import JointPlan
from nullah.core.pictures.bodies import Body, each_of_piece
from nullah.core.planning.plan import Plan, PlanCache, plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.shared import shared_wood
from nullah.core.shapes.solid import BadSolid
from nullah.core.stations.clash_calls import Clash, Looked
from nullah.core.stations.made import Made
from nullah.core.values.measure import SAME

DEEP = 2 * SAME  # mm: two that share less lie against each other
LEAST_PLAY = 0.2  # mm between two parts as planned, from which it is play
MOST_PLAY = 6.0  # mm: more is room


def worth_a_look(made: Made) -> bool:
    """Whether anything of a piece is otherwise than its kind makes it: measured, cut, or changed by hand."""
    return any(p.measured or p.cut for p in made.parts) or bool(getattr(made.piece, "edits", ()))


def look(made: Made, joints: tuple[JointPlan, ...]) -> Iterator[Looked | None]:
    """Look at a piece, pair by pair: None after each, what was found at the end. A joint that is not laid out has cut nothing: of its
    parts nothing is said, and nothing of a piece without its joints."""
    found: list[Clash] = []
    unlaid = _not_laid(made, joints)
    bodies: list[Body] = []
    try:
        for body in each_of_piece(made, joints) if joints or not unlaid else ():
            bodies.append(body)
            yield None
    except BadSolid:  # which is told where the joint is
        bodies = []
    planned = _planned(made)
    for one, other in combinations(bodies, 2):
        if not {one.part, other.part} <= unlaid and min(_overlap(one.box, other.box)) > DEEP:
            clash = _shared(one, other, planned)
            if clash is not None:
                found.append(clash)
            yield None
    found += _lost_play(made, joints, {frozenset((c.one, c.other)) for c in found})
    yield Looked(made, joints, tuple(found))


def _not_laid(made: Made, joints: tuple[JointPlan, ...]) -> set[str]:
    """The parts of joints that cannot be laid out, by the project's names."""
    if made.worked is None:
        return set()
    laid = {j.id.removeprefix(made.prefix) for j in joints}
    aside = {name for name, _ in made.worked.aside}
    edits = getattr(made.piece, "edits", ())
    lost = [j for j in made.worked.sizes.design.joints if j.id not in laid]
    lost += [e for e in edits if getattr(e, "edit", "") == "joint" and e.id in aside]
    return {f"{made.prefix}{p}" for j in lost for p in (j.first, j.second) if p}


def with_clashes(project: Project) -> Plan:
    """The plan of a project with what clashes in it."""
    cache = PlanCache()
    now = plan(project, cache)
    looked: dict[str, Looked] = {}
    for made in now.piece.made:
        for step in look(made, now.joints.of_piece[made.id]):
            if step is not None:
                looked[made.id] = step
    return plan(project, cache, looked=looked) if any(one.clashes for one in looked.values()) else now


def _overlap(one: tuple[Point3, Point3], other: tuple[Point3, Point3]) -> tuple[float, float, float]:
    """How far two boxes reach into each other along x, y and z, mm; less than none where they lie apart."""
    x, y, z = (min(one[1][k], other[1][k]) - max(one[0][k], other[0][k]) for k in range(3))
    return x, y, z


def _planned(made: Made) -> dict[str, tuple[Point3, Point3]]:
    """The boxes of parts as they would stand were nothing measured or cut, by the project's names."""
    if made.worked is None or not (made.worked.sizes.measured or made.worked.sizes.cut):
        return {}
    return {f"{made.prefix}{p.id}": p.box for p in made.worked.sizes.placed_as_planned()}


def _shared(one: Body, other: Body, planned: Mapping[str, tuple[Point3, Point3]]) -> Clash | None:
    box = shared_wood((one.corners, one.triangles), (other.corners, other.triangles))
    if box is None:
        return None
    sizes = [high - low for low, high in zip(*box, strict=True)]
    axis = min(range(3), key=lambda k: sizes[k])
    if sizes[axis] <= DEEP:
        return None
    gap = -_overlap(planned[one.part], planned[other.part])[axis] if {one.part, other.part} <= planned.keys() else 0.0
    return Clash(one.part, other.part, axis, sizes[axis], gap if 0 < gap <= MOST_PLAY else 0.0)


def _lost_play(made: Made, joints: tuple[JointPlan, ...], known: set[frozenset[str]]) -> list[Clash]:
    """Pairs that stand apart by their play as planned, and touch as the wood came out."""
    planned = _planned(made)
    if made.worked is None or not planned:
        return []
    now = {f"{made.prefix}{p.id}": p for p in made.worked.placed()}
    joined = {frozenset(j.parts) for j in joints}
    found = []
    for a, b in combinations([name for name in now if name in planned], 2):
        if frozenset((a, b)) in joined | known:
            continue
        was, is_ = _overlap(planned[a], planned[b]), _overlap(now[a].box, now[b].box)
        for k in range(3):
            beside = min(was[i] for i in range(3) if i != k) > 1.0 and min(is_[i] for i in range(3) if i != k) > 1.0
            if beside and LEAST_PLAY <= -was[k] <= MOST_PLAY and -is_[k] < SAME:
                found.append(Clash(a, b, k, 0.0, -was[k]))
    return found


Found = Mapping[str, Looked]
