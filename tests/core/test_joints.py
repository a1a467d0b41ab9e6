"""Joints: settings from the wood as it is, checks that can fail, faces drawn to scale."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Area, Dimension
from nullah.core.edits import edit, piece_edits
from nullah.core.joints import dovetail, grooves
from nullah.core.joints.dovetail import NoDovetail, checks, lay_out, plan, suited_tails
from nullah.core.joints.dovetail_ways import Ways
from nullah.core.marking.plan import Setting, gathered
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan as whole_plan
from nullah.core.planning.plan import settings_at
from nullah.core.values.measure import told


@given(st.floats(40, 400), st.integers(1, 9), st.floats(3, 12), st.floats(4, 14), st.floats(5, 10), st.floats(6, 25))
def test_property_pins_and_tails_fill_the_board(width, tails, pin, half_pin, run, mating):
    try:
        joint = lay_out(width, tails, pin, half_pin, run, mating)
    except NoDovetail:
        assert (width - 2 * half_pin + pin) / tails - pin - 2 * mating / run <= 1e-9
        return
    assert len(joint.pins_at_mouth()) == tails + 1
    assert sum(b - a for a, b in joint.tails_at_end()) + sum(b - a for a, b in joint.pins_at_mouth()) == pytest.approx(
        width
    )
    middle = joint.pins_at_mouth()[1:-1]
    assert all(b - a == pytest.approx(pin) for a, b in middle)
    for (end_low, end_high), (low, high) in zip(joint.tails_at_end(), joint.tails_at_baseline(), strict=True):
        assert low - end_low == pytest.approx(mating / run)
        assert end_high - high == pytest.approx(mating / run)
    # the same from either edge: the layout mirrors
    mirrored = [(width - b, width - a) for a, b in reversed(joint.tails_at_end())]
    assert mirrored == [pytest.approx(t) for t in joint.tails_at_end()]


@given(st.floats(60, 400), st.floats(4, 12), st.floats(3, 10))
def test_property_suited_tails_are_no_wider_than_four_pins(width, half_pin, pin):
    n = suited_tails(width, half_pin, pin)
    tail = (width - 2 * half_pin + pin) / n - pin
    assert tail <= 4 * pin + 1e-6
    if n > 1:
        assert (width - 2 * half_pin + pin) / (n - 1) - pin > 4 * pin - 1e-6


@pytest.mark.parametrize(
    ("changed", "why"),
    [
        ({"pin": 2.0}, "at least 3"),
        ({"tails": 2}, "2 to 4 for strength"),
        ({"chisels": (12.0, 18.0)}, "no chisel"),
        ({"run": 4.0}, "1 : 4"),
        ({"half_pin": 4.0}, "about half"),
    ],
)
def test_each_check_can_fail(changed, why):
    chisels = changed.pop("chisels", (3.0, 6.0, 12.0))
    sound = {"width": 150.0, "tails": 5, "pin": 6.0, "half_pin": 9.0, "run": 7.0, "mating": 18.0}
    assert all(c.holds for c in checks(lay_out(**sound), (3.0, 6.0, 12.0)))
    failing = [told(c.text) for c in checks(lay_out(**{**sound, **changed}), chisels) if not c.holds]
    assert any(why in text for text in failing), failing


AT = (("right", "left"), 300.0)  # the ends that meet, and the tail board's length


def test_baselines_are_the_mates_thickness_and_a_hair():
    joint = lay_out(150, 5, 6, 9, 7, mating=18.0, own=17.4)
    settings = plan("A-B", "A", "B", joint, (joint.mating + 0.3, joint.own + 0.3), (6.0,), Ways(), 0.0, *AT).settings
    gauge = {s.parts: s.value for s in settings if s.tool == "marking gauge"}
    assert gauge == {("A",): pytest.approx(18.3), ("B",): pytest.approx(17.7)}


def test_the_drawn_waste_is_what_lies_between_the_tails():
    joint = lay_out(150, 4, 6, 9, 7, 18)
    face = plan("A-B", "A", "B", joint, (18.0, 18.0), (6.0,), Ways(), 0.0, *AT).faces[0].drawing
    waste = [item for item in face.items if isinstance(item, Area) and item.hatch]
    assert len(waste) == 5
    area = sum(shoelace(w.points) for w in waste)
    # trapezia: mouth p and base p + 2 T/run for pins; half pins have one slope
    assert area == pytest.approx(3 * 18 * (6 + 6 + 2 * 18 / 7) / 2 + 2 * 18 * (9 + 9 + 18 / 7) / 2)
    figures = {round(item.mm, 3) for item in face.items if isinstance(item, Dimension)}
    assert {34.5, 28.5, 6.0, 9.0, 18.0, 150.0} <= figures


def shoelace(points):
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in itertools.pairwise([*points, points[0]]))) / 2


@pytest.mark.parametrize(
    ("thickness", "depth"), [(18.0, 6.0), (17.4, 5.8), (12.0, 4.0), (9.0, 3.0), (7.6, 2.5), (6.0, 2.0)]
)
def test_groove_depth_is_a_third_and_leaves_five(thickness, depth):
    assert grooves.depth_in(thickness) == pytest.approx(depth, abs=0.05)
    assert grooves.depth_in(thickness) <= thickness / 2
    check = grooves.check_depth(grooves.depth_in(thickness), thickness, "A")
    assert check.holds == (thickness - depth >= 4.95)


SIDES = grooves.Sides(
    {"A": 18.0, "B": 18.0, "C": 17.4, "D": 18.0},
    {"A": (300.0, 150.0), "B": (120.0, 130.0), "C": (300.0, 150.0), "D": (120.0, 150.0)},
    {"A": ("B", "D"), "B": ("C", "A"), "C": ("D", "B"), "D": ("A", "C")},
)


def grooved(**other):
    given = {
        "name": "bottom groove",
        "panel": "bottom",
        "panel_thickness": 7.0,
        "depth": 6.0,
        "from_edge": 12.0,
        "edge": "lower",
        "through": ("B", "D"),
        "stopped": ("A", "C"),
        "sides": SIDES,
        "place": "inside a tail",
        "plough": True,
        "chisels": (3.0, 6.0, 12.0),
        "irons": (3.0, 5.0, 6.0),
        "deepest": 15.0,
    }
    return grooves.groove(**{**given, **other})


def test_a_groove_says_where_it_runs_through_and_where_it_stops():
    tail = grooved()
    assert any("through in B and D" in s for s in tail.steps)
    assert any("In A and C stop short" in s for s in tail.steps)
    assert all(c.holds for c in tail.checks)
    across = grooved(through=(), stopped=("A", "B", "C", "D"), place="across a line")
    assert [c.text for c in across.checks if not c.holds] == [
        "groove lies across a line: it would show on both; move it or change the pins"
    ]
    by_hand = grooved(through=("A",), stopped=(), place="inside a pin", plough=False)
    assert not any("plough" in s.tool for s in by_hand.settings)
    assert any("chisel" in s for s in by_hand.steps)


def test_a_lid_groove_is_open_where_the_lid_comes_in_in_words_and_drawing():
    lid = grooved(name="lid groove", panel="lid", edge="upper", through=("D",), open_at="B")
    words = [s for s in lid.steps if s.startswith("In ")]
    assert words == [
        f"In {p} run out at the end at B, the lid's way in, and stop short of the end at D, within the joint."
        for p in "AC"
    ]
    face = lid.faces[0]
    assert face.part == "A"
    waste = next(i for i in face.drawing.items if getattr(i, "tag", "") == "groove")
    xs = [x for x, _ in waste.points]
    assert min(xs) == 0.0  # looking at the inside of the front, the right end lies left
    assert max(xs) == 300.0 - 9.0
    names = [i.text for i in sorted(named(face), key=lambda i: i.at)]
    assert names == ["end at B", "end at D"]


def named(face):
    return [i for i in face.drawing.items if getattr(i, "text", "").startswith("end at")]


def test_a_groove_for_which_there_is_no_iron_or_chisel_is_told():
    failing = lambda plan_: [c.text for c in plan_.checks if not c.holds]  # noqa: E731 - one expression
    assert "no plough iron" in failing(grooved(panel_thickness=2.5))[0]
    assert "no chisel at hand" in failing(grooved(panel_thickness=5.0, plough=False, chisels=(6.0,)))[0]
    assert (
        "no chisel at hand" in failing(grooved(panel_thickness=5.0, chisels=(6.0,)))[0]
    )  # its stopped ends are chopped
    assert not failing(grooved(panel_thickness=5.0, chisels=(6.0,), through=("A", "B", "C", "D"), stopped=()))
    assert any("in two passes" in c.text for c in grooved(panel_thickness=7.0).checks)
    # the plough's stop lets it go no deeper; chopped by hand there is none
    assert "the plough goes to" in failing(grooved(depth=6.0, deepest=5.0))[0]
    assert not failing(grooved(depth=6.0, deepest=5.0, plough=False))


def test_dadoes_are_as_wide_as_their_own_divider_and_run_out_where_it_goes_in():
    thick = {"1": 9.6, "2": 8.0, "3": 9.6}
    plan_ = grooves.dadoes(thick, 6.0, (70.0, 140.0, 210.0), ("A", "C"), "D", SIDES, 19.0, True)
    knives = {s.use: s.value for s in plan_.settings if s.tool.startswith("knife")}
    assert knives == {"width of dado 1": 9.6, "width of dado 2": 8.0, "width of dado 3": 9.6}
    rule = [s for s in plan_.settings if s.tool == "rule"]
    assert [s.value for s in rule] == pytest.approx([65.2, 136.0, 205.2])
    assert all("from the end at D" in s.use for s in rule)
    drawn = [i for i in plan_.faces[0].drawing.items if getattr(i, "tag", "") == "dado"]
    boxes = [(min(x for x, _ in i.points), max(x for x, _ in i.points)) for i in drawn]
    # on the inside face of the front D lies right
    assert boxes == [
        pytest.approx((300 - c - w / 2, 300 - c + w / 2)) for c, w in zip((70, 140, 210), (9.6, 8, 9.6), strict=True)
    ]
    assert {(min(y for _, y in i.points), max(y for _, y in i.points)) for i in drawn} == {(19.0, 150.0)}
    assert all(c.holds for c in plan_.checks)
    alike = grooves.dadoes(dict.fromkeys("123", 9.6), 6.0, (70.0, 150.0, 210.0), ("A", "C"), "D", SIDES, 19.0, False)
    assert {s.use: s.value for s in alike.settings}["dado width"] == 9.6
    assert "several widths" in alike.checks[0].text
    assert any("chisel" in s for s in alike.steps)


def test_pins_first_is_set_on_the_pin_board():
    joint = dovetail.lay_out(150, 4, 6, 9, 7, 18)
    tails = dovetail.plan("A-B", "A", "B", joint, (18.0, 18.0), (6.0,), Ways(), 0.0, *AT)
    pins = dovetail.plan("A-B", "A", "B", joint, (18.0, 18.0), (6.0,), Ways("pins"), 0.0, *AT)
    laid_out = lambda p: {q for s in p.settings if s.tool in ("dividers", "rule") for q in s.parts}  # noqa: E731 - as above
    assert (laid_out(tails), laid_out(pins)) == ({"A"}, {"B"})
    assert any("3 pins" in s.use for s in pins.settings)
    assert not any("tails" in s.use for s in pins.settings)
    assert {s.value for s in tails.settings} == {s.value for s in pins.settings} - {6}


def test_tails_are_set_out_with_dividers_with_a_rule_or_by_eye():
    """150 wide, half pins 9, four tails, pins 6: steps of (150 - 18 + 6) / 4 = 34.5, so pins' middles at 9 + 34.5 - 3, and on."""
    joint = dovetail.lay_out(150, 4, 6, 9, 7, 18)

    def made(**ways):
        return dovetail.plan("A-B", "A", "B", joint, (18.0, 18.0), (6.0,), Ways(**ways), 0.0, *AT)

    for first, mine in (("tails", "A"), ("pins", "B")):
        by = {how: made(first=first, set_out=how) for how in ("dividers", "rule", "eye")}
        assert len({p.cuts for p in by.values()}) == 1
        tools = {how: {(s.tool, s.value) for s in p.settings if mine in s.parts} for how, p in by.items()}
        assert ("dividers", 34.5) in tools["dividers"] - tools["rule"] - tools["eye"]
        assert {("rule", 34.5), ("rule", 6.0), ("rule", 9.0)} <= tools["rule"]
        assert ("rule", 34.5) not in tools["eye"]
        words = {how: told(" ".join(p.steps)) for how, p in by.items()}
        assert "at 40.5, 75, 109.5; half a pin, 3, to either side" in words["rule"]
        assert not [how for how, said in words.items() if how != "dividers" and "dividers" in said]
        assert ("dividers" in words["dividers"]) == (first == "tails")
        assert "by eye, in pencil" in words["eye"]
    one = dovetail.plan(
        "A-B", "A", "B", dovetail.lay_out(40, 1, 6, 9, 7, 18), (18.0, 18.0), (6.0,), Ways(set_out="rule"), 0.0, *AT
    )
    assert [s.value for s in one.settings if s.tool == "rule"] == [9.0]
    assert "what lies between them is the tail" in " ".join(one.steps)


