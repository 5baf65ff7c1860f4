"""Tables as builders have them: a dozen habits give the clean table's very points, or ask one question first."""

from __future__ import annotations

from collections.abc import Callable
from importlib import resources
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.open_any import job_from_offsets, leaves_open
from hollow_keel.core.errors import InputError
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.units import parse_length
from hollow_keel.demo.jobs import linnet, pipit, sedge
from hollow_keel.files.offsets.points_csv import parse_offsets_csv
from hollow_keel.files.tables.grid import Grid, grid_of_text, grids_of
from hollow_keel.files.tables.numbers import Comma, comma_of, plain
from hollow_keel.files.tables.reading import all_left_out, understand
from hollow_keel.files.tables.understood import Answers, Asked, Understood
from tests.files import styles

CASES = Path(__file__).parents[1] / "data"
Point = tuple[float, str, float, float]


def tables() -> dict[str, OffsetsTable]:
    found = {"linnet": linnet().offsets, "pipit": pipit().offsets, "sedge": sedge().offsets}
    for path in sorted(CASES.glob("*.csv")):
        table = parse_offsets_csv(path.read_text()).table
        if not table.lines:
            found[path.stem] = table
    return {
        name: OffsetsTable(rows=tuple(_tenth(r) for r in table.rows), to_inside=table.to_inside) for name, table in found.items()
    }


def _tenth(row: OffsetRow) -> OffsetRow:
    return OffsetRow(
        station=round(row.station, 1), label=row.label, half_breadth=round(row.half_breadth, 1), height=round(row.height, 1)
    )


TABLES = tables()


def said(table: OffsetsTable) -> list[Point]:
    return [(r.station, r.label, r.half_breadth, r.height) for r in table.rows]


def same(found: Understood, table: OffsetsTable) -> None:
    assert found.table is not None, (found.problem, found.questions)
    got, want = said(found.table), said(table)
    assert [p[1] for p in got] == [p[1] for p in want]
    for a, b in zip(got, want, strict=True):
        assert (a[0], a[2], a[3]) == pytest.approx((b[0], b[2], b[3]), abs=1e-6)
    assert not found.problem


BY_POINTS: list[Callable[[OffsetsTable], str]] = [
    styles.title_rows,
    styles.short_words,
    styles.decimal_commas,
    styles.from_the_stern,
    styles.ragged,
]


@pytest.mark.parametrize("style", BY_POINTS, ids=lambda s: s.__name__)
@pytest.mark.parametrize("name", TABLES)
def test_points_in_many_habits_are_the_same_points(name: str, style: Callable[[OffsetsTable], str]) -> None:
    found = understand([grid_of_text(style(TABLES[name]))])
    same(found, TABLES[name])
    assert all("checked" in text for text in all_left_out(found))


@pytest.mark.parametrize("name", TABLES)
def test_a_station_written_once_is_that_of_all_its_points(name: str) -> None:
    same(understand([grid_of_text(styles.merged(TABLES[name]))]), TABLES[name])


@pytest.mark.parametrize("name", TABLES)
def test_spreadsheets_of_both_kinds(name: str, tmp_path: Path) -> None:
    for path in (styles.xlsx(TABLES[name], tmp_path / "a.xlsx"), styles.ods(TABLES[name], tmp_path / "a.ods")):
        same(understand(grids_of(path)), TABLES[name])


@pytest.mark.parametrize("name", TABLES)
def test_feet_inches_eighths_beside_millimetres(name: str) -> None:
    table = TABLES[name]
    rounded = tuple(
        r.model_copy(update={f: parse_length(styles.eighths(getattr(r, f))) for f in ("half_breadth", "height")})
        for r in table.rows
    )
    same(understand([grid_of_text(styles.eighths_and_mm(table))]), OffsetsTable(rows=rounded))


SECTIONS = {name: ByLines(table).sections() for name, table in (("linnet", linnet().offsets), ("sedge", sedge().offsets))}


