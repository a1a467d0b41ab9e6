"""A piece standing, in parallel projection, from any side: closed or coming apart, whole or cut open, all of it or one part. Parts
can be picked, and carry their own figure."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive
from nullah.core.pictures.bodies import Body, kept_beyond
from nullah.core.pictures.in_hand import Kept, box_round, middle, shown, too_many
from nullah.core.pictures.patches import Shown, drawn, moved
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.seen import View, looking
from nullah.core.values.frozen import frozen, replace

OPEN_FROM = {
    "front": (1, 1.0),
    "right": (0, -1.0),
    "above": (2, -1.0),
}  # the axis that is cut across, and which side of it stays
GLASS = 0.5  # how dense wood is drawn that hidden edges shine through
MOST_TILT = 89.0  # degrees from level
_kept = Kept()


@frozen
class Sight:
    """How one looks at a standing piece: ``turn`` degrees to the right of its front and ``tilt`` above it; ``apart`` from 0 to 1;
    ``alone``, a part that is shown by itself; ``open_from``, a side from which it is cut open, ``open_at`` from 0 to 1 of the way
    through; whether hidden edges are dashed, and the wood ``figured``."""

    turn: float = 28.0
    tilt: float = 27.0
    apart: float = 0.0
    alone: str = ""
    open_from: str = ""
    open_at: float = 0.5
    hidden: bool = False
    figured: bool = True

    def turned(self, right: float, up: float) -> Sight:
        """The same, turned on by so many degrees."""
        return replace(self, turn=(self.turn + right) % 360.0, tilt=max(-MOST_TILT, min(MOST_TILT, self.tilt + up)))


PLAIN = Sight()


def of(plan: Plan, apart: float = 0.0) -> Drawing:
    """The piece in hand standing, taken apart by ``apart`` from 0 to 1; empty where it cannot be drawn."""
    return seen(plan, replace(PLAIN, apart=apart))


def seen(plan: Plan, sight: Sight) -> Drawing:
    """The piece in hand as one looks at it; empty where it cannot be drawn."""
    return _kept.get(plan, lambda: _drawn(plan, sight), sight)


def _drawn(plan: Plan, sight: Sight) -> Drawing:
    if (words := too_many(plan)) is not None:
        return words
    found = shown(plan)
    if found is None:
        return Drawing()
    made = plan.piece.in_hand
    if sight.open_from in OPEN_FROM:
        found = replace(found, bodies=_opened(found.bodies, sight))
    off: dict[str, Point3] = {}
    if sight.apart > 0 and not sight.alone:
        whole = middle(*box_round(found.bodies))
        for body in found.bodies:
            x, y, z = made.away(body.placed.id, middle(*box_round((body,))), whole)
            off[body.part] = (sight.apart * x, sight.apart * y, sight.apart * z)
    if any(b.part == sight.alone for b in found.bodies):
        found = replace(found, bodies=tuple(b for b in found.bodies if b.part == sight.alone))
    found = replace(found, off=off)
    view = looking(sight.turn, sight.tilt)
    items = drawn(found, view, shaded=True, figured=sight.figured)
    if sight.hidden:  # they shine through the wood before them
        glass = [replace(i, opacity=GLASS * i.opacity) if isinstance(i, Area) else i for i in items]
        items = [*_edges(found, view), *glass]
    return Drawing(tuple(items), f"{made.piece.name} standing")


def _opened(bodies: Sequence[Body], sight: Sight) -> tuple[Body, ...]:
    """What stays of bodies behind a plane across the piece; those before it are gone."""
    axis, side = OPEN_FROM[sight.open_from]
    low, high = (corner[axis] for corner in box_round(tuple(bodies)))
    at = low + sight.open_at * (high - low) if side > 0 else high - sight.open_at * (high - low)
    return tuple(left for body in bodies if (left := kept_beyond(body, axis, side, at)) is not None)


def _edges(found: Shown, view: View) -> list[Primitive]:
    """Every edge of every body, dashed."""
    items: list[Primitive] = []
    for body in found.bodies:
        corners = moved(body.corners, found.off.get(body.part))
        on = [
            (
                sum(a * b for a, b in zip(c, view.right, strict=True)),
                sum(a * b for a, b in zip(c, view.up, strict=True)),
            )
            for c in corners
        ]
        edges = {
            tuple(sorted(e))
            for flat in body.flats
            for ring in flat.rings
            for e in zip(ring, (*ring[1:], ring[0]), strict=True)
        }
        items += [Line((on[a], on[b]), "faint", dash=True) for a, b in sorted(edges)]
    return items
