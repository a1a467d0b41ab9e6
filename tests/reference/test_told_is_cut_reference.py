"""What settings and steps tell is what is cut, for every family, any way and size: each figure is found again on the cuts' own geometry
from the side that it names, and prose holds no other."""

import math
import os
import random
from contextlib import suppress

import pytest
from found_on_cuts import reach, untrue
from marked import marked
from test_any_sizes_reference import AXIS, answers, any_two
from two_parts import joined, part, shaped

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Measured, Project
from nullah.core.edits import piece_edits
from nullah.core.edits.edit import BadEdit
from nullah.core.edits.piece_edits import fresh
from nullah.core.joints.families import FAMILIES
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import SIDES
from nullah.core.values.ask import BadAnswer
from nullah.core.values.measure import told

SIZES = 300 if os.environ.get("NULLAH_SOAK") else 5


def usual(chance):
    """Sizes as furniture has them, to a tenth of a mm, so that parts that lie against each other do so exactly."""
    return {
        "length": round(chance.uniform(100, 700), 1),
        "width": round(chance.uniform(30, 220), 1),
        "thickness": round(chance.uniform(12, 60), 1),
    }


def tried(chance, family):
    """Two parts, or one, with a joint of any way, one of them measured in half of the cases; None where it cannot be made."""
    try:
        project, parts, way, name = any_two(chance, family, 0.5, usual)
    except BadEdit:
        return None
    if chance.random() < 0.7:
        for what, value in answers(chance, FAMILIES[family]).items():
            ask = next(a for a in FAMILIES[family].asks if a.name == what)
            if ask.type in ("choice", "yesno") or chance.random() < 0.4:
                project = piece_edits.set_joint(project, name, what, value)
    if chance.random() < 0.5:
        part = chance.choice(parts)
        size = chance.choice(
            [n for n, side in (("width", part.upper), ("thickness", part.face)) if AXIS[side] != AXIS[way]]
        )
        value = round(getattr(part, size) * chance.uniform(0.9, 1.03), 1)
        project = marked(project, measured=(Measured(part=part.id, dimension=size, value=value),))
    now = plan(project)
    return now if now.joints.joints else None


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_soak_what_is_told_is_what_is_cut(family):
    chance, made, tries = random.Random(f"told {family}"), 0, 0
    while made < SIZES:
        tries += 1
        assert tries < 400 * SIZES, "hardly any can be made"
        now = tried(chance, family)
        if now is None:
            continue
        made += 1
        assert untrue(now) == []


