"""The surface of every board, before anything else is asked of it."""

from __future__ import annotations

from nullah.core.document.project import Board, Planed, Reading
from nullah.core.stations.made import Keeps, anew
from nullah.core.surface.readings import Surface, fit
from nullah.core.values.frozen import frozen

# changes without consequence for a layout: names, and looks that no part is laid by
NOT_LAID_BY = {"name", "ring_angle", "heart_side", "moisture", "moistures", "pith", "pith_distance", "rises"}


@frozen
class Surfaces:
    """The fitted surface of each board by its id, and what they were made from.

    Surfaces keep their slabs, so each is made anew only with its board or what was read or planed of it.
    """

    of: dict[str, Surface]
    boards: tuple[Board, ...]
    readings: tuple[Reading, ...]
    planed: tuple[Planed, ...]

    def digest(self) -> str:
        """All they were made from, in words."""
        seen = [b.model_dump_json(exclude=NOT_LAID_BY) for b in self.boards]
        return "\n".join(seen + [one.model_dump_json() for one in (*self.readings, *self.planed)])


def work(
    boards: tuple[Board, ...], readings: tuple[Reading, ...], planed: tuple[Planed, ...], keeps: Keeps = anew
) -> Surfaces:
    """The station; a board that nothing is read of is flat and of its stated thickness."""
    read: dict[str, list[Reading]] = {}
    done: dict[str, list[Planed]] = {}
    for r in readings:
        read.setdefault(r.target, []).append(r)
    for p in planed:
        done.setdefault(p.target, []).append(p)
    of = {}
    for b in boards:
        mine = tuple(read.get(b.id, ())), tuple(done.get(b.id, ()))
        of[b.id] = keeps(f"surface {b.id}", fit, b.length, b.width, b.thickness, *mine)
    return Surfaces(of, boards, readings, planed)
