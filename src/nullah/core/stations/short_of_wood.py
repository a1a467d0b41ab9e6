"""Short of wood: what is short and why, and the ways out, each reckoned: boards to buy as they are sold, another wood that is there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence

from nullah.core.document.calls import Call, Change, Option, some, taken
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Board, Choice, Project
from nullah.core.layout.model import Blank, Stock
from nullah.core.layout.search import why_not
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.made import PieceResult
from nullah.core.stations.piece_changes import put
from nullah.core.values.measure import INCH, Unit, marked
from nullah.core.wood.sold_sizes import SOLD_LONG, ToBuy, to_buy
from nullah.core.wood.species import species

Called = Callable[[str], str]
BOUGHT = "bought"  # what the id of a board begins with that is entered as bought


def short_call(result: BreakdownResult, piece: PieceResult, units: Unit, choices: tuple[Choice, ...]) -> Call | None:
    """Once a layout is taken that has no place for some parts: how they come to wood."""
    layout = result.layout
    if layout is None or not layout.unplaced or result.changed:
        return None
    short = [b for b in result.blanks if b.id in layout.unplaced]
    if not short:
        return None
    options = (
        *ways_out(short, result, piece, units),
        Option("later", "settle it later", ("their steps wait for wood",)),
    )
    asked = ", ".join(sorted(b.id for b in short))[:2_000]
    return Call(
        "short",
        "breakdown",
        f"{what_is_short(short, result.stock, piece.called)} {asked_how(options)}",
        options,
        options[0].id,
        "nothing that is laid out changes",
        asked,
        parts=tuple(dict.fromkeys(p for b in short for p in result.rough.gives.get(b.id, (b.id,)))),
        taken=taken("short", options, asked, choices),
    )


def what_is_short(short: Sequence[Blank], stock: Sequence[Stock], called: Called) -> str:
    """What has no place and why, those together for which the reason is the same."""
    because: dict[str, list[str]] = defaultdict(list)
    for blank in short:
        because[why_not(stock, blank)].append(called(blank.id))
    return " ".join(f"No place for {some(names)}: {why}." for why, names in because.items())


def asked_how(options: Sequence[Option]) -> str:
    """The question that follows, by the ways out there are."""
    ways = {o.id.partition(" ")[0] for o in options}
    return f"{'Buy' if 'buy' in ways else 'Wait'}{', take other wood' if 'wood' in ways else ''}, or lay out the rest?"


def ways_out(short: Sequence[Blank], result: BreakdownResult, piece: PieceResult, units: Unit) -> tuple[Option, ...]:
    """Boards to buy for each wood and thickness that is short, all as one option; and other wood that is at hand."""
    lots: dict[tuple[str, float], list[Blank]] = defaultdict(list)
    for blank in short:
        lots[blank.species, blank.thickness].append(blank)
    found: dict[tuple[str, float], ToBuy] = {}
    for (wood, thick), mine in lots.items():
        sizes = [(b.length, b.width) for b in mine]
        one = to_buy(sizes, thick, species(wood).softwood, units, result.options.crosscut_kerf)
        if one is not None:
            found[wood, thick] = one
    options = []
    if len(found) == len(lots):
        told = tuple(said(one, wood, units) for (wood, _), one in found.items())
        options.append(
            Option("buy", f"buy {'; '.join(told)}", ("entered as boards to be laid out on",), _buying(found))
        )
    elif found or lots:
        longest = marked(max(SOLD_LONG[units]))
        options += [
            Option("shorten", "make the parts shorter, or of two lengths", (f"no board is sold longer than {longest}",))
        ]
    return (*options, *_other_wood(short, result, piece))


def said(one: ToBuy, wood: str, units: Unit) -> str:
    """Boards to buy, in words."""
    long = f"{round(one.length / INCH / 12)} ft" if units == "in" else f"{one.length / 1000:g} m"
    many = f"{one.count} boards" if one.count > 1 else "a board"
    return f"{many} of {wood}, {one.name} thick, {marked(one.width)} wide or more, {long} long"


def _buying(found: Mapping[tuple[str, float], ToBuy]) -> Change:
    def change(project: Project) -> Project:
        boards = list(project.boards)
        for (wood, _), one in found.items():
            for _ in range(one.count):
                n = 1 + sum(b.id.startswith(f"{BOUGHT} ") for b in boards)
                size = {"length": one.length, "width": one.width, "thickness": one.thickness}
                boards.append(Board(id=f"{BOUGHT} {n}", name=f"To buy {n}", species=wood, **size))
        return project.model_copy(update={"boards": tuple(boards)})

    return change


def _other_wood(short: Sequence[Blank], result: BreakdownResult, piece: PieceResult) -> list[Option]:
    """Other species of which there are boards that each of the short parts would lie on by its size, one after the other."""
    mine = {b.species for b in short}
    names = dict.fromkeys(p for b in short for p in result.rough.gives.get(b.id, (b.id,)))
    owners = {name: piece.of_part.get(name) for name in names}
    if any(made is None or not isinstance(made.piece, Designed) for made in owners.values()):
        return []
    options = []
    for wood in sorted({s.species for s in result.stock} - mine):
        boards = [s for s in result.stock if s.species == wood]
        if not all(_holds(boards, b) for b in short):
            continue

        def change(project: Project, wood: str = wood) -> Project:
            for name, made in owners.items():
                assert made is not None
                project = put(made.id, ((name.removeprefix(made.prefix), "species", wood),))(project)
            return project

        parts = some([piece.called(p) for p in names])
        options.append(
            Option(f"wood {wood}", f"make {parts} of {wood}", ("a board of it is large enough for each",), change)
        )
    return options[:2]


def _holds(boards: Sequence[Stock], blank: Blank) -> bool:
    return any(
        s.thickness >= blank.thickness and s.x1 - s.x0 >= blank.length and s.y1 - s.y0 >= blank.width for s in boards
    )
