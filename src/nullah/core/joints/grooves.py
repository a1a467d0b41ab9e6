"""Rabbets, dadoes and grooves: width from the measured mate, depth from the thinnest board they are cut in."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import pairwise

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.marking.plan import Check, JointPlan, Mend, Setting, drawn_face
from nullah.core.shapes.cut import Cut
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import SAME, at_least, marked

LEFT_BEHIND = 5.0  # mm of wood behind a groove, and from it to the edge (common practice, no source)


def depth_in(thickness: float) -> float:
    """Depth of a groove or dado: a third of the thinnest board, leaving at least 5 mm behind it, to 0.1 mm.

    Boards under 7.5 mm cannot keep 5 behind a third; there a third is kept, and ``check_depth`` says so.
    """
    third = thickness / 3
    return round(min(third, thickness - LEFT_BEHIND) if thickness > 1.5 * LEFT_BEHIND else third, 1)


def check_depth(depth: float, thickness: float, part: str) -> Check:
    """At least 5 mm stays behind, and never more than half is taken; a third is."""
    behind = thickness - depth
    return Check(
        at_least(behind, LEFT_BEHIND) and at_least(thickness / 2, depth),
        f"{marked(behind)} left behind the groove in {part}; at least {marked(LEFT_BEHIND)}",
        Mend("depth", depth_in(thickness), f"sunk {marked(depth_in(thickness))}"),
    )


@frozen
class Sides:
    """The sides that grooves and dadoes are cut in: thickness, (length, width) and, from left to right as one looks at the inside
    face, the mates at the two ends, each by the side's name. mm."""

    thickness: Mapping[str, float]
    size: Mapping[str, tuple[float, float]]
    ends: Mapping[str, tuple[str, str]]


def groove(
    name: str,
    panel: str,
    panel_thickness: float,
    depth: float,
    from_edge: float,
    edge: str,
    through: tuple[str, ...],
    stopped: tuple[str, ...],
    sides: Sides,
    place: str,
    plough: bool,
    chisels: tuple[float, ...],
    irons: tuple[float, ...],
    deepest: float,
    open_at: str = "",
) -> JointPlan:
    """A groove for a panel, run round the sides.

    Args:
        from_edge: mm from the reference edge to the near side of the groove; ``edge`` names that edge.
        through, stopped: which sides it may be ploughed right through, and in which it stops before the ends.
        place: what ``dovetail.groove_place`` said.
        irons, deepest: of the plough: widths, and how deep its stop lets it go, mm.
        open_at: the mate at whose end the groove runs out on purpose (a lid's way in); "" for none.
    """
    all_sides = through + stopped
    tool = "plough plane fence" if plough else "marking gauge"
    stop_tool = "plough plane depth stop" if plough else "depth line"
    settings = (
        Setting(tool, from_edge, "", all_sides, f"{name}: near side of the groove, from the {edge} edge"),
        Setting(stop_tool, depth, "", all_sides, f"{name}: depth"),
        Setting(
            "plough iron" if plough else "chisel",
            panel_thickness,
            "",
            all_sides,
            f"{name}: width, from {panel} as measured",
        ),
    )
    way = "Plough" if plough else "Knife both lines, saw or chisel out, and floor with"
    steps = [
        f"Try the {marked(panel_thickness, unit=' mm')} groove in scrap on the {panel}'s own edge before touching a side."
    ]
    if through:
        steps.append(
            f"{way}{'' if plough else ' a chisel,'} right through in {_list(through)}, face side to the fence."
        )
    open_sides = tuple(p for p in stopped if open_at in sides.ends[p]) if open_at else ()
    shut = tuple(p for p in stopped if p not in open_sides)
    if shut:
        steps.append(
            f"In {_list(shut)} stop short of both ends, within the joint: chop the ends square, then join them up."
        )
    for p in open_sides:
        left, right = sides.ends[p]
        far = right if left == open_at else left
        steps.append(
            f"In {p} run out at the end at {open_at}, the {panel}'s way in, and stop short of the end at {far}, within the joint."
        )
    steps.append(f"Depth {marked(depth)} from the inside face; the {panel} goes in dry.")
    found = Check(place != "across a line", f"groove lies {place}: {_where(place)}")
    left_over = Check(
        at_least(from_edge, LEFT_BEHIND), f"{marked(from_edge)} from the {edge} edge; at least {marked(LEFT_BEHIND)}"
    )
    checks = (
        found,
        left_over,
        iron_check(panel_thickness, plough, irons, chisels, bool(stopped)),
        *stop_checks(depth, plough, deepest),
        *(check_depth(depth, sides.thickness[p], p) for p in all_sides),
    )
    drawn = (open_sides or shut or through)[0]
    faces = (
        drawn_face(
            drawn,
            f"{drawn}, inside face",
            _groove_face(drawn, sides, from_edge, panel_thickness, edge, drawn in stopped, depth, open_at),
        ),
    )
    return JointPlan(
        name,
        "groove",
        f"{name.capitalize()} for the {panel}",
        (*all_sides, panel),
        settings,
        tuple(steps),
        checks,
        faces,
        figures={"width": panel_thickness, "depth": depth, "from the edge": from_edge},
        cuts=tuple(
            _groove_cut(p, sides, from_edge, panel_thickness, edge, p in stopped, depth, open_at) for p in all_sides
        ),
        stopped=stopped,
    )


