"""A platform fitted to a space: a top on a rail at one end and on a leg in a rabbet at the other; screwed, so that it may give."""

from __future__ import annotations

from nullah.core.marking.plan import Check
from nullah.core.pieces.kind import WOOD, Answers, Grows, Kind, Use, moves_in_slots, of_woods
from nullah.core.pieces.sizes import Sizes
from nullah.core.values.ask import Ask
from nullah.core.values.design import (
    Along,
    Answer,
    Design,
    JointDesign,
    Mark,
    NoPiece,
    PartDesign,
    Rod,
    between,
    from_mark,
    mm,
    of,
    up_to,
)
from nullah.core.values.measure import at_least, marked

FOOT = (25.0, 110.0)  # mm thick and wide
RAIL = (25.0, 60.0)  # mm thick and wide
CLEAT = 25.0  # mm square
INSET = 20.0  # mm the leg and what holds the top stand back from its edges
SLOT, SCREW = 12.0, 4.0  # mm
LEAST_UNDER = 60.0  # mm
LEAST_LONG = 200.0  # mm

ASKS = (
    Ask("length", "length of the space", "length", 900.0, 300.0, 3000.0),
    Ask("width", "reach, from the wall", "length", 450.0, 150.0, 1500.0),
    Ask("height", "height wanted", "length", 420.0, 120.0, 1500.0),
    Ask("stock", "thickness of top and leg", "length", 22.0, 12.0, 80.0),
    Ask("clear", "clearance to what stands fixed", "length", 4.0, 0.0, 30.0),
    Ask("notch", "width of what is cut round at the wall; 0: nothing", "length", 0.0, 0.0, 2000.0),
    Ask("notch_deep", "how far that comes forward", "length", 60.0, 5.0, 1000.0),
    Ask("load", "load it is to bear, kg", "number", 100.0, 0.0, 1000.0),
    WOOD,
)


def design(asked: Answers) -> Design:
    """The platform as asked for."""
    stock, clear = asked["stock"], asked["clear"]
    if asked["length"] - 2 * clear < LEAST_LONG + stock:
        raise NoPiece(
            f"A space {marked(asked['length'])} long leaves no room for a platform; {marked(LEAST_LONG)} is the least."
        )
    if asked["height"] - stock - FOOT[0] < LEAST_UNDER:
        raise NoPiece(f"At {marked(asked['height'])} there is no room for a leg; make it higher, or the stock thinner.")
    thick = mm("stock", stock, "stock")
    across = between("width", "front", "back", mm("set back", INSET), mm("set back", -INSET))
    parts = [
        PartDesign(
            "top",
            "top",
            "up",
            "back",
            between("length", "left", "right"),
            between("width", "front", "back"),
            up_to("height", "top", thick),
            show_face="upper",
        ),
        PartDesign(
            "leg", "leg", "right", "back", between("height", "foot", "under"), across, up_to("length", "right", thick)
        ),
        PartDesign(
            "foot",
            "foot",
            "up",
            "right",
            across,
            up_to("length", "right", mm("foot", FOOT[1])),
            from_mark("height", "floor", mm("foot", FOOT[0])),
            role="inside",
        ),
        _strip(
            "cleat",
            across,
            up_to("length", "leg-inside", mm("cleat", CLEAT)),
            up_to("height", "under", mm("cleat", CLEAT)),
        ),
        PartDesign(  # on edge, as it bears
            "rail",
            "rail",
            "left",
            "up",
            across,
            up_to("height", "under", mm("rail", RAIL[1])),
            from_mark("length", "left", mm("rail", RAIL[0])),
            role="inside",
        ),
    ]
    slots: dict[str, Answer] = {"slotted": True, "slot": SLOT, "screw": SCREW}
    bites = min(stock, 25.0) - 6.0
    joints = [
        JointDesign("rabbet", "rabbet", "leg", "top", "up", {"fixed": "dry"}),
        JointDesign("cleat-top", "butt_screws", "cleat", "top", "up", {**slots, "long": CLEAT + bites}, "to the top"),
        JointDesign(
            "cleat-leg", "butt_screws", "cleat", "leg", "right", {**slots, "long": CLEAT + bites}, "to the leg"
        ),
        JointDesign("rail-top", "butt_screws", "rail", "top", "up", {**slots, "long": RAIL[1] + bites}, "to the rail"),
        JointDesign(
            "foot-leg",
            "butt_screws",
            "foot",
            "leg",
            "up",
            {**slots, "long": FOOT[0] + 45.0, "screw": 5.0},
            "to the foot",
        ),
    ]
    if asked["notch"]:
        cut: dict[str, Answer] = {"wide": asked["notch"] + 2 * clear, "deep": asked["notch_deep"], "radius": 15.0}
        joints.append(JointDesign("notch", "cut_out", "top", "", "back", cut))
    return of_woods(Design(tuple(_rods(asked)), tuple(parts), tuple(joints)), asked)


