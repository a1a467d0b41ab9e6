"""Splined edges as solids: grooves alike in both, opposite each other, as far from the face."""

import pytest
from solid_sections import assert_closed, read, section, volume
from two_parts import joined, part, refusal

from nullah.formats import parts_obj

LONG = 400.0


def boards(thick=20.0, second=None, **asked):
    """Two boards that lie flat beside each other, edge to edge."""
    first = part("one", LONG, 100, thick, "up", "back")
    return joined(
        "splined_edge", first, part("two", LONG, 80, second or thick, "up", "back", (0, 100, 0)), "back", **asked
    )


@pytest.mark.parametrize("asked", [{}, {"tongue": 6.0, "depth": 10.0}, {"tongue": 5.0, "depth": 12.0, "stop": 30.0}])
def test_grooves_of_both_lie_opposite_each_other(asked):
    now = boards(**asked)
    (joint,) = now.joints.joints
    tongue, depth, stop = (
        asked.get("tongue", round(20 / 3, 1)),
        asked.get("depth", round(40 / 3, 1)),
        asked.get("stop", 0.0),
    )
    assert joint.figures["wide"] == pytest.approx(2 * depth - 1)
    found = read(parts_obj.text(now))
    for body in found.values():
        assert_closed(body)
    gone = (LONG - 2 * stop) * tongue * depth
    assert volume(found["one"]) == pytest.approx(LONG * 100 * 20 - gone, rel=1e-6)
    assert volume(found["two"]) == pytest.approx(LONG * 80 * 20 - gone, rel=1e-6)
    # half-way up: both grooves are there, just above the middle third they are not
    for level, there in ((10.0, True), (10.0 + tongue / 2 + 0.05, False)):
        one, two = section(found["one"], level), section(found["two"], level)
        assert one.area == pytest.approx(LONG * 100 - there * (LONG - 2 * stop) * depth)
        assert two.area == pytest.approx(LONG * 80 - there * (LONG - 2 * stop) * depth)


@pytest.mark.parametrize(("asked", "words"), [({"tongue": 20.0}, "within the edges"), ({"stop": 200.0}, "too little")])
def test_what_cannot_be_is_said(asked, words):
    assert words in refusal(boards(**asked))


def test_thin_edges_are_told():
    (joint,) = boards(thick=9.0).joints.joints
    assert [c.holds for c in joint.checks] == [False, True]
