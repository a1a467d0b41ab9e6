"""What could be done for parts that find no place: which rule to relax, or what to buy, the cheapest first."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.layout.model import Blank, Layout, Options, Stock, WayOut
from nullah.core.layout.search import search
from nullah.core.values.frozen import replace
from nullah.core.values.measure import marked
from nullah.core.wood.sold_sizes import to_buy

HIDES = frozenset({"sound knot", "sapwood"})


def ways_out(
    stock: Sequence[Stock], blanks: Sequence[Blank], options: Options, layout: Layout, buy: bool = True
) -> tuple[WayOut, ...]:
    """Each way out there is: one that gives every part a place is tried, not guessed; ``buy``: also what to buy, as metric boards."""
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
    return (*out, *(_to_buy(short, options) if buy else ()))


def _to_buy(short: Sequence[Blank], options: Options) -> list[WayOut]:
    """Boards for each species and thickness that is short, in a length that is sold, laid out end to end."""
    out = []
    for species, thick in sorted({(b.species, b.thickness) for b in short}):
        mine = [b for b in short if (b.species, b.thickness) == (species, thick)]
        one = to_buy([(b.length, b.width) for b in mine], thick, False, "mm", options.crosscut_kerf)
        if one is None:
            continue
        many = "a board" if one.count == 1 else f"{one.count} boards"
        area = one.count * one.length * one.width / 1e6
        out.append(
            WayOut(
                f"Or buy {many} of {species}, {marked(one.thickness)} thick, {marked(one.width)} wide or more and {marked(one.length)} "
                f"long: {area:.2f} m\u00b2 for {{parts}}.",
                tuple(b.id for b in mine),
            )
        )
    return out
