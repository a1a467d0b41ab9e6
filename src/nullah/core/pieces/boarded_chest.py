"""A boarded chest: front and back rabbeted over two upright ends and nailed, a bottom in dadoes, a battened lid; the lid leads."""

from __future__ import annotations

from nullah.core.marking.plan import Check
from nullah.core.pieces.chest_fittings import TILL, bracket, stay, stay_checks, stay_words, till
from nullah.core.pieces.kind import WOODS, Answers, Grows, Kind, Proportion, Use, moves_in_slots, of_woods
from nullah.core.pieces.sizes import Sizes
from nullah.core.shaping.arris import EASED, eased
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
from nullah.core.values.measure import INCH, at_least, marked

OVER = INCH  # mm the lid stands over front and sides: front and back are 2" shorter than the lid (common practice)
FEET = 60.0  # mm the ends go on below the front
UP = 12.0  # mm from the front's lower edge to the bottom
FREE = 3.0  # mm the bottom is kept short of the back, for its own movement, each 400 of its width
EACH = 400.0
BATTEN = (20.0, 40.0)  # mm thick and wide
LEAST_INSIDE = 100.0  # mm
SLOT = 12.0  # mm: slots of the screws that hold the battens
SCREW = 4.0  # mm

ASKS = (
    Ask("lid", "length of the lid", "length", 900.0, 300.0, 2000.0),
    Ask("depth", "depth, front to back", "length", 380.0, 150.0, 900.0),
    Ask("height", "height of the ends; about half the lid", "length", 450.0, 150.0, 1000.0),
    Ask("stock", "thickness of the boards", "length", 16.0, 8.0, 40.0),
    Ask("dado", "depth of the dadoes of the bottom", "length", 6.0, 2.0, 20.0),
    Ask("till", "a till inside, at the left end", "yesno", False),
    Ask("till_lid", "a lid on the till", "yesno", False),
    Ask("bracket", "an arched bracket below the front", "yesno", False),
    Ask("stay", "a stay that holds the lid open", "yesno", False),
    EASED,
    *WOODS,
)


def design(asked: Answers) -> Design:
    """The chest as asked for."""
    stock = asked["stock"]
    inside = asked["lid"] - 2 * OVER - 2 * stock
    if inside < LEAST_INSIDE or asked["depth"] - 2 * stock < LEAST_INSIDE:
        raise NoPiece(
            f"A chest of {marked(asked['lid'])} by {marked(asked['depth'])} has no room inside; make it larger."
        )
    if asked["till"] and inside < 2 * TILL[0]:
        raise NoPiece(f"There is no room for a till in {marked(inside)}; {marked(2 * TILL[0])} is the least.")
    thick = mm("stock", stock, "stock")
    wide, low = between("length", "left", "right"), between("height", "front-low", "top")
    upright, deep = between("height", "floor", "top"), between("depth", "front", "back")
    lid = between("length", "lid-left", "lid-right"), between("lid", "front", "back")
    parts = [
        _part("lid", "up", "back", (*lid, from_mark("height", "top", thick))),
        _part("front", "front", "up", (wide, low, from_mark("depth", "front", thick))),
        _part("back", "back", "up", (wide, low, up_to("depth", "back", thick))),
        _part("left end", "left", "back", (upright, deep, from_mark("length", "left", thick)), "ends"),
        _part("right end", "right", "back", (upright, deep, up_to("length", "right", thick)), "ends"),
        PartDesign(
            "bottom",
            "bottom",
            "up",
            "back",
            between("length", "inside-left", "inside-right"),
            between("depth", "inside-front", "inside-back", off_b=mm("free, for what it moves", -_free(asked))),
            from_mark("height", "bottom-low", thick),
            role="inside",
            fitted=True,
        ),
    ]
    joints = [
        JointDesign(f"rabbet-{side}-{end}", "nailed_rabbet", f"{end}-end", side, side, set="rabbets")
        for side in ("front", "back")
        for end in ("left", "right")
    ]
    joints += eased("lid", asked["edge"], stock, OVER, "front left right")
    dado: dict[str, Answer] = {"depth": asked["dado"], "fixed": "dry"}
    joints += [
        JointDesign(f"dado-{end}", "dado", "bottom", f"{end}-end", end, dado, set="bottom") for end in ("left", "right")
    ]
    feet: dict[str, Answer] = {"deep": FEET - UP, "foot": max(50.0, asked["depth"] / 5)}
    joints += [
        JointDesign(f"feet-{end}", "cut_out", f"{end}-end", "", "down", feet, set="feet") for end in ("left", "right")
    ]
    _battens(parts, joints)
    chest = Design(tuple(_rods(asked)), tuple(parts), tuple(joints))
    if asked["till"]:
        end = mm("over the end", OVER) + of("end", "left-end", "thickness")
        chest = till(mm("height", asked["height"], "height"), end, asked["till_lid"]).on(chest)
    if asked["bracket"]:
        chest = bracket(FEET, stock).on(chest)
    if asked["stay"]:
        chest = stay(asked["depth"] - 2 * stock).on(chest)
    return of_woods(chest, asked)


