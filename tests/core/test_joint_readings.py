"""A size of a joint measured after cutting holds and its mate follows; a gap goes into the record alone."""

from itertools import pairwise

import pytest
from test_held import PROJECT, cuts, table

from nullah.core.edits import joint_readings, measuring
from nullah.core.edits.edit import BadEdit
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def said(project, text):
    return joint_readings.measured(project, plan(project), text)


def test_pins_are_laid_out_from_the_tails_as_they_were_cut():
    after = said(PROJECT, "Corner A-B half pin 9.6")
    was, now = plan(PROJECT), plan(after)
    joint = next(j for j in now.joints.joints if j.id == "corner A-B")
    assert joint.figures["half pin"] == 9.6
    assert joint.figures["pin"] == 6.0
    # the tails that go into B's end: as far apart as the dividers step from half pins of 9.6
    ends = sorted((min(p[0] for p in c.outline), max(p[0] for p in c.outline)) for c in joint.cuts if c.part == "B")
    step = (134.0 - 2 * 9.6 + 6.0) / 5
    assert len(ends) == 5
    assert [b[0] - a[0] for a, b in pairwise(ends[1:])] == pytest.approx([step] * 3, abs=0.01)
    assert ends != sorted(
        (min(p[0] for p in c.outline), max(p[0] for p in c.outline))
        for c in next(j for j in was.joints.joints if j.id == "corner A-B").cuts
        if c.part == "B"
    )
    others = {k: v for k, v in cuts(now).items() if k[0] != "corner A-B"}
    assert others == {k: v for k, v in cuts(was).items() if k[0] != "corner A-B"}  # no other corner was cut so
    assert [e.text for e in after.log][-1] == "Corner A-B half pin 9.6"
    assert any(c.conflict and "9.6" in c.question.replace("\u2063", "") for c in now.calls)
    assert project_file.loads(project_file.dumps(after)) == after


def test_what_is_measured_again_replaces_it_and_the_log_keeps_both():
    after = said(said(PROJECT, "corner A-B pin 6.4"), "corner A-B pin 6.2")
    assert [m.figures["pin"] for m in after.joints_cut] == [6.2]
    assert [e.text for e in after.log][-2:] == ["Corner A-B pin 6.4", "Corner A-B pin 6.2"]


def test_a_mortise_as_it_was_chopped_tells_its_tenon():
    project = table()
    joint = next(j for j in plan(project).joints.joints if j.id == "tenon-front-fl")
    wide = joint.figures["thickness"]
    after = said(project, f"{joint.name} thickness {wide + 0.4}")
    now = next(j for j in plan(after).joints.joints if j.id == "tenon-front-fl")
    gauge = next(s.value for s in now.settings if s.tool == "mortise gauge")
    assert gauge == pytest.approx(wide + 0.4)
    (mortise,) = [c for c in now.cuts if c.part == "leg-fl"]
    spans = [max(p[k] for p in mortise.outline) - min(p[k] for p in mortise.outline) for k in (0, 1)]
    assert min(spans) == pytest.approx(wide + 0.4, abs=0.01)


def test_a_gap_changes_nothing_and_is_kept():
    after = said(PROJECT, "corner C-D gap 0.3")
    assert after.joints_cut == PROJECT.joints_cut
    assert after.log[-1].kind == "measured"
    assert after.log[-1].text == "Corner C-D gap 0.3"
    assert said(PROJECT, "corner C-D gap 0").log[-1].text == "Corner C-D gap 0"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("corner A-B tails 7", "to measure"),
        ("corner A-B slope 7", "to measure"),
        ("corner A-B", "Write a part"),
        ("corner A-B pin", "to measure"),
        ("corner A-B pin -3", "the pin"),
        ("corner A-B pin wide", "wide"),
        ("corner A-B pin 90", "."),
        ("corner A-B gap 400", "A gap is"),
        ("dadoes depth 30", "right through"),
        ("lid groove depth 18", "right through"),  # just as thick as the wall
        ("corner A-B baseline on A 900", "longer than any of its parts"),
        ("corner X-Y pin 6", "Write a part"),
    ],
)
def test_what_cannot_be_taken_is_said_in_a_sentence(text, words):
    with pytest.raises(BadEdit, match=r"\.$") as told:
        said(PROJECT, text)
    assert words in str(told.value)


def test_parts_and_boards_are_measured_as_before():
    assert said(PROJECT, "A thickness 17.4") == measuring.measured(
        PROJECT, plan(PROJECT).piece.parts, "A thickness 17.4"
    )
