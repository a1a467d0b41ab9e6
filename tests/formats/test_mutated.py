"""Damaged files, many of them: none crashes or hangs the program, what is open stays, and the sentence says where."""

import json
import os
import random
import re
import time

import pytest
from marked import as_version_9

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import edit, measuring
from nullah.core.planning.plan import plan
from nullah.formats import heights_csv, project_file
from nullah.formats.trouble import FileTrouble
from nullah.gui.session import Session

SOAK = bool(os.environ.get("NULLAH_SOAK"))
PROJECTS, TABLES = (16_000, 4_000) if SOAK else (160, 60)
SLOWEST = 2.0  # seconds of own work: a stall of the machine is not the program's
WORDS = [
    "null",
    "true",
    "-1",
    "1e400",
    "NaN",
    '""',
    "[]",
    "{}",
    '"\\u0000"',
    "0",
    "99999999999999999999",
    '"oak"',
    "0.0",
]


def mutated(text, chance):
    """One to three hurts of the kinds that happen: cut short, bytes turned, pieces doubled, dropped or swapped, values replaced."""
    data = bytearray(text.encode())
    for _ in range(chance.choice((1, 1, 1, 2, 3))):
        at = chance.randrange(max(1, len(data)))
        kind = chance.randrange(8)
        if kind == 0:
            del data[at:]
        elif kind == 1 and data:
            data[at % len(data)] = chance.randrange(256)
        elif kind == 2:
            data[at:at] = data[at : at + chance.randrange(1, 400)]
        elif kind == 3:
            del data[at : at + chance.randrange(1, 60)]
        elif kind == 4:
            data[at:at] = chance.choice((b"[", b"{", b'"', b",", b"\x00", b"\xff\xfe", b"1e999", b"\n"))
        else:  # a value for another: what a hand edit does
            whole = data.decode("utf-8", "ignore")
            values = list(re.finditer(r"(?<=[:,\[])\s*(\"[^\"]*\"|-?[\d.eE+]+|true|false|null)", whole))
            if values:
                one = chance.choice(values)
                data = bytearray(f"{whole[: one.start()]} {chance.choice(WORDS)}{whole[one.end() :]}".encode())
    return bytes(data)


def a_full_project():
    project = demo.box()
    parts = plan(project).piece.parts
    project = measuring.measured(project, parts, "A thickness 17.4", "2026-03-14T10:00:00+00:00")
    project = edit.start_timer(edit.mark_cut(project, parts[0]), "finish", "2026-03-14T10:00:00+00:00")
    return edit.set_piece(project, "divider_shift", (1.0, 0.0, -2.0, 0.0))


def test_soak_mutated_projects_leave_what_is_open(qtbot, tmp_path):
    chance = random.Random(20_260_314)
    whole = a_full_project()
    texts = (project_file.dumps(whole), json.dumps(as_version_9(whole), indent=1))  # as it is saved, and as it was
    session = Session(Project(name="open"), None, None)
    said = []
    session.said.connect(lambda words, trouble: said.append((words, trouble)))
    path = tmp_path / "hurt.nullah"
    refused = 0
    for i in range(PROJECTS):
        path.write_bytes(mutated(texts[i % 2], chance))
        before, start = session.project, time.process_time()
        said.clear()
        opened = session.open(path)
        assert time.process_time() - start < SLOWEST, i
        if opened:
            project_file.dumps(session.project)  # whatever was read can be planned, shown and saved
            continue
        refused += 1
        assert session.project is before
        (sentence, trouble) = said[-1]
        assert trouble
        assert sentence.startswith("hurt.nullah")
        assert sentence.endswith(".")
        where = r"line \d+|byte \d+|cannot be read: \S+|schema version|nested|newer|larger|no number|is not a project file: \S+"
        assert re.search(where, sentence), sentence
    session.close()
    assert refused > PROJECTS / 3


def test_soak_mutated_tables_of_heights(tmp_path):
    chance = random.Random(7)
    text = "\n".join(",".join(f"{chance.uniform(-2, 2):.2f}" for _ in range(6)) for _ in range(9))
    path = tmp_path / "hurt.csv"
    refused = 0
    for i in range(TABLES):
        path.write_bytes(mutated(text, chance))
        start = time.process_time()
        try:
            table = heights_csv.read(path)
        except FileTrouble as trouble:
            refused += 1
            assert re.search(r"^hurt\.csv(, line \d+| is not)", str(trouble)), str(trouble)
        else:
            assert table.ndim == 2
        assert time.process_time() - start < SLOWEST, i
    assert refused > TABLES / 4


@pytest.mark.parametrize("text", ["", "{", "[]", "null", '{"schema_version": "2"}', '{"schema_version": true}'])
def test_next_to_nothing_is_refused_in_a_sentence(text, tmp_path):
    path = tmp_path / "hurt.nullah"
    path.write_text(text)
    with pytest.raises(FileTrouble, match=r"^hurt\.nullah .+\.$"):
        project_file.load(path)
