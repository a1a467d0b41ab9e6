"""A piece of any kind as it is seen: from the front, from the right and from above in a row, or standing, closed or coming apart."""

from __future__ import annotations

from nullah.core.drawing import Area, Dimension, Drawing, Handle, Line, Point, Primitive, Text, area
from nullah.core.pictures.bodies import Body, of_piece
from nullah.core.pieces.part import Part
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import ABOVE, FRONT, RIGHT, Patch, View, looking, visible
from nullah.core.shapes.solid import BadSolid
from nullah.core.stations.made import Made

STANDING = looking(28.0, 27.0)
SHADE = 0.1  # how dark what looks away from above is drawn, at the most
APART = 0.9  # of a part's distance from the middle: how far it moves when all comes apart
END_ON = 0.9  # cosine: a face that looks along the grain by more than this is end grain
SMALLEST_NAMED = 700.0  # mm2 of a patch that bears its part's name
MOST_DRAWN = 60  # parts: with more of them no name stands


def in_hand(plan: Plan) -> tuple[Made, tuple[Body, ...]] | None:
    """The piece in hand and its bodies; None where it cannot be made or drawn."""
    made = plan.piece.in_hand
    if not made.parts or plan.joints.troubles[made.id]:
        return None
    try:
        found = of_piece(made, plan.joints.of_piece[made.id], True)
    except BadSolid:
        return None
    return (made, found) if found else None


def views(plan: Plan) -> Drawing:
    """The piece in hand from the front, from the right and from above, with its outside sizes and the clear gaps of its rods."""
    found = in_hand(plan)
    if found is None:
        return Drawing()
    made, bodies = found
    parts = {p.id: p for p in made.parts}
    low, high = _box(bodies)
    size = [b - a for a, b in zip(low, high, strict=True)]
    gap = max(60.0, 0.22 * max(size))
    items: list[Primitive] = []
    at = 0.0
    for view, words, (i, j) in (
        (FRONT, "from the front", (0, 2)),
        (RIGHT, "from the right", (1, 2)),
        (ABOVE, "from above", (0, 1)),
    ):
        shift = (at - low[i], -low[j])
        items += _drawn(visible([(b.corners, b.flats) for b in bodies], view), bodies, parts, view, shift)
        items.append(Text((at + size[i] / 2, size[j] + 0.05 * max(size)), words, ink="quiet", size=12))
        rods = _rods(made, "xyz"[i], low[i], at) if view is not ABOVE else []
        items += rods
        if not rods:
            items.append(Dimension((at, 0), (at + size[i], 0), size[i], -24))
        if view is FRONT:
            upright = _rods(made, "z", low[2], at)
            items += upright or [Dimension((at, 0), (at, size[2]), size[2], 26)]
        at += size[i] + gap
    return Drawing(tuple(items), f"{made.piece.name} from three sides")


ROD_APART = 27.0  # px
SMALLEST_GAP = 0.05  # of a rod: a smaller gap is not dimensioned in the drawing, only in the sums


def _rods(made: Made, axis: str, low: float, at: float) -> list[Primitive]:
    """Along an axis of the piece the gaps of its first story stick that has any, and the whole of its longest, to be typed on and
    pulled at the end where they show an answer."""
    if made.worked is None:
        return []
    sizes, chains = made.worked.sizes, {c.rod: c for c in made.worked.chains}
    upright = axis == "z"
    found = [(r, list(sizes.marks(r.id).values())) for r in sizes.design.rods if r.axis == axis and not r.frame]
    found = [(r, marks) for r, marks in found if len(marks) > 1 and marks[-1] > marks[0]]
    if not found:
        return []

    def point(mm: float) -> Point:
        return (at, mm - low) if upright else (at + mm - low, 0.0)

    off, step = (26.0, ROD_APART) if upright else (-24.0, -ROD_APART)
    items: list[Primitive] = []
    gaps = next(((r, marks) for r, marks in found if len(marks) > 2), None)
    if gaps is not None:
        rod, marks = gaps
        for mark, a, b in zip(rod.marks[1:], marks, marks[1:], strict=False):
            if b - a < SMALLEST_GAP * (marks[-1] - marks[0]):
                continue
            term = mark.gap[0] if len(mark.gap) == 1 else None
            asked = f"asked.{term.edit}" if term is not None and term.edit and term.times == 1 else ""
            items.append(
                Dimension(point(a), point(b), b - a, off, edit=asked, ink="computed" if mark.clear else "dimension")
            )
        off += step
    rod, marks = max(found, key=lambda f: f[1][-1] - f[1][0])
    single = rod.marks[1].gap[0].edit if len(marks) == 2 and len(rod.marks[1].gap) == 1 else ""
    name = chains[rod.id].edit or single
    edit = f"rod.{rod.id}" if chains[rod.id].edit else f"asked.{single}" if single else ""
    items.append(Dimension(point(marks[0]), point(marks[-1]), marks[-1] - marks[0], off, edit=edit))
    if name:
        items.append(
            Handle(point(marks[-1]), f"asked:{name}", "up" if upright else "along", f"pull for another {name}")
        )
    return items


