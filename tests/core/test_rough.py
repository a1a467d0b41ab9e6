"""Staves and leaves: how a part is made up of what is sawn, and how it runs on through layout, truing, sawing and steps."""

import pytest
from fewer import FEWER
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.document.project import Board, Project
from nullah.core.edits import edit, measuring, step_edits
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown, rough


def board(name, length, width, thickness, species="western larch", **more):
    return Board(id=name, name=name, species=species, length=length, width=width, thickness=thickness, **more)


def wide(larch=((1500, 130, 12.5), (1500, 118, 12.5)), **piece):
    """The demo's box for wider packets: its bottom is wider than any board of larch, its sides come from two of ash."""
    project = demo.untouched()
    contents = project.piece.contents.model_copy(update={"width": 170.0})
    made = project.piece.model_copy(update={"contents": contents, **piece})
    ash = [b for b in project.boards if b.species == "white ash"]
    elm = board("elm", 900, 260, 13, "American elm")
    mine = tuple(board(f"larch {i}", *size) for i, size in enumerate(larch))
    return edit.changed(project, piece=made, boards=(*ash, *mine, elm), readings=())


def laid(project: Project) -> Project:
    result = plan(project).breakdown
    best = breakdown.offers(result.request)[0]
    return edit.changed(project, layout=breakdown.accept(best, result.request.fingerprint, result.sawn))


def test_a_panel_wider_than_any_board_is_glued_up_and_everything_follows():
    project = wide()
    now = plan(project)
    call = now.call("staves bottom")
    bottom = next(p for p in now.piece.parts if p.id == "bottom")
    assert call.open
    assert {o.id for o in call.options} >= {"2", "3"}
    mine = [b for b in now.breakdown.blanks if b.id.startswith("bottom")]
    assert [b.id for b in mine] == ["bottom 1", "bottom 2"]
    # planed of all that is left on and of what jointing takes, the staves are the panel again
    left_on = 4 + project.allowances.width
    assert sum(b.width for b in mine) == pytest.approx(bottom.width + left_on + 2 * rough.JOINTING, abs=0.11)
    three = plan(edit.take(project, call, "3"))
    assert len(three.breakdown.rough.of("bottom")) == 3
    after = plan(laid(project))
    assert after.breakdown.problems == ()
    assert {"bottom 1", "bottom 2"} <= {t.id for t in after.trueup.parts}
    glue = next(s for s in after.bench.steps if s.id == "glue up bottom")
    assert glue.waits == ("true bottom 1", "true bottom 2")
    assert glue.cautions
    fitting = next(s for s in after.bench.steps if s.id == "cut bottom")
    assert "level bottom" in fitting.waits


def test_rings_of_neighbours_are_turned_about_where_they_lie_flat():
    project = wide(((1500, 130, 12.5), (1500, 130, 12.5)))
    after = plan(laid(project))
    words = next(s for s in after.bench.steps if s.id == "glue up bottom").words
    assert "bottom 1 bark side up, bottom 2 heart side up (turn bottom 2 back side up)" in words
    turned = [b.model_copy(update={"heart_side": "face"}) for b in after.project.boards]
    again = next(s for s in plan(edit.changed(after.project, boards=tuple(turned))).bench.steps if s.id == glue_id())
    assert "(turn bottom 1 back side up)" in again.words
    standing = [b.model_copy(update={"ring_angle": 80.0}) for b in after.project.boards]
    free = next(s for s in plan(edit.changed(after.project, boards=tuple(standing))).bench.steps if s.id == glue_id())
    assert "any face may lie up" in free.words


def glue_id():
    return "glue up bottom"


