"""Pieces of every kind, read back from parts.obj: closed, apart, as large as worked out by hand; and the figures of the trade."""

import math
import os
import random
from itertools import combinations, pairwise

import pytest
from marked import marked
from shapely.geometry import Polygon
from shapely.ops import unary_union
from solid_sections import assert_closed, box, read, section, shared, volume
from test_clearances_reference import made_of, moves, year

from nullah.core.document.pieces import AddJoint, AddPart, Designed, Put
from nullah.core.document.project import Measured, Project
from nullah.core.edits import edit
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import parts_obj

MANY = 300 if os.environ.get("NULLAH_SOAK") else 6
DESIGNED = [k for k in KINDS.values() if k.design is not None and k.asks]


def made(kind, **asked):
    return plan(Project(pieces=(Designed(kind=kind, name="x", asked=asked),)))


def random_answer(ask, chance):
    if ask.type == "yesno":
        return chance.random() < 0.5
    if ask.type == "choice":
        return chance.choice(ask.options)
    low, high = max(ask.least, 0.6 * ask.default), min(ask.most, 1.8 * ask.default)
    return chance.randint(int(low), int(max(low, high))) if ask.type == "whole" else round(chance.uniform(low, high), 2)


def pieces(many):
    """Random pieces that can be made, all kinds by turns."""
    chance, out, n = random.Random(31), [], 0
    while len(out) < many:
        kind = DESIGNED[n % len(DESIGNED)]
        n += 1
        asked = {a.name: random_answer(a, chance) for a in chance.sample(kind.asks, chance.randint(0, len(kind.asks)))}
        now = made(kind.name, **asked)
        if now.piece.parts and not now.joints.problem:
            out.append((kind.name, asked, now))
    assert n < 2 * many
    return out


@pytest.mark.parametrize(("kind", "asked", "now"), pieces(MANY), ids=lambda x: x if isinstance(x, str) else "")
def test_soak_any_piece_is_closed_and_shares_no_wood(kind, asked, now):
    bodies = read(parts_obj.text(now))
    assert set(bodies) == {p.id for p in now.piece.parts}
    sizes = {p.id: p.sizes for p in now.piece.parts}
    for part, body in bodies.items():
        assert_closed(body)
        assert 0 < volume(body) <= math.prod(sizes[part]) * (1 + 1e-5)  # corners lie on a grid
        low, high = box(body)
        if kind != "small_rest" or part != "back":  # which leans
            assert sorted(high - low) == pytest.approx(sorted(sizes[part]), abs=1e-3)
    known = {}
    for (a, one), (b, other) in combinations(bodies.items(), 2):
        assert shared(one, other, known) < 1.0, (a, b)


def test_a_table_s_legs_and_aprons_are_as_large_as_by_hand():
    leg, foot, apron, height, top = 44.0, 26.0, 120.0, 720.0, 22.0
    now = made("small_table", leg=leg, foot=foot, apron=apron, height=height, top=top)
    bodies = {n: volume(b) for n, b in read(parts_obj.text(now)).items()}
    f = next(j for j in now.joints.joints if j.id == "tenon-front-fl").figures
    # 20 thick aprons, 3 behind the face of the leg; the chisel nearest to a third of 20 is 6 wide
    thick, cheek = 6.0, 3 + (20 - 6) / 2
    long = min(2 / 3 * leg, leg - cheek)
    assert (f["thickness"], f["length"]) == pytest.approx((thick, long))
    wide = apron - f["upper shoulder"] - f["lower shoulder"]
    across = min(
        thick, max(0.0, long - (leg - cheek - thick))
    )  # how much of the square in which two tenons cross is reached
    mitred = across * across / 2 * wide
    between = 600 - 2 * 30 - 2 * leg
    assert bodies["apron-front"] == pytest.approx(between * apron * 20 + 2 * (long * thick * wide - mitred), abs=0.5)
    off, run = leg - foot, height - top - apron - 6
    planed = 2 * (off * run / 2 * leg) - off * off * run / 3
    mortises = 2 * thick * wide * long - across * across * wide
    assert bodies["leg-fl"] == pytest.approx((height - top) * leg * leg - mortises - planed, abs=0.5)


