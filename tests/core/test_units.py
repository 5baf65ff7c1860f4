from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.core.errors import InputError
from hollow_keel.core.units import (
    STYLES,
    LengthStyle,
    LengthUnit,
    format_angle,
    format_degrees,
    format_length,
    given_length,
    parse_length,
    parse_typed,
    round_to,
    spoken_length,
)

INCH = 25.4


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("1613", 1613.0),
        ("1.613 m", 1613.0),
        ("161.3cm", 1613.0),
        ("63.5in", 63.5 * INCH),
        ("5' 3 1/2\"", 63.5 * INCH),
        ("5'3 1/2", 63.5 * INCH),
        ("5′ 3½″", 63.5 * INCH),
        ("5 ft 3.5 in", 63.5 * INCH),
        ("5-3-4", 63.5 * INCH),
        ("5-3-4+", (63.5 + 1 / 16) * INCH),
        ("-0-0-1+", -3 / 16 * INCH),
        ("3/4in", 0.75 * INCH),
        ("2 743.5", 2743.5),
        ("2\u202f743.5", 2743.5),
        ("12,5", 12.5),
        (".5", 0.5),
        ("-12", -12.0),
        ("1 m - 12 mm", 988.0),
        ("42 1/2in + 3/4in", 43.25 * INCH),
        ("100 + 5-3-4", 100 + 63.5 * INCH),
    ],
)
def test_reads_what_builders_write(text: str, mm: float) -> None:
    assert parse_length(text) == pytest.approx(mm)


def test_bare_numbers_are_in_the_fields_unit() -> None:
    assert parse_length("42 1/2 + 3/4", LengthUnit.INCH_FRACTION) == pytest.approx(43.25 * INCH)
    assert parse_length("2", LengthUnit.M) == 2000
    assert parse_length("7", LengthUnit.FEET_INCH_FRACTION) == pytest.approx(7 * INCH)
    assert parse_length("0", LengthUnit.FEET_INCH_EIGHTHS) == 0


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "abc",
        "1,613",
        "5-12-0",
        "5-3-8",
        "1/0",
        "12 13",
        "3 in 2 ft",
        "1 + ",
        "--2",
        "5 3/",
        "1e9999",
        "nan",
        "inf",
        "4 yd",
        "½/2",
    ],
)
def test_says_what_it_cannot_read(text: str) -> None:
    with pytest.raises(InputError) as raised:
        parse_length(text)
    assert raised.value.mend


def test_bare_number_in_eighths_is_refused_not_guessed() -> None:
    with pytest.raises(InputError, match="feet-inches-eighths"):
        parse_length("27", LengthUnit.FEET_INCH_EIGHTHS)


@pytest.mark.parametrize(
    ("mm", "style", "text"),
    [
        (2743.5, LengthStyle(LengthUnit.MM, 0.5), "2\u202f743.5"),
        (2743.24, LengthStyle(LengthUnit.MM, 0.5), "2\u202f743.0"),
        (0.25, LengthStyle(LengthUnit.MM, 0.5), "0.5"),
        (-0.2, LengthStyle(LengthUnit.MM, 0.5), "0.0"),
        (1613.4, LengthStyle(LengthUnit.MM, 1.0), "1\u202f613"),
        (63.5 * INCH, LengthStyle(LengthUnit.INCH, 0.01), "63.50"),
        (63.5 * INCH, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16), "63 1/2"),
        (0.9999 * INCH, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16), "1"),
        (3 / 64 * INCH, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 64), "3/64"),
        (63.5 * INCH, LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 16), "5' 3 1/2\""),
        (11.999 * INCH, LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 16), "1' 0\""),
        (-63.5 * INCH, LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16), "-5-3-4"),
        ((63.5 + 1 / 16) * INCH, LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16), "5-3-4+"),
        (math.nan, LengthStyle(), "–"),
    ],
)
def test_writes_lengths(mm: float, style: LengthStyle, text: str) -> None:
    assert format_length(mm, style) == text


