"""Mortise and tenon: blind, through or stub; shoulders all round or on the seen sides only; two that meet in a leg.

The mortise is as wide as the chisel nearest to a third of the tenoned part (common practice, no source).
"""

from __future__ import annotations

from nullah.core.ask import Ask
from nullah.core.design import JointDesign
from nullah.core.frozen import frozen
from nullah.core.joints.family import (
    OPPOSITE,
    Block,
    Joins,
    Look,
    NoJoint,
    School,
    Span,
    axis_of,
    block_cut,
    marked_faces,
    own_axis,
    own_point,
    side_of,
    with_span,
)
from nullah.core.joints.plan import Check, JointPlan, Setting
from nullah.core.measure import at_least, marked
from nullah.core.shapes.cut import Cut, Placed

EDGE_SHOULDER = 5.0  # mm at the edges of a tenon (common practice: 3 to 5)
END_SHOULDER = 12.0  # mm beside the mate's end, so that the mortise does not break out there (common practice)
NEAR_END = 20.0  # mm: nearer than this to its mate's end a tenon takes the larger shoulder
DEEP = 2 / 3  # of the mate: a blind tenon (common practice)
STUB = 1 / 3  # of the mate: a stub tenon
SPARE = 1.0  # mm a blind mortise is deeper than its tenon is long (common practice)
WALL = 5.0  # mm of wood beside a mortise (common practice, as beside a groove)
THINNEST = 3.0  # mm of tenon


