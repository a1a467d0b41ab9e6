"""Everything for the shop written in a process of its own: sheets and pictures of a large piece take seconds, the window stays free."""

from __future__ import annotations

import os
import sys

from nullah.core.plan import plan
from nullah.exporting import Exported, ExportTask
from nullah.formats import project_file
from nullah.formats.export import export
from nullah.formats.trouble import FileTrouble, spoken
from nullah.planning import packed, unpacked


def exported(task: ExportTask) -> Exported:
    """Plan the project and write its sheets, all or none; what is to be said of it."""
    try:
        written = export(plan(project_file.loads(task.project)), task.folder, project=task.path)
    except FileTrouble as trouble:
        return Exported(str(trouble), True)
    return Exported(f"Written: {', '.join(map(spoken, written))}.", False)


def main() -> int:
    """Read one task, do it, tell of it; whatever a library prints goes to where errors go."""
    with os.fdopen(os.dup(1), "wb") as out:
        os.dup2(2, 1)
        (task, *_), _ = unpacked(sys.stdin.buffer.read())
        assert isinstance(task, ExportTask)
        out.write(packed(exported(task)))
    return 0
