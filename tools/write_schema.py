"""Writes the JSON Schema of the project file into docs/."""

import json
from pathlib import Path

from nullah.core.document.project import schema

if __name__ == "__main__":
    Path("docs/project.schema.json").write_text(json.dumps(schema(), indent=1) + "\n")
