"""Boards planed by what is told alone, literally, by a plane written apart from the program's: place by place, as often and the way
that is said, read anew where the plan says so."""

import os
from contextlib import nullcontext

import numpy as np
import pytest
from hidden_boards import HiddenBoard
from other_plane import Maker
from test_readings_reference import advised
from unlike_boards import Dried, Sawn

from nullah.core.surface.pace import READING, minutes_of
from nullah.core.surface.passes import PLANES
from nullah.core.surface.place_words import place_words
from nullah.core.surface.truing import true_up
from nullah.core.surface.zones import Workpiece

SOAK = bool(os.environ.get("NULLAH_SOAK"))
KINDS = (HiddenBoard, Sawn, Dried) if SOAK else (HiddenBoard, Sawn)


def planed(board):
    """Wood lost over the least possible, flatness of both faces, strokes, readings and minutes."""
    knows, readings, _ = advised(board)
    hand = Maker(board)
    possible = hand.wood.thickness()[0]
    out = true_up(knows.board, board.typed(), readings, bench=hand)
    left, face, back = hand.wood.thickness()
    return (
        possible - left,
        max(face, back),
        out.strokes,
        len(readings) + out.readings,
        out.minutes + READING * len(readings),
    )


def by_rule(board, plane, directions, until):
    """All over, both faces, each way in turn, looked at with fifteen readings after every two times over."""
    hand, read = Maker(board), 0
    possible = hand.wood.thickness()[0]
    for side in ("face", "back"):
        for n in range(24):
            zone = {"outline": ((0, 0), (board.length, 0), (board.length, board.width), (0, board.width)), "times": 1}
            zone["direction_deg"] = directions[n % len(directions)]
            hand.wood.plane(side, plane.sole, plane.iron, plane.width, plane.set, plane.camber, [zone])
            if n % 2:
                read += 15
                z = hand.wood.up[side][:: max(hand.wood.rows // 5, 1), :: max(hand.wood.columns // 3, 1)]
                u, v = np.meshgrid(*(np.linspace(-1, 1, k) for k in z.shape), indexing="ij")
                basis = np.stack([np.ones(z.size), u.ravel(), v.ravel()], 1)
                off = z.ravel() - basis @ np.linalg.lstsq(basis, z.ravel(), rcond=None)[0]
                if np.ptp(off + board.chance.normal(0, 0.05, off.size)) < until:
                    break
    left, face, back = hand.wood.thickness()
    strokes = hand.wood.strokes
    return possible - left, max(face, back), strokes, read, minutes_of(strokes, strokes * board.width) + READING * read


def boards():
    count = 7 if SOAK else 1
    for kind in KINDS:
        seeds = [s for s in range(200) if kind(s).length * kind(s).width < (3.6e5 if SOAK else 1.2e5)]
        yield from (kind(s) for s in seeds[:count])


def told(name, rows):
    lost, flat, strokes, readings, minutes = np.array(rows).T
    print(
        f"{name}: lost {np.median(lost):.2f} in the median, {np.percentile(lost, 90):.2f} at p90; flat to {np.median(flat):.2f} "
        f"in the median, {flat.max():.2f} at the worst; {np.mean(strokes):.0f} strokes, {np.mean(readings):.0f} readings, "
        f"{np.mean(minutes):.0f} min"
    )


def test_soak_boards_planed_literally_by_another_plane(capsys):
    rows = [planed(board) for board in boards()]
    with capsys.disabled() if SOAK else nullcontext():
        told(f"\n{len(rows)} boards as told", rows)
        if SOAK:
            fore, jack, jointer = PLANES
            for name, plane, ways in (
                ("all over at 45 either way", jack, (45.0, -45.0)),
                ("straight across", fore, (90.0,)),
                ("along", jointer, (0.0,)),
            ):
                told(name, [by_rule(board, plane, ways, 0.3) for board in boards()])
    lost, flat = np.array(rows).T[:2]
    assert np.median(lost) <= 0.8
    assert np.median(flat) <= 0.7


@pytest.mark.parametrize(
    ("outlines", "words"),
    [
        (
            [((0, 0), (200, 0), (0, 120)), ((1000, 200), (700, 200), (1000, 100))],
            "the two high corners, lower left and upper right",
        ),
        (
            [((0, 0), (90, 0), (90, 200), (0, 200)), ((910, 0), (1000, 0), (1000, 200), (910, 200))],
            "both ends, a hand's breadth in",
        ),
        ([((330, 0), (670, 0), (670, 200), (330, 200))], "the middle third, 330 to 670"),
        ([((0, 0), (1000, 0), (1000, 200), (0, 200))], "all over"),
        ([((0, 140), (1000, 140), (1000, 200), (0, 200))], "along the upper edge, all of its length, 60 down"),
        ([((300, 60), (420, 60), (420, 130), (300, 130))], "300 to 420, 60 to 130 from the lower edge"),
    ],
)
def test_places_have_the_names_a_maker_has_for_them(outlines, words):
    assert place_words(Workpiece(1000.0, 200.0, 101, 41), outlines, lambda mm: f"{mm:.0f}").startswith(words)
