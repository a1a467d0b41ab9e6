"""A small table: four legs that may taper, aprons tenoned into them, a top; with a drawer in a frame of its own, if wanted.

Legs are named by where they stand: front or back, left or right. One rod for each line across the piece, since its legs may come out
unlike: front, back, left and right, each held to the same total.
"""

from __future__ import annotations

from nullah.core.marking.plan import Check
from nullah.core.pieces.kind import WOODS, Answers, Grows, Kind, Proportion, moves_in_slots, of_woods
from nullah.core.pieces.sizes import Sizes
from nullah.core.pieces.table_drawer import (
    APRON,
    BITE,
    CLEAR,
    RAIL,
    RUNNER,
    SET_BACK,
    UPRIGHT,
    apron_thick,
    beside_leg,
    drawer,
    rails,
    screwed,
    strip,
    within,
)
from nullah.core.shaping.arris import EASED, eased
from nullah.core.values.ask import Ask
from nullah.core.values.design import (
    Along,
    Design,
    Frame,
    JointDesign,
    Mark,
    NoPiece,
    PartDesign,
    Rod,
    Squared,
    Sum,
    between,
    from_mark,
    mm,
    of,
    up_to,
)
from nullah.core.values.measure import at_least, marked

BELOW = 6.0  # mm a taper starts below the apron (1/4", common practice)
SLOT = 12.0  # mm: slots of the screws that hold the top
SCREW = 4.0  # mm
LEAST_BETWEEN = 20.0  # mm between what is screwed inside the side aprons
LEAST_OPENING = 110.0  # mm between the legs, for a drawer and its two stops
CORNERS = {"fl": "front left leg", "fr": "front right leg", "bl": "back left leg", "br": "back right leg"}

ASKS = (
    Ask("length", "length of the top", "length", 600.0, 150.0, 3000.0),
    Ask("width", "width of the top", "length", 420.0, 150.0, 2000.0),
    Ask("height", "height", "length", 700.0, 150.0, 1500.0),
    Ask("leg", "thickness of the legs", "length", 42.0, 20.0, 150.0),
    Ask("foot", "thickness of the legs at the foot; as the leg: no taper", "length", 25.0, 10.0, 150.0),
    Ask("apron", "width of the aprons", "length", 110.0, 40.0, 400.0),
    Ask("top", "thickness of the top", "length", 20.0, 8.0, 80.0),
    Ask("overhang", "overhang of the top", "length", 30.0, 0.0, 400.0),
    Ask("drawer", "a drawer in the front", "yesno", False),
    EASED,
    *WOODS,
)


def design(asked: Answers) -> Design:
    """The table as asked for."""
    inner = asked["length"] - 2 * asked["overhang"] - 2 * (SET_BACK + APRON + RUNNER)
    if inner < LEAST_BETWEEN:
        raise NoPiece(
            f"A table {marked(asked['length'])} long has no room between its sides; make it longer or its overhang less."
        )
    if asked["foot"] > asked["leg"]:
        raise NoPiece(f"A foot of {marked(asked['foot'])} is thicker than its leg, {marked(asked['leg'])}.")
    opening = asked["length"] - 2 * asked["overhang"] - 2 * asked["leg"]
    if asked["drawer"] and LEAST_BETWEEN < opening < LEAST_OPENING:
        raise NoPiece(
            f"An opening of {marked(opening)} is too narrow for a drawer; {marked(LEAST_OPENING)} is the least."
        )
    rods = _rods(asked)
    parts, joints = _frame(asked)
    frames: tuple[Frame, ...] = ()
    if asked["drawer"]:
        drawer_rods, drawer_parts, drawer_joints, frames = drawer()
        rods, parts, joints = rods + drawer_rods, parts + drawer_parts, joints + drawer_joints
    return of_woods(
        Design(tuple(rods), tuple(parts), tuple(joints), frames, (Squared("frame", ("front", "left")),)), asked
    )


