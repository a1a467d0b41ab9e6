"""A small table: four legs that may taper, aprons tenoned into them, a top; with a drawer in a frame of its own, if wanted.

Legs are named by where they stand: front or back, left or right. One rod for each line across the piece, since its legs may come out
unlike: front, back, left and right, each held to the same total.
"""

from __future__ import annotations

from nullah.core.ask import Ask
from nullah.core.design import (
    Along,
    Answer,
    Design,
    Frame,
    JointDesign,
    Mark,
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
from nullah.core.joints.plan import Check
from nullah.core.measure import at_least, marked
from nullah.core.pieces.kind import Answers, Grows, Kind
from nullah.core.pieces.sizes import NoPiece, Sizes

APRON = 20.0  # mm thick, in legs that are thick enough
APRON_SHARE = 0.55  # of the leg, the most an apron is thick
SET_BACK = 3.0  # mm an apron stands behind the face of its legs, so that it looks meant (common practice: 1.5 or more)
BELOW = 6.0  # mm a taper starts below the apron (1/4", common practice)
RAIL = 18.0  # mm a drawer rail is thick, and the runners and kickers with it
RUNNER = 25.0  # mm wide
SLOT = 12.0  # mm: slots of the screws that hold the top
SCREW = 4.0  # mm
CLEAR = 0.5  # mm a drawer keeps above it in the wettest month (common practice: 0.5 to 1)
REVEAL = 0.5  # mm beside a drawer on each side (common practice)
ABOVE = 1.5  # mm above a drawer, for what it grows (common practice: the movement and 0.5 to 1)
SIDE = 10.0  # mm: sides and back of the drawer
FRONT = 18.0  # mm: front of the drawer
BOTTOM = 6.0  # mm
BOTTOM_UP = 9.0  # mm from the lower edge of the drawer to its groove
FREE = 1.0  # mm a panel is kept free in its grooves
BEHIND = 2.0  # mm the drawer stops short of the back legs
LEAST_BETWEEN = 20.0  # mm between what is screwed inside the side aprons
LEAST_OPENING = 110.0  # mm between the legs, for a drawer and its two stops
STOP_INSET = 0.15  # of the opening: how far from a leg a stop stands
STOP = 6.0  # mm high, below the drawer's bottom
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
        drawer_rods, drawer_parts, drawer_joints, frames = _drawer()
        rods, parts, joints = rods + drawer_rods, parts + drawer_parts, joints + drawer_joints
    return Design(tuple(rods), tuple(parts), tuple(joints), frames, (Squared("frame", ("front", "left")),))


def within(side: str, times: float) -> Sum:
    """From the outside of the legs to the inside of an apron."""
    return mm("set back", SET_BACK, times=times) + of("apron", f"apron-{side}", "thickness", times)


def front_leg(side: str, times: float = 1.0) -> Sum:
    """The front leg on a side, across the table: what runs along inside the apron is flush with it."""
    return of("front leg", "leg-fl" if side == "left" else "leg-fr", "width", times)


def stop_inset(times: float) -> Sum:
    """From a leg to a stop: a share of the opening."""
    share = STOP_INSET * times
    return of("of the opening", "front", "inside-second", share) + of("", "front", "inside-first", -share)


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
        _rails(asked, parts, joints)
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
    _held_down(asked, parts, joints)
    return parts, joints


def _at(rod: str, end: str, size: Sum) -> Along:
    """A leg at the start or at the end of a rod."""
    return from_mark(rod, "start", size) if end == "start" else up_to(rod, "end", size)


def _apron(asked: Answers, side: str) -> PartDesign:
    """An apron between its two legs, set back from their faces."""
    thick, back = mm("apron", min(APRON, APRON_SHARE * asked["leg"])), mm("set back", SET_BACK)
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
    drawer = asked["drawer"]
    for side in ("left", "right"):
        name = f"kicker-{side}" if drawer else f"cleat-{side}"
        thick = mm("kicker" if drawer else "cleat", RAIL)
        wide = mm("wide", RUNNER)
        if drawer:
            from_x = _inside(side, wide)
            lies = between(side, "start", "inside-second", of("upper rail", "rail-upper", "width"))
        else:
            edge = within(side, 1.0) if side == "left" else within(side, -1.0)
            from_x = from_mark("front", "start", wide, edge) if side == "left" else up_to("front", "end", wide, edge)
            lies = between(side, "inside-first", "inside-second")
        parts.append(
            PartDesign(
                name,
                f"{side} {'kicker' if drawer else 'cleat'}",
                "up",
                "left",
                lies,
                from_x,
                up_to("height", "apron-high", thick),
                group="kickers" if drawer else "cleats",
                role="hidden",
                fitted=True,
            )
        )
        joints.append(
            JointDesign(
                f"screws-{name}-top",
                "butt_screws",
                name,
                "top",
                "up",
                {"slotted": True, "long": RAIL + 13.0},
                set="to the top",
            )
        )
        beside = f"doubler-{side}" if drawer else f"apron-{side}"
        joints.append(
            JointDesign(f"screws-{name}", "butt_screws", name, beside, side, {"long": RUNNER + 15.0}, set="beside")
        )


def _inside(side: str, wide: Sum) -> Along:
    """Beside the inside of the front leg on one side."""
    return from_mark("front", "inside-first", wide) if side == "left" else up_to("front", "inside-second", wide)


def _rails(asked: Answers, parts: list[PartDesign], joints: list[JointDesign]) -> None:
    """What stands for a front apron with a drawer: two rails, doublers flush with the legs, runners; stops."""
    for name, b in (("lower", "rail-low"), ("upper", "apron-high")):
        label = f"{name} rail"
        parts.append(
            PartDesign(
                f"rail-{name}",
                label,
                "up",
                "back",
                between("front", "inside-first", "inside-second"),
                from_mark("left", "start", of("front left leg", "leg-fl", "thickness")),
                up_to("height", b, mm("rail", RAIL)),
                group="rails",
            )
        )
        for corner, way in (("fl", "left"), ("fr", "right")):
            asks: dict[str, Answer] = {"style": "stub", "lower_shoulder": 6.0, "upper_shoulder": 6.0}
            joints.append(
                JointDesign(
                    f"tenon-rail-{name}-{corner}",
                    "mortise_and_tenon",
                    f"rail-{name}",
                    f"leg-{corner}",
                    way,
                    asks,
                    set="rails",
                )
            )
    for side in ("left", "right"):
        thick = front_leg(side) + within(side, -1.0)
        parts.append(
            PartDesign(
                f"doubler-{side}",
                f"{side} doubler",
                "right" if side == "left" else "left",
                "up",
                between(side, "inside-first", "inside-second"),
                between("height", "apron-low", "apron-high"),
                from_mark("front", "start", thick, within(side, 1.0))
                if side == "left"
                else up_to("front", "end", thick, within(side, -1.0)),
                group="doublers",
                role="hidden",
                fitted=True,
            )
        )
        joints.append(
            JointDesign(
                f"screws-doubler-{side}",
                "butt_screws",
                f"doubler-{side}",
                f"apron-{side}",
                side,
                {"long": max(32.0, asked["leg"] - 10.0)},
                set="beside",
            )
        )
        parts.append(
            PartDesign(
                f"runner-{side}",
                f"{side} runner",
                "up",
                "left",
                between(side, "start", "inside-second", of("lower rail", "rail-lower", "width")),
                _inside(side, mm("wide", RUNNER)),
                up_to("height", "rail-low", mm("runner", RAIL)),
                group="runners",
                role="hidden",
                fitted=True,
            )
        )
        joints.append(
            JointDesign(
                f"screws-runner-{side}",
                "butt_screws",
                f"runner-{side}",
                f"doubler-{side}",
                side,
                {"long": RUNNER + 15.0},
                set="beside",
            )
        )
        inset = stop_inset(1.0 if side == "left" else -1.0)
        parts.append(
            PartDesign(
                f"stop-{side}",
                f"{side} stop",
                "up",
                "back",
                from_mark("front", "inside-first", mm("stop", 30.0), inset)
                if side == "left"
                else up_to("front", "inside-second", mm("stop", 30.0), inset),
                from_mark("left", "start", mm("wide", 15.0), of("drawer front", "drawer-front", "thickness")),
                from_mark("height", "rail-low", mm("stop", STOP)),
                group="stops",
                role="hidden",
                fitted=True,
            )
        )
        joints.append(
            JointDesign(
                f"screws-stop-{side}",
                "butt_screws",
                f"stop-{side}",
                "rail-lower",
                "down",
                {"screw": 3.0, "long": 20.0},
                set="stops",
            )
        )


def _drawer() -> tuple[list[Rod], list[PartDesign], list[JointDesign], tuple[Frame, ...]]:
    """The drawer, in a frame of its own that lies in the opening."""
    inside = of("inside of the leg", "front", "inside-first")
    frame = Frame("drawer", (inside + mm("reveal", REVEAL), (), of("lower rail", "height", "rail-low")))
    opening = of("opening", "front", "inside-second") + of("", "front", "inside-first", -1.0)
    rods = [
        Rod(
            "drawer-across",
            "Drawer, across",
            "x",
            (
                Mark("start"),
                Mark("inside-first", of("left side", "drawer-left", "thickness")),
                Mark("inside-second", gives=1.0, clear=True, label="inside"),
                Mark("end", of("right side", "drawer-right", "thickness")),
            ),
            opening + mm("reveal", REVEAL, times=-2.0),
            "drawer",
        ),
        Rod(
            "drawer-deep",
            "Drawer, front to back",
            "y",
            (
                Mark("start"),
                Mark("inside-first", of("front", "drawer-front", "thickness")),
                Mark("inside-second", gives=1.0, clear=True, label="inside"),
                Mark("end", of("back", "drawer-back", "thickness")),
            ),
            of("front of the back leg", "left", "inside-second") + mm("room behind", -BEHIND),
            "drawer",
        ),
        Rod(
            "drawer-high",
            "Drawer, height",
            "z",
            (
                Mark("lower"),
                Mark("bottom-low", mm("edge to groove", BOTTOM_UP)),
                Mark("bottom-high", of("bottom", "drawer-bottom", "thickness")),
                Mark("upper", gives=1.0, clear=True, label="inside"),
            ),
            of("opening", "height", "rail-high") + of("", "height", "rail-low", -1.0) + mm("room above", -ABOVE),
            "drawer",
        ),
    ]
    high = between("drawer-high", "lower", "upper")
    side, front = mm("side", SIDE), mm("front", FRONT)
    across = between("drawer-across", "inside-first", "inside-second")
    deep = between("drawer-deep", "inside-first", "inside-second")

    def part(
        part_id: str, label: str, face: str, along: Along, wide: Along, thick: Along, role: str, up: str = "up"
    ) -> PartDesign:
        return PartDesign(
            f"drawer-{part_id}", f"drawer {label}", face, up, along, wide, thick, "drawer", "drawer", role
        )

    parts = [
        part("front", "front", "front", across, high, from_mark("drawer-deep", "start", front), "show"),
        part("left", "left side", "left", deep, high, from_mark("drawer-across", "start", side), "inside"),
        part("right", "right side", "right", deep, high, up_to("drawer-across", "end", side), "inside"),
        part(
            "back",
            "back",
            "back",
            across,
            between("drawer-high", "bottom-high", "upper"),
            up_to("drawer-deep", "end", side),
            "inside",
        ),
        part(
            "bottom",
            "bottom",
            "up",
            across,
            between("drawer-deep", "inside-first", "end"),
            from_mark("drawer-high", "bottom-low", mm("bottom", BOTTOM)),
            "hidden",
            "back",
        ),
    ]
    joints = []
    for side_name in ("left", "right"):
        for end, way in (("front", "front"), ("back", "back")):
            joints.append(
                JointDesign(
                    f"corner-drawer-{side_name}-{end}",
                    "through_dovetail",
                    f"drawer-{side_name}",
                    f"drawer-{end}",
                    way,
                    {"pin": 5.0},
                    set="drawer corners",
                )
            )
        joints.append(
            JointDesign(
                f"groove-drawer-{side_name}",
                "groove",
                "drawer-bottom",
                f"drawer-{side_name}",
                side_name,
                {"free": FREE},
                set="drawer groove",
            )
        )
    joints.append(
        JointDesign(
            "groove-drawer-front",
            "groove",
            "drawer-bottom",
            "drawer-front",
            "front",
            {"free": FREE},
            set="drawer groove",
        )
    )
    return rods, parts, joints, (frame,)


def checks(asked: Answers, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether the drawer still opens in the wettest month, and the slots under the top let it move."""
    found = []
    if sizes.has("top"):
        top = sizes.size("top")[1]
        moves = max(abs(mm) for mm in grows("top", sizes.design.part("top").species, top))
        slot = SLOT - SCREW
        found.append(
            Check(
                at_least(slot, moves),
                f"the top moves {marked(moves)} across in a year; its slots let it move {marked(slot)}",
            )
        )
    if sizes.has("drawer-front"):
        front = sizes.size("drawer-front")[1]
        wet = max(0.0, grows("drawer-front", sizes.design.part("drawer-front").species, front)[1])
        found.append(
            Check(
                at_least(ABOVE, wet + CLEAR),
                f"{marked(ABOVE)} above the drawer, which grows {marked(wet)} by the wettest month",
            )
        )
    return tuple(found)


SMALL_TABLE = Kind(
    "small_table",
    "A small table: legs that may taper, aprons tenoned into them, a top; with or without a drawer.",
    ASKS,
    "A top {length} by {width} and {top} thick, {height} high, over the legs by {overhang}; "
    "legs {leg}, {foot} at the foot; aprons {apron} wide; a drawer: {drawer}.",
    design,
    checks,
)
