"""Fillings put together, against brute force and HiGHS, and what is laid from them, against the checker of every layout."""

import random
from itertools import product

import cases
import numpy as np
import pytest
from scipy.optimize import Bounds, LinearConstraint, milp
from test_layout_reference import blank, fault, hold_to_account, stock

from nullah.core.layout.compiled.together import pick
from nullah.core.layout.encoding import alone, encode
from nullah.core.layout.fillings import Fillings, laid
from nullah.core.layout.model import Layout, Options, leaves
from nullah.core.layout.planner import PLACING, Planner, decode

KERFS = Options(1.5, 1.5)


def any_fillings(rng, boards, each, kinds):
    """Counts by filling, where those of each board begin, what each loses, worth of a part and parts asked for by kind."""
    start = np.arange(0, boards * each + 1, each)
    count = np.array([[rng.choice([0, 0, 1, 2]) for _ in range(kinds)] for _ in range(boards * each)])
    scattered = np.array([rng.uniform(0, 3) for _ in range(boards * each)])
    areas = np.array([rng.uniform(1, 20) for _ in range(kinds)])
    asked = np.array([rng.randint(1, 5) for _ in range(kinds)])
    return count, start, scattered, areas, asked


def worth(chosen, count, scattered, areas, asked):
    """What fillings are worth together: parts asked for that have a place, less what is lost."""
    some = [i for i in chosen if i >= 0]
    return float((areas * np.minimum(asked, count[some].sum(axis=0))).sum() - scattered[some].sum())


def picked(made, flips, seed=1):
    return pick(*made, flips, np.array([20.0, 0.05]), np.array([seed], dtype=np.uint64))


@pytest.mark.parametrize("seed", range(8))
def test_fillings_picked_are_the_best_that_brute_force_finds(seed):
    count, start, scattered, areas, asked = made = any_fillings(random.Random(seed), 4, 5, 5)
    every = product(*([-1, *range(a, a + 5)] for a in start[:-1]))
    best = max(worth(chosen, count, scattered, areas, asked) for chosen in every)
    chosen, value = picked(made, 60_000)
    assert value == pytest.approx(worth(chosen, count, scattered, areas, asked))
    assert value == pytest.approx(best)


@pytest.mark.parametrize("seed", range(3))
def test_many_fillings_picked_come_close_to_what_an_integer_programme_proves(seed):
    count, start, scattered, areas, asked = made = any_fillings(random.Random(seed), 8, 40, 14)
    asked[:] = asked + 6
    many, kinds = count.shape
    rows = np.zeros((8 + kinds, many + kinds))
    for b in range(8):
        rows[b, start[b] : start[b + 1]] = 1.0
    rows[8:, :many], rows[8:, many:] = -count.T, np.eye(kinds)
    found = milp(
        np.r_[scattered, -areas],
        constraints=LinearConstraint(rows, -np.inf, np.r_[np.ones(8), np.zeros(kinds)]),
        integrality=np.ones(many + kinds),
        bounds=Bounds(0, np.r_[np.ones(many), asked]),
    )
    assert -found.fun * 0.995 <= picked(made, 1_000_000)[1] <= -found.mip_dual_bound + 1e-6


def test_a_board_alone_is_encoded_as_if_there_were_no_other():
    boards, blanks = cases.sets(3, 1)
    boards.append(stock("b9", 1200, 200, defects=[fault("sound knot", 300, 40, 50, 50)]))
    every = encode(boards, blanks, KERFS).case
    for b, one in enumerate(boards):
        whole, part = encode([one], blanks, KERFS).case, alone(every, b, every.sizes[:, 2])
        for name, ours, theirs in zip(whole._fields, whole, part, strict=True):
            np.testing.assert_array_equal(ours, theirs, err_msg=name)


def test_parts_too_many_leave_their_places_free_and_every_cut_can_be_sawn():
    boards = [stock(f"b{i}", 1500 - 100 * i, 180, defects=[fault("split", 500, 60, 70, 40)]) for i in range(3)]
    asked = [blank(f"p{i}", 280 + 7 * (i % 4), 50 + 9 * (i % 3)) for i in range(12)]
    encoded = encode(boards, asked, KERFS)
    fillings = Fillings(encoded.case, encoded.counts, PLACING, 1, 200)
    for _ in range(2):
        look = fillings.look(list(fillings.known.values()))
        fillings.add(look.found)
    fullest = [max((f for f in look.found if f.board == b), key=lambda f: sum(f.count)) for b in range(3)]
    assert (sum(np.array(f.count) for f in fullest) > encoded.counts).any()
    records, rows, figures, left = laid(encoded.case, PLACING, 200, encoded.counts, fullest)
    trees, without = decode(encoded, records, rows)
    layout = Layout("crosscut first", trees, tuple((b.id, "") for b in without))
    hold_to_account(layout, boards, asked)
    area = sum(n.length * n.width for b in trees for n in leaves(b.root) if n.use == "part")
    assert figures[:, 0].sum() == pytest.approx(area)
    assert (left >= 0).all()


def test_prices_leave_no_filling_that_is_known_worth_more_than_its_board():
    boards, blanks = cases.sets(4, 3)
    planner = Planner(boards, blanks, KERFS)
    fillings = Fillings(planner.encoded.case, planner.encoded.counts, PLACING, 1, 400)
    for _ in range(3):
        fillings.add(fillings.look(list(fillings.known.values())).found)
    known = list(fillings.known.values())
    prices, short = fillings._relaxed(known)
    assert short.min() > -1e-3
    assert (prices > -1e-6).all()
    assert (prices < planner.encoded.case.sizes[:, 2] + 1e-3).all()
    worth_of = [float((prices * f.count).sum()) - f.scattered for f in known]
    most = [max(w for w, f in zip(worth_of, known, strict=True) if f.board == b) for b in range(4)]
    parted = sum(most) + float((planner.encoded.counts * (planner.encoded.case.sizes[:, 2] - prices)).sum())
    assert fillings.together(known)[1] <= parted + 1e-3  # the dual programme's bound


def test_the_same_work_gives_the_same_layout_with_a_thread_beside():
    boards, blanks = cases.sets(3, 2, lengths=cases.LONG, widths=cases.WIDE)
    found = []
    for _ in range(2):
        planner = Planner(boards, blanks, KERFS, seed=3)
        while planner.rounds < 12_000:
            planner.advance(400, planner.rounds / 12_000)
        found.append(planner.layout())
        assert planner.fillings_known > 50
    assert found[0] == found[1]
    hold_to_account(found[0], boards, blanks)


def test_a_second_search_beside_counts_where_it_comes_further():
    boards, blanks = cases.sawn(30, 180, 4, loose=True)
    steps = [i / 12 for i in range(12)]
    paired, first, second = (
        Planner(boards, blanks, KERFS, seed, paired=two) for seed, two in ((1, True), (1, False), (2, False))
    )
    for share in steps:
        for planner in (paired, first, second):
            planner.advance(40, share)
    assert paired.progress.placed == max(first.progress.placed, second.progress.placed)
    assert first.progress.placed != second.progress.placed
    assert paired.layout() in (first.layout(), second.layout())
    hold_to_account(paired.layout(), boards, blanks)
