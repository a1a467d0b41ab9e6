"""Joint layout and frames against the trade's own worked figures and plain geometry."""

import math

import pytest

from nullah.core.joints.dovetail import groove_place, lay_out
from nullah.core.joints.squareness import NoSuchFrame, by_diagonals
from nullah.core.surface.planing import hollow_left


def test_dividers_of_a_150_board():
    # common practice, no source: W 150, half pin 9, 4 tails, pin 6 -> step 34.5, tails 28.5
    joint = lay_out(150, 4, 6, 9, 7, 18)
    assert (joint.step, joint.tail) == (34.5, 28.5)
    # the overshoot past the far half-pin line is the pin
    assert joint.half_pin + 4 * joint.step - (150 - 9) == pytest.approx(joint.pin)


def test_slopes_in_degrees():
    # common practice, no source: 1:6 is 9.46 degrees, 1:8 is 7.13; 81.5 degrees to the end is 1:6.7
    assert lay_out(150, 4, 6, 9, 6, 18).slope_deg == pytest.approx(9.46, abs=0.005)
    assert lay_out(150, 4, 6, 9, 8, 18).slope_deg == pytest.approx(7.13, abs=0.005)
    assert lay_out(150, 4, 6, 9, 6.7, 18).slope_deg == pytest.approx(90 - 81.5, abs=0.05)


@pytest.mark.parametrize(
    ("lower", "upper", "place"),
    [
        (12, 18, "inside a tail"),
        (2, 8, "inside a pin"),
        (9.5, 14, "across a line"),
        (37.6, 43.4, "inside a pin"),
        (35, 40, "across a line"),
    ],
)
def test_where_a_groove_meets_the_pins(lower, upper, place):
    # common practice, no source: wholly within one tail or one pin, or it shows on both
    assert groove_place(lay_out(150, 4, 6, 9, 7, 18), lower, upper) == place


def test_racked_frame_has_the_corner_it_was_racked_to():
    # geometry: a parallelogram of 300 x 200 with a corner of 89 degrees
    corner = math.radians(89)
    first = math.hypot(300 + 200 * math.cos(corner), 200 * math.sin(corner))
    second = math.hypot(300 - 200 * math.cos(corner), 200 * math.sin(corner))
    frame = by_diagonals(300, 200, first, second)
    assert frame.corner == pytest.approx(89, abs=1e-9)
    assert first - frame.push == pytest.approx(math.hypot(300, 200))
    assert frame.longer == 1
    assert not frame.square


def test_diagonals_no_frame_has():
    with pytest.raises(NoSuchFrame, match="measure them again"):
        by_diagonals(300, 200, 900, 100)


def test_hollow_a_plane_leaves():
    # common practice: jointer 560 with the iron 190 behind the toe leaves 0.18 in a metre at 0.05, smoother 245 and 80: 0.95
    assert hollow_left(560, 190, 0.05, 1000) == pytest.approx(0.18, abs=0.005)
    assert hollow_left(245, 80, 0.05, 1000) == pytest.approx(0.95, abs=0.01)
