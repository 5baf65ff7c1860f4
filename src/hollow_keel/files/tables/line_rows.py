"""The rows of a table by lines: which lines they are, which cells stand under which station."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

from ...core.offsets.typed_sheet import Dot
from .grid import Grid
from .numbers import FACTORS, Comma, Lengths, is_blank, is_number, unit_in
from .understood import Asked, LeftOut, Question
from .words import ENDS, Line, Named, is_station_word, line_of, section_of

FIELDS = {Line.WATERLINE: "half-breadth", Line.BUTTOCK: "height", Line.DIAGONAL: "diagonal"}


@dataclass
class Row:
    """A line of the table: the number of its row, its name, whether its values are heights or half-breadths, its cells by the name
    of their station."""

    number: int
    name: Named
    which: str
    cells: dict[str, tuple[int, str]]


@dataclass
class LinesRead:
    """The rows as they stand, and what became of them."""

    rows: list[Row] = field(default_factory=list)
    stations: list[str] = field(default_factory=list)
    left_out: list[LeftOut] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    dots: list[Dot] = field(default_factory=list)
    """Every point that something is said of, whole or not."""


def read_rows(grid: Grid, headings: list[int], shifted: str = "") -> LinesRead:
    """The lines of the blocks that begin at rows of headings (from 0). Rows whose first station is blank and that run past the last
    one are put `back` one column, or left where they are; as long as nobody said which, that is asked."""
    read = LinesRead()
    grid = _put_back(grid, headings, shifted, read)
    for head, stop in _blocks(grid, headings):
        names = _station_names(grid.rows[head])
        for name in names.values():
            if name not in read.stations:
                read.stations.append(name)
        section = section_of(grid.rows[head][0]) or (section_of(" ".join(grid.rows[head - 1])) if head else "")
        for k in range(head + 1, stop):
            section = _row(grid, k, names, section, read)
    return read


def _put_back(grid: Grid, headings: list[int], said: str, read: LinesRead) -> Grid:
    rows = list(grid.rows)
    found = []
    for head, stop in _blocks(grid, headings):
        columns = list(_station_names(rows[head]))
        first, past = min(columns), max(columns) + 1
        for k in range(head + 1, stop):
            blank = is_blank(grid.cell(k, first))
            if blank and is_number(grid.cell(k, past)) and line_of(grid.cell(k, 0)) is not None:
                found.append(k)
                if said == "back":
                    rows[k] = (*rows[k][:first], *rows[k][first + 1 :])
    if found and not said:
        names = ", ".join(f"{grid.first + k} ({grid.cell(k, 0)})" for k in found[:3])
        text = f"Row {names}: its first station is blank, and it runs past the last one. Is it shifted by one column?"
        choices = {"back": "yes: put it one column back", "leave": "no: leave it as it is"}
        read.questions.append(Question(Asked.SHIFTED, text, choices))
    return replace(grid, rows=tuple(rows))


def _blocks(grid: Grid, headings: list[int]) -> Iterator[tuple[int, int]]:
    """Each row of headings, and where its block ends."""
    return zip(headings, [*headings[1:], len(grid.rows)], strict=True)


def _station_names(cells: tuple[str, ...]) -> dict[int, str]:
    """The names of the stations by their columns."""
    return {k: cell for k, cell in enumerate(cells) if k and not is_blank(cell) and section_of(cell) == ""}


def _row(grid: Grid, k: int, names: dict[int, str], section: str, read: LinesRead) -> str:
    """Read a row; the section that the rows below it are in."""
    cells, number = grid.rows[k], grid.first + k
    if not any(cells):
        return section
    values = {j: cell for j, cell in enumerate(cells) if j and not is_blank(cell)}
    if not values:
        return section_of(cells[0]) or section
    name = line_of(cells[0], section)
    if name is None:
        if any(is_number(cell) for cell in values.values()):
            read.left_out.append(LeftOut(number, 1, cells[0], "no line is known by this name: the row is left out"))
        return section
    which = name.field or FIELDS.get(name.line, section)
    if name.line in (Line.KEEL, Line.SHEER, Line.CHINE) and which not in ("height", "half-breadth"):
        read.left_out.append(LeftOut(number, 1, cells[0], "heights or half-breadths? the row is left out"))
        return section
    row = Row(number, name, which, {names[j]: (j, cell) for j, cell in values.items() if j in names})
    if name.line in (*ENDS, Line.SIDING):
        row.cells = {str(j): (j, cell) for j, cell in values.items()}
    else:
        for j, cell in values.items():
            if j not in names:
                read.left_out.append(LeftOut(number, j + 1, cell, "there is no station over it"))
    read.rows.append(row)
    return section


def is_heading_of_lines(cells: tuple[str, ...]) -> bool:
    """Whether a row heads stations: three numbers or names of stations or more, after a cell that is blank or names no line."""
    rest = [cell for cell in cells[1:] if not is_blank(cell)]
    if len(rest) < 3:
        return False
    first = cells[0].strip()
    named = is_station_word(first) or first.lower().split("_")[0] in ("line", "lines") or section_of(first) != ""
    if not named and line_of(first) is not None:
        return False
    stations = [cell for cell in rest if is_number(cell) or station_number(cell) is not None]
    if len(stations) < 3 or len(stations) < 0.7 * len(rest) or (not named and is_number(first)):
        return False
    unit = unit_in(first) or "mm"
    places = [place for cell in stations if (place := _rough(cell, unit)) is not None]
    steps = [b - a for a, b in zip(places[:-1], places[1:], strict=True)]
    return all(step > 0 for step in steps) or all(step < 0 for step in steps)


def _rough(cell: str, unit: str) -> float | None:
    """Where a station stands, as good as its name tells; bare numbers in whatever unit the heading names."""
    count = station_number(cell)
    if count is not None:
        return count * FACTORS.get(unit, 25.4)
    length = Lengths(unit, Comma.DECIMAL if cell.count(",") == 1 else Comma.NONE).maybe(place_in(cell))
    return None if length is None else length[0]


def place_in(name: str) -> str:
    """The place that a station's name tells, without the word before it."""
    return re.sub(r"^[A-Za-z. #]+", "", name) or name


def station_number(name: str) -> float | None:
    """The number of a station by its name: 3, Sta 3, 3 1/2, FP."""
    text = re.sub(r"^(?:sta(?:tion)?|st|stn|no|frame|mold|#)\.?\s*", "", name.strip().lower())
    if text in ("fp", "f.p."):
        return 0.0
    text = re.sub(r"\s*½", ".5", re.sub(r"^½", "0.5", text)).replace(" 1/2", ".5")
    return float(text) if re.fullmatch(r"\d+(?:\.(?:0|25|5|75))?", text) else None
