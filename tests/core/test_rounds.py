"""Rounds of planing, one after the other, on a board as it is foreseen: flat at the end, from either side, in the time reckoned."""

import numpy as np
import pytest

from nullah.core.surface.heights import Heights, kept
from nullah.core.surface.passes import PLANES
from nullah.core.surface.planing import minutes, planing
from nullah.core.surface.readings import Surface
from nullah.core.surface.rounds import NEAR, Wanted, plan_round
from nullah.core.surface.slab import grid, minimum_zone

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
