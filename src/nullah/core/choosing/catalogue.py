"""The kinds of piece as they are offered: each as it comes of its defaults, drawn standing, with the hours and the wood it takes."""

from __future__ import annotations

import math
from collections import defaultdict
from functools import lru_cache

from nullah.core.document.project import Board, Project
from nullah.core.drawing.display_list import Drawing
from nullah.core.pictures import standing
from nullah.core.pieces.kind import Kind
from nullah.core.planning import parts_table
from nullah.core.planning.plan import Plan, plan
from nullah.core.stations import breakdown
from nullah.core.stations.as_made import settles_at
from nullah.core.values.frozen import frozen

# boards as they are bought, mm (common practice, no source), and how much more wood is laid in than the parts have: waste and faults
BOARD_LENGTH, BOARD_WIDTH, OVER_THICK, WASTE = 2400.0, 200.0, 3.0, 1.6
TRIES = 4  # each with half as much wood again


@frozen
class Offered:
    """A kind as it comes of its defaults: the piece standing, its parts, hours at the bench by common rates, finished wood in square
    metres and in board feet; no hours where nothing is to be made yet."""

    kind: Kind
    drawing: Drawing
    parts: int
    hours: float
    square_metres: float
    board_feet: float


@lru_cache(maxsize=64)
def offered(kind: Kind) -> Offered:
    """The kind by its defaults; worked out once, since it takes a moment."""
    project = Project(pieces=(kind.piece({}),))
    bare = plan(project)
    sums = parts_table.sums(bare)
    parts = len(bare.piece.parts)
    hours = _laid_out(bare).bench.minutes_left / 60 if parts else 0.0
    return Offered(kind, standing.of(bare), parts, hours, sum(s.area for s in sums), sum(s.board_feet for s in sums))


def _laid_out(bare: Plan) -> Plan:
    """The same plan with wood bought for it and a layout taken, so that sawing and truing have their minutes."""
    laid = bare
    for n in range(TRIES):
        boards = _boards(bare, WASTE * 1.5**n)
        project = bare.project.model_copy(update={"boards": boards})
        request = plan(project).breakdown.request
        found = breakdown.offers(request)
        if not found:
            continue
        laid = plan(project.model_copy(update={"layout": breakdown.accept(found[0], request.fingerprint)}))
        if not found[0].unplaced:
            break
    return laid


def _boards(bare: Plan, waste: float) -> tuple[Board, ...]:
    """Boards enough for the parts of each species and thickness."""
    dry = settles_at(bare.project.room)
    groups: dict[tuple[str, float], list[tuple[float, float]]] = defaultdict(list)
    for p in bare.piece.parts:
        groups[p.species, round(p.thickness, 1)].append((p.length, p.width))
    found: list[Board] = []
    for (wood, thick), sizes in groups.items():
        length = max(BOARD_LENGTH, *(long + 200 for long, _ in sizes))
        area = sum(long * (wide + 10) for long, wide in sizes)
        for _ in range(max(1, math.ceil(waste * area / (length * BOARD_WIDTH)))):
            found.append(
                Board(
                    id=f"b{len(found) + 1}",
                    name=f"Board {len(found) + 1}",
                    species=wood,
                    length=length,
                    width=BOARD_WIDTH,
                    thickness=thick + OVER_THICK,
                    moisture=dry,
                )
            )
    return tuple(found)
