"""The piece in hand as bodies that can be drawn, with what its parts are called and the wood they come from."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.drawing.display_list import Drawing, Text
from nullah.core.pictures.bodies import Body, of_piece
from nullah.core.pictures.patches import Shown
from nullah.core.pictures.wood import woods
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import Point3
from nullah.core.shapes.solid import BadSolid

_last: list[tuple[Plan, bool, Shown | None]] = []  # what was found last: to turn a piece it is not looked for again


def shown(plan: Plan, plain: bool = False) -> Shown | None:
    """The piece in hand closed as it stands, ``plain`` without its joints; None where it cannot be made or drawn."""
    if not _last or _last[0][0] is not plan or _last[0][1] != plain:
        _last[:] = [(plan, plain, _shown(plan, plain))]
    return _last[0][2]


def _shown(plan: Plan, plain: bool) -> Shown | None:
    made = plan.piece.in_hand
    if not made.parts or plan.joints.troubles[made.id]:
        return None
    try:
        found = of_piece(made, plan.joints.of_piece[made.id], True, plain)
    except BadSolid:
        return None
    if not found:
        return None
    called = {p.id: made.label(p) for p in made.parts}
    hints = {p.id: p.name for p in made.parts}
    tags = {p.id: f"part:{p.id}" for p in made.parts}
    return Shown(found, called, hints, tags, woods(made.parts, plan.breakdown, plan.project.boards), {})


MOST_PARTS = 600  # of a piece that is drawn; with more of them a picture takes seconds


def too_many(plan: Plan) -> Drawing | None:
    """In place of a picture, a sentence where the piece in hand has more parts than one shows."""
    count = len(plan.piece.in_hand.parts)
    if count <= MOST_PARTS:
        return None
    words = f"{count} parts are more than a picture shows: it shows {MOST_PARTS}."
    return Drawing((Text((0.0, 0.0), words, ink="quiet", size=13),), words)


class Kept:
    """The last drawings, each remembered by what it was made from, as long as those are the same objects still: to light a part, or to
    show the view again after an edit that does not touch the piece, nothing is drawn anew."""

    def __init__(self, most: int = 4) -> None:
        self._most = most
        self._kept: list[tuple[tuple[object, ...], object, Drawing]] = []

    def get(self, plan: Plan, make: Callable[[], Drawing], sight: object = None) -> Drawing:
        """The drawing of the piece in hand as one looks at it, made where it is not there yet."""
        made = plan.piece.in_hand
        of = (made, plan.joints.of_piece[made.id], plan.breakdown, plan.project.boards)
        for inputs, at, drawing in self._kept:
            if at == sight and all(a is b for a, b in zip(inputs, of, strict=True)):
                return drawing
        drawing = make()
        self._kept = [(of, sight, drawing), *self._kept[: self._most - 1]]
        return drawing


def box_round(bodies: tuple[Body, ...]) -> tuple[Point3, Point3]:
    """The low and the high corner of all of them, mm."""
    lows, highs = zip(*(b.box for b in bodies), strict=True)
    x, y, z = (min(low[k] for low in lows) for k in range(3))
    right, back, top = (max(high[k] for high in highs) for k in range(3))
    return (x, y, z), (right, back, top)


def middle(low: Point3, high: Point3) -> Point3:
    """Half-way between two corners."""
    return ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2)
