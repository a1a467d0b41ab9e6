"""What goes into a boarded chest and on it: a till with a lid or without, a bracket below the front, a stay for the lid."""

from __future__ import annotations

import math

from nullah.core.marking.plan import Check
from nullah.core.pieces.sizes import Sizes
from nullah.core.values.design import (
    Along,
    Answer,
    Design,
    JointDesign,
    Mark,
    PartDesign,
    Ref,
    Rod,
    Sum,
    between,
    from_mark,
    mm,
    of,
    up_to,
)
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

TILL = (150.0, 110.0, 10.0)  # mm long inside, deep, and thick
SHALLOW = 4.0  # mm of the till's dadoes
LEDGE = (15.0, 20.0)  # mm thick and wide: what the till's lid lies on at the end
GRIP = 6.0  # mm the till's lid stands over its side
EASE = 1.5  # mm the till's lid is shorter than the room for it
SET_BACK = 2.0  # mm the bracket stands behind the front: enough to look meant (1.5 or more, common practice)
ARCH = 0.5  # of the bracket's width, how high its arch rises
STAY = (12.0, 25.0)  # mm thick and wide
PIVOT_HOLE = 5.0  # mm: easy on the screw that it turns on, and a bit's size
PIVOT = (60.0, 35.0)  # mm before the back and below the rim, where the stay turns
BEARS = 0.45  # of the depth inside, how far from the hinge the stay bears on the lid
OPEN = 100.0  # degrees that the lid stands open: past upright, so that it does not fall shut
SCREW = 4.0  # mm
BITE = 14.0  # mm a screw goes into what it holds to


@frozen
class Fittings:
    """Parts, rods and joints that come to a chest."""

    parts: tuple[PartDesign, ...] = ()
    rods: tuple[Rod, ...] = ()
    joints: tuple[JointDesign, ...] = ()

    def on(self, chest: Design) -> Design:
        """The chest with them."""
        return Design((*chest.rods, *self.rods), (*chest.parts, *self.parts), (*chest.joints, *self.joints))


def _screwed(joint: str, first: str, second: str, way: str, thick: float, slotted: bool = False) -> JointDesign:
    asks: dict[str, Answer] = {"screw": SCREW, "long": thick + BITE, "slotted": slotted}
    return JointDesign(joint, "butt_screws", first, second, way, asks)


def till(height: Sum, end: Sum, lid: bool) -> Fittings:
    """A till at the left end: its bottom and its side in shallow dadoes of front and back; its lid lies on the side and on a ledge.

    Args:
        height: of the chest. end: from the lid's left end to the inside of the chest's.
    """
    long, deep, thick = TILL
    size = mm("till", thick)
    marks = [
        Mark("under", height + mm("deep", deep, times=-1.0)),
        Mark("floor", of("till bottom", "till-bottom", "thickness")),
    ]
    above = mm("deep", deep) + of("till bottom", "till-bottom", "thickness", -1.0)
    if lid:
        marks += [
            Mark("rim", above + of("till lid", "till-lid", "thickness", -1.0)),
            Mark("top", of("till lid", "till-lid", "thickness")),
        ]
    else:
        marks.append(Mark("rim", above))
    rods = (
        Rod(
            "till",
            "Till",
            "x",
            (
                Mark("end", end),
                Mark("inside", mm("inside the till", long)),
                Mark("out", of("till side", "till-side", "thickness")),
            ),
        ),
        Rod("till-height", "Till, down from the top", "z", tuple(marks)),
    )
    across = between("depth", "inside-front", "inside-back")
    parts = [
        _part(
            "till bottom", "up", "right", across, between("till", "end", "out"), from_mark("till-height", "under", size)
        ),
        _part("till side", "right", "up", across, between("till-height", "floor", "rim"), up_to("till", "out", size)),
    ]
    asks: dict[str, Answer] = {"depth": SHALLOW, "fixed": "dry"}
    joints = [
        JointDesign(f"{part}-{side}", "dado", part, side, side, asks, set=part)
        for part in ("till-bottom", "till-side")
        for side in ("front", "back")
    ]
    if lid:
        ease = mm("ease", EASE / 2)
        free = between("depth", "inside-front", "inside-back", ease, mm("ease", -EASE / 2))
        wide = between("till", "end", "out", off_b=mm("to lift it by", GRIP))
        ledge_thick, ledge_wide = LEDGE
        parts += [
            _part("till lid", "up", "right", free, wide, from_mark("till-height", "rim", size)),
            _part(
                "till ledge",
                "right",
                "up",
                across,
                up_to("till-height", "rim", mm("ledge", ledge_wide)),
                from_mark("till", "end", mm("ledge", ledge_thick)),
            ),
        ]
        joints.append(_screwed("till-ledge", "till-ledge", "left-end", "left", ledge_thick, slotted=True))
    return Fittings(tuple(parts), rods, tuple(joints))


