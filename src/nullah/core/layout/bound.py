"""An upper bound of what any layout could place: how much better is possible at all.

Two relaxations, both proved: what lies clear and can be reached by some part is all that can be covered, each part with the
kerf it costs; and of that no more than whole parts of each species. Where they leave room the bound is the whole demand.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nullah.core.layout.clear import union_area
from nullah.core.layout.encoding import Encoded


@dataclass(frozen=True)
class Bound:
    """``placed_area_share_at_most`` of the area asked for; ``by_species``: usable mm2 against asked mm2, kerfs counted."""

    placed_area_share_at_most: float
    by_species: tuple[tuple[str, float, float], ...]


def bound(encoded: Encoded) -> Bound:
    """The most of the area asked for that can have a place.

    A part l x w with its kerfs takes (l + k)(w + k) of a board that counts (L + k)(W + k); clear wood that no part reaches
    holds nothing. What fits is then filled with the parts of most area a mm2 taken, the last one broken (Dantzig's bound).
    """
    case, demand = encoded.case, encoded.demand
    if demand <= 0:
        return Bound(1.0, ())
    kx, ky = float(case.kerfs[0]), float(case.kerfs[1])
    fits = np.array(
        [any(_reaches(encoded, b, t) for b in range(case.boards)) for t in range(len(encoded.kinds))], dtype=bool
    )
    placed, told = 0.0, []
    for name in sorted({k.species for k in encoded.kinds}):
        room = sum(_usable(encoded, b, kx, ky) for b, s in enumerate(encoded.stock) if s.species == name)
        mine = [t for t, k in enumerate(encoded.kinds) if k.species == name]
        asked = sum(float(encoded.counts[t] * (case.sizes[t, 0] + kx) * (case.sizes[t, 1] + ky)) for t in mine)
        told.append((name, room, asked))
        for t in sorted((t for t in mine if fits[t]), key=lambda t: -_share(encoded, t, kx, ky)):
            each = float((case.sizes[t, 0] + kx) * (case.sizes[t, 1] + ky))
            many = min(float(encoded.counts[t]), room / each)
            placed += many * float(case.sizes[t, 2])
            room -= many * each
    return Bound(min(1.0, placed / demand), tuple(told))


def _share(encoded: Encoded, t: int, kx: float, ky: float) -> float:
    length, width, area = encoded.case.sizes[t]
    return float(area / ((length + kx) * (width + ky)))


def _clears(encoded: Encoded, board: int, kind: int) -> list[tuple[float, float, float, float]]:
    """Clear rectangles of a board that could take the kind."""
    case = encoded.case
    if case.allow[board, kind] == 0:
        return []
    g = board * case.zones.size + int(case.kind_class[kind])
    rows = case.clears[case.clear_start[g] : case.clear_start[g + 1]]
    length, width, _ = case.sizes[kind]
    return [tuple(r) for r in rows if r[2] - r[0] >= length - 1e-6 and r[3] - r[1] >= width - 1e-6]


def _reaches(encoded: Encoded, board: int, kind: int) -> bool:
    return bool(_clears(encoded, board, kind))


def _usable(encoded: Encoded, board: int, kx: float, ky: float) -> float:
    """Area of a board that some part can cover, each rectangle with a kerf more along and across."""
    boxes = {c for t in range(len(encoded.kinds)) for c in _clears(encoded, board, t)}
    return union_area([(a, b, c + kx, d + ky) for a, b, c, d in boxes])
