"""Tables of results: sort, copy to a spreadsheet, pick a row by what it stands for."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, QSortFilterProxyModel, Qt, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence, QPixmap
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QWidget

from ..window.theme import figures

Index = QModelIndex | QPersistentModelIndex
SORT_ROLE = Qt.ItemDataRole.UserRole
UNITS_ROLE = Qt.ItemDataRole.UserRole
"""Of headings: with the unit, as they are copied."""
DISPLAY, EDIT, ALIGNMENT, PICTURE = (
    Qt.ItemDataRole.DisplayRole,
    Qt.ItemDataRole.EditRole,
    Qt.ItemDataRole.TextAlignmentRole,
    Qt.ItemDataRole.DecorationRole,
)
"""Looked up once: a table asks some ten roles of every cell at every paint."""
LEFT = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
ROOT = QModelIndex()


@dataclass(frozen=True)
class Column:
    """A heading, how a row is written in it, what it sorts by (the same if None), and a small picture before the text."""

    title: str
    text: Callable[[Any], str]
    order: Callable[[Any], float] | None = None
    picture: Callable[[Any], QPixmap | None] | None = None


class RowsModel(QAbstractTableModel):
    """Rows of any kind, written by columns. Read only."""

    def __init__(self, columns: Sequence[Column], key: Callable[[Any], str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.columns = list(columns)
        self.key = key
        self.rows: list[Any] = []
        self._written: dict[tuple[int, int], str] = {}
        """Cells as they were written since the rows were replaced: a cell is asked for at every paint."""

    def show_rows(self, rows: Sequence[Any], columns: Sequence[Column] | None = None) -> None:
        """Replace all rows (and the columns, if given)."""
        self.beginResetModel()
        self.rows = list(rows)
        if columns is not None:
            self.columns = list(columns)
        self._written.clear()
        self.endResetModel()

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.columns)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == DISPLAY:
            place = index.row(), index.column()
            text = self._written.get(place)
            if text is None:
                text = self._written[place] = self.columns[place[1]].text(self.rows[place[0]])
            return text
        if role == ALIGNMENT:
            return RIGHT if self.columns[index.column()].order else LEFT
        if role == PICTURE:
            pictured = self.columns[index.column()].picture
            return pictured(self.rows[index.row()]) if pictured else None
        if role == SORT_ROLE:
            column, row = self.columns[index.column()], self.rows[index.row()]
            return column.order(row) if column.order else column.text(row)
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return self.columns[section].title
        return None


class TableBase(QTableView):
    """A quiet table with tabular figures; Ctrl+C copies the selected cells with tabs between."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFont(figures(12))
        self.setAlternatingRowColors(True)
        self.verticalHeader().setVisible(False)
        self.verticalHeader().setDefaultSectionSize(24)
        self.horizontalHeader().setHighlightSections(False)
        self.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignCenter | Qt.AlignmentFlag(Qt.TextFlag.TextWordWrap.value))
        self.horizontalHeader().setFixedHeight(36)
        self.setWordWrap(False)
        self.setTabKeyNavigation(False)

    def fix_widths(self, widths: Mapping[int, int]) -> None:
        """Columns of their own width, in pixels; the others share what is left."""
        header = self.horizontalHeader()
        for column, width in widths.items():
            if header.sectionResizeMode(column) is not QHeaderView.ResizeMode.Fixed:
                header.setSectionResizeMode(column, QHeaderView.ResizeMode.Fixed)
                header.resizeSection(column, width)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        else:
            super().keyPressEvent(event)

    def copy(self) -> None:
        """Selected cells to the clipboard, as a spreadsheet pastes them."""
        chosen = sorted(self.selectionModel().selectedIndexes(), key=lambda i: (i.row(), i.column()))
        lines: dict[int, list[str]] = {}
        for index in chosen:
            lines.setdefault(index.row(), []).append(str(index.data()).replace("\u202f", ""))
        rows = list(lines.values())
        if len(rows) > 1:
            rows = self.with_headings(rows, list(lines), sorted({index.column() for index in chosen}))
        QGuiApplication.clipboard().setText("\n".join("\t".join(cells) for cells in rows))

    def with_headings(self, cells: list[list[str]], rows: list[int], columns: list[int]) -> list[list[str]]:
        """Cells of some rows and columns with what stands over and beside them."""
        model = self.model()

        def heading(section: int, way: Qt.Orientation) -> str:
            text = model.headerData(section, way, UNITS_ROLE) or model.headerData(section, way)
            return str(text or "").replace("\u202f", "").replace("\n", " ")

        over = [heading(k, Qt.Orientation.Horizontal) for k in columns]
        if not self.verticalHeader().isVisible():
            return [over, *cells]
        beside = [[heading(row, Qt.Orientation.Vertical), *own] for row, own in zip(rows, cells, strict=True)]
        return [[self.corner(), *over], *beside]

    def corner(self) -> str:
        """What heads the names of rows."""
        return ""


class DataTable(TableBase):
    """A sortable read-only table. `picked` carries the key of the row the builder moved to."""

    picked = Signal(str)

    def __init__(self, name: str, columns: Sequence[Column], key: Callable[[Any], str], parent: QWidget | None = None) -> None:
        super().__init__(name, parent)
        self.model_of_rows = RowsModel(columns, key, self)
        proxy = QSortFilterProxyModel(self)
        proxy.setSourceModel(self.model_of_rows)
        proxy.setSortRole(SORT_ROLE)
        self._proxy = proxy
        self.setModel(proxy)
        self.setSortingEnabled(True)
        self.sortByColumn(-1, Qt.SortOrder.AscendingOrder)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self._quiet = False
        self.selectionModel().currentRowChanged.connect(self._moved)

    def show_rows(self, rows: Sequence[Any], columns: Sequence[Column] | None = None) -> None:
        """Replace the rows, keeping the selected one by its key."""
        kept = self.current_key()
        self._quiet = True
        self.model_of_rows.show_rows(rows, columns)
        self._quiet = False
        self.select(kept)

    def current_key(self) -> str:
        """The key of the selected row, or an empty text."""
        index = self._proxy.mapToSource(self.currentIndex())
        if not index.isValid():
            return ""
        return self.model_of_rows.key(self.model_of_rows.rows[index.row()])

    def select(self, key: str) -> None:
        """Select the row with this key without telling anyone."""
        for k, row in enumerate(self.model_of_rows.rows):
            if self.model_of_rows.key(row) == key:
                self._quiet = True
                index = self._proxy.mapFromSource(self.model_of_rows.index(k, 0))
                self.setCurrentIndex(index)
                self.scrollTo(index)
                self._quiet = False
                return

    def _moved(self, *_: object) -> None:
        if not self._quiet and (key := self.current_key()):
            self.picked.emit(key)

    def as_csv_rows(self) -> list[list[str]]:
        """Headings and all cells as shown."""
        model = self.model_of_rows
        return [[c.title for c in model.columns], *[[c.text(r).replace("\u202f", "") for c in model.columns] for r in model.rows]]
