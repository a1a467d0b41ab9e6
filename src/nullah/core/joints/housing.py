"""Housings: one part let into another to a depth. Across the grain it is a dado, along it a groove, at the host's own edge a rabbet;
one geometry, with the words, steps and checks of each."""

from __future__ import annotations

from nullah.core.drawing.display_list import Point
from nullah.core.joints.grooves import check_depth, depth_in, iron_check, stop_checks
from nullah.core.joints.held import FIXED, PANEL_FIXED, PANELS, glue_of, glued_across, held_steps, panel_in_a_frame
from nullah.core.joints.housing_suits import across_the_grain, along_the_grain, at_an_edge
from nullah.core.joints.panel import PANEL, panel_edge, panel_told
from nullah.core.marking.family import (
    AT_EDGE,
    OPPOSITE,
    Block,
    Joins,
    Look,
    NoJoint,
    School,
    Span,
    axis_of,
    block_cut,
    depth_of_the_set,
    own_axis,
    own_point,
    side_of,
    with_span,
)
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import ROOM, SIDE_WORDS, Check, JointPlan, Mend, Said, Setting, off_side
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import SIDES, WAYS, Cut, Placed, on_grid
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, at_least, marked

FROM_SHOW_EDGE = 6.0  # mm from where a stopped dado ends to the edge that is seen (1/4", common practice)
ASKS = (
    Ask("depth", "how deep it is; 0: a third of the thickness", "length", 0.0, 0.0, 200.0),
    Ask("free", "room left at the bottom, for what moves; 0: as the season wants", "length", 0.0, 0.0, 50.0),
)
STOPS = (
    Ask("stop", "how far it stops short of an edge of its mate, which is notched there", "length", 0.0, 0.0, 300.0),
    Ask("edge", "the edge that it stops short of", "choice", "front", options=tuple(WAYS)),
    Ask("shoulder", "shoulder on the mate's face, before its tongue", "length", 0.0, 0.0, 60.0),
)
BY_HAND = "Knife or gauge both lines, saw them, split and pare"
WORKING = 0.5  # mm free beside what the season wants (common practice, no source)
HELD = 2.0  # mm of a panel in its groove in the driest month (common practice, no source)


