"""What can be taken hold of in a joint's drawing follows the hand: the line goes as far as it is pulled."""

import pytest
from test_perturbed_reference import JOINTS, joined
from two_parts import joined as two
from two_parts import part

from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Handle
from nullah.core.edits import edit, gestures
from nullah.core.pictures import joint as picture
from nullah.core.pieces.grips import grips
from nullah.core.planning.plan import plan

# which of what a joint is asked can be pulled, by hand: lengths that a marked side shows, of what is there by default
PULLED = {
    "mortise_and_tenon": {"length", "thickness", "draw"},
    "bridle": {"tenon"},
    "dowels": {"end"},
    "tusk_tenon": {"wedge", "small", "beyond", "inside"},
    "lapped_dovetail": {"length", "neck"},
    "mitre": {"key", "leg"},
    "breadboard_end": {"length", "thickness", "clearance"},
}


def middle(joint, grip):
    outline = joint.cuts[grip.cut].outline
    ends = outline if grip.corner < 0 else (outline[grip.corner], outline[(grip.corner + 1) % len(outline)])
    return sum(p[grip.axis] for p in ends) / len(ends)


@pytest.fixture(scope="module")
def eleven():
    project = Project(pieces=(joined()[0],))
    return project, plan(project)


@pytest.mark.parametrize("family", JOINTS)
def test_a_line_goes_as_far_as_it_is_pulled(eleven, family):
    project, now = eleven
    (joint,) = [j for j in now.joints.joints if j.family == family]
    found = grips(now.piece.in_hand.worked, joint.id)
    assert {g.ask for g in found} == PULLED.get(family, set())
    for grip in found:
        handle = grip.handle(joint, joint.id)
        by = (1.0 if grip.rate > 0 else -1.0) * abs(grip.rate) * 2
        dx, dy = ((by, 0.0), (0.0, by))[grip.axis]
        made = gestures.pull(project, now, handle.tag, dx, dy)
        after = plan(made.project)
        (then,) = [j for j in after.joints.joints if j.id == joint.id]
        # it stops at the division shown, half a millimetre at the most beside
        assert middle(then, grip) - middle(joint, grip) == pytest.approx(by, abs=0.51 * abs(grip.rate)), grip
        others = [j.figures for j in after.joints.joints if j.id != joint.id]
        assert others == [j.figures for j in now.joints.joints if j.id != joint.id]


def test_handles_stand_on_the_sides_they_are_of(eleven):
    _, now = eleven
    (joint,) = [j for j in now.joints.joints if j.family == "mitre"]
    found = grips(now.piece.in_hand.worked, joint.id)
    held = {}
    for grip in found:
        cut = joint.cuts[grip.cut]
        held.setdefault((cut.part, cut.side), []).append(grip.handle(joint, joint.id))
    shown = [i for page in picture.pages(joint.faces, held) for d in page for i in d.items if isinstance(i, Handle)]
    assert sorted(h.tag for h in shown) == sorted(h.tag for hs in held.values() for h in hs)


def test_what_is_cut_or_has_too_many_lines_is_not_taken_hold_of(eleven):
    project, now = eleven
    (joint,) = [j for j in now.joints.joints if j.family == "bridle"]
    cut = edit.mark_joint(project, joint)
    assert grips(plan(cut).piece.in_hand.worked, joint.id) == ()
    first = part("front", 300, 600, 16, "front", "up")
    many = two("finger_joint", first, part("side", 200, 600, 14, "right", "up", (300, 16, 0)), "right", finger=12.0)
    (joint,) = many.joints.joints
    assert len(joint.cuts) > 40
    assert grips(many.piece.in_hand.worked, joint.id) == ()


def test_nothing_is_pulled_away_and_nonsense_is_said(eleven):
    project, now = eleven
    (joint,) = [j for j in now.joints.joints if j.family == "bridle"]
    (grip,) = grips(now.piece.in_hand.worked, joint.id)
    tag = grip.handle(joint, joint.id).tag
    thin = gestures.pull(project, now, tag, 0.0, 500.0 if grip.rate < 0 else -500.0)
    (then,) = [j for j in plan(thin.project).joints.joints if j.id == joint.id]
    assert then.figures["tenon"] == 0.5
    with pytest.raises(edit.BadEdit, match="no shoulders"):  # a tenon as thick as its part
        gestures.pull(project, now, tag, 0.0, -500.0 if grip.rate < 0 else 500.0)
    with pytest.raises(edit.BadEdit, match="no longer here"):
        gestures.pull(project, now, "grip:nothing/tenon/0/1", 1.0, 0.0)
