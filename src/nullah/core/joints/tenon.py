"""A tenon where it stands: its blocks, the wood sawn off round them, the sockets they go into, other tenons that it meets."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise

from nullah.core.marking.family import (
    OPPOSITE,
    Block,
    Look,
    NoJoint,
    Span,
    axis_of,
    block_cut,
    on_side,
    own_axis,
    side_of,
    way_of,
    with_span,
)
from nullah.core.shapes.cut import SIDES, Cut, Placed
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import replace
from nullah.core.values.measure import marked

THINNEST = 3.0  # mm of tenon
SPARE = 1.0  # mm a blind mortise is deeper than its tenon is long (common practice)
KERF = 1.0  # mm of the saw that opens a tenon for its wedge
NEAR_EDGE = 6.0  # mm of the wedge's kerf from the edge of the tenon (common practice)
OPENED = 3 / 4  # of the length: how far the kerf goes down (common practice)
_NOTHING = 1e-6  # mm


def across_of(look: Look) -> tuple[int, bool]:
    """The axis that the tenon's width lies along, and whether its upper edge is at the high end."""
    axis, sign = axis_of(look.up(look.joint.first))
    return axis, sign > 0


def along_of(look: Look, part: str) -> int:
    """The axis that a part's length lies along."""
    return 3 - axis_of(look.up(part))[0] - axis_of(look.face(part))[0]


def by_the_chisel(look: Look, own: float) -> float:
    """The width of the chisel at hand nearest to a third of a part's thickness, the smaller of two as near; a third where none serves;
    mm."""
    owned = [c for c in look.shop.chisels if THINNEST <= c < own]
    return min(owned, key=lambda c: (abs(c - own / 3), c), default=own / 3)


# ---- tenons that meet


def met(look: Look) -> tuple[JointDesign, ...]:
    """Other tenons that would run into this one in the part they both go into, were neither kept from it."""
    mine = look.joint
    own = tenon_block(look, mine, look.figure("natural"), "own ")
    found = []
    for other in look.others():
        if other.family != mine.family or other.second != mine.second or axis_of(other.way)[0] == axis_of(mine.way)[0]:
            continue
        theirs = tenon_block(look, other, look.figure("natural", other.id), "own ")
        if all(min(a[1], b[1]) - max(a[0], b[0]) > _NOTHING for a, b in zip(own, theirs, strict=True)):
            found.append(other)
    return tuple(found)


def alike(look: Look, other: JointDesign) -> bool:
    """Whether the other lies as this one does, so that the two can be mitred: its width along the same axis."""
    return axis_of(look.up(other.first))[0] == axis_of(look.up(look.joint.first))[0]


def kept_from_others(look: Look, wanted: float) -> float:
    """A tenon's length, mm, of those it would have: mitred it goes no further than the far cheek of the one it meets; one that lies
    otherwise it stops short of, the later of the two.

    Raises:
        NoJoint: nothing of it is left.
    """
    joint = look.joint
    axis, sign = axis_of(joint.way)
    shoulder = look.bare(joint.first)[axis][1 if sign > 0 else 0]
    for other in met(look):
        near, far = tenon_block(look, other, 0.0)[axis]
        if alike(look, other):
            if meeting(look) == "mitred":
                wanted = min(wanted, far - shoulder if sign > 0 else shoulder - near)
        elif joint.id > other.id:
            wanted = min(wanted, (near - shoulder if sign > 0 else shoulder - far) - SPARE)
    if wanted < THINNEST:
        raise NoJoint(
            f"The tenon of {look.label(joint.first)} has no room in {look.label(joint.second)} beside the others there."
        )
    return wanted


THROUGH = ("through", "stepped")  # styles that come out on the far side


def goes_through(look: Look) -> bool:
    """Whether the tenon comes out on the far side of its mate."""
    return look.asked("style") in THROUGH


def meeting(look: Look) -> str:
    """How this tenon meets others that lie as it does: ``mitred``, or ``staggered`` where one of them is asked so or goes right
    through, which no mitred one does; the same for all of them. "" where it meets none."""
    others = [o for o in met(look) if alike(look, o)]
    if not others:
        return ""
    asked = [(look.asked("meeting"), look.asked("style"))]
    asked += [(o.asked.get("meeting", "mitred"), o.asked.get("style", "blind")) for o in others]
    return "staggered" if any(m == "staggered" or s in THROUGH for m, s in asked) else "mitred"


def given_up(look: Look) -> tuple[float, float]:
    """What this tenon gives up at its upper and at its lower edge to one that passes it, mm: they part in the middle of what both would
    take up, the one that lies higher above it."""
    if meeting(look) != "staggered":
        return 0.0, 0.0
    across, up = across_of(look)
    other = min((o for o in met(look) if alike(look, o)), key=lambda o: o.id)
    mine = tenon_block(look, look.joint, 1.0, "own ")[across]
    theirs = tenon_block(look, other, 1.0, "own ")[across]
    part = (max(mine[0], theirs[0]) + min(mine[1], theirs[1])) / 2
    above = (sum(mine), other.id) > (sum(theirs), look.joint.id)
    high, low = (0.0, part - mine[0]) if above else (mine[1] - part, 0.0)
    return (high, low) if up else (low, high)


