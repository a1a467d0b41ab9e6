"""What is cut, typed or measured holds: thicknesses, joints, outside sizes, unlike pairs; where the plan differs, a call says so."""

import json
from dataclasses import replace

import pytest
from marked import as_version_9, with_done

from nullah import demo
from nullah.core.document.pieces import Designed, Put
from nullah.core.document.project import Project, Reading
from nullah.core.edits import edit, measuring, piece_edits, step_edits
from nullah.core.joints.squareness import NoSuchFrame, by_diagonals
from nullah.core.layout.model import Layout
from nullah.core.planning.plan import plan
from nullah.formats import plan_json, project_file
from nullah.processes.planner import placed_share

PROJECT = demo.box()


def marked(project, *parts):
    for name in parts:
        project = edit.mark_cut(project, plan(project).piece.in_hand.own.box.part(name))
    return project


@pytest.mark.parametrize(
    ("part", "field", "value"),
    [
        ("A", "wall", 15.0),
        ("lid", "lid_thickness", 9.5),
        ("1", "divider_thickness", 7.0),
        ("bottom", "bottom_thickness", 5.0),
    ],
)
def test_thickness_of_what_is_cut_holds_and_is_told(part, field, value):
    cut = marked(PROJECT, part)
    was = plan(cut).piece.in_hand.own.box.part(part)
    after = edit.set_piece(cut, field, value)
    now = plan(after)
    held = now.piece.in_hand.own.box.part(part)
    assert held.sizes == was.sizes
    assert held.planned[2] == value
    call = now.call(f"cut {part}")
    assert call.conflict
    assert call.parts == (part,)
    assert "thickness" in call.question
    follow = edit.take(after, call, "follow")
    assert getattr(follow.piece, field) == was.thickness
    assert plan(follow).call(f"cut {part}") is None


def test_joints_are_laid_out_from_the_thickness_as_cut():
    cut = marked(PROJECT, "B")
    after = plan(edit.set_piece(cut, "wall", 15.0))
    gauges = {
        (s.value, p) for j in after.joints.joints for s in j.settings if s.tool == "marking gauge" for p in s.parts
    }
    assert (18.0, "A") in gauges  # where B comes in
    assert (15.0, "A") in gauges  # where D does
    assert after.call("hold length") is not None


def sawn_corners(project):
    for step in plan(project).bench.steps:
        if step.joint.startswith("corner"):
            joint = next(j for j in plan(project).joints.joints if j.id == step.joint)
            project = edit.mark_joint(project, joint)
            project = with_done(project, step.id)
    return project


def test_joints_that_are_cut_are_a_conflict_when_their_figures_change():
    cut = sawn_corners(PROJECT)
    assert not [c for c in plan(cut).calls if c.conflict]
    after = edit.set_piece(cut, "pin", 9.0)
    calls = [c for c in plan(after).calls if c.conflict]
    assert {p for c in calls for p in c.parts} == set("ABCD")
    assert all("pin 6" in c.question.replace("\u2063", "") and "9" in c.question for c in calls)
    for call in calls:
        after = edit.take(after, plan(after).call(call.id), "follow") if plan(after).call(call.id) else after
    assert not [c for c in plan(after).calls if c.conflict]
    assert after.piece.pin == 6.0
    again = edit.set_piece(cut, "pin", 9.0)
    again = edit.take(again, next(c for c in plan(again).calls if c.conflict), "again")
    assert len(again.joints_cut) < 4
    kept = edit.set_piece(cut, "wall", 17.0)  # the mates come out otherwise
    assert [c for c in plan(kept).calls if c.conflict and c.station == "joints"]
    told = json.loads(plan_json.text(plan(kept)))["calls"]
    assert all(isinstance(c["parts"], list) for c in told)
    assert any(c["conflict"] and set(c["parts"]) >= {"A", "B"} for c in told)


def all_joints_cut(project):
    for joint in plan(project).joints.joints:
        project = edit.mark_joint(project, joint)
    return project


def cuts(now, *names):
    """The cuts of joints, by joint and part."""
    return {
        (j.id, c.part): (c.side, c.depth, c.outline)
        for j in now.joints.joints
        if j.id in names or not names
        for c in j.cuts
    }