def _part(
    label: str, face: str, up: str, lies: tuple[Along, Along, Along], group: str = "", role: str = "show"
) -> PartDesign:
    return PartDesign(label.replace(" ", "-"), label, face, up, *lies, group=group, role=role)


def _free(asked: Answers) -> float:
    return round(FREE * float(asked["depth"]) / EACH, 1)


def _rods(asked: Answers) -> list[Rod]:
    over = mm("over the end", OVER)
    end = of("end", "left-end", "thickness")
    return [
        Rod(
            "length",
            "Length",
            "x",
            (
                Mark("lid-left"),
                Mark("left", over),
                Mark("inside-left", end),
                Mark("inside-right", gives=1.0, clear=True, label="between the ends"),
                Mark("right", of("end", "right-end", "thickness")),
                Mark("lid-right", over),
            ),
            mm("lid", asked["lid"], "lid"),
        ),
        Rod(
            "height",
            "Height",
            "z",
            (
                Mark("floor"),
                Mark("front-low", mm("feet", FEET)),
                Mark("bottom-low", mm("up to the bottom", UP)),
                Mark("bottom-high", of("bottom", "bottom", "thickness")),
                Mark("top", gives=1.0, clear=True, label="above the bottom"),
            ),
            mm("height", asked["height"], "height"),
        ),
        Rod(
            "depth",
            "Depth",
            "y",
            (
                Mark("front"),
                Mark("inside-front", of("front", "front", "thickness")),
                Mark("inside-back", gives=1.0, clear=True, label="between front and back"),
                Mark("back", of("back", "back", "thickness")),
            ),
            mm("depth", asked["depth"], "depth"),
        ),
        Rod(
            "lid",
            "Lid, front to back",
            "y",
            (
                Mark("front", mm("over the front", OVER, times=-1.0)),
                Mark("back", mm("depth", asked["depth"], "depth") + over),
            ),
        ),
    ]


def _battens(parts: list[PartDesign], joints: list[JointDesign]) -> None:
    """Under the lid, outside the ends: they hold it flat, in slots, and keep it in its place."""
    thick, wide = BATTEN
    for end, lies in (
        ("left", up_to("length", "left", mm("batten", thick))),
        ("right", from_mark("length", "right", mm("batten", thick))),
    ):
        parts.append(
            PartDesign(
                f"batten-{end}",
                f"{end} batten",
                end,
                "up",
                between("depth", "front", "back"),
                up_to("height", "top", mm("batten", wide)),
                lies,
                group="battens",
                role="inside",
            )
        )
        asks: dict[str, Answer] = {"slot": SLOT, "screw": SCREW, "long": wide + 12.0}
        joints.append(JointDesign(f"slots-{end}", "batten_in_slots", f"batten-{end}", "lid", "up", asks, set="battens"))


def checks(asked: Answers, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether the bottom has room to move, and the lid in the slots of its battens."""
    found = []
    if sizes.has("bottom"):
        wide = sizes.size("bottom")[1]
        wet = max(0.0, grows("bottom", sizes.design.part("bottom").species, wide)[1])
        found.append(
            Check(
                at_least(_free(asked), wet),
                f"the bottom grows {marked(wet)} by the wettest month; {marked(_free(asked))} is free",
            )
        )
    return (*found, *stay_checks(sizes), *moves_in_slots("lid", SLOT - SCREW, sizes, grows))


def use(asked: Answers) -> Use:
    """Where the chest is used."""
    words = "Hang the lid with a stay that holds it open, so that it cannot fall shut."
    if asked["stay"]:
        words = f"Hang the lid. {stay_words(asked['depth'] - 2 * asked['stock'])}"
    return Use(
        "Put it to use",
        words,
        (
            "A falling lid hurts: a lid support holds it at every opening.",
            "A child can be shut in: leave air holes, and no catch that locks by itself.",
        ),
    )


BOARDED_CHEST = Kind(
    "boarded_chest",
    "A chest of six boards, nailed in rabbets without glue: it holds tools or blankets, and lets its wide boards move.",
    ASKS,
    "A lid {lid} long on a chest {depth} deep, its ends {height} high, of {stock} stock; the bottom "
    "in dadoes {dado} deep; a till: {till}, with a lid: {till_lid}; a bracket below the front: {bracket}; "
    "a stay for the lid: {stay}; the edges of the lid {edge}; of {wood}, inside of {secondary_wood}.",
    design,
    checks,
    use=use,
    teaches="Nailing in rabbets without glue, wide boards that move, a bottom fitted to the chest as it came out.",
    proportions=(Proportion("height", "lid", "The height of the ends to the length of the lid"),),
)
