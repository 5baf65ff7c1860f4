"""A table typed into: any unit in any cell, faults named and nothing typed lost; paste, fill, notes."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QPoint, QRect, Qt, Signal
from PySide6.QtGui import QColor, QGuiApplication, QPainter, QPolygon
from PySide6.QtWidgets import QInputDialog, QStyleOptionViewItem, QWidget

from ...core.errors import InputError
from ...core.offsets.table import OffsetsTable
from ...core.units import LengthStyle, LengthUnit, format_length, refuse_thousands
from ...core.words import counted
from ..window.theme import LIGHT, Theme
from .cells_table import Cell, CellDelegate, CellsTable, cells_from, cells_in
from .data_table import ALIGNMENT, DISPLAY, EDIT, RIGHT, UNITS_ROLE, Index
from .sentences import sentence

FINEST = {
    LengthUnit.MM: LengthStyle(LengthUnit.MM, 0.1),
    LengthUnit.INCH: LengthStyle(LengthUnit.INCH, 0.001),
    LengthUnit.INCH_FRACTION: LengthStyle(LengthUnit.INCH_FRACTION, 1 / 64),
    LengthUnit.FEET_INCH_FRACTION: LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 64),
}
"""Offsets are shown as they were given, not at the rounding of the shop's tape."""
ROLES = frozenset({DISPLAY, EDIT, Qt.ItemDataRole.ForegroundRole, Qt.ItemDataRole.ToolTipRole})
Changed = Callable[[str, Any], None]


