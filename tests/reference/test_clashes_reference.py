"""Parts that share wood or lose their play when one of them comes out otherwise: found on the solids, with ways out that mend it."""

import random

import pytest
from marked import marked
from two_parts import part

from nullah import demo
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Measured, Project
from nullah.core.edits import edit
from nullah.core.edits.piece_edits import fresh, set_answer
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.clashes import with_clashes
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def clashes(now):
    return [c for c in now.calls if c.id.startswith("clash")]


def of_kind(kind, *measured, **answers):
    project = fresh(kind)
    for name, value in answers.items():
        project = set_answer(project, name, value)
    return marked(project, measured=tuple(Measured(part=p, dimension=d, value=mm) for p, d, mm in measured))


@pytest.mark.parametrize("kind", [*KINDS, "demo"])
def test_nothing_clashes_as_it_is_planned(kind):
    project = demo.project() if kind == "demo" else fresh(kind)
    if kind == "small_table":
        project = set_answer(project, "drawer", True)
    assert not clashes(with_clashes(project))


@pytest.mark.parametrize(
    ("project", "parts", "mm"),
    [
        (of_kind("small_table", ("apron-back", "width", 108.0), drawer=True), {"rail-upper", "drawer-front"}, "1"),
        (of_kind("small_table", ("rail-upper", "thickness", 16.5), drawer=True), {"kicker-left", "drawer-left"}, "0.5"),
        (
            of_kind("small_table", ("doubler-left", "thickness", 24.0), drawer=True),
            {"doubler-left", "runner-left"},
            "5",
        ),
        (of_kind("small_table", ("drawer-front", "length", 462.0), drawer=True), {"drawer-front", "leg-fr"}, "6.5"),
        (of_kind("boarded_chest", ("left-end", "length", 448.0), till=True, till_lid=True), {"lid", "till-lid"}, "2"),
    ],
)
def test_a_measured_part_that_stands_beside_others_is_told_with_ways_out_that_mend_it(project, parts, mm):
    """How far by hand: a drawer half a millimetre below its kickers has half a millimetre less than 1.5 of thinner rail; an end of 450
    that comes out 448 lowers the lid by two."""
    now = with_clashes(project)
    call = next(c for c in clashes(now) if parts <= set(c.parts))
    assert f"stand {mm} in" in told(call.question)
    assert call.options[-1].id == "leave"
    ways = [o for o in call.options if o.id != "leave"]
    assert ways or "till-lid" in parts  # which lies under the lid whatever it measures
    for way in ways:
        after = with_clashes(edit.take(project, call, way.id))
        assert not [c for c in clashes(after) if parts <= set(c.parts) and not c.taken], told(way.label)
    kept = with_clashes(edit.take(project, call, "leave"))
    assert next(c for c in clashes(kept) if c.id == call.id).taken == "leave"


def test_play_that_is_lost_is_told():
    """A drawer has 0.5 of reveal to either leg: a front a millimetre longer touches one of them."""
    reveal = of_kind("small_table", drawer=True)
    long = next(p for p in plan(reveal).piece.parts if p.id == "drawer-front").sizes[0]
    now = with_clashes(of_kind("small_table", ("drawer-front", "length", round(long + 0.5, 2)), drawer=True))
    said = [told(c.question) for c in clashes(now)]
    assert any("of play; now they touch" in s and "drawer front" in s for s in said), said


def test_two_boxes_share_what_their_corners_say():
    """How deep: the least of the three overlaps, by the corners."""
    chance = random.Random(9)
    for _ in range(20):
        at = [round(chance.uniform(-30, 30), 1) for _ in range(3)]
        one, other = part("one", 60, 40, 30, "up", "back"), part("other", 50, 45, 20, "up", "back", tuple(at))
        low, high = (
            [max(0.0, a) for a in at],
            [min(s, a + t) for s, a, t in zip((60, 40, 30), at, (50, 45, 20), strict=True)],
        )
        deep = min(h - w for h, w in zip(high, low, strict=True))
        found = clashes(with_clashes(Project(pieces=(Designed(kind="free", name="Try", edits=(one, other)),))))
        assert len(found) == (deep > 0.1)
        if found:
            assert f"stand {deep:.1f}".rstrip("0").rstrip(".") in told(found[0].question)