@pytest.mark.parametrize("drawer", [False, True])
def test_shoulders_and_mortises_meet(drawer):
    """Every tenoned part reaches from leg to leg with its shoulders, and every mortise is as its tenon, within 0.01 mm."""
    now = made("small_table", drawer=drawer)
    bodies = {n: box(b) for n, b in read(parts_obj.text(now)).items()}
    length = {p.id: p.length for p in now.piece.parts}
    tenons = [j for j in now.joints.joints if j.family == "mortise_and_tenon"]
    for joint in tenons:
        tenon, leg = joint.parts
        mortise = next(c for c in joint.cuts if c.part == leg)
        xs, ys = [p[0] for p in mortise.outline], [p[1] for p in mortise.outline]
        found = sorted((max(xs) - min(xs), max(ys) - min(ys)))
        assert found == pytest.approx(sorted((joint.figures["thickness"], joint.figures["width"])), abs=0.01)
        way = 1 if tenon in ("apron-left", "apron-right") else 0
        one, other = sorted((j.parts[1] for j in tenons if j.parts[0] == tenon), key=lambda p: bodies[p][0][way])
        clear = bodies[other][0][way] - bodies[one][1][way]
        assert length[tenon] - 2 * joint.figures["length"] == pytest.approx(clear, abs=0.01)


def test_the_drawer_of_a_table_by_hand():
    """Common practice, no source: 0.5 beside the drawer, and above it in the wettest month; the sides run from front to back, the
    bottom under the back."""
    now = made("small_table", drawer=True)
    at = {p.id: p for p in now.piece.parts}
    opening = (600 - 60 - 2 * 42, 110 - 2 * 18)
    assert at["drawer-front"].length == pytest.approx(opening[0] - 2 * 0.5)
    front = at["drawer-front"].width
    ((_, made_at, rings),) = made_of(now.project, now, at["drawer-front"])
    grown = moves("yellow-poplar", front, made_at, year(now.project)[1], rings)
    assert front + grown == pytest.approx(opening[1] - 0.5, abs=0.02)
    assert at["drawer-back"].width == pytest.approx(front - 9 - 6)
    depth = 5.0  # half of the sides: the bottom moves in them
    assert at["drawer-bottom"].length == pytest.approx(opening[0] - 1 - 2 * 10 + 2 * (depth - 1.0))
    # over the legs 360, the back legs 42, 2 left before them
    assert at["drawer-left"].length == pytest.approx(360 - 42 - 2)
    assert at["rail-lower"].length == pytest.approx(opening[0] + 2 * 42 / 3)  # a stub tenon goes a third into the leg


@pytest.mark.parametrize(("thickness", "chisel"), [(18, 6), (20, 6), (24, 6), (28, 12), (36, 12), (54, 18)])
def test_the_mortise_is_as_wide_as_the_chisel_nearest_to_a_third(thickness, chisel):
    """Craft: common practice, no source; chisels of 3, 6, 12, 18 and 25 at hand."""
    piece = Designed(
        kind="small_table",
        name="x",
        asked={"leg": 90.0},
        edits=(Put(owner="apron-front", what="thickness", value=float(thickness)),),
    )
    now = plan(Project(pieces=(piece,)))
    joint = next(j for j in now.joints.joints if j.id == "tenon-front-fl")
    assert joint.figures["thickness"] == chisel


def test_a_rest_stands():
    """The weight of what leans on it, half-way up, comes down inside the foot; the back leans by the angle asked for."""
    for tilt in (8.0, 15.0, 30.0):
        now = made("small_rest", tilt=tilt, height=300.0)
        bodies = read(parts_obj.text(now))
        foot = box(bodies["foot"])
        back = bodies["back"][0][sorted(set(bodies["back"][1].ravel()))]
        high = back[back[:, 2] > back[:, 2].max() - 12 * math.sin(math.radians(tilt)) - 0.01]
        low = back[back[:, 2] < back[:, 2].min() + 12 * math.sin(math.radians(tilt)) + 0.01]
        rise, run = high[:, 2].min() - low[:, 2].min(), high[:, 1].max() - low[:, 1].max()
        assert math.degrees(math.atan2(run, rise)) == pytest.approx(tilt, abs=0.01)
        lip = box(bodies["lip"])
        face = lip[1][1] + 26  # where the back's face meets the foot
        slot = next(j for j in now.joints.joints if j.id == "slot")
        thick = next(p.thickness for p in now.piece.parts if p.id == "foot")
        assert slot.figures["depth"] <= thick / 2  # common practice: never more than half, and 5 left behind
        assert all(c.holds for j in now.joints.joints for c in j.checks)
        assert face + 150 * math.sin(math.radians(tilt)) + 15 <= foot[1][1] + 1e-6