@frozen
class Housing:
    """The family. ``first`` goes into ``second``, which is cut as the first stands in it."""

    name: str
    about: str
    word: str
    steps: tuple[str, ...]
    joins: Joins
    by_plane: str = ""
    home: str = "glued"
    making: Making = Making("housed", "housed")
    after: tuple[str, ...] = ()
    reaches: tuple[str, ...] = ("reach",)
    schools: tuple[School, ...] = ()
    asks: tuple[Ask, ...] = ASKS

    def figure(self, name: str, look: Look) -> float:
        """depth (the same in all of its set: as one of them is cut, where one is), width, reach, free (at the bottom), stop, shoulder,
        field; mm."""
        if name == "depth":
            return depth_of_the_set(look, depth_in)
        if name == "asks fixed":
            return float(panel_in_a_frame(look))
        if name == "reach":
            return look.figure("depth") - look.figure("free")
        if name == "free":
            grows = self._season(look)[1]
            return float(look.asked("free")) or (round(grows + WORKING, 1) if grows else 0.0)
        if name == "field":
            return float(look.asked("field")) if self._panel(look) != "flat" else 0.0
        if name == "shoulder" and self._panel(look) != "flat":
            return look.thickness(look.joint.first) - float(look.asked("tongue"))
        if name in ("stop", "shoulder"):
            return float(look.asked(name)) if self._asks(name) else 0.0
        if name == "width":
            thick = look.thickness(look.joint.first)
            wide = thick - look.figure("shoulder")
            if self._panel(look) == "bevelled":  # it goes in until it is as thick as the groove is wide
                deepest = look.figure("reach") + self._season(look)[1]  # or it would wedge the groove apart as it grows
                wide += look.figure("shoulder") * min(1.0, deepest / look.figure("field"))
            if wide <= 0:
                raise NoJoint(
                    f"A shoulder as thick as {look.label(look.joint.first)}, {marked(thick)}, leaves no tongue."
                )
            return wide
        raise NoJoint(f"A {self.word} has no {name}.")

    def _season(self, look: Look) -> tuple[float, float]:
        """How far the mate comes out of the housing by the driest month and goes in by the wettest, mm: half of what it moves, the
        other half being the far side's. Nothing where its grain runs into the housing, or it is glued in."""
        axis = axis_of(look.joint.way)[0]
        if self.home == "glued" or axis_of(look.up(look.joint.first))[0] != axis:
            return 0.0, 0.0
        low, high = look.bare(look.joint.first)[axis]
        dry, wet = look.grows(look.joint.first, high - low + 2 * look.figure("depth"))
        return max(0.0, -dry) / 2, max(0.0, wet) / 2

    def _way(self, look: Look) -> str:
        """How it is cut with what is at hand."""
        return BY_HAND if any(not getattr(look.shop, p) for p in self.joins.planes) else self.by_plane

    def _asks(self, name: str) -> bool:
        return any(a.name == name for a in self.asks)

    def _panel(self, look: Look) -> str:
        """What the edge of the mate is like where that is asked: flat, rabbeted or bevelled."""
        return str(look.asked("panel")) if self._asks("panel") else "flat"

    def plan(self, look: Look) -> JointPlan:
        """The housing laid out."""
        joint = look.joint
        host = look.stands(joint.second)
        mate = look.stands_in(joint.first, joint.second)
        depth, free = look.figure("depth"), look.figure("free")
        a, b = look.label(joint.first), look.label(joint.second)
        square = _is_square(mate)
        if square and abs(apart := _apart(look)) > AT_EDGE:
            into = f"stands {marked(-apart)} in {b} already" if apart < 0 else f"ends {marked(apart)} before {b}"
            raise NoJoint(f"{a} {into}: without its {self.word} it ends at the side it is let into; move one of them.")
        cut = _aligned(look, host, free) if square else _leaning(look, host, mate)
        wide, stop, shoulder = look.figure("width"), look.figure("stop"), look.figure("shoulder")
        if not square and (stop or shoulder):
            raise NoJoint(
                f"{a} leans in {b}: its {self.word} is neither stopped nor shouldered, and its edge stays flat."
            )
        panel = self._panel(look)
        if panel != "flat":
            on_mate: tuple[Cut, ...] = (panel_edge(look, panel),)
        else:
            on_mate = taken_off(look, stop, shoulder)
        say, deep = Said(), on_grid(cut.depth) if square else depth
        tool = "router plane" if look.shop.router_plane else "depth line"
        settings = _placed(look, host, cut, self.word) if square else []
        settings += [
            Setting(tool, deep, "", (joint.second,), f"depth of the {self.word} for {a}", "" if square else ROOM),
        ]
        if not square:
            settings.insert(
                0, Setting(f"knife, from {a}", wide, "", (joint.second,), f"width of the {self.word} for {a}", ROOM)
            )
        left = look.across(joint.second, joint.way)
        checks = [
            check_depth(depth, left, b),
            Check(at_least(wide, 3.0), f"the {self.word} is {marked(wide)} wide; a chisel goes in from {marked(3.0)}"),
        ]
        out, grows = self._season(look)
        if out or grows:
            reach, wanted = look.figure("reach"), round(grows + WORKING, 1)
            deeper = round(free + out + HELD, 1)
            checks.append(
                Check(
                    at_least(free, grows),
                    f"{marked(free)} free in {b} for {a}, which grows {marked(grows)} into it by the wettest month",
                    Mend("free", wanted, f"leave {marked(wanted)} free"),
                )
            )
            checks.append(
                Check(
                    at_least(reach - out, HELD),
                    f"{a} stays {marked(reach - out)} in {b} in the driest month; at least {marked(HELD)}",
                    Mend("depth", deeper, f"groove {marked(deeper)} deep"),
                )
            )
        if "plough" in self.joins.planes:
            shop = look.shop
            checks.append(iron_check(wide, shop.plough, shop.plough_irons, shop.chisels, False))
            checks += stop_checks(depth, shop.plough, shop.plough_deepest)
        if square and self._asks("fixed"):
            checks += glued_across(look)
        steps = [s.format(mate=a, host=b, depth=marked(deep), way=self._way(look)) for s in self.steps]
        steps += held_steps(look, say) if self._asks("fixed") else ()
        if stop:
            edge = str(look.asked("edge"))
            reaches = say(
                look.figure("reach"), joint.first, SIDE_WORDS[side_of(look.stands(joint.first), joint.way)], "notch"
            )
            from_edge = short_of(look, stop, edge)
            if from_edge < 0:
                raise NoJoint(f"{a} stands out over the {edge} edge of {b}: the {self.word} has nowhere to stop there.")
            far, its = side_of(look.stands(joint.first), edge), side_of(host, edge)
            settings.append(
                Setting(
                    "marking gauge", stop, "", (joint.first,), f"notch in the {edge} corner of {a}", SIDE_WORDS[far]
                )
            )
            checks.append(
                Check(
                    at_least(from_edge, FROM_SHOW_EDGE),
                    f"the {self.word} stops {marked(from_edge)} from the {edge} edge of {b}; at least {marked(FROM_SHOW_EDGE)}",
                )
            )
            steps.insert(
                1,
                f"Chop a pocket to {marked(deep)} where it stops, {say(from_edge, joint.second, SIDE_WORDS[its], 'stop')} from the "
                f"{edge} edge of {b}.",
            )
            steps.insert(len(self.steps), f"Notch the {edge} corner of {a}: {marked(stop)} by {reaches}.")
        if panel != "flat":
            told = panel_told(look, panel)
            settings += told[0]
            checks.append(told[1])
            steps[:0] = told[2]
        elif shoulder:
            thick = look.thickness(joint.first)
            settings.append(Setting("marking gauge", wide, "", (joint.first,), f"tongue of {a}", "back"))
            checks.append(
                Check(
                    at_least(wide, thick / 2),
                    f"a tongue of {marked(wide)} on {a}, {marked(thick)} thick; at least half of it",
                )
            )
            steps.insert(
                0,
                f"Saw the shoulder of {a}, {say(shoulder, joint.first, 'face', 'shoulder')} off its face; "
                f"pare the tongue to its line before the {self.word}.",
            )
        stands = {host.id: host, **({joint.first: look.stands(joint.first)} if on_mate else {})}
        figures = {"width": wide, "depth": depth, **({"stop": stop} if stop else {})}
        figures |= {"free": free} if free else {}
        figures |= {"field": look.figure("field")} if panel != "flat" else {}
        return JointPlan(
            joint.id,
            self.name,
            f"{self.word.capitalize()} in {b} for {a}",
            (joint.second, joint.first),
            tuple(settings),
            tuple(steps),
            tuple(checks),
            marked_faces((cut, *on_mate), stands, look.label),
            lengths=say.lengths,
            glue=glue_of(look, say) if self._asks("fixed") else "",
            figures=figures | ({"shoulder": shoulder} if shoulder else {}),
            cuts=(cut, *on_mate),
        )


