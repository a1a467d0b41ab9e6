"""A practice joint: one corner in scrap, so that the hands are warm before the piece."""

from __future__ import annotations

from nullah.core.pieces.kind import WOOD, Answers, Kind, of_woods
from nullah.core.values.ask import Ask
from nullah.core.values.design import Design, JointDesign, Mark, PartDesign, Rod, between, from_mark, mm, of

LONG = 75.0  # mm of each board that is shown beyond the joint (common practice: 75 long)
CORNERS = {"through": "through_dovetail", "half-blind": "half_blind_dovetail", "fingers": "finger_joint"}

ASKS = (
    Ask("width", "width of the boards", "length", 50.0, 15.0, 600.0),
    Ask("thickness", "thickness of the boards", "length", 14.0, 4.0, 60.0),
    Ask("tails", "number of tails", "whole", 1, 1, 12),
    Ask("pin", "width of a pin at its mouth", "length", 9.0, 2.0, 60.0),
    Ask("slope", "slope of the tails, 1 to so many", "number", 6.0, 3.0, 12.0),
    Ask("corner", "how the boards meet", "choice", "through", options=tuple(CORNERS)),
    Ask("lap", "lap before the tails of a half-blind corner; 0: a quarter of the thickness", "length", 0.0, 0.0, 30.0),
    WOOD,
)


def design(asked: Answers) -> Design:
    """Two boards that meet in a corner: the tail board along x, the pin board along y."""
    thick = asked["thickness"]
    rods = (
        Rod("tail-board", "Tail board", "x", (Mark("free-end"), Mark("shoulder", mm("to the baseline", LONG)))),
        Rod(
            "pin-board",
            "Pin board",
            "y",
            (
                Mark("outside"),
                Mark("shoulder", of("tail board", "tail-board", "thickness")),
                Mark("free-end", mm("to the free end", LONG)),
            ),
        ),
        Rod("width", "Width", "z", (Mark("lower"), Mark("upper", mm("width", asked["width"], "width")))),
    )
    up = between("width", "lower", "upper")
    thickness = mm("thickness", thick, "thickness")
    parts = (
        PartDesign(
            "tail-board",
            "tail board",
            "front",
            "up",
            between("tail-board", "free-end", "shoulder"),
            up,
            from_mark("pin-board", "outside", thickness),
            group="practice",
            role="inside",
        ),
        PartDesign(
            "pin-board",
            "pin board",
            "right",
            "up",
            between("pin-board", "shoulder", "free-end"),
            up,
            from_mark("tail-board", "shoulder", thickness),
            group="practice",
            role="inside",
        ),
    )
    asks = {"tails": asked["tails"], "pin": asked["pin"], "slope": asked["slope"]}
    family = CORNERS[asked["corner"]]
    if family == "half_blind_dovetail":
        asks["lap"] = asked["lap"]
    elif family == "finger_joint":
        asks = {}
    corner = JointDesign("corner", family, "tail-board", "pin-board", "right", asks)
    return of_woods(Design(rods, parts, (corner,)), asked)


PRACTICE_JOINT = Kind(
    "practice_joint",
    "A corner of through dovetails in scrap: a tail or a few, to warm up on or to learn by.",
    ASKS,
    "{tails} tails between half pins in scrap {width} wide and {thickness} thick, pins {pin}, sloping 1 : {slope}, of {wood}.",
    design,
    teaches="Sawing to a line, chopping to a baseline, and how tight is tight.",
)
