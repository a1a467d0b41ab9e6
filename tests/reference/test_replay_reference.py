"""The cuts of every joint made one after the other on its solids: what each takes away lies under a surface of the blank that is still
there, so that its lines can be; but where a line is drawn anew on the wood as it then is, and a step says so."""

import random
import re

import numpy as np
import pytest
import test_fillings_reference as fillings
import test_perturbed_reference as perturbed
from shapely import union_all
from shapely.geometry import MultiPoint, Polygon
from solid_sections import section
from two_parts import joined, part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.joints.families import FAMILIES
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import SIDES
from nullah.core.shapes.solid import solid
from nullah.core.values.measure import told

LOOKED_AT = (0.03, 0.25, 0.5, 0.75, 0.97)  # of a cut's depth
LOST = 0.5  # mm2 of a cut that may lie under nothing: what rounding leaves
ANEW = re.compile(r"draw it again|Draw the |Mark and mitre|Prick the|mark its mortises from the tenons as they are")


def seen(body, size, side, depth):
    """The section of a body so deep under a side, by corners and triangles."""
    axis, far = SIDES[side]
    return section(body, size[axis] - depth if far else depth, axis)


def without_a_line(name, size, before, cut):
    """How much of what a cut takes lies under no surface of the blank, mm2, seen square to its side."""
    made = solid(name, size, before)
    body = (np.array(made.corners), np.array(made.triangles))
    deep = min(cut.depth, size[SIDES[cut.side][0]])
    gone = []
    for share in LOOKED_AT:
        points = [
            np.array(p) * (1 - share) + np.array(q) * share
            for p, q in zip(cut.outline, cut.far or cut.outline, strict=True)
        ]
        outline = MultiPoint(points).convex_hull if cut.far else Polygon(points).buffer(0)
        gone.append(outline.intersection(seen(body, size, cut.side, deep * share)))
    return union_all(gone).difference(seen(body, size, cut.side, 0.02)).area


def replay(now):
    """Every joint's cuts in the order of the plan; the families that were seen."""
    sizes = {p.id: p.sizes for p in now.piece.parts}
    done, found = {}, set()
    for joint in now.joints.joints:
        found.add(joint.family)
        for n, cut in enumerate(joint.cuts):
            before = done.setdefault(cut.part, [])
            if n not in joint.redrawn:
                assert without_a_line(cut.part, sizes[cut.part], before, cut) < LOST, (joint.name, n, cut)
            before.append(cut)
        if joint.redrawn:
            assert any(ANEW.search(told(step)) for step in joint.steps), joint.steps
    return found


@pytest.mark.parametrize("kind", sorted(k for k, made in KINDS.items() if made.design and k != "free"))
def test_a_whole_piece(kind):
    assert replay(plan(Project(pieces=(KINDS[kind].piece({}),))))


RAIL, LEG = part("rail", 300, 80, 24, "front", "up"), part("leg", 120, 48, 48, "front", "right", (300, -12, 0))
ONE, OTHER = part("one", 400, 80, 24, "up", "back"), part("other", 400, 90, 24, "up", "back", (0, 80, 0))
TENONS = [
    {"style": "stepped"},
    {"style": "through", "tenons": 2, "hold": "wedged"},
    {"haunched": True, "hold": "drawbored"},
    {"shoulders": "seen sides", "style": "stub"},
]


def practice(corner):
    return plan(
        Project(pieces=(Designed(kind="practice_joint", name="Try", asked={"corner": corner, "width": 120.0}),))
    )


def test_every_family_by_itself():
    families = replay(plan(Project(pieces=(perturbed.joined()[0],))))
    for asked in TENONS:
        families |= replay(joined("mortise_and_tenon", RAIL, LEG, "right", **{"thickness": 8.0, **asked}))
    for kind in fillings.KINDS:
        chance = random.Random(7)
        now = kind(chance)[0]
        while not now.joints.joints:
            now = kind(chance)[0]
        families |= replay(now)
    families |= replay(
        joined(
            "mitre",
            part("a", 400, 60, 20, "up", "back"),
            part("b", 300, 60, 20, "up", "left", (400, 0, 0)),
            "right",
            keys=2,
        )
    )
    families |= replay(
        joined(
            "sliding_lid",
            part("lid", 200, 120, 8, "up", "back", (0, 0, 60)),
            part("s", 200, 90, 14, "back", "up", (0, 120, 0)),
            "back",
        )
    )
    families |= replay(joined("splined_edge", ONE, OTHER, "back", stop=30.0))
    families |= replay(
        joined(
            "buttons",
            part("r", 500, 80, 20, "front", "up"),
            part("t", 700, 500, 20, "up", "back", (-100, -50, 80)),
            "up",
        )
    )
    for corner in ("through", "half-blind", "fingers"):
        families |= replay(practice(corner))
    whole = {name for name, family in FAMILIES.items() if family.joins is not None and name != "edge_joint"}
    seen_elsewhere = {"rabbet", "butt_screws", "nailed_rabbet"}  # in the pieces above
    assert whole - families <= seen_elsewhere, whole - families


def test_a_line_that_is_sawn_away_is_found_out():
    """A peg's hole marked on the face of a tenon before its cheeks are sawn: it would be told."""
    now = joined("mortise_and_tenon", RAIL, LEG, "right", thickness=8.0, hold="drawbored")
    (joint,) = now.joints.joints
    assert joint.redrawn
    sizes = {p.id: p.sizes for p in now.piece.parts}
    peg = joint.redrawn[0]
    before = [c for c in joint.cuts[:peg] if c.part == "rail"]
    assert without_a_line("rail", sizes["rail"], before, joint.cuts[peg]) > 10
