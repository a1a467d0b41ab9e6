"""Bridle joints as solids: tenon and slot fill each other, and faces are flush."""

import pytest
from solid_sections import assert_closed, read, section, volume
from two_parts import joined, part, refusal

from nullah.formats import parts_obj


def frame(thick=18.0, rail=50.0, stile=60.0, up=0.0, other=None, **asked):
    """A rail whose right end meets the lower end of an upright stile; both faces look to the front."""
    first = part("rail", 300, rail, thick, "front", "up", (0, 0, up))
    return joined(
        "bridle", first, part("stile", 400, stile, other or thick, "front", "right", (300, 0, 0)), "right", **asked
    )


@pytest.mark.parametrize(("thick", "rail", "stile", "tenon"), [(18.0, 50.0, 60.0, 0.0), (22.0, 40.0, 70.0, 8.0)])
def test_tenon_and_slot_fill_each_other(thick, rail, stile, tenon):
    now = frame(thick, rail, stile, **({"tenon": tenon} if tenon else {}))
    (joint,) = now.joints.joints
    third = tenon or round(thick / 3, 1)
    assert joint.figures["tenon"] == pytest.approx(third)
    assert joint.figures["cheek"] == joint.figures["shoulder"] == pytest.approx((thick - third) / 2)
    found = read(parts_obj.text(now))
    for body in found.values():
        assert_closed(body)
    assert volume(found["stile"]) == pytest.approx(400 * stile * thick - rail * stile * third, rel=1e-6)
    assert volume(found["rail"]) == pytest.approx(300 * rail * thick + rail * stile * third, rel=1e-6)
    # half-way up the joint: the tenon between the cheeks, from the stile's inner edge to its outer
    x0, y0, x1, y1 = section(found["rail"], rail / 2).bounds
    assert (x0, x1) == pytest.approx((0, 300 + stile))
    assert (y0, y1) == pytest.approx((0, thick))
    assert section(found["rail"], rail / 2).intersection(section(found["stile"], rail / 2)).area == pytest.approx(
        0, abs=1e-3
    )


@pytest.mark.parametrize(
    ("asked", "words"),
    [({"tenon": 18.0}, "no shoulders"), ({"up": 200.0}, "mortise"), ({"other": 40.0}, "not flush")],
)
def test_what_cannot_be_is_said(asked, words):
    now = frame(**asked)
    assert words in refusal(now)
