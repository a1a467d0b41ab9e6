"""Sliding dovetails as solids: the tail fills its socket, its neck is that of the trapezium, and what cannot be is said."""

import random

import pytest
from shapely.geometry import Polygon
from solid_sections import assert_closed, read, section, volume
from two_parts import joined, part, refusal

from nullah.formats import parts_obj

TALL, DEEP, SIDE, LONG = 500.0, 200.0, 20.0, 300.0


def shelf(thick=18.0, side=SIDE, **asked):
    """A shelf whose right end goes into an upright side, half-way up."""
    first = part("shelf", LONG, DEEP, thick, "up", "back", (0, 0, 240))
    return joined(
        "sliding_dovetail", first, part("side", TALL, DEEP, side, "right", "back", (LONG, 0, 0)), "right", **asked
    )


@pytest.mark.parametrize("seed", range(12))
def test_the_tail_fills_its_socket(seed):
    chance = random.Random(seed)
    thick, side, slope = (round(chance.uniform(*span), 1) for span in ((10, 30), (15, 40), (5, 10)))
    depth = round(chance.uniform(0.2, 0.5) * side, 1)
    now = shelf(thick, side, depth=depth, slope=slope)
    (joint,) = now.joints.joints
    neck = thick - 2 * depth / slope
    assert joint.figures["neck"] == pytest.approx(neck)
    found = read(parts_obj.text(now))
    for body in found.values():
        assert_closed(body)
    # the side over all its thickness, and the shelf up to it: nothing twice, no hole
    whole = TALL * DEEP * side + LONG * DEEP * thick
    assert sum(map(volume, found.values())) == pytest.approx(whole, rel=1e-6)
    gone = TALL * DEEP * side - volume(found["side"])
    assert gone == pytest.approx(depth * (neck + thick) / 2 * DEEP, rel=1e-5)  # a trapezium
    assert volume(found["shelf"]) == pytest.approx(LONG * DEEP * thick + gone, rel=1e-6)


def test_a_stopped_one_shows_nothing_at_the_front():
    now = shelf(stop=15.0, edge="front", depth=7.0)
    (joint,) = now.joints.joints
    found = read(parts_obj.text(now))
    assert sum(map(volume, found.values())) == pytest.approx(TALL * DEEP * SIDE + LONG * DEEP * 18.0, rel=1e-6)
    (outline,) = [Polygon(r) for r in [section(found["side"], 249.0).exterior]]
    # half-way up the socket the side's section is whole for 15 from the front
    assert outline.bounds == pytest.approx((LONG, 0, LONG + SIDE, DEEP), abs=1e-3)
    assert outline.area == pytest.approx(DEEP * SIDE - 7.0 * (DEEP - 15.0), rel=1e-3)
    assert any("stops" in c.text and c.holds for c in joint.checks)


@pytest.mark.parametrize(
    ("asked", "words"),
    [({"thick": 4.0, "depth": 10.0, "slope": 3.0}, "at its neck"), ({"stop": 200.0}, "200")],
)
def test_what_cannot_be_is_said(asked, words):
    now = shelf(**asked)
    assert words in refusal(now)


def test_checks_tell_a_weak_neck_and_a_slope_that_slips():
    (joint,) = shelf(thick=12.0, depth=10.0, slope=3.0).joints.joints
    assert [c.holds for c in joint.checks] == [True, False, False]
    (joint,) = shelf().joints.joints
    assert all(c.holds for c in joint.checks)