@frozen
class MortiseAndTenon:
    """The family. ``first`` has the tenon, ``second`` the mortise."""

    name: str = "mortise_and_tenon"
    about: str = "A tenon at the end of one part in a mortise of another: blind, through or stub."
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = (
        School(
            "meeting",
            "Tenons meet in a leg: are they mitred, or do they pass each other?",
            "the longer tenon of the two",
            "Both hold; keep to the one your hands know.",
        ),
    )
    home: str = "glued"
    joins: Joins = Joins(
        "The joint of rails and legs: it holds against racking as no other does.",
        "The rail moves across the leg's grain: a wide one is divided into two tenons, or left some room.",
    )
    after: tuple[str, ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("style", "how deep the tenon goes", "choice", "blind", options=("blind", "through", "stub")),
        Ask("shoulders", "where the tenon has shoulders", "choice", "all round", options=("all round", "seen sides")),
        Ask("meeting", "where two tenons meet", "choice", "mitred", options=("mitred", "staggered")),
        Ask("length", "length of the tenon; 0: as its depth says", "length", 0.0, 0.0, 500.0),
        Ask("thickness", "thickness of the tenon; 0: the chisel nearest to a third", "length", 0.0, 0.0, 100.0),
        Ask("upper_shoulder", "shoulder at the upper edge; 0: as suits", "length", 0.0, 0.0, 500.0),
        Ask("lower_shoulder", "shoulder at the lower edge; 0: as suits", "length", 0.0, 0.0, 500.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """thickness, shoulder (on the face), length, natural (met by none), reach, upper shoulder, lower shoulder, width; mm; ``asks
        meeting`` is 1 where it meets another."""
        if name == "reach":
            return look.figure("length")
        found = {
            "thickness": _thickness,
            "shoulder": _shoulder,
            "length": _length,
            "natural": _natural,
            "upper shoulder": lambda at: _edge(at, True),
            "lower shoulder": lambda at: _edge(at, False),
            "width": _width,
            "asks meeting": _meets_alike,
        }.get(name)
        if found is None:
            raise NoJoint(f"A tenon has no {name}.")
        return found(look)

    def plan(self, look: Look) -> JointPlan:
        """The joint laid out."""
        joint = look.joint
        first, second = look.stands(joint.first), look.stands(joint.second)
        tenon = _tenon(look)
        cuts = [*_shoulders(look, first, tenon), *_mitre(look, first, tenon), _mortise(look, second, tenon)]
        a, b = look.label(joint.first), look.label(joint.second)
        thick, long, width = (look.figure(n) for n in ("thickness", "length", "width"))
        shoulder, upper = look.figure("shoulder"), look.figure("upper shoulder")
        low, high = look.bare(joint.first)[_across(look)[0]]
        lower = max(0.0, high - low - upper - width)  # which is what the others leave, also where they are held as cut
        figures = {
            "thickness": thick,
            "length": long,
            "width": width,
            "shoulder": shoulder,
            "upper shoulder": upper,
            "lower shoulder": lower,
            "mortise depth": cuts[-1].depth,
        }
        through = look.asked("style") == "through"
        seen = shoulder <= 0 or look.asked("shoulders") == "seen sides"
        met = _met(look)
        settings = (
            Setting("mortise gauge", thick, "", (joint.first, joint.second), f"tenon and mortise of {a}"),
            Setting("mortise gauge, nearer pin", shoulder, "", (joint.first,), f"from the face of {a}"),
            Setting("knife and square", long, "", (joint.first,), f"shoulder of {a}, from its end"),
            *(
                Setting("marking gauge", mm, "", (joint.first,), f"{which} shoulder of {a}")
                for which, mm in (("upper", upper), ("lower", lower))
                if mm > 1e-9
            ),
            Setting("depth mark on the chisel", cuts[-1].depth, "", (joint.second,), f"mortise for {a}"),
        )
        steps = (
            f"Knife the shoulders of {a} {marked(long)} from the end all round; "
            f"gauge the tenon {marked(thick)} thick from the face.",
            f"Mark the mortise on {b} from the tenon's own width; "
            f"chop it {'from both faces to the middle' if through else 'to the mark'}.",
            "Saw the cheeks beside the line, then the shoulders; leave a shade at the cheek and pare to the gauge line.",
            *(("The tenon has no shoulder at its hidden side: that face is the face of the part.",) if seen else ()),
            *(
                (f"Mitre the tip at 45 degrees where it meets the tenon of {look.label(met[0].first)}.",)
                if met and _alike(look, met[0]) and look.asked("meeting") == "mitred"
                else ()
            ),
            "Fit by hand: a shade fat, thinned to fit; the shoulder closes all round before the tenon touches the bottom.",
        )
        return JointPlan(
            joint.id,
            self.name,
            f"Tenon of {a} in {b}",
            (joint.first, joint.second),
            settings,
            steps,
            _checks(look, second, tenon),
            marked_faces(cuts, {p.id: p for p in (first, second)}, look.label),
            figures=figures,
            cuts=tuple(cuts),
        )


def _thickness(look: Look) -> float:
    asked = float(look.asked("thickness"))
    own = look.thickness(look.joint.first)
    if asked:
        if not at_least(own, asked):
            raise NoJoint(f"A tenon of {marked(asked)} is thicker than {look.label(look.joint.first)}, {marked(own)}.")
        return asked
    owned = [c for c in look.shop.chisels if THINNEST <= c < own]
    return min(owned, key=lambda c: (abs(c - own / 3), c)) if owned else own / 3


def _shoulder(look: Look) -> float:
    own, thick = look.thickness(look.joint.first), look.figure("thickness")
    return own - thick if look.asked("shoulders") == "seen sides" else (own - thick) / 2


def _edge(look: Look, upper: bool) -> float:
    asked = float(look.asked("upper_shoulder" if upper else "lower_shoulder"))
    if asked:
        return asked
    if not upper and look.asked("shoulders") == "seen sides":
        return 0.0
    first = look.bare(look.joint.first)
    across, up = _across(look)
    mate = look.bare(look.joint.second)[across]
    own = first[across]
    high = (own[1] if up else own[0]) if upper else (own[0] if up else own[1])
    beside = min(abs(high - mate[0]), abs(high - mate[1]))
    mates_length = _along(look, look.joint.second) == across
    least = END_SHOULDER if mates_length and beside < NEAR_END else EDGE_SHOULDER
    return min(least, (own[1] - own[0]) / 4)


def _across(look: Look) -> tuple[int, bool]:
    """The axis that the tenon's width lies along, and whether its upper edge is at the high end."""
    placed = look.joint.first
    axis, sign = _up_of(look, placed)
    return axis, sign > 0


def _up_of(look: Look, part: str) -> tuple[int, int]:
    return axis_of(look.up(part))


def _along(look: Look, part: str) -> int:
    """The axis that a part's length lies along."""
    return 3 - axis_of(look.up(part))[0] - axis_of(look.face(part))[0]


def _width(look: Look) -> float:
    across, _ = _across(look)
    low, high = look.bare(look.joint.first)[across]
    width = high - low - look.figure("upper shoulder") - look.figure("lower shoulder")
    if width < THINNEST:
        raise NoJoint(f"{look.label(look.joint.first)} is too narrow for a tenon: {marked(width)} is left of it.")
    return width


def _met(look: Look) -> tuple[JointDesign, ...]:
    """Other tenons that would run into this one in the part they both go into, were neither kept from it."""
    mine = look.joint
    own = tenon_block(look, mine, look.figure("natural"))
    found = []
    for other in look.others():
        if other.family != mine.family or other.second != mine.second or axis_of(other.way)[0] == axis_of(mine.way)[0]:
            continue
        theirs = tenon_block(look, other, look.figure("natural", other.id))
        if all(min(a[1], b[1]) - max(a[0], b[0]) > 1e-6 for a, b in zip(own, theirs, strict=True)):
            found.append(other)
    return tuple(found)


def _meets_alike(look: Look) -> float:
    """1 where it meets another that lies as it does, else 0."""
    return float(any(_alike(look, other) for other in _met(look)))


def _alike(look: Look, other: JointDesign) -> bool:
    """Whether the other lies as this one does, so that the two can be mitred: its width along the same axis."""
    return axis_of(look.up(other.first))[0] == axis_of(look.up(look.joint.first))[0]


def _staggered(look: Look) -> tuple[bool, bool]:
    """Whether this tenon is one of two that pass each other, and whether it is the upper one."""
    met = [o for o in _met(look) if _alike(look, o)]
    if not met or look.asked("meeting") != "staggered":
        return False, False
    return True, look.joint.id < min(o.id for o in met)


def _natural(look: Look) -> float:
    """How long the tenon would be if it met no other."""
    joint = look.joint
    if _along(look, joint.first) != axis_of(joint.way)[0]:
        raise NoJoint(f"The tenon of {look.label(joint.first)} is at its end: it cannot go {joint.way}.")
    deep = look.across(joint.second, joint.way)
    style = look.asked("style")
    if style == "through":
        return deep
    asked = float(look.asked("length"))
    if asked and asked > deep - THINNEST:
        raise NoJoint(
            f"A tenon of {marked(asked)} goes through {look.label(joint.second)}, {marked(deep)}; make it shorter or a through one."
        )
    return asked or deep * (STUB if style == "stub" else DEEP)


def _length(look: Look) -> float:
    """The tenon's length: mitred it goes no further than the far cheek of the one it meets; one that lies otherwise it stops short of,
    the later of the two."""
    wanted = look.figure("natural")
    joint = look.joint
    axis, sign = axis_of(joint.way)
    shoulder = look.bare(joint.first)[axis][1 if sign > 0 else 0]
    for other in _met(look):
        near, far = tenon_block(look, other, 0.0)[axis]
        if _alike(look, other):
            if look.asked("meeting") == "mitred":
                wanted = min(wanted, far - shoulder if sign > 0 else shoulder - near)
        elif joint.id > other.id:
            wanted = min(wanted, (near - shoulder if sign > 0 else shoulder - far) - SPARE)
    if wanted < THINNEST:
        raise NoJoint(
            f"The tenon of {look.label(joint.first)} has no room in {look.label(joint.second)} beside the others there."
        )
    return wanted


def cheeks(look: Look, joint: JointDesign) -> Span:
    """Where a tenon's cheeks lie along the axis of its thickness."""
    face, sign = axis_of(look.face(joint.first))
    low, high = look.bare(joint.first)[face]
    shoulder, thick = look.figure("shoulder", joint.id), look.figure("thickness", joint.id)
    return (high - shoulder - thick, high - shoulder) if sign > 0 else (low + shoulder, low + shoulder + thick)


def tenon_block(look: Look, joint: JointDesign, long: float) -> Block:
    """A tenon as a block of the frame, ``long`` mm from its shoulder to its tip."""
    axis, sign = axis_of(joint.way)
    across, up = axis_of(look.up(joint.first))
    bare = look.bare(joint.first)
    along = (bare[axis][1], bare[axis][1] + long) if sign > 0 else (bare[axis][0] - long, bare[axis][0])
    upper, width = look.figure("upper shoulder", joint.id), look.figure("width", joint.id)
    low, high = bare[across]
    wide = (high - upper - width, high - upper) if up > 0 else (low + upper, low + upper + width)
    block = with_span(with_span(bare, axis, along), across, wide)
    return with_span(block, 3 - axis - across, cheeks(look, joint))


def _tenon(look: Look) -> Block:
    """This tenon; of two that pass each other its half."""
    block = tenon_block(look, look.joint, look.figure("length"))
    staggered, above = _staggered(look)
    if staggered:
        across, _ = _across(look)
        wide = block[across]
        middle = (wide[0] + wide[1]) / 2
        block = with_span(block, across, (middle, wide[1]) if above else (wide[0], middle))
    return block


def _shoulders(look: Look, first: Placed, tenon: Block) -> list[Cut]:
    """What is sawn off round the tenon."""
    joint = look.joint
    axis, _ = axis_of(joint.way)
    across, _ = _across(look)
    thick = 3 - axis - across
    body = look.body(joint.first)
    found = []
    for k in (thick, across):
        low, high = body[k]
        for span, way in (((low, tenon[k][0]), _way(k, -1)), ((tenon[k][1], high), _way(k, 1))):
            if span[1] - span[0] > 1e-6:
                block = with_span(with_span(body, axis, tenon[axis]), k, span)
                found.append(block_cut(first, block, way))
    return found


def _way(axis: int, sign: int) -> str:
    return ("right", "back", "up")[axis] if sign > 0 else ("left", "front", "down")[axis]


def _mitre(look: Look, first: Placed, tenon: Block) -> list[Cut]:
    """The tip cut off where it meets another tenon: the line runs from cheek to cheek of the square in which they cross."""
    if look.asked("meeting") != "mitred":
        return []
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = _across(look)
    thick = 3 - axis - across
    found = []
    for other in _met(look):
        if not _alike(look, other):
            continue
        theirs = cheeks(look, other)  # along this one's axis
        _, their_sign = axis_of(other.way)
        # both tips lie away from both shoulders: the corner of the square farthest from them is the mitre's far end
        far = theirs[1] if sign > 0 else theirs[0]
        near = theirs[0] if sign > 0 else theirs[1]
        outer = tenon[thick][1] if their_sign > 0 else tenon[thick][0]
        inner = tenon[thick][0] if their_sign > 0 else tenon[thick][1]
        tip = tenon[axis][1] if sign > 0 else tenon[axis][0]
        if (tip - near) * sign <= 1e-6:
            continue  # too short to reach the other
        if (far - tip) * sign > 0:  # shorter than the far cheek: only what is there is cut
            outer = inner + (outer - inner) * (tip - near) / (far - near)
            far = tip
        corners = [(near, inner), (far, inner), (far, outer)]
        points = []
        for at, over in corners:
            point = [0.0, 0.0, 0.0]
            point[axis], point[thick], point[across] = at, over, tenon[across][0]
            points.append(own_point(first, (point[0], point[1], point[2])))
        side = side_of(first, _way(across, -1))
        drop = own_axis(first, _way(across, -1))[0]
        i, j = (k for k in range(3) if k != drop)
        found.append(Cut(first.id, side, tuple((p[i], p[j]) for p in points), first.size[drop]))
    return found


def _mortise(look: Look, second: Placed, tenon: Block) -> Cut:
    """The mortise: as the tenon, and a little deeper where it is blind and meets no other."""
    axis, sign = axis_of(look.joint.way)
    mate = look.body(look.joint.second)[axis]
    low, high = tenon[axis]
    if look.asked("style") != "through" and not _met(look):
        left = mate[1] - high if sign > 0 else low - mate[0]
        spare = min(SPARE, left / 2)
        low, high = (low, high + spare) if sign > 0 else (low - spare, high)
    return block_cut(second, with_span(tenon, axis, (low, high)), OPPOSITE[look.joint.way])


def _checks(look: Look, second: Placed, tenon: Block) -> tuple[Check, ...]:
    joint = look.joint
    a, b = look.label(joint.first), look.label(joint.second)
    thick = look.figure("thickness")
    owned = [c for c in look.shop.chisels if abs(c - thick) < 0.05]
    axis, _ = axis_of(joint.way)
    mate = look.body(joint.second)
    beside = min(min(tenon[k][0] - mate[k][0], mate[k][1] - tenon[k][1]) for k in range(3) if k != axis)
    found = [
        Check(
            bool(owned),
            f"mortise {marked(thick)} wide: {'a chisel at hand is' if owned else 'no chisel at hand is'} as wide",
        ),
        Check(at_least(beside, WALL), f"{marked(beside)} of {b} stays beside the mortise; at least {marked(WALL)}"),
        Check(
            at_least(look.figure("length"), thick),
            f"the tenon of {a} is {marked(look.figure('length'))} long; at least its thickness, {marked(thick)}",
        ),
    ]
    if look.asked("style") != "through":
        sign = axis_of(joint.way)[1]
        behind = mate[axis][1] - tenon[axis][1] if sign > 0 else tenon[axis][0] - mate[axis][0]
        found.append(
            Check(at_least(behind, WALL), f"{marked(behind)} of {b} stays behind the mortise; at least {marked(WALL)}")
        )
    for other in _met(look):
        way = str(look.asked("meeting")) if _alike(look, other) else "one stops short of the other"
        found.append(
            Check(
                True,
                f"meets the tenon of {look.label(other.first)} in {b}: {way}, so that they do not run into each other",
            )
        )
    return tuple(found)


MORTISE_AND_TENON = MortiseAndTenon()
