"""Rabbets, dadoes and grooves: width from the measured mate, depth from the thinnest board they are cut in."""

from __future__ import annotations

from itertools import pairwise

from nullah.core.drawing import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.joints.plan import Check, Face, JointPlan, Setting
from nullah.core.measure import marked

LEFT_BEHIND = 5.0  # mm of wood behind a groove, and from it to the edge (common practice, no source)


def depth_in(thickness: float) -> float:
    """Depth of a groove or dado: a third of the thinnest board, leaving at least 5 mm behind it, to 0.1 mm.

    Boards under 7.5 mm cannot keep 5 behind a third; there a third is kept, and ``check_depth`` says so.
    """
    third = thickness / 3
    return round(min(third, thickness - LEFT_BEHIND) if thickness > 1.5 * LEFT_BEHIND else third, 1)


def check_depth(depth: float, thickness: float, part: str) -> Check:
    """At least 5 mm stays behind, and never more than half is taken."""
    behind = thickness - depth
    return Check(
        behind >= LEFT_BEHIND - 0.05 and depth <= thickness / 2,
        f"{marked(behind)} left behind the groove in {part}; at least {marked(LEFT_BEHIND)}",
    )


def groove(
    name: str,
    panel: str,
    panel_thickness: float,
    depth: float,
    from_edge: float,
    edge: str,
    through: tuple[str, ...],
    stopped: tuple[str, ...],
    thickness: dict[str, float],
    side: tuple[float, float],
    place: str,
    plough: bool,
    open_end: str = "",
) -> JointPlan:
    """A groove for a panel, run round the sides.

    Args:
        from_edge: mm from the reference edge to the near side of the groove; ``edge`` names that edge.
        through, stopped: which sides it may be ploughed right through, and in which it stops before the ends.
        thickness: of each side, mm.
        side: length and width of the side that is drawn, mm.
        place: what ``dovetail.groove_place`` said.
        open_end: words for a side whose groove runs out at one end on purpose (a lid's way in).
    """
    sides = through + stopped
    tool = "plough plane fence" if plough else "marking gauge"
    stop_tool = "plough plane depth stop" if plough else "depth line"
    settings = (
        Setting(tool, from_edge, "", sides, f"{name}: near side of the groove, from the {edge} edge"),
        Setting(stop_tool, depth, "", sides, f"{name}: depth"),
        Setting(
            "plough iron" if plough else "chisel",
            panel_thickness,
            "",
            sides,
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
    if stopped:
        steps.append(
            f"In {_list(stopped)} stop short of both ends, within the joint: chop the ends square, then join them up."
        )
    if open_end:
        steps.append(open_end)
    steps.append(f"Depth {marked(depth)} from the inside face; the {panel} goes in dry.")
    found = Check(place != "across a line", f"groove lies {place}: {_where(place)}")
    left = Check(
        from_edge >= LEFT_BEHIND - 0.05, f"{marked(from_edge)} from the {edge} edge; at least {marked(LEFT_BEHIND)}"
    )
    checks = (found, left, *(check_depth(depth, thickness[p], p) for p in sides))
    drawn = (stopped or through)[0]
    faces = (
        Face(
            drawn,
            f"{drawn}, inside face",
            _groove_face(drawn, side, from_edge, panel_thickness, edge, drawn in stopped, thickness[drawn], depth),
        ),
    )
    return JointPlan(
        name, f"{name.capitalize()} for the {panel}", (*sides, panel), settings, tuple(steps), checks, faces
    )


def _where(place: str) -> str:
    return {
        "inside a tail": "through in the pin boards, stopped in the tail boards",
        "inside a pin": "through in the tail boards, stopped in the pin boards",
    }.get(place, "it would show on both; move it or change the pins")


def _list(parts: tuple[str, ...]) -> str:
    return " and ".join(parts) if len(parts) < 3 else ", ".join(parts[:-1]) + " and " + parts[-1]


def _groove_face(
    part: str,
    side: tuple[float, float],
    from_edge: float,
    wide: float,
    edge: str,
    stopped: bool,
    thick: float,
    depth: float,
) -> Drawing:
    length, width = side
    y = from_edge if edge == "lower" else width - from_edge - wide
    stop = thick * 0.5 if stopped else 0.0
    items: list[Primitive] = [
        Area(rectangle(0, 0, length, width), "wood", edge="outline", tag=f"part:{part}"),
        Area(rectangle(stop, y, length - 2 * stop, wide), "waste", hatch=True, edge="outline"),
        Dimension((0, 0), (0, y), from_edge, 20)
        if edge == "lower"
        else Dimension((0, y + wide), (0, width), from_edge, 20),
        Dimension((length, y + wide), (length, y), wide, 20, ink="computed"),
        Line(((thick, 0), (thick, width)), "faint", dash=True),
        Line(((length - thick, 0), (length - thick, width)), "faint", dash=True),
        Text((length / 2, width / 2), part, size=30, bold=True, ink="faint"),
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
    divider_thickness: float,
    depth: float,
    centres: tuple[float, ...],
    sides: tuple[str, ...],
    dividers: tuple[str, ...],
    thickness: dict[str, float],
    side: tuple[float, float],
    span: tuple[float, float],
    router_plane: bool,
) -> JointPlan:
    """Dadoes across two opposite sides for dividers.

    Args:
        divider_thickness: as measured: it is the dado's width, knifed from the divider itself.
        centres: of each dado from the side's left end, mm, seen on the first side.
        side: length and width of the sides; ``span``: lower and upper end of the dado across it, mm.
    """
    settings = (
        Setting("knife, from the divider", divider_thickness, "", sides, "dado width"),
        Setting("router plane" if router_plane else "depth line", depth, "", sides, "dado depth"),
        *_places(centres, divider_thickness, sides),
    )
    floor = "floor with the router plane" if router_plane else "floor by chisel to a gauged depth line"
    steps = (
        f"Clamp {_list(sides)} together, insides up, ends and edges flush; square every dado across both at once.",
        "Knife one wall, set the divider against it, knife the other from it: tight, and the divider eased.",
        f"Saw the walls to {marked(depth)}, split out the waste, {floor}, nearest the wall first.",
        "Try each divider by hand; number divider and dado, and which way round.",
    )
    bays = [b - a for a, b in pairwise(centres)]
    even = max(bays) - min(bays) < 0.05 if bays else True
    checks = (
        Check(
            True,
            "bays equal on both sides, so one square bay makes all square"
            if even
            else "bays of several widths: set every dado from the same end on both sides",
        ),
        *(check_depth(depth, thickness[p], p) for p in sides),
    )
    face = Face(sides[0], f"{sides[0]}, inside face", _dado_face(sides[0], side, centres, divider_thickness, span))
    return JointPlan("dadoes", "Dadoes for the dividers", (*sides, *dividers), settings, steps, checks, (face,))


MOST_RULED = 8  # dadoes set one by one; more of them, evenly spaced, are stepped with a block


def _places(centres: tuple[float, ...], wide: float, sides: tuple[str, ...]) -> list[Setting]:
    """Where the dadoes go: each by the rule, or the first by the rule and the rest by a spacer block."""
    steps = [b - a for a, b in pairwise(centres)]
    if len(centres) > MOST_RULED and max(steps) - min(steps) < 0.05:
        return [
            Setting("rule", centres[0] - wide / 2, "", sides, "near side of dado 1, from the end"),
            Setting("spacer block", steps[0] - wide, "", sides, f"from dado to dado, {len(centres)} of them"),
        ]
    return [
        Setting("rule", c - wide / 2, "", sides, f"near side of dado {i + 1}, from the end")
        for i, c in enumerate(centres)
    ]


def _dado_face(
    part: str, side: tuple[float, float], centres: tuple[float, ...], wide: float, span: tuple[float, float]
) -> Drawing:
    length, width = side
    items: list[Primitive] = [Area(rectangle(0, 0, length, width), "wood", edge="outline", tag=f"part:{part}")]
    for i, c in enumerate(centres):
        near = c - wide / 2
        items.append(Area(rectangle(near, span[0], wide, span[1] - span[0]), "waste", hatch=True, edge="outline"))
        items.append(Dimension((0, width), (near, width), near, 14 + 19 * i, tag=f"setting:rule:{near:.2f}"))
    if centres:
        near = centres[0] - wide / 2
        items.append(
            Dimension(
                (near, 0),
                (near + wide, 0),
                wide,
                -16,
                ink="computed",
                tag=f"setting:knife, from the divider:{wide:.2f}",
            )
        )
    items.append(Text((length / 2, width / 2), part, size=30, bold=True, ink="faint"))
    return Drawing(tuple(items))


def lid_rabbet(lid: str, size: tuple[float, float, float], width: float, depth: float, plane: bool) -> JointPlan:
    """A rabbet all round the underside of a lift-off lid.

    Args:
        size: the lid's length, width, thickness, mm.
        width, depth: of the rabbet, mm: the wall and its clearance, and how far the lid drops inside.
    """
    tool = "rabbet plane" if plane else "marking gauge"
    settings = (
        Setting(f"{tool} fence" if plane else tool, width, "", (lid,), "rabbet width: the wall and its clearance"),
        Setting(f"{tool} stop" if plane else "depth line", depth, "", (lid,), "rabbet depth"),
    )
    steps = (
        "Gauge width and depth all round, underside and edges; knife deep across the grain.",
        "Across the grain first: saw the shoulder, split and pare; then along the grain.",
        "Ends before long edges, so that what breaks out is planed away.",
        "Try it on the box: it drops in with the same gap all round.",
    )
    length, across, thick = size
    kept = thick - depth
    checks = (
        Check(kept >= 3.0, f"{marked(kept)} of lip left on the wall; at least {marked(3.0)}"),
        Check(
            thick / 4 - 0.05 <= depth <= thick * 2 / 3 + 0.05,
            f"depth {marked(depth)} is a quarter to two thirds of {marked(thick)}",
        ),
    )
    items: list[Primitive] = [
        Area(rectangle(0, 0, length, across), "wood", edge="outline", tag=f"part:{lid}"),
        *(
            Area(r, "waste", hatch=True, edge="outline")
            for r in (
                rectangle(0, 0, length, width),
                rectangle(0, across - width, length, width),
                rectangle(0, width, width, across - 2 * width),
                rectangle(length - width, width, width, across - 2 * width),
            )
        ),
        Dimension((0, across), (width, across), width, 16, ink="computed"),
        Dimension((0, 0), (0, across), across, 22),
        Text((length / 2, across / 2), f"{lid}, underside", size=18, ink="faint"),
    ]
    face = Face(lid, f"{lid}, underside", Drawing(tuple(items)))
    return JointPlan("lid rabbet", "Rabbet round the lid", (lid,), settings, steps, checks, (face,))
