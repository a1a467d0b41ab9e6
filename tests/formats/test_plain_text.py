"""Names with the worst that can be typed, pasted or read from a file: every format takes what is left of them."""

import csv
import io
import json
import unicodedata
from xml.dom import minidom

import ezdxf
import icalendar
import pypdf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import edit
from nullah.core.planning.plan import plan
from nullah.core.values.value import Value, Word
from nullah.formats import plan_json, project_file, tables
from nullah.formats.cells import safe
from nullah.formats.export import export
from nullah.formats.trouble import spoken

WORST = "a\x1b[31m\x9b2J\r\nb\u2028c\u202ed\u2066e\ud800\x00\x7f\ufffe\u2063%%c^I<>&\"' =1+1"


class Named(Value):
    name: Word


@given(st.text(st.characters(), min_size=1, max_size=60))
def test_property_a_name_is_one_line_of_what_is_seen(text):
    """By Unicode's own categories; source: the character database that ships with Python."""
    try:
        name = Named(name=text).name
    except ValueError:
        return  # nothing of it is left
    assert len(name.splitlines()) == 1
    assert not [c for c in name if unicodedata.category(c) in ("Cc", "Cs") or unicodedata.bidirectional(c) in BIDI]
    name.encode("utf-8")
    assert Named(name=name).name == name


BIDI = {"LRE", "RLE", "LRO", "RLO", "PDF", "LRI", "RLI", "FSI", "PDI"}


@pytest.fixture(scope="module")
def worst(tmp_path_factory):
    """Everything exported of a demo whose names are the worst, and its plan."""
    project = demo.project()
    boards = tuple(edit.changed(b, name=f"{WORST} {n}") for n, b in enumerate(project.boards))
    pieces = tuple(edit.changed(p, name=f"{WORST} {p.id}") for p in project.pieces)
    made = plan(edit.changed(project, boards=boards, pieces=pieces, name=WORST))
    return made, export(made, tmp_path_factory.mktemp("worst"))


def test_every_format_takes_the_worst_names(worst):
    made, written = worst
    kinds = {p.suffix for p in written}
    assert kinds == {".csv", ".pdf", ".svg", ".dxf", ".obj", ".ics"}
    for path in written:
        data = path.read_bytes()
        assert not [b for b in data if path.suffix not in (".pdf",) and ((b < 32 and b not in (10, 13)) or b == 127)], (
            path
        )
        if path.suffix == ".svg":
            minidom.parseString(data)
        elif path.suffix == ".dxf":
            audit = ezdxf.readfile(path).audit()
            assert not audit.errors, path
        elif path.suffix == ".pdf":
            assert len(pypdf.PdfReader(path).pages)
        elif path.suffix == ".ics":
            icalendar.Calendar.from_ical(data)
        elif path.suffix == ".csv":
            rows = list(csv.reader(io.StringIO(data.decode())))
            assert {len(r) for r in rows} == {len(rows[0])}
            assert len(rows) == len(data.decode().splitlines())
    assert json.loads(plan_json.text(made))["project"] == made.project.name
    printed = plan_json.text(made)
    assert not [c for c in printed if unicodedata.category(c) == "Cc" and c != "\n"]


def test_what_is_pasted_reads_back_from_the_file_as_it_is_shown(tmp_path, worst):
    project = worst[0].project
    project_file.save(project, tmp_path / "worst.nullah")
    assert project_file.load(tmp_path / "worst.nullah") == project
    raw = Project(name="x").model_dump_json().replace('"x"', '"\\u001b[2Jx\\u202e"')
    assert project_file.loads(raw).name == "[2Jx"


def test_no_cell_is_a_formula_and_no_row_is_broken(tmp_path):
    for words in ("=1+1", " =1+1", "\u00a0@x", "\u3000-2", "\uff1d1"):
        assert safe(words).startswith("'")
    boards, parts = tmp_path / "boards.csv", tmp_path / "parts.csv"
    boards.write_text('id,species,length,width,thickness\n"a\x1b[2J\nb",ash,1000,200,25\n')
    parts.write_text("id,length,width,thickness,species\np,100,50,20,ash\n")
    assert tables.read(boards, parts).stock[0].id == "a[2J b"
    assert spoken("x\x1b[2J\n\u202ey") == "x[2J y"
