"""Tables by lines: a row for each line, a column for each station, in one block or several."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from ...core.errors import InputError
from ...core.offsets.by_lines import row_of
from ...core.offsets.table import LineKind, OffsetRow, OffsetsTable, TableLine
from ..lines_csv import StationOffsets, section_rows
from .grid import Grid
from .numbers import FACTORS, Comma, is_blank, is_eighths, is_number, length_of, plain
from .understood import Answers, Asked, LeftOut, Question
from .words import ENDS, PLANES, Line, Named, is_station_word, line_of, section_of

KINDS = {Line.WATERLINE: LineKind.WATERLINE, Line.BUTTOCK: LineKind.BUTTOCK, Line.DIAGONAL: LineKind.DIAGONAL}
ASKED = {Line.WATERLINE: Asked.WATERLINES, Line.BUTTOCK: Asked.BUTTOCKS, Line.DIAGONAL: Asked.DIAGONALS}
FIELDS = {Line.WATERLINE: "half-breadth", Line.BUTTOCK: "height", Line.DIAGONAL: "diagonal"}
ROMAN = {"I": 1, "II": 2, "III": 3, "IV": 4, "V": 5, "VI": 6, "VII": 7, "VIII": 8, "IX": 9, "X": 10}
SAME_MM = 0.05


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


def read_rows(grid: Grid, headings: list[int], shifted: str = "") -> LinesRead:
    """The lines of the blocks that begin at rows of headings (from 0). Rows whose first station is blank and that run past the last
    one are put `back` one column, or left where they are; as long as nobody said which, that is asked."""
    read = LinesRead()
    grid = _put_back(grid, headings, shifted, read)
    ends = [*headings[1:], len(grid.rows)]
    for head, stop in zip(headings, ends, strict=True):
        names = _station_names(grid.rows[head])
        for name in names.values():
            if name not in read.stations:
                read.stations.append(name)
        section = section_of(grid.rows[head][0]) or (
            section_of(" ".join(grid.rows[head - 1])) if head else ""
        )
        for k in range(head + 1, stop):
            section = _row(grid, k, names, section, read)
    return read


def _put_back(grid: Grid, headings: list[int], said: str, read: LinesRead) -> Grid:
    rows = list(grid.rows)
    found = []
    for head, stop in zip(headings, [*headings[1:], len(rows)], strict=True):
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
            read.left_out.append(
                LeftOut(number, 1, cells[0], "no line is known by this name: the row is left out")
            )
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


@dataclass(frozen=True)
class Places:
    """Where stations and planes lie, mm, by their names; texts that say so."""

    stations: dict[str, tuple[float, str]]
    planes: dict[tuple[Line, str], TableLine]


def placed(
    read: LinesRead,
    answers: Answers,
    unit: str | None,
    comma: Comma,
    titles: dict[Asked, str],
    load: float | None,
) -> Places | None:
    """Where the stations and planes lie; None, with questions, where that is not known. `titles` are answers that titles give."""
    stations = _stations(read, answers, unit, comma, titles)
    planes: dict[tuple[Line, str], TableLine] = {}
    for line in PLANES:
        rows = [row for row in read.rows if row.name.line is line]
        planes |= _planes(read, rows, line, answers, unit, comma, load)
    return None if read.questions or stations is None else Places(stations, planes)


def _stations(
    read: LinesRead, answers: Answers, unit: str | None, comma: Comma, titles: dict[Asked, str]
) -> dict[str, tuple[float, str]] | None:
    given = next((row for row in read.rows if row.name.line is Line.POSITION), None)
    if given is not None:
        own = {
            name: _length(given.cells[name][1], unit, comma) for name in read.stations if name in given.cells
        }
        return {name: length for name, length in own.items() if length is not None}
    counted = {name: _count(name) for name in read.stations}
    numbers = [n for n in counted.values() if n is not None]
    if _are_names(numbers, read.stations):
        said = answers.said.get(Asked.SPACING) or titles.get(Asked.SPACING, "")
        if not said:
            first, last = read.stations[0], read.stations[-1]
            text = f"Stations {first} to {last} are numbers, not places. How far apart do they stand?"
            read.questions.append(Question(Asked.SPACING, text, hint=_hint(500.0, unit)))
            return None
        spacing = _length(said, unit or "mm", Comma.NONE)
        if spacing is None:
            read.questions.append(
                Question(Asked.SPACING, f"“{said}” is no length. How far apart do stations stand?")
            )
            return None
        read.notes.append(f"Stations stand {said} apart, counted from station 0.")
        return {name: (n * spacing[0], "") for name, n in counted.items() if n is not None}
    found: dict[str, tuple[float, str]] = {}
    for name in read.stations:
        length = _length(re.sub(r"^[A-Za-z. #]+", "", name) or name, unit, comma)
        if length is not None:
            found[name] = length
    return found


def _count(name: str) -> float | None:
    """The number of a station by its name: 3, Sta 3, 3 1/2, FP."""
    text = re.sub(r"^(?:sta(?:tion)?|st|stn|no|frame|mold|#)\.?\s*", "", name.strip().lower())
    if text in ("fp", "f.p."):
        return 0.0
    text = re.sub(r"\s*½", ".5", re.sub(r"^½", "0.5", text)).replace(" 1/2", ".5")
    return float(text) if re.fullmatch(r"\d+(?:\.(?:0|25|5|75))?", text) else None


def _are_names(numbers: list[float], stations: list[str]) -> bool:
    """Whether stations are counted: they step by one (or a half, a quarter at the ends)."""
    if len(numbers) < 3 or len(numbers) != len(stations):
        return False
    steps = [b - a for a, b in zip(numbers[:-1], numbers[1:], strict=True)]
    counted = sum(abs(abs(s) - 1) < 1e-9 for s in steps) >= 0.5 * len(steps)
    return counted and all(abs(s) <= 2 for s in steps) and max(numbers) <= 60


def _planes(
    read: LinesRead,
    rows: list[Row],
    line: Line,
    answers: Answers,
    unit: str | None,
    comma: Comma,
    load: float | None,
) -> dict[tuple[Line, str], TableLine]:
    names = list(dict.fromkeys((row.name.key, row.name.level, row.name.angle) for row in rows))
    if not names:
        return {}
    levels = [level for _, level, _ in names if level]
    found: dict[tuple[Line, str], TableLine] = {}
    said = answers.said.get(ASKED[line], "")
    if line is Line.DIAGONAL and any(not angle for *_, angle in names):
        return _asked_diagonals(read, [key for key, *_ in names], said, unit, comma)
    counted = _counted(levels)
    if counted:
        by_name = _asked_levels(read, line, counted, said, unit)
        if by_name is None:
            return {}
        found = {(line, name): TableLine(kind=KINDS[line], level=mm) for name, mm in by_name.items()}
    for key, level, angle in names:
        if (line, key) in found:
            continue
        if not level:
            asked = answers.said.get(Asked.LOAD, "")
            at = _length(asked, unit or "mm", Comma.NONE) if asked else None if load is None else (load, "")
            if at is None:
                text = "How high is the load waterline above the base of this table?"
                read.questions.append(Question(Asked.LOAD, text, hint=_hint(250.0, unit)))
                return {}
            found[line, key] = TableLine(kind=LineKind.WATERLINE, level=at[0])
            continue
        length = _length(level, unit, comma)
        if length is None:
            number = next(row.number for row in rows if row.name.key == key)
            read.left_out.append(
                LeftOut(number, 1, level, "where this line lies cannot be read: the row is left out")
            )
            continue
        found[line, key] = TableLine(kind=KINDS[line], level=length[0], angle=float(angle or 0.0))
    return found


def _counted(levels: list[str]) -> dict[str, int]:
    """Levels that are only counted (1, 2, 3; A, B, C; I, II, III): each with its number; none where they are lengths."""
    found: dict[str, int] = {}
    for level in levels:
        text = level.strip().upper().rstrip(".")
        if text.isdigit() and int(text) <= 30:
            found[level] = int(text)
        elif text in ROMAN:
            found[level] = ROMAN[text]
        elif re.fullmatch("[A-H]", text):
            found[level] = ord(text) - 64
        else:
            return {}
    numbers = sorted(found.values())
    steps = {b - a for a, b in zip(numbers[:-1], numbers[1:], strict=True)}
    return found if numbers and numbers[0] <= 2 and steps <= {1} else {}


def _asked_levels(
    read: LinesRead, line: Line, counted: dict[str, int], said: str, unit: str | None
) -> dict[str, float] | None:
    what, far = (
        ("waterlines", "How high are they")
        if line is Line.WATERLINE
        else ("buttocks", "How far out do they lie")
    )
    if not said:
        text = (
            f"The {what} {', '.join(counted)} are only numbered. {far}? Give their spacing, counted from the base or the "
            "centreline, or all of them one after the other."
        )  # fmt: skip
        read.questions.append(Question(ASKED[line], text, hint=_hint(100.0, unit)))
        return None
    parts = [part for part in re.split(r"[;,]\s*|\s{2,}", said.strip()) if part]
    lengths = [_length(part, unit or "mm", Comma.NONE) for part in parts]
    if any(length is None for length in lengths) or len(lengths) not in (1, len(counted)):
        text = f"“{said}” is neither one spacing nor {len(counted)} lengths. {far}?"
        read.questions.append(Question(ASKED[line], text, hint=_hint(100.0, unit)))
        return None
    own = [length[0] for length in lengths if length is not None]
    if len(own) == 1:
        return {name: n * own[0] for name, n in counted.items()}
    order = sorted(counted, key=lambda name: counted[name])
    return dict(zip(order, own, strict=True))


def _asked_diagonals(
    read: LinesRead, names: list[str], said: str, unit: str | None, comma: Comma
) -> dict[tuple[Line, str], TableLine]:
    parts = [part.strip() for part in re.split(r"[;,]\s*", said) if part.strip()]
    found: dict[tuple[Line, str], TableLine] = {}
    for name, part in zip(names, parts, strict=False):
        level, _, angle = part.partition("@")
        length = _length(level.strip(), unit or "mm", Comma.NONE)
        if length is None or not re.fullmatch(r"\s*\d+(?:\.\d+)?\s*°?\s*", angle):
            break
        found[Line.DIAGONAL, name] = TableLine(
            kind=LineKind.DIAGONAL, level=length[0], angle=float(angle.strip(" °"))
        )
    if len(found) != len(names):
        text = (
            f"Where do the diagonals {', '.join(names)} lie? For each the height at which it leaves the centreline @ its angle "
            "down from level in degrees; - leaves all of them out."
        )
        if said.strip() == "-":
            return {}
        read.questions.append(
            Question(Asked.DIAGONALS, text, hint="; ".join(f"{_hint(400.0, unit)} @ 40" for _ in names))
        )
    return found


def _hint(mm: float, unit: str | None) -> str:
    """A length with its unit, as an answer could be: in the table's own."""
    match unit:
        case "m" | "cm":
            return f"{mm / FACTORS[unit]:g} {unit}"
        case "in" | "ft" | "ft-in" | "fie":
            return f"{mm / 25:g} in"
        case _:
            return f"{mm:g} mm"


