"""What can go wrong with a file, as one exception with one sentence."""

from __future__ import annotations

import errno
from pathlib import Path

from nullah.core.values.plain_text import one_line


class FileTrouble(Exception):
    """A file that cannot be read or written as asked; the message is one clear sentence with where and why, on one line
    whatever the file has in its names."""

    def __init__(self, words: str) -> None:
        super().__init__(spoken(words))


def spoken(words: str | Path) -> str:
    """Words that have a file's name in them, or the name of a file, as text on one line: what is no UTF-8 in it becomes ``?``."""
    text = words.name if isinstance(words, Path) else words
    return one_line(text.encode("utf-8", "replace").decode(), marks=True)


def why(error: OSError, path: Path, doing: str) -> FileTrouble:
    """The sentence for an error of the operating system while ``doing`` (``open``, ``save``) to ``path``."""
    said = {
        errno.ENOSPC: "the disk is full",
        errno.EDQUOT: "the disk quota is used up",
        errno.EACCES: "you may not write there" if doing == "save" else "you may not read it",
        errno.EPERM: "it is not allowed there",
        errno.EROFS: "that disk is read-only",
        errno.ENOENT: "there is no such folder" if doing == "save" else "there is no such file",
        errno.EISDIR: "that is a folder",
        errno.ENOTDIR: "part of that path is not a folder",
        errno.ENAMETOOLONG: "the name is too long",
    }.get(error.errno or 0, (error.strerror or "of an error of the system").lower())
    return FileTrouble(f"Could not {doing} {path.name or path}: {said}. Nothing was changed.")
