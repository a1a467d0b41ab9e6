"""Piece: from what it must hold to parts, and what to do where a part already cut no longer agrees with the plan."""

from __future__ import annotations

from dataclasses import replace

from nullah.core.calls import Call, Change, Option, taken
from nullah.core.document import BoardLayout, Choice, CutMark, Measured, Piece, Project
from nullah.core.frozen import frozen
from nullah.core.layout.model import leaves
from nullah.core.layout.progress import without_parts
from nullah.core.measure import SAME, at_least, marked
from nullah.core.pieces.box import SIDES, Box, Facts, bottom_size, shape, work_out
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import parts_named
from nullah.core.wood.seasoned import WoodOfParts


@frozen
class PieceResult:
    """The box, what could not be worked out (then the box is that of the piece as last possible, or None), the calls."""

    box: Box | None
    problem: str
    calls: tuple[Call, ...]

    @property
    def parts(self) -> tuple[Part, ...]:
        """All parts; none where the box cannot be worked out."""
        return self.box.parts if self.box else ()


def work(
    piece: Piece,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    choices: tuple[Choice, ...],
    wood: WoodOfParts,
) -> PieceResult:
    """The station: parts and chains from the piece as asked for and what is measured and cut."""
    base = Facts(measured, cut, {}, "tail", wood)
    try:
        groove = _groove_call(piece, base, choices)
        held = {axis: _hold_call(piece, base, axis, choices) for axis in ("length", "width")}
        pairs = {both: _pair_call(both, measured, choices) for both in ("AC", "BD")}
        facts = Facts(
            measured,
            cut,
            {a: c.in_force for a, c in held.items() if c},
            groove.in_force,
            wood,
            {both: c.in_force for both, c in pairs.items() if c},
        )
        box = work_out(piece, facts)
    except ValueError as error:
        return PieceResult(None, str(error), ())
    conflicts = [c for part in box.parts if part.cut and (c := _conflict(piece, part, choices))]
    widths = [c for part in box.sides if (c := _width_call(piece, part, choices))]
    asked = (*pairs.values(), *held.values())
    calls = (*conflicts, *(c for c in asked if c), *widths, groove)
    return PieceResult(box, "", calls)


def _groove_call(piece: Piece, base: Facts, choices: tuple[Choice, ...]) -> Call:
    """Where the bottom's groove runs: a square-cut half pin forces the choice on every through-dovetailed box."""
    at = {place: shape(piece, replace(base, groove=place)) for place in ("tail", "pin")}
    options = (
        Option(
            "tail",
            "inside the lowest tail",
            (
                f"groove {marked(at['tail'].groove_from_edge)} from the edge; height {marked(at['tail'].outside[2])}",
                "through in the ends B and D, stopped in A and C",
            ),
        ),
        Option(
            "pin",
            "inside a wider half pin",
            (
                f"groove {marked(at['pin'].groove_from_edge)} from the edge; height {marked(at['pin'].outside[2])}",
                f"half pins grow to {marked(at['pin'].half_pin)}; through in A and C, stopped in B and D",
            ),
        ),
    )
    asked = f"wall {piece.wall:g}, bottom {piece.bottom_thickness:g}, half pin {piece.half_pin:g}, lid {piece.lid}"
    return Call(
        "groove",
        "joints",
        "Where does the groove for the bottom run?",
        options,
        "tail",
        "the half pins keep their size, and stopping in the two long sides leaves no hole to plug",
        asked,
        differ="Some plough all four right through and plug the holes; some widen the half pin.",
        parts=(*SIDES, "bottom"),
        taken=taken("groove", options, asked, choices),
    )


