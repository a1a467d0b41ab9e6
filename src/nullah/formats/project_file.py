"""The project file, ``*.nullah``: one UTF-8 JSON document with a schema version.

Saves are atomic and keep one previous copy beside the new one, with ``~`` after its name. Opening runs nothing, follows no
paths, and bounds sizes.
"""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from nullah.core.document.project import SCHEMA_VERSION, Project
from nullah.core.document.refusals import sentence
from nullah.core.edits.edit import check_species
from nullah.core.wood.species import UnknownSpecies
from nullah.formats.by_piece import BY_PIECE, by_piece
from nullah.formats.migrations import migrated
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded, write_whole

LARGEST = 96 * 1024 * 1024  # bytes; a project of 500 boards is under one, its bench book at its fullest under 80
DEEPEST = 200  # brackets within brackets; a tree of cuts is far shallower
SUFFIX = ".nullah"


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
            Project.model_validate(_as_now(raw, version))
            if version < SCHEMA_VERSION
            else Project.model_validate_json(text)
        )
        check_species(project)
        project = migrated(project, version)
    except ValidationError as error:
        raise FileTrouble(f"{name} cannot be read: {sentence(error)}") from None
    except UnknownSpecies as error:
        raise FileTrouble(f"{name} cannot be read: {error}") from None
    return project


def _as_now(raw: dict[str, Any], version: int) -> dict[str, Any]:
    """An older file's content as the present version has it. Version 1 had no shifted dividers and no timer, version 3 no joints
    marked as cut: all default; up to version 9 marks were not kept with their piece."""
    return {**(by_piece(raw) if version < BY_PIECE else raw), "schema_version": SCHEMA_VERSION}


def _refuse_constant(constant: str) -> None:
    raise ValueError(f"{constant} is no number")


_STRING_OR_BRACKET = re.compile(r'"(?:[^"\\]|\\.)*+"?|[\[{]|[\]}]', re.S)


def _depth(text: str) -> int:
    """How deep brackets nest, strings aside; an upper bound that costs one pass."""
    deep = most = 0
    for match in _STRING_OR_BRACKET.finditer(text):
        mark = match[0][0]
        if mark in "[{":
            deep += 1
            most = max(most, deep)
        elif mark in "]}":
            deep -= 1
    return most


def dumps(project: Project) -> str:
    """The project as JSON text, ending in a newline."""
    return project.model_dump_json(indent=1) + "\n"


def load(path: Path) -> Project:
    """The project in a file.

    Raises:
        FileTrouble: it cannot be read, is too large, no plain file, or is not a project.
    """
    data = read_bounded(path, LARGEST)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FileTrouble(f"{path.name} is not text: byte {error.start} is not UTF-8.") from None
    return loads(text, path.name)


def save(project: Project, path: Path, keep_previous: bool = True, private: bool = False) -> None:
    """Write the project, whole or not at all; the file as it was stays beside it, with ``~`` after its name. ``private``: nobody but
    its owner may read it.

    Raises:
        FileTrouble: the disk is full, the folder may not be written, the project is larger than what is read again; the old
            file is as it was.
    """
    data = dumps(project).encode()
    if len(data) > LARGEST:
        raise FileTrouble(
            f"Could not save {path.name}: the project comes to {len(data) // 2**20} MiB, and {LARGEST // 2**20} can be read "
            "again. Take boards or lines of the bench book away first. Nothing was changed."
        )
    write_whole(path, data, keep_previous, private)