def test_staves_may_be_as_wide_as_the_boards_are():
    project = wide(((1500, 160, 12.5), (1500, 100, 12.5)))
    now = plan(project)
    call = now.call("staves bottom")
    uneven = plan(edit.take(project, call, next(o.id for o in call.options if "+" in o.id)))
    widths = uneven.breakdown.rough.staves["bottom"]
    bottom = next(p for p in uneven.piece.parts if p.id == "bottom")
    assert sum(widths) == pytest.approx(bottom.width)
    assert widths[0] > widths[1]
    spans = sorted((s.y1 - s.y0 for n, s in uneven.timber.spans.items() if n.startswith("larch")), reverse=True)
    for b, room in zip([b for b in uneven.breakdown.blanks if b.id.startswith("bottom")], spans, strict=True):
        assert b.width <= room + 0.05
    assert plan(laid(uneven.project)).breakdown.problems == ()


def test_a_thick_board_gives_two_leaves_opened_like_a_book():
    project = wide(((1500, 130, 20.0), (1500, 130, 20.0)))
    call = plan(project).call("staves bottom")
    book = plan(edit.take(project, call, "book"))
    one = next(b for b in book.breakdown.blanks if b.id.startswith("bottom"))
    assert one.id == "bottom 1+2"
    assert one.thickness == 2 * 7.0 + project.kit.rip_kerf + 2 * rough.CLEANING
    after = plan(laid(book.project))
    assert after.breakdown.problems == ()
    resaw = next(s for s in after.bench.steps if s.id == "resaw bottom 1+2")
    told = next(o for o in call.options if o.id == "book").consequences[1]
    assert f"about {resaw.minutes - 5:.0f} minutes" in told  # the step and the call know one area
    ids = [s.id for s in after.bench.steps]
    assert ids.index("true bottom 1+2") < ids.index("resaw bottom 1+2") < ids.index("glue up bottom")
    assert next(s for s in after.bench.steps if s.id == "glue up bottom").waits == ("resaw bottom 1+2",)


def test_thin_parts_are_resawn_from_thick_boards_and_an_odd_one_is_not():
    project = wide(((1500, 240, 25.0),), dividers=3)
    now = plan(project)
    call = now.call("resaw dividers")
    assert call.in_force == "2"  # 2 x 9 + 1.5 + 3 = 22.5 of 25
    names = {b.id: b for b in now.breakdown.blanks}
    assert names["1+2"].thickness == 22.5
    assert names["3"].thickness == 9
    planed = plan(edit.take(project, call, "plane"))
    assert {"1", "2", "3"} <= {b.id for b in planed.breakdown.blanks}
    after = plan(laid(project))
    assert next(s for s in after.bench.steps if s.id == "cut 1").waits[-1] == "resaw 1+2"
    thinner = measuring.measured(after.project, after.piece.parts, "1 thickness 8.6")
    assert plan(thinner).breakdown.problems == ()  # one leaf came out thinner: it was resawn with its mate all the same
    cut = plan(edit.mark_cut(after.project, next(p for p in after.piece.parts if p.id == "1")))
    assert "1+2" not in {b.id for b in cut.breakdown.blanks}  # it is sawn, whichever leaf is fitted first
    assert cut.breakdown.problems == ()
    assert not any(s.id == "wood" for s in cut.bench.steps)  # its mate has wood: the other leaf
    assert next(s for s in cut.bench.steps if s.id == "cut 2").waits[-1] == "resaw 1+2"


