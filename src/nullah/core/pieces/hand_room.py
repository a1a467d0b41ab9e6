"""Room for a hand: what stands before the heads of screws in the piece, where a driver or a brace has to go."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import ROOM, Found, JointPlan
from nullah.core.shapes.cut import SIDES, Cut, Placed, Point3
from nullah.core.values.design import Design
from nullah.core.values.frozen import replace
from nullah.core.values.measure import at_least, marked

DRIVER = 180.0  # mm before a screw that a driver and the hand on it take up (common practice, no source)
SHORT = 60.0  # mm that a short driver takes up (common practice, no source)
BESIDE = 5.0  # mm to all sides of a driver's middle that its blade takes up (common practice, no source)
MOST = 40_000  # screws times parts: with more of them nothing is looked for


def with_hand_room(joints: Sequence[JointPlan], design: Design, placed: Mapping[str, Placed]) -> tuple[JointPlan, ...]:
    """The joints, those held by screws each with a step where something of the piece stands before their heads.

    Args:
        placed: every part where it stands; what stands in another frame is taken out for it.
    """
    found: list[JointPlan] = []
    by_id = {j.id: j for j in design.joints}
    if sum(len(j.cuts) for j in joints if FAMILIES[j.family].home == "screwed") * len(placed) > MOST:
        return tuple(joints)
    for joint in joints:
        mine = by_id.get(joint.id)
        told: tuple[float, str] | None = None
        if mine is not None and mine.second and FAMILIES[joint.family].home == "screwed":
            frame = design.part(mine.first).frame
            others = [p for p in design.parts if p.id not in (mine.first, mine.second) and p.frame == frame]
            heads = [_head(c, placed[c.part]) for c in joint.cuts if c.part == mine.first]
            told = min(
                ((d, p.label) for p in others for at, way in heads if (d := _before(at, way, placed[p.id])) < DRIVER),
                default=None,
            )
        if told is None:
            found.append(joint)
            continue
        room = Found(told[0], joint.parts[0], ROOM, f"to {told[1]}")
        found.append(replace(joint, steps=(*joint.steps, _said(*told)), lengths=(*joint.lengths, room)))
    return tuple(found)


def _said(off: float, label: str) -> str:
    stands = f"{label[:1].upper()}{label[1:]} stands {marked(off)} before their heads"
    if at_least(off, SHORT):
        return f"{stands}: bore these before it is in; a short driver goes in there, a brace does not."
    return f"{stands}: there is no hand room, drive them before it is in."


def _head(cut: Cut, part: Placed) -> tuple[Point3, Point3]:
    """Where a screw goes in, and the way it is driven from, in the piece."""
    axis, far = SIDES[cut.side]
    own = [sum(p[k] for p in cut.outline) / len(cut.outline) for k in (0, 1)]
    own.insert(axis, part.size[axis] if far else 0.0)
    x, y, z = part.axes[axis]
    return part.at((own[0], own[1], own[2])), (x, y, z) if far else (-x, -y, -z)


def _before(at: Point3, way: Point3, part: Placed) -> float:
    """How far along a way a part stands before a place, mm, within what a driver takes up to the sides; without end where it does
    not."""
    off = [a - o for a, o in zip(at, part.origin, strict=True)]
    near, last = 0.0, float("inf")
    for axis, size in zip(part.axes, part.size, strict=True):
        start, goes = (sum(v * w for v, w in zip(of, axis, strict=True)) for of in (off, way))
        room = 0.0 if abs(goes) > 0.5 else BESIDE
        low, high = -room - start, size + room - start
        if abs(goes) < 1e-9:
            if low >= 0 or high <= 0:
                return float("inf")
            continue
        first, then = sorted((low / goes, high / goes))
        near, last = max(near, first), min(last, then)
    return near if near < last else float("inf")
