"""A table of offsets as a builder has it, read: headings found below titles, words and units understood, one bad cell left out."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from ...core.errors import InputError
from ...core.offsets.knuckles import read_marked
from ...core.offsets.table import OffsetsTable
from .by_lines import made_of
from .by_points import PointsRead, read_points
from .grid import Grid
from .line_places import placed
from .line_rows import LinesRead, is_heading_of_lines, read_rows
from .numbers import Comma, Lengths, comma_of, is_blank, is_number, may_be_thousands, unit_by_form, unit_in
from .understood import Answers, Asked, Column, Layout, LeftOut, Question, Understood
from .words import Line, Meaning, line_of, meaning_of, section_of, spacing_in

UNITS = {
    "mm": "millimetres",
    "cm": "centimetres",
    "m": "metres",
    "in": "inches",
    "ft": "feet, with decimals",
    "fie": "feet-inches-eighths",
}
NEEDED = (Meaning.STATION, Meaning.HALF_BREADTH, Meaning.HEIGHT)
INSIDE, OUTSIDE = "inside", "outside"
NOTHING_SAID = Answers()
NOTHING = "No table of offsets was found here: no row of headings with stations, and none with station, half-breadth and height."
_LOAD = re.compile(
    r"\b(?:[dlc]\.?w\.?l|load waterline|waterline_mm)\b\D{0,24}(?P<length>\d[\d'\"./ -]*\s*(?:mm|cm|m|in|ft)?)", re.IGNORECASE
)


def understand(grids: Sequence[Grid], answers: Answers = NOTHING_SAID) -> Understood:
    """What the sheets say: the best of them, or the one that is asked for."""
    if answers.sheet is not None:
        return _to_side(_sheet(grids, answers.sheet, answers), answers)
    found = [_sheet(grids, k, answers) for k in range(len(grids))]
    return _to_side(max(found, key=lambda u: u.score), answers)


def _to_side(found: Understood, answers: Answers) -> Understood:
    """With its offsets to the side of the planking that is said; else to that which its titles say, or to the outside."""
    side = answers.said.get(Asked.SIDE)
    if found.table is None or side is None:
        return found
    return replace(found, table=found.table.model_copy(update={"to_inside": side == INSIDE}))


def _sheet(grids: Sequence[Grid], number: int, answers: Answers) -> Understood:
    grid = grids[number]
    blank = Understood(number, None, 0, problem=NOTHING)
    points = _points_heading(grid)
    lines = [k for k, row in enumerate(grid.rows) if is_heading_of_lines(row)]
    across = _lines_across(grid)
    if points is not None and (not lines or points <= lines[0]):
        return _by_points(grid, points, number, answers)
    if across is not None and (not lines or across < lines[0]):
        turned = _turned(grid, across)
        heads = [k for k, row in enumerate(turned.rows) if is_heading_of_lines(row)]
        if heads:
            found = _by_lines(turned, heads, number, answers, _titles(grid, across))
            return replace(found, layout=Layout.LINES_ACROSS, heading=grid.first + across)
    if lines:
        lines = _real_headings(grid, lines)
        return _by_lines(grid, lines, number, answers, _titles(grid, lines[0]))
    bare = _bare_points(grid)
    if bare is not None:
        return _by_points(grid, bare - 1, number, answers)
    return blank


# -- what stands above the table ------------------------------------------------------------------------


class _Titles:
    """What comments and titles say."""

    def __init__(self, rows: Sequence[str]) -> None:
        self.comments: dict[str, str] = {}
        self.rows = list(rows)
        for row in rows:
            key, colon, value = row.lstrip("# \t").partition(":")
            if row.lstrip().startswith("#") and colon:
                self.comments[key.strip().lower()] = value.strip(" \t,;")

    @property
    def unit(self) -> str | None:
        """The unit that the titles name."""
        for row in self.rows:
            if re.search(r"dimension|offset|length|unit|measure|table|all |in ", row, re.IGNORECASE) or len(row.split()) < 4:
                found = unit_in(row)
                if found:
                    return found
        return None

    @property
    def inside(self) -> bool:
        """Whether they say that offsets are to the inside of the planking."""
        return any(
            re.search(r"\binside\b.{0,16}plank|offsets-to: *inside|to (?:the )?inside", row, re.IGNORECASE) for row in self.rows
        )

    def load(self, unit: str | None) -> float | None:
        """The height of the load waterline, mm."""
        for row in self.rows:
            match = _LOAD.search(row)
            own = "mm" if "waterline_mm" in row else unit or "mm"
            length = Lengths(own).maybe(match["length"].strip()) if match else None
            if length is not None:
                return length[0]
        return None

    @property
    def spacing(self) -> str:
        """The spacing of the stations."""
        return next((found for row in self.rows if (found := spacing_in(row))), "")

    @property
    def siding(self) -> float:
        """The half-siding of the stems, mm; nothing where it is not said."""
        length = Lengths("mm").maybe(self.comments.get("stem_half_siding_mm", ""))
        return 0.0 if length is None else length[0]


def _titles(grid: Grid, heading: int) -> _Titles:
    above = [" ".join(cell for cell in row if cell) for row in grid.rows[:heading]]
    below = [row[0] for row in grid.rows[heading:] if row and row[0].startswith("#")]
    return _Titles([text for text in (*above, *below) if text])


# -- by points -------------------------------------------------------------------------------------------


def _points_heading(grid: Grid) -> int | None:
    for k, row in enumerate(grid.rows):
        meanings = [meaning_of(cell) for cell in row if not is_number(cell)]
        if Meaning.STATION in meanings and meanings.count(Meaning.HALF_BREADTH) == meanings.count(Meaning.HEIGHT) == 1:
            return k
    return None


def _bare_points(grid: Grid) -> int | None:
    """The first of many rows of three numbers, with no headings at all."""
    for k in range(len(grid.rows)):
        below = [r for r in grid.rows[k : k + 6] if any(r)]
        if len(below) >= 6 and all(sum(is_number(c) for c in r) == 3 and len([c for c in r if c]) <= 4 for r in below):
            return k
    return None


def _by_points(grid: Grid, heading: int, number: int, answers: Answers) -> Understood:
    titles = _titles(grid, max(heading, 0))
    body = [row for row in grid.rows[heading + 1 :] if any(row) and not row[0].startswith("#")]
    numbers = [cell for row in body for cell in row]
    head = grid.rows[heading] if heading >= 0 else ()
    units: set[str | None] = {own for cell in head if (own := unit_in(cell))} or {titles.unit}
    comma, asked = _comma(numbers, answers, next(iter(units)) if len(units) == 1 else None)
    columns = tuple(_column(k, head, body, titles, answers, comma) for k in range(max(grid.width, len(head))))
    given = [c.meaning for c in columns]
    questions = [asked] if asked else []
    base = Understood(
        number,
        Layout.POINTS,
        grid.first + heading,
        columns,
        name=titles.comments.get("name", ""),
        waterline=titles.load(titles.unit),
    )
    if any(given.count(meaning) != 1 for meaning in NEEDED):
        text = "Which column is the station, which the half-breadth, which the height? Say it over the columns."
        questions.append(Question(Asked.COLUMNS, text))
    elif any(columns[given.index(meaning)].unit is None for meaning in NEEDED):
        questions.append(_unit_question())
    if questions:
        return replace(base, questions=tuple(questions))
    rows = tuple(() if row and row[0].startswith("#") else row for row in grid.rows)
    read = read_points(replace(grid, rows=rows), heading + 1, columns, comma, titles.siding)
    table = OffsetsTable(rows=tuple(read.rows), to_inside=titles.inside)
    return _judged(_with(base, read, table))


def _column(k: int, head: Sequence[str], body: Sequence[Sequence[str]], titles: _Titles, answers: Answers, comma: Comma) -> Column:
    heading = head[k] if k < len(head) else ""
    meaning = answers.meanings.get(k) or meaning_of(heading) or Meaning.UNUSED
    unit = answers.units.get(k) or unit_in(heading) or unit_by_form((r[k] for r in body if k < len(r)), comma)
    return Column(heading, meaning, unit or _said_unit(answers) or titles.unit)


# -- by lines --------------------------------------------------------------------------------------------


def _lines_across(grid: Grid) -> int | None:
    """The row that names lines over columns: stations run down."""
    for k, row in enumerate(grid.rows[:40]):
        named = [line_of(cell) for cell in row[1:] if cell and not is_number(cell)]
        known = [name for name in named if name is not None and name.line is not Line.POSITION]
        if len(known) >= 4 and len(known) >= 0.6 * len(named):
            below = [r for r in grid.rows[k + 1 : k + 6] if any(r)]
            if below and sum(is_number(r[0]) or re.search(r"\d", r[0]) is not None for r in below if r) >= len(below) - 1:
                return k
    return None


def _turned(grid: Grid, head: int) -> Grid:
    """Stations as columns; what stands over several columns (heights, half-breadths) goes into the lines' names."""
    over = grid.rows[head - 1] if head else ()
    section, names = "", []
    for j in range(grid.width):
        section = section_of(over[j]) if j < len(over) and section_of(over[j]) else section
        name = grid.cell(head, j)
        own = line_of(name)
        if own is not None and not own.field and own.line in (Line.KEEL, Line.SHEER, Line.CHINE) and section:
            name = f"{name} {section}"
        names.append(name)
    rows = (tuple(names), *grid.rows[head + 1 :])
    return Grid(rows, grid.first + head, grid.name).turned()


