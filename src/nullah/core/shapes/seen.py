"""What is seen of closed bodies from one direction, as outlines: each face that looks at the eye, less what stands before it.

Right for any bodies, those that go into each other's hollows too: a nearer face is clipped at the plane of the farther one before it is
taken away, so that nothing depends on an order of painting.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from nullah.core.drawing import Point, area
from nullah.core.frozen import frozen
from nullah.core.shapes.cut import Point3

if TYPE_CHECKING:
    from manifold3d import CrossSection

Floats = NDArray[np.float64]
TOUCH = 1e-2  # mm: nearer than this, faces lie in one plane
LEAST = 0.3  # mm2 of a face that is drawn


@frozen
class View:
    """Where one looks from: unit vectors of the drawing's right and up, and towards the eye."""

    right: Point3
    up: Point3
    eye: Point3


def looking(turn: float, tilt: float) -> View:
    """A view from so many degrees to the right of the front and above it."""
    a, b = math.radians(turn), math.radians(tilt)
    eye = (math.sin(a) * math.cos(b), -math.cos(a) * math.cos(b), math.sin(b))
    right = (math.cos(a), math.sin(a), 0.0)
    up = tuple(float(v) for v in np.cross(eye, right))
    return View(right, up, eye)  # type: ignore[arg-type]  # three of them


FRONT = View((1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, -1.0, 0.0))
RIGHT = View((0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0))
ABOVE = View((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@frozen
class Patch:
    """What is seen of one face: the number of its body, the way the face looks, and rings of points on the drawing, mm; the first goes
    round it anticlockwise, the others round its holes."""

    body: int
    normal: Point3
    rings: tuple[tuple[Point, ...], ...]


@frozen
class _Face:
    body: int
    normal: Floats
    offset: float
    triangles: Floats  # (count, 3, 3)
    flat: Floats  # (count, 3, 2)
    box: tuple[float, float, float, float]
    shape: CrossSection


def visible(bodies: Sequence[tuple[Sequence[Point3], Sequence[tuple[int, int, int]]]], view: View) -> tuple[Patch, ...]:
    """The patches that are seen of closed bodies, each given as corners and triangles that turn anticlockwise from outside."""
    import manifold3d

    by_body = [_faces(manifold3d, i, body, view) for i, body in enumerate(bodies)]
    whole = [_outline(manifold3d, faces) for faces in by_body]
    corners = [np.array(body[0]) for body in bodies]
    found = []
    for own, faces in enumerate(by_body):
        for face in faces:
            before = []
            for number, others in enumerate(by_body):
                if not others or not _meet(face.box, whole[number][0]):
                    continue
                if number != own:
                    reach = corners[number] @ face.normal - face.offset
                    if reach.max() <= TOUCH:
                        continue
                    if reach.min() >= -TOUCH:
                        before.append((whole[number][0], whole[number][1]))
                        continue
                for other in others:
                    if other is face or not _meet(face.box, other.box):
                        continue
                    reach = other.triangles @ face.normal - face.offset
                    if reach.max() <= TOUCH:
                        continue
                    shape = other.shape if reach.min() >= -TOUCH else _clipped(manifold3d, other, face, view)
                    before.append((other.box, shape))
            found += _patches(face, _less(manifold3d, face, before))
    return tuple(found)


def _outline(m: Any, faces: list[_Face]) -> tuple[tuple[float, float, float, float], CrossSection]:
    """All that a body covers on the drawing, and the box round it."""
    boxes = [f.box for f in faces] or [(0.0, 0.0, 0.0, 0.0)]
    box = (min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes))
    return box, m.CrossSection.batch_boolean([f.shape for f in faces], m.OpType.Add) if faces else m.CrossSection()


def _less(m: Any, face: _Face, before: list[tuple[tuple[float, float, float, float], CrossSection]]) -> CrossSection:
    """A face less what stands before it, the largest first; nothing more is asked once nothing is left."""
    shape = face.shape
    before.sort(key=lambda b: (b[0][2] - b[0][0]) * (b[0][3] - b[0][1]), reverse=True)
    for _, other in before:
        shape = shape - other
        if shape.is_empty():
            break
    return shape


def _faces(
    m: Any, number: int, body: tuple[Sequence[Point3], Sequence[tuple[int, int, int]]], view: View
) -> list[_Face]:
    """The faces of one body that look at the eye, each all its triangles in one plane."""
    corners, triangles = np.array(body[0]), np.array(body[1])
    at = corners[triangles]
    normals = np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])
    long = np.linalg.norm(normals, axis=1)
    keep = long > 1e-9
    at, normals = at[keep], normals[keep] / long[keep, None]
    eye = np.array(view.eye)
    keep = normals @ eye > 1e-6
    at, normals = at[keep], normals[keep]
    screen = np.array([view.right, view.up]).T
    groups: dict[tuple[float, ...], list[int]] = {}
    for i, (n, p) in enumerate(zip(normals, at, strict=True)):
        key = (*(round(float(v), 3) + 0.0 for v in n), round(float(n @ p[0]), 1) + 0.0)
        groups.setdefault(key, []).append(i)
    found = []
    for mine in groups.values():
        tri = at[mine]
        flat = tri @ screen
        shape = m.CrossSection(list(flat), m.FillRule.Positive)
        low, high = flat.min(axis=(0, 1)), flat.max(axis=(0, 1))
        normal = normals[mine[0]]
        box = (float(low[0]), float(low[1]), float(high[0]), float(high[1]))
        found.append(_Face(number, normal, float(normal @ tri[0][0]), tri, flat, box, shape))
    return found


def _meet(a: tuple[float, float, float, float], b: tuple[float, float, float, float]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def _clipped(m: Any, other: _Face, face: _Face, view: View) -> CrossSection:
    """The part of a face that lies before the plane of another, on the drawing."""
    screen = np.array([view.right, view.up]).T
    shapes = []
    for triangle in other.triangles:
        reach = triangle @ face.normal - face.offset
        kept: list[Floats] = []
        for k in range(3):
            a, b, da, db = triangle[k], triangle[(k + 1) % 3], reach[k], reach[(k + 1) % 3]
            if da >= 0:
                kept.append(a)
            if (da > 0 > db) or (da < 0 < db):
                kept.append(a + (b - a) * (da / (da - db)))
        if len(kept) > 2:
            shapes.append(np.array(kept) @ screen)
    return m.CrossSection(shapes, m.FillRule.Positive)


def _patches(face: _Face, shape: CrossSection) -> list[Patch]:
    """What is left of a face, each piece by itself with its holes."""
    found = []
    for piece in shape.simplify(1e-3).decompose():
        if piece.area() < LEAST:
            continue
        rings = tuple(tuple((float(x), float(y)) for x, y in ring) for ring in piece.to_polygons())
        rings = tuple(sorted(rings, key=lambda r: -abs(area(r))))
        x, y, z = (float(v) for v in face.normal)
        found.append(Patch(face.body, (x, y, z), rings))
    return found