@pytest.mark.parametrize(
    ("field", "value"), [("pin", 9.0), ("tails", 2), ("slope", 5.0), ("half_pin", 11.0), ("groove", "pin")]
)
def test_a_box_whose_joints_are_cut_stays_as_they_were_cut(field, value):
    """Corners, grooves and dadoes, and with them the sizes that hang on a groove's place."""
    cut = all_joints_cut(PROJECT)
    was = plan(cut)
    other = edit.take(cut, was.call("groove"), "pin") if field == "groove" else edit.set_piece(cut, field, value)
    now = plan(other)
    assert cuts(now) == cuts(was)
    assert [p.sizes for p in now.piece.parts] == [p.sizes for p in was.piece.parts]
    assert {p for c in now.calls if c.conflict for p in c.parts} >= set("ABCD")


def test_dadoes_that_are_cut_keep_their_bays_when_the_box_grows():
    cut = all_joints_cut(PROJECT)
    was, now = plan(cut).piece.in_hand.own.box, plan(edit.set_piece(cut, "extra_length", 12.0)).piece.in_hand.own.box
    assert now.outside[0] == pytest.approx(was.outside[0] + 12)
    assert now.dado_centres == pytest.approx(was.dado_centres)
    assert now.bays[:-1] == pytest.approx(was.bays[:-1])
    assert now.bays[-1] == pytest.approx(was.bays[-1] + 12)
    thin = measuring.measured(cut, plan(cut).piece.parts, "2 thickness 6.5")  # a loose divider stands at its near wall
    joint = next(j for j in plan(thin).joints.joints if j.id == "dadoes")
    assert joint.figures == pytest.approx(next(j for j in plan(cut).joints.joints if j.id == "dadoes").figures)


def test_a_groove_that_is_cut_tells_its_panel_how_far_it_goes():
    cut = all_joints_cut(PROJECT)
    was, now = plan(cut), plan(edit.set_piece(cut, "wall", 12.0))  # a third of which would be 4
    groove = next(j for j in now.joints.joints if j.id == "bottom groove")
    assert groove.figures["depth"] == 6.0
    inside = now.piece.in_hand.own.box.inside[1] - was.piece.in_hand.own.box.inside[1]
    width = {n.piece.in_hand.own.box.part("bottom").width for n in (was, now)}
    assert max(width) - min(width) == pytest.approx(inside, abs=0.2)  # but for what a wider panel grows


def table(**asked):
    return Project(pieces=(Designed(kind="small_table", name="x", asked=asked),))


def test_a_mortise_that_is_cut_stays_in_the_leg_and_the_tenon_follows_it():
    cut = all_joints_cut(table(drawer=True))
    was = plan(cut)
    now = plan(piece_edits.set_answer(cut, "apron", 90.0))  # 110 as cut
    legs = [(j, p) for j, p in cuts(was) if p.startswith("leg")]
    assert len(legs) > 12
    assert {k: cuts(now)[k] for k in legs} == {k: cuts(was)[k] for k in legs}  # also of the rail, which comes 20 higher
    assert next(j for j in now.joints.joints if j.id == "tenon-back-bl").figures["width"] == 93.0
    told = [c for c in now.calls if c.conflict]
    words = ["".join(ch for ch in c.question if ch.isascii()) for c in told]
    assert any("576 from the lower end of front left leg as cut, 596 in the plan" in w for w in words)
    assert {p for c in told for p in c.parts} >= {"leg-fl", "leg-fr", "leg-bl", "leg-br"}


def test_an_apron_is_as_long_as_its_tenons_as_cut():
    one = table()
    for name in ("leg-bl", "leg-br", "leg-fl", "leg-fr"):
        one = edit.mark_cut(one, next(p for p in plan(one).piece.parts if p.id == name))
    joints = {j.id: j for j in plan(one).joints.joints}
    cut = edit.mark_joint(edit.mark_joint(one, joints["tenon-back-bl"]), joints["tenon-back-br"])
    sizes = lambda project: {p.id: p.length for p in plan(project).piece.parts}  # noqa: E731 - said twice below
    shorter = tuple(
        Put(owner=f"tenon-{side}", what="length", value=20.0) for side in ("back-bl", "back-br", "front-fl")
    )
    after = edit.held(cut, pieces=(cut.pieces[0].model_copy(update={"edits": shorter}),))
    assert sizes(after)["apron-back"] == sizes(one)["apron-back"]
    assert sizes(after)["apron-front"] == pytest.approx(sizes(one)["apron-front"] - 8)  # 28, a tenon's length, less 20
    (call,) = (c for c in plan(after).calls if c.conflict)
    followed = plan(edit.take(after, call, "follow"))
    assert not [c for c in followed.calls if c.conflict]
    assert followed.project.pieces[0].edits[-1].value == 28.0


