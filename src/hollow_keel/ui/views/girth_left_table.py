"""What is left to plank, typed beside what the plan leaves."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor

from ...core.errors import InputError
from ...core.planking.as_planked import Replan
from ...core.planking.progress import GirthLeft, Planked
from ...core.units import LengthStyle, format_length, parse_length
from .data_table import ROOT, Index
from .entry_table import Cell, EntryModel

COLUMNS = (
    ("Mold", ""), ("Left by plan", ""), ("Left to port", "port"), ("Left to starboard", "starboard"),
    ("Strips to come: width", ""),
)  # fmt: skip


class GirthLeftModel(EntryModel):
    """One row a mold; empty cells were not measured."""

    molds: tuple[str, ...] = ()
    planned: tuple[float | None, ...] = ()
    replan: Replan | None = None

    def show_planked(
        self,
        planked: Planked,
        plan: tuple[tuple[str, float | None], ...],
        replan: Replan | None,
        style: LengthStyle,
    ) -> None:
        """What the job says now. Cells that say the same are left alone: one of them may be typed into."""
        molds, planned = tuple(name for name, _ in plan), tuple(left for _, left in plan)
        if (planked, molds, planned, replan, style) == (
            self.table,
            self.molds,
            self.planned,
            self.replan,
            self.style,
        ):
            return
        same = molds == self.molds
        if not same:
            self.beginResetModel()
            self.faults.clear()
        self.table, self.molds, self.planned, self.replan, self.style = planked, molds, planned, replan, style
        if not same:
            self.endResetModel()
        elif molds:
            self.dataChanged.emit(self.index(0, 0), self.index(len(molds) - 1, len(COLUMNS) - 1))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.molds)

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
        name, field = self.molds[row], COLUMNS[column][1]
        if column == 0:
            return name
        if column == 1:
            left = self.planned[row]
            return "–" if left is None else format_length(left, self.style)
        if not field:
            rest = next((r for r in self.replan.rows if r.mold == name), None) if self.replan else None
            return "" if rest is None else format_length(rest.width, self.style)
        value = getattr(self.table.of(name), field)
        return "" if value is None else self.length(value, exact=exact)

    def cell_name(self, row: int, column: int) -> str:
        return f"left at mold {self.molds[row]}" if row < len(self.molds) else "girth left"

    def with_cells(self, cells: list[Cell]) -> Planked:
        planked: Planked = self.table
        for row, column, text in cells:
            field = COLUMNS[column][1] if column < len(COLUMNS) else ""
            if row >= len(self.molds) or not field:
                raise InputError(
                    "readings go under port and starboard only",
                    value=text,
                    mend="Paste from the first of those cells on.",
                )
            name = self.molds[row]
            try:
                value = parse_length(text, self.style.unit) if text.strip() else None
                if value is not None and value < 0:
                    raise InputError(
                        "nothing less than nothing can be left", value=text, mend="Type it without a minus."
                    )
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
            old = planked.of(name).model_dump()
            planked = planked.with_row(GirthLeft.model_validate({**old, field: value}))
        return planked
