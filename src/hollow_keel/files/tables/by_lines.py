"""The offsets of a table by lines, from its rows and where they lie."""

from __future__ import annotations

from ...core.errors import InputError
from ...core.offsets.by_lines import row_of
from ...core.offsets.table import LineKind, OffsetRow, OffsetsTable, is_at_bow
from ...core.offsets.typed_sheet import Dot
from ..offsets.lines_csv import StationOffsets, end_point, section_rows
from .line_places import Places
from .line_rows import LinesRead, Row
from .numbers import Lengths
from .understood import LeftOut
from .words import ENDS, PLANES, Line


def made_of(read: LinesRead, places: Places, lengths: Lengths, siding: float) -> OffsetsTable:
    """The table; what cannot be used is added to what was left out. `siding` is the half-siding where no row gives it, mm."""
    return _Making(read, places, lengths, siding).table()


class _Making:
    """Rows on their way into a table."""

    def __init__(self, read: LinesRead, places: Places, lengths: Lengths, siding: float) -> None:
        self.read, self.places, self.lengths = read, places, lengths
        self.stations = {name: StationOffsets(x, text) for name, (x, text) in places.stations.items()}
        own = next((row for row in read.rows if row.name.line is Line.SIDING and row.cells), None)
        length = lengths.maybe(next(iter(own.cells.values()))[1]) if own else None
        self.siding = siding if length is None else length[0]

    def leave_out(self, row: Row, column: int, cell: str, why: str) -> None:
        """A cell that is not used."""
        self.read.left_out.append(LeftOut(row.number, column + 1, cell, why))

    def table(self) -> OffsetsTable:
        """Everything together."""
        for name in self.read.stations:
            if name not in self.stations:
                why = "this station's place cannot be read: its column is left out"
                self.read.left_out.append(LeftOut(0, 0, name, why))
        ends = self.profiles()
        for row in self.read.rows:
            if row.name.line in ENDS and not row.name.field:
                ends += self.profile(row)
            elif row.name.line not in (*ENDS, Line.POSITION, Line.SIDING):
                self.give(row)
        in_order = sorted(self.stations.values(), key=lambda s: s.x)
        self.read.dots += [dot for station in in_order for dot in _dots(station)]
        self.read.dots += [Dot(row.label, row.station, row.half_breadth, row.height) for row in ends]
        if len(in_order) > 1 and self.stations.get(self.read.stations[0]) is in_order[-1]:
            self.read.notes.append("The table runs from the stern: it is turned round.")
        rows = [
            row
            for station in in_order
            if station.given or station.points
            for row in (*section_rows(station, self.siding, self.fault), *station.deck.rows(station.x))
        ]
        middle = (in_order[0].x + in_order[-1].x) / 2 if in_order else 0.0
        bow = [row for row in ends if is_at_bow(row, middle)]
        stern = [row for row in ends if not is_at_bow(row, middle)]
        planes = tuple(dict.fromkeys(self.places.planes.values()))
        return OffsetsTable(rows=(*bow, *rows, *stern), lines=planes)

    def fault(self, error: InputError) -> None:
        """What a station wants."""
        where = f"{error.where}: " if error.where else ""
        self.read.left_out.append(LeftOut(0, 0, error.value, f"{where}{error.problem}"))

    def give(self, row: Row) -> None:
        """The values of a line to their stations."""
        plane = self.places.planes.get((row.name.line, row.name.key))
        if row.name.line in PLANES and plane is None:
            return
        for name, (column, cell) in row.cells.items():
            if name not in self.stations:
                continue
            try:
                value, text = self.lengths.read(cell)
            except InputError as error:
                self.leave_out(row, column, cell, error.problem)
                continue
            station = self.stations[name]
            if row.name.line is Line.DECK:
                self.give_deck(station, row, value, text)
            elif plane is None:
                number = f" {row.name.level}" if row.name.level not in ("", "1") else ""
                own = value if row.which == "height" else abs(value)
                station.given[f"{row.name.line.value}{number} {row.which}"] = (own, text)
            elif value < 0 and plane.kind is not LineKind.BUTTOCK:
                self.leave_out(row, column, cell, "a half-breadth cannot be negative")
            else:
                line = row_of(plane)
                texts = {line.field: text} if text and plane.kind is not LineKind.DIAGONAL else {}
                station.points.append((*line.point(value), texts))

    def give_deck(self, station: StationOffsets, row: Row, value: float, text: str) -> None:
        """A value of the deck to a station: of its chine, or a height on a buttock (level 0: the centreline)."""
        if row.name.level == "chine":
            station.deck.chine[row.which] = (abs(value), text) if row.which == "half-breadth" else (value, text)
            return
        level = self.lengths.maybe(row.name.level)
        if level is not None:
            station.deck.points.append((abs(level[0]), value, text))

    def profile(self, row: Row) -> list[OffsetRow]:
        """The points of an end, one whole in each cell."""
        found = []
        for column, cell in row.cells.values():
            try:
                found.append(end_point(row.name.line.value, cell, self.siding, lambda text: self.lengths.read(text)[0]))
            except InputError as error:
                self.leave_out(row, column, cell, error.problem)
        return sorted(found, key=lambda r: r.height)

    def profiles(self) -> list[OffsetRow]:
        """Ends whose positions, heights and half-breadths stand in rows of their own, a point in each column."""
        found: list[OffsetRow] = []
        own = [row for row in self.read.rows if row.name.line in ENDS and row.name.field]
        for line, level in dict.fromkeys((row.name.line, row.name.level) for row in own):
            rows = {row.name.field: row for row in own if (row.name.line, row.name.level) == (line, level)}
            if {"position", "height"} <= set(rows):
                columns = dict.fromkeys(at for row in rows.values() for at in row.cells)
                points = (self.profile_point(rows, at, line) for at in columns)
                found += sorted((p for p in points if p is not None), key=lambda r: r.height)
        return found

    def profile_point(self, rows: dict[str, Row], at: str, line: Line) -> OffsetRow | None:
        """The point of one column; None where it is not whole."""
        values = {"half-breadth": self.siding}
        marked = False
        for what, row in rows.items():
            if at not in row.cells:
                if what == "half-breadth":
                    continue
                return None
            column, cell = row.cells[at]
            marked = marked or cell.endswith("*")
            try:
                values[what] = self.lengths.read(cell.removesuffix("*"))[0]
            except InputError as error:
                self.leave_out(row, column, cell, error.problem)
                return None
        return OffsetRow(
            station=values["position"],
            label=line.value + ("_chine" if marked else ""),
            half_breadth=abs(values["half-breadth"]),
            height=values["height"],
        )


def _dots(station: StationOffsets) -> list[Dot]:
    """What is said of a station's points so far."""
    edges = dict.fromkeys(name.rpartition(" ")[0] for name in station.given)
    own = {name: value for name, (value, _) in station.given.items()}
    found = [Dot(edge, station.x, own.get(f"{edge} half-breadth"), own.get(f"{edge} height")) for edge in edges]
    return [*found, *(Dot("wl", station.x, y, z) for y, z, _ in station.points)]
