"""A layout made without a project, on paper: the boards to scale, and under each the cuts in order."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping, Sequence

from nullah.core.document.project import BoardLayout
from nullah.core.layout.model import Stock
from nullah.core.layout.saw import SawCut, Totals
from nullah.core.pictures import laid
from nullah.core.stations.cautions import for_step
from nullah.core.values.measure import told
from nullah.formats.sheet import Sheet


def pdf(
    stock: Sequence[Stock],
    boards: Sequence[BoardLayout],
    saw: Sequence[SawCut],
    sums: Totals,
    name: Callable[[str], str],
    names: Mapping[str, str],
) -> bytes:
    """The sheet as PDF bytes; ``name`` is how a part is called, ``names`` how boards are."""
    out = io.BytesIO()
    sheet = Sheet(out, "Boards laid out", lambda mm: f"{mm:g}", told)
    sheet.head("Boards laid out", 20)
    sheet.words(
        f"Lengths in mm. {sums.cuts} cuts at {sums.settings} settings: {sums.across_m:.1f} m across the grain, "
        f"{sums.along_m:.1f} m along it, about {sums.minutes:.0f} minutes of sawing."
    )
    for caution in for_step("break down"):
        sheet.words(f"Caution: {caution}", ink="decision")
    for b in boards:
        mine = [c for c in saw if c.board == b.board]
        sheet.head(names[b.board], 12, 150)
        sheet.drawing(laid.drawing(stock, [b], mine, name), 140)
        for c in mine:
            words = c.words
            for part in c.frees:
                words = words.replace(part, name(part))
            sheet.words(f"{c.number}.  {words}; {c.side}")
    sheet.save()
    return out.getvalue()