STOP = 0.5  # of the mate's thickness: how far from the end a groove stops within a joint


def _stops(part: str, sides: Sides, stopped: bool, open_at: str) -> tuple[float, float]:
    """How far from the left and the right end of an inside face a groove begins and ends, mm: 0 where it runs out."""
    thick = sides.thickness[part]
    left, right = (
        sides.thickness.get(name, thick) * STOP if stopped and name != open_at else 0.0 for name in sides.ends[part]
    )
    return left, right


def _groove_cut(
    part: str, sides: Sides, from_edge: float, wide: float, edge: str, stopped: bool, depth: float, open_at: str
) -> Cut:
    """A groove sunk into the inside face; left and right are those of the outside face, the other way round."""
    length, width = sides.size[part]
    right, left = _stops(part, sides, stopped, open_at)
    y = from_edge if edge == "lower" else width - from_edge - wide
    return Cut(part, "back", rectangle(left, y, max(0.0, length - left - right), wide), depth)


def stop_checks(depth: float, plough: bool, deepest: float) -> tuple[Check, ...]:
    """Whether the plough goes so deep; nothing where none is at hand."""
    words = f"groove {marked(depth)} deep: the plough goes to {marked(deepest)}; what is deeper is chopped and floored by hand"
    return (Check(False, words),) if plough and not at_least(deepest, depth) else ()


def iron_check(
    width: float, plough: bool, owned: tuple[float, ...], chisels: tuple[float, ...], stopped: bool
) -> Check:
    """Whether something at hand is as narrow as the groove: an iron where it is ploughed, a chisel where it is chopped."""
    irons = [i for i in owned if at_least(width, i)]
    entering = [c for c in chisels if at_least(width, c)]
    if plough and not irons:
        return Check(False, f"groove {marked(width)} wide: no plough iron at hand is as narrow")
    if not entering and (stopped or not plough):
        return Check(False, f"groove {marked(width)} wide: no chisel at hand goes in to chop it")
    if not plough:
        return Check(True, f"groove {marked(width)} wide: the {marked(max(entering), unit=' mm')} chisel goes in")
    iron = max(irons)
    once = width - iron < 0.1
    words = "in one pass" if once else f"in two passes, the fence moved by {marked(width - iron)}"
    return Check(True, f"groove {marked(width)} wide: the {marked(iron, unit=' mm')} iron {words}")


