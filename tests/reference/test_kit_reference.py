"""What is at hand decides the way, and the plan says so and what would be quicker (common practice, no source)."""

import pytest
from two_parts import joined, part

GAUGE = "marking gauge"


def grooved(thick=6.0, **kit):
    """A panel in the upper edge of a rail."""
    first = part("panel", 300, 200, thick, "front", "up", (0, 7, 60))
    (joint,) = joined("groove", first, part("rail", 300, 60, 20, "front", "up"), "down", kit=kit).joints.joints
    return joint


def failing(joint):
    return [c.text for c in joint.checks if not c.holds]


def test_without_a_plough_a_groove_is_knifed_and_chopped():
    with_one, without = grooved(), grooved(plough=False)
    assert any(s.startswith("Plough rail") for s in with_one.steps)
    assert not any(s.startswith("No ") for s in with_one.steps)
    assert without.steps[0].startswith("No plough plane")
    assert "quicker" in without.steps[0]
    assert not any(s.startswith("Plough rail") for s in without.steps)
    assert any("Knife or gauge both lines" in s for s in without.steps)


def test_irons_and_the_depth_stop_limit_a_groove():
    assert not failing(grooved())
    assert any("no plough iron" in t for t in failing(grooved(plough_irons=(8.0,))))
    assert any("in two passes" in c.text for c in grooved(7.0).checks)
    assert any("the plough goes to" in t for t in failing(grooved(plough_deepest=5.0)))


@pytest.mark.parametrize(("bits", "wide"), [((3, 5, 6, 8, 10), 8.0), ((6.0, 12.0), 6.0), ((12.0,), 12.0)])
def test_dowels_take_the_bit_at_hand_nearest_to_two_fifths(bits, wide):
    """0.4 of 20 is 8; of two as near the smaller: 6 and 12 lie 2 and 4 off."""
    first = part("rail", 400, 80, 20, "front", "up")
    second = part("leg", 80, 45, 45, "front", "right", (400, 0, 0))
    (joint,) = joined("dowels", first, second, "right", kit={"bits": bits}).joints.joints
    assert joint.figures["diameter"] == wide
    (joint,) = joined("dowels", first, second, "right", kit={"bits": bits}, diameter=9.0).joints.joints
    assert any("no bit at hand" in t for t in failing(joint))


@pytest.mark.parametrize(("chisels", "wide"), [((6.0, 8.0, 10.0), 8.0), ((6.0, 12.0), 6.0), ((10.0,), 10.0)])
def test_a_tenon_is_as_thick_as_the_chisel_nearest_to_a_third(chisels, wide):
    first = part("rail", 300, 80, 24, "front", "up")
    second = part("leg", 120, 48, 48, "front", "right", (300, -12, 0))
    (joint,) = joined("mortise_and_tenon", first, second, "right", kit={"chisels": chisels}).joints.joints
    assert joint.figures["thickness"] == wide


def tenoned(**kit):
    first = part("rail", 300, 80, 24, "front", "up")
    second = part("leg", 120, 48, 48, "front", "right", (300, -12, 0))
    (joint,) = joined("mortise_and_tenon", first, second, "right", kit=kit).joints.joints
    return joint


def test_without_a_mortise_gauge_walls_are_gauged_one_after_the_other():
    with_one, without = tenoned(), tenoned(mortise_gauge=False)
    assert any(s.tool == "mortise gauge" for s in with_one.settings)
    assert not any("mortise gauge" in s.tool for s in without.settings)
    # a tenon of 8 in 24: the chisel of 6 is nearest, and its walls lie 9 and 15 from the face
    walls = {(s.tool, f.part): round(f.mm, 6) for s in without.settings if "wall" in s.tool for f in s.marks}
    tenon, mortise = without.parts
    assert walls[f"{GAUGE}, nearer wall", tenon] == 9.0
    assert walls[f"{GAUGE}, nearer wall", mortise] == 9.0 + 12.0  # whose face stands 12 before the rail's
    assert walls[f"{GAUGE}, farther wall", tenon] == 15.0
    assert walls[f"{GAUGE}, farther wall", mortise] - walls[f"{GAUGE}, nearer wall", mortise] == pytest.approx(6.0)
    assert without.steps[0].startswith("No mortise gauge")
    assert without.steps[1:] == with_one.steps
    assert without.cuts == with_one.cuts


def test_what_no_gauge_reaches_is_measured_and_knifed():
    assert not any(s.tool == "rule and knife" for s in tenoned().settings)
    short = tenoned(gauge_reach=5.0)
    far = [s for s in short.settings if s.tool == "rule and knife"]
    assert far
    assert all(s.value > 5 for s in far)
    assert all(s.value <= 5 for s in short.settings if s.tool == "marking gauge")
    assert "straightedge" in short.steps[0]