def _placed(look: Look, host: Placed, cut: Cut, word: str) -> list[Setting]:
    """Where a housing lies: its near wall from the nearer side of its part, and how wide it is there; narrower than its mate where it
    is open at that side."""
    joint, called = look.joint, look.label(look.joint.first)
    axis = own_axis(host, look.face(joint.first))[0]
    sides = [name for name, (k, _) in SIDES.items() if k == axis]
    off = {side: off_side(cut, host.size, side) for side in sides}
    near = min(sides, key=lambda s: off[s])
    across = on_grid(host.size[axis] - sum(off.values()))
    found = [Setting(f"knife, from {called}", across, "", (joint.second,), f"width of the {word} for {called}")]
    if off[near] > SAME:
        gauge = "rule" if axis == 0 else "marking gauge"
        found.append(
            Setting(gauge, off[near], "", (joint.second,), f"near wall of the {word} for {called}", SIDE_WORDS[near])
        )
    return found


def _apart(look: Look) -> float:
    """How far the first part ends before the second without what is let in, mm; less than none where it stands in it already."""
    axis, sign = axis_of(look.joint.way)
    mine, its = look.bare(look.joint.first)[axis], look.body(look.joint.second)[axis]
    return its[0] - mine[1] if sign > 0 else mine[0] - its[1]


def _is_square(mate: Placed) -> bool:
    return all(sum(abs(v) > 1e-9 for v in axis) == 1 for axis in mate.axes)


def _aligned(look: Look, host: Placed, free: float) -> Cut:
    """The mate's own section, sunk to the depth; where it is cut already, as wide as it was cut."""
    joint = look.joint
    body: Block = look.body(joint.first)
    thick = axis_of(look.face(joint.first))[0]
    body = with_span(body, thick, _tongue(look, body[thick]))
    if stop := look.figure("stop"):
        body = stopped_short(body, str(look.asked("edge")), stop)
    axis, sign = axis_of(joint.way)
    low, high = body[axis]
    tip = (high if sign > 0 else low) + free * sign  # the bottom lies beyond the mate's end by what is left free
    span = (low, tip) if sign > 0 else (tip, high)
    return block_cut(host, with_span(body, axis, span), OPPOSITE[joint.way])


