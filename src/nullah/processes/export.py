"""Everything for the shop written in a process of its own: sheets and pictures of a large piece take seconds, the window stays free."""

from __future__ import annotations

from nullah.core.planning.plan import plan
from nullah.formats import project_file
from nullah.formats.export import OLDER, export, left_before
from nullah.formats.trouble import FileTrouble, spoken
from nullah.processes.exporting import Exported, ExportTask
from nullah.processes.messages import answered


def exported(task: ExportTask) -> Exported:
    """Plan the project and write its sheets, all or none; what is to be said of it."""
    before = left_before(task.folder, ())
    try:
        written = export(plan(project_file.loads(task.project)), task.folder, project=task.path)
    except FileTrouble as trouble:
        return Exported(str(trouble), True)
    aside = len({p.name for p in before} - {p.name for p in written})
    older = f" {aside} of an export before went into the folder {OLDER}." if aside else ""
    return Exported(f"Written: {', '.join(map(spoken, written))}.{older}", False)


def main() -> int:
    """Read one task, do it, tell of it."""
    return answered(exported)
