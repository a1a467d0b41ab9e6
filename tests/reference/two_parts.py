"""A piece of two parts and a joint between them, for the families' checks."""

import random

import pytest
from solid_sections import assert_closed, read, shared, volume

from nullah.core.document.pieces import AddPart, Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning.plan import plan
from nullah.formats import parts_obj


def part(name, length, width, thickness, face, upper, at=(0, 0, 0), **more):
    return AddPart(
        id=name, label=name, length=length, width=width, thickness=thickness, face=face, upper=upper, at=at, **more
    )


def joined(family, first, second, way, kit=None, boards=(), **asked):
    """The plan of both, the first looking ``way`` towards the second; ``kit``: what is at hand otherwise than usual;
    ``boards``: what there is to make them of."""
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(first, second)),))
    project = project.model_copy(update={"kit": project.kit.model_copy(update=kit or {}), "boards": boards})
    project = piece_edits.add_joint(project, plan(project), family, first.id, second.id, way)
    name = next(e.id for e in project.in_hand.edits if e.id not in (first.id, second.id))
    for what, value in asked.items():
        project = piece_edits.put_figure(project, name, what, value)
    return plan(project)


def refusal(now):
    """What is said of a joint that cannot be made."""
    return now.joints.problem + "".join(c.question for c in now.joints.calls)


def shaped(family, one, way, **asked):
    """The plan of one part, worked on the side that looks ``way``."""
    project = Project(pieces=(Designed(kind="free", name="Try", edits=(one,)),))
    project = piece_edits.add_joint(project, plan(project), family, one.id, "", way)
    name = next(e.id for e in project.in_hand.edits if e.id != one.id)
    for what, value in asked.items():
        project = piece_edits.put_figure(project, name, what, value)
    return plan(project)


def hold_to_account(kind, runs, near=2e-6):
    """So many of a kind of joint of random sizes, as solids: closed, together as large as ``kind`` says by hand, and nothing of them
    there twice; what cannot be made is told in a sentence.

    ``kind``: from a random source to the plan, the volume of all of it, and volumes of some of its parts.
    """
    chance, held, told = random.Random(kind.__name__), 0, 0
    while held < runs:
        now, whole, left = kind(chance)
        if not now.joints.joints:
            told += 1
            assert refusal(now).rstrip().endswith("."), refusal(now)
            assert told < 40 * runs, "hardly any can be made"
            continue
        held += 1
        found = read(parts_obj.text(now))
        for body in found.values():
            assert_closed(body)
        assert sum(map(volume, found.values())) == pytest.approx(whole, rel=near)
        for name, mm3 in left.items():
            assert volume(found[name]) == pytest.approx(mm3, rel=5e-6), name
        if (
            held % 6 == 1 and len(found) > 1
        ):  # what is there twice would stand for what is missing: looked at by sections
            one, other = found.values()
            assert shared(one, other, {}) == pytest.approx(0, abs=0.5)
