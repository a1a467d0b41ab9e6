"""`nullah kinds` and `nullah new`: what a kind asks, and projects of answers."""

import json
import math
import random
import re

import pytest

from nullah.cli import main
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def run(capsys, *words):
    code = main(list(words))
    out, err = capsys.readouterr()
    return code, out, err


@pytest.fixture
def kinds(capsys):
    code, out, err = run(capsys, "kinds")
    assert (code, err) == (0, "")
    return {k["name"]: k for k in json.loads(out)}


def test_kinds_say_what_they_ask(kinds):
    assert "dovetailed_box" in kinds
    for kind in kinds.values():
        assert re.fullmatch(r"[a-z_]+", kind["name"])
        assert kind["about"]
        for ask in kind["asks"]:
            assert set(ask) == {"name", "words", "type", "default", "least", "most", "options"}
            assert ask["type"] in ("length", "whole", "number", "yesno", "choice", "text")
            assert (ask["type"] == "choice") == bool(ask["options"])
            assert ask["type"] != "choice" or ask["default"] in ask["options"]
            if ask["least"] is not None and ask["most"] is not None:
                assert ask["least"] <= ask["default"] <= ask["most"]
    by_name = {a["name"]: a for a in kinds["dovetailed_box"]["asks"]}
    assert by_name["contents.count"]["type"] == "whole"
    assert by_name["lid"]["options"] == ["sliding", "lift-off", "none"]
    assert (by_name["slope"]["least"], by_name["slope"]["most"]) == (0, 12)
    assert "divider_shift" not in by_name


def test_a_box_of_answers_is_that_box(capsys, tmp_path):
    target = tmp_path / "box.nullah"
    words = ("contents.count=24", 'contents.width=3 1/2"', "contents.height=112", "contents.thickness=4.2", "slope=1:7")
    code, out, err = run(
        capsys, "new", "dovetailed_box", *words, "lid=Sliding", "dividers=2", "name=Twine box", "--out", str(target)
    )
    assert (code, out, err) == (0, f"{target}\n", "")
    project = project_file.load(target)
    assert project.name == project.piece.name == "Twine box"
    c = project.piece.contents
    assert (c.count, c.width, c.height, c.thickness) == pytest.approx((24, 88.9, 112.0, 4.2))
    assert (project.piece.slope, project.piece.lid, project.piece.dividers) == (7.0, "sliding", 2)
    before = target.read_bytes()
    code, out, err = run(capsys, "new", "dovetailed_box", "--out", str(target))
    assert (code, out) == (2, "")
    assert "is there already" in err
    assert target.read_bytes() == before


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("chest",), "There is no kind"),
        (("dovetailed_box", "depth=20"), "does not ask"),
        (("dovetailed_box", "wall"), "is not key=value"),
        (("dovetailed_box", "wall=18", "wall=19"), "given twice"),
        (("dovetailed_box", "wall=-18"), "must be more than 0"),
        (("dovetailed_box", "wall=thick"), "wall: "),
        (("dovetailed_box", "contents.count=2.5"), "whole number"),
        (("dovetailed_box", "contents.count=" + "9" * 400), "whole number"),
        (("dovetailed_box", "slope=1:steep"), "or a slope"),
        (("dovetailed_box", "slope=1e309"), "or a slope"),
        (("dovetailed_box", "lid=hinged"), "is one of sliding"),
        (("dovetailed_box", "wall_species=plywood"), "is one of"),
        (("dovetailed_box", "name="), "is empty"),
        (("dovetailed_box", "tails=40"), "fewer tails"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence_and_leaves_no_file(capsys, tmp_path, words, said):
    target = tmp_path / "x.nullah"
    code, out, err = run(capsys, "new", *words, "--out", str(target))
    assert (code, out) == (2, "")
    assert said in err
    assert len(err.splitlines()) == 1
    assert not target.exists()


def test_answers_without_a_file_or_a_folder_are_refused(capsys, tmp_path):
    a, b = str(tmp_path / "a"), str(tmp_path / "b")
    for words in (
        (),
        ("dovetailed_box",),
        ("--out", a),
        ("dovetailed_box", "--out"),
        ("dovetailed_box", "--out", a, f"--out={b}"),
    ):
        code, out, err = run(capsys, "new", *words)
        assert (code, out) == (2, "")
        assert err.startswith("Write nullah new KIND")
    assert run(capsys, "kinds", "all")[0] == 2
    assert not list(tmp_path.iterdir())
    assert run(capsys, "new", "dovetailed_box", f"--out={a}")[:2] == (0, f"{a}\n")
    code, _, err = run(capsys, "new", "dovetailed_box", "--out", str(tmp_path / "none" / "x.nullah"))
    assert code == 2
    assert "no such folder" in err


def written(ask, chance):
    """An answer within bounds, as one would type it."""
    low, high = ask["least"] or 0, ask["most"]
    if ask["type"] == "choice":
        return chance.choice(ask["options"])
    if ask["type"] == "yesno":
        return chance.choice(["yes", "no"])
    if ask["type"] == "text":
        return chance.choice(["Seed tray", "\u00e9\u00e8", "<b>&"])
    number = chance.uniform(low, high) if chance.random() < 0.2 else chance.uniform(low, min(high, low + 60))
    return str(round(number)) if ask["type"] == "whole" else f"{number:.2f}"


def test_property_any_answers_within_bounds_give_a_plan_or_one_sentence(capsys, tmp_path, kinds):
    chance, made = random.Random(5), 0
    for n in range(60):
        kind = chance.choice(list(kinds.values()))
        asks = chance.sample(kind["asks"], chance.randint(0, min(5, len(kind["asks"]))))
        target = tmp_path / f"{n}.nullah"
        code, _, err = run(
            capsys, "new", kind["name"], *(f"{a['name']}={written(a, chance)}" for a in asks), "--out", str(target)
        )
        assert code in (0, 2)
        assert (code == 0) == target.exists()
        assert len(err.splitlines()) == (code == 2)
        if code == 0:
            made += 1
            now = plan(project_file.load(target))
            assert now.piece.parts or kind["name"] == "free"
            assert not now.joints.problem
    assert made > 20


def test_the_plan_names_pieces_parts_joints_and_rods(capsys, tmp_path):
    target = tmp_path / "box.nullah"
    run(capsys, "new", "dovetailed_box", "slope=8", "dividers=1", "lid=sliding", "--out", str(target))
    code, out, _ = run(capsys, "plan", str(target))
    assert code == 0
    told = json.loads(out)
    assert [p["kind"] for p in told["pieces"]] == ["dovetailed_box"]
    ids = [x["id"] for what in ("pieces", "parts", "joints", "rods") for x in told[what]]
    assert all(re.fullmatch(r"[A-Za-z0-9.-]+", i) for i in ids)
    assert {p["piece"] for p in told["parts"]} == {told["pieces"][0]["id"]}
    assert {j["family"] for j in told["joints"]} == {"through_dovetail", "groove", "dado"}
    corner = next(j for j in told["joints"] if j["id"] == "corner.A-B")
    assert corner["figures"]["slope"] == pytest.approx(math.degrees(math.atan(1 / 8)))
    assert corner["settings"]
    for rod in told["rods"]:
        assert sum(x["times"] * x["each"] for x in rod["lines"]) == pytest.approx(rod["total"])
