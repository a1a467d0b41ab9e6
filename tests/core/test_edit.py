"""Edits: what the wood says in words, undo and redo."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from nullah import demo
from nullah.core.document.history import History
from nullah.core.document.project import Board, Project
from nullah.core.document.refusals import sentence
from nullah.core.edits import edit, measuring, piece_edits
from nullah.core.planning.plan import plan

PROJECT = demo.untouched()
PARTS = plan(PROJECT).piece.parts


def values(text):
    return {(m.part, m.dimension): m.value for m in measuring.measured(PROJECT, PARTS, text).measured}


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("A thickness 17.4", {("A", "thickness"): 17.4}),
        ("a thick 17,4 mm", {("A", "thickness"): 17.4}),
        ("front thickness 17.4", {("A", "thickness"): 17.4}),
        ("divider thickness 9.6", {(str(i), "thickness"): 9.6 for i in range(1, 5)}),
        ("divider 2 length = 101", {("2", "length"): 101}),
        ("bottom wide 101", {("bottom", "width"): 101}),
        ("sides thickness 17.8", {(s, "thickness"): 17.8 for s in "ABCD"}),
        ("opening width 91.2", {("opening", "width"): 91.2}),
        ("diagonal 1 376", {("box", "diagonal 1"): 376}),
        ('lid thickness 5/16"', {("lid", "thickness"): 7.9375}),
    ],
)
def test_what_the_wood_says(text, said):
    assert values(text) == pytest.approx(said)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "like"),
        ("A", "like"),
        ("A thickness", "like"),
        ("A thickness seventeen", "not a length"),
        ("A thickness 0", "not more than zero"),
        ("Q thickness 17", 'no part "Q"'),
        ("opening thickness 4", "no thickness"),
    ],
)
def test_what_cannot_be_read_says_why_and_changes_nothing(text, why):
    with pytest.raises(edit.BadEdit, match=why):
        measuring.measured(PROJECT, PARTS, text)


def test_a_later_measurement_replaces_an_earlier_one_and_the_log_keeps_both():
    once = measuring.measured(PROJECT, PARTS, "A thickness 17.4")
    twice = measuring.measured(once, PARTS, "A thickness 17.2")
    assert [m.value for m in twice.measured] == [17.2]
    assert len(twice.log) == 2


@given(st.lists(st.sampled_from(["do", "undo", "redo"]), max_size=40))
def test_property_history_is_a_list_with_a_finger_on_it(acts):
    history = History(Project())
    states, at, n = [Project()], 0, 0
    for act in acts:
        if act == "do":
            n += 1
            history.do(Project(name=f"p{n}"), "x")
            states = [*states[: at + 1], Project(name=f"p{n}")]
            at += 1
        elif act == "undo":
            assert bool(history.undo()) == (at > 0)
            at = max(0, at - 1)
        else:
            assert bool(history.redo()) == (at < len(states) - 1)
            at = min(len(states) - 1, at + 1)
        assert history.now == states[at]
        assert history.can_undo == (at > 0)
        assert history.can_redo == (at < len(states) - 1)


@pytest.mark.parametrize(
    ("field", "value"),
    [("wall", 0), ("wall", -3), ("wall", 1e9), ("dividers", -1), ("dividers", 4000), ("wiggle", float("nan"))],
)
def test_absurd_sizes_are_refused(field, value):
    with pytest.raises(edit.BadEdit, match=r"must be|is no number|is not a"):
        edit.set_piece(PROJECT, field, value)


def test_boards_come_and_go_with_their_readings():
    board = Board(id="x", name="X", species="white ash", length=500, width=100, thickness=20)
    more = edit.put_board(PROJECT, board)
    assert more.boards[-1] == board
    gone = edit.drop_board(more, "board 1")
    assert "board 1" not in {b.id for b in gone.boards}
    assert not [r for r in gone.readings if r.target == "board 1"]
    assert edit.fresh_id("board", {"board 1", "board 2"}) == "board 3"


def test_a_typed_outside_size_goes_to_what_is_made_up():
    p = plan(PROJECT)
    after = piece_edits.set_total(PROJECT, p, "length", 360)
    assert plan(after).piece.in_hand.own.box.outside[0] == pytest.approx(360)
    with pytest.raises(edit.BadEdit, match="more than zero"):
        piece_edits.set_total(PROJECT, p, "length", -1)


def test_a_gesture_that_goes_on_is_one_step_and_another_begins_a_new_one():
    history = History(Project(name="0"))
    for i in (1, 2, 3):
        history.do(Project(name=str(i)), "nudged", "nudge fault")
    history.do(Project(name="4"), "nudged", "nudge edge")
    assert history.undo() == "nudged"
    assert history.now.name == "3"
    history.undo()
    assert history.now.name == "0"
    history.redo()
    history.do(Project(name="5"), "nudged", "nudge fault")  # after an undo the same gesture is a step of its own
    history.undo()
    assert history.now.name == "3"


def test_when_steps_are_too_many_values_tried_are_forgotten_before_what_was_said_of_the_wood(monkeypatch):
    monkeypatch.setattr("nullah.core.document.history.MOST_STEPS", 6)
    history = History(Project())
    said = edit.logged(Project(), "measured", "A thickness 17.4")
    history.do(said, "measured")
    for i in range(20):
        history.do(edit.changed(said, name=f"name {i}"), f"name {i}")
    words = []
    while history.can_undo:
        words.append(history.undo())
    assert len(words) == 5
    assert words[-1] == "measured"  # the step that matters is the oldest kept
    assert words[0] == "name 19"
    assert history.now == Project()


def test_minutes_are_those_between_start_and_stop_whatever_the_clock_did_between():
    start, stop = "2026-03-14T10:00:00+00:00", "2026-03-14T11:30:30+01:00"  # summer time began meanwhile
    running = edit.start_timer(Project(), "finish", start)
    assert edit.timed(running, stop) == 30.5
    stopped = edit.stop_timer(running, "Clean up", stop)
    assert stopped.timer is None
    assert (stopped.log[-1].minutes, stopped.log[-1].step) == (30.5, "finish")
    assert edit.timed(running, "2026-03-16T10:00:00+00:00") == 0  # forgotten over night: says nothing
    assert edit.stop_timer(running, "Clean up", "2026-03-13T10:00:00+00:00").log == ()


def test_what_is_replaced_is_held_to_the_limits():
    with pytest.raises(ValidationError):
        PROJECT.piece.model_copy(update={"wall": -1.0})
    with pytest.raises(ValidationError):
        PROJECT.model_copy(update={"nonsense": 1})
    big = PROJECT.piece.model_copy(update={"wall": 12.0})
    assert (big.wall, big.model_copy()) == (12.0, big)


def test_a_part_over_the_limits_is_refused_in_words_and_not_marked():
    long = edit.set_piece(Project(), "extra_length", 19_990.0)
    part = plan(long).piece.in_hand.own.box.part("A")
    assert part.length > 20_000
    with pytest.raises(edit.BadEdit, match="The length must be at most"):
        edit.mark_cut(long, part)
    with pytest.raises(edit.BadEdit, match="The size must be at most"):
        measuring.measured(Project(), plan(Project()).piece.parts, "A length 30 m")


def test_no_word_of_the_validator_is_said():
    said = []
    for make in (
        lambda: edit.set_piece(PROJECT, "wall", "thick"),
        lambda: edit.set_piece(PROJECT, "lid", "round"),
        lambda: edit.set_piece(PROJECT, "dividers", 2.5),
        lambda: edit.set_piece(PROJECT, "contents.name", "x" * 200),
        lambda: edit.set_in(PROJECT, "kit", "chisels", (3.0,) * 99),
        lambda: edit.put_board(PROJECT, PROJECT.boards[0].model_copy(update={"moisture": 99.0})),
        lambda: edit.changed(PROJECT, nonsense=3),
    ):
        with pytest.raises((edit.BadEdit, ValidationError)) as error:
            make()
        said.append(str(error.value) if isinstance(error.value, edit.BadEdit) else sentence(error.value))
    assert said[0] == "The wall thickness is not a number."
    assert said[1] == "The kind of lid must be one of sliding, lift-off or none."
    assert said[2] == "The number of dividers is not a whole number."
    assert said[3] == "The name is too long; it holds at most 120 letters."
    for words in said:
        assert not re.search(r"input|valid|Defect\(|=|\bint\b|tuple|pydantic", words, re.I), words
