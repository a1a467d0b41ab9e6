"""Files: whole or not at all, and one clear sentence for each that is not a project."""

import json
import os
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah import cli, demo
from nullah.core.document.project import LOG_LETTERS, LOG_LINES, Project, schema
from nullah.core.edits import edit, measuring
from nullah.core.planning.plan import plan
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble

DEMO = demo.box()
TEXT = project_file.dumps(DEMO)


def test_saved_and_opened_is_the_same(tmp_path):
    project = measuring.measured(DEMO, plan(DEMO).piece.parts, "A thickness 17.4")
    path = tmp_path / "box.nullah"
    project_file.save(project, path)
    assert project_file.load(path) == project
    assert plan(project_file.load(path)).joints == plan(project).joints


def test_the_file_as_it_was_stays_beside_the_new_one(tmp_path):
    path = tmp_path / "box.nullah"
    project_file.save(Project(name="first"), path)
    project_file.save(Project(name="second"), path)
    project_file.save(Project(name="third"), path)
    assert project_file.load(path).name == "third"
    assert project_file.load(tmp_path / "box.nullah~").name == "second"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["box.nullah", "box.nullah~"]


def test_the_demo_in_the_package_is_what_its_own_words_come_to():
    """``make demo-file`` writes it; three pieces out of one lot, every part of them with a place."""
    opened = project_file.load(cli.DEMO)
    assert opened == demo.project()
    now = plan(opened)
    assert [p.kind for p in opened.pieces] == ["dovetailed_box", "small_table", "boarded_chest"]
    assert not now.breakdown.needs_layout
    assert not [c for c in now.calls if c.conflict]
    assert set(now.breakdown.places) == {blank.id for blank in now.breakdown.blanks}


def test_the_schema_in_docs_is_the_documents():
    shipped = Path(__file__).parents[2] / "docs" / "project.schema.json"
    assert json.loads(shipped.read_text()) == schema()


def test_the_demo_holds_to_the_schema():
    import jsonschema

    jsonschema.validate(json.loads(TEXT), schema())
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({**json.loads(TEXT), "piece": {"wall": -3}}, schema())


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "not a whole project file"),
        ("{", "not a whole project file"),
        (TEXT[: len(TEXT) // 2], "not a whole project file"),
        ("[]", "not a Nullah project"),
        ("{}", "no schema version"),
        ('"schema_version"', "not a Nullah project"),
        ('{"schema_version": 11}', "newer Nullah"),
        ('{"schema_version": true}', "no schema version that"),
        ('{"schema_version": "1"}', "no schema version that"),
        ('{"schema_version": 1, "name": NaN}', "no number"),
        ('{"schema_version": 1, "nam": "x"}', "nam"),
        ('{"schema_version": 1, "piece": {"wall": 0}}', "piece wall thickness"),
        ('{"schema_version": 1, "piece": {"wall": 1e400}}', "piece wall thickness"),
        ('{"schema_version": 1, "boards": [{"id": "b"}]}', "boards 1 name is missing"),
        ('{"schema_version": 9, "done": 5}', "list of steps done"),
        ('{"schema_version": 9, "done": [["cut A"]]}', "list of steps done"),
        ('{"schema_version": 9, "joints_cut": [{"joint": "corner A-B", "parts": 3}]}', "joints"),
        ('{"schema_version": 9, "measured": [{"part": 3, "dimension": "width", "value": 9}]}', "part"),
        ('{"schema_version": 9, "cut": [{"part": "A", "length": 1}]}', "width is missing"),
        ('{"schema_version": 9, "pieces": [5], "choices": [7]}', "piece is not what"),
        ('{"schema_version": 9, "boards": [{"id": [1]}], "done": ["cut A"]}', "boards 1 id"),
        ('{"schema_version": 1, "piece": {"wall_species": "brass"}}', "brass"),
        (TEXT.replace('"use": "cut"', '"use": "part"', 1), "a cut has two sides"),
        (TEXT.replace('"axis": "across"', '"axis": ""', 1), "a cut has two sides"),
        ("[" * 100_000, "nested too deep"),
        ('{"a":' * 5000 + "1" + "}" * 5000, "nested too deep"),
    ],
)
def test_what_is_not_a_project_gets_one_sentence(text, why, tmp_path):
    path = tmp_path / "x.nullah"
    path.write_text(text)
    with pytest.raises(FileTrouble, match=why) as said:
        project_file.load(path)
    assert "\n" not in str(said.value)
    assert str(said.value).startswith("x.nullah")
    assert path.read_text() == text


