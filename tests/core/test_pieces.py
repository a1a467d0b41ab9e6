"""Pieces of any kind: what is measured is followed, what is cut stays, what the maker writes by hand holds, and nothing raises."""

import contextlib
import os
import random

import pytest
from marked import marked

from nullah.core.document.pieces import AddJoint, AddPart, Designed, Drop, Put
from nullah.core.document.project import Measured, Project
from nullah.core.edits import edit, measuring, piece_edits
from nullah.core.edits.piece_edits import fresh
from nullah.core.joints.families import FAMILIES
from nullah.core.pictures import full_size, piece
from nullah.core.pictures.bodies import bodies
from nullah.core.pieces.kinds import KINDS
from nullah.core.pieces.sizes import Sizes
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import WAYS
from nullah.core.shapes.solid import BadSolid
from nullah.core.values.design import Design, Mark, NoPiece, PartDesign, Ref, Rod, between, from_mark, mm, of
from nullah.formats import project_file

STEPS, MANY = (400, 12) if os.environ.get("NULLAH_SOAK") else (60, 4)


def project(kind, edits=(), **asked):
    return Project(pieces=(Designed(kind=kind, name="x", asked=asked, edits=edits),))


def sizes(now):
    return {p.id: p.sizes for p in now.piece.parts}


def measured(one, text):
    return measuring.measured(one, plan(one).piece.parts, text)


# ---- the wood speaks


def test_a_leg_measured_thin_is_followed_by_everything_beside_it():
    before = project("small_table", drawer=True)
    was = sizes(plan(before))
    after = plan(measured(before, "front left leg width 40"))
    now = sizes(after)
    longer = 42 - 40  # what the leg lost lies between the legs, the outside being held
    tenon = 42 / 3 - 40 / 3  # a stub tenon goes a third into its leg
    assert now["rail-lower"][0] == pytest.approx(was["rail-lower"][0] + longer - tenon)
    assert now["drawer-front"][0] == pytest.approx(was["drawer-front"][0] + longer)
    assert now["drawer-bottom"][0] == pytest.approx(was["drawer-bottom"][0] + longer)
    assert now["apron-back"] == was["apron-back"]
    assert now["doubler-left"][2] == pytest.approx(was["doubler-left"][2] - 2)
    call = after.call("hold front")
    assert call.recommended == "outside"
    held = plan(edit.take(after.project, call, "inside"))
    assert sizes(held)["drawer-front"] == was["drawer-front"]
    assert next(c for c in held.piece.chains if c.rod == "front").total == pytest.approx(538)
    assert not held.joints.problem


def test_a_length_that_is_measured_tells_the_stretch_it_lies_in():
    one = project("small_table")
    was = sizes(plan(one))
    short = plan(measured(one, "apron-back length 500"))  # 512 was planned
    now = sizes(short)
    assert now["apron-front"][0] == pytest.approx(was["apron-front"][0] - 12)  # a frame is as long in front as behind
    assert now["apron-left"] == was["apron-left"]
    totals = {c.rod: c.total for c in short.piece.chains}
    assert totals["front"] == totals["back"] == pytest.approx(540 - 12)
    low = plan(measured(one, "front left leg length 660"))  # 680 was planned
    assert {sizes(low)[f"leg-{c}"][0] for c in ("fl", "fr", "bl", "br")} == {660}
    assert next(c for c in low.piece.chains if c.rod == "height").total == pytest.approx(680)
    odd = plan(measured(measured(one, "apron-back length 500"), "apron-front length 520"))
    (call,) = [c for c in odd.calls if c.id.startswith("fit ")]
    assert call.parts == ("apron-front",)
    trimmed = plan(edit.take(odd.project, call, "trim"))
    assert sizes(trimmed)["apron-front"][0] == pytest.approx(500)


def test_what_depends_on_a_part_is_said():
    now = plan(project("small_table", drawer=True))
    leg = next(p for p in now.piece.parts if p.id == "leg-fl")
    assert any("drawer front" in d and d.startswith("length of") for d in leg.drives)
    assert not any("back apron" in d for d in leg.drives)


def test_a_cut_part_stays_and_its_mates_follow_it():
    one = project("small_table")
    now = plan(one)
    leg = next(p for p in now.piece.parts if p.id == "leg-bl")
    cut = edit.mark_cut(one, leg)
    other = piece_edits.set_answer(cut, "leg", 50.0)
    after = plan(other)
    assert sizes(after)["leg-bl"] == leg.sizes
    assert sizes(after)["leg-br"][1:] == (50.0, 50.0)
    call = next(c for c in after.calls if c.conflict)
    assert call.parts == ("leg-bl",)
    followed = plan(edit.take(other, call, "follow"))
    assert not [c for c in followed.calls if c.conflict]
    again = plan(edit.take(other, call, "recut"))
    assert sizes(again)["leg-bl"][1:] == (50.0, 50.0)


