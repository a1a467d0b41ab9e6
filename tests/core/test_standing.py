"""The box standing: bodies that share no space, drawn so that what is nearer covers what is farther."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nullah.core import demo, edit
from nullah.core.drawing import Area
from nullah.core.pictures import standing
from nullah.core.pieces.box import corner_layout, corners
from nullah.core.pieces.solids import FACES, MOST_BODIES, many_bodies, solids
from nullah.core.plan import plan

PROJECT = demo.project()
PLAN = plan(PROJECT)


def volume(body):
    """By the divergence theorem over the six faces, each two triangles."""
    c = np.array(body.corners)
    total = 0.0
    for (i, j, k, m), _ in FACES:
        total += np.dot(c[i], np.cross(c[j], c[k])) + np.dot(c[i], np.cross(c[k], c[m]))
    return total / 6


def test_the_bodies_of_a_side_make_up_the_board_less_its_sockets():
    box = PLAN.piece.box
    bodies = solids(PROJECT.piece, box)
    length, width, height = box.outside
    t = box.thickness
    walls = sum(volume(b) for b in bodies if b.part in "ABCD")
    # the four walls closed fill the ring, but for the room above the lowered end between A and C
    ring = length * width * height - (length - t["B"] - t["D"]) * (width - t["A"] - t["C"]) * height
    gone = (height - box.part("B").width) * t["B"] * (width - t["A"] - t["C"])
    assert walls == pytest.approx(ring - gone, rel=1e-9)
    _, tail, pin, joint_width = corners(box)[3]
    joint = corner_layout(PROJECT.piece, box, tail, pin, joint_width)
    tails = [b for b in bodies if b.part == "A" and not b.main and b.corners[0][0] < 1]
    assert len(tails) == joint.tails
    assert all(volume(b) > 0 for b in bodies)


@settings(max_examples=25)
@given(st.floats(0, 1), st.floats(60, 400), st.integers(0, 5), st.sampled_from(["sliding", "lift-off", "none"]))
def test_property_nothing_nearer_is_drawn_before_what_it_covers(apart, wide, dividers, lid):
    project = edit.set_piece(edit.set_piece(PROJECT, "dividers", dividers), "lid", lid)
    project = edit.set_piece(project, "contents.width", wide)
    now = plan(project)
    bodies = solids(project.piece, now.piece.box, apart)
    corners_ = np.array([b.corners for b in bodies])
    order = standing.in_order(corners_, standing._normals(corners_))
    assert sorted(order) == list(range(len(bodies)))
    # an outside check: along a ray to the eye from a body's middle, whatever body it enters is drawn later
    rank = np.empty(len(bodies), dtype=int)
    rank[order] = np.arange(len(bodies))
    normals = standing._normals(corners_)
    at = corners_[:, [f[0] for f, _ in FACES]]
    slope = normals @ standing.EYE
    for i, middle in enumerate(corners_.mean(axis=1)):
        off = np.einsum("jfk,jfk->jf", normals, at - middle)
        with np.errstate(divide="ignore", invalid="ignore"):
            where = off / slope
        leaves = np.where(slope > 1e-12, where, np.inf).min(axis=1)
        enters = np.where(slope < -1e-12, where, -np.inf).max(axis=1)
        beside = ((abs(slope) <= 1e-12) & (off < 1e-6)).any(axis=1)
        hit = (leaves - np.maximum(enters, 0) > 0.1) & ~beside & (enters > 0.05)
        hit[i] = False
        assert (rank[hit] > rank[i]).all()


def test_every_part_can_be_picked_when_it_stands_open():
    drawing = standing.of(PLAN, 0.8)
    tags = {i.tag for i in drawing.items if isinstance(i, Area) and i.tag}
    assert tags == {f"part:{p.id}" for p in PLAN.piece.parts}


def test_a_piece_of_thousands_of_tails_is_drawn_plain():
    """Nineteen metres high: without its tails and pins, so that no picture takes memory by the square of their number."""
    tall = edit.set_piece(PROJECT, "contents.height", 19_000.0)
    now = plan(tall)
    assert many_bodies(tall.piece, now.piece.box) > 2_000
    bodies = solids(tall.piece, now.piece.box)
    assert len(bodies) <= MOST_BODIES
    assert {b.part for b in bodies} == {p.id for p in now.piece.parts}
    assert len(standing.of(now).items) < 5_000
