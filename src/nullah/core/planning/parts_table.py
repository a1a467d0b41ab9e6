"""The table of parts: every part of every piece, and how much wood they come to by species and thickness."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.document.pieces import Designed
from nullah.core.planning.plan import Plan
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import INCH

BOARD_FOOT = 144 * INCH**3  # mm3: 144 cubic inches
SQUARE_METRE = 1e6  # mm2
COLUMNS = ("piece", "part", "length", "width", "thickness", "species", "role", "state")
BY_HAND = ("length", "width", "thickness", "species")  # what of a part may be written


@frozen
class Row:
    """A part as it stands in the table: sizes in mm; ``written``: whether its figures may be written by hand here."""

    id: str
    piece: str
    part: str
    length: float
    width: float
    thickness: float
    species: str
    role: str
    state: str
    written: bool


@frozen
class Sum:
    """How much finished wood of one species and thickness there is: parts, square metres of face, board feet."""

    species: str
    thickness: float
    parts: int
    area: float
    board_feet: float


def rows(plan: Plan) -> tuple[Row, ...]:
    """Every part, piece by piece in the order of the project."""
    found = []
    for made in plan.piece.made:
        own = made.id == plan.project.hand and isinstance(made.piece, Designed)
        for p in made.parts:
            state = "cut" if p.cut else "measured" if p.measured else "planned"
            sizes = (p.length, p.width, p.thickness)
            found.append(Row(p.id, made.piece.name, made.label(p), *sizes, p.species, p.role, state, own and not p.cut))
    return tuple(found)


def sums(plan: Plan) -> tuple[Sum, ...]:
    """Finished sizes added up by species and by thickness to the tenth of a millimetre, the species in order, thick before thin."""
    found: dict[tuple[str, float], list[Row]] = {}
    for row in rows(plan):
        found.setdefault((row.species, round(row.thickness, 1)), []).append(row)
    out = []
    for (wood, thick), mine in sorted(found.items(), key=lambda kv: (kv[0][0], -kv[0][1])):
        area = sum(r.length * r.width for r in mine)
        volume = sum(r.length * r.width * r.thickness for r in mine)
        out.append(Sum(wood, thick, len(mine), area / SQUARE_METRE, volume / BOARD_FOOT))
    return tuple(out)


def text(plan: Plan, figure: Callable[[float], str]) -> str:
    """The table and its sums as lines of cells with tabs between, as a spreadsheet takes them; lengths by ``figure``."""
    lines = ["\t".join(COLUMNS)]
    for r in rows(plan):
        sizes = (figure(r.length), figure(r.width), figure(r.thickness))
        lines.append("\t".join(_cell(c) for c in (r.piece, r.part, *sizes, r.species, r.role, r.state)))
    lines += ["", "\t".join(("species", "thickness", "parts", "square metres", "board feet"))]
    lines += [
        "\t".join((s.species, figure(s.thickness), str(s.parts), f"{s.area:.3f}", f"{s.board_feet:.2f}"))
        for s in sums(plan)
    ]
    return "\n".join(lines) + "\n"


def _cell(words: str) -> str:
    """Words that stay in their cell, and are no formula."""
    flat = " ".join(words.split())
    return f"'{flat}" if flat[:1] in ("=", "+", "-", "@") else flat
