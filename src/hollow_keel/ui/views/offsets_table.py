"""The table of offsets, typed into: any unit in any cell, faults named and nothing typed lost."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QAbstractTableModel, Qt, Signal
from PySide6.QtGui import QColor, QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractItemDelegate, QHeaderView, QWidget

from ...core.errors import InputError
from ...core.offsets.table import LABELS, OffsetRow
from ...core.units import LengthStyle, LengthUnit, format_length, parse_length
from ..theme import LIGHT, Theme
from .data_table import ALIGNMENT, DISPLAY, EDIT, LEFT, RIGHT, ROOT, Index, TableBase

COLUMNS = ("station", "label", "half_breadth", "height")
FINEST = {
    LengthUnit.MM: LengthStyle(LengthUnit.MM, 0.1),
    LengthUnit.INCH: LengthStyle(LengthUnit.INCH, 0.001),
    LengthUnit.INCH_FRACTION: LengthStyle(LengthUnit.INCH_FRACTION, 1 / 64),
    LengthUnit.FEET_INCH_FRACTION: LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 64),
}
"""Offsets are shown as they were given, not at the rounding of the shop's tape."""
ROLES = frozenset({DISPLAY, EDIT, Qt.ItemDataRole.ForegroundRole, Qt.ItemDataRole.ToolTipRole})
TITLES = ("Station", "Point", "Half-breadth", "Height")