def _where(place: str) -> str:
    return {
        "inside a tail": "through in the pin boards, stopped in the tail boards",
        "inside a pin": "through in the tail boards, stopped in the pin boards",
    }.get(place, "it would show on both; move it or change the pins")


def _list(parts: tuple[str, ...]) -> str:
    return " and ".join(parts) if len(parts) < 3 else ", ".join(parts[:-1]) + " and " + parts[-1]


def _ends_named(part: str, sides: Sides) -> list[Primitive]:
    """The mates at the two ends of an inside face, so that left and right are known."""
    length, width = sides.size[part]
    return [
        Text((x, width * 0.82), f"end at {mate}", size=11, ink="quiet", align=align, halo=True)
        for x, mate, align in zip((length * 0.02, length * 0.98), sides.ends[part], ("left", "right"), strict=True)
    ]


def _groove_face(
    part: str, sides: Sides, from_edge: float, wide: float, edge: str, stopped: bool, depth: float, open_at: str
) -> Drawing:
    length, width = sides.size[part]
    thick = sides.thickness[part]
    y = from_edge if edge == "lower" else width - from_edge - wide
    mates = [sides.thickness.get(m, thick) for m in sides.ends[part]]
    start, end = _stops(part, sides, stopped, open_at)
    items: list[Primitive] = [
        Area(rectangle(0, 0, length, width), "wood", edge="outline", tag=f"part:{part}"),
        Area(rectangle(start, y, length - start - end, wide), "waste", hatch=True, edge="outline", tag="groove"),
        Dimension((0, 0), (0, y), from_edge, 20)
        if edge == "lower"
        else Dimension((0, y + wide), (0, width), from_edge, 20),
        Dimension((length, y + wide), (length, y), wide, 20, ink="computed"),
        Line(((mates[0], 0), (mates[0], width)), "faint", dash=True),
        Line(((length - mates[1], 0), (length - mates[1], width)), "faint", dash=True),
        Text((length / 2, width / 2), part, size=30, bold=True, ink="faint"),
        *_ends_named(part, sides),
    ]
    # the section, drawn beside the face at the same scale
    x0 = length + max(36.0, length * 0.16)
    near = thick - depth
    items += [
        Area(rectangle(x0, 0, thick, width), "end grain", edge="outline"),
        Area(rectangle(x0 + near, y, depth, wide), "waste", hatch=True, edge="outline"),
        Dimension((x0 + near, 0), (x0 + thick, 0), depth, -16, ink="computed"),
        Text((x0 + thick / 2, width), "section", size=11, ink="quiet"),
    ]
    return Drawing(tuple(items))