def _rods(asked: Answers) -> list[Rod]:
    over = asked["overhang"]
    rods = []
    for name, axis, ask, (first, second), what in (
        ("front", "x", "length", ("fl", "fr"), "width"),
        ("back", "x", "length", ("bl", "br"), "width"),
        ("left", "y", "width", ("fl", "bl"), "thickness"),
        ("right", "y", "width", ("fr", "br"), "thickness"),
    ):
        total = mm(f"{ask} of the top", asked[ask], ask) + mm("overhang", over, "overhang", -2.0)
        rods.append(
            Rod(
                name,
                f"{name.capitalize()}, over the legs",
                axis,
                (
                    Mark("start"),
                    Mark("inside-first", of(CORNERS[first], f"leg-{first}", what)),
                    Mark("inside-second", gives=1.0, clear=True, label="between the legs"),
                    Mark("end", of(CORNERS[second], f"leg-{second}", what)),
                ),
                total,
                hold="inside-second",
                same=({"front": "back", "back": "front", "left": "right", "right": "left"}[name],),
            )
        )
    upright = [Mark("floor"), Mark("apron-low", gives=1.0, label="floor to apron")]
    if asked["drawer"]:
        upright += [
            Mark("rail-low", of("lower rail", "rail-lower", "thickness")),
            Mark(
                "rail-high",
                mm("apron", asked["apron"], "apron")
                + of("rails", "rail-lower", "thickness", -1.0)
                + of("", "rail-upper", "thickness", -1.0),
            ),
            Mark("apron-high", of("upper rail", "rail-upper", "thickness")),
        ]
    else:
        upright.append(Mark("apron-high", mm("apron", asked["apron"], "apron")))
    upright.append(Mark("top", of("top", "top", "thickness")))
    rods.append(Rod("height", "Height", "z", tuple(upright), mm("height", asked["height"], "height")))
    rods.append(
        Rod(
            "top-length",
            "Length of the top",
            "x",
            (
                Mark("left", mm("overhang", over, "overhang", -1.0)),
                Mark("right", mm("length of the top", asked["length"], "length")),
            ),
        )
    )
    rods.append(
        Rod(
            "top-width",
            "Width of the top",
            "y",
            (
                Mark("front", mm("overhang", over, "overhang", -1.0)),
                Mark("back", mm("width of the top", asked["width"], "width")),
            ),
        )
    )
    return rods


def _frame(asked: Answers) -> tuple[list[PartDesign], list[JointDesign]]:
    """Legs, aprons or rails, the top, and what holds them."""
    parts: list[PartDesign] = []
    joints: list[JointDesign] = []
    leg = mm("leg", asked["leg"], "leg")
    for name, (x_rod, x_end, y_rod, y_end) in {
        "fl": ("front", "start", "left", "start"),
        "fr": ("front", "end", "right", "start"),
        "bl": ("back", "start", "left", "end"),
        "br": ("back", "end", "right", "end"),
    }.items():
        parts.append(
            PartDesign(
                f"leg-{name}",
                CORNERS[name],
                "front",
                "left",
                between("height", "floor", "apron-high"),
                _at(x_rod, x_end, leg),
                _at(y_rod, y_end, leg),
                group="legs",
                show_face="front",
            )
        )
    aprons = [("back", "bl", "br"), ("left", "fl", "bl"), ("right", "fr", "br")]
    if asked["drawer"]:
        rails(asked, parts, joints)
    else:
        aprons.insert(0, ("front", "fl", "fr"))
    for side, first, second in aprons:
        parts.append(_apron(asked, side))
        across = side in ("front", "back")
        for corner, way in ((first, "left" if across else "front"), (second, "right" if across else "back")):
            joints.append(
                JointDesign(
                    f"tenon-{side}-{corner}", "mortise_and_tenon", f"apron-{side}", f"leg-{corner}", way, set="aprons"
                )
            )
    if asked["foot"] < asked["leg"]:
        start = asked["apron"] + BELOW
        for name, faces in (("fl", "right back"), ("fr", "left back"), ("bl", "right front"), ("br", "left front")):
            asks = {"faces": faces, "foot": asked["foot"], "start": start}
            joints.append(JointDesign(f"taper-{name}", "taper", f"leg-{name}", "", "down", asks, set="tapers"))
    parts.append(
        PartDesign(
            "top",
            "top",
            "up",
            "back",
            between("top-length", "left", "right"),
            between("top-width", "front", "back"),
            up_to("height", "top", mm("top", asked["top"], "top")),
            show_face="upper",
        )
    )
    joints += eased("top", asked["edge"], asked["top"], asked["overhang"])
    _held_down(asked, parts, joints)
    return parts, joints


