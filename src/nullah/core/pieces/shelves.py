"""Shelves: two sides, shelves let into them in dadoes, with a back in grooves or none."""

from __future__ import annotations

from nullah.core.marking.plan import Check
from nullah.core.pieces.kind import WOODS, Answers, Grows, Kind, Proportion, Use, of_woods
from nullah.core.pieces.sizes import Sizes
from nullah.core.values.ask import Ask
from nullah.core.values.design import (
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
)
from nullah.core.values.measure import at_least, marked

SET_BACK = 3.0  # mm the shelves stand back from the sides' front edges, to look meant (1.5 or more, common practice)
STOP = 10.0  # mm of a shelf in front of where its dado ends
SHOULDER = 3.0  # mm
BACK = 8.0  # mm thick
BEHIND = 8.0  # mm of the sides behind the groove of the back
FREE = 0.005  # of its width, that the back is kept free in each groove: about what flatsawn wood grows there from the year's middle
ENGAGED = 2.0  # mm of the back that stay in each groove in the driest month (common practice, no source)
SHALLOWEST = 40.0  # mm a shelf is deep
WAYS_IN = ("through", "stopped", "shouldered")

ASKS = (
    Ask("width", "width over the sides", "length", 800.0, 150.0, 3000.0),
    Ask("height", "height of the sides", "length", 900.0, 150.0, 3000.0),
    Ask("depth", "depth of the sides", "length", 220.0, 60.0, 800.0),
    Ask("shelves", "number of shelves", "whole", 4, 2, 20),
    Ask("below", "how far the sides go on below the lowest shelf", "length", 40.0, 5.0, 500.0),
    Ask("above", "how far they go on above the highest", "length", 20.0, 5.0, 500.0),
    Ask("stock", "thickness of sides and shelves", "length", 18.0, 8.0, 60.0),
    Ask("dadoes", "how the shelves go in", "choice", "stopped", options=WAYS_IN),
    Ask("back", "a back", "yesno", False),
    Ask("load", "load on a shelf, kg", "number", 15.0, 0.0, 500.0),
    *WOODS,
)


def design(asked: Answers) -> Design:
    """Two sides and what goes between them, the clear heights between shelves alike."""
    count, stock = int(asked["shelves"]), asked["stock"]
    set_back = SET_BACK if asked["dadoes"] == "stopped" else 0.0
    deep = asked["depth"] - set_back - (BACK + BEHIND if asked["back"] else 0.0)
    if deep < SHALLOWEST:
        raise NoPiece(
            f"Shelves would be {marked(deep)} deep; {marked(SHALLOWEST)} is the least: make the sides deeper."
        )
    thick = mm("stock", stock, "stock")
    parts = [
        PartDesign(
            f"side-{side}",
            f"{side} side",
            side,
            "back",
            between("height", "floor", "top"),
            between("depth", "front", "end" if asked["back"] else "shelf-back"),
            from_mark("width", start, thick),
            group="sides",
        )
        for side, start in (("left", "left"), ("right", "inside-right"))
    ]
    joints = []
    for n in range(1, count + 1):
        parts.append(
            PartDesign(
                f"shelf-{n}",
                f"shelf {n}",
                "up",
                "back",
                between("width", "inside-left", "inside-right"),
                between("depth", "shelf-front", "shelf-back"),
                from_mark("height", f"shelf-{n}-low", thick),
                group="shelves",
                show_face="upper",
            )
        )
        for side in ("left", "right"):
            joints.append(
                JointDesign(
                    f"dado-{n}-{side}", "dado", f"shelf-{n}", f"side-{side}", side, _lets_in(asked), set="dadoes"
                )
            )
    if asked["back"]:
        parts.append(
            PartDesign(
                "back",
                "back",
                "front",
                "right",
                between("height", "shelf-1-low", f"shelf-{count}-high"),
                between("width", "inside-left", "inside-right"),
                from_mark("depth", "shelf-back", mm("back", BACK)),
                role="inside",
            )
        )
        grooved: dict[str, Answer] = {"depth": stock / 2, "free": _free(asked)}
        joints += [
            JointDesign(f"groove-{side}", "groove", "back", f"side-{side}", side, grooved, set="back")
            for side in ("left", "right")
        ]
    return of_woods(Design(tuple(_rods(asked, count, set_back)), tuple(parts), tuple(joints)), asked)