@pytest.mark.parametrize("style", [styles.two_tables, styles.traditional, styles.stations_down], ids=lambda s: s.__name__)
@pytest.mark.parametrize("name", SECTIONS)
def test_the_traditional_table_in_other_habits(name: str, style: Callable[[list[tuple[float, dict[str, float]]]], str]) -> None:
    clean = parse_offsets_csv(styles.as_csv(styles.by_lines(SECTIONS[name]))).table
    found = understand([grid_of_text(style(SECTIONS[name]))])
    same(found, clean)
    assert not found.left_out


def renamed(cells: list[list[str]], names: dict[str, str], stations: bool = False) -> str:
    """A table by lines with other names for its lines, and stations that are only numbered."""
    head, *rows = cells
    if stations:
        head = [head[0], *(f"{k}" for k in range(len(head) - 1))]
    return styles.as_csv([head, *([names.get(r[0], r[0]), *r[1:]] for r in rows)])


def even() -> OffsetsTable:
    """A hull whose stations and waterlines stand at even steps."""
    rows = []
    for k in range(6):
        full = 1 - ((k - 2.5) / 4) ** 2
        rows.append(OffsetRow(station=500.0 * k, label="keel", half_breadth=0.0, height=20.0))
        rows += [
            OffsetRow(station=500.0 * k, label="wl", half_breadth=round(full * 60 * n, 1), height=100.0 * n) for n in (1, 2, 3)
        ]
        rows.append(OffsetRow(station=500.0 * k, label="sheer", half_breadth=round(full * 250, 1), height=390.0))
    return OffsetsTable(rows=tuple(rows))


EVEN = styles.by_lines(ByLines(even()).sections())


def asks(text: str, about: Asked, answer: str) -> Understood:
    """The one question that is asked, answered."""
    grid = [grid_of_text(text)]
    first = understand(grid)
    assert first.table is None
    assert [q.about for q in first.questions] == [about]
    return understand(grid, Answers({about: answer}))


@pytest.mark.parametrize("answer", ["100", "100 mm", "10 cm", "100; 200; 300", "0.1m, 0.2m, 0.3m"])
@pytest.mark.parametrize("names", ["WL1 WL2 WL3", "W.L. A, W.L. B, W.L. C", "Waterline I,Waterline II,Waterline III"])
def test_numbered_waterlines_are_asked_for(names: str, answer: str) -> None:
    own = names.replace(", ", ",").split(",") if "," in names else names.split(" ")
    text = renamed(EVEN, dict(zip(("wl 100", "wl 200", "wl 300"), own, strict=True)))
    same(asks(text, Asked.WATERLINES, answer), even())


def test_numbered_stations_are_asked_for_unless_a_title_tells_their_spacing() -> None:
    text = renamed(EVEN, {}, stations=True)
    same(asks(text, Asked.SPACING, "500"), even())
    same(understand([grid_of_text("Station spacing 50 cm\n" + text)]), even())
    assert [q.about for q in understand([grid_of_text(text)], Answers({Asked.SPACING: "far"})).questions] == [Asked.SPACING]


def test_a_row_of_positions_places_numbered_stations() -> None:
    head, *rows = EVEN
    text = styles.as_csv([["Station", *(f"Sta {k}" for k in range(6))], ["Distance from FP", *head[1:]], *rows])
    same(understand([grid_of_text("all in mm\n" + text)]), even())


def test_the_load_waterline_is_known_from_a_title_or_asked_for() -> None:
    text = renamed(EVEN, {"wl 200": "DWL"})
    same(asks(text, Asked.LOAD, "200"), even())
    found = understand([grid_of_text("DWL 200 mm above base\n" + text)])
    same(found, even())
    assert found.waterline == 200.0


