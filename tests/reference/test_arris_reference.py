"""Chamfer, bevel and round-over against geometry worked out here: what is taken away, angles, guide lines."""

import math

import pytest

from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.joints.families import FAMILIES
from nullah.core.pictures import bodies
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan

INCH = 25.4
LONG, WIDE, THICK = 400.0, 150.0, 24.0


def board(family, way="up", **asked):
    """A board that lies on its back, one of its sides worked."""
    part = AddPart(id="top", label="top", length=LONG, width=WIDE, thickness=THICK, face="up", upper="back")
    project = Project(pieces=(Designed(kind="free", name="Board", edits=(part,)),))
    project = piece_edits.add_joint(project, plan(project), family, "top", "", way)
    name = next(e.id for e in project.in_hand.edits if e.id != "top")
    for what, value in asked.items():
        project = piece_edits.put_figure(project, name, what, value)
    return plan(project)


def taken(now):
    (body,) = bodies.bodies(now)
    at = body.corners
    volume = 0.0
    for a, b, c in body.triangles:  # signed tetrahedra against the origin
        (x1, y1, z1), (x2, y2, z2), (x3, y3, z3) = at[a], at[b], at[c]
        volume += (x1 * (y2 * z3 - z2 * y3) - y1 * (x2 * z3 - z2 * x3) + z1 * (x2 * y3 - y2 * x3)) / 6
    return LONG * WIDE * THICK - volume


@pytest.mark.parametrize("size", [1.5, 3.0, 10.0])
def test_a_chamfer_all_round_meets_in_mitres(size):
    # at each depth a ring is gone, as broad as the chamfer is there: the integral of 2 d (L + W) - 4 d^2 over the depth
    now = board("chamfer", size=size)
    assert taken(now) == pytest.approx(size**2 * (LONG + WIDE) - 4 * size**3 / 3, abs=0.5)
    (joint,) = now.joints.joints
    assert joint.figures["wide"] == joint.figures["deep"] == size
    assert all(c.holds for c in joint.checks)


def test_a_chamfer_with_stops_slopes_up_at_them():
    size, stop = 6.0, 40.0
    now = board("chamfer", size=size, stop=stop, edges="front")
    # at depth z a strip (s - z) broad and L - 2 stop - 2 z long
    long = LONG - 2 * stop
    assert taken(now) == pytest.approx(long * size**2 / 2 - size**3 / 3, abs=0.5)


@pytest.mark.parametrize(
    ("thick", "edge", "wide", "degrees"),
    [(3 / 8, 1 / 8, 1 + 7 / 8, 7.6), (5 / 16, 1 / 8, 1 + 7 / 8, 5.7)],  # handbook figures of panels, from memory
)
def test_a_bevel_has_the_slope_of_the_handbook(thick, edge, wide, degrees):
    now = board("bevel", wide=wide * INCH, edge=THICK - (thick - edge) * INCH)
    (joint,) = now.joints.joints
    (bevel,) = [s for s in joint.settings if s.tool == "sliding bevel"]
    assert float(bevel.text.rstrip("\N{DEGREE SIGN}")) == degrees
    w, h = wide * INCH, (thick - edge) * INCH
    assert taken(now) == pytest.approx(h * (w * (LONG + WIDE) - 4 * w**2 / 3), abs=0.5)


@pytest.mark.parametrize(
    ("profile", "gone"),
    [
        ("cove", math.pi / 4 * 14 * 14),  # a quarter of a circle about the arris
        (
            "ogee",
            7 * 5.6 + math.pi / 4 * 7 * 5.6 + (1 - math.pi / 4) * 7 * 5.6,
        ),  # the room below the hollow, it, and what a round leaves
        (
            "thumbnail",
            14 * 1.26 + (1 - math.pi / 4) * 14 * (6.3 - 1.26),
        ),  # a step of a fifth, and what a quarter of an ellipse leaves
    ],
)
def test_a_moulding_by_circles_and_ellipses(profile, gone):
    """14 wide; an ogee 0.8 of that deep, a thumbnail 0.45."""
    now = board("moulding", profile=profile, wide=14.0, edges="front")
    assert taken(now) == pytest.approx(gone * LONG, rel=0.01)  # drawn in straight bits
    (joint,) = now.joints.joints
    assert joint.figures["deep"] == pytest.approx({"cove": 14, "ogee": 11.2, "thumbnail": 6.3}[profile])
    assert all(c.holds for c in joint.checks)


@pytest.mark.parametrize(("edge", "run"), [("front", LONG), ("left", WIDE)])
def test_a_round_over_by_guide_lines(edge, run):
    r = 8.0
    now = board("round_over", radius=r, edges=edge)
    # a circle is drawn in straight bits: a hundredth more is gone than by the circle itself
    assert taken(now) == pytest.approx((1 - math.pi / 4) * r * r * run, rel=0.02)
    assert taken(now) > (1 - math.pi / 4) * r * r * run
    (joint,) = now.joints.joints
    values = {s.use.split(" of ")[0]: s.value for s in joint.settings}
    assert values == {"guide lines": 8.0, "octagon": pytest.approx(0.586 * r, abs=0.003)}


@pytest.mark.parametrize(
    ("family", "asked", "told"),
    [
        ("chamfer", {"size": 24.0}, "does not lie within top"),
        ("chamfer", {"size": 4.0, "stop": 197.0, "edges": "front"}, "does not lie within top"),
        ("round_over", {"radius": 30.0}, "does not lie within top"),
        ("bevel", {"edge": 24.0}, "does not lie within top"),
        ("chamfer", {"edges": "up"}, "no edge"),
        ("bevel", {"edges": "sideways"}, "no edge"),
    ],
)
def test_what_does_not_lie_within_the_part_is_told(family, asked, told):
    now = board(family, **asked)
    assert [c for c in now.calls if told in c.question and "is set aside" in c.question]
    assert not now.joints.joints


