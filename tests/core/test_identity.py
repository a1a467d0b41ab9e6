"""What is done, measured and chosen belongs to a piece, a part and a deed, never to a place in a list."""

import json
import os
import random

import pytest
from marked import as_version_9, with_done

from nullah import demo
from nullah.core.document.names import prefix
from nullah.core.document.project import Project
from nullah.core.edits import board_readings, edit, measuring, piece_edits, step_edits, truing_edits
from nullah.core.pieces.kinds import KINDS
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
    project = measuring.measured(
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
    raw = as_version_9(project) | {
        "schema_version": 8,
        "done": ["together 0", "together 2.2", "together 2.90", "finish"],
    }
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


def test_a_file_of_version_9_opens_with_every_mark_where_it_was():
    """Of several pieces, the first among them or not; what names a piece that is gone is let go."""
    project = piece_edits.add_piece(demo.project(), "shelves")
    project = piece_edits.drop_piece(piece_edits.take_in_hand(project, "1"), plan(project))
    project = piece_edits.add_piece(project, "dovetailed_box")
    for part in plan(project).piece.parts[::5]:
        project = measuring.measured(project, (part,), f"{part.id} thickness 33.3")
        project = edit.mark_cut(project, part)
    for joint in plan(project).joints.joints[::4]:
        project = edit.mark_joint(project, joint)
    for call in plan(project).calls:
        now = plan(project).call(call.id)
        if now is not None and not now.conflict:
            project = edit.take(project, now, now.recommended)
    steps = plan(project).bench.steps
    project = with_done(project, *(s.id for s in steps if not s.saws and s.id != "wood"))
    raw = as_version_9(project)
    assert {s.piece for s in steps} >= {"", *(p.id for p in project.pieces)}
    raw["measured"].append({"part": "A", "dimension": "width", "value": 99.0})
    again = project_file.loads(json.dumps(raw), "old.nullah")
    assert again == project
    assert all(p.marks.done and p.marks.measured for p in again.pieces)


RUNS = range(200) if os.environ.get("NULLAH_SOAK") else range(2)


def another(project, now, chance):
    """An edit at random of a piece at random: the piece, and the project after it."""
    one = chance.choice(project.pieces)
    parts = [p for p in now.piece.parts if p.piece == one.id]
    joints, steps = now.joints.of_piece[one.id], [s for s in now.bench.steps if s.piece == one.id]
    calls = [c for c in now.calls if c.piece == one.id]
    pick = chance.choice(["add", "drop", "kind", "measured", "cut", "joint", "done", "undone", "call", "back", "name"])
    mine = pick in ("drop", "kind", "name")
    project = piece_edits.take_in_hand(project, one.id if mine else chance.choice(project.pieces).id)
    if pick == "add" and len(project.pieces) < 5:
        project = piece_edits.add_piece(project, chance.choice(sorted(KINDS)))
        return project.hand, project
    if pick == "drop":
        return one.id, piece_edits.drop_piece(project, plan(project))
    if pick == "kind":
        return one.id, piece_edits.change_kind(project, plan(project), chance.choice(sorted(KINDS)))
    if pick == "measured" and parts:
        part = chance.choice(parts)
        off = round(part.thickness * chance.uniform(0.97, 1.03), 1)
        return one.id, measuring.measured(project, (part,), f"{part.id} thickness {off}")
    if pick == "cut" and parts:
        return one.id, edit.mark_cut(project, chance.choice(parts))
    if pick == "joint" and joints:
        return one.id, edit.mark_joint(project, chance.choice(joints))
    if pick == "done" and steps:
        return one.id, step_edits.with_steps(project, now, [chance.choice(steps)])
    if pick == "undone" and any(s.done for s in steps):
        return one.id, step_edits.step_undone(project, now, chance.choice([s for s in steps if s.done]).id)
    if pick == "call" and calls:
        call = chance.choice(calls)
        return one.id, edit.take(project, call, chance.choice(call.options).id)
    if pick == "back" and calls:
        return one.id, edit.take_back(project, chance.choice(calls).id)
    project = piece_edits.take_in_hand(project, one.id)
    return one.id, piece_edits.rename(project, f"Piece {chance.randrange(10**6)}")


def figures(now):
    """Every figure of a plan, and what is decided and done."""
    return (
        {p.id: (p.sizes, p.cut, p.measured) for p in now.piece.parts},
        {j.id: (j.figures, [(s.tool, s.value) for s in j.settings]) for j in now.joints.joints},
        {c.id: c.in_force for c in now.calls},
        {s.id: (s.mm, s.minutes, s.done) for s in now.bench.steps},
    )


@pytest.mark.parametrize("seed", RUNS)
def test_property_no_mark_ever_passes_to_another_piece_or_deed(seed):
    """Whatever is done to one piece, in hand or not, all others are the very same; what is done stays the deed it was; which piece is
    in hand changes no figure; and no piece has a number that another had."""
    chance = random.Random(seed)
    project, had = demo.project(), {"1", "2", "3"}
    for _ in range(14):
        now = plan(project)
        try:
            touched, after = another(project, now, chance)
        except edit.BadEdit as said:
            assert str(said)
            continue
        left = {p.id: p for p in after.pieces}
        for other in project.pieces:
            assert other.id == touched or left[other.id] == other
        assert not (left.keys() - {p.id for p in project.pieces}) & had
        had |= left.keys()
        then = {s.id: s for s in plan(after).bench.steps}
        for step in now.bench.steps:
            if step.done and step.id in then and then[step.id].done and step.piece != touched:
                same = then[step.id]
                assert (same.title, same.deed, same.parts, same.joint) == (
                    step.title,
                    step.deed,
                    step.parts,
                    step.joint,
                )
        other = piece_edits.take_in_hand(after, chance.choice(sorted(left)))
        assert figures(plan(other)) == figures(plan(after))
        project = after
