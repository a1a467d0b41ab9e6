"""What boards measure and hold, and a room's year, against published figures and sums of our own."""

import json
import random
from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah.cli import main
from nullah.core.calculators.reckon import reckon
from nullah.core.document.project import Board
from nullah.core.edits import edit
from nullah.core.edits.piece_edits import fresh
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown
from nullah.core.wood.room import room_year
from nullah.core.wood.sold_sizes import NotSold, board_feet, sold, to_buy

INCH = 25.4
# American Softwood Lumber Standard PS 20, dry, from memory: nominal, dressed, inches
WIDTHS = {2: 1.5, 3: 2.5, 4: 3.5, 5: 4.5, 6: 5.5, 8: 7.25, 10: 9.25, 12: 11.25}
# the same for four temperatures in deg F (Wood Handbook table 4-2, from memory): the columns 30, 50, 65 and 80 % humidity
SETTLES = {
    30: (6.3, 9.5, 12.4, 16.5),
    50: (6.3, 9.5, 12.3, 16.4),
    70: (6.2, 9.2, 12.0, 16.0),
    90: (5.9, 8.9, 11.5, 15.4),
}
HUMIDITY = (30.0, 50.0, 65.0, 80.0)


def reckoned(capsys, *words):
    code = main(["reckon", *words])
    out, err = capsys.readouterr()
    return code, json.loads(out) if out else None, err.strip()


@pytest.mark.parametrize(("nominal", "wide"), WIDTHS.items())
def test_dressed_softwood(nominal, wide):
    for name, thick in (("1", 0.75), ("5/4", 1.0), ("2", 1.5)):
        assert sold(f"{name}x{nominal}") == pytest.approx((thick * INCH, wide * INCH))
    assert sold(f" 1 X {nominal} ") == sold(f"1\N{MULTIPLICATION SIGN}{nominal}") == sold(f"1x{nominal}")


@pytest.mark.parametrize(("name", "inches"), [("4/4", 1.0), ("5/4", 1.25), ("6/4", 1.5), ("8/4", 2.0), ("12/4", 3.0)])
def test_rough_hardwood_goes_in_quarters_of_an_inch(name, inches):
    assert sold(name) == (pytest.approx(inches * INCH), None)


def test_sawn_metric_stock_is_as_thick_as_it_is_called():
    assert [sold(str(mm))[0] for mm in (19, 25, 32, 38, 50, 63, 75)] == [19, 25, 32, 38, 50, 63, 75]


@pytest.mark.parametrize(
    "words",
    ["", "x", "1x", "1x99", "1x1", "7x6", "2/4", "99/4", "4/0", "26", "-25", "1e3", "1x12x3", "nan", "\u0661x6"],
)
def test_what_is_not_sold_gets_a_sentence(words):
    with pytest.raises(NotSold) as refused:
        sold(words)
    assert len(str(refused.value)) < 160


def test_board_feet_and_cubic_metres():
    """A board foot is 144 cubic inches, 0.002359737 cubic metres (NIST SP 811, appendix B.8, from memory)."""
    assert board_feet(12 * INCH, 12 * INCH, INCH) == pytest.approx((1.0, 0.002359737), rel=1e-6)
    assert board_feet(96 * INCH, 6 * INCH, 1.25 * INCH, 10) == pytest.approx((50.0, 50 * 0.002359737), rel=1e-6)
    assert board_feet(1000, 100, 10)[0] == pytest.approx(
        0.4237760, rel=1e-6
    )  # 424 a cubic metre, for under an inch too


@given(st.floats(1, 20_000), st.floats(1, 2_000), st.floats(1, 300), st.integers(1, 500))
def test_property_feet_and_metres_agree(length, width, thickness, count):
    feet, metres = board_feet(length, width, thickness, count)
    assert feet * 0.0023597372 == pytest.approx(metres, rel=1e-6)
    assert metres == pytest.approx(sum([length * width * thickness] * count) / 1e9)


@pytest.mark.parametrize("sizes", [(0, 1, 1, 1), (1, -1, 1, 1), (1, 1, 0, 1), (1, 1, 1, 0)])
def test_no_wood_is_refused(sizes):
    with pytest.raises(ValueError, match="more than zero"):
        board_feet(*sizes)


def table(tmp_path, lines, header="month,celsius,humidity\n"):
    path = tmp_path / "room.csv"
    path.write_text(header + "".join(f"{line}\n" for line in lines))
    return f"file={path}"


