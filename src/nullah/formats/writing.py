"""Files in and out: reading is bounded and of plain files alone, writing is whole or not at all.

A write goes to a temporary file beside the target, held by a lock while it is written, is synced and renamed over it. What a
killed program left half-written is known by its name, which no other program gives, and by nobody holding its lock; the next write to
that folder sweeps it away.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import os
import re
import secrets
import stat
import time
from collections.abc import Mapping
from pathlib import Path

from nullah.formats.trouble import FileTrouble, spoken, why

PART = ".nullah-part"  # the end of a temporary file's name
_OURS = re.compile(r"\..+\.[0-9a-f]{16}" + re.escape(PART), re.S)  # no other program names its files so
LOCK = "lock"  # in a folder of temporary files, the file that is locked for as long as they are written
MANY = 100  # files: more are not each kept open
STEM = 24  # letters of the target's name that a temporary file's bears: at four bytes each there is room for the rest


def read_bounded(path: Path, most: int) -> bytes:
    """The bytes of a plain file.

    Raises:
        FileTrouble: it is no plain file (a device, a pipe, a folder), is larger than ``most`` bytes, or cannot be read.
    """
    try:
        handle = os.open(
            path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC
        )  # a pipe nobody writes to does not hold us up
        with os.fdopen(handle, "rb") as file:
            kind = os.fstat(file.fileno()).st_mode
            if stat.S_ISDIR(kind):
                raise IsADirectoryError(errno.EISDIR, "that is a folder")
            if not stat.S_ISREG(kind):
                raise FileTrouble(f"Could not open {path.name or path}: it is a device or a pipe, not a plain file.")
            data = file.read(most + 1)
    except OSError as error:
        raise why(error, path, "open") from None
    except ValueError:  # a name with a NUL
        raise FileTrouble(f"Could not open {str(path)[:60]!r}: that is no file's name.") from None
    if len(data) > most:
        raise FileTrouble(f"{path.name} is larger than {most // 2**20} MiB; that is more than is read.")
    return data


def same_file(one: Path, other: Path) -> bool:
    """Whether two paths are one file, by whatever names, there or not yet."""
    with contextlib.suppress(OSError):
        if os.path.samefile(one, other):
            return True
    return os.path.realpath(one) == os.path.realpath(other)


def must_be_new(path: Path) -> None:
    """Nothing where there is no file, folder or link of that name.

    Raises:
        FileTrouble: there is one.
    """
    if os.path.lexists(path):
        raise FileTrouble(f"{spoken(path)} is there already; give another name. Nothing was changed.")


def write_whole(path: Path, data: bytes, keep_previous: bool = False, private: bool = False) -> None:
    """Write bytes to a temporary file beside ``path``, sync, and rename over it; a link is followed to what it points at.
    ``private``: nobody but its owner may read it.

    Raises:
        FileTrouble: the disk is full, the folder or the file may not be written, the target is a device or a pipe; all is as
            it was.
    """
    write_all({path: data}, keep_previous, private)


def write_all(files: Mapping[Path, bytes], keep_previous: bool = False, private: bool = False) -> None:
    """As ``write_whole``, several files: all are written beside their targets before the first takes its place.

    Raises:
        FileTrouble: as ``write_whole``; where a rename fails after others went well, the sentence names what was written.
    """
    ready: list[tuple[Path, Path, str]] = []  # as named, where it is, the temporary file
    renamed: list[str] = []
    with contextlib.ExitStack() as held:
        try:
            targets = {path: _target(path) for path in files}
            folders = {target.parent for target in targets.values()}
            beside = held.enter_context(_beside(folders.pop())) if len(files) > MANY and len(folders) == 1 else None
            for path, data in files.items():
                target = targets[path]
                writing = _temporary(path, target, data, private, beside)
                if beside is None:
                    ready.append((path, target, held.enter_context(writing)))
                    continue
                with writing as name:  # the lock of the folder it is in stands for its own
                    ready.append((path, target, name))
            for path, target, temporary in ready:
                with _told(path):
                    if keep_previous and target.exists():
                        _keep_previous(target)
                    os.replace(temporary, target)
                renamed.append(path.name)
        except FileTrouble as trouble:
            if not renamed:
                raise
            words = str(trouble).removesuffix("Nothing was changed.").rstrip()
            raise FileTrouble(f"{words} Written before that: {', '.join(renamed)}.") from None
        finally:
            for _, _, temporary in ready:
                with contextlib.suppress(OSError):  # it has taken its target's place
                    os.unlink(temporary)
    for folder in {target.parent for _, target, _ in ready}:
        _sweep(folder)


@contextlib.contextmanager
def _told(path: Path):  # type: ignore[no-untyped-def]  # a context manager
    """An error of the system as the sentence for ``path``."""
    try:
        yield
    except OSError as error:
        raise why(error, path, "save") from None


def _target(path: Path) -> Path:
    """Where a write to ``path`` goes: what a link points at. Refused where that is no plain file, or a read-only one."""
    with _told(path):
        try:
            target = path
            target = Path(os.path.realpath(path))
            kind = target.stat().st_mode
        except FileNotFoundError:
            return target
        except ValueError:
            raise FileTrouble(f"Could not save {str(path)[:60]!r}: that is no file's name.") from None
    name = path.name or path
    if stat.S_ISDIR(kind):
        raise FileTrouble(f"Could not save {name}: that is a folder. Nothing was changed.")
    if not stat.S_ISREG(kind):
        raise FileTrouble(f"Could not save {name}: it is a device or a pipe, not a plain file. Nothing was changed.")
    if not kind & 0o222:
        raise FileTrouble(f"Could not save {name}: it is read-only. Nothing was changed.")
    return target


@contextlib.contextmanager
def _beside(parent: Path):  # type: ignore[no-untyped-def]  # a context manager
    """A folder for temporary files in another, its lock held: of many files not each is kept open."""
    folder = parent / f".many.{secrets.token_hex(8)}{PART}"
    with _told(folder):
        folder.mkdir(0o700)
        handle = os.open(folder / LOCK, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
        fcntl.flock(handle, fcntl.LOCK_SH)
    try:
        yield folder
    finally:
        _remove_folder(folder)
        os.close(handle)


def _remove_folder(folder: Path) -> None:
    """Remove a folder of temporary files with what is in it; there are no folders within."""
    with contextlib.suppress(OSError):
        for left in folder.iterdir():
            _remove(str(left))
        folder.rmdir()


@contextlib.contextmanager
def _temporary(path: Path, target: Path, data: bytes, private: bool, beside: Path | None = None):  # type: ignore[no-untyped-def]  # a context manager
    """A temporary file beside the target, or in a folder beside it, with the data synced into it and its lock held."""
    name = str((beside or target.parent) / f".{target.name[:STEM]}.{secrets.token_hex(8)}{PART}")
    with _told(path):
        handle = os.open(name, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC | os.O_NOFOLLOW, 0o600)
    with contextlib.ExitStack() as undone:
        undone.callback(os.close, handle)
        unused = undone.enter_context(contextlib.ExitStack())
        unused.callback(_remove, name)
        with _told(path):
            fcntl.flock(handle, fcntl.LOCK_SH)
            left = memoryview(data)
            while left:
                left = left[os.write(handle, left) :]
            os.fchmod(handle, 0o600 if private else _mode(target))
            os.fsync(handle)
        yield name
        unused.pop_all()  # it has its place


def _remove(name: str) -> None:
    with contextlib.suppress(OSError):
        os.unlink(name)


def _mode(target: Path) -> int:
    try:
        return target.stat().st_mode & 0o777
    except FileNotFoundError:
        umask = os.umask(0)
        os.umask(umask)
        return 0o666 & ~umask


def _keep_previous(target: Path) -> None:
    """The file as it is, kept with ``~`` after its name; the one kept before is there until this one is."""
    previous = target.with_name(target.name + "~")
    aside = str(target.with_name(f".{target.name[:STEM]}.{secrets.token_hex(8)}{PART}"))
    try:
        with contextlib.suppress(FileNotFoundError):
            os.unlink(aside)
        os.link(target, aside)
        os.replace(aside, previous)
    except OSError as error:
        if error.errno not in (errno.EPERM, errno.ENOTSUP, errno.ENOSYS, errno.EMLINK, errno.ENAMETOOLONG):
            raise
    finally:
        with contextlib.suppress(OSError):  # two names of one file: the rename did nothing
            os.unlink(aside)


def _sweep(folder: Path) -> None:
    """Remove half-written temporary files whose writers are gone: nobody holds their lock."""
    with contextlib.suppress(OSError):
        for old in folder.iterdir():
            if _OURS.fullmatch(old.name):
                _remove_if_left(old)


def _remove_if_left(old: Path) -> None:
    with contextlib.suppress(OSError):
        many = stat.S_ISDIR(os.lstat(old).st_mode)
        handle = os.open(old / LOCK if many else old, os.O_RDWR | os.O_NONBLOCK | os.O_CLOEXEC | os.O_NOFOLLOW)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            if many:
                _remove_folder(old)
            elif os.fstat(handle).st_nlink and not _just_made(handle):
                old.unlink()
        finally:
            os.close(handle)


def _just_made(handle: int) -> bool:
    """Whether a file is so young that its writer may not be done with it though nobody holds its lock: empty still, or a second name
    of the file that is kept."""
    info = os.fstat(handle)
    return (info.st_size == 0 or info.st_nlink > 1) and time.time() - info.st_ctime < 10
