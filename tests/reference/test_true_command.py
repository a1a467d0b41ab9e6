"""``nullah true``: what it tells of readings, and what it refuses in one sentence with nothing written."""

import csv
import json

import numpy as np
import pytest
from hidden_boards import HiddenBoard
from test_slab_reference import highs

from nullah.cli import main
from nullah.core.surface.certainty import known
from nullah.core.surface.gaussian_process import Board, fit
from nullah.formats import readings_csv
from nullah.true_command import asked_of

HEADER = "kind,at,across,value,stick,to\n"
SIZE = ["--length", "1200", "--width", "180", "--thickness", "25"]


def true(tmp_path, text, *more, size=SIZE):
    """The answers for readings in a file's words."""
    (tmp_path / "readings.csv").write_text(text)
    out = tmp_path / "out.json"
    assert main(["true", *size, "--readings", str(tmp_path / "readings.csv"), *more, "--out", str(out)]) == 0
    return json.loads(out.read_text())


def test_nothing_read_is_a_flat_board_of_which_little_is_sure(tmp_path):
    for text in ("", HEADER, HEADER.strip() + "\r\n\r\n"):
        told = true(tmp_path, text)
        assert np.array(told["face_mm"]) == pytest.approx(np.zeros((25, 9)), abs=1e-9)
        assert np.array(told["back_mm"]) == pytest.approx(np.full((25, 9), -25.0))
        assert told["thickest_mm"] == pytest.approx(25.0)
        assert min(min(row) for row in told["error_mm"]) > 0.2
        assert told["next"]["kind"] in ("bow", "winding sticks", "thickness")
        assert told["stray"] == []


def test_each_kind_of_reading_is_taken_as_it_is_written(tmp_path):
    """By the formula of each kind, on the surface told. They agree with each other: bow -1.5, cup 1.2, twist 2.7 from end to end."""
    text = HEADER + (
        "winding sticks,1200,,9,600,\nwinding sticks,1200,,1.4,,600\ncup,600,,1.2,,\n"
        "bow,,90,-1.5,,\nbow,0,90,-0.4,,600\ncorner,,,0.4,,1\nthickness,600,90,24.2,,\n"
    )
    told = true(tmp_path, text, "--grid", "5x5")
    z, t = np.array(told["face_mm"]), np.array(told["face_mm"]) - np.array(told["back_mm"])

    def fall(row):
        return z[row, 4] - z[row, 0]

    assert (fall(4) - fall(0)) * 600 / 180 == pytest.approx(9, abs=0.1)
    assert fall(4) - fall(2) == pytest.approx(1.4, abs=0.1)
    assert (z[2, 0] + z[2, 4]) / 2 - z[2, 2] == pytest.approx(1.2, abs=0.1)
    assert (z[0, 2] + z[4, 2]) / 2 - z[2, 2] == pytest.approx(-1.5, abs=0.1)
    assert (z[0, 2] + z[2, 2]) / 2 - z[1, 2] == pytest.approx(-0.4, abs=0.1)
    assert (z[0, 0] + z[4, 4]) / 2 - z[2, 2] == pytest.approx(0.4, abs=0.1)
    assert t[2, 2] == pytest.approx(24.2, abs=0.1)


def test_the_slab_is_that_of_the_surface_told(tmp_path):
    told = true(tmp_path, HEADER + "winding sticks,1200,,3,,\ncup,600,,1,,\n", "--grid", "49x17")
    x, y = np.meshgrid(np.arange(49.0), np.arange(17.0), indexing="ij")
    face, back = np.array(told["face_mm"]), np.array(told["back_mm"])
    possible = highs(x, y, face, back)
    assert possible - 1.5 < told["thickest_mm"] < possible  # what is promised errs on the careful side
    assert told["minimum_zone_mm"] == pytest.approx(-highs(x, y, face, face), abs=0.02)


def advised(tmp_path, text, size):
    """What is told of readings, without a plan."""
    (tmp_path / "readings.csv").write_text(text)
    length, width, thickness = map(float, size[1::2])
    readings = readings_csv.read(tmp_path / "readings.csv", length, width)
    knows = known(fit(Board(length, width), thickness, readings), readings).advice()
    return {"next": None if knows.reading is None else asked_of(Board(length, width), knows.reading), "why": knows.why}


def test_readings_as_advised_end_and_repeat_only_what_is_to_be_read_again(tmp_path):
    hidden = HiddenBoard(11)
    size = ["--length", str(hidden.length), "--width", str(hidden.width), "--thickness", str(hidden.typed())]
    rows, seen = [], set()
    for _ in range(31):
        text = HEADER + "".join(",".join(map(str, row)) + "\n" for row in rows)
        told = advised(tmp_path, text, size)
        asked = told["next"]
        if asked is None:
            break
        where = tuple(asked[name] for name in ("kind", "at", "across", "to"))
        assert (where in seen) == told["why"].startswith("read it again")
        seen.add(where)
        given = {k: v for k, v in asked.items() if k != "kind" and v is not None}
        value = hidden.read(asked["kind"], **given)
        cells = [asked["kind"], asked["at"], asked["across"], value, asked["stick"], asked["to"]]
        rows.append(["" if cell is None else cell for cell in cells])
    assert asked is None
    assert told["why"]
    assert len(rows) <= 30


