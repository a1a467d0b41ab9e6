"""The box as solids: every board, tail and pin a convex body in space, so that it can be drawn standing and coming apart.

Axes: x from the left end D to the right end B, y from the front A to the back C, z up, mm, outside corner at (0, 0, 0).
"""

from __future__ import annotations

from nullah.core.document_pieces import Piece
from nullah.core.frozen import frozen
from nullah.core.joints.dovetail import Dovetail
from nullah.core.pieces.box import Box, corner_layout, corners

Point3 = tuple[float, float, float]
# corner numbers of the six faces of a body, each turning anticlockwise seen from outside, and which way they look
FACES: tuple[tuple[tuple[int, int, int, int], str], ...] = (
    ((0, 4, 7, 3), "x0"),
    ((1, 2, 6, 5), "x1"),
    ((0, 1, 5, 4), "y0"),
    ((3, 7, 6, 2), "y1"),
    ((0, 3, 2, 1), "z0"),
    ((4, 5, 6, 7), "z1"),
)
ENDS = {"x": ("x0", "x1"), "y": ("y0", "y1")}  # end-grain faces, by the axis the grain runs along


@frozen
class Solid:
    """A convex body of eight corners: bottom four anticlockwise seen from above, then the four over them.

    ``part`` it belongs to, ``grain`` the axis its grain runs along, ``main`` whether it is the body of the board rather than a
    tail or a pin.
    """

    part: str
    corners: tuple[Point3, ...]
    grain: str
    main: bool = True


def _block(
    part: str, x: tuple[float, float], y: tuple[float, float], z: tuple[float, float], grain: str, main: bool = True
) -> Solid:
    """An upright block between two planes on each axis."""
    low = [(x[0], y[0], z[0]), (x[1], y[0], z[0]), (x[1], y[1], z[0]), (x[0], y[1], z[0])]
    return Solid(part, (*low, *((px, py, z[1]) for px, py, _ in low)), grain, main)


def _wedge(
    part: str,
    x: tuple[float, float],
    y: tuple[float, float],
    at_first: tuple[float, float],
    at_second: tuple[float, float],
    grain: str,
) -> Solid:
    """A tail or a pin: between the planes of x and y, from ``at_first`` (low, high) at x[0] to ``at_second`` at x[1]."""
    low = [(x[0], y[0], at_first[0]), (x[1], y[0], at_second[0]), (x[1], y[1], at_second[0]), (x[0], y[1], at_first[0])]
    high = [
        (x[0], y[0], at_first[1]),
        (x[1], y[0], at_second[1]),
        (x[1], y[1], at_second[1]),
        (x[0], y[1], at_first[1]),
    ]
    return Solid(part, (*low, *high), grain, False)


MOST_BODIES = 400  # with more of them boards are drawn plain, without tails and pins


def many_bodies(piece: Piece, box: Box) -> int:
    """How many bodies the box is made of with all its tails and pins.

    Raises:
        NoDovetail: a corner cannot be laid out.
    """
    pins = sum(2 * corner_layout(piece, box, tail, pin, w).tails + 1 for _, tail, pin, w in corners(box))
    return len(box.parts) + pins + 2


def solids(piece: Piece, box: Box, apart: float = 0.0) -> tuple[Solid, ...]:
    """Every body of the box, taken apart by ``apart`` (0 closed, 1 wide open); more than ``MOST_BODIES`` are simplified.

    Panels reach into their grooves and dadoes only once they have left them, so that no two bodies share space.

    Raises:
        NoDovetail: a corner cannot be laid out.
    """
    length, width, height = box.outside
    t = box.thickness
    low = box.part("B").width
    if many_bodies(piece, box) > MOST_BODIES:
        return _plain(piece, box, apart, low)
    joints = {name: corner_layout(piece, box, tail, pin, w) for name, tail, pin, w in corners(box)}
    out: list[Solid] = []
    for part, y in (("A", (0.0, t["A"])), ("C", (width - t["C"], width))):
        out.append(_block(part, (t["D"], length - t["B"]), y, (0.0, height), "x"))
        out += _tails(part, joints[f"{part}-D"], (0.0, t["D"]), y, height, left=True)
        out += _tails(part, joints[f"{part}-B"], (length - t["B"], length), y, height, left=False)
    for part, x, top in (("B", (length - t["B"], length), low), ("D", (0.0, t["D"]), height)):
        out.append(_block(part, x, (t["A"], width - t["C"]), (0.0, top), "y"))
        out += _pins(part, joints[f"A-{part}"], x, (0.0, t["A"]), left=part == "D")
        out += _pins(part, joints[f"C-{part}"], x, (width - t["C"], width), left=part == "D")
    out += _panels(piece, box, min(1.0, apart * 6))
    shift = _away(box, apart)
    return tuple(_moved(s, shift.get(s.part) or shift["dividers"]) for s in out)


