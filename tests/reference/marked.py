"""Projects with marks that are named as in the project, and as files of version 9 had them."""

import json
import re

from nullah.core.document.names import bare
from nullah.core.edits import step_edits
from nullah.core.planning.plan import plan
from nullah.formats import project_file


def marked(project, **marks):
    """The project with ``measured`` and ``cut`` in place of what is marked so, each a list of marks by the project's names."""
    for one in project.pieces:
        of = {
            k: tuple(m for m in v if (re.match(r"\d+(?=\.)", m.part) or ["1"])[0] == one.id) for k, v in marks.items()
        }
        named = {k: tuple(m.model_copy(update={"part": bare(m.part, one.id)}) for m in v) for k, v in of.items()}
        project = project.with_marks(one.id, **named)
    return project


def with_done(project, *ids):
    """The project with steps said to be done, whatever they wait for."""
    now = plan(project)
    steps = {s.id: s for s in now.bench.steps}
    return step_edits.with_steps(project, now, [steps[i] for i in ids])


def as_version_9(project):
    """The project as a file of that version had it, as what JSON gives: marks in one list of each kind, by the project's names."""
    raw = json.loads(project_file.dumps(project))
    for name in ("choices_of_all", "done_of_all"):
        raw.pop(name)
    guides = []
    for piece in raw["pieces"]:
        piece.pop("marks")
        guide = piece.pop("guide")
        guides += [{**guide, "piece": piece["id"]}] if guide else []
    for kind in ("measured", "cut", "joints_cut", "choices"):
        raw[kind] = [json.loads(m.model_dump_json()) for m in getattr(project, kind)]
    return {**raw, "done": list(project.done), "guides": guides, "schema_version": 9}
