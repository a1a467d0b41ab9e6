"""A hole bored into a side of a part: for a peg, a pull, a rope, or to begin a cut-out by."""

from __future__ import annotations

from nullah.core.marking.family import Joins, Look, NoJoint, School, bit_check, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import SIDE_WORDS, Check, JointPlan, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, Cut, circle
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

ROUND = 32  # straight bits to a circle


@frozen
class BoredHole:
    """The family: ``first`` is bored into on its side that looks ``way``."""

    name: str = "bored_hole"
    about: str = "A hole bored into a side, through or to a depth."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = ""
    making: Making = Making("bored", "bored", fits=False)
    joins: Joins | None = None
    after: tuple[str, ...] = ("mortise_and_tenon", "dado", "groove", "rabbet")
    asks: tuple[Ask, ...] = (
        Ask("diameter", "how wide it is", "length", 10.0, 1.0, 200.0),
        Ask("along", "its middle, from the left or lower end of that side", "length", 50.0, 0.0, 20_000.0),
        Ask("across", "its middle, from the lower edge or back of that side", "length", 20.0, 0.0, 5000.0),
        Ask("deep", "how deep it is; 0: through", "length", 0.0, 0.0, 2000.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """diameter, along, across, deep, left (the least wood beside it), mm."""
        if name in ("diameter", "along", "across"):
            return float(look.asked(name))
        part = look.stands(look.joint.first)
        axis, _ = SIDES[side_of(part, look.joint.way)]
        if name == "deep":
            return min(float(look.asked("deep")) or part.size[axis], part.size[axis])
        if name == "left":
            sides = (part.size[k] for k in range(3) if k != axis)
            at = (look.figure("along"), look.figure("across"))
            return min(min(v, size - v) for v, size in zip(at, sides, strict=True)) - look.figure("diameter") / 2
        raise NoJoint(f"A bored hole has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The hole laid out."""
        joint = look.joint
        part, name = look.stands(joint.first), look.label(joint.first)
        wide, deep, left = look.figure("diameter"), look.figure("deep"), look.figure("left")
        x, y = look.figure("along"), look.figure("across")
        side = side_of(part, joint.way)
        through = deep >= part.size[SIDES[side][0]] - 1e-6
        if left <= 0:
            raise NoJoint(f"A hole of {marked(wide)} does not lie within {name} there.")
        cut = Cut(part.id, side, circle(x, y, wide / 2, ROUND, 0.0), deep)
        how = (
            "Bore until the point of the bit shows, then from the other side: so nothing splinters."
            if through
            else f"Bore to a mark on the bit at {marked(deep)}; a square beside it keeps it upright."
        )
        mine = (joint.first,)
        lows = [SIDE_WORDS[n] for n, (k, far) in SIDES.items() if not far and k != SIDES[side][0]]
        return JointPlan(
            joint.id,
            self.name,
            f"Hole in {name}",
            mine,
            (
                Setting("bit", wide, "", mine, f"hole in {name}"),
                Setting("rule", x, "", mine, f"middle of the hole in {name}", lows[0]),
                Setting("marking gauge", y, "", mine, f"middle of the hole in {name}", lows[1]),
                *(() if through else (Setting("depth mark on the bit", deep, "", mine, f"hole in {name}"),)),
            ),
            (
                f"Prick the middle {marked(x)} from the {lows[0]} and {marked(y)} from the {lows[1]}, where both lines cross.",
                how,
            ),
            (
                bit_check(look.shop, wide, "hole", "diameter"),
                Check(
                    at_least(left, wide / 2), f"{marked(left)} of wood is left beside it; at least {marked(wide / 2)}"
                ),
            ),
            marked_faces((cut,), {part.id: part}, look.label),
            figures={"diameter": wide, "along": x, "across": y, "deep": deep, "left": left},
            cuts=(cut,),
        )


BORED_HOLE = BoredHole()