def test_the_unit_is_asked_for_never_guessed() -> None:
    cells = styles.points(even(), lambda v: f"{v / 1000:.4f}", ("Station", "Point", "HB", "Ht"))
    same(asks(styles.as_csv(cells), Asked.UNIT, "m"), even())
    same(asks(renamed([["", *EVEN[0][1:]], *EVEN[1:]], {}), Asked.UNIT, "mm"), even())


def test_a_comma_that_can_be_two_things_is_asked_for() -> None:
    def write(value: float) -> str:
        return f"{value:,.0f}" if value % 1000 == 0 else f"{value:.0f}"

    table = OffsetsTable(rows=tuple(r.model_copy(update={"half_breadth": round(r.half_breadth)}) for r in even().rows))
    text = styles.as_csv(styles.points(table, write), "\t")
    assert "1,000" in text
    same(asks(text, Asked.COMMA, "thousands"), table)


@pytest.mark.parametrize("mark", [".", "’", "'"])
def test_a_point_or_mark_that_can_be_thousands_is_asked_for(mark: str) -> None:
    def written(mm: float) -> str:
        whole = f"{round(mm)}"
        return whole if len(whole) < 4 else f"{whole[:-3]}{mark}{whole[-3:]}"

    rounded = [
        r.model_copy(update={f: float(round(getattr(r, f))) for f in ("station", "half_breadth", "height")})
        for r in linnet().offsets.rows
    ]
    rows = [[written(r.station), r.label, written(r.half_breadth), written(r.height)] for r in rounded]
    text = styles.as_csv([["Station (mm)", "Point", "Half-breadth (mm)", "Height (mm)"], *rows])
    found = understand([grid_of_text(text)])
    assert [q.about for q in found.questions] == [Asked.COMMA], found.problem
    answered = understand([grid_of_text(text)], Answers({Asked.COMMA: "thousands"}))
    assert answered.table is not None, answered.problem
    assert not answered.left_out
    assert [(r.station, r.half_breadth, r.height) for r in answered.table.rows] == [
        (r.station, r.half_breadth, r.height) for r in rounded
    ]
    fine = [row if k else [*row[:3], "120.5"] for k, row in enumerate(rows)]
    text = styles.as_csv([["Station (mm)", "Point", "Half-breadth (mm)", "Height (mm)"], *fine])
    assert bool(understand([grid_of_text(text)]).questions) == (mark != "."), "one point that is a decimal settles the points"


def test_points_are_thousands_where_commas_are_decimals() -> None:
    assert plain("1.250", comma_of(["12,5", "1.250"])) == "1250"
    assert plain("1.250,5", comma_of(["1.250,5"])) == "1250.5"
    assert comma_of(["1.250", "0.500"]) is Comma.NONE, "no thousands begin with a nought"
    assert comma_of(["1.250", "2.375"], fine=True) is Comma.NONE, "thousandths of an inch or of a metre"


def test_a_zero_before_the_comma_settles_all_of_them() -> None:
    def write(value: float) -> str:
        return f"{value / 1000:.3f}".replace(".", ",")

    table = OffsetsTable(rows=tuple(r.model_copy(update={"half_breadth": round(r.half_breadth)}) for r in even().rows))
    same(understand([grid_of_text(styles.as_csv(styles.points(table, write, ("x m", "pt", "hb m", "z m")), ";"))]), table)


def test_one_bad_cell_is_one_bad_cell() -> None:
    text = styles.as_csv(styles.points(even())).replace("500.0,wl,", "500.0,wl,oops", 1)
    found = understand([grid_of_text(text)])
    assert found.table is not None
    assert len(found.table.rows) == len(even().rows) - 1
    assert [(bit.row, bit.column) for bit in found.left_out] == [(8, 3)]
    lines = styles.as_csv(EVEN).replace("wl 200,", "wl 200,?!", 1)
    found = understand([grid_of_text(lines)])
    assert found.table is not None
    assert len(found.table.rows) == len(even().rows) - 1
    assert len(found.left_out) == 1


