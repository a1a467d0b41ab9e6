"""Matters of school are asked once for all the joints they matter to, and taken together (common practice, no source)."""

import pytest
from two_parts import joined, part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.edits import edit, piece_edits
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def kind(name, **asked):
    return Project(pieces=(Designed(kind=name, name="x", asked=asked),))


def steps(now):
    return [s for j in now.joints.joints for s in j.steps]


def test_tenons_are_glued_or_drawn_up_by_pegs_and_stubs_are_let_be():
    project = kind("small_table", drawer=True)
    now = plan(project)
    call = now.call("school hold")
    assert [o.id for o in call.options] == ["glued", "drawbored", "drawbored and glued"]
    after = plan(edit.take(project, call, "drawbored"))
    pegged = {j.id: j.figures.get("pegs", 0) for j in after.joints.joints if j.family == "mortise_and_tenon"}
    assert {j for j, pegs in pegged.items() if not pegs} == {j for j in pegged if "rail" in j}
    assert after.call("school hold").taken == "drawbored"
    wedged = piece_edits.put_figure(project, "tenon-back-bl", "style", "through")
    wedged = piece_edits.put_figure(wedged, "tenon-back-bl", "hold", "wedged")
    taken = plan(edit.take(wedged, plan(wedged).call("school hold"), "drawbored"))
    one = next(j for j in taken.joints.joints if j.id == "tenon-back-bl")
    assert "flare" in one.figures  # what is wedged stays so


def framed(*ways):
    """A panel in grooves of stiles to its right and left, and of a rail below, as far as they are asked for."""
    edits = [
        part("panel", 300, 200, 8, "front", "up", (60, 6, 60)),
        part("right", 320, 60, 20, "front", "right", (360, 0, 0)),
        part("left", 320, 60, 20, "front", "right", (0, 0, 0)),
        part("rail", 300, 60, 20, "front", "up", (60, 0, 0)),
    ]
    project = Project(pieces=(Designed(kind="free", name="Door", edits=tuple(edits)),))
    for way, part_id in ways:
        project = piece_edits.add_joint(project, plan(project), "groove", "panel", part_id, way)
    return project


RIGHT, LEFT, DOWN = ("right", "right"), ("left", "left"), ("down", "rail")


def test_a_spot_of_glue_goes_at_the_ends_of_a_panel_that_is_held_on_three_sides():
    project = framed(RIGHT, LEFT, DOWN)
    now = plan(project)
    assert not now.joints.problem
    call = now.call("school fixed")
    assert call.recommended == "dry"
    assert "2 joints" in told(call.options[0].consequences[0])
    after = plan(edit.take(project, call, call.options[1].id))
    assert sum("one spot in the middle of its width" in s for s in steps(after)) == 2
    assert not any("one spot" in s for s in steps(now))
    for few in ((RIGHT, LEFT), (RIGHT, DOWN), (DOWN,)):
        assert plan(framed(*few)).call("school fixed") is None


def test_a_chest_is_nailed_or_screwed_and_goes_together_so():
    project = kind("boarded_chest")
    now = plan(project)
    call = now.call("school held")
    after = plan(edit.take(project, call, "screws"))
    assert any("nails, the first" in s for s in steps(now))
    assert any("screws, the first" in s for s in steps(after))
    nailed, screwed = ({s.title.partition(" ")[0] for s in one.bench.steps} for one in (now, after))
    assert "Nail" in nailed
    assert "Nail" not in screwed
    assert "Screw" in screwed


def acts(now):
    return [s.words for s in now.bench.steps if s.station == "together"]


def test_what_is_drawn_up_by_pegs_alone_is_not_glued():
    project = kind("small_table", drawer=False)
    now = plan(project)
    assert any(w.startswith("Glue ") for w in acts(now))
    dry = plan(edit.take(project, now.call("school hold"), "drawbored"))
    assert not any(w.startswith("Glue ") for w in acts(dry))
    assert [w for w in acts(dry) if "drive the pegs" in w]
    assert dry.together.glue_minutes == 0
    both = plan(edit.take(project, now.call("school hold"), "drawbored and glued"))
    assert acts(both) == acts(now)


def test_a_wedged_stretcher_and_a_lid_are_no_panels_in_a_groove():
    """Wedges are driven when all else is together, and the lid is slid in last of all."""
    cheek = part("cheek", 300, 300, 20, "right", "back", (400, 0, 0))
    now = joined("tusk_tenon", part("seat", 400, 120, 22, "up", "back", (0, 90, 100)), cheek, "right")
    (wedged,) = [w for w in acts(now) if "seat" in w]
    assert wedged == "Join the seat to the cheek, and drive the wedges in turn until the shoulders close."
    lid, side = part("lid", 200, 120, 8, "up", "back", (0, 400, 60)), part("s", 200, 90, 14, "back", "up", (0, 520, 0))
    piece = now.project.in_hand
    piece = piece.model_copy(update={"edits": (*piece.edits, lid, side)})
    project = now.project.model_copy(update={"pieces": (piece,)})
    project = piece_edits.add_joint(project, plan(project), "sliding_lid", "lid", "s", "back")
    assert [w for w in acts(plan(project)) if "lid" in w] == ["Slide the lid in, dry."]
    assert acts(plan(project)).index("Slide the lid in, dry.") > acts(plan(project)).index(wedged)


@pytest.mark.parametrize(("wide", "told_of"), [(90.0, False), (180.0, True)])
def test_glue_across_more_grain_than_bears_it_has_a_way_out(wide, told_of):
    """A tray's end let into a base along the end's grain and across the base's: over 100 it is glued at one edge."""
    first = part("end", wide, 80, 16, "right", "up", (142, 0, 20))
    base = part("base", 300, wide, 20, "up", "back", (0, 0, 0))
    now = joined("dado", first, base, "down")
    (joint,) = now.joints.joints
    across = [c for c in joint.checks if "across the grain" in c.text]
    assert [c.holds for c in across] == [not told_of]
    if told_of:
        call = next(c for c in now.calls if c.id.endswith(" fixed"))
        after = plan(edit.take(now.project, call, "mend"))
        (mended,) = after.joints.joints
        assert all(c.holds for c in mended.checks if "across the grain" in c.text)
        assert any("at the edge that is seen" in s for s in mended.steps)
        assert after.bench.steps  # it is glued all the same
        assert any("lue" in s.title for s in after.bench.steps)


def test_of_a_joint_that_cannot_be_made_no_school_is_asked():
    first = part("front", 300, 90, 16, "front", "up")
    now = joined("through_dovetail", first, part("side", 200, 90, 14, "right", "up", (300, 16, 0)), "right", tails=20)
    assert not now.joints.joints
    assert not [c for c in now.joints.calls if c.id.startswith("school")]
    there = joined("through_dovetail", first, part("side", 200, 90, 14, "right", "up", (300, 16, 0)), "right", tails=2)
    assert [c for c in there.joints.calls if c.id.startswith("school")]
