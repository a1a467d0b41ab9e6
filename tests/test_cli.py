"""The command line: figures alone on standard output, or exit code 2 and one sentence on standard error."""

import json
import os
import signal
import subprocess
import sys
import time

import numpy as np
import pytest

from nullah.cli import main
from nullah.core.calculators.reckon import CALCULATORS
from nullah.formats import project_file


def run(capsys, *words):
    code = main(list(words))
    out, err = capsys.readouterr()
    return code, out, err


def reckoned(capsys, *words):
    code, out, err = run(capsys, "reckon", *words)
    assert (code, err) == (0, "")
    return json.loads(out)


def test_emc(capsys):
    assert reckoned(capsys, "emc", "temperature=21.1C", "humidity=50%")["emc_percent"] == pytest.approx(9.2, abs=0.1)
    assert reckoned(capsys, "emc", "temperature=70F", "humidity=50") == pytest.approx(
        reckoned(capsys, "emc", "temperature=21.111111", "humidity=50%"), abs=1e-5
    )


def test_movement_shrinks_with_a_minus(capsys):
    got = reckoned(capsys, "movement", "species=black cherry", "width=200", "from=12", "to=8", "cut=flat")
    assert got["change_mm"] == pytest.approx(-200 * 0.00248 * 4, abs=0.005)
    quarter = reckoned(capsys, "movement", "species=Black Cherry", "width=200 mm", "from=12%", "to=8%", "cut=quarter")
    assert quarter["change_mm"] == pytest.approx(-200 * 0.00126 * 4, abs=0.005)
    rift = reckoned(capsys, "movement", "species=black cherry", "width=200", "from=12", "to=8", "cut=rift")
    assert rift["change_mm"] == pytest.approx((got["change_mm"] + quarter["change_mm"]) / 2, abs=1e-5)


def test_dovetail(capsys):
    got = reckoned(capsys, "dovetail", "width=150", "tails=4", "pin=6", "half_pin=9", "slope=1:7", "mating=18")
    assert (got["divider_step_mm"], got["tail_mm"], got["baseline_mm"]) == (34.5, 28.5, 18)
    assert got["slope_deg"] == pytest.approx(8.13, abs=0.005)
    assert got["socket_base_mm"] == pytest.approx(6 + 2 * 18 / 7, abs=1e-5)


def test_slab(capsys, tmp_path):
    path = tmp_path / "heights.csv"
    u = np.linspace(0, 1, 7)
    np.savetxt(path, 3 * np.outer(u, np.linspace(0, 1, 4)), delimiter=",")
    got = reckoned(capsys, "slab", f"heights={path}", "thickness=25")
    assert got["minimum_zone_mm"] == pytest.approx(1.5)
    assert got["thickest_mm"] == pytest.approx(23.5)


def test_diagonals_arc_and_taper(capsys):
    got = reckoned(capsys, "diagonals", "a=300", "b=200", "d1=361", "d2=360")
    assert got["corner_deg"] == pytest.approx(89.828, abs=0.001)
    assert got["push_mm"] == pytest.approx(0.5, abs=0.001)
    assert reckoned(capsys, "arc", "span=600", "rise=40") == {"radius_mm": 1145.0}
    assert reckoned(capsys, "taper", "length=500", "from=40", "to=20")["angle_deg"] == pytest.approx(2.2906, abs=1e-4)


def test_lengths_may_be_written_as_people_do(capsys):
    assert reckoned(capsys, "arc", "span=2'", "rise=1-1/2 in")["radius_mm"] == pytest.approx(1238.25)


def test_the_list_describes_every_calculator(capsys):
    listed = reckoned(capsys, "--list")
    assert {c["name"] for c in listed} == set(CALCULATORS)
    for c in listed:
        assert c["source"]
        assert c["inputs"]
        assert c["results"]


@pytest.mark.parametrize(
    "words",
    [
        ("nothing",),
        (),
        ("emc",),
        ("emc", "temperature=warm", "humidity=50"),
        ("emc", "temperature=20", "humidity=150"),
        ("emc", "temperature=nan", "humidity=50"),
        ("emc", "temperature=20", "humidity=50", "colour=red"),
        ("emc", "temperature=20", "temperature=21", "humidity=50"),
        ("emc", "temperature", "humidity=50"),
        ("movement", "species=brass", "width=200", "from=12", "to=8"),
        ("movement", "species=white ash", "width=-200", "from=12", "to=8"),
        ("movement", "species=white ash", "width=200", "from=12", "to=8", "cut=slab"),
        ("dovetail", "width=50", "tails=9", "pin=6", "half_pin=9", "mating=18"),
        ("dovetail", "width=150", "tails=4.5", "pin=6", "half_pin=9", "mating=18"),
        ("dovetail", "width=150", "tails=4", "pin=6", "half_pin=9", "mating=18", "slope=1:0"),
        ("slab", "heights=nowhere.csv", "thickness=25"),
        ("diagonals", "a=300", "b=200", "d1=900", "d2=1"),
        ("diagonals", "a=0", "b=200", "d1=900", "d2=1"),
        ("arc", "span=600", "rise=0"),
        ("arc", "span=1e400", "rise=3"),
        ("taper", "length=0", "from=1", "to=2"),
        ("--nonsense",),
    ],
)
def test_bad_input_is_refused_in_one_sentence(capsys, words):
    code, out, err = run(capsys, "reckon", *words)
    assert code == 2
    assert out == ""
    assert err.count("\n") == 1
    assert err.strip().endswith((".", ":"))


