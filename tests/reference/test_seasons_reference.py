"""A year of the room, month by month: parts swell and shrink as the handbook says, and nothing binds and nothing falls out.

The parts' sizes come of the Wood Handbook's equations as ``test_clearances_reference`` has them (FPL-GTR-282, chapters 4 and 13, from
memory), never of the functions that give the joints their room. From the plan only what is cut is read: sizes, depths, slots.
"""

import math
import os
import random

import pytest
from test_clearances_reference import SHRINKS, made_of, moves, settles
from two_parts import part

from nullah.core.calculators.reckon import reckon
from nullah.core.document.boards import Board, Room
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.edits import edit, measuring, piece_edits
from nullah.core.planning.plan import plan

RUNS = 200 if os.environ.get("NULLAH_SOAK") else 25
CLOSE = 0.06  # mm: figures are said to a tenth


def months(room):
    """What wood settles at in each month, percent: the air goes evenly from its driest in January to its wettest in July and back."""
    middle, half = (room.humidity_wet + room.humidity_dry) / 2, (room.humidity_wet - room.humidity_dry) / 2
    return [settles(room.temperature, middle - half * math.cos(2 * math.pi * n / 12)) for n in range(12)]


def in_a_room(chance, parts, joins):
    """The plan of some parts in a random wood and room, all ways out taken; and how far a width of a part has moved in each month."""
    wood, dry = chance.choice(sorted(SHRINKS)), round(chance.uniform(25, 45))
    room = Room(
        temperature=round(chance.uniform(16, 24)), humidity_dry=dry, humidity_wet=round(dry + chance.uniform(10, 30))
    )
    year = months(room)
    now_at = round(chance.uniform(min(year), max(year)), 1)
    board = Board(
        id="b1",
        name="Board",
        species=wood,
        length=3000,
        width=300,
        thickness=40,
        moisture=now_at,
        ring_angle=chance.choice([0, 30, 45, 90]),
    )
    edits = tuple(p.model_copy(update={"species": wood}) for p in parts)
    project = Project(pieces=(Designed(kind="free", name="Try", edits=edits),), room=room, boards=(board,))
    for family, first, second, way, asked in joins:
        before = {getattr(e, "id", "") for e in project.in_hand.edits}
        project = piece_edits.add_joint(project, plan(project), family, first, second, way)
        (name,) = {getattr(e, "id", "") for e in project.in_hand.edits} - before
        for what, value in asked.items():
            project = piece_edits.put_figure(project, name, what, value)
    now = plan(project)
    assert not [c for c in now.joints.calls if c.id.endswith(" free")], "what is left free by itself is enough"
    for _ in range(8):
        asked = [c for c in now.joints.calls if c.id.startswith("mend") and c.open]
        if not asked:
            break
        project = edit.take(project, asked[0], "mend")
        now = plan(project)

    def moved(name, width):
        one = next(p for p in now.piece.parts if p.id == name)
        strips = made_of(project, now, one)
        return [sum(moves(wood, width * share, m, month, rings) for share, m, rings in strips) for month in year]

    return now, moved


def test_soak_panels_stay_in_their_frames_and_do_not_burst_them():
    chance, held = random.Random("panels"), 0
    for _ in range(RUNS):
        wide, stile = round(chance.uniform(120, 600)), round(chance.uniform(18, 30))
        edge = chance.choice(["flat", "bevelled", "rabbeted"])
        thick = 10.0 if edge != "flat" else 6.0
        asked = {"panel": edge, "tongue": 4.0, "field": 40.0} if edge != "flat" else {}
        off = (stile - thick) / 2
        parts = [
            part("panel", 500, wide, thick, "front", "right", (0, off, 0)),
            part("one", 500, 60, stile, "front", "left", (-60, 0, 0)),
            part("other", 500, 60, stile, "front", "right", (wide, 0, 0)),
        ]
        joins = [("groove", "panel", "other", "right", asked), ("groove", "panel", "one", "left", asked)]
        now, moved = in_a_room(chance, parts, joins)
        if len(now.joints.joints) < 2 or any(
            not c.holds and "deep" in c.text for j in now.joints.joints for c in j.checks
        ):
            continue  # the stiles are too thin for so wide a panel: the plan says so
        held += 1
        one, other = now.joints.joints
        size = next(p for p in now.piece.parts if p.id == "panel").width
        room = wide + one.figures["depth"] + other.figures["depth"]
        for change in moved("panel", size):
            assert size + change <= room + CLOSE
            if not any(not c.holds for c in (*one.checks, *other.checks)):
                assert (size + change - wide) / 2 >= 2.0 - CLOSE  # of each edge in its groove, the panel in the middle
            if edge == "bevelled":
                into = (size + change - wide) / 2
                at_mouth = 4.0 + 6.0 * min(1.0, into / 40.0)
                assert at_mouth <= one.figures["width"] + 0.01
    assert held > RUNS / 2


