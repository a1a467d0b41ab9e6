"""What is seen of bodies, drawn as wood: each face with its figure or as end grain, shaded by the way it looks, parts named on it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from nullah.core.drawing.display_list import Area, Line, Point, Primitive, Text, area
from nullah.core.pictures.bodies import Body
from nullah.core.pictures.wood import COARSEST, PartWood
from nullah.core.shapes.clip import within
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import Patch, View, visible
from nullah.core.values.arrays import np
from nullah.core.values.frozen import frozen

SHADE = 0.1  # how dark what looks away from above is drawn, at the most
END_ON = 0.9  # cosine: a face that looks along the grain by more than this is end grain
FLAT_ON = 0.999  # cosine: a face that looks along the thickness by more than this bears the part's figure
SMALLEST_NAMED = 700.0  # mm2 of a patch that bears its part's name
MOST_CORNERS = 400  # of what is seen of a broad side: where it is seen in more bits than that it bears no figure
MOST_FIGURED = 24  # broad sides that bear a figure, those of which most is seen: nobody makes out the grain of more
MOST_LINES = 1500  # of figure on all of them
MOST_NAMED = 60  # parts: with more of them no name stands


Side = tuple[int, bool]  # of a body by its number, and whether it is its face
Outlines = list[tuple[Point, ...]]


@frozen
class Shown:
    """Bodies as they are to be drawn: what each part is called where it is named and where it is pointed at, its tag, its wood, and how
    far it has moved off, mm."""

    bodies: tuple[Body, ...]
    called: Mapping[str, str]
    hints: Mapping[str, str]
    tags: Mapping[str, str]
    wood: Mapping[str, PartWood]
    off: Mapping[str, Point3]


def drawn(
    shown: Shown, view: View, shift: Point = (0.0, 0.0), shaded: bool = False, figured: bool = True
) -> list[Primitive]:
    """What is seen of bodies from one direction, moved by ``shift`` on the drawing, each part's name on the largest of its patches, the
    wood with its figure or without."""
    stand = [(b.points + shown.off[b.part] if b.part in shown.off else b.points, b.flats) for b in shown.bodies]
    items: list[Primitive] = []
    named: dict[str, tuple[float, Point, float, float]] = {}
    broad: dict[Side, Outlines] = {}
    for patch in visible(stand, view):
        body = shown.bodies[patch.body]
        rings = tuple(tuple((x + shift[0], y + shift[1]) for x, y in ring) for ring in patch.rings)
        items += _patch(shown, body, patch, rings, shaded)
        facing = _along(patch.normal, body.placed.axes[2])
        if abs(facing) > FLAT_ON:
            broad.setdefault((patch.body, facing > 0), []).extend(rings)
        size = abs(area(rings[0]))
        if size > max(SMALLEST_NAMED, named[body.part][0] if body.part in named else 0.0):
            named[body.part] = (size, *_inside(rings))
    if figured:
        for (number, face), found, lines in _figured(shown, _most_seen(broad)):
            body = shown.bodies[number]
            items += _figure(body, lines, face, shown.off.get(body.part), found, view, shift)
    if len(shown.bodies) <= MOST_NAMED:
        items += [
            Text(
                at,
                shown.called[p],
                size=14 if len(shown.called[p]) < 3 else 11,
                bold=True,
                halo=True,
                tag=shown.tags[p],
                room=long,
                tall=tall,
            )
            for p, (_, at, long, tall) in named.items()
        ]
    return items


def _most_seen(broad: Mapping[Side, Outlines]) -> list[tuple[Side, Outlines]]:
    """The broad sides of which most is seen, as they stand in the drawing."""
    if len(broad) <= MOST_FIGURED:
        return list(broad.items())
    sizes = {side: sum(map(area, found)) for side, found in broad.items()}  # holes go round the other way
    kept = set(sorted(sizes, key=lambda side: -sizes[side])[:MOST_FIGURED])
    return [(side, found) for side, found in broad.items() if side in kept]


def _figured(shown: Shown, sides: Iterable[tuple[Side, Outlines]]) -> list[tuple[Side, Outlines, Sequence[Line]]]:
    """The sides that bear a figure, each with its lines; where there are too many in all every other is left out, and so on."""
    found: list[tuple[Side, Outlines, Sequence[Line]]] = []
    for side, outlines in sides:
        if sum(map(len, outlines)) <= MOST_CORNERS:
            body = shown.bodies[side[0]]
            length, width, _ = body.placed.size
            found.append((side, outlines, shown.wood[body.part].face(length, width)))
    coarse = min((line.detail for _, _, lines in found for line in lines), default=0.0)
    for _ in range(COARSEST):
        if sum(len(lines) for _, _, lines in found) <= MOST_LINES:
            break
        coarse *= 2
        found = [(side, o, [line for line in lines if line.detail >= coarse]) for side, o, lines in found]
    return found


def moved(corners: Sequence[Point3], off: Point3 | None) -> Sequence[Point3]:
    """Corners of a body that has moved off so far, mm; the same where it has not."""
    if off is None:
        return corners
    x, y, z = off
    return [(a + x, b + y, c + z) for a, b, c in corners]


def _patch(
    shown: Shown, body: Body, patch: Patch, rings: tuple[tuple[Point, ...], ...], shaded: bool
) -> list[Primitive]:
    """One patch: its wood, its edges, its shade."""
    end = abs(_along(patch.normal, body.placed.axes[0])) > END_ON
    wood = shown.wood[body.part]
    tag, hint, points = shown.tags[body.part], shown.hints[body.part], _one_outline(rings)
    kind = f"{'end' if end else 'wood'} {wood.species}"
    items: list[Primitive] = [Area(points, kind, edge="outline" if len(rings) == 1 else "", tag=tag, hint=hint)]
    if len(rings) > 1:
        items += [Line((*ring, ring[0]), "outline", tag=tag) for ring in rings]
    dark = SHADE * (1 - patch.normal[2]) * (1.0 if abs(patch.normal[1]) < 0.7 else 0.5)
    if shaded and dark > 0.01:
        items.append(Area(points, "ink", opacity=dark))
    return items


def _along(a: Point3, b: Point3) -> float:
    return sum(p * q for p, q in zip(a, b, strict=True))


def _figure(
    body: Body,
    lines: Sequence[Line],
    face: bool,
    off: Point3 | None,
    rings: Sequence[Sequence[Point]],
    view: View,
    shift: Point,
) -> list[Primitive]:
    """The part's figure on a broad side of it, within what is seen of that."""
    if not lines:
        return []
    axes = np.array(body.placed.axes)
    screen = np.array([view.right, view.up])
    start = np.array(body.placed.origin) + np.array(off or (0.0, 0.0, 0.0))
    start = start + (body.placed.size[2] if face else 0.0) * axes[2]
    at, ways = screen @ start + np.array(shift), axes[:2] @ screen.T
    on_screen = np.array([p for line in lines for p in line.points]) @ ways + at
    runs = np.split(on_screen, np.cumsum([len(line.points) for line in lines])[:-1])
    return [
        Line(run, line.ink, width=0.7, detail=line.detail)
        for line, kept in zip(lines, within(runs, rings), strict=True)
        for run in kept
    ]


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