def dadoes(
    dividers: Mapping[str, float],
    depth: float,
    centres: tuple[float, ...],
    pair: tuple[str, str],
    datum: str,
    sides: Sides,
    floor: float,
    router_plane: bool,
) -> JointPlan:
    """Dadoes across two opposite sides for dividers, each as wide as its own, open at the upper edge: the dividers go in there.

    Args:
        dividers: thickness of each divider as measured, by its name, in order.
        centres: of each dado from the ends at ``datum``, mm.
        pair: the two sides; ``floor``: where the dadoes begin above the lower edge, mm.
    """
    widths = tuple(dividers.values())
    alike = max(widths) - min(widths) < SAME
    settings = (
        *_knives(dividers, alike, pair),
        Setting("router plane" if router_plane else "depth line", depth, "", pair, "dado depth"),
        *_places(centres, widths, pair, datum),
    )
    bottom = "floor with the router plane" if router_plane else "floor by chisel to a gauged depth line"
    steps = (
        f"Clamp {_list(pair)} together, insides up, edges along each other and the ends at {datum} flush; square every dado "
        "across both at once.",
        f"Knife one wall, set {'the' if alike else 'its own'} divider against it, knife the other from it: tight, and the "
        "divider eased.",
        f"From {marked(floor)} above the lower edge right out at the upper edge, where the dividers go in.",
        f"Saw the walls to {marked(depth)}, split out the waste, {bottom}, nearest the wall first.",
        "Try each divider by hand; number divider and dado, and which way round.",
    )
    bays = [b - a for a, b in pairwise(centres)]
    even = alike and (max(bays) - min(bays) < SAME if bays else True)
    checks = (
        Check(
            True,
            "bays equal on both sides, so one square bay makes all square"
            if even
            else f"bays of several widths: set every dado from the ends at {datum} on both sides",
        ),
        *(check_depth(depth, sides.thickness[p], p) for p in pair),
    )
    face = drawn_face(pair[0], f"{pair[0]}, inside face", _dado_face(pair[0], sides, centres, widths, datum, floor))
    places = {f"dado {n}": c - w / 2 for (n, w), c in zip(dividers.items(), centres, strict=True)}
    figures = {"depth": depth, **places, **{f"width {n}": w for n, w in dividers.items()}}
    cuts = tuple(
        Cut(p, "back", rectangle(_from_left(p, sides, near, wide, datum), floor, wide, sides.size[p][1] - floor), depth)
        for p in pair
        for near, wide in ((c - w / 2, w) for c, w in zip(centres, widths, strict=True))
    )
    return JointPlan(
        "dadoes",
        "dado",
        "Dadoes for the dividers",
        (*pair, *dividers),
        settings,
        steps,
        checks,
        (face,),
        figures=figures,
        cuts=cuts,
    )


def _from_left(part: str, sides: Sides, near: float, wide: float, datum: str) -> float:
    """Where a dado lies that begins ``near`` mm from the end at ``datum``, from the left end of the outside face."""
    return near if sides.ends[part][1] == datum else sides.size[part][0] - near - wide


MOST_RULED = 8  # dadoes set one by one; more of them, evenly spaced, are stepped with a block


def _knives(dividers: Mapping[str, float], alike: bool, pair: tuple[str, str]) -> list[Setting]:
    """What each dado's width is knifed from: any divider where they are alike, else its own."""
    if alike:
        return [Setting("knife, from the divider", max(dividers.values()), "", pair, "dado width")]
    return [Setting(f"knife, from divider {n}", w, "", pair, f"width of dado {n}") for n, w in dividers.items()]


def _places(centres: tuple[float, ...], widths: tuple[float, ...], pair: tuple[str, str], datum: str) -> list[Setting]:
    """Where the dadoes go: each by the rule, or the first by the rule and the rest by a spacer block."""
    steps = [b - a for a, b in pairwise(centres)]
    alike = max(widths) - min(widths) < SAME
    if len(centres) > MOST_RULED and alike and max(steps) - min(steps) < SAME:
        return [
            Setting("rule", centres[0] - widths[0] / 2, "", pair, f"near side of dado 1, from the end at {datum}"),
            Setting("spacer block", steps[0] - widths[0], "", pair, f"from dado to dado, {len(centres)} of them"),
        ]
    return [
        Setting("rule", c - w / 2, "", pair, f"near side of dado {i}, from the end at {datum}")
        for i, (c, w) in enumerate(zip(centres, widths, strict=True), 1)
    ]