def test_grooves_of_one_panel_are_as_deep_as_the_one_that_is_cut():
    one = table(drawer=True)
    grooves = [j for j in plan(one).joints.joints if j.family == "groove"]
    cut = edit.mark_joint(one, grooves[0])
    deep = grooves[0].figures["depth"]
    deeper = tuple(Put(owner=j.id, what="depth", value=deep + 1) for j in grooves)
    after = plan(edit.held(cut, pieces=(cut.pieces[0].model_copy(update={"edits": deeper}),)))
    assert {j.figures["depth"] for j in after.joints.joints if j.family == "groove"} == {deep}
    assert len([c for c in after.calls if c.conflict]) == 1


def test_a_joint_of_more_tails_than_anybody_cuts_is_no_joint_that_was_cut():
    joint = plan(PROJECT).joints.joints[0]
    with pytest.raises(edit.BadEdit, match="never cut"):
        edit.mark_joint(PROJECT, replace(joint, figures={**joint.figures, "tails": 401}))


def test_a_tail_board_that_is_cut_is_as_long_as_it_was():
    one = piece_edits.fresh()
    tail, pin = plan(one).piece.parts
    cut = edit.mark_joint(one, plan(one).joints.joints[0])
    thin = plan(measuring.measured(cut, (tail, pin), f"{pin.id} thickness {pin.thickness - 1}"))
    assert thin.piece.parts[0].length == tail.length
    assert thin.joints.joints[0].figures[f"baseline on {tail.name}"] == pin.thickness
    assert any(f"baseline on {tail.name}" in c.question for c in thin.calls if c.conflict)


def test_a_file_from_before_joints_were_held_has_its_sawn_joints_held(tmp_path):
    steps = tuple(s.id for s in plan(PROJECT).bench.steps if s.joint)
    raw = as_version_9(with_done(PROJECT, *steps))
    del raw["joints_cut"]
    raw["schema_version"] = 3
    (tmp_path / "old.nullah").write_text(json.dumps(raw))
    old = project_file.load(tmp_path / "old.nullah")
    assert {f"joint {m.joint}" for m in old.joints_cut} == set(steps)
    assert [c for c in plan(edit.set_piece(old, "pin", 9.0)).calls if c.conflict]


def test_done_marks_a_joint_and_undone_takes_the_mark_away():
    step = next(s for s in plan(PROJECT).bench.steps if s.joint.startswith("corner"))
    ready = with_done(PROJECT, *step.waits)
    done = step_edits.step_done(ready, plan(ready), step.id, sure=True)
    assert [m.joint for m in done.joints_cut] == [step.joint]
    assert step_edits.step_undone(done, plan(done), step.id).joints_cut == ()


@pytest.mark.parametrize("axis", [0, 1, 2])
def test_a_typed_outside_size_holds_when_a_call_changes_what_is_inside(axis):
    now = plan(PROJECT)
    size = now.piece.in_hand.own.box.outside[axis] + 7.3
    typed = piece_edits.set_total(PROJECT, now, ("length", "width", "height")[axis], size)
    after = edit.take(typed, plan(typed).call("groove"), "pin")
    assert plan(after).piece.in_hand.own.box.groove_from_edge != plan(typed).piece.in_hand.own.box.groove_from_edge
    assert plan(after).piece.in_hand.own.box.outside[axis] == pytest.approx(size)
    thin = plan(after).call("thin sides")
    if thin is not None:
        assert plan(edit.take(after, thin, "thinner")).piece.in_hand.own.box.outside[axis] == pytest.approx(size)


def test_a_height_that_nobody_typed_follows_the_groove():
    now = plan(PROJECT)
    after = plan(edit.take(PROJECT, now.call("groove"), "pin"))
    assert after.piece.in_hand.own.box.outside[2] != pytest.approx(now.piece.in_hand.own.box.outside[2])


def test_opposite_sides_measured_unlike_are_a_call():
    said = measuring.measured(PROJECT, plan(PROJECT).piece.parts, "A length 356")
    said = measuring.measured(said, plan(said).piece.parts, "C length 350")
    now = plan(said)
    call = now.call("pair AC")
    assert call.recommended == "shorter"
    assert set(call.parts) == {"A", "C"}
    assert now.piece.in_hand.own.box.outside[0] == 350
    assert plan(edit.take(said, call, "longer")).piece.in_hand.own.box.outside[0] == 356
    alike = measuring.measured(said, now.piece.parts, "C length 356")
    assert plan(alike).call("pair AC") is None