def _tongue(look: Look, through: Span) -> Span:
    """What of the mate's thickness goes in: as wide as the housing, from the mate's back where there is a shoulder on its face."""
    low, high = through
    wide = look.figure("width")
    back_is_high = axis_of(look.face(look.joint.first))[1] < 0
    return (high - wide, high) if back_is_high and look.figure("shoulder") else (low, low + wide)


def stopped_short(body: Block, edge: str, stop: float) -> Block:
    """A block that stops short at one of its edges."""
    axis, sign = axis_of(edge)
    low, high = body[axis]
    return with_span(body, axis, (low, high - stop) if sign > 0 else (low + stop, high))


def short_of(look: Look, stop: float, edge: str) -> float:
    """How far from the host's edge the housing stops, mm."""
    axis, sign = axis_of(edge)
    host, mate = look.body(look.joint.second)[axis], look.body(look.joint.first)[axis]
    return (host[1] - mate[1] if sign > 0 else mate[0] - host[0]) + stop


def taken_off(look: Look, stop: float, shoulder: float) -> tuple[Cut, ...]:
    """What is taken off the mate's end: a notch at the edge where the housing stops, and the wood before the tongue."""
    joint = look.joint
    if not (stop or shoulder):
        return ()
    placed, body = look.stands(joint.first), look.body(joint.first)
    axis, sign = axis_of(joint.way)
    face = look.face(joint.first)
    thick = axis_of(face)[0]
    low, high = body[axis]
    reach = look.figure("reach")
    end = with_span(body, axis, (high - reach, high) if sign > 0 else (low, low + reach))
    cuts = []
    if stop:
        edge = str(look.asked("edge"))
        across, far = axis_of(edge)
        if across in (axis, thick):
            raise NoJoint(
                f"A {edge} edge is none of {look.label(joint.first)}'s; choose another that it stops short of."
            )
        a, b = body[across]
        if stop >= b - a:
            raise NoJoint(f"It stops {marked(stop)} short, and {look.label(joint.first)} is only {marked(b - a)} wide.")
        notch = with_span(end, across, (b - stop, b) if far > 0 else (a, a + stop))
        cuts.append(
            block_cut(placed, notch, joint.way if thick == axis else face)
        )  # what goes in flat is notched no deeper than it goes
    if shoulder:
        if thick == axis:
            raise NoJoint(f"{look.label(joint.first)} goes in by its face: it has no shoulder beside it.")
        tongue = _tongue(look, body[thick])
        before = (body[thick][0], tongue[0]) if tongue[0] > body[thick][0] else (tongue[1], body[thick][1])
        cuts.append(block_cut(placed, with_span(end, thick, before), face))
    return tuple(cuts)


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
    Joins(
        "It bears weight over its whole width, and holds little against being pulled out.",
        "Grain side by side moves alike; across each other, only the front is glued.",
        across_the_grain,
        ("router_plane",),
    ),
    asks=(*ASKS, *STOPS, FIXED),
)
GROOVE = Housing(
    "groove",
    "A panel let into another part along its grain.",
    "groove",
    (
        "Try the groove in scrap on the edge of {mate} before touching {host}.",
        "{way} {host} to {depth} where {mate} lies, stopping within the joint where it would show.",
    ),
    Joins(
        "It keeps a panel where it is, and a frame from racking; it is no joint to hang on.",
        "The panel is free: it grows and shrinks in the groove.",
        along_the_grain,
        ("plough",),
    ),
    "Plough",
    "dry",
    Making("ploughed", "ploughed"),
    asks=(*ASKS, *PANEL, PANEL_FIXED),
    schools=(PANELS,),
)
RABBET = Housing(
    "rabbet",
    "A part let into the edge of another.",
    "rabbet",
    (
        "Knife the shoulder on {host} from {mate} as it is.",
        "{way} {host} down to {depth}, nearest the shoulder first; floor it to the line.",
        "Try {mate}: it bears all along, and stands proud by no more than is planed off.",
    ),
    Joins(
        "It keeps a corner square and gives glue a second face; nails or screws hold it.",
        "Grain side by side moves alike; across each other it wants nails instead of glue.",
        at_an_edge,
        ("rabbet_plane",),
    ),
    "Plane the rabbet of",
    making=Making("rabbeted", "rabbeted"),
    asks=(*ASKS, FIXED),
)
