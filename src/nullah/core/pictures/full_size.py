"""Full size: what is laid on the wood itself. Dovetail templates that fold over the end, and story sticks with every mark."""

from __future__ import annotations

from nullah.core.document_pieces import Piece
from nullah.core.drawing import Area, Drawing, Line, Point, Primitive, Text, rectangle
from nullah.core.frozen import frozen
from nullah.core.joints.dovetail import Dovetail, NoDovetail, tail_outline
from nullah.core.joints.family import shown, side_words
from nullah.core.joints.grooves import STOP
from nullah.core.joints.plan import JointPlan
from nullah.core.pieces.box import LID_WAY_IN, Box, corner_layout, corners
from nullah.core.pieces.worked import Worked
from nullah.core.plan import Plan
from nullah.core.shapes.cut import Cut

STICK = 30.0  # mm: how broad a story stick is drawn
ROWS = 4  # heights at which the names of neighbouring marks stand, so that they stay apart
BEYOND = 12.0  # mm of the board shown beyond the baseline


Groovings = tuple[tuple[float, float, float, str], ...]


@frozen
class Sheet:
    """One drawing to be printed at full size, and what it is."""

    title: str
    drawing: Drawing


def sheets(plan: Plan) -> tuple[Sheet, ...]:
    """Every template and story stick of a plan, piece by piece."""
    out: list[Sheet] = []
    for made in plan.piece.made:
        mine = plan.joints.of_piece[made.id]
        name = f"{made.piece.name}: " if len(plan.piece.made) > 1 else ""
        if made.box is not None and isinstance(made.piece, Piece):
            found = _of_box(made.piece, made.box, made.prefix, mine)
        elif made.worked is not None:
            found = _of_design(made.worked, made.prefix, mine)
        else:
            continue
        out += [Sheet(f"{name}{s.title}", s.drawing) for s in found]
    return tuple(out)


def _of_design(worked: Worked, prefix: str, joints: tuple[JointPlan, ...]) -> tuple[Sheet, ...]:
    """A template for every marked side of every joint, alike ones once, and a story stick for every rod."""
    stands = {p.id: p for p in worked.placed()}
    by_outline: dict[tuple[object, ...], tuple[str, Drawing, list[str]]] = {}
    for joint in joints:
        sides: dict[tuple[str, str], list[Cut]] = {}
        for cut in joint.cuts:
            sides.setdefault((cut.part.removeprefix(prefix), cut.side), []).append(cut)
        for (part, side), cuts in sides.items():
            size = worked.part(part).sizes
            (x0, y0), (x1, y1) = shown(side, size, cuts)
            key = (
                joint.family,
                _turned_over((x1 - x0, y1 - y0), [[(x - x0, y - y0) for x, y in c.outline] for c in cuts]),
            )
            label = worked.part(part).name
            if key not in by_outline:
                by_outline[key] = (
                    f"{joint.family.replace('_', ' ').capitalize()}, {side_words(stands[part], side)}",
                    _marked_side(side, size, cuts),
                    [],
                )
            if label not in by_outline[key][2]:
                by_outline[key][2].append(label)
    out = [Sheet(f"{words}: on {', '.join(on)}", drawing) for words, drawing, on in by_outline.values()]
    for rod in worked.sizes.design.rods:
        marks = worked.sizes.marks(rod.id)
        start = next(iter(marks.values()))
        if next(reversed(marks.values())) > start:
            named = [(at - start, name.replace("-", " ")) for name, at in marks.items()]
            out.append(Sheet(f"Story stick: {rod.name}", _stick(named)))
    return tuple(out)


def _turned_over(size: Point, outlines: list[list[Point]]) -> tuple[object, ...]:
    """A marked side as it is known whichever way the paper is turned over: laid on another part it is the same template."""
    found = []
    for flip_x in (False, True):
        for flip_y in (False, True):
            turned = [
                sorted(
                    (round(size[0] - x if flip_x else x, 2), round(size[1] - y if flip_y else y, 2)) for x, y in outline
                )
                for outline in outlines
            ]
            found.append((round(size[0], 2), round(size[1], 2), *sorted(tuple(o) for o in turned)))
    return min(found, key=repr)


def _marked_side(side: str, size: tuple[float, float, float], cuts: list[Cut]) -> Drawing:
    """A side round its cuts at full size: the edges it is laid against, and every line of the cuts."""
    low, high = shown(side, size, cuts)
    items: list[Primitive] = [
        Area(rectangle(0.0, 0.0, high[0] - low[0], high[1] - low[1]), "", edge="outline", tag="side")
    ]
    for cut in cuts:
        outline = tuple((x - low[0], y - low[1]) for x, y in cut.outline)
        items.append(Area(outline, "waste", hatch=True, opacity=0.5))
        items.append(Line((*outline, outline[0]), "ink", tag="cut"))
    return Drawing(tuple(items))


def _of_box(piece: Piece, box: Box, prefix: str, joints: tuple[JointPlan, ...]) -> tuple[Sheet, ...]:
    """Templates of the corners and story sticks of a box; its joints by the project's names."""
    out: list[Sheet] = []
    made: list[tuple[Dovetail, Groovings, float, float]] = []
    by_id = {j.id.removeprefix(prefix): j for j in joints}
    for name, tail, pin, width in corners(box):
        try:
            joint = corner_layout(piece, box, tail, pin, width)
        except NoDovetail:
            continue
        laid = by_id.get(f"corner {name}")
        if laid is None:  # another corner cannot be laid out: then none is, and nothing is printed that may not be cut
            continue
        base = laid.figures[f"baseline on {tail}"]
        slot = box.part(tail).width - width
        grooves = _groovings(piece, by_id, prefix, box, tail, pin)
        if (joint, grooves, base, slot) not in made:  # corners laid out alike share a template
            made.append((joint, grooves, base, slot))
            out.append(Sheet(f"Tails, corner {name}: on {tail}", template(joint, tail, pin, base, slot, grooves)))
    return (*out, *sticks(piece, box))


