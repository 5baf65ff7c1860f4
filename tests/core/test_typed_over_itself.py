"""Whatever a field shows, typed over itself, gives what it shows; and what is typed is kept exactly."""

from __future__ import annotations

from datetime import date
from fractions import Fraction
from operator import attrgetter
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.app.setting_text import read_text, text_to_type
from hollow_keel.core.inch_sizes import blank_job
from hollow_keel.core.job import Job
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings.units import UnitSettings
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import STYLES, LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet, pipit, sedge, teasel

TYPED = tuple(kind for kind in Kind if kind not in (Kind.CHOICE, Kind.FLAG, Kind.RECORDS))
LENGTHS = (Kind.LENGTH, Kind.FINE, Kind.LENGTHS)
INCHES = UnitSettings(unit=LengthUnit.INCH_FRACTION, step=1 / 16)
JOBS = {
    "blank": Job(),
    "blank in inches": blank_job(INCHES),
    "linnet": linnet(),
    "pipit": pipit(),
    "sedge": sedge(),
    "teasel": teasel(),
}


def numbers(value: Any) -> list[float]:
    """A value as numbers: days by their count."""
    many = value if isinstance(value, tuple) else (value,)
    return [float(own.toordinal() if isinstance(own, date) else own) for own in many]


@pytest.mark.parametrize("style", STYLES, ids=[f"{s.unit.value}-{s.step:g}" for s in STYLES])
@pytest.mark.parametrize("name", list(JOBS))
def test_every_field_typed_over_itself(name: str, style: LengthStyle) -> None:
    tried = 0
    for path, record in all_settings().items():
        value = attrgetter(path)(JOBS[name])
        kind = record.setting.kind
        if kind not in TYPED or value is None or value == ():
            continue
        text = text_to_type(record, value, style)
        again = read_text(record, text, style, None)
        if kind is Kind.WORD:
            assert again == str(value), path
        else:
            near = {"abs": 0.02} if kind in LENGTHS else {"rel": 1e-5}
            assert numbers(again) == pytest.approx(numbers(value), **near), (path, text)
        tried += 1
    assert tried > 80


@given(st.integers(1, 64 * 200), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_fractions_are_kept_exactly(parts: int, of: int) -> None:
    inches = Fraction(parts, of)
    whole, rest = divmod(inches.numerator, inches.denominator)
    text = f"{whole} {rest}/{inches.denominator}" if whole and rest else f"{rest}/{inches.denominator}" if rest else f"{whole}"
    record = all_settings()["molds.thickness"]
    value = read_text(record, text, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16), 12.0)
    assert value == pytest.approx(float(inches) * 25.4, abs=1e-9)
    assert read_text(record, f"{float(inches) * 25.4!r} mm", LengthStyle(), 12.0) == float(inches) * 25.4
