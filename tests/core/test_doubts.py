"""A step is not done past wood that is not there, an open question or what does not hold, unless one says so."""

import pytest

from nullah import demo
from nullah.core.document.project import Board, Project
from nullah.core.edits import edit, step_edits
from nullah.core.edits.edit import BadEdit
from nullah.core.edits.piece_edits import fresh
from nullah.core.edits.step_edits import NotMet, step_done
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan


def short_of_wood(kind):
    """A piece by its defaults with one board too short for anything."""
    project = fresh(kind)
    species = plan(project).piece.parts[0].species if plan(project).piece.parts else "white ash"
    board = Board(id="b", name="Short", species=species, length=90, width=60, thickness=25)
    return edit.changed(project, boards=(board,))


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "free"])
def test_no_job_runs_to_its_end_silently_on_short_wood(kind):
    """Done pressed on every step: each that needs what is not so is refused once, by name, and told once one is sure."""
    project, asked = short_of_wood(kind), []
    for _ in range(400):
        now = plan(project)
        if now.bench.now < 0:
            break
        step = now.bench.steps[now.bench.now]
        wanted = bool(step.doubts or step_edits.stands_on(now, step))
        try:
            project = step_done(project, now, step.id)
            assert not wanted
        except NotMet as unmet:
            assert wanted
            asked.append(step.id)
            assert str(unmet)
            project = step_done(project, now, step.id, sure=True)
    assert plan(project).bench.now == -1
    assert asked[0] == "wood"
    assert any(e.kind == "note" and "Choose the wood" in e.text for e in project.log)


def test_wood_said_to_be_there_is_asked_anew_when_another_part_has_none():
    project = short_of_wood("boarded_chest")
    now = plan(project)
    done = step_done(project, now, "wood", sure=True)
    assert plan(done).bench.steps[0].done
    shelf = fresh("shelves").in_hand.model_copy(update={"id": "2"})
    more = plan(edit.changed(done, pieces=(*done.pieces, shelf)))
    assert not more.bench.steps[0].done
    back = step_edits.step_undone(done, plan(done), "wood")
    assert not plan(back).bench.steps[0].done


def test_a_corner_is_not_sawn_while_it_is_open_where_the_groove_runs():
    project = demo.box()
    for part in plan(project).piece.parts:
        project = edit.mark_cut(project, part, "")
    now = plan(project)
    corner = next(s for s in now.bench.steps if s.joint and not s.done)
    with pytest.raises(NotMet, match="Where does the groove for the bottom run") as asked:
        step_done(project, now, corner.id)
    assert [c.id for c in asked.value.calls] == ["groove"]
    done = step_done(project, now, corner.id, sure=True)
    groove = plan(done).call("groove")
    assert groove.taken == now.call("groove").recommended
    said = edit.take(project, now.call("groove"), now.call("groove").recommended)
    assert step_done(said, plan(said), corner.id).done[-1] == corner.id


def test_clamps_that_are_wanting_are_told_at_the_glue():
    project = edit.set_in(fresh("small_table"), "kit", "clamps", 1)
    glue = next(s for s in plan(project).bench.steps if s.title == "Glue")
    assert any("clamps wanted" in d and "1 at hand" in d for d in glue.doubts)
    enough = edit.set_in(project, "kit", "clamps", 60)
    assert not any("clamps" in d for s in plan(enough).bench.steps for d in s.doubts)


def test_what_is_not_there_cannot_be_done():
    with pytest.raises(BadEdit, match="no longer in the plan"):
        step_done(Project(), plan(Project()), "no such step", sure=True)
