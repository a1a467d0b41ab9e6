"""Which face lies down while the other is planed: all that keeps a face off the bench counts together."""

import numpy as np
import pytest
from scipy.optimize import linprog

from nullah.core.surface.first_face import first_face, rocks

U, V = np.meshgrid(np.linspace(-1, 1, 13), np.linspace(-1, 1, 5), indexing="ij")


def sides(z):
    return tuple(map(tuple, z)), tuple(map(tuple, z - 20.0))


def on_three_points(z):
    """How far the fourth corner stands off, laid down, when a wound board rests on the other three."""
    a, b, c, d = z[0, 0], z[0, -1], z[-1, 0], z[-1, -1]
    return abs(a + d - b - c)


@pytest.mark.parametrize("h", [0.5, 2.0, 7.0])
def test_a_wound_board_rocks_on_either_face_by_what_its_corner_is_high(h):
    z = h / 4 * U * V
    assert rocks(z) == pytest.approx(on_three_points(z), abs=1e-6)
    assert rocks(-z) == pytest.approx(h, abs=1e-6)
    assert first_face(*sides(z)).side == "face"


def test_hollow_side_down_whichever_way_it_is_hollow():
    for hollow in (U * U, V * V, U * U + V * V):
        assert rocks(hollow) < 1e-6 < 0.5 < rocks(-hollow)
        assert first_face(*sides(hollow)).side == "back"
        assert first_face(*sides(-hollow)).side == "face"
        assert first_face(*sides(0.05 * hollow)).side == "face"  # the face side comes first where either will do


def test_bow_and_cup_that_differ_are_weighed_together():
    """Hollow along by much and humped across by little, it stands on its ends all the same; and the other way about."""
    assert first_face(*sides(3 * U * U - V * V)).side == "back"
    assert first_face(*sides(0.5 * U * U - 3 * V * V)).side == "face"


def test_it_lies_where_a_linear_programme_of_a_library_lays_it():
    """The bench as high as it goes under the hand, nowhere above the board; the hand near half way to one corner, then to another."""
    chance = np.random.default_rng(4)
    flat = np.column_stack([np.ones(U.size), U.ravel(), V.ravel()])
    for size in (0.05, 0.5, 8.0, 200.0) * 3:
        z = chance.normal(0, size, U.shape)
        gaps = []
        for a, b in ((a, b) for a in (-0.4871, 0.4871) for b in (-0.5139, 0.5139)):
            bench = linprog([-1.0, -a, -b], A_ub=flat, b_ub=-z.ravel(), bounds=[(None, None)] * 3, method="highs").x
            off = -z - (flat @ bench).reshape(z.shape)
            gaps.append(off[[0, 0, -1, -1], [0, -1, 0, -1]].max())
        assert rocks(z) == pytest.approx(max(gaps), rel=1e-6)
