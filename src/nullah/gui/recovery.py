"""Nothing is lost: unsaved work is kept in a recovery file, found again after a crash, and a file changed outside is noticed.

Each session has a name of its own and holds a lock under it for as long as it lives, so that what a session left is told from
what one at work is writing; the lock goes with the process, however that ends.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import re
import secrets
from datetime import datetime
from pathlib import Path

from nullah.core.document.project import Project
from nullah.core.values.frozen import frozen
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble

RECOVERY = ".recovery"
LOCK = ".lock"
LONGEST_NAME = 190  # bytes of a project's name that a recovery file bears whole; a longer one is told by its digest
_LEFT = r"(?:\.left-\d+)*"


@frozen
class Recovered:
    """Work that was kept when the program ended without saving: the project, where it lies, and when it was written."""

    project: Project
    path: Path
    when: datetime


class Recovery:
    """The recovery file of one session, and what is known of the project's file. ``folder`` None: nothing is kept."""

    def __init__(self, folder: Path | None) -> None:
        self.folder = folder
        self.session = f"w{secrets.token_hex(6)}"
        self._lock: int | None = None
        self._stamp: tuple[int, int] | None = None

    # ---- the recovery file

    def place(self, path: Path | None) -> Path | None:
        """Where unsaved work lies: beside its file, or in the folder while it has none; under this session's own name."""
        if self.folder is None:
            return None
        if path is not None and path.exists():
            return path.with_name(f".{_stem(path)}.{self.session}{RECOVERY}")
        return self.folder / f"unsaved-{self.session}{project_file.SUFFIX}{RECOVERY}"

    def _away(self, path: Path | None) -> Path | None:
        """Where unsaved work lies when nothing can be written beside its file: in the folder, under a name made of the file's."""
        if self.folder is None or path is None:
            return None
        return self.folder / f"away-{_digest(path)}-{self.session}{project_file.SUFFIX}{RECOVERY}"

    def write(self, project: Project, path: Path | None) -> None:
        """Keep unsaved work, where nobody else reads it; in the folder where nothing can be written beside the project's file.

        Raises:
            FileTrouble: it cannot be written.
        """
        target = self.place(path)
        if target is None:
            return
        self._make_folder()
        self._hold_lock()
        try:
            project_file.save(project, target, keep_previous=False, private=True)
        except FileTrouble:
            away = self._away(path)
            if away is None:
                raise
            project_file.save(project, away, keep_previous=False, private=True)

    def write_left(self, project: Project) -> Path | None:
        """Work that is left for another project, kept as a project of its own in the folder; where, None where nothing is kept.

        Raises:
            FileTrouble: it cannot be written.
        """
        if self.folder is None:
            return None
        self._make_folder()
        moment = f"{datetime.now():%Y-%m-%dT%H%M%S}"
        names = (f"left-{moment}{again}" for again in ("", *(f"-{n}" for n in range(2, 10_000))))
        path = next(p for p in (self.folder / f"{name}{project_file.SUFFIX}" for name in names) if not p.exists())
        project_file.save(project, path, private=True)
        return path

    def _make_folder(self) -> None:
        assert self.folder is not None
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            why = (error.strerror or "").lower()
            raise FileTrouble(f"The folder {self.folder.name} for it cannot be made: {why}.") from None

    def remove(self, path: Path | None) -> None:
        """The work is saved: what was kept is no longer wanted."""
        for target in {self.place(path), self._away(path), self.place(None)}:
            if target is not None:
                with contextlib.suppress(OSError):  # not there, or not ours to remove: either way nothing is lost
                    target.unlink()

    def close(self) -> None:
        """This session is at its end: its lock is let go."""
        if self._lock is not None:
            with contextlib.suppress(OSError):
                self._lock_file(self.session).unlink()
            os.close(self._lock)
            self._lock = None

    # ---- what others left

    def found(self, path: Path | None, project: Project) -> tuple[Recovered, ...]:
        """Work kept by a session that ended without saving and is not running, newest first; what reads as ``project`` is not.

        Each file found is set aside under a name of its own, so that no session's recovery writes over it.
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
            out.append(Recovered(kept, aside if aside.exists() else file, when))
        return tuple(sorted(out, key=lambda k: k.when, reverse=True))

    def _candidates(self, path: Path | None) -> list[Path]:
        if self.folder is None:
            return []
        if path is not None:
            beside = rf"\.{re.escape(_stem(path))}(?:\.(?P<session>w[0-9a-f]{{12}}))?"
            away = rf"away-{_digest(path)}-(?P<session>w[0-9a-f]{{12}})\.nullah"
            return [*self._left_in(path.parent, beside), *self._left_in(self.folder, away)]
        # the second form is that of earlier versions, which named the process
        return self._left_in(self.folder, r"unsaved-(?:(?P<session>w[0-9a-f]{12})|\d+-\d+)\.nullah")

    def _left_in(self, folder: Path, head: str) -> list[Path]:
        """Recovery files of a folder whose names begin so, of sessions that run no more."""
        pattern = re.compile(f"{head}(?P<left>{_LEFT}){re.escape(RECOVERY)}")
        try:
            named = [(f, m) for f in folder.iterdir() if (m := pattern.fullmatch(f.name))]
        except OSError:
            return []
        return [f for f, m in named if m["left"] or not m["session"] or not self._at_work(m["session"])]

    def lay_aside(self, kept: Recovered) -> Path:
        """Work that is not wanted now, kept as a project of its own all the same; where.

        Raises:
            FileTrouble: it cannot be renamed; it is offered again another time.
        """
        stem = kept.path.name.removesuffix(RECOVERY).lstrip(".").replace(project_file.SUFFIX, "")
        target = kept.path.with_name(f"{stem}{project_file.SUFFIX}")
        try:
            kept.path.rename(target)
        except OSError as error:
            why = (error.strerror or "").lower()
            raise FileTrouble(f"{kept.path.name} could not be laid aside: {why}. It will be offered again.") from None
        return target

    def let_go(self, kept: Recovered) -> None:
        """Work that was brought back and is kept again by this session."""
        with contextlib.suppress(OSError):
            kept.path.unlink()

    # ---- which sessions are at work

    def _lock_file(self, session: str) -> Path:
        assert self.folder is not None
        return self.folder / f".{session}{LOCK}"

    def _hold_lock(self) -> None:
        """Hold this session's lock from its first writing on; where the disk knows no locks its work is offered too soon, not
        too late."""
        if self._lock is not None:
            return
        with contextlib.suppress(OSError):
            self._lock = os.open(self._lock_file(self.session), os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def _at_work(self, session: str) -> bool:
        """Whether a session still runs; the lock file of one that does not is swept away."""
        if session == self.session:
            return True
        file = self._lock_file(session)
        try:
            handle = os.open(file, os.O_RDWR | os.O_CLOEXEC)
        except OSError:
            return False
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return True
        finally:
            os.close(handle)
        with contextlib.suppress(OSError):
            file.unlink()
        return False

    # ---- the file itself

    def look(self, path: Path | None) -> None:
        """Remember how the file is now: just read, or just written."""
        self._stamp = _stamp(path)

    def changed_outside(self, path: Path | None) -> bool:
        """Whether the file is no longer what was last read or written here (gone counts as well)."""
        return path is not None and self._stamp is not None and _stamp(path) != self._stamp


def _digest(path: Path) -> str:
    """A file's whole name in few letters."""
    return hashlib.sha256(os.fsencode(os.path.realpath(path))).hexdigest()[:16]


def _stem(path: Path) -> str:
    """What of a project's name its recovery file bears: all of it, unless that leaves no room for the rest."""
    if len(os.fsencode(path.name)) <= LONGEST_NAME:
        return path.name
    return f"{path.name[:24]}.{hashlib.sha256(os.fsencode(path.name)).hexdigest()[:16]}"


def _stamp(path: Path | None) -> tuple[int, int] | None:
    try:
        info = path.stat() if path is not None else None
    except OSError:
        return (0, 0)
    return (info.st_mtime_ns, info.st_size) if info is not None else None
