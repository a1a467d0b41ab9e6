"""``nullah breakdown``: tables in, a plan out; a bad table gets one sentence with file, line and reason, and nothing is written."""

import contextlib
import csv
import io
import json
import os
import random
import signal
import xml.etree.ElementTree as ET

import pytest
from pypdf import PdfReader

from nullah import breakdown_command
from nullah.cli import main
from nullah.core.layout.planner import Planner

BOARDS = "id,species,length,width,thickness,qty\nlong,white ash,2400,200,25,2\nshort,American elm,900,150,20,1\n"
PARTS = (
    "width,length,id,qty,thickness,species,defects\n"
    "90,600,side,4,22,white ash,none\n"
    '3 5/8",12",end,3,22,white ash,\n'
    "140,400,lid,2,18,American elm,any\n"
)
DEFECTS = "board,kind,face,x,y,length,width\nlong,knot,both,500,60,40,30\nlong#2,pith,A,0,90,2400,10\nshort,knot,,100,20,50,50\n"


def run(tmp_path, *more, boards=BOARDS, parts=PARTS, defects=DEFECTS, work="600"):
    for name, text in (("boards", boards), ("parts", parts), ("defects", defects)):
        (tmp_path / f"{name}.csv").write_bytes(text if isinstance(text, bytes) else text.encode())
    words = ["breakdown", "--boards", tmp_path / "boards.csv", "--parts", tmp_path / "parts.csv"]
    words += ["--defects", tmp_path / "defects.csv", "--work", work, "--out", tmp_path / "plan.json", *more]
    return main([str(w) for w in words])


def overlap(a, b):
    return (
        min(a["x"] + a["length"], b["x"] + b["length"]) - max(a["x"], b["x"]) > 1e-3
        and min(a["y"] + a["width"], b["y"] + b["width"]) - max(a["y"], b["y"]) > 1e-3
    )


def test_a_plan_is_made_and_stands_up(tmp_path, capsys):
    extra = [("--csv", tmp_path / "p.csv"), ("--svg", tmp_path / "p.svg"), ("--pdf", tmp_path / "p.pdf")]
    assert run(tmp_path, *(w for pair in extra for w in pair)) == 0
    assert "100.00 %" in capsys.readouterr().out
    plan = json.loads((tmp_path / "plan.json").read_text())
    assert plan["unplaced"] == []
    got = {(p["part"], p["copy"]) for p in plan["placements"]}
    assert got == {("side", i) for i in (1, 2, 3, 4)} | {("end", i) for i in (1, 2, 3)} | {("lid", 1), ("lid", 2)}
    sizes = {"side": (600, 90), "end": (304.8, 92.075), "lid": (400, 140)}
    boards = {"long#1": (2400, 200), "long#2": (2400, 200), "short": (900, 150)}
    faults = {
        "long#1": [{"x": 500, "y": 60, "length": 40, "width": 30}],
        "long#2": [{"x": 500, "y": 60, "length": 40, "width": 30}, {"x": 0, "y": 90, "length": 2400, "width": 10}],
    }
    for p in plan["placements"]:
        assert (p["length"], p["width"]) == pytest.approx(sizes[p["part"]], abs=1e-3)
        long, wide = boards[p["board"]]
        assert p["x"] >= 0
        assert p["y"] >= 0
        assert p["x"] + p["length"] <= long + 1e-3
        assert p["y"] + p["width"] <= wide + 1e-3
        assert p["part"] == "lid" or not any(overlap(p, f) for f in faults.get(p["board"], []))
        assert not any(q is not p and q["board"] == p["board"] and overlap(p, q) for q in plan["placements"])
    assert plan["bound"]["placed_area_share_at_most"] == 1.0
    assert len(plan["cuts"]) == plan["sawing"]["cuts"] > 8
    table = list(csv.DictReader(io.StringIO((tmp_path / "p.csv").read_text())))
    assert {(r["part"], int(r["copy"])) for r in table} == got
    assert ET.parse(tmp_path / "p.svg").getroot().tag.endswith("svg")
    words = "".join(page.extract_text() for page in PdfReader(tmp_path / "p.pdf").pages)
    assert "crosscut at" in words
    assert "side 1" in words


