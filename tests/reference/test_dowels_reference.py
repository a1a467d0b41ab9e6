"""Dowels: holes of both parts line up where they meet, evenly, and the wood taken is that of the holes."""

import math

import pytest
from solid_sections import read, volume
from two_parts import joined, part, refusal

from nullah.core.drawing.display_list import Dimension
from nullah.formats import parts_obj

HIGH, THICK, LEG = 80.0, 20.0, 45.0


def railed(**asked):
    """A rail whose right end stands against a leg."""
    first = part("rail", 400, HIGH, THICK, "front", "up")
    return joined("dowels", first, part("leg", HIGH, LEG, LEG, "front", "right", (400, 0, 0)), "right", **asked)


def middles(cuts):
    """Middles of holes, by the two axes of their side."""
    return [tuple(sum(p[k] for p in c.outline) / len(c.outline) for k in (0, 1)) for c in cuts]


@pytest.mark.parametrize(("diameter", "pitch", "end"), [(8.0, 100.0, 16.0), (10.0, 20.0, 15.0), (6.0, 25.0, 15.0)])
def test_holes_line_up_and_are_evenly_apart(diameter, pitch, end):
    now = railed(diameter=diameter, pitch=pitch, end=end)
    (joint,) = now.joints.joints
    gaps = math.ceil((HIGH - 2 * end) / pitch)
    assert joint.figures["count"] == gaps + 1
    assert joint.figures["apart"] == pytest.approx((HIGH - 2 * end) / gaps)
    stands = {p.id: p for p in now.piece.in_hand.stands(now.joints.joints)}
    rail = [c for c in joint.cuts if c.part == "rail"]
    leg = [c for c in joint.cuts if c.part == "leg"]
    assert len(rail) == len(leg) == gaps + 1
    # where each hole is, in the piece: up the joint from its lower end, in the middle of the rail's thickness
    for mine, hole in zip(middles(rail), range(gaps + 1), strict=True):
        assert mine == (
            pytest.approx(end + hole * (HIGH - 2 * end) / gaps, abs=1e-3),
            pytest.approx(THICK / 2, abs=1e-3),
        )
    at_rail = [stands["rail"].at((400.0, y, z)) for y, z in middles(rail)]
    side = leg[0].side
    lower = {"back": 0.0, "face": LEG, "lower": 0.0, "upper": LEG}[side]
    at_leg = [stands["leg"].at((x, w, lower) if side in ("back", "face") else (x, lower, w)) for x, w in middles(leg)]
    for one, other in zip(at_rail, at_leg, strict=True):
        assert one == pytest.approx(other, abs=1e-3)


def test_the_wood_that_is_gone_is_that_of_the_holes():
    now = railed(diameter=8.0, end=16.0, pitch=100.0, deep=20.0)
    blanks, left = 400 * HIGH * THICK + HIGH * LEG * LEG, sum(map(volume, read(parts_obj.text(now)).values()))
    # two dowels, a hole in either part, a millimetre deeper than the dowel goes; a circle is drawn with twelve corners
    assert blanks - left == pytest.approx(2 * 2 * 12 * 4.0**2 * math.sin(math.pi / 6) / 2 * 21.0, rel=1e-4)


@pytest.mark.parametrize(
    ("asked", "words"),
    [({"diameter": 20.0}, "do not lie within"), ({"deep": 44.5}, "do not lie within"), ({"end": 41.0}, "Twice")],
)
def test_what_cannot_be_bored_is_said(asked, words):
    assert words in refusal(railed(**asked))


def test_checks_tell_what_would_not_hold():
    (joint,) = railed(diameter=4.0, deep=5.0).joints.joints
    told = {c.text.split(";")[0]: c.holds for c in joint.checks}
    assert sum(not holds for holds in told.values()) == 2  # too thin, and not deep enough
    (joint,) = railed().joints.joints
    assert all(c.holds for c in joint.checks)


def test_the_drawing_says_where_middles_are():
    (joint,) = railed().joints.joints
    drawn = {
        face.title: [round(i.mm, 2) for i in face.drawing.items if isinstance(i, Dimension)] for face in joint.faces
    }
    # 16 from the end and 16 from the other of 80; half-way of 20; of the leg, 45 thick, as far from its face; the bit once
    assert sorted(drawn["rail, right end"]) == [8, 10, 16, 64]
    assert sorted(drawn["leg, left side"]) == [8, 16, 35, 64]


@pytest.mark.parametrize(("end", "holds"), [(30.0, True), (32.5, False)])
def test_dowels_stand_two_diameters_apart(end, holds):
    """Common practice, no source: 80 less twice the end is 20 or 15, and dowels of 8 want 16."""
    (joint,) = railed(diameter=8.0, pitch=100.0, end=end).joints.joints
    (apart,) = [c for c in joint.checks if "middle to middle" in c.text]
    assert apart.holds is holds


def test_dowels_that_run_into_each_other_are_refused():
    assert "run into each other" in refusal(railed(diameter=8.0, pitch=100.0, end=36.5))
