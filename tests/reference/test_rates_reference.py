"""Minutes of hand work, held to figures said apart from the code (common practice, no source), and what they add up to in a plan."""

import numpy as np
import pytest

from nullah import demo
from nullah.core.document.project import BoardLayout, Node
from nullah.core.edits import edit
from nullah.core.layout.saw import SawBoard, saw_plan
from nullah.core.planning.plan import plan


def one_cut(axis, at, length=1000.0, width=200.0):
    if axis == "along":
        low = Node(x=0, y=0, length=length, width=at, use="part", part="a")
        high = Node(x=0, y=at + 2, length=length, width=width - at - 2, use="part", part="b")
    else:
        low = Node(x=0, y=0, length=at, width=width, use="part", part="a")
        high = Node(x=at + 2, y=0, length=length - at - 2, width=width, use="part", part="b")
    root = Node(x=0, y=0, length=length, width=width, use="cut", axis=axis, at=at, kerf=2, children=(low, high))
    return saw_plan((BoardLayout(board="b", root=root),), {"b": SawBoard(25.0)})[0]


def test_a_metre_of_rip_and_a_crosscut_in_soft_wood():
    """An inch thick: six minutes a metre along the grain, a minute and a half across 200."""
    rip, across = one_cut("along", 90.0), one_cut("across", 400.0)
    assert (rip.kind, across.kind) == ("rip", "crosscut")
    assert rip.minutes == pytest.approx(6.0, rel=0.02)
    assert across.minutes == pytest.approx(1.5, rel=0.02)
    hard = saw_plan((BoardLayout(board="b", root=rip.node),), {"b": SawBoard(25.0, 1.9)})[0]
    assert hard.minutes == pytest.approx(1.9 * 6.0, rel=0.02)


def test_an_hour_planes_a_square_metre_by_a_millimetre():
    """In middling wood; harder by three tenths, softer by a fifth; and four minutes to set up."""
    now = plan(demo.box())
    steps = {s.id: s for s in now.bench.steps}
    hard = {"white ash": 1.3, "western larch": 1.0, "American elm": 1.0}
    for t in now.trueup.parts:
        part = now.piece.in_hand.own.box.part(t.part)
        off = np.mean(t.planing.face) + np.mean(t.planing.back) + max(0.0, t.planing.thickest - t.planing.wanted)
        minutes = 4 + 60.0 * t.length * t.width / 1e6 * off * hard[part.species]
        assert steps[f"true {t.id}"].minutes == pytest.approx(minutes, rel=0.02)


@pytest.mark.parametrize("tails", [2, 3, 4])
def test_coating_seven_seconds_a_cheek_and_closing_a_minute_and_a_half_a_corner(tails):
    now = plan(edit.set_piece(demo.box(), "tails", tails))
    cheeks = 4 * tails * 4  # two of each tail and of each pin, at four corners
    assert now.together.glue_minutes == pytest.approx(cheeks * 7.2 / 60 + 4 * 1.5, rel=0.02)