class OffsetsModel(QAbstractTableModel):
    """Rows of offsets in the builder's units. `changed` is called with a name and the new rows.

    A cell that could not be read keeps what was typed, shown in red with the mend, until it is put right.
    """

    def __init__(
        self, changed: Callable[[str, tuple[OffsetRow, ...]], None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.rows: tuple[OffsetRow, ...] = ()
        self.style = LengthStyle()
        self.theme: Theme = LIGHT
        self.faults: dict[tuple[int, int], tuple[str, str]] = {}
        self._changed = changed

    def show_rows(self, rows: tuple[OffsetRow, ...], style: LengthStyle) -> None:
        """What the job says now."""
        if len(rows) != len(self.rows):
            self.beginResetModel()
            self.faults.clear()
            self.rows, self.style = rows, style
            self.endResetModel()
            return
        changed = [
            k for k, (old, new) in enumerate(zip(self.rows, rows, strict=True))
            if style != self.style or (old is not new and old != new)
        ]  # fmt: skip
        self.rows, self.style = rows, style
        if changed:  # repainting a long table takes as long as everything else of an edit
            self.dataChanged.emit(self.index(changed[0], 0), self.index(changed[-1], 3))

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else 4

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return TITLES[section]
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == ALIGNMENT:
            return LEFT if index.column() == 1 else RIGHT
        if role not in ROLES:
            return None
        place = (index.row(), index.column())
        fault = self.faults.get(place)
        if role in (DISPLAY, EDIT):
            return fault[0] if fault else self._text(*place, exact=role == EDIT)
        if fault is None:
            return None
        return QColor(self.theme.bad) if role == Qt.ItemDataRole.ForegroundRole else fault[1]

    def _text(self, row: int, column: int, *, exact: bool) -> str:
        value = getattr(self.rows[row], COLUMNS[column])
        if column == 1:
            return str(value)
        if exact and self.style.unit is LengthUnit.MM:
            return f"{value:.10g}"
        return format_length(value, FINEST.get(self.style.unit, self.style))

    def setData(self, index: Index, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        row, column = index.row(), index.column()
        text = str(value).strip()
        if role != Qt.ItemDataRole.EditRole or text == self._text(row, column, exact=True):
            self.faults.pop((row, column), None)
            return False
        try:
            new = self.read_cell(column, text)
        except InputError as error:
            self.faults[row, column] = (text, str(error))
            self.dataChanged.emit(index, index)
            return True
        self.faults.pop((row, column), None)
        changed = self.rows[row].model_copy(update={COLUMNS[column]: new})
        rows = (*self.rows[:row], changed, *self.rows[row + 1 :])
        self._changed(f"{TITLES[column].lower()} of row {row + 1}", rows)
        return True

    def read_cell(self, column: int, text: str) -> str | float:
        """What a typed cell means. Raises InputError."""
        if column == 1:
            label = text.lower()
            if label not in LABELS:
                raise InputError(
                    "no such point", value=text, mend=f"Use one of: {', '.join(sorted(LABELS))}."
                )
            return label
        value = parse_length(text, self.style.unit)
        if column == 2 and value < 0:
            raise InputError(
                "a half-breadth cannot be negative", value=text, mend="Type it without the sign."
            )
        return value

    def paste(self, row: int, column: int, text: str) -> str:
        """Cells from a spreadsheet, from a corner on; rows are added as needed. Returns the first fault, or nothing.

        Nothing is taken over unless every cell can be read.
        """
        rows = list(self.rows)
        lines = [line.split("\t") for line in text.replace("\r\n", "\n").rstrip("\n").split("\n")]
        for down, cells in enumerate(lines):
            at = row + down
            fields: dict[str, Any] = {}
            for across, cell in enumerate(cells[: 4 - column]):
                try:
                    fields[COLUMNS[column + across]] = self.read_cell(column + across, cell.strip())
                except InputError as error:
                    return str(
                        error.at(f"line {down + 1} of what you pasted, {TITLES[column + across].lower()}")
                    )
            if at < len(rows):
                rows[at] = rows[at].model_copy(update=fields)
            else:
                base = (
                    rows[-1].model_dump()
                    if rows
                    else {"station": 0.0, "label": "wl", "half_breadth": 0.0, "height": 0.0}
                )
                rows.append(OffsetRow.model_validate({**base, **fields}))
        self._changed(f"paste {len(lines)} rows", tuple(rows))
        return ""

    def add_row(self, after: int) -> None:
        """A new point after a row, a copy of it to be typed over."""
        base = self.rows[after] if self.rows else OffsetRow(station=0, label="keel", half_breadth=0, height=0)
        label = "wl" if base.label in ("keel", "sheer", "chine") and self.rows else base.label
        new = base.model_copy(update={"label": label})
        self._changed("add a point", (*self.rows[: after + 1], new, *self.rows[after + 1 :]))

    def delete_rows(self, numbers: set[int]) -> None:
        """Take rows out."""
        self._changed("delete points", tuple(r for k, r in enumerate(self.rows) if k not in numbers))


class OffsetsTableView(TableBase):
    """Keyboard-only entry down a column: Enter goes to the cell below. `row_chosen` tells the current row."""

    row_chosen = Signal(int)
    fault = Signal(str)

    def __init__(self, model: OffsetsModel, parent: QWidget | None = None) -> None:
        super().__init__("Table of offsets", parent)
        self.setModel(model)
        self.offsets = model
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.setEditTriggers(
            self.EditTrigger.AnyKeyPressed | self.EditTrigger.DoubleClicked | self.EditTrigger.EditKeyPressed
        )
        self.selectionModel().currentChanged.connect(lambda now, _: self.row_chosen.emit(now.row()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.key() == Qt.Key.Key_Insert:
            self.add_row()
        elif event.key() == Qt.Key.Key_Delete:
            self.delete_rows()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.state() != self.State.EditingState:
            index = self.currentIndex()
            self.setCurrentIndex(index.siblingAtRow(min(index.row() + 1, self.offsets.rowCount() - 1)))
        else:
            super().keyPressEvent(event)

    def commitData(self, editor: QWidget) -> None:
        self.fault.emit("")
        super().commitData(editor)
        place = (self.currentIndex().row(), self.currentIndex().column())
        if place in self.offsets.faults:
            self.fault.emit(self.offsets.faults[place][1])

    def closeEditor(self, editor: QWidget, hint: QAbstractItemDelegate.EndEditHint) -> None:
        super().closeEditor(editor, hint)
        index = self.currentIndex()
        place = (index.row(), index.column())
        if hint == QAbstractItemDelegate.EndEditHint.SubmitModelCache and place not in self.offsets.faults:
            self.setCurrentIndex(index.siblingAtRow(min(index.row() + 1, self.offsets.rowCount() - 1)))

    def paste(self) -> None:
        """Paste cells from a spreadsheet at the current cell."""
        index = self.currentIndex()
        at = (max(index.row(), 0), max(index.column(), 0))
        if problem := self.offsets.paste(*at, QGuiApplication.clipboard().text()):
            self.fault.emit(problem)

    def add_row(self) -> None:
        """A new point below the current one."""
        at = self.currentIndex().row() if self.currentIndex().isValid() else len(self.offsets.rows) - 1
        column = max(self.currentIndex().column(), 0)
        self.offsets.add_row(at)
        self.setCurrentIndex(self.offsets.index(min(at + 1, len(self.offsets.rows) - 1), column))

    def delete_rows(self) -> None:
        """Take out the rows of the selected cells."""
        numbers = {i.row() for i in self.selectionModel().selectedIndexes()}
        if numbers:
            self.offsets.delete_rows(numbers)
