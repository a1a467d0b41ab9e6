"""Tenons as solids: stepped, double, haunched, wedged and pegged ones fill their mortises, with the figures worked out by hand."""

import math

import numpy as np
import pytest
from solid_sections import assert_closed, read, section, volume
from two_parts import joined, part, refusal

from nullah.formats import parts_obj

LONG = 300.0
PEG_AREA = 12 * math.sin(math.pi / 6) / 2  # of a hole drawn with twelve corners, in squares of its radius


def railed(rail=80.0, thick=24.0, leg=48.0, above=40.0, **asked):
    """A rail whose right end stands against a leg that goes on ``above`` it; its tenon is 8 thick."""
    first = part("rail", LONG, rail, thick, "front", "up")
    second = part("leg", rail + above, leg, leg, "front", "right", (LONG, (thick - leg) / 2, 0))
    return joined("mortise_and_tenon", first, second, "right", **{"thickness": 8.0, **asked})


def bodies(now):
    found = read(parts_obj.text(now))
    for body in found.values():
        assert_closed(body)
    return found


def fills(found, at, reach):
    """Along the tenon at a height: the rail's section lies within the leg's blank and shares nothing with the leg."""
    one, two = section(found["rail"], at), section(found["leg"], at)
    assert one.intersection(two).area == pytest.approx(0, abs=1e-3)
    assert one.bounds[2] == pytest.approx(LONG + reach, abs=1e-3)


def test_a_stepped_tenon_goes_through_narrower():
    now = railed(style="stepped")
    (joint,) = now.joints.joints
    # shoulders of 12 at the leg's lower end and 5 above: 63 wide, a sixth of it off either edge beyond the first 19
    width, step, first = 80 - 12 - 5.0, 10.5, 19.0
    assert joint.figures["width"] == width
    assert (joint.figures["step"], joint.figures["first stage"]) == (step, first)
    found = bodies(now)
    wood = 8 * (width * first + (width - 2 * step) * (48 - first))
    assert volume(found["rail"]) == pytest.approx(LONG * 80 * 24 + wood, rel=1e-6)
    assert volume(found["leg"]) == pytest.approx(120 * 48 * 48 - wood, rel=1e-6)
    fills(found, 12 + width / 2, 48)
    fills(found, 12 + step / 2, first)


@pytest.mark.parametrize("rail", [60.0, 110.0])
def test_two_tenons_stand_a_third_apart(rail):
    now = railed(rail=rail, style="through", tenons=2)
    (joint,) = now.joints.joints
    width = rail - 17
    assert joint.figures["between"] == pytest.approx(width / 3)
    found = bodies(now)
    wood = 8 * 48 * width * 2 / 3
    assert volume(found["rail"]) == pytest.approx(LONG * rail * 24 + wood, rel=1e-6)
    assert volume(found["leg"]) == pytest.approx((rail + 40) * 48 * 48 - wood, rel=1e-6)
    fills(found, 12 + width / 6, 48)
    fills(found, 12 + width / 2, 0)
    fills(found, 12 + 5 * width / 6, 48)


def test_a_haunch_fills_the_shoulder_for_a_third_of_the_tenon():
    now = railed(above=0.0, haunched=True)
    (joint,) = now.joints.joints
    # both ends of the leg are near: shoulders of 12, the upper one filled by the haunch; a blind mortise is 1 deeper than its tenon
    long, width = 32.0, 56.0
    assert joint.figures["haunch"] == pytest.approx(long / 3)
    found = bodies(now)
    assert volume(found["rail"]) == pytest.approx(LONG * 80 * 24 + 8 * (long * width + long / 3 * 12), rel=1e-6)
    gone = 8 * ((long + 1) * width + (long / 3 + 1) * 12)
    assert volume(found["leg"]) == pytest.approx(80 * 48 * 48 - gone, rel=1e-6)
    fills(found, 74.0, long / 3)


