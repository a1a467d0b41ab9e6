"""Seeded cases for the planner: boards sawn up at random, so that all is known to fit, and sets of equal parts round faults."""

from __future__ import annotations

import random

from nullah.core.document.project import Defect
from nullah.core.layout.model import Blank, Stock

KERF = 1.5
LONG, WIDE = (80.0, 900.0), (30.0, 260.0)


def board(name: str, length: float, width: float, defects: tuple[Defect, ...] = (), thickness: float = 25.0) -> Stock:
    """A board of even thickness with nothing to trim."""
    return Stock(name, name, "white ash", length, width, 0, length, 0, width, thickness, defects, lambda *_: thickness)


def blank(name: str, length: float, width: float, thickness: float = 20.0) -> Blank:
    """A part that keeps clear of every fault and is laid out at its size."""
    return Blank(name, length, width, thickness, "white ash", (length, width))


def _sawn_up(rng: random.Random, length: float, width: float, count: int):
    """The pieces (x, y, length, width) of a board sawn by random full cuts into ``count``, or None where that fails."""
    pieces = [(0.0, 0.0, length, width)]
    while len(pieces) < count or any(p[2] > LONG[1] or p[3] > WIDE[1] for p in pieces):
        too_large = [p for p in pieces if p[2] > LONG[1] or p[3] > WIDE[1]]
        whole = rng.choice(too_large or pieces)
        x, y, along, wide = whole
        ways = []
        if along > 2 * LONG[0] + KERF:
            ways += ["across"] * (1 + 2 * (along > LONG[1]))
        if wide > 2 * WIDE[0] + KERF:
            ways += ["along"] * (1 + 2 * (wide > WIDE[1]))
        if not ways or len(pieces) > count:
            return None
        pieces.remove(whole)
        if rng.choice(ways) == "across":
            at = round(rng.uniform(LONG[0], along - KERF - LONG[0]), 1)
            pieces += [(x, y, at, wide), (x + at + KERF, y, along - at - KERF, wide)]
        else:
            at = round(rng.uniform(WIDE[0], wide - KERF - WIDE[0]), 1)
            pieces += [(x, y, along, at), (x, y + at + KERF, along, wide - at - KERF)]
    return pieces if len(pieces) == count else None


def sawn(boards: int, parts: int, seed: int, loose: bool = False, faults: bool = False):
    """Boards and parts known to fit; ``loose`` makes parts a little smaller, ``faults`` puts faults in pieces left out."""
    rng = random.Random(seed)
    stock, blanks = [], []
    for i in range(boards):
        want = parts * (i + 1) // boards - parts * i // boards
        dropped = faults and rng.random() < 0.5
        pieces = None
        while pieces is None:
            length, width = round(rng.uniform(900, 3000)), round(rng.uniform(150, 300))
            pieces = _sawn_up(rng, length, width, want + dropped)
        defects = ()
        if dropped:
            x, y, along, wide = pieces.pop(rng.randrange(len(pieces)))
            defects = (
                Defect(
                    id="1", kind="loose knot", x=x + along * 0.2, y=y + wide * 0.2, length=along * 0.6, width=wide * 0.6
                ),
            )
        stock.append(board(f"b{i}", length, width, defects))
        for _, _, along, wide in pieces:
            along -= rng.uniform(0.5, 4) if loose else 0
            wide -= rng.uniform(0.5, 3) if loose else 0
            blanks.append(blank(f"p{len(blanks)}", round(along, 2), round(wide, 2)))
    rng.shuffle(blanks)
    return stock, blanks


def sets(
    boards: int,
    seed: int,
    thickness: float = 25.0,
    lengths=(80, 700),
    widths=(30, 140),
    most_faults: int = 6,
    ask=(0.84, 0.96),
):
    """Boards with two to six faults each, and sets of two to eight equal parts that ask for 84 to 96 % of the clear area."""
    rng = random.Random(seed)
    stock, clear = [], 0.0
    kinds = ("loose knot", "check", "split", "wane")
    for i in range(boards):
        length, width = round(rng.uniform(900, 3000)), round(rng.uniform(150, 300))
        defects = []
        clear += length * width
        for k in range(rng.randint(min(2, most_faults), most_faults)):
            along, wide = rng.uniform(15, 90), rng.uniform(10, 45)
            clear -= along * wide
            x, y = rng.uniform(0, length - along), rng.uniform(0, width - wide)
            defects.append(
                Defect(
                    id=str(k), kind=rng.choice(kinds), x=round(x), y=round(y), length=round(along), width=round(wide)
                )
            )
        stock.append(board(f"b{i}", length, width, tuple(defects), thickness))
    share, blanks, area = rng.uniform(*ask), [], 0.0
    while True:
        along, across, count = rng.uniform(*lengths), rng.uniform(*widths), rng.randint(2, 8)
        if area + along * across * count > share * clear:
            if area > (share - 0.02) * clear:
                return stock, blanks
            along, across, count = rng.uniform(80, 400), rng.uniform(30, 90), 2
            if area + along * across * count > share * clear:
                return stock, blanks
        for _ in range(count):
            blanks.append(blank(f"p{len(blanks)}", round(along), round(across)))
        area += round(along) * round(across) * count
