"""The thickest flat board against closed forms (geometry) and an independent solver (HiGHS, through SciPy)."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

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


def test_equals_brute_force_over_every_plane_through_points():
    rng = np.random.default_rng(7)
    x, y = grid(np.zeros((3, 3)))
    top = rng.normal(size=(3, 3))
    points = np.stack([x.ravel(), y.ravel(), top.ravel()], 1)
    best = np.inf
    # an optimal zone is bounded by three points on one side and one on the other, or two and two
    for four in itertools.combinations(points, 4):
        for i, j, k in itertools.combinations(range(4), 3):
            a, b, c = four[i], four[j], four[k]
            normal = np.cross(b - a, c - a)
            if abs(normal[2]) > 1e-9:
                best = min(best, spread(points, -normal[:2] / normal[2]))
        for (i, j), (k, m) in (((0, 1), (2, 3)), ((0, 2), (1, 3)), ((0, 3), (1, 2))):
            normal = np.cross(four[j] - four[i], four[m] - four[k])
            if abs(normal[2]) > 1e-9:
                best = min(best, spread(points, -normal[:2] / normal[2]))
    assert minimum_zone(x, y, top) == pytest.approx(best, abs=1e-9)


def spread(points, slopes):
    left = points[:, 2] - points[:, :2] @ slopes
    return left.max() - left.min()


def test_points_on_a_line_are_refused():
    with pytest.raises(NotASurface, match="one line"):
        thickest_slab(np.arange(4.0), np.arange(4.0), np.zeros(4), -np.ones(4))
    with pytest.raises(NotASurface, match="one line"):
        thickest_slab([0.0, 1.0, 2.0], [0.0, 1.0, 2.0], [0.0] * 3, [-1.0] * 3)
    with pytest.raises(NotASurface, match="finite"):
        thickest_slab([0.0, 1.0, 2.0], [0.0, 1.0, 0.0], [0.0, 0.0, float("nan")], [-1.0] * 3)
