"""The wood that two closed bodies would share, by the solid engine, which is loaded when it is first wanted."""

from __future__ import annotations

from collections import OrderedDict
from typing import TYPE_CHECKING

from nullah.core.shapes.cut import Point3
from nullah.core.shapes.solid import Triangle
from nullah.core.values.arrays import np

if TYPE_CHECKING:
    from manifold3d import Manifold

Mesh = tuple[tuple[Point3, ...], tuple[Triangle, ...]]
LEAST = 1.0  # mm3
KEPT = 400  # bodies that are remembered as the engine has them
_kept: OrderedDict[int, tuple[Mesh, Manifold]] = OrderedDict()


def shared_wood(one: Mesh, other: Mesh) -> tuple[Point3, Point3] | None:
    """The low and the high corner of what two bodies share, mm; None where that is nothing.

    Args:
        one, other: corners in mm, and triangles of corner numbers, anticlockwise seen from outside.
    """
    both = _engine(one) ^ _engine(other)
    if both.volume() < LEAST:
        return None
    box = both.bounding_box()
    return (box[0], box[1], box[2]), (box[3], box[4], box[5])


def _engine(mesh: Mesh) -> Manifold:
    """A body as the engine has it, remembered for as long as it is the same object."""
    import manifold3d

    known = _kept.get(id(mesh[0]))
    if known is not None and known[0][0] is mesh[0]:
        return known[1]
    corners = np.array(mesh[0], dtype=np.float64)
    made = manifold3d.Manifold(manifold3d.Mesh64(corners, np.array(mesh[1], dtype=np.uint64)))
    _kept[id(mesh[0])] = (mesh, made)
    while len(_kept) > KEPT:
        _kept.popitem(last=False)
    return made
