"""The thickest flat board against closed forms (geometry) and an independent solver (HiGHS, through SciPy)."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog
from scipy.spatial import ConvexHull

from nullah.core.surface.slab import NotASurface, grid, minimum_zone, thickest_slab

T = 25.0


def surface(f, rows=9, columns=7):
    x, y = grid(np.zeros((rows, columns)))
    return x, y, f(2 * x / (rows - 1) - 1, 2 * y / (columns - 1) - 1)


def test_one_corner_high_costs_half_of_it():
    x, y, z = surface(lambda u, v: 3.0 * (u + 1) / 2 * (v + 1) / 2)
    assert thickest_slab(x, y, z, z - T).thickness == pytest.approx(T - 1.5)


def test_cup_costs_its_sagitta_and_a_quarter_in_each_half():
    x, y, z = surface(lambda u, v: 2.0 * v * v, columns=9)
    assert thickest_slab(x, y, z, z - T).thickness == pytest.approx(T - 2.0)
    half = (slice(None), slice(0, 5))
    assert thickest_slab(x[half], y[half], z[half], z[half] - T).thickness == pytest.approx(T - 0.5)


def test_bow_leaves_a_quarter_and_twist_half_the_corner_when_crosscut():
    x, y, z = surface(lambda u, v: 4.0 * u * u)
    half = (slice(0, 5), slice(None))
    assert thickest_slab(x[half], y[half], z[half], z[half] - T).thickness == pytest.approx(T - 1.0)
    x, y, z = surface(lambda u, v: 3.0 * (u + 1) / 2 * (v + 1) / 2)
    assert thickest_slab(x[half], y[half], z[half], z[half] - T).thickness == pytest.approx(T - 0.75)


def highs(x, y, top, bottom):
    n = x.size
    ones, zero = np.ones(n), np.zeros(n)
    rows = np.vstack(
        [np.stack([ones, x.ravel(), y.ravel(), zero], 1), np.stack([-ones, -x.ravel(), -y.ravel(), ones], 1)]
    )
    found = linprog(
        [0, 0, 0, -1], rows, np.concatenate([top.ravel(), -bottom.ravel()]), bounds=[(None, None)] * 4, method="highs"
    )
    return -found.fun


@given(st.integers(2, 11), st.integers(2, 8), st.integers(0, 2), st.integers(0, 2**32 - 1))
def test_property_equals_an_independent_solver(rows, columns, decimals, seed):
    rng = np.random.default_rng(seed)
    x, y = grid(np.zeros((rows, columns)))
    top = np.round(rng.normal(size=(rows, columns)), decimals)
    bottom = top - T + np.round(rng.normal(size=(rows, columns)), decimals)
    slab = thickest_slab(x, y, top, bottom)
    best = highs(x, y, top, bottom)
    assert slab.thickness == pytest.approx(best, abs=1e-7)
    assert thickest_slab(*(a.ravel().tolist() for a in (x, y, top, bottom))).thickness == pytest.approx(best, abs=1e-7)
    upper = slab.upper(x, y)
    assert (upper <= top + 1e-7).all()
    assert (upper - slab.thickness >= bottom - 1e-7).all()


def least_zone(points, normals):
    """The least vertical spread of points over planes with those normals."""
    normals = normals[np.abs(normals[:, 2]) > 1e-9 * np.abs(normals).max(axis=1)]
    left = points[:, 2:] + points[:, :2] @ (normals[:, :2] / normals[:, 2:]).T
    return (left.max(axis=0) - left.min(axis=0)).min()


def across(ways):
    """Normals of planes along every two of some ways."""
    i, j = np.triu_indices(len(ways), 1)
    return np.cross(ways[i], ways[j])


@pytest.mark.parametrize("seed", range(4))
def test_minimum_zone_is_that_of_brute_force_and_of_the_convex_hull(seed):
    """The planes of a least zone lie on three points and one, or on two and two: on a face and a corner of the convex hull, or on two
    of its edges (common knowledge of computational geometry; scipy finds the hull)."""
    rng = np.random.default_rng(seed)
    for _ in range(50):
        x, y = grid(np.zeros((3, 3)))
        few = np.stack([x.ravel(), y.ravel(), rng.normal(size=9)], 1)
        ways = np.array([b - a for a, b in itertools.combinations(few, 2)])
        found = minimum_zone(x, y, few[:, 2].reshape(3, 3))
        assert found == pytest.approx(least_zone(few, across(ways)), abs=1e-9)
        x, y = grid(np.zeros((12, 7)))
        warp = rng.normal(size=3)
        z = warp[0] * (x / 5.5 - 1) ** 2 + warp[1] * (y / 3 - 1) ** 2 + warp[2] * (x / 5.5 - 1) * (y / 3 - 1)
        many = np.stack([x.ravel(), y.ravel(), (z + rng.normal(0, 0.1, z.shape)).ravel()], 1)
        hull = ConvexHull(many)
        edges = {tuple(sorted(pair)) for face in hull.simplices for pair in itertools.combinations(face, 2)}
        ways = np.array([many[b] - many[a] for a, b in edges])
        best = least_zone(many, np.concatenate([across(ways), hull.equations[:, :3]]))
        assert minimum_zone(x, y, many[:, 2].reshape(12, 7)) == pytest.approx(best, abs=1e-9)


def test_points_on_a_line_are_refused():
    with pytest.raises(NotASurface, match="one line"):
        thickest_slab(np.arange(4.0), np.arange(4.0), np.zeros(4), -np.ones(4))
    with pytest.raises(NotASurface, match="one line"):
        thickest_slab([0.0, 1.0, 2.0], [0.0, 1.0, 2.0], [0.0] * 3, [-1.0] * 3)
    with pytest.raises(NotASurface, match="finite"):
        thickest_slab([0.0, 1.0, 2.0], [0.0, 1.0, 0.0], [0.0, 0.0, float("nan")], [-1.0] * 3)