def bracket(feet: float, stock: float) -> Fittings:
    """A board below the front, between the ends and a little behind the front, arched from foot to foot."""
    part = PartDesign(
        "bracket",
        "bracket",
        "front",
        "up",
        between("length", "inside-left", "inside-right"),
        between("height", "floor", "front-low"),
        from_mark("depth", "front", mm("stock", stock, "stock"), mm("set back", SET_BACK)),
    )
    arch: dict[str, Answer] = {"shape": "arch", "deep": feet * ARCH, "foot": feet}
    joints = (
        JointDesign("arch", "cut_out", "bracket", "", "down", arch),
        _screwed("bracket-left", "left-end", "bracket", "right", stock),
        _screwed("bracket-right", "right-end", "bracket", "left", stock),
    )
    return Fittings((part,), (), joints)


def stay_length(inside: float) -> float:
    """From the hole a stay turns on to where it bears on the lid that it holds open, mm, of a chest so deep inside.

    The hinge is at the back, level with the rim; the stay turns before and below it, and bears on the lid so far from the hinge.
    """
    before, below = PIVOT
    bears, past = BEARS * inside, math.radians(OPEN - 90.0)
    return math.hypot(before + bears * math.sin(past), below + bears * math.cos(past))


def stay(inside: float) -> Fittings:
    """A stay that turns on a screw in the right end and folds down along it, drawn as it lies folded."""
    thick, wide = STAY
    before, below = PIVOT
    long = stay_length(inside) + wide / 2
    part = PartDesign(
        "stay",
        "stay",
        "left",
        "up",
        up_to(
            "depth", "inside-back", mm("long enough to hold the lid open", long), mm("from the back", wide / 2 - before)
        ),
        up_to("height", "top", mm("stay", wide), mm("below the rim", wide / 2 - below)),
        up_to("length", "inside-right", mm("stay", thick)),
        role="inside",
    )
    hole: dict[str, Answer] = {"diameter": PIVOT_HOLE, "along": wide / 2, "across": wide / 2}
    return Fittings((part,), (), (JointDesign("stay-hole", "bored_hole", "stay", "", "left", hole),))


def stay_checks(sizes: Sizes) -> tuple[Check, ...]:
    """Whether the stay, if the chest has one, folds down along the end."""
    if not sizes.has("stay"):
        return ()
    inside = sizes.value(Ref("depth", "inside-back")) - sizes.value(Ref("depth", "inside-front"))
    long, wide = sizes.size("stay")[:2]
    words = f"the stay, {marked(long)} long, folds down along the end, {marked(inside)} inside"
    return (Check(at_least(inside, PIVOT[0] - wide / 2 + long), words),)


def stay_words(inside: float) -> str:
    """How the stay of a chest so deep inside, mm, is put on."""
    before, below = PIVOT
    return (
        f"Screw the stay to the right end so that it turns, {marked(before)} before the back and {marked(below)} below the rim; it "
        f"bears on the lid {marked(BEARS * inside)} from the hinges, where a stop is screwed to it, and holds it open at "
        f"{OPEN:.0f} degrees."
    )


def _part(label: str, face: str, up: str, along: Along, across: Along, through: Along) -> PartDesign:
    return PartDesign(label.replace(" ", "-"), label, face, up, along, across, through, group="till", role="inside")