def _hold_call(piece: Piece, base: Facts, axis: str, choices: tuple[Choice, ...]) -> Call | None:
    """Whether outside or inside stays, when the walls across an axis came out otherwise than planned."""
    pair = ("B", "D") if axis == "length" else ("A", "C")
    said = {m.part: m.thickness for m in base.cut}
    said |= {m.part: m.value for m in base.measured if m.dimension == "thickness"}
    off = {p: said[p] - piece.wall for p in pair if p in said and abs(said[p] - piece.wall) > SAME}
    if not off:
        return None
    i = 0 if axis == "length" else 1
    both = {held: shape(piece, replace(base, hold={axis: held})) for held in ("outside", "inside")}
    ends = "A and C" if axis == "length" else "B and D"
    options = tuple(
        Option(
            held,
            f"hold the {held}",
            (
                f"outside {marked(both[held].outside[i])}, inside {marked(both[held].inside[i])}",
                f"{ends} {marked(both[held].outside[i])} long; bottom {marked(bottom_size(both[held])[i])}",
            ),
        )
        for held in ("outside", "inside")
    )
    thinner = sum(off.values()) < 0
    words = " and ".join(f"{p} at {marked(said[p])}" for p in off)
    asked = f"{words}, planned {piece.wall:g}"
    return Call(
        f"hold {axis}",
        "piece",
        f"{words}, planned {marked(piece.wall)}: is the outside {axis} held, or the inside?",
        options,
        "outside" if thinner else "inside",
        "the walls are thinner: nothing gets tight, and lengths already marked stay good"
        if thinner
        else "the walls are thicker: holding the outside would squeeze the contents",
        asked,
        differ="Hold the inside when something bought must fit; the outside when the place is fixed.",
        parts=(*pair, "bottom"),
        taken=taken(f"hold {axis}", options, asked, choices),
        sets_outside=True,
    )