class EntryModel(QAbstractTableModel):
    """Cells over a table of offsets, or whatever else has lengths in rows. `changed` is called with the edit's name and
    the new table.

    A cell that could not be read keeps what was typed, shown in red with the mend, until it is put right.
    """

    def __init__(self, changed: Changed, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.table: Any = OffsetsTable()
        self.style = LengthStyle()
        self.theme: Theme = LIGHT
        self.as_written = False
        self.faults: dict[tuple[int, int], tuple[str, str]] = {}
        self._changed = changed

    # -- what a table of its own kind says -----------------------------------------------------------

    def text(self, row: int, column: int, *, exact: bool) -> str:
        """A cell; `exact` for typing over it."""
        raise NotImplementedError

    def cell_name(self, row: int, column: int) -> str:
        """A cell's name for the list of edits and for messages."""
        raise NotImplementedError

    def with_cells(self, cells: list[Cell]) -> Any:
        """The table with cells written. Raises InputError."""
        raise NotImplementedError

    def row_behind(self, row: int, column: int) -> tuple[int, str] | None:
        """The number of the table's row behind a cell and its field; None where there is none."""
        return None

    # -- for all -----------------------------------------------------------------------------------------

    def length(self, mm: float, *, exact: bool = False) -> str:
        """A length as cells show it, or as it is typed over."""
        if exact and self.style.unit is LengthUnit.MM:
            return f"{mm:.10g}"
        return format_length(mm, FINEST.get(self.style.unit, self.style))

    def flags(self, index: Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == ALIGNMENT:
            return RIGHT
        if role not in ROLES:
            return None
        place = (index.row(), index.column())
        fault = self.faults.get(place)
        if role in (DISPLAY, EDIT):
            return fault[0] if fault else self.text(*place, exact=role == EDIT)
        if role == Qt.ItemDataRole.ToolTipRole:
            return fault[1] if fault else self.note(*place) or None
        return QColor(self.theme.bad) if fault else None

    def setData(self, index: Index, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        place = (index.row(), index.column())
        text = str(value).strip()
        if role != Qt.ItemDataRole.EditRole:
            return False
        try:
            refuse_thousands(text, self.style.unit)
            table = self.with_cells([(*place, text)])
        except InputError as error:
            self.faults[place] = (text, sentence(str(error), self.style))
            self.dataChanged.emit(index, index)
            return True
        self.faults.pop(place, None)
        if table == self.table:
            return False
        self._changed(self.cell_name(*place), table)
        return True

    def write(self, label: str, cells: list[Cell]) -> str:
        """Write many cells as one step. Returns the first fault, or nothing; with a fault nothing is taken over."""
        try:
            table = self.with_cells(cells)
        except InputError as error:
            return sentence(str(error), self.style)
        self._changed(label, table)
        return ""

    def paste(self, row: int, column: int, text: str) -> str:
        """Cells from a spreadsheet, from a corner on. Returns the first fault, or nothing."""
        wide = self.columnCount() - column
        own = self.without_headings(cells_in(text))
        lines = [[cell.strip() for cell in line[:wide]] for line in own]
        return self.write(f"paste {counted(len(lines), 'row')}", cells_from((row, column), lines))

    def without_headings(self, lines: list[list[str]]) -> list[list[str]]:
        """Rows of cells without what headed them when they were copied out of this very table."""
        across = Qt.Orientation.Horizontal
        own = {
            str(self.headerData(k, across, role) or "").replace("\u202f", "")
            for k in range(self.columnCount())
            for role in (DISPLAY, UNITS_ROLE)
        }
        headed = len(lines) > 1 and all(cell in own for cell in lines[0] if cell.strip())
        return lines[1:] if headed else lines

    def note(self, row: int, column: int) -> str:
        """The note on a cell."""
        behind = self.row_behind(row, column)
        return self.table.rows[behind[0]].notes.get(behind[1], "") if behind else ""

    def set_note(self, row: int, column: int, text: str) -> None:
        """Write a note on a cell; an empty text takes it away."""
        behind = self.row_behind(row, column)
        if behind is None:
            return
        number, field = behind
        old = self.table.rows[number]
        notes = {k: v for k, v in old.notes.items() if k != field} | ({field: text} if text else {})
        changed = self.table.with_row(number, old.model_copy(update={"notes": notes}))
        self._changed(f"note on {self.cell_name(row, column)}", changed)


class _NoteDelegate(CellDelegate):
    """Marks a cell that carries a note with a small corner."""

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        super().paint(painter, option, index)
        model = index.model()
        if isinstance(model, EntryModel) and model.note(index.row(), index.column()):
            rect: QRect = option.rect
            corner = rect.topRight()
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(model.theme.good))
            painter.drawPolygon(QPolygon([corner - QPoint(8, 0), corner, corner + QPoint(0, 8)]))


class EntryTable(CellsTable):
    """A table of offsets, or the like, typed into. `cell_chosen` tells the current row and column."""

    cell_chosen = Signal(int, int)
    fault = Signal(str)

    def __init__(self, name: str, model: EntryModel, parent: QWidget | None = None) -> None:
        super().__init__(name, model, parent)
        self.entry = model
        self.setItemDelegate(_NoteDelegate(self))
        self.selectionModel().currentChanged.connect(lambda now, _: self.cell_chosen.emit(now.row(), now.column()))

    def commitData(self, editor: QWidget) -> None:
        self.fault.emit("")
        super().commitData(editor)
        place = (self.currentIndex().row(), self.currentIndex().column())
        if place in self.entry.faults:
            self.fault.emit(self.entry.faults[place][1])

    def may_leave(self) -> bool:
        return (self.currentIndex().row(), self.currentIndex().column()) not in self.entry.faults

    def paste(self) -> None:
        """Paste cells from a spreadsheet at the current cell."""
        self._say(self.entry.paste(*self.corner_cell, QGuiApplication.clipboard().text()))

    def clear_cells(self) -> None:
        """Empty the selected cells."""
        chosen = self.selectionModel().selectedIndexes()
        if chosen:
            self._say(self.entry.write("empty cells", [(i.row(), i.column(), "") for i in chosen]))

    def fill_down(self) -> None:
        """Write the uppermost of the selected cells of each column into those below it."""
        tops: dict[int, Index] = {}
        for index in self.selectionModel().selectedIndexes():
            if index.column() not in tops or index.row() < tops[index.column()].row():
                tops[index.column()] = index
        cells = [
            (index.row(), index.column(), str(tops[index.column()].data(EDIT)))
            for index in self.selectionModel().selectedIndexes()
            if index.row() != tops[index.column()].row()
        ]
        if cells:
            self._say(self.entry.write("fill down", cells))
        else:
            self.fault.emit("Select a cell and those below it first (Shift and the arrow down).")

    def ask_note(self) -> None:
        """Write a note on the current cell."""
        index = self.currentIndex()
        if not index.isValid() or self.entry.row_behind(index.row(), index.column()) is None:
            self.fault.emit("Choose a cell with a value first.")
            return
        text, sure = QInputDialog.getText(
            self,
            "Note",
            f"Note on {self.entry.cell_name(index.row(), index.column())}:",
            text=self.entry.note(index.row(), index.column()),
        )
        if sure:
            self.entry.set_note(index.row(), index.column(), text.strip())

    def _say(self, problem: str) -> None:
        if problem:
            self.fault.emit(problem)
