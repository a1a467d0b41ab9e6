"""Holes and mortises of different joints in one part: whether they run into each other, or leave too little wood between them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence

from nullah.core.marking.family import Span
from nullah.core.marking.plan import Check, JointPlan
from nullah.core.shapes.cut import SIDES, Cut, Point3
from nullah.core.values.frozen import replace
from nullah.core.values.measure import marked

BETWEEN = 3.0  # mm of wood between two holes at the least (common practice, no source)
LONG = 0.6  # of its side: what is longer is a housing, and those may cross
OPEN = 0.1  # mm from the edge of its side within which a cut is open there, and no hole
_TOUCH = 1e-6  # mm

Hole = tuple[Span, Span, Span]  # along the part's length, width and thickness


def with_neighbours(
    joints: Sequence[JointPlan], size: Callable[[str], Point3], label: Callable[[str], str]
) -> list[JointPlan]:
    """The joints, each with a check for every other before it whose hole in the same part it runs into or comes too near to. Two of one
    family see to that themselves.

    Args:
        size: length, width and thickness of a part, mm; label: what it is called.
    """
    seen: dict[str, list[tuple[JointPlan, list[Hole]]]] = {}
    found, cut_by = [], Counter(part for joint in joints for part in {cut.part for cut in joint.cuts})
    for joint in joints:
        told = []
        for part in dict.fromkeys(cut.part for cut in joint.cuts):
            if cut_by[part] < 2:
                continue
            whole = size(part)
            mine = [hole for cut in joint.cuts if cut.part == part and (hole := _hole(cut, whole))]
            if not mine:
                continue
            for other, theirs in seen.get(part, []):
                if other.family != joint.family and (check := _apart(joint, other, mine, theirs, label(part))):
                    told.append(check)
            seen.setdefault(part, []).append((joint, mine))
        found.append(replace(joint, checks=(*joint.checks, *told)) if told else joint)
    return found


def _hole(cut: Cut, size: Point3) -> Hole | None:
    """What a cut takes up, where it is closed all round; None where it is open at an edge of its side, or so long that
    it is a housing."""
    axis, far = SIDES[cut.side]
    spans: list[Span] = []
    for n, k in enumerate(k for k in range(3) if k != axis):
        along = [p[n] for p in (*cut.outline, *cut.far)]
        low, high = min(along), max(along)
        if low <= OPEN or high >= size[k] - OPEN or high - low > LONG * size[k]:
            return None
        spans.append((low, high))
    deep = min(cut.depth, size[axis])
    spans.insert(axis, (size[axis] - deep, size[axis]) if far else (0.0, deep))
    return spans[0], spans[1], spans[2]


def _apart(one: JointPlan, other: JointPlan, mine: Sequence[Hole], theirs: Sequence[Hole], part: str) -> Check | None:
    """What is to be told of the nearest two of their holes; None where they are far enough apart."""
    least = min(_between(a, b) for a in mine for b in theirs)
    if least >= BETWEEN:
        return None
    if least <= _TOUCH:
        return Check(False, f"runs into {other.name} within {part}: move one, or make it shorter")
    return Check(False, f"{marked(least)} of {part} stays between this and {other.name}; at least {marked(BETWEEN)}")


def _between(a: Hole, b: Hole) -> float:
    """The wood between two holes, mm: 0 where they meet; what lies askew to each other is as far as the corners are."""
    gaps = [max(0.0, max(p[0], q[0]) - min(p[1], q[1])) for p, q in zip(a, b, strict=True)]
    return float(sum(g * g for g in gaps) ** 0.5)