def _length(text: str, unit: str | None, comma: Comma) -> tuple[float, str] | None:
    try:
        return length_of(text, unit or "mm", comma)
    except InputError:
        return None


def made_of(read: LinesRead, places: Places, unit: str, comma: Comma, siding: float) -> OffsetsTable:
    """The table; what cannot be used is added to what was left out."""
    stations = {name: StationOffsets(x, text) for name, (x, text) in places.stations.items()}
    for name in read.stations:
        if name not in stations:
            read.left_out.append(
                LeftOut(0, 0, name, "this station's place cannot be read: its column is left out")
            )
    ends: list[OffsetRow] = []
    siding = _siding(read, unit, comma, siding)
    ends += _profiles(read, unit, comma, siding)
    for row in read.rows:
        if row.name.line is Line.SIDING or (row.name.line in ENDS and row.name.field):
            continue
        if row.name.line in ENDS:
            ends += _end(row, unit, comma, siding, read)
        elif row.name.line is not Line.POSITION:
            _give(row, stations, places, unit, comma, read)
    in_order = sorted(stations.values(), key=lambda s: s.x)
    if len(read.stations) > 1 and len(in_order) > 1 and stations.get(read.stations[0]) is in_order[-1]:
        read.notes.append("The table runs from the stern: it is turned round.")
    rows = []
    for station in in_order:
        if not station.given and not station.points:
            continue
        rows += section_rows(station, siding, lambda error: _said(error, read))
    middle = (in_order[0].x + in_order[-1].x) / 2 if in_order else 0.0
    bow = [
        row
        for row in ends
        if row.label.startswith("stem_bow") or (row.label.startswith("transom") and row.station < middle)
    ]
    stern = (row for row in ends if row not in bow)
    return OffsetsTable(rows=(*bow, *rows, *stern), lines=tuple(dict.fromkeys(places.planes.values())))