def _real_headings(grid: Grid, found: list[int]) -> list[int]:
    """Of rows that look like headings those that more follows than one row; a row of bare numbers within a block is a line."""
    first = grid.rows[found[0]]
    kept = [found[0]]
    for k in found[1:]:
        row = grid.rows[k]
        same = sum(a == b for a, b in zip(row[1:], first[1:], strict=False)) >= 0.5 * len(first[1:])
        if same or not is_number(row[0]):
            kept.append(k)
    return kept


def _by_lines(grid: Grid, heads: list[int], number: int, answers: Answers, titles: _Titles) -> Understood:
    read = read_rows(grid, heads, answers.said.get(Asked.SHIFTED, ""))
    cells = [cell for row in read.rows for _, cell in row.cells.values()]
    heading = grid.rows[heads[0]][0]
    comma, asked = _comma(cells, answers, unit_in(heading) or titles.unit)
    unit = _said_unit(answers) or unit_in(heading) or titles.unit or unit_by_form([c for c in cells if ":" not in c], comma)
    base = Understood(
        number, Layout.LINES, grid.first + heads[0], name=titles.comments.get("name", ""), waterline=titles.load(unit)
    )
    if asked:
        read.questions.append(asked)
    if unit is None:
        read.questions.append(_unit_question())
    lengths = Lengths(unit or "mm", comma)
    said = ({Asked.SPACING: titles.spacing} if titles.spacing else {}) | dict(answers.said)
    places = placed(read, lengths, said, base.waterline)
    if places is None or unit is None:
        return replace(base, questions=tuple(read.questions), left_out=tuple(read.left_out))
    table = made_of(read, places, lengths, titles.siding)
    table = table.model_copy(update={"to_inside": titles.inside})
    return _judged(_with(base, read, table))


