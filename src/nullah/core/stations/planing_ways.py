"""How a board or part is best planed: which face first, which way, how flat each need be; what is known of it, and planned from."""

from __future__ import annotations

from nullah.core.document.project import Board, Defect, Plane, Reading
from nullah.core.stations.trued import Trued
from nullah.core.surface.certainty import Knowledge, known
from nullah.core.surface.first_face import first_of
from nullah.core.surface.passes import BenchPlane
from nullah.core.surface.readings import BACK, FACE, counts_from
from nullah.core.surface.rounds import Wanted
from nullah.core.values.measure import marked

_KNOTS = ("sound knot", "loose knot")


def first_side(t: Trued) -> tuple[str, str]:
    """Which face is planed first, and why. A face is planed while the board lies on the other: on that which rocks less."""
    if t.planed:
        return t.planed[0].side, "begun"
    if t.ways.working_face:
        return FACE, "it alone is made flat; wedge the board where it rocks"
    p = t.planing
    found = first_of(t.surface, p.x[0], p.y[0], p.x[-1] - p.x[0], p.y[-1] - p.y[0])
    if found.alike:
        return FACE, "the face side comes first: every gauge and square bears on it"
    rocks, lies = (marked(one, fine=True) for one in sorted((found.on_face, found.on_back), reverse=True))
    down = BACK if found.side == FACE else FACE
    return found.side, f"laid on its {found.side} it rocks, a corner comes up {rocks}; on its {down} {lies}"


def how(board: Board, t: Trued, side: str, at: tuple[float, float]) -> tuple[str, ...]:
    """Sentences on planing a side: what its faults ask for, and how flat it need be.

    Args:
        at: where on its board the part lies, mm from the left end and the lower edge.
    """
    out = []
    here = [d for d in board.defects if d.face in ("both", side) and _within(d, t, at)]
    knots = [d for d in here if d.kind in _KNOTS]
    if knots:
        places = ", ".join(marked(max(d.x + d.width / 2 - at[0], 0.0)) for d in knots[:3])
        out.append(f"Plane to the knot at {places} from both sides: the grain turns round it.")
    if any(d.kind == "run-out" for d in here):
        out.append("The grain runs out: where it tears, plane the other way or set finer.")
    if side == BACK and t.ways.working_face:
        out.append("This face stays as it comes.")
    elif side == BACK and t.hollow:
        out.append("What is low on this hidden face may stay: stop at the gauge line.")
    elif side == BACK and t.secondary:
        out.append("Marks of planing across may stay on this face.")
    return tuple(out)


def _within(d: Defect, t: Trued, at: tuple[float, float]) -> bool:
    x, y = at
    return d.x < x + t.length and d.x + d.length > x and d.y < y + t.width and d.y + d.width > y


def counting(t: Trued, side: str) -> list[Reading]:
    """Readings that count for a side as it now is."""
    since = counts_from(t.planed, side)
    return [r for r in t.readings if r.after >= since and r.side == side]


def knowledge(t: Trued, side: str) -> Knowledge:
    """What is known of a side as it now is."""
    told = t.surface.told[side]
    return known(told.found, told.readings)


def wanted(t: Trued, planes: tuple[Plane, ...]) -> Wanted | None:
    """What a round of planing is planned from; None for what is not read yet, or planed already."""
    if t.measured or not (t.readings or t.planed):
        return None
    p, surface = t.planing, t.surface
    return Wanted(
        t.length,
        t.width,
        surface.face,
        surface.back,
        tuple(BenchPlane(one.name, one.sole, one.iron, one.width, one.shaving, one.camber) for one in planes),
        p.wanted if p.wanted > 0 and (t.hollow or p.spare > 0) else None,
        tuple(one.side for one in t.planed),
        first_side(t)[0],
        t.hollow,
        t.secondary,
        t.ways,
        surface.unsure(),
    )
