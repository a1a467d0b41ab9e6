"""Bodies cut open at a plane, to look into them."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.shapes.cut import Point3
from nullah.core.shapes.solid import Flat, Triangle, flats_of
from nullah.core.values.arrays import np

NEAR = 1e-4  # mm: nothing thinner stays


def opened(
    corners: Sequence[Point3],
    triangles: Sequence[Triangle],
    flats: Sequence[Flat],
    axis: int,
    side: float,
    at: float,
) -> tuple[tuple[Point3, ...], tuple[Triangle, ...], tuple[Flat, ...]] | None:
    """What stays of a closed body on one side of a plane across an axis; None where nothing does.

    Args:
        corners, triangles, flats: the body, mm.
        axis: 0, 1 or 2; side: 1 where what lies above ``at`` stays, -1 where what lies below it does.

    Returns:
        Corners, triangles and flats of a closed body, its new face among them; the same objects where the plane does not meet it.
    """
    import manifold3d

    along = [side * (c[axis] - at) for c in corners]
    if min(along) >= -NEAR:
        return tuple(corners), tuple(triangles), tuple(flats)
    if max(along) <= NEAR:
        return None
    mesh = manifold3d.Mesh64(np.array(corners, dtype=np.float64), np.array(triangles, dtype=np.uint64))
    normal = [0.0, 0.0, 0.0]
    normal[axis] = side
    left = manifold3d.Manifold(mesh).trim_by_plane(normal, side * at)
    if left.is_empty():
        return None
    out = left.to_mesh64()
    found = tuple((x, y, z) for x, y, z in out.vert_properties[:, :3].tolist())
    three = tuple((a, b, c) for a, b, c in out.tri_verts.tolist())
    return found, three, flats_of(found, three)
