"""What settings and steps tell is what is cut, for every family, any way and size: each figure is found again on the cuts' own geometry
from the side that it names, and prose holds no other."""

import os
import random

import pytest
from found_on_cuts import untrue
from test_any_sizes_reference import AXIS, answers, at_a_corner, box_of, lying

from nullah.core import piece_edits
from nullah.core.document import Measured, Project
from nullah.core.document_pieces import Designed
from nullah.core.edit import BadEdit
from nullah.core.joints.families import FAMILIES
from nullah.core.plan import plan
from nullah.core.shapes.cut import WAYS

SIZES = 300 if os.environ.get("NULLAH_SOAK") else 5


def usual(chance):
    """Sizes as furniture has them, to a tenth of a mm, so that parts that lie against each other do so exactly."""
    return {
        "length": round(chance.uniform(100, 700), 1),
        "width": round(chance.uniform(30, 220), 1),
        "thickness": round(chance.uniform(12, 60), 1),
    }


def tried(chance, family):
    """Two parts, or one, with a joint of any way, one of them measured in half of the cases; None where it cannot be made."""
    first = lying(chance, "one").model_copy(update=usual(chance))
    way = chance.choice(sorted(WAYS))
    reach, second = box_of(first), lying(chance, "other").model_copy(update=usual(chance))
    theirs, at = box_of(second), [0.0, 0.0, 0.0]
    for k in range(3):
        at[k] = chance.choice(
            [0.0, reach[k] - theirs[k], chance.uniform(-0.5, 0.5) * reach[k], (reach[k] - theirs[k]) / 2]
        )
    at[AXIS[way]] = reach[AXIS[way]] if way in ("right", "back", "up") else -theirs[AXIS[way]]
    second = second.model_copy(update={"at": tuple(round(v, 1) for v in at)})
    if chance.random() < 0.5:
        second = at_a_corner(chance, first, way)
    both = bool(FAMILIES[family].home)
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(first, second)),))
    try:
        project = piece_edits.add_joint(project, plan(project), family, "one", "other" if both else "", way)
    except BadEdit:
        return None
    name = next(e.id for e in project.in_hand.edits if getattr(e, "edit", "") == "joint")
    if chance.random() < 0.7:
        for what, value in answers(chance, FAMILIES[family]).items():
            ask = next(a for a in FAMILIES[family].asks if a.name == what)
            if ask.type in ("choice", "yesno") or chance.random() < 0.4:
                project = piece_edits.set_joint(project, name, what, value)
    if chance.random() < 0.5:
        part = chance.choice((first, second))
        size = chance.choice(
            [n for n, side in (("width", part.upper), ("thickness", part.face)) if AXIS[side] != AXIS[way]]
        )
        value = round(getattr(part, size) * chance.uniform(0.9, 1.03), 1)
        project = project.model_copy(update={"measured": (Measured(part=part.id, dimension=size, value=value),)})
    now = plan(project)
    return now if now.joints.joints else None


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_soak_what_is_told_is_what_is_cut(family):
    chance, made, tries = random.Random(f"told {family}"), 0, 0
    while made < SIZES:
        tries += 1
        assert tries < 400 * SIZES, "hardly any can be made"
        now = tried(chance, family)
        if now is None:
            continue
        made += 1
        assert untrue(now) == []
