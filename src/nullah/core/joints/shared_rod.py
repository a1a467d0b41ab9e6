"""Parts that share a rod, bored together: one line through both, wherever they stand."""

from __future__ import annotations

from nullah.core.joints.screws import hole
from nullah.core.marking.family import Joins, Look, NoJoint, School, axis_of, bit_check, own_point, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import MADE, SIDE_WORDS, Check, JointPlan, Said, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, Cut, Placed, Point3
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

LEFT = 3.0  # mm of wood behind a hole that stops (common practice)


@frozen
class SharedRod:
    """The family: the rod goes through ``first`` and into or through ``second``, which may stand apart."""

    name: str = "shared_rod"
    about: str = "A rod through two parts: both are bored at once, clamped together."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = "dry"
    making: Making = Making("bored", "bored", fits=False)
    joins: Joins = Joins(
        "It carries what hangs on it; it holds parts together only where it is glued or pinned.",
        "A round rod turns oval in a year by a little: a shade of play, or glue in one part only.",
    )
    after: tuple[str, ...] = ("mortise_and_tenon", "taper")
    asks: tuple[Ask, ...] = (
        Ask("diameter", "diameter of the rod", "length", 10.0, 2.0, 60.0),
        Ask("along", "its middle, from the left or lower end of the first part's side", "length", 40.0, 0.0, 20_000.0),
        Ask("across", "its middle, from the lower edge or back of that side", "length", 20.0, 0.0, 5000.0),
        Ask("play", "how much wider the holes are", "length", 0.2, 0.0, 5.0),
        Ask("deep", "how deep it goes into the second; 0: through", "length", 0.0, 0.0, 2000.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """diameter, along, across, play, hole, deep, mm; left, the least wood beside the hole in both."""
        if name in ("diameter", "along", "across", "play"):
            return float(look.asked(name))
        if name == "hole":
            return look.figure("diameter") + look.figure("play")
        whole = look.across(look.joint.second, look.joint.way)
        if name == "deep":
            return min(float(look.asked("deep")) or whole, whole)
        if name == "left":
            spots = _spots(look)
            return min(_beside(p, at, look.joint.way) for p, at in spots) - look.figure("hole") / 2
        raise NoJoint(f"A shared rod has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The two holes, on one line."""
        joint = look.joint
        a, b = look.label(joint.first), look.label(joint.second)
        wide, deep, left = look.figure("hole"), look.figure("deep"), look.figure("left")
        if left <= 0:
            raise NoJoint(f"A hole of {marked(wide)} does not lie within both {a} and {b} there.")
        (first, at), (second, there) = _spots(look)
        cuts: tuple[Cut, ...] = (
            hole(first, at, joint.way, wide / 2, look.across(joint.first, joint.way)),
            hole(second, there, joint.way, wide / 2, deep),
        )
        whole = look.across(joint.second, joint.way)
        through = deep >= whole - 1e-6
        behind = whole - deep
        parts, say = (joint.first, joint.second), Said()
        lows = [SIDE_WORDS[n] for n, (k, far) in SIDES.items() if not far and k != SIDES[cuts[0].side][0]]
        rod = say(look.figure("diameter"), joint.first, MADE, "rod")
        deep_told = say(cuts[1].depth, joint.second, "", "depth of the hole")
        return JointPlan(
            joint.id,
            self.name,
            f"Rod through {a} and {b}",
            parts,
            (
                Setting("bit", wide, "", parts, f"rod through {a} and {b}"),
                Setting("rule", look.figure("along"), "", (joint.first,), f"middle of the rod in {a}", lows[0]),
                Setting(
                    "marking gauge",
                    look.figure("across"),
                    "",
                    (joint.first,),
                    f"middle of the rod in {a}",
                    lows[1],
                ),
            ),
            (
                f"Clamp {a} and {b} together as they will stand to each other, edges and ends flush as in the piece; mark both.",
                f"Prick the middle on {a}; bore both at once, a square beside the bit"
                + (
                    ", until its point shows; finish from the other side."
                    if through
                    else f", to a mark at {deep_told} into {b}."
                ),
                f"Try the rod of {rod} in a trial hole first: bits bore a shade over their name, rods dry oval.",
            ),
            (
                bit_check(look.shop, look.figure("diameter"), "rod", "diameter"),
                Check(
                    at_least(left, look.figure("diameter") / 2),
                    f"{marked(left)} of wood beside it; at least {marked(look.figure('diameter') / 2)}",
                ),
                *(
                    ()
                    if through
                    else (
                        Check(
                            at_least(behind, LEFT), f"{marked(behind)} of {b} stays behind it; at least {marked(LEFT)}"
                        ),
                    )
                ),
            ),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            lengths=say.lengths,
            figures={
                "diameter": look.figure("diameter"),
                "hole": wide,
                "deep": deep,
                "along": look.figure("along"),
                "across": look.figure("across"),
            },
            cuts=cuts,
        )


def _spots(look: Look) -> tuple[tuple[Placed, Point3], tuple[Placed, Point3]]:
    """Both parts, and where the rod goes in: as asked on the first, and where that line meets the second."""
    joint = look.joint
    first, second = look.stands(joint.first), look.stands_in(joint.second, joint.first)
    if any(sum(abs(v) > 1e-9 for v in axis) != 1 for axis in second.axes):
        raise NoJoint(f"{look.label(joint.second)} leans: a rod goes square through both.")
    side = side_of(first, joint.way)
    axis = SIDES[side][0]
    own = [0.0, 0.0, 0.0]
    i, j = (k for k in range(3) if k != axis)
    own[i], own[j] = look.figure("along"), look.figure("across")
    at = first.at((own[0], own[1], own[2]))
    way, sign = axis_of(joint.way)
    low, high = second.box
    near = low[way] if sign > 0 else high[way]
    there = tuple(near if k == way else at[k] for k in range(3))
    return (first, at), (second, (there[0], there[1], there[2]))


def _beside(part: Placed, at: Point3, way: str) -> float:
    """How far a point on a side lies from the side's nearest edge, mm; less than 0 outside."""
    own = own_point(part, at)
    axis = SIDES[side_of(part, way)][0]
    return min(min(own[k], part.size[k] - own[k]) for k in range(3) if k != axis)


SHARED_ROD = SharedRod()
