"""The box standing, in parallel projection, closed or coming apart; parts can be picked, and carry their own figure."""

from __future__ import annotations

import heapq
import math

import numpy as np
from numpy.typing import NDArray

from nullah.core.document_pieces import Piece
from nullah.core.drawing import Area, Drawing, Line, Point, Primitive, Text, area
from nullah.core.joints.dovetail import NoDovetail
from nullah.core.pictures import seen
from nullah.core.pictures.wood import PartWood, woods
from nullah.core.pieces.box import Box
from nullah.core.pieces.solids import ENDS, FACES, Solid, solids
from nullah.core.plan import Plan

Floats = NDArray[np.float64]
TURN, TILT = math.radians(28), math.radians(27)  # how far one stands to the right of the front, and above it
AT_ONCE = 48  # bodies held against all others at once
TOUCH = 1e-3  # mm: bodies nearer than this touch
SHADE = {"x1": 0.16, "x0": 0.16, "y0": 0.05, "y1": 0.05, "z0": 0.2, "z1": 0.0}
SMALLEST_NAMED = 18.0  # mm: on a smaller face no name stands
CROWDED = 14  # parts: with more than this only the sides, bottom and lid are named


def _axes() -> tuple[Floats, Floats, Floats]:
    """Screen right, screen up, and towards the eye, as unit vectors."""
    eye = np.array([math.sin(TURN) * math.cos(TILT), -math.cos(TURN) * math.cos(TILT), math.sin(TILT)])
    right = np.array([math.cos(TURN), math.sin(TURN), 0.0])
    return right, np.cross(eye, right), eye


RIGHT, UP, EYE = _axes()


def picture(piece: Piece, box: Box, wood: dict[str, PartWood], apart: float = 0.0) -> Drawing:
    """The box, taken apart by ``apart`` from 0 to 1; empty where its corners cannot be laid out."""
    try:
        bodies = solids(piece, box, apart)
    except NoDovetail:
        return Drawing()
    corners = np.array([s.corners for s in bodies])
    normals = _normals(corners)
    items: list[Primitive] = []
    flat = corners @ np.stack([RIGHT, UP]).T
    for i in in_order(corners, normals):
        items += _body(bodies[i], flat[i], normals[i], wood[bodies[i].part])
    faces = [i for i in items if isinstance(i, Area) and i.tag]
    return Drawing((*items, *_names(bodies, faces)), "the box standing")


def of(plan: Plan, apart: float = 0.0) -> Drawing:
    """The piece in hand standing; empty where it cannot be made."""
    p = plan.project
    if plan.piece.box is None:
        return seen.standing(plan, apart)
    return picture(p.piece, plan.piece.box, _woods(plan), apart)


def _woods(plan: Plan) -> dict[str, PartWood]:
    """What shows of each part of the box in hand, by the box's own names."""
    pre = plan.piece.in_hand.prefix
    found = woods(plan.piece.in_hand.parts, plan.breakdown, plan.project.boards)
    return {name.removeprefix(pre): wood for name, wood in found.items()}


def _normals(corners: Floats) -> Floats:
    """Outward normals of the six faces of each body: (bodies, 6, 3)."""
    faces = corners[:, [f for f, _ in FACES]]
    n = np.cross(faces[:, :, 2] - faces[:, :, 0], faces[:, :, 3] - faces[:, :, 1])
    long = np.linalg.norm(n, axis=2, keepdims=True)
    return n / np.where(long > 0, long, 1.0)


def in_order(corners: Floats, normals: Floats) -> list[int]:
    """The bodies from the farthest to the nearest: none is drawn over one that stands before it.

    Two convex bodies that do not share space are parted by a plane of one of their faces; the one on the eye's side of it is
    nearer. Bodies whose shadows on the screen do not meet need no order.
    """
    count = len(corners)
    at = np.einsum("ifk,ifk->if", normals, corners[:, [f[0] for f, _ in FACES]])
    facing = normals @ EYE
    nearer, farther = np.zeros((count, count), bool), np.zeros((count, count), bool)
    for start in range(
        0, count, AT_ONCE
    ):  # all at once would take memory by the square of their number, many times over
        some = slice(start, start + AT_ONCE)
        reach = np.einsum("ifk,jck->ifjc", normals[some], corners, optimize=True) - at[some, :, None, None]
        outside = (reach >= -TOUCH).all(axis=3)  # face f of i has all of j before it
        nearer[some] = (outside & (facing[some] > 1e-9)[:, :, None]).any(axis=1)  # j is nearer than i
        farther[some] = (outside & (facing[some] < -1e-9)[:, :, None]).any(
            axis=1
        )  # j is behind a face of i that looks away
    before = nearer | (farther.T & ~nearer)
    flat = corners @ np.stack([RIGHT, UP]).T
    low, high = flat.min(axis=1), flat.max(axis=1)
    for axis in range(2):
        before &= (low[:, None, axis] < high[None, :, axis] - TOUCH) & (
            high[:, None, axis] > low[None, :, axis] + TOUCH
        )
    np.fill_diagonal(before, False)
    before &= ~(before & before.T)  # said both ways: they only touch
    return _sorted(before, corners.mean(axis=1) @ EYE)