# ---- where it stands


def cheeks(look: Look, joint: JointDesign) -> Span:
    """Where a tenon's cheeks lie along the axis of its thickness."""
    face, sign = axis_of(look.face(joint.first))
    low, high = look.bare(joint.first)[face]
    shoulder, thick = look.figure("shoulder", joint.id), look.figure("thickness", joint.id)
    return (high - shoulder - thick, high - shoulder) if sign > 0 else (low + shoulder, low + shoulder + thick)


def tenon_block(look: Look, joint: JointDesign, long: float, which: str = "") -> Block:
    """A tenon as a block of the frame, ``long`` mm from its shoulder to its tip; ``which`` "own " as wide as it would be if it gave up
    nothing to another."""
    axis, sign = axis_of(joint.way)
    across, up = axis_of(look.up(joint.first))
    bare = look.bare(joint.first)
    along = (bare[axis][1], bare[axis][1] + long) if sign > 0 else (bare[axis][0] - long, bare[axis][0])
    upper, width = look.figure(f"{which}upper shoulder", joint.id), look.figure(f"{which}width", joint.id)
    low, high = bare[across]
    wide = (high - upper - width, high - upper) if up > 0 else (low + upper, low + upper + width)
    block = with_span(with_span(bare, axis, along), across, wide)
    return with_span(block, 3 - axis - across, cheeks(look, joint))


def whole(look: Look) -> Block:
    """This tenon."""
    return tenon_block(look, look.joint, look.figure("length"))


def blocks(look: Look) -> tuple[Block, ...]:
    """What the tenon is made of: itself; of a stepped one its two stages, of a double one both tenons; last its haunch, if any.

    Raises:
        NoJoint: its steps or its two halves leave too little.
    """
    main = whole(look)
    axis, sign = axis_of(look.joint.way)
    across, up = across_of(look)
    low, high = main[across]
    found: tuple[Block, ...] = (main,)
    name = look.label(look.joint.first)
    if step := look.figure("step"):
        inner = look.figure("first stage")
        if high - low - 2 * step < THINNEST:
            raise NoJoint(f"Steps of {marked(step)} leave nothing of the tenon of {name}, {marked(high - low)} wide.")
        near, far = main[axis]
        stage = (near, near + inner) if sign > 0 else (far - inner, far)
        rest = (near + inner, far) if sign > 0 else (near, far - inner)
        narrow = with_span(main, across, (low + step, high - step))
        found = (with_span(main, axis, stage), with_span(narrow, axis, rest))
    elif look.figure("count") == 2:
        between = look.figure("between")
        each = (high - low - between) / 2
        if each < THINNEST:
            raise NoJoint(
                f"Two tenons {marked(between)} apart leave {marked(max(0.0, each))} of each on {name}; make it one."
            )
        found = (with_span(main, across, (low, low + each)), with_span(main, across, (high - each, high)))
    if haunch := look.figure("haunch"):
        edge = look.bare(look.joint.first)[across]
        beside = (high, edge[1]) if up else (edge[0], low)
        near, far = main[axis]
        out = with_span(main, axis, (near, near + haunch) if sign > 0 else (far - haunch, far))
        if beside[1] - beside[0] > _NOTHING:
            found = (*found, with_span(out, across, beside))
    return found


def shoulders(look: Look, first: Placed, parts: tuple[Block, ...]) -> list[Cut]:
    """What is sawn off round the tenon's blocks: off both faces, then off the edges, then from between."""
    axis, _ = axis_of(look.joint.way)
    across, _ = across_of(look)
    thick = 3 - axis - across
    body = look.body(look.joint.first)
    ends = (min(b[axis][0] for b in parts), max(b[axis][1] for b in parts))
    found = []
    (low, high), cheek = body[thick], parts[0][thick]
    for span, way in (((low, cheek[0]), way_of(thick, -1)), ((cheek[1], high), way_of(thick, 1))):
        if span[1] - span[0] > _NOTHING:
            found.append(block_cut(first, with_span(with_span(body, axis, ends), thick, span), way))
    for along, off in _removed(parts, axis, across, body[across]):
        at = with_span(body, axis, along)
        for span in off:
            at_low, at_high = span[0] <= body[across][0] + _NOTHING, span[1] >= body[across][1] - _NOTHING
            way = way_of(across, -1) if at_low else way_of(across, 1) if at_high else look.joint.way
            found.append(block_cut(first, with_span(at, across, span), way))
    return found


