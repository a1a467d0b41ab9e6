"""The parts as solids in one Wavefront OBJ file: an object a part, named by its id, mm, the piece closed as it stands."""

from __future__ import annotations

from nullah.core.pictures.bodies import Body, bodies
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import GRID

HEAD = "# Nullah: parts in mm, z up; faces turn anticlockwise seen from outside\n"


def text(plan: Plan) -> str:
    """The file's text; empty where there are no solids.

    Raises:
        BadSolid: cuts leave nothing of a part.
    """
    found = bodies(plan)
    if not found:
        return ""
    lines, first = [], 1
    for body in found:
        lines += _object(body, first)
        first += len(body.corners)
    return HEAD + "\n".join(lines) + "\n"


def _object(body: Body, first: int) -> list[str]:
    """An object with its own corners, numbered on from ``first``."""
    corners = [f"v {x:.{GRID}f} {y:.{GRID}f} {z:.{GRID}f}" for x, y, z in body.corners]
    faces = [f"f {a + first} {b + first} {c + first}" for a, b, c in body.triangles]
    return [f"o {body.part}", *corners, *faces]