def _groovings(piece: Piece, place: dict[str, JointPlan], prefix: str, box: Box, tail: str, pin: str) -> Groovings:
    """The grooves of a tail board at its end: (low, high, where it begins from the end, name) each, mm."""
    out = []
    height = box.part(tail).width
    stop = box.thickness[pin] * STOP
    for name, low, thick in (
        ("bottom groove", box.groove_from_edge, box.bottom_thickness),
        ("lid groove", height - box.lid_from_edge - box.lid_thickness, box.lid_thickness),
    ):
        if name == "lid groove" and piece.lid != "sliding":
            continue
        stopped = name not in place or f"{prefix}{tail}" in place[name].stopped
        runs_out = name == "lid groove" and pin == LID_WAY_IN
        out.append((low, low + thick, stop if stopped and not runs_out else 0.0, name))
    return tuple(out)


def template(
    joint: Dovetail, tail: str, pin: str, base: float | None = None, slot: float = 0.0, grooves: Groovings = ()
) -> Drawing:
    """The tail board's end seen on its outside face, and beyond x = 0 the end grain: folded there, it lies on both.

    Lines in mm: the end at x = 0, the baseline at ``base`` (the mating thickness where none is given), tails from the reference
    edge at y = 0 upward; ``slot`` mm of board above the joint; ``grooves`` of the inside face, dashed, from where they begin.
    """
    w, own = joint.width, joint.own
    base = joint.mating if base is None else base
    run = base / joint.run
    items: list[Primitive] = [Area(shape, "waste", hatch=True, opacity=0.5) for shape in tail_outline(joint, base=base)]
    items += [
        Line(((0.0, 0.0), (0.0, w)), "outline", dash=True, tag="fold"),
        Line(((base, 0.0), (base, w)), "computed", tag="baseline"),
        Line(((-own, 0.0), (-own, w)), "outline", tag="far side"),
    ]
    for y in (0.0, w, *((w + slot,) if slot > 0 else ())):
        items.append(Line(((-own, y), (base + BEYOND, y)), "outline", tag="edge"))
    for low, high in joint.tails_at_end():
        for y, y_base in ((low, low + run), (high, high - run)):
            items.append(Line(((0.0, y), (base, y_base)), "ink", tag="tail"))
            items.append(Line(((-own, y), (0.0, y)), "ink", tag="across the end"))
    for low, high, start, name in grooves:
        for y in (low, high):
            items.append(Line(((start, y), (base + BEYOND, y)), "faint", dash=True, tag="groove"))
        if start > 0:
            items.append(Line(((start, low), (start, high)), "faint", dash=True, tag="groove stop"))
        words = f"{name}, inside" if start > 0 else f"{name}: open"
        items.append(Text((base + BEYOND + 2, (low + high) / 2), words, size=9, align="left"))
    items.append(Text((base + 4, w / 2), f"{tail}", size=24, bold=True, align="left"))
    items.append(Text((-own / 2, w + 5), "end grain", size=10))
    items.append(Text((base / 2, w + 5), "outside face", size=10))
    items.append(Text((base + 4, w / 2 - 10), f"for {pin}", size=11, align="left"))
    return Drawing(tuple(items))


def sticks(piece: Piece, box: Box) -> tuple[Sheet, ...]:
    """Story sticks for length, width and height: every mark of one direction, from the corner where D meets A."""
    length, width, height = box.outside
    t = box.thickness
    long = [(0.0, "end"), (t["D"], "inside D"), (length - t["B"], "inside B"), (length, "end")]
    for i, (c, thick) in enumerate(zip(box.dado_centres, box.divider_thicknesses, strict=True), 1):
        long += [(c - thick / 2, f"dado {i}"), (c + thick / 2, "")]
    wide = [(0.0, "front"), (t["A"], "inside A"), (width - t["C"], "inside C"), (width, "back")]
    edge = box.groove_from_edge
    high = [(0.0, "lower edge"), (edge, "groove"), (edge + box.bottom_thickness, ""), (height, "upper edge")]
    if piece.lid == "sliding":
        top = height - box.lid_from_edge
        high += [(top - box.lid_thickness, "lid groove, B ends here"), (top, "")]
    return tuple(
        Sheet(f"Story stick, {name}", _stick(marks))
        for name, marks in (("length", long), ("width", wide), ("height", high))
    )


def _stick(marks: list[tuple[float, str]]) -> Drawing:
    """A stick lying along x, every mark a line right across it, names under it in rows."""
    marks = sorted(marks)
    end = marks[-1][0]
    items: list[Primitive] = [Area(rectangle(0, 0, end, STICK), "", edge="outline", tag="stick")]
    for i, (x, name) in enumerate(marks):
        items.append(Line(((x, 0.0), (x, STICK)), "ink", tag="mark"))
        if name:
            low = -5.0 - 5.0 * (i % ROWS)
            items.append(Line(((x, 0.0), (x, low + 2)), "faint"))
            items.append(Text((x, low), name, size=10, align="left" if i == 0 else "right" if x == end else "centre"))
    return Drawing(tuple(items))