def test_a_wedged_mortise_opens_by_what_its_wedges_fill():
    now = railed(style="through", hold="wedged")
    (joint,) = now.joints.joints
    flare, width = 4.0, 63.0  # an eighth of 48 is more than a tenon bends by: 4
    assert (joint.figures["flare"], joint.figures["wedge"]) == (flare, flare + 1)
    found = bodies(now)
    gone = 8 * 48 * (width + width + 2 * flare) / 2
    assert volume(found["leg"]) == pytest.approx(120 * 48 * 48 - gone, rel=1e-6)
    assert volume(found["rail"]) == pytest.approx(LONG * 80 * 24 + 8 * (48 * width - 2 * 36 * 1), rel=1e-6)
    # 4 in 48 is 4.8 degrees, well below where wood slips on wood: all holds
    assert all(c.holds for c in joint.checks if "slips" in c.text or "spreads" in c.text)
    assert "driven where it comes through" in refusal(railed(hold="wedged"))


@pytest.mark.parametrize(("wood", "draw"), [("eastern white pine", 1.5), ("white oak", 1.0)])
def test_a_peg_draws_the_shoulder_home(wood, draw):
    """Craft: the hole in the tenon lies 1.5 nearer its shoulder, 1 in hard wood (common practice)."""
    first = part("rail", LONG, 80, 24, "front", "up", species=wood)
    second = part("leg", 120, 48, 48, "front", "right", (LONG, -12, 0), species=wood)
    now = joined("mortise_and_tenon", first, second, "right", thickness=8.0, hold="drawbored", peg=8.0)
    (joint,) = now.joints.joints
    assert joint.figures["pegs"] == 2  # 63 wide
    assert joint.figures["draw"] == draw
    stands = {p.id: p for p in now.piece.in_hand.stands(now.joints.joints)}

    def middles(part_id, along):
        found = []
        for c in joint.cuts:
            if c.part == part_id and len(c.outline) == 12:
                x, y = np.mean(c.outline, axis=0)
                found.append(stands[part_id].at((x, y, 0.0) if c.side in ("face", "back") else (x, 0.0, y))[along])
        return found

    in_leg, in_rail = middles("leg", 0), middles("rail", 0)
    assert np.array(in_leg) - np.array(in_rail) == pytest.approx([draw, draw], abs=1e-3)
    # up the leg a quarter and three quarters of the tenon, on both
    assert (
        sorted(middles("leg", 2))
        == sorted(middles("rail", 2))
        == pytest.approx([12 + 63 / 4, 12 + 3 * 63 / 4], abs=1e-3)
    )
    found = bodies(now)
    tenon = 8 * 63 * 32.0
    assert volume(found["rail"]) == pytest.approx(LONG * 80 * 24 + tenon - 2 * PEG_AREA * 16 * 8, rel=1e-6)
    # the leg is bored through its near cheek of 20 and two thirds of the far one
    bored = 2 * PEG_AREA * 16 * (20 + 20 * 2 / 3)
    assert volume(found["leg"]) == pytest.approx(120 * 48 * 48 - 8 * 63 * 33 - bored, rel=1e-6)


def test_the_second_half_is_traced_from_the_first():
    def order(now):
        steps = now.joints.joints[0].steps
        return next(n for n, s in enumerate(steps) if "mortise on leg" in s), next(
            n for n, s in enumerate(steps) if s.startswith("Saw the cheeks")
        )

    mortise, tenon = order(railed())
    assert mortise < tenon
    mortise, tenon = order(railed(order="tenons"))
    assert tenon < mortise


@pytest.mark.parametrize(
    ("asked", "words"),
    [
        ({"rail": 27.0, "tenons": 2, "upper_shoulder": 8.0, "lower_shoulder": 8.0}, ""),
        ({"rail": 24.0, "tenons": 2, "upper_shoulder": 8.0, "lower_shoulder": 8.0}, "make it one"),
    ],
)
def test_what_is_too_narrow_is_said(asked, words):
    said = refusal(railed(**asked))
    assert (words in said) if words else "make it one" not in said