def test_lines_without_a_place_do_not_take_the_rest_with_them() -> None:
    text = styles.as_csv([*EVEN, ["Moulded camber", *["12"] * 6], ["Diagonal A", *["300"] * 6]])
    same(asks(text, Asked.DIAGONALS, "-"), even())
    assert any("Moulded camber" in bit for bit in all_left_out(understand([grid_of_text(text)])))


def test_three_bare_columns_ask_which_is_which() -> None:
    rows = [[styles.number(r.station), styles.number(r.half_breadth), styles.number(r.height)] for r in even().rows]
    found = understand([grid_of_text(styles.as_csv(rows))])
    assert [q.about for q in found.questions] == [Asked.COLUMNS]


def test_what_is_no_table_says_so() -> None:
    for text in ("", "hello", "a,b,c\n1,2,3", "Dear builder,\nno offsets here\n", "\x00\x01"):
        found = understand([grid_of_text(text)])
        assert found.table is None
        assert "No table of offsets" in found.problem


def test_a_row_shifted_by_one_column_is_asked_for_and_put_back() -> None:
    rows = [[r[0], "", *r[1:]] if r[0] == "wl 200" else r for r in EVEN]
    same(asks(styles.as_csv(rows), Asked.SHIFTED, "back"), even())
    left = understand([grid_of_text(styles.as_csv(rows))], Answers({Asked.SHIFTED: "leave"}))
    assert left.table is not None
    assert any("no station over it" in text for text in all_left_out(left))


WORDS = (
    "Station",
    "Sta",
    "HB",
    "Ht",
    "Heights",
    "Half-breadths",
    "Diagonals",
    "Sheer",
    "Keel",
    "Chine",
    "Chine 2",
    "WL1",
    "WL 200",
    "B 1",
    "Butt II",
    "Diag A",
    "DWL",
    "Position",
    "Stem position",
    "Stem height",
    "Transom height",
    "stem_bow",
    "1:2",
    "1:2:3",
    "-",
    "n/a",
    "",
    "0",
    "1",
    "2",
    "500",
    "0,500",
    "1,000",
    "2-3-4",
    "9-99-9",
    "63.5in",
    "mm",
    "in",
    "all in mm",
    "1e400",
    "1e308",
    "-7",
    "½",
    "#a: b",
)


@settings(max_examples=250, derandomize=True, deadline=None)
@given(
    st.lists(st.lists(st.sampled_from(WORDS), max_size=7), max_size=12),
    st.dictionaries(st.sampled_from(Asked), st.sampled_from(WORDS), max_size=4),
)
def test_whatever_stands_in_a_table_it_is_read_or_said(rows: list[list[str]], said: dict[Asked, str]) -> None:
    found = understand([Grid(tuple(tuple(row) for row in rows))], Answers(said))
    assert found.table is not None or found.questions or found.problem
    assert isinstance(all_left_out(found), list)


@settings(max_examples=150, derandomize=True, deadline=None)
@given(st.text(max_size=300))
def test_any_text_is_read_or_said(text: str) -> None:
    found = understand([grid_of_text(text)])
    assert found.table is not None or found.questions or found.problem


@settings(max_examples=60, derandomize=True, deadline=None)
@given(st.data())
def test_a_sound_table_with_spoilt_cells_loses_no_more_than_those(data: st.DataObject) -> None:
    cells = [list(row) for row in styles.points(even())]
    spoilt = data.draw(st.lists(st.tuples(st.integers(1, len(cells) - 1), st.integers(2, 3)), max_size=4, unique=True))
    for row, column in spoilt:
        cells[row][column] = data.draw(st.sampled_from(["oops", "12mmm", "..5..", "1/0", "3 4 5 6", "a1"]))
    found = understand([grid_of_text(styles.as_csv(cells))])
    lost = {row for row, _ in spoilt}
    if found.table is not None:
        assert len(found.table.rows) >= len(even().rows) - len(lost)
        assert {bit.row - 1 for bit in found.left_out} <= lost


