"""What is seen of closed bodies from one direction, as outlines: each face that looks at the eye, less what stands before it.

Right for any bodies, those that go into each other's hollows too: a nearer face is clipped at the plane of the farther one before it is
taken away, so that nothing depends on an order of painting.
"""

from __future__ import annotations

import atexit
import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from nullah.core.drawing import Point, area
from nullah.core.frozen import frozen
from nullah.core.shapes.cut import GRID, Point3
from nullah.core.shapes.solid import Flat

if TYPE_CHECKING:
    from manifold3d import CrossSection

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]  # left, low, right, top
TOUCH = 1e-2  # mm: nearer than this, faces lie in one plane
KEPT = 2_000  # shapes in a view whose faces are remembered
AT_ONCE = 256  # faces held against all others at once
SINGLY, TOGETHER = 24, 48  # what stands before a face is taken from it one by one, after so many together
NO_ROOM = 1e-6  # mm2 by which an outline that is its own box differs from it
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
    points: Floats  # (count, 3), its corners in space
    back: Floats  # (3, 3): from right, up and the offset of the face's plane to the point in space
    box: Box
    shape: CrossSection


def visible(bodies: Sequence[tuple[Sequence[Point3], Sequence[Flat]]], view: View) -> tuple[Patch, ...]:
    """The patches that are seen of closed bodies, each given as corners and flat faces."""
    import manifold3d

    at = [np.array(corners) for corners, _ in bodies]
    by_body = [_faces(manifold3d, i, body, view) for i, body in enumerate(bodies)]
    faces = [f for mine in by_body for f in mine]
    if not faces:
        return ()
    whole = [_outline(manifold3d, mine) for mine in by_body]
    whole_boxes = [box for box, _ in whole]
    upright = np.array([(b[2] - b[0]) * (b[3] - b[1]) - shape.area() < NO_ROOM for b, shape in whole])
    own = np.array([f.body for f in faces])
    found = []
    for start in range(0, len(faces), AT_ONCE):  # all at once would take memory by the square of their number
        some = faces[start : start + AT_ONCE]
        low, high = _ranges(some, [f.points for f in faces])
        body_low, body_high = _ranges(some, at)
        meet, meet_whole = _meets(some, [f.box for f in faces]), _meets(some, whole_boxes)
        meet[np.arange(len(some)), np.arange(start, start + len(some))] = False
        among = own[start : start + len(some), None] == np.arange(len(bodies))[None, :]
        wholly = meet_whole & ~among & (body_high > TOUCH) & (body_low >= -TOUCH)
        partly = meet_whole & (among | ((body_high > TOUCH) & ~wholly))
        pairs = meet & (high > TOUCH) & partly[:, own]
        covered = (wholly & upright[None, :] & _lies_in(some, whole_boxes)).any(axis=1)
        for i, face in enumerate(some):
            if covered[i]:  # by the rectangle that a body in front of it is from here
                continue
            before: list[tuple[Box, CrossSection, _Face | None]] = [
                (*whole[n], None) for n in np.flatnonzero(wholly[i])
            ]
            for j in np.flatnonzero(pairs[i]):
                other = faces[j]
                before.append((other.box, other.shape, None if low[i, j] >= -TOUCH else other))
            found += _patches(face, _less(manifold3d, face, before))
    return tuple(found)


def _ranges(some: list[_Face], points: list[Floats]) -> tuple[Floats, Floats]:
    """How far each set of points reaches before the plane of each of some faces: (some, sets) the least and the most, mm."""
    normals, offsets = np.array([f.normal for f in some]), np.array([f.offset for f in some])
    reach = normals @ np.concatenate(points).T - offsets[:, None]
    starts = np.cumsum([0, *(len(p) for p in points[:-1])])
    return np.minimum.reduceat(reach, starts, axis=1), np.maximum.reduceat(reach, starts, axis=1)


def _meets(faces: list[_Face], boxes: list[Box]) -> NDArray[np.bool_]:
    """Whether the box of each face and each of the boxes share room on the drawing: (faces, boxes)."""
    a, b = np.array([f.box for f in faces])[:, None, :], np.array(boxes)[None, :, :]
    met: NDArray[np.bool_] = (
        (a[..., 0] < b[..., 2]) & (b[..., 0] < a[..., 2]) & (a[..., 1] < b[..., 3]) & (b[..., 1] < a[..., 3])
    )
    return met


def _lies_in(faces: list[_Face], boxes: list[Box]) -> NDArray[np.bool_]:
    """Whether the box of each face lies in each of the boxes: (faces, boxes)."""
    a, b = np.array([f.box for f in faces])[:, None, :], np.array(boxes)[None, :, :]
    lies: NDArray[np.bool_] = np.logical_and(
        (a[..., :2] >= b[..., :2]).all(axis=2), (a[..., 2:] <= b[..., 2:]).all(axis=2)
    )
    return lies


def _outline(m: Any, faces: list[_Face]) -> tuple[Box, CrossSection]:
    """All that a body covers on the drawing, and the box round it."""
    boxes = [f.box for f in faces] or [(0.0, 0.0, 0.0, 0.0)]
    box = (min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes))
    return box, m.CrossSection.batch_boolean([f.shape for f in faces], m.OpType.Add) if faces else m.CrossSection()


