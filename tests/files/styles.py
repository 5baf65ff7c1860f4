"""One hull written as builders write it: the same points in a dozen habits, as text or as spreadsheets."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Sequence
from pathlib import Path

from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable

Cells = list[list[str]]
ENDS = ("stem_bow", "stem_stern", "transom")


def number(value: float, places: int = 1) -> str:
    return f"{value:.{places}f}"


def eighths(mm: float) -> str:
    """Feet-inches-eighths to the nearest sixteenth."""
    sixteenths = round(mm / 25.4 * 16)
    sign, sixteenths = ("-" if sixteenths < 0 else ""), abs(sixteenths)
    feet, rest = divmod(sixteenths, 192)
    inches, rest = divmod(rest, 16)
    return f"{sign}{feet}-{inches}-{rest // 2}" + ("+" if rest % 2 else "")


def points(table: OffsetsTable, write: Callable[[float], str] = number, head: Sequence[str] = ()) -> Cells:
    rows = [[write(r.station), r.label, write(r.half_breadth), write(r.height)] for r in table.rows]
    return [list(head or ("Station (mm)", "Point", "Half-breadth (mm)", "Height (mm)")), *rows]


def as_csv(cells: Cells, mark: str = ",") -> str:
    out = io.StringIO()
    csv.writer(out, delimiter=mark, lineterminator="\n").writerows(cells)
    return out.getvalue()


def title_rows(table: OffsetsTable) -> str:
    """Titles over the table, with commas of their own."""
    return as_csv([["Table of offsets", "", ""], ["Drawn for the yard, sheet 2 of 5"], [], *points(table)])


def short_words(table: OffsetsTable) -> str:
    """Short headings in another order, the unit in a title."""
    rows = [[r.label.upper(), number(r.height), number(r.station), number(r.half_breadth)] for r in table.rows]
    return as_csv([["All dimensions in millimetres"], ["Pt", "Ht", "Sta", "HB"], *rows])


def decimal_commas(table: OffsetsTable) -> str:
    """Metres with decimal commas, semicolons between."""
    cells = points(table, lambda v: f"{v / 1000:.4f}".replace(".", ","), ("Station [m]", "Point", "Half breadth [m]", "Height [m]"))
    return as_csv(cells, ";")


def merged(table: OffsetsTable) -> str:
    """A station is written once, for its first point; a dash where a line has no point."""
    cells = points(table)
    last = ""
    for row in cells[1:]:
        if row[1] in ("keel", "wl", "sheer", "chine"):
            row[0], last = ("" if row[0] == last else row[0]), row[0] or last
    return as_csv([*cells[:1], *(c for row in cells[1:] for c in (row, ["–", "", "-", "n/a"] if row[1] == "sheer" else None) if c)])


def from_the_stern(table: OffsetsTable) -> str:
    """Stations from the stern on, each from its sheer down."""
    stations: dict[float, list[OffsetRow]] = {}
    for row in table.rows:
        if row.label not in ENDS and not row.label.endswith("_chine"):
            stations.setdefault(row.station, []).append(row)
    rows = [row for x in sorted(stations, reverse=True) for row in reversed(stations[x])]
    ends = [r for r in table.rows if r.label in ENDS or (r.label.endswith("_chine") and r.label != "chine")]
    return as_csv(points(OffsetsTable(rows=(*rows, *ends))))


def eighths_and_mm(table: OffsetsTable) -> str:
    """Positions in millimetres, half-breadths and heights in feet-inches-eighths: rounded, so truth is the rounded table."""
    rows = [[number(r.station), r.label, eighths(r.half_breadth), eighths(r.height)] for r in table.rows]
    return as_csv([["Station mm", "Point", "Half-breadths", "Heights"], *rows], "\t")


def xlsx(table: OffsetsTable, path: Path) -> Path:
    import openpyxl

    book = openpyxl.Workbook()
    book.active.title = "Notes"
    book.active["A1"] = "Nothing of use here"
    sheet = book.create_sheet("Offsets")
    sheet.append(["Offsets of the dinghy"])
    sheet.append([])
    for k, row in enumerate(points(table)):
        sheet.append(row if k == 0 else [float(row[0]), row[1], float(row[2]), float(row[3])])
    book.save(path)
    return path


def ods(table: OffsetsTable, path: Path) -> Path:
    from odf.opendocument import OpenDocumentSpreadsheet
    from odf.table import Table, TableCell, TableRow
    from odf.text import P

    document = OpenDocumentSpreadsheet()
    sheet = Table(name="Offsets")
    for k, cells in enumerate(points(table)):
        row = TableRow()
        for j, text in enumerate(cells):
            cell = TableCell(valuetype="float", value=text) if k and j != 1 else TableCell(valuetype="string")
            cell.addElement(P(text=text))
            row.addElement(cell)
        sheet.addElement(row)
    document.spreadsheet.addElement(sheet)
    document.save(str(path))
    return path


def ragged(table: OffsetsTable) -> str:
    """Trailing cells and empty rows come and go; a remark stands past the table."""
    out = []
    for k, line in enumerate(as_csv(points(table)).splitlines()):
        out.append(line + ",," * (k % 3))
        if k % 7 == 3:
            out.append(",,,")
    out[5] += "checked"
    return "\n".join(out)


def by_lines(sections: list[tuple[float, dict[str, float]]], unit: str = "line_mm", blank: str = "") -> Cells:
    names = list(dict.fromkeys(name for _, values in sections for name in values))
    rows = [[name, *(number(v[name]) if name in v else blank for _, v in sections)] for name in names]
    return [[unit, *(number(x) for x, _ in sections)], *rows]


def two_tables(sections: list[tuple[float, dict[str, float]]]) -> str:
    """Heights and half-breadths in tables of their own, one below the other, each with its stations."""
    head, *rows = by_lines(sections, "Station")
    high = [r for r in rows if r[0].endswith(" height") or r[0].startswith("buttock")]
    wide = [r for r in rows if r not in high]

    def short(name: str) -> str:
        return name.replace(" height", "").replace(" half-breadth", "").replace("wl ", "WL ").replace("buttock ", "Butt ")

    blocks: Cells = [["LINES, dimensions in mm"], ["HEIGHTS ABOVE BASE"], head, *([short(r[0]), *r[1:]] for r in high), []]
    blocks += [["HALF-BREADTHS"], head, *([short(r[0]), *r[1:]] for r in wide)]
    return as_csv(blocks, "\t")


def traditional(sections: list[tuple[float, dict[str, float]]]) -> str:
    """Our own words for lines, with blanks as dashes, stations from the stern."""
    return as_csv(by_lines(sections[::-1], "Lines (mm)", "-"), ";")


def stations_down(sections: list[tuple[float, dict[str, float]]]) -> str:
    """A station in each row, the lines over the columns."""
    cells = by_lines(sections, "Station")
    return as_csv([["All in mm"], *[[row[k] if k < len(row) else "" for row in cells] for k in range(len(cells[0]))]])