def test_only_a_table_with_a_question_opens_a_window(tmp_path: Path) -> None:
    asks_spacing = renamed(EVEN, {}, stations=True).replace("line_mm", "Sta mm")
    bad = "station_mm,label,half_breadth_mm,height_mm\n0,keel,oops,1\n"
    for name, text, wanted in (
        ("asks.csv", asks_spacing, True),
        ("sound.csv", styles.title_rows(even()), False),
        ("own.csv", bad, False),
        ("none.csv", "hello", False),
    ):
        (tmp_path / name).write_text(text)
        assert leaves_open(tmp_path / name) == wanted, name
    assert not leaves_open(tmp_path / "missing.csv")


def test_diagonals_give_points_down_their_own_plane() -> None:
    """By hand: 250 along a plane that leaves height 300 at 45° is 250/√2 out and as much down."""
    text = (
        "all in mm\nStation,0,500,1000\nHeights\nSheer,500,480,490\nKeel,20,10,15\n"
        "Half-breadths\nSheer,300,400,350\nKeel,0,0,0\nDiagonals\nDiagonal 300 @ 45,250,300,280\n"
    )
    found = understand([grid_of_text(text)])
    assert found.table is not None
    points = [(r.half_breadth, r.height) for r in found.table.rows if r.label == "wl"]
    assert points == [pytest.approx((d / 2**0.5, 300 - d / 2**0.5)) for d in (250, 300, 280)]


@pytest.mark.parametrize("cell", ["A1048576", "XFD2000", "XFD1", "ZZ9"])
def test_a_stray_cell_does_not_lose_the_sheet(cell: str, tmp_path: Path) -> None:
    """What stands a million rows down or sixteen thousand columns out is left; the sheet and the file's other parts are as they
    were."""
    import openpyxl

    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    for row in (("station", "label", "half-breadth", "height"), (0, "keel", 0, 10), (500, "keel", 0, 5)):
        sheet.append(row)
    plain = tmp_path / "plain.xlsx"
    book.save(plain)
    (wanted,) = grids_of(plain)
    sheet[cell] = "x"
    stray = tmp_path / "stray.xlsx"
    book.save(stray)
    (found,) = grids_of(stray)
    assert found == wanted


def test_a_spoilt_workbook_is_still_said(tmp_path: Path) -> None:
    spoilt = tmp_path / "spoilt.xlsx"
    spoilt.write_bytes(b"PK\x03\x04 no archive")
    with pytest.raises(InputError, match="cannot be read"):
        grids_of(spoilt)


def test_a_table_headed_as_ours_but_not_strictly_so_is_read_as_any_other(tmp_path: Path) -> None:
    """Stations written once, waterlines by their names: nothing is left out, so the command line takes it too. A cell that is wrong
    is still a fault with its place."""
    own = resources.files("hollow_keel.demo").joinpath("linnet.csv").read_text(encoding="utf-8").splitlines()
    nearly, before = [], ""
    for k, row in enumerate(own):
        cells = row.split(",")
        if len(cells) == 4 and cells[1] in ("keel", "wl", "sheer"):
            again, before = cells[0] == before, cells[0]
            cells[0] = "" if again else cells[0]
            cells[1] = {"wl": "DWL" if k % 3 == 0 else f"WL{k % 3}"}.get(cells[1], cells[1])
        nearly.append(",".join(cells))
    path = tmp_path / "nearly.csv"
    path.write_text("\n".join(nearly))
    assert job_from_offsets(path).offsets.figures == linnet().offsets.figures
    path.write_text("\n".join([*nearly[:-3], nearly[-3].replace(",", ",12x,", 1), *nearly[-2:]]))
    with pytest.raises(InputError, match="nearly"):
        job_from_offsets(path)
