"""A part of the maker's own between marks of story sticks: it lies there, follows, and stays as it was where they are gone."""

import pytest

from nullah.core.choosing import spans
from nullah.core.document.pieces import AddPart, BetweenMarks, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import project_file

LID, DEEP, STOCK, OVER = 900.0, 380.0, 16.0, 25.4


def chest(**asked):
    return Project(pieces=(KINDS["boarded_chest"].piece({k: str(v) for k, v in asked.items()}),))


def span(now, axis, a, b):
    return next(s for s in spans.of_piece(now, axis) if (s.between.start, s.between.end) == (a, b))


def with_tray(project):
    now = plan(project)
    along, across = span(now, 0, "inside-left", "inside-right"), span(now, 1, "inside-front", "inside-back")
    return piece_edits.add_part(
        project, now, "tray", (along.mm, across.mm, 10.0), face="up", upper="back", at=(along.start, across.start, 200.0),
        along=along.between, across=across.between,
    )  # fmt: skip


def tray(project):
    return next(p for p in plan(project).piece.parts if p.id == "tray")


def test_spans_are_those_of_the_sticks_worked_out_here():
    now = plan(chest())
    inside = span(now, 0, "inside-left", "inside-right")
    assert inside.mm == pytest.approx(LID - 2 * OVER - 2 * STOCK)
    assert inside.start == pytest.approx(OVER + STOCK) or inside.start == pytest.approx(
        STOCK
    )  # from the lid or the chest
    assert span(now, 1, "inside-front", "inside-back").mm == pytest.approx(DEEP - 2 * STOCK)
    assert inside.words == "length, inside left to inside right"
    found = [s.mm for s in spans.of_piece(now, 2)]
    assert found == sorted(found)
    assert spans.of_piece(plan(Project(pieces=(KINDS["free"].piece({}),))), 0) == ()


@pytest.mark.parametrize(("answer", "value"), [("lid", 1100.0), ("depth", 500.0), ("stock", 22.0)])
def test_it_follows_what_is_answered(answer, value):
    project = with_tray(chest())
    assert (tray(project).length, tray(project).width) == (
        pytest.approx(LID - 2 * OVER - 2 * STOCK),
        pytest.approx(DEEP - 2 * STOCK),
    )
    now = {"lid": LID, "depth": DEEP, "stock": STOCK, answer: value}
    project = piece_edits.set_answer(project, answer, value)
    assert tray(project).length == pytest.approx(now["lid"] - 2 * OVER - 2 * now["stock"])
    assert tray(project).width == pytest.approx(now["depth"] - 2 * now["stock"])
    assert tray(project).thickness == 10
    assert project_file.loads(project_file.dumps(project)) == project


def test_a_figure_written_or_a_place_given_lets_it_go():
    project = with_tray(chest())
    shorter = piece_edits.put_figure(project, "tray", "length", 500.0)
    assert tray(shorter).length == 500
    assert tray(piece_edits.set_answer(shorter, "lid", 1200.0)).length == 500
    assert tray(piece_edits.set_answer(shorter, "depth", 500.0)).width == pytest.approx(
        500 - 2 * STOCK
    )  # that still follows
    moved = piece_edits.move_part(project, "tray", 1, 40.0)
    assert tray(piece_edits.set_answer(moved, "depth", 500.0)).width == pytest.approx(DEEP - 2 * STOCK)
    assert tray(piece_edits.set_answer(moved, "lid", 1200.0)).length == pytest.approx(1200 - 2 * OVER - 2 * STOCK)


def test_where_the_marks_are_gone_it_stays_as_it_was_and_that_is_told():
    edits = with_tray(chest()).in_hand.edits
    project = Project(pieces=(Designed(kind="small_rest", name="Rest", edits=edits),))
    assert tray(project).length == pytest.approx(LID - 2 * OVER - 2 * STOCK)
    said = " ".join(told(c.question) for c in plan(project).calls)
    assert "The length of tray lay between inside-left and inside-right" in said


@pytest.mark.parametrize(
    ("rod", "start", "end"),
    [
        ("length", "inside-right", "inside-left"),  # the wrong way round
        ("depth", "inside-front", "inside-back"),  # along another way of the piece
        ("no rod", "a", "b"),
    ],
)
def test_marks_that_no_part_can_lie_between_so_are_told(rod, start, end):
    part = AddPart(
        id="tray", label="tray", length=300, width=200, thickness=10, face="up", upper="back", at=(60, 40, 200),
        along=BetweenMarks(rod=rod, start=start, end=end),
    )  # fmt: skip
    project = Project(pieces=(Designed(kind="boarded_chest", name="Chest", edits=(part,)),))
    assert tray(project).length == 300
    assert any(f"between {start} and {end}" in told(c.question) for c in plan(project).calls)
