"""The traditional layout: a row for each line, a column for each station."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.exports import export_named
from hollow_keel.core.errors import InputError
from hollow_keel.core.findings import in_words
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.offsets.points_csv import parse_offsets_csv

TABLE = """# name: Try
# stem_half_siding_mm: 12
line_mm,500,1000,1500
heights,,,
keel,40,0,20
sheer,400,380,390
buttock 100,110,30,60
half-breadths,,,
sheer,240,300,280
wl 100,90,210,170
wl 200,150,270,235
wl 300,,290,
stem_bow,200:60,100:150,0:420
"""


def test_a_table_is_read_row_by_row() -> None:
    given_file = parse_offsets_csv(TABLE)
    table = given_file.table
    assert given_file.name == "Try"
    lines = read_lines(table)
    assert [s.x for s in lines.stations] == [500, 1000, 1500]
    first = [(r.label, r.half_breadth, r.height) for r in table.rows if r.station == 500]
    assert first == [("keel", 12, 40), ("wl", 90, 100), ("wl", 100, 110), ("wl", 150, 200), ("sheer", 240, 400)]
    assert lines.bow.points.tolist() == [[200, 12, 60], [100, 12, 150], [0, 12, 420]]


def test_a_diagonal_is_measured_along_itself() -> None:
    table = parse_offsets_csv(TABLE + "diagonal 400 @ 45,200,260,240\n").table
    points = [(r.half_breadth, r.height) for r in table.rows if r.station == 1000]
    assert any(p == pytest.approx((260 / 2**0.5, 400 - 260 / 2**0.5)) for p in points)


def test_other_units_counting_from_the_stern_and_decimal_commas() -> None:
    inches = parse_offsets_csv("line_in,40,20,60\nkeel height,0,1,1\nsheer height,15,15 1/2,16\nsheer half-breadth,12,10,9\n")
    assert [s.x for s in read_lines(inches.table).stations] == [508, 1016, 1524]
    eighths = parse_offsets_csv(
        "line_fie,1-0-0,2-0-0,3-0-0\nkeel height,0,0,0\nsheer height,1-3-4+,1-3-4,1-3-4\nsheer half-breadth,1-0-0,1-2-0,1-0-0\n"
    )
    assert eighths.table.rows[1].height == pytest.approx(25.4 * (15 + 4.5 / 8))
    rows = ["line_mm;500;1000;1500", "keel height;0,5;0;0", "sheer height;400;400;400", "sheer half-breadth;200;250,5;200"]
    commas = parse_offsets_csv("\r\n".join(rows))
    assert commas.table.rows[0].height == 0.5
    with pytest.raises(InputError, match="two ways"):
        parse_offsets_csv("line_mm;500;1000;1500\nkeel height;1,250;0;0\n")


@pytest.mark.parametrize(
    ("change", "word", "place"),
    [
        (("line_mm", "line"), "which unit", "row 3, column 1"),
        (("wl 200,150", "wl 200,1x0"), "", "column 2"),
        (("wl 200,150", "wl 200,-150"), "negative", "wl 200"),
        (("sheer,240,300", "sheer,240,"), "no sheer half-breadth", "station 1000"),
        (("heights,,,\n", ""), "height or a half-breadth", "row 4"),
        (("wl 100", "plank 100"), "no such line", "plank"),
        (("wl 200,150,270,235", "wl 200,150,270,235,240"), "more values", "row 11"),
        (("buttock 100,110", "buttock 100,410"), "above the sheer", "station 500"),
        (("1000,1500", "1000,1000"), "same station", "headings"),
        (("200:60", "200"), "position:height", "stem_bow"),
        (("1000,1500", ""), "three stations", "row 3"),
    ],
)
def test_faults_name_the_place(change: tuple[str, str], word: str, place: str) -> None:
    assert change[0] in TABLE
    with pytest.raises(InputError) as raised:
        parse_offsets_csv(TABLE.replace(*change, 1))
    assert word in in_words(str(raised.value))
    assert place in in_words(str(raised.value))
    assert raised.value.mend


@pytest.mark.parametrize("name", ["linnet", "pipit"])
def test_what_is_written_is_read_back_as_the_same_hull(name: str) -> None:
    results = Pipeline().results(demo_job(name))
    again = parse_offsets_csv(export_named("lines-csv").write(results).decode())
    assert again.waterline == results.shape.job.waterline
    job = results.shape.job.model_copy(update={"offsets": again.table})
    shape = Pipeline().shape(job)
    assert shape.measures.volume == pytest.approx(results.shape.measures.volume, rel=0.01)
    assert shape.measures.length == pytest.approx(results.shape.measures.length, abs=0.5)
    before, after = ({round(x, 6): g for x, g in s.hull.girths} for s in (results.shape, shape))
    assert before.keys() == after.keys()
    assert all(after[x] == pytest.approx(before[x], rel=0.01) for x in before)


@settings(max_examples=60, deadline=None)
@given(st.text(alphabet="lineswk htbu_m@,;:/\n0123456789-.", max_size=120))
def test_rubbish_never_breaks_the_reader(text: str) -> None:
    try:
        table = parse_offsets_csv("line_mm,0,500,1000\n" + text).table
    except InputError as error:
        assert str(error)
    else:
        assert np.all(np.isfinite([r.height for r in table.rows]))