@given(st.floats(-30_000, 30_000), st.sampled_from(STYLES))
def test_what_is_written_is_read_back_within_half_a_step(mm: float, style: LengthStyle) -> None:
    back = parse_length(format_length(mm, style), style.unit)
    assert abs(back - mm) <= style.step_mm / 2 * (1 + 1e-6) + 1e-6


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_by_name(text: str) -> None:
    try:
        assert math.isfinite(parse_length(text))
    except InputError as error:
        assert error.problem


def test_rounds_halves_away_from_zero() -> None:
    assert round_to(0.25, 0.5) == 0.5
    assert round_to(-0.25, 0.5) == -0.5


def test_angles() -> None:
    assert format_angle(math.radians(9.6), 0.5) == "9.5°"
    assert format_angle(math.radians(9.6), 1) == "10°"
    assert format_degrees(-0.04) == "0.0°"
    assert format_degrees(-0.06) == "-0.1°"
    assert format_degrees(-0.4, 1) == "0°"
    assert format_degrees(math.nan) == "–"


def test_what_would_read_as_nothing_in_a_sentence_is_told_finely() -> None:
    eighths = LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 8)
    assert spoken_length(0.4, eighths) == "0.016 in"
    assert spoken_length(0.0, eighths) == format_length(0.0, eighths, unit=True)
    assert spoken_length(25.4, eighths) == format_length(25.4, eighths, unit=True)
    assert spoken_length(0.4, LengthStyle(LengthUnit.MM, 0.5)) == "0.4 mm"


FRACTIONS = LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16)


@pytest.mark.parametrize(
    ("mm", "style", "text"),
    [
        (12.7, FRACTIONS, "1/2"),
        (12.0, FRACTIONS, "0.472"),
        (11.90625, FRACTIONS, "15/32"),
        (19.05, FRACTIONS, "3/4"),
        (12.0, LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16), "0.472in"),
        (2540.0, LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 16), "8' 4\""),
        (12.0, LengthStyle(LengthUnit.INCH, 0.01), "0.472"),
        (12.7, LengthStyle(LengthUnit.INCH, 0.01), "0.50"),
        (12.5, LengthStyle(), "12.5"),
        (12.7, LengthStyle(), "12.7"),
        (9.525, LengthStyle(), "9.53"),
        (2743.7, LengthStyle(), "2\u202f743.7"),
        (0.0, FRACTIONS, "0"),
        (math.inf, LengthStyle(), "–"),
    ],
)
def test_a_length_that_was_given_is_not_shown_as_another(mm: float, style: LengthStyle, text: str) -> None:
    assert given_length(mm, style) == text


@given(st.floats(-20_000, 20_000), st.sampled_from(STYLES))
def test_what_is_shown_of_a_given_length_reads_as_it(mm: float, style: LengthStyle) -> None:
    """ "Typed over itself": the text, read in the field's unit, is the length to two hundredths of a millimetre."""
    assert parse_length(given_length(mm, style), style.unit) == pytest.approx(mm, abs=0.02)


@pytest.mark.parametrize("text", ["1.250", "-1.250", "12.500", "1.234.567"])
def test_a_point_that_may_be_thousands_is_asked_for(text: str) -> None:
    with pytest.raises(InputError, match="thousands or a decimal"):
        parse_typed(text)
    if text.count(".") == 1:
        assert parse_typed(text, LengthUnit.INCH) == pytest.approx(float(text) * INCH), "decimals of an inch are of three figures"


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("9.525", 9.525),
        ("1.588", 1.588),
        ("0.125", 0.125),
        ("1.25", 1.25),
        ("1250.000", 1250.0),
        ("1.250 mm", 1.25),
        ("12.5", 12.5),
    ],
)
def test_other_points_are_decimals(text: str, mm: float) -> None:
    assert parse_typed(text) == mm


@pytest.mark.parametrize("text", ["1’613", "1'613", "12'345"])
def test_a_mark_that_may_be_thousands_is_asked_for(text: str) -> None:
    with pytest.raises(InputError, match="thousands or feet"):
        parse_length(text)
