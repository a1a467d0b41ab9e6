"""The through dovetail as a family: a corner of two boards whose faces look outward and whose upper edges look one way.

What is laid out here serves the half-blind dovetail too: there the tails go into the second board only to its lap.
"""

from __future__ import annotations

from nullah.core.drawing.display_list import Handle, Primitive, Text
from nullah.core.joints import dovetail
from nullah.core.joints.dovetail import Dovetail, NoDovetail
from nullah.core.joints.dovetail_ways import (
    COPING_OR_CHOPPING,
    FIRST,
    SET_OUT,
    SETTING_OUT,
    SLOPES,
    TAILS_OR_PINS,
    WASTE,
    Ways,
)
from nullah.core.marking.family import OPPOSITE, Joins, Look, NoJoint, School, axis_of, over_an_edge, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import Face, JointPlan, counted, drawn_face
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import Cut
from nullah.core.values.ask import Ask
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import frozen, replace

CORNERLESS = "{} and {} do not stand as a corner does: faces out, edges one way."


ASKS = (
    Ask("tails", "tails; 0: as many as suit", "whole", 0, 0, 40),
    Ask("pin", "width of a pin at its mouth", "length", 6.0, 1.0, 60.0),
    Ask("half_pin", "width of a half pin; 0: half the thickness", "length", 0.0, 0.0, 60.0),
    Ask("slope", "slope of the tails, 1 to so many", "number", 7.0, 1.0, 12.0),
)

BASELINE = Ask("baseline", "how the baselines are gauged", "choice", "flush", options=("flush", "proud", "shy"))
OVER = {"flush": 0.0, "proud": 0.3, "shy": -0.3}  # mm beyond the mate's thickness (common practice: a hair, 0.2 to 0.5)
BASELINES = School(
    "baseline",
    "Are the baselines gauged flush, proud or shy of the mate's thickness?",
    "every size downstream stays what it says",
    "Proud, the ends are planed off flush; shy, the faces are planed down to the ends. Many makers gauge a hair over.",
)


