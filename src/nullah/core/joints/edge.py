"""An edge joint: two staves glued edge to edge, nothing cut away but what makes the edges straight."""

from __future__ import annotations

import math

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.marking.family import Joins, Look, Meeting, NoJoint, School, Span, axis_of
from nullah.core.marking.plan import ROOM, Check, JointPlan, Said, Setting, drawn_face
from nullah.core.marking.work import Making
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, at_least, marked

CLAMP_EVERY = 100.0  # mm (4", common practice)
COATS = 100.0  # mm of edge that are coated in the time of a cheek (common practice, no source)
SPRUNG = 0.2  # mm an edge may be hollow in the middle: a shaving or two (common practice)
LEAST_GLUED = 5.0  # mm: a thinner edge is no glue joint


def edges_meet(meeting: Meeting) -> str:
    """Why they do not suit that do not meet edge to edge; "" where they do."""
    return "" if meeting.edge_to_edge else "They do not meet edge to edge."


def edges(joint: JointPlan) -> dict[str, float]:
    """Both edges planed straight and square: the thicker the slower."""
    return {"joint an edge": 2 * joint.figures["length"] / 1000 * (0.5 + joint.figures["thickness"] / 40)}


@frozen
class EdgeJoint:
    """The family: ``first`` lies against ``second``, edge to edge."""

    name: str = "edge_joint"
    about: str = "Staves glued edge to edge."
    reaches: tuple[str, ...] = ()
    home: str = "glued"
    making: Making = Making("sawn", "sawn", edges)
    joins: Joins = Joins(
        "As strong as the wood itself, where the edges meet without a gap.",
        "Both move as one board, and across its whole width.",
        edges_meet,
    )
    after: tuple[str, ...] = ()
    schools: tuple[School, ...] = (
        School(
            "arcs",
            "How do the arcs of neighbouring staves lie, seen on their ends?",
            "reversed, their cups cancel and the board stays flat on the whole, with small waves",
            "Alike, it moves in one curve that a batten or a frame holds. It matters most for flatsawn wood.",
        ),
        School(
            "edges",
            "Are the edges straight, or sprung?",
            f"a hollow of {marked(SPRUNG)} in the middle of a long edge closes its ends, which dry first",
            "Both hold; a sprung edge wants fewer clamps, a straight one forgives more.",
        ),
    )
    asks: tuple[Ask, ...] = (
        Ask("arcs", "how the arcs of neighbours lie", "choice", "reversed", options=("reversed", "alike")),
        Ask("edges", "how the edges are planed", "choice", "straight", options=("straight", "sprung")),
    )

    def figure(self, name: str, look: Look) -> float:
        """length and thickness of what is glued, mm; clamps, cheeks: how many there are, and how many are coated."""
        if name.startswith("asks "):
            return 1.0
        if name in ("length", "thickness"):
            spans = sorted(_shared(look), key=lambda s: s[0] - s[1])
            low, high = spans[0 if name == "length" else 1]
            if high - low < LEAST_GLUED:
                first, second = look.label(look.joint.first), look.label(look.joint.second)
                raise NoJoint(
                    f"{first} and {second} meet over {marked(max(0.0, high - low))}; glue wants {marked(LEAST_GLUED)}."
                )
            return high - low
        if name == "clamps":
            return float(max(2, math.ceil(look.figure("length") / CLAMP_EVERY)))
        if name == "cheeks":
            return float(max(1, math.ceil(look.figure("length") / COATS)))
        raise NoJoint(f"An edge joint has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out: the edge that is glued, and where the clamps go."""
        joint = look.joint
        a, b = look.label(joint.first), look.label(joint.second)
        axis, sign = axis_of(joint.way)
        one, other = look.body(joint.first)[axis], look.body(joint.second)[axis]
        apart = (other[0] - one[1]) if sign > 0 else (one[0] - other[1])
        if abs(apart) > SAME:
            raise NoJoint(
                f"{a} and {b} do not meet: {marked(abs(apart))} {'between them' if apart > 0 else 'too much'}."
            )
        long, thick, clamps = look.figure("length"), look.figure("thickness"), look.figure("clamps")
        sprung = look.asked("edges") == "sprung"
        arcs = (
            "turned the other way from its neighbour"
            if look.asked("arcs") == "reversed"
            else "the same way as its neighbour"
        )
        say = Said()
        every = say(CLAMP_EVERY, joint.first, ROOM, "clamps")
        unlike = abs(look.thickness(joint.first) - look.thickness(joint.second))
        return JointPlan(
            joint.id,
            self.name,
            f"{a} glued to {b}, edge to edge",
            (joint.first, joint.second),
            (Setting("clamps", None, f"{clamps:.0f}", (joint.second, joint.first), "above and below by turns"),),
            (
                f"Lay {a} beside {b} as they will lie, the arcs on its end {arcs}, grain rising one way; mark both across the joint.",
                "Shoot both edges together, face sides outward, so that what is out of square cancels"
                + (
                    f"; take {say(SPRUNG, joint.first, ROOM, 'sprung')} more off the middle of each." if sprung else "."
                ),
                "Stand one on the other: no light, no rocking, and a straightedge lies flat across both.",
                f"Glued, it is clamped about every {every}, from the middle outward; scrape what squeezes out.",
            ),
            (
                Check(
                    at_least(0.5, unlike),
                    f"{a} and {b} differ by {marked(unlike)} in thickness; no more than {marked(0.5)}",
                ),
                Check(at_least(thick, LEAST_GLUED), f"{marked(thick)} of glued edge; at least {marked(LEAST_GLUED)}"),
            ),
            (
                drawn_face(
                    joint.first, f"{a}, the edge to {b}", _edge(f"{a}, edge", joint.first, long, thick, int(clamps))
                ),
            ),
            lengths=say.lengths,
            figures={"length": long, "thickness": thick, "clamps": clamps, "cheeks": look.figure("cheeks")},
        )


def _shared(look: Look) -> list[Span]:
    """The two stretches that both share, across the way they meet."""
    axis, _ = axis_of(look.joint.way)
    one, other = look.bare(look.joint.first), look.bare(look.joint.second)
    return [(max(a[0], b[0]), min(a[1], b[1])) for k, (a, b) in enumerate(zip(one, other, strict=True)) if k != axis]


def _edge(label: str, part: str, long: float, thick: float, clamps: int) -> Drawing:
    """The glued edge to scale, with the clamps above and below it by turns."""
    items: list[Primitive] = [Area(rectangle(0.0, 0.0, long, thick), "wood", edge="outline", tag=f"part:{part}")]
    each = long / clamps
    for n in range(clamps):
        x = each * (n + 0.5)
        at, to = (thick, thick + 0.4 * each) if n % 2 == 0 else (0.0, -0.4 * each)
        items.append(Line(((x, at), (x, to)), "computed", width=2.0, tag="clamp"))
    items.append(Dimension((0.0, -0.45 * each), (each / 2, -0.45 * each), each / 2, -14.0, ink="computed"))
    items.append(Dimension((each / 2, -0.45 * each), (1.5 * each, -0.45 * each), each, -14.0, ink="computed"))
    items.append(Text((long / 2, thick + 0.5 * each + 8), label, size=13, bold=True, tag=f"part:{part}", halo=True))
    return Drawing(tuple(items))


EDGE_JOINT = EdgeJoint()
