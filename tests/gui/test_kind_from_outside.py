"""A family of joints and a kind of piece from outside the package: one registration each, and they are everywhere."""

import ast
import json
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from PySide6.QtWidgets import QComboBox, QLineEdit

import nullah
from nullah.cli import main
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.joints.families import FAMILIES
from nullah.core.joints.family import block_cut, with_span
from nullah.core.joints.marked_faces import marked_faces
from nullah.core.joints.plan import JointPlan, Setting
from nullah.core.joints.work import Making
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.values.ask import Ask
from nullah.core.values.design import Design, JointDesign, Mark, PartDesign, Rod, between, from_mark, mm


@dataclass(frozen=True)
class Notch:
    """A notch in the lower edge of a bar, half as deep as the bar is wide."""

    name: str = "foot_notch"
    about: str = "A notch that makes two feet of one edge."
    home: str = ""
    making: Making = field(default_factory=lambda: Making("curved", "curved", fits=False))
    joins: None = None
    after: tuple = ()
    reaches: tuple = ()
    schools: tuple = ()
    asks: tuple = field(default_factory=lambda: (Ask("feet", "length of each foot", "length", 30.0, 5.0, 200.0),))

    def figure(self, name, look):
        return float(look.asked("feet"))

    def plan(self, look):
        bar, feet = look.stands(look.joint.first), look.figure("feet")
        body = look.body(look.joint.first)
        low, high = body[0]
        notch = with_span(with_span(body, 0, (low + feet, high - feet)), 2, (0.0, bar.size[1] / 2))
        cut = block_cut(bar, notch, "down")
        return JointPlan(
            look.joint.id,
            self.name,
            "Feet",
            (bar.id,),
            (Setting("rule", feet, "", (bar.id,), "feet"),),
            ("Saw both feet, split out between them.",),
            (),
            marked_faces((cut,), {bar.id: bar}, look.label),
            figures={"feet": feet},
            cuts=(cut,),
        )


def design(asked):
    rod = Rod("long", "Length", "x", (Mark("left"), Mark("right", mm("length", asked["length"], "length"))))
    high = Rod("high", "Height", "z", (Mark("floor"), Mark("top", mm("height", asked["height"], "height"))))
    bar = PartDesign(
        "bar",
        "bar",
        "front",
        "up",
        between("long", "left", "right"),
        between("high", "floor", "top"),
        from_mark("", "", mm("thick", 18.0)),
    )
    return Design((rod, high), (bar,), (JointDesign("feet", "foot_notch", "bar", asked={"feet": asked["feet"]}),))


BAR = Kind(
    "boot_bar",
    "A bar on two feet.",
    (
        Ask("length", "length", "length", 300.0, 50.0, 2000.0),
        Ask("height", "height", "length", 80.0, 20.0, 400.0),
        Ask("feet", "length of each foot", "length", 40.0, 5.0, 200.0),
    ),
    "A bar {length} long and {height} high on feet of {feet}.",
    design,
)


@pytest.fixture(autouse=True)
def registered(monkeypatch):
    monkeypatch.setitem(FAMILIES, "foot_notch", Notch())
    monkeypatch.setitem(KINDS, "boot_bar", BAR)


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
