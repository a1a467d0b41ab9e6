"""Pictures: display lists to scale, with what may be clicked and typed on named in them."""

import itertools
import math
import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah import demo
from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Text, moved
from nullah.core.drawing.ink import DARK, HEAT, PAPER
from nullah.core.edits import measuring
from nullah.core.pictures import boards, drying, frame, joint, movement, piece, standing, surface, wood, year
from nullah.core.pictures.unfolded import Unfolded, unfolded
from nullah.core.planning.plan import plan
from nullah.core.stations.as_made import months, settles_at
from nullah.core.stations.readiness import readiness
from nullah.core.wood.rings import Wood, on_edge, on_end, on_face, rings
from nullah.core.wood.species import ALL

PLAN = plan(demo.box())
PROJECT = PLAN.project


def unfolded_boards():
    for board in PROJECT.boards:
        for over in (False, True):
            fault = board.defects[0].id
            span = PLAN.timber.spans[board.id]
            yield unfolded(Unfolded(board, over), span, fault, PROJECT.readings, settles_at(PROJECT.room))


def every_picture():
    yield piece.of(PLAN)
    yield standing.of(PLAN)
    yield standing.of(PLAN, 0.7)
    yield from unfolded_boards()
    yield year.picture(PROJECT.boards[0], months(PROJECT.room), 3, lambda mm: f"{mm:.1f}")
    dried = PROJECT.boards[2]
    yield drying.picture(dried, readiness(dried, PROJECT.references), 9.9, "2026-11-20")
    yield boards.laid_out(PROJECT.boards, replace(PLAN.breakdown, cut=frozenset({"A"})), "A")
    for t in (*PLAN.trueup.boards, *PLAN.trueup.parts):
        yield surface.picture(t)
    for j in PLAN.joints.joints:
        yield joint.side_by_side(j.faces)
    yield frame.of(PLAN)
    yield movement.picture(PLAN.timber.movement, lambda mm: f"{mm:.1f}")


def test_every_picture_names_only_inks_that_there_are():
    known = set(PAPER) | {f"heat {i}" for i in range(len(HEAT))} | {""}
    known |= {f"{kind} {name}" for kind in ("wood", "end", "figure", "sap") for name in ALL}
    assert set(PAPER) == set(DARK)
    for drawing in every_picture():
        left, low, right, top = drawing.extent()
        assert right > left
        assert top > low
        for item in drawing.items:
            assert getattr(item, "ink", "") in known, item
            if isinstance(item, Area) and item.edge:
                assert item.edge in known


def test_dimensions_say_what_they_span():
    for drawing in (piece.of(PLAN), *unfolded_boards()):
        for item in drawing.items:
            if isinstance(item, Dimension):
                assert abs(item.a[0] - item.b[0]) + abs(item.a[1] - item.b[1]) == pytest.approx(item.mm), item


def test_the_layout_is_drawn_where_it_lies():
    drawing = boards.laid_out(PROJECT.boards, PLAN.breakdown)
    for part in PLAN.piece.parts:
        _, leaf = PLAN.breakdown.place(part.id)
        shape = next(i for i in drawing.items if isinstance(i, Area) and i.tag == f"part:{part.id}")
        xs = [p[0] for p in shape.points]
        assert min(xs) == pytest.approx(leaf.x)
        assert max(xs) - min(xs) == pytest.approx(leaf.length)
    numbers = [i.text for i in drawing.items if isinstance(i, Text) and i.tag.startswith("cut:")]
    assert sorted(numbers, key=int) == [str(c.number) for c in PLAN.breakdown.cuts]


@pytest.mark.parametrize("angle", [0, 20, 45, 70, 90])
def test_figure_stays_on_the_wood_and_tells_the_cut(angle):
    made = Wood("white ash", angle, True, "board 7")
    lines = wood.figure(made, (800, 150, 25), (10, 20))
    assert lines
    for line in lines:
        assert all(10 - 1e-6 <= x <= 810 + 1e-6 and 20 - 1e-6 <= y <= 170 + 1e-6 for x, y in line.points)
    for line in wood.end_grain(made, (800, 150, 25), (0, 0)):
        assert all(-1e-6 <= x <= 150 + 1e-6 and -1e-6 <= y <= 25 + 1e-6 for x, y in line.points)


def test_quartersawn_figure_is_straighter_than_flatsawn():
    def bend(angle):
        return max(
            max(y for _, y in run) - min(y for _, y in run)
            for run in on_face(Wood("white ash", angle, True, "board 7"), 800, 150, 25)
        )

    assert bend(90) < bend(0)


