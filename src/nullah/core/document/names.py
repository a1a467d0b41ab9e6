"""Names of what belongs to a piece: bare within it, in the project with the piece's number before them. Who holds a name knows whose it
is; nothing is read off the name.

Of piece 1 they are the same, so that older files and the marks on its wood keep their names.
"""

from __future__ import annotations

from collections.abc import Callable


def prefix(piece_id: str) -> str:
    """What the names of a piece's parts, joints and calls begin with in the project."""
    return "" if piece_id == "1" else f"{piece_id}."


def named(bare: str, piece_id: str) -> str:
    """The project's name of a piece's part, joint or call."""
    return f"{prefix(piece_id)}{bare}"


def bare(name: str, piece_id: str) -> str:
    """A piece's own name of its part, joint or call."""
    return name.removeprefix(prefix(piece_id))


def named_blank(blank: str, piece_id: str) -> str:
    """The project's name of a blank: of a part, ``lid``; of a stave of one, ``lid 2``; of one that leaves are resawn from, ``1+2``."""
    return _each(blank, prefix(piece_id).__add__)


def bare_blank(blank: str, piece_id: str) -> str:
    """A piece's own name of a blank."""
    return _each(blank, lambda part: bare(part, piece_id))


def call_of(what: str, name: str, piece_id: str) -> str:
    """The id of a call about a part, joint or group of a piece, given by its project's name."""
    return named(f"{what} {bare(name, piece_id)}", piece_id)


_OF_BLANKS = ("true", "resaw")  # what is done to a blank; all else is done to one part, joint or stage


def named_deed(what: str, of: str, piece_id: str) -> str:
    """The id of a step of a piece: what is done, and to which part, blank, joint or stage; ``finish``, ``finish 2`` of the whole."""
    name = named_blank(of, piece_id) if what in _OF_BLANKS else named(of, piece_id)
    return f"{what} {name}".rstrip(" .")


def bare_deed(step_id: str, what: str, piece_id: str) -> str:
    """To which part, blank, joint or stage a step of a piece is done, by the piece's own name; "" of the whole."""
    of = step_id.removeprefix(what).strip()
    if of == piece_id and prefix(piece_id):
        return ""
    return bare_blank(of, piece_id) if what in _OF_BLANKS else bare(of, piece_id)


def _each(blank: str, part: Callable[[str], str]) -> str:
    parts, space, stave = blank.partition(" ")
    return "+".join(map(part, parts.split("+"))) + space + stave