def screwed(family="butt_screws", **asked):
    """A board of 400 x 100 x 20 lying on a rail of 400 x 60 x 40, screwed to it from above."""
    edits = (
        AddPart(id="rail", label="rail", length=400, width=60, thickness=40, face="front", upper="up"),
        AddPart(
            id="board", label="board", length=400, width=100, thickness=20, face="up", upper="back", at=(0, -30, 60)
        ),
        AddJoint(id="on", family=family, first="board", second="rail", way="down", asked=asked),
    )
    return plan(Project(pieces=(Designed(kind="free", name="x", edits=edits),)))


def holes(body, level):
    """The holes of a body's section at a height: (x, y of the middle, how long and how wide), from left to right."""
    found = [Polygon(r) for r in section(body, level).interiors]
    boxes = sorted(h.bounds for h in found)
    return [((a + c) / 2, (b + d) / 2, c - a, d - b) for a, b, c, d in boxes]


def test_screws_stand_where_they_are_set_out_by_hand():
    """Common practice, no source: the first and last 25 (1") from the ends, no further than 150 apart, pilots 0.7 of the screw."""
    now = screwed(screw=4.0, long=40.0)
    bodies = read(parts_obj.text(now))
    wanted = [25 + k * 350 / 3 for k in range(4)]  # 350 between the outer two: three steps of less than 150
    for level, body, across in ((70.0, "board", 4.5), (59.0, "rail", 2.8), (60 - 20 + 0.05, "rail", 2.8)):
        found = holes(bodies[body], level)
        assert [x for x, *_ in found] == pytest.approx(wanted, abs=0.01)
        assert all(y == pytest.approx(20, abs=0.01) for _, y, *_ in found)  # half-way through the rail
        for *_, wide, deep in found:  # drawn with twelve corners
            assert across * math.cos(math.pi / 12) - 0.01 <= wide <= across + 0.01
            assert deep == pytest.approx(wide, abs=0.01)
    assert holes(bodies["rail"], 60 - 20 - 0.05) == []  # 40 of screw through 20 of board bite 20
    ring = 12 / 2 * math.sin(math.tau / 12)  # the area of twelve corners, of the radius squared
    assert volume(bodies["board"]) == pytest.approx(400 * 100 * 20 - 4 * ring * 2.25**2 * 20, rel=1e-6)
    assert volume(bodies["rail"]) == pytest.approx(400 * 60 * 40 - 4 * ring * 1.4**2 * 20, rel=1e-6)


def test_slots_lie_across_the_board_that_moves():
    bodies = read(parts_obj.text(screwed(screw=4.0, slotted=True, slot=12.0)))
    for *_, along, across in holes(bodies["board"], 70.0):
        assert along < 4.51
        assert across == pytest.approx(12.0, abs=0.2)
    assert all(wide == pytest.approx(deep, abs=0.01) for *_, wide, deep in holes(bodies["rail"], 59.0))


def battened(family, wide=500.0, batten=480.0, **asked):
    """A board 300 along the grain and ``wide`` across, on top of a batten 40 high and 20 thick that runs across its grain."""
    edits = (
        AddPart(id="batten", label="batten", length=batten, width=40, thickness=20, face="left", upper="up"),
        AddPart(
            id="board", label="board", length=300, width=wide, thickness=22, face="up", upper="back", at=(0, 0, 40)
        ),
        AddJoint(id="on", family=family, first="batten", second="board", way="up", asked={"long": 55.0, **asked}),
    )
    return plan(Project(pieces=(Designed(kind="free", name="x", edits=edits),)))


