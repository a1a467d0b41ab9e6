"""Rounds of planing, one after the other, on a board as it is foreseen: flat at the end, from either side, in the time reckoned."""

import numpy as np
import pytest

from nullah.core.surface.heights import Heights, kept
from nullah.core.surface.passes import PLANES
from nullah.core.surface.planing import minutes, planing
from nullah.core.surface.readings import Surface
from nullah.core.surface.rounds import NEAR, Wanted, Ways, plan_round
from nullah.core.surface.slab import grid, minimum_zone
from nullah.core.values.frozen import replace

T = 25.0
BOARDS = [  # length, width, bow, cup, twist, and how the thickness tapers along, mm
    (900, 150, 0.8, 0.6, 0.9, 0.0),
    (400, 120, -0.4, -0.7, 0.5, 0.3),
    (1500, 200, 1.2, 0.9, -0.8, -0.4),
    (600, 90, 0.1, 0.2, 0.1, 0.0),
]


def board(length, width, bow, cup, twist, taper):
    shapes = (bow, cup, twist)
    return Surface(length, width, Heights(shapes), Heights(shapes, (-T, taper, 0.0)))


def rounds(surface, **wanted):
    """All rounds until nothing is left to plane, and both faces as they are foreseen then."""
    face, back, begun, done = surface.face, surface.back, (), []
    for _ in range(8):
        w = Wanted(surface.length, surface.width, face, back, PLANES, begun=begun, **wanted)
        found = plan_round(w)
        if not found.stages:
            break
        done.append(found)
        now = kept(found.after[-1])
        face, back = (now, back) if found.side == "face" else (face, now)
        begun += (found.side,)
    u, v = np.linspace(-1, 1, 31), np.linspace(-1, 1, 11)
    return done, *(np.array(side.rows(u, v)) for side in (face, back))


@pytest.mark.parametrize("first", ["face", "back"])
@pytest.mark.parametrize("warped", BOARDS[:3])
def test_rounds_end_flat_with_the_thickness_there_is(warped, first):
    surface = board(*warped)
    done, face, back = rounds(surface, first=first)
    assert done[0].side == first
    x, y = grid(face)
    assert max(minimum_zone(x, y, face), minimum_zone(x, y, back)) < 1.6 * NEAR
    possible = surface.slab(0, 0, surface.length, surface.width).thickness
    assert 0.96 * possible < (face - back).min() <= (face - back).max() < possible + 3 * NEAR


def test_to_thickness_with_hollows_and_marks_let_be():
    surface = board(*BOARDS[0])
    possible = surface.slab(0, 0, surface.length, surface.width).thickness
    _, face, back = rounds(surface, thickness=possible - 2)
    assert (face - back).max() < possible - 2 + 2.5 * NEAR
    done, face, back = rounds(surface, thickness=possible + 0.6, hollow=True)
    low = possible + 0.6 - (face - back)
    assert 0.3 < low.max() < 1.0  # where it was low already nothing came off
    assert -2 * NEAR < low.min() < NEAR  # and where it was not, it came down to thickness
    unmarked, _, _ = rounds(surface, marks=True)
    clearing = [s for r in unmarked if r.side == "back" for s in r.stages if s.what.until == "full shavings"]
    assert not clearing
    assert any(s.what.until == "full shavings" for r in done for s in r.stages)


@pytest.mark.parametrize("warped", BOARDS)
def test_the_time_is_reckoned_as_the_strokes_come_to(warped):
    surface = board(*warped)
    length, width = warped[:2]
    whole = sum(r.minutes(len(r.stages)) for r in rounds(surface)[0])
    mean = planing(surface, 0.0, 0, 0, length, width).flat.mean
    coarse = max(PLANES, key=lambda p: p.set)
    assert minutes(mean, length, width, coarse.width, coarse.set) == pytest.approx(whole, rel=0.5)


@pytest.mark.parametrize("rises", ["left", "right"])
def test_the_strokes_along_go_with_the_rising_grain(rises):
    """Ahead of the iron the grain comes up to the face that is planed (common practice, no source)."""
    surface = board(*BOARDS[1])
    fibre = np.array([1.0, 0.05 if rises == "right" else -0.05])  # along, and up from the back to the face
    done, *_ = rounds(surface, ways=Ways(rises=rises))
    last = [(r.side, z) for r in done for s in r.stages if s.what.until for z in s.what.zones]
    assert {side for side, _ in last} == {"face", "back"}
    for side, zone in last:
        ahead = np.cos(np.radians(zone.direction)) * fibre
        assert abs(np.sin(np.radians(zone.direction))) < 1e-9
        assert ahead[1] * (1 if side == "face" else -1) > 0


def test_the_working_face_alone():
    surface = board(*BOARDS[0])
    done, face, back = rounds(surface, ways=Ways(working_face=True))
    assert {r.side for r in done} == {"face"}
    x, y = grid(face)
    assert minimum_zone(x, y, face) < 1.6 * NEAR
    shape = BOARDS[0][2:5]
    assert float(np.ptp(face)) < 3.0 < sum(map(abs, shape)) + 3.0
    u, v = np.meshgrid(np.linspace(-1, 1, 31), np.linspace(-1, 1, 11), indexing="ij")
    as_it_was = shape[0] * u * u + shape[1] * v * v + shape[2] * u * v - T
    assert np.abs(back - as_it_was).max() < 1e-6


def test_humps_come_off_before_full_lengths():
    """A board far over its thickness with a hump at one end: the hump first, then all over."""
    length, width = 700.0, 120.0
    rows = 13
    u = np.linspace(-1, 1, rows)[:, None] * np.ones(9)
    hump = 1.5 * np.exp(-(((u - 0.55) / 0.18) ** 2))
    back = Heights((0.0, 0.0, 0.0), (-30.0, 0.0, 0.0))
    w = Wanted(length, width, Heights(), Heights((0, 0, 0), (-30.0, 0.0, 0.0), tuple(map(tuple, -hump))), PLANES, 22.0)
    w = replace(w, begun=("face",))
    found = plan_round(w)
    assert found.side == "back"
    first, whole = (
        found.stages[0].what,
        next(i for i, s in enumerate(found.stages) if s.what.box == (0, 0, length, width)),
    )
    x0, _, x1, _ = first.box
    at = (0.55 + 1) / 2 * length
    assert whole > 0
    assert x0 < at < x1 < length + 1
    assert x1 - x0 < 0.6 * length
    before = np.array(kept(found.after[whole - 1]).rows(np.linspace(-1, 1, 31), np.linspace(-1, 1, 11)))
    assert minimum_zone(*grid(before), before) < 0.9  # of 1.5
    assert before.mean() == pytest.approx(back.plane[0], abs=0.3)  # and nothing else came down yet
