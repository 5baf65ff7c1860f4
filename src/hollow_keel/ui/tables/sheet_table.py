"""The table that is being typed: every cell can be typed over, headings too; blanks are blanks."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QAbstractTableModel, Qt
from PySide6.QtGui import QColor, QFont, QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.offsets.typed_sheet import TypedSheet
from ...core.words import counted
from ...files.tables.understood import Understood, letter
from ...files.tables.words import line_of, section_of
from ..theme import LIGHT, Theme
from ..views.cells_table import Cell, CellsTable, cells_from, cells_in
from ..views.data_table import ALIGNMENT, DISPLAY, EDIT, LEFT, RIGHT, ROOT, Index

SPARE_ROWS, SPARE_COLUMNS = 12, 3
Changed = Callable[[str, TypedSheet], None]


class SheetModel(QAbstractTableModel):
    """Cells as they were typed; `changed` is told the edit's name and the new sheet."""

    def __init__(self, changed: Changed, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.sheet = TypedSheet(cells=())
        self.theme: Theme = LIGHT
        self._bad: dict[tuple[int, int], str] = {}
        self._changed = changed
        self._bold = QFont()
        self._bold.setBold(True)

    def show_sheet(self, sheet: TypedSheet, found: Understood) -> None:
        """The sheet as it is now, and what became of it."""
        bad = {(bit.row - 1, max(bit.column - 1, 0)): bit.why for bit in found.left_out if bit.row}
        if sheet == self.sheet and bad == self._bad:
            return  # what was worked out of it came in: a cell that is being typed into is left alone
        same_size = (len(sheet.cells), sheet.width) == (len(self.sheet.cells), self.sheet.width)
        if not same_size:
            self.beginResetModel()
        self.sheet, self._bad = sheet, bad
        if not same_size:
            self.endResetModel()
        else:
            self.dataChanged.emit(self.index(0, 0), self.index(self.rowCount() - 1, self.columnCount() - 1))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.sheet.cells) + SPARE_ROWS

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else self.sheet.width + SPARE_COLUMNS

    def flags(self, index: Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        return letter(section + 1) if orientation == Qt.Orientation.Horizontal else str(section + 1)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row, column = index.row(), index.column()
        if role in (DISPLAY, EDIT):
            return self.sheet.cell(row, column)
        if role == ALIGNMENT:
            return LEFT if column == 0 else RIGHT
        if role == Qt.ItemDataRole.ForegroundRole and (row, column) in self._bad:
            return QColor(self.theme.bad)
        if role == Qt.ItemDataRole.ToolTipRole:
            return self._bad.get((row, column))
        if role == Qt.ItemDataRole.FontRole and (
            row == 0 or (column == 0 and section_of(self.sheet.cell(row, 0)))
        ):
            return self._bold
        return None

    def setData(self, index: Index, value: Any, role: int = EDIT) -> bool:
        text = " ".join(str(value).split())
        if role != EDIT or text == self.sheet.cell(index.row(), index.column()):
            return False
        self.write([(index.row(), index.column(), text)], f"typed {self.name(index.row(), index.column())}")
        return True

    def write(self, cells: list[Cell], label: str) -> None:
        """Type over some cells as one step."""
        if cells:
            self._changed(label, self.sheet.with_cells(cells))

    def put(self, sheet: TypedSheet, label: str) -> None:
        """Another sheet in the place of this one."""
        self._changed(label, sheet)

    def name(self, row: int, column: int) -> str:
        """A cell's name for the list of edits."""
        line = self.sheet.cell(row, 0)
        head = self.sheet.cell(0, column)
        if row and column and head and line and line_of(line) is not None:
            return f"{line} at {head}"
        return f"{letter(column + 1)}{row + 1}"


class SheetTable(CellsTable):
    """Tab goes to the right, Ins adds a row; pasted cells go in as they are."""

    def __init__(self, model: SheetModel, parent: QWidget | None = None) -> None:
        super().__init__("Table as it is typed", model, parent)
        self.sheet = model
        self.setTabKeyNavigation(True)
        self.verticalHeader().setVisible(True)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.horizontalHeader().setDefaultSectionSize(74)
        self.horizontalHeader().setFixedHeight(22)
        model.modelReset.connect(lambda: self.setColumnWidth(0, 176))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Backspace:
            self.clear_cells()
        else:
            super().keyPressEvent(event)

    def paste(self) -> None:
        """Cells from a spreadsheet, from the current cell on."""
        lines = cells_in(QGuiApplication.clipboard().text())
        self.sheet.write(cells_from(self.corner_cell, lines), f"paste {counted(len(lines), 'row')}")

    def clear_cells(self) -> None:
        """Empty the selected cells."""
        chosen = self.selectionModel().selectedIndexes()
        self.sheet.write([(i.row(), i.column(), "") for i in chosen], "empty cells")

    def add_row(self) -> None:
        """An empty row above the current one."""
        self.sheet.put(self.sheet.sheet.with_row(self.corner_cell[0]), "add a row")

    def take_out_rows(self) -> None:
        """Take out the rows of the selected cells."""
        numbers = {i.row() for i in self.selectionModel().selectedIndexes()}
        if numbers:
            self.sheet.put(self.sheet.sheet.without_rows(numbers), "take out rows")
