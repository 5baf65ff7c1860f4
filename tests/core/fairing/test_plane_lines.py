"""Battens along waterlines, buttocks and diagonals; views that contradict each other; what fairing moved."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.batten_state import BattenState
from hollow_keel.app.habit import measured_by_lines
from hollow_keel.core.fairing.moves import moved_since
from hollow_keel.core.fairing.plane_lines import carried, plane_line, planes_of
from hollow_keel.core.fairing.views import contradictions
from hollow_keel.core.findings import Finding, Weight, mm
from hollow_keel.core.geometry.curves import LoftCurve
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.hull.slices import slice_along, slice_hull
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.table import LineKind, OffsetsTable, TableLine, read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import linnet
from tests.slips import hulls, with_offset

TABLE = linnet().offsets
PLANES = planes_of(TABLE, 175.0)


@pytest.mark.parametrize("plane", PLANES, ids=lambda p: f"{p.kind.value}{p.level:.0f}")
def test_a_plane_measures_what_the_surface_has_there(plane: TableLine) -> None:
    line = plane_line(TABLE, plane)
    assert line is not None
    cut = slice_hull(build_hull(read_lines(TABLE)), [slice_along(plane)])[0]
    if plane.kind is LineKind.WATERLINE:
        there = cut[:, 1]
    elif plane.kind is LineKind.BUTTOCK:
        there = cut[:, 2]
    else:
        there = np.hypot(cut[:, 1], plane.level - cut[:, 2])
    inside = (line.at > 950) & (line.at < 4850)
    assert np.allclose(np.interp(line.at[inside], cut[:, 0], there), line.values[inside], atol=1.5)


@pytest.mark.parametrize("plane", PLANES[::2], ids=lambda p: f"{p.kind.value}{p.level:.0f}")
@pytest.mark.parametrize("by", [-9.0, 6.0])
def test_a_station_is_carried_by_the_smallest_moves(plane: TableLine, by: float) -> None:
    line = plane_line(TABLE, plane)
    assert line is not None
    k = len(line.at) // 2
    x = float(line.at[k])
    made = carried(TABLE, plane, x, float(line.values[k]) + by, 0.01)
    after = plane_line(made, plane)
    assert after is not None
    assert after.values[k] == pytest.approx(line.values[k] + by, abs=0.05)
    moves = moved_since(TABLE, made)
    assert moves
    assert {m.after.station for m in moves} == {x}
    assert "keel" not in {m.after.label for m in moves}
    assert moves[0].by <= abs(by) * 1.6
    assert moves[0].by == max(m.by for m in moves)


def test_a_batten_along_a_diagonal_is_accepted_as_one_table() -> None:
    plane = next(p for p in PLANES if p.kind is LineKind.DIAGONAL)
    line = plane_line(TABLE, plane)
    assert line is not None
    batten = BattenState(line)
    batten.drag(4, float(line.values[4]) + 8.0)
    batten.toggle(7)
    made = batten.accepted(TABLE, 0.5)
    after = plane_line(made, plane)
    assert after is not None
    assert np.allclose(after.values, line.values + batten.moves(0.5), atol=0.6)
    read_lines(made)


def test_the_tables_own_lines_are_the_ones_offered() -> None:
    table = measured_by_lines(Pipeline().shape(linnet()))
    offered = planes_of(table, 175.0)
    assert set(table.lines) <= set(offered)
    assert TableLine(kind=LineKind.WATERLINE, level=175.0) in offered
    assert sum(p.kind is LineKind.DIAGONAL for p in offered) == 3
    assert planes_of(OffsetsTable(), 100.0) == ()


def test_views_that_contradict_each_other_are_named_and_clean_tables_are_not() -> None:
    for table in hulls().values():
        assert contradictions(table, build_hull(read_lines(table))) == ()
    table = measured_by_lines(Pipeline().shape(linnet()))
    assert contradictions(table, build_hull(read_lines(table))) == ()
    read = ByLines(table)
    wl = next(line for line in read.lines if line.name == "wl 300")
    value = read.value(wl, 2500.0)
    assert value is not None
    wrong = read.with_value(wl, 2500.0, value + 60.0)
    found = [f.said() for f in contradictions(wrong, build_hull(read_lines(wrong)))]
    assert {f.code for f in found} == {"crossing", "views-disagree"}
    assert all(f.where == "station 2500 mm" for f in found)


def test_lengths_in_findings_are_written_as_the_builder_reads_them() -> None:
    found = Finding("x", Weight.LOOK, "fairing", f"station {mm(609.6)}", f"off by {mm(25.4)} here")
    assert found.said().text == "off by 25.4 mm here"
    in_feet = found.said(lambda v: f"{v / 304.8:g} ft")
    assert (in_feet.where, in_feet.text) == ("station 2 ft", "off by 0.0833333 ft here")


def test_moves_of_other_tables_are_not_compared() -> None:
    assert moved_since(TABLE, TABLE) == ()
    assert moved_since(TABLE, TABLE.model_copy(update={"rows": TABLE.rows[:-1]})) is None
    one = with_offset(TABLE, 40, "height", TABLE.rows[40].height - 3.0)
    moves = moved_since(TABLE, one)
    assert moves is not None
    assert [(m.row, m.by) for m in moves] == [(40, 3.0)]


@given(st.lists(st.tuples(st.floats(-50, 50), st.floats(1, 60)), min_size=4, max_size=9), st.floats(-200, 200))
@settings(max_examples=80, deadline=None)
def test_a_curve_is_crossed_where_it_first_takes_a_value(steps: list[tuple[float, float]], value: float) -> None:
    points = np.cumsum([(0.0, 0.0, 0.0), *((0.0, a, b) for a, b in steps)], axis=0)
    curve = LoftCurve(points)
    dense = curve.at_fractions(np.linspace(0, 1, 4001))[:, 1]
    share = curve.fraction_where(1, value)
    if share is None:
        assert dense.min() > value - 0.05 or dense.max() < value + 0.05
    else:
        assert curve.at_fractions(np.array([share]))[0, 1] == pytest.approx(value, abs=1e-3)
        before = dense[: int(share * 4000)]
        assert len(before) == 0 or before.min() > value - 0.05 or before.max() < value + 0.05
