"""A small rest: a tilted back in a foot, with a lip that holds what stands on it without covering it."""

from __future__ import annotations

import math

from nullah.core.marking.plan import Check
from nullah.core.pieces.kind import WOOD, Answers, Grows, Kind, Proportion, of_woods
from nullah.core.pieces.sizes import Sizes
from nullah.core.values.ask import Ask
from nullah.core.values.design import (
    Design,
    Frame,
    JointDesign,
    Mark,
    NoPiece,
    PartDesign,
    Rod,
    between,
    from_mark,
    mm,
    of,
)
from nullah.core.values.measure import at_least, marked

FOOT = 28.0  # mm thick, at the least: no more than half of it is taken
BACK = 12.0  # mm thick
LIP = 9.0  # mm thick
LEDGE = 26.0  # mm between lip and back: what stands there
RABBET = 10.0  # mm the lip goes down into the foot's front edge
DEEP = 12.0  # mm the back goes into the foot
BEHIND = 15.0  # mm of foot behind where the weight comes down, at the least (common practice, no source)
LIP_SHARE = 0.2  # of the height: a higher lip covers what it holds

ASKS = (
    Ask("width", "width", "length", 240.0, 60.0, 1200.0),
    Ask("height", "height of the back", "length", 220.0, 60.0, 900.0),
    Ask("tilt", "tilt of the back from upright, degrees", "number", 15.0, 5.0, 40.0),
    Ask("lip", "height of the lip", "length", 15.0, 4.0, 120.0),
    WOOD,
)


def weight_at(asked: Answers) -> float:
    """How far behind the lip the weight comes down, mm: half-way up the tilted back, on its face."""
    return LIP + LEDGE + float(asked["height"]) / 2 * math.sin(math.radians(asked["tilt"]))


def foot_deep(asked: Answers) -> float:
    """How deep the foot must be for the weight to stand inside it, mm, to the next 5."""
    tilt = math.radians(asked["tilt"])
    behind_slot = LIP + LEDGE + BACK / math.cos(tilt) + DEEP * math.tan(tilt) + BEHIND
    return math.ceil(max(weight_at(asked) + BEHIND, behind_slot) / 5.0) * 5.0


def design(asked: Answers) -> Design:
    """Foot and lip in the piece's own frame, the back in a frame that is tilted about the line where it meets the foot."""
    if asked["lip"] > LIP_SHARE * asked["height"]:
        raise NoPiece(
            f"A lip of {marked(asked['lip'])} covers what stands on a back of {marked(asked['height'])}; "
            f"{marked(LIP_SHARE * asked['height'])} is the most."
        )
    frame = Frame(
        "tilted",
        ((), of("lip", "lip", "thickness") + mm("ledge", LEDGE), of("foot", "foot", "thickness")),
        "x",
        -asked["tilt"],
    )
    reach = DEEP + BACK * math.tan(math.radians(asked["tilt"]))  # so that all of its lower end is in the foot
    rods = (
        Rod("width", "Width", "x", (Mark("left"), Mark("right", mm("width", asked["width"], "width")))),
        Rod(
            "deep",
            "Front to back",
            "y",
            (
                Mark("front"),
                Mark("behind-lip", of("lip", "lip", "thickness")),
                Mark("back-face", mm("ledge", LEDGE), clear=True),
                Mark("end", gives=1.0, label="behind the face of the back"),
            ),
            mm("foot, for the weight to stand inside", foot_deep(asked)),
        ),
        Rod(
            "high",
            "Height",
            "z",
            (
                Mark("floor"),
                Mark("ledge", of("foot", "foot", "thickness")),
                Mark("lip", mm("lip", asked["lip"], "lip")),
            ),
        ),
        Rod(
            "slope",
            "Along the back",
            "z",
            (Mark("ledge"), Mark("top", mm("height", asked["height"], "height"))),
            frame="tilted",
        ),
    )
    wide = between("width", "left", "right")
    parts = (
        PartDesign(
            "foot",
            "foot",
            "up",
            "back",
            wide,
            between("deep", "front", "end"),
            from_mark("high", "floor", mm("foot", max(FOOT, math.ceil(2 * reach)))),
            role="show",
        ),
        PartDesign(
            "back",
            "back",
            "front",
            "up",
            wide,
            between("slope", "ledge", "top"),
            from_mark("", "", mm("back", BACK)),
            frame="tilted",
            role="show",
        ),
        PartDesign(
            "lip",
            "lip",
            "front",
            "up",
            wide,
            between("high", "ledge", "lip"),
            from_mark("deep", "front", mm("lip", LIP)),
            role="show",
        ),
    )
    joints = (
        JointDesign("slot", "dado", "back", "foot", "down", {"depth": reach}),
        JointDesign("rabbet", "rabbet", "lip", "foot", "down", {"depth": RABBET}),
    )
    return of_woods(Design(rods, parts, joints, (frame,)), asked)


def checks(asked: Answers, sizes: Sizes, _: Grows) -> tuple[Check, ...]:
    """Whether the weight stands inside the foot, and whether the lip holds without covering."""
    if not sizes.has("foot"):
        return ()
    foot = sizes.size("foot")[1]
    at = weight_at(asked)
    return (
        Check(
            at_least(foot - at, BEHIND),
            f"the weight comes down {marked(foot - at)} inside the foot's back edge; at least {marked(BEHIND)}",
        ),
        Check(
            asked["lip"] <= LIP_SHARE * asked["height"],
            f"the lip stands {marked(asked['lip'])} up; it covers no more than a fifth of what stands on it",
        ),
    )


SMALL_REST = Kind(
    "small_rest",
    "A small rest for a book or a picture: a tilted back in a foot, and a lip.",
    ASKS,
    "A back {width} wide and {height} high, tilted {tilt} degrees, on a foot with a lip {lip} high; of {wood}.",
    design,
    checks,
    teaches="A rabbet, an angle struck and kept, and where the weight has to be.",
    proportions=(Proportion("width", "height", "The width of the back to its height"),),
)