@pytest.mark.parametrize("table", ["", "1,2\n", "1\n2\n", "1,2\n3\n", "1,x\n3,4\n", "1,nan\n3,4\n"])
def test_tables_that_are_none(capsys, tmp_path, table):
    path = tmp_path / "h.csv"
    path.write_text(table)
    code, out, err = run(capsys, "reckon", "slab", f"heights={path}", "thickness=25")
    assert (code, out) == (2, "")
    assert err.startswith("h.csv")


def test_plan_export_and_demo_project(capsys, tmp_path):
    file = tmp_path / "demo.nullah"
    assert run(capsys, "demo-project", str(file))[0] == 0
    code, out, _ = run(capsys, "plan", str(file))
    assert code == 0
    assert json.loads(out)["project"] == project_file.load(file).name
    assert run(capsys, "export", str(file), "--to", str(tmp_path / "out"))[0] == 0
    assert (tmp_path / "out" / "shop-sheet.pdf").read_bytes().startswith(b"%PDF")


def test_without_a_display_the_window_says_so(capsys, monkeypatch):
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    code, out, err = run(capsys, "--demo")
    assert (code, out) == (2, "")
    assert "no display" in err


def test_files_that_are_no_projects(capsys, tmp_path):
    bad = tmp_path / "bad.nullah"
    bad.write_text("{")
    for words in (("plan", str(bad)), ("export", str(bad), "--to", str(tmp_path)), ("plan", str(tmp_path / "none"))):
        code, out, err = run(capsys, *words)
        assert (code, out) == (2, "")
        assert err.count("\n") == 1
    code, _, err = run(capsys, str(bad))
    assert code == 2
    assert "whole project file" in err


def test_an_endless_or_special_file_is_refused_at_once(capsys, tmp_path):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    for path in ("/dev/zero", str(pipe)):
        for words in (
            ("plan", path),
            ("export", path, "--to", str(tmp_path / "out")),
            ("reckon", "slab", f"heights={path}", "thickness=25"),
            ("demo-project", path),
            ("breakdown", "--boards", path, "--parts", path, "--out", str(tmp_path / "plan.json")),
        ):
            code, out, err = run(capsys, *words)
            assert (code, out, err.count("\n")) == (2, "", 1)
            assert ("there already" if words[0] == "demo-project" else "not a plain file") in err
    assert [p.name for p in tmp_path.iterdir()] == ["pipe"]


def test_export_does_not_write_over_the_project_it_reads(capsys, tmp_path):
    own = tmp_path / "cut-list.csv"
    assert run(capsys, "demo-project", str(own))[0] == 0
    before = own.read_bytes()
    code, out, err = run(capsys, "export", str(own), "--to", str(tmp_path))
    assert (code, out) == (2, "")
    assert "the project itself" in err
    assert own.read_bytes() == before
    assert [p.name for p in tmp_path.iterdir()] == ["cut-list.csv"]


def test_ctrl_c_ends_a_command_without_words(tmp_path):
    pair = tmp_path / "b.csv", tmp_path / "p.csv"
    pair[0].write_text("id,species,length,width,thickness\nx,ash,2000,200,20\n")
    pair[1].write_text("id,length,width,thickness,species\ny,500,90,20,ash\n")
    words = [
        "breakdown",
        "--boards",
        str(pair[0]),
        "--parts",
        str(pair[1]),
        "--out",
        str(tmp_path / "o"),
        "--seconds",
        "60",
    ]
    process = subprocess.Popen(
        [sys.executable, "-c", f"import sys; from nullah.cli import main; sys.exit(main({words!r}))"],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    time.sleep(3)
    process.send_signal(signal.SIGINT)
    out, err = process.communicate(timeout=20)
    assert (process.returncode, out, err) == (130, b"", b"")
    assert not (tmp_path / "o").exists()


def printed(words, **where):
    code = f"import sys; from nullah.cli import main; sys.exit(main({words!r}))"
    return subprocess.run([sys.executable, "-c", code], stderr=subprocess.PIPE, timeout=60, check=False, **where)


def test_a_full_disk_and_a_closed_pipe_end_a_command_without_a_traceback(tmp_path):
    with open("/dev/full", "wb") as full:
        done = printed(["reckon", "--list"], stdout=full)
    assert (done.returncode, done.stderr.decode().count("\n")) == (2, 1)
    assert b"no space left" in done.stderr.lower()
    read, write = os.pipe()
    os.close(read)
    done = printed(["reckon", "--list"], stdout=write)
    os.close(write)
    assert done.stderr == b""