def _less(m: Any, face: _Face, before: list[tuple[Box, CrossSection, _Face | None]]) -> CrossSection:
    """A face less what stands before it; nothing more is asked once nothing is left. What stands wholly before it comes first, the
    largest of it first; what stands partly before it is clipped at its plane."""
    shape = face.shape
    before.sort(key=lambda b: (b[2] is not None, -(b[0][2] - b[0][0]) * (b[0][3] - b[0][1])))
    at = 0
    while at < len(before) and not shape.is_empty():
        room, some = shape.bounds(), before[at : at + (1 if at < SINGLY else TOGETHER)]
        nearer = [other if clipped is None else _clipped(m, clipped, face, room) for _, other, clipped in some]
        there = [n for n in nearer if n is not None]
        if len(there) == 1:
            shape = shape - there[0]
        elif there:
            shape = m.CrossSection.batch_boolean([shape, *there], m.OpType.Subtract)
        at += len(some)
    return shape


_known: OrderedDict[tuple[int, View, bytes], tuple[Sequence[Flat], Floats, list[_Face]]] = OrderedDict()
atexit.register(_known.clear)  # the solid engine complains of outlines that are still there after it


def _faces(m: Any, number: int, body: tuple[Sequence[Point3], Sequence[Flat]], view: View) -> list[_Face]:
    """The flats of one body that look at the eye. They are remembered for its shape and the way it lies: of one that only stands
    elsewhere they are moved there."""
    corners, flats = np.array(body[0]), body[1]
    if not len(corners):
        return []
    key = (id(flats), view, (np.round(corners - corners[0], GRID) + 0.0).tobytes())
    kept = _known.get(key)
    if kept is None:
        kept = _known[key] = (flats, corners[0], _looking(m, number, corners, flats, view))
        while len(_known) > KEPT:
            _known.popitem(last=False)
    by = corners[0] - kept[1]
    if not by.any():
        return [f if f.body == number else replace(f, body=number) for f in kept[2]]
    x, y = float(by @ np.array(view.right)), float(by @ np.array(view.up))
    return [_elsewhere(f, number, by, x, y) for f in kept[2]]


def _elsewhere(face: _Face, number: int, by: Floats, x: float, y: float) -> _Face:
    """The same face of a body that stands elsewhere: moved in space, and right and up on the drawing."""
    left, low, right, top = face.box
    offset = face.offset + float(face.normal @ by)
    box = (left + x, low + y, right + x, top + y)
    return _Face(number, face.normal, offset, face.points + by, face.back, box, face.shape.translate((x, y)))


def _looking(m: Any, number: int, corners: Floats, flats: Sequence[Flat], view: View) -> list[_Face]:
    if not flats:
        return []
    three = corners[[f.triangle for f in flats]]
    normals = _cross(three[:, 1] - three[:, 0], three[:, 2] - three[:, 0])
    normals /= np.sqrt((normals * normals).sum(axis=1))[:, None]
    right, up, eye = (np.array(w) for w in (view.right, view.up, view.eye))
    flat = corners @ np.array([right, up]).T
    towards = normals @ eye
    seen = np.flatnonzero(towards > 1e-6)
    if not len(seen):
        return []
    facing = towards[seen, None]
    back = np.empty(
        (len(seen), 3, 3)
    )  # a point of the face's plane is right and up on the drawing, and so far towards the eye
    back[:, :, 0] = right - (normals[seen] @ right)[:, None] / facing * eye
    back[:, :, 1] = up - (normals[seen] @ up)[:, None] / facing * eye
    back[:, :, 2] = eye / facing
    found = []
    for i, turned in zip(seen.tolist(), back, strict=True):
        numbers = [n for ring in flats[i].rings for n in ring]
        shape = m.CrossSection([flat[list(ring)] for ring in flats[i].rings], m.FillRule.Positive)
        on = flat[numbers].tolist()
        xs, ys = [p[0] for p in on], [p[1] for p in on]
        normal = normals[i]
        box = (min(xs), min(ys), max(xs), max(ys))
        found.append(_Face(number, normal, float(normal @ three[i, 0]), corners[numbers], turned, box, shape))
    return found


def _cross(a: Floats, b: Floats) -> Floats:
    """The cross products of rows (n, 3)."""
    out = np.empty_like(a)
    for i, j, k in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        out[:, i] = a[:, j] * b[:, k] - a[:, k] * b[:, j]
    return out


def _clipped(m: Any, other: _Face, face: _Face, room: Box) -> CrossSection | None:
    """What of another face lies before the plane of a face, on the drawing where it meets what is left of that in ``room``: within its
    own plane that is all on one side of a line. None where it is nothing."""
    x, y, at = (float(v) for v in face.normal @ other.back)
    rest = at * other.offset - face.offset  # how far before the plane: x * right + y * up + rest
    left, low = max(room[0], other.box[0]), max(room[1], other.box[1])
    right, top = min(room[2], other.box[2]), min(room[3], other.box[3])
    if left >= right or low >= top:
        return None
    least = rest + min(x * left, x * right) + min(y * low, y * top)
    most = rest + max(x * left, x * right) + max(y * low, y * top)
    if most <= TOUCH:
        return None
    if least >= -TOUCH:
        return other.shape
    long = math.hypot(x, y)
    out = np.array([x, y]) / long
    along = np.array([-out[1], out[0]])
    far = 4 * max(abs(v) for v in other.box) + abs(rest) / long + 1.0
    start = out * (-rest / long)
    half = [start - along * far, start + out * far * 2 - along * far, start + out * far * 2 + along * far]
    return other.shape ^ m.CrossSection([[*half, start + along * far]], m.FillRule.NonZero)


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
