"""The table of offsets by points: a row for each point, keel to sheer within a station."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.errors import InputError
from ...core.offsets.table import LABEL_WORDS, OffsetRow, OffsetsTable
from ...core.offsets.written import rewritten, with_unit, written
from ...core.units import LengthStyle, parse_length
from .cells_table import Cell
from .data_table import ALIGNMENT, LEFT, RIGHT, ROOT, UNITS_ROLE, Index
from .entry_table import EntryModel, EntryTable

COLUMNS = ("station", "label", "half_breadth", "height")
TITLES = ("Station", "Point", "Half-breadth", "Height")


class OffsetsModel(EntryModel):
    """Rows of offsets in the builder's units."""

    @property
    def rows(self) -> tuple[OffsetRow, ...]:
        """The points shown."""
        own: tuple[OffsetRow, ...] = self.table.rows
        return own

    def show_table(self, table: OffsetsTable, style: LengthStyle, as_written: bool) -> None:
        """What the job says now."""
        look = (style, as_written)
        same_look = look == (self.style, self.as_written)
        old, rows = self.table.rows, table.rows
        if len(rows) != len(old):
            self.beginResetModel()
            self.faults.clear()
            self.table, (self.style, self.as_written) = table, look
            self.endResetModel()
            return
        changed = [
            k
            for k, (before, now) in enumerate(zip(old, rows, strict=True))
            if not same_look or (before is not now and before != now)
        ]
        self.table, (self.style, self.as_written) = table, look
        if changed:  # repainting a long table takes as long as everything else of an edit
            self.dataChanged.emit(self.index(changed[0], 0), self.index(changed[-1], 3))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.table.rows)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else 4

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return TITLES[section]
        if role == UNITS_ROLE and orientation == Qt.Orientation.Horizontal:
            return TITLES[section] if section == 1 else f"{TITLES[section]} ({self.style.name})"
        return None

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == ALIGNMENT:
            return LEFT if index.column() == 1 else RIGHT
        return super().data(index, role)

    def text(self, row: int, column: int, *, exact: bool) -> str:
        point, field = self.table.rows[row], COLUMNS[column]
        if column == 1:
            return LABEL_WORDS[point.label]
        given = written(point, field) if self.as_written else ""
        return given or self.length(getattr(point, field), exact=exact)

    def cell_name(self, row: int, column: int) -> str:
        return f"{TITLES[column].lower()} of row {row + 1}"

    def row_behind(self, row: int, column: int) -> tuple[int, str] | None:
        return row, COLUMNS[column]

    def with_cells(self, cells: list[Cell]) -> OffsetsTable:
        rows = list(self.table.rows)
        for row, column, text in cells:
            while row >= len(rows):
                rows.append(rows[-1] if rows else OffsetRow(station=0, label="wl", half_breadth=0, height=0))
            try:
                rows[row] = self._written(rows[row], column, text)
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
        changed: OffsetsTable = self.table.model_copy(update={"rows": tuple(rows)})
        return changed

    def _written(self, point: OffsetRow, column: int, text: str) -> OffsetRow:
        if column == 1:
            typed = " ".join(text.lower().split())
            label = next((own for own, words in LABEL_WORDS.items() if typed in (own, words)), None)
            if label is None:
                raise InputError("no such point", value=text, mend=f"Use one of: {'; '.join(LABEL_WORDS.values())}.")
            return point.model_copy(update={"label": label})
        value = parse_length(text, self.style.unit)
        if column == 2 and value < 0:
            raise InputError("a half-breadth cannot be negative", value=text, mend="Type it without the sign.")
        return rewritten(point, COLUMNS[column], value, with_unit(text, self.style.unit))

    def add_row(self, after: int) -> None:
        """A new point after a row, a copy of it to be typed over."""
        rows = self.table.rows
        base = rows[after] if rows else OffsetRow(station=0, label="keel", half_breadth=0, height=0)
        label = "wl" if base.label in ("keel", "sheer", "chine") and rows else base.label
        new = base.model_copy(update={"label": label, "notes": {}})
        self._take("add a point", (*rows[: after + 1], new, *rows[after + 1 :]))

    def delete_rows(self, numbers: set[int]) -> None:
        """Take rows out."""
        self._take("delete points", tuple(r for k, r in enumerate(self.table.rows) if k not in numbers))

    def _take(self, label: str, rows: tuple[OffsetRow, ...]) -> None:
        self._changed(label, self.table.model_copy(update={"rows": rows}))


class OffsetsTableView(EntryTable):
    """The table by points; Ins adds one, Del takes out the points of the selected cells."""

    def __init__(self, model: OffsetsModel, parent: QWidget | None = None) -> None:
        super().__init__("Table of offsets", model, parent)
        self.offsets = model
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)

    def add_row(self) -> None:
        """A new point below the current one."""
        at = self.currentIndex().row() if self.currentIndex().isValid() else len(self.offsets.rows) - 1
        column = max(self.currentIndex().column(), 0)
        self.offsets.add_row(at)
        self.setCurrentIndex(self.offsets.index(min(at + 1, len(self.offsets.rows) - 1), column))

    def clear_cells(self) -> None:
        """A point without one of its offsets is none: take out the rows of the selected cells."""
        numbers = {i.row() for i in self.selectionModel().selectedIndexes()}
        if numbers:
            self.offsets.delete_rows(numbers)