def test_the_plan_is_carried_out_on_true_heights(tmp_path):
    hidden = HiddenBoard(2)
    size = ["--length", str(hidden.length), "--width", str(hidden.width), "--thickness", str(hidden.typed())]
    face, back = hidden.on(61, 21)
    for name, heights in (("face", face), ("back", back)):
        with open(tmp_path / f"{name}.csv", "w", newline="") as file:
            csv.writer(file).writerows(heights.tolist())
    given = ["--face", str(tmp_path / "face.csv"), "--back", str(tmp_path / "back.csv")]
    x, y = np.meshgrid(np.arange(61.0), np.arange(21.0), indexing="ij")
    possible = highs(x, y, face, back)
    line = HEADER + f"winding sticks,{hidden.length},,{hidden.read('winding sticks', hidden.length)},,\n"
    bare, told = true(tmp_path, line, size=size), true(tmp_path, line, *given, size=size)
    assert (told["face_mm"], told["error_mm"]) == (bare["face_mm"], bare["error_mm"])
    assert told["left_flatness_mm"] < 0.3
    assert 0.9 * possible < told["left_thickness_mm"] <= possible
    assert {"strokes", "minutes", "passes"} <= told.keys()
    for p in told["passes"]:  # a pass is a place
        assert p["place"]
        xs, ys = zip(*(at for zone in p["zones"] for at in zone["outline"]), strict=True)
        assert p["zone_mm"] == {"from": min(xs), "to": max(xs), "lower": min(ys), "upper": max(ys)}
        assert all(zone["times"] > 0 for zone in p["zones"])
    assert all(p["strokes"] > 0 and p["plane"] for p in told["passes"])
    assert told == true(tmp_path, line, *given, size=size)  # from a fixed seed
    thin = true(tmp_path, line, *given, "--wanted", str(round(possible - 3)), size=size)
    assert thin["left_thickness_mm"] == pytest.approx(round(possible - 3), abs=0.35)


def test_planes_that_are_given_are_those_that_are_used(tmp_path):
    more = ["--plane", "355 120 50 0.2 0.1", "--plane", "560 190 60 0.05 0"]
    told = true(tmp_path, HEADER + "winding sticks,1200,,4,,\n", *more)
    assert {p["plane"] for p in told["passes"]} == {"plane, 355 mm sole", "plane, 560 mm sole"}
    assert max(p["set_mm"] for p in told["passes"]) == 0.2


def test_rough_wood_is_planed_down_the_way_of_the_school(tmp_path):
    def ways(*more):
        told = true(tmp_path, HEADER + "winding sticks,1200,,4,,\n", *more)
        return {z["direction_deg"] for p in told["passes"] if p["until"] != "full shavings" for z in p["zones"]}

    assert ways() == {45.0, -45.0}
    assert ways("--way", "across") == {90.0}


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        ("winding sticks,1201,,1,,\n", "line 2: at 1201 lies off the board"),
        ("cup,600,,1,,\nbow,,181,1,,\n", "line 3: across 181 lies off the board"),
        ("thickness,600,90,0,,\n", "line 2: a thickness is more than zero"),
        ("cup,600,,much,,\n", 'line 2: value is not a number: "much"'),
        ("cup,600,,nan,,\n", "line 2: value is not a number"),
        ("cup,600,,,,\n", "line 2: cup has no value"),
        ("hollow,600,,1,,\n", 'line 2: "hollow" is no kind of reading'),
        ("corner,,,1,,3\n", "line 2: of a corner reading to is 1"),
        ("winding sticks,600,,1,,600\n", "line 2: the sticks lie at one place"),
        ("bow,600,90,1,,300\n", "line 2: a bow is read from at to a place beyond it"),
        ("cup,600,,1\n", "line 2: it has 4 cells"),
        ('"cup,600,,1,,\n', "line 2"),
        ("cup,600,,1,,\n" * 201, "line 202: there are more than 200 readings"),
    ],
)
def test_a_line_that_does_not_serve_is_named_and_nothing_is_written(tmp_path, capsys, lines, words):
    (tmp_path / "readings.csv").write_text(HEADER + lines)
    out = tmp_path / "out.json"
    assert main(["true", *SIZE, "--readings", str(tmp_path / "readings.csv"), "--out", str(out)]) == 2
    said = capsys.readouterr().err
    assert words in said
    assert said.count("\n") == 1
    assert not out.exists()


@pytest.mark.parametrize(
    ("more", "words"),
    [
        (["--grid", "1x9"], "--grid"),
        (["--grid", "9999x9999"], "--grid"),
        (["--wanted", "-3"], "--wanted"),
        (["--plane", "355 400 50 0.1 0"], "the iron lies behind the toe"),
        (["--plane", "355 120"], "--plane: a plane is five figures"),
        (["--face", "face.csv"], "of both faces"),
        (["--length", "0"], "--length"),
        (["--out", "readings.csv"], "--out and --readings are one file"),
    ],
)
def test_what_does_not_serve_is_told_in_a_sentence(tmp_path, capsys, monkeypatch, more, words):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "readings.csv").write_text(HEADER)
    (tmp_path / "face.csv").write_text("0,0\n0,0\n")
    assert main(["true", *SIZE, "--readings", "readings.csv", "--out", "out.json", *more]) == 2
    said = capsys.readouterr().err
    assert words in said
    assert said.count("\n") == 1
    assert not (tmp_path / "out.json").exists()
    assert (tmp_path / "readings.csv").read_text() == HEADER


def test_faces_of_two_sizes_or_through_each_other_are_refused(tmp_path, capsys, monkeypatch):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "readings.csv").write_text("")
    (tmp_path / "face.csv").write_text("0,0\n0,0\n")
    for back, words in (("-20,-20,-20\n" * 2, "one size"), ("-20,5\n-20,-20\n", "under the back")):
        (tmp_path / "back.csv").write_text(back)
        given = ["--face", "face.csv", "--back", "back.csv"]
        assert main(["true", *SIZE, "--readings", "readings.csv", *given, "--out", "out.json"]) == 2
        assert words in capsys.readouterr().err
    assert not (tmp_path / "out.json").exists()
