"""Writes the demo as a project file into the package: the window opens it as it opens any project."""

from nullah import demo
from nullah.cli import DEMO
from nullah.formats import project_file

if __name__ == "__main__":
    DEMO.parent.mkdir(exist_ok=True)
    project_file.save(demo.project(), DEMO, keep_previous=False)
