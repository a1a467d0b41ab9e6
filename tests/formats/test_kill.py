"""The program killed at any moment of editing and saving: the file always opens, and at most ten seconds are missing."""

import os
import random
import signal
import subprocess
import sys
import time
from datetime import datetime

from nullah.core.document.project import Project
from nullah.formats import project_file
from nullah.gui.recovery import Recovery

SOAK = bool(os.environ.get("NULLAH_SOAK"))
RUNS, LONGEST = (200, 5.0) if SOAK else (2, 2.6)
MISSING_AT_MOST = 10.0  # seconds
AT_ONCE = 2

WORKER = """
import os, random, sys, time
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QCoreApplication, QTimer
from nullah.core.edits import edit
from nullah.formats import project_file
from nullah.gui import session as s
app = QCoreApplication([])
path, seed = Path(sys.argv[1]), int(sys.argv[2])
chance = random.Random(seed)
session = s.Session(project_file.load(path), path, path.parent / "kept")
print("ready", flush=True)

def work():
    session.do(edit.changed(session.project, name=f"{time.time():.3f}"), "an edit")
    if chance.random() < 0.15:
        session.save()

timer = QTimer()
timer.timeout.connect(work)
timer.start(chance.randrange(4, 40))
app.exec()
"""


def begun(folder, seed):
    folder.mkdir()
    path = folder / "box.nullah"
    project_file.save(Project(name=f"{time.time():.3f}"), path)
    process = subprocess.Popen([sys.executable, "-c", WORKER, str(path), str(seed)], stdout=subprocess.PIPE)
    return path, process


def found_again(path):
    """The latest work there is: the file's, or what was kept beside it; each name is the moment of its edit."""
    saved = project_file.load(path)
    kept = Recovery(path.parent / "kept").found(path, saved)
    return max(float(p.name) for p in (saved, *(k.project for k in kept)))


def test_soak_killed_while_editing_and_saving(tmp_path):
    chance = random.Random(11)
    missing = []
    for first in range(0, RUNS, AT_ONCE):
        pair = [begun(tmp_path / str(i), i) for i in range(first, min(first + AT_ONCE, RUNS))]
        for path, process in pair:
            assert process.stdout.readline() == b"ready\n"
            time.sleep(chance.uniform(0.0, LONGEST))
            killed = time.time()
            process.send_signal(signal.SIGKILL)
            process.wait()
            process.stdout.close()
            missing.append(killed - found_again(path))
            previous = path.with_name("box.nullah~")
            if previous.exists():
                project_file.load(previous)
    assert max(missing) < MISSING_AT_MOST
    print(f"{len(missing)} kills; at most {max(missing):.2f} s missing, at {datetime.now():%H:%M}")
