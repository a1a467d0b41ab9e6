"""Which face is planed first, and what is said of planing it."""

import pytest

from nullah import demo
from nullah.core.edits import edit, truing_edits
from nullah.core.planning.plan import plan
from nullah.core.stations.planing_ways import first_side, how, wanted
from nullah.core.surface.heights import Heights
from nullah.core.surface.rounds import plan_round
from nullah.core.values.frozen import replace


@pytest.fixture
def project():
    """The demo with nothing read."""
    return demo.project().model_copy(update={"readings": ()})


def read(project, value, side="face"):
    """A board with a cup of so much across its middle, three times over."""
    for at in (100.0, 450.0, 800.0):
        t = plan(project).trueup.of("board 2")
        project = truing_edits.put_reading(project, t, "cup", side, value, at=at)
    return plan(project).trueup.of("board 2")


def test_the_hollow_side_lies_down_first(project):
    """Hollow down (common practice, no source): a face that is hollow across lies on the bench while its back is planed."""
    assert first_side(read(project, 1.2))[0] == "back"
    side, why = first_side(read(project, -1.2))
    assert side == "face"
    assert "laid on its face it rocks" in why
    assert first_side(plan(project).trueup.of("board 2"))[0] == "face"


def test_what_was_begun_is_gone_on_with(project):
    project = truing_edits.done_planing(project, plan(project).trueup.of("board 2"), "back", "", 1.0, [0.0] * 96)
    assert first_side(plan(project).trueup.of("board 2")) == ("back", "begun")


def test_knots_and_marks_are_spoken_of_where_they_are(project):
    made = plan(project)
    parts = [t for t in made.trueup.parts if t.board == "board 1"]
    board = next(b for b in project.boards if b.id == "board 1")
    knot = next(d for d in board.defects if "knot" in d.kind)
    over = (knot.x + knot.width / 2 - 10.0, knot.y - 5.0)
    assert "knot at" in how(board, parts[0], "face" if knot.face == "both" else knot.face, over)[0]
    assert not [words for words in how(board, parts[0], "face", (board.length, 0.0)) if "knot" in words]
    hidden = next(t for t in made.trueup.parts if t.secondary)
    other = next(b for b in project.boards if b.id == hidden.board)
    assert any("may stay" in words for words in how(other, hidden, "back", (0.0, 0.0)))
    assert not any("may stay" in words for words in how(other, hidden, "face", (0.0, 0.0)))


def test_a_top_on_buttons_may_have_its_working_face_alone_made_flat(project):
    """Only the working face of a top need be flat (common practice, no source); what is let into another is of one thickness."""
    made = plan(project)
    staves = [t for t in made.trueup.parts if t.part == "2.top"]
    shelf = next(t for t in made.trueup.parts if t.part == "bottom")  # of a box: it lies in grooves
    for t in (*staves, shelf):
        project = truing_edits.put_reading(project, t, "cup", "face", 0.8, at=t.length / 2)
    made = plan(project)
    calls = [c for c in made.calls if "faces" in c.id]
    assert [c.id for c in calls] == ["2.faces top"]
    assert calls[0].in_force == "both"
    both = made.trueup.of(staves[0].id)
    made = plan(edit.take(project, calls[0], "working face"))
    alone = made.trueup.of(staves[0].id)
    assert first_side(alone)[0] == "face"
    assert alone.minutes == both.minutes / 2
    sides = []
    for one in (alone, both):
        flat = replace(wanted(one, project.kit.planes), begun=("face",), face=Heights(), unsure=(0.0, 0.0))
        sides.append((plan_round(flat).side, bool(plan_round(flat).stages)))
    assert sides == [("face", False), ("back", True)]  # the face is flat: the back is let be, or comes next
    told = next(s for s in made.bench.steps if s.id == f"true {alone.id}")
    assert "stays as it comes" in told.words
