"""What does not hold before cutting is asked about, and the way out that is offered makes it hold, and no other joint asks anew."""

import pytest
from two_parts import joined, part

from nullah.core.edits import edit
from nullah.core.planning.plan import plan


def shelf(family, side=20.0, **asked):
    first = part("shelf", 300, 200, 18, "up", "back", (0, 0, 240))
    return joined(family, first, part("side", 500, 200, side, "right", "back", (300, 0, 0)), "right", **asked)


def railed(family, kit=None, **asked):
    first = part("rail", 400, 80, 20, "front", "up")
    second = part("leg", 120, 45, 45, "front", "right", (400, -12, 0))
    return joined(family, first, second, "right", kit=kit, **asked)


def through_side(**asked):
    first = part("shelf", 500, 160, 20, "up", "back")
    return joined("tusk_tenon", first, part("side", 600, 200, 22, "left", "back", (500, -20, -300)), "right", **asked)


def panelled(**asked):
    """A panel of 400 in one of the two stiles that hold it."""
    first = part("panel", 300, 400, 8, "front", "right", (0, 6, 0), species="American beech")
    return joined("groove", first, part("stile", 300, 60, 20, "front", "right", (400, 0, 0)), "right", **asked)


def framed(**asked):
    first = part("rail", 300, 50, 18, "front", "up")
    return joined("bridle", first, part("stile", 400, 60, 18, "front", "right", (300, 0, 0)), "right", **asked)


def laid_on(**asked):
    """A batten across the grain of a wide top, screwed fast."""
    first = part("cleat", 400, 40, 20, "up", "left", (0, 0, 0))
    second = part("top", 600, 400, 22, "up", "back", (-100, 0, 20))
    return joined("butt_screws", first, second, "up", **asked)


CASES = {
    "a dado over half": (lambda: shelf("dado", depth=11.0), "depth"),
    "a steep sliding dovetail": (lambda: shelf("sliding_dovetail", slope=4.0), "slope"),
    "a wedge too steep": (lambda: through_side(slope=4.0), "slope"),
    "a wedge too shallow": (lambda: through_side(slope=25.0), "slope"),
    "short grain beyond a wedge": (lambda: through_side(beyond=8.0), "beyond"),
    "a wedge that does not draw": (lambda: through_side(inside=0.0), "inside"),
    "a panel that bursts its frame": (lambda: panelled(free=0.3, depth=9.0), "free"),
    "a panel that falls out": (lambda: panelled(depth=3.5), "depth"),
    "a thin bridle": (lambda: framed(tenon=3.0), "tenon"),
    "a bit that is not there": (lambda: railed("dowels", diameter=7.0), "diameter"),
    "a chisel that is not there": (lambda: railed("mortise_and_tenon", thickness=7.0), "thickness"),
    "screws that bite too little": (lambda: laid_on(long=45.0, slotted=True), "long"),
    "screws across the grain": (lambda: laid_on(long=56.0), "slotted"),
}


@pytest.mark.parametrize("case", CASES)
def test_the_way_out_makes_it_hold(case):
    make, ask = CASES[case]
    now = make()
    (joint,) = now.joints.joints
    failed = [c for c in joint.checks if not c.holds and c.mend and c.mend.ask == ask]
    assert failed, [(c.holds, c.text) for c in joint.checks]
    call = now.call(f"mend {joint.id} {ask}")
    assert call is not None
    assert call.open
    after = plan(edit.take(now.project, call, "mend"))
    (mended,) = after.joints.joints
    assert mended.figures != joint.figures or ask == "slotted"
    assert not [c.text for c in mended.checks if not c.holds and c.mend and c.mend.ask == ask]
    assert after.call(f"mend {joint.id} {ask}") is None
    # left as it is, nothing changes and nothing is asked again
    left = plan(edit.take(now.project, call, "leave"))
    assert left.joints.joints[0].figures == joint.figures
    assert not left.call(f"mend {joint.id} {ask}").open