def _pair_call(pair: str, measured: tuple[Measured, ...], choices: tuple[Choice, ...]) -> Call | None:
    """Two opposite sides that were measured to be of unlike length: the box has one."""
    said = {m.part: m.value for m in measured if m.dimension == "length" and m.part in pair}
    if len(said) < 2 or at_least(min(said.values()), max(said.values())):
        return None
    short, long = sorted(pair, key=lambda p: said[p])
    off = said[long] - said[short]
    options = (
        Option(
            "shorter",
            f"both at {marked(said[short])}",
            (f"{marked(off)} comes off {long}, before its joints are marked", "what goes between follows the shorter"),
        ),
        Option(
            "longer",
            f"both at {marked(said[long])}",
            (f"{short} is made again", f"or stands {marked(off)} short of its mates, and the box is no rectangle"),
        ),
    )
    asked = f"{short} {said[short]:.1f}, {long} {said[long]:.1f}"
    call_id = f"pair {pair}"
    return Call(
        call_id,
        "piece",
        f"{pair[0]} is {marked(said[pair[0]])} long and {pair[1]} {marked(said[pair[1]])}: opposite sides are of one length. "
        "Which holds?",
        options,
        "shorter",
        "wood comes off and does not go on",
        asked,
        parts=(short, long),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


def _width_call(piece: Piece, part: Part, choices: tuple[Choice, ...]) -> Call | None:
    """A side that came out wider or narrower than planned: the other sides follow it, or it stays the odd one."""
    off = part.width - part.planned[1]
    if "width" not in part.measured or abs(off) <= SAME:
        return None
    height = piece.extra_height + off
    options = (
        Option(
            "follow",
            f"all sides follow {part.id}",
            (f"every side and the height change by {marked(off)}",),
            _piece_change({"extra_height": height}),
        ),
        Option(
            "keep",
            "the others stay as planned",
            (f"{part.id} stands {marked(abs(off))} {'proud' if off > 0 else 'low'} at the top edge",),
        ),
    )
    asked = f"{part.id} {part.width:.1f}, planned {part.planned[1]:.1f}"
    call_id = f"width {part.id}"
    return Call(
        call_id,
        "piece",
        f"{part.id} is {marked(part.width)} wide, {marked(part.planned[1])} was planned. Do the other sides follow?",
        options,
        "follow" if off < 0 else "keep",
        "a narrow side cannot be made wider" if off < 0 else "it is planed down to its mates after the glue-up",
        asked,
        parts=(part.id,),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


# ---- conflicts with what is cut

_FOLLOWS = {
    ("A", 0): "extra_length",
    ("C", 0): "extra_length",
    ("B", 0): "extra_width",
    ("D", 0): "extra_width",
    ("A", 1): "extra_height",
    ("B", 1): "extra_height",
    ("C", 1): "extra_height",
    ("D", 1): "extra_height",
}
# thicknesses asked for outright: what follows a part takes its size, not a difference
THICKNESS_FIELD = {
    "sides": "wall",
    "dividers": "divider_thickness",
    "bottom": "bottom_thickness",
    "lid": "lid_thickness",
}
_WORDS = ("length", "width", "thickness")


def without_mark(part: str) -> Change:
    """The change that takes a part's mark as cut away: it is to be made again, from other wood than it was laid on."""

    def change(project: Project) -> Project:
        update: dict[str, object] = {"cut": tuple(m for m in project.cut if m.part != part)}
        if project.layout is not None:
            boards = tuple(without_parts(b, _made_only(part, b)) for b in project.layout.boards)
            update["layout"] = project.layout.model_copy(update={"boards": boards})
            update["done"] = tuple(d for d in project.done if d not in (f"cut {part}", f"true {part}"))
        return project.model_copy(update=update)

    return change


def _made_only(part: str, board: BoardLayout) -> frozenset[str]:
    """What is laid on a board for a part and no other: the part in one piece, or staves of it."""
    laid = {n.part for n in leaves(board.root) if n.use == "part"}
    return frozenset(n for n in laid if part in parts_named(n) and "+" not in n.removeprefix(f"{part} "))


def _conflict(piece: Piece, part: Part, choices: tuple[Choice, ...]) -> Call | None:
    """A part cut to sizes that the plan no longer has."""
    off = [i for i in (0, 1, 2) if abs(part.sizes[i] - part.planned[i]) > SAME and _WORDS[i] not in part.measured]
    if not off:
        return None
    facts = ", ".join(f"{_WORDS[i]} {marked(part.sizes[i])} as cut, {marked(part.planned[i])} in the plan" for i in off)
    options = [
        Option(
            "recut",
            f"cut {part.id} again",
            (
                f"needs {marked(part.planned[0])} x {marked(part.planned[1])} of stock",
                "the first one goes to the offcuts",
            ),
            without_mark(part.id),
        ),
        Option(
            "keep", f"keep {part.id} as it is", ("the plan for the others stays", f"{part.id} will not meet its mates")
        ),
    ]
    update = _following(piece, part, off)
    if update:
        options.insert(
            0,
            Option(
                "follow",
                f"the box follows {part.id}",
                tuple(
                    f"every {_WORDS[i]} like it goes to {marked(part.sizes[i])}" for i in off if 2 not in off or i == 2
                ),
                _piece_change(update),
            ),
        )
    if all(part.sizes[i] >= part.planned[i] - SAME for i in off):
        less = ", ".join(f"{marked(part.sizes[i] - part.planned[i])} off the {_WORDS[i]}" for i in off)
        options.insert(
            0,
            Option(
                "trim",
                f"trim {part.id}",
                (less, "its joints must not lie in what comes off"),
                _marked(part.id, part.planned),
            ),
        )
    asked = facts
    call_id = f"cut {part.id}"
    return Call(
        call_id,
        "piece",
        f"{part.id} is cut: {facts}.",
        tuple(options),
        options[0].id,
        "what is cut stays; no wood is lost" if options[0].id != "recut" else "nothing else makes it meet its mates",
        asked,
        parts=(part.id,),
        conflict=True,
        taken=taken(call_id, tuple(options), asked, choices),
        sets_outside=True,
    )


def _following(piece: Piece, part: Part, off: list[int]) -> dict[str, float]:
    """The fields of the piece that make the plan of a part what it was cut to; none where there are none. A thickness comes first:
    lengths and widths that it brought about go back with it, and what is left is a conflict of its own."""
    if 2 in off:
        return {THICKNESS_FIELD[part.group or part.id]: part.sizes[2]}
    if any((part.id, i) not in _FOLLOWS for i in off):
        return {}
    fields = {_FOLLOWS[part.id, i]: i for i in off}
    return {f: getattr(piece, f) + part.sizes[i] - part.planned[i] for f, i in fields.items()}


def _piece_change(update: dict[str, float]) -> Change:
    return lambda project: project.model_copy(update={"piece": project.piece.model_copy(update=update)})


def _marked(part: str, sizes: tuple[float, float, float]) -> Change:
    def change(project: Project) -> Project:
        mark = CutMark(part=part, length=sizes[0], width=sizes[1], thickness=sizes[2])
        return project.model_copy(update={"cut": (*(m for m in project.cut if m.part != part), mark)})

    return change
