"""Solids of random boxes, read back from parts.obj, looked at by sections (shapely): closed, apart, as large as they should be."""

import os
from itertools import combinations

import pytest
from random_projects import random_project
from shapely import box as shapely_box
from shapely import union_all
from solid_sections import assert_closed, read, section, shared, volume

from nullah import demo
from nullah.core.edits import edit, piece_edits
from nullah.core.planning.plan import plan
from nullah.formats import parts_obj

MANY = 200 if os.environ.get("NULLAH_SOAK") else 5


def pieces(many):
    """The demo and random boxes: no two parts measured, so that the plan's sizes are the parts'."""
    out, seed = [demo.box()], 900
    while len(out) < many:
        seed += 1
        project = random_project(seed, laid=False)
        if project is not None:
            call = plan(project).call("baseline")
            out.append(edit.take(project, call, call.options[seed % 3].id))  # over, on, under
    return out


def expected_volume(now, part):
    """A part's wood by hand: its blank, less half of every corner it shares, less grooves and dadoes where wood is left of the corners;
    None where a groove is not inside a tail and meets pins."""
    box, lid = now.piece.in_hand.own.box, now.project.piece.lid
    t, p = box.thickness, box.part(part)
    blank = p.length * p.width * p.thickness
    joints = {j.id: j for j in now.joints.joints}
    if part == "lid" and lid == "lift-off":
        f = joints["lid rabbet"].figures
        under = (p.length - 2 * f["width at the ends"]) * (p.width - 2 * f["width along the edges"])
        return p.thickness * p.length * p.width - f["depth"] * (p.length * p.width - under)
    if part not in t:
        return blank
    for joint in joints.values():
        f = joint.figures
        if joint.id.startswith("corner ") and part in joint.parts:
            tail, pin = joint.parts
            step = (f["width"] - 2 * f["half pin"] + f["pin"]) / f["tails"]
            ends, deep, chopped = f["tails"] * (step - f["pin"]), f[f"baseline on {tail}"], f[f"baseline on {pin}"]
            lean = f["tails"] / f["slope"]  # how much the tails together narrow, twice over, for each mm from the end
            if part == tail:
                blank -= (f["width"] - (ends - lean * deep)) * deep * t[tail]
            else:
                middle = min(deep, t[pin]) - t[pin] / 2  # of the pin board's thickness, from the tails' end
                blank -= (ends - 2 * lean * middle) * t[pin] * chopped
        elif joint.id.endswith("groove") and part in joint.parts:
            if joint.stopped not in (("A", "C"), ()):
                return None
            if part in "AC":  # half into the joint at either end; a lid's groove runs out at B
                off = 0.5 * (t["D"] + (t["B"] if joint.id == "bottom groove" else 0))
            else:  # within the tails' sockets there is no wood
                off = 2 * joints[f"corner A-{part}"].figures[f"baseline on {part}"]
            run = p.length - off
            blank -= run * f["width"] * f["depth"]
        elif joint.id == "dadoes" and part in "AC":
            widths = sum(v for k, v in f.items() if k.startswith("width "))
            blank -= widths * f["depth"] * (p.width - box.groove_from_edge - box.bottom_thickness)
            if lid == "sliding":  # there the lid's groove crosses them
                crossed = joints["lid groove"].figures
                blank += widths * min(f["depth"], crossed["depth"]) * crossed["width"]
    return blank


@pytest.mark.parametrize("project", pieces(MANY), ids=lambda p: p.piece.lid)
def test_soak_parts_are_closed_and_share_no_wood(project):
    now = plan(project)
    bodies = read(parts_obj.text(now))
    assert set(bodies) == {p.id for p in now.piece.parts}
    for part, body in bodies.items():
        assert_closed(body)
        wood, by_hand = volume(body), expected_volume(now, part)
        assert wood > 0
        assert by_hand is None or wood == pytest.approx(by_hand, rel=1e-5, abs=1.0)
    known = {}
    for one, other in combinations(bodies.values(), 2):
        assert shared(one, other, known) < 1.0


@pytest.mark.parametrize("project", [demo.box(), edit.set_piece(demo.box(), "lid", "none")], ids=["slides", "none"])
def test_mating_faces_lie_together(project):
    """At every corner gauged to the mate's thickness, tails and pins fill the corner: no gap as wide as 0.01 mm anywhere."""
    now = plan(project)
    bodies, box = read(parts_obj.text(now)), now.piece.in_hand.own.box
    length, width, _ = box.outside
    t = box.thickness
    for tail, pin in ("AB", "CB", "CD", "AD"):
        x = (0.0, t["D"]) if pin == "D" else (length - t["B"], length)
        y = (0.0, t["A"]) if tail == "A" else (width - t["C"], width)
        corner = shapely_box(x[0], y[0], x[1], y[1])
        for k in range(int(now.joints.joints[0].figures["width"])):
            wood = union_all([section(bodies[p], k + 0.5).intersection(corner) for p in (tail, pin)])
            gaps = corner.difference(wood).buffer(-0.005)  # what is wider than 0.01 stays
            grooved = any(low < k + 0.5 < high for low, high in grooves_of(now))
            assert gaps.is_empty or grooved, (tail, pin, k)


@pytest.mark.parametrize("project", pieces(MANY // 4 + 1), ids=lambda p: p.piece.lid)
def test_soak_a_box_made_one_s_own_is_the_same_wood(project):
    """Every part as large as it was, closed, and sharing nothing with another; where the corners are gauged to their mates' thickness
    the same wood to the mm3, but for sides whose grooves stop, which is at the panel now, or have dadoes, which end with their divider
    now, and for a lid whose rabbet has lost its clearance."""
    was = plan(project)
    box, trouble = was.piece.in_hand.own.box, was.piece.problem or was.joints.problem
    assert not trouble
    own = plan(piece_edits.make_mine(project, was))
    assert (own.piece.problem, own.joints.problem, own.piece.in_hand.worked.lost) == ("", "", ())
    for part in own.piece.parts:
        assert part.sizes == pytest.approx(box.part(part.id).sizes, abs=1e-3)
    before, bodies = read(parts_obj.text(was)), read(parts_obj.text(own))
    flush = was.call("baseline").in_force == "flush"
    known = {}
    for name, body in bodies.items():
        assert_closed(body)
        if name not in {"A", "C", "lid"}.union(*(j.stopped for j in was.joints.joints)) and flush:
            assert volume(body) == pytest.approx(volume(before[name]), rel=1e-5, abs=1.0), name
    for one, other in combinations(bodies, 2):
        assert shared(bodies[one], bodies[other], known) < 1.0, (one, other)


def grooves_of(now):
    """Heights between which grooves run in the sides."""
    box = now.piece.in_hand.own.box
    yield box.groove_from_edge, box.groove_from_edge + box.bottom_thickness
    if box.lid_slides:
        top = box.outside[2] - box.lid_from_edge
        yield top - box.lid_thickness, top