@pytest.mark.parametrize(("family", "asked"), [("batten_in_slots", {}), ("butt_screws", {"slotted": True})])
def test_slots_lie_the_way_a_wide_part_moves_past_what_crosses_its_grain(family, asked):
    """Wood moves across its grain (any handbook), and so along the batten; it moves to both sides of a tight screw in the middle."""
    for batten, count in ((480.0, 4), (600.0, 5)):
        now = battened(family, wide=620.0, batten=batten, slot=10.0, **asked)
        found = sorted((y, along, across) for _, y, along, across in holes(read(parts_obj.text(now))["batten"], 20.0))
        assert len(found) == count
        for n, (_, thick, long) in enumerate(found):
            assert thick < 4.51
            assert long == pytest.approx(4.4 if 2 * n + 1 == count else 10.0, abs=0.2)
        (joint,) = now.joints.joints
        assert "along the row" in joint.steps[1]
        assert ("the middle one tight" in joint.steps[2]) == (count == 5)


def test_screws_without_slots_hold_no_wide_part_across_its_grain():
    """Common practice, no source: no more than 75 to 100 is held fast across the grain."""
    for batten, holds in ((90.0, True), (110.0, False)):
        (joint,) = battened("butt_screws", batten=batten).joints.joints
        (check,) = [c for c in joint.checks if "across" in c.text]
        assert check.holds == holds
    assert not [c for c in screwed().joints.joints[0].checks if "across" in c.text]  # the grain runs alike
    assert not [c for c in battened("butt_screws", slotted=True).joints.joints[0].checks if "across" in c.text]
    asked = {
        "boarded_chest": {"till": "yes", "till_lid": "yes", "bracket": "yes", "stay": "yes"},
        "small_table": {"drawer": "yes"},
    }
    for kind in KINDS:
        for joint in plan(Project(pieces=(KINDS[kind].piece(asked.get(kind, {})),))).joints.joints:
            assert not [c for c in joint.checks if "across" in c.text and not c.holds], joint.id


def test_a_batten_that_does_not_cross_the_grain_says_so_and_the_chests_lid_moves_along_its_battens():
    (refused,) = screwed("batten_in_slots").calls
    assert "across the grain" in refused.question
    assert battened("batten_in_slots").calls == ()
    chest = plan(Project(pieces=(KINDS["boarded_chest"].piece({}),)))
    corners, faces = batten = read(parts_obj.text(chest))["batten-left"]
    levels = corners[faces.ravel(), 2]
    slots = holes(batten, (levels.min() + levels.max()) / 2)
    longest = [max(long, wide) for _, _, wide, long in slots]
    assert (
        sum(long == pytest.approx(12.0, abs=0.2) for long in longest) == len(slots) // 2 * 2
    )  # one of an odd number is round
    assert all(wide < 4.51 for _, _, wide, _ in slots)


def test_screws_that_do_not_come_through_and_screws_that_come_out_are_told():
    short, long = screwed(long=20.0), screwed(long=90.0)
    assert any("do not come through" in c.question for c in short.calls)
    assert not all(c.holds for c in long.joints.joints[0].checks)


def test_a_tenon_with_shoulders_on_the_seen_sides_by_hand():
    """Craft: cut as one, then notched; no shoulder at the hidden face and the hidden edge."""
    edits = (Put(owner="tenon-front-fl", what="shoulders", value="seen sides"),)
    now = plan(Project(pieces=(Designed(kind="small_table", name="x", edits=edits),)))
    bodies = read(parts_obj.text(now))
    (_, front, low), (_, back, high) = box(bodies["apron-front"])
    legs = box(bodies["leg-fl"])[1][0]
    inside = section(bodies["apron-front"], legs - 1.0, 0)  # of the tenon, a millimetre into the leg: y and z
    y0, z0, y1, z1 = inside.bounds
    assert (back - front, high - low) == pytest.approx((20, 110))
    assert y1 == pytest.approx(back, abs=0.01)  # the hidden face is the tenon's own
    assert y0 == pytest.approx(front + 20 - 6, abs=0.01)  # chisel of 6, the nearest to a third of 20
    assert z0 == pytest.approx(low, abs=0.01)  # and so is the hidden lower edge
    assert z1 == pytest.approx(high - 12, abs=0.01)  # 12 beside the end of the leg
    mortise = section(bodies["leg-fl"], legs - 1.0, 0)
    around = Polygon(mortise.exterior).difference(mortise)
    assert around.intersection(inside).area == pytest.approx(inside.area, rel=1e-4)
    other = section(bodies["apron-front"], box(bodies["leg-fr"])[0][0] + 1.0, 0).bounds
    assert other[2] == pytest.approx(back - 7, abs=0.01)  # the other end has its shoulders all round


