"""What docs/adding.md adds, as it stands there: one registration each, and it is everywhere."""

import ast
import json
import re
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtWidgets import QComboBox, QLineEdit

import nullah
from nullah import demo
from nullah.cli import main
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.joints.families import FAMILIES
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.formats.export import WRITERS, export
from nullah.gui.session import Session

ADDING = (Path(__file__).parents[2] / "docs" / "adding.md").read_text()
EXAMPLES = dict(re.findall(r"^## (.+?)$.*?^```python$(.*?)^```$", ADDING, re.M | re.S))


@pytest.fixture(autouse=True)
def added(monkeypatch):
    """What each example of docs/adding.md leaves, run as it stands; afterwards nothing of it is registered."""
    for table in (FAMILIES, KINDS, WRITERS):
        for name, value in table.items():
            monkeypatch.setitem(table, name, value)
    before = [(table, set(table)) for table in (FAMILIES, KINDS, WRITERS)]
    names = {}
    for title, text in EXAMPLES.items():
        if title != "A species":  # before anything else is loaded: in a process of its own
            names[title] = {"__name__": f"added_{len(names)}"}
            exec(compile(text, title, "exec"), names[title])
    yield names
    for table, known in before:
        for name in set(table) - known:
            del table[name]


def test_a_species_is_a_line():
    text = EXAMPLES["A species"] + (
        "from nullah.cli import main\n"
        "main(['reckon', 'movement', 'species=plain wood', 'width=200', 'from=12', 'to=8', 'cut=flat'])\n"
    )
    done = subprocess.run([sys.executable, "-c", text], capture_output=True, text=True, timeout=120, check=True)
    told = json.loads(done.stdout)
    assert any(abs(abs(v) - 200 * 0.08 * 4 / 30) < 0.35 for v in told.values() if isinstance(v, float)), told


def test_a_family_is_offered_where_two_parts_are_joined(capsys):
    project = piece_edits.change_kind(Project(), plan(Project()), "practice_joint")
    project = piece_edits.make_mine(project, plan(project))
    first, second = (p.id for p in plan(project).piece.parts)
    project = piece_edits.add_joint(project, plan(project), "pinned_butt", first, second, "back")
    now = plan(project)
    laid = next(j for j in now.joints.joints if j.family == "pinned_butt")
    assert laid.settings[0].value == 1.3  # 0.8 of 1.6
    assert now.joints.work(laid.id).minutes > 0
    assert any(s.joint == laid.id for s in now.bench.steps)


def test_a_view_shows_the_project(qtbot, tmp_path, added):
    session = Session(demo.box(), None, tmp_path)
    view = added["A view"]["ScrapView"](session, None)
    qtbot.addWidget(view, before_close_func=lambda _: session.close())
    view.refresh()
    assert view.words.text() == f"{len(session.project.boards)} boards are whole."


def test_an_export_is_written_with_the_others(tmp_path):
    written = export(plan(demo.box()), tmp_path / "out")
    assert tmp_path / "out" / "board-list.txt" in written
    assert len((tmp_path / "out" / "board-list.txt").read_text().splitlines()) == len(demo.box().boards)


def test_the_command_line_and_the_exports_have_it(capsys, tmp_path):
    assert main(["kinds"]) == 0
    kinds = json.loads(capsys.readouterr().out)
    assert next(k for k in kinds if k["name"] == "boot_bar")["asks"][2]["words"] == "length of each foot"
    file = tmp_path / "bar.nullah"
    assert main(["new", "boot_bar", "length=400", "feet=50", "--out", str(file)]) == 0
    capsys.readouterr()
    assert main(["plan", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [p["length"] for p in told["parts"]] == [400]
    assert told["joints"][0]["family"] == "foot_notch"
    assert [r["total"] for r in told["rods"]] == [400, 80]
    assert main(["export", str(file), "--to", str(tmp_path / "out")]) == 0
    obj = (tmp_path / "out" / "parts.obj").read_text()
    assert obj.count("\no ") + obj.startswith("o ") == 1
    assert (tmp_path / "out" / "standing.svg").exists()


def test_the_window_asks_what_it_asks(qtbot, tmp_path):
    from conftest import opened

    hand = opened(qtbot, piece_edits.change_kind(Project(), plan(Project()), "boot_bar"), tmp_path)
    hand.go("piece")
    hand.type_in("length", "410")
    assert plan(hand.project).piece.parts[0].length == 410
    assert hand.find(QLineEdit, "feet").text() == "40"
    kinds = hand.find(QComboBox, "kind of piece")
    assert kinds.currentText() == "Boot bar"
    hand.go("joints")
    assert hand.window.view().joint().family == "foot_notch"
    assert hand.window.view().canvas.drawing.items


KINDS_OF_NULLAH = (set(KINDS) - {"free"}) | {"boot_bar"}  # "free" is a common word
PARTS = {  # ids and labels of parts of every kind; ways of looking (front, back) and keys (A, C) are no parts
    *("lid", "divider", "dividers", "sides", "bottom groove", "lid groove", "opening", "contents", "wall_species"),
    *("leg", "leg-fl", "apron", "apron-front", "drawer", "drawer-front", "rail-lower", "top", "foot", "lip"),
    *(
        "tail-board",
        "pin-board",
        "tail board",
        "pin board",
        "shelf",
        "shelf-1",
        "side-left",
        "stave-1",
        "left-end",
        "batten-left",
        "till",
    ),
}
LETTERS = {"A", "B", "C", "D", "ABCD"}
MODULES = (KINDS_OF_NULLAH - {"boot_bar"}) | {"box", "table_drawer", "chains"}


@pytest.mark.parametrize("folder", ["core/stations", "core/pictures", "formats", "gui", "core/gestures.py"])
def test_what_plans_draws_writes_and_shows_names_no_kind_and_no_part(folder):
    root = Path(nullah.__file__).parent / folder
    for path in [root] if root.is_file() else root.rglob("*.py"):
        tree = ast.parse(path.read_text())
        foreign = KINDS_OF_NULLAH | PARTS | (set() if path.name == "window_actions.py" else LETTERS)
        allowed = {"opening", "top"} if folder == "gui" else set()  # a weight of the layout, an edge of a widget
        for node in ast.walk(tree):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                assert node.value not in foreign - allowed, (path.name, node.value)
            elif isinstance(node, ast.ImportFrom) and (node.module or "").startswith("nullah.core.pieces"):
                named = {(node.module or "").rpartition(".")[2], *(n.name for n in node.names)}
                assert not any(n in MODULES or n.startswith("box_") for n in named), (path.name, named)
            elif isinstance(node, ast.Attribute):
                assert not node.attr.startswith(("divider", "lid_", "dado_")), (path.name, node.attr)
