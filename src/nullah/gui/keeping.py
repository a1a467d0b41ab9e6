"""Nothing is lost: unsaved work is kept in a recovery file, found again after a crash, and a file changed outside is noticed."""

from __future__ import annotations

import contextlib
import os
import re
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from nullah.core.document import Project
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble

RECOVERY = ".recovery"


@dataclass(frozen=True)
class Kept:
    """Work that was kept when the program ended without saving: the project, where it lies, and when it was written."""

    project: Project
    path: Path
    when: datetime


class Keeping:
    """The recovery file of one session, and what is known of the project's file. ``folder`` None: nothing is kept."""

    def __init__(self, folder: Path | None) -> None:
        self.folder = folder
        self._started = datetime.now().strftime("%H%M%S%f")
        self._stamp: tuple[int, int] | None = None

    # ---- the recovery file

    def place(self, path: Path | None) -> Path | None:
        """Where unsaved work lies: beside its file, or in the folder under this process's name while it has none."""
        if self.folder is None:
            return None
        if path is not None:
            return path.with_name(f".{path.name}{RECOVERY}")
        return self.folder / f"unsaved-{os.getpid()}-{self._started}{project_file.SUFFIX}{RECOVERY}"

    def write(self, project: Project, path: Path | None) -> None:
        """Keep unsaved work.

        Raises:
            FileTrouble: it cannot be written.
        """
        target = self.place(path)
        if target is None:
            return
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise FileTrouble(f"{target.parent.name} cannot be made: {(error.strerror or '').lower()}.") from None
        project_file.write_whole(target, project_file.dumps(project).encode())

    def remove(self, path: Path | None) -> None:
        """The work is saved: what was kept is no longer wanted."""
        target = self.place(path)
        if target is not None:
            with contextlib.suppress(OSError):  # not there, or not ours to remove: either way nothing is lost
                target.unlink()

    def found(self, path: Path | None, project: Project) -> tuple[Kept, ...]:
        """Work kept by a session that ended without saving and is not running, newest first; what reads as ``project`` is not.

        Each file found is set aside under a name of its own, so that this session's keeping does not write over it.
        """
        out = []
        for file in self._candidates(path):
            try:
                kept, when = project_file.load(file), datetime.fromtimestamp(file.stat().st_mtime)
            except (FileTrouble, OSError):
                continue  # half a file was never written here; another's is left where it lies
            if kept == project:
                with contextlib.suppress(OSError):
                    file.unlink()
                continue
            aside = file
            if ".left-" not in file.name:
                aside = file.with_name(f"{file.name.removesuffix(RECOVERY)}.left-{file.stat().st_mtime_ns}{RECOVERY}")
                with contextlib.suppress(OSError):
                    file.rename(aside)
            out.append(Kept(kept, aside if aside.exists() else file, when))
        return tuple(sorted(out, key=lambda k: k.when, reverse=True))

    def _candidates(self, path: Path | None) -> list[Path]:
        if self.folder is None:
            return []
        try:
            if path is not None:
                stem = f".{path.name}"
                near = path.parent.iterdir()
                return [f for f in near if f.name.startswith(stem) and f.name.endswith(RECOVERY)]
            return [f for f in self.folder.iterdir() if f.name.endswith(RECOVERY) and not _running(f.name)]
        except OSError:
            return []

    def lay_aside(self, kept: Kept) -> Path:
        """Work that is not wanted now, kept as a project of its own all the same; where."""
        target = kept.path.with_name(kept.path.name.removesuffix(RECOVERY).lstrip("."))
        target = target.with_name(f"{target.name.replace(project_file.SUFFIX, '')}{project_file.SUFFIX}")
        with contextlib.suppress(OSError):
            kept.path.rename(target)
        return target

    def let_go(self, kept: Kept) -> None:
        """Work that was brought back and is kept again by this session."""
        with contextlib.suppress(OSError):
            kept.path.unlink()

    # ---- the file itself

    def look(self, path: Path | None) -> None:
        """Remember how the file is now: just read, or just written."""
        self._stamp = _stamp(path)

    def changed_outside(self, path: Path | None) -> bool:
        """Whether the file is no longer what was last read or written here (gone counts as well)."""
        return path is not None and self._stamp is not None and _stamp(path) != self._stamp


def _stamp(path: Path | None) -> tuple[int, int] | None:
    try:
        info = path.stat() if path is not None else None
    except OSError:
        return (0, 0)
    return (info.st_mtime_ns, info.st_size) if info is not None else None


def _running(name: str) -> bool:
    """Whether the process whose recovery file this is still runs."""
    match = re.match(r"unsaved-(\d+)-", name)
    if match is None or ".left-" in name:
        return False
    pid = int(match[1])
    if pid == os.getpid():
        return True
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True
