"""What is measured of a joint after cutting: a size, which its mate is laid out to from then on, or the gap it was left with."""

from __future__ import annotations

import re

from nullah.core.document.names import bare
from nullah.core.document.project import COUNTS, Project
from nullah.core.edits import measuring
from nullah.core.edits.edit import BadEdit, logged, mark_joint
from nullah.core.marking.plan import JointPlan, moved
from nullah.core.planning.plan import Plan, plan
from nullah.core.shapes.cut import SIDES
from nullah.core.values.frozen import replace
from nullah.core.values.measure import BadLength, at_least, marked, parse_length, parse_positive, show_length

GAP = "gap"  # what is measured of any joint; it goes into the record alone
NO_LENGTHS = (*COUNTS, "fingers", "pegs", "cheeks", "clamps", "slope", "angle")  # figures that no rule measures
MOST_GAP = 20.0  # mm: a wider one is no gap of a joint


def measured(project: Project, now: Plan, text: str, when: str = "") -> Project:
    """The project with what was measured of a part or a board (``measuring.measured``), or of a joint: ``corner A-B pin 6.4``,
    ``corner A-B gap 0.3``. A joint one of whose sizes is measured is cut, and stays as it is measured.

    Args:
        now: the plan of the project.

    Raises:
        BadEdit: the text names no part and no joint, nothing of it that is measured, or no length.
    """
    joint, rest = _named(text, now.joints.of_piece.get(project.hand, ()))
    if joint is None:
        return measuring.measured(project, now.piece.parts, text, when)
    called = joint.name.partition(":")[0]
    figures = sorted((n for n in joint.figures if n not in NO_LENGTHS), key=len, reverse=True)
    name = next((n for n in (GAP, *figures) if re.match(rf"{re.escape(n)}\b\s*[=:]?\s*\S", rest, re.I)), "")
    if not name:
        raise BadEdit(f"{called} has {', '.join([*reversed(figures), GAP])} to measure, each with its length.")
    words = rest[len(name) :].lstrip(" =:")
    try:
        mm = parse_length(words, project.units) if name == GAP else parse_positive(words, project.units, f"the {name}")
    except BadLength as error:
        raise BadEdit(str(error)) from None
    said = f"{called} {name} {show_length(mm, project.units, project.denominator).text}"
    if name == GAP:
        if not 0 <= mm <= MOST_GAP:
            raise BadEdit(f"A gap is from nothing to {show_length(MOST_GAP, project.units, project.denominator).text}.")
        return logged(project, "measured", said, when)
    longest = max((max(p.sizes) for p in now.piece.parts if p.id in joint.parts), default=mm)
    if not at_least(longest, mm):
        raise BadEdit(f"{said} is longer than any of its parts, {marked(longest)}: measure it again.")
    return logged(_held_as_it_is(project, joint, name, mm), "measured", said, when)


def _named(text: str, joints: tuple[JointPlan, ...]) -> tuple[JointPlan | None, str]:
    """The joint that a text begins with, by its id or by its name up to the colon, the longest that fits; and the rest."""
    words = " ".join(text.split())
    found: tuple[JointPlan | None, str] = (None, words)
    longest = 0
    for joint in joints:
        for called in (
            joint.id,
            bare(joint.id, joint.piece),
            joint.name,
            joint.name.partition(": ")[2],
            joint.name.partition(":")[0],
        ):
            if len(called) > longest and words.lower().startswith(f"{called.lower()} "):
                found, longest = (joint, words[len(called) + 1 :]), len(called)
    return found


def _held_as_it_is(project: Project, joint: JointPlan, name: str, mm: float) -> Project:
    """The project with a joint cut, one of its figures as measured: what hangs on it is laid out from that.

    Raises:
        BadEdit: it cannot be laid out so.
    """
    was = next((m for m in project.joints_cut if m.joint == joint.id), None)
    stood = was is not None and any(any(moved(was.places[p], at)) for p, at in joint.places.items() if p in was.places)
    figures = {**joint.figures, **(was.figures if was else {}), name: mm}
    places = was.places if was is not None and stood else {}
    after = mark_joint(project, replace(joint, figures=figures, places=places))
    if stood:  # its parts have come to lie otherwise since: where it is cut is known from before
        return after
    now = plan(after)
    laid = next((j for j in now.joints.of_piece.get(project.hand, ()) if j.id == joint.id), None)
    if laid is None:
        raise BadEdit(now.joints.problem or f"{joint.name.partition(':')[0]} cannot be so; measure it again.")
    for part, size in sorted(_goes_through(laid, now) - _goes_through(joint, now)):
        raise BadEdit(
            f"{name.capitalize()} {marked(mm)} goes right through {part}, {marked(size)} there: measure it again."
        )
    return mark_joint(after, replace(laid, figures=figures))


def _goes_through(joint: JointPlan, now: Plan) -> set[tuple[str, float]]:
    """The parts a joint's cuts go right through, called as on the bench, with how thick they are there, mm."""
    parts = {p.id: p for p in now.piece.parts}
    found = set()
    for cut in joint.cuts:
        size = parts[cut.part].sizes[SIDES[cut.side][0]]
        if at_least(cut.depth, size):
            found.add((now.piece.written(cut.part), size))
    return found
