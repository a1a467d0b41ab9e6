"""Clearances of panels worked out again: moisture by the Wood Handbook's equation (FPL-GTR-282, eq. 4-5, from memory), movement by its
chapter 13 (from memory), each part by the boards it lies on, made at the percent its board reads, or that its call names where that
waits. Shrinkage as craft tables give it (table 4-3, from memory)."""

import math
import re

import pytest
from random_projects import several

from nullah import demo
from nullah.core.edits import edit
from nullah.core.planning.plan import plan
from nullah.formats import plan_json

# radial, tangential, percent green to oven-dry
SHRINKS = {
    "white ash": (4.9, 7.8),
    "American elm": (4.2, 9.5),
    "western larch": (4.5, 9.1),
    "black cherry": (3.7, 7.1),
    "yellow-poplar": (4.6, 8.2),
    "eastern white pine": (2.1, 6.1),
}
PROJECTS = several(80, 1000)


def settles(t, percent):
    h = percent / 100
    w = 349 + 1.29 * t + 0.0135 * t * t
    k = 0.805 + 0.000736 * t - 0.00000273 * t * t
    a = 6.27 - 0.00938 * t - 0.000303 * t * t
    b = 1.91 + 0.0407 * t - 0.000293 * t * t
    x = k * h
    return 1800 / w * (x / (1 - x) + (a * x + 2 * a * b * x * x) / (1 + a * x + a * b * x * x))


def moves(wood, width, start, end, rings):
    start, end = min(start, 30), min(end, 30)
    per = []
    for total in SHRINKS[wood]:
        inside = all(6 <= m <= 14 for m in (start, end))
        per.append(1 / (3000 / total - 20) if inside else 1 / (3000 / total - 30 + start))
    radial, tangential = per
    s = math.sin(math.radians(rings)) ** 2
    return width * (tangential * (1 - s) + radial * s) * (end - start)


def parts_on(node):
    if node.use == "cut":
        return [p for c in node.children for p in parts_on(c)]
    return [(node.part, node.width)] if node.use == "part" else []


def made_of(project, now, part):
    """(share, moisture, rings) of the boards that a part lies on; the boards of its species alike where it lies on none."""
    at = {}
    for b in project.boards:
        call = now.call(f"damp {b.id}")
        waits = call is not None and (call.taken or call.recommended) == "wait"
        at[b.id] = (
            float(re.search(r"(?:near|reference reads) ([\d.]+) %", call.question)[1]) if waits else b.moisture,
            b.ring_angle,
        )
    mine = []
    for b in project.layout.boards if project.layout else ():
        for name, width in parts_on(b.root):
            if name == part.id or re.fullmatch(rf"{part.id} [\d+]+", name) or part.id in name.split("+"):
                mine.append((width, *at[b.board]))
    if not mine:
        mine = [(1.0, *at[b.id]) for b in project.boards if b.species == part.species and not b.sawn]
    if not mine:
        dry, wet = year(project)
        mine = [(1.0, (dry + wet) / 2, 0.0)]
    whole = sum(m[0] for m in mine)
    return [(w / whole, m, r) for w, m, r in mine]


def year(project):
    r = project.room
    return settles(r.temperature, r.humidity_dry), settles(r.temperature, r.humidity_wet)


def change(project, now, part, width):
    """To the driest and to the wettest, mm."""
    strips = made_of(project, now, part)
    return [sum(moves(part.species, width * share, m, end, r) for share, m, r in strips) for end in year(project)]


def test_panels_are_kept_free_by_what_they_grow_and_engage_when_they_have_shrunk():
    seen = {"bottom": 0, "lid": 0, "grows": 0, "shrinks": 0}
    for project in PROJECTS:
        now = plan(project)
        box = now.piece.in_hand.own.box
        opening, depth = box.inside[1], box.groove_depth
        told = plan_json.as_data(now)["together"]
        panels = ["bottom"] + (["lid"] if project.piece.lid == "sliding" else [])
        assert set(told["engaged"]) == set(panels)
        for name in panels:
            part = box.part(name)
            dry, wet = change(project, now, part, opening + 2 * depth)
            grows = max(0.0, wet)
            assert part.width == pytest.approx(opening + 2 * depth - 0.5 - grows, abs=1e-6)
            engaged = min(depth, (part.width + min(0.0, dry) - opening) / 2)
            assert told["engaged"][name] == pytest.approx(engaged, abs=1e-6)
            check = next(c for c in told["checks"] if c["text"].startswith(f"{name} still"))
            assert check["holds"] == (engaged >= 1.95)
            # at its widest it still has its play in the grooves, at its narrowest it lies in both
            assert part.width + grows <= opening + 2 * depth - 0.5 + 1e-6
            seen[name] += 1
            seen["grows"] += grows > 0.05
            seen["shrinks"] += dry < -0.05
    assert min(seen.values()) > 5


def test_a_lift_off_lid_drops_in_at_its_widest():
    seen = 0
    for project in PROJECTS:
        now = plan(project)
        if project.piece.lid != "lift-off":
            continue
        box, lid = now.piece.in_hand.own.box, now.piece.in_hand.own.box.part("lid")
        joint = next(j for j in now.joints.joints if j.id == "lid rabbet")
        grows = max(0.0, change(project, now, lid, lid.width)[1])
        t = box.thickness
        ends, edges = (joint.figures[f"width {where}"] for where in ("at the ends", "along the edges"))
        assert ends == pytest.approx(max(t["B"], t["D"]) + 0.5)
        assert edges == pytest.approx(max(t["A"], t["C"]) + 0.5 + grows / 2, abs=1e-6)
        # what drops in, grown as wide as it will: still free on both sides
        assert lid.width - 2 * edges + grows <= box.inside[1] - 1.0 + 1e-6 + abs(t["A"] - t["C"])
        seen += grows > 0.05
    assert seen > 5


def test_movement_is_by_the_part_s_own_boards():
    unlike = 0
    for project in PROJECTS:
        now = plan(project)
        for m in now.timber.movement:
            part = now.piece.in_hand.own.box.part(m.part)
            dry, wet = change(project, now, part, part.width)
            assert (m.to_dry, m.to_wet) == pytest.approx((dry, wet), abs=1e-6)
            boards = [b for b in project.boards if b.species == part.species]
            mean = sum(b.ring_angle for b in boards) / len(boards) if boards else 0.0
            unlike += abs(m.ring_angle - mean) > 1
    assert unlike > 20


def test_waiting_is_reckoned_with_and_going_on_is_not_forgotten():
    """Larch at 12.6 % in a room that gives about 10: what waits is made at 10, what goes on at 12.6."""
    project = demo.box()
    now = plan(project)
    call = now.call("damp board 3")
    waits, goes = (
        plan(edit.take(project, call, option)).piece.in_hand.own.box.part("bottom").width
        for option in ("wait", "go on")
    )
    settled = float(re.search(r"(?:near|reference reads) ([\d.]+) %", call.question)[1])
    bottom = now.piece.in_hand.own.box
    whole = bottom.inside[1] + 2 * bottom.groove_depth
    _, wet = year(project)
    grow = [max(0.0, moves("western larch", whole, m, wet, 15.0)) for m in (settled, 12.6)]
    assert waits - goes == pytest.approx(grow[1] - grow[0], abs=1e-6)
    assert waits != goes
