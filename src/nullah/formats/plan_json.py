"""The plan as JSON: everything computed, as plain data, mm."""

from __future__ import annotations

import json
import math
from typing import Any

from nullah.core.marking.plan import JointPlan, Setting
from nullah.core.pieces.part import Chain
from nullah.core.planning.plan import Plan
from nullah.core.values.measure import plain, told


def as_data(plan: Plan) -> dict[str, Any]:
    """The plan as dictionaries and lists."""
    outside, inside = plan.piece.in_hand.outside, plan.piece.in_hand.inside
    return {
        "project": plan.project.name,
        "units": "mm",
        "problem": plan.piece.problem or plan.joints.problem,
        "outside": list(outside) if outside else None,
        "inside": list(inside) if inside else None,
        "pieces": [
            {"id": m.id, "kind": m.piece.kind, "name": m.piece.name, "problem": m.problem or plan.joints.troubles[m.id]}
            for m in plan.piece.made
        ],
        "rods": [
            {"id": f"{m.prefix}{c.rod or c.name.split()[0].lower()}", "piece": m.id, **_sum(c)}
            for m in plan.piece.made
            for c in m.chains
        ],
        "chains": [_sum(c) for c in plan.piece.chains],
        "parts": [
            {
                "id": p.id,
                "piece": plan.piece.of_part[p.id].id,
                "label": p.name,
                "name": p.name,
                "length": p.length,
                "width": p.width,
                "thickness": p.thickness,
                "species": p.species,
                "role": p.role,
                "cut": p.cut,
                "measured": list(p.measured),
                "drives": list(p.drives),
            }
            for p in plan.piece.parts
        ],
        "movement": [
            {"part": m.part, "now_percent": m.now, "to_dry": m.to_dry, "to_wet": m.to_wet} for m in plan.timber.movement
        ],
        "layout": {
            "name": plan.breakdown.layout.name if plan.breakdown.layout else None,
            "unplaced": list(plan.breakdown.layout.unplaced) if plan.breakdown.layout else [],
            "problems": list(plan.breakdown.problems),
            "cuts": [{"number": c.number, "board": c.board, "words": c.words} for c in plan.breakdown.cuts],
            "places": {
                name: {
                    "board": place[0],
                    "x": place[1].x,
                    "y": place[1].y,
                    "length": place[1].length,
                    "width": place[1].width,
                }
                for p in plan.piece.parts
                for name in plan.breakdown.rough.of(p.id)
                if (place := plan.breakdown.place(name))
            },
        },
        "trueup": [
            {
                "id": t.id,
                "board": t.board,
                "thickest": t.planing.thickest,
                "wanted": t.planing.wanted,
                "enough": bool(t.planing.enough),
                "off_face_at_most": t.planing.highest()[2],
            }
            for t in plan.trueup.parts
        ],
        "settings": [_setting(s) for s in plan.joints.settings],
        "joints": [
            {
                "id": joint_id(j.id),
                "family": j.family,
                "name": j.name,
                "parts": list(j.parts),
                "figures": _figures(j),
                "settings": [_setting(s) for s in j.settings],
                "steps": list(j.steps),
                "lengths": [{"part": f.part, "mm": f.mm, "from": f.origin, "to": f.to} for f in j.lengths],
                "checks": [{"holds": bool(c.holds), "text": c.text} for c in j.checks],
            }
            for j in plan.joints.joints
        ],
        "together": _together(plan),
        "calls": [
            {
                "id": c.id,
                "station": c.station,
                "question": c.question,
                "recommended": c.recommended,
                "taken": c.taken,
                "parts": list(c.parts),
                "conflict": c.conflict,
                "taste": c.taste,
                "options": [{"id": o.id, "label": o.label, "consequences": list(o.consequences)} for o in c.options],
            }
            for c in plan.calls
        ],
        "steps": [
            {
                "id": s.id,
                "station": s.station,
                "title": s.title,
                "words": s.words,
                "figure": s.figure,
                "waits": list(s.waits),
                "minutes": s.minutes,
                "cautions": list(s.cautions),
                "done": s.done,
            }
            for s in plan.bench.steps
        ],
    }


def joint_id(name: str) -> str:
    """A joint's id as it is written: letters, digits, ``-`` and ``.``."""
    return name.replace(" ", ".")


def _figures(joint: JointPlan) -> dict[str, float]:
    """What a joint is laid out to, by name: mm; a slope in degrees off square."""
    return {k: math.degrees(math.atan(1 / v)) if k == "slope" else v for k, v in joint.figures.items()}


def _sum(chain: Chain) -> dict[str, Any]:
    lines = [{"label": x.label, "times": x.times, "each": x.each} for x in chain.lines]
    return {"name": chain.name, "total": chain.total, "lines": lines}


def _setting(s: Setting) -> dict[str, Any]:
    return {
        "tool": s.tool,
        "value": s.value,
        "text": s.text,
        "parts": list(s.parts),
        "use": s.use,
        "part": s.parts[0] if s.parts else "",
        "from": s.origin,
        "marks": [{"part": f.part, "mm": f.mm, "from": f.origin, "to": f.to} for f in s.marks],
    }


def _together(plan: Plan) -> dict[str, Any] | None:
    t = plan.together
    if t is None:
        return None
    return {
        "frame": list(t.frame),
        "diagonal": t.diagonal,
        "engaged": dict(t.engaged),
        "glue_minutes": t.glue_minutes,
        "open_time": list(t.open_time),
        "checks": [{"holds": bool(c.holds), "text": c.text} for c in t.checks],
    }


def text(plan: Plan) -> str:
    """The plan as JSON text, ending in a newline."""
    return told(json.dumps(plain(as_data(plan)), indent=1, ensure_ascii=False, allow_nan=False)) + "\n"