@pytest.mark.parametrize(
    ("a", "b", "d1", "d2", "frame"),
    [
        (300, 200, 360.6, 360.6, True),
        (300, 200, 362.0, 359.2, True),
        (300, 200, 380.0, 380.0, False),  # alike, and of no frame of these sides
        (300, 200, 340.0, 340.0, False),
        (3000, 2000, 3605.6, 3605.6, True),
    ],
)
def test_diagonals_that_no_such_frame_has_are_not_square(a, b, d1, d2, frame):
    if frame:
        assert by_diagonals(a, b, d1, d2).square == (abs(d1 - d2) <= 0.5)
    else:
        with pytest.raises(NoSuchFrame, match="measure them again"):
            by_diagonals(a, b, d1, d2)


def test_sums_that_are_one_to_the_maker_are_one_to_the_program():
    """Bays that are as wide as what goes in them, by sums that floats do not give the same twice."""
    for thick in (2.1, 3.3, 4.9, 5.7):
        for count in (3, 7, 11):
            project = edit.set_piece(demo.untouched(), "contents.thickness", thick)
            project = edit.set_piece(edit.set_piece(project, "contents.count", count * 5), "wiggle", 0.0)
            now = plan(project)
            bay = next(c for c in now.together.checks if "clear" in c.text)
            assert bay.holds, bay.text


def test_hot_hide_is_not_said_to_last():
    project = edit.set_in(PROJECT, "kit", "glue", "hot hide")
    call = plan(project).call("stages")
    assert call.recommended.startswith("glue ")
    words = " ".join(" ".join(o.consequences) for o in call.options)
    assert "inside 1" not in words.replace("inside 15", "").replace("inside 10", "")
    for option in call.options:
        if option.id.startswith("glue"):
            after = plan(edit.take(project, call, option.id))
            least = {"PVA": 10, "liquid hide": 15, "epoxy": 30}[after.project.kit.glue]
            assert after.together.glue_minutes / 2 <= least
    few = edit.set_piece(project, "tails", 1)
    assert (
        plan(few).call("stages").recommended.startswith("glue ")
    )  # even one tail a corner takes longer than a minute to close


def test_dividers_that_grow_into_the_lid_are_told():
    roomy = [c for c in plan(PROJECT).together.checks if "below the lid" in c.text]
    assert [c.holds for c in roomy] == [True]
    tight = edit.set_piece(edit.set_piece(PROJECT, "wiggle", 0.1), "extra_height", 0.0)
    assert [c.holds for c in plan(tight).together.checks if "below the lid" in c.text] == [False]


@pytest.mark.parametrize("slope", [1e-309, 0.5, 0.999])
def test_a_slope_that_is_no_dovetail_s_gets_a_sentence(slope):
    now = plan(edit.set_piece(PROJECT, "slope", slope))
    assert now.piece.in_hand.own is None
    assert "no dovetail" in now.piece.problem


def test_a_measured_thickness_reaches_true_up():
    before = plan(PROJECT).trueup.of("A").planing
    said = plan(measuring.measured(PROJECT, plan(PROJECT).piece.parts, "A thickness 17.4"))
    after = said.trueup.of("A").planing
    assert before.thickest > 20
    assert (after.thickest, after.wanted, after.spare) == (17.4, 17.4, 0.0)
    step = next(s for s in said.bench.steps if s.id == "true A")
    assert "It measures" in step.words


def test_a_part_s_own_readings_do_not_throw_the_caliper_away():
    """Board 1 is 22.5 by its label; the caliper said 20 all over. A part read by sticks alone is no thicker than that."""
    thin = [
        Reading(target="board 1", kind="thickness", value=20.0, at=x, across=y)
        for x in (50, 800, 1600)
        for y in (20, 160)
    ]
    own = Reading(target="A", kind="winding sticks", value=0.4, at=370, stick=450)
    now = plan(edit.changed(PROJECT, readings=(*thin, own)))
    assert now.trueup.of("A").planing.thickest <= 20.0 + 1e-6
    caliper = Reading(target="A", kind="thickness", value=19.2, at=100, across=50)
    now = plan(edit.changed(PROJECT, readings=(*thin, own, caliper)))
    assert now.trueup.of("A").planing.thickest <= 19.2 + 1e-6


def test_what_is_told_beside_a_layout_is_told_of_it():
    blanks = plan(PROJECT).breakdown.blanks
    whole = Layout("x", (), ())
    assert placed_share(whole, blanks) == 1.0
    largest = max(blanks, key=lambda b: b.length * b.width)
    area = sum(b.length * b.width for b in blanks)
    assert placed_share(Layout("x", (), ((largest.id, "why"),)), blanks) == pytest.approx(
        1 - largest.length * largest.width / area
    )
    assert placed_share(whole, ()) == 1.0
