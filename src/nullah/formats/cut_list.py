"""The cut list as CSV: a line for each part, or for each stave of one: sizes, board, role. Lengths in mm with decimal points."""

from __future__ import annotations

import csv
import io

from nullah.core.planning.plan import Plan
from nullah.formats.cells import safe
from nullah.formats.shop_sheet import rough_size, state

COLUMNS = (
    "part",
    "name",
    "species",
    "role",
    "length_mm",
    "width_mm",
    "thickness_mm",
    "rough_length_mm",
    "rough_width_mm",
    "board",
    "joints",
    "state",
)


def text(plan: Plan) -> str:
    """The cut list, with a header line."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    blanks = {b.id: b for b in plan.breakdown.blanks}
    names = {b.id: b.name for b in plan.project.boards}
    for p, name in [(part, name) for part in plan.piece.parts for name in plan.breakdown.rough.of(part.id)]:
        blank, place = blanks.get(name), plan.breakdown.place(name)
        made = "" if name == p.id else f"{p.name}, from {name}"
        size = (blank.length, blank.width) if blank else rough_size(plan, name)
        rough = tuple(f"{v:.1f}" for v in size) if size else ("", "")
        writer.writerow(
            [
                safe(p.id),
                safe(made or p.name),
                p.species,
                p.role,
                f"{p.length:.1f}",
                f"{p.width:.1f}",
                f"{p.thickness:.1f}",
                *rough,
                safe(names.get(place[0], "")) if place else "",
                p.joints,
                state(plan, p, name),
            ]
        )
    return out.getvalue()