def test_a_panel_s_staves_are_sawn_one_board_after_the_other():
    project = laid(wide(((400, 130, 12.5), (400, 130, 12.5)), dividers=0, lid="none"))
    now = plan(project)
    assert now.breakdown.problems == ()
    boards = [now.breakdown.place(b)[0] for b in ("bottom 1", "bottom 2")]
    assert boards[0] != boards[1]
    first = step_edits.sawn(project, now, boards[0])
    after = plan(first)
    assert not next(p for p in after.piece.parts if p.id == "bottom").cut
    assert {"bottom 1", "bottom 2"} & {b.id for b in after.breakdown.blanks} == {"bottom 2"}
    assert after.call("staves bottom").taken == "2"  # what is begun is decided, though boards are others now
    bare = edit.changed(first, boards=tuple(b for b in first.boards if b.sawn))
    assert len(plan(bare).breakdown.rough.staves["bottom"]) == 2
    wider = edit.put_board(first, board("wide", 900, 300, 12.5))
    assert len(plan(wider).breakdown.rough.staves["bottom"]) == 2
    for grows in (-20.0, 12.0, 60.0):  # a panel that is to be narrower or wider since keeps what is sawn
        box = first.piece.contents
        other = edit.changed(
            first,
            piece=first.piece.model_copy(update={"contents": box.model_copy(update={"width": box.width + grows})}),
        )
        kept, old = plan(other).breakdown.rough.staves["bottom"], after.breakdown.rough.staves["bottom"]
        panel = next(p for p in plan(other).piece.parts if p.id == "bottom")
        assert sum(kept) == pytest.approx(panel.width)
        sawn = 0 if boards[0] == now.breakdown.place("bottom 1")[0] else 1
        assert kept[sawn] <= old[sawn] + 0.06
        assert not plan(other).call("staves bottom").open
    again = laid(first)  # laid out anew, the stave that is sawn is not forgotten
    assert {b.id for b in plan(again).breakdown.blanks} == {b.id for b in after.breakdown.blanks}
    left = plan(again).breakdown.place("bottom 2")[0]
    both = step_edits.sawn(again, plan(again), left)
    assert not {"bottom 1", "bottom 2"} & {b.id for b in plan(both).breakdown.blanks}
    assert not next(
        p for p in plan(both).piece.parts if p.id == "bottom"
    ).cut  # it is glued up, levelled and fitted yet


@FEWER
@given(st.floats(60, 400), st.floats(60, 300), st.floats(60, 300), st.floats(7, 40))
def test_property_staves_make_up_the_panel_and_fit_the_boards(contents, one, two, thickness):
    project = wide(((2500, one, thickness), (2500, two, thickness)))
    inside = project.piece.contents.model_copy(update={"width": contents})
    now = plan(edit.changed(project, piece=project.piece.model_copy(update={"contents": inside})))
    for part in now.piece.parts:
        call = now.call(f"staves {part.id}")
        for option in call.options if call else ():
            made = plan(edit.take(now.project, call, option.id)).breakdown.rough
            assert sum(made.staves[part.id]) == pytest.approx(part.width)
            mine = [b for b in made.blanks if part.id in made.gives[b.id]]
            assert sum(made.leaves.get(b.id, 1) for b in mine) == len(made.staves[part.id])
            spans = [s for n, s in now.timber.spans.items() if _is_of(now, n, part)]
            if "+" not in option.id:
                assert all(b.width <= max(s.y1 - s.y0 for s in spans) + 0.1 for b in mine)
            for b in mine:
                least = part.thickness * made.leaves.get(b.id, 1)
                assert b.thickness >= least
                assert b.width > max(made.staves[part.id]) - 1e-6 or "+" in option.id


def _is_of(now, board_id, part):
    return next(b for b in now.project.boards if b.id == board_id).species == part.species


def test_what_is_sawn_and_timed_stays_so_when_the_rest_is_laid_out_anew():
    project = laid(demo.untouched())
    now = plan(project)
    board_id = now.breakdown.layout.boards[1].board
    mine = [s for s in now.bench.steps if s.id.startswith(f"saw {board_id} ")]
    for step in mine[:3]:
        project = edit.logged(project, "time", step.title, step=step.id, minutes=2.0)
    project = step_edits.sawn(project, plan(project), board_id)
    again = edit.changed(project, allowances=project.allowances.model_copy(update={"length": 20.0}))
    after = plan(laid(again))
    steps = {s.id: s for s in after.bench.steps}
    assert all(steps[s.id].done for s in mine)
    assert [steps[s.id].took for s in mine[:3]] == [2.0] * 3
