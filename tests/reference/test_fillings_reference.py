"""Joints of random sizes as solids: mates fill each other and share nothing, and the wood that is gone is what the shapes say."""

import math
import os
import random

import pytest
from shapely import union_all
from shapely.geometry import box as rect
from solid_sections import assert_closed, box, read, section
from two_parts import hold_to_account, joined, part, refusal

from nullah.core.document.boards import Board
from nullah.formats import parts_obj

RUNS = 300 if os.environ.get("NULLAH_SOAK") else 5
DOZEN = 12 * math.sin(math.pi / 6) / 2  # a hole's area in squares of its radius: it is drawn with twelve corners


def some(chance, low, high):
    return round(chance.uniform(low, high), 1)


def tapered(chance):
    """A shelf on a tapered sliding dovetail: the side over all its thickness, and the shelf up to it."""
    thick, side, deep = some(chance, 12, 30), some(chance, 15, 40), some(chance, 100, 300)
    asked = {"depth": some(chance, 0.2 * side, 0.5 * side), "slope": some(chance, 5, 10), "taper": some(chance, 0.5, 4)}
    asked |= {"edge": chance.choice(["front", "back"])}
    first = part("shelf", 300, deep, thick, chance.choice(["up", "down"]), "back", (0, 0, 240))
    second = part("side", 500, deep, side, chance.choice(["right", "left"]), "back", (300, 0, 0))
    whole = 500 * deep * side + 300 * deep * thick
    taken = asked["depth"] * deep * (2 * thick - 2 * asked["depth"] / asked["slope"] - asked["taper"]) / 2
    return joined("sliding_dovetail", first, second, "right", **asked), whole, {"side": 500 * deep * side - taken}


def lapped(chance):
    """A rail let into the top of a leg, flush: the rail up to the leg, and the leg."""
    leg, broad, thick = some(chance, 30, 80), some(chance, 30, 90), some(chance, 12, 30)
    first = part("rail", 400, broad, thick, "up", "back", (0, (leg - broad) / 2, 700 - thick))
    asked = {"slope": some(chance, 5, 10), "length": some(chance, 10, leg - 6)}
    if chance.random() < 0.5:
        asked["deep"] = some(chance, 6, thick)
    now = joined("lapped_dovetail", first, part("leg", 700, leg, leg, "front", "right", (400, 0, 0)), "right", **asked)
    deep = asked.get("deep", thick)
    taken = 0.0
    if now.joints.joints:
        neck = now.joints.joints[0].figures["neck"]
        taken = asked["length"] * (neck + asked["length"] / asked["slope"]) * deep
    return now, 400 * broad * thick + 700 * leg * leg, {"leg": 700 * leg * leg - taken}


def mitred(chance):
    """Two parts that meet at a corner: the first up to the second, the second to the outer corner; each has lost its triangle."""
    one, other, thick = some(chance, 20, 90), some(chance, 20, 90), some(chance, 12, 30)
    first = part("rail", 400, one, thick, "up", "back")
    on = chance.random() < 0.5
    second = part("stile", 300, other, thick, "up", "left", (400, 0 if on else one - 300, 0))
    whole = 400 * one * thick + 300 * other * thick
    triangle = one * other / 2 * thick
    return joined("mitre", first, second, "right", keys=0), whole, {"stile": 300 * other * thick - triangle}


def tusked(chance):
    """A tenon through a side, with a wedge's mortise: what fills the side is there, and what projects, less the wedge."""
    thick, wide, side = some(chance, 14, 30), some(chance, 60, 220), some(chance, 15, 40)
    asked = {"slope": some(chance, 6, 18), "small": some(chance, 8, 25), "edge": some(chance, 0, 15)}
    asked |= {"wedge": some(chance, 4, 12), "beyond": some(chance, 15, 60), "inside": some(chance, 1, 4)}
    first = part("shelf", 500, wide, thick, chance.choice(["up", "down"]), "back")
    second = part("side", 600, wide + 40, side, "left", "back", (500, -20, -300))
    tenon = wide - 2 * asked["edge"]
    big = asked["small"] + thick / asked["slope"]
    wedge = asked["wedge"] * thick * (asked["small"] + big + 2 * asked["inside"]) / 2
    out = (big + asked["beyond"]) * tenon * thick - wedge
    whole = 500 * wide * thick + 600 * (wide + 40) * side + out
    return (
        joined("tusk_tenon", first, second, "right", **asked),
        whole,
        {"side": (600 * (wide + 40) - tenon * thick) * side},
    )