def _said(error: InputError, read: LinesRead) -> None:
    where = f"{error.where}: " if error.where else ""
    read.left_out.append(LeftOut(0, 0, error.value, f"{where}{error.problem}"))


def _give(
    row: Row, stations: dict[str, StationOffsets], places: Places, unit: str, comma: Comma, read: LinesRead
) -> None:
    plane = places.planes.get((row.name.line, row.name.key))
    if row.name.line in PLANES and plane is None:
        return
    for name, (column, cell) in row.cells.items():
        if name not in stations:
            continue
        try:
            value, text = length_of(cell, unit, comma)
        except InputError as error:
            read.left_out.append(LeftOut(row.number, column + 1, cell, error.problem))
            continue
        station = stations[name]
        if plane is None:
            number = f" {row.name.level}" if row.name.level not in ("", "1") else ""
            station.given[f"{row.name.line.value}{number} {row.which}"] = (
                abs(value) if row.which != "height" else value,
                text,
            )
        elif value < 0 and plane.kind is not LineKind.BUTTOCK:
            read.left_out.append(LeftOut(row.number, column + 1, cell, "a half-breadth cannot be negative"))
        else:
            own = row_of(plane)
            texts = {own.field: text} if text and plane.kind is not LineKind.DIAGONAL else {}
            station.points.append((*own.point(value), texts))