def test_a_cut_joint_is_held_to_account():
    one = project("small_table")
    joint = next(j for j in plan(one).joints.joints if j.id == "tenon-front-fl")
    cut = edit.mark_joint(one, joint)
    assert not [c for c in plan(cut).calls if c.conflict]
    other = plan(piece_edits.set_answer(cut, "apron", 90.0))
    (call,) = [c for c in other.calls if c.conflict]
    assert "width" in call.question


def test_tenons_that_meet_are_mitred_or_pass_each_other():
    pair = ("tenon-front-fl", "tenon-left-fl")
    staggered = tuple(Put(owner=j, what="meeting", value="staggered") for j in pair)
    now = plan(project("small_table", staggered))
    laid = {j.id: j for j in now.joints.joints}
    spans = []
    for name in pair:
        cut = next(c for c in laid[name].cuts if c.part == "leg-fl")
        along = [p[0] for p in cut.outline]
        spans.append((min(along), max(along)))
    (_, end), (start, _) = sorted(spans)
    assert end <= start + 1e-9  # one above the other
    assert not any("mitre" in s.lower() for s in laid[pair[0]].steps)
    by_call = plan(project("small_table"))
    taken = plan(edit.take(by_call.project, by_call.call("school meeting"), "staggered"))
    for name in pair:
        assert next(j for j in taken.joints.joints if j.id == name).cuts == laid[name].cuts
    mitred = {j.id: j for j in by_call.joints.joints}
    assert any("mitre" in s.lower() for s in mitred[pair[0]].steps)


# ---- by hand


def test_edits_are_followed_and_what_is_gone_is_told_once():
    edits = (
        Put(owner="apron-front", what="thickness", value=24.0),
        Put(owner="apron-front", what="label", value="fore apron"),
    )
    now = plan(project("small_table", edits))
    part = next(p for p in now.piece.parts if p.id == "apron-front")
    assert (part.thickness, part.name) == (24.0, "fore apron")
    without = plan(project("small_table", (*edits, Drop(id="apron-front"))))
    assert "apron-front" not in sizes(without)
    assert not [j for j in without.joints.joints if "apron-front" in j.parts]
    with_drawer = plan(project("small_table", edits, drawer=True))  # which has no front apron
    lost = [c for c in with_drawer.calls if c.id.startswith("lost ")]
    assert len(lost) == 2
    assert {c.id for c in lost} == {"lost apron-front"} or len({c.question for c in lost}) == 2
    back = plan(piece_edits.set_answer(with_drawer.project, "drawer", False))
    assert sizes(back) == sizes(now)


@pytest.mark.parametrize(
    ("kind", "asked"),
    [
        ("small_table", {"drawer": True}),
        ("small_rest", {}),
        ("practice_joint", {}),
        ("shelves", {"back": True}),
        ("laminated_board", {}),
    ],
)
def test_any_part_can_be_taken_away_and_brought_back(kind, asked):
    one = project(kind, **asked)
    now = plan(one)
    for part in now.piece.parts:
        without = plan(piece_edits.take_away(one, part.id))
        assert not without.piece.problem, part.id
        assert not without.joints.problem, part.id
        assert part.id not in sizes(without)
        dropped = without.project.in_hand
        back = without.project.with_design(dropped.model_copy(update={"edits": ()}))
        assert sizes(plan(back)) == sizes(now)


def test_a_free_piece_is_what_is_put_in_it():
    side = {"face": "front", "upper": "up"}
    parts = (
        AddPart(id="post", label="post", length=300, width=40, thickness=40, face="front", upper="left"),
        AddPart(id="rail", label="rail", length=200, width=60, thickness=20, at=(40, 10, 200), **side),
    )
    now = plan(
        project("free", (*parts, AddJoint(id="t", family="mortise_and_tenon", first="rail", second="post", way="left")))
    )
    assert not now.joints.problem
    long = 40 * 2 / 3
    assert sizes(now)["rail"] == pytest.approx((200 + long, 60, 20))
    assert now.joints.joints[0].figures["length"] == pytest.approx(long)
    nothing = plan(project("free"))
    assert (nothing.piece.parts, nothing.piece.problem, nothing.joints.problem) == ((), "", "")


