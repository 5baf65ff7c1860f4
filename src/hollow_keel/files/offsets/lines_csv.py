"""Offsets in the traditional layout: a row for each line, a column for each station.

The first heading names the unit (line_mm, line_in, line_ft, line_fie …), the others are the stations'
positions. A row is one line: `sheer height`, `sheer half-breadth`, `keel height`, `keel half-breadth`,
`chine height`, `chine half-breadth`, `wl HEIGHT` (half-breadths on that waterline), `buttock HALF-BREADTH`
(heights on that buttock), `diagonal HEIGHT @ DEGREES` (distances from the centreline along a diagonal that leaves it at
HEIGHT and goes down outward). An empty cell is an offset the designer did not give. The ends are rows of
points: `stem_bow` and `stem_stern` with position:height in each cell, `transom` with position:half-breadth:height;
a star after a point says that a chine ends there. Rows of the deck begin with `deck` (see lines_deck).
A row that holds only `heights`, `half-breadths` or `diagonals` says what the rows below it are.
"""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Callable
from dataclasses import dataclass, field

from ...core.errors import InputError
from ...core.findings import mm
from ...core.offsets.by_lines import parse_plane, row_of
from ...core.offsets.table import LineKind, OffsetRow, OffsetsTable, TableLine
from ...core.offsets.written import with_unit
from ...core.units import LengthUnit
from ..tables.text_table import UNITS, column_length
from .lines_deck import DeckOffsets, deck_values, is_deck_row, reader_of

_PLANE = re.compile(r"^(wl|waterline|butt|buttock|diag|diagonal)\b")
_HEADINGS = {"heights": "height", "half-breadths": "half-breadth", "halfbreadths": "half-breadth", "diagonals": "diagonal"}
_ENDS = ("stem_bow", "stem_stern", "transom")
SAME_MM = 0.05
"""Two lines that give the same point of a station to within this give it once."""


@dataclass
class StationOffsets:
    """What the rows say of one station: ends of its section and the points between, (half-breadth, height)."""

    x: float
    text: str
    given: dict[str, tuple[float, str]] = field(default_factory=dict)
    """Value and text as written, by line."""
    points: list[tuple[float, float, dict[str, str]]] = field(default_factory=list)
    """Half-breadth, height and the texts they were written as."""
    deck: DeckOffsets = field(default_factory=DeckOffsets)


def is_lines_table(cells: list[str]) -> bool:
    """Whether these headings are of the traditional layout."""
    return bool(cells) and cells[0].strip().lower().split("_")[0] in ("line", "lines")


def parse_lines(rows: list[tuple[int, list[str]]], half_siding: float) -> OffsetsTable:
    """The table from numbered rows of cells, headings first. Raises InputError naming row, column, value and mend.

    `half_siding` mm is the keel's half-breadth where no row gives it, and that of the stems.
    """
    (number, head), *body = rows
    unit = _unit(number, head[0])
    stations = [
        StationOffsets(column_length(cell, unit, f"row {number}, column {k + 2}"), with_unit(cell, unit))
        for k, cell in enumerate(head[1:])
        if cell
    ]
    if len(stations) < 3:
        raise InputError(
            "a hull needs at least three stations",
            f"row {number}",
            ",".join(head)[:60],
            "Head the columns after the first with the stations' positions.",
        )
    ends: list[OffsetRow] = []
    planes: list[TableLine] = []
    heading = ""
    for number, cells in body:
        name = " ".join(cells[0].lower().replace("half breadth", "half-breadth").split())
        if name in _HEADINGS and not any(cells[1:]):
            heading = _HEADINGS[name]
        elif name in _ENDS:
            ends += _end(name, cells[1:], unit, number, half_siding)
        elif is_deck_row(name):
            _read_deck(name, cells[1:], unit, number, stations)
        else:
            plane = _read_line(name, heading, cells[1:], unit, number, stations)
            if plane is not None and plane not in planes:
                planes.append(plane)
    stations.sort(key=lambda s: s.x)  # a table that counts from the stern is given back from the bow
    for before, after in zip(stations[:-1], stations[1:], strict=True):
        if before.x == after.x:
            raise InputError("two columns are the same station", "the headings", mm(after.x), "Take one out.")
    found = [row for s in stations for row in (*section_rows(s, half_siding), *s.deck.rows(s.x))]
    bow = [row for row in ends if row.label.startswith("stem_bow")]
    stern = (row for row in ends if not row.label.startswith("stem_bow"))
    return OffsetsTable(rows=(*bow, *found, *stern), lines=tuple(planes))


