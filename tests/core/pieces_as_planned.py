"""What projects of every kind come to, as values to hold later plans against: 300 saved as version 9, of one to three pieces, with what
was measured, cut, chosen, laid out and done of them. Ids of calls, minutes and cautions are no part of it.
"""

import hashlib
import json
import lzma
from pathlib import Path

from nullah.core.planning.plan import plan
from nullah.core.values.measure import told
from nullah.formats import cut_list

VALUES = Path(__file__).parents[1] / "expected" / "pieces_version_9.jsonl.xz"


def values_of(project):
    """Sections of the plan by name: parts as plain values, all else as a digest."""
    now = plan(project)
    sections = {
        "settings": [[s.tool, _mm(s.value), s.text, s.parts, told(s.use)] for s in now.joints.settings],
        "joints": [[j.id, j.parts, {k: _mm(v) for k, v in j.figures.items()}] for j in now.joints.joints],
        "words": [
            [j.id, list(map(told, j.steps)), [(bool(c.holds), told(c.text)) for c in j.checks]]
            for j in now.joints.joints
        ],
        "cut list": cut_list.text(now),
        "calls": [
            [
                told(c.question),
                [(told(o.label), list(map(told, o.consequences))) for o in c.options],
                c.in_force,
                c.open,
            ]
            for c in now.calls
        ],
        "steps": [
            [
                s.id,
                told(s.title),
                told(s.words),
                s.figure,
                s.done,
                sorted(s.waits),
            ]
            for s in now.bench.steps
        ],
        "laid": [[n, board, node.x, node.y] for n, (board, node) in sorted(now.breakdown.places.items())],
    }
    parts = [[p.id, *map(_mm, p.sizes), *map(_mm, p.planned), p.cut, list(p.measured)] for p in now.piece.parts]
    return {"parts": parts, **{name: _digest(value) for name, value in sections.items()}}


def _mm(value):
    return None if value is None else round(float(value), 3) + 0.0


def _digest(value):
    return hashlib.sha256(json.dumps(value, ensure_ascii=False).encode()).hexdigest()[:16]


def read():
    """Each saved project as text, and what it came to."""
    lines = lzma.decompress(VALUES.read_bytes()).decode().splitlines()
    return [(json.dumps(one["project"]), one["values"]) for one in map(json.loads, lines)]
