"""What is read off a picture goes into what the piece is asked, or into its joints, all of one family at once."""

from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import guide_edits, piece_edits
from nullah.core.planning.plan import plan

SIZE = {"width": 100.0, "thickness": 18.0, "upper": "up"}
EDITS = (
    AddPart(id="front", label="front", length=300.0, face="front", at=(0, 0, 0), **SIZE),
    AddPart(id="side", label="side", length=200.0, face="right", at=(300, 18, 0), **SIZE),
    AddPart(id="other", label="other", length=200.0, face="left", at=(-18, 18, 0), **SIZE),
)


def test_the_proportions_of_an_old_joint_come_over_to_all_of_its_family():
    project = Project(pieces=(Designed(kind="free", name="Drawer", edits=EDITS),))
    for second, way in (("side", "right"), ("other", "left")):
        project = piece_edits.add_joint(project, plan(project), "half_blind_dovetail", "front", second, way)
    now = plan(project)
    assert len(now.joints.joints) == 2
    found = guide_edits.asked(project, now)
    (words,) = [w for w, into in found.items() if into[0][1] == "lap"]
    assert words.startswith("half blind dovetail: ")
    assert len(found[words]) == 2
    after = plan(guide_edits.take(project, found[words], 4.3))
    assert [j.figures["lap"] for j in after.joints.joints] == [4.3, 4.3]


def test_what_the_piece_itself_is_asked_stands_first():
    project = Project(pieces=(Designed(kind="practice_joint", name="Try"),))
    found = guide_edits.asked(project, plan(project))
    assert next(iter(found.values()))[0][0] == ""
    pins = [words for words, into in found.items() if any(what == "pin" for _, what in into)]
    assert len(pins) == 1
    after = guide_edits.take(project, found[pins[0]], 9.0)
    assert after.in_hand.asked["pin"] == 9.0
