"""What is planed off the arrises of a side: chamfer, bevel, round-over and moulding. One part is shaped; nothing goes together.

An arris is the line where two sides meet. ``way`` is the side it is taken from, its ``edges`` the ways the arrises of that side look.
Round-over by guide lines at the radius from the arris on both sides; an octagon first, by lines r (2 - sqrt 2) from it; geometry of the
circle.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from nullah.core.drawing.display_list import Point
from nullah.core.marking.family import Joins, Look, NoJoint, School, own_axis, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import MADE, Check, JointPlan, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import WAYS, Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

OCTAGON = 2 - math.sqrt(2)  # of the radius: how far from the arris the octagon's lines lie
ARC = 12  # straight bits to a quarter of a circle
THIN = 2.0  # mm of an edge left at the least: thinner, it crumbles (common practice, no source)
DEEP = {
    "cove": 1.0,
    "ogee": 0.8,
    "thumbnail": 0.45,
}  # of its width: how deep a moulding is (common practice, no source)
LEAST_CHAMFER = 0.5  # mm
# of the reveal beside it: a chamfer that looks meant (common practice, no source, has it smaller than that)
OF_REVEAL = 2 / 3
STEP = 0.2  # of a thumbnail's depth: its step
BESIDE = {0: "left", 1: "lower", 2: "back"}  # the side across each axis of a part
EDGES = Ask("edges", "which of the side's edges: all, or ways as front left", "text", "all")


@frozen
class Taken:
    """What is taken off the arrises of a side: how wide on the side and how deep on its edges, what is left of those, how far from the
    ends it stops, mm; whether ends are among them."""

    part: str
    called: str
    wide: float
    deep: float
    left: float
    stop: float
    ends: bool

    @property
    def first(self) -> str:
        """What is said first where it goes across the grain."""
        over = "Across the ends first, in from both sides; what breaks out there the long edges take away. "
        return over if self.ends else ""


@frozen
class Arris:
    """What they have in common; each says what it is as large as, what it looks like on the end, and how it is made."""

    name: str
    about: str
    asks: tuple[Ask, ...]
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = ""
    making: Making = Making("chamfered", "chamfered", fits=False)
    joins: Joins | None = None
    after: tuple[str, ...] = (
        "through_dovetail", "mortise_and_tenon", "dado", "groove", "sliding_lid", "rabbet", "nailed_rabbet", "edge_joint", "taper",
        "cut_out",
    )  # fmt: skip

    def size(self, look: Look) -> tuple[float, float]:
        """How wide it is on its side, and how deep on the edges, mm."""
        raise NotImplementedError

    def stop(self, look: Look) -> float:
        """How far from the ends it stops, mm; 0: it runs through."""
        return 0.0

    def section(self, look: Look, wide: float, deep: float) -> list[Point]:
        """What is taken away as seen on the end: so far in from the edge, so far down from the side."""
        return [(0.0, 0.0), (wide, 0.0), (0.0, deep)]

    def figures(self, taken: Taken) -> dict[str, float]:
        """What it is laid out to, mm."""
        return {"wide": taken.wide, "deep": taken.deep, **({"stop": taken.stop} if taken.stop else {})}

    def settings(self, taken: Taken) -> tuple[Setting, ...]:
        """What tools are set to for it."""
        raise NotImplementedError

    def steps(self, taken: Taken) -> tuple[str, ...]:
        """How it is made."""
        raise NotImplementedError

    def figure(self, name: str, look: Look) -> float:
        """wide (on the side it is taken from), deep (on the edges), stop, mm."""
        if name in ("wide", "deep"):
            return self.size(look)[name == "deep"]
        if name == "stop":
            return self.stop(look)
        raise NoJoint(f"A {self.title} has no {name}.")

    @property
    def title(self) -> str:
        """What it is called."""
        return self.name.replace("_", "-")

    def plan(self, look: Look) -> JointPlan:
        """The arrises laid out, each along the whole of its edge, or with stops."""
        joint = look.joint
        part, called = look.stands(joint.first), look.label(joint.first)
        wide, deep, stop = look.figure("wide"), look.figure("deep"), look.figure("stop")
        left = part.size[own_axis(part, joint.way)[0]] - deep
        ways = self._edges(look, part)
        if wide <= 0 or deep <= 0 or left <= 0:
            raise NoJoint(f"A {self.title} of {marked(wide)} by {marked(deep)} does not lie within {called}.")
        cuts = tuple(self._cut(look, part, way, wide, deep, stop) for way in ways)
        ends = any(own_axis(part, way)[0] == 0 for way in ways)
        taken = Taken(joint.first, called, wide, deep, left, stop, ends)
        return JointPlan(
            joint.id,
            self.name,
            f"{self.title.capitalize()} of {called}",
            (joint.first,),
            self.settings(taken),
            self.steps(taken),
            (Check(at_least(left, THIN), f"{marked(left)} of the edge is left; at least {marked(THIN)}"),),
            marked_faces(cuts, {part.id: part}, look.label),
            figures=self.figures(taken),
            cuts=cuts,
        )

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
        into, _ = own_axis(part, look.joint.way)
        along = 3 - across - into
        if wide > part.size[across] or (stop and 2 * (stop + deep) >= part.size[along]):
            raise NoJoint(f"A {self.title} of {marked(wide)} does not lie within {look.label(part.id)}.")

        if stop:  # what lies between a strip of the side and the line it comes down to, its ends sloping up
            near, far = ((stop, part.size[along] - stop), (stop + deep, part.size[along] - stop - deep))
            strips = [((a, 0.0), (b, 0.0), (b, w), (a, w)) for (a, b), w in ((near, wide), (far, 0.0))]
            outline, low = (
                tuple(_in_order(along, x, across, _from(part, u, across, off)) for x, u in strip) for strip in strips
            )
            return Cut(part.id, side_of(part, look.joint.way), outline, deep, low)
        return along_edge(part, look.joint.way, way, self.section(look, wide, deep))


@frozen
class Chamfer(Arris):
    """At 45 degrees, through or with stops."""

    def size(self, look: Look) -> tuple[float, float]:
        """As wide as it is deep, mm."""
        return (float(look.asked("size")),) * 2

    def stop(self, look: Look) -> float:
        """How far from the ends it stops, mm; 0: it runs through."""
        return float(look.asked("stop"))

    def settings(self, taken: Taken) -> tuple[Setting, ...]:
        """Its lines, and its stops where it has any."""
        mine = (taken.part,)
        line = Setting("pencil gauge", taken.wide, "", mine, f"chamfer of {taken.called}, from the arris on both sides")
        stops = Setting("rule", taken.stop, "", mine, f"stops of the chamfer of {taken.called}, from the ends")
        return (line, stops) if taken.stop else (line,)

    def steps(self, taken: Taken) -> tuple[str, ...]:
        """Lines in pencil, then the plane, or the chisel to the stops."""
        how = (
            f"Square the stops {marked(taken.stop)} from the ends; pare the slopes at the stops with a chisel, plane between them."
            if taken.stop
            else f"{taken.first}Plane with the fence of the fingers until both lines are split alike."
        )
        lines = f"Pencil the lines {marked(taken.wide)} from the arris, never gauge them: a scratch stays to be seen."
        return (lines, how)


@frozen
class Bevel(Arris):
    """A slope down to a thinner edge."""

    def size(self, look: Look) -> tuple[float, float]:
        """As wide as asked, as deep as leaves the edge that is asked, mm."""
        part = look.stands(look.joint.first)
        return float(look.asked("wide")), part.size[own_axis(part, look.joint.way)[0]] - float(look.asked("edge"))

    def settings(self, taken: Taken) -> tuple[Setting, ...]:
        """Both lines, and the slope."""
        mine, slope = (taken.part,), math.degrees(math.atan2(taken.deep, taken.wide))
        return (
            Setting("marking gauge", taken.left, "", mine, f"edge left of {taken.called}, from the side that stays"),
            Setting("pencil gauge", taken.wide, "", mine, f"bevel of {taken.called}, from the edge"),
            Setting(
                "sliding bevel", None, f"{slope:.1f}\N{DEGREE SIGN}", mine, f"slope of the bevel of {taken.called}"
            ),
        )

    def steps(self, taken: Taken) -> tuple[str, ...]:
        """Lines, the plane, the straight edge."""
        return (
            f"Gauge {marked(taken.left)} on the edge all round, and a line {marked(taken.wide)} in from it.",
            f"{taken.first}Plane down to both lines, the plane tilted; the last shavings from end to end.",
            "Lay a straight edge on it: it is flat, and its corners meet in a clean line.",
        )


@frozen
class RoundOver(Arris):
    """A quarter of a circle, by guide lines."""

    def size(self, look: Look) -> tuple[float, float]:
        """Its radius both ways, mm."""
        return (float(look.asked("radius")),) * 2

    def section(self, look: Look, wide: float, deep: float) -> list[Point]:
        """What the quarter of a circle leaves of the corner."""
        turns = [n * math.pi / 2 / ARC for n in range(ARC + 1)]
        return [(0.0, 0.0), *((wide * (1 - math.sin(t)), deep * (1 - math.cos(t))) for t in turns)]

    def figures(self, taken: Taken) -> dict[str, float]:
        """The radius, and the lines of the octagon, mm."""
        return {"wide": taken.wide, "deep": taken.deep, "radius": taken.wide, "octagon": OCTAGON * taken.wide}

    def settings(self, taken: Taken) -> tuple[Setting, ...]:
        """The guide lines, and those of the octagon."""
        mine, sides = (taken.part,), f"of {taken.called}, from the arris on both sides"
        return (
            Setting("marking gauge", taken.wide, "", mine, f"guide lines {sides}"),
            Setting("pencil gauge", OCTAGON * taken.wide, "", mine, f"octagon {sides}", MADE),
        )

    def steps(self, taken: Taken) -> tuple[str, ...]:
        """An octagon first, then rounder and rounder."""
        octagon = marked(OCTAGON * taken.wide)
        return (
            f"Pencil lines {marked(taken.wide)} from the arris on both sides, and {octagon} from it for the octagon.",
            f"{taken.first}Plane a flat down to the octagon's lines, then its two arrises, then those that come of that.",
            "Feel along it and look against the light; a curved scraper or sandpaper in a shaped block takes the last flats.",
        )


@frozen
class Moulding(Arris):
    """A profile stuck on an edge: a cove, a thumbnail, or an ogee."""

    def size(self, look: Look) -> tuple[float, float]:
        """As wide as asked; as deep as its profile makes it of that, mm."""
        wide = float(look.asked("wide"))
        return wide, wide * DEEP[str(look.asked("profile"))]

    def section(self, look: Look, wide: float, deep: float) -> list[Point]:
        """Its profile: quarters of circles and ellipses."""
        turns = [n * math.pi / 2 / ARC for n in range(ARC + 1)]
        profile = str(look.asked("profile"))
        if profile == "cove":  # hollow, about the arris
            return [(0.0, 0.0), *((wide * math.cos(t), deep * math.sin(t)) for t in turns)]
        if profile == "ogee":  # a hollow below the side, then a round down to the edge
            half, low = wide / 2, deep / 2
            hollow = [(half + half * math.cos(t), low * math.sin(t)) for t in turns]
            return [(0.0, 0.0), *hollow, *((half * (1 - math.sin(t)), deep - low * math.cos(t)) for t in turns[1:])]
        step = deep * STEP  # a thumbnail: a step down, and a round from it to the edge
        return [
            (0.0, 0.0),
            (wide, 0.0),
            *((wide * (1 - math.sin(t)), step + (deep - step) * (1 - math.cos(t))) for t in turns),
        ]

    def settings(self, taken: Taken) -> tuple[Setting, ...]:
        """Its lines on both sides."""
        mine = (taken.part,)
        return (
            Setting("marking gauge", taken.wide, "", mine, f"moulding of {taken.called}, in from the edge"),
            Setting("marking gauge", taken.deep, "", mine, f"moulding of {taken.called}, down from the side"),
        )

    def steps(self, taken: Taken) -> tuple[str, ...]:
        """Most of the wood by rabbets and chamfers, then planes with rounded soles, or a scraper filed to it."""
        return (
            f"Gauge {marked(taken.wide)} in from the edge and {marked(taken.deep)} down; trace the template on both ends.",
            f"{taken.first}Take most of it away in rabbets and chamfers that touch the profile's line and do not cross it.",
            "Work down to the line with a hollow and a round, or a scraper filed to the template; sandpaper on a shaped block last.",
        )


EASED = Ask(
    "edge", "the edges that are seen", "choice", "square", options=("square", "chamfered", "rounded", "bevelled below")
)  # asked by a kind


def eased(part: str, how: str, thickness: float, overhang: float, edges: str = "all") -> list[JointDesign]:
    """What a kind's answer to ``EASED`` comes to for a part that lies and stands over what is below it, mm: nothing where its edges
    stay square. A chamfer stays smaller than the reveal beside it, which is how far the part stands over."""
    if how == "square":
        return []
    chamfer = min(3.0, thickness / 4, overhang * OF_REVEAL if overhang > LEAST_CHAMFER / OF_REVEAL else 3.0)
    family, way, asked = {
        "chamfered": ("chamfer", "up", {"size": chamfer}),
        "rounded": ("round_over", "up", {"radius": min(6.0, thickness / 2)}),
        "bevelled below": ("bevel", "down", {"wide": min(2 * thickness, overhang), "edge": thickness / 2}),
    }[how]
    return [JointDesign(f"edge-{part}", family, part, "", way, {**asked, "edges": edges}, set=f"edge of {part}")]


def along_edge(part: Placed, side: str, edge: str, section: Sequence[Point]) -> Cut:
    """What is taken off a whole edge of a part, from the side that looks ``side`` where the side looking ``edge`` meets it.

    Args:
        section: as seen on the end, points (in from the edge, down from the side), mm.
    """
    (across, off), (into, on) = own_axis(part, edge), own_axis(part, side)
    along = 3 - across - into
    points = tuple(_in_order(across, _from(part, u, across, off), into, _from(part, v, into, on)) for u, v in section)
    return Cut(part.id, BESIDE[along], points, part.size[along])


def _from(part: Placed, mm: float, axis: int, sign: int) -> float:
    """A coordinate so far in from the near or the far side of an axis."""
    return part.size[axis] - mm if sign > 0 else mm


def _in_order(a: int, x: float, b: int, y: float) -> Point:
    """Coordinates on two axes, the lower axis first."""
    return (x, y) if a < b else (y, x)


CHAMFER = Chamfer(
    "chamfer",
    "An arris planed off at 45 degrees, through or with stops.",
    (
        Ask("size", "how wide it is on both sides", "length", 3.0, LEAST_CHAMFER, 100.0),
        Ask("stop", "how far from the ends it stops; 0: it runs through", "length", 0.0, 0.0, 2000.0),
        EDGES,
    ),
)
BEVEL = Bevel(
    "bevel",
    "A side that slopes down to a thinner edge: a panel's margin, the underside of a top that is to look lighter.",
    (
        Ask("wide", "how far in it begins", "length", 40.0, 1.0, 1000.0),
        Ask("edge", "how thick the edge is left", "length", 6.0, 0.5, 300.0),
        EDGES,
    ),
)
ROUND_OVER = RoundOver(
    "round_over",
    "An arris rounded to a quarter of a circle by guide lines.",
    (Ask("radius", "radius of the round", "length", 6.0, 0.5, 200.0), EDGES),
    making=Making("rounded", "rounded", fits=False),
)
MOULDING = Moulding(
    "moulding",
    "A profile stuck on an edge: cove, ogee or thumbnail.",
    (
        Ask("profile", "what it looks like", "choice", "thumbnail", options=tuple(DEEP)),
        Ask("wide", "how far in from the edge it goes", "length", 12.0, 2.0, 100.0),
        EDGES,
    ),
    making=Making("rounded", "rounded", fits=False),
)
