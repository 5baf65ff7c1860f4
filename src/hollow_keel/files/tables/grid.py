"""Cells of a table, wherever it comes from: a text file, the clipboard, a spreadsheet."""

from __future__ import annotations

import csv
from collections import Counter
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path

from ...core.errors import InputError
from ...core.offsets.table import MOST_ROWS
from ...core.words import counted
from .near_cells import without_strays
from .text_table import LARGEST_BYTES, read_text

SPREADSHEETS = frozenset({".xlsx", ".xlsm", ".xls", ".ods"})
MARKS = ("\t", ";", ",", "|")
MOST_COLUMNS = 500


@dataclass(frozen=True)
class Grid:
    """A sheet: rows of cells as text, stripped; `first` is the number of its first row, `name` the sheet's."""

    rows: tuple[tuple[str, ...], ...]
    first: int = 1
    name: str = ""

    @property
    def width(self) -> int:
        """The most cells of a row."""
        return max((len(row) for row in self.rows), default=0)

    def cell(self, row: int, column: int) -> str:
        """A cell; empty past a row's end."""
        return self.rows[row][column] if column < len(self.rows[row]) else ""

    def turned(self) -> Grid:
        """Columns as rows."""
        columns = tuple(tuple(self.cell(k, j) for k in range(len(self.rows))) for j in range(self.width))
        return Grid(columns, 1, self.name)


def grids_of(path: Path) -> list[Grid]:
    """The sheets of a file that are not empty. Raises InputError for one that cannot be read."""
    try:
        found = _sheets(path) if path.suffix.lower() in SPREADSHEETS else [grid_of_text(read_text(path))]
    except InputError as error:
        raise error.at(path.name) from None
    found = [grid for grid in found if any(any(row) for row in grid.rows)]
    if not found:
        raise InputError("this file holds no table", path.name, mend="Choose the file that holds the offsets.")
    return found


def grid_of_text(text: str) -> Grid:
    """The cells of a text: tabs, semicolons, commas or bars between them, or runs of blanks."""
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    mark = _mark_of(lines)
    # a line by itself: a stray quote spoils its own line and no other
    rows = [_cells(line, mark) if mark else tuple(line.split()) for line in lines]
    while rows and not any(rows[-1]):
        rows.pop()
    if len(rows) > MOST_ROWS or any(len(row) > MOST_COLUMNS for row in rows):
        raise InputError(
            "this is too large to be a table of offsets", value=f"{counted(len(rows), 'row')}", mend="Choose the table alone."
        )
    return Grid(tuple(rows))


def _cells(line: str, mark: str) -> tuple[str, ...]:
    try:
        cells = next(csv.reader([line], delimiter=mark), [])
    except csv.Error:
        cells = line.split(mark)
    return tuple(" ".join(cell.split()) for cell in cells)


def _mark_of(lines: list[str]) -> str | None:
    """What stands between cells: the mark that most lines have as often as each other; None for blanks."""
    best, most = None, 0
    for mark in MARKS:
        counts = Counter(n for line in lines if (n := line.count(mark)))
        score = 2 * max(counts.values(), default=0) + sum(counts.values())
        if counts and score > 1.2 * most:
            best, most = mark, score
    return best


def _sheets(path: Path) -> list[Grid]:
    from python_calamine import CalamineError, load_workbook  # not before there is a spreadsheet

    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError(
                "this file is too large to be a table of offsets",
                value=f"{path.stat().st_size / 1e6:.0f} MB",
                mend="Save the sheet with the offsets alone.",
            )
        book = load_workbook(_openable(path))
        found = []
        for name in book.sheet_names:
            sheet = book.get_sheet_by_name(name)
            if sheet.height > MOST_ROWS or sheet.width > MOST_COLUMNS:
                continue
            # not trimmed at its top: rows are numbered as the spreadsheet numbers them
            cells = sheet.to_python(skip_empty_area=False)
            rows = tuple(tuple(_text(cell) for cell in row) for row in cells)
            found.append(Grid(rows, 1, name))
        return found
    except (CalamineError, OSError, ValueError) as error:
        raise InputError(
            "this spreadsheet cannot be read", value=str(error)[:80], mend="Save it again, or as CSV, and choose that."
        ) from None


def _openable(path: Path) -> str | BytesIO:
    """What the workbook is opened from: itself, or a copy without cells that stand far off the table."""
    if path.suffix.lower() not in (".xlsx", ".xlsm"):
        return str(path)
    return without_strays(path, MOST_ROWS, MOST_COLUMNS) or str(path)


def _text(cell: object) -> str:
    """What a spreadsheet keeps as a number, with a point and without what is only the machine's rounding."""
    if isinstance(cell, bool) or cell is None:
        return ""
    if isinstance(cell, int | float):
        return f"{cell:.10g}"
    return " ".join(str(cell).split())