# -- both ------------------------------------------------------------------------------------------------


def _comma(cells: Sequence[str], answers: Answers, unit: str | None) -> tuple[Comma, Question | None]:
    unit = _said_unit(answers) or unit
    fine = unit not in (None, "mm", "cm")
    comma = comma_of((cell for cell in cells if not is_blank(cell)), fine=fine)
    said = answers.said.get(Asked.COMMA)
    if said in ("decimal", "thousands"):
        thousands = said == "thousands"
        if comma is Comma.EITHER:
            comma = Comma.GROUPS if thousands else Comma.DECIMAL
        elif comma is Comma.OTHER:
            comma = Comma.POINTS if thousands else Comma.NONE
    if comma not in (Comma.EITHER, Comma.OTHER):
        return comma, None
    if comma is Comma.EITHER:
        example = next(cell for cell in cells if "," in cell)
    else:
        example = next(cell for cell in cells if may_be_thousands(cell, fine=fine))
    mark = next(c for c in example if not c.isdigit() and c != "-")
    one, thousand = example.replace(mark, "."), example.replace(mark, "")
    name = {",": "a decimal comma", ".": "a decimal point"}.get(mark)
    text = f"Is “{example}” {one} or {thousand}?" if name else f"Is “{example}” {thousand}, or feet and inches?"
    choices = {"decimal": f"{one}: {name}" if name else "feet and inches", "thousands": f"{thousand}: thousands"}
    return comma, Question(Asked.COMMA, text, choices)


def _said_unit(answers: Answers) -> str | None:
    """The unit that was said, where it is one."""
    said = answers.said.get(Asked.UNIT, "").strip().lower()
    return said if said in UNITS else None


def _unit_question() -> Question:
    return Question(Asked.UNIT, "In which unit are bare numbers?", UNITS)


def _with(base: Understood, read: PointsRead | LinesRead, table: OffsetsTable) -> Understood:
    return replace(base, table=table, left_out=tuple(read.left_out), notes=tuple(read.notes), dots=tuple(read.dots))


def _judged(found: Understood) -> Understood:
    """With what the rest of the program would say of the table."""
    assert found.table is not None
    if not found.table.rows:
        return replace(found, table=None, problem="There are headings but no offsets that can be used.")
    try:
        table, notes = read_marked(found.table)
    except InputError as error:
        return replace(found, problem=str(error))
    return replace(found, table=table, notes=(*found.notes, *notes))


def all_left_out(found: Understood) -> list[str]:
    """What was left out, in words, a line each."""
    return [f"{bit.where}{_text(bit)}: {bit.why}" for bit in found.left_out]


def _text(bit: LeftOut) -> str:
    return f" (“{bit.text[:40]}”)" if bit.text else ""
