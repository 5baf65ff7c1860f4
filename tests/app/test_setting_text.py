"""Settings as texts: as they are shown in words, and as they are typed."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.app.deciding import value_of
from hollow_keel.app.setting_text import read_text, text_to_show, text_to_type
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import STYLES, LengthStyle, LengthUnit

MM = LengthStyle(LengthUnit.MM, 0.5)
INCHES = LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16)


@pytest.mark.parametrize(
    ("path", "value", "shown"),
    [
        ("molds.skin", 8.0, "8.0"),
        ("molds.skin", 0.0, "0.0"),
        ("molds.notch_width", 0.0, "no notch"),
        ("molds.halves", True, "two halves"),
        ("molds.mark_planks", False, "no"),
        ("molds.spall_above", None, "no cross spall"),
        ("strips.master.share", 0.6, "60 %"),
        ("strips.master.angle", 30.0, "30°"),
        ("inside.stringers", (0.35, 0.65), "35, 65 %"),
        ("inside.stringers", (), "none"),
        ("strips.minutes", 30.0, "30 minutes"),
        ("setup.zero_at", None, "hull's end"),
        ("strips.bottom", 0, "up to the turn of the bilge"),
    ],
)
def test_a_value_is_shown_in_words(path: str, value: Any, shown: str) -> None:
    assert text_to_show(all_settings()[path], value, MM) == shown


@pytest.mark.parametrize(
    ("path", "text", "value"),
    [
        ("molds.skin", "3/8in", 9.525),
        ("molds.skin", "1 cm", 10.0),
        ("strips.master.share", "70", 0.7),
        ("strips.master.share", "70 %", 0.7),
        ("strips.master.angle", "45°", 45.0),
        ("strips.modulus", "8,5", 8.5),
        ("inside.stringers", "35; 65 %", (0.35, 0.65)),
        ("stock.used_up.edge_screws", "2", 2),
        ("molds.spall_above", "", None),
        ("stock.buying.currency", "kr", "kr"),
    ],
)
def test_a_text_is_read_as_a_builder_types_it(path: str, text: str, value: Any) -> None:
    found = read_text(all_settings()[path], text, MM, None)
    assert found == pytest.approx(value) if not isinstance(value, str) else found == value


@pytest.mark.parametrize(
    ("path", "text", "said"),
    [
        ("molds.skin", "thick", "Skin taken off"),
        ("stock.used_up.edge_screws", "two", "not a whole number"),
        ("inside.stringers", "35, x", "not a share in per cent"),
        ("strips.modulus", "stiff", "not a number"),
    ],
)
def test_what_cannot_be_read_is_named(path: str, text: str, said: str) -> None:
    with pytest.raises(InputError) as error:
        read_text(all_settings()[path], text, MM, None)
    assert said in str(error.value)


@given(value=st.floats(0.01, 5000), style=st.sampled_from(STYLES))
def test_a_length_left_as_it_stands_is_not_rounded_and_one_typed_is_within_the_tape(value: float, style: LengthStyle) -> None:
    record = all_settings()["molds.skin"]
    text = text_to_type(record, value, style)
    assert read_text(record, text, style, value) == value
    assert read_text(record, text, style, None) == pytest.approx(value, abs=style.step_mm / 2 + 1e-6)


def test_every_setting_can_be_shown_and_read_back() -> None:
    """All of them as they are in a blank job: nothing typed changes nothing."""
    job = Job()
    for record in all_settings().values():
        now = value_of(record.path, job)
        if record.setting.kind in (Kind.RECORDS, Kind.CHOICE, Kind.FLAG):
            assert isinstance(text_to_show(record, now, INCHES), str)
            continue
        shown = text_to_show(record, now, INCHES)
        assert shown.strip(), record.path
        assert read_text(record, text_to_type(record, now, INCHES), INCHES, now) == now


@given(st.text(max_size=30))
def test_rubbish_is_read_or_refused_in_words(text: str) -> None:
    for path in ("molds.skin", "strips.master.share", "inside.stringers", "stock.used_up.edge_screws", "strips.modulus"):
        try:
            read_text(all_settings()[path], text, INCHES, None)
        except InputError as error:
            assert str(error).strip()
