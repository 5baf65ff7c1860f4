from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hollow_keel.core.errors import InputError
from hollow_keel.core.findings import in_words
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import LABELS, EndKind, OffsetRow, OffsetsTable, read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import linnet, pipit
from tests.shapes import cone, wigley


def without(table: OffsetsTable, index: int) -> OffsetsTable:
    return OffsetsTable(rows=tuple(r for k, r in enumerate(table.rows) if k != index))


def changed(table: OffsetsTable, index: int, **fields: object) -> OffsetsTable:
    rows = list(table.rows)
    rows[index] = rows[index].model_copy(update=fields)
    return OffsetsTable(rows=tuple(rows))


def find(table: OffsetsTable, label: str, turn: int = 0) -> int:
    return [k for k, r in enumerate(table.rows) if r.label == label][turn]


def test_reads_stations_and_ends() -> None:
    lines = read_lines(linnet().offsets)
    assert lines.bow.kind is EndKind.STEM
    assert lines.stern.kind is EndKind.TRANSOM
    assert [s.x for s in lines.sections] == sorted(s.x for s in lines.sections)
    ends = read_lines(cone())
    assert ends.bow.kind is ends.stern.kind is EndKind.TRANSOM


@pytest.mark.parametrize("label", ["keel", "sheer"])
def test_missing_keel_or_sheer_is_named(label: str) -> None:
    table = wigley()
    with pytest.raises(InputError, match=f"no {label} point") as raised:
        read_lines(without(table, find(table, label, 2)))
    assert "station" in raised.value.where
    assert label in raised.value.mend


def test_stations_out_of_order() -> None:
    table = wigley()
    rows = list(table.rows)
    first, second = find(table, "keel", 1), find(table, "keel", 2)
    swapped = rows[:first] + rows[second : second + 13] + rows[first:second] + rows[second + 13 :]
    with pytest.raises(InputError, match="out of order") as raised:
        read_lines(OffsetsTable(rows=tuple(swapped)))
    assert "row" in raised.value.where


def test_negative_half_breadth_is_named_with_its_row() -> None:
    with pytest.raises(InputError, match="negative") as raised:
        read_lines(changed(wigley(), 20, half_breadth=-3.0))
    assert raised.value.where.startswith("row 21")
    assert in_words(raised.value.value) == "-3 mm"


def test_doubled_point() -> None:
    table = wigley()
    row = table.rows[20]
    with pytest.raises(InputError, match="same point"):
        read_lines(changed(table, 21, half_breadth=row.half_breadth, height=row.height))


def test_open_ends_are_said() -> None:
    table = OffsetsTable(rows=tuple(r for r in wigley().rows if not r.label.startswith("stem")))
    hull = build_hull(read_lines(table))
    assert [f.code for f in hull.findings] == ["open-end", "open-end"]
    assert len(hull.girths) == 11
    stations = [s.x for s in hull.lines.stations]
    assert stations == sorted(stations)
    assert stations == [x for x, _ in hull.girths]


def test_too_few_stations() -> None:
    with pytest.raises(InputError, match="three stations"):
        read_lines(OffsetsTable(rows=wigley().rows[:39]))


def test_empty_table() -> None:
    with pytest.raises(InputError, match="empty"):
        read_lines(OffsetsTable())


def test_chine_missing_at_one_station() -> None:
    from hollow_keel.files.offsets.points_csv import read_offsets_csv
    from tests.conftest import DATA

    table = read_offsets_csv(DATA / "single_chine.csv").table
    with pytest.raises(InputError, match="chine"):
        read_lines(changed(table, find(table, "chine", 4), label="wl"))
    with pytest.raises(InputError, match="chine"):
        read_lines(changed(table, find(table, "stem_bow_chine"), label="stem_bow"))


def test_pipit_is_read_from_feet_inches_eighths() -> None:
    shape = Pipeline().shape(pipit())
    assert shape.measures.length == pytest.approx(126 * 25.4, abs=0.5)


row = st.builds(
    OffsetRow,
    station=st.sampled_from([0.0, 300.0, 700.0, 1500.0, 2200.0]),
    label=st.sampled_from(sorted(LABELS)),
    half_breadth=st.floats(-10, 900),
    height=st.floats(-300, 900),
)


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(row, max_size=30))
def test_any_table_makes_a_hull_or_a_clear_message(rows: list[OffsetRow]) -> None:
    try:
        Pipeline().shape(Job(offsets=OffsetsTable(rows=tuple(rows))))
    except InputError as error:
        assert error.mend


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 139), st.sampled_from(["half_breadth", "height", "station"]), st.floats(-2000, 2000))
def test_one_wild_offset_never_ends_in_a_crash(index: int, field: str, by: float) -> None:
    job = linnet()
    value = getattr(job.offsets.rows[index], field) + by
    table = changed(job.offsets, index, **{field: value})
    try:
        Pipeline().shape(job.model_copy(update={"offsets": table}))
    except InputError as error:
        assert error.mend
