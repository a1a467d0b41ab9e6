"""What goes between the window and the process that writes everything for the shop: the task by standard input, what is to be said of
it back by standard output, each packed as the planner's."""

from __future__ import annotations

from pathlib import Path

from nullah.core.values.frozen import frozen


@frozen
class ExportTask:
    """A project as its file has it, the folder that everything for the shop is put into, and the project's own file, which is not
    written over."""

    project: str
    folder: Path
    path: Path | None = None


@frozen
class Exported:
    """One sentence of what was written, or of why nothing was (``refused``)."""

    said: str
    refused: bool