def test_a_box_is_asked_how_its_corners_are_gone_about():
    """Once for all four; the steps and the settings follow, the wood does not. Of a single tail it is not asked how it is set out."""
    project = demo.untouched()
    usual = whole_plan(project)
    for call, way, tools in (("set out", "rule", 0), ("set out", "eye", 0), ("waste", "chisel", 1)):
        now = whole_plan(edit.take(project, usual.call(call), way))
        assert now.call(call).taken == way
        assert ("dividers" in {s.tool for s in now.joints.settings}) == bool(tools)
        assert [j.cuts for j in now.joints.joints] == [j.cuts for j in usual.joints.joints]
        assert [j.steps for j in now.joints.joints] != [j.steps for j in usual.joints.joints]
    assert whole_plan(edit.set_piece(project, "tails", 1)).call("set out") is None
    asked = usual.call("set out")
    assert "covers the groove" in " ".join(asked.options[2].consequences)


@pytest.mark.parametrize(("wood", "usual"), [("yellow-poplar", "6"), ("black walnut", "7"), ("white oak", "8")])
def test_the_slope_is_a_call_by_the_wood_or_by_taste(wood, usual):
    """1 : 6 in soft wood to 1 : 8 in hard (common practice, no source): 9.46 and 7.13 degrees."""
    project = edit.set_piece(demo.untouched(), "wall_species", wood)
    now = whole_plan(project)
    call = now.call("slope")
    assert call.recommended == usual
    assert {o.id: told(o.consequences[0]) for o in call.options}["6"] == "9.5 degrees off square"
    corner = next(j for j in now.joints.joints if j.tails)
    assert corner.figures["slope"] == float(usual)
    for way, run in (("6", 6.0), ("8", 8.0)):
        after = whole_plan(edit.take(project, call, way))
        laid = next(j for j in after.joints.joints if j.tails)
        assert laid.figures["slope"] == run
        assert after.call("slope").taken == way
    assert whole_plan(edit.set_piece(project, "slope", 6.5)).call("slope") is None  # typed: nothing is to be asked
    free = Project(pieces=(KINDS["practice_joint"].piece({"width": "120", "wood": wood}),))
    asked = whole_plan(free).call("school slope")
    assert asked.recommended == usual
    assert whole_plan(edit.take(free, asked, "8")).joints.joints[0].figures["slope"] == 8.0


