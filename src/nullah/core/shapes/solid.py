"""A part's solid: its blank less its cuts. The one file that knows the solid engine, which is loaded when a solid is first wanted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Any

from nullah.core.arrays import np
from nullah.core.drawing import Point, area
from nullah.core.frozen import frozen
from nullah.core.shapes.cut import GRID, SIDES, Cut, Point3, on_grid

if TYPE_CHECKING:
    from manifold3d import Manifold

Triangle = tuple[int, int, int]
NO_AREA = 1e-9  # mm2, twice: a triangle that is none
PAST = 1.0  # mm a cut is carried past the sides it comes out at, so that no skin stays


class BadSolid(ValueError):
    """Sizes or cuts that leave no body; the message says of which part."""


@frozen
class Flat:
    """A flat face of a body: the corner numbers of its largest triangle, which say how it looks, and rings of corner numbers round it
    and, the other way, round its holes; all anticlockwise seen from outside."""

    triangle: Triangle
    rings: tuple[tuple[int, ...], ...]


@frozen
class Solid:
    """A closed body in its part's own axes: corners in mm; triangles of corner numbers, anticlockwise seen from outside; its flats,
    each all the triangles in one plane."""

    corners: tuple[Point3, ...]
    triangles: tuple[Triangle, ...]
    flats: tuple[Flat, ...]
    volume: float  # mm3


def solid(part: str, size: Point3, cuts: Iterable[Cut]) -> Solid:
    """The blank of that length, width and thickness less its cuts.

    Args:
        part: its name, for errors; size: mm; cuts: those of the part, in its own axes.

    Returns:
        Corners on the grid of 0.0001 mm, each shared by all triangles that meet there.

    Raises:
        BadSolid: a size is not more than zero, or nothing is left.
    """
    import manifold3d

    sizes = tuple(on_grid(mm) for mm in size)
    if min(sizes) <= 0:
        raise BadSolid(f"{part} has no body: each of its sizes is more than zero.")
    taken = [_prism(manifold3d, sizes, side, depth, outlines) for (side, depth), outlines in _gathered(cuts).items()]
    taken += [_hull(manifold3d, sizes, cut) for cut in cuts if cut.far]
    body = manifold3d.Manifold.cube(sizes)
    if taken:
        body = manifold3d.Manifold.batch_boolean([body, *taken], manifold3d.OpType.Subtract)
    if body.is_empty():
        raise BadSolid(f"Nothing is left of {part}: its cuts take all of it.")
    return _closed(body)


def _gathered(cuts: Iterable[Cut]) -> dict[tuple[str, float], list[tuple[Point, ...]]]:
    """Outlines of plain cuts by side and depth, which are joined in two dimensions before they are sunk."""
    found: dict[tuple[str, float], list[tuple[Point, ...]]] = defaultdict(list)
    for cut in cuts:
        if not cut.far:
            found[cut.side, on_grid(cut.depth)].append(cut.outline)
    return found


def _prism(m: Any, size: Sequence[float], side: str, depth: float, outlines: list[tuple[Point, ...]]) -> Manifold:
    """Outlines on a side sunk into the blank."""
    axis, far = SIDES[side]
    face = [mm for i, mm in enumerate(size) if i != axis]
    shapes = [_turned(o) for one in outlines for o in (one, *_past_the_edges(one, face))]
    flat = m.CrossSection(shapes, m.FillRule.Positive)
    through = PAST if depth > size[axis] - 1e-6 else 0.0
    low, high = (size[axis] - depth - through, size[axis] + PAST) if far else (-PAST, depth + through)
    others = [i for i in range(3) if i != axis]
    matrix = [[0.0] * 4 for _ in range(3)]
    matrix[others[0]][0] = matrix[others[1]][1] = matrix[axis][2] = 1.0
    matrix[axis][3] = low
    return flat.extrude(high - low).transform(matrix)


def _past_the_edges(outline: tuple[Point, ...], face: Sequence[float]) -> list[list[Point]]:
    """What carries the outline outward over the edges and corners of the side that it reaches, so that the cut comes out there."""
    points = [(on_grid(x), on_grid(y)) for x, y in outline]
    borders = [(axis, edge, out) for axis, most in enumerate(face) for edge, out in ((0.0, -PAST), (most, PAST))]
    found = []
    for a, b in zip(points, [*points[1:], points[0]], strict=True):
        reached = [(axis, out) for axis, edge, out in borders if a[axis] == edge]
        for axis, out in reached:
            if a[axis] == b[axis] and a != b:
                found.append([a, b, _moved(b, axis, out), _moved(a, axis, out)])
        if len(reached) == 2:
            (_, across), (_, up) = reached
            beyond = _moved(_moved(a, 0, across), 1, up)
            found.append([a, _moved(a, 0, across), beyond, _moved(a, 1, up)])
    return found


def _moved(point: Point, axis: int, by: float) -> Point:
    return (point[0] + by, point[1]) if axis == 0 else (point[0], point[1] + by)


def _turned(outline: Iterable[Point]) -> list[Point]:
    """The outline on the grid, anticlockwise."""
    points = [(on_grid(x), on_grid(y)) for x, y in outline]
    return points if area(tuple(points)) > 0 else points[::-1]


def _hull(m: Any, size: Sequence[float], cut: Cut) -> Manifold:
    """What lies between two convex outlines, one on the side and one at the depth."""
    axis, far = SIDES[cut.side]
    corners = []
    for outline, deep in ((cut.outline, 0.0), (cut.far, cut.depth)):
        for p, q in outline:
            point = [on_grid(p), on_grid(q)]
            point.insert(axis, on_grid(size[axis] - deep if far else deep))
            corners.append(point)
    return m.Manifold.hull_points(corners)


def _closed(body: Manifold) -> Solid:
    """The body as corners on the grid and triangles; corners that fall together are one, and what becomes flat by that is left out."""
    mesh = body.to_mesh64()
    numbers: dict[Point3, int] = {}
    own = [
        numbers.setdefault((x, y, z), len(numbers))
        for x, y, z in (np.round(mesh.vert_properties[:, :3], GRID) + 0.0).tolist()
    ]
    triangles = []
    for a, b, c in mesh.tri_verts.tolist():
        three = (own[a], own[b], own[c])
        if len(set(three)) == 3:
            triangles.append(three)
    corners = tuple(numbers)
    return Solid(corners, tuple(triangles), flats_of(corners, triangles), float(body.volume()))


def flats_of(corners: Sequence[Point3], triangles: Sequence[Triangle]) -> tuple[Flat, ...]:
    """The flat faces of a closed body."""
    three = np.array(triangles)
    at = np.array(corners)[three]
    normals = np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])
    long = np.sqrt((normals * normals).sum(axis=1))
    kept = np.flatnonzero(long > NO_AREA)
    normals = normals[kept] / long[kept, None]
    planes = np.column_stack((np.round(normals, 3), np.round((normals * at[kept, 0]).sum(axis=1), 1))) + 0.0
    groups: dict[tuple[float, ...], list[int]] = defaultdict(list)
    for i, plane in zip(kept.tolist(), planes.tolist(), strict=True):
        groups[tuple(plane)].append(i)
    sizes = long.tolist()
    return tuple(
        Flat(triangles[max(mine, key=sizes.__getitem__)], _rings([triangles[i] for i in mine]))
        for mine in groups.values()
    )


def _rings(triangles: Sequence[Triangle]) -> tuple[tuple[int, ...], ...]:
    """The edges that only one of the triangles has, one after the other."""
    edges = {e for a, b, c in triangles for e in ((a, b), (b, c), (c, a))}
    after: dict[int, list[int]] = defaultdict(list)
    for a, b in edges:
        if (b, a) not in edges:
            after[a].append(b)
    rings = []
    for start in list(after):
        while after[start]:
            ring, at = [start], after[start].pop()
            while at != start:
                ring.append(at)
                at = after[at].pop()
            rings.append(tuple(ring))
    return tuple(rings)
