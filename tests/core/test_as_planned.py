"""Boxes are planned as they were: parts, sums, settings, joints, steps, cut list, templates of the demo and of 200 saved projects."""

import as_planned
import pytest

SECTIONS = ("parts", "sums", "settings", "joints", "checks", "ways", "cut list", "steps", "templates")


@pytest.fixture(scope="module")
def projects():
    return as_planned.projects()


@pytest.fixture(scope="module")
def values(projects):
    return [as_planned.values_of(project) for project in projects]


@pytest.mark.parametrize("section", SECTIONS)
def test_boxes_are_planned_as_they_were(values, section):
    written = as_planned.read()
    assert len(values) == len(written) == 201
    for n, (now, was) in enumerate(zip(values, written, strict=True)):
        assert now[section] == was[section], f"project {n}"


def test_the_saved_projects_hold_what_was_measured_cut_and_laid_out(projects):
    # counted when they were saved
    assert sum(len(p.measured) for p in projects) == 225
    assert sum(len(p.cut) for p in projects) == 132
    assert sum(p.layout is not None for p in projects) == 155  # with the demo
    assert sum(d.startswith("joint") for p in projects for d in p.done) == sum(len(p.joints_cut) for p in projects)
