"""What could be done for parts that find no place: which rule to relax, or what to buy, the cheapest first."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.frozen import replace
from nullah.core.layout.model import Blank, Layout, Options, Stock, WayOut
from nullah.core.layout.search import search
from nullah.core.measure import marked

SOLD_THICK = (19.0, 25.0, 32.0, 38.0, 50.0, 63.0, 75.0)  # sawn sizes in mm (common practice, no source)
TRUING = 3.0  # mm of thickness that truing is taken to cost in a board not yet seen
SPARE = 60.0  # mm of length for squaring the ends of a board not yet seen
HIDES = frozenset({"sound knot", "sapwood"})


def ways_out(stock: Sequence[Stock], blanks: Sequence[Blank], options: Options, layout: Layout) -> tuple[WayOut, ...]:
    """Each way out there is: one that gives every part a place is tried, not guessed."""
    without = {p for p, _ in layout.unplaced}
    short = [b for b in blanks if b.id in without]
    if not short:
        return ()
    names, out = tuple(b.id for b in short), []
    trials: tuple[tuple[str, Callable[[Blank], Blank], Options], ...] = (
        (
            "Let {parts} hold sound knots and sapwood outside the joints",
            lambda b: replace(b, forgives=b.forgives | HIDES),
            options,
        ),
        ("Leave half the allowance on {parts}", lambda b: replace(b, length=b.least[0], width=b.least[1]), options),
        ("Cut the group out of different lengths", lambda b: b, replace(options, keep_groups=False)),
    )
    for words, relaxed, with_options in trials:
        tried = [relaxed(b) if b.id in without else b for b in blanks]
        if tried == list(blanks) and with_options == options:
            continue
        if not search(stock, tried, with_options)[0].unplaced:
            out.append(WayOut(f"{words}: then all has a place.", names))
    return (*out, *_to_buy(short, options))


def _to_buy(short: Sequence[Blank], options: Options) -> list[WayOut]:
    """One board for each species and thickness that is short, laid out end to end."""
    out = []
    for species, thick in sorted({(b.species, b.thickness) for b in short}):
        mine = [b for b in short if (b.species, b.thickness) == (species, thick)]
        wide = max(b.width for b in mine) + 6.0
        long = sum(b.length + options.crosscut_kerf for b in mine) + SPARE
        sold = next((t for t in SOLD_THICK if t >= thick + TRUING), thick + TRUING)
        out.append(
            WayOut(
                f"Or buy a board of {species}, {marked(sold)} thick, {marked(wide)} wide or more and {marked(long)} long: "
                f"{wide * long / 1e6:.2f} m\u00b2 for {{parts}}.",
                tuple(b.id for b in mine),
            )
        )
    return out
