"""What goes wrong at the command line is one sentence: no words of the program's insides, nothing half written."""

import os
import resource
import subprocess
import sys

import pytest

from nullah import demo
from nullah.formats import project_file
from nullah.formats.writing import write_all

RUN = "import sys; from nullah.cli import main; sys.exit(main(sys.argv[1:]))"
NULLAH = [sys.executable, "-m", "nullah.cli"]


@pytest.fixture(scope="module")
def box(tmp_path_factory):
    path = tmp_path_factory.mktemp("box") / "box.nullah"
    project_file.save(demo.box(), path)
    return path


def told(words, **more):
    """The one line that a command is refused with."""
    done = subprocess.run([*NULLAH, *map(str, words)], capture_output=True, text=True, timeout=60, **more)
    assert done.returncode == 2, done
    assert done.stderr.count("\n") == 1, done.stderr
    assert "Traceback" not in done.stderr
    assert "usage" not in done.stderr
    return done.stderr


def test_what_is_missing_or_not_known_is_one_line(box):
    for words in (["plan"], ["export", box], ["breakdown"], ["true", "--x"], ["--nonsense"], ["a", "b", "c"]):
        assert "--help" in told(words)
    assert "is to have a name" in told(["export", box, "--to", ""])


def test_figures_that_nothing_has_are_refused(tmp_path):
    (tmp_path / "h.csv").write_text("0,1e308\n1,2\n")
    assert "a height lies between" in told(["reckon", "slab", f"heights={tmp_path / 'h.csv'}", "thickness=25"])
    (tmp_path / "r.csv").write_text("kind,at,across,value,stick\ncup,100,0,0.2,0\n")
    sizes = ["--length", "500", "--width", "100", "--thickness", "20", "--wanted", "25"]
    words = told(["true", *sizes, "--readings", tmp_path / "r.csv", "--out", tmp_path / "o.json"])
    assert "wood comes off and does not go on" in words


def test_a_folder_that_is_gone_a_closed_output_and_no_display(box, tmp_path):
    gone = tmp_path / "gone"
    script = f"import os, sys; os.chdir({str(gone)!r}); os.rmdir({str(gone)!r}); {RUN}"
    for words in (["export", str(box), "--to", "out"], ["new", "practice_joint", "--out", "x.nullah"]):
        gone.mkdir(exist_ok=True)
        done = subprocess.run([sys.executable, "-c", script, *words], capture_output=True, text=True, timeout=60)
        assert (done.returncode, done.stderr.count("\n")) == (2, 1), done.stderr
        assert "no longer there" in done.stderr
    for words in (["plan", str(box)], ["kinds"], ["reckon", "--list"]):
        line = f'exec "$0" -m nullah.cli {" ".join(words)} >&-'
        done = subprocess.run(["sh", "-c", line, sys.executable], capture_output=True, text=True, timeout=60)
        assert (done.returncode, done.stderr.count("\n")) == (2, 1), done.stderr
        assert "standard output is closed" in done.stderr
    env = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")} | {
        "DISPLAY": ":7077"
    }
    assert "There is no display" in told(["--once"], env=env)


def test_what_another_export_left_is_put_aside_and_told(box, tmp_path):
    out = tmp_path / "out"
    out.mkdir()
    for name in ("full-size-77.dxf", "full-size-77.svg", "notes.txt", "my-full-size-77.svg"):
        (out / name).write_text("of another project")
    done = subprocess.run([*NULLAH, "export", str(box), "--to", str(out)], capture_output=True, text=True, timeout=120)
    assert done.returncode == 0
    assert "2 files of an export before" in done.stderr
    assert {p.name for p in (out / "older").iterdir()} == {"full-size-77.dxf", "full-size-77.svg"}
    assert {"notes.txt", "my-full-size-77.svg"} <= {p.name for p in out.iterdir()}


def test_hundreds_of_files_are_written_at_a_low_limit_of_open_files(tmp_path):
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    resource.setrlimit(resource.RLIMIT_NOFILE, (256, hard))
    try:
        write_all({tmp_path / f"{n}.dxf": b"x" * n for n in range(500)})
    finally:
        resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
    assert sorted(int(p.stem) for p in tmp_path.iterdir()) == list(range(500))


def test_an_export_that_cannot_be_written_leaves_no_folder(box, tmp_path):
    """The disk is full as far as files of that size go."""
    limited = "import resource; resource.setrlimit(resource.RLIMIT_FSIZE, (4000, 4000)); import signal; "
    script = f"{limited}signal.signal(signal.SIGXFSZ, signal.SIG_IGN); {RUN}"
    out = tmp_path / "new"
    words = ["export", str(box), "--to", str(out)]
    done = subprocess.run([sys.executable, "-B", "-c", script, *words], capture_output=True, text=True, timeout=120)
    assert done.returncode == 2, done.stderr
    assert not out.exists()
