"""Full size: what is laid on the wood itself. Templates of the joints, and story sticks with every mark."""

from __future__ import annotations

from nullah.core.drawing.display_list import Area, Drawing, Line, Point, Primitive, Text, rectangle
from nullah.core.marking.marked_faces import shown, side_words
from nullah.core.marking.plan import JointPlan
from nullah.core.planning.plan import Plan
from nullah.core.shapes.cut import Cut
from nullah.core.stations.made import Made
from nullah.core.values.frozen import frozen

STICK = 30.0  # mm: how broad a story stick is drawn
ROWS = 4  # heights at which the names of neighbouring marks stand, so that they stay apart


@frozen
class Sheet:
    """One drawing to be printed at full size, and what it is."""

    title: str
    drawing: Drawing


def sheets(plan: Plan) -> tuple[Sheet, ...]:
    """Every template and story stick of a plan, piece by piece."""
    out: list[Sheet] = []
    for made in plan.piece.made:
        name = f"{made.piece.name}: " if len(plan.piece.made) > 1 else ""
        mine = plan.joints.of_piece[made.id]
        found = [*_templates(mine), *_marked_sides(made, mine), *(Sheet(s.title, stick(s.marks)) for s in made.sticks)]
        out += [Sheet(f"{name}{s.title}", s.drawing) for s in found]
    return tuple(out)


def _templates(joints: tuple[JointPlan, ...]) -> list[Sheet]:
    """The templates that joints have of their own, one of those that are alike."""
    found: list[Sheet] = []
    seen: list[object] = []
    for template in (t for j in joints for t in j.templates or ()):
        if template.like not in seen:
            seen.append(template.like)
            found.append(Sheet(template.title, template.drawing))
    return found


def _marked_sides(made: Made, joints: tuple[JointPlan, ...]) -> list[Sheet]:
    """A template for every marked side of every other joint, alike ones once."""
    stands = {p.id: p for p in made.stands(joints)}
    parts = {p.id.removeprefix(made.prefix): p for p in made.parts}
    by_outline: dict[tuple[object, ...], tuple[str, Drawing, list[str]]] = {}
    for joint in joints:
        sides: dict[tuple[str, str], list[Cut]] = {}
        for cut in joint.cuts if joint.templates is None else ():
            sides.setdefault((cut.part.removeprefix(made.prefix), cut.side), []).append(cut)
        for (part, side), cuts in sides.items():
            size, label = parts[part].sizes, made.label(parts[part])
            (x0, y0), (x1, y1) = shown(side, size, cuts)
            key = (
                joint.family,
                _turned_over((x1 - x0, y1 - y0), [[(x - x0, y - y0) for x, y in c.outline] for c in cuts]),
            )
            if key not in by_outline:
                by_outline[key] = (
                    f"{joint.family.replace('_', ' ').capitalize()}, {side_words(stands[part], side)}",
                    _marked_side(side, size, cuts),
                    [],
                )
            if label not in by_outline[key][2]:
                by_outline[key][2].append(label)
    return [Sheet(f"{words}: on {', '.join(on)}", drawing) for words, drawing, on in by_outline.values()]


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


def stick(written: tuple[tuple[float, str], ...]) -> Drawing:
    """A stick lying along x, every mark a line right across it, names under it in rows."""
    marks = sorted(written)
    end = marks[-1][0]
    items: list[Primitive] = [Area(rectangle(0, 0, end, STICK), "", edge="outline", tag="stick")]
    for i, (x, name) in enumerate(marks):
        items.append(Line(((x, 0.0), (x, STICK)), "ink", tag="mark"))
        if name:
            low = -5.0 - 5.0 * (i % ROWS)
            items.append(Line(((x, 0.0), (x, low + 2)), "faint"))
            items.append(Text((x, low), name, size=10, align="left" if i == 0 else "right" if x == end else "centre"))
    return Drawing(tuple(items))
