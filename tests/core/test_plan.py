"""The plan: pure, cached on what each station reads, true to what is measured and cut."""

import subprocess
import sys

import pytest
from fewer import FEWER
from hypothesis import given
from hypothesis import strategies as st
from marked import marked

from nullah import demo
from nullah.core.document.project import CutMark, Project, Reading
from nullah.core.edits import edit, measuring, piece_edits, step_edits
from nullah.core.planning.plan import STATIONS, PlanCache, plan
from nullah.core.stations import breakdown


@pytest.fixture(scope="module")
def project():
    return demo.box()


def measured(project, text):
    return measuring.measured(project, plan(project).piece.parts, text)


def test_the_demo_raises_honest_calls(project):
    calls = plan(project).open_calls()
    assert len(calls) >= 4
    for call in calls:
        assert len(call.options) >= 2
        assert call.recommended in {o.id for o in call.options}
        assert all(o.consequences for o in call.options)
        assert call.why


def test_everything_in_the_demo_has_a_place_and_is_thick_enough(project):
    p = plan(project)
    assert project.layout.unplaced == ()
    assert p.breakdown.problems == ()
    assert not p.breakdown.changed
    assert p.joints.failing() == ()
    assert all(t.planing.enough for t in p.trueup.parts)


def test_the_plan_is_pure(project):
    before = project.model_dump_json()
    assert plan(project).bench.steps == plan(project).bench.steps
    assert project.model_dump_json() == before


def test_an_edit_recomputes_only_what_reads_it(project):
    cache = PlanCache()
    plan(project, cache)
    assert set(cache.worked) == {
        *STATIONS,
        *("as_made", "rough", "surfaces", "sawing", "progress", "rates", "arranged", "cuts", "joint zones"),
    }
    plan(project, cache)
    assert cache.worked == []
    plan(edit.logged(project, "note", "a note"), cache)
    assert cache.worked == ["rates", "bench"]  # and nothing is laid out by other rates
    plan(edit.changed(project, kit=project.kit.model_copy(update={"clamps": 2})), cache)
    assert "piece" not in cache.worked
    assert "together" in cache.worked


def test_an_edit_of_one_piece_leaves_the_others_as_they_were_worked_out():
    project, cache = demo.project(), PlanCache()
    box, table, chest = plan(project, cache).piece.made
    measured = measuring.measured(project, plan(project, cache).piece.parts, "2.leg-fl thickness 41")
    now = plan(measured, cache)
    assert now.piece.made[0] is box
    assert now.piece.made[2] is chest
    assert now.piece.made[1] is not table
    assert next(p for p in now.piece.parts if p.id == "2.leg-fl").thickness == 41
    cold = plan(measured)
    assert (now.joints, now.bench.steps, now.calls) == (cold.joints, cold.bench.steps, cold.calls)


@FEWER
@given(st.sampled_from(["A", "B", "C", "D", "bottom", "1", "lid"]), st.floats(5, 24))
def test_property_a_cached_plan_equals_a_fresh_one(part, mm):
    first = demo.untouched()
    cache = PlanCache()
    p = plan(first, cache)
    after = measuring.measured(first, p.piece.parts, f"{part} thickness {mm:.1f}")
    warm, cold = plan(after, cache), plan(after)
    assert warm.piece == cold.piece
    assert warm.joints == cold.joints
    assert warm.bench.steps == cold.bench.steps


def test_baselines_come_from_the_mate_as_measured(project):
    p = plan(measured(project, "A thickness 17.4"))
    for joint in p.joints.joints:
        if joint.id.startswith("corner") and "A" in joint.parts:
            on_pins = next(s for s in joint.settings if s.tool == "marking gauge" and s.parts == (joint.parts[1],))
            on_tails = next(s for s in joint.settings if s.tool == "marking gauge" and s.parts == ("A",))
            assert on_pins.value == 17.4
            assert on_tails.value == 18


def test_the_groove_takes_the_bottom_as_measured(project):
    p = plan(measured(project, "bottom thickness 6.6"))
    iron = next(s for s in p.joints.settings if "bottom groove: width" in s.use)
    assert iron.value == 6.6


def test_a_stale_choice_opens_its_call_again(project):
    p = plan(measured(project, "A thickness 17.4"))
    taken = edit.take(p.project, p.call("hold width"), "inside")
    assert not plan(taken).call("hold width").open
    again = plan(measured(taken, "A thickness 17.1"))
    assert again.call("hold width").open


def test_taking_back_opens_a_call(project):
    p = plan(project)
    taken = edit.take(project, p.call("school"), "pins")
    assert plan(taken).call("school").taken == "pins"
    assert any("pins on the end" in s for s in plan(taken).joints.joints[0].steps)
    assert plan(edit.take_back(taken, "school")).call("school").open


