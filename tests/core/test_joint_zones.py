"""A knot where a joint comes: asked about, laid out anew without it, and let be elsewhere and in the ends' own zones."""

import pytest

from nullah.core.document.boards import Defect
from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Board, Project
from nullah.core.edits import edit, piece_edits
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import Cut
from nullah.core.stations import breakdown
from nullah.core.stations.joint_zones import zone

SIDE = AddPart(
    id="side",
    label="side",
    length=600,
    width=200,
    thickness=18,
    face="right",
    upper="back",
    role="inside",
    at=(300, 0, 0),
)
SHELF = AddPart(
    id="shelf",
    label="shelf",
    length=300,
    width=200,
    thickness=16,
    face="up",
    upper="back",
    role="hidden",
    at=(0, 0, 292),
)


def laid(project):
    result = plan(project).breakdown
    best = breakdown.offers(result.request)[0]
    return edit.changed(project, layout=breakdown.accept(best, result.request.fingerprint, result.sawn))


def shelved(knot_at, family="dado", boards=1, kind="sound knot"):
    """A side with a shelf in a dado 292 to 308 up, half-way, a board for each, and a knot of 20 on what the side is sawn from, so far
    from its left end as it is laid."""
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(SIDE, SHELF)),))
    project = piece_edits.add_joint(project, plan(project), family, "shelf", "side", "right")
    stock = (
        Board(id="a", name="A", species="yellow-poplar", length=700, width=215, thickness=20),
        Board(id="b", name="B", species="yellow-poplar", length=400, width=215, thickness=18),
        *(
            Board(id=f"more {n}", name=f"More {n}", species="yellow-poplar", length=900, width=220, thickness=24)
            for n in range(boards - 1)
        ),
    )
    project = laid(edit.changed(project, boards=stock))
    name, leaf = plan(project).breakdown.place("side")
    assert name == "a"
    left = leaf.x + (leaf.length - 600) / 2
    knot = Defect(id="k", kind=kind, x=left + knot_at - 10, y=leaf.y + 80, length=20, width=20)
    return edit.changed(project, boards=(stock[0].model_copy(update={"defects": (knot,)}), *stock[1:]))


def asked(project):
    return [c for c in plan(project).calls if c.id.startswith("knots ")]


@pytest.mark.parametrize(
    ("at", "told"), [(300, True), (268, True), (332, True), (262, False), (338, False), (450, False)]
)
def test_a_knot_is_in_the_zone_where_the_joint_and_one_thickness_beside_it_lie(at, told):
    # the dado is 292 to 308; 18 to either side: 274 to 326; a knot of 20 reaches 10 to both sides of its middle
    calls = asked(shelved(float(at)))
    assert bool(calls) is told
    if told:
        assert "side" in calls[0].question
        assert calls[0].parts == ("side",)


def test_the_part_is_laid_out_anew_without_the_knot_and_kept_so():
    project = shelved(300.0, boards=2)
    (call,) = asked(project)
    assert not plan(project).breakdown.problems
    after = edit.take(project, call, "clear")
    assert plan(after).breakdown.problems  # where it lies it may no longer
    after = laid(after)
    assert plan(after).breakdown.place("side")[0] == "more 0"
    (kept,) = asked(after)
    assert kept.taken == "clear"
    again = edit.take(after, kept, "leave")
    assert not asked(again)  # it lies elsewhere now, and may have knots again
    left = edit.take(project, call, "leave")
    assert asked(left)[0].taken == "leave"
    assert not plan(left).breakdown.problems


def test_what_is_cut_is_not_asked_about():
    project = shelved(300.0)
    part = next(p for p in plan(project).piece.parts if p.id == "side")
    assert not asked(edit.mark_cut(project, part))


def test_zones_of_cuts_into_every_side():
    size = (600.0, 200.0, 20.0)
    square = ((100.0, 5.0), (140.0, 5.0), (140.0, 12.0), (100.0, 12.0))
    assert zone(Cut("p", "face", square, 6.0), size) == (80, 5, 80, 7)
    assert zone(Cut("p", "lower", square, 6.0), size) == (80, 0, 80, 6)
    assert zone(Cut("p", "upper", square, 6.0), size) == (80, 194, 80, 6)
    end = ((50.0, 5.0), (90.0, 5.0), (90.0, 12.0), (50.0, 12.0))
    assert zone(Cut("p", "left", end, 30.0), size) == (0, 50, 50, 40)
    assert zone(Cut("p", "right", end, 30.0), size) == (550, 50, 50, 40)
