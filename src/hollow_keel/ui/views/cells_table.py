"""A table whose cells are typed over: Enter goes down the column, Del empties, Ctrl+V pastes from a spreadsheet."""

from __future__ import annotations

from PySide6.QtCore import QAbstractItemModel, QAbstractTableModel, QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractItemDelegate, QLineEdit, QStyledItemDelegate, QWidget

from .data_table import Index, TableBase

Cell = tuple[int, int, str]
"""Row, column and text."""


def cells_in(text: str) -> list[list[str]]:
    """Cells as a spreadsheet copies them: rows, tabs between cells."""
    return [line.split("\t") for line in text.replace("\r\n", "\n").rstrip("\n").split("\n")]


def cells_from(corner: tuple[int, int], lines: list[list[str]]) -> list[Cell]:
    """Rows of cells with the places that they come to, from a corner on."""
    return [(corner[0] + down, corner[1] + across, cell) for down, line in enumerate(lines) for across, cell in enumerate(line)]


class CellDelegate(QStyledItemDelegate):
    """What is typed replaces a cell, though it be what was shown; a cell that was only looked into stays as exact as it is. Enter
    keeps it within its own key: left for a moment later, keys that are already waiting would go into the same cell."""

    def setModelData(self, editor: QWidget, model: QAbstractItemModel, index: Index) -> None:
        if not isinstance(editor, QLineEdit) or editor.isModified():
            super().setModelData(editor, model, index)

    def eventFilter(self, editor: QObject, event: QEvent) -> bool:
        enter = isinstance(event, QKeyEvent) and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if enter and event.type() == QEvent.Type.KeyPress and isinstance(editor, QWidget):
            self.commitData.emit(editor)
            self.closeEditor.emit(editor, QAbstractItemDelegate.EndEditHint.SubmitModelCache)
            return True
        return super().eventFilter(editor, event)


class CellsTable(TableBase):
    """Keyboard-only entry down a column."""

    def __init__(self, name: str, model: QAbstractTableModel, parent: QWidget | None = None) -> None:
        super().__init__(name, parent)
        self.setModel(model)
        self.setItemDelegate(CellDelegate(self))
        self.setEditTriggers(self.EditTrigger.AnyKeyPressed | self.EditTrigger.DoubleClicked | self.EditTrigger.EditKeyPressed)

    def paste(self) -> None:
        """Paste cells from a spreadsheet at the current cell."""
        raise NotImplementedError

    def clear_cells(self) -> None:
        """Empty the selected cells."""
        raise NotImplementedError

    def add_row(self) -> None:
        """A new row at the current cell, where there can be one."""

    def begin(self, row: int, column: int) -> None:
        """Open a cell to be typed into; one that is open already stays."""
        self.setFocus()
        if self.state() == self.State.EditingState:
            return
        index = self.model().index(row, column)
        self.setCurrentIndex(index)
        if index.flags() & Qt.ItemFlag.ItemIsEditable:
            self.edit(index)

    def may_leave(self) -> bool:
        """Whether the cell that was typed into is done with."""
        return True

    @property
    def corner_cell(self) -> tuple[int, int]:
        """Row and column of the current cell; the first where there is none."""
        return max(self.currentIndex().row(), 0), max(self.currentIndex().column(), 0)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.key() == Qt.Key.Key_Delete:
            self.clear_cells()
        elif event.key() == Qt.Key.Key_Insert:
            self.add_row()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.state() != self.State.EditingState:
            self._step_down()
        else:
            super().keyPressEvent(event)

    def closeEditor(self, editor: QWidget, hint: QAbstractItemDelegate.EndEditHint) -> None:
        super().closeEditor(editor, hint)
        if hint == QAbstractItemDelegate.EndEditHint.SubmitModelCache and self.may_leave():
            self._step_down()

    def _step_down(self) -> None:
        index = self.currentIndex()
        self.setCurrentIndex(index.siblingAtRow(min(index.row() + 1, self.model().rowCount() - 1)))