@pytest.mark.parametrize(
    "one",
    [
        project("practice_joint"),
        project("small_table"),
        project("small_table", drawer=True),
        project("small_rest"),
        project("shelves"),
    ],
)
def test_a_piece_made_one_s_own_is_the_same_piece(one):
    """Also what stands in a frame of its own, shifted or turned."""
    now = plan(one)
    mine = plan(piece_edits.make_mine(one, now))
    assert mine.project.in_hand.kind == "free"
    was = sizes(now)
    for part, found in sizes(mine).items():
        assert found == pytest.approx(was[part])
    for one_joint, other in zip(mine.joints.joints, now.joints.joints, strict=True):
        assert dict(one_joint.figures) == pytest.approx(dict(other.figures))
    for body, other in zip(bodies(mine), bodies(now), strict=True):
        assert [x for c in body.corners for x in c] == pytest.approx([x for c in other.corners for x in c], abs=1e-3)


def test_what_is_set_alike_is_cut_one_after_the_other():
    """Sixteen tenons, tapers and grooves of a table: as many settings as there are unlike ones, and no tool is set twice."""
    now = plan(project("small_table", drawer=True))
    joints = {j.id: j for j in now.joints.joints}
    steps = [s for s in now.bench.steps if s.joint]
    tools = [(joints[s.joint].family, {(t.tool, t.text, t.value) for t in joints[s.joint].settings}) for s in steps]
    anew = [t for t, s in zip(tools, steps, strict=True) if not s.words.startswith("All tools are set")]
    assert len(steps) == len(joints)
    assert all(a not in anew[:i] for i, a in enumerate(anew))
    assert all(t in anew for t in tools)


def test_why_a_size_is_what_it_is():
    now = plan(project("small_table"))
    why = now.piece.made[0].worked.why("apron-front", "length")
    assert [round(mm, 6) for _, mm in why] == [456, 28, 28]
    for part in now.piece.parts:
        for i, what in enumerate(("length", "width", "thickness")):
            assert sum(mm for _, mm in now.piece.made[0].worked.why(part.id, what)) == pytest.approx(part.sizes[i])


def test_sizes_that_wait_for_each_other_are_named():
    def lies(other):
        return from_mark("r", "a", of("the other", other, "length"))

    def board(part_id, other):
        flat = from_mark("r", "a", mm("size", 20.0))
        return PartDesign(part_id, part_id, "up", "back", lies(other), flat, flat)

    design = Design(
        (Rod("r", "Rod", "x", (Mark("a"), Mark("b", mm("gap", 10.0)))),), (board("one", "two"), board("two", "one"))
    )
    with pytest.raises(NoPiece, match="wait for each other: length of one, length of two"):
        Sizes(design).value(Ref("one", "length"))


def test_a_long_rod_does_not_go_too_deep():
    marks = tuple(Mark(f"m{i}", mm("gap", 2.0)) for i in range(3_000))
    part = PartDesign(
        "p",
        "part",
        "up",
        "back",
        between("r", "m0", "m2999"),
        from_mark("r", "m0", mm("w", 9.0)),
        from_mark("r", "m0", mm("t", 9.0)),
    )
    assert Sizes(Design((Rod("r", "Rod", "x", marks),), (part,))).size("p")[0] == pytest.approx(2 * 2_999)


# ---- several pieces


def test_two_boxes_in_one_project_keep_to_themselves():
    one = piece_edits.add_piece(Project(), "dovetailed_box")
    now = plan(one)
    first, second = now.piece.made
    assert [p.id for p in second.parts] == [f"2.{p.id}" for p in first.parts]
    assert [p.sizes for p in second.parts] == [p.sizes for p in first.parts]
    thin = plan(measured(one, "A thickness 16"))  # of the piece in hand, which is the second
    assert thin.piece.made[0].parts == first.parts
    assert thin.piece.made[1].own.box.thickness["A"] == 16
    assert thin.call("2.hold width") is not None
    assert thin.call("hold width") is None
    taken = plan(edit.take(thin.project, thin.call("2.hold width"), "inside"))
    assert taken.piece.made[0].parts == first.parts
    wider = edit.set_piece(one, "wall", 15.0)
    assert [p.wall for p in wider.pieces] == [18.0, 15.0]
    assert project_file.loads(project_file.dumps(wider)) == wider
    ids = [x.id for x in now.joints.joints]
    assert len(ids) == len(set(ids)) == 2 * len(now.joints.of_piece["1"])
    steps = [s.id for s in now.bench.steps]
    assert len(steps) == len(set(steps))


