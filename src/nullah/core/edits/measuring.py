"""The wood speaks: what is measured of a part, a board or the whole, written in a line, takes the place of what was planned."""

from __future__ import annotations

import re

from nullah.core.document.marks import Measured
from nullah.core.document.names import bare
from nullah.core.document.pieces import OPENING, WHOLE
from nullah.core.document.project import Board, Project
from nullah.core.edits.edit import BadEdit, held, logged, made, put_board, with_mark
from nullah.core.pieces.part import Part
from nullah.core.values.measure import BadLength, parse_positive, show_length

_SAID = re.compile(
    r"^\s*(?P<who>.+?)\s+(?P<what>length|long|width|wide|height|high|thickness|thick)\s*[=:]?\s*(?P<mm>\S.*)$", re.I
)
_DIAGONAL = re.compile(r"^\s*diagonal\s+(?P<n>[12])\s*[=:]?\s+(?P<mm>\S.*)$", re.I)
_DIMENSION = {"long": "length", "wide": "width", "high": "width", "height": "width", "thick": "thickness"}
_MOISTURE = re.compile(r"^\s*(?P<who>.+?)\s+(?:moisture|mc|reads)\s*[=:]?\s*(?P<percent>[\d.,]+)\s*%?\s*$", re.I)
HOW = (
    'Write a part or a board, what was measured and how much, like "A thickness 17.4" or "Board 2 moisture 10.5"; '
    'of a joint that is cut "corner A-B pin 6.4" or "corner A-B gap 0.3".'
)


def measured(project: Project, parts: tuple[Part, ...], text: str, when: str = "") -> Project:
    """The project with what the wood says in place of what was planned.

    ``A thickness 17.4``; ``divider thickness 9.6`` (all dividers); ``opening width 101.4`` (as built, for what is fitted
    to it); ``diagonal 1 361``; ``Board 2 width 168``, ``Board 2 moisture 10.5``. A later measurement of the same thing replaces the
    earlier one; the log keeps both.

    Raises:
        BadEdit: the text names no part, no dimension or no length.
    """
    moist = _MOISTURE.match(text)
    if moist is not None:
        return _board_measured(
            project, _board_named(project, moist["who"]), "moisture", _percent(moist["percent"]), when
        )
    diagonal = _DIAGONAL.match(text)
    said = diagonal or _SAID.match(text)
    if said is None:
        raise BadEdit(HOW)
    try:
        mm = parse_positive(said["mm"], project.units, "a measured size")
    except BadLength as error:
        raise BadEdit(str(error)) from None
    if diagonal:
        targets, dimension = [(project.hand, WHOLE)], f"diagonal {said['n']}"
    else:
        word = said["what"].lower()
        dimension = _DIMENSION.get(word, word)
        if _names_a_board(project, parts, said["who"]):
            return _board_measured(project, _board_named(project, said["who"]), dimension, mm, when)
        targets = _named(said["who"], parts, project.hand)
        if targets == [(project.hand, OPENING)] and dimension == "thickness":
            raise BadEdit("The opening has a length and a width, no thickness.")
    after = project
    for piece_id, name in targets:
        after = with_mark(after, piece_id, made(Measured, part=name, dimension=dimension, value=mm))
    return logged(
        after,
        "measured",
        f"{' '.join(said['who'].split()) if not diagonal else 'box'} {dimension} "
        f"{show_length(mm, project.units, project.denominator).text}",
        when,
    )


def _plain(who: str) -> str:
    return " ".join(who.split()).lower()


def _names_a_board(project: Project, parts: tuple[Part, ...], who: str) -> bool:
    """Whether the words name a board and no part."""
    name = _plain(who)
    if any(name in (p.id.lower(), p.name.lower()) for p in parts):
        return False
    return any(name in (b.name.lower(), b.id.lower()) for b in project.boards)


def _board_named(project: Project, who: str) -> Board:
    name = _plain(who)
    found = [b for b in project.boards if b.name.lower() == name] or [b for b in project.boards if b.id.lower() == name]
    if len(found) == 1:
        return found[0]
    if found:
        raise BadEdit(f'There are {len(found)} boards called "{who.strip()[:30]}"; give them names of their own first.')
    known = ", ".join(b.name for b in project.boards[:8])
    raise BadEdit(f'There is no board "{who.strip()[:30]}" here; there are {known or "none yet"}.')


def _percent(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise BadEdit(f'"{text[:20]}" is not a number of percent.') from None


def _board_measured(project: Project, board: Board, dimension: str, value: float, when: str) -> Project:
    after = put_board(project, held(board, **{dimension: value}))
    unit = f"{value:g} %" if dimension == "moisture" else show_length(value, project.units, project.denominator).text
    return logged(after, "measured", f"{board.name} {dimension} {unit}", when)


def _named(who: str, parts: tuple[Part, ...], hand: str) -> list[tuple[str, str]]:
    """The parts that words name, each as (its piece, its own name there), those of the piece in hand first."""
    name = " ".join(who.split()).lower().removeprefix("part ")
    if name in ("opening", "inside"):
        return [(hand, OPENING)]
    mine = [p for p in parts if p.piece == hand]
    found = [p for p in mine if name in (bare(p.id, hand).lower(), p.name.lower().rpartition(": ")[2])]
    found = found or [
        p for p in parts if name in (p.id.lower(), p.name.lower(), p.name.lower().removeprefix(p.id.lower() + " "))
    ]
    among = mine or parts
    if not found and name in ("divider", "dividers"):
        found = [p for p in among if bare(p.group, p.piece) == "dividers"]
    if not found and name in ("side", "sides", "wall", "walls"):
        found = [p for p in among if p.in_order]
    if not found:
        groups = [bare(p.group, p.piece) for p in among]
        found = [
            p for p, group in zip(among, groups, strict=True) if group and name in (group, group.removesuffix("s"))
        ]
    if not found:
        known = ", ".join(dict.fromkeys(p.group if p.group == "dividers" else p.id for p in parts))
        raise BadEdit(f'There is no part "{who.strip()[:30]}" here; there are {known or "none yet"} and the opening.')
    return [(p.piece, bare(p.id, p.piece)) for p in found]