def _end(row: Row, unit: str, comma: Comma, siding: float, read: LinesRead) -> list[OffsetRow]:
    """The points of an end's profile, position:height or position:half-breadth:height in each cell."""
    wanted = 3 if row.name.line is Line.TRANSOM else 2
    found = []
    for column, cell in row.cells.values():
        parts = cell.removesuffix("*").split(":")
        try:
            if len(parts) != wanted:
                raise InputError(
                    "a point of an end is position:height, of a transom position:half-breadth:height"
                )
            values = [length_of(part.strip(), unit, comma)[0] for part in parts]
        except InputError as error:
            read.left_out.append(LeftOut(row.number, column + 1, cell, error.problem))
            continue
        label = row.name.line.value + ("_chine" if cell.endswith("*") else "")
        y = values[1] if wanted == 3 else siding
        found.append(OffsetRow(station=values[0], label=label, half_breadth=y, height=values[-1]))
    return sorted(found, key=lambda r: r.height)


def _siding(read: LinesRead, unit: str, comma: Comma, siding: float) -> float:
    """The half-siding that a row gives, else the one that is known, mm."""
    row = next((row for row in read.rows if row.name.line is Line.SIDING and row.cells), None)
    length = _length(next(iter(row.cells.values()))[1], unit, comma) if row else None
    return siding if length is None else length[0]