def test_pieces_come_and_go_with_what_was_measured_of_them():
    one = piece_edits.add_piece(Project(), "small_table")
    said = measured(one, "front left leg width 40")
    gone = piece_edits.drop_piece(said, plan(said))
    assert gone.hand == "1"
    assert said.measured
    assert gone.measured == ()
    assert piece_edits.add_piece(gone, "small_table").hand == "3"
    with pytest.raises(edit.BadEdit, match="at least"):
        piece_edits.drop_piece(Project(), plan(Project()))
    with pytest.raises(edit.BadEdit, match="called"):
        piece_edits.rename(one, "Practice box")


# ---- anything in any order


def random_step(one, now, chance):
    """One thing a maker may do; None where it is refused, in a sentence."""
    parts, joints = now.piece.parts, now.joints.joints
    kinds = list(KINDS)

    def answer():
        kind = piece_edits.kind_of(one.in_hand)
        if not kind.asks:
            return one
        ask = chance.choice(kind.asks)
        if ask.type == "choice":
            return piece_edits.set_answer(one, ask.name, chance.choice(ask.options))
        if ask.type == "yesno":
            return piece_edits.set_answer(one, ask.name, chance.random() < 0.5)
        if ask.type == "text":
            return piece_edits.set_answer(one, ask.name, chance.choice(("a", "b")))
        low, high = ask.least or 0.0, ask.most
        base = ask.default or 10.0
        value = (
            chance.uniform(low, high)
            if chance.random() < 0.15
            else min(high, max(low, base * chance.uniform(0.6, 1.6)))
        )
        return piece_edits.set_answer(one, ask.name, round(value) if ask.type == "whole" else value)

    def measure():
        part = chance.choice(parts)
        what = chance.choice(("length", "width", "thickness"))
        value = getattr(part, what) * chance.uniform(0.8, 1.2)
        return measuring.measured(one, parts, f"{part.id} {what} {value:.2f}")

    def put():
        part = chance.choice(now.piece.in_hand.parts)
        return piece_edits.put_figure(one, part.id, chance.choice(("width", "thickness")), chance.uniform(4, 60))

    def add_part():
        face, upper = chance.choice(("front", "left", "up")), chance.choice(("right", "back", "down"))
        lengths = tuple(chance.uniform(5, 300) for _ in range(3))
        at = tuple(chance.uniform(-50, 300) for _ in range(3))
        return piece_edits.add_part(one, now, f"part {chance.randint(1, 99)}", lengths, face=face, upper=upper, at=at)

    def add_joint():
        mine = [p.id for p in now.piece.in_hand.parts]
        family = chance.choice(list(FAMILIES))
        return piece_edits.add_joint(
            one, now, family, chance.choice(mine), chance.choice([*mine, ""]), chance.choice(list(WAYS))
        )

    def put_joint():
        joint = chance.choice(now.joints.of_piece[one.hand])
        ask = chance.choice(FAMILIES[joint.family].asks)
        return piece_edits.put_figure(
            one, joint.id, ask.name, chance.choice((0.0, 5.0, 40.0, True, "blind", "staggered", "seen sides"))
        )

    doing = [answer, answer, answer, measure, put, add_part, add_joint, put_joint]
    doing += [
        lambda: edit.mark_cut(one, chance.choice(parts)),
        lambda: edit.mark_joint(one, chance.choice(joints)),
        lambda: piece_edits.take_away(one, chance.choice(now.piece.in_hand.parts).id),
        lambda: piece_edits.make_mine(one, now),
        lambda: piece_edits.add_piece(one, chance.choice(kinds)) if len(one.pieces) < 4 else one,
        lambda: piece_edits.drop_piece(one, plan(one)),
        lambda: piece_edits.take_in_hand(one, chance.choice(one.pieces).id),
        lambda: piece_edits.change_kind(one, plan(one), chance.choice(kinds)),
        lambda: edit.take(one, call := chance.choice(now.calls), chance.choice(call.options).id),
    ]
    try:
        return chance.choice(doing)()
    except (edit.BadEdit, IndexError):
        return None


def changed_unsaid(one, now):
    """Joints that are cut and would be laid out to other figures or elsewhere, of which no call says so."""
    said = {p for c in now.calls if c.conflict for p in c.parts}
    laid = {j.id: j for mine in now.joints.of_piece.values() for j in mine}
    found = []
    for mark in one.joints_cut:
        joint = laid.get(mark.joint)
        same = joint is not None and all(
            abs(joint.figures.get(name, 1e9) - value) < 0.1 for name, value in mark.figures.items()
        )
        if joint is not None and not same and not said & set(mark.parts):
            found.append((mark, joint.figures))
    return found


