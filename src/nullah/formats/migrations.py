"""Projects of older versions as the present one has them, where defaults alone do not do."""

from __future__ import annotations

import re
from collections.abc import Mapping
from contextlib import suppress

from nullah.core.document.names import named_deed
from nullah.core.document.project import Project
from nullah.core.edits.edit import BadEdit, held, mark_joint
from nullah.core.layout.model import cuts
from nullah.core.layout.progress import cut_name
from nullah.core.planning.plan import plan

DEEDS_NAMED = (
    9  # the first version that names a step of putting together by what it is, not by its place among the others
)
SIDES_READ = 7  # the first version whose readings are of face or back, and of how often it was planed
JOINTS_HELD = 4  # the first version that holds joints that are cut, and names cuts by where they lie


def migrated(project: Project, version: int) -> Project:
    """A project read from a file of an older version."""
    project = as_cut_until_now(with_named_cuts(project)) if version < JOINTS_HELD else project
    project = with_layout_standing(project) if version < SIDES_READ else project
    return with_named_deeds(project) if version < DEEDS_NAMED else project


def with_layout_standing(project: Project) -> Project:
    """A project from before boards were read as they are now: its layout, made from other words for the same boards, still stands. The
    plan holds it to account all the same."""
    if project.layout is None:
        return project
    now = plan(project).breakdown.request.fingerprint
    return held(project, layout=held(project.layout, fingerprint=now))


def as_cut_until_now(project: Project) -> Project:
    """A project from before joints that are cut were held: those whose steps are done are marked at their figures as they stand."""
    done = {d.removeprefix("joint ") for d in project.done if d.startswith("joint ")}
    if not done:
        return project
    for joint in plan(project).joints.joints:
        if joint.id in done:
            with suppress(BadEdit):  # one of thousands of tails, which nobody cut
                project = mark_joint(project, joint)
    return project


def with_named_cuts(project: Project) -> Project:
    """A project from before saw cuts were named by where they lie: steps done, timed and logged under a cut's number have its name."""
    names: dict[str, str] = {}
    for b in project.layout.boards if project.layout else ():
        names |= {f"saw {b.board} {nth}": cut_name(b.board, node) for nth, node in enumerate(cuts(b.root), 1)}
    return _renamed(project, names)


def with_named_deeds(project: Project) -> Project:
    """A project from before steps of putting together were named by what they are: what is done, timed and logged under a number has
    its name, and a number that is no step's is not done."""
    known = (*project.done, *(e.step for e in project.log), project.timer.step if project.timer is not None else "")
    if not any(map(_NUMBERED.fullmatch, known)):
        return project
    now = plan(project)
    names: dict[str, str] = {}
    for made in now.piece.made:
        order = now.togethers[made.id].order if made.id in now.togethers else ()
        deeds = {str(nth): act.deed for nth, act in enumerate(order)}
        names |= {
            named_deed("together", nth, made.id): named_deed("together", of, made.id) for nth, of in deeds.items()
        }
        done = [
            held(d, of=deeds[d.of]) if d.what == "together" and d.of in deeds else d
            for d in project.of_piece(made.id).marks.done
            if d.what != "together" or d.of in deeds or not d.of.isdigit()
        ]
        project = project.with_marks(made.id, done=tuple(dict.fromkeys(done)))
    return _renamed(project, names)


_NUMBERED = re.compile(r"together (\d+\.)?\d+")


def _renamed(project: Project, names: Mapping[str, str]) -> Project:
    """A project with steps that are of no one piece done, and any steps timed and logged, under other names."""
    if not names:
        return project
    log = tuple(e.model_copy(update={"step": names[e.step]}) if e.step in names else e for e in project.log)
    timer = project.timer
    if timer is not None and timer.step in names:
        timer = held(timer, step=names[timer.step])
    done = tuple(dict.fromkeys(names.get(d, d) for d in project.done_of_all))
    return held(project, done_of_all=done, log=log, timer=timer)