def with_answers(chance, kind):
    """A new project of a kind with some answers and some ways of its joints otherwise than by default."""
    project = fresh(kind)
    for ask in KINDS[kind].asks:
        if chance.random() < 0.25:
            value = {
                "choice": lambda a=ask: chance.choice(a.options),
                "yesno": lambda: chance.random() < 0.5,
                "length": lambda a=ask: round(a.default * chance.uniform(0.8, 1.25), 1),
            }.get(ask.type)
            with suppress(BadEdit, BadAnswer):
                project = piece_edits.set_answer(project, ask.name, value()) if value else project
    worked = plan(project).piece.in_hand.worked
    for joint in worked.sizes.design.joints if worked is not None else ():
        for ask in FAMILIES[joint.family].asks:
            if ask.type in ("choice", "yesno") and chance.random() < 0.3:
                value = chance.choice(ask.options) if ask.type == "choice" else True
                with suppress(BadEdit, BadAnswer):
                    project = piece_edits.set_joint(project, joint.id, ask.name, value)
    return project


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "free"])
def test_soak_what_a_kind_tells_is_what_is_cut(kind):
    chance = random.Random(f"kind {kind}")
    for _ in range(max(3, SIZES // 6)):
        assert untrue(plan(with_answers(chance, kind))) == []


@pytest.mark.parametrize("style", ["blind", "through", "stepped"])
def test_tenons_that_pass_each_other_share_no_wood_and_are_gauged_as_they_are_cut(style):
    """Two rails of a table meet in its back leg. By the cuts alone: their mortises lie apart, and each is as long as its tenon is told;
    one that goes right through passes the other though a mitre is asked, and does go right through."""
    project = fresh("small_table")
    rails = [j for j in plan(project).joints.joints if j.family == "mortise_and_tenon" and j.parts[1] == "leg-bl"]
    for joint in rails:
        project = piece_edits.set_joint(project, joint.id, "style", style)
        if style == "blind":
            project = piece_edits.set_joint(project, joint.id, "meeting", "staggered")
    now = plan(project)
    sizes = {p.id: p.sizes for p in now.piece.parts}
    spans = []
    for joint in (j for j in now.joints.joints if j.id in {r.id for r in rails}):
        mortise = next(c for c in joint.cuts if c.part == "leg-bl")
        low, high = reach(mortise, 0)  # along the leg
        spans.append((low, high))
        assert high - low == pytest.approx(joint.figures["width"])
        shoulders = joint.figures["upper shoulder"] + joint.figures["lower shoulder"]
        assert shoulders + high - low == pytest.approx(sizes[joint.parts[0]][1])
        if style == "through":
            axis = SIDES[mortise.side][0]
            assert mortise.depth == pytest.approx(sizes["leg-bl"][axis])
    (_, below), (above, _) = sorted(spans)
    assert below <= above + 1e-9
    assert untrue(now) == []


def test_nails_bite_by_what_goes_beyond_the_wood_they_pass():
    """By hand: an end of 16 rabbeted a third, 5.3 deep, leaves 10.7 to pass; of nails 50 long 39.3 hold. The first is notched by those
    10.7; the sides by which both are gauged are found on the cuts."""
    now = joined(
        "nailed_rabbet",
        part("front", 400, 120, 18, "front", "up"),
        part("end", 300, 120, 16, "right", "up", (384, 0, 0)),
        "right",
    )
    (joint,) = now.joints.joints
    assert any("hold 39.3 in front" in told(c.text) for c in joint.checks)
    notch = next(s for s in joint.settings if "notch" in s.use)
    assert (round(notch.value, 1), notch.origin) == (10.7, "right end")
    assert untrue(now) == []


def test_a_tenon_that_lies_otherwise_stops_short_of_the_one_in_its_way():
    """A rail on edge and one that lies flat come into a leg from two sides at one height: by their mortises in the leg the later ends
    before the other begins, with wood between; neither is told longer than it is cut."""
    leg = part("leg", 300, 60, 60, "front", "right", (100, 0, 0))  # x 100..160, y 0..60, z 0..300
    edge = part("edge", 100, 80, 20, "front", "up", (0, 20, 200))  # comes from the left, on edge: y 20..40
    flat = part("flat", 100, 50, 20, "up", "right", (105, 60, 230))  # comes from behind, flat: z 230..250
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(leg, edge, flat)),))
    for first, way in (("edge", "right"), ("flat", "front")):
        project = piece_edits.add_joint(project, plan(project), "mortise_and_tenon", first, "leg", way)
    now = plan(project)
    one, other = now.joints.joints
    holes = [next(c for c in j.cuts if c.part == "leg") for j in (one, other)]
    boxes = [box_in("leg", now, hole) for hole in holes]
    later = boxes[1] if one.id < other.id else boxes[0]
    before = boxes[0] if one.id < other.id else boxes[1]
    apart = [max(later[0][k] - before[1][k], before[0][k] - later[1][k]) for k in range(3)]
    assert 0.5 <= max(apart) <= 2.0
    assert untrue(now) == []


def box_in(name, now, cut):
    """From where to where a cut takes wood out of a part, along the part's own axes, mm."""
    size = next(p.sizes for p in now.piece.parts if p.id == name)
    low, high = [0.0] * 3, [0.0] * 3
    axis, far = SIDES[cut.side]
    low[axis], high[axis] = (size[axis] - cut.depth, size[axis]) if far else (0.0, cut.depth)
    for k in (k for k in range(3) if k != axis):
        low[k], high[k] = reach(cut, k)
    return low, high


