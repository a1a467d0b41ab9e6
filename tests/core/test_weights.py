"""What the maker weighs between layouts that place the same parts: what an offcut is, a board opened, a metre of sawing."""

import pytest

from nullah import demo
from nullah.core.edits import edit
from nullah.core.layout.model import Options, leaves
from nullah.core.layout.planner import Planner
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown


def weighed(**weights):
    """The demo's break-down by other weights than the usual."""
    project = demo.box()
    for name, value in weights.items():
        project = edit.set_in(project, "weights", name, value)
    return plan(project).breakdown


def best(result):
    return breakdown.offers(result.request)[0]


def planned(request):
    planner = Planner(request.stock, request.blanks, request.options)
    for i in range(40):
        planner.advance(100, i / 40)
    return planner.layout()


def metres(layout):
    sums = breakdown.sawing_of(demo.box().boards, breakdown.accept(layout, "")).sums
    return sums.across_m + sums.along_m


def test_weights_of_ones_own_are_a_reason_to_lay_out_again_and_the_usual_are_not():
    usual = weighed()
    assert not usual.changed
    assert usual.options == Options(usual.options.crosscut_kerf, usual.options.rip_kerf)
    for name, value in (("sawing", 3.0), ("opening", 50.0), ("least_offcut", 300.0)):
        assert weighed(**{name: value}).changed
    own = weighed(sawing=3.0, opening=50.0)
    assert own.options.rip_effort == pytest.approx(3 * usual.options.rip_effort)
    assert own.options.crosscut_effort == pytest.approx(3 * usual.options.crosscut_effort)
    assert own.options.opening == pytest.approx(0.5)


def test_the_more_sawing_counts_the_less_is_sawn():
    free, dear = planned(weighed(sawing=0.0).request), planned(weighed(sawing=30.0).request)
    assert free.unplaced == dear.unplaced == ()
    assert metres(dear) < metres(free)


def test_what_is_shorter_than_the_least_offcut_is_waste():
    for least in (200.0, 540.0):
        result = weighed(least_offcut=least)
        left = [n for b in best(result).boards for n in leaves(b.root) if n.use in ("offcut", "waste")]
        assert {n.use for n in left if n.length < least} == {"waste"}
        assert all(n.use == "offcut" for n in left if n.length >= least and n.width >= 20)
        assert any(n.use == "offcut" for n in left)


@pytest.mark.parametrize(("name", "value"), [("sawing", -1), ("opening", 1e6), ("least_offcut", 0)])
def test_weights_are_bounded(name, value):
    with pytest.raises(edit.BadEdit, match="must be"):
        weighed(**{name: value})