def test_necks_of_tails_are_held_to_three_mm():
    fine = dovetail.lay_out(150, 10, 6, 9, 6, 18)  # tails of 8.4 at the end, 2.4 at the neck
    assert [c.text for c in dovetail.checks(fine, (3.0,)) if not c.holds and "neck" in c.text]
    sound = dovetail.lay_out(150, 8, 6, 9, 8, 18)
    assert not [c.text for c in dovetail.checks(sound, (3.0,)) if not c.holds and "neck" in c.text]


def test_a_lid_rabbet_leaves_a_lip():
    good = grooves.lid_rabbet("lid", (300, 120, 12), 18.5, 19.0, 6, True)
    assert all(c.holds for c in good.checks)
    assert sorted(s.value for s in good.settings) == [6, 18.5, 19.0]
    thin = grooves.lid_rabbet("lid", (300, 120, 5), 18.5, 18.5, 2.5, False)
    assert not thin.checks[0].holds
    assert len(thin.settings) == 2
    # ends before long edges, so that what breaks out is planed away
    order = " ".join(good.steps)
    assert order.index("Ends before") < order.index("Try it")


def test_settings_that_are_one_are_one():
    one = gathered(
        [
            Setting("marking gauge", 18.0, "", ("A",), "baseline at B"),
            Setting("marking gauge", 18.0, "", ("B",), "baseline at A"),
            Setting("marking gauge", 17.4, "", ("D",), "baseline at A"),
            Setting("bevel", None, "1 : 7", ("A",), "slope"),
            Setting("bevel", None, "1 : 7", ("B",), "slope"),
        ]
    )
    assert [(s.value, s.parts, s.use) for s in one] == [
        (18.0, ("A", "B"), "baseline at B, A"),
        (17.4, ("D",), "baseline at A"),
        (None, ("A", "B"), "slope"),
    ]


