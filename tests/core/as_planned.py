"""What the plan of a box comes to, as plain values to hold later plans against: the demo and 200 projects saved as version 3.

``python tests/core/as_planned.py`` writes the values anew. Do that only when a difference is shown to be a mended fault, and say so
in the change log.
"""

import dataclasses
import hashlib
import json
import lzma
from pathlib import Path

from nullah import demo
from nullah.core.pictures.full_size import sheets
from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import cut_list, project_file

FOLDER = Path(__file__).parents[1] / "expected"
PROJECTS, VALUES = FOLDER / "projects_version_3.jsonl.xz", FOLDER / "boxes_as_planned.jsonl.xz"


def projects():
    """The demo without its days of readings, which came later, then each saved project brought up to the present version."""
    first = demo.box()
    unread = tuple(b.model_copy(update={"moistures": ()}) for b in first.boards)
    first = first.model_copy(update={"boards": unread, "references": ()})
    saved = lzma.decompress(PROJECTS.read_bytes()).decode().splitlines()
    return [first, *(project_file.loads(text) for text in saved)]


def values_of(project):
    """Sections of the plan by name, each of plain values; lengths to 0.001 mm."""
    now = plan(project)
    named = _by_place(now.bench.steps)
    return {
        "parts": [
            [p.id, p.name, *map(_round, p.sizes), *map(_round, p.planned), p.species, p.role, p.cut, list(p.measured)]
            for p in now.piece.parts
        ],
        "sums": [[c.name, _round(c.total)] for c in now.piece.in_hand.own.box.chains],
        "settings": [_setting(s) for s in now.joints.settings],
        "joints": [
            [j.id, list(j.parts), {k: _round(v) for k, v in j.figures.items()}, list(map(_setting, j.settings))]
            for j in now.joints.joints
        ],
        "checks": [[j.id, [[bool(c.holds), told(c.text)] for c in j.checks]] for j in now.joints.joints],
        "ways": [[j.id, [told(s) for s in j.steps]] for j in now.joints.joints],
        "cut list": cut_list.text(now).splitlines(),
        "steps": [
            [
                named.get(s.id, s.id),
                told(s.title),
                told(s.words),
                s.figure,
                sorted(named.get(w, w) for w in s.waits),
                list(s.parts),
                s.done,
                0.0
                if s.joint
                else _round(s.minutes),  # what a joint takes is read off its cuts since these were written
            ]
            for s in now.bench.steps
        ],
        "templates": [[s.title, _digest(s.drawing)] for s in sheets(now)],
    }


def _by_place(steps):
    """Steps of putting a box together had their place among each other for a name when these were written."""
    together = [s.id for s in steps if s.id.startswith("together ")]
    return {name: f"together {n}" for n, name in enumerate(together)}


def _setting(s):
    return [s.tool, None if s.value is None else _round(s.value), s.text, list(s.parts), told(s.use)]


def _round(mm):
    return round(float(mm), 3) + 0.0


def _digest(drawing):
    """Of every line, area and figure drawn, wherever it comes in the order."""
    return hashlib.sha256("\n".join(sorted(map(_plain, drawing.items))).encode()).hexdigest()[:20]


def _plain(value):
    if dataclasses.is_dataclass(value):
        return f"{type(value).__name__}({[_plain(getattr(value, f.name)) for f in dataclasses.fields(value)]})"
    if isinstance(value, (tuple, list)):
        return f"[{', '.join(map(_plain, value))}]"
    return f"{_round(value):.3f}" if isinstance(value, float) else str(value)


def read():
    """The values as they were written, in the order of ``projects``."""
    found = [json.loads(line) for line in lzma.decompress(VALUES.read_bytes()).decode().splitlines()]
    for step in (one for values in found for one in values["steps"] if one[0].startswith("joint ")):
        step[-1] = 0.0
    return found


if __name__ == "__main__":
    lines = [json.dumps(values_of(p), separators=(",", ":"), ensure_ascii=False) for p in projects()]
    VALUES.write_bytes(lzma.compress("\n".join(lines).encode(), preset=9))
