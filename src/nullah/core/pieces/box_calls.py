"""What a dovetailed box asks the maker: where its groove runs, what is held where a wall came out otherwise, which side holds."""

from __future__ import annotations

from collections.abc import Mapping

from nullah.core.document.calls import Call, Change, Option, taken
from nullah.core.document.names import prefix
from nullah.core.document.pieces import Piece
from nullah.core.document.project import Choice, CutMark, Measured, Project
from nullah.core.pieces.box import SIDES, Box, Facts, bottom_size, shape, work_out
from nullah.core.pieces.part import Part
from nullah.core.values.frozen import replace
from nullah.core.values.measure import SAME, at_least, marked
from nullah.core.wood.seasoned import Wood


def worked(
    piece: Piece,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    joints: Mapping[str, Mapping[str, float]],
    choices: tuple[Choice, ...],
    wood: Wood,
) -> tuple[Box, Box, tuple[Call, ...], tuple[Call, ...]]:
    """The box, as it would be were none of its ``joints`` cut, what is asked before its sides' widths are, and the groove's call after
    them; the names of parts are its own, those of calls the project's.

    Raises:
        BoxTooSmall, UnknownSpecies: it cannot be made.
    """
    base = Facts(measured, cut, {}, "tail", wood)
    groove = _groove_call(piece, base, choices)
    held = {axis: _hold_call(piece, base, axis, choices) for axis in ("length", "width")}
    pairs = {both: _pair_call(piece, both, measured, choices) for both in ("AC", "BD")}
    facts = Facts(
        measured,
        cut,
        {a: c.in_force for a, c in held.items() if c},
        groove.in_force,
        wood,
        {both: c.in_force for both, c in pairs.items() if c},
        joints,
    )
    box = work_out(piece, facts)
    planned = work_out(piece, replace(facts, joints={})) if joints else box
    widths = [c for part in box.sides if (c := _width_call(piece, part, choices))]
    return box, planned, tuple(c for c in (*pairs.values(), *held.values()) if c), (*widths, groove)


def named(piece: Piece, names: tuple[str, ...]) -> tuple[str, ...]:
    """Names of the box's parts as the project has them."""
    return tuple(f"{prefix(piece.id)}{n}" for n in names)


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
    call_id = f"{prefix(piece.id)}groove"
    return Call(
        call_id,
        "joints",
        "Where does the groove for the bottom run?",
        options,
        "tail",
        "the half pins keep their size, and stopping in the two long sides leaves no hole to plug",
        asked,
        differ="Some plough all four right through and plug the holes; some widen the half pin.",
        parts=named(piece, (*SIDES, "bottom")),
        taken=taken(call_id, options, asked, choices),
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
    call_id = f"{prefix(piece.id)}hold {axis}"
    return Call(
        call_id,
        "piece",
        f"{words}, planned {marked(piece.wall)}: is the outside {axis} held, or the inside?",
        options,
        "outside" if thinner else "inside",
        "the walls are thinner: nothing gets tight, and lengths already marked stay good"
        if thinner
        else "the walls are thicker: holding the outside would squeeze the contents",
        asked,
        differ="Hold the inside when something bought must fit; the outside when the place is fixed.",
        parts=named(piece, (*pair, "bottom")),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


def _pair_call(piece: Piece, pair: str, measured: tuple[Measured, ...], choices: tuple[Choice, ...]) -> Call | None:
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
    call_id = f"{prefix(piece.id)}pair {pair}"
    return Call(
        call_id,
        "piece",
        f"{pair[0]} is {marked(said[pair[0]])} long and {pair[1]} {marked(said[pair[1]])}: opposite sides are of one length. "
        "Which holds?",
        options,
        "shorter",
        "wood comes off and does not go on",
        asked,
        parts=named(piece, (short, long)),
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
            changed(piece, {"extra_height": height}),
        ),
        Option(
            "keep",
            "the others stay as planned",
            (f"{part.id} stands {marked(abs(off))} {'proud' if off > 0 else 'low'} at the top edge",),
        ),
    )
    asked = f"{part.id} {part.width:.1f}, planned {part.planned[1]:.1f}"
    call_id = f"{prefix(piece.id)}width {part.id}"
    return Call(
        call_id,
        "piece",
        f"{part.id} is {marked(part.width)} wide, {marked(part.planned[1])} was planned. Do the other sides follow?",
        options,
        "follow" if off < 0 else "keep",
        "a narrow side cannot be made wider" if off < 0 else "it is planed down to its mates after the glue-up",
        asked,
        parts=named(piece, (part.id,)),
        taken=taken(call_id, options, asked, choices),
        sets_outside=True,
    )


# ---- what follows a part that is cut

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


def following(piece: Piece, part: Part, off: list[int]) -> Mapping[str, float]:
    """The fields of the piece that make the plan of a part what it was cut to; none where there are none. A thickness comes first:
    lengths and widths that it brought about go back with it, and what is left is a conflict of its own."""
    if 2 in off:
        return {THICKNESS_FIELD[part.group or part.id]: part.sizes[2]}
    if any((part.id, i) not in _FOLLOWS for i in off):
        return {}
    fields = {_FOLLOWS[part.id, i]: i for i in off}
    return {f: getattr(piece, f) + part.sizes[i] - part.planned[i] for f, i in fields.items()}


def changed(piece: Piece, update: Mapping[str, object]) -> Change:
    """The change that sets fields of this box."""

    def change(project: Project) -> Project:
        now = next((p for p in project.pieces if p.id == piece.id and isinstance(p, Piece)), piece)
        return project.model_copy(update={"piece": now.model_copy(update=dict(update))})

    return change
