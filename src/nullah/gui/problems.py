"""What goes wrong and was not foreseen: told in one sentence, written to a file with where it happened, and the work goes on.

An edit is planned before it is taken (``Session.do``), so project and plan are in step whatever is raised.
"""

from __future__ import annotations

import sys
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import TracebackType

import platformdirs

LARGEST = 1024 * 1024  # bytes of the file; a fuller one is begun anew


def log_file() -> Path:
    """Where problems are written, in the user's own folder for logs."""
    return Path(platformdirs.user_log_dir("nullah")) / "problems.log"


def watch(say: Callable[[str, bool], object], path: Path | None = None) -> None:
    """From now on an exception that nobody caught is said in one sentence and written to ``path`` (the usual file)."""
    target = path or log_file()

    def told(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        where = written(target, "".join(traceback.format_exception(kind, error, trace)))
        say(f"That could not be done, by a fault of the program's own: nothing was changed. {where}", True)

    sys.excepthook = told


def written(path: Path, text: str) -> str:
    """Write a problem to the file; a sentence that says where it stands."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        mode = "w" if path.exists() and path.stat().st_size > LARGEST else "a"
        with path.open(mode, encoding="utf-8", errors="replace") as file:
            file.write(f"{datetime.now().astimezone().isoformat(timespec='seconds')}\n{text}\n")
    except OSError as error:
        print(text, file=sys.stderr)
        return f"It could not be written down either: {(error.strerror or '').lower()}."
    return f"What it was stands in {path.name}, in the folder {path.parent.name}."
