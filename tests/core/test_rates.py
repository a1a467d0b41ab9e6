"""The maker's own sawing rates, from timed cuts: what they weigh in a layout, and that they are no reason to lay out again."""

import pytest

from nullah import demo
from nullah.core.edits import edit
from nullah.core.planning.plan import plan
from nullah.core.stations.rates import SETTING_UP


def timed(project, kind, times, many):
    """So many cuts of a kind, each having taken so many times what is common."""
    cuts = [c for c in plan(project).breakdown.cuts if c.kind == kind][:many]
    for c in cuts:
        project = edit.logged(project, "time", "", step=c.name, minutes=times * (SETTING_UP + c.minutes))
    return project


def test_timed_cuts_replace_the_common_rates_once_there_are_a_few():
    project = demo.box()
    assert plan(timed(project, "rip", 2.5, 2)).breakdown.rates.along == 1.0  # two say nothing yet
    now = plan(timed(timed(project, "rip", 2.5, 3), "crosscut", 0.5, 4)).breakdown
    assert now.rates.along == pytest.approx(2.5)
    assert now.rates.across == pytest.approx(0.5)
    assert now.rates.timed == (4, 3)
    common = plan(project).breakdown
    assert now.options.rip_effort == pytest.approx(2.5 * common.options.rip_effort)
    assert now.options.crosscut_effort == pytest.approx(0.5 * common.options.crosscut_effort)
    assert now.request.fingerprint == common.request.fingerprint
    assert not now.changed
    # minutes told with a layout are the maker's
    cuts = now.cuts
    own = now.rates.minutes(cuts)
    assert own == pytest.approx(
        sum(2.5 * c.minutes for c in cuts if c.kind == "rip") + sum(0.5 * c.minutes for c in cuts if c.kind != "rip")
    )


def test_a_timer_left_running_is_no_rate():
    project = timed(demo.box(), "rip", 400.0, 3)
    assert plan(project).breakdown.rates.along == 5.0
