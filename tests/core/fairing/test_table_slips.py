"""Slips of whole rows and columns, made on purpose in sound tables: each is named, and its mend gives the sound table back."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from hollow_keel.app.habit import measured_by_lines
from hollow_keel.core.fairing.table_slips import slip_findings, table_slips
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import linnet, pipit, sedge

DEMOS = {make.__name__: measured_by_lines(Pipeline().shape(make())) for make in (linnet, sedge)}
Slip = Callable[[OffsetsTable], OffsetsTable]


def rows_with(table: OffsetsTable, change: Callable[[OffsetRow], OffsetRow]) -> OffsetsTable:
    return table.model_copy(update={"rows": tuple(change(row) for row in table.rows)})


def station(table: OffsetsTable) -> float:
    places = ByLines(table).stations
    return places[len(places) // 3]


def exchanged(table: OffsetsTable) -> OffsetsTable:
    """Height and half-breadth of one sheer point."""
    x = station(table)
    return rows_with(
        table,
        lambda r: (
            r.model_copy(update={"half_breadth": r.height, "height": r.half_breadth}) if (r.station, r.label) == (x, "sheer") else r
        ),
    )


def all_exchanged(table: OffsetsTable) -> OffsetsTable:
    """All of one station."""
    x = station(table)
    return rows_with(
        table,
        lambda r: (
            r.model_copy(update={"half_breadth": r.height, "height": r.half_breadth})
            if r.station == x and r.label in ("keel", "wl", "sheer", "chine")
            else r
        ),
    )


def from_the_other_end(table: OffsetsTable) -> OffsetsTable:
    """One station's place counted from the last station."""
    x = station(table)
    places = ByLines(table).stations
    other = min(places) + max(places) - x + 37  # stations do not all stand at even steps
    rows = [
        r.model_copy(update={"station": other}) if r.station == x and r.label in ("keel", "wl", "sheer") else r for r in table.rows
    ]
    return table.model_copy(update={"rows": tuple(rows)})


@pytest.mark.parametrize("name", DEMOS)
def test_sound_tables_have_no_slip(name: str) -> None:
    assert table_slips(DEMOS[name]) == ()
    assert slip_findings(()) == []


@pytest.mark.parametrize("make", [linnet, pipit, sedge])
def test_the_demos_as_shipped_have_none(make: Callable[[], object]) -> None:
    assert table_slips(make().offsets) == ()  # type: ignore[attr-defined]


@pytest.mark.parametrize("name", DEMOS)
@pytest.mark.parametrize(("slip", "words"), [(exchanged, "exchanged"), (all_exchanged, "exchanged")])
def test_a_slip_is_named_and_mended(name: str, slip: Slip, words: str) -> None:
    sound = DEMOS[name]
    found = table_slips(slip(sound))
    assert found, "not noticed"
    assert words in found[0].what
    worst = max(
        abs(a.half_breadth - b.half_breadth) + abs(a.height - b.height)
        for a, b in zip(found[0].table.rows, sound.rows, strict=True)
    )
    assert worst < 0.2
    assert "table-slip" in {f.code for f in slip_findings(found)}


@pytest.mark.parametrize("name", DEMOS)
def test_a_station_counted_from_the_other_end_is_named(name: str) -> None:
    found = table_slips(from_the_other_end(DEMOS[name]))
    assert "counted from the other end" in found[0].what
    assert abs(min(ByLines(found[0].table).stations, key=lambda x: abs(x - station(DEMOS[name]))) - station(DEMOS[name])) < 40


def test_a_place_ten_times_too_large_is_named() -> None:
    sound = DEMOS["linnet"]
    x = station(sound)
    rows = [
        r.model_copy(update={"station": x * 10}) if r.station == x and r.label in ("keel", "wl", "sheer") else r for r in sound.rows
    ]
    found = table_slips(sound.model_copy(update={"rows": tuple(rows)}))
    assert "ten times too large" in found[0].what
    assert found[0].table.rows == sound.rows


@pytest.mark.parametrize("name", DEMOS)
def test_half_breadths_one_line_off_are_named(name: str) -> None:
    sound, x = DEMOS[name], station(DEMOS[name])
    numbers = [k for k, r in enumerate(sound.rows) if r.station == x and r.label == "wl"]
    values = [sound.rows[k].half_breadth for k in numbers]
    rows = list(sound.rows)
    for k, value in zip(numbers, values[1:], strict=False):
        rows[k] = rows[k].model_copy(update={"half_breadth": value})
    found = table_slips(sound.model_copy(update={"rows": tuple(rows)}))
    assert "shifted by one line" in found[0].what
    mended = {r.height: r.half_breadth for r in found[0].table.rows if r.station == x and r.label == "wl"}
    true = {sound.rows[k].height: sound.rows[k].half_breadth for k in numbers}
    assert all(true[z] == y for z, y in mended.items())
    assert len(mended) == len(true) - 1
