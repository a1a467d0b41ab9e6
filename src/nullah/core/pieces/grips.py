"""Where a joint's drawing can be taken hold of: lines that move with what the joint is asked, found by asking it for a little more."""

from __future__ import annotations

from collections.abc import Iterable

from nullah.core.drawing.display_list import Handle, Point
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.sizes import Sizes
from nullah.core.pieces.worked import Worked, laid_out
from nullah.core.shapes.cut import Cut
from nullah.core.values.frozen import frozen, replace

MORE = 0.25  # mm that a joint is asked more of, to see what moves
SAME = 1e-6  # mm
SLOWEST = 0.3  # mm a line moves for each mm asked, at the least, to be pulled by
MOST_CUTS = 40  # of a joint: with more of them its lines stand too close to be taken hold of one by one
ROUND = 12  # corners: what has as many is a hole, and is taken hold of in its middle
WAYS = ("along", "up")


@frozen
class Grip:
    """What can be pulled: of a cut by its number the edge that begins at a corner, or the middle of a hole (-1), along the first or the
    second axis of its side; it moves by ``rate`` mm where the joint is asked a mm more of ``ask``."""

    ask: str
    cut: int
    corner: int
    axis: int
    rate: float

    def handle(self, joint: JointPlan, name: str) -> Handle:
        """The handle where it is now; ``name``: the joint by its piece's own name."""
        outline = joint.cuts[self.cut].outline
        ends = outline if self.corner < 0 else (outline[self.corner], outline[(self.corner + 1) % len(outline)])
        at = (sum(p[0] for p in ends) / len(ends), sum(p[1] for p in ends) / len(ends))
        tag = f"grip:{name}/{self.ask}/{self.axis}/{self.rate:.6g}"
        return Handle(at, tag, WAYS[self.axis], f"pull: {self.ask.replace('_', ' ')}")


def handles(found: Iterable[Grip], joint: JointPlan, name: str) -> dict[tuple[str, str], list[Handle]]:
    """The handles of a joint where they are now, by part and side; ``name``: the joint by its piece's own name."""
    held: dict[tuple[str, str], list[Handle]] = {}
    for grip in found:
        if grip.cut < len(joint.cuts):
            cut = joint.cuts[grip.cut]
            held.setdefault((cut.part, cut.side), []).append(grip.handle(joint, name))
    return held


def in_force(worked: Worked, name: str, ask: str) -> float:
    """What a joint is asked of a length, or what it comes to where as much as suits is asked, mm; 0 where it has none or cannot be
    made."""
    design = next(j for j in worked.sizes.design.joints if j.id == name)
    asked = design.asked.get(ask)
    written = worked.sizes.put.get((name, ask))
    if written or asked:
        return float(written or asked)  # type: ignore[arg-type]  # a length
    try:
        return worked.sizes.value_of(name, ask)
    except ValueError:
        return 0.0


def grips(worked: Worked, name: str) -> tuple[Grip, ...]:
    """What can be pulled of a joint, one for each length it is asked that moves a line of its drawing; none of a joint that is cut, or
    that cannot be made."""
    design = next((j for j in worked.sizes.design.joints if j.id == name), None)
    if design is None or name in worked.joints_cut:
        return ()
    found: list[Grip] = []
    for ask in FAMILIES[design.family].asks:
        if ask.type != "length":
            continue
        try:
            value = in_force(worked, name, ask.name)
            if value <= 0:
                continue
            now = cuts_if(worked, name, ask.name, value)
            if len(now) > MOST_CUTS:
                return ()
            more = cuts_if(worked, name, ask.name, value + MORE)
        except ValueError:  # it is as large as it can be, or the joint cannot be made
            continue
        taken = {(g.cut, g.corner) for g in found}
        grip = next((g for g in _moved(ask.name, now, more) if (g.cut, g.corner) not in taken), None)
        if grip is not None:
            found.append(grip)
    return tuple(found)


def cuts_if(worked: Worked, name: str, ask: str, value: float) -> tuple[Cut, ...]:
    """The cuts of a joint were it asked so much.

    Raises:
        ValueError: it cannot be made so; one sentence.
    """
    s = worked.sizes
    joints = tuple(replace(j, asked={**j.asked, ask: value}) if j.id == name else j for j in s.design.joints)
    put = {**s.put, (name, ask): value} if (name, ask) in s.put else s.put
    sizes = Sizes(replace(s.design, joints=joints), s.measured, s.cut, put, s.held, s.shop, s.grows)
    return laid_out(next(j for j in joints if j.id == name), sizes).cuts


def _moved(ask: str, now: tuple[Cut, ...], more: tuple[Cut, ...]) -> list[Grip]:
    """Holes that move along one axis of their side, and edges that move square to themselves or as a whole, between two layouts."""
    if [(c.part, c.side, len(c.outline)) for c in now] != [(c.part, c.side, len(c.outline)) for c in more]:
        return []
    found = []
    for number, (a, b) in enumerate(zip(now, more, strict=True)):
        by = [(q[0] - p[0], q[1] - p[1]) for p, q in zip(a.outline, b.outline, strict=True)]
        if len(by) >= ROUND:
            if all(_same(d, by[0]) for d in by):
                found += [Grip(ask, number, -1, k, by[0][k] / MORE) for k in (0, 1) if _same(by[0], _only(by[0], k))]
            continue
        for corner, one in enumerate(by):
            after = (corner + 1) % len(by)
            edge = [abs(a.outline[after][k] - a.outline[corner][k]) for k in (0, 1)]
            for k in (0, 1):
                goes_square = edge[k] < SAME and abs(one[k] - by[after][k]) < SAME  # however it grows along itself
                goes_whole = edge[1 - k] > SAME and _same(one, by[after]) and _same(one, _only(one, k))
                if goes_square or goes_whole:
                    found.append(Grip(ask, number, corner, k, one[k] / MORE))
    return [g for g in found if abs(g.rate) >= SLOWEST]


def _same(a: Point, b: Point) -> bool:
    return abs(a[0] - b[0]) < SAME and abs(a[1] - b[1]) < SAME


def _only(by: Point, axis: int) -> Point:
    """What of a move lies along one axis."""
    return (by[0], 0.0) if axis == 0 else (0.0, by[1])
