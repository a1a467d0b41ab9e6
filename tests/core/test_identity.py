"""What is done, measured and chosen belongs to a piece, a part and a deed, never to a place in a list."""

import json

import pytest

from nullah import demo
from nullah.core.document.pieces import prefix
from nullah.core.document.project import Project
from nullah.core.edits import board_readings, edit, piece_edits, truing_edits
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def table(**asked):
    """A project of a small table alone."""
    project = piece_edits.add_piece(Project(), "small_table")
    project = piece_edits.take_in_hand(project, "1")
    project = piece_edits.drop_piece(project, plan(project))
    for name, value in asked.items():
        project = piece_edits.set_answer(project, name, value)
    return project


def deeds(project):
    """What each step of putting together is, by its id: its title and its words."""
    return {s.id: (s.title, s.words) for s in plan(project).bench.steps if s.station == "together"}


def as_done(project):
    """Titles and words of the steps that are done."""
    return {(s.title, s.words) for s in plan(project).bench.steps if s.done}


def with_done(project, *ids):
    return edit.held(project, done=(*project.done, *ids))


def changes(project):
    """The project after each of some edits that bring or take steps."""
    yield piece_edits.set_answer(project, "drawer", True)
    for call in plan(project).calls:
        for option in call.options:
            if "drawbored" in option.label or "drawbored" in option.id:
                yield edit.take(project, call, option.id)
                break


def test_what_is_done_stays_what_it_is_whatever_else_comes_to_be_done():
    project = table()
    for step_id, (title, words) in deeds(project).items():
        marked = with_done(project, step_id)
        seen = 0
        for after in changes(marked):
            seen += 1
            for now_title, now_words in as_done(after):
                assert now_title == title
                assert now_words.split(";")[0].split(",")[0] == words.split(";")[0].split(",")[0]
        assert seen > 1


def test_a_piece_that_is_taken_away_leaves_nothing_to_the_next():
    project = piece_edits.add_piece(demo.box(), "small_table")
    hand = project.hand
    parts = plan(project).piece.parts
    project = edit.measured(
        project, parts, f"{next(p.id for p in parts if p.id.startswith(prefix(hand)))} thickness 33.3"
    )
    project = with_done(project, *[s.id for s in plan(project).bench.steps if s.piece == hand][:3])
    assert any(m.value == 33.3 for m in project.measured)
    after = piece_edits.add_piece(piece_edits.drop_piece(project, plan(project)), "small_table")
    mine = prefix(after.hand)
    assert not [m for m in after.measured if m.part.startswith(mine)]
    assert not [s for s in plan(after).bench.steps if s.piece == after.hand and s.done]
    assert not [p for p in plan(after).piece.parts if p.id.startswith(mine) and p.measured]


def test_which_piece_is_in_hand_changes_no_figure():
    project = edit.held(demo.box(), piece=edit.held(demo.box().piece, extra_height=12.0))
    both = piece_edits.add_piece(project, "small_table")
    for call in plan(project).calls:
        if call.id != "groove":
            continue
        for option in call.options:
            alone = edit.take(project, call, option.id)
            beside = edit.take(both, call, option.id)
            assert beside.pieces[0] == alone.pieces[0]


@pytest.mark.parametrize("kind", ["dovetailed_box", "small_table"])
def test_a_kind_that_is_changed_has_done_only_what_it_had(kind):
    project = piece_edits.change_kind(Project(), plan(Project()), "practice_joint")
    steps = plan(project).bench.steps
    project = with_done(project, *(s.id for s in steps))
    was = {(s.id, s.title, s.parts) for s in steps}
    after = piece_edits.change_kind(project, plan(project), kind)
    assert {(s.id, s.title, s.parts) for s in plan(after).bench.steps if s.done} <= was


def test_a_board_that_is_taken_away_leaves_nothing_to_the_next():
    project = demo.box()
    last = project.boards[-1]
    target = plan(project).trueup.of(last.id)
    project = truing_edits.done_planing(project, target, "face", "", 1.0, [0.0] * 96)
    project = edit.drop_board(project, last.id)
    after, new = board_readings.copy_board(project, project.boards[0].id)
    assert new != last.id
    assert not plan(after).trueup.of(new).planed
    assert not [p for p in after.planed if p.target == last.id]


def test_numbers_of_pieces_are_never_given_twice():
    project, had = Project(), {"1"}
    for kind in ("small_table", "practice_joint", "small_table", "dovetailed_box"):
        project = piece_edits.add_piece(project, kind)
        assert project.hand not in had
        had.add(project.hand)
        project = piece_edits.drop_piece(project, plan(project))
    assert [p.id for p in project.pieces] == ["1"]


def test_done_steps_of_older_files_are_named_by_what_they_are():
    """Version 8 named the steps of putting together by their place: the third of the demo's table was to glue its drawer."""
    project = demo.project()
    raw = json.loads(project_file.dumps(edit.held(project, done=("finish",))))
    raw |= {"schema_version": 8, "done": ["together 0", "together 2.2", "together 2.90", "finish"]}
    raw["log"] = [
        {"when": "2026-03-01T10:00:00+00:00", "kind": "time", "text": "glued", "step": "together 2.2", "minutes": 7.0}
    ]
    for name in ("last_piece", "last_board"):
        raw.pop(name)
    for board in raw["boards"]:
        board.pop("rises")
    after = project_file.loads(json.dumps(raw), "old.nullah")
    steps = {s.id: s for s in plan(after).bench.steps if s.done}
    assert {s.words.split(";")[0] for s in steps.values() if s.station == "together"} == {
        "Dry fit all four corners with the bottom in",
        next(a.words for a in plan(project).togethers["2"].order if a.kind == "glue").split(";")[0],
        "Plane the ends flush, ease the arrises, finish inside and out alike.",
    }
    assert sum(s.took for s in steps.values()) == 7.0
    assert len(after.done) == 3