def test_what_is_cut_never_changes_silently(project):
    p = plan(project)
    a = next(x for x in p.piece.parts if x.id == "A")
    cut = edit.mark_cut(project, a)
    higher = piece_edits.set_total(cut, plan(cut), "height", p.piece.in_hand.own.box.outside[2] + 8)
    after = plan(higher)
    kept = next(x for x in after.piece.parts if x.id == "A")
    assert kept.sizes == a.sizes
    assert kept.planned[1] == pytest.approx(a.width + 8)
    call = after.call("cut A")
    assert call.conflict
    assert after.open_calls()[0] is call
    follows = plan(edit.take(higher, call, "follow"))
    assert follows.piece.in_hand.own.box.outside[2] == pytest.approx(a.width)
    assert follows.call("cut A") is None
    again = plan(edit.take(higher, call, "recut"))
    assert next(x for x in again.piece.parts if x.id == "A").width == pytest.approx(a.width + 8)


def test_a_narrow_side_asks_whether_the_others_follow(project):
    p = plan(measured(project, "C width 151"))
    call = p.call("width C")
    assert call.recommended == "follow"
    follows = plan(edit.take(p.project, call, "follow"))
    assert follows.piece.in_hand.own.box.outside[2] == pytest.approx(151)
    assert {x.width for x in follows.piece.parts if x.id in "ACD"} == {151}
    assert follows.call("width C") is None
    kept = plan(edit.take(p.project, call, "keep"))
    assert kept.piece.in_hand.own.box.outside[2] == pytest.approx(154)
    assert not kept.call("width C").open


def test_a_part_that_has_no_place_is_not_asked_about_twice():
    first = demo.untouched()
    boards = tuple(b for b in first.boards if b.species != "American elm")
    without_elm = edit.changed(first, boards=boards)
    request = plan(without_elm).breakdown.request
    found = (request.fingerprint, breakdown.offers(request))
    call = plan(without_elm, None, found).call("layout")
    assert "No place for lid" in call.question
    taken = edit.take(without_elm, call, call.recommended)
    assert plan(taken, None, found).call("layout") is None
    assert plan(taken, None, found).breakdown.layout.unplaced == ("lid",)


def test_a_part_cut_too_large_may_be_trimmed(project):
    cut = marked(project, cut=(CutMark(part="A", length=354, width=160, thickness=18),))
    call = plan(cut).call("cut A")
    assert call.recommended == "trim"
    assert plan(edit.take(cut, call, "trim")).call("cut A") is None


def test_an_accepted_layout_is_kept_until_a_call_is_taken(project):
    board = project.boards[0]
    place = plan(project).breakdown.place("C")[1]
    knot = board.defects[1].model_copy(update={"id": "new", "kind": "loose knot", "x": place.x + 100, "y": 60.0})
    worse = edit.put_board(project, board.model_copy(update={"defects": (*board.defects, knot)}))
    p = plan(worse)
    assert p.breakdown.layout == project.layout
    assert any("C lies on a loose knot" in x for x in p.breakdown.problems)
    found = breakdown.offers(p.breakdown.request)
    offered = plan(worse, None, (p.breakdown.request.fingerprint, found))
    call = offered.call("layout")
    assert "no longer holds" in call.question
    taken = plan(edit.take(worse, call, call.recommended))
    assert taken.breakdown.problems == ()


def test_laying_out_again_leaves_what_is_cut_where_it_is(project):
    p = plan(project)
    cut = project
    for part_id in ("A", "bottom"):
        cut = edit.mark_cut(cut, next(x for x in p.piece.parts if x.id == part_id))
    longer = edit.set_piece(cut, "wiggle", 6.0)
    after = plan(longer)
    assert after.breakdown.needs_layout
    found = breakdown.offers(after.breakdown.request)
    call = plan(longer, None, (after.breakdown.request.fingerprint, found)).call("layout")
    taken = plan(edit.take(longer, call, call.options[0].id))
    assert taken.breakdown.place("A") == p.breakdown.place("A")
    assert taken.breakdown.place("bottom") == p.breakdown.place("bottom")
    placed = [x.id for x in taken.piece.parts if taken.breakdown.place(x.id)]
    assert len(placed) + len(taken.breakdown.layout.unplaced) >= len(taken.piece.parts)
    assert taken.breakdown.problems == () or taken.breakdown.layout.unplaced


def test_sawing_first_leaves_more_than_planing_whole(project):
    p = plan(project)
    call = p.call("saw first board 1")
    sawn = {t.id: t.planing.thickest for t in p.trueup.parts if t.board == "board 1"}
    whole = {
        t.id: t.planing.thickest for t in plan(edit.take(project, call, "plane")).trueup.parts if t.board == "board 1"
    }
    assert all(sawn[x] > whole[x] + 0.3 for x in sawn)


def test_a_board_that_comes_out_too_thin_is_a_call(project):
    twisted = edit.changed(
        project, readings=(*project.readings, Reading(target="A", kind="winding sticks", at=379, value=30, stick=450))
    )
    p = plan(twisted)
    call = p.call("thin sides")
    assert "A" in call.parts
    thin = plan(edit.take(twisted, call, "thinner"))
    assert thin.project.piece.wall < 18
    assert thin.call("thin sides") is None


