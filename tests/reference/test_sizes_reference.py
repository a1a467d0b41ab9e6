"""Sizes of random boxes worked out again, inside out, from what they hold (common practice, no source), and read off the plan as it is
printed: chains, parts, baselines, dividers, dadoes; then with walls that came out otherwise than planned."""

import math
import random

import pytest
from random_projects import several

from nullah.core.edits import measuring
from nullah.core.planning.plan import plan
from nullah.formats import plan_json

RUN = {
    "white ash": 8,
    "western larch": 7,
    "American elm": 7,
    "black cherry": 7,
    "yellow-poplar": 6,
    "eastern white pine": 6,
}
PROJECTS = several(120, 5000, laid=False)


def groove_depth(thick):
    third = thick / 3
    return round(min(third, thick - 5) if thick > 7.5 else third, 1)


def worked_out(piece, thick):
    """Outside (l, w, h), parts' sizes and what is set, of a box whose walls are as ``thick`` says, the outside held as planned."""
    c, n, w = piece.contents, piece.dividers, piece.wiggle
    across, up, along = {
        "upright": (c.width, c.height, c.thickness),
        "on edge": (c.height, c.width, c.thickness),
        "flat": (c.width, c.thickness, c.height),
    }[c.stand]
    each = math.ceil(c.count / (n + 1))
    bay, tall = (along, up * each) if c.stand == "flat" else (along * each, up)
    run = RUN[piece.wall_species]
    half = round(piece.wall / 2, 1)
    edge = max(5.0, math.ceil((half + max(thick.values()) / run + 0.5) * 2) / 2)
    length = 2 * piece.wall + (n + 1) * (bay + 2 * w) + n * piece.divider_thickness
    width = 2 * piece.wall + across + 2 * w
    height = edge + piece.bottom_thickness + tall + w
    low = 0.0
    if piece.lid == "sliding":
        height += piece.lid_thickness + edge
        low = piece.lid_thickness + edge
    elif piece.lid == "lift-off":
        height += piece.lid_thickness / 2
    inside = length - thick["B"] - thick["D"], width - thick["A"] - thick["C"]
    depth, dado = groove_depth(min(thick.values())), groove_depth(min(thick["A"], thick["C"]))
    parts = {
        "A": (length, height, thick["A"]),
        "C": (length, height, thick["C"]),
        "B": (width, height - low, thick["B"]),
        "D": (width, height, thick["D"]),
        "bottom": (inside[0] + 2 * depth - 0.5, None, piece.bottom_thickness),
    }
    clear = (inside[0] - n * piece.divider_thickness) / (n + 1)
    dadoes = [thick["D"] + (i + 1) * clear + i * piece.divider_thickness for i in range(n)]
    for i in range(n):
        parts[str(i + 1)] = (inside[1] + 2 * dado, tall, piece.divider_thickness)
    if piece.lid == "sliding":
        parts["lid"] = (inside[0] + depth + thick["B"] - 0.5, None, piece.lid_thickness)
    elif piece.lid == "lift-off":
        parts["lid"] = (length, width, piece.lid_thickness)
    return (length, width, height), inside, parts, dadoes, half


def hold_to_account(project, thick):
    told = plan_json.as_data(plan(project))
    outside, inside, parts, dadoes, half = worked_out(project.piece, thick)
    assert told["outside"] == pytest.approx(outside, abs=1e-6)
    assert told["inside"][:2] == pytest.approx(inside, abs=1e-6)
    assert [c["total"] for c in told["chains"]] == pytest.approx(outside, abs=1e-6)
    for chain in told["chains"]:
        assert sum(x["times"] * x["each"] for x in chain["lines"]) == pytest.approx(chain["total"], abs=1e-6)
    assert {p["id"] for p in told["parts"]} == set(parts)
    for p in told["parts"]:
        for name, size in zip(("length", "width", "thickness"), parts[p["id"]], strict=True):
            if size is not None:  # across the grain of a panel: test_clearances_reference.py
                assert p[name] == pytest.approx(size, abs=1e-6), (p["id"], name)
    gauges = {
        (round(s["value"], 6), part) for s in told["settings"] if s["tool"] == "marking gauge" for part in s["parts"]
    }
    mates = {"A": "BD", "B": "AC", "C": "BD", "D": "AC"}
    assert gauges == {(round(thick[m], 6), p) for p, ms in mates.items() for m in ms}
    steps = {round(s["value"], 6) for s in told["settings"] if s["tool"] == "dividers"}
    pin = project.piece.pin
    high = [parts[p][1] for p in "BD"]
    tails = [max(1, math.ceil((h - 2 * half + pin) / (5 * pin) - 1e-9)) for h in high]
    assert steps == {round((h - 2 * half + pin) / t, 6) for h, t in zip(high, tails, strict=True) if t > 1}
    if len(dadoes) <= 8:
        near = sorted(s["value"] for s in told["settings"] if s["tool"] == "rule" and "dado" in s["use"])
        assert near == pytest.approx(dadoes, abs=1e-6)


def test_every_size_of_the_box_as_planned():
    for project in PROJECTS[1:]:
        hold_to_account(project, dict.fromkeys("ABCD", project.piece.wall))


def test_every_size_follows_walls_as_they_came_out():
    """Thinner walls, the outside held: what lies between grows, baselines are the mates', grooves go by the thinnest."""
    for seed, project in enumerate(PROJECTS[1:]):
        chance = random.Random(seed)
        thick = {p: round(project.piece.wall - chance.choice([0.0, 0.3, 0.8]), 1) for p in "ABCD"}
        for part, mm in thick.items():
            if mm != project.piece.wall:
                project = measuring.measured(project, plan(project).piece.parts, f"{part} thickness {mm} mm")
        if plan(project).piece.in_hand.own is None or plan(project).joints.problem:
            continue
        hold_to_account(project, thick)
