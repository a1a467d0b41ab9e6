"""Edits of what is read off a board: faults, edges, thickness, moisture, a photograph. Lengths in mm."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from functools import lru_cache
from typing import Any

from nullah.core.document.project import (
    Board,
    BoardPhoto,
    Defect,
    LengthOnPhoto,
    MoistureReading,
    Project,
    Reading,
    Reference,
)
from nullah.core.edits.edit import BadEdit, changed, fresh_id, held, made, new_board_id, put_board
from nullah.core.surface.perspective import Point, convex
from nullah.core.surface.photo_fit import Known, PhotoFit, fit
from nullah.core.wood.species import own

LEAST = 1.0  # mm: a fault is drawn no smaller


def board_of(project: Project, board_id: str) -> Board:
    """The board of that id.

    Raises:
        BadEdit: it is no longer here.
    """
    found = next((b for b in project.boards if b.id == board_id), None)
    if found is None:
        raise BadEdit("That board is no longer here.")
    return found


def mark_fault(
    project: Project, board_id: str, kind: str, side: str, a: tuple[float, float], b: tuple[float, float]
) -> tuple[Project, str]:
    """The project with a fault on a board, between two corners from its left end and lower edge, mm; and the fault's id.

    Args:
        side: ``both``, ``face`` or ``back``.

    Raises:
        BadEdit: there is no such board, it takes no more faults, or the corners lie off it.
    """
    board = board_of(project, board_id)
    x0, x1 = sorted(min(max(0.0, p[0]), board.length) for p in (a, b))
    y0, y1 = sorted(min(max(0.0, p[1]), board.width) for p in (a, b))
    x0, y0 = min(x0, board.length - LEAST), min(y0, board.width - LEAST)
    number = fresh_id("f", {d.id for d in board.defects})
    size = {"length": round(max(LEAST, x1 - x0), 1), "width": round(max(LEAST, y1 - y0), 1)}
    fault = made(Defect, id=number, kind=kind, x=round(max(0.0, x0), 1), y=round(max(0.0, y0), 1), face=side, **size)
    return put_board(project, held(board, defects=(*board.defects, fault))), number


def change_fault(project: Project, board_id: str, fault_id: str, **update: Any) -> Project:
    """The project with fields of a fault replaced.

    Raises:
        BadEdit: it is no longer here, or a value is out of bounds.
    """
    board = board_of(project, board_id)
    if all(d.id != fault_id for d in board.defects):
        raise BadEdit("That fault is no longer here.")
    faults = tuple(held(d, **update) if d.id == fault_id else d for d in board.defects)
    return put_board(project, held(board, defects=faults))


def drop_fault(project: Project, board_id: str, fault_id: str) -> Project:
    """The project without a fault of a board."""
    board = board_of(project, board_id)
    return put_board(project, held(board, defects=tuple(d for d in board.defects if d.id != fault_id)))


def bend_edge(project: Project, board_id: str, which: str, x: float, y: float) -> Project:
    """The project with one more point on an edge of a board; a straight edge gets its two ends first.

    Args:
        which: ``upper`` or ``lower``. x, y: from the left end and from the lower edge of the rectangle round the board, mm.

    Raises:
        BadEdit: the point lies off the board, or it takes no more.
    """
    board = board_of(project, board_id)
    past = board.width if which == "upper" else 0.0
    points = getattr(board, which) or ((0.0, past), (board.length, past))
    new = (min(max(0.0, round(x, 1)), board.length), min(max(0.0, round(y, 1)), board.width))
    same = [p for p in points if abs(p[0] - new[0]) >= LEAST]  # a point at the same place is moved
    edges: dict[str, Any] = {which: tuple(sorted((*same, new)))}
    if which == "upper" and board.upper_edge == "sawn":
        edges["upper_edge"] = "wany"
    return put_board(project, held(board, **edges))


def straighten_edge(project: Project, board_id: str, which: str) -> Project:
    """The project with an edge of a board straight again; ``which``: upper or lower."""
    return put_board(project, held(board_of(project, board_id), **{which: ()}))


def caliper(project: Project, board_id: str, x: float, y: float, mm: float) -> Project:
    """The project with the thickness of a board as read at a place, mm from its left end and lower edge; it replaces one read there.

    Raises:
        BadEdit: it is no thickness, or the place is off the board.
    """
    board = board_of(project, board_id)
    if not (0 <= x <= board.length and 0 <= y <= board.width):
        raise BadEdit(f"{board.name} ends before that place.")
    if mm <= 0:
        raise BadEdit("A thickness is more than nothing.")
    new = made(Reading, target=board.id, kind="thickness", at=round(x, 1), across=round(y, 1), value=mm)
    kept = (
        r for r in project.readings if (r.target, r.kind, r.at, r.across) != (new.target, new.kind, new.at, new.across)
    )
    return changed(project, readings=(*kept, new))


def own_woods(project: Project) -> tuple[str, ...]:
    """The woods of the maker's own that the project's boards are of, each once."""
    return tuple(dict.fromkeys(b.species for b in project.boards if own(b.species) is not None))


def copy_board(project: Project, board_id: str) -> tuple[Project, str]:
    """The project with a second board like one, all that was seen on it but no reading of its surface or its moisture by day; and the
    new board's id.

    Raises:
        BadEdit: there is no such board, or there are as many as a project takes.
    """
    board = board_of(project, board_id)
    new = new_board_id(project)
    name = fresh_id(board.name.rstrip("0123456789 ") or "Board", {b.name for b in project.boards})
    return put_board(project, held(board, id=new, name=name, sawn=False, moistures=())), new


# ---- moisture


def read_moisture(project: Project, board_id: str, day: str, percent: float) -> Project:
    """The project with a board's moisture as read on a day (ISO 8601); the latest day's is what the board has. It replaces one of that
    day.

    Raises:
        BadEdit: there is no such board, the day is none, or the percentage.
    """
    board = board_of(project, board_id)
    new = made(MoistureReading, day=day, percent=percent)
    log = tuple(sorted((*(m for m in board.moistures if m.day != day), new), key=lambda m: m.day))
    return put_board(project, held(board, moistures=log, moisture=log[-1].percent))


def drop_moisture(project: Project, board_id: str, day: str) -> Project:
    """The project without a day's reading of a board's moisture; the latest that is left is what the board has."""
    board = board_of(project, board_id)
    log = tuple(m for m in board.moistures if m.day != day)
    return put_board(project, held(board, moistures=log, moisture=log[-1].percent if log else board.moisture))


def read_reference(project: Project, species: str, day: str, percent: float) -> Project:
    """The project with what a piece of that species, that has always lived in the room, reads on a day.

    Raises:
        BadEdit: the day is none, or the percentage.
    """
    new = made(Reference, species=species, day=day, percent=percent)
    return changed(project, references=(*(r for r in project.references if (r.species, r.day) != (species, day)), new))


# ---- a photograph


def put_photo(project: Project, board_id: str, side: str, name: str, jpeg: str, wide: int, tall: int) -> Project:
    """The project with a picture of a side of a board, not squared yet, in place of the one that was there.

    Args:
        jpeg: a small copy as base64 text; wide, tall: its pixels.

    Raises:
        BadEdit: it is larger than a project keeps, or there are too many.
    """
    board_of(project, board_id)
    new = made(BoardPhoto, board=board_id, side=side, name=name, jpeg=jpeg, wide=wide, tall=tall)
    return changed(project, board_photos=(*_other_photos(project, board_id, side), new))


def square_photo(project: Project, board_id: str, side: str, corners: Sequence[tuple[float, float]]) -> Project:
    """The project with the corners of the board told on a picture: upper left, upper right, lower right, lower left, pixels.

    Raises:
        BadEdit: there is no such picture, or these are no four corners in that order.
    """
    photo = photo_of(project, board_id, side)
    if photo is None:
        raise BadEdit(f"There is no picture of that board's {side} yet.")
    new = held(photo, corners=tuple(corners))
    if len(new.corners) != 4 or not convex(new.corners):
        raise BadEdit("Point at the four corners in turn: upper left, upper right, lower right, lower left.")
    return changed(project, board_photos=(*_other_photos(project, board_id, side), new))


def point_on_edge(project: Project, board_id: str, side: str, pixel: Point) -> Project:
    """The project with one more place on a picture that lies on the board's edge; a pixel.

    Raises:
        BadEdit: there is no such picture, its corners are not told, or there are too many.
    """
    photo = _squared_photo(project, board_id, side)
    new = held(photo, edges=(*photo.edges, pixel))
    return changed(project, board_photos=(*_other_photos(project, board_id, side), new))


def length_on_photo(project: Project, board_id: str, side: str, ends: tuple[Point, Point], length: float) -> Project:
    """The project with one more length told on a picture, between two pixels of the board's face; mm.

    Raises:
        BadEdit: there is no such picture, its corners are not told, the length is none, or another than the picture could show there.
    """
    photo = _squared_photo(project, board_id, side)
    found = photo_fit(photo, board_of(project, board_id))
    shown = found.length_between(*ends) if found is not None else length
    if not length > 0 or not 0.8 * shown <= length <= 1.25 * shown:
        raise BadEdit(
            f"Those two points are about {round(shown)} mm apart on the picture: a length of {round(length)} is not between them."
        )
    new = held(photo, known=(*photo.known, LengthOnPhoto(ends=ends, length=length)))
    return changed(project, board_photos=(*_other_photos(project, board_id, side), new))


def corners_alone(project: Project, board_id: str, side: str) -> Project:
    """The project with a picture laid by its corners alone: what was pointed at on its edges and told of lengths is taken away.

    Raises:
        BadEdit: there is no such picture.
    """
    new = held(_squared_photo(project, board_id, side), edges=(), known=())
    return changed(project, board_photos=(*_other_photos(project, board_id, side), new))


def photo_fit(photo: BoardPhoto, board: Board) -> PhotoFit | None:
    """How a board lies on a picture of it, and what a place read from it is likely off by; None before its corners are told, and where
    a damaged file has others than a board's."""
    if not convex(photo.corners):
        return None
    known = tuple((k.ends[0], k.ends[1], k.length) for k in photo.known)
    return _fitted((board.length, board.width), photo.corners, (photo.wide, photo.tall), photo.edges, known)