def _unit(number: int, cell: str) -> LengthUnit | None:
    suffix = cell.strip().lower().rpartition("_")[2]
    if suffix not in UNITS:
        raise InputError(
            "the table does not say in which unit it is",
            f"row {number}, column 1",
            cell,
            "Write line_mm, line_m, line_in, line_ft or line_fie there.",
        )
    return UNITS[suffix]


def _read_line(
    name: str, heading: str, cells: list[str], unit: LengthUnit | None, number: int, stations: list[StationOffsets]
) -> TableLine | None:
    """Give the stations what one row says of them; the plane of the row if it is not an edge of the hull."""
    kind, _, at = name.partition(" ")
    number_of, _, rest = at.partition(" ")
    edge_name = "keel" if kind == "rabbet" else kind
    if kind == "chine" and number_of.isdigit():
        edge_name, at = (f"chine {number_of}" if int(number_of) > 1 else "chine"), rest
    edge = kind in ("sheer", "keel", "rabbet", "chine")
    if not edge and _PLANE.match(name) is None:
        raise InputError(
            "no such line",
            f"row {number}, column 1",
            name,
            "Use sheer height, sheer half-breadth, keel height, chine …, wl 250, buttock 150 or diagonal 400 @ 40.",
        )
    if len(cells) > len(stations) and any(cells[len(stations) :]):
        raise InputError(
            "this row has more values than there are stations",
            f"row {number}",
            cells[len(stations)],
            "Is it shifted by a column? Each value stands below its station.",
        )
    which = (at or heading) if edge else ""
    if edge and which not in ("height", "half-breadth"):
        raise InputError(
            "is this a height or a half-breadth?", f"row {number}, column 1", name, f"Write {kind} height or {kind} half-breadth."
        )
    plane = None if edge else _plane(name, unit, f"row {number}, column 1")
    for k, (cell, station) in enumerate(zip(cells, stations, strict=False)):
        if not cell:
            continue
        where = f"row {number} ({name}), column {k + 2}"
        value, text = column_length(cell, unit, where), with_unit(cell, unit)
        if value < 0 and which != "height" and (plane is None or plane.kind is not LineKind.BUTTOCK):
            raise InputError("a half-breadth cannot be negative", where, cell, "Type it without the sign.")
        if plane is None:
            station.given[f"{edge_name} {which}"] = (value, text)
        else:
            row = row_of(plane)
            texts = {row.field: text} if text and plane.kind is not LineKind.DIAGONAL else {}
            station.points.append((*row.point(value), texts))
    return plane


def _read_deck(name: str, cells: list[str], unit: LengthUnit | None, number: int, stations: list[StationOffsets]) -> None:
    """Give the stations what one row says of the deck."""
    put = reader_of(name, lambda text: column_length(text, unit, ""), f"row {number}, column 1")
    for k, (cell, station) in enumerate(zip(cells, stations, strict=False)):
        if cell:
            value = column_length(cell, unit, f"row {number} ({name}), column {k + 2}")
            put(station.deck, value, with_unit(cell, unit))


def _plane(name: str, unit: LengthUnit | None, where: str) -> TableLine:
    try:
        return parse_plane(name, lambda text: column_length(text, unit, ""))
    except InputError as error:
        raise error.at(where) from None


def _end(name: str, cells: list[str], unit: LengthUnit | None, number: int, siding: float) -> list[OffsetRow]:
    rows: list[OffsetRow] = []
    for k, cell in enumerate(cells):
        if cell:
            try:
                rows.append(end_point(name, cell, siding, lambda text: column_length(text, unit, "")))
            except InputError as error:
                raise error.at(f"row {number} ({name}), column {k + 2}") from None
    return sorted(rows, key=lambda r: r.height)


def end_point(name: str, cell: str, siding: float, read: Callable[[str], float]) -> OffsetRow:
    """A point of an end as one cell: position:height for a stem, position:half-breadth:height for a transom, a star where a chine
    ends. `read` reads a length to mm. Raises InputError."""
    wanted = 3 if name == "transom" else 2
    parts = cell.removesuffix("*").split(":")
    if len(parts) != wanted:
        raise InputError(
            f"a point of the {name.replace('_', ' ')} is " + ("position:half-breadth:height" if wanted == 3 else "position:height"),
            value=cell,
            mend="Write the values with : between them.",
        )
    values = [read(part.strip()) for part in parts]
    label = name + ("_chine" if cell.endswith("*") else "")
    breadth = values[1] if wanted == 3 else siding
    return OffsetRow(station=values[0], label=label, half_breadth=breadth, height=values[-1])