def _profiles(read: LinesRead, unit: str, comma: Comma, siding: float) -> list[OffsetRow]:
    """Ends whose positions, heights and half-breadths stand in rows of their own, a point in each column."""
    found: list[OffsetRow] = []
    own = [row for row in read.rows if row.name.line in ENDS and row.name.field]
    for line, level in dict.fromkeys((row.name.line, row.name.level) for row in own):
        rows = {row.name.field: row for row in own if (row.name.line, row.name.level) == (line, level)}
        if not {"position", "height"} <= set(rows):
            continue
        columns = dict.fromkeys(at for row in rows.values() for at in row.cells)
        points = [
            p
            for at in columns
            if (p := _profile_point(rows, at, line, unit, comma, siding, read)) is not None
        ]
        found += sorted(points, key=lambda r: r.height)
    return found


def _profile_point(
    rows: dict[str, Row], at: str, line: Line, unit: str, comma: Comma, siding: float, read: LinesRead
) -> OffsetRow | None:
    values = {"half-breadth": siding}
    for what, row in rows.items():
        if at not in row.cells:
            if what == "half-breadth":
                continue
            return None
        column, cell = row.cells[at]
        try:
            values[what] = length_of(cell.removesuffix("*"), unit, comma)[0]
        except InputError as error:
            read.left_out.append(LeftOut(row.number, column + 1, cell, error.problem))
            return None
    star = any(row.cells[at][1].endswith("*") for row in rows.values() if at in row.cells)
    return OffsetRow(
        station=values["position"], label=line.value + ("_chine" if star else ""), half_breadth=abs(values["half-breadth"]),
        height=values["height"],
    )  # fmt: skip


def unit_by_form(cells: Iterable[str], comma: Comma) -> str | None:
    """The unit that cells say themselves: all but blanks and zeros are feet-inches-eighths, or each carries its own unit."""
    from ...core.units import is_bare_number

    own = [cell for cell in cells if not is_blank(cell)]
    bare = [cell for cell in own if is_bare_number(plain(cell, comma)) and float(plain(cell, comma)) != 0]
    if own and not bare:
        return "fie" if any(is_eighths(cell) for cell in own) else "in"
    return None


def is_heading_of_lines(cells: tuple[str, ...]) -> bool:
    """Whether a row heads stations: three numbers or names of stations or more, after a cell that is blank or names no line."""
    rest = [cell for cell in cells[1:] if not is_blank(cell)]
    if len(rest) < 3:
        return False
    first = cells[0].strip()
    named = (
        is_station_word(first) or first.lower().split("_")[0] in ("line", "lines") or section_of(first) != ""
    )
    if not named and line_of(first) is not None:
        return False
    stations = [cell for cell in rest if is_number(cell) or _count(cell) is not None]
    if len(stations) < 3 or len(stations) < 0.7 * len(rest) or (not named and is_number(first)):
        return False
    places = [place for cell in stations if (place := _rough(cell)) is not None]
    steps = [b - a for a, b in zip(places[:-1], places[1:], strict=True)]
    return all(step > 0 for step in steps) or all(step < 0 for step in steps)


def _rough(cell: str) -> float | None:
    """Where a station stands, as good as its name tells in whatever unit."""
    count = _count(cell)
    if count is not None:
        return count
    length = _length(
        re.sub(r"^[A-Za-z. #]+", "", cell) or cell,
        None,
        Comma.DECIMAL if cell.count(",") == 1 else Comma.NONE,
    )
    return None if length is None else length[0]
