"""Lengths as people write them, and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nullah.core.planning.changes import between
from nullah.core.values.measure import (
    INCH,
    BadLength,
    decimals,
    in_words,
    marked,
    parse_length,
    parse_positive,
    plain,
    show_fraction,
    show_length,
    show_mm,
    told,
)


@pytest.mark.parametrize(
    ("written", "mm"),
    [
        ("3 5/8", 3.625 * INCH),
        ('3-5/8"', 3.625 * INCH),
        ("1' 4 1/2\"", 16.5 * INCH),
        ("1'-4\"", 16 * INCH),
        ("1 ft 4 in", 16 * INCH),
        ("17.4", 17.4),
        ("17,4 mm", 17.4),
        ("18 - 0.4", 17.6),
        ("18-0.4", 17.6),
        ("18 mm - 1/16", 18 - INCH / 16),
        ("3 - 5/8", 3 - 0.625 * INCH),
        ("5/8", 0.625 * INCH),
        ("2 cm", 20.0),
        ("1.2m", 1200.0),
        ("-2", -2.0),
        ("\u22121,5", -1.5),
        (".5", 0.5),
    ],
)
def test_what_people_write(written, mm):
    assert parse_length(written) == pytest.approx(mm)


def test_a_bare_number_is_in_the_unit_shown():
    assert parse_length("3.5", "in") == pytest.approx(3.5 * INCH)
    assert parse_length("3.5 mm", "in") == pytest.approx(3.5)
    assert parse_length("3.5", "mm") == pytest.approx(3.5)


@pytest.mark.parametrize(
    "written",
    [
        "",
        "  ",
        "abc",
        "18 -",
        "18 - - 2",
        "3/0",
        "1,000",
        "12 13",
        "mm",
        "1e999",
        "nan",
        "inf",
        "9" * 40,
        "17.4.2",
        "five",
    ],
)
def test_what_is_no_length_gets_one_sentence(written):
    with pytest.raises(BadLength) as said:
        parse_length(written)
    assert str(said.value).endswith(".")
    assert "\n" not in str(said.value)


@pytest.mark.parametrize("written", ["0", "-3", "2 - 5"])
def test_zero_and_less_are_refused_where_a_size_is_wanted(written):
    with pytest.raises(BadLength, match="not more than zero"):
        parse_positive(written)


@given(st.floats(-20_000, 20_000), st.sampled_from([16, 32, 64]))
def test_property_inches_and_their_remainder_make_the_length(mm, denominator):
    shown = show_fraction(mm, denominator)
    assert parse_length(shown.text, "in") + shown.remainder == pytest.approx(mm, abs=1e-6)
    assert abs(shown.remainder) <= INCH / denominator / 2 + 1e-9


@given(st.floats(-20_000, 20_000))
def test_property_mm_and_their_remainder_make_the_length(mm):
    shown = show_mm(mm)
    assert parse_length(shown.text) + shown.remainder == pytest.approx(mm, abs=1e-6)
    assert abs(shown.remainder) <= 0.05 + 1e-9


@given(st.text(max_size=30))
def test_property_any_text_is_a_length_or_one_sentence(text):
    try:
        assert abs(parse_length(text)) <= 100_000
    except BadLength as said:
        assert str(said)


def test_the_rounding_is_told():
    assert in_words(3.625 * INCH, "in") == '3 5/8"'
    assert in_words(3.625 * INCH - 0.2, "in") == '3 5/8" less a hair'
    assert in_words(3.625 * INCH + 0.2, "in") == '3 5/8" and a hair'
    assert show_length(17.0).text == "17"
    assert show_mm(-0.01).text == "0"
    with pytest.raises(ValueError, match="16, 32 or 64"):
        show_fraction(3, 10)


def test_lengths_in_a_sentence_are_told_in_the_unit_shown():
    sentence = f"gauge {marked(17.4)} for {marked(12.7, unit=' mm')} stock at {marked(1163.5)}, 5 of 6 done"
    assert told(sentence) == "gauge 17.4 for 12.7 mm stock at 1163.5, 5 of 6 done"
    assert told(sentence, "in", 16) == 'gauge 11/16" for 1/2" stock at 45 13/16", 5 of 6 done'
    assert told("no length here", "in") == "no length here"
    assert told(marked(-0.8), "in", 64) == '-1/32"'


@given(st.floats(-9_999, 9_999), st.sampled_from([16, 32, 64]))
def test_property_a_figure_reads_the_same_in_a_sentence_and_alone(mm, denominator):
    """Rounded once, in the unit it is shown in: not to tenths of a mm first and to a fraction after."""
    assert told(marked(mm)) == show_length(mm).text
    assert told(marked(mm), "in", denominator) == show_length(mm, "in", denominator).text or (
        abs(abs(mm) / INCH * denominator % 1 - 0.5) < 1e-3 * denominator  # within the thousandth that a mark carries
    )
    assert told(marked(mm)).isprintable()


def test_there_is_no_minus_before_nothing():
    assert decimals(-0.001, 2) == "0.00"
    assert show_mm(-0.04).text == "0"
    assert told(marked(-0.01), "in") == '0"'
    assert str(plain({"a": [-0.0, (-0.0, 1.5)], "b": "x"})) == "{'a': [0.0, [0.0, 1.5]], 'b': 'x'}"


def test_a_sentence_that_one_marks_by_tells_its_hair():
    """18.9 mm is 0.744": to a 32nd 3/4 less a hair; an inch is one; mm and what is read finer are as they are."""
    sentence = f"Gauge {marked(18.9)} and {marked(25.4)}, {marked(0.3, fine=True)} off."
    assert told(sentence, "in", 32, hair=True) == 'Gauge 3/4" less a hair and 1", 0.012" off.'
    assert told(sentence, "in", 32) == 'Gauge 3/4" and 1", 0.012" off.'
    assert told(sentence, hair=True) == "Gauge 18.9 and 25.4, 0.3 off."


def test_what_is_the_same_to_the_eye_is_no_change():
    one, other = {"top thickness": marked(19.0)}, {"top thickness": marked(19.1)}
    assert between(one, other)
    assert not between(one, other, lambda s: told(s, "in", 32))
