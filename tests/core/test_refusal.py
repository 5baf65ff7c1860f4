"""What is said of a value that cannot be: the setting's own label, the value, the limit, in the builder's units."""

from __future__ import annotations

import re
from typing import Any

import pytest

from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.findings import in_words
from hollow_keel.core.job import Job
from hollow_keel.core.settings_table import all_settings
from hollow_keel.demo.jobs import linnet


def said(part: str, **fields: Any) -> str:
    with pytest.raises(InputError) as caught:
        change(linnet(), part, **fields)
    return str(caught.value)


@pytest.mark.parametrize(
    ("part", "field", "value", "words"),
    [
        ("strips", "thickness", -3.0, "Strips thick: this value cannot be used (it says “-3 mm”). It must be more than 0 mm."),
        ("strips", "thickness", "x", "Strips thick: this value cannot be used (it says “x”). It must be a number."),
        ("stock.saw", "kerf", -1.0, "Kerf: this value cannot be used (it says “-1 mm”). It must be at least 0 mm."),
        ("molds", "stations", (1.0, 2e9), "Molds stand at, no. 2: this value cannot be used (it says “2000000000 mm”)."),
        ("molds", "every", float("nan"), "A mold every: this value cannot be used (it says “nan”). It must be a number."),
        ("strips", "layout", "zigzag", "It may be one of these: all one width, tapered,"),
        ("strips", "zones", [{"first": 1, "last": 2, "width": -5}], "no. 1: this value cannot be used (it says “-5”)."),
        ("", "name", 3, "Name: this value cannot be used (it says “3”). It must be a text."),
        ("log", "entries", ({"day": "soon"},), "day, no. 1: this value cannot be used (it says “soon”). It must be a day"),
        ("strips", "nope", 3, "nope: this value cannot be used (it says “3”). Nothing of that name is known."),
    ],
)
def test_it_is_said_in_the_words_of_the_setting(part: str, field: str, value: Any, words: str) -> None:
    assert words in in_words(said(part, **{field: value}))


def test_lengths_are_said_in_the_builders_units() -> None:
    text = in_words(said("strips", thickness=-25.4), lambda mm: f"{mm / 25.4:g} in")
    assert "it says “-1 in”" in text
    assert "more than 0 in" in text


def test_no_setting_is_refused_in_the_words_of_a_program() -> None:
    """Whatever setting, beyond its limits: no talk of inputs and types."""
    tried = 0
    for path, record in all_settings().items():
        for bound, value in record.bounds.items():
            beyond = value - 1 if bound in ("gt", "ge") else value + 1
            part, _, field = path.rpartition(".")
            many = isinstance(record.default, tuple)
            try:
                change(Job(), part, **{field: (beyond,) if many else beyond})
            except InputError as error:
                tried += 1
                assert str(error).startswith(record.setting.label)
                assert "input" not in str(error).lower()
                assert "valid" not in str(error).lower()
    assert tried > 200


@pytest.mark.parametrize("value", [None, "x", "", "1,5", [], [1], ["a"], {"a": 1}, True, float("nan"), [{"x": 1}], [None]])
def test_nor_is_rubbish(value: Any) -> None:
    for record in all_settings().values():
        try:
            change(Job(), record.part, **{record.field: value})
        except InputError as error:
            text = str(error).replace(str(value), "")
            assert not re.search(r"[Ii]nput|instance|dictionary|should|Value error|valid ", text), text
            assert ".." not in text
