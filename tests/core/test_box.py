"""The box: chains that add up, parts that meet, measured values that run downstream."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.document.pieces import Contents, Piece
from nullah.core.document.project import Measured
from nullah.core.edits import edit, measuring
from nullah.core.joints.dovetail import NoDovetail, groove_place
from nullah.core.pieces.box import BoxTooSmall, Facts, work_out
from nullah.core.pieces.box_joints import corner_layout, corners
from nullah.core.pieces.chains import stands
from nullah.core.planning.plan import plan

PIECE = Piece(
    contents=Contents(count=60, width=84, height=112, thickness=4.2),
    dividers=4,
    lid="sliding",
    bottom_thickness=7,
    lid_thickness=8,
)


def said(part, dimension, value):
    return Measured(part=part, dimension=dimension, value=value)


def test_chains_add_up_to_the_outside():
    box = work_out(PIECE, Facts())
    assert [c.total for c in box.chains] == pytest.approx(list(box.outside))
    for chain in box.chains:
        assert sum(line.times * line.each for line in chain.lines) == pytest.approx(chain.total)


def test_what_it_holds_goes_in():
    box = work_out(PIECE, Facts())
    # five bays of twelve packets, with room on both sides
    assert box.bay == pytest.approx(12 * 4.2 + 2 * 3)
    assert box.inside[1] == pytest.approx(84 + 2 * 3)
    clear = box.outside[2] - box.groove_from_edge - 7 - 8 - box.lid_from_edge
    assert clear == pytest.approx(112 + 3)


def test_how_things_stand_turns_them():
    c = Contents(width=80, height=110, thickness=5)
    assert stands(c) == (80, 110, 5)
    assert stands(c.model_copy(update={"stand": "on edge"})) == (110, 80, 5)
    assert stands(c.model_copy(update={"stand": "flat"})) == (80, 5, 110)


def test_walls_meet_at_every_corner():
    box = work_out(PIECE, Facts(measured=(said("A", "thickness", 17.4), said("D", "thickness", 18.3))))
    assert box.outside[0] == pytest.approx(box.inside[0] + box.thickness["B"] + box.thickness["D"])
    assert box.outside[1] == pytest.approx(box.inside[1] + box.thickness["A"] + box.thickness["C"])


def test_a_thin_wall_widens_the_inside_or_shortens_the_outside():
    planned = work_out(PIECE, Facts())
    thin = (said("A", "thickness", 17.4),)
    outside = work_out(PIECE, Facts(measured=thin, hold={"width": "outside"}))
    inside = work_out(PIECE, Facts(measured=thin, hold={"width": "inside"}))
    assert outside.outside == pytest.approx(planned.outside)
    assert outside.inside[1] == pytest.approx(planned.inside[1] + 0.6)
    assert inside.inside[1] == pytest.approx(planned.inside[1])
    assert inside.part("B").length == pytest.approx(planned.part("B").length - 0.6)
    # the depth of what is cut in it follows: a third of 17.4
    assert outside.groove_depth == pytest.approx(5.8)
    assert outside.part("bottom").width == pytest.approx(planned.part("bottom").width + 0.6 - 2 * 0.2, abs=0.02)


def test_parts_fitted_to_the_opening_follow_it_as_built():
    box = work_out(PIECE, Facts(measured=(said("opening", "width", 91.2),)))
    planned = work_out(PIECE, Facts())
    assert box.part("1").length == pytest.approx(planned.part("1").length + 1.2)
    assert box.part("A").length == planned.part("A").length


def test_a_thick_divider_takes_room_from_the_bays_not_from_the_walls():
    box = work_out(PIECE, Facts(measured=tuple(said(str(i), "thickness", 9.6) for i in range(1, 5))))
    assert box.outside == pytest.approx(work_out(PIECE, Facts()).outside)
    assert box.divider_thickness == 9.6
    assert 5 * box.bay + 4 * 9.6 == pytest.approx(box.inside[0])
    assert box.bay >= box.bay_needed


def test_a_sliding_lid_passes_over_the_lowered_end():
    box = work_out(PIECE, Facts())
    assert box.part("B").width == pytest.approx(box.outside[2] - box.lid_from_edge - box.lid_thickness)
    assert box.part("lid").length == pytest.approx(box.inside[0] + box.groove_depth + 18 - 0.5)
    lifted = work_out(PIECE.model_copy(update={"lid": "lift-off"}), Facts())
    assert lifted.part("B").width == lifted.outside[2]
    assert lifted.part("lid").sizes[:2] == pytest.approx(lifted.outside[:2])


@pytest.mark.parametrize("place", ["tail", "pin"])
@pytest.mark.parametrize("wall", [12.0, 18.0, 22.0])
def test_the_grooves_lie_where_they_are_meant_to(place, wall):
    piece = PIECE.model_copy(update={"wall": wall})
    box = work_out(piece, Facts(groove=place))
    for _, tail, pin, width in corners(box):
        joint = corner_layout(piece, box, tail, pin, width)
        assert groove_place(joint, box.groove_from_edge, box.groove_from_edge + 7) == f"inside a {place}"
    _, tail, pin, width = corners(box)[3]
    joint = corner_layout(piece, box, tail, pin, width)
    low = width - box.lid_from_edge - 8
    assert groove_place(joint, low, low + 8) == f"inside a {place}"


@given(
    st.integers(1, 200),
    st.floats(10, 300),
    st.floats(10, 300),
    st.floats(1, 80),
    st.integers(0, 8),
    st.floats(6, 30),
    st.sampled_from(["upright", "on edge", "flat"]),
    st.sampled_from(["sliding", "lift-off", "none"]),
)
def test_property_any_box_holds_its_contents_or_says_why_not(
    count, width, height, thickness, dividers, wall, stand, lid
):
    piece = Piece(
        contents=Contents(count=count, width=width, height=height, thickness=thickness, stand=stand),
        dividers=dividers,
        wall=wall,
        lid=lid,
    )
    try:
        box = work_out(piece, Facts())
        for _, tail, pin, joint_width in corners(box):
            joint = corner_layout(piece, box, tail, pin, joint_width)
            assert joint.tails * joint.step + 2 * joint.half_pin - joint.pin == pytest.approx(joint_width)
    except (BoxTooSmall, NoDovetail) as said_why:
        assert str(said_why)[-1] == "."
        return
    across, up, _ = stands(piece.contents)
    assert box.inside[1] >= across
    assert box.bay >= box.bay_needed - 1e-9
    assert box.outside[2] > up or stand == "flat"
    assert all(v > 0 for p in box.parts for v in p.sizes)


def test_too_small_for_its_dividers():
    piece = Piece(contents=Contents(count=1, width=50, height=50, thickness=3), dividers=8, extra_length=-80)
    with pytest.raises(BoxTooSmall, match="dividers"):
        work_out(piece, Facts())
    with pytest.raises(BoxTooSmall, match="width leaves"):
        work_out(Piece(extra_width=-80), Facts())


@pytest.mark.parametrize(
    ("said", "there", "way"),
    [("bottom length 400", 329.5, "trim"), ("1 length 90", 102.0, "keep"), ("lid length 341", 341.5, "keep")],
)
def test_what_goes_into_a_box_and_measures_otherwise_is_a_call(said, there, way):
    """The demo's box is 354 long in walls of 18, and 318 within them; its bottom lies 5.75 deep in grooves of 6."""
    project = demo.box()
    now = plan(measuring.measured(project, plan(project).piece.parts, said))
    name, dimension, mm = said.split()
    call = now.call(f"fit {name} {dimension}")
    assert call is not None
    assert call.recommended == way
    assert call.asked == f"{float(mm):.1f}, {there:.1f}"
    back = edit.take(now.project, call, "trim" if way == "trim" else "again")
    assert plan(back).call(call.id) is None
    assert plan(measuring.measured(project, now.piece.parts, f"{name} {dimension} {there}")).call(call.id) is None
