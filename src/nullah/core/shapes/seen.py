"""What is seen of closed bodies from one direction, as outlines: each face that looks at the eye, less what stands before it.

Right for any bodies, those that go into each other's hollows too: a nearer face is clipped at the plane of the farther one before it is
taken away, so that nothing depends on an order of painting.
"""

from __future__ import annotations

import atexit
import math
from collections import OrderedDict
from collections.abc import Callable, Sequence
from typing import Any, TypeAlias

from nullah.core.drawing.display_list import Point
from nullah.core.shapes.cut import GRID, Point3
from nullah.core.shapes.outlines import (
    NOWHERE,
    Box,
    Outline,
    Rings,
    box_less,
    box_within,
    is_box,
    moved_box,
    nothing,
    pieces,
    section,
    shifted,
    translated,
)
from nullah.core.shapes.solid import Flat, crossed
from nullah.core.values.arrays import Bools, Floats, np
from nullah.core.values.frozen import frozen, replace

TOUCH = 1e-2  # mm: nearer than this, faces lie in one plane
KEPT = 2_000  # shapes in a view whose faces are remembered
AT_ONCE = 256  # faces held against all others at once
POINTS_AT_ONCE = 200_000  # points held against planes at once
STRAIGHT = 1 - 1e-9  # cosine: a face that looks at the eye by more than this is all as near to it
LARGEST = 16  # bodies that are tried for what stands behind them
SINGLY, TOGETHER = 24, 48  # what stands before a face is taken from it one by one, after so many together


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


# how far a plane stands before another: so much for each mm right and up, and so much at the origin
Rise: TypeAlias = tuple[float, float, float]
# what stands before a face, in the order it is taken away: whether it is partly behind that, its box's area as less than nothing, a
# number of its own, its box, all of it, and how far it stands before the face where it is partly behind
Before: TypeAlias = "tuple[bool, float, int, Box, Outline, Rise | None]"


@frozen
class _Face:
    """A flat face of a body that looks at the eye."""

    body: int
    normal: Floats
    offset: float
    points: Floats  # (count, 3), its corners in space
    back: Floats  # (3, 3): from right, up and the offset of the face's plane to the point in space
    box: Box
    shape: Outline
    moved: Point  # on the drawing, from where the body stood when it was first seen
    whole: list[Rings]  # what is seen of it there where nothing stands before it, once that is asked


@frozen
class _Silhouette:
    """A body from one side: the faces that look at the eye, all that it covers, the box round that, a large box within it."""

    corners: Floats
    faces: list[_Face]
    box: Box
    shape: Outline
    within: Box


def visible(bodies: Sequence[tuple[Sequence[Point3] | Floats, Sequence[Flat]]], view: View) -> tuple[Patch, ...]:
    """The patches that are seen of closed bodies, each given as corners and flat faces."""
    import manifold3d

    at = _Sets([corners for corners, _ in bodies])
    silhouettes: dict[int, _Silhouette] = {}

    def silhouette(number: int) -> _Silhouette:
        if number not in silhouettes:
            silhouettes[number] = _faces(manifold3d, number, at.of(number), bodies[number][1], view)
        return silhouettes[number]

    hidden = _behind_one(manifold3d, at, view, silhouette)
    whole = [silhouette(n) for n in range(len(bodies)) if not hidden[n]]
    faces = [f for body in whole for f in body.faces]
    if not faces:
        return ()
    at = _Sets([body.corners for body in whole])
    boxes, whole_boxes = np.array([f.box for f in faces]), np.array([body.box for body in whole])
    covers = np.array([body.within for body in whole])
    small, whole_small = _smallness(boxes), _smallness(whole_boxes)
    corners = _Sets([f.points for f in faces])
    own = np.repeat(np.arange(len(whole)), [len(body.faces) for body in whole])  # of each face, among those not hidden
    found = []
    for start in range(0, len(faces), AT_ONCE):  # all at once would take memory by the square of their number
        some = faces[start : start + AT_ONCE]
        box = boxes[start : start + AT_ONCE]
        itself = np.arange(len(some)), np.arange(start, start + len(some))
        among = own[start : start + len(some), None] == np.arange(len(whole))[None, :]
        meet_whole = _meets(box, whole_boxes)
        low, high = at.ranges(some, meet_whole)
        wholly = meet_whole & ~among & (high > TOUCH) & (low >= -TOUCH)
        partly = meet_whole & (among | ((high > TOUCH) & ~wholly))
        covered = (wholly & _lies_in(box, covers)).any(axis=1)
        meet = _meets(box, boxes) & partly[:, own] & ~covered[:, None]
        meet[itself] = False
        low, high = corners.ranges(some, meet)
        pairs = meet & (high > TOUCH)
        clipped = _astride(some, faces, boxes, pairs, low < -TOUCH)
        hiding: list[list[Before]] = [[] for _ in some]
        for i, n in zip(*(one.tolist() for one in np.nonzero(wholly & ~covered[:, None])), strict=True):
            hiding[i].append((False, whole_small[n], n - len(whole), whole[n].box, whole[n].shape, None))
        for i, j in zip(*(one.tolist() for one in np.nonzero(pairs)), strict=True):
            rise = clipped.get((i, j))
            hiding[i].append((rise is not None, small[j], j, faces[j].box, faces[j].shape, rise))
        for face, before, gone in zip(some, hiding, covered.tolist(), strict=True):
            if gone:
                continue
            found += _patches(face, _less(manifold3d, face, before)) if before else _untouched(face)
    return tuple(found)


