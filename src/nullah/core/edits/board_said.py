"""What is seen on a board, said in a line: ``loose knot at 512, 40, 30 x 27 on the back, 3 under``.

Also ``upper edge 0, 182; 1180, 170; 1690, 160`` (or ``upper edge straight``), ``thickness 22.6 at 60, 20``,
``rings 35 heart face pith lower``, ``grain rises right``, ``ends sealed``, ``reads 10.4 on 2026-03-24``, ``reference 9.1``,
``wood plum 4.3/9.1 hard`` (one of the maker's own, with what it shrinks radially and tangentially in percent). Places are told from
the left end and from the lower edge, lengths as people write them.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from nullah.core.document.project import DEFECT_KINDS, Project
from nullah.core.edits.board_readings import (
    bend_edge,
    board_of,
    caliper,
    change_fault,
    mark_fault,
    read_moisture,
    read_reference,
    straighten_edge,
)
from nullah.core.edits.edit import BadEdit, held, put_board
from nullah.core.values.measure import BadLength, marked, parse_length
from nullah.core.wood.species import UnknownSpecies, own_name

SAMPLE = f"loose knot at {marked(512)}, {marked(40)}, {marked(30)} x {marked(27)}"  # in the unit shown, once it is told
HOW = (
    f'Say what you see, like "{SAMPLE} on the back", "upper edge 0, {marked(182)}; {marked(1180)}, {marked(170)}", '
    f'"thickness {marked(22.6)} at {marked(60)}, {marked(20)}", "rings 35 heart face", "grain rises right", '
    '"reads 10.4" or "wood plum 4.3/9.1 hard".'
)
USUAL = 20.0  # mm each way: a fault whose size is not told
OTHER_WORDS = {
    "knot": "sound knot",
    "live knot": "sound knot",
    "tight knot": "sound knot",
    "dead knot": "loose knot",
    "crack": "check",
    "run out": "run-out",
    "runout": "run-out",
    "worm holes": "worm",
    "nail": "nail hole",
}
_KINDS = "|".join(sorted((re.escape(k) for k in (*DEFECT_KINDS, *OTHER_WORDS)), key=len, reverse=True))
_FAULT = re.compile(rf"^(?P<kind>{_KINDS})\b\s*(?:at|from)?\s*(?P<rest>.*)$", re.I)
_SIDE = re.compile(r",?\s*\b(?:on (?:the )?(?P<side>face|back)|(?P<through>right through|through))\b", re.I)
_UNDER = re.compile(r",\s*(?P<mm>[^,]+?)\s+under\b(?:\s+the\s+(?P<side>face|back))?", re.I)
_DEGREES = re.compile(r",?\s*(?P<n>\d+(?:[.,]\d+)?)\s*(?:\u00b0|deg(?:rees)?)", re.I)
_EDGE = re.compile(r"^(?P<which>upper|lower) edge\s*:?\s*(?P<rest>.*)$", re.I)
_THICK = re.compile(r"^(?:thickness|thick)\s+(?P<mm>.+?)\s+at\s+(?P<rest>.+)$", re.I)
_RINGS = re.compile(
    r"^rings\s+(?P<n>\d+(?:[.,]\d+)?)\s*(?:\u00b0|deg\w*)?(?:,?\s*heart\s+(?:to\s+(?:the\s+)?)?(?P<heart>face|back))?"
    r"(?:,?\s*pith\s+(?:to\s+(?:the\s+)?)?(?P<pith>upper|lower)(?:\s+edge)?)?(?:,?\s*(?P<away>.+?)\s+away)?$",
    re.I,
)
_GRAIN = re.compile(r"^(?:the )?grain\s+rises\s+(?:to\s+)?(?:the\s+)?(?P<end>left|right)(?:\s+end)?$", re.I)
_ENDS = re.compile(r"^ends\s+(?P<how>open|sealed)$", re.I)
_WOOD = re.compile(
    r"^wood\s+(?P<name>.+?),?\s+(?P<radial>\d+(?:[.,]\d+)?)\s*/\s*(?P<tangential>\d+(?:[.,]\d+)?)\s*%?,?\s+"
    r"(?P<ease>soft|middling|hard)$",
    re.I,
)
_READS = re.compile(r"^(?:reads|moisture)\s+(?P<n>\d+(?:[.,]\d+)?)\s*%?(?:\s+on\s+(?P<day>\S+))?$", re.I)
_REFERENCE = re.compile(r"^reference\s+(?:reads\s+)?(?P<n>\d+(?:[.,]\d+)?)\s*%?(?:\s+on\s+(?P<day>\S+))?$", re.I)


def said(project: Project, board_id: str, text: str, today: str) -> tuple[Project, str, str]:
    """The project with what a line says of a board, what that comes to in words, and the id of a fault that came of it, or "".

    Args:
        today: ISO 8601, the day of readings that name none.

    Raises:
        BadEdit: the line says nothing that is understood, or what it says cannot be.
    """
    words = " ".join(text.split()).rstrip(".")
    for pattern, act in _ACTS:
        match = pattern.match(words)
        if match is not None:
            try:
                return act(project, board_id, match, today)
            except BadLength as error:
                raise BadEdit(str(error)) from None
    raise BadEdit(HOW)


def _lengths(project: Project, text: str) -> list[float]:
    """Lengths between commas and the word x, mm."""
    pieces = [t for t in re.split(r",\s+|;\s*|\s+(?:x|by)\s+|\u00d7", text.strip(" ,")) if t.strip()]
    return [parse_length(t, project.units) for t in pieces]


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _fault(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    rest = match["rest"]
    more: dict[str, Any] = {}
    under, degrees = _UNDER.search(rest), _DEGREES.search(rest)
    if under is not None:
        more["depth"] = parse_length(under["mm"], project.units)
        rest = rest[: under.start()] + rest[under.end() :]
    if degrees is not None:
        more["angle"] = _number(degrees["n"])
        rest = rest[: degrees.start()] + rest[degrees.end() :]
    side = _SIDE.search(rest)
    where = "both"
    if side is not None:
        where = (side["side"] or "both").lower()
        rest = rest[: side.start()] + rest[side.end() :]
    elif under is not None:
        where = (under["side"] or "face").lower()
    figures = _lengths(project, rest)
    if len(figures) not in (2, 3, 4):
        raise BadEdit(
            f'Say where: "{match["kind"].lower()} at" its place from the left end and from the lower edge, then its size.'
        )
    x, y, long, wide = (*figures, *([USUAL, USUAL] if len(figures) == 2 else [figures[2]] if len(figures) == 3 else []))
    board = board_of(project, board_id)
    if x >= board.length or y >= board.width:
        raise BadEdit(f"{board.name} ends before that place.")
    kind = OTHER_WORDS.get(match["kind"].lower(), match["kind"].lower())
    after, number = mark_fault(project, board_id, kind, where, (x, y), (x + long, y + wide))
    if more:
        after = change_fault(after, board_id, number, **more)
    return after, f"{board.name}: {kind}", number


def _edge(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    which = match["which"].lower()
    name = board_of(project, board_id).name
    if match["rest"].strip().lower() in ("straight", ""):
        return straighten_edge(project, board_id, which), f"{name}: {which} edge straight", ""
    after = straighten_edge(project, board_id, which)
    for point in match["rest"].split(";"):
        figures = _lengths(project, point.replace(":", ", "))
        if len(figures) != 2:
            raise BadEdit(
                f'Write points of the edge as "{which} edge 0, {marked(182)}; {marked(1180)}, {marked(170)}": from the left end, then '
                "from the lower edge."
            )
        after = bend_edge(after, board_id, which, figures[0], figures[1])
    return after, f"{name}: {which} edge as drawn", ""


def _thick(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    figures = _lengths(project, match["rest"])
    if len(figures) != 2:
        raise BadEdit(
            f'Say where, like "thickness {marked(22.6)} at {marked(60)}, {marked(20)}": from the left end, then from the lower edge.'
        )
    mm = parse_length(match["mm"], project.units)
    return (
        caliper(project, board_id, figures[0], figures[1], mm),
        f"{board_of(project, board_id).name}: thickness read",
        "",
    )


def _rings(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    board = board_of(project, board_id)
    update: dict[str, Any] = {"ring_angle": _number(match["n"])}
    if match["heart"]:
        update["heart_side"] = match["heart"].lower()
    if match["pith"]:
        update["pith"] = match["pith"].lower()
    if match["away"]:
        update["pith_distance"] = parse_length(match["away"], project.units)
    return (
        put_board(project, held(board, **update)),
        f"{board.name}: rings {update['ring_angle']:g}\u00b0 to the face",
        "",
    )


def _grain(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    board, end = board_of(project, board_id), match["end"].lower()
    return put_board(project, held(board, rises=end)), f"{board.name}: its grain rises to the {end}", ""


def _ends(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    board, how = board_of(project, board_id), match["how"].lower()
    return put_board(project, held(board, ends=how)), f"{board.name}: its ends are {how}", ""


def _reads(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    percent = _number(match["n"])
    after = read_moisture(project, board_id, match["day"] or today, percent)
    return after, f"{board_of(project, board_id).name} reads {percent:g} %", ""


def _reference(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    percent, species = _number(match["n"]), board_of(project, board_id).species
    return (
        read_reference(project, species, match["day"] or today, percent),
        f"the reference of {species} reads {percent:g} %",
        "",
    )


def _wood(project: Project, board_id: str, match: re.Match[str], today: str) -> tuple[Project, str, str]:
    board = board_of(project, board_id)
    try:
        name = own_name(
            match["name"].strip(" ,"), _number(match["radial"]), _number(match["tangential"]), match["ease"].lower()
        )
    except UnknownSpecies as error:
        raise BadEdit(str(error)) from None
    return put_board(project, held(board, species=name)), f"{board.name} is of {name}", ""


_ACTS: tuple[tuple[re.Pattern[str], Callable[[Project, str, re.Match[str], str], tuple[Project, str, str]]], ...] = (
    (_EDGE, _edge),
    (_THICK, _thick),
    (_RINGS, _rings),
    (_GRAIN, _grain),
    (_ENDS, _ends),
    (_WOOD, _wood),
    (_READS, _reads),
    (_REFERENCE, _reference),
    (_FAULT, _fault),
)