def test_of_two_rails_at_other_heights_the_higher_passes_above():
    """Worked by hand: rails 80 wide from 100 to 180 and 60 wide from 140 to 200 come into a leg from two sides; the higher one's
    mortise lies above the other's, each within its own rail."""
    leg = part("leg", 300, 60, 60, "front", "right", (100, 0, 0))
    low = part("low", 100, 80, 20, "front", "up", (0, 20, 100))
    high = part("high", 100, 60, 20, "right", "up", (120, 60, 140))
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(leg, low, high)),))
    for first, way in (("low", "right"), ("high", "front")):
        project = piece_edits.add_joint(project, plan(project), "mortise_and_tenon", first, "leg", way)
    for name in [e.id for e in project.in_hand.edits[3:]]:
        project = piece_edits.set_joint(project, name, "meeting", "staggered")
    now = plan(project)
    spans = {j.parts[0]: reach(next(c for c in j.cuts if c.part == "leg"), 0) for j in now.joints.joints}
    ends = {name: sorted((300 - z for z in span) if leg_turned(now) else span) for name, span in spans.items()}
    assert ends["low"][0] >= 100
    assert ends["low"][1] <= ends["high"][0] + 1e-9
    assert ends["high"][1] <= 200
    assert untrue(now) == []


def leg_turned(now):
    """Whether a leg's left end, from which its cuts are told, is its upper one."""
    (made,) = now.piece.made
    return next(p for p in made.stands(now.joints.of_piece[made.id]) if p.id == "leg").axes[0][2] < 0


def test_a_foot_tapered_all_round_is_gauged_by_half_from_the_middle():
    """By hand: a leg of 45 tapered on four faces to a foot of 25 is gauged 12.5 to both sides of its middle."""
    now = shaped("taper", part("leg", 600, 45, 45, "front", "right"), "down", foot=25, faces="left right front back")
    (joint,) = now.joints.joints
    assert [s.value for s in joint.settings if "foot" in s.use] == [12.5]
    assert untrue(now) == []


@pytest.mark.parametrize("set_out", ["rule", "dividers"])
def test_pins_whose_tails_are_gauged_shy_are_as_wide_at_the_face_as_they_are_cut(set_out):
    """Pins cut first: on the outside face, where they are set out, each is narrower than at its mouth by what the slope takes."""
    one, other = part("front", 300, 90, 16, "front", "up"), part("end", 200, 90, 16, "right", "up", (284, 0, 0))
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(one, other)),))
    project = piece_edits.add_joint(project, plan(project), "through_dovetail", "front", "end", "right")
    for what, value in {"first": "pins", "baseline": "shy", "set_out": set_out}.items():
        project = piece_edits.put_figure(project, project.in_hand.edits[2].id, what, value)
    now = plan(project)
    (joint,) = now.joints.joints
    assert any(s.use.startswith("half pin") for s in joint.settings)
    assert untrue(now) == []


@pytest.mark.parametrize("lean", [20.0, 35.0])
def test_a_toed_nail_goes_straight_on_in_the_wood_it_is_driven_into(lean):
    """By trigonometry: as it leans to the length of the part that it starts in, so it leans to what it goes down in the other."""
    now = joined(
        "toed_nails",
        part("stud", 400, 60, 40, "front", "right", (0, 0, 80)),
        part("plate", 500, 160, 80, "up", "back", (-100, -60, 0)),
        "down",
        lean=lean,
    )
    (joint,) = now.joints.joints
    for cut in joint.cuts:
        mouth, floor = (tuple(sum(x) / len(o) for x in zip(*o, strict=True)) for o in (cut.outline, cut.far))
        aside = math.dist(mouth, floor)
        found = math.atan2(cut.depth, aside) if cut.part == "stud" else math.atan2(aside, cut.depth)
        assert math.degrees(found) == pytest.approx(lean, abs=1e-6)
    assert {c.part for c in joint.cuts} == {"stud", "plate"}


def test_tails_in_a_shaped_front_stop_before_its_lap_where_it_is_thinner():
    """By hand: of a front 30 thick, shaped down to 20 at its ends, with a lap of 5, tails take 15 from the inside; 15 stay there,
    of which shaping takes 10."""
    now = joined(
        "half_blind_dovetail",
        part("side", 300, 90, 14, "front", "up"),
        part("front", 400, 90, 30, "right", "up", (300, 0, 0)),
        "right",
        at_joint=20,
        lap=5,
    )
    (joint,) = now.joints.joints
    deepest = max(reach(c, 2)[1] if SIDES[c.side][0] != 2 else c.depth for c in joint.cuts if c.part == "front")
    assert deepest == pytest.approx(15)
    assert 15.0 in [s.value for s in joint.settings if "before the tails" in s.use]
    sockets = [c for c in joint.cuts if c.part == "side"]
    assert max(abs(reach(c, 0)[1] - reach(c, 0)[0]) for c in sockets) == pytest.approx(15)