class _Sets:
    """Sets of points in space one after the other, so that all are held against planes at once."""

    def __init__(self, sets: Sequence[Any]) -> None:
        self.counts = np.array([len(s) for s in sets], dtype=int)
        self.starts = np.cumsum(self.counts) - self.counts
        self.points = np.concatenate([np.asarray(s, dtype=float).reshape(-1, 3) for s in sets] or [np.empty((0, 3))])

    def of(self, number: int) -> Floats:
        """The points of one set."""
        return self.points[self.starts[number] : self.starts[number] + self.counts[number]]

    def ranges(self, some: list[_Face], asked: Bools) -> tuple[Floats, Floats]:
        """How far each set reaches before the plane of each of some faces: (some, sets) the least and the most, mm, where ``asked``."""
        normals, offsets = np.array([f.normal for f in some]), np.array([f.offset for f in some])
        low, high = np.full(asked.shape, np.inf), np.full(asked.shape, -np.inf)
        face, number = np.nonzero(asked & (self.counts > 0)[None, :])
        ends = np.cumsum(self.counts[number])
        first = 0
        while first < len(face):  # so many points at once as are kept in a few MiB
            last = max(first + 1, int(np.searchsorted(ends, (ends[first - 1] if first else 0) + POINTS_AT_ONCE)))
            i, j = face[first:last], number[first:last]
            counts = self.counts[j]
            begin = np.cumsum(counts) - counts
            which = np.arange(int(counts.sum())) + np.repeat(self.starts[j] - begin, counts)
            reach = np.einsum("ij,ij->i", self.points[which], np.repeat(normals[i], counts, axis=0))
            reach -= np.repeat(offsets[i], counts)
            low[i, j], high[i, j] = np.minimum.reduceat(reach, begin), np.maximum.reduceat(reach, begin)
            first = last
        return low, high


def _astride(
    some: list[_Face], faces: list[_Face], boxes: Floats, pairs: Bools, behind: Bools
) -> dict[tuple[int, int], Rise]:
    """Of pairs of a face and another that is partly ``behind`` its plane: how far the other stands before it at each point of the
    drawing. Where they meet on the drawing it may be wholly before, which is no such pair; or nowhere: it is taken out of ``pairs``."""
    i, j = np.nonzero(pairs & behind)
    if not len(i):
        return {}
    back, offset = np.array([f.back for f in faces]), np.array([f.offset for f in faces])
    rise = np.einsum("na,nab->nb", np.array([f.normal for f in some])[i], back[j])
    rise[:, 2] = rise[:, 2] * offset[j] - np.array([f.offset for f in some])[i]
    mine = np.array([f.box for f in some])[i]
    low, high = np.maximum(mine[:, :2], boxes[j, :2]), np.minimum(mine[:, 2:], boxes[j, 2:])
    ends = rise[:, :2] * low, rise[:, :2] * high
    least, most = (rise[:, 2] + how(*ends).sum(axis=1) for how in (np.minimum, np.maximum))
    none = most <= TOUCH
    pairs[i[none], j[none]] = False
    astride = np.flatnonzero(~none & (least < -TOUCH))
    return {
        (a, b): (x, y, z)
        for a, b, (x, y, z) in zip(i[astride].tolist(), j[astride].tolist(), rise[astride].tolist(), strict=True)
    }


