"""The palette: words and marks stand out from every ground they are put on, in light and dark, and without colour too."""

import itertools

import pytest

from nullah.core.drawing.ink import HEAT, PAPER, colour
from nullah.core.wood.species import ALL

THEMES = pytest.mark.parametrize("dark", [False, True], ids=["light", "dark"])
PAGE = ("ground", "panel")
WASHES = ("computed wash", "decision wash", "settled wash")
FACES = tuple(f"{kind} {name}" for kind in ("wood", "end", "sap") for name in ALL)
WORDS = [  # ink of words, grounds they stand on; words in drawings stand on a halo of panel
    ("ink", (*PAGE, *WASHES)),
    ("quiet", (*PAGE, *WASHES)),
    ("computed", (*PAGE, "computed wash")),
    ("decision", PAGE),
    ("settled", PAGE),
    ("fault", ("panel",)),
    ("dimension", PAGE),
    ("lit", ("panel",)),
    ("panel", ("computed", "decision")),
]
MARKS = [  # ink of lines, handles and edges, and what they are drawn on
    ("outline", (*PAGE, *FACES, "offcut")),
    ("kerf", FACES),
    ("ink", FACES),
    ("fault", FACES),
    ("decision", (*PAGE, *FACES)),
    ("computed", PAGE),
    ("lit", PAGE),
    ("dimension", PAGE),
]


def luminance(value):
    parts = [int(value[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [p / 12.92 if p <= 0.03928 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one, other, dark):
    light, deep = sorted((luminance(colour(one, dark)), luminance(colour(other, dark))), reverse=True)
    return (light + 0.05) / (deep + 0.05)


@THEMES
@pytest.mark.parametrize(("ink", "grounds"), WORDS, ids=[w for w, _ in WORDS])
def test_words_stand_out(ink, grounds, dark):
    # WCAG 2.1, success criterion 1.4.3, level AA: at least 4.5 to 1; formula from the standard, from memory
    low = {g: round(contrast(ink, g, dark), 2) for g in grounds if contrast(ink, g, dark) < 4.5}
    assert not low


@THEMES
@pytest.mark.parametrize(("ink", "grounds"), MARKS, ids=[m for m, _ in MARKS])
def test_marks_stand_out(ink, grounds, dark):
    # WCAG 2.1, success criterion 1.4.11, level AA: at least 3 to 1 for what must be seen to understand a drawing
    low = {g: round(contrast(ink, g, dark), 2) for g in grounds if contrast(ink, g, dark) < 3}
    assert not low


@THEMES
def test_bands_of_what_comes_off_are_told_apart_without_colour(dark):
    # a grey scale of its own: each band darker (or each lighter) than the last
    levels = [luminance(colour(f"heat {i}", dark)) for i in range(len(HEAT))]
    assert levels == sorted(levels, reverse=True)


def test_species_and_themes_have_colours_of_their_own():
    for one, other in itertools.combinations(ALL, 2):
        assert colour(f"wood {one}") != colour(f"wood {other}")
    assert all(colour(name) != colour(name, dark=True) for name in PAPER)
