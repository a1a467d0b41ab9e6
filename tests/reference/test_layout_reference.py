"""Layouts: trees of full cuts, clear of faults, held to account by shapely (a general geometry library) and our checker."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box as rectangle
from shapely.ops import unary_union

from nullah.core.document.project import Defect
from nullah.core.layout.check import problems
from nullah.core.layout.model import Blank, Options, Stock, blocks, cuts, leaves
from nullah.core.layout.saw import SawBoard, saw_plan, totals
from nullah.core.layout.search import search
from nullah.core.layout.ways_out import ways_out
from nullah.core.values.frozen import replace
from nullah.core.values.measure import told

SHOW = frozenset()
HIDDEN = frozenset({"sound knot", "sapwood", "run-out"})


def stock(
    name="b1", length=2000.0, width=200.0, thickness=25.0, defects=(), species="white ash", trims=(0.0, 0.0, 0.0, 0.0)
):
    left, right, low, high = trims
    return Stock(
        name,
        name,
        species,
        length,
        width,
        left,
        length - right,
        low,
        width - high,
        thickness,
        tuple(defects),
        lambda *_: thickness,
    )


def blank(
    name,
    length=300.0,
    width=100.0,
    thickness=18.0,
    forgives=SHOW,
    end_zone=0.0,
    group="",
    species="white ash",
    in_order=False,
):
    return Blank(name, length, width, thickness, species, (length, width), forgives, end_zone, group, in_order)


def fault(kind="loose knot", x=0.0, y=0.0, length=30.0, width=30.0, name="f"):
    return Defect(id=name, kind=kind, x=x, y=y, length=length, width=width)


def shapes(layout, use):
    return [
        (b.board, n, rectangle(n.x, n.y, n.x + n.length, n.y + n.width))
        for b in layout.boards
        for n in leaves(b.root)
        if n.use in use
    ]


def hold_to_account(layout, boards, blanks):
    """By shapely: nothing overlaps, areas with kerfs make up the board, parts are whole and clear of faults."""
    by_id = {s.id: s for s in boards}
    wanted = {b.id: b for b in blanks}
    for board in layout.boards:
        s = by_id[board.board]
        whole = rectangle(0, 0, s.length, s.width)
        pieces = [
            rectangle(n.x, n.y, n.x + n.length, n.y + n.width)
            for n in leaves(board.root)
            if n.length > 1e-9 and n.width > 1e-9
        ]
        kerfs = []
        for n in cuts(board.root):
            if n.axis == "across":
                kerfs.append(rectangle(n.at, n.y, min(n.at + n.kerf, n.x + n.length), n.y + n.width))
            else:
                kerfs.append(rectangle(n.x, n.at, n.x + n.length, min(n.at + n.kerf, n.y + n.width)))
        everything = pieces + kerfs
        assert sum(p.area for p in everything) == pytest.approx(whole.area, rel=1e-9)
        assert unary_union(everything).symmetric_difference(whole).area < 1e-3
    placed = shapes(layout, {"part"})
    assert sorted([n.part for _, n, _ in placed] + [p for p, _ in layout.unplaced]) == sorted(wanted)
    for board, node, shape in placed:
        b = wanted[node.part]
        assert node.length == pytest.approx(b.length)
        assert node.width >= b.width - 1e-6
        for d in by_id[board].defects:
            if d.kind not in b.forgives:
                assert (
                    shape.intersection(rectangle(d.x, d.y, d.x + d.length, d.y + d.width)).area < 1e-2
                )  # mm2: a hair of 1e-6 mm along a long edge
    assert problems(layout.boards, boards, [wanted[n.part] for _, n, _ in placed]) == ()


sizes = st.tuples(st.floats(60, 700), st.floats(20, 160), st.sampled_from([SHOW, HIDDEN]), st.floats(0, 40))
faults = st.tuples(
    st.sampled_from(["sound knot", "loose knot", "check", "sapwood", "run-out"]),
    st.floats(0, 1900),
    st.floats(0, 170),
    st.floats(5, 200),
    st.floats(5, 60),
)


@given(st.lists(sizes, min_size=1, max_size=9), st.lists(faults, max_size=5), st.booleans(), st.floats(0, 90))
def test_property_every_layout_stands_up_to_shapely(parts, defects, rip_first, trim):
    boards = [
        stock(
            "b1",
            defects=[fault(k, x, y, a, b, str(i)) for i, (k, x, y, a, b) in enumerate(defects)],
            trims=(trim, trim / 2, 0, 3),
        ),
        stock("b2", length=1100, width=150),
    ]
    blanks = [blank(f"p{i}", round(a, 1), round(b, 1), forgives=f, end_zone=z) for i, (a, b, f, z) in enumerate(parts)]
    for layout in search(boards, blanks, Options(first="rip" if rip_first else "crosscut")):
        hold_to_account(layout, boards, blanks)


@given(st.lists(faults, max_size=4))
def test_property_four_sides_come_in_order_from_one_length(defects):
    boards = [stock("b1", defects=[fault(k, x, y, a, b, str(i)) for i, (k, x, y, a, b) in enumerate(defects)])]
    blanks = [
        blank(n, length, 120, end_zone=30, group="sides", in_order=True)
        for n, length in zip("ABCD", (380, 150, 380, 150), strict=True)
    ]
    for layout in search(boards, blanks, Options()):
        hold_to_account(layout, boards, blanks)
        if not layout.split_groups and not layout.unplaced:
            at = {n.part: n for _, n, _ in shapes(layout, {"part"})}
            assert at["A"].x < at["B"].x < at["C"].x < at["D"].x
            assert len({round(n.y, 6) for n in at.values()}) == 1


def test_knots_are_kept_out_of_joints_though_the_role_forgives_them():
    knot = fault("sound knot", 20, 20)
    b = blank("p", 300, 100, forgives=HIDDEN, end_zone=60)
    assert blocks(knot, b, 0, 0, 300, 100)
    assert not blocks(knot, b, 0, 0, 300, 20)
    assert not blocks(fault("sound knot", 150, 20), b, 0, 0, 300, 100)
    assert blocks(fault("loose knot", 150, 20), b, 0, 0, 300, 100)


@pytest.mark.parametrize(
    ("wrong", "why"),
    [
        ({"species": "mahogany"}, "no board of mahogany"),
        ({"thickness": 40.0}, "the thickest white ash is 25"),
        ({"length": 3000.0}, "the longest thick enough has 2000"),
        ({"width": 260.0}, "the widest thick enough has 200"),
    ],
)
def test_what_does_not_fit_says_why(wrong, why):
    (layout, *_) = search([stock()], [blank("p", **wrong)], Options())
    assert layout.boards == ()
    assert why in told(layout.unplaced[0][1])


def test_an_accepted_layout_is_told_what_is_wrong_with_it_now():
    boards, blanks = [stock()], [blank("p"), blank("q")]
    layout = search(boards, blanks, Options())[0]
    leaf = next(n for _, n, _ in shapes(layout, {"part"}))
    knotty = [stock(defects=[fault(x=leaf.x + 50, y=leaf.y + 20)])]
    assert any("loose knot" in p for p in problems(layout.boards, knotty, blanks))
    assert any("thick" in p for p in problems(layout.boards, [stock(thickness=15)], blanks))
    assert any("no longer here" in p for p in problems(layout.boards, [], blanks))
    assert any("no place" in p for p in problems(layout.boards, boards, [*blanks, blank("r")]))
    assert any("no longer wanted" in p for p in problems(layout.boards, boards, blanks[:1]))
    assert any("trimmed" in p for p in problems(layout.boards, [stock(trims=(20, 0, 0, 0))], blanks))
    broken = layout.boards[0].root.model_copy(update={"at": layout.boards[0].root.at + 3})
    assert any(
        "right across" in p for p in problems([layout.boards[0].model_copy(update={"root": broken})], boards, blanks)
    )


def test_a_sold_length_in_three_loses_its_kerfs():
    # common practice, no source: 3660 in three with a 1.5 kerf gives 1219 each
    boards = [stock(length=3660, width=100)]
    thirds = [blank(str(i), 1219, 100) for i in range(3)]
    layout = search(boards, thirds, Options(crosscut_kerf=1.5))[0]
    assert layout.unplaced == ()
    hold_to_account(layout, boards, thirds)
    longer = [blank(str(i), 1219.1, 100) for i in range(3)]
    assert len(search(boards, longer, Options(crosscut_kerf=1.5))[0].unplaced) == 1


def test_effort_is_the_area_the_saw_goes_through():
    layout = search([stock(length=2000, width=100)], [blank("p", 2000 - 700, 100)], Options())[0]
    sums = totals(saw_plan(layout.boards, {"b1": SawBoard(25.0)}))
    assert sums.across == pytest.approx(100 * 25 / 1e6)
    assert sums.along == 0


def ways_for(board, *blanks):
    layout = search([board], blanks, Options())[0]
    return ways_out([board], blanks, Options(), layout)


def test_a_part_that_a_knot_keeps_out_may_hold_it_or_a_board_is_bought():
    """Parts are called by the names they have, not by ids; what is bought is sold so, and large enough."""
    knotty = stock(length=1000.0, width=120.0, defects=[fault("sound knot", x=480.0, y=40.0)])
    hold, buy = ways_for(knotty, blank("2.top", length=900.0))
    called = {"2.top": "Table: top"}.get
    assert hold.said(called) == "Let Table: top hold sound knots and sapwood outside the joints: then all has a place."
    # 18 thick is sawn from 25 (a trade size); 900 with 60 for the ends from 1800, the shortest sold; 100 wide and 6 from 125
    assert told(buy.said(called)) == (
        "Or buy a board of white ash, 25 thick, 125 wide or more and 1800 long: 0.23 m\u00b2 for Table: top."
    )


def test_half_the_allowance_is_a_way_out_only_where_it_is_enough():
    short = stock(length=890.0, width=120.0)
    part = blank("a", length=900.0)
    enough, too_little = (replace(part, least=(long, 100.0)) for long in (880.0, 895.0))
    assert [w.words.split(" on ")[0] for w in ways_for(short, enough)[:-1]] == ["Leave half the allowance"]
    assert len(ways_for(short, too_little)) == 1  # to buy one
    assert ways_for(stock(length=1000.0), part) == ()
