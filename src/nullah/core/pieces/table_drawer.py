"""The drawer of a small table, in a frame of its own, and what carries it: rails, doublers, runners, stops."""

from __future__ import annotations

from nullah.core.pieces.kind import Answers
from nullah.core.values.design import (
    Along,
    Answer,
    Frame,
    JointDesign,
    Mark,
    PartDesign,
    Rod,
    Sum,
    between,
    from_mark,
    mm,
    of,
    swelling,
    up_to,
)
from nullah.core.values.frozen import replace

SET_BACK = 3.0  # mm an apron stands behind the face of its legs, so that it looks meant (common practice: 1.5 or more)
APRON = 20.0  # mm thick, in legs that are thick enough
APRON_SHARE = 0.55  # of the leg, the most an apron is thick
RAIL = 18.0  # mm a drawer rail is thick, and the runners and kickers with it
RUNNER = 25.0  # mm wide
REVEAL = 0.5  # mm beside a drawer on each side (common practice)
CLEAR = 0.5  # mm a drawer keeps above it in the wettest month (common practice: 0.5 to 1)
UPRIGHT = ("drawer-front", "drawer-left", "drawer-right", "drawer-back")  # what of a drawer grows upward
SIDE = 10.0  # mm: sides and back of the drawer
FRONT = 18.0  # mm: front of the drawer
BOTTOM = 6.0  # mm
BOTTOM_UP = 9.0  # mm from the lower edge of the drawer to its groove
FREE = 1.0  # mm it is kept free in the grooves of the sides
GROOVE = 5.0  # mm the grooves of its bottom are deep, which moves in them
BEHIND = 2.0  # mm the drawer stops short of the back legs
STOP_INSET = 0.15  # of the opening: how far from a leg a stop stands
STOP = 6.0  # mm high, below the drawer's bottom
DOUBLER = 13.0  # mm a doubler is thick at the least, so that screws hold in it
LEFT_BEHIND = 1.0  # mm of an apron that stay before a screw's point
BITE = 15.0  # mm a screw goes into the second part


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


def beside_leg(side: str, wide: Sum) -> Along:
    """Beside the inside of the front leg on one side."""
    return from_mark("front", "inside-first", wide) if side == "left" else up_to("front", "inside-second", wide)


def strip(part_id: str, label: str, up: str, along: Along, across: Along, through: Along, group: str) -> PartDesign:
    """A strip that nobody sees, fitted last, its face up."""
    return PartDesign(part_id, label, "up", up, along, across, through, group=group, role="hidden", fitted=True)


def screwed(first: str, second: str, way: str, asked: dict[str, Answer], set_: str, name: str = "") -> JointDesign:
    """One part screwed to another; named by the first unless a name is given."""
    return JointDesign(f"screws-{name or first}", "butt_screws", first, second, way, asked, set_)


def rails(asked: Answers, parts: list[PartDesign], joints: list[JointDesign]) -> None:
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
        at_leg = within(side, 1.0 if side == "left" else -1.0)
        left = side == "left"
        parts.append(
            replace(
                strip(
                    f"doubler-{side}",
                    f"{side} doubler",
                    "up",
                    between(side, "inside-first", "inside-second"),
                    between("height", "apron-low", "apron-high"),
                    from_mark("front", "start", thick, at_leg) if left else up_to("front", "end", thick, at_leg),
                    "doublers",
                ),
                face="right" if left else "left",
            )
        )
        apron = apron_thick(asked)
        doubler = asked["leg"] - SET_BACK - apron
        long = round(doubler + min(BITE, apron - LEFT_BEHIND), 1)
        joints.append(screwed(f"doubler-{side}", f"apron-{side}", side, {"long": long}, "beside"))
        parts.append(
            strip(
                f"runner-{side}",
                f"{side} runner",
                "left",
                between(side, "start", "inside-second", of("lower rail", "rail-lower", "width")),
                beside_leg(side, mm("wide", RUNNER)),
                up_to("height", "rail-low", mm("runner", RAIL)),
                "runners",
            )
        )
        joints.append(screwed(f"runner-{side}", f"doubler-{side}", side, {"long": RUNNER + BITE}, "beside"))
        size, inset = mm("stop", 30.0), stop_inset(1.0 if left else -1.0)
        parts.append(
            strip(
                f"stop-{side}",
                f"{side} stop",
                "back",
                from_mark("front", "inside-first", size, inset)
                if left
                else up_to("front", "inside-second", size, inset),
                from_mark("left", "start", mm("wide", 15.0), of("drawer front", "drawer-front", "thickness")),
                from_mark("height", "rail-low", mm("stop", STOP)),
                "stops",
            )
        )
        joints.append(screwed(f"stop-{side}", "rail-lower", "down", {"screw": 3.0, "long": 20.0}, "stops"))


def drawer() -> tuple[list[Rod], list[PartDesign], list[JointDesign], tuple[Frame, ...]]:
    """The drawer, in a frame of its own that lies in the opening."""
    inside = of("inside of the leg", "front", "inside-first")
    frame = Frame("drawer", (inside + mm("reveal", REVEAL), (), of("lower rail", "height", "rail-low")))
    opening = of("opening", "front", "inside-second") + of("", "front", "inside-first", -1.0)
    high = of("opening", "height", "rail-high") + of("", "height", "rail-low", -1.0)
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
            high + swelling("what it grows by the wettest month", high, UPRIGHT) + mm("room above then", -CLEAR),
            "drawer",
        ),
    ]
    stands = between("drawer-high", "lower", "upper")
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
        part("front", "front", "front", across, stands, from_mark("drawer-deep", "start", front), "show"),
        part("left", "left side", "left", deep, stands, from_mark("drawer-across", "start", side), "inside"),
        part("right", "right side", "right", deep, stands, up_to("drawer-across", "end", side), "inside"),
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
        name = f"drawer-{side_name}"
        for end in ("front", "back"):
            joints.append(
                JointDesign(
                    f"corner-{name}-{end}",
                    "through_dovetail",
                    name,
                    f"drawer-{end}",
                    end,
                    {"pin": 5.0},
                    "drawer corners",
                )
            )
        joints.append(_grooved(side_name))
    joints.append(_grooved("front"))
    return rods, parts, joints, (frame,)


def apron_thick(asked: Answers) -> float:
    """How thick the aprons are, mm: as is common, but no more than the legs bear, and with a drawer than leaves room for doublers."""
    most = min(APRON, APRON_SHARE * float(asked["leg"]))
    return min(most, float(asked["leg"]) - SET_BACK - DOUBLER) if asked["drawer"] else most


def _grooved(side: str) -> JointDesign:
    """The bottom in its groove in a side, with some room at the end of its grain, or in the front, with what it grows there."""
    asked: dict[str, Answer] = {"depth": GROOVE} if side == "front" else {"depth": GROOVE, "free": FREE}
    return JointDesign(
        f"groove-drawer-{side}", "groove", "drawer-bottom", f"drawer-{side}", side, asked, "drawer groove"
    )
