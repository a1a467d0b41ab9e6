"""Any two parts of any size, joined by any family and asked anything within its bounds: closed solids, or a sentence."""

import os
import random

import pytest
from solid_sections import assert_closed, read, volume
from two_parts import part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Dimension
from nullah.core.edits import piece_edits
from nullah.core.edits.edit import BadEdit
from nullah.core.joints.families import FAMILIES
from nullah.core.planning.plan import plan
from nullah.core.shapes.cut import WAYS
from nullah.core.values.measure import told
from nullah.formats import parts_obj

RUNS = 300 if os.environ.get("NULLAH_SOAK") else 6
AXIS = {"right": 0, "left": 0, "back": 1, "front": 1, "up": 2, "down": 2}


def sized(chance):
    """A length between a hair and that of a beam, most of them as furniture has them."""
    return round(
        chance.choice(
            [chance.uniform(1, 20), chance.uniform(10, 100), chance.uniform(50, 900), chance.uniform(500, 4000)]
        ),
        1,
    )


def lying(chance, name, at=(0.0, 0.0, 0.0)):
    face = chance.choice(sorted(WAYS))
    upper = chance.choice(sorted(w for w in WAYS if AXIS[w] != AXIS[face]))
    size = (
        [sized(chance) for _ in range(3)]
        if chance.random() < 0.3
        else [chance.uniform(100, 900), chance.uniform(30, 300), chance.uniform(8, 60)]
    )
    size[2] = min(size[2], 300.0)
    return part(name, *(round(s, 1) for s in size), face, upper, tuple(round(v, 1) for v in at))


def box_of(one):
    """How far a part reaches along x, y and z."""
    thick, wide = AXIS[one.face], AXIS[one.upper]
    out = [0.0, 0.0, 0.0]
    out[thick], out[wide], out[3 - thick - wide] = one.thickness, one.width, one.length
    return out


def answers(chance, family):
    found = {}
    for ask in family.asks:
        if chance.random() < 0.5:
            continue
        if ask.type == "choice":
            found[ask.name] = chance.choice(ask.options)
        elif ask.type == "yesno":
            found[ask.name] = chance.random() < 0.5
        else:
            low, high = ask.least or 0.0, ask.most if ask.most is not None else 1000.0
            near = low + (high - low) * chance.choice([0, 0.01, 0.05, 0.2, 0.6, 1]) * chance.random()
            found[ask.name] = round(near) if ask.type == "whole" else round(near, 1)
    return found


OPPOSITE = {"right": "left", "left": "right", "front": "back", "back": "front", "up": "down", "down": "up"}


def at_a_corner(chance, first, way):
    """A second part that the end or the edge which looks ``way`` meets at a corner, flush: square to it, over it, over its edge as a
    nailed one lies, or in a frame."""
    across = next(w for w in WAYS if AXIS[w] not in (AXIS[first.face], AXIS[first.upper]))
    upper = first.upper if AXIS[first.upper] != AXIS[way] else across
    kind = chance.choice(["square", "over", "lapped", "frame"])
    size = {
        "length": round(chance.uniform(60, 400), 1),
        "width": first.width,
        "thickness": round(chance.uniform(8, 40), 1),
    }
    face = way
    if kind == "frame" and AXIS[way] != AXIS[first.face]:
        face, upper = first.face, chance.choice([way, OPPOSITE[way]])
        size |= {"width": round(chance.uniform(20, 90), 1), "thickness": first.thickness}
    second = part("other", *size.values(), face, upper)
    at, reach, theirs = [0.0, 0.0, 0.0], box_of(first), box_of(second)
    k, forward = AXIS[way], way in ("right", "back", "up")
    at[k] = reach[k] if forward else -theirs[k]
    if kind == "lapped":
        at[k] = reach[k] - theirs[k] if forward else 0.0
    inward = AXIS[first.face]
    if kind == "square" and inward != k:  # the second goes on from the first's back
        at[inward] = reach[inward] if first.face in ("left", "front", "down") else -theirs[inward]
    elif kind == "frame" and AXIS[way] != inward:
        beside = 3 - k - inward
        at[beside] = chance.choice([0.0, reach[beside] - theirs[beside]])
    return second.model_copy(update={"at": tuple(round(v, 1) for v in at)})


def any_two(chance, family, corners, sizes=lambda chance: {}):
    """Two parts that lie against each other somehow, or one, with a joint of a family: the project, the parts, the way the first looks
    and the joint's name.

    ``corners``: how often they meet at a corner; ``sizes``: other sizes than any.

    Raises:
        BadEdit: it cannot be made.
    """
    first = lying(chance, "one")
    first = first.model_copy(update=sizes(chance))
    way = chance.choice(sorted(WAYS))
    reach, second = box_of(first), lying(chance, "other")
    second = second.model_copy(update=sizes(chance))
    theirs, at = box_of(second), [0.0, 0.0, 0.0]
    for k in range(3):  # beside the first, and on the way it looks against it
        at[k] = chance.choice(
            [0.0, reach[k] - theirs[k], chance.uniform(-0.5, 0.5) * reach[k], (reach[k] - theirs[k]) / 2]
        )
    at[AXIS[way]] = reach[AXIS[way]] if way in ("right", "back", "up") else -theirs[AXIS[way]]
    second = second.model_copy(update={"at": tuple(round(v, 1) for v in at)})
    if chance.random() < corners:
        second = at_a_corner(chance, first, way)
    both = bool(FAMILIES[family].home)
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(first, second)),))
    project = piece_edits.add_joint(project, plan(project), family, "one", "other" if both else "", way)
    name = next(e.id for e in project.in_hand.edits if getattr(e, "edit", "") == "joint")
    return project, (first, second), way, name


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_soak_any_two_parts(family):
    chance, made = random.Random(family), 0
    for _ in range(RUNS):
        try:
            project, _, _, name = any_two(chance, family, 0.4)
        except BadEdit as error:
            assert str(error).endswith(".")
            continue
        for what, value in answers(chance, FAMILIES[family]).items():
            project = piece_edits.set_joint(project, name, what, value)
        now = plan(project)
        if not now.joints.joints:
            said = [told(c.question) for c in now.calls if name in c.question]
            assert said or now.joints.problem or now.piece.problem
            assert all(s.endswith(".") for s in said), said
            continue
        made += 1
        (joint,) = now.joints.joints
        assert all(s.strip() for s in joint.steps)
        assert all(told(c.text).strip() for c in joint.checks)
        for face in joint.faces:
            assert all(i.mm >= 0 for i in face.drawing.items if isinstance(i, Dimension))
        for body in read(parts_obj.text(now)).values():
            assert_closed(body)
            assert volume(body) > 0
    if RUNS > 100:
        assert made > 2, "hardly any can be made"