def _free(asked: Answers) -> float:
    return round(FREE * float(asked["width"] - 2 * asked["stock"]), 1)


def _lets_in(asked: Answers) -> dict[str, Answer]:
    """What is asked of each dado."""
    if asked["dadoes"] == "stopped":
        return {"stop": STOP, "edge": "front"}
    return {"shoulder": min(SHOULDER, asked["stock"] / 4)} if asked["dadoes"] == "shouldered" else {}


def _rods(asked: Answers, count: int, set_back: float) -> list[Rod]:
    upright = [Mark("floor"), Mark("shelf-1-low", mm("below the shelves", asked["below"], "below"))]
    for n in range(1, count + 1):
        if n > 1:
            upright.append(Mark(f"shelf-{n}-low", gives=1.0, clear=True, label="between the shelves"))
        upright.append(Mark(f"shelf-{n}-high", of(f"shelf {n}", f"shelf-{n}", "thickness")))
    upright.append(Mark("top", mm("above the shelves", asked["above"], "above")))
    deep = [
        Mark("front"),
        Mark("shelf-front", mm("set back", set_back)),
        Mark("shelf-back", gives=1.0, label="depth of the shelves"),
    ]
    if asked["back"]:
        deep += [
            Mark("back-back", of("back", "back", "thickness")),
            Mark("end", mm("behind the back", BEHIND)),
        ]
    across = (
        Mark("left"),
        Mark("inside-left", of("left side", "side-left", "thickness")),
        Mark("inside-right", gives=1.0, clear=True, label="between the sides"),
        Mark("right", of("right side", "side-right", "thickness")),
    )
    return [
        Rod("width", "Width", "x", across, mm("width", asked["width"], "width"), hold="inside-right"),
        Rod("height", "Height", "z", tuple(upright), mm("height", asked["height"], "height")),
        Rod("depth", "Depth", "y", tuple(deep), mm("depth", asked["depth"], "depth")),
    ]


def checks(asked: Answers, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether the back has room to move in its grooves, and stays in them."""
    if not sizes.has("back"):
        return ()
    free = _free(asked)
    dry, wet = grows("back", sizes.design.part("back").species, sizes.size("back")[1])
    depth = min(sizes.value_of(f"groove-{side}", "depth") for side in ("left", "right"))
    stays = depth - free + min(0.0, dry) / 2
    return (
        Check(
            at_least(free, max(0.0, wet) / 2),
            f"the back grows {marked(max(0.0, wet) / 2)} to each side by the wettest month; {marked(free)} is free there",
        ),
        Check(
            at_least(stays, ENGAGED),
            f"the back lies {marked(stays)} in each groove in the driest month; at least {marked(ENGAGED)}",
        ),
    )


def use(asked: Answers) -> Use:
    """Where they go up: what each is to bear, and what holds them."""
    span = asked["width"] - 2 * asked["stock"]
    return Use(
        "Put them up",
        f"Each shelf spans {marked(span)} and is to bear {asked['load']:g} kg. Load one by so much and sight along it before it is "
        "trusted; whether it bears that for years is not reckoned here.",
        (
            "Fix tall shelves to the wall, into studs or sound masonry: the weakest fixing decides what they bear.",
            "Where a fall could hurt someone, local codes and licensed practice decide.",
        ),
    )


SHELVES = Kind(
    "shelves",
    "Shelves for a wall or a corner: two sides, shelves in dadoes, with a back or none.",
    ASKS,
    "Sides {height} high and {depth} deep, {width} over all, of {stock} stock, with {shelves} shelves in {dadoes} dadoes, "
    "the lowest {below} above the floor and the highest {above} below the top, each to bear {load} kg; "
    "a back: {back}; of {wood}, the back of {secondary_wood}.",
    design,
    checks,
    use=use,
    teaches="Dadoes cut in pairs at one setting, ends that stop short of the edge, parts set back so that it looks meant.",
    proportions=(
        Proportion("width", "height", "The width of the shelves to their height"),
        Proportion("above", "below", "The rim above the shelves to that below"),
    ),
)
