"""A table typed from nothing: an empty sheet in either habit, filled cell by cell, is read as the hull it says."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_keel.app.typed import sheet_in
from hollow_keel.core.hull.stages import MEASURES
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.typed_sheet import Ending, TypedSheet, Wanted, empty_sheet
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.units import LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.lines.typed_so_far import body_so_far, profile_so_far
from hollow_keel.drawing.model import Layer
from hollow_keel.files.tables.grid import Grid
from hollow_keel.files.tables.reading import understand
from hollow_keel.files.tables.understood import Understood

LINNET = linnet().offsets
WANTED = Wanted(ByLines(LINNET).stations, bow=Ending.STEM, stern=Ending.TRANSOM)


def read(sheet: TypedSheet) -> Understood:
    return understand([Grid(sheet.cells)])


def filled(sheet: TypedSheet) -> TypedSheet:
    """Linnet's keel, sheer and ends typed into a sheet by lines."""
    lines = ByLines(LINNET)
    ends = {label: [r for r in LINNET.rows if r.label == label] for label in ("stem_bow", "transom")}
    section, typed = "", []
    for k, row in enumerate(sheet.cells):
        name = row[0].lower() if row else ""
        if name in ("heights", "half-breadths"):
            section = {"heights": "height", "half-breadths": "half_breadth"}[name]
        elif name in ("sheer", "keel"):
            line = next(own for own in lines.lines if own.edge == name and own.field == section)
            typed += [(k, j + 1, f"{lines.value(line, x):g}") for j, x in enumerate(lines.stations)]
        for label, start in (("stem_bow", "stem bow"), ("transom", "transom")):
            if name.startswith(start):
                what = name.rpartition(" ")[2].replace("-", "_").replace("position", "station")
                typed += [(k, j + 1, f"{getattr(r, what):g}") for j, r in enumerate(ends[label])]
        if name.startswith("half-siding"):
            typed.append((k, 1, "14"))
    return sheet.with_cells(typed)


def test_an_empty_sheet_is_no_hull_and_no_fault() -> None:
    for by_lines in (True, False):
        wanted = Wanted((0.0, 500.0, 1000.0), (100.0,), (150.0,), ((400.0, 40.0),), 1, by_lines=by_lines)
        found = read(empty_sheet(wanted, "mm", lambda v: f"{v:g}"))
        assert found.table is None
        assert not found.questions
        assert not found.left_out


def test_typed_by_lines_it_is_the_hull_with_its_ends() -> None:
    sheet = filled(empty_sheet(WANTED, "mm", lambda v: f"{v:g}"))
    found = read(sheet)
    assert found.table is not None
    assert not found.left_out
    assert not found.problem
    rows = [r for r in LINNET.rows if r.label in ("keel", "sheer", "stem_bow", "transom")]
    assert [r.label for r in found.table.rows] == [r.label for r in rows]
    for a, b in zip(found.table.rows, rows, strict=True):
        assert (a.station, a.half_breadth, a.height) == pytest.approx((b.station, b.half_breadth, b.height))


def test_the_hull_appears_with_the_third_station() -> None:
    sheet = empty_sheet(Wanted((0.0, 500.0, 1000.0, 1500.0), bow=Ending.OPEN, stern=Ending.OPEN), "mm", lambda v: f"{v:g}")
    names = [row[0] if row else "" for row in sheet.cells]
    high, wide = names.index("Heights"), names.index("Half-breadths")
    for column in range(1, 5):
        found = read(sheet)
        if column > 1:
            assert (found.problem == "") == (column > 3), found.problem
            assert "three stations" in found.problem or column > 3
        for row, name in enumerate(names):
            if name == "Sheer":
                sheet = sheet.with_cells([(row, column, "400" if row < wide else "300")])
            elif name == "Keel":
                sheet = sheet.with_cells([(row, column, "20" if row < wide else "0")])
    assert high < wide
    assert read(sheet).table is not None


def test_headings_can_be_typed_over_and_stations_put_outside_the_ends() -> None:
    sheet = filled(empty_sheet(WANTED, "mm", lambda v: f"{v:g}"))
    wide = len(sheet.cells[0])
    sheet = sheet.with_cells([(0, wide, "5200")])
    for k, row in enumerate(sheet.cells):
        if row and row[0] in ("Keel", "Sheer") and row[-1]:
            sheet = sheet.with_cells([(k, wide, row[-1])])
    found = read(sheet)
    assert found.table is not None
    assert max(r.station for r in found.table.rows if r.label == "keel") == 5200.0
    moved = read(sheet.with_cells([(0, wide, "5150")]))
    assert moved.table is not None
    assert max(r.station for r in moved.table.rows if r.label == "keel") == 5150.0


def test_feet_inches_eighths_are_typed_in_a_sheet_that_says_so() -> None:
    sheet = TypedSheet(
        cells=(
            ("Station (feet-inches-eighths)", "0-0-0", "2-0-0", "4-0-0"),
            ("Heights",),
            ("Sheer", "1-6-0", "1-5-4", "1-6-2+"),
            ("Keel", "0-2-0", "0-1-0", "0-1-4"),
            ("Half-breadths",),
            ("Sheer", "0-9-0", "1-4-0", "1-2-0"),
            ("Keel", "0-0-4", "0-0-4", "0-0-4"),
        )
    )
    found = read(sheet)
    assert found.table is not None
    sheer = [(r.station, r.half_breadth, r.height) for r in found.table.rows if r.label == "sheer"]
    assert sheer[2] == pytest.approx((4 * 304.8, 14 * 25.4, (18 + 2 / 8 + 1 / 16) * 25.4))
    assert Pipeline().value(Job(offsets=found.table), MEASURES).length == pytest.approx(4 * 304.8)


