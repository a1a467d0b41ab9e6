"""A piece of two parts and a joint between them, for the families' checks."""

from nullah.core import piece_edits
from nullah.core.document import Project
from nullah.core.document_pieces import AddPart, Designed
from nullah.core.plan import plan


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
