"""A piece of any kind to scale: from the front, from the right and from above in a row, with its story sticks to type on and pull."""

from __future__ import annotations

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Handle, Line, Point, Primitive, Text
from nullah.core.joints.families import FAMILIES
from nullah.core.joints.housing import Housing
from nullah.core.pictures.bodies import Body
from nullah.core.pictures.in_hand import Kept, box_round, shown, too_many
from nullah.core.pictures.patches import Shown, drawn
from nullah.core.pieces.stick import Stick
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import ABOVE, FRONT, RIGHT
from nullah.core.stations.made import Made
from nullah.core.values.frozen import replace

SMALLEST_GAP = 0.02  # of a stick: a smaller gap is not dimensioned in the drawing, only in the sums
LEAST_GAP = 9.0  # px: a gap drawn smaller, that is not typed on, is dimensioned only as one comes nearer
COVERS = 0.6  # of all that is seen from above: a flat part that covers more hides what is under it
_kept = Kept()


def of(plan: Plan) -> Drawing:
    """Three views of the piece in hand; empty where it cannot be made."""
    return _kept.get(plan, lambda: three_views(plan, False))


def three_views(plan: Plan, plain: bool = True) -> Drawing:
    """The three views made anew; ``plain``, without the joints, which take most of the time, while something is pulled."""
    if (words := too_many(plan)) is not None:
        return words
    found = shown(plan, plain)
    if found is None:
        return Drawing()
    made = plan.piece.in_hand
    low, high = box_round(found.bodies)
    long, deep, tall = (b - a for a, b in zip(low, high, strict=True))
    gap = max(40.0, 0.3 * max(long, deep, tall))
    over = 0.05 * max(long, deep, tall)
    right, above = long + gap, long + gap + deep + gap
    housed = _in_housings(plan, made)
    lids = _lids(found.bodies, low, high)
    bare = replace(found, bodies=tuple(b for b in found.bodies if b.part not in lids), tags=_pulled(made, found))
    without = f", without {' and '.join(found.called[p] for p in lids)}" if lids else ""
    front_shift, right_shift, above_shift = (-low[0], -low[2]), (right - low[1], -low[2]), (above - low[0], -low[1])
    front, from_right = drawn(found, FRONT, front_shift), drawn(found, RIGHT, right_shift)
    items = [
        *front,
        *_dashed(found, housed, front, (0, 2), front_shift),
        *from_right,
        *_dashed(found, housed, from_right, (1, 2), right_shift),
        *drawn(bare, ABOVE, above_shift),
        Text((long / 2, -over), "front", ink="quiet", size=12, room=long + gap / 2),
        Text((right + deep / 2, -over), "right", ink="quiet", size=12, room=deep + gap / 2),
        Text((above, -over), f"from above{without}", ink="quiet", size=12, align="left"),
    ]
    items += _whole(made, "x", (0.0, 0.0), low[0]) or [Dimension((0, 0), (long, 0), long, -24)]
    items += _gaps(made, "z", (long, 0.0), low[2], -16.0)
    items += _whole(made, "z", (0.0, 0.0), low[2], 26.0) or [Dimension((0, 0), (0, tall), tall, 26)]
    items += _gaps(made, "y", (right, tall), low[1], 12.0)
    items += _whole(made, "y", (right, 0.0), low[1]) or [Dimension((right, 0), (right + deep, 0), deep, -24)]
    items += _gaps(made, "x", (above, deep), low[0], 12.0)
    return Drawing(tuple(items), f"{made.piece.name} from three sides")


def _in_housings(plan: Plan, made: Made) -> frozenset[str]:
    """Parts of which one is let into the other: where they run is dashed though they are hidden."""
    joints = plan.joints.of_piece[made.id]
    return frozenset(p for j in joints if isinstance(FAMILIES[j.family], Housing) for p in j.parts)


def _lids(bodies: tuple[Body, ...], low: Point3, high: Point3) -> tuple[str, ...]:
    """Flat parts in the upper half that hide most of what is under them."""
    whole = (high[0] - low[0]) * (high[1] - low[1])
    found = []
    for body in bodies:
        a, b = body.box
        flat = abs(body.placed.axes[2][2]) > 0.999
        if flat and (b[0] - a[0]) * (b[1] - a[1]) > COVERS * whole and a[2] + b[2] > low[2] + high[2] + 1e-6:
            found.append(body.part)
    return tuple(found) if len(found) < len(bodies) else ()


def _pulled(made: Made, found: Shown) -> dict[str, str]:
    """Tags of the parts, those that may be pulled along the piece by that."""
    return {**found.tags, **{f"{made.prefix}{p}": f"shift:{made.prefix}{p}" for p in made.shifts()}}


def _dashed(
    found: Shown, housed: frozenset[str], view: list[Primitive], ways: tuple[int, int], shift: Point
) -> list[Primitive]:
    """The outlines of parts in housings that are not seen in a view; of those that are one behind the other, one."""
    seen = {i.tag for i in view if isinstance(i, Area)}
    boxes: dict[tuple[float, ...], tuple[Point, Point]] = {}
    for body in found.bodies:
        if body.part in housed and found.tags[body.part] not in seen:
            a, b = ((c[ways[0]] + shift[0], c[ways[1]] + shift[1]) for c in body.box)
            boxes.setdefault(tuple(round(v, 2) for v in (*a, *b)), (a, b))
    return [
        Line(((x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)), "faint", dash=True)
        for (x0, y0), (x1, y1) in boxes.values()
    ]


def _point(axis: str, at: Point, mm: float) -> Point:
    return (at[0], at[1] + mm) if axis == "z" else (at[0] + mm, at[1])


def _sticks(made: Made, axis: str) -> list[Stick]:
    return [s for s in made.sticks if s.axis == axis]


def _gaps(made: Made, axis: str, at: Point, low: float, off: float) -> list[Primitive]:
    """The gaps of the first story stick along an axis of the piece that has any, to be typed on where they show an answer; of those
    alike one, and thicknesses from the far end, so that they stand apart."""
    stick = next((s for s in _sticks(made, axis) if len(s.gaps) > 1), None)
    if stick is None:
        return []
    to = stick.start - low
    items: list[Primitive] = []
    told: set[tuple[float, bool]] = set()
    for gap in sorted(stick.gaps, key=lambda g: (not g.clear, g.start if g.clear else -g.start)):
        mm = gap.end - gap.start
        alike = (round(mm, 2), gap.clear)
        if mm > SMALLEST_GAP * stick.length and alike not in told:
            told.add(alike)
            a, b = (_point(axis, at, v + to) for v in (gap.start, gap.end))
            ink, least = "computed" if gap.clear else "dimension", 0.0 if gap.edit else LEAST_GAP
            items.append(Dimension(a, b, mm, off, edit=gap.edit, ink=ink, least=least))
    return items


def _whole(made: Made, axis: str, at: Point, low: float, off: float = -24.0) -> list[Primitive]:
    """The whole of the longest story stick along an axis, to be typed on and pulled at its end where it shows an answer."""
    stick = max(_sticks(made, axis), key=lambda s: s.length, default=None)
    if stick is None:
        return []
    a, b = (_point(axis, at, stick.start - low + mm) for mm in (0.0, stick.length))
    items: list[Primitive] = [Dimension(a, b, stick.length, off, edit=stick.total_edit)]
    if stick.pulled:
        way = "up" if axis == "z" else "along"
        name = next((c.name for c in made.chains if c.rod == stick.rod and c.edit), stick.pulled.replace("_", " "))
        hint = f"pull for another {name.lower()}"
        items.append(Handle(b, f"asked:{stick.pulled}", way, hint))
    return items