@pytest.mark.parametrize(
    ("way", "deep", "off_shelf", "dado"),
    [  # depth of the shelves, what is taken off each end of one, and out of a side for it; 3 set back, 6 into 18, a notch of 10
        ("through", 220.0, 0.0, 6 * 18 * 220.0),
        ("stopped", 217.0, 10 * 6 * 18.0, 6 * 18 * 207.0),
        ("shouldered", 220.0, 3 * 6 * 220.0, 6 * 15 * 220.0),
    ],
)
def test_shelves_by_hand(way, deep, off_shelf, dado):
    """Craft: a dado a third of the thickness deep, stopped 6 or more from the edge that is seen, its mate notched; equal bays."""
    now = made("shelves", width=800.0, height=900.0, depth=220.0, shelves=4, stock=18.0, dadoes=way)
    bodies = read(parts_obj.text(now))
    sizes = {p.id: p.sizes for p in now.piece.parts}
    assert sizes["shelf-2"] == pytest.approx((800 - 2 * 18 + 2 * 6, deep, 18))
    for n in range(1, 5):
        assert volume(bodies[f"shelf-{n}"]) == pytest.approx(776 * deep * 18 - 2 * off_shelf, abs=0.5)
    for side in ("left", "right"):
        assert volume(bodies[f"side-{side}"]) == pytest.approx(900 * 220 * 18 - 4 * dado, abs=0.5)
    bays = [box(bodies[f"shelf-{n + 1}"])[0][2] - box(bodies[f"shelf-{n}"])[1][2] for n in range(1, 4)]
    assert bays == pytest.approx([(900 - 40 - 20 - 4 * 18) / 3] * 3, abs=0.001)
    # 3 mm under the inside of the left side the tongue fills what is cut out of it
    hole = Polygon([(0, 0), (220, 0), (220, 900), (0, 900)]).difference(section(bodies["side-left"], 15.0, 0))
    tongues = unary_union([section(bodies[f"shelf-{n}"], 15.0, 0) for n in range(1, 5)])
    assert hole.symmetric_difference(tongues).area < 0.5
    from_edge = tongues.bounds[0]
    assert from_edge == pytest.approx(13.0 if way == "stopped" else 0.0, abs=0.01)
    seen = section(bodies["shelf-1"], 400.0, 0).bounds  # mid-way a shelf comes forward to 3 behind the edge, or to it
    assert seen[0] == pytest.approx(3.0 if way == "stopped" else 0.0, abs=0.01)
    if way == "shouldered":  # the shoulder is on the upper face, which is looked at
        assert tongues.bounds[1] == pytest.approx(box(bodies["shelf-1"])[0][2], abs=0.01)


def test_a_stop_that_shows_and_a_shoulder_that_leaves_little_are_told():
    """Craft: 6 or more from the edge that is seen; a tongue of half the thickness."""
    for what, value, words in (("stop", 2.0, "stops 5"), ("shoulder", 12.0, "a tongue of 6")):
        edits = (Put(owner="dado-1-left", what=what, value=value),)
        now = plan(Project(pieces=(Designed(kind="shelves", name="x", edits=edits),)))
        failing = [told(c.text) for j in now.joints.joints for c in j.checks if not c.holds]
        assert any(words in text for text in failing), failing
    edits = (Put(owner="dado-1-left", what="shoulder", value=18.0),)
    now = plan(Project(pieces=(Designed(kind="shelves", name="x", edits=edits),)))
    assert any("leaves no tongue" in c.question for c in now.calls)


