"""Saw lines worked out again from what stands in the order of sawing alone: where the line is marked, which side the saw runs on,
and the size that is left. Geometry, no source; the wood a cut goes through is measured by Shapely."""

import random

import cases
import pytest
from random_projects import outline, several
from shapely.geometry import LineString, box

from nullah.core.document.project import BoardLayout, Node
from nullah.core.edits import step_edits
from nullah.core.layout.model import Options
from nullah.core.layout.saw import SawBoard, saw_plan
from nullah.core.layout.search import search
from nullah.core.planning.plan import plan

PROJECTS = several(60)


def told_kerf(cut):
    """The kerf from near to far along the way of measuring, by the words of a cut alone; in the axes of the board."""
    n = cut.node
    start, size = (n.x, n.length) if cut.kind == "crosscut" else (n.y, n.width)
    from_near = cut.edge in ("left end", "lower edge")
    line = start + cut.at if from_near else start + size - cut.at
    assert ("far side of the line" in cut.side) != ("near side of the line" in cut.side)
    away = ("far side" in cut.side) == from_near  # whether the saw runs to the right of the line, or above it
    words = {"crosscut": ("to its left", "to its right"), "rip": ("below it", "above it")}[cut.kind]
    assert words[away] in cut.side
    assert words[not away] not in cut.side
    return (line, line + n.kerf) if away else (line - n.kerf, line)


def random_tree(chance, x, y, length, width, deep=0):
    """A rectangle cut up at random; its leaves are parts, offcuts and waste."""
    kerf = chance.uniform(0.5, 3.0)
    across = chance.random() < 0.5
    size = length if across else width
    if deep > 4 or size < 40 or chance.random() < 0.2:
        return Node(
            x=x, y=y, length=length, width=width, use=chance.choice(["part", "part", "offcut", "waste"]), part="p"
        )
    at = chance.uniform(1, size - kerf - 1)
    if across:
        low, high = (x, y, at, width), (x + at + kerf, y, length - at - kerf, width)
    else:
        low, high = (x, y, length, at), (x, y + at + kerf, length, width - at - kerf)
    children = (random_tree(chance, *low, deep + 1), random_tree(chance, *high, deep + 1))
    here = {"axis": "across", "at": x + at} if across else {"axis": "along", "at": y + at}
    return Node(x=x, y=y, length=length, width=width, use="cut", kerf=kerf, children=children, **here)


def random_cuts():
    for seed in range(150):
        tree = random_tree(random.Random(seed), 0, 0, 1500, 220)
        yield from saw_plan((BoardLayout(board="b", root=tree),), {"b": SawBoard(25.0, planes=seed % 2 == 0)})


def test_line_side_and_size_agree_for_every_cut():
    seen = {"crosscut": 0, "rip": 0, "plane": 0, "right end": 0, "upper edge": 0, "near": 0}
    laid = [cut for project in PROJECTS for cut in plan(project).breakdown.cuts]
    for cut in [*laid, *random_cuts()]:
        seen[cut.kind] += 1
        n = cut.node
        low, high = n.children
        spare = [c.use in ("waste", "offcut") for c in (low, high)]
        if cut.kind == "plane":
            strip = low if cut.edge == "lower edge" else high
            assert strip.use == "waste"
            assert cut.at == pytest.approx(strip.width + n.kerf)
            assert strip.width < 12.0
            continue
        seen["near"] += "near side" in cut.side
        seen[cut.edge] = seen.get(cut.edge, 0) + 1
        near, far = told_kerf(cut)
        along = cut.kind == "crosscut"
        ends = [(c.x, c.x + c.length) if along else (c.y, c.y + c.width) for c in (low, high)]
        assert near == pytest.approx(ends[0][1], abs=1e-6)  # what lies before the kerf is as large as laid out
        if far < (n.x + n.length if along else n.y + n.width):
            assert far == pytest.approx(ends[1][0], abs=1e-6)
        if spare[0] != spare[1]:  # the line is the edge of what is wanted
            start, size = (n.x, n.length) if along else (n.y, n.width)
            marked = start + cut.at if cut.edge in ("left end", "lower edge") else start + size - cut.at
            assert marked == pytest.approx(near if spare[1] else far, abs=1e-6)
            assert "in the waste" in cut.side
    assert min(seen.values()) > 10


def test_cuts_run_over_the_wood_there_is():
    tapering = 0
    for project in PROJECTS:
        by_id = {b.id: b for b in project.boards}
        for cut in plan(project).breakdown.cuts:
            n, middle = cut.node, cut.node.at + cut.node.kerf / 2
            ends = (
                ((middle, n.y), (middle, n.y + n.width))
                if n.axis == "across"
                else ((n.x, middle), (n.x + n.length, middle))
            )
            wood = outline(by_id[cut.board]).intersection(LineString(ends)).length
            assert cut.over == pytest.approx(wood, abs=0.01)
            assert cut.over > 0
            tapering += abs(LineString(ends).length - wood) > 1
    assert tapering > 10


def test_offcuts_are_wood():
    """Each offcut's box is touched by wood on every side, and what joins the boards is the wood in it and no more."""
    seen = 0
    for project in PROJECTS:
        by_id = {b.id: b for b in project.boards}
        for board_id, n in plan(project).breakdown.offcuts:
            board = by_id[board_id]
            wood = outline(board).intersection(box(n.x, n.y, n.x + n.length, n.y + n.width))
            x0, y0, x1, y1 = wood.bounds
            assert (x0, y0, x1, y1) == pytest.approx((n.x, n.y, n.x + n.length, n.y + n.width), abs=0.01)
            new = step_edits.left_over(board, n, "left", 1)
            assert outline(new).area == pytest.approx(wood.area, rel=0.01)
            seen += bool(board.upper or board.lower)
    assert seen > 10


def test_no_sliver_is_ripped_and_no_wood_ripped_again_at_once():
    for project in PROJECTS:
        for cut in plan(project).breakdown.cuts:
            low, high = cut.node.children
            for strip, other in ((low, high), (high, low)):
                if cut.kind == "rip" and strip.use == "waste":
                    assert strip.width + cut.node.kerf > 5.0
                    if other.use == "cut" and other.axis == "along":
                        beside = other.children[0] if strip is low else other.children[1]
                        assert beside.use != "waste"


def test_no_strip_under_twelve_is_ripped_off():
    """Random jobs laid out by the search, at the saw: whatever narrower is waste is planed off, or stays on what lies beside it."""
    rips = 0
    for seed in range(12):
        boards, blanks = cases.sawn(2, 14, seed, loose=True, faults=seed % 2 == 0)
        layout = search(boards, blanks, Options())[0]
        for cut in saw_plan(layout.boards, {s.id: SawBoard(s.thickness, planes=True) for s in boards}):
            if cut.kind == "rip":
                rips += 1
                assert all(c.use != "waste" or c.width >= 12.0 or c.width == 0.0 for c in cut.node.children), seed
    assert rips > 30
