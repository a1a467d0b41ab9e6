"""A part's solid: its blank less its cuts. The one file that knows the solid engine, which is loaded when a solid is first wanted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from functools import cached_property
from typing import TYPE_CHECKING, Any

from nullah.core.drawing.display_list import Point, area
from nullah.core.shapes.cut import GRID, SIDES, Cut, Point3, on_grid
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

if TYPE_CHECKING:
    from manifold3d import Manifold

Triangle = tuple[int, int, int]
Groups = dict[tuple[str, float], list[tuple[Point, ...]]]  # outlines by the side they are on and how deep they go, mm
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

    @cached_property
    def around(self) -> tuple[int, ...]:
        """The corner numbers of all its rings, one after the other."""
        return tuple(n for ring in self.rings for n in ring)


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
    groups = _gathered(cuts)
    axis = _through(sizes, groups)
    body = _sawn_through(manifold3d, sizes, axis, groups) if axis is not None else manifold3d.Manifold.cube(sizes)
    taken = [_prism(manifold3d, sizes, side, depth, outlines) for (side, depth), outlines in groups.items()]
    taken += [body for cut in cuts if cut.far for body in _hull(manifold3d, sizes, cut)]
    if taken:
        body = manifold3d.Manifold.batch_boolean([body, *taken], manifold3d.OpType.Subtract)
    if body.is_empty():
        raise BadSolid(f"Nothing is left of {part}: its cuts take all of it.")
    return _closed(body)


def _gathered(cuts: Iterable[Cut]) -> Groups:
    """Outlines of plain cuts by side and depth, which are joined in two dimensions before they are sunk."""
    found: Groups = defaultdict(list)
    for cut in cuts:
        if not cut.far:
            found[cut.side, on_grid(cut.depth)].append(cut.outline)
    return found


def _through(size: Sequence[float], groups: Groups) -> int | None:
    """The axis along which most cuts go through the blank, if any does."""
    counts = [0, 0, 0]
    for (side, depth), outlines in groups.items():
        axis = SIDES[side][0]
        if depth >= size[axis]:
            counts[axis] += len(outlines)
    most = max(counts)
    return counts.index(most) if most else None


def _sawn_through(m: Any, size: Sequence[float], axis: int, groups: Groups) -> Manifold:
    """The blank less all that goes through it along an axis, which needs two dimensions alone; those cuts leave the groups."""
    through = [key for key in groups if SIDES[key[0]][0] == axis and key[1] >= size[axis]]
    outlines = [outline for key in through for outline in groups.pop(key)]
    wide, high = (mm for i, mm in enumerate(size) if i != axis)
    blank = m.CrossSection([[(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)]])
    return _raised(blank - _flat(m, size, axis, outlines), axis, 0.0, size[axis])


def _prism(m: Any, size: Sequence[float], side: str, depth: float, outlines: list[tuple[Point, ...]]) -> Manifold:
    """Outlines on a side sunk into the blank."""
    axis, far = SIDES[side]
    through = PAST if depth > size[axis] - 1e-6 else 0.0
    low, high = (size[axis] - depth - through, size[axis] + PAST) if far else (-PAST, depth + through)
    return _raised(_flat(m, size, axis, outlines), axis, low, high)


def _flat(m: Any, size: Sequence[float], axis: int, outlines: list[tuple[Point, ...]]) -> Any:
    """Outlines across an axis joined into one section, carried past the edges of the blank that they reach."""
    face = [mm for i, mm in enumerate(size) if i != axis]
    shapes = []
    for one in outlines:
        points = _turned(one)
        shapes += [points, *map(_anticlockwise, _past_the_edges(points, face))]
    return m.CrossSection(shapes, m.FillRule.Positive)


def _raised(flat: Any, axis: int, low: float, high: float) -> Manifold:
    """A section raised from one place on its axis to another."""
    others = [i for i in range(3) if i != axis]
    matrix = [[0.0] * 4 for _ in range(3)]
    matrix[others[0]][0] = matrix[others[1]][1] = matrix[axis][2] = 1.0
    matrix[axis][3] = low
    return flat.extrude(high - low).transform(matrix)


def _past_the_edges(points: Sequence[Point], face: Sequence[float]) -> list[list[Point]]:
    """What carries an outline on the grid outward over the edges and corners of the side that it reaches, so that the cut comes out
    there."""
    wide, high = face
    found = []
    b = points[0]
    for a in reversed(points):  # from each to the one after it
        across = -PAST if a[0] == 0.0 else PAST if a[0] == wide else 0.0
        up = -PAST if a[1] == 0.0 else PAST if a[1] == high else 0.0
        if across and a[0] == b[0] and a != b:
            found.append([a, b, (b[0] + across, b[1]), (a[0] + across, a[1])])
        if up and a[1] == b[1] and a != b:
            found.append([a, b, (b[0], b[1] + up), (a[0], a[1] + up)])
        if across and up:
            found.append([a, (a[0] + across, a[1]), (a[0] + across, a[1] + up), (a[0], a[1] + up)])
        b = a
    return found


def _turned(outline: Iterable[Point]) -> list[Point]:
    """The outline on the grid, anticlockwise."""
    return _anticlockwise([(on_grid(x), on_grid(y)) for x, y in outline])


def _anticlockwise(points: list[Point]) -> list[Point]:
    return points if area(tuple(points)) > 0 else points[::-1]


def _hull(m: Any, size: Sequence[float], cut: Cut) -> list[Manifold]:
    """What lies between two convex outlines, one on the side and one at the depth; and what carries it outward over each side of the
    blank that it has a facet on, so that no skin stays there."""
    axis, far = SIDES[cut.side]
    corners = []
    for outline, deep in ((cut.outline, 0.0), (cut.far, cut.depth)):
        for p, q in outline:
            point = [on_grid(p), on_grid(q)]
            point.insert(axis, on_grid(size[axis] - deep if far else deep))
            corners.append(point)
    found = [m.Manifold.hull_points(corners)]
    for k, whole in enumerate(size):
        for at, past in ((0.0, -PAST), (whole, PAST)):
            on = [c for c in corners if c[k] == at]
            if len(on) > 2:
                beyond = m.Manifold.hull_points(on + [[v + past * (n == k) for n, v in enumerate(c)] for c in on])
                found += [] if beyond.is_empty() else [beyond]
    return found


THINNEST = 2e-4  # mm: two steps of the grid


def _closed(body: Manifold) -> Solid:
    """The body as corners on the grid and triangles; corners that fall together are one, and what becomes flat by that is left out.
    Where a flap thinner than the grid is left so, which more than two triangles share an edge of, it is taken away, or the body is made
    simpler first."""
    made = _on_the_grid(body)
    if _each_edge_once(made.triangles):
        return made
    left = _without_threads(made.corners, made.triangles)
    if _each_edge_once(left):
        return Solid(made.corners, left, flats_of(made.corners, left), made.volume)
    return _on_the_grid(body.simplify(THINNEST))


def _without_threads(corners: Sequence[Point3], triangles: Sequence[Triangle]) -> tuple[Triangle, ...]:
    """Triangles without those that have no area and close among themselves: what was wood thinner than the grid along an arris."""
    at = np.array(corners)[np.array(triangles)]
    areas = np.linalg.norm(crossed(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0]), axis=1)
    threads = {t for t, twice in zip(triangles, areas.tolist(), strict=True) if twice < NO_AREA}
    edges = {t: ((t[0], t[1]), (t[1], t[2]), (t[2], t[0])) for t in threads}
    while open_ := {t for t in threads if any(not _runs_back(e, t, threads, edges) for e in edges[t])}:
        threads -= open_
    return tuple(t for t in triangles if t not in threads)


def _runs_back(
    edge: tuple[int, int], of: Triangle, among: set[Triangle], edges: Mapping[Triangle, tuple[tuple[int, int], ...]]
) -> bool:
    """Whether another of some triangles runs along an edge the other way."""
    return any((edge[1], edge[0]) in edges[t] for t in among if t != of)


def _each_edge_once(triangles: Iterable[Triangle]) -> bool:
    """Whether no two triangles run along an edge the same way."""
    edges = [edge for a, b, c in triangles for edge in ((a, b), (b, c), (c, a))]
    return len(set(edges)) == len(edges)


def _on_the_grid(body: Manifold) -> Solid:
    mesh = body.to_mesh64()
    numbers: dict[Point3, int] = {}
    own = [
        numbers.setdefault((x, y, z), len(numbers))
        for x, y, z in (np.round(mesh.vert_properties[:, :3], GRID) + 0.0).tolist()
    ]
    triangles = _without_skins((own[a], own[b], own[c]) for a, b, c in mesh.tri_verts.tolist())
    corners = tuple(numbers)
    return Solid(corners, tuple(triangles), flats_of(corners, triangles), float(body.volume()))


def _without_skins(triangles: Iterable[Triangle]) -> list[Triangle]:
    """Triangles that have three corners, without those that lie back to back: what was thinner than the grid has no inside."""
    found: dict[tuple[int, ...], list[Triangle]] = {}
    for three in triangles:
        if len(set(three)) < 3:
            continue
        a, b, c = three
        same = found.setdefault(tuple(sorted(three)), [])
        turned = next((t for t in same if t not in ((a, b, c), (b, c, a), (c, a, b))), None)
        if turned is None:
            same.append(three)
        else:
            same.remove(turned)
    return [three for same in found.values() for three in same]


def flats_of(corners: Sequence[Point3], triangles: Sequence[Triangle]) -> tuple[Flat, ...]:
    """The flat faces of a closed body."""
    three = np.array(triangles)
    at = np.array(corners)[three]
    normals = crossed(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])
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


def crossed(a: Floats, b: Floats) -> Floats:
    """The cross products of rows (n, 3)."""
    out = np.empty_like(a)
    for i, j, k in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        out[:, i] = a[:, j] * b[:, k] - a[:, k] * b[:, j]
    return out