def refuse(error: InputError) -> None:
    """A fault that nothing is made of."""
    raise error


def section_rows(station: StationOffsets, siding: float, fault: Callable[[InputError], None] = refuse) -> list[OffsetRow]:
    """Rows of one station, keel to sheer; none where a line it needs is missing. `fault` is told what cannot be used."""
    given = station.given
    for line in ("keel height", "sheer height", "sheer half-breadth"):
        if line not in given:
            fault(
                InputError(
                    f"it has no {line}",
                    f"the column of station {mm(station.x)}",
                    "",
                    f"Add a row “{line}”, or its value at this station.",
                )
            )
            return []
    keel = _edge_row(station, "keel", siding)
    sheer = _edge_row(station, "sheer", siding)
    rows = [_row(station, "wl", y, z, texts) for y, z, texts in station.points]
    for edge in dict.fromkeys(name.rpartition(" ")[0] for name in given if name.startswith("chine")):
        if f"{edge} height" in given and f"{edge} half-breadth" in given:
            rows.append(_edge_row(station, edge, siding))
        else:
            fault(
                InputError(
                    f"it has only one offset of its {edge}",
                    f"the column of station {mm(station.x)}",
                    "",
                    f"Give both {edge} height and {edge} half-breadth.",
                )
            )
    rows.sort(key=lambda row: (row.height, row.half_breadth))
    kept = [keel]
    for row in rows:
        if not keel.height - SAME_MM <= row.height <= sheer.height + SAME_MM:
            fault(
                InputError(
                    "this point lies below the keel or above the sheer",
                    f"station {mm(station.x)}",
                    f"half-breadth {mm(row.half_breadth)}, height {mm(row.height)}",
                    "Look at the row of its line, and whether the column is shifted.",
                )
            )
            continue
        if _apart(row, kept[-1]) > SAME_MM and _apart(row, sheer) > SAME_MM:
            kept.append(row)
    return [*kept, sheer]


def _apart(a: OffsetRow, b: OffsetRow) -> float:
    return math.hypot(a.half_breadth - b.half_breadth, a.height - b.height)


def _edge_row(station: StationOffsets, edge: str, siding: float) -> OffsetRow:
    y, y_text = station.given.get(f"{edge} half-breadth", (siding, ""))
    z, z_text = station.given[f"{edge} height"]
    texts = {field: text for field, text in (("half_breadth", y_text), ("height", z_text)) if text}
    return _row(station, edge.partition(" ")[0], y, z, texts)


def _row(station: StationOffsets, label: str, y: float, z: float, texts: dict[str, str]) -> OffsetRow:
    own = texts | ({"station": station.text} if station.text else {})
    return OffsetRow(station=station.x, label=label, half_breadth=y, height=z, written=own)


def lines_csv(table: OffsetsTable, sections: list[tuple[float, dict[str, float]]], header: list[str]) -> str:
    """The text of a table in this layout, mm: `sections` are (position, value by line name) for each station,
    `header` comment lines. Ends are written point by point."""
    out = io.StringIO()
    for line in header:
        out.write(f"# {line}\n")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["line_mm", *(f"{x:.10g}" for x, _ in sections)])
    decks = deck_values(table)
    sections = [(x, values | decks.get(x, {})) for x, values in sections]
    names = list(dict.fromkeys(name for _, values in sections for name in values))
    for name in names:
        writer.writerow([name, *(f"{values[name]:.1f}" if name in values else "" for _, values in sections)])
    for end in _ENDS:
        rows = [row for row in table.rows if row.label.removesuffix("_chine") == end]
        if rows:
            writer.writerow([end, *(_end_cell(row) for row in rows)])
    return out.getvalue()


def _end_cell(row: OffsetRow) -> str:
    middle = (row.half_breadth,) if row.label.startswith("transom") else ()
    star = "*" if row.label.endswith("_chine") else ""
    return ":".join(f"{v:.10g}" for v in (row.station, *middle, row.height)) + star
