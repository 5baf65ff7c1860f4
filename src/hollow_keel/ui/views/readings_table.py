"""Readings on the molds as they stand, typed beside what is planned."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.errors import InputError
from ...core.setup.beam import Mark
from ...core.setup.survey import Survey
from ...core.units import LengthStyle, format_length, parse_length
from .data_table import ROOT, Index
from .entry_table import Cell, EntryModel, EntryTable

COLUMNS: tuple[tuple[str, str], ...] = (
    ("Mold", ""), ("From zero: plan", ""), ("port", "along_port"), ("starboard", "along_starboard"),
    ("Waterline: plan", ""), ("port", "height_port"), ("starboard", "height_starboard"),
    ("Centre, keel end", "centre_low"), ("Centre, sheer end", "centre_high"), ("Lean", "lean"),
)  # fmt: skip


class ReadingsModel(EntryModel):
    """One row a mold, in order from the zero; empty cells were not measured."""

    marks: tuple[Mark, ...] = ()

    def show_survey(self, survey: Survey, marks: tuple[Mark, ...], style: LengthStyle) -> None:
        """What the job says now. Cells that say the same are left alone: one of them may be typed into."""
        if (survey, marks, style) == (self.table, self.marks, self.style):
            return
        same = [m.mold for m in marks] == [m.mold for m in self.marks]
        if not same:
            self.beginResetModel()
            self.faults.clear()
        self.table, self.marks, self.style = survey, marks, style
        if not same:
            self.endResetModel()
        elif marks:  # who types on keeps the place
            self.dataChanged.emit(self.index(0, 0), self.index(len(marks) - 1, len(COLUMNS) - 1))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.marks)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(COLUMNS)

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return COLUMNS[section][0]
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        flags = super().flags(index)
        return flags if COLUMNS[index.column()][1] else flags & ~Qt.ItemFlag.ItemIsEditable

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.ForegroundRole and not COLUMNS[index.column()][1]:
            return QColor(self.theme.second)
        return super().data(index, role)

    def text(self, row: int, column: int, *, exact: bool) -> str:
        mark, field = self.marks[row], COLUMNS[column][1]
        if column == 0:
            return mark.mold
        if not field:
            return format_length(mark.from_zero if column == 1 else mark.waterline_above, self.style)
        value = getattr(self.table.of(mark.mold), field)
        return "" if value is None else self.length(value, exact=exact)

    def cell_name(self, row: int, column: int) -> str:
        return f"reading of mold {self.marks[row].mold}" if row < len(self.marks) else "reading"

    def with_cells(self, cells: list[Cell]) -> Survey:
        survey: Survey = self.table
        for row, column, text in cells:
            field = COLUMNS[column][1] if column < len(COLUMNS) else ""
            if row >= len(self.marks) or not field:
                raise InputError(
                    "readings go beside the plan only",
                    value=text,
                    mend="Paste from the first reading's cell on.",
                )
            mold = self.marks[row].mold
            try:
                value = parse_length(text, self.style.unit) if text.strip() else None
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
            survey = survey.with_value(mold, field, value)
        return survey


class ReadingsTable(EntryTable):
    """The table of readings."""

    def __init__(self, model: ReadingsModel, parent: QWidget | None = None) -> None:
        super().__init__("Readings on the molds", model, parent)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
