"""What `make install` puts into the user's folders: the entry, the icon, the type of project files."""

import configparser
import os
import subprocess
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest

from nullah.formats import project_file

TOP = Path(__file__).parent.parent


def test_the_menu_entry_names_what_there_is():
    # Desktop Entry Specification 1.5: required keys, and lists that end in a semicolon; from memory
    entry = configparser.RawConfigParser()
    entry.optionxform = str
    entry.read(TOP / "share" / "nullah.desktop")
    found = entry["Desktop Entry"]
    assert found["Type"] == "Application"
    assert {"Name", "Exec", "Icon", "MimeType", "Categories"} <= set(found)
    assert found["Exec"].endswith("%f")
    assert all(found[k].endswith(";") for k in ("Categories", "Keywords", "MimeType"))


def test_the_type_of_a_project_is_told_by_its_name_and_given_to_the_program():
    ns = {"m": "http://www.freedesktop.org/standards/shared-mime-info"}
    kind = ET.parse(TOP / "share" / "nullah.xml").getroot().find("m:mime-type", ns)
    assert kind.find("m:glob", ns).get("pattern") == f"*{project_file.SUFFIX}"
    assert f"MimeType={kind.get('type')};" in (TOP / "share" / "nullah.desktop").read_text()


def test_the_icon_is_a_picture_with_a_size():
    root = ET.parse(TOP / "src" / "nullah" / "gui" / "icons" / "nullah.svg").getroot()
    assert root.get("viewBox") == "0 0 128 128"
    assert len(list(root.iter())) > 8


@pytest.mark.skipif(not os.environ.get("NULLAH_SOAK"), reason="makes an environment and installs into it: make soak")
def test_soak_it_installs_runs_and_is_taken_away(tmp_path):
    env = {
        **os.environ,
        "HOME": str(tmp_path),
        "XDG_DATA_HOME": str(tmp_path / "data"),
        "NULLAH_BIN": str(tmp_path / "bin"),
    }
    subprocess.run(["bash", "tools/install.sh"], cwd=TOP, env=env, check=True)
    command = tmp_path / "bin" / "nullah"
    said = subprocess.run([command, "--version"], env=env, check=True, capture_output=True, text=True).stdout
    assert said.startswith("nullah ")
    once = subprocess.run([command, "--demo", "--once"], env={**env, "QT_QPA_PLATFORM": "offscreen"}, timeout=60)
    assert once.returncode == 0
    entry = tmp_path / "data" / "applications" / "nullah.desktop"
    assert f"Exec={command} %f" in entry.read_text()
    subprocess.run(["bash", "tools/install.sh", "remove"], cwd=TOP, env=env, check=True)
    left = [p for p in (tmp_path / "data").rglob("*nullah*") if p.is_file()]
    assert left == []
    assert not command.exists()
