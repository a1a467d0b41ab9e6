"""The table of parts: a board foot is 144 cubic inches; sums agree with the rows; text is safe in a spreadsheet."""

import pytest

from nullah import demo
from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning import parts_table
from nullah.core.planning.plan import plan

INCH = 25.4


def made(*parts):
    edits = tuple(
        AddPart(
            id=f"p{n}",
            label=label,
            length=a * INCH,
            width=b * INCH,
            thickness=c * INCH,
            species=wood,
            at=(0, 0, 40.0 * n),
        )
        for n, (label, a, b, c, wood) in enumerate(parts)
    )
    return plan(Project(pieces=(Designed(kind="free", name="Boards", edits=edits),)))


def test_board_feet_and_square_metres_by_hand():
    """A board foot is 12" x 12" x 1" (common practice)."""
    now = made(
        ("one", 12, 12, 1, "white oak"),
        ("two", 96, 6, 1, "white oak"),
        ("three", 48, 9, 1.25, "white oak"),
        ("four", 12, 12, 1, "black cherry"),
    )
    found = {(s.species, round(s.thickness / INCH, 2)): s for s in parts_table.sums(now)}
    assert found["white oak", 1.0].board_feet == pytest.approx(1 + 4)
    assert found["white oak", 1.0].area == pytest.approx((144 + 96 * 6) * INCH**2 / 1e6)
    assert found["white oak", 1.0].parts == 2
    assert found["white oak", 1.25].board_feet == pytest.approx(48 * 9 * 1.25 / 144)
    assert found["black cherry", 1.0].board_feet == pytest.approx(1)
    assert [s.species for s in parts_table.sums(now)] == sorted(s.species for s in parts_table.sums(now))


def test_rows_are_grouped_by_piece_and_say_where_they_may_be_written():
    now = plan(piece_edits.take_in_hand(demo.project(), "2"))
    rows = parts_table.rows(now)
    assert [r.id for r in rows] == [p.id for m in now.piece.made for p in m.parts]
    hand = now.project.hand
    for r in rows:
        assert r.written == (r.id.startswith(f"{hand}.") and r.state != "cut")
    assert sum(s.parts for s in parts_table.sums(now)) == len(rows)


def test_copied_text_is_no_formula_and_keeps_its_cells():
    now = made(("=1+1", 12, 12, 1, "white oak"), ("a\tb\nc", 12, 12, 1, "white oak"))
    lines = parts_table.text(now, lambda mm: f"{mm:.1f}").splitlines()
    assert lines[1].split("\t")[1] == "'=1+1"
    assert lines[2].split("\t")[1] == "a b c"
    assert all(len(line.split("\t")) == len(parts_table.COLUMNS) for line in lines[:3])
