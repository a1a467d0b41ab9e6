"""A boarded chest against figures of the craft and sums by hand, its solids cut through apart from the code."""

import cmath
import math

import pytest
from solid_sections import box, read, section, shared, volume
from test_kinds_reference import INCH, made

from nullah.core.document.pieces import Designed, Put
from nullah.core.document.project import Project
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import parts_obj


def test_a_boarded_chest_whose_lid_leads():
    """Craft: lid 48", stock 5/8", dadoes 1/4": front and back 46", bottom 45 1/4"; the notch is the front less the rabbet."""
    now = made("boarded_chest", lid=48 * INCH, stock=0.625 * INCH, dado=0.25 * INCH)
    sizes = {p.id: p.sizes for p in now.piece.parts}
    assert sizes["front"][0] == pytest.approx(46 * INCH)
    assert sizes["back"][0] == pytest.approx(46 * INCH)
    assert sizes["bottom"][0] == pytest.approx(45.25 * INCH)
    assert {p.name for p in now.piece.parts} >= {"lid", "front", "back", "bottom", "left end", "right end"}
    for joint in (j for j in now.joints.joints if j.family == "nailed_rabbet"):
        f = joint.figures
        assert f["notch"] == pytest.approx(0.625 * INCH - f["depth"])
        assert f["width"] == pytest.approx(0.625 * INCH)
        assert (f["count"] - 1) * f["apart"] + 2 * 25 == pytest.approx(390)  # the first and last 25 from the ends
        assert 0 < f["apart"] <= 150
    steps = [told(s.words) for s in now.bench.steps]
    nails = next(i for i, s in enumerate(steps) if s.startswith("Nail the front to the left end and right end"))
    assert "bottom in before it is closed" in steps[nails]
    assert not any("Glue" in s for s in steps)
    assert any("child" in c for c in now.bench.steps[-1].cautions)


def test_a_boarded_chest_s_boards_by_hand():
    """16 thick: rabbets of 5.3, notches of 10.7 for 390 of the ends' 450; feet cut out 228 by 48 with corners of 20."""
    now = made("boarded_chest", lid=900.0, depth=380.0, height=450.0, stock=16.0, dado=6.0)
    bodies = read(parts_obj.text(now))
    assert volume(bodies["front"]) == pytest.approx((900 - 2 * INCH) * 390 * 16 - 2 * 5.3 * 16 * 390, abs=0.5)
    quarter = 20**2 / 2 * 8 * math.sin(math.pi / 16)  # of the round corners, drawn with eight lines each
    feet = 228 * 48 - 2 * (20**2 - quarter)
    bottom = 380 - 32 - 2.9  # 3 in 400 are free, to a tenth
    end = 450 * 380 * 16 - 2 * 10.7 * 390 * 16 - feet * 16 - 16 * 6 * bottom
    assert volume(bodies["left-end"]) == pytest.approx(end, abs=1.0)
    assert volume(bodies["bottom"]) == pytest.approx((900 - 2 * INCH - 32 + 12) * bottom * 16, rel=1e-6)
    # the face of the front is flush with the ends' feet, its shoulder on their notches
    front, left = box(bodies["front"]), box(bodies["left-end"])
    assert front[0][1] == pytest.approx(left[0][1], abs=0.001)
    over = section(bodies["left-end"], 300.0, 2).bounds  # where the front is
    below = section(bodies["left-end"], 55.0, 2).bounds  # beside the cut-out
    assert over[1] - below[1] == pytest.approx(10.7, abs=0.01)
    assert shared(bodies["front"], bodies["left-end"], {}) < 0.5
    inside = section(bodies["front"], 300.0, 2)
    assert inside.bounds[3] == pytest.approx(16.0, abs=0.01)


def test_a_chest_s_stay_holds_its_lid_ten_degrees_past_upright():
    """The lid turned about its hinge apart from the code: the stay reaches from its hole to where it bears, and folds away."""
    now = made("boarded_chest", lid=780.0, depth=360.0, height=400.0, stock=16.0, stay=True)
    bodies = read(parts_obj.text(now))
    (_, back, top), stay = box(bodies["right-end"])[1], box(bodies["stay"])
    hinge = complex(back - 16.0, top)
    hole = section(bodies["stay"], (stay[0][0] + stay[1][0]) / 2, 0).interiors[0].centroid
    bears = hinge - 0.45 * (360 - 2 * 16) * cmath.exp(
        -1j * math.radians(100.0)
    )  # closed, the lid lies to the front of the hinge
    reach = abs(complex(hole.x, hole.y) - bears)
    assert (hole.x, hole.y) == pytest.approx((hinge.real - 60, top - 35), abs=0.01)
    assert hole.x - stay[0][1] == pytest.approx(reach, abs=0.01)  # from the hole to the end that bears
    assert stay[0][1] > 16  # folded, it stays clear of the front
    assert "147.6 from the hinges" in told(now.bench.steps[-1].words)


def test_a_chest_s_bracket_and_the_lid_of_its_till():
    """The bracket 60 wide, an arch of 30 over all but its feet; the till's lid on its side and a ledge, 110 from rim to floor."""
    now = made(
        "boarded_chest", lid=900.0, depth=380.0, height=450.0, stock=16.0, till=True, till_lid=True, bracket=True
    )
    sizes = {p.id: p.sizes for p in now.piece.parts}
    bodies = read(parts_obj.text(now))
    long = 900 - 2 * INCH - 32
    assert sizes["bracket"] == pytest.approx((long, 60, 16))
    span = long - 120
    radius = (span**2 / 4 + 30**2) / 60
    segment = radius**2 * math.asin(span / 2 / radius) - (radius - 30) * span / 2
    bored = 2 * 2 * math.pi * (0.35 * 4) ** 2 * 14  # two pilots at each end, near enough
    assert volume(bodies["bracket"]) == pytest.approx((long * 60 - segment) * 16, abs=bored + 30)
    assert box(bodies["till-lid"])[1][2] == pytest.approx(450)
    assert box(bodies["till-lid"])[0][2] == pytest.approx(box(bodies["till-side"])[1][2])
    assert box(bodies["till-ledge"])[1][2] == pytest.approx(box(bodies["till-lid"])[0][2])
    assert sizes["till-lid"] == pytest.approx((380 - 32 - 1.5, 150 + 10 + 6, 10))
    assert sizes["till-side"][1] == pytest.approx(110 - 2 * 10)


@pytest.mark.parametrize(
    ("wide", "deep", "radius", "told_of"), [(400.0, 48.0, 0.0, "does not lie"), (330.0, 48.0, 0.0, "is left beside")]
)
def test_a_cut_out_that_leaves_too_little_is_told(wide, deep, radius, told_of):
    edits = tuple(
        Put(owner="feet-left", what=w, value=v) for w, v in (("wide", wide), ("deep", deep), ("radius", radius))
    )
    now = plan(Project(pieces=(Designed(kind="boarded_chest", name="x", edits=edits),)))
    said = [told(c.question) for c in now.calls] + [
        told(c.text) for j in now.joints.joints for c in j.checks if not c.holds
    ]
    assert any(told_of in s for s in said), said
