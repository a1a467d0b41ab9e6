"""What is planed off the arrises of a side: chamfer, bevel and round-over. One part is shaped; nothing goes together.

An arris is the line where two sides meet. ``way`` is the side it is taken from, its ``edges`` the ways the arrises of that side look.
Round-over by guide lines at the radius from the arris on both sides; an octagon first, by lines r (2 - sqrt 2) from it; geometry of the
circle.
"""

from __future__ import annotations

import math

from nullah.core.ask import Ask
from nullah.core.design import JointDesign
from nullah.core.drawing import Point
from nullah.core.frozen import frozen
from nullah.core.joints.family import Joins, Look, NoJoint, School, marked_faces, own_axis, side_of
from nullah.core.joints.plan import Check, JointPlan, Setting
from nullah.core.measure import at_least, marked
from nullah.core.shapes.cut import WAYS, Cut, Placed

OCTAGON = 2 - math.sqrt(2)  # of the radius: how far from the arris the octagon's lines lie
ARC = 12  # straight bits to a quarter of a circle
THIN = 2.0  # mm of an edge left at the least: thinner, it crumbles (common practice, no source)
STEEP = 15.0  # degrees: a bevel over that is planed as a chamfer is
BESIDE = {0: "left", 1: "lower", 2: "back"}  # the side across each axis of a part
EDGES = Ask("edges", "which of the side's edges: all, or ways as front left", "text", "all")


@frozen
class Arris:
    """What the three have in common."""

    name: str
    about: str
    asks: tuple[Ask, ...]
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = ""
    joins: Joins | None = None
    after: tuple[str, ...] = (
        "corner", "mortise_and_tenon", "dado", "groove", "rabbet", "nailed_rabbet", "edge_joint", "taper", "cut_out",
    )  # fmt: skip

    def figure(self, name: str, look: Look) -> float:
        """wide (on the side it is taken from), deep (on the edge), stop, radius, octagon, mm; angle, degrees."""
        if name in ("wide", "deep"):
            return self._size(look)[name == "deep"]
        if name == "angle":
            wide, deep = self._size(look)
            return math.degrees(math.atan2(deep, wide))
        if name == "radius" and self.name == "round_over":
            return float(look.asked("radius"))
        if name == "octagon" and self.name == "round_over":
            return OCTAGON * look.figure("radius")
        if name == "stop" and self.name == "chamfer":
            return float(look.asked("stop"))
        raise NoJoint(f"A {self.title} has no {name}.")

    @property
    def title(self) -> str:
        """What it is called."""
        return self.name.replace("_", "-")

    def _size(self, look: Look) -> tuple[float, float]:
        if self.name == "round_over":
            return (look.figure("radius"),) * 2
        if self.name == "chamfer":
            return (float(look.asked("size")),) * 2
        part = look.stands(look.joint.first)
        return float(look.asked("wide")), part.size[own_axis(part, look.joint.way)[0]] - float(look.asked("edge"))

    def plan(self, look: Look) -> JointPlan:
        """The arrises laid out, each along the whole of its edge, or with stops."""
        joint = look.joint
        part, called = look.stands(joint.first), look.label(joint.first)
        wide, deep = look.figure("wide"), look.figure("deep")
        thick = part.size[own_axis(part, joint.way)[0]]
        left = thick - deep
        stop = look.figure("stop") if self.name == "chamfer" else 0.0
        ways = self._edges(look, part)
        if wide <= 0 or deep <= 0 or left <= 0:
            raise NoJoint(f"A {self.title} of {marked(wide)} by {marked(deep)} does not lie within {called}.")
        cuts = tuple(self._cut(look, part, way, wide, deep, stop) for way in ways)
        ends = any(own_axis(part, way)[0] == 0 for way in ways)
        name = f"{self.title.capitalize()} of {called}"
        return JointPlan(
            joint.id,
            self.name,
            name,
            (joint.first,),
            self._settings(look, called, wide, deep, left, stop),
            self._steps(look, wide, deep, left, ends, stop),
            (Check(at_least(left, THIN), f"{marked(left)} of the edge is left; at least {marked(THIN)}"),),
            marked_faces(cuts, {part.id: part}, look.label),
            figures=self._figures(look, wide, deep, stop),
            cuts=cuts,
        )

    def _figures(self, look: Look, wide: float, deep: float, stop: float) -> dict[str, float]:
        more = {"radius": wide, "octagon": OCTAGON * wide} if self.name == "round_over" else {}
        return {"wide": wide, "deep": deep, **({"stop": stop} if stop else {}), **more}

    def _edges(self, look: Look, part: Placed) -> list[str]:
        """The ways its edges look, each that of another side."""
        taken = own_axis(part, look.joint.way)[0]
        there = [way for way in WAYS if own_axis(part, way)[0] != taken]
        asked = str(look.asked("edges")).split()
        if not asked or asked == ["all"]:
            return there
        for way in asked:
            if way not in there:
                raise NoJoint(f'{look.label(part.id)} has no edge "{way[:20]}" beside its side {look.joint.way}.')
        return list(dict.fromkeys(asked))

    def _cut(self, look: Look, part: Placed, way: str, wide: float, deep: float, stop: float) -> Cut:
        across, off = own_axis(part, way)
        into, on = own_axis(part, look.joint.way)
        along = 3 - across - into
        if wide > part.size[across] or (stop and 2 * (stop + deep) >= part.size[along]):
            raise NoJoint(f"A {self.title} of {marked(wide)} does not lie within {look.label(part.id)}.")

        def at(u: float, axis: int, sign: int) -> float:
            return part.size[axis] - u if sign > 0 else u

        if stop:  # what lies between a strip of the side and the line it comes down to, its ends sloping up
            near, far = ((stop, part.size[along] - stop), (stop + deep, part.size[along] - stop - deep))
            strips = [((a, 0.0), (b, 0.0), (b, w), (a, w)) for (a, b), w in ((near, wide), (far, 0.0))]
            outline, low = (
                tuple(_in_order(along, x, across, at(u, across, off)) for x, u in strip) for strip in strips
            )
            return Cut(part.id, side_of(part, look.joint.way), outline, deep, low)
        shape = _arc(wide) if self.name == "round_over" else [(0.0, 0.0), (wide, 0.0), (0.0, deep)]
        points = tuple(_in_order(across, at(u, across, off), into, at(v, into, on)) for u, v in shape)
        return Cut(part.id, BESIDE[along], points, part.size[along])

    def _settings(
        self, look: Look, called: str, wide: float, deep: float, left: float, stop: float
    ) -> tuple[Setting, ...]:
        mine = (look.joint.first,)
        if self.name == "round_over":
            return (
                Setting("marking gauge", wide, "", mine, f"guide lines of {called}, from the arris on both sides"),
                Setting("pencil gauge", OCTAGON * wide, "", mine, f"octagon of {called}, from the arris on both sides"),
            )
        if self.name == "chamfer":
            stops = (Setting("rule", stop, "", mine, f"stops of the chamfer of {called}, from the ends"),)
            line = Setting("pencil gauge", wide, "", mine, f"chamfer of {called}, from the arris on both sides")
            return (line, *(stops if stop else ()))
        slope = f"{math.degrees(math.atan2(deep, wide)):.1f}\N{DEGREE SIGN}"
        return (
            Setting("marking gauge", left, "", mine, f"edge left of {called}, from the side that stays"),
            Setting("pencil gauge", wide, "", mine, f"bevel of {called}, from the edge"),
            Setting("sliding bevel", None, slope, mine, f"slope of the bevel of {called}"),
        )

    def _steps(self, look: Look, wide: float, deep: float, left: float, ends: bool, stop: float) -> tuple[str, ...]:
        first = (
            "Across the ends first, in from both sides; what breaks out there the long edges take away. "
            if ends
            else ""
        )
        if self.name == "round_over":
            return (
                f"Pencil lines {marked(wide)} from the arris on both sides, and {marked(OCTAGON * wide)} from it for the octagon.",
                f"{first}Plane a flat down to the octagon's lines, then its two arrises, then those that come of that.",
                "Feel along it and look against the light; a curved scraper or sandpaper in a shaped block takes the last flats.",
            )
        if self.name == "chamfer":
            how = (
                f"Square the stops {marked(stop)} from the ends; pare the slopes at the stops with a chisel, plane between them."
                if stop
                else f"{first}Plane with the fence of the fingers until both lines are split alike."
            )
            return (
                f"Pencil the lines {marked(wide)} from the arris, never gauge them: a scratch stays to be seen.",
                how,
            )
        return (
            f"Gauge {marked(left)} on the edge all round, and a line {marked(wide)} in from it.",
            f"{first}Plane down to both lines, the plane tilted; the last shavings from end to end.",
            "Lay a straight edge on it: it is flat, and its corners meet in a clean line.",
        )


