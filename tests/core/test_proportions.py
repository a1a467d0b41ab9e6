"""Proportions: offered near what was asked, made when taken, silent once one stands in them or has said no."""

import math

import pytest
from fewer import FEWER
from hypothesis import given
from hypothesis import strategies as st

from nullah.core.edits import edit, measuring, piece_edits
from nullah.core.edits.piece_edits import fresh
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def asked(project, ask="width"):
    return plan(project).call(f"proportion {ask}")


def table(**answers):
    project = piece_edits.change_kind(fresh(), plan(fresh()), "small_table")
    for name, value in answers.items():
        project = piece_edits.set_answer(project, name, value)
    return project


def test_the_nearest_are_offered_and_the_golden_ratio_is_that_of_euclid():
    """The longer is to the shorter as both together to the longer (Elements VI, definition 3)."""
    call = asked(table(length=800.0, width=450.0))
    assert call.recommended == "keep"
    assert [o.id for o in call.options] == ["keep", "3 to 5", "the golden ratio"]
    assert (
        edit.take(table(length=800.0, width=450.0), call, "keep").in_hand.design
        == table(length=800.0, width=450.0).in_hand
    )
    golden = piece_edits.answer(edit.take(table(length=800.0, width=450.0), call, "the golden ratio").in_hand, "width")
    assert golden / (800 - golden) == pytest.approx(800 / golden, rel=0.005)  # to half a millimetre
    assert "480 in place of 450: 30 more" in told(call.option("3 to 5").consequences[0])


@pytest.mark.parametrize(("length", "width"), [(800.0, 450.0), (700.0, 1050.0), (900.0, 1230.0), (1400.0, 520.0)])
def test_what_is_taken_stands_in_the_proportion_it_is_called_by(length, width):
    """Whichever of the two is the longer stays that; the other stays as it was asked for."""
    project = table(length=length, width=width)
    named = {"a third": 3, "1 to 2": 2, "3 to 5": 5 / 3, "2 to 3": 1.5, "3 to 4": 4 / 3, "as long as each other": 1}
    named["the golden ratio"] = (1 + math.sqrt(5)) / 2
    call = asked(project)
    for option in () if call is None else call.options[1:]:
        after = edit.take(project, call, option.id).in_hand
        sides = piece_edits.answer(after, "width"), piece_edits.answer(after, "length")
        assert sides[1] == length
        assert sides[0] != width
        assert (sides[0] - length) * (width - length) >= 0
        assert max(sides) / min(sides) == pytest.approx(named[option.id], abs=0.004)
    assert call is not None or length / width in (2 / 3, 1.5)


@FEWER
@given(st.floats(300, 1500), st.floats(300, 1200))
def test_property_what_is_taken_is_in_the_piece_and_nothing_is_asked_any_more(length, width):
    project = table(length=round(length, 1), width=round(width, 1))
    call = asked(project)
    if call is None:
        ratio = min(length, width) / max(length, width)
        near = min(abs(ratio - r) for r in (1 / 3, 0.5, 0.6, (math.sqrt(5) - 1) / 2, 2 / 3, 0.75, 1.0))
        assert near < 0.005  # in one already
        return
    for option in call.options[1:]:
        after = edit.take(project, call, option.id)
        now = plan(after)
        assert now.piece.problem == ""
        top = next(p for p in now.piece.parts if p.id == "top")
        assert f"{top.width:g} in place of" in told(option.consequences[0])
        assert now.call(call.id) is None
    kept = edit.take(project, call, "keep")
    assert not asked(kept).open
    later = asked(piece_edits.set_answer(kept, "length", 911.0))
    assert later is None or not later.open  # said once


def test_of_a_piece_that_is_begun_nothing_is_asked():
    project = table(length=800.0, width=450.0)
    assert asked(project).open
    now = plan(project)
    top = next(p for p in now.piece.parts if p.id == "top")
    assert asked(edit.mark_cut(project, top)) is None
    assert asked(measuring.measured(project, now.piece.parts, "leg-fl thickness 41")) is None


def test_rims_of_shelves_may_be_made_equal():
    shelves = piece_edits.set_answer(piece_edits.change_kind(fresh(), plan(fresh()), "shelves"), "above", 36.0)
    call = asked(shelves, "above")
    assert call.option("as long as each other") is not None
    even = plan(edit.take(shelves, call, "as long as each other"))
    low, high = (even.piece.in_hand.worked.placed()[k].box for k in (2, 5))
    side = next(p for p in even.piece.parts if p.id == "side-left")
    assert low[0][2] == pytest.approx(40.0)
    assert side.length - high[1][2] == pytest.approx(40.0)