def _behind_one(m: Any, at: _Sets, view: View, silhouette: Callable[[int], _Silhouette]) -> Bools:
    """Which bodies stand wholly behind one of the largest, or behind a face of it that looks straight at the eye. What is behind those
    is hidden as well, so that nothing of them need be asked."""
    hidden = np.zeros(len(at.counts), dtype=bool)
    there = np.flatnonzero(at.counts)
    if not len(there):
        return hidden
    on = at.points @ np.array([view.right, view.up, view.eye]).T
    low, high = (how.reduceat(on, at.starts[there], axis=0) for how in (np.minimum, np.maximum))
    boxes, near = np.concatenate([low[:, :2], high[:, :2]], axis=1), high[:, 2]
    size = (boxes[:, 2] - boxes[:, 0]) * (boxes[:, 3] - boxes[:, 1])
    for one in np.argsort(-size, kind="stable")[:LARGEST]:
        if hidden[there[one]] or not (_lies_in(boxes, boxes[one : one + 1])[:, 0] & (near < near[one])).any():
            continue
        body = silhouette(int(there[one]))
        screens = [(body.within, low[one, 2] + TOUCH)]
        for face in body.faces:
            if float(face.normal @ np.array(view.eye)) > STRAIGHT:
                screens.append((box_within(m, face.box, face.shape), face.offset - TOUCH))
        for within, depth in screens:
            behind = (near <= depth) & _lies_in(boxes, np.array([within]))[:, 0]
            behind[one] = False
            hidden[there[behind]] = True
    return hidden


def _meets(a: Floats, b: Floats) -> Bools:
    """Whether boxes share room on the drawing: (a, b)."""
    a, b = a[:, None, :], b[None, :, :]
    met: Bools = (a[..., 0] < b[..., 2]) & (b[..., 0] < a[..., 2]) & (a[..., 1] < b[..., 3]) & (b[..., 1] < a[..., 3])
    return met


def _lies_in(a: Floats, b: Floats) -> Bools:
    """Whether boxes lie in boxes: (a, b)."""
    a, b = a[:, None, :], b[None, :, :]
    lies: Bools = (
        (a[..., 0] >= b[..., 0]) & (a[..., 1] >= b[..., 1]) & (a[..., 2] <= b[..., 2]) & (a[..., 3] <= b[..., 3])
    )
    return lies


def _smallness(boxes: Floats) -> list[float]:
    """The areas of boxes (n, 4), as less than nothing: the largest sorts first."""
    areas: list[float] = (-(boxes[:, 2] - boxes[:, 0]) * (boxes[:, 3] - boxes[:, 1])).tolist()
    return areas


def _less(m: Any, face: _Face, before: list[Before]) -> Outline:
    """A face less what stands before it; nothing more is asked once nothing is left. What stands wholly before it comes first, the
    largest of it first; what stands partly before it is clipped at its plane."""
    shape: Outline = face.shape
    before.sort()
    for one in before[:SINGLY]:
        nearer = _nearer(m, one, shape)
        if nearer is None:
            continue
        left = box_less(shape, nearer) if isinstance(shape, tuple) and isinstance(nearer, tuple) else None
        shape = section(m, shape) - section(m, nearer) if left is None else left
        if nothing(shape):
            return shape
    for at in range(SINGLY, len(before), TOGETHER):
        there = [n for one in before[at : at + TOGETHER] if (n := _nearer(m, one, shape)) is not None]
        if there:
            shape = m.CrossSection.batch_boolean([section(m, n) for n in (shape, *there)], m.OpType.Subtract)
        if nothing(shape):
            return shape
    return shape


def _nearer(m: Any, one: Before, shape: Outline) -> Outline | None:
    """Of what stands before a face, what is nearer than its plane where ``shape`` is left of it; None where nothing is."""
    _, _, _, box, other, rise = one
    if rise is None:
        return other
    return _clipped(m, box, other, rise, shape if isinstance(shape, tuple) else shape.bounds())


_known: OrderedDict[tuple[int, View, bytes], tuple[Sequence[Flat], _Silhouette]] = OrderedDict()
atexit.register(_known.clear)  # the solid engine complains of outlines that are still there after it


def _faces(m: Any, number: int, corners: Floats, flats: Sequence[Flat], view: View) -> _Silhouette:
    """The flats of one body that look at the eye, and all that it covers. They are remembered for its shape and the way it lies: of one
    that only stands elsewhere they are moved there."""
    if not len(corners):
        return _outlined(m, corners, [])
    key = (id(flats), view, (np.round(corners - corners[0], GRID) + 0.0).tobytes())
    kept = _known.get(key)
    if kept is None:
        kept = _known[key] = (flats, _outlined(m, corners, _looking(m, number, corners, flats, view)))
        while len(_known) > KEPT:
            _known.popitem(last=False)
    known = kept[1]
    by = corners[0] - known.corners[0]
    if not by.any():
        if known.faces and known.faces[0].body == number:
            return known
        return replace(known, faces=[replace(f, body=number) for f in known.faces])
    x, y = float(by @ np.array(view.right)), float(by @ np.array(view.up))
    faces = [_elsewhere(f, number, by, x, y) for f in known.faces]
    box, inner = moved_box(known.box, x, y), moved_box(known.within, x, y)
    return _Silhouette(corners, faces, box, translated(known.shape, x, y), inner)