@pytest.mark.parametrize("header", ["month,celsius,humidity\n", ""])
def test_a_rooms_year_by_the_handbooks_table(capsys, tmp_path, header):
    cells = [(f, h, mc) for f, row in SETTLES.items() for h, mc in zip(HUMIDITY, row, strict=True)]
    picked = random.Random(4).sample(cells, 12)
    lines = [f"{n},{(f - 32) * 5 / 9:.4f},{h}" for n, (f, h, _) in enumerate(picked, 1)]
    random.Random(5).shuffle(lines)  # in any order
    code, got, _ = reckoned(capsys, "room-year", table(tmp_path, lines, header))
    assert code == 0
    least, most = min(mc for *_, mc in picked), max(mc for *_, mc in picked)
    assert got["driest_percent"] == pytest.approx(least, abs=0.07)
    assert got["wettest_percent"] == pytest.approx(most, abs=0.07)
    assert picked[got["driest_month"] - 1][2] == pytest.approx(least, abs=0.11)
    assert picked[got["wettest_month"] - 1][2] == pytest.approx(most, abs=0.11)


def test_of_months_alike_the_first_is_named():
    year = room_year([(n, 20.0, 50.0) for n in range(12, 0, -1)])
    assert (year.driest_month, year.wettest_month) == (1, 1)
    assert year.driest == year.wettest


YEAR = [f"{n},20,50" for n in range(1, 13)]


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        (YEAR[:11], "1 to 12"),
        ([*YEAR, "1,20,50"], "1 to 12"),
        ([*YEAR[:11], "13,20,50"], "1 to 12"),
        ([*YEAR[:11], "12,20"], "line 13"),
        ([*YEAR[:11], "12,20,50,1"], "line 13"),
        ([*YEAR[:11], "12,warm,50"], "line 13"),
        ([*YEAR[:11], "12,nan,50"], "line 13"),
        ([*YEAR[:11], "1.5,20,50"], "1 to 12"),
        ([*YEAR[:11], "12,20,101"], "relative humidity"),
        ([*YEAR[:11], "12,500,50"], "deg C"),
        ([], "1 to 12"),
    ],
)
def test_no_year_gets_one_sentence(capsys, tmp_path, lines, words):
    code, got, err = reckoned(capsys, "room-year", table(tmp_path, lines))
    assert (code, got) == (2, None)
    assert words in err
    assert "\n" not in err


def test_as_the_command_prints_them(capsys, tmp_path):
    assert reckoned(capsys, "sold", "nominal=1x12")[1] == {"thickness_mm": 19.05, "width_mm": 285.75}
    assert reckoned(capsys, "sold", "nominal=4/4")[1] == {"thickness_mm": 25.4}
    got = reckoned(capsys, "board-feet", 'length=8"', "width=3", "thickness=25.4", "qty=144")[1]
    assert got["board_feet"] == pytest.approx(8 * 3 / INCH)
    binary = tmp_path / "b.csv"
    binary.write_bytes(b"\xff\xfe\x00")
    assert reckoned(capsys, "room-year", f"file={binary}")[0] == 2
    assert reckoned(capsys, "room-year", f"file={tmp_path / 'nowhere.csv'}")[0] == 2


@pytest.mark.parametrize(
    ("words", "answers"),
    [
        ("sticks reading=6 stick=450 width=150", {"difference_mm": 2.0}),
        ("sticks reading=-3 stick=600 width=200", {"difference_mm": -1.0}),
        ("hollow sole=560 iron=190 set=0.05 length=1000", {"hollow_mm": 0.18}),
        ("hollow sole=245 iron=80 set=0.05 length=1000", {"hollow_mm": 0.95}),
        ("roundover radius=10", {"octagon_mm": 5.86}),
        ("cleat thickness=19 angle=22", {"line_mm": 3.84, "depth_mm": 1.0785 * 19}),
        ("cleat thickness=20 angle=45", {"line_mm": 10.0, "depth_mm": 1.4142 * 20}),
        ("ogee run=100 rise=50", {"first_radius_mm": 62.5, "second_radius_mm": 62.5}),
        ("ogee run=80 rise=40 share=0.25", {"first_radius_mm": 25.0, "second_radius_mm": 75.0}),
        ("taper length=500 from=45 to=25", {"angle_deg": 2.2906}),
        ("taper length=500 from=45 to=25 faces=2", {"angle_deg": 2.2906}),
        ("taper length=500 from=45 to=25 faces=4", {"angle_deg": 1.1458}),
    ],
)
def test_truing_and_shaping_by_hand(capsys, words, answers):
    # rounded closed forms: similar triangles, a sole on a circle, regular octagon, right triangles, two tangent circles
    code, got, _ = reckoned(capsys, *words.split())
    assert code == 0
    assert got == pytest.approx(answers, rel=3e-2 if "hollow" in words else 1e-3)