@pytest.mark.parametrize("seed", range(MANY))
def test_property_whatever_is_done_gives_a_plan_or_a_sentence(seed):
    """What is cut never changes without a call, what was done is undone to the same plan, and what is saved is read again."""
    chance = random.Random(seed)
    one = piece_edits.fresh()
    past = []
    now = plan(one)
    for _ in range(STEPS):
        after = random_step(one, now, chance)
        if after is None:
            continue
        past.append((one, sizes(now)))
        one = after
        now = plan(one)
        if len(past) % 15 == 0:
            piece.of(now)
            full_size.sheets(now)
            with contextlib.suppress(BadSolid):  # which says that nothing is left of a part
                bodies(now)
        for made in now.piece.made:
            assert len(made.problem.splitlines()) <= 1
        at = sizes(now)
        said = {(m.part, m.dimension) for m in one.measured}
        for mark in one.cut:
            if mark.part in at:
                for i, what in enumerate(("length", "width", "thickness")):
                    if (mark.part, what) not in said:
                        assert at[mark.part][i] == pytest.approx(getattr(mark, what)), (mark.part, what)
        assert not changed_unsaid(one, now)
    assert project_file.loads(project_file.dumps(one)) == one
    for was, had in past[:: max(1, len(past) // 8)]:
        assert sizes(plan(was)) == had


@pytest.mark.parametrize("kind", [k for k in KINDS if k not in ("free", "dovetailed_box")])
def test_the_lines_of_a_story_stick_add_up_to_its_marks_whatever_is_measured(kind):
    """Every part two millimetres longer, wider, thicker: the lines come to what lies between the first and the last mark."""
    project = fresh(kind)
    for one in plan(project).piece.parts:
        for dimension, size in zip(("length", "width", "thickness"), one.sizes, strict=True):
            measured = (Measured(part=one.id, dimension=dimension, value=round(size + 2, 1)),)
            worked = plan(marked(project, measured=measured)).piece.in_hand.worked
            for chain in worked.chains if worked else ():
                marks = list(worked.sizes.rods.marks(chain.rod).values())
                assert sum(x.times * x.each for x in chain.lines) == pytest.approx(marks[-1] - marks[0], abs=0.051)


@pytest.mark.parametrize("kind", [k for k in KINDS if k not in ("free", "dovetailed_box")])
def test_no_kind_fails_a_check_by_what_it_gives_itself(kind):
    """By its defaults, with all there is to be had, and a table on legs of any thickness."""
    asks = KINDS[kind].asks
    every = {a.name: True for a in asks if a.type == "yesno"}
    tries = [{}, every, *({**every, "leg": leg} for leg in (30.0, 34.0, 38.0, 50.0) if kind == "small_table")]
    for asked in tries:
        now = plan(project(kind, **asked))
        assert not now.joints.problem
        assert [c.text for j in now.joints.joints for c in j.checks if not c.holds] == []
        assert [f for made in now.piece.made for f in made.failing()] == []


def test_a_joint_that_cannot_be_laid_out_gives_no_size():
    """A shelf whose dado is asked to leave more free than it is deep is as long as one with no dado at all."""
    asked_too_much = Put(owner="dado-1-left", what="free", value=50.0)
    for one, none in ((asked_too_much, Drop(id="dado-1-left")),):
        now, without = (plan(project("shelves", edits=(e,))) for e in (one, none))
        assert {p.id: p.sizes for p in now.piece.parts} == {p.id: pytest.approx(p.sizes) for p in without.piece.parts}
        assert any("dado-1-left is set aside" in c.question for c in now.calls)


def test_a_shelf_that_stands_in_its_side_already_is_given_no_dado():
    shelf = AddPart(id="shelf", label="shelf", length=320, width=200, thickness=18, face="up", upper="back")
    side = AddPart(
        id="side", label="side", length=400, width=200, thickness=18, face="left", upper="back", at=(310, 0, -100)
    )
    mine = project(
        "free", edits=(shelf, side, AddJoint(id="j", family="dado", first="shelf", second="side", way="right"))
    )
    now = plan(mine)
    assert not now.joints.joints
    assert any("stands" in c.question and "in side already" in c.question for c in now.calls)
    assert now.piece.in_hand.outside[0] == pytest.approx(328)
