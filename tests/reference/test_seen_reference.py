"""What is seen of bodies, against rays: at any point of a drawing the face told is the nearest one that a ray to the eye meets.

The rays are worked out here triangle by triangle (Moeller and Trumbore 1997, "Fast, minimum storage ray-triangle intersection") and the
outline of all by shapely.
"""

import random

import numpy as np
import pytest
from shapely.geometry import Point, Polygon
from shapely.ops import unary_union

from nullah import demo
from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.pictures import bodies
from nullah.core.planning.plan import plan
from nullah.core.shapes.seen import ABOVE, FRONT, RIGHT, looking, visible

VIEWS = {"standing": looking(28, 27), "low": looking(-70, 8), "front": FRONT, "right": RIGHT, "above": ABOVE}
NEAR = 0.02  # mm: faces nearer to each other than that are one


def of(project):
    now = plan(project)
    made = now.piece.in_hand
    return bodies.of_piece(made, now.joints.of_piece[made.id], True)


def blocks(seed):
    """Plain blocks over, beside and in one another, no two sides in one plane."""
    chance = random.Random(seed)
    edits = tuple(
        AddPart(
            id=f"p-{n}",
            label=f"p {n}",
            length=chance.randrange(1, 7) * 20.0 + 0.05 * n,
            width=chance.randrange(1, 7) * 20.0 + 0.05 * n,
            thickness=chance.randrange(1, 7) * 20.0 + 0.05 * n,
            at=tuple(chance.randrange(6) * 20.0 + 0.7 * n for _ in "xyz"),
        )
        for n in range(14)
    )
    return of(Project(pieces=(Designed(kind="free", name="Blocks", edits=edits),)))


PIECES = {
    "box": of(demo.box()),
    "table": of(piece_edits.take_in_hand(demo.project(), "2")),
    "blocks": blocks(1),
    "more blocks": blocks(2),
}


def nearest(found, view, x, y):
    """How far towards the eye the nearest triangle lies at a point of the drawing, by body, mm."""
    eye = np.array(view.eye)
    start = x * np.array(view.right) + y * np.array(view.up) - 1e5 * eye
    out = {}
    for number, body in enumerate(found):
        corners = np.array(body.corners)
        a, b, c = (corners[[t[k] for t in body.triangles]] for k in range(3))
        h = np.cross(eye, c - a)
        det = np.einsum("ij,ij->i", b - a, h)
        det[np.abs(det) < 1e-9] = np.inf
        s = start - a
        u = np.einsum("ij,ij->i", s, h) / det
        q = np.cross(s, b - a)
        v = q @ eye / det
        t = np.einsum("ij,ij->i", q, c - a) / det
        hit = (u >= 0) & (v >= 0) & (u + v <= 1) & np.isfinite(det)
        if hit.any():
            out[number] = t[hit].max()
    return out


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("name", PIECES)
def test_what_is_seen_at_a_point_is_what_lies_nearest(name, view):
    found, look = PIECES[name], VIEWS[view]
    patches = visible([(b.corners, b.flats) for b in found], look)
    shapes = [Polygon(p.rings[0], p.rings[1:]) for p in patches]
    whole = unary_union(shapes)
    assert sum(s.area for s in shapes) == pytest.approx(whole.area, rel=1e-4)  # none lies over another
    rng = np.random.default_rng(7)
    left, low, right, top = whole.bounds
    seen = 0
    for x, y in rng.uniform((left, low), (right, top), (150, 2)):
        rays = nearest(found, look, x, y)
        at = [i for i, s in enumerate(shapes) if s.buffer(-0.1).contains(Point(x, y))]
        if not at:  # outside, or on an edge
            assert not rays or any(s.buffer(0.2).contains(Point(x, y)) for s in shapes)
            continue
        assert rays[patches[at[0]].body] >= max(rays.values()) - NEAR
        seen += 1
    assert seen > 30