def _at(rod: str, end: str, size: Sum) -> Along:
    """A leg at the start or at the end of a rod."""
    return from_mark(rod, "start", size) if end == "start" else up_to(rod, "end", size)


def _apron(asked: Answers, side: str) -> PartDesign:
    """An apron between its two legs, set back from their faces."""
    thick, back = mm("apron", apron_thick(asked)), mm("set back", SET_BACK)
    through = {
        "front": from_mark("left", "start", thick, back),
        "back": up_to("left", "end", thick, mm("set back", -SET_BACK)),
        "left": from_mark("front", "start", thick, back),
        "right": up_to("front", "end", thick, mm("set back", -SET_BACK)),
    }[side]
    return PartDesign(
        f"apron-{side}",
        f"{side} apron",
        side,
        "up",
        between(side, "inside-first", "inside-second"),
        between("height", "apron-low", "apron-high"),
        through,
        group="aprons",
    )


def _held_down(asked: Answers, parts: list[PartDesign], joints: list[JointDesign]) -> None:
    """Cleats inside the side aprons, or the kickers of a drawer, that the top is screwed to from below, in slots."""
    has_drawer = asked["drawer"]
    for side in ("left", "right"):
        name = f"kicker-{side}" if has_drawer else f"cleat-{side}"
        thick = mm("kicker" if has_drawer else "cleat", RAIL)
        wide = mm("wide", RUNNER)
        if has_drawer:
            from_x = beside_leg(side, wide)
            lies = between(side, "start", "inside-second", of("upper rail", "rail-upper", "width"))
        else:
            edge = within(side, 1.0) if side == "left" else within(side, -1.0)
            from_x = from_mark("front", "start", wide, edge) if side == "left" else up_to("front", "end", wide, edge)
            lies = between(side, "inside-first", "inside-second")
        label = f"{side} {'kicker' if has_drawer else 'cleat'}"
        group = "kickers" if has_drawer else "cleats"
        parts.append(strip(name, label, "left", lies, from_x, up_to("height", "apron-high", thick), group))
        joints.append(screwed(name, "top", "up", {"slotted": True, "long": RAIL + 13.0}, "to the top", f"{name}-top"))
        beside = f"doubler-{side}" if has_drawer else f"apron-{side}"
        joints.append(screwed(name, beside, side, {"long": RUNNER + BITE}, "beside"))


def _upright(sizes: Sizes, grows: Grows) -> list[tuple[float, float]]:
    """How far each upright part of the drawer reaches up, and what it grows there by the wettest month, mm."""
    found = []
    for part in (sizes.design.part(p) for p in UPRIGHT if sizes.has(p)):
        wide = sizes.size(part.id)[1]
        low = sizes.rods.marks("drawer-high")["bottom-high"] if part.id == "drawer-back" else 0.0
        found.append((low + wide, max(0.0, grows(part.id, part.species, wide)[1])))
    return found


def checks(asked: Answers, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether the drawer still opens in the wettest month, and the slots under the top let it move."""
    found = list(moves_in_slots("top", SLOT - SCREW, sizes, grows))
    if sizes.has("drawer-front"):
        opening = sizes.value_of("height", "rail-high") - sizes.value_of("height", "rail-low")
        above, wet = min(((opening - high, wet) for high, wet in _upright(sizes, grows)), key=lambda r: r[0] - r[1])
        found.append(
            Check(
                at_least(above, wet + CLEAR),
                f"{marked(above)} above the drawer, which grows {marked(wet)} by the wettest month",
            )
        )
    return tuple(found)


SMALL_TABLE = Kind(
    "small_table",
    "A small table: legs that may taper, aprons tenoned into them, a top; with or without a drawer.",
    ASKS,
    "A top {length} by {width} and {top} thick, {height} high, over the legs by {overhang}; "
    "legs {leg}, {foot} at the foot; aprons {apron} wide; a drawer: {drawer}; the edges of the top {edge}; "
    "of {wood}, inside of {secondary_wood}.",
    design,
    checks,
    teaches="Mortises and tenons that meet, tapers planed to a line, a top that is let move; a drawer fitted by shavings.",
    proportions=(Proportion("width", "length", "The top's width to its length"),),
)
