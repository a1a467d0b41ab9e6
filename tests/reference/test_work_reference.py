"""Minutes of joints against those of a practised hand in medium hardwood 18 to 20 thick (common practice, from memory; no published
source): each within its bracket, growing as the work does, and no two families alike by accident."""

import pytest
from two_parts import joined, part, shaped

from nullah.core.joints.families import FAMILIES

WOOD = {"species": "black walnut"}  # of middling ease
T = 19


def corner(family, wide=150, thick=T, **asked):
    first = part("front", 300, wide, thick, "front", "up", **WOOD)
    return joined(
        family, first, part("side", 200, wide, thick, "right", "up", (300, thick, 0), **WOOD), "right", **asked
    )


def tenon(family="mortise_and_tenon", rail=70, **asked):
    first = part("rail", 300, rail, 20, "front", "up", **WOOD)
    return joined(
        family, first, part("leg", rail + 30, 45, 45, "front", "right", (300, -12, 0), **WOOD), "right", **asked
    )


def bridle(rail=50):
    first = part("rail", 300, rail, 20, "front", "up", **WOOD)
    return joined("bridle", first, part("stile", 400, 50, 20, "front", "right", (300, 0, 0), **WOOD), "right")


def dado(deep=250, **asked):
    first = part("shelf", 300, deep, T, "up", "back", (0, 0, 240), **WOOD)
    return joined("dado", first, part("side", 500, deep, T, "right", "back", (300, 0, 0), **WOOD), "right", **asked)


def groove(long=1000, family="groove"):
    first = part("panel", long, 200, 6, "front", "up", (0, 6, 30), **WOOD)
    return joined(family, first, part("rail", long, 30, T, "front", "up", (0, 0, 0), **WOOD), "down")


def rabbet(long=1000):
    first = part("back", long, 200, 9, "front", "up", (0, 10, 0), **WOOD)
    return joined("rabbet", first, part("rail", long, 40, T, "front", "up", (0, 0, -40), **WOOD), "down", depth=9.0)


def nailed(high=400):
    first = part("end", high, 300, T, "left", "front", (0, 0, 0), **WOOD)
    return joined(
        "nailed_rabbet", first, part("side", 600, high, T, "front", "up", (0, 0, 0), **WOOD), "front", long=50.0
    )


def edge(long=1000, thick=20):
    first = part("one", long, 150, thick, "up", "back", **WOOD)
    return joined("edge_joint", first, part("other", long, 150, thick, "up", "back", (0, 150, 0), **WOOD), "back")


def tusk(wide=120):
    first = part("shelf", 400, wide, 22, "up", "back", (0, 0, 100), **WOOD)
    return joined("tusk_tenon", first, part("side", 600, 200, 22, "left", "back", (400, -40, -300), **WOOD), "right")


def breadboard(wide=400):
    first = part("top", 600, wide, 22, "up", "back", **WOOD)
    return joined("breadboard_end", first, part("end", wide, 70, 22, "up", "left", (600, 0, 0), **WOOD), "right")


def taper(faces="left back", long=500):
    return shaped("taper", part("leg", long, 40, 40, "front", "right", **WOOD), "down", foot=25, faces=faces)


def arris(family, long=1000, **asked):
    return shaped(family, part("top", long, 300, 20, "up", "back", **WOOD), "up", edges="front", **asked)


def screwed(pitch=150):
    first = part("cleat", 200, 25, 25, "front", "up", **WOOD)
    asked = {"pitch": float(pitch), "end": 25.0}
    return joined("butt_screws", first, part("top", 600, 300, 20, "up", "back", (0, 0, 25), **WOOD), "up", **asked)


def minutes(now):
    (joint,) = now.joints.joints
    step = next(s for s in now.bench.steps if s.joint == joint.id)
    assert step.minutes == now.joints.work(joint.id).minutes
    return step.minutes


JOBS = {
    "five-tailed corner": (lambda: corner("through_dovetail", tails=5), 45, 90),
    "the same, half-blind": (lambda: corner("half_blind_dovetail", tails=5), 60, 120),
    "single practice tail": (lambda: corner("through_dovetail", wide=50, thick=14, tails=1), 5, 15),
    "mortise and tenon": (tenon, 25, 50),
    "bridle": (bridle, 20, 40),
    "dado across 250": (dado, 10, 20),
    "stopped dado": (lambda: dado(stop=20.0), 15, 30),
    "groove of a metre": (groove, 6, 15),
    "rabbet of a metre": (rabbet, 6, 15),
    "nailed rabbet of 400": (nailed, 15, 30),
    "edge joint of a metre": (edge, 8, 20),
    "tusk tenon": (tusk, 45, 90),
    "one breadboard end of two": (breadboard, 75, 150),
    "leg tapered on two faces": (taper, 10, 20),
    "leg tapered on four": (lambda: taper("left right front back"), 20, 40),
    "chamfer of a metre": (lambda: arris("chamfer", size=4.0), 3, 8),
    "round-over of a metre": (lambda: arris("round_over", radius=8.0), 10, 20),
    "two screws": (screwed, 5, 10),
    "a bored hole": (lambda: shaped("bored_hole", part("top", 300, 200, 20, "up", "back", **WOOD), "up"), 1, 4),
}


@pytest.mark.parametrize("job", JOBS)
def test_a_joint_takes_about_as_long_as_it_does(job):
    made, least, most = JOBS[job]
    assert least <= minutes(made()) <= most


@pytest.mark.parametrize(
    ("small", "large"),
    [
        (lambda: corner("through_dovetail", 100, tails=3), lambda: corner("through_dovetail", 200, tails=6)),
        (tenon, lambda: tenon(rail=120)),
        (dado, lambda: dado(450)),
        (groove, lambda: groove(1800)),
        (edge, lambda: edge(2000)),
        (edge, lambda: edge(1000, 40)),
        (taper, lambda: taper(long=800)),
        (lambda: arris("chamfer", size=4.0), lambda: arris("chamfer", 2000, size=4.0)),
        (lambda: tusk(100), lambda: tusk(150)),
    ],
)
def test_it_grows_as_the_work_does(small, large):
    assert minutes(large()) > 1.15 * minutes(small())


def test_no_two_families_take_the_same_by_accident():
    found = [round(minutes(made()), 2) for made, _, _ in JOBS.values()]
    assert len(set(found)) == len(found)


def test_hard_wood_takes_longer_and_what_can_hurt_is_read_off_what_is_done():
    soft, hard = (
        minutes(
            joined(
                "dowels",
                *(part(n, 200, 60, 20, "up", "back", (at, 0, 0), species=wood) for n, at in (("a", 0), ("b", 200))),
                "right",
            )
        )
        for wood in ("eastern white pine", "white oak")
    )
    assert hard > soft
    chopped = next(s for s in tenon().bench.steps if s.joint)
    ploughed = next(s for s in groove().bench.steps if s.joint)
    assert any("Eye protection" in c for c in chopped.cautions)
    assert not any("Eye protection" in c for c in ploughed.cautions)
    assert all(family.making for family in FAMILIES.values())