def test_cells_and_rows_of_a_sheet() -> None:
    sheet = TypedSheet(cells=(("a",),)).with_cells([(2, 3, "  x  y ")])
    assert sheet.cells == (("a",), (), ("", "", "", "x y"))
    assert sheet.cell(2, 3) == "x y"
    assert sheet.cell(9, 9) == ""
    assert sheet.with_row(1).cells[1] == ()
    assert sheet.without_rows({0, 1}).cells == (("", "", "", "x y"),)
    assert sheet.width == 4


UNITS = {
    LengthUnit.MM: "mm",
    LengthUnit.M: "m",
    LengthUnit.INCH: "in",
    LengthUnit.FEET_INCH_FRACTION: "in",
    LengthUnit.FEET_INCH_EIGHTHS: "feet-inches-eighths",
}


@pytest.mark.parametrize("now", [unit for unit in UNITS if unit is not LengthUnit.MM])
def test_headings_follow_the_unit_and_nothing_typed_means_anything_else(now: LengthUnit) -> None:
    wanted = replace(WANTED, waterlines=(101.6, 200.0), buttocks=(150.0,), diagonals=((406.4, 40.0),))
    sheet = filled(empty_sheet(wanted, "mm", lambda v: f"{v:g}"))
    for row in (4, 13, 14):  # a buttock and two waterlines: a fraction, an inch, an own unit
        sheet = sheet.with_cells([(row, 6, "254"), (row, 7, "10 1/2 in"), (row, 8, "300")])
    there = sheet_in(sheet, LengthUnit.MM, now)
    assert there.cell(0, 0) == f"Station ({UNITS[now]})"
    before, after = read(sheet), read(there)
    assert before.table is not None
    assert after.table is not None, after.problem
    assert [bit.why for bit in after.left_out] == [bit.why for bit in before.left_out]
    assert len(after.table.rows) == len(before.table.rows)
    for a, b in zip(after.table.rows, before.table.rows, strict=True):
        assert a.label == b.label
        assert (a.station, a.half_breadth, a.height) == pytest.approx((b.station, b.half_breadth, b.height), abs=1e-5)
    assert after.table.lines == pytest.approx(before.table.lines) or [line.level for line in after.table.lines] == pytest.approx(
        [line.level for line in before.table.lines], abs=1e-5
    )
    if now is LengthUnit.INCH:
        assert there.cell(4, 6) == "10", "exact in the other unit: written in it"
        assert there.cell(4, 8) == "300 mm", "what cannot be said in it keeps its digits"
        assert "Waterline 4" in [row[0] for row in there.cells if row]
    back = sheet_in(there, now, LengthUnit.MM)
    if now in (LengthUnit.M, LengthUnit.INCH):
        own = "10 1/2 in" if now is LengthUnit.M else "266.7"
        assert back == sheet.with_cells([(row, 7, own) for row in (4, 13, 14)]), "there and back nothing has changed"
    assert sheet_in(sheet, LengthUnit.INCH, LengthUnit.MM) is sheet, "it was headed in neither"


def test_what_is_typed_can_be_seen_before_there_is_a_hull() -> None:
    sheet = empty_sheet(Wanted((0.0, 500.0, 1000.0), (150.0,)), "mm", lambda v: f"{v:g}")
    names = [row[0] if row else "" for row in sheet.cells]
    sheet = sheet.with_cells([(names.index("Sheer"), 1, "400"), (names.index("Sheer"), 2, "390")])
    assert read(sheet).table is None
    dots = read(sheet).dots
    assert [(d.line, d.station, d.half_breadth, d.height) for d in dots] == [
        ("sheer", 0.0, None, 400.0),
        ("sheer", 500.0, None, 390.0),
    ]
    sheer = next(s for s in profile_so_far(dots).strokes if s.layer is Layer.HULL)
    assert sheer.points.tolist() == [[0.0, 400.0], [500.0, 390.0]]
    assert not body_so_far(dots).strokes, "no point has both offsets yet"
    low = len(names) - 1 - names[::-1].index("Sheer")
    sheet = sheet.with_cells([(low, 1, "300"), (names.index("Keel"), 1, "20"), (names.index("Waterline 150"), 1, "220")])
    section = body_so_far(read(sheet).dots).strokes[0]
    assert section.points.tolist() == [[0.0, 20.0], [220.0, 150.0], [300.0, 400.0]]


def test_points_show_too_while_they_are_typed() -> None:
    sheet = empty_sheet(Wanted((0.0, 500.0, 1000.0), (150.0,), by_lines=False, bow=Ending.OPEN), "mm", lambda v: f"{v:g}")
    row = next(k for k, cells in enumerate(sheet.cells) if cells[1] == "wl")
    assert [(d.line, d.half_breadth, d.height) for d in read(sheet.with_cells([(row, 2, "220")])).dots if d.half_breadth] == [
        ("wl", 220.0, 150.0)
    ]