def test_the_back_of_shelves_has_room_to_move():
    """Wood Handbook, tables 4-2 and 4-3 and the change coefficient (from memory): at 20 degrees wood settles at 6.9 % in air of 35 %,
    at 12.0 % in air of 65 %; flatsawn yellow-poplar moves 1 / (3000 / 8.2 - 20) of its width a percent."""
    now = made("shelves", back=True)
    wide = next(p.width for p in now.piece.parts if p.id == "back")
    assert wide == pytest.approx(764 + 2 * 9 - 2 * 3.8)
    half_a_year = wide / (3000 / 8.2 - 20) * (12.0 - 6.9) / 2
    grows, stays = (told(c.text) for c in now.piece.in_hand.worked.checks)
    assert float(grows.split()[3]) == pytest.approx(half_a_year / 2, abs=0.1)
    assert float(stays.split()[3]) == pytest.approx(9 - 3.8 - half_a_year / 2, abs=0.1)
    assert all(c.holds for c in now.piece.in_hand.worked.checks)
    wider = made("shelves", back=True, width=1600.0)
    assert not all(c.holds for c in wider.piece.in_hand.worked.checks)  # too wide for one board's movement


@pytest.mark.parametrize(("stock", "count"), [(25.0, 12), (18.75, 16)])
def test_staves_by_hand(stock, count):
    """Craft: 300 wide is 12 staves of 25 or 16 of 19; glued edge to edge, clamped about every 100 above and below by turns."""
    now = made("laminated_board", length=500.0, width=300.0, thickness=30.0, staves=count)
    bodies = read(parts_obj.text(now))
    assert len(bodies) == count
    for body in bodies.values():
        assert volume(body) == pytest.approx(500 * stock * 30, rel=1e-6)
    ends = sorted((box(b)[0][1], box(b)[1][1]) for b in bodies.values())
    assert ends[0][0] == pytest.approx(0, abs=0.001)
    assert ends[-1][1] == pytest.approx(300, abs=0.001)
    for (_, far), (near, _) in pairwise(ends):
        assert near == pytest.approx(far, abs=0.001)
    joints = now.joints.joints
    assert len(joints) == count - 1
    assert all(j.figures["clamps"] == 5 and j.figures["length"] == pytest.approx(500) for j in joints)
    checks = [told(c.text) for c in now.together.checks] if hasattr(now.together, "checks") else []
    assert not checks or any(c.startswith("5 clamps") for c in checks)


def test_a_stave_that_comes_out_narrow_leaves_more_to_the_others():
    piece = Designed(kind="laminated_board", name="x", asked={"width": 240.0, "staves": 6})
    measured = (Measured(part="stave-3", dimension="width", value=34.0),)
    now = plan(marked(Project(pieces=(piece,)), measured=measured))
    wide = {p.id: p.width for p in now.piece.parts}
    assert wide.pop("stave-3") == pytest.approx(34)
    assert list(wide.values()) == pytest.approx([(240 - 34) / 5] * 5)


def test_how_staves_lie_is_a_matter_of_school():
    now = made("laminated_board", staves=3)
    calls = {c.id: c for c in now.calls}
    assert {"school arcs", "school edges"} <= set(calls)
    assert "longer tenon" not in calls["school arcs"].why
    alike = edit.take(now.project, calls["school arcs"], "alike", "2026-01-01T00:00:00")
    steps = [s for j in plan(alike).joints.joints for s in j.steps]
    assert any("the same way as its neighbour" in s for s in steps)
    assert not any("turned the other way" in s for s in steps)


def test_staves_that_do_not_meet_are_told():
    edits = (
        AddPart(id="a", label="a", length=400, width=40, thickness=20, face="up", upper="back"),
        AddPart(id="b", label="b", length=400, width=40, thickness=20, face="up", upper="back", at=(0, 43, 0)),
        AddJoint(id="e", family="edge_joint", first="b", second="a", way="front"),
    )
    now = plan(Project(pieces=(Designed(kind="free", name="x", edits=edits),)))
    assert any("do not meet" in told(c.question) for c in now.calls)


