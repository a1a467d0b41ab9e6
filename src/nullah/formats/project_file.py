"""The project file, ``*.nullah``: one UTF-8 JSON document with a schema version.

Saves are atomic (temporary file, fsync, rename) and keep one previous copy beside the new one, with ``~`` after its name.
Opening runs nothing, follows no paths, and bounds sizes.
"""

from __future__ import annotations

import contextlib
import glob
import json
import os
import tempfile
import time
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from nullah.core.document import SCHEMA_VERSION, Project
from nullah.core.edit import check_species, sentence
from nullah.core.wood.species import UnknownSpecies
from nullah.formats.trouble import FileTrouble, why

LARGEST = 16 * 1024 * 1024  # bytes; a project of 500 boards is under one
DEEPEST = 200  # brackets within brackets; a tree of cuts is far shallower
SUFFIX = ".nullah"
PART = ".part"  # the end of a temporary file's name


def loads(text: str, name: str = "the file") -> Project:
    """A project from JSON text.

    Raises:
        FileTrouble: it is not JSON, not a project, too deep, or of a newer version; one sentence with where and why.
    """
    if _depth(text) > DEEPEST:
        raise FileTrouble(f"{name} is nested too deep to be a project.")
    try:
        raw: Any = json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as error:
        raise FileTrouble(f"{name} is not a whole project file: {error.msg.lower()} at line {error.lineno}.") from None
    except (ValueError, RecursionError) as error:
        raise FileTrouble(f"{name} is not a project file: {str(error)[:80]}.") from None
    if not isinstance(raw, dict) or "schema_version" not in raw:
        raise FileTrouble(f"{name} is not a Nullah project: it names no schema version.")
    version = raw["schema_version"]
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise FileTrouble(f"{name} has no schema version that Nullah knows.")
    if version > SCHEMA_VERSION:
        raise FileTrouble(
            f"{name} was saved by a newer Nullah (version {version}); this one reads up to {SCHEMA_VERSION}."
        )
    try:
        project = (
            Project.model_validate(_migrated(raw)) if version < SCHEMA_VERSION else Project.model_validate_json(text)
        )
        check_species(project)
    except ValidationError as error:
        raise FileTrouble(f"{name} cannot be read: {sentence(error)}") from None
    except UnknownSpecies as error:
        raise FileTrouble(f"{name} cannot be read: {error}") from None
    return project


def _migrated(raw: dict[str, Any]) -> dict[str, Any]:
    """An older file's content as the present version has it. Version 1 had no shifted dividers and no timer: both default."""
    return {**raw, "schema_version": SCHEMA_VERSION}


def _refuse_constant(constant: str) -> None:
    raise ValueError(f"{constant} is no number")


def _depth(text: str) -> int:
    """How deep brackets nest, strings aside; an upper bound that costs one pass."""
    deep = most = 0
    in_string = escaped = False
    for ch in text:
        if in_string:
            if escaped:
                escaped = False
            elif ch == "\\":
                escaped = True
            elif ch == '"':
                in_string = False
        elif ch == '"':
            in_string = True
        elif ch in "[{":
            deep += 1
            most = max(most, deep)
        elif ch in "]}":
            deep -= 1
    return most


def dumps(project: Project) -> str:
    """The project as JSON text, ending in a newline."""
    return project.model_dump_json(indent=1) + "\n"


def load(path: Path) -> Project:
    """The project in a file.

    Raises:
        FileTrouble: it cannot be read, is too large, or is not a project.
    """
    try:
        with path.open("rb") as file:
            data = file.read(LARGEST + 1)
    except OSError as error:
        raise why(error, path, "open") from None
    if len(data) > LARGEST:
        raise FileTrouble(f"{path.name} is larger than {LARGEST // 2**20} MiB; no project is.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FileTrouble(f"{path.name} is not text: byte {error.start} is not UTF-8.") from None
    return loads(text, path.name)


def save(project: Project, path: Path) -> None:
    """Write the project, whole or not at all; the file as it was stays beside it, with ``~`` after its name.

    Raises:
        FileTrouble: the disk is full, the folder may not be written; the old file is as it was.
    """
    write_whole(path, dumps(project).encode(), keep_previous=True)


def write_whole(path: Path, data: bytes, keep_previous: bool = False) -> None:
    """Write bytes to a temporary file beside ``path``, sync, and rename over it.

    Raises:
        FileTrouble: as ``save``.
    """
    temporary = ""
    try:
        _sweep(path)
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name[:60]}.", suffix=PART, dir=path.parent or Path("."))
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        if path.exists():
            os.chmod(temporary, path.stat().st_mode & 0o777)
            if keep_previous:
                previous = path.with_name(path.name + "~")
                with contextlib.suppress(FileNotFoundError):
                    previous.unlink()
                with contextlib.suppress(OSError):  # a file system without hard links keeps no previous copy
                    os.link(path, previous)
        else:
            umask = os.umask(0)
            os.umask(umask)
            os.chmod(temporary, 0o666 & ~umask)
        os.replace(temporary, path)
    except OSError as error:
        with contextlib.suppress(OSError):
            if temporary:
                os.unlink(temporary)
        raise why(error, path, "save") from None


def _sweep(path: Path) -> None:
    """Remove half-written temporary files that a killed program left beside ``path`` more than an hour ago."""
    with contextlib.suppress(OSError):
        for old in path.parent.glob(f".{glob.escape(path.name[:60])}.*{PART}"):
            if time.time() - old.stat().st_mtime > 3600:
                old.unlink()
