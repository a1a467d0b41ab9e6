"""The joints of a dovetailed box: corners, grooves, dadoes, the lid's rabbet, and how the maker likes to cut them."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.names import prefix
from nullah.core.document.pieces import Piece
from nullah.core.document.project import Choice, Kit
from nullah.core.joints import dovetail, grooves
from nullah.core.joints.dovetail_template import Groovings, template
from nullah.core.joints.dovetail_ways import COPING_OR_CHOPPING, SETTING_OUT, SLOPES, TAILS_OR_PINS, WASTE, Ways
from nullah.core.marking.family import School
from nullah.core.marking.plan import JointPlan, Template, counted, places_of
from nullah.core.pieces.box import LID_FREE, LID_WAY_IN, SEEN_FROM_INSIDE, SIDES, Box
from nullah.core.pieces.box_calls import changed, named
from nullah.core.values.frozen import replace
from nullah.core.values.measure import marked
from nullah.core.wood.species import species

# figures of a corner that come straight from what is asked, and the names they are asked by
ASKED = {"tails": "tails", "pin": "pin", "half pin": "half_pin", "slope": "slope"}
PROUD = {"proud": 0.3, "flush": 0.0, "under": -0.3}


BASELINES_OF_A_BOX = School(
    "baselines",
    "Are the baselines gauged over, on, or under the mate's thickness?",
    "every size downstream stays what it says",
    "Most plane proud ends flush; some plane the sides down.",
)
FIRST_OF_A_BOX = replace(
    TAILS_OR_PINS,
    question="Tails first, or pins first?",
    why="the most repeatable for few boards",
    differ="Both schools make sound boxes; keep to the one your hands know.",
)

AsCut = Mapping[str, Mapping[str, float]]  # what joints that are cut were cut to, by joint and figure


def joints_of(piece: Piece, kit: Kit, box: Box, proud: float, ways: Ways, as_cut: AsCut) -> tuple[JointPlan, ...]:
    """Every joint of the box, by the box's own names; those that are cut as they were cut. ``ways``: how the hand goes about corners.

    Raises:
        NoDovetail: a corner cannot be laid out.
    """
    found: list[JointPlan] = []
    layouts = {}
    for name, tail, pin, width in corners(box):
        held = as_cut.get(f"corner {name}", {})
        layouts[name] = layout = corner_layout(piece, box, tail, pin, width, held)
        slot = box.part(tail).width - layout.width
        lines = (
            held.get(f"baseline on {tail}", layout.mating + proud),
            held.get(f"baseline on {pin}", layout.own + proud),
        )
        ends = (_end(tail, pin), _end(pin, tail))
        length = box.part(tail).length
        found.append(dovetail.plan(name, tail, pin, layout, lines, kit.chisels, ways, slot, ends, length))
    edge, thick = box.groove_from_edge, box.bottom_thickness
    sides = grooves.Sides(box.thickness, {p.id: (p.length, p.width) for p in box.sides}, SEEN_FROM_INSIDE)
    bottom = as_cut.get("bottom groove", {})
    wide = bottom.get("width", thick)
    places = {dovetail.groove_place(j, edge, edge + wide) for j in layouts.values()}
    found.append(_groove("bottom groove", "bottom", wide, edge, "lower", ("B", "D"), places, box, sides, kit))
    if box.dado_centres:
        names = tuple(p.id for p in box.parts if p.group == "dividers")
        thicknesses = dict(zip(names, box.divider_thicknesses, strict=True))
        widths = {n: as_cut.get("dadoes", {}).get(f"width {n}", t) for n, t in thicknesses.items()}
        found.append(
            grooves.dadoes(
                widths,
                box.dado_depth,
                tuple(c + (widths[n] - thicknesses[n]) / 2 for n, c in zip(names, box.dado_centres, strict=True)),
                ("A", "C"),
                "D",
                sides,
                edge + thick,
                kit.router_plane,
            )
        )
    if piece.lid == "sliding":
        far = layouts["A-D"]
        lid_edge, lid_t = box.lid_from_edge, as_cut.get("lid groove", {}).get("width", box.lid_thickness)
        lower = far.width - lid_edge - lid_t
        place = {dovetail.groove_place(far, lower, lower + lid_t)}
        found.append(_groove("lid groove", "lid", lid_t, lid_edge, "upper", ("D",), place, box, sides, kit, LID_WAY_IN))
    elif piece.lid == "lift-off":
        lid = box.part("lid")
        size = (lid.length, lid.width, lid.thickness)
        rabbet = as_cut.get("lid rabbet", {})
        at_ends, along = lid_rabbet_widths(box)
        round_it = (rabbet.get("width at the ends", at_ends), rabbet.get("width along the edges", along))
        deep = rabbet.get("depth", lid.thickness / 2)
        found.append(grooves.lid_rabbet("lid", size, *round_it, deep, kit.rabbet_plane))
    by_id = {j.id: j for j in found}
    sizes = {p.id: p.sizes for p in box.parts}
    out = []
    for joint in found:
        laid = layouts.get(joint.id.removeprefix("corner "))
        mine = () if laid is None else (_template(piece, box, by_id, joint, laid),)
        where = places_of(joint.cuts, sizes.__getitem__)
        out.append(replace(joint, templates=mine, places=where))  # what a fence or a gauge sets needs no template
    return tuple(out)


def corners(box: Box) -> tuple[tuple[str, str, str, float], ...]:
    """(name, tail board, pin board, joint width mm) of the four corners: A-B, C-B, C-D, A-D."""
    low = box.part("B").width
    high = box.outside[2]
    return (("A-B", "A", "B", low), ("C-B", "C", "B", low), ("C-D", "C", "D", high), ("A-D", "A", "D", high))


def corner_layout(
    piece: Piece, box: Box, tail: str, pin: str, width: float, as_cut: Mapping[str, float] | None = None
) -> dovetail.Dovetail:
    """One corner by dividers, from the parts' thicknesses as they are, or as it was cut to.

    Raises:
        NoDovetail: there is no room for the tails.
    """
    held = as_cut or {}
    width, half, mouth = held.get("width", width), held.get("half pin", box.half_pin), held.get("pin", piece.pin)
    tails = int(held.get("tails", piece.tails)) or dovetail.suited_tails(width, half, mouth)
    run = held.get("slope", box.run)
    return dovetail.lay_out(width, tails, mouth, half, run, box.thickness[pin], box.thickness[tail])


def _template(
    piece: Piece, box: Box, by_id: dict[str, JointPlan], joint: JointPlan, layout: dovetail.Dovetail
) -> Template:
    """The template of a corner on its tail board; corners laid out alike share it."""
    tail, pin = joint.parts
    base, slot = joint.figures[f"baseline on {tail}"], box.part(tail).width - layout.width
    lie = _groovings(piece, by_id, box, tail, pin)
    title = f"Tails, {joint.id}: on {tail}"
    return Template(title, (layout, lie, base, slot), partial(template, layout, tail, pin, base, slot, lie))


def _groovings(piece: Piece, place: dict[str, JointPlan], box: Box, tail: str, pin: str) -> Groovings:
    """The grooves of a tail board at its end: (low, high, where it begins from the end, name) each, mm."""
    out = []
    height = box.part(tail).width
    stop = box.thickness[pin] * grooves.STOP
    for name, low, thick in (
        ("bottom groove", box.groove_from_edge, box.bottom_thickness),
        ("lid groove", height - box.lid_from_edge - box.lid_thickness, box.lid_thickness),
    ):
        if name == "lid groove" and piece.lid != "sliding":
            continue
        stopped = name not in place or tail in place[name].stopped
        runs_out = name == "lid groove" and pin == LID_WAY_IN
        out.append((low, low + thick, stop if stopped and not runs_out else 0.0, name))
    return tuple(out)


def _end(part: str, mate: str) -> str:
    """The end of a side at its mate, as one looks at its outside face."""
    return "left" if SEEN_FROM_INSIDE[part][1] == mate else "right"


def lid_rabbet_widths(box: Box) -> tuple[float, float]:
    """Width of a lift-off lid's rabbet at its ends and along its edges, mm: the wall and its clearance, and across the grain half of
    what the lid still grows, so that it does not jam in the wettest month."""
    t = box.thickness
    grows = max(0.0, box.panel_growth["lid"][1])
    return max(t["B"], t["D"]) + LID_FREE, max(t["A"], t["C"]) + LID_FREE + grows / 2


def _groove(
    name: str,
    panel: str,
    thick: float,
    from_edge: float,
    edge: str,
    pin_boards: tuple[str, ...],
    places: set[str],
    box: Box,
    sides: grooves.Sides,
    kit: Kit,
    open_at: str = "",
) -> JointPlan:
    tail_boards = ("A", "C")
    place = next(iter(places)) if len(places) == 1 else "across a line"
    through: tuple[str, ...]
    stopped: tuple[str, ...]
    if place == "inside a tail":
        through, stopped = pin_boards, tail_boards
    elif place == "inside a pin":
        through, stopped = tail_boards, pin_boards
    else:
        through, stopped = (), tail_boards + pin_boards
    depth = box.groove_depth
    return grooves.groove(
        name,
        panel,
        thick,
        depth,
        from_edge,
        edge,
        through,
        stopped,
        sides,
        place,
        kit.plough,
        kit.chisels,
        kit.plough_irons,
        kit.plough_deepest,
        open_at,
    )


def proud_call(piece: Piece, box: Box, choices: tuple[Choice, ...]) -> Call:
    """Baselines dead on the mate's thickness, a hair over or a hair under."""
    t = box.thickness["A"]
    ways = (
        ("proud", "a hair over", f"ends stand {marked(PROUD['proud'])} proud and are planed flush"),
        ("flush", "dead on", "nothing to clean up, if the gauge is"),
        (
            "under",
            "a hair under",
            f"long grain is planed down to the ends: the box shrinks {marked(PROUD['proud'])} a side",
        ),
    )
    options = tuple(
        Option(name, label, (f"gauge {marked(t + PROUD[name])} for {marked(t)} stock", what))
        for name, label, what in ways
    )
    return _asked(piece, "baseline", BASELINES_OF_A_BOX, options, "flush", choices)


