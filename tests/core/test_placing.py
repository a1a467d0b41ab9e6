"""Where dimensions go: no figure covers another, whatever the scale."""

import math
from itertools import combinations

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.drawing.display_list import Area, Dimension, Drawing, Text, rectangle
from nullah.core.drawing.placing import place, shared
from nullah.core.pictures import joint, piece
from nullah.core.pictures.unfolded import Unfolded, unfolded
from nullah.core.planning.plan import plan
from nullah.core.stations.as_made import settles_at

PLAN = plan(demo.box())


def seven_wide(words, size, bold):
    return len(words) * size * 0.6


def placed(drawing, k):
    return place(drawing, k, lambda mm: f"{mm:.1f}", str, seven_wide, 1.0)


def pictures():
    yield "piece", piece.of(PLAN)
    for b in PLAN.project.boards:
        yield b.id, unfolded(Unfolded(b), PLAN.timber.spans[b.id], "", (), settles_at(PLAN.project.room))
    for one in PLAN.joints.joints:
        yield one.id, joint.side_by_side(one.faces)


@pytest.mark.parametrize(("name", "drawing"), list(pictures()), ids=[n for n, _ in pictures()])
@pytest.mark.parametrize("across", [500, 900, 1600])
def test_no_figure_of_the_demo_covers_another(name, drawing, across):
    left, low, right, top = drawing.extent()
    k = min(across / (right - left), 0.6 * across / (top - low))
    found = placed(drawing, k)
    assert len(found) == sum(isinstance(i, Dimension) for i in drawing.items)
    for one, other in combinations(found, 2):
        assert shared(one.box, other.box) < 1.0, (one.words, other.words)


@example([10.0, 11.0, 54.0, 10.0, 10.0, 1.5, 35.5], 0.30078125, "up")
@given(st.lists(st.floats(0.5, 60), min_size=1, max_size=7), st.floats(0.3, 6), st.sampled_from(["along", "up"]))
def test_property_a_chain_of_dimensions_can_be_read(sizes, k, way):
    items, at = [], 0.0
    for size in sizes:
        ends = ((at, 0.0), (at + size, 0.0)) if way == "along" else ((0.0, at), (0.0, at + size))
        items.append(Dimension(*ends, size, 20))
        at += size
    found = placed(Drawing(tuple(items)), k)
    for one, other in combinations(found, 2):
        assert shared(one.box, other.box) < 1.0


@given(st.floats(1, 400), st.floats(0, 2 * math.pi), st.floats(0.2, 5), st.sampled_from([-30.0, 18.0]))
def test_property_a_dimension_spans_what_it_says(long, turn, k, offset):
    b = (long * math.cos(turn), long * math.sin(turn))
    one = placed(Drawing((Dimension((0, 0), b, long, offset),)), k)[0]
    tips = [arrow[0] for arrow in one.arrows]
    assert math.dist(*tips) == pytest.approx(long * k, rel=1e-6)
    for tip, point in zip(tips, ((0, 0), b), strict=True):  # each stands square off its point, on the side asked for
        dx, dy = tip[0] - point[0] * k, tip[1] - point[1] * k
        assert dx * math.cos(turn) + dy * math.sin(turn) == pytest.approx(0, abs=1e-6)
        assert (-dx * math.sin(turn) + dy * math.cos(turn)) * offset > 0


def test_words_that_do_not_fit_are_left_out_and_take_no_room():
    small = Drawing(
        (Area(rectangle(0, 0, 40, 40)), Text((20, 20), "a long name", room=40.0), Dimension((0, 20), (40, 20), 40, 1))
    )
    near, far = placed(small, 8.0)[0], placed(small, 0.5)[0]
    assert near.words == far.words == "40.0"
    assert near.at != far.at
