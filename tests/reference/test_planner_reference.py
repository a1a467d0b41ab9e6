"""The planner against shapely (a general geometry library), brute force, and cases sawn up beforehand, so that all is known to fit."""

import os
import random
from dataclasses import replace
from itertools import combinations, pairwise
from types import SimpleNamespace

import cases
import general
import proved
import pytest
import relaxed
from hypothesis import given
from hypothesis import strategies as st
from random_projects import edges, outline
from shapely.geometry import box as rectangle
from shapely.ops import unary_union
from test_layout_reference import HIDDEN, SHOW, blank, fault, hold_to_account, shapes, stock

from nullah.core.document.project import Board
from nullah.core.layout.clear import largest_clear, union_area
from nullah.core.layout.graft import only_parts
from nullah.core.layout.merit import apart
from nullah.core.layout.model import Options, leaves
from nullah.core.layout.offers import Offers
from nullah.core.layout.planner import Planner
from nullah.core.layout.recut import not_again, with_spares_left
from nullah.core.stations.breakdown import LeftWhenFlat, no_wood
from nullah.core.surface.readings import Heights, Surface
from nullah.processes.messages import Task
from nullah.processes.planner import reports

KINDS = ("sound knot", "loose knot", "check", "sapwood", "run-out", "wane")


def searched(boards, blanks, options=None, rounds=60, seed=1, begun=()):
    """A planner after so many rounds of placing, and as many of saving where all has a place."""
    planner = Planner(boards, blanks, options or Options(), seed, begun)
    for i in range(4):
        planner.advance(rounds // 2, i / 4)
    return planner


def any_case(seed):
    """Boards with faults, trims and tapers, and parts of every role and group, at random."""
    rng = random.Random(seed)
    boards, tapers = [], {}
    for i in range(rng.randint(1, 4)):
        length, width = rng.uniform(300, 2400), rng.uniform(60, 300)
        defects = []
        for k in range(rng.randint(0, 6)):
            x, y = rng.uniform(0, length * 0.98), rng.uniform(0, width * 0.98)
            one = fault(rng.choice(KINDS), x, y, rng.uniform(1, 200), rng.uniform(1, 80), str(k))
            defects.append(one.model_copy(update={"face": rng.choice(["both", "face", "back"])}))
        upper, lower = edges(rng, length, width, rng.random() < 0.4, rng.random() < 0.2)
        board = Board(id="b", name="b", species="white ash", length=length, width=width, thickness=25)
        board = board.model_copy(update={"upper": upper, "lower": lower})
        tapers[f"b{i}"] = outline(board)
        trims = tuple(rng.choice([0, 0, rng.uniform(0, 30)]) for _ in range(4))
        species = rng.choice(["white ash", "white ash", "American elm"])
        one = stock(f"b{i}", length, width, 25.0, defects, species, trims)
        boards.append(replace(one, edges=no_wood(board)))
    blanks = []
    for i in range(rng.randint(1, 14)):
        size = (rng.uniform(20, 900), rng.uniform(10, 200))
        role = rng.choice([SHOW, HIDDEN])
        species = rng.choice(["white ash", "white ash", "American elm"])
        one = blank(f"p{i}", *size, rng.choice([18.0, 25.0, 30.0]), role, rng.choice([0.0, 0.0, 30.0]), "", species)
        blanks.append(replace(one, hides=frozenset({"sound knot", "sapwood"})))
    for group in range(rng.randint(0, 2)):
        width = rng.uniform(40, 150)
        for k in range(rng.randint(2, 4)):
            blanks.append(blank(f"g{group}{k}", rng.uniform(40, 300), width, group=f"g{group}", in_order=True))
    rng.shuffle(blanks)
    kerfs = (rng.choice([0.0, 1.5, 3.0]), rng.choice([0.0, 0.7, 1.5]))
    return boards, tapers, blanks, Options(*kerfs, first=rng.choice(["crosscut", "rip"])), rng


def held(layout, boards, tapers, blanks):
    """All that ``hold_to_account`` asks, and no part past a tapering edge; faults of one face may be turned away."""
    turned = [
        replace(s, defects=tuple(d for d in s.defects if d.face == "both" or d.kind not in ("sound knot", "sapwood")))
        for s in boards
    ]
    hold_to_account(layout, turned, blanks)
    for board, _, shape in shapes(layout, {"part"}):
        assert shape.difference(tapers[board]).area < 1e-2


@given(st.integers(0, 2**32))
def test_property_whatever_the_planner_returns_can_be_sawn(seed):
    boards, tapers, blanks, options, rng = any_case(seed)
    planner = searched(boards, blanks, options, 30, seed % 1000 + 1)
    layout = planner.layout()
    held(layout, boards, tapers, blanks)
    placed = sum(b.length * b.width for b in blanks if b.id not in dict(layout.unplaced))
    assert planner.progress.placed == pytest.approx(placed / sum(b.length * b.width for b in blanks))
    assert not planner.saving or layout.unplaced == ()  # once all has a place, none is given up
    assert planner.progress.placed <= planner.bound().placed_area_share_at_most + 1e-9
    for members in {b.group for b in blanks if b.group}:
        at = [n for _, n, _ in shapes(layout, {"part"}) if n.part.startswith(members)]
        order = [b.id for b in blanks]
        at.sort(key=lambda n: order.index(n.part))
        assert all(a.x + a.length <= b.x for a, b in pairwise(at))
        assert len({round(n.y, 6) for n in at}) <= 1
    # pinned: some parts stay, all else is laid anew
    pins = frozenset(
        n.part for _, n, _ in shapes(layout, {"part"}) if rng.random() < 0.4 and not n.part.startswith("g")
    )
    by_id = {s.id: s for s in boards}
    begun = [only_parts(b, pins, by_id[b.board]) for b in layout.boards if any(n.part in pins for n in leaves(b.root))]
    again = searched(boards, [b for b in blanks if b.id not in pins], options, 10, 3, begun).layout()
    held(again, boards, tapers, blanks)
    where = {n.part: (b, n.x, n.y) for b, n, _ in shapes(layout, {"part"})}
    assert all(where[n.part] == (b, n.x, n.y) for b, n, _ in shapes(again, {"part"}) if n.part in pins)


def most_by_force(board, parts, kerf):
    """The largest area of parts that full cuts can free from one clear board: every way of joining every set."""
    boxes = {frozenset([i]): [(p.length, p.width)] for i, p in enumerate(parts)}
    for many in range(2, len(parts) + 1):
        for chosen in combinations(range(len(parts)), many):
            whole, found = frozenset(chosen), []
            for few in range(1, many // 2 + 1):
                for half in combinations(chosen, few):
                    one, other = frozenset(half), whole - frozenset(half)
                    for a, b in ((x, y) for x in boxes[one] for y in boxes[other]):
                        found += [(a[0] + kerf + b[0], max(a[1], b[1])), (max(a[0], b[0]), a[1] + kerf + b[1])]
            found = [f for f in found if f[0] <= board.length + 1e-9 and f[1] <= board.width + 1e-9]
            found = [f for f in set(found) if not any(g != f and g[0] <= f[0] and g[1] <= f[1] for g in found)]
            boxes[whole] = found
    fitting = [s for s, b in boxes.items() if any(x[0] <= board.length and x[1] <= board.width for x in b)]
    return max((sum(parts[i].length * parts[i].width for i in s) for s in fitting), default=0.0)


@pytest.mark.parametrize("seed", range(12))
def test_small_cases_reach_the_optimum_that_brute_force_finds(seed):
    rng = random.Random(seed)
    board = stock("b", length=rng.uniform(500, 900), width=rng.uniform(120, 220))
    parts = [blank(f"p{i}", rng.uniform(90, 420), rng.uniform(30, 120)) for i in range(7)]
    best = most_by_force(board, parts, 1.5)
    planner = Planner([board], parts, Options(1.5, 1.5))
    asked = sum(p.length * p.width for p in parts)
    while planner.rounds < 60_000 and planner.progress.placed * asked < best - 1e-6:
        planner.advance(1_000, planner.rounds / 60_000)
    assert planner.progress.placed * asked == pytest.approx(best, rel=1e-9)
    assert planner.bound().placed_area_share_at_most * asked >= best - 1e-3


@pytest.mark.parametrize("seed", [1, 2, 5, 7, 8, 9, 10])
def test_sets_round_faults_reach_the_optimum_that_a_general_solver_proves(seed):
    """OR-Tools' constraint solver, which does not ask for full cuts: it can prove more than fits, and never less."""
    boards, blanks = cases.sets(2, seed, lengths=cases.LONG, widths=cases.WIDE)
    found, most = general.share_at_most(boards, blanks, cases.KERF, 30.0)
    assert found == pytest.approx(most, abs=1e-9)
    assert found - 1e-9 <= relaxed.share_at_most(boards, blanks, cases.KERF, 5.0)
    options = Options(cases.KERF, cases.KERF)
    assert found <= Planner(boards, blanks, options).bound().placed_area_share_at_most
    for listing in (0.0, 0.5):
        assert proved.share_at_most(boards, blanks, cases.KERF, 20.0, found, listing) == pytest.approx(most, abs=2e-4)
    planner = Planner(boards, blanks, options)
    while planner.rounds < 20_000 and planner.progress.placed < most - 1e-9:
        planner.advance(500, planner.rounds / 20_000)
    assert planner.progress.placed == pytest.approx(most, abs=1e-9)
    hold_to_account(planner.layout(), boards, blanks)


@given(st.integers(0, 2**32))
def test_property_what_was_sawn_up_round_faults_is_within_the_bounds(seed):
    rng = random.Random(seed)
    boards, blanks = cases.sawn(2, rng.randint(6, 14), seed, rng.random() < 0.5, True)
    assert relaxed.share_at_most(boards, blanks, cases.KERF, 2.0) > 1 - 1e-4
    assert Planner(boards, blanks, Options(cases.KERF, cases.KERF)).bound().placed_area_share_at_most == 1.0


def test_the_same_seed_and_work_give_the_same_layout():
    boards, _, blanks, options, _ = any_case(11)
    one, two = (searched(boards, blanks, options, 80, seed=5).layout() for _ in range(2))
    assert one == two


def sawn_up(seed, boards, per_board, kerf=1.5):
    """Boards sawn at random by full cuts, and their pieces as parts: all fits, with nothing to spare."""
    rng = random.Random(seed)
    stocks, blanks = [], []
    for b in range(boards):
        length, width = round(rng.uniform(900, 2500)), round(rng.uniform(150, 300))
        stocks.append(stock(f"b{b}", length=length, width=width))
        pieces = [(float(length), float(width))]
        while len(pieces) < per_board:
            i = max(range(len(pieces)), key=lambda i: pieces[i][0] * pieces[i][1] * rng.random())
            along, wide = pieces.pop(i)
            if along > 2.5 * wide or wide < 70:
                at = round(along * rng.uniform(0.3, 0.7), 1)
                pieces += [(at, wide), (along - at - kerf, wide)]
            else:
                at = round(wide * rng.uniform(0.3, 0.7), 1)
                pieces += [(along, at), (along, wide - at - kerf)]
        blanks += [blank(f"p{b}-{i}", *p) for i, p in enumerate(pieces)]
    rng.shuffle(blanks)
    return stocks, blanks


@pytest.mark.parametrize(("boards", "per_board", "rounds"), [(4, 5, 2_000), (10, 6, 20_000)])
def test_what_was_sawn_up_without_a_rest_is_put_together_again(boards, per_board, rounds):
    stocks, blanks = sawn_up(boards, boards, per_board)
    planner = Planner(stocks, blanks, Options(1.5, 1.5))
    while planner.rounds < rounds and planner.progress.unplaced:
        planner.advance(100, planner.rounds / rounds)
    assert planner.progress.unplaced == 0
    hold_to_account(planner.layout(), stocks, blanks)


def at_most(boards, parts, kerf=1.5, begun=()):
    return Planner(boards, parts, Options(kerf, kerf), 1, begun).bound().placed_area_share_at_most


def test_the_bound_counts_kerfs_lines_and_what_no_part_reaches():
    board = stock(length=1000, width=100)
    quarters = [blank(f"a{i}", 250, 50) for i in range(8)]
    assert at_most([board], quarters, 0.0) == 1.0
    assert at_most([board], quarters) == pytest.approx(3 / 8)  # three in a row, and one row: a kerf is wanting
    assert at_most([board], [blank("a", 600, 100), blank("b", 600, 100)]) == pytest.approx(0.5)
    split = stock(length=1000, width=100, defects=[fault("split", 400, 0, 200, 100)])
    assert at_most([split], [blank("a", 600, 100)]) == 0.0
    assert at_most([split], [blank(f"a{i}", 300, 60) for i in range(4)]) == pytest.approx(0.5)  # one in each half
    assert at_most([], quarters) == 0.0
    two = [blank("a", 500, 100), blank("b", 499, 100)]
    full = Planner([board], two[:1], Options(0.0, 0.0))
    full.advance(50, 0.0)
    (begun,) = full.layout().boards
    assert at_most([board], two[1:], 0.0, [begun]) == 1.0  # beside what is pinned
    assert at_most([board], [blank("c", 501, 100)], 0.0, [begun]) == 0.0


@pytest.mark.parametrize("seed", range(30))
def test_largest_clear_rectangles_by_brute_force(seed):
    rng = random.Random(seed)
    faults = []
    for _ in range(rng.randint(0, 5)):
        x, y = rng.randrange(0, 36), rng.randrange(0, 14)
        faults.append((10.0 * x, 10.0 * y, 10.0 * (x + rng.randint(1, 9)), 10.0 * (y + rng.randint(1, 6))))
    inside = (0.0, 0.0, 400.0, 150.0)
    xs, ys = ([10.0 * i for i in range(n)] for n in (41, 16))
    clear = {
        (a, b, c, d)
        for a, c in combinations(xs, 2)
        for b, d in combinations(ys, 2)
        if not any(f[0] < c and f[2] > a and f[1] < d and f[3] > b for f in faults)
    }
    grown = [(-10, 0, 0, 0), (0, -10, 0, 0), (0, 0, 10, 0), (0, 0, 0, 10)]
    largest = {b for b in clear if not any(tuple(p + q for p, q in zip(b, g, strict=True)) in clear for g in grown)}
    found = largest_clear(inside, faults)
    assert set(found) == largest
    assert union_area(found) == pytest.approx(unary_union([rectangle(*f) for f in found]).area if found else 0.0)


def test_a_warped_board_gives_thick_parts_only_where_they_are_short():
    """Cup over the width costs the same anywhere, bow costs a quarter over half the length (closed forms of truing)."""
    bow = 8.0  # mm in the middle of the whole length
    warped = (bow, 0.0, 0.0)
    surface = Surface(2000.0, 150.0, Heights(warped), Heights(warped, (-25.0, 0.0, 0.0)))
    board = replace(stock(width=150), thickness_in=LeftWhenFlat(surface))
    long, short = blank("long", 1500, 140, 22.0), blank("short", 900, 140, 22.0)
    assert [p for p, _ in searched([board], [long], Options()).layout().unplaced] == ["long"]
    planner = searched([board], [short, replace(short, id="short 2")], Options())
    assert planner.layout().unplaced == ()
    for _, n, _ in shapes(planner.layout(), {"part"}):
        assert surface.slab(n.x, n.y, n.length, n.width).thickness >= 22.0 - 0.05


def test_ways_are_offered_side_by_side_and_none_leaves_out_more():
    boards = [stock("b1"), stock("b2", length=1500), stock("b3", length=900, width=120)]
    blanks = [blank(f"p{i}", 300 + 20 * i, 60 + 8 * i) for i in range(8)]
    offers = Offers(boards, blanks, Options())
    for i in range(60):
        offers.advance(40, i / 60)
    shown = offers.layouts()
    assert len(shown) > 1
    assert all(one.unplaced == () for one in shown)
    assert len({one.name for one in shown}) == len(shown)
    for one in shown:
        hold_to_account(one, boards, blanks)


def test_ways_that_only_save_otherwise_wait_until_the_first_has_found_a_place_for_all():
    boards, blanks = sawn_up(3, 6, 6)
    offers = Offers(boards, blanks, Options(1.5, 1.5))
    (_, lead), *others = offers.ways
    while lead.progress.unplaced and lead.rounds < 20_000:
        assert all(planner.rounds == 0 for _, planner in others)
        offers.advance(20, 0.2)
    offers.advance(20, 0.3)
    assert all(planner.progress.unplaced == 0 for _, planner in others)
    for planner in (lead, *(p for _, p in others)):
        hold_to_account(planner.layout(), boards, blanks)


def test_mates_may_come_from_one_board_and_a_second_of_a_part_may_be_left():
    boards = [stock(f"b{i}", length=1000, width=100) for i in range(3)]
    mates = [blank(f"m{i}", 310, 95, group="mates") for i in range(3)]
    blanks = [*mates, *(blank(f"p{i}", 330, 95) for i in range(2)), blank("long", 640, 95)]
    # laid any way at all, with mates spread and what is left in short pieces
    homes = [frozenset({"b0"}), frozenset({"b1"}), frozenset({"b2"})]
    on = {"m0": 0, "p0": 0, "m1": 1, "p1": 1, "m2": 2, "long": 2}
    spread = searched(boards, [replace(b, boards=homes[on[b.id]]) for b in blanks], Options(1.5, 1.5)).layout()
    assert set(apart(spread, blanks)["mates"]) == {"b0", "b1", "b2"}
    assert [b.id for b in not_again(spread, boards, blanks)] == ["long"]
    offers = Offers(boards, blanks, Options(1.5, 1.5))
    offers.widen_from(spread)
    for i in range(80):
        offers.advance(40, i / 80)
    ways = {one.name: one for one in offers.layouts()}
    for one in ways.values():
        hold_to_account(one, boards, blanks)
    found = {name: p.layout() for name, p in offers.ways}
    assert found["mates from one board"].unplaced == ()
    assert apart(found["mates from one board"], mates) == {}
    spare = with_spares_left(found["a second long left over"], 150.0)
    assert spare.unplaced == ()
    assert not_again(spare, boards, blanks) == ()
    assert any(n.length >= 640 for _, n, _ in shapes(spare, {"offcut"}))


def test_parts_come_only_from_boards_they_may_come_from():
    boards = [stock("b0", length=1000, width=100), stock("b1", length=700, width=100)]
    blanks = [replace(blank(f"p{i}", 200, 90), boards=frozenset({"b1"})) for i in range(4)]
    layout = searched(boards, blanks).layout()
    assert {b for b, _, _ in shapes(layout, {"part"})} == {"b1"}
    assert len(layout.unplaced) == 1  # the other board has room, and is not theirs


@given(st.integers(0, 2**32))
def test_property_what_could_be_cut_again_is_cut_again(seed):
    """A part that is said to be left over once more is laid on what is left, by the planner itself."""
    boards, _, blanks, options, _ = any_case(seed)
    layout = searched(boards, blanks, options, 20).layout()
    short = {b.id for b in not_again(layout, boards, blanks)}
    again = [b for b in blanks if b.id not in short and b.id not in dict(layout.unplaced)][:3]
    used = {b.board: b for b in layout.boards}
    everything = frozenset(b.id for b in blanks)
    by_id = {s.id: s for s in boards}
    for one in again:
        begun = [only_parts(b, everything, by_id[b.board]) for b in used.values()]
        found = searched(
            boards, [replace(one, id="again", group="", in_order=False)], options, 60, begun=begun
        ).layout()
        assert found.unplaced == ()


MONOTONE = (60, 5) if os.environ.get("NULLAH_SOAK") else (6, 0)  # jobs by rounds, by the clock


def short_job(seed):
    """A job with more parts than its boards hold, faults in some of them."""
    rng = random.Random(seed)
    boards, _ = cases.sawn(rng.randint(1, 5), rng.randint(8, 30), seed, faults=rng.random() < 0.5)
    wanted = 1.3 * sum(s.length * s.width for s in boards)
    blanks = []
    while wanted > 0:
        one = cases.blank(f"p{len(blanks)}", round(rng.uniform(60, 900)), round(rng.uniform(25, 140)))
        blanks.append(one)
        wanted -= one.length * one.width
    return boards, blanks


def placed_area(layout, blanks):
    """What of the parts asked for lies on the boards, mm2: counted from the layout's own leaves."""
    area = {b.id: b.length * b.width for b in blanks}
    return sum(area.get(n.part, 0.0) for b in layout.boards for n in leaves(b.root) if n.use == "part")


def test_soak_what_has_a_place_is_never_given_up_between_looks():
    for seed in range(MONOTONE[0]):
        boards, blanks = short_job(seed)
        offers, placed = Offers(boards, blanks, Options(), seed), 0.0
        for look in range(12):
            offers.advance(40, look / 12)
            now = placed_area(offers.layouts()[0], blanks)
            assert now >= placed - 1.0, (seed, look)
            placed = now


def test_soak_what_has_a_place_is_never_given_up_by_the_clock():
    for seed in range(MONOTONE[1]):
        boards, blanks = short_job(1000 + seed)
        request = SimpleNamespace(stock=boards, blanks=blanks, options=Options(), begun=(), kept={}, fingerprint="")
        shares = [report.placed for report in reports(Task(request, 8.0, seed))]
        assert shares == sorted(shares)
        assert len(shares) > 5
