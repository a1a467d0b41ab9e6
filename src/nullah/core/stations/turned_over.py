"""A board turned over its long edge: all that is known of it, as it then lies."""

from __future__ import annotations

from nullah.core.document.project import Board, Project


def turned_over(project: Project, board_id: str) -> Project:
    """The project with a board turned over its long edge: what was its back is its face, its lower edge its upper."""
    boards = tuple(_over(b) if b.id == board_id else b for b in project.boards)
    photos = tuple(
        p.model_copy(update={"side": OTHER[p.side]}) if p.board == board_id else p for p in project.board_photos
    )
    return project.model_copy(update={"boards": boards, "board_photos": photos})


OTHER = {
    "face": "back",
    "back": "face",
    "lower": "upper",
    "upper": "lower",
    "both": "both",
    "neither": "neither",
    "left": "right",
    "right": "left",
    "": "",
}


def _over(b: Board) -> Board:
    faults = tuple(
        d.model_copy(update={"y": max(0.0, b.width - d.y - d.width), "face": OTHER[d.face]}) for d in b.defects
    )
    edges = {
        which: tuple((x, min(b.width, max(0.0, b.width - y))) for x, y in getattr(b, OTHER[which]))
        for which in ("upper", "lower")
    }
    sides = {name: OTHER[getattr(b, name)] for name in ("heart_side", "pith", "straight_edge", "rises")}
    return b.model_copy(update={"defects": faults, **edges, **sides})
