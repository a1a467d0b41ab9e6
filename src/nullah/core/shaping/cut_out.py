"""A cut-out at the edge or the end of a part: feet, a hand hold, room for what is in the way; its inside corners rounded."""

from __future__ import annotations

import math

from nullah.core.drawing.display_list import Point
from nullah.core.marking.family import Joins, Look, NoJoint, School, own_axis
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import ARC, MADE, Check, JointPlan, Said, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

FOOT = 40.0  # mm of wood left beside a cut-out, at the least (common practice, no source)
CORNERS = 8  # to a quarter of a circle
BITS = 24  # straight bits to an arc
SHAPES = ("square", "arch", "ogee")


@frozen
class CutOut:
    """The family: ``first`` is cut out at its end or edge that looks ``way``."""

    name: str = "cut_out"
    about: str = "An end or an edge cut out: feet, a hand hold, room for what is in the way."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = ""
    making: Making = Making("curved", "curved", fits=False)
    joins: Joins | None = None
    after: tuple[str, ...] = ("dado", "nailed_rabbet")
    asks: tuple[Ask, ...] = (
        Ask("wide", "how wide it is; 0: all but the feet", "length", 0.0, 0.0, 5000.0),
        Ask("foot", "how wide the feet are, where it is all between them", "length", 70.0, 10.0, 1000.0),
        Ask("deep", "how deep it is", "length", 50.0, 3.0, 2000.0),
        Ask("radius", "radius of its inside corners", "length", 20.0, 0.0, 500.0),
        Ask("off", "how far it lies from the middle", "length", 0.0, -5000.0, 5000.0),
        Ask("shape", "what it looks like", "choice", "square", options=SHAPES),
    )

    def figure(self, name: str, look: Look) -> float:
        """wide, deep, radius (of its corners, or of its arcs), off, left (what is left beside it where that is least), mm."""
        if name in ("deep", "off", "foot"):
            return float(look.asked(name))
        if name == "wide":
            return float(look.asked("wide")) or self._across(look) - 2 * look.figure("foot")
        if name == "radius":
            shape = str(look.asked("shape"))
            if shape != "square":
                return arc_radius(look.figure("wide"), look.figure("deep"), shape)
            return min(float(look.asked("radius")), look.figure("deep"), max(0.0, look.figure("wide")) / 2)
        if name == "left":
            return (self._across(look) - look.figure("wide")) / 2 - abs(look.figure("off"))
        raise NoJoint(f"A cut-out has no {name}.")

    def _across(self, look: Look) -> float:
        part = look.stands(look.joint.first)
        return part.size[_face_axes(look, part)[1]]

    def plan(self, look: Look) -> JointPlan:
        """The cut-out laid out, right through the part."""
        joint = look.joint
        part, name = look.stands(joint.first), look.label(joint.first)
        wide, deep, radius = look.figure("wide"), look.figure("deep"), look.figure("radius")
        left = look.figure("left")
        into, across, far = _face_axes(look, part)
        if wide <= 0 or left < 0 or deep >= part.size[into]:
            raise NoJoint(f"A cut-out of {marked(wide)} by {marked(deep)} does not lie within {name}.")
        shape = str(look.asked("shape"))
        if shape != "square" and deep > wide / 2:
            raise NoJoint(
                f"An {shape} {marked(deep)} high over {marked(wide)} is too steep for arcs that rise; make it wider or lower."
            )
        middle = part.size[across] / 2 + look.figure("off")
        points = []
        for u, v in _outline(wide, deep, radius) if shape == "square" else _arcs(wide, deep, radius, shape):
            along = part.size[into] - v if far else v
            points.append((middle + u, along) if across < into else (along, middle + u))
        cut = Cut(part.id, "face", tuple(points), part.size[2])
        say = Said()
        return JointPlan(
            joint.id,
            self.name,
            f"Cut-out of {name}",
            (joint.first,),
            (
                Setting("marking gauge", deep, "", (joint.first,), f"depth of the cut-out of {name}"),
                Setting("rule", left, "", (joint.first,), f"from the edge to the cut-out of {name}"),
                *(
                    (Setting("compass", radius, "", (joint.first,), f"{_round(shape)} of the cut-out of {name}", ARC),)
                    if radius
                    else ()
                ),
            ),
            (
                f"Lay the template on {name}, or strike the {_round(shape)} with a compass of {marked(radius)}"
                f"{_from(shape, deep, radius, say, joint.first)}."
                if radius
                else f"Lay the template on {name}, or draw it with square and gauge.",
                "Saw the straight sides, bore or turn the saw in the corners; gang parts that are to be alike.",
                "Pare and rasp to the line from both faces; ease the edges that are lifted or stood on.",
            ),
            (Check(at_least(left, FOOT), f"{marked(left)} of {name} is left beside it; at least {marked(FOOT)}"),),
            marked_faces((cut,), {part.id: part}, look.label),
            lengths=say.lengths,
            figures={"wide": wide, "deep": deep, "radius": radius, "left": left},
            cuts=(cut,),
        )