def test_hard_wood_takes_a_shallower_slope_than_soft():
    def run(species):
        return whole_plan(edit.set_piece(demo.untouched(), "wall_species", species)).piece.in_hand.own.box.run

    assert run("yellow-poplar") < run("black walnut") < run("white oak")


def test_a_lift_off_lid_gets_its_rabbet_and_no_groove():
    p = whole_plan(edit.set_piece(demo.untouched(), "lid", "lift-off"))
    names = [j.id for j in p.joints.joints]
    assert "lid rabbet" in names
    assert "lid groove" not in names
    assert "lid groove" in [j.id for j in whole_plan(demo.untouched()).joints.joints]
    none = whole_plan(edit.set_piece(demo.untouched(), "lid", "none"))
    assert not any("lid" in j.id for j in none.joints.joints)
    assert "lid" not in {x.id for x in none.piece.parts}


def test_settings_belong_to_the_station():
    p = whole_plan(demo.box())
    assert {s.tool for s in settings_at(p, "timber")} == {"rule, rough length"}
    assert {s.value for s in settings_at(p, "trueup")} == {x.thickness for x in p.piece.parts}
    assert settings_at(p, "together")[0].value == pytest.approx(p.together.diagonal)
    assert settings_at(p, "joints") == p.joints.settings