def _dado_face(
    part: str, sides: Sides, centres: tuple[float, ...], widths: tuple[float, ...], datum: str, floor: float
) -> Drawing:
    """The inside face as one looks at it: the end at ``datum`` lies right or left as it does there."""
    length, width = sides.size[part]
    right = sides.ends[part][1] == datum
    items: list[Primitive] = [Area(rectangle(0, 0, length, width), "wood", edge="outline", tag=f"part:{part}")]
    for i, (c, wide) in enumerate(zip(centres, widths, strict=True)):
        near = c - wide / 2
        x = length - c - wide / 2 if right else near
        items.append(Area(rectangle(x, floor, wide, width - floor), "waste", hatch=True, edge="outline", tag="dado"))
        ends = ((length - near, width), (length, width)) if right else ((0.0, width), (near, width))
        items.append(Dimension(*ends, near, 14 + 19 * i, tag=f"setting:rule:{near:.2f}"))
    if centres:
        x = length - centres[0] - widths[0] / 2 if right else centres[0] - widths[0] / 2
        tool = "the divider" if max(widths) - min(widths) < SAME else "divider 1"
        shown = max(widths) if tool == "the divider" else widths[0]
        items.append(
            Dimension(
                (x, 0),
                (x + widths[0], 0),
                widths[0],
                -16,
                ink="computed",
                tag=f"setting:knife, from {tool}:{shown:.2f}",
            )
        )
    items.append(Text((length / 2, width / 2), part, size=30, bold=True, ink="faint"))
    items += _ends_named(part, sides)
    return Drawing(tuple(items))


def lid_rabbet(
    lid: str, size: tuple[float, float, float], ends: float, edges: float, depth: float, plane: bool
) -> JointPlan:
    """A rabbet all round the underside of a lift-off lid.

    Args:
        size: the lid's length, width, thickness, mm.
        ends, edges: width of the rabbet at the ends and along the long edges, mm: the wall and its clearance, and along the edges
            half of what the lid's width may still grow.
        depth: how far the lid drops inside, mm.
    """
    tool = "rabbet plane" if plane else "marking gauge"
    fence, stop = (f"{tool} fence", f"{tool} stop") if plane else (tool, "depth line")
    if abs(ends - edges) < SAME:
        widths = [Setting(fence, edges, "", (lid,), "rabbet width: the wall and its clearance")]
    else:
        widths = [
            Setting(fence, ends, "", (lid,), "rabbet width at the ends: the wall and its clearance"),
            Setting(fence, edges, "", (lid,), "rabbet width along the edges: wall, clearance and growth"),
        ]
    settings = (*widths, Setting(stop, depth, "", (lid,), "rabbet depth"))
    steps = (
        "Gauge width and depth all round, underside and edges; knife deep across the grain.",
        "Across the grain first: saw the shoulder, split and pare; then along the grain.",
        "Ends before long edges, so that what breaks out is planed away.",
        "Try it on the box: it drops in with the same gap at either end, and along either edge.",
    )
    length, across, thick = size
    kept = thick - depth
    checks = (
        Check(at_least(kept, 3.0), f"{marked(kept)} of lip left on the wall; at least {marked(3.0)}"),
        Check(
            at_least(depth, thick / 4) and at_least(thick * 2 / 3, depth),
            f"depth {marked(depth)} is a quarter to two thirds of {marked(thick)}",
        ),
    )
    strips = (
        rectangle(0, 0, length, edges),
        rectangle(0, across - edges, length, edges),
        rectangle(0, edges, ends, across - 2 * edges),
        rectangle(length - ends, edges, ends, across - 2 * edges),
    )
    items: list[Primitive] = [
        Area(rectangle(0, 0, length, across), "wood", edge="outline", tag=f"part:{lid}"),
        *(Area(r, "waste", hatch=True, edge="outline", tag="rabbet") for r in strips),
        Dimension((0, across), (ends, across), ends, 16, ink="computed"),
        Dimension((length, edges), (length, 0), edges, 18, ink="computed"),
        Dimension((0, 0), (0, across), across, 22),
        Text((length / 2, across / 2), f"{lid}, underside", size=18, ink="faint"),
    ]
    face = drawn_face(lid, f"{lid}, underside", Drawing(tuple(items)))
    figures = {"width at the ends": ends, "width along the edges": edges, "depth": depth}
    cuts = tuple(Cut(lid, "back", r, depth) for r in strips)
    return JointPlan(
        "lid rabbet",
        "rabbet",
        "Rabbet round the lid",
        (lid,),
        settings,
        steps,
        checks,
        (face,),
        figures=figures,
        cuts=cuts,
    )
