"""Templates at full size against the solids: what each marks as waste is gone from a side of the part it is for, in parts.obj.

The side is not looked up: a template must fit one of the six sides of its part's body, turned over or not, and lie within that side.
"""

import itertools
import re

import pytest
from shapely.affinity import scale, translate
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry import box as rectangle
from shapely.ops import unary_union
from solid_sections import box, read, section

from nullah.core.document.pieces import AddJoint, AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Area, Line
from nullah.core.pictures.full_size import sheets
from nullah.core.planning.plan import plan
from nullah.formats import parts_obj

OTHERS = 0.35  # of what is round a template's waste: as much may be missing where other joints come to it
SKIN = 0.002  # mm under a side that it is looked at
TEMPLATE = re.compile(r"^(?P<family>[A-Z][a-z ]+), (?P<side>[a-z ]+): on (?P<parts>.+)$")


def shelf():
    """A shelf of 300 in a dado of an upright: a piece of the maker's own."""
    return Designed(
        kind="free",
        name="x",
        edits=(
            AddPart(id="side", label="side", length=400, width=200, thickness=18, face="left", upper="front"),
            AddPart(
                id="shelf", label="shelf", length=300, width=200, thickness=16, face="up", upper="back", at=(18, 0, 90)
            ),
            AddJoint(id="housed", family="dado", first="shelf", second="side", way="left"),
        ),
    )


PIECES = {
    "table": Designed(kind="small_table", name="x", asked={"drawer": True}),
    "joint": Designed(kind="practice_joint", name="x", asked={"tails": 3}),
    "rest": Designed(kind="small_rest", name="x"),
    "shelf": shelf(),
    "stopped": Designed(kind="shelves", name="x", asked={"back": True}),
    "chest": Designed(kind="boarded_chest", name="x"),
    "shouldered": Designed(kind="shelves", name="x", asked={"dadoes": "shouldered"}),
}


def parts_of(shape):
    return list(shape.geoms) if isinstance(shape, MultiPolygon) else [shape] if shape.area else []


def gone(body):
    """What is missing of each of the six sides of a body: (the side as a rectangle, what is missing)."""
    low, high = box(body)
    out = []
    for axis, far in itertools.product(range(3), (False, True)):
        others = [i for i in range(3) if i != axis]
        side = rectangle(*low[others], *high[others])
        at = high[axis] - SKIN if far else low[axis] + SKIN
        out.append((side, side.difference(section(body, at, axis))))
    return out


def ways(shape):
    """Turned over and turned round."""
    for turned, x, y in itertools.product((False, True), (1, -1), (1, -1)):
        made = Polygon([(b, a) for a, b in shape.exterior.coords]) if turned else shape
        yield turned, x, y, scale(made, x, y, origin=(0, 0))


def fits(paper, waste, sides):
    """Whether a template lies on one of the sides, all of its waste where wood is missing and wood round most of that."""
    bit = max(parts_of(waste), key=lambda p: p.area)
    for (side, missing), (turned, x, y, laid) in itertools.product(sides, ways(bit)):
        corners = {c for there in parts_of(missing) for c in there.exterior.coords}
        px, py = laid.exterior.coords[0]
        whole_paper = next(p for t, i, j, p in ways(paper) if (t, i, j) == (turned, x, y)).bounds
        starts = {(cx - px, cy - py) for cx, cy in corners}  # a corner of the waste in a corner of what is missing
        starts |= {  # or a corner of the paper in a corner of the side
            (side.bounds[i] - whole_paper[i], side.bounds[j] - whole_paper[j]) for i in (0, 2) for j in (1, 3)
        }
        for by in starts:
            if translate(laid, *by).difference(missing).area > 0.1:
                continue

            def put(shape, turned=turned, x=x, y=y, by=by):
                points = [(b, a) if turned else (a, b) for a, b in shape.exterior.coords]
                return translate(scale(Polygon(points), x, y, origin=(0, 0)), *by)

            whole = unary_union([put(p) for p in parts_of(waste)])
            rim = whole.buffer(0.5, join_style="mitre").difference(whole).intersection(side)
            if (
                whole.difference(missing).area < 0.2
                and put(paper).difference(side.buffer(0.01)).area < 0.01
                and rim.intersection(missing).area <= OTHERS * rim.area
            ):
                return True
    return False


@pytest.mark.parametrize("name", PIECES)
def test_every_template_fits_the_part_it_is_for(name):
    now = plan(Project(pieces=(PIECES[name],)))
    bodies = read(parts_obj.text(now))
    ids = {p.name: p.id for p in now.piece.parts}
    sizes = {p.id: p.sizes for p in now.piece.parts}
    families = set()
    for sheet in sheets(now):
        found = TEMPLATE.match(sheet.title)
        if not found:
            assert sheet.title.startswith("Story stick")
            continue
        papers = [Polygon(i.points) for i in sheet.drawing.items if isinstance(i, Area) and i.tag == "side"]
        cuts = [Polygon(i.points[:-1]) for i in sheet.drawing.items if isinstance(i, Line) and i.tag == "cut"]
        for label in found["parts"].split(", "):
            body = bodies[ids[label]]
            low, high = box(body)
            if sorted(high - low) != pytest.approx(sorted(sizes[ids[label]]), abs=1e-3):
                continue  # it leans, and its sides lie along no axis
            waste = unary_union(cuts).intersection(papers[0])
            assert fits(papers[0], waste, gone(body)), (sheet.title, label)
            families.add(found["family"])
    assert families >= FAMILIES[name]


FAMILIES = {
    "table": {"Mortise and tenon", "Taper", "Butt screws", "Groove"},
    "joint": {"Through dovetail"},
    "rest": {"Dado", "Rabbet"},
    "shelf": {"Dado"},
    "stopped": {"Dado", "Groove"},
    "chest": {"Nailed rabbet", "Dado", "Cut out"},
    "shouldered": {"Dado"},
}