@frozen
class ThroughDovetail:
    """The family: ``first`` has the tails, ``second`` the pins."""

    name: str = "through_dovetail"
    about: str = "Tails on one board, pins on the other, both seen."
    reaches: tuple[str, ...] = ("reach", "reach of second")
    schools: tuple[School, ...] = (TAILS_OR_PINS, SETTING_OUT, COPING_OR_CHOPPING, BASELINES, SLOPES)
    home: str = "glued"
    making: Making = Making("sawn and chopped", "sawn and chopped")
    joins: Joins = Joins(
        "The strongest corner of boards: it cannot be pulled off the tails, glue or none.",
        "Grain runs round the corner, so that both boards move alike.",
        over_an_edge,
        goes="face",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (*ASKS, FIRST, SET_OUT, WASTE, BASELINE)

    def figure(self, name: str, look: Look) -> float:
        """tails, pin, half pin, slope, width (of the joint), ``baseline on`` either part, and the reach: the pin board's thickness,
        which the tails go through; ``reach of second`` the tail board's; mm."""
        return corner_figure(name, look, 0.0, OVER[str(look.asked("baseline"))])

    def plan(self, look: Look) -> JointPlan:
        """The corner laid out; where the pin board's lower edge lies above the tail board's, the tails begin there."""
        made, rise = laid_out(look, 0.0, ways_asked(look, ("first", "set_out", "waste")))
        joint = look.joint
        if rise:
            stands = {p: look.stands(p) for p in (joint.first, joint.second)}
            return replace(made, faces=marked_faces(made.cuts, stands, look.label))
        return replace(made, faces=_faces(made, joint, look))


def ways_asked(look: Look, names: tuple[str, ...], order: tuple[str, ...] = ()) -> Ways:
    """The ways that are asked of a corner, of ``first``, ``set_out`` and ``waste``; ``order``: its own order of the work."""
    return replace(Ways(order=order), **{name: str(look.asked(name)) for name in names})


def corner_figure(name: str, look: Look, lap: float, over: float = 0.0) -> float:
    """One figure of a dovetailed corner by name; ``lap`` mm of the second board lie before the tails, and baselines are gauged ``over``
    mm beyond the mate's thickness.

    Raises:
        NoJoint: there is none of that name.
    """
    tail, pin = look.joint.first, look.joint.second
    if name == "asks set_out":
        return float(look.figure("tails") > 1)
    if name.startswith("asks "):
        return 1.0
    deep = {_baseline(look, tail): look.thickness(pin) - lap + over, _baseline(look, pin): look.thickness(tail) + over}
    if name in ("reach", "reach of second"):
        return look.figure(_baseline(look, tail if name == "reach" else pin))
    if name in deep:
        return deep[name]
    if name in ("pin", "slope"):
        return float(look.asked(name))
    found = {"tails": _tails, "half pin": _half_pin, "width": _width}.get(name)
    if found is None:
        raise NoJoint(f"A dovetail has no {name}.")
    return found(look)


def laid_out(look: Look, lap: float, ways: Ways) -> tuple[JointPlan, float]:
    """A dovetailed corner laid out, with the drawings of a through one, and how far its tails begin above the tail board's lower edge;
    ``lap`` mm of the second board lie before the tails; ``ways``: how the hand goes about it.

    Raises:
        NoJoint: it cannot be made.
    """
    joint = look.joint
    tail = look.stands(joint.first)
    laid = _laid(look, lap)
    ends = (side_of(tail, joint.way), _pin_end(look))
    rise = _rise(look)
    made = dovetail.plan(
        joint.id,
        joint.first,
        joint.second,
        laid,
        (look.figure(_baseline(look, joint.first)), look.figure(_baseline(look, joint.second))),
        look.shop.chisels,
        replace(ways, rise=0.0 if ways.pins_first else rise),
        max(0.0, tail.size[1] - laid.width - rise),
        ends,
        tail.size[0],
    )
    cuts = tuple(_raised(c, rise if c.part == joint.first else 0.0) for c in made.cuts)
    a, b = look.label(joint.first), look.label(joint.second)
    called = {f"baseline on {part}": _baseline(look, part) for part in (joint.first, joint.second)}
    figures = {called.get(name, name): value for name, value in made.figures.items()}
    settings = tuple(
        replace(s, what=s.use.replace(f"at {joint.first}", f"at {a}").replace(f"at {joint.second}", f"at {b}"))
        for s in made.settings
    )
    name = f"Corner of {a} and {b}: {counted(laid.tails, 'tail')} on {a}"
    return replace(made, id=joint.id, name=name, settings=settings, figures=figures, cuts=cuts), rise


NAME = 13.0  # px of a part's name on its marked face


def _faces(made: JointPlan, joint: JointDesign, look: Look) -> tuple[Face, ...]:
    """The marked faces with the parts' labels, whose lines are pulled as those of this joint and no other."""
    called = {p: look.label(p) for p in (joint.first, joint.second)}

    def own(item: Primitive) -> Primitive:
        if isinstance(item, Handle):
            return replace(item, tag=item.tag.replace("laid:corner ", "laid:", 1))
        if isinstance(item, Text) and item.text in called:
            return replace(item, text=called[item.text], size=NAME)
        return item

    return tuple(
        drawn_face(
            face.part,
            face.title.replace(face.part, called[face.part], 1),
            replace(face.drawing, items=tuple(map(own, face.drawing.items))),
        )
        for face in made.faces
    )


def _raised(cut: Cut, by: float) -> Cut:
    return replace(cut, outline=tuple((x, y + by) for x, y in cut.outline)) if by else cut


def _pin_end(look: Look) -> str:
    """The end of the pin board that meets the tail board: away from the tail board's face, which looks outward."""
    pin = look.stands(look.joint.second)
    return side_of(pin, look.face(look.joint.first))


def _up_span(look: Look, part: str) -> tuple[float, float]:
    axis, sign = axis_of(look.up(part))
    low, high = look.body(part)[axis]
    return (low, high) if sign > 0 else (-high, -low)


def _rise(look: Look) -> float:
    """How far the pin board's lower edge lies above the tail board's, mm."""
    return max(0.0, _up_span(look, look.joint.second)[0] - _up_span(look, look.joint.first)[0])


def _laid(look: Look, lap: float) -> Dovetail:
    joint = look.joint
    long = {p: 3 - axis_of(look.up(p))[0] - axis_of(look.face(p))[0] for p in (joint.first, joint.second)}
    if long[joint.first] != axis_of(joint.way)[0] or long[joint.second] != axis_of(look.face(joint.first))[0]:
        raise NoJoint(CORNERLESS.format(look.label(joint.first), look.label(joint.second)))
    if look.up(joint.first) != look.up(joint.second) or OPPOSITE[joint.way] == look.face(joint.second):
        raise NoJoint(CORNERLESS.format(look.label(joint.first), look.label(joint.second)))
    own, mating = look.thickness(joint.first), look.thickness(joint.second) - lap
    width, mouth, half, run = (look.figure(name) for name in ("width", "pin", "half pin", "slope"))
    try:
        if width <= 2 * half:
            raise NoDovetail(
                f"{look.label(joint.second)} is too narrow for a dovetail; make it wider or the half pins narrower."
            )
        return dovetail.lay_out(width, int(look.figure("tails")), mouth, half, run, mating, own)
    except NoDovetail as error:
        raise NoJoint(str(error)) from None


def _width(look: Look) -> float:
    """What both boards share across the joint, mm."""
    tail, pin = _up_span(look, look.joint.first), _up_span(look, look.joint.second)
    return min(tail[1], pin[1]) - max(tail[0], pin[0])


def _half_pin(look: Look) -> float:
    own, mating = look.thickness(look.joint.first), look.thickness(look.joint.second)
    return float(look.asked("half_pin")) or round(min(own, mating) / 2, 1)


def _tails(look: Look) -> float:
    return float(look.asked("tails")) or dovetail.suited_tails(
        look.figure("width"), look.figure("half pin"), look.figure("pin")
    )


def _baseline(look: Look, part: str) -> str:
    """What the baseline on a part is called among the figures: by the part's label, where that is its own."""
    labels = [look.label(p) for p in (look.joint.first, look.joint.second)]
    return f"baseline on {look.label(part) if labels[0] != labels[1] else part}"


THROUGH_DOVETAIL = ThroughDovetail()
