"""The layout led by hand: pins, boards kept whole, boards sawn; and what a sawn board leaves behind."""

import pytest

from nullah import demo
from nullah.core.document.project import Board, Defect, Node
from nullah.core.edits import board_edits, edit, step_edits
from nullah.core.layout.check import problems
from nullah.core.layout.model import leaves
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown

FIRST = demo.box()


def laid(project, boards=None):
    """The first layout a search offers for a project, taken."""
    request = plan(project).breakdown.request
    best = breakdown.offers(request)[0]
    return project.model_copy(update={"layout": breakdown.accept(best, request.fingerprint)})


def test_a_pinned_part_stays_while_all_else_is_laid_out_again():
    before = plan(FIRST).breakdown.place("lid")
    pinned = board_edits.pin(FIRST, plan(FIRST), "lid")
    longer = edit.changed(pinned, allowances=pinned.allowances.model_copy(update={"length": 40.0}))
    request = plan(longer).breakdown.request
    assert "lid" not in {b.id for b in request.blanks}
    after = laid(longer)
    board, node = plan(after).breakdown.place("lid")
    assert (board, node.x, node.y, node.length) == (before[0], before[1].x, before[1].y, before[1].length)
    assert plan(after).breakdown.problems == ()
    assert board_edits.pin(pinned, plan(pinned), "lid") == FIRST
    with pytest.raises(edit.BadEdit, match="not laid on a board"):
        board_edits.pin(FIRST, plan(FIRST), "Z")


def test_a_board_kept_whole_is_not_sawn_into():
    used = plan(FIRST).breakdown.place("lid")[0]
    kept = board_edits.keep_whole(FIRST, used)
    offered = breakdown.offers(plan(kept).breakdown.request)
    assert all(b.board != used for one in offered for b in one.boards)
    assert board_edits.keep_whole(kept, used) == FIRST


def test_a_sawn_board_leaves_its_offcuts_among_the_boards_and_its_parts_in_the_rough():
    p = plan(FIRST)
    board, _ = p.breakdown.place("A")
    tree = next(b.root for b in FIRST.layout.boards if b.board == board)
    whole = next(b for b in FIRST.boards if b.id == board)
    offcuts = [n for n in leaves(tree) if n.use == "offcut"]
    assert offcuts
    after = step_edits.sawn(FIRST, p, board)
    new = [b for b in after.boards if b.id not in {x.id for x in FIRST.boards}]
    assert [(b.length, b.width, b.species, b.thickness) for b in new] == [
        (n.length, n.width, whole.species, whole.thickness) for n in offcuts
    ]
    parts = {n.part for n in leaves(tree) if n.part}
    assert after.cut == ()  # what is sawn is rough until it is shot
    q = plan(after)
    assert q.breakdown.freed >= parts
    assert not parts & {b.id for b in q.breakdown.request.blanks}
    assert not q.breakdown.problems
    assert not q.breakdown.changed
    assert board not in {s.id for s in q.breakdown.request.stock}
    assert {b.id for b in new} <= {s.id for s in q.breakdown.request.stock}
    assert all(s.done for s in q.bench.steps if s.id.startswith(f"saw {board} "))
    with pytest.raises(edit.BadEdit):
        step_edits.sawn(after, q, board)


def test_faults_and_tapers_go_with_what_is_left_over():
    knot = Defect(id="k", kind="sound knot", x=480, y=40, length=60, width=30)
    far = Defect(id="f", kind="check", x=10, y=10, length=20, width=5)
    board = Board(
        id="b",
        name="B",
        species="white ash",
        length=1000,
        width=200,
        thickness=20,
        defects=(knot, far),
        widths=(200, 100),
    )
    left = step_edits.left_over(board, Node(x=500, y=20, length=500, width=150, use="offcut"), "c", 1)
    assert [(d.x, d.y, d.length, d.width) for d in left.defects] == [(0, 20, 40, 30)]
    # 150 at 500 from the left end, 100 at 1000; 20 below is gone
    assert left.upper == ((0.0, pytest.approx(130.0)), (500.0, pytest.approx(80.0)))
    assert left.lower == ()
    assert left.straight_edge == "lower"


def test_a_taper_is_kept_clear_of():
    tapering = FIRST.boards[0].model_copy(update={"widths": (FIRST.boards[0].width, 60.0)})
    project = edit.put_board(FIRST, tapering)
    told = plan(project).breakdown.problems
    assert any("past the edge" in words for words in told)
    again = laid(project)
    result = plan(again).breakdown
    assert problems(result.layout.boards, result.stock, [b for b in result.blanks if result.place(b.id)]) == ()


def test_a_show_part_may_hold_a_knot_that_shows_on_its_back_alone():
    a = plan(FIRST).breakdown.place("A")
    knot = Defect(id="new", kind="sound knot", x=a[1].x + 180, y=a[1].y + 60, length=15, width=15)

    def told(face):
        board = next(b for b in FIRST.boards if b.id == a[0])
        with_knot = board.model_copy(update={"defects": (*board.defects, knot.model_copy(update={"face": face}))})
        return plan(edit.put_board(FIRST, with_knot)).breakdown.problems

    assert told("back") == ()
    assert any("A lies on a sound knot" in words for words in told("both"))
