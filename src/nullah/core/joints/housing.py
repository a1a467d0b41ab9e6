"""Housings: one part let into another to a depth. Across the grain it is a dado, along it a groove, at the host's own edge a rabbet;
one geometry, with the words, steps and checks of each."""

from __future__ import annotations

from nullah.core.ask import Ask
from nullah.core.design import JointDesign
from nullah.core.drawing import Point
from nullah.core.frozen import frozen
from nullah.core.joints.family import (
    OPPOSITE,
    Block,
    Look,
    NoJoint,
    axis_of,
    block_cut,
    marked_faces,
    own_point,
    with_span,
)
from nullah.core.joints.grooves import check_depth, depth_in
from nullah.core.joints.plan import Check, JointPlan, Setting
from nullah.core.measure import at_least, marked
from nullah.core.shapes.cut import Cut, Placed


@frozen
class Housing:
    """The family. ``first`` goes into ``second``, which is cut as the first stands in it."""

    name: str
    about: str
    word: str
    steps: tuple[str, ...]
    home: str = "glued"
    after: tuple[str, ...] = ()
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[tuple[str, str], ...] = ()
    asks: tuple[Ask, ...] = (
        Ask("depth", "how deep it is; 0: a third of the thickness", "length", 0.0, 0.0, 200.0),
        Ask("free", "room left at the bottom, for what moves", "length", 0.0, 0.0, 50.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """depth (the same in every housing of its set: as one of them is cut, where one is), width, reach; mm."""
        if name == "depth":
            others = _of_the_set(look)
            done = [d for j in others if (d := look.as_cut("depth", j.id)) is not None]
            return min(done or [_own_depth(look, j) for j in (look.joint, *others)])
        if name == "reach":
            return look.figure("depth") - float(look.asked("free"))
        if name == "width":
            return look.thickness(look.joint.first)
        raise NoJoint(f"A {self.word} has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The housing laid out."""
        joint = look.joint
        host = look.stands(joint.second)
        mate = look.stands_in(joint.first, joint.second)
        depth, free = look.figure("depth"), float(look.asked("free"))
        a, b = look.label(joint.first), look.label(joint.second)
        cut = _aligned(look, host, free) if _is_square(mate) else _leaning(look, host, mate)
        wide = look.figure("width")
        settings = (
            Setting(f"knife, from {a}", wide, "", (joint.second,), f"width of the {self.word} for {a}"),
            Setting(
                "router plane" if look.shop.router_plane else "depth line",
                depth,
                "",
                (joint.second,),
                f"depth of the {self.word} for {a}",
            ),
        )
        left = look.across(joint.second, joint.way)
        return JointPlan(
            joint.id,
            self.name,
            f"{self.word.capitalize()} in {b} for {a}",
            (joint.second, joint.first),
            settings,
            tuple(s.format(mate=a, host=b, depth=marked(depth)) for s in self.steps),
            (
                check_depth(depth, left, b),
                Check(
                    at_least(wide, 3.0), f"the {self.word} is {marked(wide)} wide; a chisel goes in from {marked(3.0)}"
                ),
            ),
            marked_faces((cut,), {host.id: host}, look.label),
            figures={"width": wide, "depth": depth},
            cuts=(cut,),
        )


def _own_depth(look: Look, joint: JointDesign) -> float:
    asked = float(joint.asked.get("depth", 0.0)) if joint.id != look.joint.id else float(look.asked("depth"))
    return asked or depth_in(look.thickness(joint.second))


def _of_the_set(look: Look) -> tuple[JointDesign, ...]:
    if not look.joint.set:
        return ()
    return tuple(j for j in look.others() if j.set == look.joint.set and j.family == look.joint.family)


def _is_square(mate: Placed) -> bool:
    return all(sum(abs(v) > 1e-9 for v in axis) == 1 for axis in mate.axes)


def _aligned(look: Look, host: Placed, free: float) -> Cut:
    """The mate's own section, sunk to the depth; where it is cut already, as wide as it was cut."""
    joint = look.joint
    body: Block = look.body(joint.first)
    thick = axis_of(look.face(joint.first))[0]
    near, _ = body[thick]
    body = with_span(body, thick, (near, near + look.figure("width")))
    axis, sign = axis_of(joint.way)
    low, high = body[axis]
    tip = (high if sign > 0 else low) + free * sign  # the bottom lies beyond the mate's end by what is left free
    span = (low, tip) if sign > 0 else (tip, high)
    return block_cut(host, with_span(body, axis, span), OPPOSITE[joint.way])


def _leaning(look: Look, host: Placed, mate: Placed) -> Cut:
    """The section of a mate that leans, right through along the axis that both share: its outline on the host's end or edge."""
    shared = [
        (k, m)
        for k in range(3)
        for m in range(3)
        if abs(sum(a * b for a, b in zip(host.axes[k], mate.axes[m], strict=True))) > 1 - 1e-9
    ]
    if not shared:
        raise NoJoint(f"{look.label(mate.id)} leans two ways in {look.label(host.id)}; a housing takes one.")
    axis, own = shared[0]
    i, j = (k for k in range(3) if k != axis)
    corners = []
    u, v = (k for k in range(3) if k != own)
    for a, b in ((0, 0), (1, 0), (1, 1), (0, 1)):
        at = list(mate.origin)
        for k, share in ((u, a), (v, b)):
            at = [p + share * mate.size[k] * w for p, w in zip(at, mate.axes[k], strict=True)]
        point = own_point(host, (at[0], at[1], at[2]))
        corners.append((point[i], point[j]))
    side = {0: "left", 1: "lower", 2: "back"}[axis]
    outline = _within(corners, host.size[i], host.size[j])
    if len(outline) < 3:
        raise NoJoint(f"{look.label(mate.id)} does not reach into {look.label(host.id)}.")
    return Cut(host.id, side, outline, host.size[axis])


def _within(outline: list[Point], wide: float, tall: float) -> tuple[Point, ...]:
    """A convex outline cut off at the edges of a side (Sutherland and Hodgman 1974)."""
    for axis, limit, sign in ((0, 0.0, 1.0), (0, wide, -1.0), (1, 0.0, 1.0), (1, tall, -1.0)):
        kept: list[Point] = []
        for a, b in zip(outline, [*outline[1:], *outline[:1]], strict=True):
            da, db = (a[axis] - limit) * sign, (b[axis] - limit) * sign
            if da >= 0:
                kept.append(a)
            if (da > 0 > db) or (da < 0 < db):
                t = da / (da - db)
                kept.append((a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])))
        outline = kept
    return tuple(outline)


DADO = Housing(
    "dado",
    "A part let into another across its grain.",
    "dado",
    (
        "Knife one wall across {host}, set {mate} against it, knife the other from it: tight, and {mate} eased.",
        "Saw both walls to {depth}, split out the waste, floor it to depth, nearest the wall first.",
        "Try {mate} by hand; number both, and which way round.",
    ),
)
GROOVE = Housing(
    "groove",
    "A panel let into another part along its grain.",
    "groove",
    (
        "Try the groove in scrap on the edge of {mate} before touching {host}.",
        "Plough {host} to {depth} where {mate} lies, stopping within the joint where it would show.",
        "{mate} goes in dry, free to move.",
    ),
    "dry",
)
RABBET = Housing(
    "rabbet",
    "A part let into the edge of another.",
    "rabbet",
    (
        "Knife the shoulder on {host} from {mate} as it is.",
        "Plane or saw and split down to {depth}, nearest the shoulder first; floor it to the line.",
        "Try {mate}: it bears all along, and stands proud by no more than is planed off.",
    ),
)
