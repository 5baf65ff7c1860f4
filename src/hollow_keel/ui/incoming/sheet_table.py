"""The table that is being typed: every cell can be typed over, headings too; blanks are blanks."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QAbstractTableModel, Qt
from PySide6.QtGui import QColor, QFont, QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.offsets.typed_sheet import TypedSheet
from ...core.words import counted
from ...files.tables.understood import Layout, Understood, letter
from ...files.tables.words import line_of, section_of
from ..views.cells_table import Cell, CellsTable, cells_from, cells_in
from ..views.data_table import ALIGNMENT, DISPLAY, EDIT, LEFT, RIGHT, ROOT, Index
from ..window.theme import LIGHT, Theme

SPARE_ROWS, SPARE_COLUMNS = 12, 3
NAMES_WIDE = 176
"""Of the column of names, pixels."""
Changed = Callable[[str, TypedSheet], None]


class SheetModel(QAbstractTableModel):
    """Cells as they were typed; `changed` is told the edit's name and the new sheet."""

    def __init__(self, changed: Changed, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.sheet = TypedSheet(cells=())
        self.theme: Theme = LIGHT
        self._bad: dict[tuple[int, int], str] = {}
        self._by_points = False
        self._rows = self._columns = 0
        self._away: set[Qt.Orientation] = set()
        self._changed = changed
        self._bold = QFont()
        self._bold.setBold(True)

    def show_sheet(self, sheet: TypedSheet, found: Understood) -> None:
        """The sheet as it is now, and what became of it."""
        bad = {(bit.row - 1, max(bit.column - 1, 0)): bit.why for bit in found.left_out if bit.row}
        if sheet == self.sheet and bad == self._bad:
            return  # what was worked out of it came in: a cell that is being typed into is left alone
        self._by_points = found.layout is Layout.POINTS
        self._grow(len(sheet.cells), sheet.width)
        self.sheet, self._bad = sheet, bad
        self.dataChanged.emit(self.index(0, 0), self.index(self.rowCount() - 1, self.columnCount() - 1))

    def _grow(self, rows: int, columns: int) -> None:
        """So many rows and columns. No reset: it would lose the current cell, and with it where the next key goes."""
        had = self._rows
        if rows > had:
            self.beginInsertRows(ROOT, self.rowCount(), self.rowCount() + rows - had - 1)
        elif rows < had:
            self.beginRemoveRows(ROOT, self.rowCount() - (had - rows), self.rowCount() - 1)
        self._rows = rows
        if rows != had:
            (self.endInsertRows if rows > had else self.endRemoveRows)()
        had = self._columns
        if columns > had:
            self.beginInsertColumns(ROOT, self.columnCount(), self.columnCount() + columns - had - 1)
        elif columns < had:
            self.beginRemoveColumns(ROOT, self.columnCount() - (had - columns), self.columnCount() - 1)
        self._columns = columns
        if columns != had:
            (self.endInsertColumns if columns > had else self.endRemoveColumns)()

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else self._rows + SPARE_ROWS

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else self._columns + SPARE_COLUMNS

    def flags(self, index: Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        across = orientation == Qt.Orientation.Horizontal
        if orientation in self._away and (text := self.sheet.cell(0, section) if across else self.sheet.cell(section, 0)):
            return text
        return letter(section + 1) if across else str(section + 1)

    def put_away(self, orientation: Qt.Orientation, *, away: bool) -> None:
        """The row of stations (or the column of names) has gone out of sight: the headers say it in its place."""
        if (orientation in self._away) == away:
            return
        (self._away.add if away else self._away.discard)(orientation)
        last = self.columnCount() if orientation == Qt.Orientation.Horizontal else self.rowCount()
        self.headerDataChanged.emit(orientation, 0, last - 1)

    # -- the way of the keys -------------------------------------------------------------------------------

    def takes_offsets(self, row: int) -> bool:
        """Whether offsets are typed into a row: it is no heading and not blank."""
        own = [self.sheet.cell(row, k) for k in range(self.sheet.width)]
        return 0 < row < len(self.sheet.cells) and any(own) and not (section_of(own[0]) and not any(own[1:]))

    def first_cell(self) -> tuple[int, int]:
        """Where typing begins: the first blank cell of a row that takes offsets."""
        for row in filter(self.takes_offsets, range(len(self.sheet.cells))):
            for column in range(0 if self._by_points else 1, self.sheet.width):
                if not self.sheet.cell(row, column):
                    return row, column
        return 0, 0

    def below(self, row: int, column: int) -> tuple[int, int]:
        """Where Enter goes: to the next row that takes offsets; from the last of a block of rows to the head of its next column,
        and past its last column to the block that follows."""
        blocks = self._blocks()
        own = next((block for block in blocks if row <= block[-1]), None)
        if own is None:
            return min(row + 1, self.rowCount() - 1), column
        below = [k for k in own if k > row]
        if below:
            return below[0], column
        if column + 1 < self._columns and (own is not blocks[0] or self.sheet.cell(0, column + 1)):
            return own[0], column + 1
        after = blocks.index(own) + 1
        return (blocks[after][0], 1) if after < len(blocks) else (min(row + 1, self.rowCount() - 1), column)

    def _blocks(self) -> list[list[int]]:
        """The rows that take offsets, by the blocks that blank rows make."""
        blocks: list[list[int]] = [[]]
        for row in range(len(self.sheet.cells)):
            if self.takes_offsets(row):
                blocks[-1].append(row)
            elif row and not any(self.sheet.cell(row, k) for k in range(self.sheet.width)):
                blocks.append([])
        return [block for block in blocks if block]

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
        if role == Qt.ItemDataRole.FontRole and (row == 0 or (column == 0 and section_of(self.sheet.cell(row, 0)))):
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
    """Enter goes down the offsets, Tab to the right, Ins adds a row; pasted cells go in as they are. Stations and names stay
    in view."""

    def __init__(self, model: SheetModel, parent: QWidget | None = None) -> None:
        super().__init__("Table as it is typed", model, parent)
        self.sheet = model
        self.setTabKeyNavigation(True)
        self.verticalHeader().setVisible(True)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.horizontalHeader().setDefaultSectionSize(74)
        self.horizontalHeader().setFixedHeight(22)
        self.setColumnWidth(0, NAMES_WIDE)
        across, down = Qt.Orientation.Horizontal, Qt.Orientation.Vertical
        self.verticalScrollBar().valueChanged.connect(lambda at: model.put_away(across, away=at > 0))
        self.horizontalScrollBar().valueChanged.connect(lambda at: model.put_away(down, away=at > 0))

    def begin_typing(self) -> None:
        """The keys go into the first blank cell."""
        self.setCurrentIndex(self.sheet.index(*self.sheet.first_cell()))
        self.setFocus()

    def _step_down(self) -> None:
        index = self.currentIndex()
        self.setCurrentIndex(self.sheet.index(*self.sheet.below(index.row(), index.column())))

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
