"""A piece standing and from three sides: every part can be picked, its figure stays on it, too many joints are left out."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from nullah import demo
from nullah.core.drawing.display_list import Area, Dimension, Handle, Line
from nullah.core.edits import edit, piece_edits
from nullah.core.pictures import bodies, piece, standing
from nullah.core.planning.plan import plan
from nullah.core.shapes.clip import within
from nullah.core.shapes.cut import Cut
from nullah.core.shapes.opened import opened
from nullah.core.shapes.solid import solid

PLAN = plan(demo.box())
TABLE = plan(piece_edits.take_in_hand(demo.project(), "2"))


@pytest.mark.parametrize("now", [PLAN, TABLE], ids=["box", "table"])
def test_every_part_can_be_picked_when_it_stands_open(now):
    drawing = standing.of(now, 0.8)
    tags = {i.tag for i in drawing.items if isinstance(i, Area) and i.tag}
    assert tags == {f"part:{p.id}" for p in now.piece.in_hand.parts}


def test_coming_apart_moves_every_part_away_from_the_others():
    shut, open_ = standing.of(PLAN).extent(), standing.of(PLAN, 1.0).extent()
    assert open_[2] - open_[0] > 1.5 * (shut[2] - shut[0])
    assert open_[3] - open_[1] > 1.5 * (shut[3] - shut[1])


@pytest.mark.parametrize("now", [PLAN, TABLE], ids=["box", "table"])
def test_three_views_show_the_outside_sizes_and_leave_out_what_hides_the_inside(now):
    drawing = piece.of(now)
    told = [i.mm for i in drawing.items if isinstance(i, Dimension)]
    for mm in now.piece.in_hand.outside:
        assert any(t == pytest.approx(mm, abs=1e-6) for t in told)
    above = [
        i
        for i in drawing.items
        if isinstance(i, Area) and min(p[0] for p in i.points) > now.piece.in_hand.outside[0] * 1.5
    ]
    on_top = "lid" if now is PLAN else "2.top"
    assert f"part:{on_top}" in {i.tag for i in drawing.items if isinstance(i, Area)}
    assert f"part:{on_top}" not in {i.tag for i in above}
    assert {i.tag for i in drawing.items if isinstance(i, Handle)}


def test_what_may_be_pulled_along_the_piece_says_so():
    tags = {i.tag for i in piece.of(PLAN).items if isinstance(i, Area)}
    assert {f"shift:{n}" for n in "1234"} <= tags


def test_a_piece_of_thousands_of_tails_is_drawn_plain():
    """Nineteen metres high: without its tails and pins, so that no picture takes more time and memory than there is."""
    now = plan(edit.set_piece(demo.box(), "contents.height", 19_000.0))
    made = now.piece.in_hand
    found = bodies.of_piece(made, now.joints.of_piece[made.id], True)
    assert {b.part for b in found} == {p.id for p in made.parts}
    assert all(len(b.corners) == 8 for b in found)
    assert 10 < len(standing.of(now).items) < 5_000
    assert bodies.of_piece(made, now.joints.of_piece[made.id]) == ()


ON_PAPER = st.floats(-40, 40).map(lambda mm: round(mm, 6))  # shapely has no room for what is finer than any line
POINTS = st.tuples(ON_PAPER, ON_PAPER)


@given(st.lists(POINTS, min_size=2, max_size=8), st.floats(5, 30), st.integers(3, 9), st.booleans())
def test_property_lines_kept_within_an_outline_are_what_shapely_keeps(points, size, corners, hole):
    turns = np.linspace(0, 2 * np.pi, corners, endpoint=False) + 0.1
    ring = [(size * np.cos(a), size * np.sin(a)) for a in turns]
    rings = [ring] + ([[(x / 3, y / 3) for x, y in ring][::-1]] if hole else [])
    kept = within([np.array(points)], rings)[0]
    wanted = Polygon(ring, rings[1:]).intersection(LineString(points))
    pieces = [LineString(run) for run in kept]
    # a line that runs back over itself is one line to shapely: stretches are compared one by one
    singly = sum(
        Polygon(ring, rings[1:]).intersection(LineString(points[i : i + 2])).length for i in range(len(points) - 1)
    )
    assert sum(p.length for p in pieces) == pytest.approx(singly, abs=1e-5)
    assert all(wanted.buffer(1e-5).contains(p) for p in pieces if p.length > 1e-4)


def test_figure_stays_within_what_is_seen_of_a_part():
    drawing = piece.of(PLAN)
    areas = [Polygon(i.points).buffer(0.01) for i in drawing.items if isinstance(i, Area) and i.ink.startswith("wood ")]
    lines = [i for i in drawing.items if isinstance(i, Line) and i.ink.startswith("figure ")]
    assert len(lines) > 20
    for line in lines:
        assert any(a.contains(LineString(line.points)) for a in areas)


def tags(drawing):
    return {i.tag for i in drawing.items if isinstance(i, Area) and i.tag}


def test_turned_right_round_it_is_as_before():
    once = standing.seen(PLAN, standing.PLAIN)
    round_ = standing.seen(PLAN, standing.PLAIN.turned(200.0, 10.0).turned(160.0, -10.0))
    assert round_.items == once.items
    assert standing.seen(PLAN, standing.PLAIN.turned(180.0, 0.0)).items != once.items


def test_from_straight_below_one_sees_the_bottom_and_from_behind_the_back():
    below = standing.seen(PLAN, standing.Sight(turn=0.0, tilt=-standing.MOST_TILT))
    assert {"part:bottom"} <= tags(below)
    behind = standing.seen(PLAN, standing.Sight(turn=180.0, tilt=0.0))
    assert "part:C" in tags(behind)
    assert "part:A" not in tags(behind)


@pytest.mark.parametrize("side", list(standing.OPEN_FROM))
def test_cut_open_one_looks_in(side):
    now = PLAN
    open_ = standing.seen(now, standing.Sight(open_from=side, open_at=0.5))
    assert tags(open_) - tags(standing.seen(now, standing.PLAIN))  # something that was hidden
    one, two, three = (
        len(standing.seen(now, standing.Sight(open_from=side, open_at=a)).items) for a in (0.02, 0.5, 0.98)
    )
    assert min(one, two, three) > 0
    gone = {"front": "part:A", "right": "part:B", "above": "part:lid"}[side]
    assert gone not in tags(standing.seen(now, standing.Sight(open_from=side, open_at=0.3)))


@pytest.mark.parametrize(
    ("axis", "side", "at", "left"), [(0, 1.0, 30.0, 70.0), (0, -1.0, 30.0, 30.0), (2, 1.0, 5.0, 15.0)]
)
def test_what_stays_of_a_body_that_is_cut_open_is_closed_and_as_large_as_by_hand(axis, side, at, left):
    made = solid("x", (100.0, 50.0, 20.0), [Cut("x", "face", ((10, 10), (90, 10), (90, 40), (10, 40)), 20.0)])
    corners, triangles, flats = opened(made.corners, made.triangles, made.flats, axis, side, at)
    body = np.array(corners), np.array(triangles)
    edges = [(t[i], t[(i + 1) % 3]) for t in triangles for i in range(3)]
    assert {(b, a) for a, b in edges} == set(edges)
    a, b, c = (body[0][body[1][:, i]] for i in range(3))
    volume = float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6)
    frame = 100 * 50 - 80 * 30  # mm2 of the board, less the hole
    wanted = frame * left if axis == 2 else (left * 50 - (left - 10) * 30) * 20
    assert volume == pytest.approx(wanted)
    assert len(flats) >= 6


def test_a_plane_beside_a_body_leaves_all_of_it_or_nothing():
    made = solid("x", (100.0, 50.0, 20.0), [])
    assert opened(made.corners, made.triangles, made.flats, 0, 1.0, -1.0) == (made.corners, made.triangles, made.flats)
    assert opened(made.corners, made.triangles, made.flats, 0, 1.0, 101.0) is None


def test_one_part_alone_and_hidden_edges():
    alone = standing.seen(TABLE, standing.Sight(alone=TABLE.piece.in_hand.parts[0].id))
    assert tags(alone) == {f"part:{TABLE.piece.in_hand.parts[0].id}"}
    plain, glass = standing.seen(PLAN, standing.PLAIN), standing.seen(PLAN, standing.Sight(hidden=True))
    dashed = [i for i in glass.items if isinstance(i, Line) and i.dash]
    assert len(dashed) > 100
    assert len(glass.items) == len(plain.items) + len(dashed)
    assert plain.extent() == pytest.approx(glass.extent(), abs=0.01)