def test_schools_of_a_corner_change_its_order_and_what_is_set():
    """Pins first the tails are traced; by chisel alone there is no coping saw; proud, the ends are longer by a hair."""
    piece = KINDS["practice_joint"].piece({"width": "120", "thickness": "16", "tails": "2"})

    def made(**asked):
        project = Project(pieces=(piece,))
        for what, value in asked.items():
            project = piece_edits.put_figure(project, "corner", what, value)
        return whole_plan(project)

    usual = made().joints.joints[0]
    assert any(s.tool == "dividers" for s in usual.settings)
    assert any("coping saw" in s for s in usual.steps)
    pins = made(first="pins").joints.joints[0]
    assert any("trace round the pins" in s for s in pins.steps)
    assert pins.cuts == usual.cuts
    assert not any("coping saw" in s for s in made(waste="chisel").joints.joints[0].steps)
    assert {c.id.removeprefix("school ") for c in made().joints.calls if c.open} >= {
        "first",
        "waste",
        "baseline",
        "set_out",
    }
    proud, shy = made(baseline="proud"), made(baseline="shy")
    assert proud.joints.joints[0].figures["baseline on tail board"] == pytest.approx(16.3)
    flush, longer, shorter = (
        next(p.length for p in now.piece.parts if p.id == "tail-board") for now in (made(), proud, shy)
    )
    assert (longer - flush, shorter - flush) == (pytest.approx(0.3), pytest.approx(-0.3))
