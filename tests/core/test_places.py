"""Several lengths typed as one text."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job
from hollow_keel.core.places import parse_lengths
from hollow_keel.core.units import LengthUnit
from tests.shapes import bare_linnet

MM, INCH = LengthUnit.MM, LengthUnit.INCH
TYPED = (
    ("28, 168", MM, (28, 168)),
    ("28; 168", MM, (28, 168)),
    ("28\n168\n300\n", MM, (28, 168, 300)),
    ("28\t168", MM, (28, 168)),
    ("28\u2028168", MM, (28, 168)),
    ("2\u202f743.5, 3000", MM, (2743.5, 3000)),
    ("28 to 168 every 10", MM, tuple(range(28, 169, 10))),
    ("28 to 160 every 50", MM, (28, 78, 128)),
    ("every 10 from 28 to 48", MM, (28, 38, 48)),
    ("from 28 to 48 every 10", MM, (28, 38, 48)),
    ("28 - 48 every 10", MM, (28, 38, 48)),
    ("28 to 48, every 10", MM, (28, 38, 48)),
    ("48 to 28 every 10", MM, (48, 38, 28)),
    ("5, 28 to 48 every 10, 100", MM, (5, 28, 38, 48, 100)),
    ("6 to 18 every 6", INCH, (152.4, 304.8, 457.2)),
    ("every 12 in from 6 in to 30 in", MM, (152.4, 457.2, 762.0)),
    ("1' to 3' every 1'", INCH, (304.8, 609.6, 914.4)),
    ("", MM, ()),
    (" , ", MM, ()),
    ("100, every 10 from 28 to 48", MM, (100, 28, 38, 48)),
    ("0 to 0.3 every 0.1", MM, (0, 0.1, 0.2, 0.3)),
)


@pytest.mark.parametrize(("text", "unit", "wanted"), TYPED)
def test_lists_and_rows(text: str, unit: LengthUnit, wanted: tuple[float, ...]) -> None:
    assert parse_lengths(text, unit) == pytest.approx(wanted)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("28, x, 168", "x"),
        ("28 168 300", "28 168 300"),
        ("5, 28 168", "28 168"),
        ("28 to y every 10", "y"),
        ("28 to 168 every 0", "0"),
        ("28 to 168 every", "28 to 168 every"),
        ("0 to 9999 every 0.1", "0 to 9999 every 0.1"),
    ],
)
def test_the_part_that_is_wrong_is_named(text: str, value: str) -> None:
    with pytest.raises(InputError) as raised:
        parse_lengths(text)
    assert value in raised.value.value


@given(st.text(max_size=60))
def test_any_text_is_lengths_or_a_fault(text: str) -> None:
    try:
        assert len(parse_lengths(text)) <= 500
    except InputError as error:
        assert error.mend


def test_molds_stand_where_a_row_says() -> None:
    job = apply_override(Job(), "mold.stations", "500 to 2500 every 500")
    assert job.molds.stations == (500, 1000, 1500, 2000, 2500)
    assert apply_override(Job(), "inside.bulkheads", "300 to 900 every 300").inside.bulkheads == (300, 600, 900)


ENDS = (150.0, 4950.0)
FROM_ENDS = (
    ("the stern less 9", MM, (4941.0,)),
    ("bow, the bow plus 150, stern", MM, (150.0, 300.0, 4950.0)),
    ("Transom - 50", MM, (4900.0,)),
    ("every 1000 from 500 to the stern less 9", MM, (500, 1500, 2500, 3500, 4500)),
    ("every 12 in from 6 to the stern less 9", INCH, tuple(25.4 * x for x in range(6, 186, 12))),
    ("the stern to the bow every 2400", MM, (4950, 2550, 150)),
)


@pytest.mark.parametrize(("text", "unit", "wanted"), FROM_ENDS)
def test_places_from_an_end(text: str, unit: LengthUnit, wanted: tuple[float, ...]) -> None:
    assert parse_lengths(text, unit, ENDS) == pytest.approx(wanted)
    with pytest.raises(InputError, match="not known here"):
        parse_lengths(text, unit)


def test_ends_are_those_of_the_table_and_only_places_are_told_from_them() -> None:
    job = bare_linnet()
    first, last = (f([r.station for r in job.offsets.rows]) for f in (min, max))
    changed = apply_override(job, "molds.stations", "300 to the stern less 100 every 400")
    assert changed.molds.stations == pytest.approx(tuple(range(300, int(last - 100) + 1, 400)))
    assert apply_override(job, "inside.begins", "the bow plus 250").inside.begins == pytest.approx(first + 250)
    with pytest.raises(InputError):
        apply_override(job, "strips.width", "the stern")
