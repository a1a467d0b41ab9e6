"""A program killed while saving leaves a whole file: the old one or the new one, never half of either."""

import os
import random
import signal
import subprocess
import sys
import time

from nullah.core.document import Project
from nullah.formats import project_file

SAVER = """
import sys
from pathlib import Path
from nullah.core import demo
from nullah.formats import project_file
project = demo.untouched()
path = Path(sys.argv[1])
print("ready", flush=True)
n = 0
while True:
    n += 1
    project_file.save(project.model_copy(update={"name": f"save {n}"}), path)
"""


def test_soak_killed_while_saving(tmp_path):
    runs = 40 if os.environ.get("NULLAH_SOAK") else 3
    chance = random.Random(11)
    path = tmp_path / "box.nullah"
    project_file.save(Project(name="first"), path)
    for _ in range(runs):
        saver = subprocess.Popen([sys.executable, "-c", SAVER, str(path)], stdout=subprocess.PIPE)
        assert saver.stdout.readline() == b"ready\n"
        time.sleep(chance.uniform(0.005, 0.12))
        saver.send_signal(signal.SIGKILL)
        saver.wait()
        saver.stdout.close()
        assert project_file.load(path).name.startswith(("first", "save"))
    previous = path.with_name(path.name + "~")
    if previous.exists():
        project_file.load(previous)