def _face_axes(look: Look, part: Placed) -> tuple[int, int, bool]:
    """The part's own axis into which it is cut out, the one across that, and whether it is at the far end."""
    into, sign = own_axis(part, look.joint.way)
    if into == 2:
        raise NoJoint(f"{look.label(part.id)} is cut out at an end or an edge, not {look.joint.way}.")
    return into, 1 - into, sign > 0


def _round(shape: str) -> str:
    return "corners" if shape == "square" else "arc" if shape == "arch" else "four arcs"


def _from(shape: str, deep: float, radius: float, say: Said, part: str) -> str:
    """Where the compass stands."""
    if shape == "arch":
        beyond = say(radius - deep, part, MADE, "point of the compass")
        return f", its point on the middle line, {beyond} beyond the edge; or bend a batten through the three points"
    if shape == "ogee":
        return ": from each foot along the edge, up to the middle of the line to the top, and turned over from there"
    return ""


def arc_radius(span: float, rise: float, shape: str = "arch") -> float:
    """The radius of an arch through its span and its rise, (s2/4 + h2) / 2h; of an ogee that of its arcs, each over half the line c
    from foot to top and lying along the edge at its end, c2 / 4h; mm."""
    square = span * span / 4 + rise * rise
    return square / (4 * rise) if shape == "ogee" else square / (2 * rise)


def _arcs(wide: float, deep: float, radius: float, shape: str) -> list[Point]:
    """From the edge at 0 inward: one arc, or two to each side that turn over half-way up."""
    if shape == "arch":
        half = math.atan2(wide / 2, radius - deep)
        turns = [-half + 2 * half * n / BITS for n in range(BITS + 1)]
        return [(radius * math.sin(t), radius * math.cos(t) - (radius - deep)) for t in turns]
    sweep = 2 * math.atan2(deep, wide / 2)
    turns = [sweep * n / CORNERS for n in range(CORNERS + 1)]
    low = [(-wide / 2 + radius * math.sin(t), radius * (1 - math.cos(t))) for t in turns]
    side = [*low, *((-wide / 2 - x, deep - y) for x, y in reversed(low[:-1]))]
    return [*side, *((-x, y) for x, y in reversed(side[:-1]))]


def _outline(wide: float, deep: float, radius: float) -> list[Point]:
    """Half the width to each side of 0, from the edge at 0 inward; the two inside corners rounded."""
    half = wide / 2
    points = [(-half, 0.0)]
    for x, start in ((-half + radius, math.pi), (half - radius, math.pi / 2)):
        for n in range(CORNERS + 1):
            turn = start - n * math.pi / 2 / CORNERS
            point = (x + radius * math.cos(turn), deep - radius + radius * math.sin(turn))
            if math.dist(point, points[-1]) > 1e-6:
                points.append(point)
    points.append((half, 0.0))
    return points


CUT_OUT = CutOut()