def _outlined(m: Any, corners: Floats, faces: list[_Face]) -> _Silhouette:
    """A body's faces with all that they cover on the drawing, and the boxes round and within it."""
    if not faces:
        return _Silhouette(corners, faces, NOWHERE, NOWHERE, NOWHERE)
    if len(faces) == 1:
        return _Silhouette(corners, faces, faces[0].box, faces[0].shape, box_within(m, faces[0].box, faces[0].shape))
    boxes = [f.box for f in faces]
    box = (min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes))
    shape = m.CrossSection.batch_boolean([section(m, f.shape) for f in faces], m.OpType.Add)
    return _Silhouette(corners, faces, box, shape, box_within(m, box, shape))


def _elsewhere(face: _Face, number: int, by: Floats, x: float, y: float) -> _Face:
    """The same face of a body that stands elsewhere: moved in space, and right and up on the drawing."""
    offset = face.offset + float(face.normal @ by)
    box = moved_box(face.box, x, y)
    shape = translated(face.shape, x, y)
    moved = (face.moved[0] + x, face.moved[1] + y)
    return _Face(number, face.normal, offset, face.points + by, face.back, box, shape, moved, face.whole)


def _looking(m: Any, number: int, corners: Floats, flats: Sequence[Flat], view: View) -> list[_Face]:
    if not flats:
        return []
    three = corners[[f.triangle for f in flats]]
    normals = crossed(three[:, 1] - three[:, 0], three[:, 2] - three[:, 0])
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
    offsets = (normals * three[:, 0]).sum(axis=1).tolist()
    looked_at = [flats[i] for i in seen.tolist()]
    index = [n for face in looked_at for n in face.around]
    points, drawn = corners[index], flat[index]
    places = drawn.tolist()
    found, end = [], 0
    for i, face, turned in zip(seen.tolist(), looked_at, back, strict=True):
        start, end = end, end + len(face.around)
        on = places[start:end]
        xs, ys = zip(*on, strict=True)
        box = (min(xs), min(ys), max(xs), max(ys))
        shape: Outline = box if is_box(on, box) else _section(m, face, drawn[start:end])
        found.append(_Face(number, normals[i], offsets[i], points[start:end], turned, box, shape, (0.0, 0.0), []))
    return found


def _section(m: Any, face: Flat, drawn: Floats) -> Outline:
    """A face on the drawing, whose corners lie there one ring after the other."""
    rings, at = [], 0
    for ring in face.rings:
        rings.append(drawn[at : at + len(ring)])
        at += len(ring)
    return m.CrossSection(rings, m.FillRule.Positive)


def _clipped(m: Any, box: Box, other: Outline, rise: Rise, room: Box) -> Outline | None:
    """What of another face lies before the plane of a face, on the drawing where it meets what is left of that in ``room``: within its
    own plane that is all on one side of a line. None where it is nothing."""
    x, y, rest = rise
    left, low = max(room[0], box[0]), max(room[1], box[1])
    right, top = min(room[2], box[2]), min(room[3], box[3])
    if left >= right or low >= top:
        return None
    least = rest + min(x * left, x * right) + min(y * low, y * top)
    most = rest + max(x * left, x * right) + max(y * low, y * top)
    if most <= TOUCH:
        return None
    if least >= -TOUCH:
        return other
    long = math.hypot(x, y)
    u, v = x / long, y / long  # out of the plane
    far = 4 * max(abs(one) for one in box) + abs(rest) / long + 1.0
    a, b = -u * rest / long, -v * rest / long
    near = (a + v * far, b - u * far), (a - v * far, b + u * far)
    half = [near[0], *((p + 2 * u * far, q + 2 * v * far) for p, q in near), near[1]]
    return section(m, other) ^ m.CrossSection([half], m.FillRule.NonZero)


def _patches(face: _Face, shape: Outline) -> list[Patch]:
    """What is left of a face, each piece by itself with its holes."""
    return [Patch(face.body, _way(face), rings) for rings in pieces(shape)]


def _untouched(face: _Face) -> list[Patch]:
    """The whole of a face. It is remembered with the face."""
    x, y = face.moved
    if not face.whole:
        face.whole.extend(shifted(rings, -x, -y) for rings in pieces(face.shape))
    return [Patch(face.body, _way(face), shifted(rings, x, y)) for rings in face.whole]


def _way(face: _Face) -> Point3:
    x, y, z = face.normal.tolist()
    return (x, y, z)
