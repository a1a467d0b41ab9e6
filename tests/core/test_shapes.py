"""Bodies and cuts by hand: where a part stands, what is left of it, what cannot be."""

import pytest
from shapely import union_all
from shapely.geometry import Polygon

from nullah import demo
from nullah.core.drawing.display_list import Area, rectangle
from nullah.core.edits import edit, measuring
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import Cut, stand
from nullah.core.shapes.solid import BadSolid, solid


@pytest.mark.parametrize(
    ("face", "upper", "left_end"),  # as one looks at the face, the upper edge up, its left end is there
    [
        ("front", "up", "left"),
        ("back", "up", "right"),
        ("right", "up", "front"),
        ("left", "up", "back"),
        ("up", "back", "left"),
    ],
)
def test_a_part_is_never_mirrored(face, upper, left_end):
    part = stand("p", (300.0, 100.0, 18.0), face, upper, (10.0, 20.0, 30.0))
    corners = [part.at((x, y, z)) for x in (0, 300) for y in (0, 100) for z in (0, 18)]
    assert tuple(min(c[i] for c in corners) for i in range(3)) == (10.0, 20.0, 30.0)
    (a, b, c), (d, e, f), (g, h, i) = part.axes
    assert a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) == 1  # right-handed
    axis, sign = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1)}[left_end]
    assert (part.at((0, 0, 0))[axis] - part.at((300, 0, 0))[axis]) * sign == 300


def square(x, y, a, b):
    return ((x, y), (x + a, y), (x + a, y + b), (x, y + b))


@pytest.mark.parametrize(
    ("cuts", "taken"),
    [
        ((), 0),
        ((Cut("p", "back", square(20, 10, 50, 8), 6),), 50 * 8 * 6),
        ((Cut("p", "face", square(20, 10, 50, 8), 18),), 50 * 8 * 18),  # right through
        ((Cut("p", "back", square(0, 0, 300, 8), 6), Cut("p", "back", square(0, 0, 10, 100), 6)), (2400 + 920) * 6),  # cross
        ((Cut("p", "left", square(10, 3, 20, 5), 7), Cut("p", "upper", square(100, 0, 4, 18), 9)), 700 + 648),
        ((Cut("p", "right", square(10, 2, 30, 12), 9, square(15, 5, 20, 6)),), 9 / 6 * (360 + 4 * 225 + 120)),
    ],
)  # fmt: skip
def test_what_is_left_is_the_blank_less_its_cuts(
    cuts, taken
):  # the last by the prismatoid formula: ends and middle section
    made = solid("p", (300, 100, 18), cuts)
    assert 300 * 100 * 18 - made.volume == pytest.approx(taken, abs=0.01)


def test_a_clockwise_outline_cuts_as_well():
    assert solid("p", (90, 40, 9), [Cut("p", "back", square(5, 5, 9, 9)[::-1], 3)]).volume == pytest.approx(32400 - 243)


def test_nothing_left_is_told():
    with pytest.raises(BadSolid, match="Nothing is left of lid"):
        solid("lid", (90, 40, 9), [Cut("lid", "face", square(0, 0, 90, 40), 9)])
    with pytest.raises(BadSolid, match="lid has no body"):
        solid("lid", (90, 0, 9), ())


def waste(drawing):
    """What a marked face hatches, whole."""
    return union_all([Polygon(a.points) for a in drawing.items if isinstance(a, Area) and a.hatch])


def turned(cut, part, face, height):
    """A cut's outline where the marked face draws it."""
    length = part.length
    if face == "tails":  # the end at left
        return [(length - x if cut.outline[0][0] > length / 2 else x, y) for x, y in cut.outline]
    if face == "pins":  # end grain over the outside face, the inside face up
        return [(y, height - z) for y, z in cut.outline]
    return [(length - x, y) for x, y in cut.outline]  # the inside, or the underside: from the other side


@pytest.mark.parametrize("lid", ["sliding", "lift-off", "none"])
@pytest.mark.parametrize("school", ["tails", "pins"])
def test_the_waste_that_is_drawn_is_the_wood_that_is_cut(lid, school):
    project = edit.set_piece(demo.box(), "lid", lid)
    project = edit.take(project, plan(project).call("school"), school)
    project = measuring.measured(project, plan(project).piece.parts, "B thickness 17.2")
    now = plan(project)
    seen = 0
    for joint in now.joints.joints:
        for drawn in joint.faces:
            part = now.piece.in_hand.own.box.part(drawn.part)
            corner = joint.family == "through_dovetail"
            face = "inside" if not corner else "tails" if drawn.part == joint.parts[0] else "pins"
            cuts = [c for c in joint.cuts if c.part == drawn.part]
            areas = waste(drawn.drawing)
            top = max(y for a in drawn.drawing.items if isinstance(a, Area) for _, y in a.points)
            shapes = [Polygon(turned(c, part, face, top)) for c in cuts]
            assert all(s.area > 0 for s in shapes)
            if face == "pins":  # drawn twice: on the end, and as rectangles on the outside face
                areas = areas.intersection(Polygon(rectangle(-1, top - part.thickness, part.width + 2, part.thickness)))
            elif face == "inside":  # the section stands beside the face
                areas = areas.intersection(Polygon(rectangle(0, 0, part.length, part.width)))
            made = union_all(shapes)
            assert areas.symmetric_difference(made).area < 0.01, (joint.id, drawn.part)
            seen += 1
    assert seen >= 9