def test_kerf_keeps_parts_apart_and_the_allowance_is_left_on(tmp_path):
    assert run(tmp_path, "--kerf", "3", "--allowance", "10") == 0
    plan = json.loads((tmp_path / "plan.json").read_text())
    for p in plan["placements"]:
        for q in plan["placements"]:
            if q is not p and q["board"] == p["board"]:
                wider = {
                    "x": p["x"] - 2.99,
                    "y": p["y"] - 2.99,
                    "length": p["length"] + 5.98,
                    "width": p["width"] + 5.98,
                }
                assert not overlap(wider, q)
    assert {p["length"] for p in plan["placements"] if p["part"] == "side"} == {610.0}


def test_the_same_work_gives_the_same_plan(tmp_path):
    texts = []
    for _ in range(2):
        assert run(tmp_path, "--seed", "7") == 0
        texts.append((tmp_path / "plan.json").read_text())
    assert texts[0] == texts[1]


def test_what_has_no_place_is_named_with_why(tmp_path, capsys):
    parts = "id,qty,length,width,thickness,species,defects\nbeam,1,2600,90,22,white ash,any\n"
    parts += "slab,1,300,90,40,white ash,any\nx,1,9,9,9,lime,any\n"
    assert run(tmp_path, parts=parts) == 0
    plan = json.loads((tmp_path / "plan.json").read_text())
    whys = {u["part"]: u["why"] for u in plan["unplaced"]}
    assert "2600" in whys["beam"]
    assert "40 thick" in whys["slab"]
    assert "no board of lime" in whys["x"]
    assert plan["bound"]["placed_area_share_at_most"] < 1e-5
    assert "3 parts have none" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("table", "text", "said"),
    [
        ("boards", "", "boards.csv, line 1: the table is empty"),
        ("boards", "id,species,length,width\n", "boards.csv, line 1: the header lacks thickness"),
        ("boards", "id,id,species,length,width,thickness\n", "boards.csv, line 1: the header names id twice"),
        ("boards", BOARDS.splitlines()[0], "boards.csv, line 2: there is no board"),
        ("boards", BOARDS + "x,ash,12,q,3,1\n", 'boards.csv, line 4: width: "q" is not a length'),
        ("boards", BOARDS + "x,ash,0,5,3,1\n", 'boards.csv, line 4: length is "0"'),
        ("boards", BOARDS + "long#1,ash,9,5,3,1\n", "boards.csv, line 4: the board long#1 is there twice"),
        ("boards", BOARDS + "x,ash,9,5,3,1.5\n", 'boards.csv, line 4: qty is "1.5"'),
        ("boards", BOARDS + "x,ash,9,5,3,1,1\n", "boards.csv, line 4: 7 cells under a header of 6"),
        ("boards", b"id,species\xff\n", "boards.csv, line 1: this is not UTF-8"),
        ("boards", BOARDS + '"x,ash', "boards.csv, line 4: this is no CSV"),
        ("parts", PARTS + "1,1,side,1,1,ash,none\n", "parts.csv, line 5: the part side is there twice"),
        ("parts", PARTS + "1,1,z,1,1,ash,some\n", 'parts.csv, line 5: defects is "some"'),
        ("parts", PARTS + "1,1,,1,1,ash,none\n", "parts.csv, line 5: id is empty"),
        ("parts", PARTS + "1,nan,z,1,1,ash,none\n", "parts.csv, line 5: length"),
        ("defects", DEFECTS + "none,knot,both,0,0,1,1\n", "defects.csv, line 5: there is no board none"),
        ("defects", DEFECTS + "short,knot,C,0,0,1,1\n", 'defects.csv, line 5: face is "c"'),
        ("defects", DEFECTS + "short,knot,A,900,0,1,1\n", "defects.csv, line 5: the fault lies off board short"),
    ],
)
def test_a_bad_table_gets_one_sentence_and_nothing_is_written(table, text, said, tmp_path, capsys):
    assert run(tmp_path, "--svg", tmp_path / "p.svg", **{table: text}) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert said in err
    assert len(err.strip().splitlines()) == 1
    assert not (tmp_path / "plan.json").exists()
    assert not (tmp_path / "p.svg").exists()


