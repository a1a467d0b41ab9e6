"""Half-blind corners as polygons worked apart (shapely) and as solids: tails fill their sockets, and the closed corner has no hole."""

import os
import random

import pytest
from shapely.affinity import affine_transform
from shapely.geometry import Polygon, box
from shapely.ops import unary_union
from solid_sections import read, volume

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.joints.half_blind import STEPS
from nullah.core.planning.plan import plan
from nullah.formats import parts_obj

RUNS = 300 if os.environ.get("NULLAH_SOAK") else 40
FREE = 75.0  # mm of each practice board beyond the joint


def corner(**asked):
    asked = {"corner": "half-blind"} | asked
    return plan(Project(pieces=(Designed(kind="practice_joint", name="Try", asked=asked),)))


def sizes(chance):
    thick = round(chance.uniform(8, 40), 1)
    lap = round(chance.uniform(0.15, 0.5) * thick, 1)
    width, pin = round(chance.uniform(40, 300), 1), round(chance.uniform(4, 20), 1)
    slope = round(chance.uniform(5, 10), 1)
    # a tail and its pin are no narrower than this at the baseline
    room = 2 * (thick - lap) / slope + 4
    tails = chance.randint(1, max(1, min(12, int((width - thick + pin) / (pin + room)))))
    return {"thickness": thick, "lap": lap, "width": width, "pin": pin, "slope": slope, "tails": tails}


def test_soak_tails_fill_their_sockets_and_the_lap_stays():
    chance, held = random.Random(17), 0
    while held < RUNS:
        asked = sizes(chance)
        now = corner(**asked)
        if now.joints.problem:
            assert "tail" in now.joints.problem
            continue
        held += 1
        (joint,) = now.joints.joints
        thick, lap, width = asked["thickness"], asked["lap"], asked["width"]
        long = thick - lap
        assert joint.figures["baseline on tail board"] == pytest.approx(long)
        assert joint.figures["baseline on pin board"] == pytest.approx(thick)
        waste = unary_union([Polygon(c.outline) for c in joint.cuts if c.part == "tail-board"])
        # what is left beyond the baseline is tails: turned so that they lie as in the end of the front, from its inside
        tails = box(FREE, 0, FREE + long, width).difference(waste)
        tails = affine_transform(tails, [0, 1, 1, 0, 0, -FREE])
        sockets = unary_union([Polygon(c.outline) for c in joint.cuts if c.part == "pin-board"])
        assert tails.symmetric_difference(sockets).area < 1e-6 * width * thick
        assert {c.depth for c in joint.cuts} == {thick}
        assert sockets.bounds[1] == pytest.approx(0)
        assert sockets.bounds[3] == pytest.approx(long)  # the lap stays
        stout = tails.buffer(-1e-6)  # no sliver between baseline and gauge line, where floats differ
        assert len(getattr(stout, "geoms", [stout])) == asked["tails"]
        # pins by the dividers: step n times from the half-pin line
        half = joint.figures["half pin"]
        step = (width - 2 * half + asked["pin"]) / asked["tails"]
        ends = sorted(g.bounds[0] for g in getattr(sockets, "geoms", [sockets]))
        assert ends == pytest.approx([half + n * step for n in range(asked["tails"])], abs=1e-6)
        good = 0.2 - 1e-9 <= lap / thick <= 1 / 3 + 1e-9
        (share,) = [c for c in joint.checks if "a fifth to a third" in c.text]
        assert share.holds == good


@pytest.mark.parametrize("lap", [3.5, 5.0])
def test_the_closed_corner_is_solid(lap):
    """Both boards together fill what a front over all its thickness and a side up to its inside fill."""
    thick, width = 18.0, 120.0
    now = corner(thickness=thick, width=width, tails=3, lap=lap, pin=8.0)
    assert sum(map(volume, read(parts_obj.text(now)).values())) == pytest.approx(
        (FREE + thick) * width * thick + FREE * width * thick, rel=1e-6
    )


def test_what_leaves_no_tails_is_refused_and_the_front_is_never_cut_through():
    assert "no room for tails" in corner(thickness=12.0, lap=12.0).joints.problem
    assert STEPS.index(next(s for s in STEPS if s.startswith("Trace"))) > STEPS.index(
        next(s for s in STEPS if s.startswith("Chop to the baseline"))
    )


@pytest.mark.parametrize(("thick", "width"), [(12.0, 60.0), (18.0, 133.0), (7.5, 240.0)])
def test_fingers_of_both_boards_fill_the_corner(thick, width):
    """An odd number of them, alike, a finger of the second at either edge; both boards together have no hole."""
    now = corner(corner="fingers", thickness=thick, width=width)
    (joint,) = now.joints.joints
    count, wide = joint.figures["fingers"], joint.figures["finger"]
    assert count % 2 == 1
    assert count * wide == pytest.approx(width)
    assert abs(wide - thick) < thick  # about as wide as the boards are thick
    first = unary_union([Polygon(c.outline) for c in joint.cuts if c.part == "tail-board"])
    second = unary_union([Polygon(c.outline) for c in joint.cuts if c.part == "pin-board"])
    gone = [g.bounds for g in sorted(first.geoms, key=lambda g: g.bounds[1])]
    assert [(b[1], b[3]) for b in gone] == [
        pytest.approx((n * wide, (n + 1) * wide), abs=1e-5) for n in range(0, int(count), 2)
    ]
    assert first.area + second.area == pytest.approx(width * thick)
    assert sum(map(volume, read(parts_obj.text(now)).values())) == pytest.approx(
        (2 * FREE + thick) * width * thick, rel=1e-6
    )