def through(chance):
    """A through tenon, single or double, wedged or not: what the wedges fill and their kerfs is open."""
    rail, thick, leg = some(chance, 40, 140), some(chance, 16, 40), some(chance, 40, 80)
    asked = {"style": "through", "thickness": some(chance, 4, thick / 2), "tenons": chance.choice([1, 2])}
    wedged = chance.random() < 0.5
    asked |= {"hold": "wedged" if wedged else "glued"}
    first = part("rail", 300, rail, thick, "front", "up", (0, 0, 60))
    second = part("leg", rail + 120, leg, leg, "front", "right", (300, (thick - leg) / 2, 0))
    now = joined("mortise_and_tenon", first, second, "right", **asked)
    flare = min(4.0, round(leg / 8, 1)) if wedged else 0.0
    open_at = asked["tenons"] * asked["thickness"] * (leg * flare + (2 * 0.75 * leg * 1.0 if wedged else 0.0))
    return now, 300 * rail * thick + (rail + 120) * leg * leg - open_at, {}


def rodded(chance):
    """Two parts bored for one rod."""
    one, other, rod = some(chance, 12, 40), some(chance, 12, 40), some(chance, 5, 12)
    asked = {"diameter": rod, "play": 0.2, "along": some(chance, 40, 300), "across": some(chance, 12, 38)}
    asked |= {"deep": some(chance, 5, other)}
    first = part("one", 400, 50, one, "right", "back")
    second = part("other", 500, 50, other, chance.choice(["right", "left"]), "back", (one + 20, 0, -40))
    bored = DOZEN * ((rod + 0.2) / 2) ** 2
    whole = 400 * 50 * one + 500 * 50 * other - bored * (one + asked["deep"])
    return joined("shared_rod", first, second, "right", **asked), whole, {"one": (400 * 50 - bored) * one}


def toed(chance):
    """A stud toed to a plate: pilots are sheared prisms, as deep as the nails go."""
    thick, wide, long = some(chance, 25, 60), some(chance, 40, 120), some(chance, 40, 80)
    asked = {"long": long, "nail": 3.0, "lean": some(chance, 20, 40)}
    first = part("stud", 400, wide, thick, "front", "right", (0, 0, 80))
    second = part("plate", 500, thick + 120, 80, "up", "back", (-100, -60, 0))
    up = round(long / 3, 1)
    lean = math.radians(asked["lean"])
    bored = DOZEN * 1.05**2 * max(2, math.ceil(wide / 40))
    over, into = up * math.tan(lean), long * math.cos(lean) - up
    blanks = 400 * wide * thick + 500 * (thick + 120) * 80
    return joined("toed_nails", first, second, "down", **asked), blanks - bored * into - bored * over, {}


KINDS = (tapered, lapped, mitred, tusked, through, rodded, toed)


@pytest.mark.parametrize("kind", KINDS, ids=[k.__name__ for k in KINDS])
def test_soak_mates_fill_each_other(kind):
    # the half of a pilot that runs out at a stud's end is open on one side only: its corners are on the grid
    hold_to_account(kind, RUNS, 2e-4 if kind is toed else 2e-6)


def test_soak_breadboards_have_room_for_the_year_and_no_more():
    """At the middle of the thickness: the panel's tongue and tenons, and in the breadboard what is left round them, by hand."""
    chance, held = random.Random("breadboards"), 0
    while held < RUNS:
        wide, thick, deep = some(chance, 200, 900), some(chance, 14, 40), some(chance, 50, 120)
        staves, clear = chance.choice([1, 3, 5, 7]), some(chance, 0.5, 2)
        asked = {
            "staves": staves,
            "clearance": clear,
            "thickness": some(chance, 4, thick / 2),
            "pegs": "glued in the middle only",
        }
        first = part("top", 600, wide, thick, "up", "back")
        now = joined(
            "breadboard_end", first, part("end", wide, deep, thick, "up", "left", (600, 0, 0)), "right", **asked
        )
        if not now.joints.joints:
            assert "set aside." in refusal(now)
            continue
        held += 1
        figures = now.joints.joints[0].figures
        found = read(parts_obj.text(now))
        for body in found.values():
            assert_closed(body)
        long = round(2 / 3 * deep, 1)
        haunch, pitch = round(long / 3, 1), wide / staves
        tenon = math.floor(6 * pitch + 1e-9) / 10
        middles = [(n + 0.5) * pitch for n in range(staves)]
        edge = min(10.0, 0.2 * pitch)
        kept = [rect(0, 0, 600, wide), rect(600, edge, 600 + haunch, wide - edge)]
        kept += [rect(600, y - tenon / 2, 600 + long, y + tenon / 2) for y in middles]
        at = thick / 2
        top, end = section(found["top"], at), section(found["end"], at)
        assert top.symmetric_difference(union_all(kept)).area == pytest.approx(0, abs=0.05)
        assert top.intersection(end).area == pytest.approx(0, abs=1e-3)
        # to the sides of each tenon the breadboard is open by its slots, outward and inward; the middle one is tight
        for n, y in enumerate(middles, 1):
            out, into = figures[f"slot out {n}"], figures[f"slot in {n}"]
            below, above = (out, into) if y < wide / 2 else (into, out)
            deep_in = 600 + (haunch + long) / 2 + 0.5
            gaps = rect(deep_in, y - tenon / 2 - below, deep_in + 0.1, y + tenon / 2 + above).difference(top)
            assert gaps.intersection(end).area == pytest.approx(0, abs=1e-3)
            beyond = rect(
                deep_in, y - tenon / 2 - below - 0.5, deep_in + 0.1, y + tenon / 2 + above + 0.5
            ).intersection(end)
            assert beyond.area == pytest.approx(0.1, abs=1e-3)
            if n == (staves + 1) / 2:
                assert (out, into) == (0, 0)
        assert box(found["end"])[1][1] == pytest.approx(wide)


