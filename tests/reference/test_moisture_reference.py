"""Moisture and movement against the Wood Handbook (FPL-GTR-282), its table and worked example quoted from memory."""

import pytest

from nullah.core.wood.moisture import change, coefficient, equilibrium_moisture
from nullah.core.wood.species import ALL, species

# table 4-2, percent moisture content, from memory: deg F -> a value at each relative humidity
HUMIDITY = (5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90)
EMC = {
    30: (1.4, 2.6, 3.7, 4.6, 5.5, 6.3, 7.1, 7.9, 8.7, 9.5, 10.4, 11.3, 12.4, 13.5, 14.9, 16.5, 18.5, 21.0),
    50: (1.4, 2.6, 3.6, 4.6, 5.5, 6.3, 7.1, 7.9, 8.7, 9.5, 10.3, 11.2, 12.3, 13.4, 14.8, 16.4, 18.4, 20.9),
    70: (1.3, 2.5, 3.5, 4.5, 5.4, 6.2, 6.9, 7.7, 8.5, 9.2, 10.1, 11.0, 12.0, 13.1, 14.4, 16.0, 17.9, 20.5),
    90: (1.2, 2.3, 3.4, 4.3, 5.1, 5.9, 6.7, 7.4, 8.1, 8.9, 9.7, 10.5, 11.5, 12.6, 13.9, 15.4, 17.3, 19.8),
}
CELLS = [(f, rh, mc) for f, row in EMC.items() for rh, mc in zip(HUMIDITY, row, strict=True)]


def test_seventy_two_cells_of_the_handbooks_table():
    assert len(CELLS) == 72
    off = {(f, rh): equilibrium_moisture((f - 32) / 1.8, rh) - mc for f, rh, mc in CELLS}
    assert max(abs(v) for v in off.values()) <= 0.1, off


# table 13-5, change of a dimension per percent within 6 to 14 %, radial and tangential, from memory
COEFFICIENTS = {
    "white ash": (0.00169, 0.00274),
    "American basswood": (0.00230, 0.00330),
    "American beech": (0.00190, 0.00431),
    "yellow birch": (0.00256, 0.00338),
    "black cherry": (0.00126, 0.00248),
    "American elm": (0.00144, 0.00338),
    "sugar maple": (0.00165, 0.00353),
    "red maple": (0.00137, 0.00289),
    "black walnut": (0.00190, 0.00274),
    "yellow-poplar": (0.00158, 0.00289),
    "sweetgum": (0.00183, 0.00365),
    "Douglas-fir": (0.00165, 0.00267),
    "white fir": (0.00112, 0.00245),
    "western larch": (0.00155, 0.00323),
    "eastern white pine": (0.00071, 0.00212),
    "Sitka spruce": (0.00148, 0.00263),
}


@pytest.mark.parametrize("name", COEFFICIENTS)
def test_both_formulas_of_movement_agree(name):
    # the handbook, chapter 13, from memory: within 6 to 14 % the coefficient tells what the total shrinkage tells, to some 2 %
    kind = species(name)
    for start, end in ((8, 12), (6, 14), (14, 7)):
        for angle, total in ((90, kind.radial), (0, kind.tangential)):
            by_total = 300 * (end - start) / (3000 / total - 30 + start)
            assert change(kind, 300, start, end, angle) == pytest.approx(by_total, rel=0.02)


@pytest.mark.parametrize(
    ("name", "shrinkage", "tabled"),
    [
        (name, shrinkage, tabled)
        for name, both in COEFFICIENTS.items()
        for shrinkage, tabled in zip(("radial", "tangential"), both, strict=True)
    ],
)
def test_change_coefficients_of_table_13_5(name, shrinkage, tabled):
    assert coefficient(getattr(species(name), shrinkage), 8, 12) == pytest.approx(tabled, abs=6e-6)


def test_worked_example_of_a_quartersawn_board():
    # a 232 mm quartersawn white fir board from 8 to 11 % grows 0.78 mm: the handbook's worked example, from memory
    assert change(species("white fir"), 232, 8, 11, 90) == pytest.approx(0.78, abs=0.005)


def test_outside_six_to_fourteen_percent_the_total_shrinkage_is_met():
    # from green (30 %) to oven-dry (0 %) the whole tabled shrinkage happens: what the table of shrinkage means
    cherry = species("black cherry")
    assert change(cherry, 100, 30, 0, 0) == pytest.approx(-cherry.tangential, rel=1e-9)
    assert change(cherry, 100, 45, 0, 90) == pytest.approx(-cherry.radial, rel=1e-9)


def test_tangential_is_more_than_radial_in_every_species():
    # 1.4 to 2.9 times, a few less: the handbook's remark on its table, from memory
    ratios = [s.tangential / s.radial for s in ALL.values()]
    assert min(ratios) > 1.15
    assert sum(1.35 <= r <= 2.95 for r in ratios) >= 0.95 * len(ratios)


# table 4-3, green to oven-dry, percent: radial, tangential, from memory
SHRINKAGE = {
    "white ash": (4.9, 7.8),
    "American elm": (4.2, 9.5),
    "western larch": (4.5, 9.1),
    "American beech": (5.5, 11.9),
    "black cherry": (3.7, 7.1),
    "black walnut": (5.5, 7.8),
    "sugar maple": (4.8, 9.9),
    "northern red oak": (4.0, 8.6),
    "white oak": (5.6, 10.5),
    "yellow-poplar": (4.6, 8.2),
    "eastern white pine": (2.1, 6.1),
    "white fir": (3.3, 7.0),
    "mahogany": (3.0, 4.1),
}


def test_shrinkage_of_table_4_3():
    assert {name: (ALL[name].radial, ALL[name].tangential) for name in SHRINKAGE} == SHRINKAGE
    for name, (radial, tangential) in SHRINKAGE.items():
        assert 1.3 < tangential / radial < 3.0, name