def _sorted(before: NDArray[np.bool_], depth: Floats) -> list[int]:
    """An order in which each comes after all that are before it, the farthest of those ready first; where they go round in a ring
    the farthest of all breaks it."""
    waiting = before.sum(axis=0)
    ready = [(float(depth[i]), int(i)) for i in np.flatnonzero(waiting == 0)]
    heapq.heapify(ready)
    left = set(range(len(depth)))
    out: list[int] = []
    while left:
        while ready and ready[0][1] not in left:
            heapq.heappop(ready)
        one = heapq.heappop(ready)[1] if ready else min(left, key=lambda i: depth[i])
        out.append(one)
        left.discard(one)
        behind = np.flatnonzero(before[one])
        waiting[behind] -= 1
        for i in behind[waiting[behind] == 0]:
            heapq.heappush(ready, (float(depth[i]), int(i)))
    return out


def _body(s: Solid, flat: Floats, normals: Floats, wood: PartWood) -> list[Primitive]:
    """The faces that look at the eye."""
    items: list[Primitive] = []
    tag = f"part:{s.part}"
    species = wood.wood.species
    for (numbers, way), normal in zip(FACES, normals, strict=True):
        if normal @ EYE <= 1e-9:
            continue
        points = tuple((float(flat[n][0]), float(flat[n][1])) for n in numbers)
        kind = "end" if way in ENDS[s.grain] else "wood"
        items.append(Area(points, f"{kind} {species}", edge="outline", tag=tag, hint=s.part))
        if s.main and kind == "wood":
            items += _figure(s, way, flat, wood)
        if SHADE[way]:
            items.append(Area(points, "ink", opacity=SHADE[way] * 0.55))
    return items


def _figure(s: Solid, way: str, flat: Floats, wood: PartWood) -> list[Primitive]:
    """The part's own figure on its broad faces, laid along the grain."""
    size = np.ptp(np.array(s.corners), axis=0)
    along = 0 if s.grain == "x" else 1
    thin = int(np.argmin(size))
    if "xyz".index(way[0]) != thin:
        return []
    across = 3 - along - thin
    numbers = next(f for f, name in FACES if name == way)
    origin = min((s.corners[n] for n in numbers), key=lambda c: (c[across], c[along]))
    start = np.array(origin)
    u, v = np.zeros(3), np.zeros(3)
    u[along], v[across] = 1.0, 1.0
    screen = np.stack([RIGHT, UP])
    a, b, c = screen @ start, screen @ u, screen @ v
    out: list[Primitive] = []
    for item in wood.face(float(size[along]), float(size[across])):
        if isinstance(item, Line):
            run: tuple[Point, ...] = tuple(
                (float(a[0] + b[0] * x + c[0] * y), float(a[1] + b[1] * x + c[1] * y)) for x, y in item.points
            )
            out.append(Line(run, item.ink, width=0.7, detail=item.detail))
    return out


def _names(bodies: tuple[Solid, ...], faces: list[Area]) -> list[Primitive]:
    """Each part's name where it is seen: on a face of its body that nothing nearer covers there."""
    parts = list(dict.fromkeys(s.part for s in bodies))
    items: list[Primitive] = []
    for part in parts:
        if len(parts) > CROWDED and part.isdigit():
            continue
        tag = f"part:{part}"
        mine = sorted((i for i, f in enumerate(faces) if f.tag == tag), key=lambda i: -abs(area(faces[i].points)))
        spot = next((p for i in mine for p in _spots(faces[i]) if _seen(p, faces[i + 1 :])), None)
        if spot is not None:
            items.append(Text(spot, part, size=14, bold=True, halo=True, tag=tag))
    return items


def _spots(face: Area) -> list[Point]:
    """Places for a name on a face: its middle, then nearer its corners."""
    count = len(face.points)
    cx, cy = sum(p[0] for p in face.points) / count, sum(p[1] for p in face.points) / count
    size = max(abs(p[0] - cx) + abs(p[1] - cy) for p in face.points)
    if size < SMALLEST_NAMED:
        return []
    return [(cx, cy), *((cx + 0.6 * (x - cx), cy + 0.6 * (y - cy)) for x, y in face.points)]


def _seen(at: Point, nearer: list[Area]) -> bool:
    return not any(_inside(at, f.points) for f in nearer)


def _inside(at: Point, points: tuple[Point, ...]) -> bool:
    """Whether a point lies in a convex polygon."""
    turns = [
        (bx - ax) * (at[1] - ay) - (by - ay) * (at[0] - ax)
        for (ax, ay), (bx, by) in zip(points, (*points[1:], points[0]), strict=True)
    ]
    return min(turns) >= 0 or max(turns) <= 0