def standing(plan: Plan, apart: float = 0.0) -> Drawing:
    """The piece in hand standing, taken apart by ``apart`` from 0 to 1; empty where it cannot be drawn."""
    found = in_hand(plan)
    if found is None:
        return Drawing()
    made, bodies = found
    parts = {p.id: p for p in made.parts}
    low, high = _box(bodies)
    middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    moved = []
    for body in bodies:
        mine = _box((body,))
        off = [APART * apart * ((a + b) / 2 - m) for a, b, m in zip(*mine, middle, strict=True)]
        moved.append(([tuple(v + d for v, d in zip(c, off, strict=True)) for c in body.corners], body.flats))
    patches = visible(moved, STANDING)  # type: ignore[arg-type]  # corners of three
    return Drawing(tuple(_drawn(patches, bodies, parts, STANDING, (0.0, 0.0))), f"{made.piece.name} standing")


def _box(bodies: tuple[Body, ...]) -> tuple[Point3, Point3]:
    """The low and the high corner of all of them."""
    corners = [c for b in bodies for c in b.corners]
    low = tuple(min(c[k] for c in corners) for k in range(3))
    high = tuple(max(c[k] for c in corners) for k in range(3))
    return low, high  # type: ignore[return-value]  # three of each


def _drawn(
    patches: tuple[Patch, ...], bodies: tuple[Body, ...], parts: dict[str, Part], view: View, shift: Point
) -> list[Primitive]:
    """Patches as wood or end grain, shaded by the way they look, each part's name on the largest of its own."""
    items: list[Primitive] = []
    named: dict[str, tuple[float, Point, float, float]] = {}
    for patch in patches:
        body = bodies[patch.body]
        part = parts[body.part]
        grain = body.placed.axes[0]
        end = abs(sum(a * b for a, b in zip(patch.normal, grain, strict=True))) > END_ON
        rings = tuple(tuple((x + shift[0], y + shift[1]) for x, y in ring) for ring in patch.rings)
        tag = f"part:{body.part}"
        points = _one_outline(rings)
        kind = "end" if end else "wood"
        items.append(
            Area(points, f"{kind} {part.species}", edge="outline" if len(rings) == 1 else "", tag=tag, hint=part.name)
        )
        if len(rings) > 1:
            items += [Line((*ring, ring[0]), "outline", tag=tag) for ring in rings]
        dark = SHADE * (1 - patch.normal[2]) * (1.0 if abs(patch.normal[1]) < 0.7 else 0.5)
        if view is STANDING and dark > 0.01:
            items.append(Area(points, "ink", opacity=dark))
        size = abs(area(rings[0]))
        if size > max(SMALLEST_NAMED, named[body.part][0] if body.part in named else 0.0):
            named[body.part] = (size, *_inside(rings))
    if len(bodies) <= MOST_DRAWN:
        items += [
            Text(at, _short(parts[p]), size=11, bold=True, halo=True, tag=f"part:{p}", room=long, tall=tall)
            for p, (_, at, long, tall) in named.items()
        ]
    return items


def _short(part: Part) -> str:
    """What stands on a part: its name without its piece's."""
    return part.name.rpartition(": ")[2]


def _one_outline(rings: tuple[tuple[Point, ...], ...]) -> tuple[Point, ...]:
    """A face with holes as one outline: a way in to each hole and back again, which has no breadth."""
    outline = list(rings[0])
    for hole in rings[1:]:
        outline += [outline[0], *hole, hole[0], outline[0]]
    return tuple(outline)


def _inside(rings: tuple[tuple[Point, ...], ...]) -> tuple[Point, float, float]:
    """A point of the face well inside it, midway across its longest crossing half-way up; how long that is, and how high the face."""
    ys = [p[1] for p in rings[0]]
    y = (min(ys) + max(ys)) / 2 + 1e-4
    xs = sorted(
        a[0] + (y - a[1]) * (b[0] - a[0]) / (b[1] - a[1])
        for ring in rings
        for a, b in zip(ring, (*ring[1:], ring[0]), strict=True)
        if (a[1] > y) != (b[1] > y)
    )
    if len(xs) < 2:
        return rings[0][0], 0.0, 0.0
    left, right = max(zip(xs[::2], xs[1::2], strict=False), key=lambda s: s[1] - s[0])
    return ((left + right) / 2, y), right - left, max(ys) - min(ys)
