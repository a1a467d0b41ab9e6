"""Readings become the surface they were taken from."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah.core.document.project import Reading
from nullah.core.surface.planing import planing
from nullah.core.surface.readings import fit, stick_difference

L, W, T = 1000.0, 160.0, 25.0


def read(kind, value, at=0.0, across=0.0, stick=0.0):
    return Reading(target="b", kind=kind, value=value, at=at, across=across, stick=stick)


def test_a_longer_stick_magnifies():
    assert stick_difference(6.0, 450, 150) == pytest.approx(2.0)
    assert stick_difference(6.0, 0, 150) == 6.0


@given(st.floats(-4, 4), st.floats(-3, 3), st.floats(-6, 6))
def test_property_bow_cup_and_twist_are_found_from_their_readings(bow, cup, twist):
    # each reading is what that surface would give: sagitta of bow and cup, twist as the rise of one corner pair over the other
    surface = fit(
        L, W, T, [read("bow", bow, across=W / 2), read("cup", cup, at=L / 2), read("winding sticks", twist, at=L)]
    )
    _, _, z, _ = surface.section(0, 0, L, W)
    assert (z[0][4] + z[24][4]) / 2 - z[12][4] == pytest.approx(bow, abs=0.06)
    assert (z[12][0] + z[12][8]) / 2 - z[12][4] == pytest.approx(cup, abs=0.06)
    assert (z[24][8] - z[24][0]) - (z[0][8] - z[0][0]) == pytest.approx(twist, abs=0.06)
    assert max(abs(r) for r in surface.residuals) < 0.04


def test_without_readings_a_board_is_flat_and_of_its_thickness():
    surface = fit(L, W, T, [])
    assert surface.slab(0, 0, L, W).thickness == pytest.approx(T)
    assert surface.residuals == ()


def test_a_stick_the_others_do_not_bear_out_is_read_again_and_one_of_two_is_misread():
    good = [read("winding sticks", 2.0 * i / 8, at=125.0 * i) for i in range(1, 9)]
    assert fit(L, W, T, good).again == ()
    doubtful = [*good[:4], read("winding sticks", 5.0, at=625.0), *good[5:]]
    found = fit(L, W, T, doubtful)
    assert (found.again[0], found.strays) == (4, ())
    found = fit(L, W, T, [*doubtful, good[4]])  # read otherwise the second time
    assert (found.strays, found.again) == ((4,), (8,))
    hump = fit(L, W, T, [*doubtful, doubtful[4]])  # as before: it is so
    assert (hump.strays, hump.again) == ((), ())
    assert abs(hump.residuals[4]) < 1


def test_a_reading_that_cannot_be_is_questioned_and_not_planned_on():
    sticks = [read("winding sticks", 0.2, at=x) for x in (195.0, 390.0, 585.0)]
    plain = fit(585.0, W, T, sticks)
    odd = fit(585.0, W, T, [*sticks, read("bow", 27.0, across=W / 2), read("thickness", 0.4, at=300.0, across=80.0)])
    assert set(odd.again) == {3, 4}
    assert odd.slab(0, 0, 585.0, W).thickness == pytest.approx(plain.slab(0, 0, 585.0, W).thickness, abs=0.3)


def test_the_caliper_tells_a_tapering_board():
    points = [read("thickness", 24 + 2 * x / L, at=x, across=y) for x in (0.0, L) for y in (0.0, W)]
    surface = fit(L, W, T, points)
    assert surface.slab(0, 0, L, W).thickness == pytest.approx(24 + 0.0, abs=1.05)
    left, right = surface.slab(0, 0, L / 4, W).thickness, surface.slab(3 * L / 4, 0, L / 4, W).thickness
    assert right > left + 1


@given(st.floats(-3, 3), st.floats(-2, 2), st.floats(-5, 5), st.floats(0, 0.7), st.floats(0.1, 0.3))
def test_property_a_part_of_a_board_holds_at_least_as_thick_a_slab(bow, cup, twist, start, share):
    surface = fit(
        L, W, T, [read("bow", bow, across=W / 2), read("cup", cup, at=L / 2), read("winding sticks", twist, at=L)]
    )
    assert surface.slab(start * L, 0, share * L, W).thickness >= surface.slab(0, 0, L, W).thickness - 0.08


def test_what_comes_off_and_what_stays_make_the_board():
    surface = fit(L, W, T, [read("cup", 1.5, at=500), read("winding sticks", 3.0, at=L)])
    p = planing(surface, 20.0, 0, 0, L, W)
    xs, ys, top, bottom = surface.section(0, 0, L, W)
    assert (xs, ys) == (p.x, p.y)
    assert np.allclose(np.array(top) - bottom - p.face - p.back, p.flat.thickest)
    assert p.flat.thickest - 1 < p.thickest < p.flat.thickest  # what is promised errs on the careful side
    assert p.enough
    assert p.spare == pytest.approx(p.thickest - 20)
    assert p.shavings(0.2) * 0.2 >= np.max(p.face) - 1e-9
    x, y, most = p.highest()
    assert most == np.max(p.face)
    assert (x, y) in {(0.0, 0.0), (L, W), (0.0, W), (L, 0.0)}


@pytest.mark.parametrize("twist", [3.0, -3.0, 0.7, 1 / 3])
def test_of_corners_as_high_as_each_other_the_first_from_the_left_is_told(twist):
    surface = fit(L, W, T, [read("winding sticks", twist, at=L)])
    x, _, most = planing(surface, 20.0, 0, 0, L, W).highest()
    assert x == 0
    assert most == pytest.approx(abs(twist) / 2, rel=0.01)  # down to the two low corners
