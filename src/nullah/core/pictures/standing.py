"""A piece standing, in parallel projection, closed or coming apart; parts can be picked, and carry their own figure."""

from __future__ import annotations

from dataclasses import replace

from nullah.core.drawing import Drawing
from nullah.core.pictures.in_hand import Kept, box_round, middle, shown, too_many
from nullah.core.pictures.patches import drawn
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import looking

STANDING = looking(28.0, 27.0)
_kept = Kept()


def of(plan: Plan, apart: float = 0.0) -> Drawing:
    """The piece in hand standing, taken apart by ``apart`` from 0 to 1; empty where it cannot be drawn."""
    return _kept.get(plan, lambda: _drawn(plan, apart), apart)


def _drawn(plan: Plan, apart: float) -> Drawing:
    if (words := too_many(plan)) is not None:
        return words
    found = shown(plan)
    if found is None:
        return Drawing()
    made = plan.piece.in_hand
    off: dict[str, Point3] = {}
    if apart > 0:
        whole = middle(*box_round(found.bodies))
        for body in found.bodies:
            x, y, z = made.away(body.placed.id, middle(*box_round((body,))), whole)
            off[body.part] = (apart * x, apart * y, apart * z)
    items = drawn(replace(found, off=off), STANDING, shaded=True)
    return Drawing(tuple(items), f"{made.piece.name} standing")