INCH = 25.4


def test_a_platform_fitted_to_its_space():
    """Craft: support height = height wanted - top + rabbet depth - foot; a clearance at each end and at the wall; the notch as well."""
    now = made("platform", length=900.0, width=450.0, height=420.0, stock=24.0, clear=4.0, notch=120.0, notch_deep=70.0)
    sizes = {p.id: p.sizes for p in now.piece.parts}
    rabbet = next(j for j in now.joints.joints if j.id == "rabbet").figures["depth"]
    assert rabbet == pytest.approx(8.0)  # a third of 24
    assert sizes["leg"][0] == pytest.approx(420 - 24 + rabbet - 25)
    assert sizes["top"] == pytest.approx((900 - 2 * 4, 450 - 4, 24))
    bodies = read(parts_obj.text(now))
    quarter = 15**2 / 2 * 8 * math.sin(math.pi / 16)
    notch = (120 + 2 * 4) * 70 - 2 * (15**2 - quarter)
    across = section(bodies["top"], 415.0, 2)
    assert across.area == pytest.approx(892 * 446 - notch, abs=0.5)
    assert box(bodies["top"])[1][2] == pytest.approx(420)
    assert box(bodies["foot"])[0][2] == pytest.approx(0)
    assert not any(s.title == "Glue" for s in now.bench.steps)
    assert any("licensed practice" in c for c in now.bench.steps[-1].cautions)


@pytest.mark.parametrize("panel", ["rabbeted", "bevelled"])
def test_a_panel_s_edge_goes_into_its_groove(panel):
    """3/8" bevelled to 1/8" over 1 7/8" slopes 7.6 degrees (a handbook figure, from memory); the groove fits it at its mouth."""
    sides, inch = ("left", "right"), INCH
    asked = {"panel": panel, "tongue": inch / 8, "field": 1.875 * inch}
    edits = tuple(Put(owner=f"groove-{side}", what=w, value=v) for side in sides for w, v in asked.items())
    edits += (Put(owner="back", what="thickness", value=0.375 * inch),)
    one = Designed(kind="shelves", name="x", asked={"back": True}, edits=edits)
    now = plan(Project(pieces=(one,)))
    assert now.piece.problem == now.joints.problem == ""
    grooves = [j for j in now.joints.joints if j.family == "groove" and j.id in ("groove-left", "groove-right")]
    reach = grooves[0].figures["depth"]
    bodies = read(parts_obj.text(now))
    back, side = bodies["back"], bodies["side-left"]
    assert shared(back, side, {}) < 0.5
    (low, high), inside = box(back), box(side)[1][0]
    middle = (low[2] + high[2]) / 2
    cut = section(back, middle, 2)  # looking down: its width and its thickness
    mouth = cut.intersection(Polygon([(inside - 0.02, -1e4), (inside, -1e4), (inside, 1e4), (inside - 0.02, 1e4)]))
    goes_in = inside - low[0]
    assert 0 < goes_in <= reach + 1e-6
    at_mouth = inch / 8 + (0.25 * inch * goes_in / (1.875 * inch) if panel == "bevelled" else 0.0)
    assert mouth.bounds[3] - mouth.bounds[1] == pytest.approx(at_mouth, abs=0.01)
    # bevelled it goes in further by the wettest month, up to 3 mm on a back so wide: the groove is wider by what the slope comes to
    wider = (0.25 / 1.875 * 3.0) if panel == "bevelled" else 0.0
    assert all(at_mouth - 0.01 <= j.figures["width"] <= at_mouth + wider + 0.01 for j in grooves)
    slopes = [s.text for j in grooves for s in j.settings if s.tool == "sliding bevel"]
    assert slopes == (["7.6\N{DEGREE SIGN}"] * 2 if panel == "bevelled" else [])
    field = section(back, middle, 2).intersection(
        Polygon([(inside + 200, -1e4), (inside + 201, -1e4), (inside + 201, 1e4), (inside + 200, 1e4)])
    )
    assert field.bounds[3] - field.bounds[1] == pytest.approx(0.375 * inch, abs=0.01)