def test_soak_sliding_lids_run_all_year():
    """They go in in the wettest month with half a millimetre to spare at each side, and lie in both grooves in the driest."""
    chance, held = random.Random("lids"), 0
    for _ in range(RUNS):
        wide, side = round(chance.uniform(60, 400)), round(chance.uniform(12, 30))
        parts = [
            part("lid", 300, wide, 6.0, "up", "back", (0, 0, 60)),
            part("far", 320, 90, side, "back", "up", (0, wide, 0)),
            part("near", 320, 90, side, "front", "up", (0, -side, 0)),
        ]
        joins = [("sliding_lid", "lid", "far", "back", {}), ("sliding_lid", "lid", "near", "front", {})]
        now, moved = in_a_room(chance, parts, joins)
        if len(now.joints.joints) < 2:
            continue  # the sides are too thin for so wide a lid: the plan says so
        one, other = now.joints.joints
        size = next(p for p in now.piece.parts if p.id == "lid").width
        room = wide + one.figures["depth"] + other.figures["depth"]
        spare = [room - size - change for change in moved("lid", size)]
        assert min(spare) >= 2 * 0.5 - 2 * CLOSE
        if all(c.holds for c in (*one.checks, *other.checks)):
            held += 1
            assert (room - max(spare) - wide) / 2 >= 2.0 - CLOSE
    assert held > RUNS / 3


def test_soak_breadboards_let_their_panels_move():
    chance = random.Random("breadboards")
    for _ in range(RUNS):
        wide, staves = round(chance.uniform(250, 900)), chance.choice([3, 5, 7])
        parts = [part("top", 700, wide, 22, "up", "back"), part("end", wide, 90, 22, "up", "left", (700, 0, 0))]
        now, moved = in_a_room(
            chance, parts, [("breadboard_end", "top", "end", "right", {"staves": staves, "clearance": 0.0})]
        )
        (joint,) = now.joints.joints
        most = 0.0
        for n in range(1, staves + 1):
            off = abs(n - (staves + 1) / 2) * wide / staves
            for change in moved("top", off):
                # outward it comes up against the outer end of its mortise, and inward against the inner one
                assert -joint.figures[f"slot in {n}"] - CLOSE <= change <= joint.figures[f"slot out {n}"] + CLOSE
                most = max(most, abs(change))
        assert most > 0
        # and no more room than the year asks, of the outermost
        reach = joint.figures[f"slot in {staves}"] + joint.figures[f"slot out {staves}"]
        changes = moved("top", (staves - 1) / 2 * wide / staves)
        assert reach == pytest.approx(max(0, max(changes)) + max(0, -min(changes)), abs=0.05)


@pytest.mark.parametrize("across", [False, True])
def test_soak_buttons_hold_a_top_down_and_let_it_move(across):
    chance = random.Random(f"buttons {across}")
    for _ in range(RUNS):
        wide, long = round(chance.uniform(300, 900)), round(chance.uniform(500, 1200))
        top = part("top", long, wide, 22, "up", "back", (0, 0, 100))
        if across:
            rail = part("rail", wide - 100, 100, 22, chance.choice(["left", "right"]), "up", (50, 50, 0))
        else:
            rail = part("rail", long - 100, 100, 22, "front", "up", (50, 50, 0))
        now, moved = in_a_room(chance, [rail, top], [("buttons", "rail", "top", "up", {})])
        (joint,) = now.joints.joints
        f = joint.figures
        if across:
            count, run = int(f["count"]), wide - 100
            apart = (run - 120) / (count - 1) if count > 1 else 0.0
            for n in range(count):
                off = abs(50 + 60 + n * apart - wide / 2)
                assert all(abs(change) <= f[f"slot {n + 1}"] + CLOSE for change in moved("top", off))
        else:
            hidden = 50 + 22  # the rail's back, on the side of the middle
            for change in moved("top", abs(wide / 2 - hidden)):
                gap = f["gap"] - change  # as the top grows its buttons go out, to the rail
                assert gap >= -CLOSE
                into = f["long"] - gap
                assert into >= 6.0 - CLOSE - 0.05  # of tongue that holds
                assert into <= f["depth"] + CLOSE + 0.05  # and does not touch the bottom


