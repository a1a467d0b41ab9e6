"""What stands before the heads of screws is told with how far off it is (by hand; the room a hand wants is common practice)."""

import pytest
from two_parts import part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told


def screwed(above, beside=0.0, long=300):
    """A strip of 20 screwed down to a board, and a shelf so far above its upper side; ``beside``: moved off across the strip."""
    edits = (
        part("strip", 300, 40, 20, "up", "back", (0, 0, 0)),
        part("board", 300, 100, 30, "up", "back", (0, -30, -30)),
        part("shelf", long, 40, 18, "up", "back", (0, beside, 20 + above)),
    )
    project = Project(pieces=(Designed(kind="free", name="Try", edits=edits),))
    project = piece_edits.add_joint(project, plan(project), "butt_screws", "strip", "board", "down")
    (joint,) = plan(project).joints.joints
    return [told(s) for s in joint.steps if "before their heads" in s]


@pytest.mark.parametrize(
    ("above", "words"), [(40.0, "no hand room"), (100.0, "a short driver"), (179.0, "a short driver")]
)
def test_a_shelf_above_is_told_with_how_far_off_it_is(above, words):
    (step,) = screwed(above)
    assert step.startswith(f"Shelf stands {above:g} before their heads")
    assert words in step


def test_what_is_far_off_or_beside_is_not():
    assert not screwed(181.0)
    # the screws stand in the middle of the strip, 20 from its edge: a blade of 5 goes by a shelf whose edge is 26 in, not 24
    assert not screwed(60.0, beside=26.0)
    assert screwed(60.0, beside=24.0)
    # nor is a shelf in the way that ends before the first screw, 25 from the end
    assert not screwed(60.0, long=19)
    assert screwed(60.0, long=22)


def test_a_table_says_which_screws_want_a_short_driver():
    """Kickers over runners: the drawer's opening, 110 less two rails of 18, lies between them; the stops under the upper rail are 6
    high."""
    now = plan(Project(pieces=(Designed(kind="small_table", name="x", asked={"drawer": True}),)))
    steps = {j.id: [told(s) for s in j.steps if "before their heads" in s] for j in now.joints.joints}
    assert steps["screws-kicker-left-top"][0].startswith("Left runner stands 74 ")
    assert steps["screws-stop-left"][0].startswith("Upper rail stands 68 ")
    assert not steps["screws-runner-left"]
