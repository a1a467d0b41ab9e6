"""Files in and out: links followed, read-only respected, devices refused, nothing half-written left, all of several or none."""

import os
import subprocess
import sys
import time

import pytest

from nullah.core.document.project import Project
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded, write_all, write_whole


def test_a_link_stays_a_link_and_its_target_is_written(tmp_path):
    real, link = tmp_path / "far" / "box.nullah", tmp_path / "box.nullah"
    real.parent.mkdir()
    project_file.save(Project(name="old"), real)
    link.symlink_to(real)
    project_file.save(Project(name="new"), link)
    assert link.is_symlink()
    assert project_file.load(real).name == "new"
    assert project_file.load(real.with_name("box.nullah~")).name == "old"


def test_a_read_only_file_is_not_written_over(tmp_path):
    path = tmp_path / "box.nullah"
    project_file.save(Project(name="old"), path)
    path.chmod(0o444)
    with pytest.raises(FileTrouble, match="read-only"):
        project_file.save(Project(name="new"), path)
    assert project_file.load(path).name == "old"


def test_devices_and_pipes_are_neither_read_nor_replaced(tmp_path):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    null = tmp_path / "null"
    null.symlink_to(os.devnull)
    for path in (pipe, null):
        with pytest.raises(FileTrouble, match="a device or a pipe"):
            write_whole(path, b"x")
        with pytest.raises(FileTrouble, match="a device or a pipe"):
            read_bounded(path, 10)
    assert not os.path.isfile(os.devnull)


def test_the_previous_copy_is_there_at_every_moment(tmp_path, monkeypatch):
    path, seen = tmp_path / "box.nullah", []
    previous = path.with_name("box.nullah~")
    for name in ("first", "second"):
        project_file.save(Project(name=name), path)
    for call in ("replace", "link", "unlink"):
        real = getattr(os, call)

        def watched(*args, real=real, **kw):
            seen.append(previous.exists())
            real(*args, **kw)
            seen.append(previous.exists())

        monkeypatch.setattr(os, call, watched)
    project_file.save(Project(name="third"), path)
    assert len(seen) >= 6
    assert all(seen)
    monkeypatch.undo()
    assert project_file.load(previous).name == "second"


WRITER = """
import os, sys, time
from pathlib import Path
from nullah.formats.writing import write_whole
os.fsync = lambda handle: (print("half", flush=True), time.sleep(60))
write_whole(Path(sys.argv[1]), b"x" * 1000)
"""


def test_what_a_killed_writer_left_goes_and_what_another_is_writing_stays(tmp_path):
    pair = []
    for _ in range(2):
        process = subprocess.Popen(
            [sys.executable, "-c", WRITER, str(tmp_path / "other.nullah")], stdout=subprocess.PIPE
        )
        assert process.stdout.readline() == b"half\n"
        pair.append(process)
    assert len(list(tmp_path.glob(".*.nullah-part"))) == 2
    pair[0].kill()
    pair[0].wait()
    time.sleep(0.05)
    write_whole(tmp_path / "box.nullah", b"y")
    assert len(list(tmp_path.glob(".*.nullah-part"))) == 1  # that of the one that still writes
    pair[1].kill()
    pair[1].wait()
    write_whole(tmp_path / "box.nullah", b"y")
    assert [p.name for p in tmp_path.iterdir()] == ["box.nullah"]
    for process in pair:
        process.stdout.close()


def test_of_several_files_all_are_written_or_none(tmp_path):
    (tmp_path / "b").mkdir()
    with pytest.raises(FileTrouble, match=r"folder.*Nothing was changed"):
        write_all({tmp_path / "a": b"1", tmp_path / "b": b"2"})
    assert [p.name for p in tmp_path.iterdir()] == ["b"]


def test_what_went_before_a_failed_rename_is_named(tmp_path, monkeypatch):
    real = os.replace

    def second_fails(old, new):
        if os.path.basename(new) == "b":
            raise OSError(5, "Input/output error")
        real(old, new)

    monkeypatch.setattr(os, "replace", second_fails)
    with pytest.raises(FileTrouble, match="Written before that: a") as said:
        write_all({tmp_path / "a": b"1", tmp_path / "b": b"2"})
    assert "Nothing was changed" not in str(said.value)
    assert [p.name for p in tmp_path.iterdir()] == ["a"]
