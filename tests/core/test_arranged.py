"""How staves lie side by side: the best there is, and both schools."""

import random
import re
from itertools import pairwise, permutations, product

import pytest
from test_rough import laid, wide

from nullah.core.edits import edit
from nullah.core.planning.plan import plan
from nullah.core.stations.arranged import Stave, best
from nullah.core.values.measure import told

# weighed here apart: neighbours against the school 8, a mark up 3, neighbours of two boards 2


def weighed(order, ups, reverse):
    cost = 0.0
    for s, up in zip(order, ups, strict=True):
        cost += 3 * len(s.marks if up else s.marks_behind)
    for (a, a_up), (b, b_up) in pairwise(zip(order, ups, strict=True)):
        cost += 2 * (a.board != b.board)
        heart_up = [s.heart_on_face is up for s, up in ((a, a_up), (b, b_up))]
        if a.flat and b.flat and (heart_up[0] == heart_up[1]) == reverse:
            cost += 8
    return cost


@pytest.mark.parametrize("seed", range(40))
def test_the_arrangement_is_the_best_of_all(seed):
    rng = random.Random(seed)
    staves = [
        Stave(
            f"s{n}",
            rng.choice("ab"),
            rng.random() < 0.5,
            rng.random() < 0.8,
            ("stain",) * rng.choice([0, 0, 1]),
            ("worm",) * rng.choice([0, 0, 1, 2]),
        )
        for n in range(rng.randint(2, 5))
    ]
    for reverse in (True, False):
        found = best(staves, reverse)
        order, ups = zip(*found.staves, strict=True)
        least = min(
            weighed(o, u, reverse) for o in permutations(staves) for u in product((True, False), repeat=len(staves))
        )
        assert found.cost == pytest.approx(least)
        assert weighed(order, ups, reverse) == pytest.approx(least)


def panel(rings=15.0):
    """The wide box of other tests: its bottom is glued up out of two boards of larch with the heart on one side."""
    project = wide(((1500, 130, 12.5), (1500, 130, 12.5)))
    boards = tuple(
        edit.held(b, ring_angle=rings, heart_side="back", moisture=9.9) if b.species == "western larch" else b
        for b in project.boards
    )
    return laid(edit.changed(project, boards=boards))


def glue_up(project):
    return next(s for s in plan(project).bench.steps if s.id == "glue up bottom").words


def test_both_schools_are_offered_and_the_step_says_the_one_that_is_taken():
    project = panel()
    call = plan(project).call("arcs bottom")
    assert call.recommended == "reverse"
    assert "heart side up" in glue_up(project)
    assert "bark side up" in glue_up(project)
    alike = edit.take(project, call, "alike")
    words = glue_up(alike)
    assert ("heart side up" in words) != ("bark side up" in words)
    assert "held down" in words
    # two staves alike: the bend of one over twice its width is four times as deep
    each = float(re.search(r"cup ([\d.]+)", told(" ".join(call.option("reverse").consequences)))[1])
    one = float(re.search(r"curve of ([\d.]+)", told(" ".join(call.option("alike").consequences)))[1])
    assert one == pytest.approx(4 * each, abs=0.25)


def test_standing_rings_ask_nothing():
    project = panel(70.0)
    assert plan(project).call("arcs bottom") is None
    assert "the rings stand" in glue_up(project)
