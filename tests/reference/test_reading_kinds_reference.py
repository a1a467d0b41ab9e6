"""What readings see, by geometry worked apart: a stick that rocks on a hump by its convex hull, a corner off the plane of three."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial import ConvexHull

from nullah.core.document.project import Reading
from nullah.core.surface import readings
from nullah.core.surface.edges import edge_work
from nullah.core.surface.gaussian_process import Board, fit
from nullah.core.surface.reading_kinds import LOWER, READING_KINDS, STOOD, UPPER, Taken, wrong

LENGTH, WIDTH, STICK = 1000.0, 200.0, 600.0


def face(x, y):
    """Twisted; a hump across the right end, off the middle."""
    u, v = 2 * x / LENGTH - 1, 2 * y / WIDTH - 1
    return 0.9 * u * v + 1.2 * np.exp(-((u - 1) ** 2) / 0.4) * np.exp(-((v - 0.2) ** 2) / 0.18)


def contacts(x, pressed):
    """Where a stick across at x touches when it is pressed down on an edge: on it and the next corner of the hull from above."""
    ys = np.linspace(0, WIDTH, 401)
    outline = np.stack([ys, face(x, ys)], 1)
    hull = ConvexHull(np.concatenate([outline, [[0, -1e3], [WIDTH, -1e3]]]))
    upper = sorted(ys[i] for i in hull.vertices if i < len(ys))
    return (0.0, upper[1]) if pressed == LOWER else (WIDTH, upper[-2])


def told(x, pressed):
    """What the sticks read, one pressed on an edge and the hump, against one on both edges of the left end."""
    edge, hump = contacts(x, pressed)
    lean = (face(x, hump) - face(x, edge)) / (hump - edge)
    return lean * STICK - (face(0, WIDTH) - face(0, 0)) / WIDTH * STICK, hump


@pytest.mark.parametrize("pressed", [LOWER, UPPER])
def test_a_stick_over_a_hump_reads_what_it_rests_on(pressed):
    value, hump = told(LENGTH, pressed)
    assert 0.3 * WIDTH < hump < 0.8 * WIDTH
    reading = Taken("winding sticks", at=LENGTH, across=hump, stick=STICK, stood=pressed)
    seen = READING_KINDS[reading.kind].points(reading, LENGTH, WIDTH)
    assert sum(w * face((u + 1) / 2 * LENGTH, (v + 1) / 2 * WIDTH) for w, u, v in seen) == pytest.approx(value)


def test_contact_is_part_of_the_fit():
    """Two readings of one stick, pressed down either way, tell the twist; taken for edges they contradict each other."""
    both = [(*told(LENGTH, pressed), pressed) for pressed in (LOWER, UPPER)]
    others = [
        Taken(
            "winding sticks", at=x, value=(face(x, WIDTH) - face(x, 0) - face(0, WIDTH) + face(0, 0)) * 3, stick=STICK
        )
        for x in (LENGTH / 4, LENGTH / 2)
    ]
    true = face(LENGTH, WIDTH) - face(LENGTH, 0) - face(0, WIDTH) + face(0, 0)

    def twist(stood):
        mine = [
            Taken(
                "winding sticks",
                at=LENGTH,
                across=hump,
                value=value,
                stick=STICK,
                stood=pressed if stood else "both edges",
            )
            for value, hump, pressed in both
        ]
        found = fit(Board(LENGTH, WIDTH), 25.0, [*others, *mine])
        residual = max(map(abs, found.residuals))
        return 4 * found.shapes[2], residual

    (right, small), (_, large) = twist(True), twist(False)
    assert right == pytest.approx(true, abs=0.3)
    assert small < 0.2 < 1.0 < large


@pytest.mark.parametrize("corner", [1, 2, 3, 4])
def test_a_feeler_reads_how_far_a_corner_lies_off_the_plane_of_the_others(corner):
    places = np.array([(0, 0), (LENGTH, 0), (LENGTH, WIDTH), (0, WIDTH)])
    heights = np.random.default_rng(corner).normal(size=4)
    rest = [i for i in range(4) if i != corner - 1]
    plane = np.linalg.solve(np.column_stack([np.ones(3), places[rest]]), heights[rest])
    gap = plane @ (1, *places[corner - 1]) - heights[corner - 1]  # it hangs over what the others lie on
    seen = READING_KINDS["feeler"].points(Taken("feeler", to=corner), LENGTH, WIDTH)
    at = {(2 * x / LENGTH - 1, 2 * y / WIDTH - 1): z for (x, y), z in zip(places, heights, strict=True)}
    assert sum(w * at[u, v] for w, u, v in seen) == pytest.approx(gap)


def test_an_edge_takes_error_over_shaving_and_the_latest_reading_counts():
    """Passes = error / shaving with the iron over the high side, then one over all of it (common practice, no source)."""
    readings = [
        Taken("out of square", at=100, to=1, value=0.2),
        Taken("out of square", at=300, to=1, value=0.9),
        Taken("out of square", at=300, to=1, value=0.35),
        Taken("out of square", at=500, to=2, value=-0.12),
        Taken("out of square", at=700, to=2, value=0.03),
        Taken("cup", at=700, value=2.0),
    ]
    lower, upper = edge_work(readings, 0.1)
    assert (lower.edge, lower.high, lower.at, lower.out, lower.shavings) == ("lower", "back", 300, 0.35, 4)
    assert (upper.edge, upper.high, upper.out, upper.shavings) == ("upper", "face", 0.12, 2)
    assert edge_work(readings[-2:], 0.1) == ()


SIZE = st.floats(0, 20_000)


@given(
    st.sampled_from(sorted(READING_KINDS)),
    st.builds(dict, at=SIZE, across=SIZE, to=SIZE, stick=st.floats(0, 2000), value=st.floats(-500, 500)),
    st.sampled_from(STOOD),
)
def test_property_whatever_a_file_holds_can_be_fitted_and_said(kind, figures, stood):
    reading = Reading(target="b", kind=kind, stood=stood, **figures)
    surface = readings.fit(LENGTH, WIDTH, 25.0, [reading])
    assert all(map(math.isfinite, (*surface.residuals, surface.thickness, surface.face.at(0.3, 0.2))))
    assert READING_KINDS[kind].place(reading, LENGTH, str)
    assert isinstance(wrong(reading, LENGTH, WIDTH), str)


@pytest.mark.parametrize(
    ("reading", "words"),
    [
        (Taken("winding sticks", at=500, across=0.0, stood=LOWER), "say how far up"),
        (Taken("winding sticks", at=500, to=500), "one place"),
        (Taken("winding sticks", at=500, across=201.0, stood=UPPER), "across 201 lies off the board"),
        (Taken("feeler", to=5), "1 lower left, 2 lower right"),
        (Taken("out of square", at=10, to=0), "1, the lower, or 2"),
        (Taken("bow", at=600, to=500), "beyond it"),
        (Taken("thickness", at=1, across=1), "more than zero"),
        (Taken("cup", at=1, value=501), "no more than 500"),
    ],
)
def test_what_cannot_be_read_is_said(reading, words):
    assert words in wrong(reading, LENGTH, WIDTH)