@lru_cache(maxsize=32)
def _fitted(
    size: tuple[float, float],
    corners: tuple[Point, ...],
    picture: tuple[int, int],
    edges: tuple[Point, ...],
    known: tuple[Known, ...],
) -> PhotoFit | None:
    for more, lengths in ((edges, known), ((), ())):  # what does not go together, as in a damaged file, is left out
        with suppress(ValueError):
            return fit(size, corners, picture, more, lengths)
    return None


def _squared_photo(project: Project, board_id: str, side: str) -> BoardPhoto:
    photo = photo_of(project, board_id, side)
    if photo is None:
        raise BadEdit(f"There is no picture of that board's {side} yet.")
    if not convex(photo.corners):
        raise BadEdit("Point at the four corners first.")
    return photo


def drop_photo(project: Project, board_id: str, side: str) -> Project:
    """The project without the picture of a side of a board."""
    return changed(project, board_photos=_other_photos(project, board_id, side))


def photo_of(project: Project, board_id: str, side: str) -> BoardPhoto | None:
    """The picture of a side of a board."""
    return next((p for p in project.board_photos if (p.board, p.side) == (board_id, side)), None)


def _other_photos(project: Project, board_id: str, side: str) -> tuple[BoardPhoto, ...]:
    return tuple(p for p in project.board_photos if (p.board, p.side) != (board_id, side))
