"""What leaves for the shop: cut list, shop sheet, plan as JSON."""

import csv
import io
import json
import re
from xml.etree import ElementTree

import pytest
from pypdf import PdfReader

from nullah import demo
from nullah.core.document.pieces import AddJoint, AddPart, Contents, Designed, Piece
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Dimension
from nullah.core.edits import edit, measuring
from nullah.core.pictures import bodies, full_size, piece
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import cut_list, parts_obj, plan_json, shop_sheet, svg
from nullah.formats.export import export
from nullah.formats.trouble import FileTrouble

DEMO = plan(demo.box())


def test_the_cut_list_has_every_part_with_its_sizes():
    rows = list(csv.DictReader(io.StringIO(cut_list.text(DEMO))))
    assert [r["part"] for r in rows] == [p.id for p in DEMO.piece.parts]
    for row, part in zip(rows, DEMO.piece.parts, strict=True):
        assert float(row["length_mm"]) == pytest.approx(part.length, abs=0.05)
        assert float(row["rough_length_mm"]) > part.length
        assert row["board"].startswith("Board")


def test_no_cell_is_taken_for_a_formula():
    boards = tuple(b.model_copy(update={"name": "=1+1"}) for b in DEMO.project.boards)
    text = cut_list.text(plan(DEMO.project.model_copy(update={"boards": boards})))
    assert "'=1+1" in text
    assert ",=1+1" not in text


@pytest.mark.parametrize(("letter", "size"), [(False, (595, 842)), (True, (612, 792))])
def test_the_shop_sheet_holds_parts_settings_steps_and_cautions(letter, size):
    pdf = PdfReader(io.BytesIO(shop_sheet.pdf(DEMO, letter)))
    assert tuple(round(float(v)) for v in pdf.pages[0].mediabox[2:]) == size
    text = " ".join(page.extract_text() for page in pdf.pages)
    for words in (
        "A front",
        "Set your tools",
        "1 : 8",
        "Board 1: crosscut",
        "Caution:",
        "half pin",
        "Dadoes",
        "licensed practice",
    ):
        assert words in text, words


def test_the_sheet_follows_what_is_measured_and_shows_inches():
    project = measuring.measured(DEMO.project, DEMO.piece.parts, "A thickness 17.4")
    inches = edit.changed(project, units="in", denominator=32)
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(shop_sheet.pdf(plan(project)))).pages)
    assert "17.4" in text
    in_inches = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(shop_sheet.pdf(plan(inches)))).pages)
    assert '11/16"' in in_inches


def test_a_piece_that_cannot_be_still_prints_why():
    broken = plan(Project(piece=Piece(extra_width=-90)))
    text = PdfReader(io.BytesIO(shop_sheet.pdf(broken))).pages[0].extract_text()
    assert "too small" in text


def test_where_one_corner_cannot_be_laid_out_no_template_is_printed(tmp_path):
    # the high corners have room for their tails, those at the lowered end have none
    contents = Contents(width=60, height=60, thickness=40)
    made = plan(Project(piece=Piece(lid="sliding", tails=6, pin=6, contents=contents)))
    assert made.joints.problem
    assert [s.title.split(",")[0] for s in full_size.sheets(made)] == ["Story stick"] * 3
    written = {p.name for p in export(made, tmp_path)}
    assert "full-size.pdf" in written
    assert "parts.obj" not in written


def test_more_cuts_than_anyone_could_make_leave_no_solids():
    made = plan(Project(piece=Piece(contents=Contents(height=19_000, width=60, thickness=60))))
    assert sum(len(j.cuts) for j in made.joints.joints) > bodies.MOST_CUTS
    assert parts_obj.text(made) == ""


def test_the_plan_as_json_is_plain_data():
    data = json.loads(plan_json.text(DEMO))
    assert {p["id"] for p in data["parts"]} == {p.id for p in DEMO.piece.parts}
    assert data["outside"] == list(DEMO.piece.in_hand.own.box.outside)
    assert set(data["layout"]["places"]) == {p["id"] for p in data["parts"]}
    assert all(set(c) >= {"id", "question", "options", "recommended"} for c in data["calls"])


def test_the_shop_sheet_has_every_side_of_a_joint():
    """A breadboard end marks seven sides, more than stand beside each other; those that are alike are drawn once and both named."""
    top = AddPart(id="top", label="top", length=600, width=400, thickness=22, face="up", upper="back")
    end = AddPart(id="end", label="end", length=400, width=90, thickness=22, face="up", upper="left", at=(600, 0, 0))
    joined = AddJoint(id="one", family="breadboard_end", first="top", second="end", way="right")
    now = plan(Project(pieces=(Designed(kind="free", name="Try", edits=(top, end, joined)),)))
    (joint,) = now.joints.joints
    sides = {tuple(f.title.split(", ")) for f in joint.faces}
    assert len(sides) > 4
    read = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(shop_sheet.pdf(now))).pages)
    for part, side in sides:
        assert re.search(rf"{part}, [a-z ,]*{side}", read), (part, side)


def test_export_writes_all_and_says_when_it_may_not(tmp_path):
    written = [p.name for p in export(DEMO, tmp_path / "shop")]
    assert [name for name in written if not name.startswith("full-size-")] == [
        "cut-list.csv",
        "shop-sheet.pdf",
        "full-size.pdf",
        "parts.obj",
        "reminders.ics",
        "piece.svg",
        "standing.svg",
        "apart.svg",
        "layout.svg",
    ]
    assert [n for n in written if n.startswith("full-size-")] == [
        f"full-size-{n:02d}.{kind}" for kind in ("svg", "dxf") for n in range(1, len(full_size.sheets(DEMO)) + 1)
    ]
    (tmp_path / "file").write_text("")
    with pytest.raises(FileTrouble, match="Could not save"):
        export(DEMO, tmp_path / "file")


def test_templates_as_svg_are_at_full_size(tmp_path):
    """One mm of wood is one mm of the document: its width in mm by its width in user units, times the stick's own."""
    export(DEMO, tmp_path)
    number = next(n for n, s in enumerate(full_size.sheets(DEMO), 1) if s.title == "Story stick, length")
    text = (tmp_path / f"full-size-{number:02d}.svg").read_text()
    wide, box = re.search(r'width="([\d.]+)mm"', text)[1], re.search(r'viewBox="0 0 ([\d.]+) ', text)[1]
    stick = [float(p.split(",")[0]) for p in re.search(r'<polygon points="([^"]+)"', text)[1].split()]
    long = (max(stick) - min(stick)) * float(wide) / float(box)
    assert long == pytest.approx(DEMO.piece.in_hand.own.box.outside[0], abs=0.01)


def test_pictures_leave_as_svg_with_every_figure_and_name():
    picture = piece.of(DEMO)
    root = ElementTree.fromstring(svg.text(picture, lambda mm: f"{mm:.1f}", told, name="the <box>"))
    words = [t.text for t in root.iter("{http://www.w3.org/2000/svg}text")]
    for item in picture.items:
        if isinstance(item, Dimension):
            assert any(f"{item.mm:.1f}" in w for w in words)
    assert {"A", "B", "front"} <= set(words)
    assert root.get("aria-label") == "the <box>"
    assert float(root.get("width")) == 1000