def _plain(piece: Piece, box: Box, apart: float, low: float) -> tuple[Solid, ...]:
    """The boards without their joints: long sides whole, ends between them."""
    length, width, height = box.outside
    t = box.thickness
    out = [
        _block("A", (0.0, length), (0.0, t["A"]), (0.0, height), "x"),
        _block("C", (0.0, length), (width - t["C"], width), (0.0, height), "x"),
        _block("B", (length - t["B"], length), (t["A"], width - t["C"]), (0.0, low), "y"),
        _block("D", (0.0, t["D"]), (t["A"], width - t["C"]), (0.0, height), "y"),
        *_panels(piece, box, min(1.0, apart * 6)),
    ]
    shift = _away(box, apart)
    return tuple(_moved(s, shift.get(s.part) or shift["dividers"]) for s in out)


def _tails(
    part: str, joint: Dovetail, x: tuple[float, float], y: tuple[float, float], height: float, left: bool
) -> list[Solid]:
    wide, narrow = joint.tails_at_end(), joint.tails_at_baseline()
    out = []
    for at_end, at_base in zip(wide, narrow, strict=True):
        first, second = (at_end, at_base) if left else (at_base, at_end)
        out.append(_wedge(part, x, y, first, second, "x"))
    if joint.width < height - 0.01:  # beside a lowered end the tail board runs on above the joint
        out.append(_block(part, x, y, (joint.width, height), "x", main=False))
    return out


def _pins(part: str, joint: Dovetail, x: tuple[float, float], y: tuple[float, float], left: bool) -> list[Solid]:
    run = joint.mating / joint.run
    mouth = joint.pins_at_mouth()
    out = []
    for i, (lower, upper) in enumerate(mouth):
        inside = (lower - run if i else lower, upper + run if i < len(mouth) - 1 else upper)
        outside = (lower, upper)
        first, second = (outside, inside) if left else (inside, outside)
        out.append(_wedge(part, x, y, first, second, "y"))
    return out


def _panels(piece: Piece, box: Box, reach: float) -> list[Solid]:
    """Bottom, dividers and lid, reaching so far (0 to 1) into what holds them."""
    length, width, height = box.outside
    t, groove, dado = box.thickness, box.groove_depth * reach, box.dado_depth * reach
    x, y = (t["D"], length - t["B"]), (t["A"], width - t["C"])
    edge, thick = box.groove_from_edge, box.bottom_thickness
    out = [_block("bottom", (x[0] - groove, x[1] + groove), (y[0] - groove, y[1] + groove), (edge, edge + thick), "x")]
    for i, (c, divider) in enumerate(zip(box.dado_centres, box.divider_thicknesses, strict=True), 1):
        tall, half = box.part(str(i)).width, divider / 2
        out.append(
            _block(str(i), (c - half, c + half), (y[0] - dado, y[1] + dado), (edge + thick, edge + thick + tall), "y")
        )
    if piece.lid == "sliding":
        top = height - box.lid_from_edge
        out.append(
            _block("lid", (x[0] - groove, length), (y[0] - groove, y[1] + groove), (top - box.lid_thickness, top), "x")
        )
    elif piece.lid == "lift-off":
        out.append(_block("lid", (0.0, length), (0.0, width), (height, height + box.lid_thickness / 2), "x"))
    return out


def _away(box: Box, apart: float) -> dict[str, Point3]:
    """How far each part moves off, mm."""
    length, width, height = box.outside
    out = apart * (0.35 * min(length, width) + 40.0)
    return {
        "A": (0.0, -1.25 * out, 0.0),
        "C": (0.0, 1.25 * out, 0.0),
        "B": (1.4 * out, 0.0, 0.0),
        "D": (-1.4 * out, 0.0, 0.0),
        "bottom": (0.0, 0.0, -1.1 * out - 0.3 * apart * height),
        "lid": (0.0, 0.0, 1.6 * out + 0.9 * apart * height),
        "dividers": (0.0, 0.0, 0.6 * out + 0.5 * apart * height),
    }


def _moved(s: Solid, by: Point3) -> Solid:
    corners = tuple((x + by[0], y + by[1], z + by[2]) for x, y, z in s.corners)
    return Solid(s.part, corners, s.grain, s.main)