def ways_calls(piece: Piece, box: Box, choices: tuple[Choice, ...]) -> tuple[Ways, tuple[Call, ...]]:
    """How the hand goes about the corners, and what is asked about it: tails or pins first, how they are set out, how the waste comes
    out."""
    saws = 2 * len(corners(box))
    first = (
        Option(
            "tails",
            "tails first",
            ("A and C are sawn together, one layout for both", f"{saws} layouts become {saws // 2}"),
        ),
        Option(
            "pins",
            "pins first",
            ("the pins trace the tails: easy to hold on wide boards", "every board is laid out by itself"),
        ),
    )
    lay = corner_layout(piece, box, "A", "D", box.outside[2])
    low, high = box.groove_from_edge, box.groove_from_edge + box.bottom_thickness
    kept = f"the lowest tail covers the groove, {marked(low)} to {marked(high)} up"
    covers = dovetail.groove_place(lay, low, high) == "inside a tail"
    set_out = (
        Option("dividers", "with dividers", (f"{counted(lay.tails, 'tail')}: dividers at {marked(lay.step)}",)),
        Option("rule", "with a rule", (f"pins read off, {marked(lay.step)} middle to middle",)),
        Option("eye", "by eye", (kept,) if covers else ("nothing is set but the half pins",)),
    )
    found = [_asked(piece, "school", FIRST_OF_A_BOX, first, "tails", choices, "school")]
    if lay.tails > 1:
        found.append(_asked(piece, "set out", SETTING_OUT, set_out, "dividers", choices))
    waste = tuple(Option(way, way, COPING_OR_CHOPPING.comes_to(way)) for way in WASTE.options)
    found.append(_asked(piece, "waste", COPING_OR_CHOPPING, waste, "coping saw", choices))
    if not piece.slope or any(c.call == f"{prefix(piece.id)}slope" for c in choices):  # else its maker has typed one
        found.append(_slope_call(piece, covers, choices))
    said = {c.id.removeprefix(prefix(piece.id)): c.in_force for c in found}
    return Ways(said["school"], said.get("set out", "dividers"), said["waste"]), tuple(found)


def _slope_call(piece: Piece, covers: bool, choices: tuple[Choice, ...]) -> Call:
    """The slope by the wood of the sides, or another."""
    moves = ("the groove moves with it, to stay inside the lowest tail",) if covers else ()
    options = tuple(
        Option(
            way,
            SLOPES.spoken.format(way),
            (*SLOPES.comes_to(way), *moves),
            changed(piece, {"slope": float(way)}),
        )
        for way in SLOPES.ways
    )
    usual = f"{species(piece.wall_species).slope:g}"
    return _asked(piece, "slope", SLOPES, options, usual, choices, piece.wall_species)


def _asked(
    piece: Piece,
    name: str,
    school: School,
    options: tuple[Option, ...],
    usual: str,
    choices: tuple[Choice, ...],
    asked: str = "",
) -> Call:
    """A matter of school as the box asks it, once for its four corners; ``asked``: what it rests on."""
    call_id, asked = f"{prefix(piece.id)}{name}", asked or school.ask
    return Call(
        call_id,
        "joints",
        school.question,
        options,
        usual,
        school.why,
        asked,
        differ=school.differ,
        parts=named(piece, SIDES),
        taken=taken(call_id, options, asked, choices),
        taste=True,
    )
