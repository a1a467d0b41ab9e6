"""A joint in the round: the way its parts are shown to come together is one that they can come together."""

import manifold3d
import numpy as np
import pytest
from test_perturbed_reference import JOINTS, joined
from two_parts import joined as two
from two_parts import part

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Text
from nullah.core.edits import edit
from nullah.core.pictures import joint_round
from nullah.core.pictures.bodies import of_joint
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def solids(bodies):
    return {
        b.part: manifold3d.Manifold(
            manifold3d.Mesh64(np.array(b.corners, dtype=np.float64), np.array(b.triangles, dtype=np.uint64))
        )
        for b in bodies
    }


def in_the_way(now, joint):
    """mm3 that parts share, closed and at each tenth of the way they are shown to come; and how far they come."""
    made = now.piece.in_hand
    bodies = of_joint(made, now.joints.of_piece[made.id], joint)
    off, at = joint_round.apart(made, joint, bodies), solids(bodies)
    ((name, way),) = off.items()
    (other,) = set(at) - {name}
    shares = [(at[name].translate([w * tenth / 10 for w in way]) ^ at[other]).volume() for tenth in range(11)]
    return shares, float(np.hypot(*way[:2]) + abs(way[2]))


@pytest.fixture(scope="module")
def eleven():
    return plan(Project(pieces=(joined()[0],)))


@pytest.mark.parametrize("family", JOINTS)
def test_nothing_is_in_the_way_as_they_come_together(eleven, family):
    (joint,) = [j for j in eleven.joints.joints if j.family == family]
    shares, far = in_the_way(eleven, joint)
    assert far > 10
    assert max(shares) == pytest.approx(0, abs=0.5)


@pytest.mark.parametrize("family", ["through_dovetail", "half_blind_dovetail", "finger_joint"])
def test_corners_come_together_square_to_the_tails(family):
    first = part("front", 300, 100, 16, "front", "up")
    second = part("side", 200, 100, 14, "right", "up", (300, 16, 0))
    now = two(family, first, second, "right", **({"tails": 2} if "dove" in family else {}))
    shares, _ = in_the_way(now, now.joints.joints[0])
    assert max(shares) == pytest.approx(0, abs=0.5)


@pytest.mark.parametrize("edge", ["front", "back"])
def test_a_stopped_sliding_dovetail_comes_from_where_its_socket_is_open(edge):
    first = part("shelf", 300, 200, 18, "up", "back", (0, 0, 240))
    second = part("side", 500, 200, 20, "right", "back", (300, 0, 0))
    now = two("sliding_dovetail", first, second, "right", stop=30.0, edge=edge)
    shares, far = in_the_way(now, now.joints.joints[0])
    assert max(shares) == pytest.approx(0, abs=0.5)
    assert far > 170


@pytest.mark.parametrize(("at", "comes"), [(0, "left"), (60, "right")])
def test_a_lid_is_drawn_out_where_its_grooves_run_out(at, comes):
    """And a tail along an edge likewise: along its socket, which is none of the way it looks."""
    lid = part("lid", 240, 120, 8, "up", "back", (at, 0, 60))
    side = part("side", 300, 90, 14, "back", "up", (0, 120, 0))
    tail = part("lid", 240, 120, 18, "up", "back", (at, 0, 60))
    for family, first in (("sliding_lid", lid), ("sliding_dovetail", tail)):
        now = two(family, first, side, "back")
        (joint,) = now.joints.joints
        shares, far = in_the_way(now, joint)
        assert max(shares) == pytest.approx(0, abs=0.5)
        assert far > 200
        made = now.piece.in_hand
        off = joint_round.apart(made, joint, of_joint(made, now.joints.joints, joint))
        assert (off["lid"][0] < 0) == (comes == "left")


def test_a_lid_that_cannot_come_in_is_told():
    lid = part("lid", 240, 120, 8, "up", "back", (30, 0, 60))
    (joint,) = two("sliding_lid", lid, part("side", 300, 90, 14, "back", "up", (0, 120, 0)), "back").joints.joints
    assert [told(c.text) for c in joint.checks if not c.holds] == [
        "the groove for lid stops 30 short of the end of side: lid cannot slide in"
    ]


def test_every_state_is_drawn_once_and_turned_by_hand(eleven):
    for joint in eleven.joints.joints:
        drawing = joint_round.seen(eleven, joint)
        words = [i.text for i in drawing.items if isinstance(i, Text)]
        for state in ("apart", "half home", "closed", "cut open"):
            assert words.count(state) == 1, (joint.id, words)
        assert drawing.items != joint_round.seen(eleven, joint, (40.0, 5.0)).items


@pytest.mark.parametrize("family", ["sliding_lid", "splined_edge", "edge_joint"])
def test_of_a_long_joint_an_end_is_shown_as_large_as_of_a_shorter(family):
    def wide(long):
        lid = part("lid", long, 120, 14, "up", "back", (0, 0, 60))
        side = part(
            "side", long, 90, 14, *(("back", "up") if family == "sliding_lid" else ("up", "back")), (0, 120, 60)
        )
        now = two(family, lid, side, "back")
        x0, _, x1, _ = joint_round.seen(now, now.joints.joints[0]).extent()
        return x1 - x0

    assert wide(1600) == pytest.approx(wide(400), rel=0.01)
    assert wide(60) < 0.9 * wide(400)


def test_the_joints_of_a_box_are_shown_too():
    now = plan(demo.box())
    for joint in now.joints.joints:
        words = {i.text for i in joint_round.seen(now, joint).items if isinstance(i, Text)}
        assert {"closed", "cut open", "apart"} <= words, joint.id
    corner = next(j for j in now.joints.joints if j.tails)
    shares, _ = in_the_way(now, corner)
    assert max(shares) == pytest.approx(0, abs=0.5)


def test_too_many_cuts_are_not_drawn():
    now = plan(edit.set_piece(demo.box(), "dividers", 90))
    dadoes = next(j for j in now.joints.joints if j.id == "dadoes")
    assert len(dadoes.cuts) > 110
    assert [i.text for i in joint_round.seen(now, dadoes).items] == [
        "Nothing of it is drawn in the round: it has too many cuts for that."
    ]
