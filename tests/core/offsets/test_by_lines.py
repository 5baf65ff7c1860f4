"""The traditional reading of a table: found again by lines, edited by cells, the points following."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.habit import measured_by_lines
from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.hull.restation import with_station
from hollow_keel.core.offsets.by_lines import ByLines, LineRow, parse_plane, with_line, without_line
from hollow_keel.core.offsets.table import END_LABELS, LineKind, OffsetsTable, TableLine, read_lines
from hollow_keel.core.offsets.transform import raised, scaled
from hollow_keel.core.offsets.written import rewritten, with_unit, written
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.units import LengthUnit, parse_length
from hollow_keel.demo.jobs import linnet, pipit


@pytest.fixture(scope="module")
def table() -> OffsetsTable:
    return measured_by_lines(Pipeline().shape(linnet()))


def line(read: ByLines, name: str) -> LineRow:
    return next(own for own in read.lines if own.name == name)


def test_every_point_of_a_measured_table_lies_on_a_line(table: OffsetsTable) -> None:
    read = ByLines(table)
    assert {table.rows[k].label for k in read.unseen} == {"stem_bow", "transom"}, "only the ends are not"
    assert len(read.unseen) == sum(row.label in END_LABELS for row in table.rows)
    names = [own.name for own in read.lines]
    assert names[0] == "keel height"
    assert names[-1] == "sheer half-breadth"
    assert {"wl 300", "buttock 400"} <= set(names)
    at = read.stations[6]
    cells = [read.value(own, at) for own in read.lines]
    assert sum(c is not None for c in cells) == len(read.rows_of[at]) + 2  # keel and sheer give two each


def test_a_cell_moves_its_point_and_nothing_else(table: OffsetsTable) -> None:
    read = ByLines(table)
    wl, x = line(read, "wl 300"), read.stations[5]
    value = read.value(wl, x)
    assert value is not None
    changed = ByLines(read.with_value(wl, x, value + 7.0, "473 mm"))
    assert changed.value(wl, x) == pytest.approx(value + 7.0)
    differing = [(own, at) for own in read.lines for at in read.stations if read.value(own, at) != changed.value(own, at)]
    assert differing == [(wl, x)]


def test_an_emptied_cell_takes_its_point_out_and_a_written_one_puts_it_where_it_belongs(table: OffsetsTable) -> None:
    read = ByLines(table)
    for name in ("wl 200", "buttock 200", "wl 500"):
        own, x = line(read, name), read.stations[7]
        value = read.value(own, x)
        emptied = ByLines(read.with_value(own, x, None).model_copy(update={"lines": table.lines}))
        assert emptied.value(own, x) is None
        assert len(emptied.table.rows) == len(table.rows) - 1
        back = emptied.with_value(own, x, value)
        assert [(r.half_breadth, r.height) for r in back.rows] == [(r.half_breadth, r.height) for r in table.rows]


def test_keel_and_sheer_cannot_be_emptied_nor_taken_out(table: OffsetsTable) -> None:
    read = ByLines(table)
    with pytest.raises(InputError, match="every station needs its sheer"):
        read.with_value(line(read, "sheer height"), read.stations[0], None)
    with pytest.raises(InputError, match="cannot be taken out"):
        without_line(table, line(read, "keel height"))
    with pytest.raises(InputError, match="negative"):
        read.with_value(line(read, "wl 300"), read.stations[5], -1.0)


def test_a_line_taken_out_takes_its_own_points(table: OffsetsTable) -> None:
    read = ByLines(table)
    wl = line(read, "wl 400")
    count = sum(read.value(wl, x) is not None for x in read.stations)
    left = without_line(table, wl)
    assert len(left.rows) == len(table.rows) - count
    assert wl.name not in [own.name for own in ByLines(left).lines]


@given(level=st.floats(-500, 900), angle=st.floats(1, 89), out=st.floats(0, 900))
@settings(max_examples=60, deadline=None)
def test_a_value_on_a_diagonal_is_read_back(level: float, angle: float, out: float) -> None:
    row = LineRow("along", plane=TableLine(kind=LineKind.DIAGONAL, level=level, angle=angle))
    y, z = row.point(out)
    assert math.hypot(y, z - level) == pytest.approx(out, abs=1e-9)
    base = ByLines(OffsetsTable()).table
    assert base.rows == ()
    from hollow_keel.core.offsets.table import OffsetRow

    point = OffsetRow(station=0, label="wl", half_breadth=y, height=z)
    assert row.holds(point)
    assert row.value(point) == pytest.approx(out, abs=1e-6)


@pytest.mark.parametrize(
    ("text", "kind", "level", "angle"),
    [
        ("wl 250", LineKind.WATERLINE, 250.0, 0.0),
        ("Waterline 10in", LineKind.WATERLINE, 254.0, 0.0),
        ("buttock 0-6-0", LineKind.BUTTOCK, 152.4, 0.0),
        ("diag 400 @ 40°", LineKind.DIAGONAL, 400.0, 40.0),
    ],
)
def test_lines_are_named_as_a_builder_names_them(text: str, kind: LineKind, level: float, angle: float) -> None:
    plane = parse_plane(text, parse_length)
    assert (plane.kind, plane.angle) == (kind, angle)
    assert plane.level == pytest.approx(level)


@pytest.mark.parametrize("text", ["", "sheer", "wl", "wl x", "diagonal 400", "diagonal 400 @ 95", "buttock 0"])
def test_what_is_no_line_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        parse_plane(text, parse_length)


def test_a_line_is_added_once(table: OffsetsTable) -> None:
    plane = TableLine(kind=LineKind.WATERLINE, level=333.0)
    more = with_line(table, plane)
    assert "wl 333" in [own.name for own in ByLines(more).lines]
    with pytest.raises(InputError, match="already"):
        with_line(more, plane)


def test_a_new_station_is_measured_on_the_tables_own_lines(table: OffsetsTable) -> None:
    hull = build_hull(read_lines(table))
    more = with_station(table, hull, 2300.0)
    read = ByLines(more)
    assert 2300.0 in read.stations
    before, after = read.stations[6], read.stations[8]
    for own in read.lines:
        a, mid, b = (read.value(own, x) for x in (before, 2300.0, after))
        if a is not None and b is not None:
            assert mid is not None
            assert min(a, b) - 3 < mid < max(a, b) + 8
    again = build_hull(read_lines(more))
    u, v = np.meshgrid(np.linspace(0.3, 0.7, 9), np.linspace(0.2, 0.8, 5))
    old, new = hull.panels[0].surface.points(u, v), again.panels[0].surface.points(u, v)
    assert np.abs(old - new)[..., 1:].max() < 2.0
    with pytest.raises(InputError, match="station here already"):
        with_station(more, again, 2300.0)
    with pytest.raises(InputError, match="beyond the hull"):
        with_station(table, hull, 9000.0)


def test_lines_follow_when_the_table_is_scaled_or_raised(table: OffsetsTable) -> None:
    ends = ByLines(table).unseen
    assert ByLines(scaled(table, 1.2, 1.1, 0.9)).unseen == ends
    assert ByLines(raised(table, 55.0)).unseen == ends


def test_what_was_written_is_kept_until_the_value_changes() -> None:
    row = pipit().offsets.rows[0]
    assert written(row, "height") == "0-2-5"
    moved = row.model_copy(update={"height": row.height + 1.0})
    assert written(moved, "height") == ""
    typed = rewritten(row, "height", parse_length("2-3-4+"), with_unit("2-3-4+", LengthUnit.MM))
    assert written(typed, "height") == "2-3-4+"
    assert with_unit("27.5", LengthUnit.INCH) == "27.5 in"
    assert with_unit("27.5", LengthUnit.MM) == ""
    assert parse_length(with_unit("2.5", None)) == pytest.approx(762.0)