def test_steps_wait_for_what_comes_before(project):
    p = plan(project)
    names = [s.id for s in p.bench.steps]
    assert len(set(names)) == len(names)
    for i, step in enumerate(p.bench.steps):
        assert all(w in names[:i] for w in step.waits), step.id
    glue = next(s for s in p.bench.steps if s.title == "Glue")
    with pytest.raises(edit.BadEdit, match="waits for"):
        step_edits.step_done(project, p, glue.id, sure=True)


def test_cautions_stand_at_the_steps_that_can_hurt(project):
    for step in plan(project).bench.steps:
        if step.saws and ": plane" not in step.title:
            assert any("falling piece" in c for c in step.cautions)
        if step.station == "joints":
            assert any("behind the edge" in c for c in step.cautions)
    for step in plan(project).bench.steps:
        said = " ".join(step.cautions)
        assert ("Oil-soaked" in said) == (step.id == "finish")
        assert ("Glue fumes" in said) == step.title.startswith("Glue")
        assert ("Long planing" in said) == (step.title.startswith(("True up", "Level")) or ": plane" in step.title)


def test_a_wood_that_stings_is_named_where_it_is_worked_and_no_other(project):
    for step in plan(project).bench.steps:
        for wood, board in (("western larch", "board 3"), ("American elm", "board 4")):
            if step.saws:
                assert any(wood in c for c in step.cautions) == (step.saws == board)
    cherry = edit.changed(
        project, boards=tuple(b.model_copy(update={"species": "black cherry"}) for b in project.boards), layout=None
    )
    for field in ("wall_species", "panel_species", "lid_species"):
        cherry = edit.set_piece(cherry, field, "black cherry")
    said = [c for s in plan(cherry).bench.steps for c in s.cautions]
    assert said
    assert not [c for c in said if "react" in c or "larch" in c or "elm" in c]
    pine = edit.changed(
        cherry, boards=tuple(b.model_copy(update={"species": "eastern white pine"}) for b in cherry.boards)
    )
    for field in ("wall_species", "panel_species", "lid_species"):
        pine = edit.set_piece(pine, field, "eastern white pine")
    assert not [c for s in plan(pine).bench.steps for c in s.cautions if "carcinogen" in c]


def test_minutes_of_ones_own_replace_the_assumed(project):
    p = plan(project)
    step = p.bench.steps[p.bench.now]
    done = project
    for _ in range(2):
        now = plan(done)
        step = now.bench.steps[now.bench.now]
        done = step_edits.step_done(done, now, step.id, step.minutes * 2, sure=True)
    assert plan(done).bench.rate == pytest.approx(2.0, rel=0.02)
    assert plan(done).bench.minutes_left > p.bench.minutes_left


def test_a_box_that_cannot_be_keeps_the_project_and_says_why():
    p = plan(edit.set_piece(Project(), "extra_width", -100.0))
    assert "too small" in p.piece.problem
    assert p.bench.steps == ()


def test_an_empty_project_plans():
    p = plan(Project())
    assert p.piece.in_hand.own is not None
    assert p.breakdown.request.stock == ()


def test_the_core_runs_where_qt_cannot_be_imported():
    code = (
        "import sys\n"
        "class NoQt:\n"
        "    def find_spec(self, name, *_):\n"
        "        if name.split('.')[0] in ('PySide6', 'shiboken6'): raise ImportError(name)\n"
        "sys.meta_path.insert(0, NoQt())\n"
        "from nullah import demo\n"
        "from nullah.core.planning.plan import plan\n"
        "from nullah.formats import plan_json, shop_sheet\n"
        "assert len(plan_json.text(plan(demo.box()))) > 1000\n"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_what_a_piece_does_not_ask_for_lays_it_out_no_new():
    """Clamps are no joint's matter, a board's call no piece's; where the year changes, what moves is worked out anew alone."""
    project = piece_edits.add_piece(demo.project(), "practice_joint")
    cache = PlanCache()
    now = plan(project, cache)
    plan(edit.set_in(project, "kit", "clamps", 3), cache)
    assert cache.worked == ["together", "bench"]
    of_board = next(c for c in now.calls if c.board and c.station == "timber")
    plan(project, cache)
    plan(edit.take(project, of_board, of_board.options[-1].id), cache)
    assert not {"piece", "joints", "together"} & set(cache.worked)
    now = plan(project, cache)
    wetter = edit.set_in(project, "room", "humidity_wet", 75.0)
    then = plan(wetter, cache)
    kept = {a.id for a, b in zip(now.piece.made, then.piece.made, strict=True) if a is b}
    assert project.hand in kept  # two boards that meet at a corner
    assert "1" not in kept  # a bottom in grooves
    assert then.piece.parts == plan(wetter).piece.parts
