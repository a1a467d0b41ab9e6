"""What joins two parts: which way one looks to the other, what suits by the grain and by where it lies, and why the rest does not."""

import random

import pytest

from nullah.core.choosing import joining
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.edits.edit import BadEdit
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def made(kind, **asked):
    project = Project(pieces=(KINDS[kind].piece(asked),))
    return project, plan(project)


@pytest.mark.parametrize(
    ("kind", "first", "second", "way"),
    [
        ("shelves", "shelf-2", "side-left", "left"),
        ("shelves", "side-right", "shelf-2", "left"),
        ("small_table", "apron-front", "leg-fl", "left"),
        ("small_table", "apron-left", "leg-bl", "back"),
        ("small_table", "leg-fr", "top", "up"),
        ("boarded_chest", "bottom", "right-end", "right"),
    ],
)
def test_one_part_looks_towards_the_other_where_they_meet(kind, first, second, way):
    assert joining.between(made(kind)[1], first, second) == way


@pytest.mark.parametrize(("first", "second"), [("shelf-1", "shelf-1"), ("shelf-1", "shelf-4"), ("shelf-1", "none")])
def test_what_does_not_meet_is_not_joined(first, second):
    with pytest.raises(BadEdit):
        joining.between(made("shelves")[1], first, second)


# by the grain and by where it lies (facts of the trade: common practice, no source)
SUITS = {
    ("shelves", "shelf-2", "side-left"): {
        "dado": True, "groove": "that is a dado", "rabbet": "away from the edges", "edge_joint": "edge to edge",
    },
    ("small_table", "apron-front", "leg-fl"): {
        "mortise_and_tenon": True, "dado": "that is a groove", "butt_screws": "do not come through",
        "through_dovetail": "away from the edges",
    },
    ("boarded_chest", "bottom", "front"): {"groove": True, "mortise_and_tenon": "at its end", "rabbet": "away from"},
    ("laminated_board", "stave-1", "stave-2"): {"edge_joint": True, "mortise_and_tenon": "at its end"},
}  # fmt: skip


@pytest.mark.parametrize("case", SUITS)
def test_what_suits_is_told_with_what_it_costs_and_the_rest_with_its_reason(case):
    kind, first, second = case
    project, now = made(kind)
    found = {w.family: w for w in joining.ways(project, now, first, second, joining.between(now, first, second))}
    for family, wanted in SUITS[case].items():
        way = found[family]
        if wanted is True:
            assert not way.why_not
            assert way.minutes > 0
            assert way.tools
            assert way.drawing.items
        else:
            assert wanted in told(way.why_not)
        assert way.joins.strength
        assert way.joins.season
    assert not {"taper", "chamfer", "cut_out"} & set(found)  # nothing goes together by these
    assert second in joining.meets(now, first)
    assert first in joining.meets(now, second)


def test_what_is_wanted_and_not_at_hand_is_named_with_the_way_round_it():
    project, _ = made("shelves")
    for has, wanted in ((True, ()), (False, ("router plane: the floor is pared to a gauged line",))):
        kit = project.kit.model_copy(update={"router_plane": has})
        mine = project.model_copy(update={"kit": kit})
        offered = joining.ways(mine, plan(mine), "shelf-2", "side-left", "left")
        assert next(w for w in offered if w.family == "dado").lacking == wanted


def test_another_joint_takes_the_place_of_the_one_there_was():
    project, now = made("shelves")
    (old,) = joining.joined_by(now, "shelf-2", "side-left")
    long = next(p.length for p in now.piece.parts if p.id == "shelf-2")
    after = joining.join(project, now, "mortise_and_tenon", "shelf-2", "side-left", "left")
    then = plan(after)
    (new,) = joining.joined_by(then, "shelf-2", "side-left")
    assert new != old
    joint = next(j for j in then.joints.joints if j.id == new)
    assert joint.family == "mortise_and_tenon"
    # the shelf is as long as its tenon is, where it was as long as its dado is deep
    was = next(j for j in now.joints.joints if j.id == old).figures["depth"]
    now_long = next(p.length for p in then.piece.parts if p.id == "shelf-2")
    assert now_long - long == pytest.approx(joint.figures["length"] - was, abs=0.01)
    back = joining.join(after, then, "dado", "shelf-2", "side-left", "left")
    assert next(p.length for p in plan(back).piece.parts if p.id == "shelf-2") == pytest.approx(long, abs=0.01)


@pytest.mark.parametrize("seed", range(6))
def test_whatever_is_offered_can_be_taken(seed):
    chance = random.Random(seed)
    kind = chance.choice(["shelves", "small_table", "boarded_chest", "platform", "small_rest"])
    project, now = made(kind)
    parts = [p.id for p in now.piece.parts]
    for _ in range(3):
        first, second = chance.sample(parts, 2)
        try:
            way = joining.between(now, first, second)
        except BadEdit:
            continue
        for one in joining.ways(project, now, first, second, way):
            if not one.why_not:
                then = plan(joining.join(project, now, one.family, first, second, way))
                assert not then.piece.problem
                assert piece_edits.added(then.project) in [j.id for j in then.joints.joints]
