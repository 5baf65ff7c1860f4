"""The traditional table of offsets: a row for each line, a column for each station."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.errors import InputError
from ...core.offsets.by_lines import ByLines, LineRow
from ...core.offsets.table import LineKind, OffsetsTable
from ...core.offsets.written import with_unit, written
from ...core.units import LengthStyle, LengthUnit, parse_length
from .cells_table import Cell
from .data_table import ROOT, Index
from .entry_table import EntryModel, EntryTable

CORNER = "Lines ("
"""What heads the names of lines in a table that is copied out."""


class LinesModel(EntryModel):
    """Lines down, stations across; an empty cell is an offset that the designer did not give."""

    def __init__(self, *arguments: Any, **named: Any) -> None:
        super().__init__(*arguments, **named)
        self.read = ByLines(self.table)

    def show_table(self, table: OffsetsTable, style: LengthStyle, as_written: bool) -> None:
        """What the job says now."""
        if table is self.table and (style, as_written) == (self.style, self.as_written):
            return
        before = (self.read.lines, self.read.stations)
        read = ByLines(table)
        if before != (read.lines, read.stations):
            self.beginResetModel()
            self.faults.clear()
            self.table, self.read, self.style, self.as_written = table, read, style, as_written
            self.endResetModel()
            return
        self.table, self.read, self.style, self.as_written = table, read, style, as_written
        self.dataChanged.emit(self.index(0, 0), self.index(self.rowCount() - 1, self.columnCount() - 1))
        self.headerDataChanged.emit(Qt.Orientation.Vertical, 0, max(self.rowCount() - 1, 0))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.read.lines)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.read.stations)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if orientation == Qt.Orientation.Horizontal:
            return self.station_name(self.read.stations[section])
        return self.line_name(self.read.lines[section])

    def station_name(self, x: float) -> str:
        """The head of a column."""
        numbers = self.read.rows_of[x]
        given = written(self.table.rows[numbers[0]], "station") if self.as_written else ""
        return given or self._level(x)

    def _level(self, mm: float) -> str:
        """A length in a heading: no decimals where it has none."""
        return f"{mm:.10g}" if self.style.unit is LengthUnit.MM else self.length(mm)

    def line_name(self, line: LineRow) -> str:
        """The head of a row: what it measures, of which line."""
        if line.plane is None:
            chine = f" {line.number + 1}" if line.number else ""
            return f"{line.edge}{chine} {line.field.replace('_', '-')}"
        kind = {"wl": "waterline"}.get(line.plane.kind.value, line.plane.kind.value)
        angle = f" @ {line.plane.angle:g}°" if line.plane.kind is LineKind.DIAGONAL else ""
        return f"{kind} {self._level(line.plane.level)}{angle}"

    def text(self, row: int, column: int, *, exact: bool) -> str:
        line, x = self.read.lines[row], self.read.stations[column]
        value = self.read.value(line, x)
        if value is None:
            return ""
        behind = self.row_behind(row, column)
        given = written(self.table.rows[behind[0]], behind[1]) if self.as_written and behind else ""
        return given or self.length(value, exact=exact)

    def cell_name(self, row: int, column: int) -> str:
        if row >= self.rowCount():
            return f"row {row + 1}"
        return f"{self.line_name(self.read.lines[row])} at {self.station_name(self.read.stations[column])}"

    def row_behind(self, row: int, column: int) -> tuple[int, str] | None:
        line = self.read.lines[row]
        number = self.read.cells.get((line, self.read.stations[column]))
        return None if number is None else (number, line.field)

    def with_cells(self, cells: list[Cell]) -> OffsetsTable:
        table = self.table
        for row, column, text in cells:
            if row >= self.rowCount() or column >= self.columnCount():
                raise InputError(
                    "more was pasted than the table has lines",
                    self.cell_name(row, column),
                    text,
                    "Add the lines first, or paste higher up.",
                )
            try:
                value = parse_length(text, self.style.unit) if text else None
                table = ByLines(table).with_value(
                    self.read.lines[row], self.read.stations[column], value, with_unit(text, self.style.unit)
                )
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
        changed: OffsetsTable = table.model_copy(update={"lines": self._kept_lines(table)})
        return changed

    def without_headings(self, lines: list[list[str]]) -> list[list[str]]:
        """What was copied out of here has the names of lines before it, too."""
        if lines[0][0].startswith(CORNER):
            return [line[1:] for line in lines[1:]]
        return super().without_headings(lines)

    def _kept_lines(self, table: OffsetsTable) -> tuple[Any, ...]:
        """Lines once seen stay, also when the last point on them is taken out."""
        planes = [line.plane for line in self.read.lines if line.plane is not None]
        return (*table.lines, *(p for p in planes if p not in table.lines))


class LinesTableView(EntryTable):
    """The traditional table."""

    def __init__(self, model: LinesModel, parent: QWidget | None = None) -> None:
        super().__init__("Offsets by lines", model, parent)
        self.lines = model
        self.verticalHeader().setVisible(True)
        self.verticalHeader().setDefaultSectionSize(22)
        self.verticalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        model.modelReset.connect(self._fit)
        model.dataChanged.connect(lambda *_: self._fit())
        self.horizontalHeader().setFixedHeight(26)

    def _fit(self) -> None:
        """Columns wide enough for the longest cell; the rest of the width is shared out."""
        cells = (str(cell) for cell in self._texts())
        longest = max((self.fontMetrics().horizontalAdvance(cell) for cell in cells), default=0)
        self.horizontalHeader().setMinimumSectionSize(max(44, longest + 8))

    def _texts(self) -> Iterator[str]:
        for column in range(self.lines.columnCount()):
            yield self.lines.station_name(self.lines.read.stations[column])
            for row in range(self.lines.rowCount()):
                yield self.lines.text(row, column, exact=False)

    def corner(self) -> str:
        """The unit, as it is read again with the table."""
        return f"{CORNER}{self.lines.style.name})"

    def current_line(self) -> LineRow | None:
        """The line of the current cell."""
        index = self.currentIndex()
        return self.lines.read.lines[index.row()] if index.isValid() else None
