"""Dowels between two parts that lie against each other: holes alike in both, in a row along the middle of what they share."""

from __future__ import annotations

from nullah.core.joints.screws import ACROSS, grain_axis, hole, in_the_middle, outward, row_axis, shared
from nullah.core.joints.spacing import spaced
from nullah.core.marking.family import (
    OPPOSITE,
    Joins,
    Look,
    NoJoint,
    School,
    axis_of,
    bit_check,
    bit_near,
    side_of,
    way_of,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import (
    MADE,
    SIDE_WORDS,
    Check,
    JointPlan,
    Mend,
    Said,
    Setting,
    counted,
    gathered,
    off_side,
)
from nullah.core.marking.work import Making
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

GLUE = 1.0  # mm a hole is deeper than its dowel goes, for the glue (common practice, no source)
DEEP = 2.5  # diameters a dowel goes into either part (common practice, no source)
LEFT = 2.0  # mm of the second part that stay behind a hole
SHARE = 0.4  # of the thickness: the diameter wanted
LEAST, MOST = 1 / 3, 1 / 2  # of the thickness: the diameter (common practice, no source)


def _thick(look: Look) -> float:
    """What both parts share across the row, mm."""
    low, high = shared(look)[3 - axis_of(look.joint.way)[0] - row_axis(look)]
    return high - low


@frozen
class Dowels:
    """The family: ``first`` lies against ``second``."""

    name: str = "dowels"
    about: str = "Parts that lie against each other, held by glued dowels."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "glued"
    making: Making = Making("bored", "bored", lambda joint: {"make": 0.3 * joint.figures["count"]})
    joins: Joins = Joins(
        "As strong as the glue on the dowels' sides; a mortise and tenon holds more.",
        "Dowels hold both parts fast: across much of the grain one of them splits in time.",
    )
    after: tuple[str, ...] = ("mortise_and_tenon", "taper")
    asks: tuple[Ask, ...] = (
        Ask("diameter", "diameter of the dowels; 0: the bit nearest to 0.4 of the wood", "length", 0.0, 0.0, 30.0),
        Ask("pitch", "how far they are apart at the most", "length", 100.0, 10.0, 1000.0),
        Ask("end", "first and last from the ends; 0: twice the diameter", "length", 0.0, 0.0, 300.0),
        Ask("deep", "how deep they go into either part; 0: as suits", "length", 0.0, 0.0, 200.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """diameter, count, apart, end, deep; mm, and a count."""
        diameter = float(look.asked("diameter")) or bit_near(look.shop, SHARE * _thick(look))
        if name == "diameter":
            return diameter
        if name == "end":
            return float(look.asked("end")) or 2 * diameter
        if name == "deep":
            axis, _ = axis_of(look.joint.way)
            low, high = look.body(look.joint.second)[axis]
            return float(look.asked("deep")) or min(DEEP * diameter, high - low - LEFT - GLUE)
        if name in ("count", "apart"):
            low, high = shared(look)[row_axis(look)]
            try:
                return spaced(high - low, float(look.asked("pitch")), look.figure("end"))[0 if name == "count" else 1]
            except ValueError as error:
                raise NoJoint(f"Dowels of {marked(diameter)} on {marked(high - low)}: {error}") from None
        raise NoJoint(f"Dowels have no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out: holes alike in both parts."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        a, b = look.label(joint.first), look.label(joint.second)
        diameter, deep, end, apart = (look.figure(n) for n in ("diameter", "deep", "end", "apart"))
        axis, _ = axis_of(joint.way)
        both, line = shared(look), row_axis(look)
        thick = both[3 - axis - line][1] - both[3 - axis - line][0]
        low, high = look.body(joint.second)[axis]
        count = int(look.figure("count"))
        mine = look.across(joint.first, joint.way)
        if deep <= 0 or deep + GLUE >= min(high - low, mine) or diameter >= thick:
            raise NoJoint(f"Dowels of {marked(diameter)}, {marked(deep)} deep, do not lie within {b} and {a}.")
        if count > 1 and apart <= diameter:
            raise NoJoint(
                f"Dowels of {marked(diameter)}, {marked(apart)} from middle to middle, run into each other; set the first and the last "
                "nearer to the ends, or take thinner ones."
            )
        spots = in_the_middle(look, [both[line][0] + end + n * apart for n in range(count)])
        cuts = []
        for at in spots:
            cuts.append(hole(first, at, OPPOSITE[joint.way], diameter / 2, deep + GLUE))
            cuts.append(hole(second, at, joint.way, diameter / 2, deep + GLUE))
        ahead = way_of(line, 1)
        across_way = outward(look, 3 - axis - line)
        say = Said()
        settings = [
            Setting("bit", diameter, "", (joint.first, joint.second), "holes for dowels"),
            Setting("depth mark on the bit", deep + GLUE, "", (joint.first, joint.second), "holes for dowels"),
        ]
        rows, starts = [], []
        for placed, cut, called in ((first, cuts[0], a), (second, cuts[1], b)):
            side, end_side = side_of(placed, across_way), side_of(placed, OPPOSITE[ahead])
            middle, begins = off_side(cut, placed.size, side, True), off_side(cut, placed.size, end_side, True)
            settings.append(
                Setting(
                    "marking gauge", middle, "", (placed.id,), f"middle of the dowels of {called}", SIDE_WORDS[side]
                )
            )
            settings.append(Setting("rule", begins, "", (placed.id,), f"first dowel of {called}", SIDE_WORDS[end_side]))
            rows.append(f"{marked(middle)} from the {SIDE_WORDS[side]} of {called}")
            starts.append(f"{marked(begins)} from the {SIDE_WORDS[end_side]} of {called}")
        if count > 1:
            settings.append(Setting("dividers", apart, "", (joint.first, joint.second), f"dowels of {a} and {b}"))
        dowel = say(2 * deep, joint.first, MADE, "length of a dowel")
        crossing = len({grain_axis(look, p) == line for p in (joint.first, joint.second)}) == 2
        parts = (joint.first, joint.second)
        row = f"{counted(count, 'dowel')}, the first {starts[0]} and {starts[1]}"
        return JointPlan(
            joint.id,
            self.name,
            f"{a} dowelled to {b}",
            parts,
            gathered(settings),
            (
                "Mark face and edge of both; every line is gauged and squared from those.",
                f"Set out {row}, on both parts at once, clamped side by side as they will lie; gauge the middle of the row "
                f"{rows[0]}, {rows[1]}.",
                f"Prick each middle; bore square to the side, to a mark on the bit at {marked(deep + GLUE)}. Ease the mouths.",
                f"Cut dowels {dowel} long, chamfer their ends, let the glue out by a groove along each.",
                "Put it together dry; then glue the holes, not the dowels, and draw it up square.",
            ),
            (
                bit_check(look.shop, diameter, "dowels", "diameter", SHARE * thick),
                Check(
                    at_least(diameter, LEAST * thick) and at_least(MOST * thick, diameter),
                    f"dowels {marked(diameter)} in {marked(thick)}; a third to a half of it",
                    Mend(
                        "diameter",
                        bit_near(look.shop, SHARE * thick),
                        f"dowels of {marked(bit_near(look.shop, SHARE * thick))}",
                    ),
                ),
                Check(
                    at_least((thick - diameter) / 2, diameter / 2),
                    f"{marked((thick - diameter) / 2)} of wood on either side; at least {marked(diameter / 2)}",
                ),
                Check(
                    at_least(deep, 2 * diameter), f"{marked(deep)} deep in either part; at least {marked(2 * diameter)}"
                ),
                Check(
                    at_least(high - low - deep - GLUE, LEFT),
                    f"{marked(high - low - deep - GLUE)} of {b} stay behind them; at least {marked(LEFT)}",
                ),
                *(
                    (
                        Check(
                            at_least(apart, 2 * diameter),
                            f"dowels {marked(apart)} from middle to middle; at least {marked(2 * diameter)}",
                        ),
                    )
                    if count > 1
                    else ()
                ),
                *(
                    (
                        Check(
                            at_least(ACROSS, apart * (count - 1)),
                            f"held fast across {marked(apart * (count - 1))} of the grain",
                        ),
                    )
                    if crossing
                    else ()
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            figures={"diameter": diameter, "count": float(count), "apart": apart, "end": end, "deep": deep},
            cuts=tuple(cuts),
        )


DOWELS = Dowels()