@given(st.floats(0, 90), st.booleans(), st.text(max_size=6), st.floats(60, 250), st.floats(10, 60))
def test_property_a_line_of_the_figure_runs_into_the_arc_of_its_ring(angle, heart_at_back, seed, width, thickness):
    # a fact of geometry: the face cuts the ring where the end cuts it
    made = Wood("white ash", angle, heart_at_back, seed)
    r = rings(made, 900, width, thickness)
    py, pz = r.pith(0.0)
    for run in on_face(made, 900, width, thickness):
        x, y = run[0]
        if x == 0.0:
            radius = math.hypot(y - py, thickness - pz)
            assert min(abs(radius - one) for one in r.radii) < 1e-6


def test_two_boards_of_one_kind_have_figures_of_their_own():
    one, other = (Wood("white ash", 20, True, f"board {i}") for i in (1, 2))
    assert on_face(one, 800, 150, 25) != on_face(other, 800, 150, 25)
    assert on_end(one, 800, 150, 25) != on_end(one, 800, 150, 25, left=False)


def test_every_kind_of_fault_is_told_by_more_than_colour():
    board = PROJECT.boards[0]
    for kind in ("sound knot", "loose knot", "check", "split", "sapwood", "wane", "run-out"):
        fault = board.defects[0].model_copy(update={"kind": kind, "length": 90.0, "width": 30.0, "y": 20.0})
        shapes = wood.fault(board, fault, 0.0)
        assert any(getattr(s, "hint", "") == kind for s in shapes)
        assert len(shapes) > 1
    sound = wood.fault(board, board.defects[1], 0.0)
    loose = wood.fault(board, board.defects[1].model_copy(update={"kind": "loose knot"}), 0.0)
    assert len(loose) > len(sound)


def test_a_racked_frame_shows_which_way_to_push():
    racked = PROJECT
    for text in ("diagonal 1 377", "diagonal 2 374"):
        racked = measuring.measured(racked, PLAN.piece.parts, text)
    p = plan(racked)
    drawing = frame.of(p)
    longer = next(i for i in drawing.items if isinstance(i, Line) and i.tag == "diagonal:1")
    other = next(i for i in drawing.items if isinstance(i, Line) and i.tag == "diagonal:2")
    assert (longer.ink, other.ink) == ("decision", "computed")
    (ax, ay), (bx, by) = longer.points
    (cx, cy), (dx, dy) = other.points
    assert (bx - ax) ** 2 + (by - ay) ** 2 > (dx - cx) ** 2 + (dy - cy) ** 2


def test_moving_a_drawing_keeps_its_size():
    drawing = piece.of(PLAN)
    left, low, right, top = drawing.extent()
    shifted = Drawing(tuple(moved(drawing.items, 30, -7))).extent()
    assert shifted == pytest.approx((left + 30, low - 7, right + 30, top - 7))
    assert Drawing().extent() == (0, 0, 1, 1)


def test_boards_lie_clear_of_each_other():
    found, few = demo.project().boards, demo.boards()
    for some in (found, few):
        at = boards.rows(some)
        for above, below in itertools.pairwise(some):
            assert at[below.id] + below.width < at[above.id]


def test_no_two_parts_of_a_project_have_the_same_written_on_them_and_none_an_id():
    now = plan(demo.project())
    written = [now.piece.written(p.id) for p in now.piece.parts]
    assert len(set(written)) == len(written)
    assert {"A", "lid", "3 lid", "top"} <= set(written)
    drawn = boards.laid_out(now.project.boards, now.breakdown, name=now.piece.written)
    texts = {i.text for i in drawn.items if isinstance(i, Text)}
    assert {"top", "3 lid"} <= texts
    assert not [t for t in texts if re.fullmatch(r"\d+\.[a-z-]+", t)]


@pytest.mark.parametrize("end", ["left", "right"])
@pytest.mark.parametrize("angle", [0.0, 20.0])
def test_the_figure_on_an_edge_rises_as_the_grain_does(end, angle):
    for seed in "abcdef":
        wood = Wood("white ash", angle, True, seed, rises=end)
        climbs = [
            (run[-1][1] - run[0][1]) * (run[-1][0] - run[0][0])
            for run in on_edge(wood, 900.0, 150.0, 25.0)
            if abs(run[-1][0] - run[0][0]) > 60.0
        ]
        assert sum(climbs) * (1 if end == "right" else -1) > 0