def _strip(part_id: str, along: Along, across: Along, through: Along) -> PartDesign:
    """A strip under the top, from front to back."""
    return PartDesign(part_id, part_id, "up", "right", along, across, through, role="inside")


def _rods(asked: Answers) -> list[Rod]:
    clear = mm("clearance", asked["clear"], "clear")
    return [
        Rod(
            "length",
            "Length of the space",
            "x",
            (
                Mark("space"),
                Mark("left", clear),
                Mark("leg-inside", gives=1.0, clear=True, label="to the leg"),
                Mark("right", of("leg", "leg", "thickness")),
                Mark("end", clear),
            ),
            mm("space", asked["length"], "length"),
        ),
        Rod(
            "width",
            "Reach from the wall",
            "y",
            (Mark("front"), Mark("back", gives=1.0, label="top"), Mark("wall", clear)),
            mm("reach", asked["width"], "width"),
        ),
        Rod(
            "height",
            "Height",
            "z",
            (
                Mark("floor"),
                Mark("foot", of("foot", "foot", "thickness")),
                Mark("under", gives=1.0, clear=True, label="under the top"),
                Mark("top", of("top", "top", "thickness")),
            ),
            mm("height", asked["height"], "height"),
        ),
    ]


def checks(asked: Answers, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether the top has room at the wall, and its slots let it move."""
    if not sizes.has("top"):
        return ()
    wet = max(0.0, grows("top", sizes.design.part("top").species, sizes.size("top")[1])[1])
    words = f"the top grows {marked(wet)} by the wettest month; {marked(asked['clear'])} is clear at the wall"
    return (Check(at_least(asked["clear"], wet), words), *moves_in_slots("top", SLOT - SCREW, sizes, grows))


def use(asked: Answers) -> Use:
    """Where it goes in, and what it is to bear."""
    span = asked["length"] - 2 * asked["clear"] - asked["stock"]
    return Use(
        "Fit it to its place",
        f"Measure the space again before the last cut. The top spans {marked(span)} and is to bear {asked['load']:g} kg: "
        "load it by so much and look at it before anyone trusts it; whether it bears that for years is not reckoned here.",
        (
            "Fix the rail into studs or sound masonry: the weakest fixing decides what it bears.",
            "Where people sit, lie or stand on it, local codes and licensed practice decide.",
        ),
    )


PLATFORM = Kind(
    "platform",
    "A platform fitted to a space: a bench, a bed for a boiler, a step; screwed, so that it may give and come out again.",
    ASKS,
    "In a space {length} long, reaching {width} from the wall, {height} high, of {stock} stock with {clear} clearance; "
    "cut round {notch} wide by {notch_deep}; to bear {load} kg; of {wood}.",
    design,
    checks,
    use=use,
    teaches="Measuring on site, clearance where it must come out again, screws where it must give.",
)