def test_an_edge_too_thin_to_last_is_told_and_ends_come_first():
    now = board("bevel", wide=60.0, edge=1.5)
    (joint,) = now.joints.joints
    assert [c.holds for c in joint.checks] == [False]
    assert "Across the ends first" in " ".join(joint.steps)
    (joint,) = board("bevel", wide=60.0, edges="front back").joints.joints
    assert "Across the ends first" not in " ".join(joint.steps)


def test_they_come_after_all_that_is_cut_in_the_part():
    for name in ("chamfer", "bevel", "round_over"):
        assert set(FAMILIES[name].after) >= {
            "through_dovetail",
            "mortise_and_tenon",
            "dado",
            "groove",
            "rabbet",
            "cut_out",
        }


@pytest.mark.parametrize(("kind", "part"), [("small_table", "top"), ("boarded_chest", "lid")])
@pytest.mark.parametrize("edge", ["chamfered", "rounded", "bevelled below"])
def test_an_edge_that_is_eased_touches_nothing_below_it(kind, part, edge):
    """Only what stands over is bevelled: no other part loses what it stands against."""
    square = plan(Project(pieces=(KINDS[kind].piece({}),)))
    now = plan(Project(pieces=(KINDS[kind].piece({"edge": edge}),)))
    assert [p.sizes for p in now.piece.parts] == [p.sizes for p in square.piece.parts]
    (joint,) = [j for j in now.joints.joints if j.id == f"edge-{part}"]
    over = 30.0 if kind == "small_table" else INCH
    assert 0 < joint.figures["wide"] <= over
    steps = [s.id for s in now.bench.steps]
    mine = steps.index(f"joint edge-{part}")
    assert all(steps.index(w) < mine for w in now.bench.steps[mine].waits)
    assert not [c for c in now.calls if "set aside" in c.question]


@pytest.mark.parametrize("overhang", [0.8, 2.0, 4.0, 30.0])
def test_a_chamfer_is_smaller_than_the_reveal_beside_it(overhang):
    """Common practice, no source; and of a thick top under a wide reveal it is 3 mm as ever."""
    now = plan(Project(pieces=(KINDS["small_table"].piece({"edge": "chamfered", "overhang": f"{overhang}"}),)))
    (joint,) = [j for j in now.joints.joints if j.id == "edge-top"]
    assert 0.5 <= joint.figures["wide"] < overhang
    assert overhang < 30 or joint.figures["wide"] == 3.0


def segment(radius, rise):
    """The area of a segment of a circle (any table of geometry)."""
    return radius**2 * math.acos((radius - rise) / radius) - (radius - rise) * math.sqrt(2 * radius * rise - rise**2)


@pytest.mark.parametrize(("span", "rise"), [(300.0, 40.0), (200.0, 100.0), (120.0, 12.0)])
def test_an_arch_by_rise_and_span(span, rise):
    now = board("cut_out", way="front", shape="arch", wide=span, deep=rise)
    (joint,) = now.joints.joints
    radius = (span**2 / 4 + rise**2) / (2 * rise)
    (compass,) = [s for s in joint.settings if s.tool == "compass"]
    assert compass.value == pytest.approx(radius)
    assert taken(now) == pytest.approx(segment(radius, rise) * THICK, rel=0.005)


def test_an_ogee_of_two_arcs_on_a_line_takes_as_much_as_the_triangle():
    span, rise = 240.0, 50.0  # what the one arc adds to the line from foot to top the other takes away
    now = board("cut_out", way="front", shape="ogee", wide=span, deep=rise)
    assert taken(now) == pytest.approx(span * rise / 2 * THICK, rel=1e-6)
    (joint,) = now.joints.joints
    # each arc lies along the edge at its end: half the chord of 65 mm at the angle whose tangent is 50 / 120
    assert joint.figures["radius"] == pytest.approx(65 / 2 / math.sin(math.atan2(50, 120)))


@pytest.mark.parametrize("shape", ["arch", "ogee"])
def test_what_is_higher_than_half_its_width_is_refused(shape):
    now = board("cut_out", way="front", shape=shape, wide=100.0, deep=60.0)
    assert [c for c in now.calls if "too steep for arcs" in c.question]


@pytest.mark.parametrize(("deep", "run"), [(0.0, THICK), (9.0, 9.0)])
def test_a_bored_hole(deep, run):
    now = board("bored_hole", diameter=20.0, along=100.0, across=60.0, deep=deep)
    assert taken(now) == pytest.approx(math.pi * 100 * run, rel=0.01)
    (joint,) = now.joints.joints
    stop = [("depth mark on the bit", deep)] if deep else []
    assert [(s.tool, s.value) for s in joint.settings] == [
        ("bit", 20.0),
        ("rule", 100.0),
        ("marking gauge", 60.0),
        *stop,
    ]
    assert ("from the other side" in " ".join(joint.steps)) == (deep == 0)
    assert all(c.holds for c in joint.checks)


def test_a_hole_too_near_the_edge_is_told_and_one_over_it_refused():
    (joint,) = board("bored_hole", diameter=20.0, along=100.0, across=14.0).joints.joints
    assert [c.holds for c in joint.checks] == [True, False]  # there is a bit of 20
    now = board("bored_hole", diameter=20.0, along=5.0, across=60.0)
    assert [c for c in now.calls if "does not lie within top there" in c.question]


@pytest.mark.parametrize("name", FAMILIES)
def test_what_comes_before_a_family_is_a_family(name):
    assert set(FAMILIES[name].after) <= set(FAMILIES)
