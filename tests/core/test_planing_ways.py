"""Which face is planed first, and what is said of planing it."""

import pytest

from nullah.core import demo, truing_edits
from nullah.core.plan import plan
from nullah.core.stations.planing_ways import first_side, how


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
    assert "back is" in why
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