@given(st.floats(1, 500), st.floats(1, 500), st.floats(0.05, 0.95))
def test_property_the_arcs_of_an_ogee_meet_on_a_line(run, rise, share):
    """Both end along the run: centres over the start and under the end, as far apart as the two radii together."""
    told = reckon("ogee", {"run": str(run), "rise": str(rise), "share": str(share)})
    first, second = told["first_radius_mm"], told["second_radius_mm"]
    assert np.hypot(run, rise - first - second) == pytest.approx(first + second, rel=1e-4)
    assert first / (first + second) == pytest.approx(share, rel=1e-3)


@pytest.mark.parametrize(
    "words",
    [
        "cleat thickness=19 angle=90",
        "cleat thickness=19 angle=0",
        "ogee run=100 rise=50 share=1",
        "roundover radius=0",
        "hollow sole=300 iron=300 set=0.1 length=1000",
        "sticks reading=1 stick=0 width=100",
        "taper length=500 from=45 to=25 faces=3",
    ],
)
def test_truing_that_makes_no_sense_gets_one_sentence(capsys, words):
    code, got, err = reckoned(capsys, *words.split())
    assert (code, got, err.count("\n")) == (2, None, 0)


@pytest.mark.parametrize(("unit", "softwood"), [("mm", False), ("in", False), ("in", True)])
def test_what_is_to_be_bought_is_sold_and_holds_the_pieces(unit, softwood):
    """Lengths sold: 1.8 to 6.0 m by 0.3, 6 to 16 ft by 2 (common practice). Against every way of cutting few pieces, by brute force."""
    chance = random.Random(5)
    for _ in range(60):
        pieces = [
            (round(chance.uniform(200, 2200)), round(chance.uniform(40, 180))) for _ in range(chance.randint(1, 5))
        ]
        one = to_buy(pieces, 20.0, softwood, unit, 1.5)
        foot = 304.8
        assert one.length in (
            [300.0 * n for n in range(6, 21)] if unit == "mm" else [round(foot * n, 4) for n in range(6, 17, 2)]
        )
        assert one.thickness >= 23
        assert one.width >= max(w for _, w in pieces)
        names = {"mm": "25"} if unit == "mm" else {"in": "5/4 dressed"} if softwood else {"in": "4/4"}
        assert one.name == names[unit]
        least = min(
            n
            for n in range(1, 6)
            if any(fits(split, pieces, one.length) for split in product(range(n), repeat=len(pieces)))
        )
        assert least <= one.count <= least + 1
    assert to_buy([(7000, 100)], 20.0, False, unit, 1.5) is None


def fits(split, pieces, length):
    loads = [0.0] * (max(split) + 1)
    for at, (long, _) in zip(split, pieces, strict=True):
        loads[at] += long + 1.5
    return max(loads) <= length - 60 + 1.5


def test_short_of_wood_is_one_call_whose_ways_out_are_boards_as_sold_of_the_wood_that_is_asked():
    project = fresh("boarded_chest")
    wood = plan(project).piece.parts[0].species
    short = Board(id="b", name="Short", species=wood, length=700, width=420, thickness=25)
    other = Board(id="o", name="Other", species="white ash", length=3000, width=450, thickness=30)
    project = edit.changed(project, boards=(short, other), units="in")
    result = plan(project).breakdown
    best = breakdown.offers(result.request)[0]
    project = edit.changed(project, layout=breakdown.accept(best, result.request.fingerprint, result.sawn))
    calls = [c for c in plan(project).calls if c.station == "breakdown" and c.open and not c.id.startswith("staves")]
    assert [c.id for c in calls] == ["short"]
    (call,) = calls
    assert "the longest thick enough has" in call.question
    buy, ash = call.option("buy"), call.option("wood white ash")
    assert wood in buy.label
    assert " ft long" in buy.label
    bought = [b for b in plan(edit.take(project, call, "buy")).project.boards if b.id.startswith("bought")]
    assert bought
    assert {b.species for b in bought} == {wood}
    assert {round(b.length / 304.8, 6) % 2 for b in bought} == {0.0}
    assert {p.species for p in plan(edit.take(project, call, "wood white ash")).piece.parts if p.id in call.parts} == {
        "white ash"
    }
    assert ash.consequences