def test_soak_drawers_open_in_the_wettest_month():
    """A side as high as the reckoner says goes in all year, and in the wettest month the gap that was asked is left."""
    chance = random.Random("drawers")
    for _ in range(RUNS):
        wood, rings = chance.choice(sorted(SHRINKS)), chance.choice([0, 45, 90])
        dry = round(chance.uniform(25, 45))
        room = Room(temperature=20, humidity_dry=dry, humidity_wet=round(dry + chance.uniform(10, 30)))
        year = months(room)
        now_at, opening, gap = round(chance.uniform(min(year), max(year)), 1), round(chance.uniform(60, 300)), 0.8
        cut = {0: "flat", 45: "rift", 90: "quarter"}[rings]
        given = {
            "height": f"{opening}",
            "species": wood,
            "cut": cut,
            "now": f"{now_at}",
            "wet": f"{max(year):.9f}",
            "gap": f"{gap}",
        }
        answers = reckon("drawer", given)
        left = [
            opening - answers["height_mm"] - moves(wood, answers["height_mm"], now_at, month, rings) for month in year
        ]
        assert min(left) == pytest.approx(gap, abs=0.02)


def test_soak_a_drawer_of_a_table_opens_all_year_and_fills_its_opening_in_the_wettest_month():
    """Its front, sides and back are of two woods; one that came out too high is told."""
    chance = random.Random("tables")
    for _ in range(max(12, RUNS // 4)):
        dry = round(chance.uniform(25, 45))
        room = Room(temperature=20, humidity_dry=dry, humidity_wet=round(dry + chance.uniform(5, 35)))
        year = months(room)
        woods = [chance.choice(sorted(SHRINKS)) for _ in range(2)]
        boards = tuple(
            Board(
                id=wood,
                name=wood,
                species=wood,
                length=3000,
                width=300,
                thickness=40,
                ring_angle=chance.choice([0, 60]),
            )
            for wood in dict.fromkeys(woods)
        )
        at = [round(chance.uniform(min(year), max(year)), 1) for _ in boards]
        boards = tuple(b.model_copy(update={"moisture": m}) for b, m in zip(boards, at, strict=True))
        apron = float(chance.choice([90, 150, 250]))
        asked = {"drawer": True, "wood": woods[0], "secondary_wood": woods[1], "apron": apron}
        project = Project(pieces=(Designed(kind="small_table", name="Try", asked=asked),), room=room, boards=boards)
        now = plan(project)
        assert not now.piece.problem, now.piece.problem
        by_id = {p.id.rpartition(".")[2]: p for p in now.piece.parts}
        left = []
        for name in ("drawer-front", "drawer-left", "drawer-right", "drawer-back"):
            one = by_id[name]
            low = 15.0 if name == "drawer-back" else 0.0  # the back stands on the bottom: 9 to its groove, and its 6
            strips = made_of(project, now, one)
            for month in year:
                grown = sum(moves(one.species, one.width * s, m, month, r) for s, m, r in strips)
                left.append(apron - 2 * 18.0 - low - one.width - grown)
        assert min(left) == pytest.approx(0.5, abs=0.02)
        (said,) = [c for c in now.piece.in_hand.worked.checks if "above the drawer" in c.text]
        assert said.holds
        high = measuring.measured(
            project, now.piece.parts, f"drawer-front width {by_id['drawer-front'].width + 0.3:.2f}"
        )
        (said,) = [c for c in plan(high).piece.in_hand.worked.checks if "above the drawer" in c.text]
        assert not said.holds
