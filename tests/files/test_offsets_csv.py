from __future__ import annotations

import os
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.core.errors import InputError
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.files.offsets.points_csv import parse_offsets_csv, read_offsets_csv, write_offsets_csv

HEAD = "station_mm,label,half_breadth_mm,height_mm\n"


def test_written_tables_are_read_back_the_same() -> None:
    for job in (linnet(), pipit()):
        back = parse_offsets_csv(write_offsets_csv(job.offsets, job.name, job.waterline))
        assert [{**r.model_dump(), "written": {}} for r in back.table.rows] == [
            {**r.model_dump(), "written": {}} for r in job.offsets.rows
        ]
        assert (back.name, back.waterline) == (job.name, job.waterline)


@pytest.mark.parametrize(
    ("head", "row", "mm"),
    [
        ("station_m,label,half_breadth_mm,height_in", "1.5,wl,12,10", (1500, 12, 254)),
        ("station_ft,label,half_breadth_fie,height_in", "2.5,wl,0-10-4+,10 1/2", (762, 10.5625 * 25.4, 266.7)),
        ("station_in,label,half_breadth_in,height_in", "12,wl,3/4,1 m", (304.8, 19.05, 1000)),
        ("label,height_mm,half_breadth_mm,station_mm,note", "wl,3,2,1,as drawn", (1, 2, 3)),
    ],
)
def test_units_of_columns(head: str, row: str, mm: tuple[float, float, float]) -> None:
    first = parse_offsets_csv(f"{head}\n{row}\n").table.rows[0]
    assert (first.station, first.half_breadth, first.height) == pytest.approx(mm)


def test_comments_carry_settings() -> None:
    text = (
        "# name: Wren\n# offsets-to: inside (of the planking)\n# waterline_mm: 250\n# stem_half_siding_mm: 12\n"
        + HEAD
        + "0,keel,0,0\n"
    )
    given = parse_offsets_csv(text)
    assert (given.name, given.waterline, given.stem_half_siding) == ("Wren", 250.0, 12.0)
    assert given.table.to_inside


def test_byte_order_mark_and_windows_lines(tmp_path: Path) -> None:
    path = tmp_path / "t.csv"
    path.write_bytes(b"\xef\xbb\xbf" + (HEAD + "0,keel,0,0\n").replace("\n", "\r\n").encode())
    assert len(read_offsets_csv(path).table.rows) == 1


@pytest.mark.parametrize(
    ("text", "place", "word"),
    [
        (HEAD + "100,wl,12,x7\n", "row 2, column height", "cannot be read"),
        (HEAD + "100,wl,nan,7\n", "row 2, column half_breadth", "cannot be read"),
        (HEAD + "100,keel,-4,7\n", "row 2, column half_breadth", "negative"),
        (HEAD + "100,bulwark,4,7\n", "row 2, column label", "no such label"),
        (HEAD + "100,wl,4\n", "row 2", "too few"),
        (HEAD, "", "no offsets"),
        ("# only a comment\n", "", "no column headings"),
        ("station_mm,label,half_breadth_mm\n", "row 1", "height is missing"),
        ("station_yd,label,half_breadth_mm,height_mm\n", "row 1, column 1", "no unit"),
        (HEAD + '100,"wl,4,7\n', "row 2", "comma-separated"),
        (HEAD + "100,wl,1,234,7\n", "", ""),
        ("# offsets-to: somewhere\n" + HEAD + "0,keel,0,0\n", "comments", "outside nor inside"),
        ("# waterline_mm: high\n" + HEAD + "0,keel,0,0\n", "waterline_mm", "cannot be read"),
    ],
)
def test_faults_name_the_place_and_the_mend(text: str, place: str, word: str) -> None:
    if not word:
        assert parse_offsets_csv(text).table.rows[0].height == 234  # a fifth column is not ours
        return
    with pytest.raises(InputError, match=word) as raised:
        parse_offsets_csv(text)
    assert place in raised.value.where
    assert raised.value.mend


@pytest.mark.parametrize(
    ("data", "word"),
    [(b"", "empty"), (b" \n\n", "empty"), (b"\x00\x01\x02PNG", "not a text file"), (b"station_mm,label\n\xff\xfe", "UTF-8")],
)
def test_files_that_are_no_tables(tmp_path: Path, data: bytes, word: str) -> None:
    path = tmp_path / "bad.csv"
    path.write_bytes(data)
    with pytest.raises(InputError, match=word) as raised:
        read_offsets_csv(path)
    assert raised.value.where.startswith("bad.csv")


def test_huge_file_is_refused_at_once(tmp_path: Path) -> None:
    path = tmp_path / "huge.csv"
    with path.open("wb") as file:
        os.truncate(file.fileno(), 100_000_000)
    with pytest.raises(InputError, match="too large"):
        read_offsets_csv(path)


def test_missing_file_and_folder(tmp_path: Path) -> None:
    for path in (tmp_path / "none.csv", tmp_path):
        with pytest.raises(InputError, match="cannot be read"):
            read_offsets_csv(path)


@settings(max_examples=300, deadline=None)
@given(st.text(max_size=200) | st.text(alphabet="0123456789,.-+'\"/ \nabcklwesh#:", max_size=300).map(lambda t: HEAD + t))
def test_any_text_is_read_or_refused_with_a_mend(text: str) -> None:
    try:
        assert parse_offsets_csv(text).table.rows
    except InputError as error:
        assert error.mend


def test_what_was_written_in_another_unit_stays_as_it_was_written() -> None:
    text = (
        "station_mm,label,half_breadth_fie,height_in\n"
        "0,keel,0-0-4,1.5\n0,sheer,1-3-2+,17 3/4\n500,keel,0-0-4,1.25\n500,sheer,1-5-0,16.5\n"
        '1000,keel,0-0-4,1.5\n1000,sheer,"1\' 4 1/2""",17\n'
    )
    table = parse_offsets_csv(text).table
    out = write_offsets_csv(table)
    assert "1-3-2+" in out
    assert "17 3/4" in out
    back = parse_offsets_csv(out).table
    assert back.figures == table.figures
    assert [row.written["half_breadth"] for row in back.rows] == [row.written["half_breadth"] for row in table.rows]