def test_pegs_of_a_breadboard_stand_still_while_the_panel_moves():
    """A round hole in the middle; else a slot that reaches outward by what the tenon comes in, and inward by what it goes out. The
    panel is made nearly as dry as it gets, so that these differ."""
    first = part("top", 600, 500, 22, "up", "back", species="white oak")
    dry = Board(id="b", name="B", species="white oak", length=900, width=300, thickness=30, moisture=8.0)
    second = part("end", 500, 90, 22, "up", "left", (600, 0, 0), species="white oak")
    now = joined("breadboard_end", first, second, "right", boards=(dry,), staves=5)
    (joint,) = now.joints.joints
    assert joint.figures["slot out 5"] > joint.figures["slot in 5"] + 1
    slots = [c for c in joint.cuts if c.part == "top" and len(c.outline) == 12]
    holes = [c for c in joint.cuts if c.part == "end" and len(c.outline) == 12]
    assert len(slots) == len(holes) == 5
    for n, (slot, y) in enumerate(zip(slots, (50, 150, 250, 350, 450), strict=True), 1):
        low, high = (f(p[1] for p in slot.outline) for f in (min, max))
        flat = 4.0 * math.cos(math.pi / 12)  # a circle of twelve corners, half a step turned, is so high
        out, into = joint.figures[f"slot out {n}"], joint.figures[f"slot in {n}"]
        below, above = (into, out) if n > 3 else (out, into)
        # of the tenon's slot: where the panel comes in its peg is further out
        assert (low, high) == (pytest.approx(y - flat - above, abs=1e-6), pytest.approx(y + flat + below, abs=1e-6))


def test_the_figures_of_a_mitre():
    """3 : 4 : 5. The line runs from corner to corner of what both take up, and keys of two thirds leave of it what lies inside them."""
    first = part("rail", 400, 60, 20, "up", "back")
    (joint,) = joined("mitre", first, part("stile", 300, 80, 20, "up", "left", (400, 0, 0)), "right").joints.joints
    assert joint.figures["line"] == pytest.approx(100)
    assert joint.figures["angle"] == pytest.approx(math.degrees(math.atan(3 / 4)))
    assert joint.figures["leg"] == pytest.approx(40)
    bevels = [s.text for s in joint.settings if s.tool == "bevel"]
    assert bevels == ["36.9\N{DEGREE SIGN}", "53.1\N{DEGREE SIGN}"]


def test_boards_mitred_over_their_thickness_with_keys_are_closed():
    """The tip of the mitre lies on the blank's own arris, and slots go through it: nothing thinner than can be stays there."""
    chance = random.Random(3)
    sizes = [(round(chance.uniform(8, 40), 1), round(chance.uniform(8, 40), 1)) for _ in range(20)]
    for one, other in ((29.7, 15.9), (18.0, 18.0), (12.3, 21.9), *sizes):
        wide = round(chance.uniform(60, 400), 1)
        first = part("one", 248.3, wide, one, "down", "back")
        second = part("other", 203.1, wide, other, "left", "back", (-other, 0, 0))
        now = joined("mitre", first, second, "left", keys=2)
        assert now.joints.joints
        for body in read(parts_obj.text(now)).values():
            assert_closed(body)


def test_keys_too_short_to_hold_are_refused():
    first = part("rail", 400, 60, 20, "up", "back")
    now = joined("mitre", first, part("stile", 300, 60, 20, "up", "left", (400, 0, 0)), "right", leg=2.0)
    assert "hold nothing" in refusal(now)
