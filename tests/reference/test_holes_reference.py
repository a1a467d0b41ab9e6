"""Holes and mortises of different joints in one part: told where they meet or nearly do, and nowhere else."""

import pytest
from two_parts import part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def in_a_leg(up, deep=30.0):
    """A rail of 80 tenoned into a leg of 60 from the left, its mortise from 12 to 75 up the leg, 26 to 34 in, 40 deep; a hole of 10
    bored into the leg's front, ``up`` mm from its lower end (the leg lies in its own axes the other way round) and 30 in."""
    rail = part("rail", 300, 80, 24, "front", "up")
    leg = part("leg", 200, 60, 60, "front", "right", (300, -18, 0))
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(rail, leg)),))
    project = piece_edits.add_joint(project, plan(project), "mortise_and_tenon", "rail", "leg", "right")
    (name,) = (e.id for e in project.in_hand.edits if getattr(e, "edit", "") == "joint")
    project = piece_edits.put_figure(project, name, "thickness", 8.0)
    project = piece_edits.add_joint(project, plan(project), "bored_hole", "leg", "", "front")
    name = next(e.id for e in project.in_hand.edits if getattr(e, "family", "") == "bored_hole")
    for what, value in {"diameter": 10.0, "along": 200.0 - up, "across": 30.0, "deep": deep}.items():
        project = piece_edits.put_figure(project, name, what, value)
    return plan(project)


def said(now):
    return [told(c.text) for j in now.joints.joints for c in j.checks if not c.holds and "Tenon" in told(c.text)]


@pytest.mark.parametrize(
    ("up", "deep", "words"),
    [
        (60.0, 30.0, "runs into"),  # 30 deep goes past 26: into the mortise
        (60.0, 25.0, "1 of leg"),  # stops 1 short of it
        (60.0, 20.0, ""),  # 6 short
        (82.0, 40.0, "2 of leg"),  # its edge at 77, the mortise ends at 75
        (90.0, 40.0, ""),
    ],
)
def test_what_meets_within_a_leg_is_told(up, deep, words):
    found = said(in_a_leg(up, deep))
    assert len(found) == bool(words)
    assert not words or words in found[0]
