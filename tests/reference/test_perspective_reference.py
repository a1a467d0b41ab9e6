"""Perspective taken out of a photograph, and a board's end as it dries, against what geometry says of them."""

import math
import random
from itertools import pairwise

import numpy as np
import pytest
from PIL import Image, ImageDraw

from nullah.core.surface.perspective import convex, plane_map, squared, through
from nullah.core.wood.moisture import change
from nullah.core.wood.rings import Wood
from nullah.core.wood.species import species
from nullah.core.wood.warp import end_changes, warped

LENGTH, WIDTH = 1600.0, 200.0


def pinhole(points, turn, tilt, far, focus=1400.0, middle=(800.0, 450.0)):
    """Points (x, y) mm of a board, y down from its upper edge, seen by a pinhole camera: turned and tilted, its middle ``far``
    away; pixels. Textbook perspective: focus times sideways over depth."""
    out = []
    for x, y in points:
        u, v = x - LENGTH / 2, y - WIDTH / 2
        u, w = u * math.cos(turn), u * math.sin(turn)
        v, w = v * math.cos(tilt), w + v * math.sin(tilt)
        out.append((middle[0] + focus * u / (far + w), middle[1] + focus * v / (far + w)))
    return out


CORNERS = [(0, 0), (LENGTH, 0), (LENGTH, WIDTH), (0, WIDTH)]


@pytest.mark.parametrize("seed", range(20))
def test_a_grid_seen_askew_lies_where_it_is(seed):
    rng = random.Random(seed)
    pose = rng.uniform(-0.5, 0.5), rng.uniform(-0.8, 0.8), rng.uniform(1500, 3000)
    back = np.linalg.inv(plane_map(CORNERS, pinhole(CORNERS, *pose)))
    grid = [(x, y) for x in range(0, 1601, 100) for y in range(0, 201, 50)]
    for was, now in zip(grid, through(back, pinhole(grid, *pose)), strict=True):
        assert now == pytest.approx(was, abs=1e-6)


def test_a_rendered_grid_is_squared_within_half_a_percent_of_its_length():
    pose = 0.35, -0.6, 1900.0
    seen = pinhole(CORNERS, *pose)
    image = Image.new("RGB", (1600, 900), (90, 110, 90))
    draw = ImageDraw.Draw(image)
    draw.polygon(seen, fill=(225, 200, 150))
    lines = range(100, 1600, 100)
    for x in lines:
        draw.line(pinhole([(x, 0), (x, WIDTH)], *pose), fill=(40, 20, 10), width=3)
    out = squared(np.asarray(image, dtype=float), seen, 1600, 200)
    dark = 255 - out[60:140].mean(axis=(0, 2))  # one pixel a millimetre: where the lines of the grid come to lie
    for x in lines:
        near = dark[x - 20 : x + 20] - np.median(dark)
        near = np.maximum(near, 0)
        found = x - 20 + float((near * (np.arange(40) + 0.5)).sum() / near.sum())
        assert abs(found - x) <= 0.005 * LENGTH / 4  # a quarter of what is asked


def test_corners_in_another_order_are_no_corners():
    square = [(0, 0), (100, 0), (100, 50), (0, 50)]
    assert convex(square)
    assert not convex(square[::-1])  # the board seen in a mirror
    assert not convex([square[0], square[2], square[1], square[3]])
    assert not convex([(0, 0), (50, 0), (100, 0), (0, 50)])


def test_rings_shorten_along_themselves_and_come_nearer_as_the_species_says():
    # polar coordinates: an arc of a ring changes by the tangential share, the way between two rings by the radial one
    radial, tangential, pith = -0.03, -0.08, (10.0, -60.0)
    arc = [(pith[0] + 90 * math.cos(a), pith[1] + 90 * math.sin(a)) for a in np.linspace(1.2, 1.9, 400)]
    ray = [(pith[0] + r * math.cos(1.5), pith[1] + r * math.sin(1.5)) for r in np.linspace(70, 110, 400)]
    for line, share in ((arc, tangential), (ray, radial)):
        before = sum(math.dist(a, b) for a, b in pairwise(line))
        moved = warped(line, pith, radial, tangential)
        after = sum(math.dist(a, b) for a, b in pairwise(moved))
        assert after / before == pytest.approx(1 + share, rel=1e-5)


@pytest.mark.parametrize("heart_at_back", [True, False])
def test_drying_hollows_the_bark_side_and_wetting_the_heart_side(heart_at_back):
    # common practice, no source
    wood = Wood("American beech", 5.0, heart_at_back, "a")
    size = (1000.0, 200.0, 25.0)
    bark_is_face = 1 if heart_at_back else -1
    assert end_changes(wood, size, 14, 8)[1] * bark_is_face > 0.1
    assert end_changes(wood, size, 8, 14)[1] * bark_is_face < -0.1


def test_the_cup_of_a_flatsawn_board_is_that_of_the_two_shrinkages_over_its_radius():
    # a line a distance R from the pith bends to a curvature of twice the difference of both shares over R, to first order
    far, width = 400.0, 200.0
    wood = Wood("sugar maple", 0.0, True, "b", "upper", far)
    kind = species("sugar maple")
    strain = [change(kind, 1.0, 14.0, 8.0, a) for a in (0.0, 90.0)]
    expected = (
        -2 * (strain[0] - strain[1]) / (far + 10.0) * width**2 / 8
    )  # the face lies half the thickness further out
    assert end_changes(wood, (1000.0, width, 20.0), 14.0, 8.0)[1] == pytest.approx(expected, rel=0.03)


def test_a_solid_side_moves_through_the_year_as_makers_say():
    # 16 inches: 1/8 inch quartersawn or in a steady room, 3/16 to 3/8 flatsawn, through 3 to 6 points (common practice, no source)
    wide = 16 * 25.4
    for name in ("black cherry", "northern red oak", "sugar maple"):
        quarter = change(species(name), wide, 8, 11, 90)
        flat = [change(species(name), wide, low, high, 0) for low, high in ((8, 11), (7, 11))]
        assert 0.05 * 25.4 <= quarter <= 0.16 * 25.4
        assert all(0.11 * 25.4 <= f <= 3 / 8 * 25.4 for f in flat)
