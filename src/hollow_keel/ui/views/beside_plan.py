"""Tables of what was measured, a row a mold, typed beside what is planned there."""

from __future__ import annotations

from typing import Any, ClassVar

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor

from ...core.units import LengthStyle
from .data_table import ROOT, Index
from .entry_table import EntryModel


class BesidePlanModel(EntryModel):
    """Columns with a field are typed into, the others tell the plan; empty cells were not measured."""

    columns: ClassVar[tuple[tuple[str, str], ...]] = ()
    molds: tuple[str, ...] = ()
    places: tuple[float, ...] = ()
    planned: Any = None

    def show_beside(
        self, measured: Any, molds: tuple[str, ...], places: tuple[float, ...], planned: Any, style: LengthStyle
    ) -> None:
        """What the job and the plan say now; `places` are where the molds stand, mm along the hull. Cells that say the same are
        left alone: one of them may be typed into."""
        shown = (self.table, self.molds, self.places, self.planned, self.style)
        if (measured, molds, places, planned, style) == shown:
            return
        same = (molds, places) == (self.molds, self.places)
        if not same:
            self.beginResetModel()
            self.faults.clear()
        self.table, self.molds, self.places, self.planned, self.style = (measured, molds, places, planned, style)
        if not same:
            self.endResetModel()
        elif molds:  # who types on keeps the place
            self.dataChanged.emit(self.index(0, 0), self.index(len(molds) - 1, len(self.columns) - 1))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.molds)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.columns)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return self.columns[section][0]
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        flags = super().flags(index)
        return flags if self.columns[index.column()][1] else flags & ~Qt.ItemFlag.ItemIsEditable

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.ForegroundRole and not self.columns[index.column()][1]:
            return QColor(self.theme.second)
        return super().data(index, role)

    def text(self, row: int, column: int, *, exact: bool) -> str:
        name, field = self.molds[row], self.columns[column][1]
        if column == 0:
            return name
        if not field:
            return self.plan_text(row, column)
        value = getattr(self.reading(name, self.places[row]), field)
        return "" if value is None else self.length(value, exact=exact)

    def reading(self, mold: str, at: float) -> Any:
        """What was measured at a mold that stands at a place."""
        return self.table.of(mold, at)

    def plan_text(self, row: int, column: int) -> str:
        """A cell of the plan."""
        raise NotImplementedError