def test_bytes_that_are_not_text_and_files_too_large(tmp_path):
    path = tmp_path / "x.nullah"
    path.write_bytes(b"\xff\xfe\x00")
    with pytest.raises(FileTrouble, match="not text"):
        project_file.load(path)
    with path.open("wb") as file:
        file.truncate(project_file.LARGEST + 1)
    with pytest.raises(FileTrouble, match="larger than"):
        project_file.load(path)
    with pytest.raises(FileTrouble, match="no such file"):
        project_file.load(tmp_path / "none.nullah")
    with pytest.raises(FileTrouble, match="folder"):
        project_file.load(tmp_path)


@given(st.integers(0, len(TEXT) - 1), st.integers(0, 40), st.text(max_size=6))
def test_property_a_damaged_file_is_read_or_refused(at, cut, put):
    damaged = TEXT[:at] + put + TEXT[at + cut :]
    try:
        project = project_file.loads(damaged)
    except FileTrouble as said:
        assert "\n" not in str(said)
        return
    plan(project)  # what is read can be planned


@pytest.mark.parametrize(
    ("whole", "broken"),
    [('"species": "American elm"', '"species": "A\\nelm"'), ('"name"', '"\\name"'), ('"log"', '"\\u2028log"')],
)
def test_a_broken_line_in_a_name_leaves_one_line_of_refusal(whole, broken):
    assert whole in TEXT
    with pytest.raises(FileTrouble) as said:
        project_file.loads(TEXT.replace(whole, broken, 1))
    assert len(str(said.value).splitlines()) == 1


def test_a_full_disk_leaves_the_old_file(tmp_path, monkeypatch):
    path = tmp_path / "box.nullah"
    project_file.save(Project(name="old"), path)

    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(FileTrouble, match="the disk is full"):
        project_file.save(Project(name="new"), path)
    monkeypatch.undo()
    assert project_file.load(path).name == "old"
    assert [p.name for p in tmp_path.iterdir()] == ["box.nullah"]


def test_a_folder_that_is_not_there(tmp_path):
    with pytest.raises(FileTrouble, match="no such folder"):
        project_file.save(Project(), tmp_path / "no" / "box.nullah")


@pytest.mark.parametrize("letter", ["\u00e9", "\U0001f332", "\x01"])
def test_whatever_is_written_in_the_book_can_be_read_again_and_the_book_goes_on(letter, monkeypatch):
    monkeypatch.setattr(edit, "LOG_LINES", 60)
    monkeypatch.setattr(edit, "LOG_LETTERS", 50_000)
    monkeypatch.setattr(project_file, "LARGEST", 50_000 * 4 + 60 * 150 + 4_000)  # as the real limits are to each other
    project = Project()
    for n in range(90):
        project = edit.logged(project, "note", f"{n} {letter * 1_990}")
        assert len(project_file.dumps(project).encode()) <= project_file.LARGEST
    again = project_file.loads(project_file.dumps(project))
    assert again == project
    assert again.log[-1].text.startswith("89 ")
    for n in range(90):
        project = edit.logged(project, "note", f"short {n}")
    assert len(project.log) == 60
    assert project.log[-1].text == "short 89"
    assert edit.set_in(project, "kit", "clamps", 3).kit.clamps == 3


def test_the_real_limits_of_the_book_leave_it_readable():
    assert (
        LOG_LETTERS * 4 + LOG_LINES * 250 < project_file.LARGEST
    )  # four bytes a letter, and what stands round each line


def test_no_more_is_written_than_is_read(tmp_path, monkeypatch):
    monkeypatch.setattr(project_file, "LARGEST", 3_000)
    with pytest.raises(FileTrouble, match="Nothing was changed"):
        project_file.save(demo.box(), tmp_path / "box.nullah")
    assert not list(tmp_path.iterdir())
