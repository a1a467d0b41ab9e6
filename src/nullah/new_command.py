"""``nullah new``: a project of one piece from a kind's answers."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from nullah.core.document.project import Project
from nullah.core.pieces.kind import BadAnswer
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.formats import project_file
from nullah.formats.writing import must_be_new

HOW = "Write nullah new KIND key=value ... --out FILE"


def new(words: Sequence[str]) -> Path:
    """The project file of ``KIND [key=value ...] --out FILE``, written; what cannot be made leaves none.

    Raises:
        BadAnswer: no such kind, or an answer that does not serve, or a piece that cannot be made; one sentence.
        FileTrouble: the file is there already or cannot be written.
    """
    kind_name, written, target = _read(words)
    kind = KINDS.get(kind_name)
    if kind is None:
        raise BadAnswer(f'There is no kind "{kind_name[:40]}"; there are {", ".join(KINDS)}.')
    piece = kind.piece(written)
    project = Project(name=piece.name, pieces=(piece,))
    made = plan(project)
    if problem := made.piece.problem or made.joints.problem:
        raise BadAnswer(problem)
    must_be_new(target)
    project_file.save(project, target)
    return target


def _read(words: Sequence[str]) -> tuple[str, dict[str, str], Path]:
    """Kind, answers as written, and the file."""
    rest: list[str] = []
    targets: list[str] = []
    given = iter(words)
    for word in given:
        name, sep, value = word.partition("=")
        if name == "--out":
            targets.append(value if sep else next(given, ""))
        else:
            rest.append(word)
    if len(targets) > 1:
        raise BadAnswer(f"{HOW}; the file is given twice.")
    if not targets or not targets[0]:
        raise BadAnswer(f"{HOW}; the file is missing.")
    if not rest or rest[0].startswith("-"):
        raise BadAnswer(f"{HOW}; KIND is one of {', '.join(KINDS)}.")
    return rest[0], key_values(rest[1:]), Path(targets[0])


def key_values(words: Sequence[str]) -> dict[str, str]:
    """``key=value`` words by key.

    Raises:
        BadAnswer: a word is no such pair, or a key is given twice.
    """
    found: dict[str, str] = {}
    for word in words:
        key, sep, value = word.partition("=")
        if not sep or not key:
            raise BadAnswer(f'"{word[:40]}" is not key=value.')
        if key in found:
            raise BadAnswer(f"{key[:40]} is given twice.")
        found[key] = value
    return found
