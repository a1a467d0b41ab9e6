"""A piece of any kind as it is seen: from the front, from the right and from above in a row, or standing, closed or coming apart."""

from __future__ import annotations

from nullah.core.drawing import Area, Dimension, Drawing, Line, Point, Primitive, Text
from nullah.core.pictures.bodies import Body, of_piece
from nullah.core.pieces.part import Part
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import ABOVE, FRONT, RIGHT, Patch, View, looking, visible
from nullah.core.shapes.solid import BadSolid
from nullah.core.stations.piece import Made

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
        items += _drawn(visible([(b.corners, b.triangles) for b in bodies], view), bodies, parts, view, shift)
        items.append(Text((at + size[i] / 2, -34 if view is ABOVE else size[j] + 12), words, ink="quiet", size=12))
        if view is FRONT:
            items.append(Dimension((at, 0), (at + size[0], 0), size[0], -24))
            items.append(Dimension((at, 0), (at, size[2]), size[2], 26))
            items += _clear(made, low)
        elif view is RIGHT:
            items.append(Dimension((at, 0), (at + size[1], 0), size[1], -24))
        at += size[i] + gap
    return Drawing(tuple(items), f"{made.piece.name} from three sides")


def _clear(made: Made, low: Point3) -> list[Primitive]:
    """The gaps that something must fit in along the front, as dimensions."""
    if made.worked is None:
        return []
    sizes = made.worked.sizes
    for rod in sizes.design.rods:
        if rod.axis == "x" and not rod.frame and any(m.clear for m in rod.marks):
            marks = sizes.marks(rod.id)
            names = list(marks)
            return [
                Dimension((marks[a] - low[0], 0), (marks[b] - low[0], 0), marks[b] - marks[a], -52, ink="computed")
                for a, b, m in zip(names, names[1:], rod.marks[1:], strict=False)
                if m.clear
            ]
    return []


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
        moved.append(([tuple(v + d for v, d in zip(c, off, strict=True)) for c in body.corners], body.triangles))
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
    named: dict[str, tuple[float, Point]] = {}
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
        size = _area(rings[0])
        if size > max(SMALLEST_NAMED, named.get(body.part, (0.0, (0.0, 0.0)))[0]):
            named[body.part] = (size, _inside(rings))
    if len(bodies) <= MOST_DRAWN:
        room = {p: s**0.5 for p, (s, _) in named.items()}
        items += [
            Text(at, _short(parts[p], bodies), size=11, bold=True, halo=True, tag=f"part:{p}", room=2.2 * room[p])
            for p, (_, at) in named.items()
        ]
    return items


def _short(part: Part, bodies: tuple[Body, ...]) -> str:
    """What stands on a part: its name without its piece's."""
    return part.name.rpartition(": ")[2]


def _one_outline(rings: tuple[tuple[Point, ...], ...]) -> tuple[Point, ...]:
    """A face with holes as one outline: a way in to each hole and back again, which has no breadth."""
    outline = list(rings[0])
    for hole in rings[1:]:
        outline += [outline[0], *hole, hole[0], outline[0]]
    return tuple(outline)


def _area(ring: tuple[Point, ...]) -> float:
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], ring[0]), strict=True))) / 2


def _inside(rings: tuple[tuple[Point, ...], ...]) -> Point:
    """A point of the face well inside it: midway across its longest crossing half-way up."""
    ys = [p[1] for p in rings[0]]
    y = (min(ys) + max(ys)) / 2 + 1e-4
    xs = sorted(
        a[0] + (y - a[1]) * (b[0] - a[0]) / (b[1] - a[1])
        for ring in rings
        for a, b in zip(ring, (*ring[1:], ring[0]), strict=True)
        if (a[1] > y) != (b[1] > y)
    )
    if len(xs) < 2:
        return rings[0][0]
    left, right = max(zip(xs[::2], xs[1::2], strict=False), key=lambda s: s[1] - s[0])
    return ((left + right) / 2, y)