EASED = Ask(
    "edge", "the edges that are seen", "choice", "square", options=("square", "chamfered", "rounded", "bevelled below")
)  # asked by a kind


def eased(part: str, how: str, thickness: float, overhang: float, edges: str = "all") -> list[JointDesign]:
    """What a kind's answer to ``EASED`` comes to for a part that lies and stands over what is below it, mm: nothing where its edges
    stay square."""
    if how == "square":
        return []
    family, way, asked = {
        "chamfered": ("chamfer", "up", {"size": min(3.0, thickness / 4)}),
        "rounded": ("round_over", "up", {"radius": min(6.0, thickness / 2)}),
        "bevelled below": ("bevel", "down", {"wide": min(2 * thickness, overhang), "edge": thickness / 2}),
    }[how]
    return [JointDesign(f"edge-{part}", family, part, "", way, {**asked, "edges": edges}, set=f"edge of {part}")]


def _in_order(a: int, x: float, b: int, y: float) -> Point:
    """Coordinates on two axes, the lower axis first."""
    return (x, y) if a < b else (y, x)


def _arc(radius: float) -> list[Point]:
    """What a quarter of a circle leaves of the corner at (0, 0)."""
    turns = [n * math.pi / 2 / ARC for n in range(ARC + 1)]
    return [(0.0, 0.0), *((radius * (1 - math.sin(t)), radius * (1 - math.cos(t))) for t in turns)]


CHAMFER = Arris(
    "chamfer",
    "An arris planed off at 45 degrees, through or with stops.",
    (
        Ask("size", "how wide it is on both sides", "length", 3.0, 0.5, 100.0),
        Ask("stop", "how far from the ends it stops; 0: it runs through", "length", 0.0, 0.0, 2000.0),
        EDGES,
    ),
)
BEVEL = Arris(
    "bevel",
    "A side that slopes down to a thinner edge: a panel's margin, the underside of a top that is to look lighter.",
    (
        Ask("wide", "how far in it begins", "length", 40.0, 1.0, 1000.0),
        Ask("edge", "how thick the edge is left", "length", 6.0, 0.5, 300.0),
        EDGES,
    ),
)
ROUND_OVER = Arris(
    "round_over",
    "An arris rounded to a quarter of a circle by guide lines.",
    (Ask("radius", "radius of the round", "length", 6.0, 0.5, 200.0), EDGES),
)