def test_a_table_that_is_not_there(tmp_path, capsys):
    words = [
        "breakdown",
        "--boards",
        str(tmp_path / "no.csv"),
        "--parts",
        str(tmp_path / "no.csv"),
        "--out",
        str(tmp_path / "o"),
    ]
    assert main(words) == 2
    assert "Could not open no.csv: there is no such file" in capsys.readouterr().err


def test_soak_mutated_tables(tmp_path, capsys):
    rng = random.Random(4)
    texts = {"boards": BOARDS, "parts": PARTS, "defects": DEFECTS}
    alphabet = list(b'0123456789,,,.\n"#-/ abcdefA\xff\x00')
    for _ in range(6000 if os.environ.get("NULLAH_SOAK") else 60):
        table = rng.choice(list(texts))
        data = bytearray(texts[table].encode())
        for _ in range(rng.randint(1, 4)):
            at = rng.randrange(len(data))
            if rng.random() < 0.4:
                del data[at : at + rng.randint(1, 8)]
            else:
                data[at:at] = bytes(rng.choices(alphabet, k=rng.randint(1, 4)))
            data = data or bytearray(b" ")
        (tmp_path / "plan.json").unlink(missing_ok=True)
        code = run(tmp_path, **{table: bytes(data)}, work="3")
        err = capsys.readouterr().err
        assert code in (0, 2)
        assert (tmp_path / "plan.json").exists() == (code == 0)
        if code == 2:
            assert len(err.strip().splitlines()) == 1
            assert f"{table}.csv, line " in err or "defects.csv, line" in err


@pytest.mark.parametrize(
    "more", [("--csv", "plan.json"), ("--svg", "boards.csv"), ("--pdf", "./parts.csv"), ("--csv", "defects.csv")]
)
def test_no_file_is_written_that_is_read_or_written_besides(tmp_path, more, monkeypatch, capsys):
    monkeypatch.chdir(tmp_path)
    assert run(tmp_path, *more) == 2
    assert "are one file" in capsys.readouterr().err
    assert (tmp_path / "boards.csv").read_text() == BOARDS
    assert not (tmp_path / "plan.json").exists()


def test_an_interrupt_that_is_swallowed_ends_the_search_all_the_same(tmp_path, monkeypatch):
    """As one is that comes while a library is compiled."""
    boards, parts = tmp_path / "b.csv", tmp_path / "p.csv"
    boards.write_text("id,species,length,width,thickness\nx,ash,2000,200,20\n")
    parts.write_text("id,length,width,thickness,species\n" + "".join(f"y{n},{500 + n},90,20,ash\n" for n in range(9)))
    turns = []
    advance = Planner.advance

    def swallows(self, *given):
        turns.append(given)
        if len(turns) == 3:
            with contextlib.suppress(KeyboardInterrupt):
                signal.raise_signal(signal.SIGINT)
        return advance(self, *given)

    monkeypatch.setattr(Planner, "advance", swallows)
    before = signal.getsignal(signal.SIGINT)
    words = ["--boards", str(boards), "--parts", str(parts), "--out", str(tmp_path / "o"), "--seconds", "60"]
    with pytest.raises(KeyboardInterrupt):
        breakdown_command.main(words)
    assert len(turns) == 3
    assert signal.getsignal(signal.SIGINT) is before
    assert not (tmp_path / "o").exists()
