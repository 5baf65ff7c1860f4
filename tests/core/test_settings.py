"""One record a setting: every field of the job has one, can be set from the command line, and stands in the docs."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from datetime import date
from enum import Enum
from pathlib import Path
from typing import Any

import pytest
from pydantic import BaseModel, TypeAdapter

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.errors import InputError
from hollow_keel.core.findings import in_words
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.offsets.typed_sheet import TypedSheet
from hollow_keel.core.settings.layout import Layout, Sheets
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings_table import Record, all_settings, setting_named
from hollow_keel.core.stages import read
from hollow_keel.core.units import LengthUnit
from hollow_keel.demo import NAMES
from hollow_keel.demo.jobs import DEMOS, linnet

ALL = list(all_settings().values())
ROOT = Path(__file__).parents[2]
RICH = linnet()
LAYOUT = Layout(sheets=Sheets(), placed=(), count=1, used=0.5, shapes=True)


def leaves(model: type[BaseModel], path: str = "") -> list[str]:
    """Every field of the job as pydantic itself tells it; parts that may be missing are one field."""
    found = []
    for name, info in model.model_fields.items():
        own = f"{path}.{name}".lstrip(".")
        kind = info.annotation
        found += leaves(kind, own) if isinstance(kind, type) and issubclass(kind, BaseModel) else [own]
    return found


def test_every_field_of_the_job_has_a_record_with_words() -> None:
    assert [record.path for record in ALL] == leaves(Job)
    assert len(ALL) > 135
    for record in ALL:
        assert record.setting.label
        assert record.setting.why
        assert record.setting.source
        if record.setting.kind is Kind.CHOICE:
            assert record.default in record.setting.choices, record.path
            enums = [v for v in record.setting.choices if isinstance(v, Enum)]
            if enums:
                assert set(type(enums[0])) == set(enums), f"{record.path}: a choice has no words"


def test_no_two_settings_share_a_name() -> None:
    names = [name for record in ALL for name in record.names]
    assert len(names) == len(set(names))


TYPED: dict[str, tuple[str, Any]] = {
    "printing.proof_bar": ("98.5", 98.5),
    "units.step": ("2", 2.0),
    "stem.ratio": ("120", 120.0),
    "strips.glue_gap": ("0.02in", 0.508),
    "unfaired": ('{"to_inside": true}', OffsetsTable(to_inside=True)),
    "layout": (LAYOUT.model_dump_json(), LAYOUT),
    "typed": ('{"cells": [["a"]]}', TypedSheet(cells=(("a",),))),
    "log.starts": ("2026-03-02", date(2026, 3, 2)),
}
BY_KIND: dict[Kind, tuple[str, Any]] = {
    Kind.LENGTH: ('1 1/2"', 38.1),
    Kind.FINE: ('1 1/2"', 38.1),
    Kind.LENGTHS: ("400mm, 16in", (400.0, 406.4)),
    Kind.SHARES: ("35%, 0.65", (0.35, 0.65)),
    Kind.PER_CENT: ("45%", 0.45),
    Kind.WHOLE: ("3", 3),
    Kind.NUMBER: ("21.5", 21.5),
    Kind.DEGREES: ("21.5", 21.5),
    Kind.WORD: ("kr", "kr"),
}


def another(record: Record) -> tuple[str, Any]:
    """Another value for a setting as it is typed, and what it must come to."""
    now, kind = read(Job(), record.path), record.setting.kind
    if record.path in TYPED:
        return TYPED[record.path]
    if kind is Kind.CHOICE:
        value = next(v for v in record.setting.choices if v not in (now, None))
        return (str(value).lower() if isinstance(value, bool) else str(getattr(value, "value", value))), value
    if kind is Kind.FLAG:
        return ("no" if now else "yes"), not now
    if kind in BY_KIND:
        return BY_KIND[kind]
    rich = read(RICH, record.path)
    return (TypeAdapter(record.info.annotation).dump_json(rich).decode(), rich) if rich else ("[]", ())


KEPT = ("molds.own",)
"""Written by the program alone: without layers there is nothing to keep."""


@pytest.mark.parametrize("record", [r for r in ALL if r.path not in KEPT], ids=lambda r: r.path)
def test_every_setting_can_be_set_from_the_command_line(record: Record) -> None:
    text, value = another(record)
    for name in record.names:
        job = apply_override(Job(), name, text)
        assert read(job, record.path) == pytest.approx(value) if isinstance(value, float) else read(job, record.path) == value
        changed = [r.path for r in ALL if read(job, r.path) != read(Job(), r.path)]
        assert changed in ([record.path], []), "nothing else changes"
    if record.may_be_none:
        assert read(apply_override(job, record.key, "none"), record.path) is None


@pytest.mark.parametrize(
    ("key", "text", "words"),
    [
        ("stock.joints.rows", "9", "It must be at most 6."),
        ("strip.glue-gap", "8", "It must be at most 5 mm."),
        ("molds.halves", "perhaps", "neither yes nor no"),
        ("stock.boards", "[{", "not JSON"),
        ("molds.stringers", "many", "not a share"),
        ("stem.ratio", "steep", "It must be a number."),
        ("ring", "3", "no such setting"),
        ("stock.boards", '[{"width": -3}]', "boards"),
    ],
)
def test_what_cannot_be_set_is_said(key: str, text: str, words: str) -> None:
    with pytest.raises(InputError) as raised:
        apply_override(Job(), key, text)
    assert words in in_words(str(raised.value))


def test_lengths_are_read_in_the_unit_asked_for() -> None:
    assert apply_override(Job(), "molds.rounding", "1/8", LengthUnit.INCH_FRACTION).molds.rounding == pytest.approx(3.175)
    boards = apply_override(Job(), "stock.boards", json.dumps([{"width": 120, "count": 3}])).stock.boards
    assert (boards[0].width, boards[0].count) == (120.0, 3)


def test_what_a_setting_is_for_follows_the_job() -> None:
    wedges, legs = setting_named("setup.wedges").setting, setting_named("setup.leg-width").setting
    assert wedges.when(Job())
    assert not legs.when(Job())
    on_table = apply_override(Job(), "setup.strongback", "table")
    assert not wedges.when(on_table)
    assert legs.when(on_table)
    assert not legs.when(apply_override(on_table, "setup.upright", "true"))
    for record in ALL:
        assert record.setting.when(RICH) in (True, False)


def test_the_docs_tell_all_settings_as_they_are() -> None:
    made = subprocess.run(
        [sys.executable, "-c", "import settings_table; print(settings_table.table(), end='')"],
        cwd=ROOT / "tools",
        capture_output=True,
        text=True,
        check=True,
    ).stdout
    assert (ROOT / "docs" / "settings.md").read_text(encoding="utf-8") == made, "run: python tools/settings_table.py"


@pytest.mark.parametrize(
    ("key", "value"),
    [
        ("molds.stringers", ()),
        ("release.spalls", ()),
        ("deck.openings", ()),
        ("strips.zones", ()),
        ("mold.notch-width", 0.0),
        ("setup.wedges", 0.0),
        ("setup.length", None),
        ("waterline", None),
    ],
)
def test_none_sets_what_may_be_nothing(key: str, value: Any) -> None:
    """As docs/settings.md says: where nothing may be set, `none` sets it."""
    record = setting_named(key)
    assert read(apply_override(linnet(), key, "none"), record.path) == value


def test_what_must_be_something_is_not_none() -> None:
    with pytest.raises(InputError, match="skin"):
        apply_override(linnet(), "skin", "none")


def test_every_demo_can_be_named() -> None:
    assert tuple(DEMOS) == NAMES


def test_the_docs_tell_all_rules_with_where_they_come_from(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(ROOT / "tools"))
    import rules_page

    assert (ROOT / "docs" / "rules.md").read_text(encoding="utf-8") == rules_page.page(), "run: python tools/rules_page.py"
    told = [row for title, text in rules_page.sections(rules_page.SOURCE.read_text()) for row in rules_page.rows(text)]
    source = re.compile(r"common practice|from memory|\(ours[;)]|by definition|theory|√|\d{4}")
    assert [names for names, said in told if not source.search(said)] == []
