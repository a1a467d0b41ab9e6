"""Any order of edits leaves a project that can be planned, drawn, saved and opened; a small seeded sample, more in `make soak`."""

import os
import random

import pytest

from nullah import demo
from nullah.core.document.project import Project
from nullah.core.edits import edit, measuring, piece_edits, step_edits
from nullah.core.pictures import boards, bodies, frame, joint, piece, standing, surface
from nullah.core.pictures.unfolded import Unfolded, unfolded
from nullah.core.planning.plan import STATIONS, PlanCache, plan, settings_at
from nullah.core.stations import breakdown
from nullah.core.stations.as_made import settles_at
from nullah.core.values.measure import BadLength
from nullah.formats import cut_list, plan_json, project_file

SIZES = ("wall", "bottom_thickness", "lid_thickness", "pin", "half_pin", "slope", "divider_thickness", "wiggle")
RUNS = range(120) if os.environ.get("NULLAH_SOAK") else range(2)


def another(project, cache, chance):
    """The project after one edit at random, as a person might make it."""
    now = plan(project, cache)
    pick = chance.randrange(11)
    part = chance.choice(now.piece.parts) if now.piece.parts else None
    board = chance.choice(project.boards) if project.boards else None
    if pick == 0:
        return edit.set_piece(project, chance.choice(SIZES), round(chance.uniform(0.5, 30), 1))
    if pick == 1:
        return edit.set_piece(project, "dividers", chance.randrange(7))
    if pick == 2:
        return edit.set_piece(project, "lid", chance.choice(["sliding", "lift-off", "none"]))
    if pick == 3:
        field = chance.choice(["width", "height", "thickness"])
        return edit.set_piece(project, f"contents.{field}", round(chance.uniform(2, 300), 1))
    if pick == 4 and part:
        dimension = chance.choice(["thickness", "width", "length"])
        return measuring.measured(project, now.piece.parts, f"{part.id} {dimension} {chance.uniform(2, 300):.1f}")
    if pick == 5 and part:
        return edit.mark_cut(project, part)
    if pick == 6:
        return piece_edits.set_total(
            project, now, chance.choice(("length", "width", "height")), chance.uniform(20, 500)
        )
    if pick == 7 and board:
        size = {"length": float(chance.randint(100, 2500)), "width": float(chance.randint(40, 300)), "defects": ()}
        return edit.put_board(project, board.model_copy(update=size))
    if pick == 8 and board:
        return edit.drop_board(project, board.id)
    if pick == 9 and now.bench.steps:
        return step_edits.step_done(
            project, now, chance.choice(now.bench.steps).id, chance.uniform(0, 30), sure=chance.random() < 0.7
        )
    found = (now.breakdown.request.fingerprint, breakdown.offers(now.breakdown.request))
    calls = plan(project, cache, found).calls
    if not calls:
        return project
    call = chance.choice(calls)
    return edit.take(project, call, chance.choice(call.options).id)


@pytest.mark.parametrize("seed", RUNS)
def test_soak_any_order_of_edits(seed):
    chance = random.Random(seed)
    project = chance.choice([demo.untouched, demo.project, Project])()
    cache = PlanCache()
    for _ in range(14):
        try:
            project = another(project, cache, chance)
        except (edit.BadEdit, BadLength) as said:
            assert str(said)
            continue
        now = plan(project, cache)
        for station in STATIONS:
            settings_at(now, station)
        for board in project.boards:
            unfolded(Unfolded(board), now.timber.spans[board.id], "", project.readings, settles_at(project.room))
        boards.laid_out(project.boards, now.breakdown)
        for trued in now.trueup.parts:
            surface.picture(trued)
        for one in now.joints.joints:
            joint.side_by_side(one.faces)
        if now.piece.in_hand.own is not None:
            piece.of(now)
            standing.of(now, 0.4)
            side = list(standing.OPEN_FROM)[len(now.piece.parts) % 3]
            standing.seen(now, standing.Sight(turn=200.0, tilt=-50.0, open_from=side, hidden=True))
            frame.of(now)
            bodies.bodies(now)
        assert all(c.recommended in {o.id for o in c.options} for c in now.calls)
        lines = sum(len(now.breakdown.rough.of(p.id)) for p in now.piece.parts)
        assert len(cut_list.text(now).splitlines()) == 1 + lines
        assert plan_json.text(now).endswith("}\n")
        assert project_file.loads(project_file.dumps(project)) == project
    warm, cold = plan(project, cache), plan(project)  # what was kept of each piece is what would be worked out now
    assert warm.joints == cold.joints
    assert (warm.calls, warm.bench.steps) == (cold.calls, cold.bench.steps)
    assert warm.together == cold.together


def test_a_board_that_was_sawn_may_be_taken_away():
    project = demo.box()
    bottom = next(p for p in plan(project).piece.parts if p.id == "bottom")
    gone = edit.drop_board(edit.mark_cut(project, bottom), "board 3")
    request = plan(gone).breakdown.request
    call = plan(gone, None, (request.fingerprint, breakdown.offers(request))).call("layout")
    assert any("no board of western larch" in line for o in call.options for line in o.consequences)


def test_parts_without_a_place_for_the_same_reason_are_told_together():
    project = demo.project()
    for board in [b for b in project.boards if b.species == "western larch"]:
        project = edit.drop_board(project, board.id)
    short = [p for p in plan(project).piece.parts if p.species == "western larch"]
    request = plan(project).breakdown.request
    call = plan(project, None, (request.fingerprint, breakdown.offers(request))).call("layout")
    for option in call.options:
        told = [line for line in option.consequences if "no board of western larch" in line]
        assert len(told) == (option.id not in ("keep", "buy"))  # the others are layouts
        assert all(f"and {len(short) - 3} more: no board" in line for line in told)
    assert len(call.options) > 1