def _removed(parts: tuple[Block, ...], axis: int, across: int, edge: Span) -> list[tuple[Span, tuple[Span, ...]]]:
    """Stretches along the tenon, each with what is gone across it."""
    marks = sorted({mm for b in parts for mm in b[axis]})
    found: list[tuple[Span, tuple[Span, ...]]] = []
    for a, b in pairwise(marks):
        kept = sorted(p[across] for p in parts if p[axis][0] < (a + b) / 2 < p[axis][1])
        gone, at = [], edge[0]
        for low, high in kept:
            if low - at > _NOTHING:
                gone.append((at, low))
            at = max(at, high)
        if edge[1] - at > _NOTHING:
            gone.append((at, edge[1]))
        if found and found[-1][1] == tuple(gone):
            found[-1] = ((found[-1][0][0], b), found[-1][1])
        else:
            found.append(((a, b), tuple(gone)))
    return found


def mitre(look: Look, first: Placed, tenon: Block) -> list[Cut]:
    """The tip cut off where it meets another tenon: the line runs from cheek to cheek of the square in which they cross."""
    if meeting(look) != "mitred":
        return []
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    thick = 3 - axis - across
    found = []
    for other in met(look):
        if not alike(look, other):
            continue
        theirs = cheeks(look, other)  # along this one's axis
        _, their_sign = axis_of(other.way)
        # both tips lie away from both shoulders: the corner of the square farthest from them is the mitre's far end
        far = theirs[1] if sign > 0 else theirs[0]
        near = theirs[0] if sign > 0 else theirs[1]
        outer = tenon[thick][1] if their_sign > 0 else tenon[thick][0]
        inner = tenon[thick][0] if their_sign > 0 else tenon[thick][1]
        tip = tenon[axis][1] if sign > 0 else tenon[axis][0]
        if (tip - near) * sign <= _NOTHING:
            continue  # too short to reach the other
        if (far - tip) * sign > 0:  # shorter than the far cheek: only what is there is cut
            outer = inner + (outer - inner) * (tip - near) / (far - near)
            far = tip
        side = side_of(first, way_of(across, -1))
        outline = on_side(first, side, (axis, thick), [(near, inner), (far, inner), (far, outer)])
        found.append(Cut(first.id, side, outline, first.size[SIDES[side][0]]))
    return found


def sockets(look: Look, second: Placed, parts: Iterable[Block], flare: float = 0.0) -> list[Cut]:
    """The mortise, a cut for each block: as the tenon, and a little deeper where it is blind and meets no other; where it is wedged
    longer by ``flare`` mm at either end, on the far side of the mate."""
    joint = look.joint
    axis, sign = axis_of(joint.way)
    across, _ = across_of(look)
    mate = look.body(joint.second)[axis]
    stepped = bool(look.figure("step"))
    spared = not met(look) and not stepped
    found = []
    for block in parts:
        low, high = block[axis]
        left = mate[1] - high if sign > 0 else low - mate[0]
        if left <= _NOTHING and flare:
            found.append(_flared(second, block, joint.way, across, flare))
            continue
        if left > _NOTHING and spared:
            spare = min(SPARE, left / 2)
            low, high = (low, high + spare) if sign > 0 else (low - spare, high)
        far = left <= _NOTHING and stepped  # its outline is on the far side, and met from there
        found.append(block_cut(second, with_span(block, axis, (low, high)), joint.way if far else OPPOSITE[joint.way]))
    return found


def _flared(second: Placed, block: Block, way: str, across: int, flare: float) -> Cut:
    """A mortise right through, longer at the far side."""
    straight = block_cut(second, block, way)
    mine = own_axis(second, way_of(across, 1))[0]
    which = [k for k in range(3) if k != SIDES[straight.side][0]].index(mine)
    low, high = (f(p[which] for p in straight.outline) for f in (min, max))
    if low - flare < 0 or high + flare > second.size[mine]:
        raise NoJoint(f"A mortise that opens by {marked(flare)} for its wedges does not lie within its part.")

    def opened(point: tuple[float, float]) -> tuple[float, float]:
        at = [*point]
        at[which] += flare if at[which] > (low + high) / 2 else -flare
        return at[0], at[1]

    return replace(straight, outline=tuple(map(opened, straight.outline)), far=straight.outline)


def kerf_deep(look: Look) -> float:
    """How far the kerfs for wedges go down what comes through, mm."""
    return OPENED * (look.figure("length") - (look.figure("first stage") if look.figure("step") else 0.0))


def coming_through(look: Look, made: tuple[Block, ...]) -> tuple[Block, ...]:
    """Of a tenon's blocks those that come out on the far side: of a stepped one the narrow stage."""
    return made[1:2] if look.figure("step") else made[: int(look.figure("count"))]


def kerfs(look: Look, first: Placed, parts: Iterable[Block]) -> list[Cut]:
    """Two saw cuts down each tenon that comes through, for wedges."""
    axis, sign = axis_of(look.joint.way)
    across, _ = across_of(look)
    found = []
    for block in parts:
        near, far = block[axis]
        deep = kerf_deep(look)
        span = (far - deep, far) if sign > 0 else (near, near + deep)
        low, high = block[across]
        inset = min(NEAR_EDGE, (high - low) / 4)
        for at in (low + inset, high - inset):
            cut = with_span(with_span(block, axis, span), across, (at - KERF / 2, at + KERF / 2))
            found.append(block_cut(first, cut, look.joint.way))
    return found
