"""Parts moved by hand: wherever one is dropped, the layout still holds, or one sentence says why it may not lie there."""

import pytest
from fewer import FEWER
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.document.project import Defect
from nullah.core.edits import edit, gestures
from nullah.core.layout.model import Blank, Options, Stock, leaves
from nullah.core.layout.move import NoPlace, moved
from nullah.core.planning.plan import plan

PROJECT = demo.box()
PLAN = plan(PROJECT)
PARTS = [p.id for p in PLAN.piece.parts]


def area(board):
    """mm2 of the leaves and kerfs of a board's tree."""
    kerfs = 0.0
    waiting = [board.root]
    while waiting:
        n = waiting.pop()
        if n.use == "cut":
            across = n.axis == "across"
            end = n.x + n.length if across else n.y + n.width
            kerfs += max(0.0, min(n.kerf, end - n.at)) * (n.width if across else n.length)
            waiting.extend(n.children)
    return kerfs + sum(leaf.length * leaf.width for leaf in leaves(board.root))


@FEWER
@given(st.lists(st.tuples(st.sampled_from(PARTS), st.floats(-900, 900), st.floats(-600, 600)), min_size=1, max_size=5))
def test_property_wherever_parts_are_dropped_the_layout_holds(drops):
    project, now = PROJECT, PLAN
    for part, dx, dy in drops:
        try:
            project = gestures.pull(project, now, f"part:{part}", dx, dy).project
        except edit.BadEdit as error:
            assert str(error).endswith(".")
            continue
        now = plan(project)
        assert now.breakdown.problems == ()
        for board in project.layout.boards:
            whole = next(b for b in project.boards if b.id == board.board)
            assert area(board) == pytest.approx(whole.length * whole.width, abs=1.0)
    laid = [n.part for b in project.layout.boards for n in leaves(b.root) if n.use == "part"]
    assert sorted(laid) == sorted(PARTS)


@FEWER
@given(st.sampled_from(PARTS), st.floats(-400, 400))
def test_property_there_and_nearly_back_is_where_it_was_or_at_an_edge(part, dx):
    try:
        away = gestures.pull(PROJECT, PLAN, f"part:{part}", dx, 0).project
    except edit.BadEdit:
        return
    again = plan(away)
    before, after = PLAN.breakdown.place(part)[1], again.breakdown.place(part)[1]
    try:
        back = gestures.pull(away, again, f"part:{part}", before.x - after.x, before.y - after.y).project
    except edit.BadEdit:
        return
    found = plan(back).breakdown.place(part)[1]
    assert abs(found.x - before.x) <= 12.1


def test_a_part_that_is_cut_stays_where_it_was_sawn():
    a = next(p for p in PLAN.piece.parts if p.id == "A")
    cut = edit.mark_cut(PROJECT, a)
    with pytest.raises(edit.BadEdit, match="cut already"):
        gestures.pull(cut, plan(cut), "part:A", 40, 0)


def test_dividers_shift_but_never_through_each_other():
    project = PROJECT
    for _ in range(4):
        project = gestures.pull(project, plan(project), "shift:2", 500, 0).project
    bays = plan(project).piece.in_hand.own.box.bays
    assert min(bays) >= 5
    assert sum(bays) == pytest.approx(5 * PLAN.piece.in_hand.own.box.bay)
    assert "2" in {p.id for p in plan(project).piece.parts}


@pytest.mark.parametrize("tag", ["fault:board 9/1", "fault:board 1/9", "edge:board 9/length", "part:Z", "moon:1"])
def test_what_is_no_longer_there_cannot_be_pulled(tag):
    with pytest.raises(edit.BadEdit):
        gestures.pull(PROJECT, PLAN, tag, 1, 1)


def on_a_board_with_a_knot(x, y, kept=frozenset()):
    knot = Defect(id="k", kind="loose knot", x=600, y=40, length=40, width=40)
    board = Stock("b", "Board", "white ash", 1200, 150, 0, 1200, 0, 150, 25, (knot,), lambda *_: 25.0)
    part = Blank("p", 300, 100, 20, "white ash", (300, 100))
    (laid,) = moved((), part, "b", (x, y), [board], Options(kept=kept), {})
    return next((n.x, n.y) for n in leaves(laid.root) if n.use == "part")


def test_a_part_dropped_near_a_knot_snaps_clear_of_it_and_on_it_says_why():
    assert on_a_board_with_a_knot(330, 0) == (300, 0)  # it would run 30 onto the knot
    assert on_a_board_with_a_knot(600, 0) == (640, 0)
    assert on_a_board_with_a_knot(100, 25) == (100, 25)  # clear: it stays where it was dropped
    with pytest.raises(NoPlace, match="p lies on a loose knot of Board"):
        on_a_board_with_a_knot(450, 0)  # too far from clear wood to be meant
    with pytest.raises(NoPlace, match="Board is kept whole"):
        on_a_board_with_a_knot(0, 0, frozenset({"b"}))
